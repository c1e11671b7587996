package match

import (
	"encoding/binary"
	"hash/maphash"
	"math"
	"slices"
)

// manyEdges is from how many pairs on rows that are alike are looked for: below it every pair is a pair of its own.
var manyEdges = 100_000

// alike is a graph of pairs in which rows that have the same pairs with the same weights are one, and columns likewise:
// messages that begin alike stay alike, so what is found of one is found of all.
type alike struct {
	*edges
	of []int32 // by pair of the whole graph: the pair here that stands for it
}

// condensed gives the graph with what is alike as one. The probabilities are those of the whole graph.
func (e *edges) condensed() alike {
	n := len(e.start) - 1
	rowClass, rowFirst := classesOf(n, func(i int) (int32, int32) { return e.start[i], e.start[i+1] },
		func(k int32) (int32, pattern, float32) { return e.col[k], e.pat[k], e.bits[k] })
	// The pairs by column.
	begin := make([]int32, len(e.colW)+1)
	for _, j := range e.col {
		begin[j+1]++
	}
	for j := range e.colW {
		begin[j+1] += begin[j]
	}
	row, at := make([]int32, len(e.col)), make([]int32, len(e.col))
	next := slices.Clone(begin)
	for i := range n {
		for k := e.start[i]; k < e.start[i+1]; k++ {
			j := e.col[k]
			row[next[j]], at[next[j]] = int32(i), k
			next[j]++
		}
	}
	colClass, colFirst := classesOf(len(e.colW), func(j int) (int32, int32) { return begin[j], begin[j+1] },
		func(k int32) (int32, pattern, float32) { return row[k], e.pat[at[k]], e.bits[at[k]] })

	c := alike{newEdges(len(rowFirst), len(colFirst), 0), make([]int32, len(e.col))}
	c.rows, c.cols = counts(rowClass, len(rowFirst)), counts(colClass, len(colFirst))
	where := make([]int32, len(colFirst)) // of the class's pair, by the class of its column
	for _, i := range rowFirst {
		for k := e.start[i]; k < e.start[i+1]; k++ {
			if j := colClass[e.col[k]]; colFirst[j] == e.col[k] {
				c.col, c.pat, c.bits = append(c.col, j), append(c.pat, e.pat[k]), append(c.bits, e.bits[k])
			}
		}
		c.start = append(c.start, int32(len(c.col)))
	}
	c.ready()
	for class, i := range rowFirst {
		for k := c.start[class]; k < c.start[class+1]; k++ {
			where[c.col[k]] = k
		}
		for k := e.start[i]; k < e.start[i+1]; k++ {
			c.of[k] = where[colClass[e.col[k]]]
		}
	}
	for i := range n {
		if first := rowFirst[rowClass[i]]; first != int32(i) {
			copy(c.of[e.start[i]:e.start[i+1]], c.of[e.start[first]:e.start[first+1]])
		}
	}
	return c
}

// whole gives what was found of each class to every pair of the whole graph.
func (c *alike) whole(e *edges) {
	for k, of := range c.of {
		e.w[k], e.x[k], e.y[k], e.p[k] = c.w[of], c.x[of], c.y[of], c.p[of]
	}
}

// classesOf puts things with the same pairs into one class: the class of each, and the first of each class.
func classesOf(n int, span func(i int) (from, to int32), pair func(k int32) (int32, pattern, float32)) (
	class, first []int32) {
	class = make([]int32, n)
	seen := map[uint64][]int32{}
	seed := maphash.MakeSeed()
	var text []byte
	same := func(i, j int32) bool {
		a, b := span(int(i))
		c, d := span(int(j))
		if b-a != d-c {
			return false
		}
		for k := range b - a {
			other, pat, bits := pair(a + k)
			other2, pat2, bits2 := pair(c + k)
			if other != other2 || pat != pat2 || math.Float32bits(bits) != math.Float32bits(bits2) {
				return false
			}
		}
		return true
	}
	for i := range int32(n) {
		from, to := span(int(i))
		text = text[:0]
		for k := from; k < to; k++ {
			other, pat, bits := pair(k)
			text = binary.LittleEndian.AppendUint32(text, uint32(other))
			text = binary.LittleEndian.AppendUint32(text, uint32(pat))
			text = binary.LittleEndian.AppendUint32(text, math.Float32bits(bits))
		}
		sum := maphash.Bytes(seed, text)
		k := slices.IndexFunc(seen[sum], func(c int32) bool { return same(first[c], i) })
		if k >= 0 {
			class[i] = seen[sum][k]
			continue
		}
		class[i] = int32(len(first))
		seen[sum] = append(seen[sum], class[i])
		first = append(first, i)
	}
	return class, first
}

// counts says how many each class has.
func counts(class []int32, classes int) []float64 {
	out := make([]float64, classes)
	for _, c := range class {
		out[c]++
	}
	return out
}
