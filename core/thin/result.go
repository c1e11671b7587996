package thin

import (
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Fate is what becomes of a splice.
type Fate string

// The fates.
const (
	Leave    Fate = "leave"
	Trim     Fate = "trim"    // the dead legs are cut off, the splice stays
	Through  Fate = "through" // two legs are left: they become one wire
	Rejoin   Fate = "rejoin"  // what is taken off joined these wires: they are joined without it
	Dissolve Fate = "remove"  // one leg is left, or none: the splice is not needed
)

// JointKind says where copper meets.
type JointKind string

// The places where copper meets.
const (
	AtSplice   JointKind = "splice"
	InJunction JointKind = "junction" // a connector that joins cavities
	InLine     JointKind = "in-line"  // the two halves of a pair
	InTerminal JointKind = "terminal" // several wires in one
	AtEnd      JointKind = "end"      // nothing meets: taped, or not seen
)

// JointVerdict is what becomes of a place where copper meets: a splice, a junction connector's row, a wire that only
// passes through something.
type JointVerdict struct {
	ID     harness.JointID  `json:"id"` // the splice, or the cavities
	Kind   JointKind        `json:"kind"`
	At     []harness.Ref    `json:"at,omitempty"` // the cavities, where it is in a connector
	Fate   Fate             `json:"fate"`
	Stays  []harness.WireID `json:"stays"` // the wires of the legs that stay
	Goes   []harness.WireID `json:"goes"`  // of those that go
	Why    string           `json:"why"`
	System string           `json:"system,omitempty"` // of the first leg that goes
	Added  string           `json:"added,omitempty"`  // who added it
	node   int32
	taken  bool // the connector that it is in comes off
}

// Step is one thing to do when a harness is thinned.
type Step = work.Step

// Extraction is a terminal that comes out of a connector that stays.
type Extraction struct {
	Terminal harness.TerminalID `json:"terminal"`
	At       harness.Ref        `json:"at"`
	Wire     harness.WireID     `json:"wire"`
}

// Rates are the minutes that each kind of work takes: common practice, no source; a job's own log makes them better.
type Rates struct {
	Check   float64 `json:"check"`
	Seal    float64 `json:"seal"`
	Splice  float64 `json:"splice"`
	Join    float64 `json:"join"`
	Extract float64 `json:"extract"`
	Out     float64 `json:"out"`
	TakeOff float64 `json:"takeOff"`
}

// SystemLine is a system, or a device in it, with how many of its wires stay and go.
type SystemLine struct {
	System    string    `json:"system"`
	Choice    Choice    `json:"choice,omitempty"` // what was decided about it as a whole
	By        *Decision `json:"by,omitempty"`
	Wires     int       `json:"wires"`
	Keep      int       `json:"keep"`
	Goes      int       `json:"goes"`
	Undecided int       `json:"undecided"`
	Devices   []Device  `json:"devices"`
	Locked    string    `json:"locked,omitempty"` // why nothing can be decided about it here
	Proposed  Choice    `json:"proposed,omitempty"`
	Why       string    `json:"why,omitempty"` // of the proposal
}

// Device is a device in its system.
type Device struct {
	ID     string     `json:"id"`
	Kind   string     `json:"kind,omitempty"`
	Choice Choice     `json:"choice,omitempty"` // what holds for it: its own, or its system's
	Own    bool       `json:"own,omitempty"`    // it was decided about itself
	Wires  int        `json:"wires"`
	By     *Decision  `json:"by,omitempty"`
	Added  string     `json:"added,omitempty"`
	Plugs  []PlugLine `json:"plugs"`
}

// PlugLine is a connector of a device.
type PlugLine struct {
	ID     string    `json:"id"`
	Choice Choice    `json:"choice,omitempty"`
	By     *Decision `json:"by,omitempty"`
	Locked bool      `json:"locked,omitempty"`
}

// supplied says whether a circuit brings current, and grounded whether it takes it back, by most of its wires.
type supplied struct{ feeds, grounds, all int }

// sources are the ends from which a circuit is fed or grounded. Of a feed they are at fuses and at what hands
// current on, a relay, a switch, which is known by being on two feeds; of a ground at ground points: a unit on such
// a circuit only takes. Of every other circuit, and where none of these is known, they are units, fuses and grounds
// alike.
type sources struct {
	of     []bool // by node
	strict []bool // by circuit: a feed or ground of which the real sources are known
}

// Result is what follows from the decisions.
type Result struct {
	Wires    []Verdict         // as the wires of the loom
	Joints   []JointVerdict    // splices and other places where copper meets, those with something to do and all splices
	Off      []string          // connectors that come off
	Steps    []Step            // in the order of work, without what Pin extracts
	Extract  []Extraction      // terminals that Pin takes out
	Findings []finding.Finding // what keeping and deleting implies
	Systems  []SystemLine
	t        *thinning
}

// Verdict is what becomes of one wire.
type Verdict struct {
	Choice Choice `json:"choice"`
	// The decision that it comes from, nil where it follows from the circuit or nothing was decided.
	By        *Decision `json:"by,omitempty"`
	Exception bool      `json:"exception,omitempty"` // it was decided about this very wire
	Contested bool      `json:"contested,omitempty"` // one end is kept and the other goes
	Circuit   int       `json:"circuit"`
	System    string    `json:"system,omitempty"`
}
