// Package prove says what a meter must show at a harness, what is wrong where it does not, and what to measure next.
//
// A Vehicle is the network of a harness with where it can be touched. A Measure is two points and a Setup: what is
// plugged in, where the key is, whether the battery is on. What it must show is computed by putting the meter into the
// network; what it would show with a fault, by putting the fault in too. So the test sheet, the ranking of what
// could be wrong and the next measurement all come from one model (de Kleer & Williams 1987), and there is no table
// of symptoms to keep.
package prove

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
)

// Setup is how the vehicle stands while something is measured. It is a plain value: equal ones are the same setup.
type Setup struct {
	Key     string `json:"key,omitempty"`     // position of the key, or running
	Battery bool   `json:"battery,omitempty"` // it is on
	Units   bool   `json:"units,omitempty"`   // the control units are plugged in
	Pulled  bool   `json:"pulled,omitempty"`  // the fuses are out
	Off     string `json:"off,omitempty"`     // a plug that is off what it is plugged into
}

// Setups with everything dead and the units out: with the fuses in, and without them.
var (
	Bare = Setup{}
	Dead = Setup{Pulled: true}
)

// String says how the vehicle is to stand, in words.
func (s Setup) String() string {
	units := "units unplugged"
	if s.Units {
		units = "everything plugged in"
	}
	if s.Pulled {
		units += ", fuses out"
	}
	if s.Off != "" {
		units += ", plug " + s.Off + " off"
	}
	if !s.Battery {
		return "battery off, " + units
	}
	if s.Key == "running" {
		return "engine running, " + units
	}
	return "key in " + s.Key + ", " + units
}

// Kind says what is measured.
type Kind string

// The kinds.
const (
	Ohms  Kind = "ohms"
	Volts Kind = "volts"
	Works Kind = "works" // seen or heard: the device A does its work, 1, or does not, 0
)

// Measure is one measurement: two points, one setup.
type Measure struct {
	ID    string  `json:"id"`
	Kind  Kind    `json:"kind"`
	A     string  `json:"a"` // red probe
	B     string  `json:"b"` // black probe
	Setup Setup   `json:"setup"`
	Lamp  float64 `json:"lamp,omitempty"` // W of a lamp across the two, 0: none
	// A cavity that a fused jumper joins to ground meanwhile.
	Jumper string `json:"jumper,omitempty"`
}

// key names a measure by what it is.
func (m *Measure) key() string {
	return fmt.Sprintf("%s %s %s %v %g %s", m.Kind, m.A, m.B, m.Setup, m.Lamp, m.Jumper)
}

// MeterReading is what a meter showed.
type MeterReading struct {
	Measure
	Value float64 `json:"value"`          // Ω or V
	Over  bool    `json:"over,omitempty"` // nothing between the two: over the range
	Who   string  `json:"who,omitempty"`
	When  int64   `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a reading cannot be.
func (r *MeterReading) Check() error {
	switch {
	case r.ID == "" || len(r.ID) > 40:
		return fmt.Errorf("a reading has a name")
	case r.Kind == Works:
		if r.A == "" || len(r.A) > 80 || r.Value != 0 && r.Value != 1 {
			return fmt.Errorf("a device works or does not")
		}
		return nil
	case r.Kind != Ohms && r.Kind != Volts:
		return fmt.Errorf("a meter does not read %q", r.Kind)
	case r.A == "" || r.B == "" || len(r.A) > 80 || len(r.B) > 80:
		return fmt.Errorf("a reading is between two points")
	case math.IsNaN(r.Value) || math.Abs(r.Value) > 1e9 || r.Kind == Ohms && r.Value < 0:
		return fmt.Errorf("no meter shows %g", r.Value)
	case r.Lamp < 0 || r.Lamp > 200:
		return fmt.Errorf("a lamp of %g W cannot be", r.Lamp)
	}
	return nil
}

// Shown is what a meter would show.
type Shown struct {
	Value float64 `json:"value"`
	Over  bool    `json:"over,omitempty"`
}

// Band is between what a reading has to lie.
type Band struct {
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
	Over  bool    `json:"over,omitempty"` // nothing may be between the two
}

// What a meter and the parts themselves differ by (common practice): of volts a hundredth and 50 mV of the meter with a
// thirtieth of what loads and contacts make of them, of ohms a tenth and a quarter of an ohm of leads and contacts.
const (
	voltsPart, voltsLeast = 0.03, 0.06
	ohmsPart, ohmsLeast   = 0.10, 0.25
)

// overOhms is what a meter shows as nothing: more than that.
const overOhms = 1e6

// spread gives the standard deviation of a reading about what is expected.
func spread(k Kind, value float64) float64 {
	if k == Volts {
		return voltsPart/2*math.Abs(value) + voltsLeast/2
	}
	return ohmsPart/2*math.Abs(value) + ohmsLeast/2
}

// BandOf gives the band of what is expected: two standard deviations, four of volts under a lamp.
func BandOf(m *Measure, x Shown) Band {
	if x.Over {
		return Band{Over: true}
	}
	if m.Kind == Works {
		return Band{x.Value, x.Value, false}
	}
	d := 2 * spread(m.Kind, x.Value)
	if m.Lamp > 0 {
		d *= 2
	}
	least := x.Value - d
	if m.Kind == Ohms {
		least = max(least, 0)
	}
	return Band{least, x.Value + d, false}
}

// Fits says whether a reading lies in a band.
func (b Band) Fits(r *MeterReading) bool {
	if b.Over || r.Over {
		return b.Over == r.Over || b.Over && r.Kind == Ohms && r.Value > overOhms
	}
	return r.Value >= b.Least && r.Value <= b.Most
}

// Plug is a connector that can be measured at.
type Plug struct {
	ID       string
	Cavities []string // in the order of the face
	Unit     bool     // it is plugged into a control unit
	Like     []string // connectors that it could be taken for: of as many ways
}

// At names a cavity as people write it.
func (p *Plug) At(cavity string) string { return harness.Ref{Connector: p.ID, Cavity: cavity}.String() }

// Vehicle is what is measured.
type Vehicle struct {
	Net   *network.Network
	Plugs []Plug
	Usual func(Setup) network.Condition // the condition of a setup, with sources as they are
	Of    map[string][]int32            // by device: its elements
	Where map[string]string             // by element: the device that it is inside of
	Made  map[string]float64            // by element: how many times likelier a fault is there by what was done to it
	Studs []string                      // posts, studs and sockets that can be touched and are no cavity
	Units []string                      // outputs that a unit works only while it is granted: pump, starter, injectors

	base   map[Setup]*network.State
	plugOf map[string]string // by cavity: its plug
	faces  map[string]bool   // cavities of the plugs of units
	metal  []int32           // by node: what wires and contacts join
	nodes  map[string]network.Node
	at     [][]int32
	hub    []bool
}

// ready draws what is asked over and over.
func (v *Vehicle) ready() {
	if v.nodes != nil {
		return
	}
	v.base, v.nodes = map[Setup]*network.State{}, make(map[string]network.Node, len(v.Net.Names))
	for i, name := range v.Net.Names {
		v.nodes[name] = network.Node(i)
	}
	heads := v.Net.Heads()
	v.at = make([][]int32, len(heads))
	for i := range v.Net.Elements {
		e := &v.Net.Elements[i]
		v.at[e.A] = append(v.at[e.A], int32(i))
		if e.A != e.B {
			v.at[e.B] = append(v.at[e.B], int32(i))
		}
	}
	v.metal = slices.Clone(heads)
	for i := range v.Net.Elements {
		if e := &v.Net.Elements[i]; e.Kind == network.Copper || e.Kind == network.Contact {
			a, b := v.joined(int32(e.A)), v.joined(int32(e.B))
			v.metal[max(a, b)] = min(a, b)
		}
	}
	v.faces, v.plugOf = map[string]bool{}, map[string]string{}
	for i := range v.Plugs {
		for _, cavity := range v.Plugs[i].Cavities {
			v.plugOf[v.Plugs[i].At(cavity)] = v.Plugs[i].ID
			if v.Plugs[i].Unit {
				v.faces[v.Plugs[i].At(cavity)] = true
			}
		}
	}
	v.hub = make([]bool, len(heads))
	for i := range v.at {
		v.hub[i] = len(v.at[i]) > hubEnds || i == 0
	}
	for i := range v.Net.Elements {
		if e := &v.Net.Elements[i]; e.Kind == network.Source && v.Where[e.Name] == "" {
			v.hub[heads[e.A]], v.hub[heads[e.B]] = true, true
		}
	}
}

// joined gives the head of what wires and contacts join to a node.
func (v *Vehicle) joined(n int32) int32 {
	for n = v.Net.Heads()[n]; v.metal[n] != n; n = v.metal[n] {
		v.metal[n] = v.metal[v.metal[n]]
	}
	return n
}

// one says whether two points are one piece of metal: that they touch, or are exchanged, changes nothing.
func (v *Vehicle) one(a, b string) bool {
	return v.joined(int32(v.nodes[a])) == v.joined(int32(v.nodes[b]))
}

// hubEnds is from how many ends a node is one at which much meets: a bus of fuses, a ground point.
const hubEnds = 12

// point gives the node that a probe touches: at a cavity the wire's terminal from behind; at the face of a unit's plug,
// when that is out, whatever stands in the cavity.
func (v *Vehicle) point(name string, s Setup) (network.Node, bool) {
	v.ready()
	order := []string{name + " wire", name}
	if !s.Units && v.faces[name] || s.Off != "" && v.plugOf[name] == s.Off {
		order = []string{name, name + " wire"}
	}
	for _, x := range order {
		if n, known := v.nodes[x]; known {
			return network.Node(v.Net.Heads()[n]), true
		}
	}
	return 0, false
}

// state gives the vehicle in a setup without any fault, solved once.
func (v *Vehicle) state(s Setup) (*network.State, error) {
	v.ready()
	if st := v.base[s]; st != nil {
		return st, nil
	}
	c := v.Usual(s)
	c.Faults = slices.Clone(c.Faults)
	if !s.Battery {
		for i := range v.Net.Elements {
			if e := &v.Net.Elements[i]; e.Kind == network.Source {
				c.Faults = append(c.Faults, network.Fault{Do: network.Open, Element: e.Name})
			}
		}
	}
	if s.Pulled {
		for i := range v.Net.Elements {
			if e := &v.Net.Elements[i]; e.Kind == network.Fuse {
				c.Faults = append(c.Faults, network.Fault{Do: network.Open, Element: e.Name})
			}
		}
	}
	if !s.Units || s.Off != "" { // the terminals stay in their plugs: what is inside is gone
		for at := range v.plugOf {
			n, there := v.nodes[at]
			if !there || !(v.faces[at] && !s.Units) && v.plugOf[at] != s.Off {
				continue
			}
			for _, i := range v.at[v.Net.Heads()[n]] {
				if e := &v.Net.Elements[i]; e.Kind != network.Contact {
					c.Faults = append(c.Faults, network.Fault{Do: network.Open, Element: e.Name})
				}
			}
		}
		slices.SortFunc(c.Faults, func(a, b network.Fault) int { return cmp.Compare(a.Element, b.Element) })
	}
	st, err := v.Net.Solve(c)
	if err != nil {
		return nil, fmt.Errorf("the vehicle in %s: %w", s, err)
	}
	v.base[s] = st
	return st, nil
}

// shows gives what a meter shows in a state. The meter has 10 MΩ: a point that nothing joins to the other shows no
// volts.
func (v *Vehicle) shows(s *network.State, m *Measure) (Shown, error) {
	if m.Kind == Works {
		of, known := v.Of[m.A]
		if !known {
			return Shown{}, fmt.Errorf("there is no device %s", m.A)
		}
		for _, i := range of {
			if e := &v.Net.Elements[i]; (e.Kind == network.Load || e.Kind == network.Lamp) && s.Conducts(i) &&
				math.Abs(s.Across(i)) >= workVolts {
				return Shown{Value: 1}, nil
			}
		}
		return Shown{}, nil
	}
	a, okA := v.point(m.A, m.Setup)
	b, okB := v.point(m.B, m.Setup)
	if !okA || !okB {
		return Shown{}, fmt.Errorf("there is no point %s", cmp.Or(map[bool]string{false: m.A}[okA], m.B))
	}
	if m.Jumper != "" {
		var err error
		if s, err = s.With(network.Fault{Do: network.Short, A: m.Jumper + " wire", B: "battery −", Ohms: 0.02}); err != nil {
			return Shown{}, err
		}
	}
	if m.Kind == Ohms {
		ohms, joined := s.Between(a, b)
		return Shown{ohms, !joined || ohms > overOhms}, nil
	}
	ohms, joined := s.Between(a, b)
	if !joined || s.Floating[a] || s.Floating[b] {
		return Shown{}, nil
	}
	volts := (s.Volts[a] - s.Volts[b]) * meterOhms / (meterOhms + ohms)
	if m.Lamp > 0 {
		lamp := 144 / m.Lamp
		volts *= lamp / (lamp + ohms)
	}
	return Shown{Value: volts}, nil
}

// workVolts is from what volts a device is taken to do its work (common practice: half of 12 V).
const workVolts = 6

// meterOhms is the resistance of a meter that reads volts.
const meterOhms = 10e6

// Expect gives what a measure must show on a vehicle without a fault.
func (v *Vehicle) Expect(m *Measure) (Shown, error) {
	s, err := v.state(m.Setup)
	if err != nil {
		return Shown{}, err
	}
	return v.shows(s, m)
}

// With gives what a measure would show with faults in the vehicle.
func (v *Vehicle) With(m *Measure, faults []network.Fault) (Shown, error) {
	s, err := v.state(m.Setup)
	if err != nil {
		return Shown{}, err
	}
	if len(faults) > 0 {
		if s, err = s.With(faults...); err != nil {
			return Shown{}, err
		}
	}
	return v.shows(s, m)
}

func natural(a, b string) int { return finding.Natural(a, b) }
