// Package pin orders terminal moves so that hands can carry them out one after another.
//
// Plan is given two states of the connectors, now and wanted, and knows nothing of why they differ. A terminal can only
// go into an empty cavity, so a move waits until its target has been vacated. Following who waits for whom gives
// chains, which end in an empty cavity and are done from that end, and cycles, which nothing starts: one terminal of
// each cycle must wait somewhere. Where a terminal may be held in hand it waits there and each terminal is extracted
// once, which is the least there can be; where none may, it waits in a free cavity of its size, which costs one
// extraction more a cycle, the least there can be then: the first terminal of a cycle that moves cannot go home,
// since its place is full.
//
// What comes first: the limit of terminals in hand, then the number of extractions, then how often secondary locks are
// opened. Two connectors lie open at most, and one that is finished is closed at once.
package pin

import (
	"slices"

	"draxel/core/harness"
	"draxel/core/work"
)

// The kinds of step on a re-pin sheet.
const (
	Move   work.Kind = "move"   // out of one cavity and into another
	Pull   work.Kind = "pull"   // the first of a cycle: out, and waits
	Seat   work.Kind = "seat"   // one that waited goes home
	Out    work.Kind = "out"    // out of its cavity and sealed off: it goes
	Hold   work.Kind = "hold"   // out of its cavity, sealed and labelled: it waits for its source or its joint
	New    work.Kind = "new"    // a new terminal, on a new wire or on an end that was cut
	Drop   work.Kind = "drop"   // a new terminal that is not wanted after all comes out
	Seal   work.Kind = "plug"   // a plug into a vacated cavity
	Unseal work.Kind = "unplug" // a plug out of a cavity
	Close  work.Kind = "close"  // the secondary lock goes home

	// It was done otherwise than planned: a tick without a step.
	Otherwise work.Kind = "otherwise"
)

// Step is a step on the re-pin sheet with the cavities that it is about.
type Step struct {
	work.Step
	Terminal  harness.TerminalID `json:"terminal,omitempty"`
	From      harness.Ref        `json:"from,omitzero"`   // the cavity it leaves
	Origin    harness.Ref        `json:"origin,omitzero"` // of one that waited in hand: the cavity that it left
	To        harness.Ref        `json:"to,omitzero"`     // the cavity it enters, or waits in
	Hand      []string           `json:"hand,omitempty"`  // the labels of the terminals that are loose after this step
	Connector string             `json:"connector,omitempty"`
	Opens     []string           `json:"opens,omitempty"` // connectors whose secondary lock is lifted for this step
	Again     bool               `json:"again,omitempty"` // of Close: it will be opened once more
}

// Input is what Plan works on.
type Input struct {
	Now, Wanted harness.Harness
	Limit       int // how many terminals may be in hand between two steps: 0 or more
	// Whether the terminal of a cavity can wait in another; nil: in its own connector.
	Fits   func(from, wait harness.Ref) bool
	Fixed  func(at harness.Ref) bool   // whether the terminal of a cavity cannot be taken out; nil: none
	Made   map[harness.TerminalID]Made // of terminals that are new: on which end of which wire
	Renew  map[harness.TerminalID]bool // terminals that are cut off and crimped anew on their way
	State  State
	Wishes []Wish
}

// Made says on which end of a wire a new terminal is crimped.
type Made struct {
	harness.TipID
	Name string // the wire as a person recognises it
}

// Decisions are what a person chose and noted for the moves.
type Decisions struct {
	Limit     int // how many terminals may be in hand
	Wishes    []Wish
	Exchanges []Exchange
	Reports   []Report
	Checks    []Check
	Have      map[string]bool // parts that are there, by name
}

// Exchange is the exchange of two outputs of a programmable unit: what was wanted in A comes into B, and the other way
// round. The unit's settings must be changed with it.
type Exchange struct {
	A      harness.Ref `json:"a"`
	B      harness.Ref `json:"b"`
	Reason string      `json:"reason,omitempty"`
	Who    string      `json:"who,omitempty"`
	When   int64       `json:"when,omitempty"` // Unix milliseconds
	// The earlier job that it comes from: it counts for nothing until somebody has taken it over.
	Verify string `json:"verify,omitempty"`
}

// State is how the work was left: what a plan that continues must know beside where the terminals are.
type State struct {
	Open    []string             // connectors whose lock is lifted, the one opened last at the end
	Closed  map[string]int       // how often each connector was closed so far
	Last    harness.Ref          // the cavity that was vacated last
	Vacated map[harness.Ref]bool // cavities that the work so far has emptied
}

// Left gives the state in which the ticks of Pin's steps left the work.
func Left(ticks []work.Tick) State {
	s := State{Closed: map[string]int{}, Vacated: map[harness.Ref]bool{}}
	for _, t := range work.InOrder(ticks) {
		for i, at := range t.At {
			s.Open = slices.DeleteFunc(s.Open, func(c string) bool { return c == at.Connector && t.Kind == Close })
			switch {
			case t.Kind == Close:
				s.Closed[at.Connector]++
			case at.Connector == "":
			case !slices.Contains(s.Open, at.Connector):
				s.Open = append(s.Open, at.Connector)
			}
			if i == 0 && at.Cavity != "" {
				s.Last, s.Vacated[at] = at, true
			}
		}
	}
	return s
}

// Tick gives what is kept of a step when it has been carried out; who and when are the caller's to fill in.
func (s *Step) Tick() work.Tick {
	at := []harness.Ref{s.From, s.To}
	if s.Kind == Close {
		at = []harness.Ref{{Connector: s.Connector}}
	}
	return work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text, Stage: work.Pin, Kind: s.Kind, At: at}
}

// Result is a plan with the figures that it is judged by.
type Result struct {
	Steps       []Step
	Extractions int     // terminals that are taken out of a cavity
	Fewest      int     // the least number of extractions there can be within the limit
	Openings    int     // times that a secondary lock is lifted
	Bound       int     // openings that no plan can do without
	Stuck       []Stuck // what cannot be done within the limit
	Refused     []Refusal
}

// Stuck is a cycle of moves that cannot begin, since nothing may be held in hand and no free cavity takes its
// terminals.
type Stuck struct {
	At []harness.Ref // where its terminals are
}

// Wish is a person's wish for the order of two steps: Step is done before Then.
type Wish struct {
	Step string `json:"step"`
	Then string `json:"then"`
	Who  string `json:"who,omitempty"`
	When int64  `json:"when,omitempty"` // Unix milliseconds
}

// Refusal is a wish that cannot be had, with why.
type Refusal struct {
	Wish Wish
	Why  string
	Gone bool // one of the steps is done, or not in the plan any more: nothing is refused
}

// What is not as expected at the bench.
type What string

// Report is something that was found otherwise than expected. It stands until somebody says how it was settled.
type Report struct {
	ID      string      `json:"id"`
	What    What        `json:"what"`
	At      harness.Ref `json:"at"` // of Broken: its connector counts
	Saw     string      `json:"saw,omitempty"`
	Settled string      `json:"settled,omitempty"` // how
	Who     string      `json:"who,omitempty"`
	When    int64       `json:"when,omitempty"` // Unix milliseconds
}

// Check is what a second person found in a cavity, without looking at what the first had ticked.
type Check struct {
	At   harness.Ref `json:"at"`
	OK   bool        `json:"ok"`
	Saw  string      `json:"saw,omitempty"` // where it is not as it should be: what is there
	Who  string      `json:"who,omitempty"`
	When int64       `json:"when,omitempty"` // Unix milliseconds
}

// Expected is what a cavity must hold when the work is done. Power says that it is a supply or a ground: those come
// first. Joined are the other cavities of the circuit that a joint made of it: from here a meter finds them.
type Expected struct {
	At       harness.Ref   `json:"at"`
	Colour   string        `json:"colour,omitempty"`
	Circuit  string        `json:"circuit,omitempty"`
	Function string        `json:"function,omitempty"`
	Power    bool          `json:"power,omitempty"`
	Empty    bool          `json:"empty,omitempty"`
	Joined   []harness.Ref `json:"joined,omitempty"`
}
