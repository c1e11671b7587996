package reach

import (
	"fmt"
	"math"

	"draxel/core/route"
	"draxel/core/stagger"
)

// choice lists where the joints of a wire can go: the farther back it is cut, the farther from its end they lie. Where
// nobody has said which end, the other one comes after the better one.
func (y *layer) choice(i int) *stagger.Choice {
	l, w, rules := &y.r.Lines[i], &y.r.in.Wires[i], &y.r.in.Decisions.Rules
	c := &stagger.Choice{Wire: i, Name: string(l.Wire), Joints: l.Joints, Had: l.Had, By: l.By,
		Each: stagger.Joint{Lap: rules.Lap, Stub: rules.Stub}, Took: -1}
	c.AtEnd(l.At-1, y.lane(i, l.At-1))
	if x := y.s.wish[w.ID]; l.Joints == 2 && w.CutAt == 0 && !w.Whole[2-l.At] && (x == nil || x.At == 0) {
		if d := y.s.deviceAt(w, 2-l.At); d == nil || !breathes(w, d) {
			c.AtEnd(2-l.At, y.lane(i, 2-l.At))
		}
	}
	return c
}

// lane gives the way of a wire from one of its ends.
func (y *layer) lane(line, end int) *stagger.Lane {
	r, l, w := y.r, &y.r.Lines[line], &y.r.in.Wires[line]
	paths, stations := l.route.Paths, l.route.Stations
	n := len(paths)
	out := &stagger.Lane{Tail: y.tail(w, end, l), First: y.tailOf(w, end), Last: y.tailOf(w, 1-end), Near: stations[0],
		Far: stations[len(stations)-1], Stretches: make([]stagger.Stretch, 0, n)}
	for k, e := range [2]int{end, 1 - end} {
		d := y.s.deviceAt(w, e)
		out.Breathes[k] = d != nil && breathes(w, d)
		out.Plugs[k] = w.Ends[e].Splice == ""
	}
	if end == 1 {
		out.Near, out.Far = out.Far, out.Near
	}
	begins := 0.0
	for k := range paths {
		p, a, b := k, k, k+1
		if end == 1 {
			p, a, b = n-1-k, n-k, n-1-k
		}
		path := &r.router.Paths[paths[p]]
		x := stagger.Stretch{Segment: paths[p], Begins: begins, Length: path.Length,
			Stations: [2]int{stations[a], stations[b]}, Back: r.router.Number[path.From] != stations[a],
			Wall: path.Wall, Flexes: path.Moving}
		y.judge(&x, path, w, l)
		out.Stretches = append(out.Stretches, x)
		begins += path.Length
	}
	return out
}

// tail is how long the wire is between its plug and the bundle, mm.
func (y *layer) tail(w *Run, end int, l *Line) float64 {
	if w.Ends[end].Splice != "" {
		return 0
	}
	rules := &y.r.in.Decisions.Rules
	at := l.route.Stations[0]
	if end == 1 {
		at = l.route.Stations[len(l.route.Stations)-1]
	}
	return dropAt(&y.r.router.Stations[at], rules) + rules.End
}

func (y *layer) tailOf(w *Run, end int) int {
	t := tail{connector: w.Ends[end].At.Connector}
	if t.connector == "" {
		t.splice = w.Ends[end].Splice
	}
	n, ok := y.tails[t]
	if !ok {
		n = len(y.r.router.Paths) + len(y.ends)
		y.tails[t], y.ends = n, append(y.ends, t)
	}
	return n
}

// judge says what speaks against a joint on a path, wherever on it, and how thick the bundle would be there.
func (y *layer) judge(x *stagger.Stretch, path *route.Path, w *Run, l *Line) {
	b := &y.r.Bundles[x.Segment]
	d := thickness(max(w.Size, l.Size))
	g := grows[y.r.school(y.s, w, l, path)]
	joint := d*g[0] + g[1]
	x.Thick = math.Sqrt(b.Laid*b.Laid + laidFactor*laidFactor*(joint*joint-d*d))
	if len(b.Round) == 1 {
		x.Thick = joint
	}
	if path.Cover != route.Bare && x.Thick-b.Laid > y.r.in.Decisions.Rules.Bulge {
		x.Why = fmt.Sprintf("the bundle would grow from %.1f to %.1f mm under its cover", b.Laid, x.Thick)
	}
}
