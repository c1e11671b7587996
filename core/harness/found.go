package harness

import "maps"

// TerminalAt names the terminal that was found in a cavity.
func TerminalAt(found Ref) TerminalID { return TerminalID("wire " + found.String()) }

// Found gives the model of the harness as it was found: every cavity that a wire ends in has its terminal, every wire
// its two tips.
func (l *Loom) Found() Harness {
	connectors := make([]Connector, len(l.Connectors))
	for i, c := range l.Connectors {
		connectors[i] = c.Connector
	}
	b := Empty(connectors, l.Wires)
	for i := range l.Wires {
		w := &l.Wires[i]
		var tips [2]Tip
		for k, e := range w.Ends {
			tips[k] = e.Tip()
			if t := tips[k].Terminal; t != "" {
				b.Seat(t, e.At)
			}
		}
		b.Must(Edit{Do: Lay, Wire: w.ID, Tips: tips[:]})
	}
	return b.Harness()
}

// Empty puts a harness on the bench that has these connectors, and the cavities that a wire is said to end in though
// its connector is not known to have them: a fact is not lost because another is missing. Nothing is in it.
func Empty(connectors []Connector, wires []Wire) *Bench {
	h := New(connectors)
	for i := range wires {
		for _, e := range wires[i].Ends {
			if e.At != (Ref{}) {
				h.cavities.has[e.At] = true
			}
		}
	}
	return &Bench{h}
}

// Housing gives the harness with the cavities of further connectors, empty.
func (h Harness) Housing(connectors []Connector) Harness {
	own := false // the cavities are shared with the harness that was given until one is added
	for _, c := range connectors {
		for _, n := range c.Cavities {
			if h.cavities.is(Ref{c.ID, n}) {
				continue
			}
			if !own {
				h.cavities, own = &cavities{has: maps.Clone(h.cavities.has)}, true
			}
			h.cavities.has[Ref{c.ID, n}] = true
		}
	}
	return h
}

// Block fills a cavity for good, with a terminal that its wire was cut off.
func (b *Bench) Block(at Ref) { b.h.stumps[at] = true }

// Put makes a terminal that is somewhere: in a cavity, in hand, capped, parked, or joined to the wire of a cavity.
func (b *Bench) Put(t TerminalID, p Place) {
	label := p.Label
	if label == "" {
		label = p.At.String()
	}
	b.Must(Edit{Do: Add, Terminal: t, Label: label})
	switch p.State {
	case Seated:
		b.Must(Edit{Do: Insert, Terminal: t, At: p.At})
	case Capped:
		b.Must(Edit{Do: Cap, Terminal: t, Label: p.Label})
	case Parked:
		b.Must(Edit{Do: Park, Terminal: t, Label: p.Label})
	case Tied:
		b.Must(Edit{Do: Tie, Terminal: t, At: p.At, Label: p.Label})
	case Loose:
	}
}

// Seat puts a new terminal into a cavity, unless it is there already.
func (b *Bench) Seat(t TerminalID, at Ref) {
	if _, there := b.h.terminals[t]; !there {
		b.Must(Edit{Do: Add, Terminal: t, Label: at.String()}, Edit{Do: Insert, Terminal: t, At: at})
	}
}

// Tip gives what the end of a wire is in the model.
func (e End) Tip() Tip {
	switch {
	case e.At != (Ref{}):
		return Tip{State: Crimped, Terminal: TerminalAt(e.At)}
	case e.Splice != "":
		return Tip{State: Joined, Joint: e.Splice}
	case e.Taped:
		return Tip{State: Ended}
	}
	return Tip{State: Unseen}
}

// Must does edits that cannot fail by construction, as when a model is built from what is known to be distinct.
func (b *Bench) Must(edits ...Edit) {
	if err := b.Do(edits...); err != nil {
		panic("harness: the model contradicts itself: " + err.Error())
	}
}
