// Package repin gives the re-pin sheet: the moves that Pin plans at the connectors, with what tells each wire from
// others, what it takes, and what a finished connector must hold.
package repin

import (
	"fmt"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Reads is what the sheet follows from.
type Reads struct {
	Model  *wanted.Model
	Match  *match.Result
	Wanted harness.Harness
	Pin    pin.Decisions
	Rate   float64 // minutes that a terminal takes, as long as too few were logged
}

// Sheet is the re-pin sheet: Pin's steps with what tells their wires, and what goes with them.
type Sheet struct {
	Steps    []Step
	Pinning  Pinning
	Findings []finding.Finding
	Fault    string // why the moves could not be planned
}

// Step is a step of the re-pin sheet with what tells its wire from others.
type Step struct {
	pin.Step
	pin.Advice
	Wire harness.Row `json:"wire"` // the wire's row; for a new wire the To row
	Goal harness.Row `json:"goal"` // the To row that it fills, zero when it fills none
}

// About is the cavity that a step is best known by.
func (s *Step) About() harness.Ref {
	if s.To != (harness.Ref{}) {
		return s.To
	}
	return s.From
}

// Pinning is what goes with the steps of the re-pin sheet.
type Pinning struct {
	Now         harness.Harness // the connectors that are worked in
	Done        []work.Tick     // what has been carried out, in its order
	Limit       int             // terminals that may be in hand
	Extractions int
	Fewest      int
	Openings    int
	Bound       int
	Stuck       []pin.Stuck
	Orders      []pin.Order
	Spares      []pin.Spare
	Adaptations []pin.Adaptation
	Expected    []pin.Expected
	Settings    []string // what must be changed in the unit's settings
	Outputs     []Output
	Minutes     float64 // reckoned for what is left to be taken out
	Rate        float64 // minutes a terminal that this rests on
	Logged      int     // terminals whose time was logged; the rate is theirs where there are enough
}

// Measured says whether the rate is what was logged.
func (p *Pinning) Measured() bool { return p.Logged >= enoughLogged }

// reckon says how long the terminals that are left will take: at the job's rate, or at what was logged.
func (p *Pinning) reckon(left int, rate float64) {
	spent := 0.0
	for _, t := range p.Done {
		if t.Spent > 0 && t.Minutes > 0 && t.Spent <= longest*t.Minutes {
			spent += t.Spent
			p.Logged++
		}
	}
	if p.Rate = rate; p.Measured() {
		p.Rate = spent / float64(p.Logged)
	}
	p.Minutes = p.Rate * float64(left)
}

// enoughLogged is how many terminals' time must be logged before their average says more than the rate of the job.
const enoughLogged = 5

// longest is how many times the reckoned time a logged one may be: what took longer was a break, and is not counted.
const longest = 5

// counted says what a finished connector must show when its wires and seals are counted.
func (p *Pinning) counted(connector string) string {
	wires, empty := 0, 0
	for _, e := range p.Expected {
		if e.At.Connector != connector {
			continue
		}
		if e.Empty {
			empty++
		} else {
			wires++
		}
	}
	if wires+empty == 0 {
		return ""
	}
	return fmt.Sprintf(
		"Count: %d wires, %d empty cavities; where it is sealed, a plug in each of those. ",
		wires,
		empty,
	)
}

// Output is an output of the unit that could be exchanged with others of its kind.
type Output struct {
	At       harness.Ref `json:"at"`
	Function string      `json:"function"`
	Kind     signal.Role `json:"kind"`
	With     harness.Ref `json:"with,omitzero"` // the output that it is exchanged with
	// The output that it is exchanged with in the earlier job named, which nobody has taken over.
	Earlier harness.Ref `json:"earlier,omitzero"`
	Verify  string      `json:"verify,omitempty"`
}
