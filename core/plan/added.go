package plan

import (
	"slices"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/work"
)

// partLead is how long, in mm, and how thick a lead of a part is reckoned: common practice.
const partLead = 80

// addIn is what parts are added to, where the harness is wanted so.
func (m *model) addIn(wanted harness.Harness, d stored.Decisions) join.AddIn {
	alone, names := map[harness.WireID]bool{}, map[harness.WireID]string{}
	for i := range m.facts.Laid.Loom.Wires {
		w := &m.facts.Laid.Loom.Wires[i]
		alone[w.ID], names[w.ID] = m.alone.Wire(i), fact.WireOf(w, harness.Ref{})
	}
	for _, n := range m.fresh {
		names[n.id] = called(n)
	}
	return join.AddIn{Now: m.past.Now, Wanted: wanted, Cavity: m.facts.Cavity, Stud: m.facts.Stud,
		Name: func(wire harness.WireID) string {
			if name := names[wire.Whole()]; name != "" {
				return name
			}
			return wire.Name()
		},
		Alone: func(wire harness.WireID) bool { return alone[wire.Whole()] }, Proof: m.proofAt,
		School: reach.SchoolWord(d.Reach.Rules.School), Join: d.Bench.Rates.Join, Check: d.Bench.Rates.Check}
}

// addParts brings the parts that functions ask for into Wanted.
func (p *Plan) addParts(m *model, d stored.Decisions) join.AddedPart {
	out := join.Add(d.Added, m.addIn(p.Wanted, d))
	p.Wanted = p.Wanted.With(out.Changes)
	p.Findings = append(p.Findings, out.Findings...)
	return out
}

// addedWires are the wires among the parts that find their ends before lengths are known: Reach lays them as every
// new wire.
func (m *model) addedWires(d stored.Decisions) []reach.Wire {
	if !slices.ContainsFunc(d.Added, func(a join.Added) bool { return a.Body == join.SingleWire }) {
		return nil
	}
	fits := join.Add(d.Added, m.addIn(m.joined, d)).Changes.Tips
	var out []reach.Wire
	for i := range d.Added {
		a := &d.Added[i]
		if _, ok := fits[a.Wire()]; !ok || a.Body != join.SingleWire {
			continue
		}
		x := reach.Wire{New: true, Wire: harness.Wire{ID: a.Wire(), Function: a.What}}
		for end, l := range a.Leads {
			if at, is := m.cavity(l.To); is {
				x.Ends[end].At = at
			}
		}
		out = append(out, x)
	}
	return out
}

// unlaid leaves out the steps that lay wires among the parts which found no place after all.
func unlaid(steps []work.Step, parts []join.Added, added *join.AddedPart) []work.Step {
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
func (m *model) proofAt(at harness.Ref) (join.Meter, bool) {
	if m.ours(at) {
		return join.Meter{}, false
	}
	e := join.End{At: at}
	m.measureFirst(&e)
	return e.Meter, e.Meter != join.Meter{}
}

// ours says whether a cavity is one of the harness that comes into the vehicle: what no table has is the vehicle's.
func (m *model) ours(at harness.Ref) bool { return m.facts.Ours(at) }

// withParts gives what stands in the vehicle with the resistors and relays that are added between wires.
func withParts(f *feed.Facts, parts []join.Added) *feed.Facts {
	if f == nil || len(parts) == 0 {
		return f
	}
	out := *f
	in := &out.Inside
	in.Uses, in.Relays = slices.Clone(in.Uses), slices.Clone(in.Relays)
	for i := range parts {
		a := &parts[i]
		point := func(name string) string {
			if slices.ContainsFunc(a.Leads, func(l join.PartLead) bool { return l.Point == name }) || a.In != (harness.Ref{}) &&
				(name == "30" || name == "87") {
				return a.Point(name)
			}
			return ""
		}
		switch {
		case a.Body == join.Resistor && a.In == (harness.Ref{}):
			in.Uses = append(in.Uses, network.Use{Name: a.ID, Plus: a.Point("1"), Minus: a.Point("2"), Volts: 12,
				Amps: 12 / a.Ohms})
		case a.Body == join.RelayBody && point("85") != "" && point("86") != "" && point("30") != "":
			in.Relays = append(in.Relays, network.Coiled{Name: a.ID, Coil: [2]string{a.Point("86"), a.Point("85")},
				Common: a.Point("30"), Make: point("87"), Break: point("87a")})
		}
	}
	return &out
}

// contactsClosed says of the relays that are let into wires that their contacts are closed: what a relay parts, it can
// join.
func contactsClosed(parts []join.Added, h harness.Harness) harness.Changes {
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

// partWires gives what the wires of parts are for the network: a resistor in a wire is that wire's resistance.
func partWires(parts []join.Added) map[harness.WireID]network.Length {
	out := map[harness.WireID]network.Length{}
	for i := range parts {
		a := &parts[i]
		for _, w := range a.Wires() {
			l := network.Length{Square: coilSquare, Mm: partLead, Text: a.What}
			if w == a.Wire() && a.Body == join.Resistor {
				l.Ohms = a.Ohms
			}
			out[w] = l
		}
	}
	return out
}

// Site is an end of a function at which a part can be let in or joined on, or why none can.
type Site struct {
	At   string `json:"at"`
	Text string `json:"text"`
	Why  string `json:"why,omitempty"` // why not
}

// sites lists where parts can come: the ends of all functions.
func (p *Plan) sites(before harness.Harness) []Site {
	seats := join.Crimped(before)
	out := []Site{}
	seen := map[string]bool{}
	for i := range p.Join.Functions {
		for _, e := range p.Join.Functions[i].Ends {
			if seen[e.At] {
				continue
			}
			seen[e.At] = true
			s := Site{At: e.At, Text: e.Device + ": " + e.Text}
			if _, err := join.Site(before, seats, e.Ref); err != nil {
				s.Why = err.Error()
			}
			out = append(out, s)
		}
	}
	return out
}
