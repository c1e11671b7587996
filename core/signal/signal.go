// Package signal reads what a circuit is for.
//
// Makers name the same wire in their own words: "HO2S 2/2 SIG", "Lambda sensor after cat., bank 2". Read turns such a
// text into a Reading: the device (oxygen sensor), the aspect (its signal, its ground, its heater), the indices that
// tell one of several apart (cylinder, bank, position, channel, polarity), the electrical role seen from the control
// unit, and how sure the reading is. Two readings are set side by side by Compare.
//
// The words are in vocabulary.txt, which is meant to be read and added to by people who know the trade and no Go.
package signal

import "fmt"

// Role is a circuit's electrical role seen from the control unit.
type Role string

// The roles of the vocabulary.
const (
	Unread       Role = ""
	Battery      Role = "battery"       // battery positive, always on
	Ignition     Role = "ignition"      // switched positive
	Start        Role = "start"         // on in crank
	Ground       Role = "ground"        // power ground
	SensorGround Role = "sensor-ground" // return of sensors, kept apart from power ground
	Reference5V  Role = "reference-5v"  // 5 V out to sensors
	SensorSupply Role = "sensor-supply" // supply of an active sensor, voltage not stated
	Analogue     Role = "analogue"      // a voltage in
	Frequency    Role = "frequency"     // pulses in
	SwitchInput  Role = "switch-input"  // a contact in
	LowSide      Role = "low-side"      // the unit switches the ground of a load
	HighSide     Role = "high-side"     // the unit switches the feed of a load
	PWM          Role = "pwm"           // a low-side output that is pulsed
	Motor        Role = "motor"         // one end of a motor or stepper coil
	RelayCoil    Role = "relay-coil"    // the unit switches a relay's coil
	Lamp         Role = "lamp"          // the unit switches a lamp's ground
	CoilDriver   Role = "coil-driver"   // an ignition coil's trigger or primary
	OutputSignal Role = "output-signal" // pulses or a level out to another unit or an instrument
	Bus          Role = "bus"           // a data line
	Load         Role = "load"          // a body load, fed elsewhere
	Shield       Role = "shield"        // a screen, grounded at one end
	Restraint    Role = "restraint"     // supplemental restraint: leave it alone
	HighVoltage  Role = "high-voltage"  // traction voltage or its interlock: mark it, leave it alone
)

// Roles lists every role of the vocabulary.
func Roles() []Role {
	return []Role{Battery, Ignition, Start, Ground, SensorGround, Reference5V, SensorSupply, Analogue, Frequency,
		SwitchInput, LowSide,
		HighSide, PWM, Motor, RelayCoil, Lamp, CoilDriver, OutputSignal, Bus, Load, Shield, Restraint, HighVoltage}
}

// Aspect is which wire of a device is meant.
type Aspect string

// The aspects of the vocabulary.
const (
	AspectSignal       Aspect = "signal"
	AspectGround       Aspect = "ground"
	AspectReference    Aspect = "reference"
	AspectSupply       Aspect = "supply"
	AspectControl      Aspect = "control"
	AspectHeater       Aspect = "heater"
	AspectHeaterSupply Aspect = "heatersupply"
	AspectHeaterGround Aspect = "heaterground"
	AspectShield       Aspect = "shield"
)

// Index is what a number in a text counts.
type Index string

// What numbers count, by device.
const (
	NoIndex     Index = ""
	ByCylinder  Index = "cylinder"
	ByBankPlace Index = "bank-position"
	ByBank      Index = "bank"
	ByChannel   Index = "channel"
	ByExchange  Index = "instance" // feeds and grounds of one kind can stand in for each other
)

// The two ends of a motor or a coil, as a Reading names them.
const (
	openPolarity = "+"
	shutPolarity = "-"
)

// Reading is what a text says of a circuit. Zero numbers and empty strings are not stated.
type Reading struct {
	Device   string   `json:"device,omitempty"` // id in the vocabulary, empty when the text was not read
	Name     string   `json:"name,omitempty"`
	System   string   `json:"system,omitempty"`
	Aspect   Aspect   `json:"aspect,omitempty"`
	Role     Role     `json:"role,omitempty"`
	Index    Index    `json:"index,omitempty"`
	Cylinder int      `json:"cylinder,omitempty"`
	Also     int      `json:"also,omitempty"` // the other cylinder that a wasted-spark coil fires, the greater number
	Bank     int      `json:"bank,omitempty"`
	Position int      `json:"position,omitempty"` // 1 before the catalyst, 2 after it
	Channel  int      `json:"channel,omitempty"`
	Place    string   `json:"place,omitempty"`    // left, right, front, rear, intake, exhaust and the four corners
	Polarity string   `json:"polarity,omitempty"` // + or −
	Form     string   `json:"form,omitempty"`     // hall or inductive, where stated
	Sure     float64  `json:"sure"`               // 0 unread, to 1 every word explained
	Others   []string `json:"others,omitempty"`   // devices that fit nearly as well
	Text     string   `json:"text,omitempty"`     // the reading in the vocabulary's words
}

// Read says whether the text was understood at all.
func (r Reading) Read() bool { return r.Device != "" }

// Exchangeable says that several circuits of this device stand in for one another: battery feeds, grounds, references.
func (r Reading) Exchangeable() bool { return r.Index == ByExchange }

// String names the circuit in the vocabulary's words: "oxygen sensor heater, bank 2, position 1".
func (r Reading) String() string {
	if !r.Read() {
		return "not read"
	}
	s := r.Name
	if d := load().byID[r.Device]; d != nil && (len(d.Aspects) > 1 && r.Aspect != d.Aspects[0].Aspect) {
		s += " " + aspectNames[r.Aspect]
	}
	for _, n := range []struct {
		word  string
		value int
	}{{"cylinder", r.Cylinder}, {"and", r.Also}, {"bank", r.Bank}, {"position", r.Position}, {"no.", r.Channel}} {
		if n.value > 0 && (n.word != "no." || n.value != r.Bank) {
			if n.word != "and" {
				s += ","
			}
			s += fmt.Sprintf(" %s %d", n.word, n.value)
		}
	}
	if r.Place != "" {
		s += ", " + r.Place
	}
	if r.Polarity != "" {
		s += " (" + r.Polarity + ")"
	}
	return s
}

var aspectNames = map[Aspect]string{
	AspectSignal: "signal", AspectGround: "ground", AspectReference: "5 V reference", AspectSupply: "supply",
	AspectControl: "control",
	AspectHeater:  "heater", AspectHeaterSupply: "heater supply", AspectHeaterGround: "heater ground",
	AspectShield: "shield", "pumpcell": "pump cell",
}
