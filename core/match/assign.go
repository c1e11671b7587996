package match

import "math"

// Assign gives for each row the column that makes the sum of gains greatest when each column is taken at most once, or
// −1 where a row is better left without: every row has a dummy of its own at gain 0. Gains of −Inf are forbidden pairs.
//
// It is the shortest augmenting path method for rectangular problems (D. F. Crouse, "On implementing 2D rectangular
// assignment algorithms", IEEE Transactions on Aerospace and Electronic Systems 52, 2016), O(rows² × columns). Of equal
// solutions the one found first, with rows and columns in their order, is given.
func Assign(gain [][]float64) []int {
	rows, cols := len(gain), 0
	for _, g := range gain {
		cols = max(cols, len(g))
	}
	s := solver{gain: gain, cols: cols, u: make([]float64, rows), v: make([]float64, cols), rowOf: filled(cols, -1),
		colOf: filled(rows, -1),
		dist:  make([]float64, cols), pred: make([]int, cols), open: make([]int, cols), seenCol: make([]bool, cols)}
	for i := range rows {
		s.augment(i)
	}
	return s.colOf
}

func filled[T any](n int, value T) []T {
	out := make([]T, n)
	for i := range out {
		out[i] = value
	}
	return out
}

type solver struct {
	gain  [][]float64
	cols  int
	u, v  []float64 // dual prices of rows and columns
	rowOf []int     // the row that has the column, −1 when free
	colOf []int     // the column that the row has, −1 for its dummy
	dist  []float64
	pred  []int // the row from which the column was reached
	open  []int // columns not yet settled

	seenCol []bool
}

// augment gives the row a column along the cheapest path: it may take a free column, take one from another row which
// moves on, or end at a dummy, the row's own or that of a row that it displaces.
func (s *solver) augment(first int) {
	for j := range s.cols {
		s.dist[j], s.pred[j], s.open[j], s.seenCol[j] = math.Inf(1), -1, j, false
	}
	open := s.open
	row, reach := first, 0.0 // reach: length of the path to the row
	best, bestRow, bestCol := math.Inf(1), -1, -1
	settled := []int{first}
	lengths := []float64{0}
	for {
		if d := reach - s.u[row]; d < best { // the row's own dummy has cost 0 and price 0
			best, bestRow, bestCol = d, row, -1
		}
		g, base := s.gain[row], reach-s.u[row]
		next, at := math.Inf(1), -1
		for k, j := range open {
			if j < len(g) {
				if d := base - g[j] - s.v[j]; d < s.dist[j] {
					s.dist[j], s.pred[j] = d, row
				}
			}
			if s.dist[j] < next {
				next, at = s.dist[j], k
			}
		}
		if at < 0 || next >= best {
			break
		}
		j := open[at]
		open[at] = open[len(open)-1]
		open = open[:len(open)-1]
		if s.rowOf[j] < 0 {
			best, bestRow, bestCol = next, -1, j
			break
		}
		s.seenCol[j] = true
		row, reach = s.rowOf[j], next
		settled, lengths = append(settled, row), append(lengths, reach)
	}
	for k, i := range settled {
		s.u[i] += best - lengths[k]
	}
	for j, seen := range s.seenCol {
		if seen {
			s.v[j] -= best - s.dist[j]
		}
	}
	s.flip(first, bestRow, bestCol)
}

// flip hands the columns on along the path that ends at a free column, or at the dummy of bestRow.
func (s *solver) flip(first, bestRow, bestCol int) {
	j := bestCol
	if j < 0 {
		if bestRow == first {
			return
		}
		j = s.colOf[bestRow]
		s.colOf[bestRow] = -1
	}
	for {
		i := s.pred[j]
		s.rowOf[j] = i
		s.colOf[i], j = j, s.colOf[i]
		if i == first {
			return
		}
	}
}
