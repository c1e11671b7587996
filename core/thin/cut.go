package thin

import (
	"fmt"
	"slices"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// Consequence is what happens if a thing is cut out of the harness.
type Consequence struct {
	On       Scope    `json:"on"`
	ID       string   `json:"id"`
	Circuits []Parted `json:"circuits"`
	Dies     []Loss   `json:"dies"`  // functions that nobody has decided away and that lose what feeds or reads them
	Fuses    []string `json:"fuses"` // fuse box cavities that lose something
	Legal    []string `json:"legal"` // what the law may want kept
	Locked   string   `json:"locked,omitempty"`
	Carries  int      `json:"carries"` // wires that are kept or undecided
}

// Parted is a circuit that falls apart.
type Parted struct {
	Circuit int              `json:"circuit"`
	Name    string           `json:"name"`
	Wires   []harness.WireID `json:"wires"` // of it, those that are cut
	Lose    []string         `json:"lose"`  // ends that are no longer joined to the rest
}

// Loss is a function that dies.
type Loss struct {
	At       string `json:"at"`
	Function string `json:"function"`
	Device   string `json:"device,omitempty"`
	Kept     bool   `json:"kept,omitempty"` // somebody decided to keep it
	Feed     bool   `json:"feed,omitempty"` // it is the last feed or ground that is lost
}

// Cut says what dies if this is cut: a wire, a connector, a module or a splice, whatever has been decided so far. It
// fails when there is no such thing.
func (r *Result) Cut(on Scope, id string) (Consequence, error) {
	t := r.t
	c := Consequence{On: on, ID: id, Circuits: []Parted{}, Dies: []Loss{}, Fuses: []string{}, Legal: []string{}}
	cut, err := t.tipsOf(on, id, &c)
	if err != nil {
		return c, err
	}
	circuits := []int32{}
	isCut := make(map[circuit.Tip]bool, len(cut))
	for _, x := range cut {
		isCut[x] = true
		circuits = append(circuits, t.net.Nodes[t.net.Ends[x.Wire()][0]].Circuit)
	}
	slices.Sort(circuits)
	circuits = slices.Compact(circuits)
	members := make(map[int32][]int32, len(circuits))
	for i := range t.net.Nodes {
		if _, hit := slices.BinarySearch(circuits, t.net.Nodes[i].Circuit); hit {
			members[t.net.Nodes[i].Circuit] = append(members[t.net.Nodes[i].Circuit], int32(i))
		}
	}
	for _, k := range circuits {
		t.part(&c, k, members[k], cut, isCut)
	}
	for _, list := range []*[]string{&c.Fuses, &c.Legal} {
		slices.SortFunc(*list, finding.Natural)
		*list = slices.Compact(*list)
	}
	slices.SortFunc(c.Dies, func(a, b Loss) int { return finding.Natural(a.At, b.At) })
	return c, nil
}

// tipsOf lists the tips of wires that are let go when the thing is cut.
func (t *thinning) tipsOf(on Scope, id string, c *Consequence) ([]circuit.Tip, error) {
	var cut []circuit.Tip
	wires := map[int32]bool{}
	take := func(x circuit.Tip) {
		cut = append(cut, x)
		if w := x.Wire(); !wires[w] {
			wires[w] = true
			if t.guard.Wires[w] {
				c.Locked = "It carries a restraint or high-voltage circuit: leave it to qualified hands."
			}
			if t.result.Wires[w].Choice != Goes {
				c.Carries++
			}
		}
	}
	connectors := map[string]bool{}
	switch on {
	case Wire:
		if w, ok := t.wireNumber()[harness.WireID(id)]; ok {
			take(circuit.Tip(2 * w))
			take(circuit.Tip(2*w + 1))
		}
	case Joint:
		if at, ok := t.net.Joint(harness.JointID(id)); ok {
			for _, x := range t.net.Tips(at) {
				take(x)
			}
		}
	case Connector:
		connectors[id] = true
	case Module:
		for _, h := range t.loom.Connectors {
			connectors[h.ID] = connectors[h.ID] || h.Device == id
		}
	case System:
		for h := range t.loom.Connectors {
			if d := t.net.Plugged[h]; d >= 0 && t.loom.Devices[d].System == id {
				connectors[t.loom.Connectors[h].ID] = true
			}
		}
		for w := range t.loom.Wires {
			if t.wireSystem(int32(w)) == id && t.result.Wires[w].Choice != Keep {
				take(circuit.Tip(2 * w))
				take(circuit.Tip(2*w + 1))
			}
		}
	}
	for w := range t.loom.Wires {
		for end := range 2 {
			if e := t.loom.Wires[w].Ends[end].At; e != (harness.Ref{}) && connectors[e.Connector] {
				take(circuit.Tip(2*w + end))
			}
		}
	}
	for h, touched := range connectors {
		if i, ok := t.net.Half(h); touched && ok && t.loom.Connectors[i].Locked {
			c.Locked = fmt.Sprintf("Connector %s is somebody else's.", h)
		}
	}
	if len(cut) == 0 {
		return nil, fmt.Errorf("there is no %s %q with a wire in it", on, id)
	}
	return cut, nil
}

// part looks at one circuit: which of its ends are no longer joined, and what that kills.
func (t *thinning) part(c *Consequence, number int32, nodes []int32, cut []circuit.Tip, isCut map[circuit.Tip]bool) {
	p := Parted{Circuit: int(number), Wires: []harness.WireID{}, Lose: []string{}}
	group := make(map[int32]int, len(nodes))
	hub := map[int]bool{} // groups that hold a fuse, a unit or a ground
	groups, before := 0, false
	for _, start := range nodes {
		if group[start] > 0 {
			continue
		}
		groups++
		queue := []int32{start}
		group[start] = groups
		for len(queue) > 0 {
			at := queue[0]
			queue = queue[1:]
			if t.src.of[at] {
				before = true
				hub[groups] = true
			}
			for _, x := range t.net.Tips(at) {
				o := t.net.Far(x)
				if !isCut[x] && !isCut[x^1] && group[o] == 0 {
					group[o] = groups
					queue = append(queue, o)
				}
			}
		}
	}
	for _, x := range cut {
		w := &t.loom.Wires[x.Wire()]
		if t.net.Nodes[t.net.Ends[x.Wire()][0]].Circuit != number {
			continue
		}
		if !slices.Contains(p.Wires, w.ID) {
			p.Wires = append(p.Wires, w.ID)
		}
		if p.Name == "" && w.Function != "" {
			p.Name = w.Function
		}
		if l := signal.Legal(&w.Signal); l != "" {
			c.Legal = append(c.Legal, l)
		}
	}
	most := t.largest(nodes, group, groups)
	parted := t.partedParts(nodes, group)
	for _, at := range nodes {
		n := &t.net.Nodes[at]
		if n.Kind != circuit.Terminal {
			continue
		}
		name := n.Cavities[0].String()
		lost := group[at] != most
		if lost {
			p.Lose = append(p.Lose, name)
		}
		if d := t.net.DeviceOf(at); d != nil && d.Kind == harness.Fuses && (lost || groups > 1) {
			c.Fuses = append(c.Fuses, name)
		}
		if (before && !hub[group[at]] || !before && parted) && t.src.takes(t, at) && t.node[at].choice != Goes {
			l := t.loss(at)
			l.Feed = before && t.src.strict[number]
			c.Dies = append(c.Dies, l)
		}
	}
	slices.SortFunc(p.Lose, finding.Natural)
	c.Circuits = append(c.Circuits, p)
}

// partedParts says whether parts that were joined to one another, without a fuse, a unit or a ground among them, fall
// apart: a lamp and the switch that feeds it.
func (t *thinning) partedParts(nodes []int32, group map[int32]int) bool {
	first := 0
	for _, at := range nodes {
		if t.net.Nodes[at].Kind != circuit.Terminal {
			continue
		}
		if first == 0 {
			first = group[at]
		} else if group[at] != first {
			return true
		}
	}
	return false
}

// largest gives the group with most terminals: what is joined to it is not lost.
func (t *thinning) largest(nodes []int32, group map[int32]int, groups int) int {
	count := make([]int, groups+1)
	for _, at := range nodes {
		if t.net.Nodes[at].Kind == circuit.Terminal {
			count[group[at]] += 2
			if t.net.Hub(at) {
				count[group[at]]++
			}
		}
	}
	best := 1
	for g := range count {
		if count[g] > count[best] {
			best = g
		}
	}
	return best
}

func (t *thinning) loss(at int32) Loss {
	l := Loss{At: t.net.Nodes[at].Cavities[0].String(), Kept: t.node[at].choice == Keep}
	for _, x := range t.net.Tips(at) {
		if f := t.loom.Wires[x.Wire()].Function; f != "" {
			l.Function = f
		}
	}
	if d := t.net.DeviceOf(at); d != nil {
		l.Device = d.ID
	}
	return l
}
