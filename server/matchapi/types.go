package matchapi

import (
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/wanted"
	"draxel/server/desk"
)

// MatchView is the spread: both pinouts and the verdicts between them.
type MatchView struct {
	Revision int64           `json:"revision"`
	From     harness.Pinout  `json:"from"`
	To       harness.Pinout  `json:"to"`
	Meetings match.Meetings  `json:"meetings"`
	Vehicle  match.Side      `json:"vehicle"` // the side of the vehicle's own wiring
	Ways     []wanted.Way    `json:"ways"`
	Joints   []wanted.Joined `json:"joints"`
	NewWires []wanted.Laid   `json:"newWires"`
	// Splices, and cavities of fuses and grounds, at which a new wire can begin.
	Points []string     `json:"points"`
	Lines  []match.Line `json:"lines"`
	Wants  []match.Want `json:"wants"`
	// To rows that nothing serves and for which the plan lays no wire by itself.
	Unserved  int                  `json:"unserved"`
	Totals    match.Totals         `json:"totals"`
	Findings  []finding.Finding    `json:"findings"`
	FromFaces map[string]desk.Face `json:"fromFaces"`
	ToFaces   map[string]desk.Face `json:"toFaces"`
	Decisions []match.Decision     `json:"decisions"`
}

// EvidenceView explains one pair.
type EvidenceView struct {
	From    harness.Ref      `json:"from"`
	To      harness.Ref      `json:"to"`
	Reasons []finding.Reason `json:"reasons"`
}

// MeetRequest states how To connectors are met, and on which side the vehicle's own wiring is. A connector that is
// left out is met as the kind of job has it.
type MeetRequest struct {
	ID      string         `json:"id"`
	Seen    int64          `json:"seen"`
	Met     match.Meetings `json:"met"`
	Vehicle match.Side     `json:"vehicle,omitempty"`
}

// Action is what a person does to a row.
type Action string

// The actions.
const (
	Accept Action = "accept" // goes to the To cavity named
	Reject Action = "reject" // does not go to the To cavity named
	GoesAs Action = "goes"
	Source Action = "source"
	Empty  Action = "empty" // a To cavity left empty on purpose; it wants a reason

	JoinTo   Action = "join"   // a From wire joined to the wire of a To cavity
	BranchOf Action = "branch" // a To cavity served by a lead joined to a From wire
	WireFrom Action = "wire"   // a To cavity served by a new wire from an origin
	ByWay    Action = "way"    // another way for a match that is decided or offered
	Reopen   Action = "reopen" // take the decision back
)

// DecideRequest decides one row.
type DecideRequest struct {
	ID     string        `json:"id"`
	Seen   int64         `json:"seen"`
	Side   match.Side    `json:"side"`
	At     harness.Ref   `json:"at"`
	Action Action        `json:"action"`
	To     harness.Ref   `json:"to,omitzero"`
	Way    match.Way     `json:"way,omitempty"`
	Source string        `json:"source,omitempty"`
	Origin *match.Origin `json:"origin,omitempty"` // of WireFrom, and of Source where it is known
	Reason string        `json:"reason,omitempty"`
}

// AcceptRequest accepts every open match that is at least so certain.
type AcceptRequest struct {
	ID    string  `json:"id"`
	Seen  int64   `json:"seen"`
	Above float64 `json:"above"` // 0.5 to 1
}
