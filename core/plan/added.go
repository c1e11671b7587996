package plan

import (
	"slices"

	"draxel/core/circuit"
	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/reach"
)

// partLead is how long, in mm, and how thick a lead of a part is reckoned: common practice.
const partLead = 80

// addParts brings the parts that functions ask for into Wanted, and notes at which ends of each function one can come.
func (p *Plan) addParts(m *model, d Decisions) join.AddedPart {
	alone, names := map[string]bool{}, map[string]string{}
	for i := range m.facts.Laid.Loom.Wires {
		w := &m.facts.Laid.Loom.Wires[i]
		alone[w.ID], names[w.ID] = m.alone.Wire(i), wireOf(w, harness.Ref{})
	}
	for _, n := range m.fresh {
		names[n.id] = called(n)
	}
	out := join.Add(d.Added, join.AddIn{Now: p.Past.Now, Wanted: p.Wanted, Cavity: m.facts.cavity, Stud: m.facts.stud,
		Name: func(wire string) string {
			if name := names[circuit.Whole(wire)]; name != "" {
				return name
			}
			return wire
		},
		Alone: func(wire string) bool { return alone[circuit.Whole(wire)] }, Proof: m.proofAt,
		School: reach.SchoolWord(d.Reach.Rules.School), Join: d.Bench.Rates.Join, Check: d.Bench.Rates.Check})
	p.Wanted = p.Wanted.With(out.Changes)
	p.Findings = append(p.Findings, out.Findings...)
	return out
}

// proofAt says what proves a wire of the vehicle that nobody has measured, and false where it needs no proof.
func (m *model) proofAt(at harness.Ref) (join.Meter, bool) {
	e := join.End{At: at}
	m.theirs(&e)
	return e.Meter, e.Meter != join.Meter{}
}

// stud says whether there is a stud or another point of that name, that wires are brought to.
func (f *Facts) stud(name string) bool {
	if slices.ContainsFunc(f.Laid.Loom.Devices, func(d harness.Device) bool {
		return d.ID == name && d.Kind == harness.Grounds
	}) {
		return true
	}
	if f.Feed == nil {
		return false
	}
	in := &f.Feed.Inside
	for _, s := range in.Sources {
		if s.Plus == name || s.Minus == name {
			return true
		}
	}
	for _, c := range in.Cables {
		if c.From == name || c.To == name {
			return true
		}
	}
	for _, s := range in.Slots {
		if s.Out == name {
			return true
		}
	}
	return false
}

// withParts gives what stands in the vehicle with the resistors that lie between two wires: they use current.
func withParts(f *feed.Facts, parts []join.Added) *feed.Facts {
	out := f
	for i := range parts {
		a := &parts[i]
		if a.How != join.Between || a.Ohms == 0 || f == nil {
			continue
		}
		if out == f {
			made := *f
			made.Inside.Uses = slices.Clone(f.Inside.Uses)
			out = &made
		}
		out.Inside.Uses = append(out.Inside.Uses, network.Use{Name: a.ID, Plus: a.Point("1"), Minus: a.Point("2"),
			Volts: 12, Amps: 12 / a.Ohms})
	}
	return out
}

// partWires gives what the wires of parts are for the network: a resistor in a wire is that wire's resistance.
func partWires(parts []join.Added) map[string]network.Length {
	out := map[string]network.Length{}
	for i := range parts {
		a := &parts[i]
		for _, w := range a.Wires() {
			l := network.Length{Square: coilSquare, Mm: partLead, Text: a.What}
			if w == a.Wire() {
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
