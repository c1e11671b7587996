package server

import (
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/wanted"
)

// The requests and replies of the API. The TypeScript types are generated from these.

// JobList is the list of jobs, last changed first.
type JobList struct {
	Jobs []JobLine `json:"jobs"`
}

// JobLine is a job in the list.
type JobLine struct {
	ID       string      `json:"id"`
	Title    string      `json:"title"`
	Kind     stored.Kind `json:"kind"`
	Donor    string      `json:"donor"`
	Chassis  string      `json:"chassis"`
	Changed  int64       `json:"changed"` // Unix milliseconds
	Revision int64       `json:"revision"`
	// Both pinouts number their circuits by one scheme.
	OneScheme bool  `json:"oneScheme,omitempty"`
	Archived  bool  `json:"archived,omitempty"` // it is put away
	Until     int64 `json:"until,omitempty"`    // Unix milliseconds, till when a deleted one can be brought back
}

// KindList is the kinds of job in the order in which they are offered.
type KindList struct {
	Kinds []stored.KindInfo `json:"kinds"`
}

// JobRequest makes a job or changes what it is called. ID is the change's, made by the client.
type JobRequest struct {
	ID      string      `json:"id"`
	Title   string      `json:"title"`
	Kind    stored.Kind `json:"kind"`
	Donor   string      `json:"donor"`
	Chassis string      `json:"chassis"`
	// Both pinouts number their circuits by one scheme.
	OneScheme bool  `json:"oneScheme,omitempty"`
	Seen      int64 `json:"seen,omitempty"` // revision that the person saw
}

// JobView is a job as the frame around the stages shows it.
type JobView struct {
	JobLine
	KindInfo stored.KindInfo           `json:"kindInfo"`
	Sides    Sides                     `json:"sides"`
	Open     OpenCounts                `json:"open"`
	Findings []finding.Finding         `json:"findings"`
	Severity map[finding.Severity]int  `json:"severity"`
	Undo     string                    `json:"undo,omitempty"`   // what undo would take back
	UndoOf   string                    `json:"undoOf,omitempty"` // and whose change that is
	Answered int                       `json:"answered"`         // findings that somebody has answered
	Tables   map[match.Side]TableState `json:"tables"`
	More     []Further                 `json:"more"`
	Origins  []string                  `json:"origins"`         // what Vehicles lists that parts come from
	Begun    bool                      `json:"begun,omitempty"` // how the whole plan stands is not in it
	Photos   PhotoSize                 `json:"photos"`
}

// PhotoSize is how many photographs a job has, and what they come to in its job file.
type PhotoSize struct {
	Count int `json:"count"`
	Bytes int `json:"bytes"`
}

// Sides says what the two pinouts are called, empty when not yet brought.
type Sides struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// Further is a further pinout of a job.
type Further struct {
	Key  string `json:"key"` // x1 to x99
	Name string `json:"name"`
}

// TableState is what the frame shows of a pinout.
type TableState struct {
	Rows     int `json:"rows"`
	Rejected int `json:"rejected"`
}

// OpenCounts is how much is open in each stage.
type OpenCounts struct {
	Gather int `json:"gather"`
	Match  int `json:"match"`
	Thin   int `json:"thin"`
	Pin    int `json:"pin"`
	Reach  int `json:"reach"`
	Feed   int `json:"feed"`  // findings of Feed that nobody has answered
	Join   int `json:"join"`  // functions that need something or are open
	Prove  int `json:"prove"` // gates of powering up that are not passed
	// What is temporary, borrowed or put off, and not gone.
	Handover int `json:"handover"`
	Work     int `json:"work"` // steps of all stages that are left
}

// Done is the reply to a change: the job's new revision.
type Done struct {
	Job      string `json:"job"`
	Revision int64  `json:"revision"`
	What     string `json:"what,omitempty"`  // what an undo took back
	About    string `json:"about,omitempty"` // and of which cavity, where it was one
	Count    int    `json:"count,omitempty"` // how many rows were decided, or taken back
}

// UndoRequest undoes the last change.
type UndoRequest struct {
	ID string `json:"id"`
	Of int64  `json:"of,omitempty"` // the entry of the history that is somebody else's, and is meant
}

// TableMeta is what a person says of a table.
type TableMeta struct {
	Name   string        `json:"name"`
	Source string        `json:"source,omitempty"`
	Date   string        `json:"date,omitempty"`
	Trust  harness.Trust `json:"trust"`
	Origin string        `json:"origin,omitempty"` // what its connectors come from, as Vehicles names it
	With   match.Side    `json:"with,omitempty"`   // of a further pinout: the side whose harness it belongs to
}

// TableView is a table with its reading.
type TableView struct {
	Meta     TableMeta      `json:"meta"`
	Options  gather.Options `json:"options"`
	Reading  gather.Reading `json:"reading"`
	Sample   [][]string     `json:"sample"` // the first lines as they were brought
	Sheet    string         `json:"sheet,omitempty"`
	Sheets   []string       `json:"sheets,omitempty"`
	Encoding string         `json:"encoding,omitempty"`
	Notes    []string       `json:"notes,omitempty"`   // what was done to make sense of the file
	Problem  string         `json:"problem,omitempty"` // why no row could be taken
	Revision int64          `json:"revision"`
}

// CorrectRequest changes how a stored table is read, or what is said of it.
type CorrectRequest struct {
	ID      string         `json:"id"`
	Seen    int64          `json:"seen"`
	Meta    TableMeta      `json:"meta"`
	Options gather.Options `json:"options"`
}

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
	Unserved  int               `json:"unserved"`
	Totals    match.Totals      `json:"totals"`
	Findings  []finding.Finding `json:"findings"`
	FromFaces map[string]Face   `json:"fromFaces"`
	ToFaces   map[string]Face   `json:"toFaces"`
	Decisions []match.Decision  `json:"decisions"`
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

// JournalView is a job's latest changes, newest first.
type JournalView struct {
	Entries []JournalLine `json:"entries"`
	More    bool          `json:"more,omitempty"` // there are older ones
}

// JournalLine is one change.
type JournalLine struct {
	Seq      int64  `json:"seq"`
	Revision int64  `json:"revision"`
	Who      string `json:"who"`
	At       int64  `json:"at"` // Unix milliseconds
	What     string `json:"what"`
	Reason   string `json:"reason,omitempty"`
	About    string `json:"about,omitempty"` // the cavity, where the change was about one
	Subjects int    `json:"subjects"`
	Undone   bool   `json:"undone"`
}
