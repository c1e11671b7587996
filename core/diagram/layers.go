package diagram

import (
	"cmp"
	"slices"
)

// node is a symbol in its column, or a place at which a wire passes a column.
type node struct {
	symbol int // −1: a wire passes
	column int
	at     int     // place in its column
	y      float64 // of its upper edge
	left   []int   // ports at its left, by the number of the half wire that comes there
	right  []int
	wide   float64
	high   float64
	lines  []Text // words inside, by their place from the upper left
	top    float64
}

// hop is a piece of a wire between neighbouring columns.
type hop struct {
	wire     int
	from, to int // nodes
	first    bool
	last     bool
}

// layered is a graph in the making.
type layered struct {
	g       *Graph
	measure Measure
	nodes   []node
	hops    []hop
	columns [][]int
	number  map[string]int
	turned  []bool // wires that run from right to left
}

// rank puts symbols into columns: as far left as their wires let them, sources first, what ends it all last. Wires
// that would run back are turned.
func (l *layered) rank() {
	n := len(l.g.Symbols)
	out := make([][]int, n)
	for i := range l.g.Wires {
		w := &l.g.Wires[i]
		a, okA := l.number[w.From.Symbol]
		b, okB := l.number[w.To.Symbol]
		if okA && okB && a != b {
			out[a] = append(out[a], i)
		}
	}
	l.turned = make([]bool, len(l.g.Wires))
	state := make([]uint8, n)
	var order []int
	var visit func(i int)
	visit = func(i int) { // depth first: a wire to what is still open runs back
		state[i] = 1
		for _, w := range out[i] {
			to := l.number[l.g.Wires[w].To.Symbol]
			switch state[to] {
			case 0:
				visit(to)
			case 1:
				l.turned[w] = true
			}
		}
		state[i] = 2
		order = append(order, i)
	}
	begin := make([]int, n)
	for i := range begin {
		begin[i] = i
	}
	into := make([]int, n)
	for i := range out {
		for _, w := range out[i] {
			into[l.number[l.g.Wires[w].To.Symbol]]++
		}
	}
	slices.SortStableFunc(begin, func(a, b int) int {
		return cmp.Or(cmp.Compare(l.g.Symbols[a].Place, l.g.Symbols[b].Place), cmp.Compare(into[a], into[b]))
	})
	for _, i := range begin {
		if state[i] == 0 {
			visit(i)
		}
	}
	heads := make([][]int, n) // by symbol: what comes behind it, turned wires the other way
	for i := range l.g.Wires {
		a, okA := l.number[l.g.Wires[i].From.Symbol]
		b, okB := l.number[l.g.Wires[i].To.Symbol]
		if !okA || !okB || a == b {
			continue
		}
		if l.turned[i] {
			a, b = b, a
		}
		heads[a] = append(heads[a], b)
	}
	slices.Reverse(order)
	last := 0
	for _, i := range order {
		for _, to := range heads[i] {
			l.nodes[to].column = max(l.nodes[to].column, l.nodes[i].column+1)
			last = max(last, l.nodes[to].column)
		}
	}
	l.settle(order, heads, last)
}

// settle pulls what nothing feeds to the right, beside what it feeds, but for sources; and puts what ends it all into
// the last column.
func (l *layered) settle(order []int, heads [][]int, last int) {
	fed := make([]bool, len(heads))
	for i := range heads {
		for _, to := range heads[i] {
			fed[to] = true
		}
	}
	for _, i := range order {
		switch {
		case len(heads[i]) == 0 && l.g.Symbols[i].Place > 0 && fed[i]:
			l.nodes[i].column = last
		case !fed[i] && len(heads[i]) > 0 && l.g.Symbols[i].Place >= 0:
			room := last
			for _, to := range heads[i] {
				room = min(room, l.nodes[to].column-1)
			}
			l.nodes[i].column = room
		}
	}
}

// thread cuts wires into hops between neighbouring columns, each with a place of its own in the columns that it
// passes. A wire whose ends are in one column, or in one symbol, is not drawn as a line: it is left to the words.
func (l *layered) thread() {
	for i := range l.g.Wires {
		w := &l.g.Wires[i]
		a, okA := l.number[w.From.Symbol]
		b, okB := l.number[w.To.Symbol]
		if !okA || !okB {
			continue
		}
		if l.nodes[a].column > l.nodes[b].column {
			a, b = b, a
			l.turned[i] = true
		} else {
			l.turned[i] = false
		}
		from := a
		for c := l.nodes[a].column + 1; c < l.nodes[b].column; c++ {
			l.nodes = append(l.nodes, node{symbol: -1, column: c})
			l.hop(i, from, len(l.nodes)-1, from == a, false)
			from = len(l.nodes) - 1
		}
		if from != b {
			l.hop(i, from, b, from == a, true)
		}
	}
	most := 0
	for i := range l.nodes {
		most = max(most, l.nodes[i].column)
	}
	l.columns = make([][]int, most+1)
	for i := range l.nodes {
		n := &l.nodes[i]
		n.at = len(l.columns[n.column])
		l.columns[n.column] = append(l.columns[n.column], i)
	}
}

func (l *layered) hop(wire, from, to int, first, last bool) {
	l.hops = append(l.hops, hop{wire, from, to, first, last})
	h := len(l.hops) - 1
	l.nodes[from].right = append(l.nodes[from].right, h)
	l.nodes[to].left = append(l.nodes[to].left, h)
}

// sweeps is how often the columns are gone through.
const sweeps = 12

// order puts the nodes of each column into an order with few crossings: by the median of their neighbours, to the
// right and back, then by exchanging neighbours where that helps; the best that was seen is kept.
func (l *layered) order() {
	best, least := l.state(), l.crossed()
	for k := 0; k < sweeps && least > 0; k++ {
		for c := range l.columns {
			at := c
			if k%2 == 1 {
				at = len(l.columns) - 1 - c
			}
			l.median(at, k%2 == 0)
		}
		l.exchange()
		if n := l.crossed(); n < least {
			best, least = l.state(), n
		}
	}
	l.restore(best)
	for c := range l.columns {
		l.ports(c)
	}
}

func (l *layered) state() [][]int {
	out := make([][]int, len(l.columns))
	for i := range l.columns {
		out[i] = slices.Clone(l.columns[i])
	}
	return out
}

func (l *layered) restore(s [][]int) {
	for c := range s {
		l.columns[c] = s[c]
		for k, i := range s[c] {
			l.nodes[i].at = k
		}
	}
}

// median orders a column by the median of each node's neighbours at its left, or its right.
func (l *layered) median(column int, left bool) {
	key := make(map[int]float64, len(l.columns[column]))
	for k, i := range l.columns[column] {
		hops := l.nodes[i].right
		if left {
			hops = l.nodes[i].left
		}
		var at []int
		for _, h := range hops {
			if left {
				at = append(at, l.nodes[l.hops[h].from].at)
			} else {
				at = append(at, l.nodes[l.hops[h].to].at)
			}
		}
		if len(at) == 0 {
			key[i] = float64(k)
			continue
		}
		slices.Sort(at)
		key[i] = float64(at[len(at)/2]+at[(len(at)-1)/2]) / 2
	}
	slices.SortStableFunc(l.columns[column], func(a, b int) int { return cmp.Compare(key[a], key[b]) })
	for k, i := range l.columns[column] {
		l.nodes[i].at = k
	}
}

// between counts the crossings of the wires of two nodes of a column, the first above the second.
func (l *layered) between(a, b int) int {
	n := 0
	for _, x := range l.nodes[a].left {
		for _, y := range l.nodes[b].left {
			if l.nodes[l.hops[x].from].at > l.nodes[l.hops[y].from].at {
				n++
			}
		}
	}
	for _, x := range l.nodes[a].right {
		for _, y := range l.nodes[b].right {
			if l.nodes[l.hops[x].to].at > l.nodes[l.hops[y].to].at {
				n++
			}
		}
	}
	return n
}

// exchange exchanges neighbours of a column as long as that takes crossings away.
func (l *layered) exchange() {
	for again, rounds := true, 0; again && rounds < 8; rounds++ {
		again = false
		for _, column := range l.columns {
			for k := 0; k+1 < len(column); k++ {
				a, b := column[k], column[k+1]
				if l.between(a, b) > l.between(b, a) {
					column[k], column[k+1] = b, a
					l.nodes[a].at, l.nodes[b].at = k+1, k
					again = true
				}
			}
		}
	}
}

// crossed counts crossings between neighbouring columns by the places of nodes.
func (l *layered) crossed() int {
	n := 0
	for _, column := range l.columns {
		for k, a := range column {
			for _, b := range column[k+1:] {
				for _, x := range l.nodes[a].right {
					for _, y := range l.nodes[b].right {
						if l.nodes[l.hops[x].to].at > l.nodes[l.hops[y].to].at {
							n++
						}
					}
				}
			}
		}
	}
	return n
}

// ports puts the ports of a node's two sides into the order of what they lead to.
func (l *layered) ports(column int) {
	for _, i := range l.columns[column] {
		n := &l.nodes[i]
		slices.SortStableFunc(n.left, func(a, b int) int {
			return cmp.Compare(l.nodes[l.hops[a].from].at, l.nodes[l.hops[b].from].at)
		})
		slices.SortStableFunc(n.right, func(a, b int) int {
			return cmp.Compare(l.nodes[l.hops[a].to].at, l.nodes[l.hops[b].to].at)
		})
	}
}
