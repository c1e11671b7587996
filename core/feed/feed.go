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

// Copper is what is known of a wire or a cable.
type Copper struct {
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
	Wires map[harness.WireID]Copper // and the cables of the lists
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

// Ground is a place that currents come back by, and how far it stands above the battery's negative terminal.
type Ground struct {
	Name  string  `json:"name"`
	Crank float64 `json:"crank"` // V
	Full  float64 `json:"full"`  // V, with everything on
	Amps  float64 `json:"amps"`  // A that come back by it, with everything on
	Led   bool    `json:"led"`   // somebody has said how it is joined to the battery
	Joins string  `json:"joins"` // by what
}

// Protected is a fuse and what lies behind it.
type Protected struct {
	Fuse    string         `json:"fuse"`
	Rating  float64        `json:"rating"`
	Load    float64        `json:"load"`    // A, the most of all positions
	In      string         `json:"in"`      // position in which that is
	Thin    harness.WireID `json:"thin"`    // the wire behind it that may carry least
	Carries float64        `json:"carries"` // A that this may carry; 0 where nothing is known
	Best    float64        `json:"best"`    // A of the fuse that fits, 0 where none does
	Why     string         `json:"why,omitempty"`
	Starts  float64        `json:"-"` // A of the motors behind it until they turn
	Cold    float64        `json:"-"` // A of the lamps behind it for some 50 ms, while they are cold
	Slow    bool           `json:"slow,omitempty"`
	// Which kind its loads want, slow or quick, and why.
	Wants string           `json:"wants,omitempty"`
	Wires []harness.WireID `json:"wires"`
	// Nobody has said which fuse stands there: the rating is the one that is reckoned.
	Reckoned bool `json:"reckoned,omitempty"`
	// It fits only since it saves every wire behind it in a short: for long they may carry less.
	Short   bool           `json:"short,omitempty"`
	Unsaved harness.WireID `json:"unsaved,omitempty"` // a wire that it does not save in a short either
	Was     float64        `json:"was,omitempty"`     // A of the fuse that is there and is to be changed
	element int32
	behind  map[int32]bool // nodes
}

// Bare is a length without protection between a source and the first fuse.
type Bare struct {
	Wire    harness.WireID `json:"wire"`
	Mm      float64        `json:"mm"`                // from the source to its far end
	Starter bool           `json:"starter,omitempty"` // the starter's cable, which is exempt
}

// Sensed is a sensor whose ground stands elsewhere than the unit's own inside: the unit reads that much wrong.
type Sensed struct {
	Device string  `json:"device"`
	At     string  `json:"at"`    // the unit's cavity that reads it
	Crank  float64 `json:"crank"` // V by which the sensor's ground stands above the unit's
	Full   float64 `json:"full"`  // the same with everything on
	back   int32   // the node of its ground
	unit   int32   // the unit's inside
}
