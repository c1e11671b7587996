package plan

import (
	"maps"
	"slices"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// base is the harness as Thin and Pin want it.
func (m *model) base(goes *thin.Result) harness.Harness {
	base := m.found.With(goes.Changes(), m.changes())
	crimped := harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}
	// Both ends of a wire may change: the second change knows the first.
	tipsOf := func(wire harness.WireID) ([2]harness.Tip, bool) {
		if told, twice := crimped.Tips[wire]; twice {
			return told, true
		}
		return base.Tips(wire)
	}
	for t, on := range m.made {
		if _, seated := m.wanted.Place(t); !seated {
			continue
		}
		if tips, there := tipsOf(on.Wire); there { // an end that was cut gets a terminal
			tips[on.End] = harness.Tip{State: harness.Crimped, Terminal: t}
			crimped.Tips[on.Wire] = tips
		}
	}
	for i := range m.past.Ticks { // what was cut where it led to nothing stays an end
		for _, e := range m.past.Ticks[i].Edits {
			tips, there := tipsOf(e.Wire)
			_, stub := m.past.Now.Tips(e.Wire.Stub(e.End))
			if m.past.Ticks[i].Stage != work.Join || e.Do != harness.Cut || !there || stub ||
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
func (m *model) merge() {
	names := slices.Sorted(maps.Keys(m.joints))
	of := map[harness.Length]string{}
	into := map[string]string{}
	find := func(name string) string {
		for into[name] != "" {
			name = into[name]
		}
		return name
	}
	for _, name := range names {
		for _, e := range m.joints[name].Ends {
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
		for _, e := range m.joints[name].Ends {
			m.comes(to, e)
		}
		m.joints[to].For = append(m.joints[to].For, m.joints[name].For...)
		m.joints[to].Why += " " + m.joints[name].Why
		delete(m.joints, name)
	}
	for i := range m.fresh {
		for end := range m.fresh[i].ends {
			m.fresh[i].ends[end].Joint = find(m.fresh[i].ends[end].Joint)
		}
	}
	m.renamed = find
}

// drop leaves out the new wires whose terminals find no place, and the joints to which fewer than two ends come.
func (m *model) drop() {
	gone, away := map[harness.WireID]bool{}, map[string]bool{} // wires and joints that are left out
	for again := true; again; {
		again = false
		m.fresh = slices.DeleteFunc(m.fresh, func(n newWire) bool {
			for _, g := range n.ends {
				_, there := m.wanted.Place(g.Terminal)
				if g.Terminal != "" && !there || g.Joint != "" && m.joints[g.Joint] == nil && away[g.Joint] {
					gone[n.id], again = true, true
					return true
				}
			}
			return false
		})
		for name, j := range m.joints {
			j.Ends = slices.DeleteFunc(
				j.Ends,
				func(e join.End) bool { return e.How == join.Beginning && gone[e.Wire] },
			)
			if len(j.Ends) < 2 {
				delete(m.joints, name)
				away[name], again = true, true
			}
		}
	}
}

// spread says how far behind its plug each wire is cut or joined onto, so that the joints that lie behind one plug
// do not lie side by side: as far apart as two joints should be, or as far as the shortest wire lets them. A wire
// that is led to a joint elsewhere is cut as close to its own plug as a stub may be: it loses no more of its length
// than that.
func (m *model) spread(rules reach.Rules) {
	at := map[string][]*join.End{}
	for _, name := range slices.Sorted(maps.Keys(m.joints)) {
		j := m.joints[name]
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
			if w := m.ends.wires[e.At]; w != nil && w.Length > 0 {
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
func (m *model) describe() {
	m.listedJoints, m.laid = []Joined{}, []Laid{}
	words := map[join.How]string{
		join.AsIs:      "as it is",
		join.CutOff:    "cut off",
		join.Whole:     "joined onto, whole",
		join.Clipped:   "its terminal cut off",
		join.Beginning: "new",
	}
	for _, name := range slices.Sorted(maps.Keys(m.joints)) {
		j := m.joints[name]
		serves := slices.Clone(j.For)
		slices.SortFunc(serves, harness.CompareRefs)
		x := Joined{Name: name, For: slices.Compact(serves), Why: j.Why, Ends: []JoinedEnd{}, Made: true}
		for _, e := range j.Ends {
			x.Ends = append(
				x.Ends,
				JoinedEnd{Wire: e.Wire, Name: e.Name, At: e.At, How: words[e.How], Back: e.Back, Theirs: e.Theirs},
			)
			tips, there := m.past.Now.Tips(e.Wire)
			x.Made = x.Made && there && tips[e.End].State == harness.Joined
			if x.Proof == "" {
				x.Proof = e.Meter.Text
			}
		}
		m.listedJoints = append(m.listedJoints, x)
	}
	for _, n := range m.fresh {
		x := Laid{ID: n.id, Row: n.row}
		_, x.There = m.past.Now.Tips(n.id)
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
		m.laid = append(m.laid, x)
	}
}
