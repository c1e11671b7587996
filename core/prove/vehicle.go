package prove

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
)

// Plug is a connector that can be measured at.
type Plug struct {
	ID       string
	Cavities []string // in the order of the face
	Unit     bool     // it is plugged into a control unit
	Like     []string // connectors that it could be taken for: of as many ways
	Beside   []string // others of the same device: the number is right there too, and the face is not
	Trusted  bool     // what its cavities are was measured, or comes from the maker
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
	// By cavity of a unit's output: what it drives, in words.
	Drives   map[string]string
	Switches []string // switches that somebody works: pedals, levers, lights

	base   map[Setup]*network.State
	plugOf map[string]string // by cavity: its plug
	faces  map[string]bool   // cavities of the plugs of units
	own    map[string]bool   // the contacts of plugs: between a wire's terminal and what it is plugged into
	// Whether an element lies in a unit, behind the face of its plug: with the unit out there is none of it.
	insideUnit func(*network.Element) bool
	built      map[int32]map[harness.WireID]bool // by piece of metal: its wires
	metal      []int32                           // by node: what wires and contacts join
	nodes      map[string]network.Node
	at         [][]int32
	hub        []bool
}

// ready draws what is asked over and over.
func (v *Vehicle) ready() {
	if v.nodes != nil {
		return
	}
	v.own = map[string]bool{}
	for i := range v.Plugs {
		for _, cavity := range v.Plugs[i].Cavities {
			v.own[network.ContactOf(v.Plugs[i].At(cavity))] = true
		}
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
	v.faces, v.plugOf = map[string]bool{}, map[string]string{}
	face := map[network.Node]bool{}
	for i := range v.Plugs {
		for _, cavity := range v.Plugs[i].Cavities {
			at := v.Plugs[i].At(cavity)
			v.plugOf[at] = v.Plugs[i].ID
			v.faces[at] = v.faces[at] || v.Plugs[i].Unit
			if n, there := v.nodes[at]; there && v.Plugs[i].Unit {
				face[network.Node(heads[n])] = true
			}
		}
	}
	v.insideUnit = func(e *network.Element) bool {
		return (face[network.Node(heads[e.A])] || face[network.Node(heads[e.B])]) && !v.own[e.Name]
	}
	v.metal = slices.Clone(heads)
	for i := range v.Net.Elements {
		if e := &v.Net.Elements[i]; e.Kind == network.Copper || e.Kind == network.Contact && !v.insideUnit(e) {
			a, b := v.joined(int32(e.A)), v.joined(int32(e.B))
			v.metal[max(a, b)] = min(a, b)
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

// point gives the node that a probe touches: at a cavity the wire's terminal from behind; at the face of a unit's
// plug, when that is out, whatever stands in the cavity.
func (v *Vehicle) point(name string, s Setup) (network.Node, bool) {
	v.ready()
	order := []string{network.WireSide(name), name}
	if !s.Units && v.faces[name] || s.Off != "" && v.plugOf[name] == s.Off {
		order = []string{name, network.WireSide(name)}
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
	if err := v.worked(s, &c); err != nil {
		return nil, err
	}
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
	if !s.Units || s.Off != "" { // the terminals stay in their plugs: what is inside is gone, all of it
		for at := range v.plugOf {
			n, there := v.nodes[at]
			if !there || !(v.faces[at] && !s.Units) && v.plugOf[at] != s.Off {
				continue
			}
			for _, i := range v.at[v.Net.Heads()[n]] {
				if e := &v.Net.Elements[i]; e.Name != network.ContactOf(at) {
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

// worked switches on what is worked in a setup: switches, and the one output that a tester has the unit work.
func (v *Vehicle) worked(s Setup, c *network.Condition) error {
	if s.On == "" && s.Drive == "" {
		return nil
	}
	if c.On = maps.Clone(c.On); c.On == nil {
		c.On = map[string]bool{}
	}
	if s.On != "" {
		for _, x := range strings.Split(s.On, ",") {
			if !slices.Contains(v.Switches, x) {
				return fmt.Errorf("there is no switch %s", x)
			}
			c.On[x] = true
		}
	}
	if s.Drive != "" {
		if v.Drives[s.Drive] == "" {
			return fmt.Errorf("%s is no output of a unit", s.Drive)
		}
		c.On[s.Drive] = true
	}
	return nil
}

// shows gives what a meter shows in a state. A meter that reads volts draws nothing that counts; a point that nothing
// joins to the battery shows none.
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
		if s, err = s.With(network.Fault{Do: network.Short, A: network.WireSide(m.Jumper), B: "battery −",
			Ohms: 0.02}); err != nil {
			return Shown{}, err
		}
	}
	if m.Kind == Ohms {
		ohms, joined := s.Between(a, b)
		return Shown{ohms, !joined || ohms > overOhms}, nil
	}
	if s.Floating[a] || s.Floating[b] { // nothing leads there: the meter pulls it to nothing
		return Shown{}, nil
	}
	volts := s.Volts[a] - s.Volts[b]
	if m.Lamp > 0 {
		ohms, joined := s.Between(a, b)
		if !joined {
			return Shown{}, nil
		}
		lamp := 144 / m.Lamp
		volts *= lamp / (lamp + ohms)
	}
	return Shown{Value: volts}, nil
}

// workVolts is from what volts a device is taken to do its work (common practice: half of 12 V).
const workVolts = 6

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

// Inside gives the volts that a unit has at a cavity of its own, behind the terminal, in a setup with faults; 0 where
// nothing leads there.
func (v *Vehicle) Inside(cavity string, setup Setup, faults []network.Fault) (float64, error) {
	s, err := v.state(setup)
	if err == nil && len(faults) > 0 {
		s, err = s.With(faults...)
	}
	if err != nil {
		return 0, err
	}
	n, there := v.nodes[cavity]
	if !there {
		return 0, fmt.Errorf("there is no cavity %s", cavity)
	}
	if n = network.Node(v.Net.Heads()[n]); s.Floating[n] {
		return 0, nil
	}
	return s.Volts[n], nil
}

// Pulled lists the relays that have pulled in a setup with faults: those that stand for a unit's being awake too.
func (v *Vehicle) Pulled(setup Setup, faults []network.Fault) ([]string, error) {
	s, err := v.state(setup)
	if err == nil && len(faults) > 0 {
		s, err = s.With(faults...)
	}
	if err != nil {
		return nil, err
	}
	var out []string
	for i, on := range s.Pulled {
		if on {
			out = append(out, v.Net.Relays[i].Name)
		}
	}
	return out, nil
}

func natural(a, b string) int { return finding.Natural(a, b) }

// Devices lists the devices of which somebody can see or hear whether they work.
func (v *Vehicle) Devices() []string {
	var out []string
	for name, of := range v.Of {
		if slices.ContainsFunc(of, func(i int32) bool {
			k := v.Net.Elements[i].Kind
			return k == network.Load || k == network.Lamp
		}) {
			out = append(out, name)
		}
	}
	slices.SortFunc(out, natural)
	return out
}

// Touches says whether a measure is about a piece of metal that one of these wires is part of.
func (v *Vehicle) Touches(m *Measure, wires map[harness.WireID]bool) bool {
	v.ready()
	for _, n := range v.pointsOf(m) {
		if v.built[v.joined(int32(n))] == nil {
			set := map[harness.WireID]bool{}
			for i := range v.Net.Elements {
				if e := &v.Net.Elements[i]; e.Wire != "" && v.joined(int32(e.A)) == v.joined(int32(n)) {
					set[e.Wire] = true
				}
			}
			if v.built == nil {
				v.built = map[int32]map[harness.WireID]bool{}
			}
			v.built[v.joined(int32(n))] = set
		}
		for w := range v.built[v.joined(int32(n))] {
			if wires[w] && n != network.Reference {
				return true
			}
		}
	}
	return false
}
