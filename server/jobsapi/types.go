package jobsapi

import (
	"draxel/core/finding"
	"draxel/core/match"
	"draxel/core/stored"
)

// JobList is the list of jobs, last changed first.
type JobList struct {
	Jobs []JobLine `json:"jobs"`
	Demo bool      `json:"demo,omitempty"` // there is a demonstration to try
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
	Demo      bool  `json:"demo,omitempty"`     // it is of the demonstration
	Until     int64 `json:"until,omitempty"`    // Unix milliseconds, till when a deleted one can be brought back
}

// KindList is the kinds of job in the order in which they are offered.
type KindList struct {
	Kinds []stored.KindInfo   `json:"kinds"`
	Ask   stored.KindQuestion `json:"ask"` // what leads to one of them
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
	Redo     bool                      `json:"redo,omitempty"`   // something that was taken back can be done again
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

// UndoRequest undoes the last change.
type UndoRequest struct {
	ID string `json:"id"`
	Of int64  `json:"of,omitempty"` // the entry of the history that is somebody else's, and is meant
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
	Back     bool   `json:"back,omitempty"` // it can be taken back
}

// ArchiveRequest puts a job away, or brings it back among those that are worked at.
type ArchiveRequest struct {
	ID       string `json:"id"`
	Seen     int64  `json:"seen"`
	Archived bool   `json:"archived"`
}

// CopyRequest makes a job of another, as the start of the next.
type CopyRequest struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// StandView is a job in one line: where it stands, and what is next.
type StandView struct {
	Revision  int64   `json:"revision"`
	Steps     int     `json:"steps"` // that are left
	Done      int     `json:"done"`
	Hours     float64 `json:"hours"` // that are left, at what was learned
	Danger    int     `json:"danger"`
	Wrong     int     `json:"wrong"`
	Open      int     `json:"open"` // before it is handed over
	Late      int     `json:"late"` // parts
	Ready     string  `json:"ready,omitempty"`
	Next      string  `json:"next,omitempty"`
	At        string  `json:"at,omitempty"` // where that is done
	Waits     string  `json:"waits,omitempty"`
	Delivered string  `json:"delivered,omitempty"`
	Last      string  `json:"last,omitempty"` // who changed something last
}
