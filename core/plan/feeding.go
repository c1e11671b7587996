package plan

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/signal"
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

// UsualFeeds proposes what a vehicle usually has, for each of Feed's lists in which the job has no line yet.
func UsualFeeds(j stored.Job, f *Facts) []feed.Proposed {
	lines := map[string]int{}
	for list, rows := range j.FeedLists() {
		lines[list] = len(rows)
	}
	return feed.Usual(f.seenEnds(), lines)
}

// seenEnds gives the ends of wires at devices, as Feed looks at them.
func (f *Facts) seenEnds() []feed.Seen {
	at := map[string]*harness.Half{}
	for i := range f.Laid.Loom.Connectors {
		at[f.Laid.Loom.Connectors[i].ID] = &f.Laid.Loom.Connectors[i]
	}
	kinds := map[string]harness.DeviceKind{}
	for i := range f.Laid.Loom.Devices {
		kinds[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind
	}
	var ends []feed.Seen
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if h := at[e.At.Connector]; h != nil {
				ends = append(ends, feed.Seen{At: e.At, Device: h.Device, Kind: kinds[h.Device], Signal: w.Signal,
					Text: w.Function, Square: w.Size})
			}
		}
	}
	return ends
}

// keyContacts makes contacts of the key of what was measured at an ignition switch: from the cavity that is live with
// the key off to each that is live in other positions. A reading outranks what a list says of the same cavity.
func (f *Facts) keyContacts(all []gather.Measurement, lines []feed.Line) []feed.Line {
	table := gather.KeyTable(slices.Clone(all))
	source := map[string]string{}
	keys := feed.KeySwitches(f.seenEnds(), lines)
	atSwitch := func(connector string) bool {
		return slices.ContainsFunc(f.Laid.Loom.Connectors,
			func(h harness.Half) bool { return h.ID == connector && keys[h.Device] })
	}
	for _, l := range table {
		if atSwitch(l.At.Connector) && l.Volts[gather.KeyOff] >= 9 {
			source[l.At.Connector] = l.At.String()
		}
	}
	for _, l := range table {
		from := source[l.At.Connector]
		if from == "" || from == l.At.String() {
			continue
		}
		var closed []string
		for _, k := range gather.Keys() {
			if l.Volts[k] >= 9 {
				closed = append(closed, string(k))
			}
		}
		if len(closed) == 0 {
			continue
		}
		measured := map[string]string{"switch": "key " + l.At.String(), "from": from, "to": l.At.String(),
			"closed": strings.Join(closed, ", ")}
		at := slices.IndexFunc(lines, func(x feed.Line) bool { return x.Cells["to"] == l.At.String() })
		if at >= 0 {
			measured["switch"], measured["from"] = lines[at].Cells["switch"], cmp.Or(lines[at].Cells["from"], from)
			lines = slices.Clone(lines)
			lines[at].Cells = measured
			continue
		}
		lines = append(lines, feed.Line{Cells: measured})
	}
	return lines
}

// drawn draws the network of a harness with what stands in the vehicle.
func (f *Facts) drawn(h harness.Harness, facts *feed.Facts, wires map[harness.WireID]network.Length) (*network.Drawn, error) {
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := wires[w.ID]; !there {
			wires[w.ID] = network.Length{Square: w.Size, Mm: w.Length, Signal: w.Signal, Text: w.Function}
		}
	}
	maps.Copy(wires, f.Parts)
	for wire, ohms := range f.resistances() {
		l := wires[wire]
		l.Ohms = ohms
		wires[wire] = l
	}
	for _, name := range h.Wires() { // stubs and pieces are what they are part of
		if _, there := wires[name]; !there {
			wires[name] = wires[name.Whole()]
			if l := wires[name]; l.Ohms > 0 {
				l.Ohms = 0 // it lies in the wire once
				wires[name] = l
			}
		}
	}
	return network.Draw(network.Input{Harness: h, Connectors: f.Laid.Loom.Connectors, Devices: f.Laid.Loom.Devices,
		Wires: wires, Inside: facts.Inside, OwnGround: f.ownGrounds()})
}

// ownGrounds gives the devices that were found with a ground wire of their own.
func (f *Facts) ownGrounds() map[string]bool {
	device := f.devices()
	out := map[string]bool{}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if d := device[e.At.Connector]; d != "" && w.Signal.Role == signal.Ground {
				out[d] = true
			}
		}
	}
	return out
}

// resistances gives the Ω that were measured before cavities, by the wire that ends there.
func (f *Facts) resistances() map[harness.WireID]float64 {
	out := map[harness.WireID]float64{}
	for _, d := range f.Drops {
		if !d.Fraught {
			continue
		}
		for i := range f.Laid.Loom.Wires {
			w := &f.Laid.Loom.Wires[i]
			if w.Ends[0].At == d.At || w.Ends[1].At == d.At {
				out[w.ID] = max(out[w.ID], d.Ohms)
				break
			}
		}
	}
	return out
}

// drops finds the cavities that a resistance stands before: a danger to whoever takes a feed there.
func (p *Plan) drops(f *Facts) {
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
	drawn, err := m.facts.drawn(m.joined, facts, wires)
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
func (p *Plan) feeds(f *Facts, d stored.Decisions) {
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
	drawn, err := f.drawn(p.Wanted, facts, lengths)
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
			known[harness.WireID(c.Name)] = carries(&d, size.Section(c.Square), c.Length, 0, 1)
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
