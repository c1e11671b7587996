package reach

import "slices"

// distance gives how far spots are from the nearest joint of another wire, mm, at most Apart.
func (st *stagger) distance(c *choice, spots []spot) float64 {
	least := st.r.in.Decisions.Rules.Apart
	for i := range spots {
		x := &spots[i]
		lie := st.on.at(x.segment)
		at := firstFrom(lie, x.at)
		for k := at; k < len(lie) && lie[k].at-x.at < least; k++ {
			if lie[k].joint != c.line {
				least = lie[k].at - x.at
			}
		}
		for k := at - 1; k >= 0 && x.at-lie[k].at < least; k-- {
			if lie[k].joint != c.line {
				least = x.at - lie[k].at
			}
		}
		for k, station := range x.stations {
			if station < 0 {
				continue
			}
			for _, t := range st.near.at(station) {
				if t.at+x.off[k] >= least {
					break
				}
				if t.seg != x.segment && t.joint != c.line {
					least = t.at + x.off[k]
				}
			}
		}
	}
	return least
}

// firstFrom gives the number of the first joint that lies at a place or behind it.
func firstFrom(lie []taken, at float64) int {
	i, j := 0, len(lie)
	for i < j { // slices.BinarySearchFunc asks a function each time, and this is what staggering does most
		if h := int(uint(i+j) >> 1); lie[h].at < at {
			i = h + 1
		} else {
			j = h
		}
	}
	return i
}

// places are the joints that lie at each of so many segments or stations, in the order of their distance.
type places [][]taken

// at gives those of one.
func (p places) at(n int) []taken {
	if n < len(p) {
		return p[n]
	}
	return nil
}

func (p *places) put(n int, t taken) {
	for n >= len(*p) {
		*p = append(*p, nil)
	}
	(*p)[n] = slices.Insert((*p)[n], firstFrom((*p)[n], t.at), t)
}

func (p places) drop(n, line int) {
	if n < len(p) {
		p[n] = slices.DeleteFunc(p[n], func(t taken) bool { return t.joint == line })
	}
}

func (p places) clear() {
	for n := range p {
		p[n] = p[n][:0]
	}
}

// Bounds of how long it is tried to make room for one.
const (
	mostMoved = 3  // others that are asked to move
	mostTries = 24 // places for which they are asked
	patient   = 60 // wires up to which those that had nowhere to go are asked again and again
)

// makeRoom moves other wires' joints so that this one can have its candidate; where one of them has nowhere to go all
// stay.
func (st *stagger) makeRoom(c *choice, k int, in []int, others map[int]*choice) bool {
	for _, line := range in {
		if others[line].stuck && len(others) > patient {
			return false
		}
	}
	was := make([]int, len(in))
	for i, line := range in {
		was[i] = others[line].took
		st.leave(others[line])
	}
	st.take(c, k)
	for i, line := range in {
		other := others[line]
		j := 0
		for j < len(other.cut) && (bad(st.at(other, j)) || st.blocked(other, st.at(other, j))) {
			j++
		}
		if j < len(other.cut) {
			st.take(other, j)
			continue
		}
		other.stuck = true
		for _, moved := range in[:i] {
			st.leave(others[moved])
		}
		st.leave(c)
		for n, line := range in {
			st.take(others[line], was[n])
		}
		return false
	}
	return true
}

// blocked says whether another wire's joint is too near to these spots.
func (st *stagger) blocked(c *choice, spots []spot) bool { return len(st.seen(c, spots, 1)) > 0 }

// blocking lists the wires whose joints are too near to these spots, as many as are asked for.
func (st *stagger) blocking(c *choice, spots []spot, most int) []int {
	return slices.Clone(st.seen(c, spots, most))
}

// seen does the same, in a list that the next call writes over.
func (st *stagger) seen(c *choice, spots []spot, most int) []int {
	apart := st.r.in.Decisions.Rules.Apart
	out := st.scratch[:0]
	defer func() { st.scratch = out[:0] }()
	note := func(line int) bool {
		if line != c.line && !slices.Contains(out, line) {
			out = append(out, line)
		}
		return len(out) >= most
	}
	for i := range spots {
		x := &spots[i]
		lie := st.on.at(x.segment)
		for k := firstFrom(lie, x.at-apart); k < len(lie) && lie[k].at < x.at+apart; k++ {
			if lie[k].at > x.at-apart && note(lie[k].joint) {
				return out
			}
		}
		for k, station := range x.stations {
			if station < 0 || x.off[k] >= apart {
				continue
			}
			for _, t := range st.near.at(station) {
				if t.at+x.off[k] >= apart {
					break
				}
				if t.seg != x.segment && note(t.joint) {
					return out
				}
			}
		}
	}
	return out
}

func (st *stagger) take(c *choice, k int) {
	c.took = k
	spots := st.at(c, k)
	for i := range spots {
		x := &spots[i]
		st.on.put(x.segment, taken{x.at, x.segment, c.line})
		for e, station := range x.stations {
			if station >= 0 && x.off[e] < st.r.in.Decisions.Rules.Apart {
				st.near.put(station, taken{x.off[e], x.segment, c.line})
			}
		}
	}
}

func (st *stagger) leave(c *choice) {
	for i := range c.spots[c.took] {
		x := &c.spots[c.took][i]
		st.on.drop(x.segment, c.line)
		for _, station := range x.stations {
			if station >= 0 {
				st.near.drop(station, c.line)
			}
		}
	}
	c.took = -1
}
