package server

import (
	"draxel/core/harness"
	"draxel/core/prove"
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
	Positions []string          `json:"positions"`
	Mended    []prove.Mend      `json:"mended"`
	Faces     map[string]Face   `json:"faces"` // of the plugs that are measured at
	Wires     []CavityWire      `json:"wires"`
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
	Do          []string `json:"do"`
}

// ReadingProvedRequest keeps what a meter showed; with out it takes a reading back.
type ReadingProvedRequest struct {
	ID      string             `json:"id"`
	Seen    int64              `json:"seen"`
	Reading prove.MeterReading `json:"reading,omitzero"`
	Out     string             `json:"out,omitempty"`
}

// GateRequest passes a gate of powering up, or opens it again.
type GateRequest struct {
	ID     string   `json:"id"`
	Seen   int64    `json:"seen"`
	Gate   string   `json:"gate"`
	Value  *float64 `json:"value,omitempty"`
	Reason string   `json:"reason,omitempty"`
	Back   bool     `json:"back,omitempty"`
}

// MendRequest notes that a fault was found and put right.
type MendRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
	Text string `json:"text"`
	Did  string `json:"did,omitempty"`
}

// MeterRequest asks a meter at an address for what it shows.
type MeterRequest struct {
	Address string        `json:"address"`
	Measure prove.Measure `json:"measure"`
}
