package network

import "slices"

// pattern is where the factor of the equations can be other than zero, in the order of elimination. It follows from
// which nodes elements join, whether they conduct or not, and so holds for every condition.
type pattern struct {
	place  []int32 // by row as given: its place in the order
	start  []int32 // by column, one more at the end: where its entries begin
	rows   []int32 // by entry: its row, ascending within a column
	parent []int32 // by column: the first row of its entries, −1 for none
	left   []int32 // by row, one more at the end: where its list begins in across
	across []entry // by row: the entries in it
}

// entry is an entry of the factor by its column and its number.
type entry struct{ column, at int32 }

// budget bounds the looks at neighbours that ordering takes: a second or so. A harness of 30,000 wires takes a
// thousandth.
const budget = 400_000_000

// minimumDegree orders the rows so that the one with the fewest neighbours left is eliminated first (Tinney & Walker
// 1967), ties by number; for the nearly tree-like networks of a harness hardly anything is filled in. It gives nil
// where the order would take more than the budget: no vehicle is so knotted.
func minimumDegree(n int, pairs [][2]int32) *pattern {
	next := make([][]int32, n)
	for _, p := range pairs {
		next[p[0]], next[p[1]] = append(next[p[0]], p[1]), append(next[p[1]], p[0])
	}
	degree := make([]int32, n)
	for i := range next {
		slices.Sort(next[i])
		next[i] = slices.Compact(next[i])
		degree[i] = int32(len(next[i]))
	}
	q := newQueue(degree)
	p := &pattern{place: make([]int32, n), start: make([]int32, 1, n+1)}
	gone := make([]bool, n)
	columns := make([][]int32, n)
	spent := 0
	for step := range n {
		if spent > budget {
			return nil
		}
		v := q.least(degree, gone)
		gone[v], p.place[v] = true, int32(step)
		around := next[v][:0]
		for _, u := range next[v] {
			if !gone[u] {
				around = append(around, u)
			}
		}
		next[v], columns[step] = nil, around
		for i, u := range around {
			degree[u]--
			for _, w := range around[i+1:] {
				spent += 1 + min(len(next[u]), len(next[w]))
				if !joined(next, gone, u, w) {
					next[u], next[w] = append(next[u], w), append(next[w], u)
					degree[u], degree[w] = degree[u]+1, degree[w]+1
				}
			}
		}
		for _, u := range around {
			q.put(u, degree[u])
		}
	}
	p.lay(columns)
	return p
}

// joined says whether two rows are neighbours, looking through the shorter list, of which it drops those that are gone.
func joined(next [][]int32, gone []bool, u, w int32) bool {
	if len(next[u]) > len(next[w]) {
		u, w = w, u
	}
	kept := next[u][:0]
	found := false
	for _, x := range next[u] {
		if !gone[x] {
			kept = append(kept, x)
			found = found || x == w
		}
	}
	next[u] = kept
	return found
}

// lay numbers the entries of the columns.
func (p *pattern) lay(columns [][]int32) {
	n := len(columns)
	p.parent = make([]int32, n)
	counts := make([]int32, n+1)
	for k, column := range columns {
		p.parent[k] = -1
		for i, u := range column {
			column[i] = p.place[u]
		}
		slices.Sort(column)
		for _, i := range column {
			counts[i+1]++
		}
		if len(column) > 0 {
			p.parent[k] = column[0]
		}
		p.rows = append(p.rows, column...)
		p.start = append(p.start, int32(len(p.rows)))
	}
	for i := range n {
		counts[i+1] += counts[i]
	}
	p.left, p.across = counts, make([]entry, len(p.rows))
	fill := slices.Clone(counts)
	for k := range columns {
		for at := p.start[k]; at < p.start[k+1]; at++ {
			i := p.rows[at]
			p.across[fill[i]] = entry{int32(k), at}
			fill[i]++
		}
	}
}

// at gives the entry of two rows, −1 where the pattern has none or one is the reference.
func (p *pattern) at(a, b int32) int32 {
	if a < 0 || b < 0 || a == b {
		return -1
	}
	k, i := min(a, b), max(a, b)
	at, found := slices.BinarySearch(p.rows[p.start[k]:p.start[k+1]], i)
	if !found {
		return -1
	}
	return p.start[k] + int32(at)
}

// queue gives rows by their degree. A row may stand in it several times; only the latest counts.
type queue struct {
	buckets [][]int32
	low     int
}

func newQueue(degree []int32) *queue {
	q := &queue{}
	for i := len(degree) - 1; i >= 0; i-- {
		q.put(int32(i), degree[i])
	}
	return q
}

func (q *queue) put(row, degree int32) {
	for int(degree) >= len(q.buckets) {
		q.buckets = append(q.buckets, nil)
	}
	q.buckets[degree] = append(q.buckets[degree], row)
	q.low = min(q.low, int(degree))
}

func (q *queue) least(degree []int32, gone []bool) int32 {
	for {
		b := q.buckets[q.low]
		if len(b) == 0 {
			q.low++
			continue
		}
		row := b[len(b)-1]
		q.buckets[q.low] = b[:len(b)-1]
		if !gone[row] && int(degree[row]) == q.low {
			return row
		}
	}
}
