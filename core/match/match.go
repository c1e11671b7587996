// Package match makes the crosswalk: for each wire of one side its counterpart on the other.
//
// Agreement on circuit number, function text, colour, size and place is weighed as evidence, in bits, as in
// probabilistic record linkage. The weights of words are fixed; those of the other fields are estimated from the pair
// of pinouts itself by expectation–maximisation, with the words as anchor, so that a shared numbering scheme is
// discovered and an accidental one is worth nothing. Probabilities are those of whole one-to-one matchings, found by
// belief propagation; the matches offered are the best assignment as a whole. What must never be joined is left out
// beforehand: no evidence outvotes a veto. A person's decisions are taken as given and everything else is computed
// around them.
//
// The same input gives the same crosswalk, byte for byte.
package match

import (
	"math"

	"draxel/core/harness"
)

// Offered and Sure are the probabilities from which a match is offered and from which it is called sure.
const (
	Offered = 0.5
	Sure    = 0.95
)

// Crosswalk computes the crosswalk from the rows of one pinout to those of another. Cavities said to be empty, and
// connectors of no concern, take no part. Decisions about rows that are not there are not counted, and named in the
// findings.
func Crosswalk(from, to harness.Pinout, meetings Meetings, decisions []Decision) *Result {
	return crosswalk(from, to, meetings, decisions, manyPairs)
}

// crosswalk compares all pairs up to a number of them, and beyond it those that have something in common.
func crosswalk(from, to harness.Pinout, meetings Meetings, decisions []Decision, blockFrom int) *Result {
	r := &Result{blockFrom: blockFrom, from: occupied(from.Rows, nil), to: occupied(to.Rows, meetings), meetings: meetings}
	r.index(decisions)
	r.declared = from.OneScheme && to.OneScheme
	r.compare = newComparer(r.from, r.to, meetings)
	r.link()
	r.conclude()
	return r
}

func occupied(rows []harness.Row, meetings Meetings) []harness.Row {
	out := make([]harness.Row, 0, len(rows))
	for _, row := range rows {
		if !row.Empty && meetings[row.Ref.Connector].Met != NoConcern {
			out = append(out, row)
		}
	}
	return out
}

// worthKeeping is the weight of the words, in bits, under which a pair is not followed up unless its numbers are equal.
const worthKeeping = -4

// link finds the probabilities: it compares pairs, keeps those worth keeping, and alternates between the
// probabilities that the weights give (E) and the weights that the probabilities give (M).
func (r *Result) link() {
	n := float64(max(len(r.from), len(r.to), 1))
	e := newEdges(len(r.from), len(r.to), 8*len(r.from))
	tally := r.compare.tally()
	var clamped [patterns]float64
	clampedPairs := 0.0
	for i, j := range r.accepted {
		if j > 0 {
			clamped[r.compare.pattern(i, j-1)]++
			clampedPairs++
		}
	}
	candidates := r.candidateRows()
	for i := range r.from {
		if r.free(i) {
			for _, j := range candidates(i) {
				r.consider(e, i, int(j), n)
			}
		}
		e.start = append(e.start, int32(len(e.col)))
	}
	e.ready()
	whole := e
	var one alike
	if len(e.col) > manyEdges {
		one = e.condensed()
		e = one.edges
	}
	w := start(tally, n)
	w.numeral = r.compare.corroborate()
	w.numeral.declared = r.declared
	w.numeral.chance = baseColours(tally)
	likely := make([]float64, len(e.bits))
	for k, b := range e.bits {
		likely[k] = math.Exp2(float64(b))
	}
	weigh := func() {
		odds := w.table()
		for k := range e.w {
			e.w[k] = likely[k] * odds[e.pat[k]]
		}
	}
	for step, before := 0, 0.0; step < 12; step++ {
		weigh()
		e.propagate(12, 1e-3)
		together, expected := clamped, clampedPairs
		for i := range int32(len(e.start) - 1) {
			for k := e.start[i]; k < e.start[i+1]; k++ {
				p := e.p[k] * times(e.rows, i) * times(e.cols, e.col[k])
				together[e.pat[k]] += p
				expected += p
			}
		}
		w.estimate(tally, together, expected, float64(min(len(r.from), len(r.to))))
		if math.Abs(expected-before) < 0.01 { // pairs expected to belong together: nothing moves any more
			break
		}
		before = expected
	}
	weigh()
	e.propagate(60, 1e-8)
	if e != whole {
		one.whole(whole)
	}
	r.weights, r.edges, r.n = w, whole, n
}

// candidateRows gives, for a From row, the To rows that it is compared with: all, where that is not too many.
func (r *Result) candidateRows() func(i int) []int32 {
	if len(r.from)*len(r.to) > r.blockFrom {
		return newBlocks(r.compare).of
	}
	all := make([]int32, len(r.to))
	for j := range all {
		all[j] = int32(j)
	}
	return func(int) []int32 { return all }
}

// consider keeps a pair that may belong together.
func (r *Result) consider(e *edges, i, j int, n float64) {
	if r.taken[j] || r.rejected[pair{i, j}] || forbid(&r.from[i].Signal, &r.to[j].Signal) != allowed {
		return
	}
	pat := r.compare.pattern(i, j)
	if bits := r.compare.function(i, j, n); bits > worthKeeping || pat.number() == numberEqual {
		e.col, e.pat, e.bits = append(e.col, int32(j)), append(e.pat, pat), append(e.bits, float32(bits))
	}
}

// assign gives the best assignment as a whole over the pairs that are likelier than not on their own: a worse pair is
// never better than leaving both ends without. The graph falls into small parts, each solved by itself.
func (r *Result) assign() []int {
	e := r.edges
	parent := make([]int, len(r.from)+len(r.to))
	for i := range parent {
		parent[i] = i
	}
	find := func(i int) int {
		for parent[i] != i {
			parent[i] = parent[parent[i]]
			i = parent[i]
		}
		return i
	}
	each := func(do func(i, j int, gain float64)) {
		for i := range r.from {
			for k := e.start[i]; k < e.start[i+1]; k++ {
				if e.w[k] > 1 {
					do(i, int(e.col[k]), math.Log2(e.w[k]))
				}
			}
		}
	}
	each(func(i, j int, _ float64) { parent[find(i)] = find(len(r.from) + j) })
	type part struct{ rows, cols []int }
	parts := map[int]*part{}
	var order []int
	for v := range parent {
		root := find(v)
		if parts[root] == nil {
			parts[root] = &part{}
			order = append(order, root)
		}
		if v < len(r.from) {
			parts[root].rows = append(parts[root].rows, v)
		} else {
			parts[root].cols = append(parts[root].cols, v-len(r.from))
		}
	}
	out := filled(len(r.from), -1)
	for _, root := range order {
		p := parts[root]
		if len(p.rows) == 0 || len(p.cols) == 0 {
			continue
		}
		rowAt, colAt := positions(p.rows), positions(p.cols)
		gain := make([][]float64, len(p.rows))
		for k := range gain {
			gain[k] = make([]float64, len(p.cols))
			for c := range gain[k] {
				gain[k][c] = math.Inf(-1)
			}
		}
		for i, row := range rowAt {
			for k := e.start[i]; k < e.start[i+1]; k++ {
				if c, ok := colAt[int(e.col[k])]; ok && e.w[k] > 1 {
					gain[row][c] = math.Log2(e.w[k])
				}
			}
		}
		for k, c := range Assign(gain) {
			if c >= 0 {
				out[p.rows[k]] = p.cols[c]
			}
		}
	}
	return out
}

func positions(list []int) map[int]int {
	at := make(map[int]int, len(list))
	for k, v := range list {
		at[v] = k
	}
	return at
}
