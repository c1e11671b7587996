// Package circuit says what is joined to what: through splices and joints, through terminals that hold several wires,
// across in-line pairs and through the links inside a junction connector. A circuit number on a table is a label as
// found; a circuit is what this package walks.
package circuit

import (
	"slices"

	"draxel/core/harness"
)

// Net is the copper of a harness as it is walked. It follows a harness that changes: Follow looks again at the wires
// that an edit named, so that a walk after each step of long work costs no more than the circuit that is walked.
type Net struct {
	halves map[string]*harness.Half
	tips   map[harness.WireID][2]harness.Tip
	joints map[harness.JointID][]harness.TipID
	crimps map[harness.TerminalID][]harness.TipID
}

// Of gives the net of a harness. The connectors say which are halves of in-line pairs, and what is linked inside.
func Of(h harness.Harness, connectors []harness.Half) *Net {
	n := &Net{
		halves: make(map[string]*harness.Half, len(connectors)),
		tips:   map[harness.WireID][2]harness.Tip{},
		joints: map[harness.JointID][]harness.TipID{},
		crimps: map[harness.TerminalID][]harness.TipID{},
	}
	for i := range connectors {
		c := &connectors[i]
		n.halves[c.ID] = c
	}
	for _, w := range h.Wires() {
		n.look(h, w)
	}
	return n
}

func (n *Net) look(h harness.Harness, wire harness.WireID) {
	if was, known := n.tips[wire]; known {
		for end, t := range was {
			n.put(t, harness.TipID{Wire: wire, End: end}, false)
		}
		delete(n.tips, wire)
	}
	if is, there := h.Tips(wire); there {
		n.tips[wire] = is
		for end, t := range is {
			n.put(t, harness.TipID{Wire: wire, End: end}, true)
		}
	}
}

func (n *Net) put(t harness.Tip, l harness.TipID, there bool) {
	switch t.State {
	case harness.Joined:
		n.joints[t.Joint] = with(n.joints[t.Joint], l, there)
	case harness.Crimped:
		n.crimps[t.Terminal] = with(n.crimps[t.Terminal], l, there)
	}
}

func with(all []harness.TipID, l harness.TipID, there bool) []harness.TipID {
	if there {
		return append(all, l)
	}
	return slices.DeleteFunc(slices.Clone(all), func(x harness.TipID) bool { return x == l })
}

// Follow looks again at the wires that edits have changed. H is the harness after them.
func (n *Net) Follow(h harness.Harness, edits []harness.Edit) {
	seen := map[harness.WireID]bool{}
	for i := range edits {
		e := &edits[i]
		names := []harness.WireID{e.Wire}
		if e.Wire != "" {
			names = append(names, e.Wire.Stub(e.End))
		}
		for _, l := range e.Lengths {
			names = append(names, l.Wire)
		}
		for _, l := range n.joints[e.Joint] {
			names = append(names, l.Wire)
		}
		for _, l := range n.crimps[e.Terminal] {
			names = append(names, l.Wire)
		}
		for _, w := range names {
			if w != "" && !seen[w] {
				seen[w] = true
				n.look(h, w)
			}
		}
	}
}

// At gives the ends that are at a joint.
func (n *Net) At(joint harness.JointID) []harness.TipID { return n.joints[joint] }

// Walk gives the wires of the circuit that begins at an end and goes along its wire, without what lies on the near
// side of the end: what hangs on it.
func (n *Net) Walk(h harness.Harness, from harness.TipID) []harness.WireID {
	w := newWalk(n, h)
	w.wire(from.Wire)
	tips := n.tips[from.Wire]
	w.leave(tips[1-from.End])
	w.run()
	return w.wires
}

// Cavity gives the wires of the circuit that a cavity is part of, none where nothing is in it.
func (n *Net) Cavity(h harness.Harness, at harness.Ref) []harness.WireID {
	w := newWalk(n, h)
	w.cavity(at)
	w.run()
	return w.wires
}

// Wire gives the wires of a wire's circuit, itself first.
func (n *Net) Wire(h harness.Harness, wire harness.WireID) []harness.WireID {
	w := newWalk(n, h)
	w.wire(wire)
	w.queue = append(w.queue, wire)
	w.run()
	return w.wires
}

type walk struct {
	n     *Net
	h     harness.Harness
	wires []harness.WireID
	queue []harness.WireID // wires whose tips have to be left
	// What was come by.
	along     map[harness.WireID]bool
	joints    map[harness.JointID]bool
	terminals map[harness.TerminalID]bool
	cavities  map[harness.Ref]bool
}

func newWalk(n *Net, h harness.Harness) walk {
	return walk{n: n, h: h, along: map[harness.WireID]bool{}, joints: map[harness.JointID]bool{},
		terminals: map[harness.TerminalID]bool{}, cavities: map[harness.Ref]bool{}}
}

func (w *walk) wire(name harness.WireID) {
	if !w.along[name] {
		w.along[name] = true
		w.wires = append(w.wires, name)
	}
}

func (w *walk) run() {
	for len(w.queue) > 0 {
		name := w.queue[0]
		w.queue = w.queue[1:]
		for _, t := range w.n.tips[name] {
			w.leave(t)
		}
	}
}

// leave goes from a tip to everything that is joined to it.
func (w *walk) leave(t harness.Tip) {
	switch t.State {
	case harness.Joined:
		if !w.joints[t.Joint] {
			w.joints[t.Joint] = true
			w.meet(w.n.joints[t.Joint])
		}
	case harness.Crimped:
		if !w.terminals[t.Terminal] {
			w.terminals[t.Terminal] = true
			w.meet(w.n.crimps[t.Terminal])
			if p, ok := w.h.Place(t.Terminal); ok && p.State == harness.Seated {
				w.cavity(p.At)
			}
		}
	}
}

func (w *walk) meet(all []harness.TipID) {
	for _, l := range all {
		if !w.along[l.Wire] {
			w.wire(l.Wire)
			w.queue = append(w.queue, l.Wire)
		}
	}
}

// cavity goes through a cavity to what is in it, faces it and is linked to it.
func (w *walk) cavity(at harness.Ref) {
	if w.cavities[at] {
		return
	}
	w.cavities[at] = true
	if t, full := w.h.In(at); full {
		w.leave(harness.Tip{State: harness.Crimped, Terminal: t})
	}
	half := w.n.halves[at.Connector]
	if half == nil || w.h.Free(at.Connector) {
		return
	}
	if half.Mate != "" && !w.h.Free(half.Mate) {
		w.cavity(harness.Ref{Connector: half.Mate, Cavity: at.Cavity})
	}
	for _, row := range half.Links {
		if slices.Contains(row, at.Cavity) {
			for _, c := range row {
				w.cavity(harness.Ref{Connector: at.Connector, Cavity: c})
			}
		}
	}
}
