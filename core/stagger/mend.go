package stagger

import "slices"

// Bounds of how long joints are moved one at a time.
const (
	mostLooks  = 40000 // places that are looked at in all
	lessLooks  = 6000  // and when it is tried what room a wire would leave
	mostRelief = 12    // wires that are proposed to be replaced whole
	mostCounts = 8     // joints in the way that are counted
	waits      = 12    // moves before a place that was left may be taken again
)

// mend moves, one at a time, whoever stands in another's way to where it stands in fewest ways, until nobody does or
// patience is out, and keeps the best that it came by (S. Minton, M. Johnston, A. Philips, P. Laird, "Minimizing
// conflicts", Artificial Intelligence 58, 1992, from memory); a place that was left is not taken again for a while.
func (b *Bundles) mend(all []*Choice, most int) {
	type place struct{ wire, k int }
	left := map[place]int{} // the move from which it may be taken again
	best, least := b.standing(all), len(all)+1
	seed := uint64(1)
	pick := func(n int) int { // a linear congruence, the constants of Knuth's MMIX
		seed = seed*6364136223846793005 + 1442695040888963407
		return int(seed>>33) % n
	}
	for move, looks := 0, most; looks > 0; move++ {
		var troubled []*Choice
		for _, c := range all {
			if b.against(c, c.Took, 1) > 0 {
				troubled = append(troubled, c)
			}
		}
		if len(troubled) < least {
			best, least = b.standing(all), len(troubled)
		}
		if least == 0 {
			return
		}
		c := troubled[pick(len(troubled))]
		to, fewest := -1, 0
		for k := range c.cut {
			if k == c.Took || left[place{c.Wire, k}] > move {
				continue
			}
			if n := b.against(c, k, mostCounts); to < 0 || n < fewest || n == fewest && pick(3) == 0 {
				to, fewest = k, n
			}
		}
		looks -= len(c.cut) + len(all)
		if to < 0 {
			continue
		}
		left[place{c.Wire, c.Took}] = move + waits
		b.leave(c)
		b.take(c, to)
	}
	for i, c := range all {
		if c.Took != best[i] {
			b.leave(c)
			b.take(c, best[i])
		}
	}
}

// relief gives wires which, replaced whole, leave room for the joints of the rest: whoever is most in the way goes
// first, and the rest are moved again, until none is in another's way. None where that takes too many.
func (b *Bundles) relief(all []*Choice) []int {
	was, rest := b.standing(all), slices.Clone(all)
	var out []int
	clear := false
	for {
		worst, most := -1, 0
		for i, c := range rest {
			if n := b.against(c, c.Took, mostCounts); n > most {
				worst, most = i, n
			}
		}
		if clear = worst < 0; clear || len(out) == mostRelief {
			break
		}
		out = append(out, rest[worst].Wire)
		b.leave(rest[worst])
		rest = slices.Delete(rest, worst, worst+1)
		b.mend(rest, lessLooks)
	}
	for _, c := range rest {
		b.leave(c)
	}
	for i, c := range all {
		b.take(c, was[i])
	}
	if !clear {
		return nil
	}
	return out
}

// standing notes the place that each has taken.
func (b *Bundles) standing(all []*Choice) []int {
	out := make([]int, len(all))
	for i, c := range all {
		out[i] = c.Took
	}
	return out
}

// against counts what speaks against a candidate: joints of others that are too near, as many as are asked for, and
// more than any of those the place itself.
func (b *Bundles) against(c *Choice, k, most int) int {
	spots := c.at(k)
	n := len(b.seen(c, spots, most))
	if bad(spots) {
		n += 1000
	}
	return n
}
