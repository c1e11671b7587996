// Package live has the wanted harness as a network: what is live in it and what protects it, whether what must work
// works, which ends hang in the air, and what a meter is put on.
package live

import (
	"cmp"
	"fmt"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/vehicle"
	"draxel/core/work"
)

// Feeding says what is live in the wanted harness and what protects it; without a result where nobody has said what
// stands in the vehicle.
type Feeding struct {
	Facts    *vehicle.Facts
	Result   *feed.Result
	Parts    []feed.PartLine
	Steps    []work.Step
	Findings []finding.Finding
}

// FeedReads is what Feeding follows from.
type FeedReads struct {
	Facts  *fact.Facts
	Stand  *vehicle.Facts // what stands in the vehicle beside its wires, nil where nobody has said
	Wanted harness.Harness
	Reach  *reach.Result
	Feed   feed.Record
	Added  []join.Added
	Class  size.Class
}

// Feed says what is live in the wanted harness.
func Feed(in FeedReads) *Feeding {
	f, out := in.Facts, &Feeding{}
	facts := withParts(feed.Decided(in.Stand, in.Feed), in.Added)
	if facts == nil || !facts.Said() {
		return out
	}
	lengths := map[harness.WireID]network.Metal{}
	known := map[harness.WireID]feed.Copper{}
	wires := in.Reach.Wires()
	for i := range in.Reach.Lines {
		l, w := &in.Reach.Lines[i], &wires[i]
		square, mm := w.Size, cmp.Or(l.Had, l.Need, w.Length)
		if w.New || l.Verdict == reach.Replace { // only new wire has the size that it should have
			square, mm = cmp.Or(l.Size, w.Size), cmp.Or(l.Need, mm)
		}
		lengths[l.Wire] = network.Metal{Square: square, Mm: mm, Signal: w.Signal, Text: w.Function}
		known[l.Wire] = carries(in.Class, square, mm, l.Air, in.Reach.Bundled(l.Wire))
	}
	fail := func(err error) {
		out.Findings = append(out.Findings, finding.Finding{Code: "feed-cannot-be", Place: finding.Place{Part: "sources"},
			Severity: finding.Wrong, Stage: "feed",
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
func carries(class size.Class, square size.Section, mm, air float64, bundled int) feed.Copper {
	if class == "" {
		class = size.ClassB
	}
	hot := min(cmp.Or(air, 60), class.Limit()-1)
	return feed.Copper{Square: square, Mm: mm, Carries: square.Ampacity(class, hot, bundled)}
}

// squareIn gives the size of the wire that ends in a cavity of the block.
func squareIn(block *feed.Block, lengths *reach.Result) func(cavity string) size.Section {
	return func(cavity string) size.Section {
		if block == nil || lengths == nil {
			return 0
		}
		want := harness.Ref{Connector: block.ID, Cavity: cavity}
		wires := lengths.Wires()
		for i := range wires {
			for _, e := range wires[i].Ends {
				if e.At == want {
					return max(wires[i].Size, lengths.Lines[i].Size)
				}
			}
		}
		return 0
	}
}
