package reach

import (
	"fmt"
	"math"

	"draxel/core/route"
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

// atEnd adds the candidates at one end: as much of the wire is left at the other as a joint keeps from a plug.
func (st *stagger) atEnd(c *choice, end int) {
	l, rules := &st.r.Lines[c.line], &st.r.in.Decisions.Rules
	most := min(l.Had-2*rules.Stub-2*rules.Lap, farthest)
	if l.Joints == 1 {
		most = min(l.Had-rules.Stub-rules.Lap, farthest/6) // every mm is a mm more of the piece
	}
	c.lanes[end-1] = st.lane(c.line, end-1)
	for back := 0.0; back <= max(most, 0); back += notch {
		c.cut, c.end = append(c.cut, back), append(c.end, end)
	}
}

// at gives the spots of a candidate: the farther joint first, where there are two. They are where the joints will be
// when each has taken its lap of both ends.
func (st *stagger) at(c *choice, k int) []spot {
	l, rules, lane := &st.r.Lines[c.line], &st.r.in.Decisions.Rules, c.lanes[c.end[k]-1]
	if c.spots == nil {
		c.spots = make([][]spot, len(c.cut))
	}
	if c.spots[k] != nil {
		return c.spots[k]
	}
	spots := make([]spot, l.Joints)
	if l.Joints == 2 {
		near := rules.Stub + c.cut[k]
		lane.spot(&spots[0], near+l.By-2*rules.Lap)
		lane.spot(&spots[1], near)
	} else {
		lane.spot(&spots[0], l.By+c.cut[k]-rules.Lap)
	}
	c.spots[k] = spots
	return spots
}

// lane is the way of a wire from one of its ends, as joints lie along it.
type lane struct {
	tail     float64   // mm from the plug to the bundle
	whole    float64   // mm of the wire when it is joined
	stub     float64   // mm that a joint keeps from a plug
	plugs    [2]bool   // whether there is a plug at this end, and at the other
	first    int       // segment of the tail at this end
	last     int       // and of that at the other
	near     int       // stations at its two ends
	far      int       //
	breathes [2]bool   // the sensor at this end, and at the other, through its lead
	pieces   []stretch //
}

// stretch is a path on the way of a wire, with what speaks against a joint in it, whoever else is there.
type stretch struct {
	segment  int
	begins   float64 // mm along the lane, behind the tail
	length   float64
	stations [2]int
	back     bool // it is measured from its far end
	wall     bool
	why      string
	thick    float64 // mm, of the bundle at a joint
}

func (st *stagger) lane(line, end int) *lane {
	r, l, w := st.r, &st.r.Lines[line], &st.r.in.Wires[line]
	paths, stations := l.route.Paths, l.route.Stations
	n := len(paths)
	rules := &r.in.Decisions.Rules
	out := &lane{tail: st.tail(w, end, l), first: st.tailOf(w, end), last: st.tailOf(w, 1-end), near: stations[0],
		far: stations[len(stations)-1], pieces: make([]stretch, 0, n), stub: rules.Stub,
		whole: l.Had + l.By - 2*rules.Lap*float64(l.Joints)}
	for k, e := range [2]int{end, 1 - end} {
		d := st.s.deviceAt(w, e)
		out.breathes[k] = d != nil && breathes(w, d)
		out.plugs[k] = w.Ends[e].Splice == ""
	}
	if end == 1 {
		out.near, out.far = out.far, out.near
	}
	begins := 0.0
	for k := range paths {
		p, a, b := k, k, k+1
		if end == 1 {
			p, a, b = n-1-k, n-k, n-1-k
		}
		path := &r.router.Paths[paths[p]]
		x := stretch{segment: paths[p], begins: begins, length: path.Length, stations: [2]int{stations[a], stations[b]},
			back: r.router.Number[path.From] != stations[a], wall: path.Wall}
		st.judge(&x, path, w, l)
		out.pieces = append(out.pieces, x)
		begins += path.Length
	}
	return out
}

// spot gives the place that lies so many mm along the wire from the lane's end.
func (n *lane) spot(out *spot, along float64) {
	why := ""
	for k, off := range [2]float64{along, n.whole - along} {
		switch {
		case n.breathes[k] && off < breather:
			why = "it would be within 300 mm of the sensor, which breathes through its lead"
		case off < 0 && why == "":
			why = "too little of the wire is left there to join to"
		case n.plugs[k] && off < n.stub && why == "":
			why = fmt.Sprintf("it would lie %.0f mm from a plug", max(off, 0))
		}
	}
	if along < n.tail || len(n.pieces) == 0 {
		*out = spot{segment: n.first, at: along, stations: [2]int{-1, n.near}, off: [2]float64{0, max(0, n.tail-along)},
			why: why}
		return
	}
	left := along - n.tail
	k := len(n.pieces) - 1
	for i := range n.pieces {
		if left <= n.pieces[i].begins+n.pieces[i].length {
			k = i
			break
		}
	}
	x := &n.pieces[k]
	left -= x.begins
	if left > x.length { // beyond the last station: in the tail of the other end
		*out = spot{segment: n.last, at: left - x.length, stations: [2]int{n.far, -1},
			off: [2]float64{left - x.length, 0}, why: why}
		return
	}
	*out = spot{segment: x.segment, at: left, stations: x.stations, off: [2]float64{left, x.length - left}, why: why,
		thick: x.thick}
	if x.back { // measured from the path's own beginning
		out.at = x.length - left
	}
	switch {
	case why != "":
	case x.why == flexes:
		out.why = x.why
	case x.wall && math.Abs(out.at-x.length/2) < grommet:
		out.why = "it would lie in the grommet"
	default:
		out.why = x.why
	}
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
	return dropAt(&st.r.router.Stations[at], rules) + rules.End
}

func (st *stagger) tailOf(w *Wire, end int) int {
	name := w.Ends[end].At.Connector
	if name == "" {
		name = "splice " + w.Ends[end].Splice
	}
	n, ok := st.tails[name]
	if !ok {
		n = len(st.r.router.Paths) + len(st.tails)
		st.tails[name] = n
	}
	return n
}

const flexes = "the bundle flexes there"

// judge says what speaks against a joint on a path, wherever on it, and how thick the bundle would be there.
func (st *stagger) judge(x *stretch, path *route.Path, w *Wire, l *Line) {
	b := &st.r.Bundles[x.segment]
	d := thickness(max(w.Size, l.Size))
	g := grows[st.r.school(st.s, w, l, path)]
	joint := d*g[0] + g[1]
	x.thick = math.Sqrt(b.Laid*b.Laid + laidFactor*laidFactor*(joint*joint-d*d))
	if len(b.Round) == 1 {
		x.thick = joint
	}
	switch {
	case path.Moving:
		x.why = flexes
	case path.Cover != route.Bare && x.thick-b.Laid > st.r.in.Decisions.Rules.Bulge:
		x.why = fmt.Sprintf("the bundle would grow from %.1f to %.1f mm under its cover", b.Laid, x.thick)
	}
}
