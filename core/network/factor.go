package network

// factor is the equations of a network in one condition, and their solution. The matrix of conductances is one of which
// every row sums to what leads from its node to the reference, which is never negative. Kept as these sums and the
// conductances between nodes, it can be factored by additions alone, so that nothing is lost where 0.1 mΩ stands beside
// 10 MΩ (Grassmann, Taksar & Heyman 1985, for Markov chains).
type factor struct {
	p *pattern
	// As assembled: conductance in S from each row to the reference, and between the two rows of each entry.
	leak, between []float64
	// As factored.
	rest, pivot, joint, ratio []float64
	work                      []float64
	dirty                     []bool
}

func newFactor(p *pattern) *factor {
	n, m := len(p.place), len(p.rows)
	return &factor{p: p, leak: make([]float64, n), between: make([]float64, m), rest: make([]float64, n),
		pivot: make([]float64, n), joint: make([]float64, m), ratio: make([]float64, m), work: make([]float64, n),
		dirty: make([]bool, n)}
}

// clone gives a copy that can be changed by itself.
func (f *factor) clone() *factor {
	c := newFactor(f.p)
	copy(c.leak, f.leak)
	copy(c.between, f.between)
	copy(c.rest, f.rest)
	copy(c.pivot, f.pivot)
	copy(c.joint, f.joint)
	copy(c.ratio, f.ratio)
	return c
}

// alter puts a conductance in S in the place of another between two rows, or to the reference where one is −1. What is
// left of a difference that should be nothing is nothing.
func (f *factor) alter(s slot, was, is float64) {
	var v *float64
	switch {
	case s.a == s.b:
		return
	case s.a < 0:
		v = &f.leak[s.b]
		f.touch(s.b)
	case s.b < 0:
		v = &f.leak[s.a]
		f.touch(s.a)
	default:
		v = &f.between[s.off]
		f.touch(min(s.a, s.b))
	}
	if *v += is - was; *v <= 1e-13*was {
		*v = 0
	}
}

// touch marks the columns that a change of one column changes: itself and those above it.
func (f *factor) touch(k int32) {
	for ; k >= 0 && !f.dirty[k]; k = f.p.parent[k] {
		f.dirty[k] = true
	}
}

// all marks every column.
func (f *factor) all() {
	for k := range f.dirty {
		f.dirty[k] = true
	}
}

// refresh factors the columns that are marked, in order.
func (f *factor) refresh() {
	p := f.p
	for k := range f.dirty {
		if !f.dirty[k] {
			continue
		}
		f.dirty[k] = false
		from, to := p.start[k], p.start[k+1]
		for at := from; at < to; at++ {
			f.work[p.rows[at]] = f.between[at]
		}
		rest := f.leak[k]
		for _, e := range p.across[p.left[k]:p.left[k+1]] {
			r := f.ratio[e.at]
			if r == 0 {
				continue
			}
			rest += r * f.rest[e.column]
			for at := e.at + 1; at < p.start[e.column+1]; at++ {
				f.work[p.rows[at]] += r * f.joint[at]
			}
		}
		pivot := rest
		for at := from; at < to; at++ {
			f.joint[at] = f.work[p.rows[at]]
			pivot += f.joint[at]
		}
		f.rest[k], f.pivot[k] = rest, pivot
		for at := from; at < to; at++ {
			f.ratio[at] = 0
			if pivot > 0 {
				f.ratio[at] = f.joint[at] / pivot
			}
		}
	}
}

// solve turns currents in A that flow into the rows into their volts, in place.
func (f *factor) solve(x []float64) {
	p := f.p
	for k := range x {
		if v := x[k]; v != 0 {
			for at := p.start[k]; at < p.start[k+1]; at++ {
				x[p.rows[at]] += f.ratio[at] * v
			}
		}
	}
	for k := len(x) - 1; k >= 0; k-- {
		v := 0.0
		if f.pivot[k] > 0 {
			v = x[k] / f.pivot[k]
		}
		for at := p.start[k]; at < p.start[k+1]; at++ {
			v += f.ratio[at] * x[p.rows[at]]
		}
		x[k] = v
	}
}
