package prove

import "slices"

// hits gives the least sets, of at most so many members, that have a member in each of the sets given: what explains
// every conflict (de Kleer & Williams 1987, their minimal candidates). They come in ascending order, the smaller
// first.
func hits(sets [][]int, most int) [][]int {
	found := [][]int{}
	level := [][]int{{}}
	for size := 0; size <= most; size++ {
		var next [][]int
		for _, h := range level {
			open := slices.IndexFunc(sets, func(s []int) bool {
				return !slices.ContainsFunc(s, func(x int) bool { return slices.Contains(h, x) })
			})
			if open < 0 {
				if !slices.ContainsFunc(found, func(f []int) bool { return within(f, h) }) {
					found = append(found, h)
				}
				continue
			}
			for _, x := range sets[open] {
				more := slices.Clone(h)
				more = append(more, x)
				slices.Sort(more)
				next = append(next, more)
			}
		}
		slices.SortFunc(next, func(a, b []int) int { return slices.Compare(a, b) })
		level = slices.CompactFunc(next, slices.Equal)
	}
	return found
}

// within says whether all members of one set are in another.
func within(a, b []int) bool {
	return !slices.ContainsFunc(a, func(x int) bool { return !slices.Contains(b, x) })
}
