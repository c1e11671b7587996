package network

// Inside is what stands in a harness beside its wires, as somebody says it. A point is written as people do: a cavity
// "F3", "IS-1", or a place of its own name, "battery +", "body". A value of 0 is not stated.
type Inside struct {
	Sources  []Supply
	Slots    []Slot
	Switches []Contacts
	Relays   []Coiled
	Cables   []Cable
	Uses     []Use
}

// Supply is a battery or an alternator.
type Supply struct {
	Name        string
	Plus, Minus string  // points
	Volts       float64 // V with nothing on it
	Ohms        float64 // Ω inside
	Limit       float64 // A
	Running     bool    // only while the engine runs
}

// Slot is a fuse, a breaker or a fusible link between two points.
type Slot struct {
	Name    string
	In, Out string
	Rating  float64 // A
}

// Contacts are a contact of the key or of a switch between two points.
type Contacts struct {
	Name     string
	From, To string
	Key      Key     // positions in which it is closed; 0: it is no contact of the key
	Switch   string  // the switch that closes it, of a contact that is none of the key
	Ohms     float64 // Ω when it is closed, where that was measured or stated
}

// Coiled is a relay.
type Coiled struct {
	Name                string
	Coil                [2]string // points of the coil, the positive first
	Common, Make, Break string
	Ohms                float64 // Ω of the coil
	Diode               bool    // a diode lies across its coil
}

// Cable is a strap or a thick wire that is not in the list of wires.
type Cable struct {
	Name     string
	From, To string
	Square   float64 // mm²
	Length   float64 // mm
	Ohms     float64 // Ω, where that was measured
}

// Use is what somebody says of a load: between two points, or of a device that the harness has.
type Use struct {
	Name        string
	Plus, Minus string
	Amps        float64 // A at Volts
	Volts       float64 // 0: 12
	Lamp        bool
	Switch      string // only while this is on
	Starter     bool   // only while the engine is cranked
}
