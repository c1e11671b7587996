// Package network is the electrical half of a harness: nodes joined by wires, contacts, fuses, switches, relays,
// diodes, lamps and loads, fed by sources, and what volts and amps there are in a condition.
//
// A Network is drawn once by a Builder and does not change. Solve gives its State in a Condition: a key position,
// the engine's run, which switches and outputs are on, how warm it is, and what is broken. Equal conditions give
// equal states. A State gives another one with more Faults by solving again only what they touch.
//
// The network is linear but for relays, diodes, lamps and sources with a limit; for these a fixed point is sought. A
// relay whose own contact takes its coil away has none: the state then says that it buzzes.
package network

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/harness"
)

// Node is a place of one potential. Node 0 is the negative terminal of the battery, from which all volts are counted.
type Node int32

// Reference is the negative terminal of the battery.
const Reference Node = 0

// Kind says what an element is.
type Kind uint8

// The kinds of element. Copper to Switch hand current on; Load and Lamp use it.
const (
	Copper  Kind = iota // a length of wire, a strap: grows with temperature as copper does
	Contact             // a pair of contacts, a crimp, a stud, a joint
	Fuse
	Switch // the key's contact, a relay's, a switch, an output
	Diode  // from A to B
	Load   // a coil, a winding, a heater, a sensor: a constant resistance
	Lamp   // a tungsten filament
	Source // A is the positive pole
)

// Hands says whether the kind only hands current on, and uses none.
func (k Kind) Hands() bool { return k <= Diode }

// Element joins two nodes.
type Element struct {
	Name string // as a person would call it
	Kind Kind
	A, B Node
	Ohms float64 // of a lamp when it shines at Volts; of a source inside; of a diode in its way; greater than 0
	// Source: between the poles with nothing on it. Diode: lost in its way. Lamp: for which Ohms is stated.
	Volts float64
	Limit float64        // A, of a source that gives no more; 0: as much as its Ohms let through. Of a fuse, its rating
	Gate  Gate           // when it conducts; the zero gate is always
	Role  Role           // what it is of the thing that it belongs to
	Of    string         // the name of a fuse; the cavity of a contact or of a unit's pin
	Wire  harness.WireID // the length of wire that it is, where it is one
}

// At gives the cavity of a contact, the element's own name where it is no contact of a cavity.
func (e *Element) At() string {
	if e.Role == AtCavity {
		return e.Of
	}
	return e.Name
}

// Role says what an element is of the thing that it belongs to, where its kind does not say.
type Role uint8

// The roles.
const (
	NoRole    Role = iota
	AtCavity       // a contact: between the terminal of a wire and what its plug is plugged into
	OutputPin      // of a unit
	InputPin       // of a unit: what it reads
	SensorPin      // of a unit: where sensors are grounded
)

// Key is a set of positions of the key.
type Key uint8

// The positions of the key.
const (
	Off Key = 1 << iota
	Accessory
	Run
	Crank
)

// Keys lists the positions one by one.
func Keys() []Key { return []Key{Off, Accessory, Run, Crank} }

// String gives the position's name.
func (k Key) String() string {
	switch k {
	case Off:
		return "off"
	case Accessory:
		return "accessory"
	case Run:
		return "run"
	case Crank:
		return "crank"
	}
	return ""
}

// Gate says when an element conducts: in some positions of the key, with the engine running or standing, while a
// switch or an output is on, while a relay has pulled.
type Gate struct {
	Key     Key    // positions; 0: in all
	Running int8   // 1: while the engine runs, −1: while it stands; 0: both
	Switch  string // the switch or output; empty: none
	Rest    bool   // closed while the switch is off, or while the relay rests
	Relay   int32  // number of the relay, from 1; 0: none
}

// Pull says what pulls when a relay does.
type Pull uint8

// The kinds of relay.
const (
	Armature Pull = iota // a relay that somebody can pull out of its socket
	Awake                // none: it stands for a unit that is fed
	Solenoid             // of a starter
)

// Relay is a coil that moves contacts: the elements whose gates name it.
type Relay struct {
	Name    string
	Pull    Pull
	Coil    int32   // number of its element
	PullIn  float64 // V at the coil from which it pulls
	DropOut float64 // V below which it lets go, less than PullIn
}

// Side says what kind of place a node is.
type Side uint8

// The kinds of place.
const (
	Named   Side = iota // one that people name: the device's side of a cavity, a stud, a post, a splice
	OfWire              // behind a cavity: the terminal on its wire
	Within              // inside of a unit
	OpenEnd             // an end of a wire that is at nothing
	Made                // a joint that was made: it lies under its sleeve
)

// WireSide names the node behind a cavity, at the terminal of its wire.
func WireSide(cavity string) string { return cavity + ofWire }

const ofWire = " wire"

// Behind gives the cavity of a node that WireSide has named, and false for another name.
func Behind(name string) (cavity string, is bool) { return strings.CutSuffix(name, ofWire) }

// Builder draws a network. Its zero value has the reference and nothing else.
type Builder struct {
	names    []string
	sides    []Side
	merged   []int32
	byName   map[string]Node
	elements []Element
	relays   []Relay
}

// Node gives the node of that name, a new one where there is none.
func (b *Builder) Node(name string) Node { return b.Place(name, Named) }

// Place does the same for a place of any kind; what kind it is, who names it first says.
func (b *Builder) Place(name string, side Side) Node {
	b.begin()
	if n, known := b.byName[name]; known {
		return n
	}
	n := Node(len(b.names))
	b.names, b.sides, b.merged = append(b.names, name), append(b.sides, side), append(b.merged, int32(n))
	b.byName[name] = n
	return n
}

func (b *Builder) begin() {
	if b.byName == nil {
		b.byName, b.names, b.sides, b.merged = map[string]Node{}, []string{"battery −"}, []Side{Named}, []int32{0}
		b.byName["battery −"] = Reference
	}
}

// Add adds an element and gives its number.
func (b *Builder) Add(e Element) int32 {
	b.begin()
	b.elements = append(b.elements, e)
	return int32(len(b.elements) - 1)
}

// Relay adds a relay to a coil that has been added, and gives its number for gates, from 1.
func (b *Builder) Relay(r Relay) int32 {
	b.relays = append(b.relays, r)
	return int32(len(b.relays))
}

// ContactOf names the contact at a cavity: between the terminal of its wire and what its plug is plugged into.
func ContactOf(cavity string) string { return "contact " + cavity }

// Merge makes two nodes one: a joint without resistance.
func (b *Builder) Merge(x, y Node) {
	b.begin()
	i, j := find(b.merged, int32(x)), find(b.merged, int32(y))
	b.merged[max(i, j)] = min(i, j)
}

// Network gives the network. It fails where an element cannot be: without resistance, at a node that there is not, a
// relay without a coil.
func (b *Builder) Network() (*Network, error) {
	b.begin()
	n := &Network{Names: slices.Clone(b.names), Sides: slices.Clone(b.sides), Elements: slices.Clone(b.elements),
		Relays: slices.Clone(b.relays),
		row:    make([]int32, len(b.names))}
	for i := range n.Elements {
		e := &n.Elements[i]
		if !(e.Ohms > 0) || math.IsInf(e.Ohms, 0) || math.IsNaN(e.Volts) || math.IsInf(e.Volts, 0) || e.Limit < 0 {
			return nil, fmt.Errorf("%s has %g Ω, %g V and a limit of %g A", e.Name, e.Ohms, e.Volts, e.Limit)
		}
		if e.A < 0 || e.B < 0 || int(e.A) >= len(b.names) || int(e.B) >= len(b.names) {
			return nil, fmt.Errorf("%s is at a node that there is not", e.Name)
		}
		if int(e.Gate.Relay) > len(n.Relays) || e.Gate.Relay < 0 {
			return nil, fmt.Errorf("%s is a contact of a relay that there is not", e.Name)
		}
		e.A, e.B = Node(find(b.merged, int32(e.A))), Node(find(b.merged, int32(e.B)))
	}
	for _, r := range n.Relays {
		if r.Coil < 0 || int(r.Coil) >= len(n.Elements) || !(r.PullIn > r.DropOut) || r.DropOut < 0 {
			return nil, fmt.Errorf("relay %s has no coil, or does not let go below what it pulls at", r.Name)
		}
	}
	if !n.number(b.merged) {
		return nil, fmt.Errorf("too many of the %d elements go round in circles with one another", len(n.Elements))
	}
	n.byName = make(map[string]int32, len(n.Elements))
	for i := range n.Elements {
		if _, twice := n.byName[n.Elements[i].Name]; !twice {
			n.byName[n.Elements[i].Name] = int32(i)
		}
	}
	return n, nil
}

// Network is what a Builder has drawn. It does not change, and may be solved by several at once.
type Network struct {
	Names    []string // by node
	Sides    []Side   // by node
	Elements []Element
	Relays   []Relay

	same   []int32 // by node: the one that it was merged with, or itself
	row    []int32 // by node: its row in the equations, −1 for the reference
	byName map[string]int32
	bent   []int32 // elements that are not linear
	order  *pattern
	slots  []slot // by element
}

// slot is where an element stands in the equations: its rows in the order of elimination, −1 for the reference, and
// the place of the pair in the pattern, −1 where it has none.
type slot struct{ a, b, off int32 }

// Element gives the number of the element of that name, and false where there is none.
func (n *Network) Element(name string) (int32, bool) {
	i, ok := n.byName[name]
	return i, ok
}

// Heads gives for each node the one that it is one with: itself, where it was not merged.
func (n *Network) Heads() []int32 { return n.same }

// Find gives the node of that name, and false where there is none.
func (n *Network) Find(name string) (Node, bool) {
	i := slices.Index(n.Names, name)
	return Node(i), i >= 0
}

// number gives each node that is not the reference a row, in the order of elimination; false where there are too many
// loops to find one.
func (n *Network) number(merged []int32) bool {
	n.same = make([]int32, len(n.Names))
	count := int32(0)
	for i := range n.same {
		n.same[i] = find(merged, int32(i))
		if n.row[i] = -1; n.same[i] == int32(i) && i > 0 {
			n.row[i], count = count, count+1
		}
	}
	pairs := make([][2]int32, 0, len(n.Elements))
	for i := range n.Elements {
		e := &n.Elements[i]
		if a, b := n.row[e.A], n.row[e.B]; a >= 0 && b >= 0 && a != b {
			pairs = append(pairs, [2]int32{a, b})
		}
		if e.Kind == Diode || e.Kind == Lamp || e.Kind == Source && e.Limit > 0 {
			n.bent = append(n.bent, int32(i))
		}
	}
	if n.order = minimumDegree(int(count), pairs); n.order == nil {
		return false
	}
	for i := range n.row {
		if n.row[i] >= 0 {
			n.row[i] = n.order.place[n.row[i]]
		}
	}
	for i := range n.row {
		n.row[i] = n.row[n.same[i]]
	}
	n.slots = make([]slot, len(n.Elements))
	for i := range n.Elements {
		a, b := n.row[n.Elements[i].A], n.row[n.Elements[i].B]
		n.slots[i] = slot{a, b, n.order.at(a, b)}
	}
	return true
}

// find gives the head of the set that a member is in.
func find(set []int32, i int32) int32 {
	for set[i] != i {
		set[i] = set[set[i]]
		i = set[i]
	}
	return i
}

// Is says whether a position is among these.
func (k Key) Is(position Key) bool { return k&position != 0 }
