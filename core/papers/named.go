package papers

import (
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/wanted"
)

// Named is a wire of the vehicle that is cut or joined onto, named twice before anything is done to it: by the
// table, and by what a meter must show or showed.
type Named struct {
	At       harness.Ref    `json:"at"`
	Side     match.Side     `json:"side,omitempty"` // whose table has it
	Row      harness.Row    `json:"row"`
	Wire     harness.WireID `json:"wire"`
	For      []string       `json:"for"`             // joints and parts that it comes to
	Measured bool           `json:"measured"`        // somebody has measured it
	Proof    string         `json:"proof,omitempty"` // what must be seen before anything is cut, where nobody has
	Read     []string       `json:"read,omitempty"`  // what was measured there
}

// NamedWires lists the vehicle's wires that joints and parts come to.
func NamedWires(p *plan.Plan, f *fact.Facts) []Named {
	var out []Named
	add := func(at harness.Ref, wire harness.WireID, what string) {
		i := slices.IndexFunc(out, func(n Named) bool { return n.At == at })
		if i < 0 {
			n := Named{At: at, Wire: wire, For: []string{}, Measured: f.Measured[at]}
			if row, known := f.From.Row(at); known {
				n.Row, n.Side = row, match.From
			}
			for k := range f.To.Rows {
				if r := &f.To.Rows[k]; n.Side == "" && f.At(r.Ref) == at {
					n.Row, n.Side = *r, match.To
				}
			}
			if n.Side == "" {
				n.Row = f.LoomRow(at)
			}
			if !n.Measured {
				n.Proof = wanted.Meter(f.RoleAt(at)).Text
			}
			i = len(out)
			out = append(out, n)
		}
		if !slices.Contains(out[i].For, what) {
			out[i].For = append(out[i].For, what)
		}
	}
	for i := range p.Join.Joints {
		for _, e := range p.Join.Joints[i].Ends {
			if e.Theirs && e.At != (harness.Ref{}) {
				add(e.At, e.Wire, p.Join.Joints[i].Name.Name())
			}
		}
	}
	for i := range p.Join.Added {
		a := &p.Join.Added[i]
		at := []harness.Ref{a.In}
		for _, l := range a.Leads {
			if ref, is := f.Cavity(l.To); is {
				at = append(at, ref)
			}
		}
		for _, x := range at {
			if x != (harness.Ref{}) && a.Body != join.Fitted && !f.Ours(x) {
				add(x, "", a.ID+", "+a.What)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Named) int { return harness.CompareRefs(a.At, b.At) })
	return out
}
