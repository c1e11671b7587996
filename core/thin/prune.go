package thin

import "draxel/core/circuit"

// prune says which wires stay. In each circuit the ends that are wanted stay joined as they are, by whatever copper
// leads from one to another; what leads to no wanted end goes. So a chain of splices is resolved as a whole.
//
// An end is wanted if it is not decided away: kept, undecided, or never followed. An end at a hub that is merely not
// decided away is wanted for the sake of others: a fuse whose every load goes is not held by itself. A circuit in which
// nothing was decided is left alone, and the last wire of a lone wanted end stays, since nobody decided it away.
func (t *thinning) prune() {
	n := t.net
	t.stays = make([]bool, len(t.loom.Wires))
	for w := range t.stays {
		t.stays[w] = t.forced[w] != Goes
	}
	touched := make([]bool, n.Circuits)
	for i := range n.Nodes {
		if t.node[i].choice == Goes {
			touched[n.Nodes[i].Circuit] = true
		}
	}
	for w, c := range t.forced {
		if c == Goes {
			touched[n.Nodes[n.Ends[w][0]].Circuit] = true
		}
	}
	seen := make([]bool, len(n.Nodes))
	degree := make([]int32, len(n.Nodes))
	live := make([]bool, len(n.Nodes))
	var part []int32
	for i := range n.Nodes {
		if seen[i] || !touched[n.Nodes[i].Circuit] {
			continue
		}
		part = t.reach(int32(i), seen, part[:0])
		t.prunePart(part, degree, live)
	}
}

// reach lists the nodes that are joined to one by wires that have not been decided away.
func (t *thinning) reach(from int32, seen []bool, part []int32) []int32 {
	seen[from] = true
	part = append(part, from)
	for i := 0; i < len(part); i++ {
		for _, x := range t.net.Tips(part[i]) {
			if o := t.net.Far(x); t.stays[x.Wire()] && !seen[o] {
				seen[o] = true
				part = append(part, o)
			}
		}
	}
	return part
}

func (t *thinning) prunePart(part []int32, degree []int32, live []bool) {
	wanted, hubs, dead := 0, 0, false
	for _, at := range part {
		degree[at] = 0
		for _, x := range t.net.Tips(at) {
			if t.stays[x.Wire()] {
				degree[at]++
			}
		}
		switch k, s := t.net.Nodes[at].Kind, t.node[at]; {
		case s.choice == Goes:
			dead = true
		case k.Passes() || k == circuit.Taped:
		case s.soft:
			hubs++
		default:
			wanted++
		}
	}
	cut := false // a wire that was decided away hung here
	for _, at := range part {
		if int(degree[at]) < len(t.net.Tips(at)) {
			cut = true
		}
	}
	if !dead && !cut {
		return
	}
	for _, at := range part {
		s, k := t.node[at], t.net.Nodes[at].Kind
		switch {
		case s.choice == Goes || k.Passes():
			live[at] = false
		case k == circuit.Taped:
			live[at] = wanted > 0 || hubs > 1
		case s.soft:
			live[at] = wanted > 0 || hubs > 1
		default:
			live[at] = true
		}
	}
	if wanted == 0 && hubs < 2 {
		t.dropAll(part)
		return
	}
	for t.dropTails(part, degree, live); t.dropRings(part, degree, live); {
		t.dropTails(part, degree, live)
	}
}

// dropTails lets go of what hangs on the rest by one wire and leads to no wanted end.
func (t *thinning) dropTails(part []int32, degree []int32, live []bool) {
	queue := make([]int32, 0, len(part))
	for _, at := range part {
		if degree[at] == 1 && !live[at] {
			queue = append(queue, at)
		}
	}
	for i := 0; i < len(queue); i++ {
		at := queue[i]
		if degree[at] != 1 {
			continue
		}
		for _, x := range t.net.Tips(at) {
			w := x.Wire()
			if !t.stays[w] || t.forced[w] == Keep {
				continue
			}
			o := t.net.Far(x)
			if live[o] && degree[o] == 1 && !t.node[o].soft && t.net.Nodes[o].Kind != circuit.Taped {
				continue // the last wire of a wanted end
			}
			t.stays[w] = false
			degree[at]--
			if degree[o]--; degree[o] == 1 && !live[o] {
				queue = append(queue, o)
			}
		}
	}
}

// dropAll lets go of everything in a part that nobody wants.
func (t *thinning) dropAll(part []int32) {
	for _, at := range part {
		for _, x := range t.net.Tips(at) {
			if w := x.Wire(); t.forced[w] != Keep {
				t.stays[w] = false
			}
		}
	}
}
