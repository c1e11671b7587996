package network

import (
	"fmt"
	"math"
	"slices"
)

// State is the volts and amps of a network in a condition.
type State struct {
	Network   *Network
	Condition Condition
	Volts     []float64 // by node, against the battery's negative terminal
	Floating  []bool    // by node: nothing that conducts joins it to the battery; its volts say nothing
	Pulled    []bool    // by relay
	// Relays that find no rest: their own contacts take their coils away, and give them back.
	Buzzes []string
	// No volts were found that lamps, diodes and limits agree with: what is said is near at best.
	Unsettled bool
	// Relays of which it depends on the quicker one how they end up; one outcome is taken.
	Race []string

	conducts []bool    // by element
	siemens  []float64 // by element, 0 where it does not conduct
	into     []float64 // by element: the A that it drives from B to A by itself
	drawn    []float64 // by element: of a lamp, the volts at which its line is drawn
	bent     []bool    // by element: a diode conducts, a source is at its limit
	faults   faults
	parted   bool // an element conducts or not, otherwise than when islands were last looked for
	f        *factor
	x        []float64
	pinned   []bool // by node: of a floating island, held to the reference
	extra    []touch
	set      []int32
}

// touch is a conductance between two rows that the pattern has no place for, or one taken off again.
type touch struct {
	a, b    int32
	siemens float64
	z       []float64
}

// rounds bounds the search for a fixed point.
const rounds = 60

// Solve gives the state in a condition that is come to from rest: with no relay pulled. It fails where a fault is about
// something that the network has not.
func (n *Network) Solve(c Condition) (*State, error) { return n.solve(c, nil) }

// Follow gives the state in a condition that is come to from another: a relay that had pulled stays so while its coil
// has more than it lets go at.
func (n *Network) Follow(was *State, c Condition) (*State, error) { return n.solve(c, was.Pulled) }

func (n *Network) solve(c Condition, pulled []bool) (*State, error) {
	f, err := n.read(c.Faults)
	if err != nil {
		return nil, err
	}
	s := &State{Network: n, Condition: c, faults: f, Volts: make([]float64, len(n.Names)),
		Floating: make([]bool, len(n.Names)), Pulled: make([]bool, len(n.Relays)),
		conducts: make([]bool, len(n.Elements)), siemens: make([]float64, len(n.Elements)),
		into: make([]float64, len(n.Elements)), bent: make([]bool, len(n.Elements)),
		drawn: make([]float64, len(n.Elements)), f: newFactor(n.order),
		x: make([]float64, len(n.order.place)), set: make([]int32, len(n.Names)),
		pinned: make([]bool, len(n.Names))}
	copy(s.Pulled, pulled)
	s.hold()
	for i := range n.Elements {
		s.begin(int32(i))
	}
	s.f.all()
	s.parted = true
	s.settle()
	return s, nil
}

// With gives the state with further faults, from this one: what they do not touch is not solved again. It fails where a
// fault is about something that the network has not.
func (s *State) With(more ...Fault) (*State, error) {
	c := s.Condition
	c.Faults = append(slices.Clone(c.Faults), more...)
	f, err := s.Network.read(c.Faults)
	if err != nil {
		return nil, err
	}
	t := &State{Network: s.Network, Condition: c, faults: f, Volts: slices.Clone(s.Volts),
		Floating: slices.Clone(s.Floating), Pulled: slices.Clone(s.Pulled), conducts: slices.Clone(s.conducts),
		siemens: slices.Clone(s.siemens), into: slices.Clone(s.into), bent: slices.Clone(s.bent),
		drawn: slices.Clone(s.drawn), f: s.f.clone(),
		x: slices.Clone(s.x), pinned: slices.Clone(s.pinned), set: slices.Clone(s.set)}
	t.hold()
	t.parted = len(f.short) > 0
	for i := range t.Network.Elements {
		g := &t.Network.Elements[i].Gate
		_, forced := f.force[g.Switch]
		if g.Relay > 0 && len(f.held) > 0 || forced && g.Switch != "" || f.open[int32(i)] || f.worse[int32(i)] > 0 ||
			f.weak > 0 && t.Network.Elements[i].Name == BatteryName {
			t.look(int32(i))
		}
	}
	t.settle()
	return t, nil
}

// hold puts relays that are stuck or dead where they stay.
func (s *State) hold() {
	for r, on := range s.faults.held {
		s.Pulled[r-1] = on
	}
}

// gated says whether an element's gate is open to current now.
func (s *State) gated(i int32) bool {
	g := &s.Network.Elements[i].Gate
	c := &s.Condition
	if s.faults.open[i] || g.Key != 0 && g.Key&c.Key == 0 || g.Running > 0 && !c.Running || g.Running < 0 && c.Running {
		return false
	}
	if g.Switch != "" {
		on, forced := s.faults.force[g.Switch]
		if !forced {
			on = c.On[g.Switch]
		}
		if on == g.Rest {
			return false
		}
	}
	return g.Relay == 0 || s.Pulled[g.Relay-1] != g.Rest
}

// begin gives an element what it has before anything is known of its volts: a lamp shines, no diode conducts.
func (s *State) begin(i int32) {
	e := &s.Network.Elements[i]
	s.bent[i] = false
	if e.Kind == Lamp {
		s.lamp(i, e.Volts)
		return
	}
	s.put(i)
}

// look brings an element to what gate, faults and its own state make of it.
func (s *State) look(i int32) {
	if s.Network.Elements[i].Kind == Lamp {
		s.lamp(i, s.across(i))
		return
	}
	s.put(i)
}

// put sets a linear element, a diode or a source by its state.
func (s *State) put(i int32) {
	e := &s.Network.Elements[i]
	on := s.gated(i) && (e.Kind != Diode || s.bent[i])
	ohms := s.Ohms(i)
	g, into := 0.0, 0.0
	switch {
	case !on:
	case e.Kind == Source && s.bent[i]:
		into = e.Limit
	case e.Kind == Source:
		g = 1 / ohms
		into = s.EMF(i) * g
	case e.Kind == Diode:
		g = 1 / ohms
		into = e.Volts * g
	default:
		g = 1 / ohms
	}
	s.change(i, on, g, into)
}

// Ohms gives the resistance of an element in this condition, by number; of a lamp that which is stated.
func (s *State) Ohms(i int32) float64 {
	e := &s.Network.Elements[i]
	ohms := e.Ohms
	if e.Kind == Copper && s.Condition.Celsius != 0 {
		ohms *= 1 + copperHeat*(s.Condition.Celsius-20)
	}
	return ohms + s.faults.worse[i]
}

// Gated says whether key, engine, switches, relays and faults let an element conduct, by number.
func (s *State) Gated(i int32) bool { return s.gated(i) }

// EMF gives the volts of a source with nothing on it, by number.
func (s *State) EMF(i int32) float64 {
	e := &s.Network.Elements[i]
	if e.Name == BatteryName && s.faults.weak > 0 {
		return s.faults.weak
	}
	if e.Name == BatteryName && s.Condition.Battery > 0 {
		return s.Condition.Battery
	}
	return e.Volts
}

// BatteryName is the name of the source that Condition.Battery speaks of.
const BatteryName = "battery"

// change gives an element its conductance and what it drives.
func (s *State) change(i int32, on bool, g, into float64) {
	s.parted = s.parted || s.conducts[i] != on
	s.conducts[i], s.into[i] = on, into
	if was := s.siemens[i]; was != g {
		s.siemens[i] = g
		s.f.alter(s.Network.slots[i], was, g)
	}
}

// across gives the volts from A to B of an element.
func (s *State) across(i int32) float64 {
	e := &s.Network.Elements[i]
	return s.Volts[e.A] - s.Volts[e.B]
}

// Across gives the volts from A to B of an element by number.
func (s *State) Across(i int32) float64 { return s.across(i) }

// Amps gives the current in A through an element by number, from A to B; of a source, out of its positive pole.
func (s *State) Amps(i int32) float64 {
	a := s.siemens[i]*s.across(i) - s.into[i]
	if s.Network.Elements[i].Kind == Source {
		return -a
	}
	return a
}

// Conducts says whether an element lets current through now, by number.
func (s *State) Conducts(i int32) bool { return s.conducts[i] }

// How near lamps have come to their own amps, as a part of these: while relays still move, and in the end.
const (
	coarse = 1e-2
	fine   = 1e-11
)

// settle finds the fixed point: relays are moved, all at once, until none is moved by its coil.
func (s *State) settle() {
	first := slices.Clone(s.Pulled)
	seen := map[string]bool{}
	s.equate(coarse)
	for range rounds {
		moving := s.restless()
		if len(moving) == 0 {
			if s.equate(fine); len(s.restless()) == 0 {
				return
			}
			continue
		}
		key := stateKey(s.Pulled)
		if seen[key] {
			break
		}
		seen[key] = true
		s.move(coarse, moving...)
	}
	s.cycle(first)
}

// move moves relays, and solves anew.
func (s *State) move(within float64, relays ...int32) {
	for _, r := range relays {
		s.Pulled[r] = !s.Pulled[r]
	}
	for i := range s.Network.Elements {
		if g := s.Network.Elements[i].Gate.Relay; g > 0 && slices.Contains(relays, g-1) {
			s.look(int32(i))
		}
	}
	s.equate(within)
}

// restless lists the relays that their coils move.
func (s *State) restless() []int32 {
	var out []int32
	for r := range s.Network.Relays {
		relay := &s.Network.Relays[r]
		if _, held := s.faults.held[int32(r)+1]; held {
			continue
		}
		v := 0.0
		if s.conducts[relay.Coil] {
			v = math.Abs(s.across(relay.Coil))
		}
		if !s.Pulled[r] && v >= relay.PullIn || s.Pulled[r] && v < relay.DropOut {
			out = append(out, int32(r))
		}
	}
	return out
}

// cycle is where moving all relays at once finds no rest. Moved one at a time they may: then it depends on which is
// quicker. Else those that still move buzz.
func (s *State) cycle(first []bool) {
	var all []int32
	for r := range first {
		if s.Pulled[r] != first[r] {
			all = append(all, int32(r))
		}
	}
	s.move(fine, all...)
	seen, order, last := map[string]bool{}, map[int32]bool{}, int32(-1)
	for range 4 * rounds {
		moving := s.restless()
		if len(moving) == 0 {
			for _, r := range sorted(order) {
				s.Race = append(s.Race, s.Network.Relays[r].Name)
			}
			return
		}
		next := inTurn(moving, last)
		key := stateKey(s.Pulled) + fmt.Sprint(next)
		if seen[key] {
			break
		}
		seen[key] = true
		order[next], last = true, next
		s.move(fine, next)
	}
	for _, r := range s.endless() {
		s.Buzzes = append(s.Buzzes, s.Network.Relays[r].Name)
	}
}

// endless goes on with relays that find no rest, and lists those that keep moving.
func (s *State) endless() []int32 {
	moves := map[int32]bool{}
	last := int32(-1)
	for range 2*len(s.Pulled) + 2 {
		moving := s.restless()
		if len(moving) == 0 {
			break
		}
		next := inTurn(moving, last)
		moves[next], last = true, next
		s.move(fine, next)
	}
	return sorted(moves)
}

// inTurn gives the first relay after the last, so that one that buzzes does not keep the others waiting.
func inTurn(moving []int32, last int32) int32 {
	for _, r := range moving {
		if r > last {
			return r
		}
	}
	return moving[0]
}

func sorted(set map[int32]bool) []int32 {
	out := make([]int32, 0, len(set))
	for r := range set {
		out = append(out, r)
	}
	slices.Sort(out)
	return out
}

func stateKey(pulled []bool) string {
	b := make([]byte, len(pulled))
	for i, p := range pulled {
		if p {
			b[i] = 1
		}
	}
	return string(b)
}
