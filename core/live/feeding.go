package live

import (
	"cmp"
	"fmt"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Feeding says what is live in the wanted harness and what protects it; without a result where nobody has said what
// stands in the vehicle.
type Feeding struct {
	Facts    *feed.Facts
	Result   *feed.Result
	Parts    []feed.PartLine
	Steps    []work.Step
	Findings []finding.Finding
}

// FeedReads is what Feeding follows from.
type FeedReads struct {
	Facts  *fact.Facts
	Wanted harness.Harness
	Reach  *reach.Result
	Feed   feed.Decisions
	Added  []join.Added
	Class  size.Class
}

// Drops finds the cavities that a resistance stands before: a danger to whoever takes a feed there.
func Drops(f *fact.Facts, r *match.Result, block wanted.Block) []finding.Finding {
	var out []finding.Finding
	feeds := map[harness.Ref]string{}
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && (l.Feeds() || l.Verdict == match.Meets) {
			if to, known := f.To.Row(l.To); known && wantsFeed(&to) {
				feeds[l.From] = l.To.String()
			}
		}
	}
	for i := range r.Wants {
		if w := &r.Wants[i]; w.Origin != nil && w.Origin.Kind == match.AtCavity {
			feeds[w.Origin.At] = w.To.String()
		}
	}
	for _, at := range block.Uses(f) {
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
		out = append(out, x)
	}
	return out
}

// FlowReads is what Flow follows from.
type FlowReads struct {
	Facts  *fact.Facts
	Joined harness.Harness // as the joints make it
	Wires  []reach.Wire
	Feed   feed.Decisions
}

// Flow is what Reach sizes wires by: the A that each carries at most for long, by the network of the harness as the
// joints make it, in the lengths and sizes that are there, and the fuse before each new wire; nothing where nobody has
// said what stands in the vehicle.
type Flow struct {
	Amps, Fuses map[harness.WireID]float64
}

// Flowing gives it.
func Flowing(r FlowReads) *Flow {
	out := &Flow{}
	facts := r.Facts.Feed.Decided(r.Feed)
	if facts == nil || !facts.Said() {
		return out
	}
	wires := map[harness.WireID]network.Length{}
	for i := range r.Wires {
		w := &r.Wires[i]
		wires[w.ID] = network.Length{Square: w.Size, Mm: w.Length, Signal: w.Signal, Text: w.Function}
	}
	drawn, err := r.Facts.Drawn(r.Joined, facts, wires)
	if err != nil {
		return out // said where Feed itself is reckoned
	}
	worst, err := feed.Worst(drawn, facts)
	if err != nil {
		return out
	}
	out.Amps = map[harness.WireID]float64{}
	for name, i := range drawn.Wires {
		whole := name.Whole()
		out.Amps[whole] = max(out.Amps[whole], worst[i])
	}
	fresh := map[harness.WireID]bool{}
	for i := range r.Wires {
		if r.Wires[i].New {
			fresh[r.Wires[i].ID] = true
		}
	}
	out.Fuses = feed.Wishes(drawn, facts, worst, fresh)
	return out
}

// Feed says what is live in the wanted harness.
func Feed(in FeedReads) *Feeding {
	f, out := in.Facts, &Feeding{}
	facts := withParts(f.Feed.Decided(in.Feed), in.Added)
	if facts == nil || !facts.Said() {
		return out
	}
	lengths := map[harness.WireID]network.Length{}
	known := map[harness.WireID]feed.Wire{}
	wires := in.Reach.Wires()
	for i := range in.Reach.Lines {
		l, w := &in.Reach.Lines[i], &wires[i]
		square, mm := w.Size, cmp.Or(l.Had, l.Need, w.Length)
		if w.New || l.Verdict == reach.Replace { // only new wire has the size that it should have
			square, mm = cmp.Or(l.Size, w.Size), cmp.Or(l.Need, mm)
		}
		lengths[l.Wire] = network.Length{Square: square, Mm: mm, Signal: w.Signal, Text: w.Function}
		known[l.Wire] = carries(in.Class, square, mm, l.Air, in.Reach.Bundled(l.Wire))
	}
	fail := func(err error) {
		out.Findings = append(out.Findings, finding.Finding{Code: "feed-cannot-be", Severity: finding.Wrong, Stage: "feed",
			Subject: "network", Text: fmt.Sprintf("What is live cannot be reckoned: %v.", err),
			Remedy: "Put it right in the lists of Feed."})
	}
	drawn, err := f.Drawn(in.Wanted, facts, lengths)
	if err != nil {
		fail(err)
		return out
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := known[w.ID]; !there {
			known[w.ID] = carries(in.Class, w.Size, w.Length, 0, 1)
		}
	}
	for _, name := range in.Wanted.Wires() {
		if _, there := known[name]; !there {
			known[name] = known[name.Whole()]
		}
	}
	for _, c := range facts.Inside.Cables {
		if c.Square > 0 {
			known[harness.Listed(c.Name)] = carries(in.Class, size.Section(c.Square), c.Length, 0, 1)
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
		return out
	}
	out.Facts, out.Result = facts, result
	out.Parts = result.Parts(in.Feed, squareIn(in.Feed.Block, in.Reach))
	out.Steps = feedSteps(in.Feed.Block, in.Reach, result)
	thin := map[string]bool{} // of these Reach says it already, and what to do
	for _, x := range in.Reach.Findings {
		thin[x.Subject] = thin[x.Subject] || x.Code == "too-thin"
	}
	for _, x := range result.Findings {
		if x.Code != "wire-overloaded" || !thin[x.Subject] {
			out.Findings = append(out.Findings, x)
		}
	}
	return out
}

// carries says what a wire may carry where it lies, in the class and the air that Reach goes by, with as many current
// carrying wires in its bundle.
func carries(class size.Class, square size.Section, mm, air float64, bundled int) feed.Wire {
	if class == "" {
		class = size.ClassB
	}
	hot := min(cmp.Or(air, 60), class.Limit()-1)
	return feed.Wire{Square: square, Mm: mm, Carries: square.Ampacity(class, hot, bundled)}
}
