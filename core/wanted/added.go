package wanted

import (
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/work"
)

// partLead is how long, in mm, and how thick a lead of a part is reckoned: common practice.
const partLead = 80

// addIn is what parts are added to, where the harness is wanted so.
func (m *Model) addIn(wanted harness.Harness, studs []string) join.AddIn {
	alone, names := map[harness.WireID]bool{}, map[harness.WireID]string{}
	for i := range m.Facts.Laid.Loom.Wires {
		w := &m.Facts.Laid.Loom.Wires[i]
		alone[w.ID], names[w.ID] = m.Alone.Wire(i), fact.WireOf(w, harness.Ref{})
	}
	for _, n := range m.Fresh {
		names[n.ID] = called(n)
	}
	return join.AddIn{Now: m.Past.Now, Wanted: wanted, Cavity: m.Facts.Cavity,
		Stud: func(name string) bool { return slices.Contains(studs, name) },
		Name: func(wire harness.WireID) string {
			if name := names[wire.Whole()]; name != "" {
				return name
			}
			return wire.Name()
		},
		Alone: func(wire harness.WireID) bool { return alone[wire.Whole()] }, Proof: m.proofAt,
		School: reach.SchoolWord(m.rules.School), Join: m.rates.Join, Check: m.rates.Check}
}

// Add says what parts that functions ask for want of the harness, where it is wanted so and has such studs.
func (m *Model) Add(parts []join.Added, studs []string, wanted harness.Harness) join.AddedPart {
	return join.Add(parts, m.addIn(wanted, studs))
}

// addedWires are the wires among the parts that find their ends before lengths are known: Reach lays them as every
// new wire.
func (m *Model) addedWires(parts []join.Added, studs []string) []reach.Run {
	if !slices.ContainsFunc(parts, func(a join.Added) bool { return a.Body == join.SingleWire }) {
		return nil
	}
	fits := m.Add(parts, studs, m.Joined).Changes.Tips
	var out []reach.Run
	for i := range parts {
		a := &parts[i]
		if _, ok := fits[a.Wire()]; !ok || a.Body != join.SingleWire {
			continue
		}
		x := reach.Run{New: true, Wire: harness.Wire{ID: a.Wire(), Conductor: harness.Conductor{Function: a.What}}}
		for end, l := range a.Leads {
			if at, is := m.cavity(l.To); is {
				x.Ends[end].At = at
			}
		}
		out = append(out, x)
	}
	return out
}

// Unlaid leaves out the steps that lay wires among the parts which found no place after all.
func Unlaid(steps []work.Step, parts []join.Added, added *join.AddedPart) []work.Step {
	gone := map[harness.WireID]bool{}
	for i := range parts {
		if _, ok := added.Changes.Tips[parts[i].Wire()]; !ok && parts[i].Body == join.SingleWire {
			gone[parts[i].Wire()] = true
		}
	}
	if len(gone) == 0 {
		return steps
	}
	return slices.DeleteFunc(slices.Clone(steps), func(s work.Step) bool {
		return slices.ContainsFunc(s.Edits, func(e harness.Edit) bool { return e.Do == harness.Lay && gone[e.Wire] })
	})
}

// proofAt says what proves a wire of the vehicle that nobody has measured, and false where it needs no proof.
func (m *Model) proofAt(at harness.Ref) (join.Meter, bool) {
	if m.ours(at) {
		return join.Meter{}, false
	}
	e := join.End{At: at}
	m.measureFirst(&e)
	return e.Meter, e.Meter != join.Meter{}
}

// ours says whether a cavity is one of the harness that comes into the vehicle: what no table has is the vehicle's.
func (m *Model) ours(at harness.Ref) bool { return m.Facts.Ours(at) }

// ContactsClosed says of the relays that are let into wires that their contacts are closed: what a relay parts, it can
// join.
func ContactsClosed(parts []join.Added, h harness.Harness) harness.Changes {
	out := harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}
	for i := range parts {
		if a := &parts[i]; a.Body == join.RelayBody && a.In != (harness.Ref{}) {
			wires := a.Wires()
			one, there := h.Tips(wires[0])
			if other, both := h.Tips(wires[1]); there && both {
				other[1] = one[1]
				out.Tips[wires[1]] = other
			}
		}
	}
	return out
}

// PartWires gives what the wires of parts are for the network: a resistor in a wire is that wire's resistance.
func PartWires(parts []join.Added) map[harness.WireID]network.Metal {
	out := map[harness.WireID]network.Metal{}
	for i := range parts {
		a := &parts[i]
		for _, w := range a.Wires() {
			l := network.Metal{Square: coilSquare, Mm: partLead, Text: a.What}
			if w == a.Wire() && a.Body == join.Resistor {
				l.Ohms = a.Ohms
			}
			out[w] = l
		}
	}
	return out
}

// Proofs are the measurements before a terminal of the vehicle is drawn.
func (m *Model) Proofs(minutes float64) []work.Step {
	var out []work.Step
	for i := range m.Facts.Laid.Loom.Wires {
		for _, e := range m.Facts.Laid.Loom.Wires[i].Ends {
			t := harness.TerminalAt(e.At)
			if goal, known := m.Wanted.Place(t); !known || goal.State != harness.Capped || !m.drawn[t] ||
				m.Facts.Measured[e.At] {
				continue
			}
			if now, there := m.Now.Place(t); !there || now.State != harness.Seated {
				continue
			}
			w := fact.WireOf(&m.Facts.Laid.Loom.Wires[i], harness.Ref{})
			s := join.MeasureFirst(e.At, w, Meter(m.Facts.RoleAt(e.At)), minutes)
			s.GuardsTerminal = []harness.TerminalID{t}
			out = append(out, s)
		}
	}
	return out
}
