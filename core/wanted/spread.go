package wanted

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// base is the harness as Thin and Pin want it.
func (m *Model) base(goes *thin.Result) harness.Harness {
	base := m.Found.With(goes.Changes(), m.changes())
	crimped := harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}
	// Both ends of a wire may change: the second change knows the first.
	tipsOf := func(wire harness.WireID) ([2]harness.Tip, bool) {
		if told, twice := crimped.Tips[wire]; twice {
			return told, true
		}
		return base.Tips(wire)
	}
	for t, on := range m.Made {
		if _, seated := m.Wanted.Place(t); !seated {
			continue
		}
		if tips, there := tipsOf(on.Wire); there { // an end that was cut gets a terminal
			tips[on.End] = harness.Tip{State: harness.Crimped, Terminal: t}
			crimped.Tips[on.Wire] = tips
		}
	}
	for i := range m.Past.Ticks { // what was cut where it led to nothing stays an end
		for _, e := range m.Past.Ticks[i].Edits {
			tips, there := tipsOf(e.Wire)
			_, stub := m.Past.Now.Tips(e.Wire.Stub(e.End))
			if m.Past.Ticks[i].Stage != work.Join || e.Do != harness.Cut || !there || stub ||
				tips[e.End].State == harness.Crimped ||
				tips[e.End].State == harness.Joined {
				continue
			}
			tips[e.End] = harness.Tip{State: harness.Sealed}
			crimped.Tips[e.Wire] = tips
		}
	}
	for end, t := range m.bare {
		tips, there := tipsOf(end.Wire)
		if there && tips[end.End] == (harness.Tip{State: harness.Crimped, Terminal: t}) {
			tips[end.End] = harness.Tip{State: harness.Sealed}
			crimped.Tips[end.Wire] = tips
		}
	}
	return base.With(crimped)
}

// merge makes one joint of those to which the same end comes: what is joined to one of them is joined to all.
func (m *Model) merge() {
	names := slices.Sorted(maps.Keys(m.Planned))
	of := map[harness.Length]string{}
	into := map[string]string{}
	find := func(name string) string {
		for into[name] != "" {
			name = into[name]
		}
		return name
	}
	for _, name := range names {
		for _, e := range m.Planned[name].Ends {
			if other, twice := of[e.Length]; twice && find(other) != find(name) {
				a, b := find(other), find(name)
				into[max(a, b)] = min(a, b)
			}
			of[e.Length] = name
		}
	}
	for _, name := range names {
		to := find(name)
		if to == name {
			continue
		}
		for _, e := range m.Planned[name].Ends {
			m.comes(to, e)
		}
		m.Planned[to].For = append(m.Planned[to].For, m.Planned[name].For...)
		m.Planned[to].Why += " " + m.Planned[name].Why
		delete(m.Planned, name)
	}
	for i := range m.Fresh {
		for end := range m.Fresh[i].ends {
			m.Fresh[i].ends[end].Joint = find(m.Fresh[i].ends[end].Joint)
		}
	}
	m.Renamed = find
}

// drop leaves out the new wires whose terminals find no place, and the joints to which fewer than two ends come.
func (m *Model) drop() {
	gone, away := map[harness.WireID]bool{}, map[string]bool{} // wires and joints that are left out
	for again := true; again; {
		again = false
		m.Fresh = slices.DeleteFunc(m.Fresh, func(n newWire) bool {
			for _, g := range n.ends {
				_, there := m.Wanted.Place(g.Terminal)
				if g.Terminal != "" && !there || g.Joint != "" && m.Planned[g.Joint] == nil && away[g.Joint] {
					gone[n.Id], again = true, true
					return true
				}
			}
			return false
		})
		for name, j := range m.Planned {
			j.Ends = slices.DeleteFunc(
				j.Ends,
				func(e join.End) bool { return e.How == join.Beginning && gone[e.Wire] },
			)
			if len(j.Ends) < 2 {
				delete(m.Planned, name)
				away[name], again = true, true
			}
		}
	}
}

// spread says how far behind its plug each wire is cut or joined onto, so that the joints that lie behind one plug
// do not lie side by side: as far apart as two joints should be, or as far as the shortest wire lets them. A wire
// that is led to a joint elsewhere is cut as close to its own plug as a stub may be: it loses no more of its length
// than that.
func (m *Model) spread(rules reach.Rules) {
	at := map[string][]*join.End{}
	for _, name := range slices.Sorted(maps.Keys(m.Planned)) {
		j := m.Planned[name]
		for i := range j.Ends {
			e := &j.Ends[i]
			switch led := e.How == join.CutOff && !e.Theirs && lies(j, e.Length) != (reach.Meet{}); {
			case e.How != join.CutOff && e.How != join.Whole, e.At == harness.Ref{}:
			case led:
				e.Back = rules.Stub
			default:
				at[e.At.Connector] = append(at[e.At.Connector], e)
			}
		}
	}
	for _, all := range at {
		slices.SortFunc(all, func(a, b *join.End) int { return harness.CompareRefs(a.At, b.At) })
		most := rules.Stub + rules.Apart*float64(len(all)-1)
		for _, e := range all {
			if w := m.Ends.Wires[e.At]; w != nil && w.Length > 0 {
				most = min(most, max(rules.Stub, w.Length-rules.Stub))
			}
		}
		step := 0.0
		if len(all) > 1 {
			step = (most - rules.Stub) / float64(len(all)-1)
		}
		for i, e := range all {
			e.Back = rules.Stub + step*float64(i)
		}
	}
}

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
		x := Laid{ID: n.Id, Row: n.Row}
		_, x.There = m.Past.Now.Tips(n.Id)
		for end, g := range n.ends {
			switch {
			case g.Terminal != "":
				x.Ends[end] = g.At.String()
			case g.Joint != "":
				x.Ends[end] = g.Joint
			case g.Stud != "":
				x.Ends[end] = g.Stud
			default:
				x.Ends[end], x.Open, x.Owner = "waits for its source", true, g.Owner
			}
		}
		m.Laid = append(m.Laid, x)
	}
}

// OpenEnds says what is left open by decisions that wait for somebody.
func OpenEnds(f *fact.Facts, laid []Laid) []finding.Finding {
	var out []finding.Finding
	for _, w := range laid {
		if w.Open && w.Owner == "" && f.Kind.MovesTerminals() && !w.There {
			continue // the crosswalk says of feeds that nothing feeds them; the rest is a new function's own
		}
		if w.Open && w.Owner == "" {
			out = append(out, finding.Finding{
				Code: "open-end", Severity: finding.Check, Stage: "match", Side: string(match.To), Subject: w.Row.Ref.String(),
				Text: fmt.Sprintf(
					"The new wire of %s is laid, its other end is open, and nobody sees to it.",
					w.Row.Ref,
				),
				Remedy: "Say in Match where it begins, or who sees to it.",
			})
		}
	}
	return out
}
