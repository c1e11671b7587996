package network

import (
	"fmt"
	"math"
	"slices"
)

// Condition is what a network is solved in. It is a plain value: equal ones give equal states.
type Condition struct {
	Key     Key             // one position
	Running bool            // the engine runs
	On      map[string]bool // switches and outputs that are on
	Celsius float64         // of the copper; 0: 20 °C
	Battery float64         // V with nothing on it, in place of what is stated; 0: as stated
	Faults  []Fault
}

// Do is what a Fault does.
type Do string

// The faults.
const (
	Open  Do = "open"  // an element is broken
	Worse Do = "worse" // an element has Ohms more in its way
	Short Do = "short" // two nodes touch through Ohms; 0: hard, 1 mΩ
	Stuck Do = "stuck" // a relay stays pulled, whatever its coil says
	Dead  Do = "dead"  // a relay never pulls
	Force Do = "force" // a switch or an output is on, or off, whatever the condition says
	Weak  Do = "weak"  // the battery has Volts with nothing on it
)

// HardShort is the resistance in Ω of two bare conductors that touch.
const HardShort = 1e-3

// Fault is one change of a network: a fault, a what-if, a part that is taken away.
type Fault struct {
	Do      Do     `json:"do"`
	Element string `json:"element,omitempty"` // of Open and Worse; of Stuck and Dead the relay, of Force the switch
	// Of Short: two nodes; with an element and B alone it is that wire's middle that touches, which core/feed takes apart.
	A     string  `json:"a,omitempty"`
	B     string  `json:"b,omitempty"`
	Ohms  float64 `json:"ohms,omitempty"`
	On    bool    `json:"on,omitempty"`    // of Force
	Volts float64 `json:"volts,omitempty"` // of Weak
}

// String says what it is, in words.
func (f Fault) String() string {
	switch f.Do {
	case Open:
		return f.Element + " open"
	case Worse:
		return fmt.Sprintf("%.3g Ω more in %s", f.Ohms, f.Element)
	case Short:
		if f.Element != "" {
			return f.Element + " chafed through to " + f.B
		}
		return f.A + " touches " + f.B
	case Stuck:
		return f.Element + " stuck"
	case Dead:
		return f.Element + " dead"
	case Force:
		if f.On {
			return f.Element + " on"
		}
		return f.Element + " off"
	case Weak:
		return fmt.Sprintf("battery at %.3g V", f.Volts)
	}
	return string(f.Do)
}

// copperHeat is the temperature coefficient of copper per K from 20 °C, IEC 60028.
const copperHeat = 0.00393

// faults is what the faults of a condition come to.
type faults struct {
	open  map[int32]bool
	worse map[int32]float64
	held  map[int32]bool // relays from 1: stuck, or dead
	force map[string]bool
	short []short
	weak  float64 // V of the battery, 0: as the condition has it
}

// short is a touch of two nodes.
type short struct {
	a, b    Node
	siemens float64
}

// read finds what faults are about. It fails where the network has nothing of that name.
func (n *Network) read(all []Fault) (faults, error) {
	f := faults{open: map[int32]bool{}, worse: map[int32]float64{}, held: map[int32]bool{}, force: map[string]bool{}}
	for _, x := range all {
		switch x.Do {
		case Open, Worse:
			e, known := n.Element(x.Element)
			if !known || x.Do == Worse && !(x.Ohms >= 0 && x.Ohms < math.MaxFloat64) {
				return f, fmt.Errorf("%s: there is no such element, or %g Ω cannot be", x.Element, x.Ohms)
			}
			if x.Do == Open {
				f.open[e] = true
			} else {
				f.worse[e] += x.Ohms
			}
		case Short:
			a, okA := n.Find(x.A)
			b, okB := n.Find(x.B)
			if !okA || !okB || !(x.Ohms >= 0) {
				return f, fmt.Errorf("%s touches %s: there are not both, or %g Ω cannot be", x.A, x.B, x.Ohms)
			}
			f.short = append(f.short, short{n.head(a), n.head(b), 1 / max(x.Ohms, HardShort)})
		case Stuck, Dead:
			r := slices.IndexFunc(n.Relays, func(r Relay) bool { return r.Name == x.Element })
			if r < 0 {
				return f, fmt.Errorf("there is no relay %s", x.Element)
			}
			f.held[int32(r)+1] = x.Do == Stuck
		case Force:
			f.force[x.Element] = x.On
		case Weak:
			if !(x.Volts >= 0.1 && x.Volts <= 100) {
				return f, fmt.Errorf("a battery of %g V cannot be", x.Volts)
			}
			f.weak = x.Volts
		default:
			return f, fmt.Errorf("there is no fault %q", x.Do)
		}
	}
	return f, nil
}

func (n *Network) head(x Node) Node { return Node(n.same[x]) }
