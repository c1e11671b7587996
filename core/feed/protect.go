package feed

import (
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// fuses looks at each fuse: what it carries, and the thinnest wire behind it up to the next.
func (r *Result) fuses() {
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		if e.Kind != network.Fuse {
			continue
		}
		p := Protected{Fuse: e.Of, Rating: e.Limit, Wires: []harness.WireID{},
			element: int32(i)}
		for k, s := range append(slices.Clone(r.States), r.full) {
			if a := math.Abs(s.Amps(int32(i))); a > p.Load+1e-9 {
				if p.Load, p.In = a, "everything on"; k < len(r.States) {
					p.In = Positions()[k].Name
				}
			}
		}
		r.lookBehind(&p)
		p.Starts, p.Cold = r.starts(p.behind)
		p.Slow, p.Wants = r.Facts.Slow[p.Fuse], wants(&p)
		if p.Best, p.Short = r.fits(&p); p.Best == 0 {
			_, err := Choose(p.Load, p.Carries)
			p.Why = fmt.Sprint(err)
		} else if p.Load < 0.05 { // nothing is known to hang on it: what its wire bears, and no more than there is
			p.Best = largest(min(p.Rating, firstPositive(p.Carries, p.Rating)))
		}
		if p.Was = r.Facts.Was[p.Fuse]; r.Facts.Reckoned[p.Fuse] {
			r.reckon(&p)
		}
		if p.Carries > 0 && p.Rating > p.Carries {
			if p.Unsaved = r.unsaved(&p, p.Rating); p.Load < 0.05 {
				p.Unsaved = p.Thin // what hangs on it nobody knows: it may be too much
			}
		}
		r.Fuses = append(r.Fuses, p)
	}
	slices.SortFunc(r.Fuses, func(a, b Protected) int { return finding.Natural(a.Fuse, b.Fuse) })
}

// lookBehind lists what lies behind a fuse, up to the next.
func (r *Result) lookBehind(p *Protected) {
	e := &r.Drawn.Elements[p.element]
	p.behind = r.beyond(e.B, p.element, func(k int32, _ float64) bool {
		x := &r.Drawn.Elements[k]
		if x.Kind == network.Fuse {
			return false
		}
		if w, known := r.in.Wires[metal(x)]; known {
			p.Wires = append(p.Wires, metal(x))
			if w.Carries > 0 && (p.Carries == 0 || w.Carries < p.Carries) {
				p.Thin, p.Carries = metal(x), w.Carries
			}
		}
		return true
	})
	slices.SortFunc(p.Wires, finding.Natural)
}

// reckon takes the fuse that fits where nobody has said which one stands there: none in a spare slot, and none where
// none fits.
func (r *Result) reckon(p *Protected) {
	if p.Reckoned = true; len(p.Wires) == 0 {
		p.Best, p.Why = 0, ""
	}
	p.Rating = p.Best
	r.Drawn.Elements[p.element].Limit = p.Rating
}

// Wishes gives the A that new wires should carry so that the fuse before them protects them: its rating, or that of the
// one that what hangs on it wants. Worst is what flows, by element.
func Wishes(
	drawn *network.Drawn,
	facts *vehicle.Facts,
	worst []float64,
	fresh map[harness.WireID]bool,
) map[harness.WireID]float64 {
	r := &Result{Drawn: drawn, Facts: facts, in: Input{Drawn: drawn, Facts: facts, Wires: map[harness.WireID]Copper{}}}
	for name := range fresh {
		r.in.Wires[name] = Copper{}
	}
	r.connect()
	r.highest()
	out := map[harness.WireID]float64{}
	for i := range drawn.Elements {
		e := &drawn.Elements[i]
		if e.Kind != network.Fuse {
			continue
		}
		p := Protected{element: int32(i)}
		r.lookBehind(&p)
		rating := e.Limit
		if facts.Reckoned[e.Of] {
			if rating, _ = Choose(worst[i], math.Inf(1)); worst[i] < 0.05 {
				continue
			}
		}
		for _, w := range p.Wires {
			out[w] = max(out[w], rating)
		}
	}
	return out
}

// starts gives what the motors at nodes take together until they turn, and what the lamps take while they are cold,
// in A at 12 V.
func (r *Result) starts(nodes map[int32]bool) (motors, lamps float64) {
	heads := r.Drawn.Heads()
	for _, i := range r.Drawn.Loads {
		e, stalled := &r.Drawn.Elements[i], r.Drawn.Stalled[i]
		if a, b := heads[e.A], heads[e.B]; !(a > 0 && nodes[a] || b > 0 && nodes[b]) {
			continue
		}
		switch {
		case stalled > 0:
			motors += 12 / stalled
		case e.Kind == network.Lamp:
			lamps += 12 / (e.Ohms * network.LampCold)
		}
	}
	return motors, lamps
}

// wants says which kind of fuse the loads behind one want: slow where motors take more than twice its rating until they
// turn, which lasts a second; before lamps, which take ten times as much for a moment, quick ones are usual (common
// practice).
func wants(p *Protected) string {
	switch {
	case p.Rating > 0 && p.Starts > startsBy*p.Rating:
		return fmt.Sprintf("slow: motors take %s until they turn", Amps(p.Starts))
	case p.Cold > 0:
		return fmt.Sprintf("quick, as usual before lamps: %s for some 50 ms while they are cold", Amps(p.Cold))
	}
	return ""
}

// startsBy is how many times its rating motors may take before a quick fuse may open (common practice).
const startsBy = 2

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
	seen := map[harness.WireID]bool{}
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
			if _, known := r.in.Wires[metal(x)]; known && !seen[metal(x)] {
				seen[metal(x)] = true
				r.Unprotected = append(r.Unprotected, Bare{metal(x), mm, r.cranks(k)})
			}
			return true
		})
	}
	slices.SortFunc(r.Unprotected, func(a, b Bare) int { return finding.Natural(a.Wire, b.Wire) })
}
