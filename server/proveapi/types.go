package proveapi

import (
	"draxel/core/harness"
	"draxel/core/prove"
	"draxel/exchange"
	"draxel/server/desk"
)

// ProveView is the test sheet with what was measured, the gates of powering up, and what was found.
type ProveView struct {
	Revision  int64             `json:"revision"`
	Why       string            `json:"why,omitempty"` // why there is no sheet yet
	Lines     []ProvedLine      `json:"lines"`
	Others    []ProvedLine      `json:"others"` // measured beside the sheet
	Fewest    int               `json:"fewest"`
	Unbuilt   int               `json:"unbuilt"` // wires that are not yet as they are wanted
	Bound     int               `json:"bound"`
	Gates     []prove.GateState `json:"gates"`
	Devices   []string          `json:"devices"` // of which can be said that they work or do not
	KeyOn     []string          `json:"keyOn"`   // what clicks, hums and lights when the key comes to run
	Positions []string          `json:"positions"`
	Mended    []prove.Mend      `json:"mended"`
	// What was written into the unit, nil where nobody has begun; the settings of its sheet; the codes that what
	// was given up raises.
	Program  *prove.Programming  `json:"program,omitempty"`
	Settings []string            `json:"settings"`
	Raised   map[string][]string `json:"raised,omitempty"`
	Notes    []prove.Note        `json:"notes"`
	Live     []prove.Value       `json:"live"`
	Switches []string            `json:"switches"` // that somebody works
	Outputs  []OutputView        `json:"outputs"`  // of units
	Trained  []prove.Trained     `json:"trained"`
	Levels   []prove.Level       `json:"levels"`         // of the trainer
	Bench    Benched             `json:"bench,omitzero"` // a simulated vehicle that runs
	// What is shown as read and mended was read and mended at the simulated vehicle.
	Simulated bool                 `json:"simulated,omitempty"`
	Faces     map[string]desk.Face `json:"faces"` // of the plugs that are measured at
	Wires     []desk.CavityWire    `json:"wires"`
}

// ProvedLine is a line of the sheet with what was read.
type ProvedLine struct {
	prove.SheetLine
	Text    string              `json:"text"`
	Spots   []harness.Ref       `json:"spots"`           // the cavities that are touched
	How     string              `json:"how"`             // how the vehicle stands for it
	Waits   bool                `json:"waits,omitempty"` // what it measures is not built yet
	Reading *prove.MeterReading `json:"reading,omitempty"`
	Fits    bool                `json:"fits,omitempty"`  // it lies in its band
	Again   bool                `json:"again,omitempty"` // something was mended since: measure it again
}

// DiagnosisView is what could be wrong, and what to measure next.
type DiagnosisView struct {
	Revision int64         `json:"revision"`
	Readings int           `json:"readings"` // that it goes by
	Suspects []SuspectView `json:"suspects"`
	Healthy  float64       `json:"healthy"`
	Out      []string      `json:"out"`
	Doubtful []string      `json:"doubtful,omitempty"`
	Found    bool          `json:"found"`
	Next     *prove.Advice `json:"next,omitempty"`
	NextText string        `json:"nextText,omitempty"`
	NextHow  string        `json:"nextHow,omitempty"`
	NextAt   []harness.Ref `json:"nextAt,omitempty"`
	Looked   int           `json:"looked"`
	Of       int           `json:"of"`
}

// SuspectView is what could be wrong.
type SuspectView struct {
	Text        string   `json:"text"`
	Probability float64  `json:"probability"`
	Explains    []string `json:"explains"`
	Against     []string `json:"against"`
	Like        []string `json:"like"`
	Left        bool     `json:"left,omitempty"` // it can be left as it is: the plan follows
	Do          []string `json:"do"`
}

// ReadingProvedRequest keeps what a meter showed; with out it takes a reading back.
type ReadingProvedRequest struct {
	ID      string             `json:"id"`
	Seen    int64              `json:"seen"`
	Reading prove.MeterReading `json:"reading,omitzero"`
	Out     string             `json:"out,omitempty"`
	// It was read at the simulated vehicle, and stays with it.
	Simulated bool `json:"simulated,omitempty"`
}

// GateRequest passes a gate of powering up, or opens it again.
type GateRequest struct {
	ID     string   `json:"id"`
	Seen   int64    `json:"seen"`
	Gate   string   `json:"gate"`
	Value  *float64 `json:"value,omitempty"`
	Reason string   `json:"reason,omitempty"`
	Back   bool     `json:"back,omitempty"`
	// It is the simulated vehicle's: no gate of the real one is passed by it.
	Simulated bool `json:"simulated,omitempty"`
}

// MendRequest notes that a fault was found and put right.
type MendRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
	Text string `json:"text"`
	Did  string `json:"did,omitempty"`
	// Terminals in wrong cavities are left there: the plan goes on from what is really there.
	Left bool `json:"left,omitempty"`
	// It was found at the simulated vehicle, and stays with it.
	Simulated bool `json:"simulated,omitempty"`
}

// OutputView is an output of a unit.
type OutputView struct {
	At     string `json:"at"`
	Drives string `json:"drives"`
	Device string `json:"device,omitempty"` // whose load lies there
}

// MeterRequest asks a meter at an address for what it shows.
type MeterRequest struct {
	Address string        `json:"address"`
	Measure prove.Measure `json:"measure"`
	// The reading is wanted for the simulated vehicle: no other meter reads that, and its meter reads no other.
	Simulated bool `json:"simulated,omitempty"`
}

// Benched is a simulated vehicle that was started from the page, with the addresses of its meter, unit and rig.
type Benched struct {
	On    bool   `json:"on"`
	Hides bool   `json:"hides,omitempty"` // something is wrong with it that nobody is told
	Meter string `json:"meter,omitempty"`
	Unit  string `json:"unit,omitempty"`
	Rig   string `json:"rig,omitempty"`
}

// StandinRequest starts a simulated vehicle of the job, or stops it. Seed hides a fault, another with each number;
// 0 hides none.
type StandinRequest struct {
	On   bool   `json:"on"`
	Seed uint64 `json:"seed,omitempty"`
}

// UnitRequest asks a control unit: identity, values, codes, clear, or drive with the identifier of an output.
type UnitRequest struct {
	Address string  `json:"address"`
	What    string  `json:"what"`
	Value   string  `json:"value,omitempty"`
	Seconds float64 `json:"seconds,omitempty"` // for how long an output is worked, 1 to 5
}

// UnitSays is what a control unit said.
type UnitSays struct {
	Identity []exchange.UnitIdentity `json:"identity"`
	Codes    []CodeSays              `json:"codes"`
	Values   []ValueSays             `json:"values"`
}

// CodeSays is a code with what it says, and which output of this vehicle it is about.
type CodeSays struct {
	exchange.FaultCode
	Text   string `json:"text,omitempty"`
	Output string `json:"output,omitempty"`
	Device string `json:"device,omitempty"`
	Gone   string `json:"gone,omitempty"` // the function that was given up and raises it
}

// ValueSays is a value that a unit said.
type ValueSays struct {
	ID   string  `json:"id"`
	Says float64 `json:"says"`
}

// RigRequest reads a bench rig whose wheel is turned.
type RigRequest struct {
	Address string      `json:"address"`
	Wheel   prove.Wheel `json:"wheel"`
}

// RigSays is what a bench rig shows.
type RigSays struct {
	Lit     []exchange.Lit `json:"lit"`
	Edges   int            `json:"edges"`
	Read    bool           `json:"read"` // the wheel can be read by its edges
	RPM     float64        `json:"rpm,omitempty"`
	Missing int            `json:"missing,omitempty"`
	Dial    float64        `json:"dial,omitempty"` // what the tachometer must show; 0: Join has no sum for it
}

// LiveRequest keeps the list of what the unit can be asked for, a line a value; or that of the simulated unit.
type LiveRequest struct {
	ID        string `json:"id"`
	Seen      int64  `json:"seen"`
	Text      string `json:"text,omitempty"`
	Simulated bool   `json:"simulated,omitempty"`
}

// NoteRequest keeps what was heard, seen, changed or tested; with out it takes a note back.
type NoteRequest struct {
	ID   string         `json:"id"`
	Seen int64          `json:"seen"`
	Kind prove.NoteKind `json:"kind,omitempty"`
	Text string         `json:"text,omitempty"`
	Out  string         `json:"out,omitempty"`
}

// ProgramRequest keeps the record of what was written into the unit.
type ProgramRequest struct {
	ID      string            `json:"id"`
	Seen    int64             `json:"seen"`
	Program prove.Programming `json:"program"`
}

// TrainView is a round of the trainer as it is told.
type TrainView struct {
	Levels []prove.Level      `json:"levels"`
	Told   prove.MeterReading `json:"told"`
	Text   string             `json:"text"`
	How    string             `json:"how"`
	Many   int                `json:"many"`          // faults that are hidden
	Lie    []harness.Ref      `json:"lie,omitempty"` // cavities whose colours are shown exchanged
	Points []string           `json:"points"`        // where a probe can be put
}

// TrainRequest is about a round: the same level and seed are the same round.
type TrainRequest struct {
	Level   int           `json:"level"`
	Seed    uint64        `json:"seed"`
	Measure prove.Measure `json:"measure"`
}

// TrainEndRequest ends a round with what the person takes it to be.
type TrainEndRequest struct {
	ID      string   `json:"id"`
	Seen    int64    `json:"seen"`
	Level   int      `json:"level"`
	Seed    uint64   `json:"seed"`
	Took    int      `json:"took"`
	Seconds float64  `json:"seconds"`
	Guesses []string `json:"guesses"`
}

// TrainEnd is how a round ended.
type TrainEnd struct {
	desk.Done
	Right  bool       `json:"right"`
	Hidden []string   `json:"hidden"`
	Do     []string   `json:"do"`
	Way    []WalkedOn `json:"way"` // by the best next measurement each time
	// The way comes to all that was hidden.
	Reached bool `json:"reached"`
}

// WalkedOn is a measurement on the way, in words.
type WalkedOn struct {
	Text  string        `json:"text"`
	How   string        `json:"how"`
	Kind  prove.Kind    `json:"kind"`
	Shown prove.Shown   `json:"shown"`
	Why   string        `json:"why"`
	At    []harness.Ref `json:"at"`
}
