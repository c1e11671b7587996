package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
	"draxel/core/size"
)

// Wire is what is known of a wire or a cable.
type Wire struct {
	Square  size.Section // mm², 0 where nobody knows
	Mm      float64      // of length, 0 where nobody knows
	Carries float64      // A that it may carry where it lies; 0 where its size is not known
}

// Input is what Compute works on.
type Input struct {
	Drawn *network.Drawn
	Facts *Facts
	Wires map[string]Wire
}

// Position is a position of the key with the engine standing or running.
type Position struct {
	Key     network.Key `json:"-"`
	Name    string      `json:"name"` // off, accessory, run, crank, running
	Running bool        `json:"running,omitempty"`
}

// Positions lists those in which the network is asked.
func Positions() []Position {
	return []Position{{network.Off, "off", false}, {network.Accessory, "accessory", false}, {network.Run, "run", false},
		{network.Crank, "crank", false}, {network.Run, "running", true}}
}

// Result is what the network says.
type Result struct {
	Drawn       *network.Drawn
	Facts       *Facts
	States      []*network.State // by Positions
	Fuses       []Protected
	Unprotected []Bare
	Grounds     []Ground
	Sleeps      float64 // A with the key off
	Days        float64 // until the battery is flat with the key off; 0 where its capacity is not known
	Takes       float64 // A of everything with the engine running
	Findings    []finding.Finding
	Assumed     []string

	in    Input
	full  *network.State // the engine running with everything switched on
	at    [][]int32      // elements by node
	above map[int32]bool // nodes that a source reaches without a switch or a fuse between
	worst []float64      // A by element, the most of what lasts: of all positions but crank
}

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
	element int32
	behind  map[int32]bool // nodes
}

// Bare is a length without protection between a source and the first fuse.
type Bare struct {
	Wire    string  `json:"wire"`
	Mm      float64 `json:"mm"`                // from the source to its far end
	Starter bool    `json:"starter,omitempty"` // the starter's cable, which is exempt
}

// Compute asks the network in every position. It is pure: the same input gives the same result.
func Compute(in Input) (*Result, error) {
	r := &Result{Drawn: in.Drawn, Facts: in.Facts, in: in, Findings: slices.Clone(in.Facts.Findings),
		Assumed: in.Drawn.Assumed,
		Fuses:   []Protected{}, Unprotected: []Bare{}, Grounds: []Ground{}}
	r.connect()
	var last *network.State
	for _, p := range Positions() {
		c := r.Usual(p)
		var s *network.State
		var err error
		if last != nil && p.Key == network.Crank { // what has pulled in run stays while it has enough
			s, err = in.Drawn.Follow(last, c)
		} else {
			s, err = in.Drawn.Solve(c)
		}
		if err != nil {
			return nil, err
		}
		r.States = append(r.States, s)
		last = s
	}
	full := r.Usual(Positions()[len(Positions())-1])
	for _, s := range in.Facts.Switches {
		full.On[s] = true
	}
	var err error
	if r.full, err = in.Drawn.Solve(full); err != nil {
		return nil, err
	}
	r.worst = make([]float64, len(in.Drawn.Elements))
	for k, s := range append(slices.Clone(r.States), r.full) {
		if k < len(r.States) && Positions()[k].Key == network.Crank {
			continue
		}
		for i := range r.worst {
			r.worst[i] = max(r.worst[i], math.Abs(s.Amps(int32(i))))
		}
	}
	r.highest()
	r.fuses()
	r.bare()
	r.ground()
	r.check()
	finding.Sort(r.Findings)
	return r, nil
}

// charged is the volts of a full battery under charge with nothing on it: it takes little then (common practice).
const charged = 13.6

// Usual gives the condition that is usual in a position: with the engine turning every output works as it does on
// average; with it standing the unit holds its main relay and its lamps.
func (r *Result) Usual(p Position) network.Condition {
	c := network.Condition{Key: p.Key, Running: p.Running, On: map[string]bool{}, Celsius: 60}
	if p.Running {
		c.Battery = charged
	}
	c.On[network.Turning] = p.Running || p.Key == network.Crank
	for name, drives := range r.Drawn.Outputs {
		turning := p.Running || p.Key == network.Crank
		c.On[name] = turning || p.Key == network.Run && (strings.Contains(drives, "main relay") ||
			strings.Contains(drives, "lamp"))
	}
	for _, s := range r.Facts.Switches { // what a person switches on is off, but for a master switch
		c.On[s] = strings.Contains(strings.ToLower(s), "master")
	}
	return c
}

// With gives the state of a position with switches of their own on, those named and no other. It fails where there is no
// such switch.
func (r *Result) With(position string, on []string) (*network.State, error) {
	s := r.state(position)
	var faults []network.Fault
	for _, x := range on {
		if !slices.Contains(r.Facts.Switches, x) {
			return nil, fmt.Errorf("there is no switch %q", x)
		}
	}
	for _, x := range r.Facts.Switches {
		if want := slices.Contains(on, x); want != s.Condition.On[x] {
			faults = append(faults, network.Fault{Do: network.Force, Element: x, On: want})
		}
	}
	if len(faults) == 0 {
		return s, nil
	}
	return s.With(faults...)
}

// Closed lists the switches of their own that are on as a rule.
func (r *Result) Closed() []string {
	var out []string
	for _, x := range r.Facts.Switches {
		if r.state("run").Condition.On[x] {
			out = append(out, x)
		}
	}
	return out
}

// source says whether an element is a battery or an alternator, not the reference of a unit.
func (r *Result) source(i int32) bool {
	return r.Drawn.Elements[i].Kind == network.Source && r.Drawn.Device[i] == ""
}

// inner says whether a node is inside of a unit.
func (r *Result) inner(head int32) bool { return r.Drawn.Inner[network.Node(head)] }

// cranks says whether an element carries the starter's current, and so is exempt from protection: nearly all of it, in
// crank.
func (r *Result) cranks(i int32) bool {
	s, sum := r.state("crank"), 0.0
	for _, l := range r.Drawn.Loads {
		if r.Drawn.Elements[l].Gate.Key == network.Crank {
			sum += math.Abs(s.Amps(l))
		}
	}
	return sum > 0 && math.Abs(s.Amps(i)) >= 0.8*sum
}

// connect lists the elements at each node.
func (r *Result) connect() {
	heads := r.Drawn.Heads()
	r.at = make([][]int32, len(heads))
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		a, b := heads[e.A], heads[e.B]
		r.at[a] = append(r.at[a], int32(i))
		if a != b {
			r.at[b] = append(r.at[b], int32(i))
		}
	}
}

// beyond walks from a node through what hands current on, whether it is open or closed, up to fuses, sources and loads,
// and to the battery's negative terminal, and gives the nodes that it comes to. Visit is called for each element once,
// with the mm of wire up to its far end.
func (r *Result) beyond(from network.Node, not int32, visit func(i int32, mm float64) (on bool)) (nodes map[int32]bool) {
	heads := r.Drawn.Heads()
	seen := map[int32]bool{heads[from]: true, 0: true}
	type step struct {
		node int32
		mm   float64
	}
	queue := []step{{heads[from], 0}}
	done := map[int32]bool{not: true}
	for len(queue) > 0 {
		x := queue[0]
		queue = queue[1:]
		for _, i := range r.at[x.node] {
			e := &r.Drawn.Elements[i]
			if done[i] || !e.Kind.Hands() {
				continue
			}
			done[i] = true
			mm := x.mm + r.in.Wires[e.Name].Mm
			far := heads[e.A]
			if far == x.node {
				far = heads[e.B]
			}
			if r.inner(far) { // what is inside of a unit is the unit's to protect
				continue
			}
			if visit(i, mm) && !seen[far] && !(not >= 0 && r.above[far]) {
				seen[far] = true
				queue = append(queue, step{far, mm})
			}
		}
	}
	return seen
}

// highest finds the nodes that a source reaches with neither a switch nor a fuse between.
func (r *Result) highest() {
	r.above = map[int32]bool{}
	heads := r.Drawn.Heads()
	var queue []int32
	for i := range r.Drawn.Elements {
		if e := &r.Drawn.Elements[i]; r.source(int32(i)) && !r.above[heads[e.A]] {
			r.above[heads[e.A]] = true
			queue = append(queue, heads[e.A])
		}
	}
	for len(queue) > 0 {
		x := queue[0]
		queue = queue[1:]
		for _, i := range r.at[x] {
			e := &r.Drawn.Elements[i]
			if e.Kind != network.Copper && e.Kind != network.Contact {
				continue
			}
			for _, n := range []int32{heads[e.A], heads[e.B]} {
				if n != 0 && !r.above[n] {
					r.above[n] = true
					queue = append(queue, n)
				}
			}
		}
	}
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
		slices.SortFunc(p.Wires, finding.Natural)
		r.Fuses = append(r.Fuses, p)
	}
	slices.SortFunc(r.Fuses, func(a, b Protected) int { return finding.Natural(a.Fuse, b.Fuse) })
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
