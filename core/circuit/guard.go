package circuit

import (
	"draxel/core/harness"
	"draxel/core/signal"
)

// Guard says what of a loom is left to qualified hands: restraint and high voltage, and what brings it current.
type Guard struct {
	Wires   []bool // by wire
	Nodes   []bool // by node: a guarded wire ends there, so that the place itself is not opened
	Plugs   []bool // by connector: it carries a guarded wire, and stays where it is
	Devices []bool // by device: it is part of restraint or high voltage itself
}

// Guard finds what is left to qualified hands.
//
// Guarded are the wires of restraint and whatever goes on from them through an in-line pair or a splice of two legs.
// They end at the splice, the row of a junction or the terminal that they share with others.
// From there the wires that lie on a way to a fuse box, to a ground or to an end that nobody has followed are guarded
// too, since they feed it; the other legs are not. Where a circuit of restraint is fed from nowhere that is known, so
// that it may carry its signal, all of it is guarded; so is every circuit with high voltage in it. Of a line that a
// restraint unit only shares with others, as a data bus, its own leg is guarded.
func (g *Graph) Guard() Guard {
	out := Guard{
		Wires:   make([]bool, len(g.Ends)),
		Nodes:   make([]bool, len(g.Nodes)),
		Plugs:   make([]bool, len(g.loom.Connectors)),
		Devices: make([]bool, len(g.loom.Devices)),
	}
	for d := range g.loom.Devices {
		out.Devices[d] = restrains(g.loom.Devices[d].System)
	}
	part := parts{circuits: map[int32]bool{}, whole: make([]bool, g.Circuits), signal: make([]bool, g.Circuits)}
	var queue []int32
	for w := range g.Ends {
		s := &g.loom.Wires[w].Signal
		high := s.Role == signal.HighVoltage || s.System == "high-voltage"
		own := s.Role == signal.Restraint || s.System == "restraint"
		at := g.Nodes[g.Ends[w][0]].Circuit
		part.signal[at] = part.signal[at] || own
		for _, n := range g.Ends[w] {
			if d := g.DeviceOf(n); d != nil && restrains(d.System) {
				own, high = true, high || d.System == "high-voltage"
			}
		}
		if own || high {
			part.circuits[at], part.whole[at] = true, part.whole[at] || high
			queue = append(queue, int32(w))
		}
	}
	if len(part.circuits) == 0 {
		return out
	}
	g.onward(out.Wires, queue)
	g.towardsSource(out.Wires, part)
	for w, guarded := range out.Wires {
		if !guarded {
			continue
		}
		for end, at := range g.Ends[w] {
			out.Nodes[at] = true
			if h := g.Halves[2*w+end]; h >= 0 {
				out.Plugs[h] = true
			}
		}
	}
	return out
}

// parts says of circuits what of restraint and high voltage is in them.
type parts struct {
	circuits map[int32]bool // something is
	whole    []bool         // by circuit: high voltage is
	signal   []bool         // by circuit: a wire is restraint's by what it is for, not only by what it is plugged into
}

func restrains(system string) bool { return system == "restraint" || system == "high-voltage" }

// onward marks wires and what goes on from them where nothing else could be meant.
func (g *Graph) onward(marked []bool, queue []int32) {
	for len(queue) > 0 {
		w := queue[0]
		queue = queue[1:]
		if marked[w] {
			continue
		}
		marked[w] = true
		for _, at := range g.Ends[w] {
			k, tips := g.Nodes[at].Kind, g.Tips(at)
			if k == Contact || (k == Splice || k == Link) && len(tips) == 2 {
				for _, x := range tips {
					queue = append(queue, x.Wire())
				}
			}
		}
	}
}

// towardsSource marks, in circuits with restraint in them, what lies between it and the sources. What is left of a
// circuit once every leg that ends neither at the one nor at the other has been taken off it lies between them.
func (g *Graph) towardsSource(marked []bool, part parts) {
	legs := make([]int, len(g.Nodes)) // by node: ends of wires that have not been taken off
	anchor := make([]bool, len(g.Nodes))
	fed := make([]bool, g.Circuits)
	for i := range g.Nodes {
		n := &g.Nodes[i]
		if !part.circuits[n.Circuit] {
			continue
		}
		tips := g.Tips(int32(i))
		legs[i] = len(tips)
		d := g.DeviceOf(int32(i))
		source := n.Kind != Contact && d != nil && (d.Kind == harness.Fuses || d.Kind == harness.Grounds)
		fed[n.Circuit] = fed[n.Circuit] || source
		anchor[i] = source || n.Kind == Unseen
		for _, x := range tips {
			anchor[i] = anchor[i] || marked[x.Wire()]
		}
	}
	off := make([]bool, len(g.Ends))
	var loose []int32
	for i := range g.Nodes {
		if legs[i] == 1 && !anchor[i] {
			loose = append(loose, int32(i))
		}
	}
	for len(loose) > 0 {
		at := loose[0]
		loose = loose[1:]
		for _, x := range g.Tips(at) {
			if w := x.Wire(); !off[w] {
				off[w] = true
				far := g.Far(x)
				legs[at]--
				if legs[far]--; legs[far] == 1 && !anchor[far] {
					loose = append(loose, far)
				}
			}
		}
	}
	for w := range g.Ends {
		c := g.Nodes[g.Ends[w][0]].Circuit
		if part.circuits[c] && (part.whole[c] || !fed[c] && part.signal[c] || fed[c] && !off[w]) {
			marked[w] = true
		}
	}
}
