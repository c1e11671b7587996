package joinapi

import (
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/join"
	"draxel/core/live"
	"draxel/core/papers"
	"draxel/server/desk"
)

// TrialView is what works in a condition, and what the rules of the unit say in it.
type TrialView struct {
	feed.Trial
	Ruled []RuledOutput   `json:"ruled"`
	Table []feed.TriedRow `json:"table"` // the same condition in every position of the key
}

// RuledOutput is an output with its rule, and what that says.
type RuledOutput struct {
	Output  string `json:"output"`
	When    string `json:"when"`
	On      bool   `json:"on"`
	Decides bool   `json:"decides"` // it is understood, of an output that there is, and in no circle
}

// OutRuleRequest says when a unit works an output; without words the rule is taken away.
type OutRuleRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Output string `json:"output"`
	When   string `json:"when"`
}

// HoldsView is what must let current through for a device to work; nothing where it does not.
type HoldsView struct {
	Holds []feed.Hold `json:"holds"`
}

// JoinView is what must work in a vehicle, and how it stands.
type JoinView struct {
	Revision  int64             `json:"revision"`
	Items     []join.Item       `json:"items"`
	Legs      []live.Leg        `json:"legs"`
	Said      bool              `json:"said"` // the network says what is live
	Positions []feed.Position   `json:"positions"`
	Switches  []string          `json:"switches"`
	Closed    []string          `json:"closed"` // of them, those that are on as a rule
	Outputs   []Driven          `json:"outputs"`
	Rules     []join.OutputRule `json:"rules"`
	Numbers   []string          `json:"numbers"`  // that rules compare
	Flags     []string          `json:"flags"`    // that rules ask for: switches, outputs, requests
	Settings  []string          `json:"settings"` // of the unit, for whoever programs it
	Raised    []RaisedCodes     `json:"raised"`
	Sites     []live.Site       `json:"sites"` // ends at which parts can come, or why none can
	Studs     []string          `json:"studs"` // that leads can be brought to
	Parts     []join.Added      `json:"parts"` // that are taken
	Named     []papers.Named    `json:"named"` // the vehicle's wires that are cut or joined, named twice
	Steps     []desk.WorkStep   `json:"steps"`
	Findings  []finding.Finding `json:"findings"`
}

// Driven is an output of a unit with what it drives.
type Driven struct {
	At     string `json:"at"`
	Drives string `json:"drives"`
}

// RaisedCodes are the generic fault codes that a function raises that is given up, or not all there any more.
type RaisedCodes struct {
	Function string   `json:"function"`
	Codes    []string `json:"codes"`
}

// FunctionRequest keeps what is wanted of a function, and what its sum works with.
type FunctionRequest struct {
	ID       string            `json:"id"`
	Seen     int64             `json:"seen"`
	Function string            `json:"function"`
	Choice   join.Choice       `json:"choice"`
	Facts    map[string]string `json:"facts,omitempty"`
	Reason   string            `json:"reason,omitempty"`
}

// WayRequest takes a way that the sum of a function offers, and says where its part comes.
type WayRequest struct {
	ID       string            `json:"id"`
	Seen     int64             `json:"seen"`
	Function string            `json:"function"`
	Way      int               `json:"way"`
	Text     string            `json:"text"`            // of the way, as it was shown
	In       string            `json:"in,omitempty"`    // the cavity behind which a wire is cut for it
	Leads    map[string]string `json:"leads,omitempty"` // by point: the cavity or the stud that it comes to
}

// PartRequest brings a wire from an end of a function to another end or a stud, or takes a part out again.
type PartRequest struct {
	ID       string `json:"id"`
	Seen     int64  `json:"seen"`
	Function string `json:"function,omitempty"`
	From     string `json:"from,omitempty"`
	To       string `json:"to,omitempty"`
	Out      string `json:"out,omitempty"` // the part that is taken out
}
