package wanted

import (
	"maps"
	"slices"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/reach"
)

// merge makes one joint of those to which the same end comes: what is joined to one of them is joined to all.
func (m *Model) merge() {
	names := slices.Sorted(maps.Keys(m.Planned))
	of := map[harness.TipID]harness.JointID{}
	into := map[harness.JointID]harness.JointID{}
	find := func(name harness.JointID) harness.JointID {
		for into[name] != "" {
			name = into[name]
		}
		return name
	}
	for _, name := range names {
		for _, e := range m.Planned[name].Ends {
			if other, twice := of[e.TipID]; twice && find(other) != find(name) {
				a, b := find(other), find(name)
				into[max(a, b)] = min(a, b)
			}
			of[e.TipID] = name
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
	gone, away := map[harness.WireID]bool{}, map[harness.JointID]bool{} // wires and joints that are left out
	for again := true; again; {
		again = false
		m.Fresh = slices.DeleteFunc(m.Fresh, func(n newWire) bool {
			for _, g := range n.ends {
				_, there := m.Wanted.Place(g.Terminal)
				if g.Terminal != "" && !there || g.Joint != "" && m.Planned[g.Joint] == nil && away[g.Joint] {
					gone[n.ID], again = true, true
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
			switch led := e.How == join.CutOff && !e.Theirs && lies(j, e.TipID) != (reach.Meet{}); {
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
