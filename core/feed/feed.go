// Package feed says what is live, what it carries and what protects it: power, fuses, relays and grounds. What stands
// in the vehicle comes from core/vehicle; Compute asks the network in every position of the key, and finds what is
// wrong; Ask asks it what if.
package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/size"
	"draxel/core/vehicle"
)

// Wire is what is known of a wire or a cable.
type Wire struct {
	Square  size.Section // mm², 0 where nobody knows
	Mm      float64      // of length, 0 where nobody knows
	Carries float64      // A that it may carry where it lies; 0 where its size is not known
}

// metal names a piece of copper among Input's Wires: a length of wire, or a cable of the lists as what is listed is
// named, whatever it is called.
func metal(e *network.Element) harness.WireID {
	if e.Wire != "" {
		return e.Wire
	}
	return harness.Listed(e.Name)
}

// drawnAs gives the element of a piece of copper by the name that metal gives it, and false where it is not drawn.
func (r *Result) drawnAs(name harness.WireID) (int32, bool) {
	if i, wire := r.Drawn.Wires[name]; wire {
		return i, true
	}
	return r.Drawn.Element(name.Name())
}

// Input is what Compute works on.
type Input struct {
	Drawn *network.Drawn
	Facts *vehicle.Facts
	Wires map[harness.WireID]Wire // and the cables of the lists
	// Contacts is what the contacts of cavities carry for long, A, by the cavity's name, where its width is known.
	Contacts map[string]float64
}

// Position is a position of the key with the engine standing or running.
type Position struct {
	Key     network.Key `json:"-"`
	Name    string      `json:"name"` // off, accessory, run, crank, running
	Running bool        `json:"running,omitempty"`
}

// Positions lists those in which the network is asked.
func Positions() []Position {
	return []Position{
		{network.Off, "off", false},
		{network.Accessory, "accessory", false},
		{network.Run, "run", false},
		{network.Crank, "crank", false},
		{network.Run, "running", true},
	}
}

// Result is what the network says.
type Result struct {
	Drawn       *network.Drawn
	Facts       *vehicle.Facts
	States      []*network.State // by Positions
	Fuses       []Protected
	Unprotected []Bare
	Grounds     []Ground
	Sensors     []Sensed // what sensors read wrong by how their grounds are lifted
	Sleeps      float64  // A with the key off
	Days        float64  // until the battery is flat with the key off; 0 where its capacity is not known
	Takes       float64  // A of everything with the engine running
	Findings    []finding.Finding
	Assumed     []string

	in      Input
	turned  *network.State   // in crank, with the starter turning
	full    *network.State   // the engine running with everything switched on
	cranked *network.State   // crank with everything switched on
	at      [][]int32        // elements by node
	above   map[int32]bool   // nodes that a source reaches without a switch or a fuse between
	worst   []float64        // A by element, the most of what lasts: of all positions but crank
	ohms    []float64        // by node: the least Ω from a source
	reached []map[int32]bool // by position: the nodes that are fed
}

// Compute asks the network in every position. It is pure: the same input gives the same result.
func Compute(in Input) (*Result, error) {
	r := &Result{Drawn: in.Drawn, Facts: in.Facts, in: in, Findings: slices.Clone(in.Facts.Findings),
		Assumed: in.Drawn.Assumed,
		Fuses:   []Protected{}, Unprotected: []Bare{}, Grounds: []Ground{}, Sensors: []Sensed{}}
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
	var err error
	if r.full, err = r.everything(); err != nil {
		return nil, err
	}
	if r.cranked, err = r.With("crank", r.Own()); err != nil {
		return nil, err
	}
	r.worst = most(r.States, r.full)
	for _, s := range r.States {
		r.reached = append(r.reached, r.fedBy(s))
	}
	r.highest()
	r.ohms = r.reach()
	r.fuses()
	r.bare()
	r.ground()
	r.senses()
	r.quiet()
	r.check()
	finding.Sort(r.Findings)
	return r, nil
}

// everything is the engine running with everything switched on.
func (r *Result) everything() (*network.State, error) {
	full := r.Usual(Positions()[len(Positions())-1])
	for _, s := range r.Own() {
		full.On[s] = true
	}
	return r.Drawn.Solve(full)
}

// most gives by element the most A of what lasts: of all positions but crank, and of everything on.
func most(states []*network.State, full *network.State) []float64 {
	out := make([]float64, len(full.Network.Elements))
	for k, s := range append(slices.Clone(states), full) {
		if k < len(states) && Positions()[k].Key == network.Crank {
			continue
		}
		for i := range out {
			out[i] = max(out[i], math.Abs(s.Amps(int32(i))))
		}
	}
	return out
}

// Worst gives by element of a network the most A that it carries for long: standing in run, with the engine running,
// and with everything on.
func Worst(drawn *network.Drawn, facts *vehicle.Facts) ([]float64, error) {
	r := &Result{Drawn: drawn, Facts: facts}
	all := Positions()
	out := make([]float64, len(drawn.Elements))
	for _, solve := range []func() (*network.State, error){
		func() (*network.State, error) { return drawn.Solve(r.Usual(all[2])) },
		func() (*network.State, error) { return drawn.Solve(r.Usual(all[len(all)-1])) },
		r.everything,
	} {
		s, err := solve()
		if err != nil {
			return nil, err
		}
		for i := range out {
			out[i] = max(out[i], math.Abs(s.Amps(int32(i))))
		}
	}
	return out, nil
}

// Carries gives the most A that lasts in any of a contact and some wires, 0 where there is none of them.
func (r *Result) Carries(contact string, wires ...harness.WireID) float64 {
	most := 0.0
	if i, known := r.Drawn.Element(contact); known {
		most = r.worst[i]
	}
	for _, w := range wires {
		if i, known := r.Drawn.Wires[w]; known {
			most = max(most, r.worst[i])
		}
	}
	return most
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
	for _, s := range r.Own() { // what a person switches on is off, but for a master switch
		c.On[s] = r.Facts.Master(s)
	}
	return c
}

// With gives the state of a position with switches of their own on, those named and no other. It fails where there
// is no such switch.
func (r *Result) With(position string, on []string) (*network.State, error) {
	s := r.state(position)
	var faults []network.Fault
	for _, x := range on {
		if !slices.Contains(r.Own(), x) {
			return nil, fmt.Errorf("there is no switch %q", x)
		}
	}
	for _, x := range r.Own() {
		if want := slices.Contains(on, x); want != s.Condition.On[x] {
			faults = append(faults, network.Fault{Do: network.Force, Element: x, On: want})
		}
	}
	if len(faults) == 0 {
		return s, nil
	}
	return s.With(faults...)
}

// Own lists the switches of their own: those that somebody has said, and those that are devices of the harness.
func (r *Result) Own() []string {
	all := append(slices.Clone(r.Facts.Switches), r.Drawn.Own...)
	slices.Sort(all)
	return slices.Compact(all)
}

// Closed lists the switches of their own that are on as a rule.
func (r *Result) Closed() []string {
	var out []string
	for _, x := range r.Own() {
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

// cranks says whether an element carries the starter's current, and so is exempt from protection: nearly all of it,
// in crank.
func (r *Result) cranks(i int32) bool {
	s, sum := r.turning(), 0.0
	for _, l := range r.Drawn.Motors {
		sum += math.Abs(s.Amps(l))
	}
	return sum > 0 && math.Abs(s.Amps(i)) >= 0.8*sum
}

// turning gives the state in which the starter turns, whether or not the start path is complete: its cables are its
// cables before that too.
func (r *Result) turning() *network.State {
	if r.turned == nil {
		r.turned = r.state("crank")
		var pulled []network.Fault
		for _, l := range r.Drawn.Motors {
			if k := r.Drawn.Elements[l].Gate.Relay; k > 0 {
				pulled = append(pulled, network.Fault{Do: network.Stuck, Element: r.Drawn.Relays[k-1].Name})
			}
		}
		if s, err := r.turned.With(pulled...); err == nil && len(pulled) > 0 {
			r.turned = s
		}
	}
	return r.turned
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

// beyond walks from a node through what hands current on, whether it is open or closed, up to fuses, sources and
// loads, and to the battery's negative terminal, and gives the nodes that it comes to. Visit is called for each
// element once, with the mm of wire up to its far end.
func (r *Result) beyond(from network.Node, not int32, visit func(i int32,
	mm float64) (on bool)) (nodes map[int32]bool) {
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
			mm := x.mm + r.in.Wires[metal(e)].Mm
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
