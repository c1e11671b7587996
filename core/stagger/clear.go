package stagger

import "slices"

// distance gives how far spots are from the nearest joint of another wire, mm, at most Apart.
func (b *Bundles) distance(c *Choice, spots []Spot) float64 {
	least := b.apart
	for i := range spots {
		x := &spots[i]
		lie := b.on.at(x.Segment)
		at := firstFrom(lie, x.At)
		for k := at; k < len(lie) && lie[k].at-x.At < least; k++ {
			if lie[k].joint != c.Wire {
				least = lie[k].at - x.At
			}
		}
		for k := at - 1; k >= 0 && x.At-lie[k].at < least; k-- {
			if lie[k].joint != c.Wire {
				least = x.At - lie[k].at
			}
		}
		for k, station := range x.stations {
			if station < 0 {
				continue
			}
			for _, t := range b.near.at(station) {
				if t.at+x.off[k] >= least {
					break
				}
				if t.seg != x.Segment && t.joint != c.Wire {
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
func (b *Bundles) makeRoom(c *Choice, k int, in []int, others map[int]*Choice) bool {
	for _, line := range in {
		if others[line].stuck && len(others) > patient {
			return false
		}
	}
	was := make([]int, len(in))
	for i, line := range in {
		was[i] = others[line].Took
		b.leave(others[line])
	}
	b.take(c, k)
	for i, line := range in {
		other := others[line]
		j := 0
		for j < len(other.cut) && (bad(other.at(j)) || b.blocked(other, other.at(j))) {
			j++
		}
		if j < len(other.cut) {
			b.take(other, j)
			continue
		}
		other.stuck = true
		for _, moved := range in[:i] {
			b.leave(others[moved])
		}
		b.leave(c)
		for n, line := range in {
			b.take(others[line], was[n])
		}
		return false
	}
	return true
}

// blocked says whether another wire's joint is too near to these spots.
func (b *Bundles) blocked(c *Choice, spots []Spot) bool { return len(b.seen(c, spots, 1)) > 0 }

// blocking lists the wires whose joints are too near to these spots, as many as are asked for.
func (b *Bundles) blocking(c *Choice, spots []Spot, most int) []int {
	return slices.Clone(b.seen(c, spots, most))
}

// seen does the same, in a list that the next call writes over.
func (b *Bundles) seen(c *Choice, spots []Spot, most int) []int {
	apart := b.apart
	out := b.scratch[:0]
	defer func() { b.scratch = out[:0] }()
	note := func(line int) bool {
		if line != c.Wire && !slices.Contains(out, line) {
			out = append(out, line)
		}
		return len(out) >= most
	}
	for i := range spots {
		x := &spots[i]
		lie := b.on.at(x.Segment)
		for k := firstFrom(lie, x.At-apart); k < len(lie) && lie[k].at < x.At+apart; k++ {
			if lie[k].at > x.At-apart && note(lie[k].joint) {
				return out
			}
		}
		for k, station := range x.stations {
			if station < 0 || x.off[k] >= apart {
				continue
			}
			for _, t := range b.near.at(station) {
				if t.at+x.off[k] >= apart {
					break
				}
				if t.seg != x.Segment && note(t.joint) {
					return out
				}
			}
		}
	}
	return out
}

func (b *Bundles) take(c *Choice, k int) {
	c.Took = k
	spots := c.at(k)
	for i := range spots {
		x := &spots[i]
		b.on.put(x.Segment, taken{x.At, x.Segment, c.Wire})
		for e, station := range x.stations {
			if station >= 0 && x.off[e] < b.apart {
				b.near.put(station, taken{x.off[e], x.Segment, c.Wire})
			}
		}
	}
}

func (b *Bundles) leave(c *Choice) {
	for i := range c.spots[c.Took] {
		x := &c.spots[c.Took][i]
		b.on.drop(x.Segment, c.Wire)
		for _, station := range x.stations {
			if station >= 0 {
				b.near.drop(station, c.Wire)
			}
		}
	}
	c.Took = -1
}
