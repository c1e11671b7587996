// Package thin says what of a harness stays, what goes, and how it is taken out.
//
// The harness is a net of copper: wires joined at splices, in junction connectors and across in-line pairs. A person
// decides about systems, modules, connectors and single wires; what follows for every other wire and for each splice is
// computed. In each circuit the wanted ends stay joined as they were, and whatever leads to no wanted end goes. Nothing
// goes that nobody decided away, and nobody decides about restraint, high voltage or another's half of a plug here.
//
// The work that leads there is planned as steps on the model of the harness: cut, seal, open, join, take off, let fall
// out. Carried out on the model as found they must give the harness as wanted, which is built from the verdicts alone.
package thin

import (
	"sync"

	"draxel/core/circuit"
	"draxel/core/harness"
)

// School says how a dead end in a connector that stays is dealt with.
type School string

// The two schools.
const (
	Extract School = "extract" // take the terminal out of its cavity, and plug the cavity
	CutSeal School = "cut"     // cut and seal at the back of the connector
)

// Bench is how the person works.
type Bench struct {
	School School  `json:"school"`
	Stub   float64 `json:"stub"`            // mm of a leg left at a splice, to show what it was
	Rates  Rates   `json:"rates"`           // minutes
	Usable float64 `json:"usable"`          // mm, from which a piece is worth keeping
	Worked float64 `json:"worked,omitzero"` // minutes logged so far, 0 where nothing was
	Hand   *int    `json:"hand,omitempty"`  // how many terminals may be in hand between two steps; nil: 1
}

// Standard gives the settings that a job begins with: common practice, no source.
func Standard() Bench {
	return Bench{School: Extract, Stub: 60, Usable: 300,
		Rates: Rates{Check: 1, Seal: 3, Splice: 6, Join: 8, Extract: 4, Out: 3, TakeOff: 5}}
}

// Input is what Compute works on.
type Input struct {
	Loom      *harness.Loom
	Decisions []Decision
	Bench     Bench
	Records   map[string]Noted // by connector

	// Cavities whose terminals are taken elsewhere: their wires are not cut off a connector that comes off.
	Moved map[harness.Ref]bool
}

// Noted is what a person noted at one connector before it came off.
type Noted struct {
	Labelled bool `json:"labelled,omitempty"`
	Photos   int  `json:"photos,omitempty"`
	Counted  int  `json:"counted,omitempty"` // wires counted at the plug; 0 where nobody has
}

// thinning is the work in progress.
type thinning struct {
	in      Input
	loom    *harness.Loom
	net     *circuit.Graph
	decided decisions
	half    []status // by connector
	torn    []int32  // halves of in-line pairs that go although their mates are kept
	node    []status
	guard   circuit.Guard
	forced  []Choice // by wire: what was decided about it itself
	stays   []bool   // by wire
	src     sources
	result  *Result
	filing  sync.Once
	number  map[harness.WireID]int32 // wires by id, once somebody has asked
}
