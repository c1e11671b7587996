package reach

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/size"
)

// flows is the least A at which the network is taken to say something of a wire: below it nothing is known to hang
// on it.
const flows = 0.005

// loads gives each wire its current: what somebody said, else what the network says, else what usually hangs on it.
// In a circuit that branches, a wire between its source and a splice carries the sum of what lies beyond it. The
// source is the end at a fuse box, else at a control unit, else at a ground.
func (r *Result) loads(s *settled) {
	c := r.circuits(s)
	for i := range r.in.Wires {
		w, l := &r.in.Wires[i], &r.Lines[i]
		l.Fuse = r.in.Fuses[w.ID]
		if x := s.wish[w.ID]; x != nil && x.Amps > 0 {
			l.Amps, l.AmpsBy = x.Amps, "as stated"+by(x.Who)
			continue
		}
		if a := r.in.Amps[w.ID]; a >= flows {
			l.Amps, l.AmpsBy = a, byNetwork
			continue
		}
		l.Amps, l.AmpsBy = c.through(i)
		l.summed = l.AmpsBy == summed
	}
	r.group()
}

// ignored is the part of what a wire may carry in its bundle up to which it does not count among the loaded ones
// (IEC 60364-5-52, 523.5, from memory).
const ignored = 0.3

// group counts by path the wires that warm each other there.
func (r *Result) group() {
	paths := len(r.router.Paths)
	all, loaded := make([]int, paths), make([]int, paths)
	count := func(into []int, counts func(i int) bool) {
		for i := range r.Lines {
			if r.Lines[i].ok && counts(i) {
				for _, p := range r.Lines[i].route.Paths {
					into[p]++
				}
			}
		}
	}
	class := r.in.Decisions.Rules.Class
	count(all, func(i int) bool { return r.Lines[i].Amps >= 0.1 })
	count(loaded, func(i int) bool {
		l, w := &r.Lines[i], &r.in.Wires[i]
		n := 1
		for _, p := range l.route.Paths {
			n = max(n, all[p])
		}
		may := max(w.Size, newest).Ampacity(class, min(l.Air, class.Limit()-1), n)
		return l.Amps > ignored*may
	})
	r.loaded = loaded
}

// newest is the thinnest section that new wire has, mm², and newPower the thinnest where it is no signal's (common
// practice, no source).
const (
	newest   size.Section = 0.35
	newPower size.Section = 0.5
)

// tells is the least A from which a current says how thick a new wire must be: less is what reaches a device of which
// nobody knows what it takes.
const tells = 0.1

// begin gives the section from which a wire is reckoned: what there is; for new wire what somebody stated, else what
// its row or its counterpart has, else the thinnest that its kind of circuit may have, where anything says what it
// carries. It is 0 where nothing does.
func (r *Result) begin(w *Run, l *Line, x *Wish) size.Section {
	if !w.New {
		return w.Size
	}
	least := newPower
	if network.Small(&w.Signal) {
		least = newest
	}
	switch {
	case x != nil && x.Size > 0:
		l.Why = append(l.Why, reason("stated-size", "", "%s was stated%s.", x.Size, by(x.Who)))
		return max(x.Size, least)
	case w.Size > 0:
		return max(w.Size, least)
	case l.Amps >= tells || l.Fuse > 0 || least == newest:
		return least
	}
	l.Unsized = true
	l.Why = append(l.Why, reason("no-size", "", "Nobody knows what it carries, nor how thick it is to be: state its size "+
		"or its amps here."))
	return 0
}

// Bundled gives how many wires that are loaded at once lie in the fullest bundle of a wire's way, itself included.
func (r *Result) Bundled(wire harness.WireID) int {
	i, known := r.wires[wire]
	if !known {
		return 1
	}
	n := 1
	for _, p := range r.Lines[i].route.Paths {
		n = max(n, r.loaded[p])
	}
	return n
}

// circuits are the wires as they are joined by splices, junctions and in-line pairs.
type circuits struct {
	wires  []Run
	graph  *circuit.Graph
	load   []float64 // by node: of what hangs on it, where it is an end
	known  []bool
	source []int // by node: its rank as a source, 0: none
	root   []bool
	carry  []float64 // by wire
	told   []bool
	seen   []bool
}

func (r *Result) circuits(s *settled) *circuits {
	loom := *r.in.Loom
	loom.Wires = make([]harness.Wire, len(r.in.Wires))
	for i := range r.in.Wires {
		loom.Wires[i] = r.in.Wires[i].Wire
	}
	g := circuit.Draw(&loom)
	nodes, wires := len(g.Nodes), len(r.in.Wires)
	c := &circuits{wires: r.in.Wires, graph: g, load: make([]float64, nodes), known: make([]bool, nodes),
		source: make([]int, nodes), root: make([]bool, nodes),
		carry: make([]float64, wires), told: make([]bool, wires), seen: make([]bool, wires)}
	for i := range c.wires {
		own, ok := network.UsualAmps(&c.wires[i].Signal)
		for end, n := range g.Ends[i] {
			if g.Nodes[n].Kind == circuit.Splice {
				continue
			}
			if d := s.deviceAt(&c.wires[i], end); d != nil && d.Kind.Hub() {
				rank := map[harness.DeviceKind]int{harness.Fuses: 3, harness.Unit: 2, harness.Grounds: 1}[d.Kind]
				c.source[n] = max(c.source[n], rank)
			} else if ok {
				c.load[n], c.known[n] = max(c.load[n], own), true
			}
		}
	}
	order := make([]int32, nodes)
	for n := range order {
		order[n] = int32(n)
	}
	slices.SortStableFunc(order, func(a, b int32) int { return c.source[b] - c.source[a] })
	for _, n := range order {
		if !c.root[n] {
			c.walk(n)
		}
	}
	return c
}

// walk goes from a source outward and sums what hangs on each wire.
func (c *circuits) walk(n int32) (sum float64, known bool) {
	c.root[n] = true
	sum, known = c.load[n], c.known[n]
	for _, x := range c.graph.Tips(n) {
		w := x.Wire()
		if c.seen[w] {
			continue
		}
		c.seen[w] = true
		other := c.graph.Far(x)
		if !c.root[other] {
			c.carry[w], c.told[w] = c.walk(other)
		}
		if c.told[w] {
			sum, known = sum+c.carry[w], true
		}
	}
	return sum, known
}

// meet counts the ends of wires at the two ends of one.
func (c *circuits) meet(i int) int {
	return len(c.graph.Tips(c.graph.Ends[i][0])) + len(c.graph.Tips(c.graph.Ends[i][1]))
}

const byNetwork = "as the network has it, the most that lasts"

const summed = "the sum of what hangs on it, as usual"

func (c *circuits) through(i int) (amperes float64, how string) {
	own, ok := network.UsualAmps(&c.wires[i].Signal)
	switch {
	case c.told[i] && c.carry[i] > own*1.001 && c.meet(i) > 2:
		return c.carry[i], summed
	case ok:
		return own, "as usual for what it is"
	case c.told[i] && c.carry[i] > 0:
		return c.carry[i], "as usual for what hangs on it"
	}
	return 0, ""
}

// feeds says whether what a wire loses in volts matters: it brings current, or takes it back.
func feeds(s *signal.Reading) bool {
	switch s.Role {
	case signal.Battery, signal.Ignition, signal.Start, signal.Ground, signal.Load, signal.HighSide:
		return true
	}
	return false
}

// critical says whether the engine depends on a feed.
func critical(s *signal.Reading) bool {
	switch s.System {
	case "fuel", "ignition", "engine", "starting", "power", "charging", "air", "network":
		return true
	}
	return false
}

// sized gives the section that a wire should have for its current, its way and its air, and why where that is more than
// it has. Sizes only go up.
func (r *Result) sized(w *Run, l *Line, x *Wish) {
	rules := &r.in.Decisions.Rules
	begun := r.begin(w, l, x)
	l.Size = begun
	if begun == 0 || l.Amps == 0 && l.Fuse == 0 {
		return
	}
	class := rules.Class
	l.Volts = begun.Drop(l.Amps, l.Need, l.Air)
	allowed := 0.0
	if feeds(&w.Signal) {
		part := rules.Rest
		if critical(&w.Signal) {
			part = rules.Loss
		}
		allowed = rules.Volts * part / 2 // the way back may lose as much
	}
	if l.Air >= class.Limit() {
		class = l.Class // a new piece stands it; that the old one does not is told by itself
	}
	loaded := r.Bundled(w.ID)
	need, err := begun.Upgrade(l.Amps, class, l.Air, loaded, l.Need, allowed)
	if err != nil {
		l.Why = append(l.Why, reason("no-size", "", "No size of the trade will do: %v.", err))
		return
	}
	if l.Fuse > 0 { // new wire carries as much as the fuse before it
		if more, err := need.Upgrade(l.Fuse, class, l.Air, loaded, l.Need, 0); err == nil && more > need {
			l.Why = append(l.Why, reason("fuse", "ABYC E-11 (from memory)",
				"The fuse before it has %.3g A, and a fuse protects the wire: %s carries that.", l.Fuse, more))
			l.Size = more
			return
		}
	}
	if need <= begun {
		return
	}
	l.Size = need
	if a := begun.Ampacity(class, l.Air, loaded); a < l.Amps {
		among := ""
		if loaded > 2 {
			among = fmt.Sprintf(" among %d loaded wires", loaded)
		}
		l.Why = append(l.Why, reason("heat", "ABYC E-11 (from memory), IEC 60364-5-52",
			"%s carries %.3g A in air of %.0f °C in class %s%s, and %.3g A are wanted: %s.", begun, a, l.Air, class, among,
			l.Amps, need))
	} else {
		l.Why = append(l.Why, reason("drop", "ISO 6722-1 (from memory), ABYC E-11 (from memory)",
			"%s loses %.2f V over %.0f mm at %.3g A, and %.2f V are allowed one way: %s loses %.2f V.", begun, l.Volts,
			l.Need, l.Amps, allowed, need, need.Drop(l.Amps, l.Need, l.Air)))
	}
}

// worst lists the feeds that lose most in the size that they should have, worst first, at most n.
func (r *Result) worst(n int) []Dropped {
	out := []Dropped{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		if l.Volts > 0 && feeds(&w.Signal) {
			volts := max(l.Size, w.Size).Drop(l.Amps, l.Need, l.Air)
			out = append(out, Dropped{l.Wire, l.Amps, volts, volts / max(r.in.Decisions.Rules.Volts, 1), l.Volts})
		}
	}
	slices.SortStableFunc(out, func(a, b Dropped) int { return cmp.Compare(b.Volts, a.Volts) })
	return out[:min(n, len(out))]
}

// classOf gives the class of insulation that a piece in that air needs at least; the hottest there is where none does.
func classOf(air float64) size.Class {
	c, _ := size.ClassFor(air)
	return c
}
