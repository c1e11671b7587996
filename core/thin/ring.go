package thin

// dropRings lets go of rings of copper that hang on the rest at one place only and hold no wanted end of their own:
// whatever goes round in them comes back to where it was. It says whether any went. What stays is then joined as the
// blocks of a graph are (J. Hopcroft, R. Tarjan, Algorithm 447, Communications of the ACM 16, 1973).
func (t *thinning) dropRings(part []int32, degree []int32, live []bool) bool {
	wires := 0
	for _, at := range part {
		wires += int(degree[at])
	}
	nodes := 0
	for _, at := range part {
		if degree[at] > 0 {
			nodes++
		}
	}
	if wires/2 < nodes { // no ring
		return false
	}
	b := blocks{t: t, order: map[int32]int{}, low: map[int32]int{}, in: map[int32]int{}}
	for _, at := range part {
		if degree[at] > 0 && b.order[at] == 0 {
			b.visit(at, -1)
		}
	}
	dropped := false
	for _, block := range b.found {
		if !t.idleRing(block, b.in, len(b.found) > 1, live) {
			continue
		}
		dropped = true
		for _, w := range block {
			t.stays[w] = false
			for _, at := range t.net.Ends[w] {
				degree[at]--
			}
		}
	}
	return dropped
}

// idleRing says whether a block is a ring that serves nothing: in is in how many blocks each place is, and others says
// whether there are others.
func (t *thinning) idleRing(block []int32, in map[int32]int, others bool, live []bool) bool {
	if len(block) == 1 && t.net.Ends[block[0]][0] != t.net.Ends[block[0]][1] {
		return false
	}
	needed := map[int32]bool{}
	for _, w := range block {
		if t.forced[w] == Keep {
			return false
		}
		for _, at := range t.net.Ends[w] {
			if live[at] || in[at] > 1 {
				needed[at] = true
			}
		}
	}
	return len(needed) == 0 || len(needed) == 1 && others
}

// blocks finds the blocks of what stays: wires of which any two lie on one ring, and each that lies on none.
type blocks struct {
	t     *thinning
	order map[int32]int // in which places were come to, from 1
	low   map[int32]int // the earliest place that is reached from there without going back
	in    map[int32]int // in how many blocks a place is
	open  []int32       // wires that are not yet part of a block
	found [][]int32
}

func (b *blocks) visit(at, by int32) {
	b.order[at] = len(b.order) + 1
	b.low[at] = b.order[at]
	for _, x := range b.t.net.Tips(at) {
		w, o := x.Wire(), b.t.net.Far(x)
		switch {
		case !b.t.stays[w] || w == by:
		case o == at: // both its ends are here: a block of its own
			if x.End() == 0 {
				b.in[at]++
				b.found = append(b.found, []int32{w})
			}
		case b.order[o] == 0:
			first := len(b.open)
			b.open = append(b.open, w)
			b.visit(o, w)
			b.low[at] = min(b.low[at], b.low[o])
			if b.low[o] >= b.order[at] {
				b.close(first)
			}
		case b.order[o] < b.order[at]:
			b.open = append(b.open, w)
			b.low[at] = min(b.low[at], b.order[o])
		}
	}
}

func (b *blocks) close(first int) {
	block := append([]int32(nil), b.open[first:]...)
	b.open = b.open[:first]
	seen := map[int32]bool{}
	for _, w := range block {
		for _, at := range b.t.net.Ends[w] {
			if !seen[at] {
				seen[at] = true
				b.in[at]++
			}
		}
	}
	b.found = append(b.found, block)
}
