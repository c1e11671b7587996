package gatherapi

import (
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/stored"
	"draxel/server/desk"
)

// GatherView is everything of Gather beside the pinout tables.
type GatherView struct {
	Revision   int64                `json:"revision"`
	Identity   gather.Identity      `json:"identity"`
	Choices    map[string][]string  `json:"choices"` // by property of the identity
	Open       []OpenItem           `json:"open"`
	Before     gather.Before        `json:"before"`
	Functions  []string             `json:"functions"` // that a baseline asks for
	Connectors []ConnectorLine      `json:"connectors"`
	Sheets     []desk.SheetLine     `json:"sheets"`
	Readings   []gather.Measurement `json:"readings"`
	KeyTable   []gather.KeyLine     `json:"keyTable"`
	Traces     []gather.Trace       `json:"traces"`
	Beliefs    []gather.Belief      `json:"beliefs"`
	Queue      []gather.Unnamed     `json:"queue"`
	Photos     []stored.Photo       `json:"photos"`
	Findings   []finding.Finding    `json:"findings"`
}

// fill gives empty lists instead of none.
func (v *GatherView) fill() {
	if v.Readings == nil {
		v.Readings = []gather.Measurement{}
	}
	if v.Traces == nil {
		v.Traces = []gather.Trace{}
	}
	if v.Beliefs == nil {
		v.Beliefs = []gather.Belief{}
	}
	if v.Photos == nil {
		v.Photos = []stored.Photo{}
	}
}

// OpenItem is something that a change of the job brings with it, and whether it is seen to.
type OpenItem struct {
	gather.OpenItem
	Done bool `json:"done"`
}

// ConnectorLine is a connector with what was noted at it.
type ConnectorLine struct {
	ID      string        `json:"id"`
	Device  string        `json:"device,omitempty"`
	Branch  string        `json:"branch,omitempty"`
	Wires   int           `json:"wires"`
	Locked  bool          `json:"locked,omitempty"`
	Looked  gather.Looked `json:"looked"`
	Replace []string      `json:"replace,omitempty"`
	Photos  int           `json:"photos"`
}

// SheetView is a list of the structure.
type SheetView struct {
	Revision int64               `json:"revision"`
	Source   string              `json:"source,omitempty"`
	Fields   []gather.Field      `json:"fields"`
	Reading  gather.SheetReading `json:"reading"`
}

// SheetPreview is a list as it would be read, before it is kept.
type SheetPreview struct {
	Fields   []gather.Field `json:"fields"`
	Columns  []string       `json:"columns"` // by column: the field's name, empty for one that is passed over
	Sample   [][]string     `json:"sample"`
	Rows     int            `json:"rows"`
	Rejected int            `json:"rejected"`
	Problem  string         `json:"problem,omitempty"`
}

// SheetEditRequest puts cells right, adds lines below, and strikes lines out.
type SheetEditRequest struct {
	ID    string            `json:"id"`
	Seen  int64             `json:"seen"`
	Edits []gather.CellEdit `json:"edits"`
	Gone  []int             `json:"gone,omitempty"`
}

// IdentityRequest sets what is known of the vehicles and the unit.
type IdentityRequest struct {
	ID       string          `json:"id"`
	Seen     int64           `json:"seen"`
	Identity gather.Identity `json:"identity"`
}

// ItemsRequest says which open items are seen to.
type ItemsRequest struct {
	ID    string          `json:"id"`
	Seen  int64           `json:"seen"`
	Items map[string]bool `json:"items"`
}

// BeforeRequest sets what was noted before anything was taken apart.
type BeforeRequest struct {
	ID     string        `json:"id"`
	Seen   int64         `json:"seen"`
	Before gather.Before `json:"before"`
}

// LookedRequest sets what was noted at a connector.
type LookedRequest struct {
	ID     string        `json:"id"`
	Seen   int64         `json:"seen"`
	Looked gather.Looked `json:"looked"`
}

// ReadingRequest adds a reading.
type ReadingRequest struct {
	ID      string             `json:"id"`
	Seen    int64              `json:"seen"`
	Reading gather.Measurement `json:"reading"`
}

// TraceRequest adds a trace.
type TraceRequest struct {
	ID    string       `json:"id"`
	Seen  int64        `json:"seen"`
	Trace gather.Trace `json:"trace"`
}

// DropRequest takes a fact back.
type DropRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
}

// EarlierRequest brings an earlier job's decisions.
type EarlierRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
	Job  string `json:"job"`
}

// PhotoMeta is what comes with a photograph. Its id is the change's too.
type PhotoMeta struct {
	ID        string `json:"id"`
	Seen      int64  `json:"seen"`
	Connector string `json:"connector"`
	Note      string `json:"note,omitempty"`
}

// TableView is a table with its reading.
type TableView struct {
	Meta     desk.TableMeta `json:"meta"`
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
	Meta    desk.TableMeta `json:"meta"`
	Options gather.Options `json:"options"`
}
