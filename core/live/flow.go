package live

import (
	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/vehicle"
)

// FlowReads is what Flow follows from.
type FlowReads struct {
	Facts  *fact.Facts
	Stand  *vehicle.Facts  // what stands in the vehicle beside its wires, nil where nobody has said
	Joined harness.Harness // as the joints make it
	Wires  []reach.Run
	Feed   feed.Record
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
	facts := feed.Decided(r.Stand, r.Feed)
	if facts == nil || !facts.Said() {
		return out
	}
	wires := map[harness.WireID]network.Metal{}
	for i := range r.Wires {
		w := &r.Wires[i]
		wires[w.ID] = network.Metal{Square: w.Size, Mm: w.Length, Signal: w.Signal, Text: w.Function}
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
