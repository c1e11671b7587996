package match

import "math"

// edges is a sparse bipartite graph of pairs worth considering, sorted by row: weights w, and the messages x and y of
// belief propagation.
type edges struct {
	start []int32 // first edge of each row, and the number of edges at the end
	col   []int32
	pat   []pattern
	bits  []float32 // weight of the function texts, fixed
	w     []float64 // odds of the pair against "neither has this counterpart"
	x, y  []float64
	p     []float64 // marginal probability of the pair
	colW  []float64 // working sums by column
	rows  []float64 // how many rows each stands for; nil: one
	cols  []float64 // and columns
}

func newEdges(rows, cols, capacity int) *edges {
	return &edges{start: make([]int32, 1, rows+1), colW: make([]float64, cols), col: make([]int32, 0, capacity),
		pat: make([]pattern, 0, capacity), bits: make([]float32, 0, capacity)}
}

func (e *edges) ready() {
	n := len(e.col)
	all := make([]float64, 4*n)
	e.w, e.x, e.y, e.p = all[:n:n], all[n:2*n:2*n], all[2*n:3*n:3*n], all[3*n:]
	for i := range e.x {
		e.x[i] = 1
	}
}

// times says how many a row or a column stands for.
func times(of []float64, i int32) float64 {
	if of == nil {
		return 1
	}
	return of[i]
}

// sumColumns adds up what comes to each column from its rows.
func (e *edges) sumColumns() {
	clear(e.colW)
	for i := range int32(len(e.start) - 1) {
		many := times(e.rows, i)
		for k := e.start[i]; k < e.start[i+1]; k++ {
			e.colW[e.col[k]] += e.w[k] * e.x[k] * many
		}
	}
}

// propagate finds the probability of each pair when every row and every column has at most one counterpart: the share
// of the total weight of all one-to-one matchings in which the pair occurs, a matching weighing the product of its
// pairs' weights. It is the sum-product algorithm on the bipartite graph, in which a message reduces to
//
//	x_ij = 1 / (1 + Σ_{k≠j} w_ik·y_ik)
//
// and the same for columns; then p = wxy / (1 + wxy). It is exact on trees; on graphs with cycles its error is about
// 0.01 (the tests compare it with full enumeration). Messages of an earlier call are its start; it ends when no
// message changes by more than the tolerance.
func (e *edges) propagate(sweeps int, tolerance float64) {
	for range sweeps {
		e.sumColumns()
		change := 0.0
		for i := range len(e.start) - 1 {
			a, b := e.start[i], e.start[i+1]
			sum := 0.0
			for k := a; k < b; k++ {
				e.y[k] = 1 / (1 + max(0, e.colW[e.col[k]]-e.w[k]*e.x[k]))
				sum += e.w[k] * e.y[k] * times(e.cols, e.col[k])
			}
			for k := a; k < b; k++ {
				x := 1 / (1 + max(0, sum-e.w[k]*e.y[k]))
				change = max(change, math.Abs(x-e.x[k]))
				e.x[k] = x
			}
		}
		if change < tolerance {
			break
		}
	}
	e.sumColumns()
	for k, j := range e.col {
		y := 1 / (1 + max(0, e.colW[j]-e.w[k]*e.x[k]))
		odds := e.w[k] * e.x[k] * y
		e.p[k] = odds / (1 + odds)
	}
}
