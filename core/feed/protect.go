package feed

import (
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
)

// Protected is a fuse and what lies behind it.
type Protected struct {
	Fuse    string   `json:"fuse"`
	Rating  float64  `json:"rating"`
	Load    float64  `json:"load"`    // A, the most of all positions
	In      string   `json:"in"`      // position in which that is
	Thin    string   `json:"thin"`    // the wire behind it that may carry least
	Carries float64  `json:"carries"` // A that this may carry; 0 where nothing is known
	Best    float64  `json:"best"`    // A of the fuse that fits, 0 where none does
	Why     string   `json:"why,omitempty"`
	Starts  float64  `json:"starts,omitempty"` // A of the motors behind it until they turn
	Wires   []string `json:"wires"`
	// Nobody has said which fuse stands there: the rating is the one that is reckoned.
	Reckoned bool    `json:"reckoned,omitempty"`
	Was      float64 `json:"was,omitempty"` // A of the fuse that is there and is to be changed
	element  int32
	behind   map[int32]bool // nodes
}

// Bare is a length without protection between a source and the first fuse.
type Bare struct {
	Wire    string  `json:"wire"`
	Mm      float64 `json:"mm"`                // from the source to its far end
	Starter bool    `json:"starter,omitempty"` // the starter's cable, which is exempt
}

// fuses looks at each fuse: what it carries, and the thinnest wire behind it up to the next.
func (r *Result) fuses() {
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		if e.Kind != network.Fuse {
			continue
		}
		p := Protected{Fuse: strings.TrimPrefix(e.Name, "fuse "), Rating: e.Limit, Wires: []string{}, element: int32(i)}
		for k, s := range append(slices.Clone(r.States), r.full) {
			if a := math.Abs(s.Amps(int32(i))); a > p.Load+1e-9 {
				if p.Load, p.In = a, "everything on"; k < len(r.States) {
					p.In = Positions()[k].Name
				}
			}
		}
		behind := r.beyond(e.B, int32(i), func(k int32, _ float64) bool {
			x := &r.Drawn.Elements[k]
			if x.Kind == network.Fuse {
				return false
			}
			if w, known := r.in.Wires[x.Name]; known {
				p.Wires = append(p.Wires, x.Name)
				if w.Carries > 0 && (p.Carries == 0 || w.Carries < p.Carries) {
					p.Thin, p.Carries = x.Name, w.Carries
				}
			}
			return true
		})
		p.Starts, p.behind = r.starts(behind), behind
		best, err := Choose(p.Load, firstPositive(p.Carries, math.Inf(1)))
		if p.Best = best; err != nil {
			p.Why = err.Error()
		} else if p.Load < 0.05 { // nothing is known to hang on it: what its wire bears, and no more than there is
			p.Best = largest(min(p.Rating, firstPositive(p.Carries, p.Rating)))
		}
		if p.Was = r.Facts.Was[p.Fuse]; r.Facts.Reckoned[p.Fuse] {
			r.reckon(&p)
		}
		slices.SortFunc(p.Wires, finding.Natural)
		r.Fuses = append(r.Fuses, p)
	}
	slices.SortFunc(r.Fuses, func(a, b Protected) int { return finding.Natural(a.Fuse, b.Fuse) })
}

// reckon takes the fuse that fits where nobody has said which one stands there: none in a spare slot, and where none fits
// what the wire behind it may carry.
func (r *Result) reckon(p *Protected) {
	p.Reckoned = true
	switch {
	case len(p.Wires) == 0:
		p.Best = 0
	case p.Best == 0:
		p.Best = largest(p.Carries)
	}
	p.Rating = p.Best
	r.Drawn.Elements[p.element].Limit = p.Rating
}

// starts gives what the motors at nodes take together until they turn, in A at 12 V.
func (r *Result) starts(nodes map[int32]bool) float64 {
	sum, heads := 0.0, r.Drawn.Heads()
	for _, i := range r.Drawn.Loads {
		e, ohms := &r.Drawn.Elements[i], r.Drawn.Stalled[i]
		if ohms == 0 {
			continue
		}
		if a, b := heads[e.A], heads[e.B]; a > 0 && nodes[a] || b > 0 && nodes[b] {
			sum += 12 / ohms
		}
	}
	return sum
}

// largest gives the greatest rating at or below so many A, 0 where there is none.
func largest(amps float64) float64 {
	best := 0.0
	for _, r := range append(append([]float64{}, Blade...), Bolted...) {
		if r <= amps {
			best = r
		}
	}
	return best
}

func firstPositive(a, b float64) float64 {
	if a > 0 {
		return a
	}
	return b
}

// bare lists the lengths between a source and the first fuse.
func (r *Result) bare() {
	seen := map[string]bool{}
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		if !r.source(int32(i)) {
			continue
		}
		r.beyond(e.A, -1, func(k int32, mm float64) bool {
			x := &r.Drawn.Elements[k]
			if x.Kind == network.Fuse {
				return false
			}
			if _, known := r.in.Wires[x.Name]; known && !seen[x.Name] {
				seen[x.Name] = true
				r.Unprotected = append(r.Unprotected, Bare{x.Name, mm, r.cranks(k)})
			}
			return true
		})
	}
	slices.SortFunc(r.Unprotected, func(a, b Bare) int { return finding.Natural(a.Wire, b.Wire) })
}
