package diagram

import (
	"cmp"
	"slices"
)

// channel gives the hops between two columns their tracks, and what room these take from x on. Of two hops of which
// one ends on the level on which the other begins, the one that begins comes first; where that goes round in a circle
// one takes a by-way between the levels.
func (l *layered) channel(hops []int, x float64, bends [][]Point) float64 {
	type bent struct {
		hop      int
		ya, yb   float64
		before   []int // that have to lie at its left
		track    int
		placed   bool
		byway    bool
		lower    float64 // the by-way's level
		low, top float64
	}
	var all []bent
	for _, h := range hops {
		a, b := &l.nodes[l.hops[h].from], &l.nodes[l.hops[h].to]
		ya, yb := a.y+a.port(slices.Index(a.right, h)), b.y+b.port(slices.Index(b.left, h))
		if ya != yb {
			all = append(all, bent{hop: h, ya: ya, yb: yb, top: min(ya, yb), low: max(ya, yb)})
		}
	}
	begins := map[float64]int{}
	for i := range all {
		begins[all[i].ya] = i
	}
	for i := range all {
		if q, is := begins[all[i].yb]; is && q != i {
			all[i].before = append(all[i].before, q)
		}
	}
	order := make([]int, len(all))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { // those that go up from below come last, as stairs do
		p, q := &all[a], &all[b]
		down := func(x *bent) bool { return x.yb > x.ya }
		switch {
		case down(p) && down(q):
			return cmp.Compare(q.ya, p.ya)
		case !down(p) && !down(q):
			return cmp.Compare(p.ya, q.ya)
		case down(p):
			return -1
		}
		return 1
	})
	var tracks [][]int // what lies on each
	byways := 0
	for left := len(all); left > 0; {
		some := false
		for _, i := range order {
			b := &all[i]
			if b.placed || slices.ContainsFunc(b.before, func(q int) bool { return !all[q].placed }) {
				continue
			}
			from := 0
			for _, q := range b.before {
				from = max(from, all[q].track+1)
			}
			t := from
			for ; t < len(tracks); t++ {
				if !slices.ContainsFunc(
					tracks[t],
					func(k int) bool { return all[k].top <= b.low && all[k].low >= b.top },
				) {
					break
				}
			}
			if t == len(tracks) {
				tracks = append(tracks, nil)
			}
			tracks[t] = append(tracks[t], i)
			b.track, b.placed, some = t, true, true
			left--
		}
		if some || left == 0 {
			continue
		}
		for _, i := range order { // a circle: this one waits for nothing any more
			if b := &all[i]; !b.placed && !b.byway {
				byways++
				b.byway, b.before = true, nil
				b.lower = b.yb + grid - 0.45*float64(byways%7) - 0.4
				b.top, b.low = min(b.ya, b.lower), max(b.ya, b.lower)
				break
			}
		}
	}
	far := len(tracks)
	for i := range all {
		b := &all[i]
		at := x + Track*(float64(b.track)+0.5)
		if !b.byway {
			bends[b.hop] = []Point{{at, b.ya}, {at, b.yb}}
			continue
		}
		behind := x + Track*(float64(far)+0.5)
		far++
		bends[b.hop] = []Point{{at, b.ya}, {at, b.lower}, {behind, b.lower}, {behind, b.yb}}
	}
	return Track * float64(far)
}
