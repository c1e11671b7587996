package join

import (
	"draxel/core/harness"
	"draxel/core/signal"
)

// Socket is a cavity of a device in the wanted harness, with what its wire is read as and the circuit that it is on.
type Socket struct {
	At      harness.Ref
	Device  string
	Signal  signal.Reading
	Text    string
	Circuit int  // sockets of one number are joined by copper and by contacts that can close
	Unit    bool // of a control unit: that it is awake says nothing of what it drives
	// Nobody has followed its wire to its other end.
	Unfollowed bool
	Function   string // of a part that is added: what it serves
}

// State says how a function stands.
type State string

// The states.
const (
	OnPaper  State = "works on paper"
	Needs    State = "needs something"
	Open     State = "open"
	Gone     State = "given up"
	NotThere State = "not fitted"
)

// Item is a function with how it stands, why, and its sum.
type Item struct {
	Function
	State   State           `json:"state"`
	Choice  Choice          `json:"choice,omitempty"`
	Reason  string          `json:"reason,omitempty"`
	Why     string          `json:"why"`
	Ends    []EndAt         `json:"at"`
	Sum     *Sum            `json:"sum,omitempty"`
	Asks    []Ask           `json:"asks,omitempty"` // what its sum works with
	Needs   []Need          `json:"needs,omitempty"`
	apart   bool            // no two of its ends are one circuit
	works   []string        // devices of it that have volts in some position
	dead    []string        // devices of it that use current, and have none in any
	untried []string        // devices of it of which nobody knows what is inside
	devices map[string]bool // of the vocabulary that its ends are read as
	unsaid  bool            // it cannot be judged before Feed is said: no finding
}

// Need is something that a function lacks, and where that is seen to.
type Need struct {
	Text  string `json:"text"`
	Stage string `json:"stage,omitempty"` // where it is seen to
	At    string `json:"at,omitempty"`    // the cavity that it is about
	Row   string `json:"row,omitempty"`   // its row in Match, "to A27"
}

// EndAt is an end of a function: a cavity of a device.
type EndAt struct {
	Ref        harness.Ref `json:"-"`
	At         string      `json:"at"`
	Device     string      `json:"device"`
	Text       string      `json:"text"`
	Circuit    int         `json:"circuit"`
	Unit       bool        `json:"unit,omitempty"`       // of a control unit
	Unfollowed bool        `json:"unfollowed,omitempty"` // nobody has followed its wire to its other end
	Added      bool        `json:"added,omitempty"`      // of a part that is added
	lamp       bool        // its wire is read as that of a lamp
}

// Inputs is what the list of functions works on.
type Inputs struct {
	Sockets []Socket
	Lost    []Socket          // at which a wire was found, and there is none in the finished harness
	Works   map[string]bool   // by device that uses current: something in it has volts in some position with everything on
	Unknown map[string]bool   // devices of which nobody knows what is inside
	Before  map[string]string // by function: "worked" or "did not" before the work began
	Wishes  []FunctionWish
	Job     Known
	Lit     map[string]Lit  // by function of lamps that a switch lights: what the network says of them
	Live    map[string]bool // cavities that have volts in some position of the key
	Unfed   bool            // nobody has said what stands in the vehicle: that nothing has volts says nothing
}

// Lit is what the network says of lamps that a switch lights.
type Lit struct {
	Switches []string        // that are worked
	On       map[string]bool // cavities that have volts with them on, and none with them off
}

// Known is what the job says of itself and the network of it, for the sums.
type Known struct {
	Cylinders  int
	Alternator string  // self-exciting, lamp-excited, controlled
	LampAmps   float64 // A through the charge lamp with the key in run, 0 where it is not known
	PumpVolts  float64 // V at the pump with the engine running, 0 where it is not known
	PumpAmps   float64
	Cranks     []string // clutch, park or neutral switches without which the starter turns all the same
	Rules      []OutputRule
	Fans       []string // outputs that work the fans, by cavity, the first stage first
	Clutch     []string // outputs that work the compressor's clutch
	Gearbox    []string // what a change of gearbox brings with it and is not seen to
	Cools      bool     // the vehicle will have air conditioning
	Over       []Over   // inputs for 5 V at units that have more
}

// Over is an input of a unit that has more volts than it takes.
type Over struct {
	At    string
	Text  string
	Volts float64
}

// need notes what a function lacks and where that is seen to.
func (it *Item) need(stage, at, text string) {
	it.Needs = append(it.Needs, Need{Text: text, Stage: stage, At: at})
}

// first gives the first end of a function that is at no unit, else the first.
func (it *Item) first() string {
	for _, e := range it.Ends {
		if !e.Unit {
			return e.At
		}
	}
	if len(it.Ends) > 0 {
		return it.Ends[0].At
	}
	return ""
}

// carries says whether a wire only feeds or grounds what a function is made of, and is no end of it.
func carries(r signal.Role) bool {
	switch r {
	case signal.Ground, signal.SensorGround, signal.Battery, signal.Ignition, signal.SensorSupply, signal.Reference5V,
		signal.Shield:
		return true
	}
	return false
}
