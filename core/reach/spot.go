package reach

import (
	"fmt"
	"math"
)

// candidates lists where the joints of a wire can go: the farther back it is cut, the farther from its end they lie.
// Where nobody has said which end, the other one comes after the better one.
func (st *stagger) candidates(i int) *choice {
	l, w := &st.r.Lines[i], &st.r.in.Wires[i]
	c := &choice{line: i, took: -1}
	st.atEnd(c, l.At)
	if x := st.s.wish[w.ID]; l.Joints == 2 && w.CutAt == 0 && !w.Whole[2-l.At] && (x == nil || x.At == 0) {
		if d := st.s.deviceAt(w, 2-l.At); d == nil || !breathes(w, d) {
			st.atEnd(c, 3-l.At)
		}
	}
	return c
}

// atEnd adds the candidates at one end.
func (st *stagger) atEnd(c *choice, end int) {
	l, rules := &st.r.Lines[c.line], &st.r.in.Decisions.Rules
	most := min(l.Had-rules.Stub, farthest)
	if l.Joints == 1 {
		most = min(l.Had-rules.Stub, farthest/6) // every mm is a mm more of the piece
	}
	for back := 0.0; back <= max(most, 0); back += notch {
		c.spots, c.cut, c.end = append(c.spots, nil), append(c.cut, back), append(c.end, end)
	}
}

// at gives the spots of a candidate.
func (st *stagger) at(c *choice, k int) []spot {
	if c.spots[k] != nil {
		return c.spots[k]
	}
	l, w, rules := &st.r.Lines[c.line], &st.r.in.Wires[c.line], &st.r.in.Decisions.Rules
	along := [2]float64{l.By + c.cut[k]}
	if l.Joints == 2 {
		along = [2]float64{rules.Stub + c.cut[k] + l.By, rules.Stub + c.cut[k]}
	}
	spots := make([]spot, l.Joints)
	for i := range spots {
		spots[i] = st.spot(l, w, along[i], c.end[k]-1)
	}
	c.spots[k] = spots
	return spots
}

// spot gives the place that lies so many mm along the wire from an end.
func (st *stagger) spot(l *Line, w *Wire, along float64, end int) spot {
	r := st.r
	tail := st.tail(w, end, l)
	paths, stations := l.route.Paths, l.route.Stations
	step := func(k int) (path, a, b int) { return paths[k], stations[k], stations[k+1] }
	if end == 1 {
		n := len(paths)
		step = func(k int) (path, a, b int) { return paths[n-1-k], stations[n-k], stations[n-1-k] }
	}
	why := ""
	if d := st.s.deviceAt(w, end); along < breather && d != nil && breathes(w, d) {
		why = fmt.Sprintf("it would be within %d mm of the sensor, which breathes through its lead", breather)
	}
	near := stations[0]
	if end == 1 {
		near = stations[len(stations)-1]
	}
	if along < tail || len(paths) == 0 {
		return spot{segment: st.tailOf(w, end), at: along, stations: [2]int{-1, near}, off: [2]float64{0, max(0, tail-along)}, why: why}
	}
	left := along - tail
	for k := range paths {
		p, a, b := step(k)
		path := &r.router.paths[p]
		if left > path.Length && k < len(paths)-1 {
			left -= path.Length
			continue
		}
		if left > path.Length { // beyond the last station: in the tail of the other end
			far := stations[len(stations)-1]
			if end == 1 {
				far = stations[0]
			}
			return spot{segment: st.tailOf(w, 1-end), at: left - path.Length, stations: [2]int{far, -1}, off: [2]float64{left - path.Length, 0}, why: why}
		}
		x := spot{segment: p, at: left, stations: [2]int{a, b}, off: [2]float64{left, path.Length - left}, why: why}
		if r.router.number[path.From] != a { // measured from the path's own beginning
			x.at = path.Length - left
		}
		st.judge(&x, path, w, l)
		return x
	}
	return spot{segment: st.tailOf(w, end), why: why}
}

// tail is how long the wire is between its plug and the bundle, mm.
func (st *stagger) tail(w *Wire, end int, l *Line) float64 {
	if w.Ends[end].Splice != "" {
		return 0
	}
	rules := &st.r.in.Decisions.Rules
	at := l.route.Stations[0]
	if end == 1 {
		at = l.route.Stations[len(l.route.Stations)-1]
	}
	return dropAt(&st.r.router.stations[at], rules) + rules.End
}

func (st *stagger) tailOf(w *Wire, end int) int {
	name := w.Ends[end].At.Connector
	if name == "" {
		name = "splice " + w.Ends[end].Splice
	}
	n, ok := st.tails[name]
	if !ok {
		n = len(st.r.router.paths) + len(st.tails)
		st.tails[name] = n
	}
	return n
}

// judge says what speaks against a spot on a path, whoever else is there.
func (st *stagger) judge(x *spot, path *Path, w *Wire, l *Line) {
	b := &st.r.Bundles[x.segment]
	d := thickness(max(w.Size, l.Size))
	g := grows[st.r.school(st.s, w, l, path)]
	joint := d*g[0] + g[1]
	x.thick = math.Sqrt(b.Laid*b.Laid + laidFactor*laidFactor*(joint*joint-d*d))
	if len(b.Round) == 1 {
		x.thick = joint
	}
	switch {
	case x.why != "":
	case path.Moving:
		x.why = "the bundle flexes there"
	case path.Wall && math.Abs(x.at-path.Length/2) < grommet:
		x.why = "it would lie in the grommet"
	case path.Cover != Bare && x.thick-b.Laid > st.r.in.Decisions.Rules.Bulge:
		x.why = fmt.Sprintf("the bundle would grow from %.1f to %.1f mm under its cover", b.Laid, x.thick)
	}
}
