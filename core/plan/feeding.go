package plan

import (
	"cmp"
	"fmt"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/stored"
	"draxel/core/work"
)

// Feeding is the part of the plan that says what is live and what protects it; without a result where nobody has said
// what stands in the vehicle.
type Feeding struct {
	Facts    *feed.Facts
	Result   *feed.Result
	Circuits []Circuit // what a feed has to be led to
	Parts    []feed.PartLine
	Steps    []work.Step
}

// drops finds the cavities that a resistance stands before: a danger to whoever takes a feed there.
func (p *Plan) drops(f *fact.Facts) {
	feeds := map[harness.Ref]string{}
	for i := range p.Match.Lines {
		if l := &p.Match.Lines[i]; l.Decided && (l.Feeds() || l.Verdict == match.Meets) {
			if to, known := f.To.Row(l.To); known && wantsFeed(&to) {
				feeds[l.From] = l.To.String()
			}
		}
	}
	for i := range p.Match.Wants {
		if w := &p.Match.Wants[i]; w.Origin != nil && w.Origin.Kind == match.AtCavity {
			feeds[w.Origin.At] = w.To.String()
		}
	}
	for _, at := range p.blockUses(f) {
		feeds[at] = "the fuse block"
	}
	for _, d := range f.Drops {
		if !d.Fraught {
			continue
		}
		x := finding.Finding{Code: "fed-through-resistance", Severity: finding.Note, Stage: "feed", Subject: d.At.String(),
			Text: fmt.Sprintf("%s has %.1f V in %s with nothing on it and %.1f V with a lamp of %.0f W: %.2g Ω stand before it, a "+
				"resistance wire or a bad contact.", d.At, d.Bare, d.Key, d.Loaded, d.Watts, d.Ohms),
			Remedy: "Take no feed from it: take it from behind the switch, and cap this wire off."}
		if to := feeds[d.At]; to != "" {
			x.Severity = finding.Wrong
			x.Text += fmt.Sprintf(" It is to feed %s.", to)
		}
		p.Findings = append(p.Findings, x)
	}
}

// flowing tells Reach the A that each wire carries at most for long, by the network of the harness as the joints
// make it, in the lengths and sizes that are there, and the fuse before each new wire; nothing where nobody has said
// what stands in the vehicle. Reach sizes wires by it.
func (p *Plan) flowing(m *model, d stored.Decisions, in *reach.Input) {
	facts := m.facts.Feed.Decided(d.Feed)
	if facts == nil || !facts.Said() {
		return
	}
	wires := map[harness.WireID]network.Length{}
	for i := range in.Wires {
		w := &in.Wires[i]
		wires[w.ID] = network.Length{Square: w.Size, Mm: w.Length, Signal: w.Signal, Text: w.Function}
	}
	drawn, err := m.facts.Drawn(m.joined, facts, wires)
	if err != nil {
		return // said where Feed itself is reckoned
	}
	worst, err := feed.Worst(drawn, facts)
	if err != nil {
		return
	}
	in.Amps = map[harness.WireID]float64{}
	for name, i := range drawn.Wires {
		whole := name.Whole()
		in.Amps[whole] = max(in.Amps[whole], worst[i])
	}
	fresh := map[harness.WireID]bool{}
	for i := range in.Wires {
		if in.Wires[i].New {
			fresh[in.Wires[i].ID] = true
		}
	}
	in.Fuses = feed.Wishes(drawn, facts, worst, fresh)
}

// feeds says what is live in the wanted harness.
func (p *Plan) feeds(f *fact.Facts, d stored.Decisions) {
	facts := withParts(f.Feed.Decided(d.Feed), d.Added)
	if facts == nil || !facts.Said() {
		return
	}
	lengths := map[harness.WireID]network.Length{}
	known := map[harness.WireID]feed.Wire{}
	wires := p.Reach.Result.Wires()
	for i := range p.Reach.Result.Lines {
		l, w := &p.Reach.Result.Lines[i], &wires[i]
		square, mm := w.Size, cmp.Or(l.Had, l.Need, w.Length)
		if w.New || l.Verdict == reach.Replace { // only new wire has the size that it should have
			square, mm = cmp.Or(l.Size, w.Size), cmp.Or(l.Need, mm)
		}
		lengths[l.Wire] = network.Length{Square: square, Mm: mm, Signal: w.Signal, Text: w.Function}
		known[l.Wire] = carries(&d, square, mm, l.Air, p.Reach.Result.Bundled(l.Wire))
	}
	fail := func(err error) {
		p.Findings = append(p.Findings, finding.Finding{Code: "feed-cannot-be", Severity: finding.Wrong, Stage: "feed",
			Subject: "network", Text: fmt.Sprintf("What is live cannot be reckoned: %v.", err),
			Remedy: "Put it right in the lists of Feed."})
	}
	drawn, err := f.Drawn(p.Wanted, facts, lengths)
	if err != nil {
		fail(err)
		return
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := known[w.ID]; !there {
			known[w.ID] = carries(&d, w.Size, w.Length, 0, 1)
		}
	}
	for _, name := range p.Wanted.Wires() {
		if _, there := known[name]; !there {
			known[name] = known[name.Whole()]
		}
	}
	for _, c := range facts.Inside.Cables {
		if c.Square > 0 {
			known[harness.Listed(c.Name)] = carries(&d, size.Section(c.Square), c.Length, 0, 1)
		}
	}
	contacts := map[string]float64{}
	for i := range f.Laid.Loom.Connectors {
		c := &f.Laid.Loom.Connectors[i]
		if c.Layout == nil {
			continue
		}
		for _, cavity := range c.Cavities {
			if amps := c.Seat(cavity).Carries(); amps > 0 {
				contacts[harness.Ref{Connector: c.ID, Cavity: cavity}.String()] = amps
			}
		}
	}
	result, err := feed.Compute(feed.Input{Drawn: drawn, Facts: facts, Wires: known, Contacts: contacts})
	if err != nil {
		fail(err)
		return
	}
	p.Feed.Facts, p.Feed.Result = facts, result
	p.Feed.Parts = result.Parts(d.Feed, p.squareIn(d.Feed.Block))
	p.Feed.Steps = p.feedSteps(d)
	thin := map[string]bool{} // of these Reach says it already, and what to do
	for _, x := range p.Reach.Result.Findings {
		thin[x.Subject] = thin[x.Subject] || x.Code == "too-thin"
	}
	for _, x := range result.Findings {
		if x.Code != "wire-overloaded" || !thin[x.Subject] {
			p.Findings = append(p.Findings, x)
		}
	}
}

// carries says what a wire may carry where it lies, in the class and the air that Reach goes by, with as many current
// carrying wires in its bundle.
func carries(d *stored.Decisions, square size.Section, mm, air float64, bundled int) feed.Wire {
	class := d.Reach.Rules.Class
	if class == "" {
		class = size.ClassB
	}
	hot := min(cmp.Or(air, 60), class.Limit()-1)
	return feed.Wire{Square: square, Mm: mm, Carries: square.Ampacity(class, hot, bundled)}
}
