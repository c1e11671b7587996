package prove

import (
	"slices"

	"draxel/core/network"
)

// pointsOf gives the nodes that a measure is about.
func (v *Vehicle) pointsOf(m *Measure) []network.Node {
	if m.Kind == Works {
		var out []network.Node
		for _, i := range v.Of[m.A] {
			out = append(out, v.Net.Elements[i].A, v.Net.Elements[i].B)
		}
		return out
	}
	a, okA := v.point(m.A, m.Setup)
	b, okB := v.point(m.B, m.Setup)
	if !okA || !okB {
		return nil
	}
	return []network.Node{a, b}
}

// near lists the elements, and the nodes, whose faults can be seen at points: what hangs together with them, through
// gates and loads, up to where much meets; what commands relays there; and the way from there to the sources.
func (v *Vehicle) near(points []network.Node) (elements, nodes map[int32]bool) {
	heads := v.Net.Heads()
	elements, nodes = map[int32]bool{}, map[int32]bool{}
	relays := map[int32]bool{}
	var queue []int32
	push := func(n int32) {
		if n = heads[n]; !nodes[n] {
			nodes[n] = true
			queue = append(queue, n)
		}
	}
	var visit func(i int32)
	visit = func(i int32) {
		if elements[i] {
			return
		}
		elements[i] = true
		e := &v.Net.Elements[i]
		if e.Gate.Relay > 0 && !relays[e.Gate.Relay] {
			relays[e.Gate.Relay] = true
			coil := v.Net.Relays[e.Gate.Relay-1].Coil
			visit(coil)
			push(int32(v.Net.Elements[coil].A))
			push(int32(v.Net.Elements[coil].B))
		}
	}
	for _, p := range points {
		nodes[int32(p)] = true
		queue = append(queue, int32(p))
	}
	for k := 0; k < len(queue); k++ {
		n := queue[k]
		if v.hub[n] && k >= len(points) {
			continue
		}
		if v.hub[n] && len(v.at[n]) > 3*hubEnds { // a probe on a bus sees the bus, not what hangs on it
			continue
		}
		for _, i := range v.at[n] {
			visit(i)
			push(int32(v.Net.Elements[i].A))
			push(int32(v.Net.Elements[i].B))
		}
	}
	for i := range v.Net.Elements { // trunks: from hub to hub
		e := &v.Net.Elements[i]
		if v.hub[heads[e.A]] && v.hub[heads[e.B]] {
			visit(int32(i))
		}
	}
	return elements, nodes
}

// plus is the battery's positive pole: what touches it is sought where it touches.
const plus = "battery +"

// sees says whether a cause lies among elements and nodes.
func (v *Vehicle) sees(c *Cause, elements, nodes map[int32]bool) bool {
	heads := v.Net.Heads()
	for i := range c.Faults {
		f := &c.Faults[i]
		switch f.Do {
		case network.Open, network.Worse:
			if e, known := v.Net.Element(f.Element); known && elements[e] {
				return true
			}
		case network.Short:
			for _, name := range []string{f.A, f.B} {
				if n, known := v.nodes[name]; known && nodes[heads[n]] && heads[n] != 0 && name != plus {
					return true
				}
			}
		case network.Dead, network.Stuck:
			k := slices.IndexFunc(v.Net.Relays, func(r network.Relay) bool { return r.Name == f.Element })
			if k >= 0 && elements[v.Net.Relays[k].Coil] {
				return true
			}
		case network.Force:
			return true
		}
	}
	return false
}
