package pack

import (
	"fmt"
	"math"
	"strings"
	"sync"
)

// Bounds of when a bundle is packed to see how thick it is.
const (
	// MostInRing is how many wires are packed, the thickest first: what is left lies between them.
	MostInRing = 24
	// Loosest is how many times √Σd² no packing that Ring finds exceeds, but for two thick wires side by side.
	Loosest = 1.31

	keptHuddles = 5000
)

// huddles keeps what has been packed: the same wires pack the same, and a decision changes few bundles.
var huddles = packed{all: map[string]float64{}}

type packed struct {
	mu  sync.Mutex
	all map[string]float64
}

// Ring gives the diameter of a ring in which wires of these diameters have been packed, mm, the thickest first; at
// least three of them. It is found fast, and what was found is kept.
func Ring(d []float64) float64 { return huddles.of(d) }

// of gives the diameter in which wires of these diameters have been packed, mm, the thickest first.
func (p *packed) of(d []float64) float64 {
	var b strings.Builder
	for _, x := range d {
		fmt.Fprintf(&b, "%.3f ", x)
	}
	key := b.String()
	p.mu.Lock()
	got, known := p.all[key]
	p.mu.Unlock()
	if known {
		return got
	}
	if len(d) == 3 {
		got = three(d)
	} else {
		q := newPacker(d)
		q.huddle()
		got = 2 * q.squeeze(q.exact())
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if len(p.all) >= keptHuddles {
		clear(p.all)
	}
	p.all[key] = got
	return got
}

// three gives the smallest circle round three circles, the largest first: the two large ones side by side, or the outer
// circle of all three (Descartes' theorem).
func three(d []float64) float64 {
	a, b, c := 2/d[0], 2/d[1], 2/d[2]
	k := a + b + c - 2*math.Sqrt(a*b+b*c+c*a)
	if k >= 0 || 2/-k < d[0]+d[1] || thirdFits(d) {
		return d[0] + d[1]
	}
	return 2 / -k
}

// thirdFits says whether the third circle lies in the gap that the two large ones leave in a ring that just holds both.
func thirdFits(d []float64) bool {
	ring, r0, r1, r2 := (d[0]+d[1])/2, d[0]/2, d[1]/2, d[2]/2
	// Centres of the two on the x axis, the third touches both: its distance from the ring's middle.
	x0, x1 := r0-ring, ring-r1
	p, q, base := r0+r2, r1+r2, x1-x0
	along := (p*p - q*q + base*base) / (2 * base)
	height := math.Sqrt(max(0, p*p-along*along))
	return math.Hypot(x0+along, height)+r2 <= ring
}

// huddle lays the circles one after the other, the largest first, each where it touches two that lie already and is
// nearest to their common middle.
func (p *packer) huddle() {
	n := len(p.r)
	p.at[0], p.at[1] = 0, 0
	for i := 1; i < n; i++ {
		cx, cy, sum := 0.0, 0.0, 0.0
		for k := range i {
			area := p.r[k] * p.r[k]
			cx, cy, sum = cx+area*p.at[2*k], cy+area*p.at[2*k+1], sum+area
		}
		cx, cy = cx/sum, cy/sum
		bx, by, best := p.r[0]+p.r[i], 0.0, math.Inf(1)
		for a := range i {
			for b := range a {
				for _, side := range [2]float64{1, -1} {
					x, y, ok := p.touching(a, b, i, side)
					if d := math.Hypot(x-cx, y-cy); ok && d < best && p.free(x, y, i) {
						bx, by, best = x, y, d
					}
				}
			}
		}
		p.at[2*i], p.at[2*i+1] = bx, by
	}
	// The middle of the ring: drawn towards whichever circle reaches out farthest, less and less.
	cx, cy := 0.0, 0.0
	for step := 0.5; step > 1e-5; step *= 0.97 {
		far, worst := 0, -1.0
		for k := range n {
			if d := math.Hypot(p.at[2*k]-cx, p.at[2*k+1]-cy) + p.r[k]; d > worst {
				far, worst = k, d
			}
		}
		cx, cy = cx+step*(p.at[2*far]-cx)*0.2, cy+step*(p.at[2*far+1]-cy)*0.2
	}
	for k := range n {
		p.at[2*k], p.at[2*k+1] = p.at[2*k]-cx, p.at[2*k+1]-cy
	}
}

// touching gives where circle i touches the circles a and b, on one side of the line between them.
func (p *packer) touching(a, b, i int, side float64) (x, y float64, ok bool) {
	dx, dy := p.at[2*b]-p.at[2*a], p.at[2*b+1]-p.at[2*a+1]
	base, ra, rb := math.Hypot(dx, dy), p.r[a]+p.r[i], p.r[b]+p.r[i]
	if base == 0 || base > ra+rb {
		return 0, 0, false
	}
	along := (ra*ra - rb*rb + base*base) / (2 * base)
	height := side * math.Sqrt(max(0, ra*ra-along*along))
	return p.at[2*a] + (along*dx-height*dy)/base, p.at[2*a+1] + (along*dy+height*dx)/base, true
}

// free says whether circle i overlaps none that lie already.
func (p *packer) free(x, y float64, i int) bool {
	for k := range i {
		if math.Hypot(x-p.at[2*k], y-p.at[2*k+1]) < (p.r[k]+p.r[i])*(1-1e-9) {
			return false
		}
	}
	return true
}
