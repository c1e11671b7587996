package match

import (
	"fmt"

	"draxel/core/signal"
)

// A circuit's electrical family. Roles of one family may meet on a wire; what Veto forbids is said per pair of
// families.
type family int

const (
	none family = iota
	supply
	reference
	ground
	input
	output // driven: which kind of output is told apart by kind below
	bus
)

func familyOf(r signal.Role) family {
	switch r {
	case signal.Battery, signal.Ignition, signal.Start:
		return supply
	case signal.Reference5V:
		return reference
	case signal.Ground, signal.SensorGround:
		return ground
	case signal.Analogue, signal.Frequency, signal.SwitchInput:
		return input
	case signal.LowSide, signal.HighSide, signal.PWM, signal.Motor, signal.RelayCoil, signal.Lamp, signal.CoilDriver,
		signal.OutputSignal:
		return output
	case signal.Bus:
		return bus
	}
	return none
}

// outputKind joins the outputs that are built alike: a pulsed driver and one for a relay coil are low-side drivers.
func outputKind(r signal.Role) signal.Role {
	if r == signal.PWM || r == signal.RelayCoil {
		return signal.LowSide
	}
	return r
}

// sureEnough is how sure a reading must be for a veto to rest on it; one that keeps a supply from a ground rests on the
// likelier reading, however sure.
const sureEnough = 0.5

// untouchable says that a circuit is left alone altogether.
func untouchable(r *signal.Reading) bool {
	return r.Role == signal.Restraint || r.Role == signal.HighVoltage
}

// Fraught says whether a circuit of this role is looked at however unsure its reading is: supplies and grounds, and
// what is left to qualified hands.
func Fraught(r signal.Role) bool {
	f := familyOf(r)
	return f == supply || f == ground || r == signal.Restraint || r == signal.HighVoltage
}

// ban is the rule that forbids a pair, allowed when none does.
type ban int

const (
	allowed ban = iota
	leftAlone
	resistanceFeed
	groundWithOther
	feedWithOther
	dataLines
	dataWithOther
	inputWithOutput
	otherCylinder
	unlikeOutputs
)

// Veto says whether these two must never be joined, whatever the evidence, and why in one sentence. The roles are those
// seen from the control unit, so two low-side drivers for injector 2 are the normal match.
func Veto(a, b signal.Reading) (why string, vetoed bool) {
	rule := forbid(&a, &b)
	return rule.sentence(&a, &b), rule != allowed
}

func forbid(a, b *signal.Reading) ban {
	switch {
	case untouchable(a) || untouchable(b):
		return leftAlone
	}
	fa, fb := familyOf(a.Role), familyOf(b.Role)
	switch {
	case fa == supply && fb == ground, fa == ground && fb == supply: // a burnt wire, however unsure the readings
		return groundWithOther
	case a.Sure < sureEnough || b.Sure < sureEnough:
		return allowed
	}
	same := a.Device == b.Device && a.Aspect == b.Aspect
	switch {
	case (fa == supply || fb == supply) && resisted(a) != resisted(b):
		return resistanceFeed
	case fa == none || fb == none:
		return allowed
	case same && fa == output && signal.Compare(*a, *b) == signal.IndexConflict && a.Cylinder > 0 && b.Cylinder > 0 &&
		(a.Cylinder != b.Cylinder || a.Also != b.Also):
		return otherCylinder
	case fa == output && fb == output && outputKind(a.Role) != outputKind(b.Role):
		return unlikeOutputs
	case same || fa == fb && (fa != bus || a.Device == b.Device):
		return allowed
	case fa == ground || fb == ground:
		return groundWithOther
	case fa == supply || fb == supply || fa == reference || fb == reference:
		return feedWithOther
	case fa == bus && fb == bus:
		return dataLines
	case fa == bus || fb == bus:
		return dataWithOther
	}
	return inputWithOutput
}

func (rule ban) sentence(a, b *signal.Reading) string {
	roles := fmt.Sprintf(" (%s, %s)", a.Role, b.Role)
	switch rule {
	case leftAlone:
		if !untouchable(a) {
			a = b
		}
		return fmt.Sprintf("%s is a %s circuit: it is left alone", a.Name, a.Role)
	case resistanceFeed:
		return "a feed through a resistance wire falls to about 8 V under load: it must not feed anything else"
	case groundWithOther:
		return "one is a ground, the other is not" + roles
	case feedWithOther:
		return "one feeds, the other does not, or at another voltage" + roles
	case dataLines:
		return "two data lines that are not the same"
	case dataWithOther:
		return "one is a data line, the other is not" + roles
	case inputWithOutput:
		return "one is an input, the other an output" + roles
	case otherCylinder:
		return fmt.Sprintf("%s of cylinder %d and of cylinder %d are two different outputs", a.Name, a.Cylinder, b.Cylinder)
	case unlikeOutputs:
		return "unlike kinds of output" + roles
	}
	return ""
}

func resisted(r *signal.Reading) bool { return r.Device == "ballast" || r.Device == "ballastbypass" }

// feedClass names the kind of supply or ground that a circuit is, empty where it is none of those or is not read well.
func feedClass(r *signal.Reading) string {
	if r.Sure < sureEnough {
		return ""
	}
	switch {
	case r.Device == "accessory":
		return "an accessory feed, off in run or in crank"
	case r.Role == signal.Battery:
		return "a battery feed"
	case r.Role == signal.Ignition:
		return "an ignition feed"
	case r.Role == signal.Start:
		return "a start signal, on in crank alone"
	case r.Role == signal.Reference5V:
		return "a 5 V reference"
	case r.Role == signal.SensorSupply:
		return "a sensor's supply of 12 V or unstated volts"
	case r.Role == signal.Ground:
		return "a power ground"
	case r.Role == signal.SensorGround:
		return "a sensor ground"
	}
	return ""
}

// differentSupplies says in words that two circuits are different kinds of supply or ground, empty where they are
// not. That names and colours agree does not make them one: the circuit is dead in one position of the key, or alive
// in the wrong one.
func differentSupplies(a, b *signal.Reading) string {
	x, y := feedClass(a), feedClass(b)
	if x == "" || y == "" || x == y {
		return ""
	}
	return fmt.Sprintf("one is %s, the other %s", x, y)
}

// mixesIgnition says that a joint of these two would hold an ignition circuit alive from the battery, or crank it.
func mixesIgnition(a, b *signal.Reading) bool {
	other := func(r *signal.Reading) bool { return r.Role == signal.Battery || r.Role == signal.Start }
	return differentSupplies(a,
		b) != "" && (a.Role == signal.Ignition && other(b) || b.Role == signal.Ignition && other(a))
}

// OutputKind gives the kind of output that a row of a unit is, and false where it is none or is not read well enough.
// Outputs of one kind are built alike: a pulsed driver and one for a relay coil are low-side drivers.
func OutputKind(r *signal.Reading) (signal.Role, bool) {
	if familyOf(r.Role) != output || r.Sure < sureEnough {
		return "", false
	}
	return outputKind(r.Role), true
}

// CannotExchange says why two outputs of a programmable unit cannot be exchanged for one another, empty where they
// can: only within one kind of output.
func CannotExchange(a, b *signal.Reading) string {
	x, okA := OutputKind(a)
	y, okB := OutputKind(b)
	switch {
	case !okA || !okB:
		return "only outputs can be exchanged"
	case x != y:
		return fmt.Sprintf("one is a %s output, the other %s", x, y)
	}
	return ""
}
