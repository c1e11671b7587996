package wanted

import (
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
)

// describe lists the joints and new wires for whoever looks at them.
func (m *Model) describe() {
	m.Joints, m.Laid = []Joined{}, []Laid{}
	words := map[join.How]string{
		join.AsIs:      "as it is",
		join.CutOff:    "cut off",
		join.Whole:     "joined onto, whole",
		join.Clipped:   "its terminal cut off",
		join.Beginning: "new",
	}
	for _, name := range slices.Sorted(maps.Keys(m.Planned)) {
		j := m.Planned[name]
		serves := slices.Clone(j.For)
		slices.SortFunc(serves, harness.CompareRefs)
		x := Joined{Name: name, For: slices.Compact(serves), Why: j.Why, Ends: []JoinedEnd{}, Made: true}
		for _, e := range j.Ends {
			x.Ends = append(
				x.Ends,
				JoinedEnd{Wire: e.Wire, Name: e.Name, At: e.At, How: words[e.How], Back: e.Back, Theirs: e.Theirs},
			)
			tips, there := m.Past.Now.Tips(e.Wire)
			x.Made = x.Made && there && tips[e.End].State == harness.Joined
			if x.Proof == "" {
				x.Proof = e.Meter.Text
			}
		}
		m.Joints = append(m.Joints, x)
	}
	for _, n := range m.Fresh {
		x := Laid{ID: n.ID, Row: n.Row}
		_, x.There = m.Past.Now.Tips(n.ID)
		for end, g := range n.ends {
			switch {
			case g.Terminal != "":
				x.Ends[end] = g.At.String()
			case g.Joint != "":
				x.Ends[end] = string(g.Joint)
			case g.Stud != "":
				x.Ends[end] = string(g.Stud)
			default:
				x.Ends[end], x.Open, x.Owner = "waits for its source", true, g.Owner
			}
		}
		m.Laid = append(m.Laid, x)
	}
}

// Rows gives a row for each cavity of housings that holds a wire as found: the pinout's own where it has
// one.
func Rows(f *fact.Facts, housings []harness.Connector) []harness.Row {
	out := []harness.Row{}
	told := map[harness.Ref]bool{}
	housing := map[string]bool{}
	for _, h := range housings {
		housing[h.ID] = true
	}
	for _, row := range f.From.Rows {
		if !row.Empty && housing[row.Ref.Connector] {
			told[row.Ref] = true
			out = append(out, row)
		}
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if housing[e.At.Connector] && !told[e.At] {
				told[e.At] = true
				out = append(out, fact.RowOfWire(w, e.At))
			}
		}
	}
	return out
}
