package live

import (
	"slices"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
)

// copperCircuits numbers what copper and contacts join.
type copperCircuits struct {
	drawn  *network.Drawn
	parent []int32
}

func circuitsOf(d *network.Drawn) *copperCircuits {
	c := &copperCircuits{drawn: d, parent: make([]int32, len(d.Names))}
	for i := range c.parent {
		c.parent[i] = int32(i)
	}
	heads := d.Heads()
	for i := range d.Elements {
		e := &d.Elements[i]
		if e.Kind != network.Copper && e.Kind != network.Contact {
			continue
		}
		if a, b := heads[e.A], heads[e.B]; a != 0 && b != 0 && !d.Inner[network.Node(a)] && !d.Inner[network.Node(b)] {
			c.join(a, b)
		}
	}
	return c
}

func (c *copperCircuits) find(n int32) int32 {
	for c.parent[n] != n {
		c.parent[n] = c.parent[c.parent[n]]
		n = c.parent[n]
	}
	return n
}

func (c *copperCircuits) join(a, b int32) {
	if a, b = c.find(a), c.find(b); a != b {
		c.parent[max(a, b)] = min(a, b)
	}
}

// legs lists the circuits of each function with their wires: those that copper joins to its ends. What lies beyond a
// switch is one circuit with them and none of their wires: with the switch open the one is live and the other dead.
func (c *copperCircuits) legs(items []join.Item, r *feed.Result) []Leg {
	plain := circuitsOf(c.drawn)
	heads := c.drawn.Heads()
	wires, copper := map[int][]harness.WireID{}, map[harness.WireID]int32{}
	for name, i := range c.drawn.Wires {
		n := heads[c.drawn.Elements[i].A]
		if n == 0 {
			n = heads[c.drawn.Elements[i].B]
		}
		k := int(c.find(n))
		wires[k] = append(wires[k], name)
		copper[name] = plain.find(n)
	}
	out := []Leg{}
	for i := range items {
		near := map[int]map[int32]bool{} // by circuit: what copper joins to its ends
		for _, e := range items[i].Ends {
			if near[e.Circuit] == nil {
				near[e.Circuit] = map[int32]bool{}
			}
			if n, known := c.drawn.Points[e.Ref]; known {
				near[e.Circuit][plain.find(heads[n])] = true
			}
		}
		seen := map[int]bool{}
		for _, e := range items[i].Ends {
			if seen[e.Circuit] {
				continue
			}
			seen[e.Circuit] = true
			l := Leg{Function: items[i].ID, Circuit: e.Circuit, Wires: []harness.WireID{}}
			for _, w := range wires[e.Circuit] {
				if len(near[e.Circuit]) == 0 || near[e.Circuit][copper[w]] {
					l.Wires = append(l.Wires, w)
				}
			}
			slices.SortFunc(l.Wires, finding.Natural)
			if r != nil {
				l.In = r.LiveOf(l.Wires)
			}
			out = append(out, l)
		}
	}
	return out
}

// Leg is a circuit of a function: its ends, the wires that join them, and what it is in each position of the key.
type Leg struct {
	Function string           `json:"function"`
	Circuit  int              `json:"circuit"`
	Wires    []harness.WireID `json:"wires"`
	In       []feed.LiveIn    `json:"in,omitempty"` // where the network says it
}
