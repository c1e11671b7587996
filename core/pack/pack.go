package pack

import (
	"math"
	"slices"
)

// Circle is a wire in the cross-section of a bundle, mm from its centre.
type Circle struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	D float64 `json:"d"`
}

// Most is how many wires are packed; for more only the bound by area is given.
const Most = 150

// Circles lays circles of the given diameters, in mm, into a circle as small as it finds, and gives that circle's
// diameter. No two overlap. It is a floor: no hand lays a bundle so. The same diameters in whatever order give the same
// packing. Of more than Most, and of none, it gives no packing.
//
// The circles are pushed together in a shrinking ring: wherever two overlap, or one leaves the ring, they are moved
// apart by what they overlap, and the ring shrinks as long as that comes to rest. What overlap is left at the end is
// taken out by drawing all centres apart. It is begun from several first layouts, and the best is kept.
func Circles(diameters []float64) (circles []Circle, diameter float64) {
	n := len(diameters)
	if n == 0 || n > Most {
		return nil, 0
	}
	d := slices.Clone(diameters)
	slices.SortFunc(d, func(a, b float64) int {
		if a > b {
			return -1
		} else if a < b {
			return 1
		}
		return 0
	})
	p := newPacker(d)
	best, layout := math.Inf(1), []float64(nil)
	for start := range p.starts() {
		p.begin(start)
		if got := p.squeeze(math.Inf(1)); got < best {
			best, layout = got, slices.Clone(p.best)
		}
	}
	if n <= MostInRing { // begun as hands would: then what a bundle is laid as is never thinner than what is drawn
		p.huddle()
		if got := p.squeeze(p.exact()); got < best {
			best, layout = got, slices.Clone(p.best)
		}
	}
	for i := range n {
		circles = append(circles, Circle{layout[2*i], layout[2*i+1], d[i]})
	}
	return circles, 2 * best
}

// packer holds the centres x0 y0 x1 y1 … of circles of radius r, the largest first.
type packer struct {
	r, at, best []float64
	sum         float64 // of the squares of the radii
	pairs       []int32 // neighbours, two by two
	seed        uint64
}

func newPacker(d []float64) *packer {
	p := &packer{r: make([]float64, len(d)), at: make([]float64, 2*len(d)), best: make([]float64, 2*len(d)), seed: 1}
	for i := range d {
		p.r[i] = d[i] / 2
		p.sum += p.r[i] * p.r[i]
	}
	return p
}

// starts is how many first layouts are tried: small bundles cost little.
func (p *packer) starts() int {
	switch n := len(p.r); {
	case n <= 2:
		return 1
	case n <= 24:
		return 14
	case n <= 40:
		return 4
	case n <= 60:
		return 2
	}
	return 1
}

// random gives the next of a fixed row of numbers from 0 to 1 (a linear congruence, the constants of Knuth's MMIX).
func (p *packer) random() float64 {
	p.seed = p.seed*6364136223846793005 + 1442695040888963407
	return float64(p.seed>>11) / (1 << 53)
}

// begin lays the circles out anew: in a spiral like the seeds of a sunflower, or in hexagons, each start with the
// circles in another order along it.
func (p *packer) begin(start int) {
	n := len(p.r)
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	p.seed = uint64(start)*7919 + 1
	if start > 1 { // mix sizes, more with every start
		for i := range order {
			j := min(n-1, i+int(p.random()*float64(n)/2))
			order[i], order[j] = order[j], order[i]
		}
	}
	ring := math.Sqrt(p.sum / 0.7)
	spots := sunflower(n, ring)
	if start%2 == 0 {
		spots = hexagons(n, ring, p.random()*0.6, p.random()*0.6)
	}
	for k, i := range order {
		p.at[2*i], p.at[2*i+1] = spots[2*k], spots[2*k+1]
	}
}

func sunflower(n int, ring float64) []float64 {
	at := make([]float64, 2*n)
	for k := range n {
		radius, turn := ring*math.Sqrt((float64(k)+0.5)/float64(n)), float64(k)*math.Pi*(3-math.Sqrt(5))
		at[2*k], at[2*k+1] = radius*math.Cos(turn), radius*math.Sin(turn)
	}
	return at
}

// hexagons gives the n points of a hexagonal lattice that are nearest to a centre, from the middle out.
func hexagons(n int, ring, dx, dy float64) []float64 {
	step := ring * math.Sqrt(2*math.Pi/(math.Sqrt(3)*float64(n)))
	type point struct{ x, y float64 }
	var all []point
	k := int(math.Sqrt(float64(n))) + 3
	for row := -k; row <= k; row++ {
		for col := -k; col <= k; col++ {
			all = append(all, point{step * (float64(col) + float64(row&1)/2 - dx), step * (float64(row)*math.Sqrt(3)/2 - dy)})
		}
	}
	slices.SortStableFunc(all, func(a, b point) int {
		switch p, q := a.x*a.x+a.y*a.y, b.x*b.x+b.y*b.y; {
		case p < q-1e-9:
			return -1
		case p > q+1e-9:
			return 1
		}
		return 0
	})
	at := make([]float64, 0, 2*n)
	for _, p := range all[:n] {
		at = append(at, p.x, p.y)
	}
	return at
}

// squeeze shrinks the ring as far as it finds, and gives the radius of the best packing, whose centres are in best. It
// begins from a layout whose ring has a radius, infinite where its circles may overlap.
func (p *packer) squeeze(best float64) float64 {
	n := len(p.r)
	rounds := 60
	floor := p.r[0]
	if n > 1 {
		floor += p.r[1]
	}
	ring := max(math.Sqrt(p.sum/0.78), floor)
	floor = max(math.Sqrt(p.sum/0.93), floor)
	if best < math.Inf(1) {
		copy(p.best, p.at)
		ring = max(0.98*best, floor)
	}
	step, least := 0.015, 0.002
	if n <= 24 {
		step, least = 0.04, 5e-4
	}
	for range rounds {
		p.settle(ring)
		if got := p.exact(); got < best {
			if best-got < 2e-4*best {
				step = min(step, 0.01)
			}
			best = got
			copy(p.best, p.at)
		} else if step *= 0.6; step < least {
			break
		}
		ring = max(best*(1-step), floor)
	}
	return best
}

// settle moves overlapping circles apart, and all of them into the ring.
func (p *packer) settle(ring float64) {
	const sweeps, push, anew = 100, 0.9, 15
	for sweep := range sweeps {
		if sweep%anew == 0 {
			p.neighbours(ring)
		}
		worst := 0.0
		for k := 0; k < len(p.pairs); k += 2 {
			i, j := p.pairs[k], p.pairs[k+1]
			dx, dy, reach := p.at[2*j]-p.at[2*i], p.at[2*j+1]-p.at[2*i+1], p.r[i]+p.r[j]
			square := dx*dx + dy*dy
			if square >= reach*reach {
				continue
			}
			dist := math.Sqrt(square)
			if dist < 1e-9 {
				dx, dy, dist = 1e-3, 1e-3*float64(k%3), 1e-3
			}
			over := reach - dist
			worst = max(worst, over)
			mi, mj := p.r[i]*p.r[i], p.r[j]*p.r[j] // the thinner wire gives way
			f := push * over / dist / (mi + mj)
			p.at[2*i] -= dx * f * mj
			p.at[2*i+1] -= dy * f * mj
			p.at[2*j] += dx * f * mi
			p.at[2*j+1] += dy * f * mi
		}
		for i := range p.r {
			x, y := p.at[2*i], p.at[2*i+1]
			if room := ring - p.r[i]; x*x+y*y > room*room {
				dist := math.Sqrt(x*x + y*y)
				worst = max(worst, dist-ring+p.r[i])
				f := max(0, ring-p.r[i]) / dist
				p.at[2*i], p.at[2*i+1] = x*f, y*f
			}
		}
		if worst < 1e-4*ring {
			return
		}
	}
}

// neighbours lists the pairs that are near enough to touch before the list is made again.
func (p *packer) neighbours(ring float64) {
	p.pairs = p.pairs[:0]
	near := 0.07 * ring
	for i := range p.r {
		for j := i + 1; j < len(p.r); j++ {
			dx, dy, reach := p.at[2*j]-p.at[2*i], p.at[2*j+1]-p.at[2*i+1], p.r[i]+p.r[j]+near
			if dx*dx+dy*dy < reach*reach {
				p.pairs = append(p.pairs, int32(i), int32(j))
			}
		}
	}
}

// exact gives the radius of the ring that holds the circles once their centres are drawn apart so far that none
// overlap.
func (p *packer) exact() float64 {
	apart := 1e-12
	for i := range p.r {
		for j := i + 1; j < len(p.r); j++ {
			dx, dy, reach := p.at[2*j]-p.at[2*i], p.at[2*j+1]-p.at[2*i+1], p.r[i]+p.r[j]
			square := dx*dx + dy*dy
			if square == 0 {
				return math.Inf(1)
			}
			apart = max(apart, reach*reach/square)
		}
	}
	apart = math.Sqrt(apart) * (1 + 1e-12)
	ring := 0.0
	for i := range p.r {
		p.at[2*i] *= apart
		p.at[2*i+1] *= apart
		ring = max(ring, math.Hypot(p.at[2*i], p.at[2*i+1])+p.r[i])
	}
	return ring
}
