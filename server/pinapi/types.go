package pinapi

import (
	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/proof"
	"draxel/core/repin"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/server/desk"
)

// PinView is the re-pin sheet: what is done, what is left, and what goes with it.
type PinView struct {
	Revision    int64                `json:"revision"`
	Hash        string               `json:"hash"`
	Moves       bool                 `json:"moves"` // this kind of job moves terminals
	Done        []work.Tick          `json:"done"`
	Steps       []repin.Step         `json:"steps"` // what is left
	Proof       proof.Proof          `json:"proof"`
	Line        string               `json:"line"`           // the proof in one sentence
	Figures     string               `json:"figures"`        // what it costs, in one sentence
	Open        string               `json:"open,omitempty"` // what the sheet leaves out
	Limit       int                  `json:"limit"`          // terminals that may be in hand
	Hand        []string             `json:"hand"`           // labels of those that are
	Housings    []harness.Connector  `json:"housings"`
	Faces       map[string]desk.Face `json:"faces"`
	Wires       []desk.CavityWire    `json:"wires"` // what is in the cavities now
	Orders      []pin.Order          `json:"orders"`
	Spares      []pin.Spare          `json:"spares"`
	Adaptations []pin.Adaptation     `json:"adaptations"`
	Joints      []wanted.Joined      `json:"joints"`
	Settings    []string             `json:"settings"`
	Outputs     []repin.Output       `json:"outputs"`
	Reports     []pin.Report         `json:"reports"`
	Totals      match.Totals         `json:"totals"`
	Bench       thin.Bench           `json:"bench"` // how this job is worked
	Findings    []finding.Finding    `json:"findings"`
}

// OtherwiseRequest records what a person did that the plan did not say: the terminal in a cavity, or one in hand by its
// label, went elsewhere.
type OtherwiseRequest struct {
	ID    string      `json:"id"`
	Seen  int64       `json:"seen"`
	At    harness.Ref `json:"at,omitzero"`     // the cavity that it left
	Label string      `json:"label,omitempty"` // or, of one in hand, its label
	To    harness.Ref `json:"to,omitzero"`     // the cavity that it is in now; none: it is in hand
	Off   bool        `json:"off,omitempty"`   // it is sealed off
}

// ReportRequest says what was not as expected at the bench.
type ReportRequest struct {
	ID   string      `json:"id"`
	Seen int64       `json:"seen"`
	What pin.What    `json:"what"`
	At   harness.Ref `json:"at"`
	Saw  string      `json:"saw,omitempty"`
}

// SettleRequest says how a report was settled.
type SettleRequest struct {
	ID      string `json:"id"`
	Seen    int64  `json:"seen"`
	Settled string `json:"settled"`
}

// WishRequest wishes one step before another; without the other it takes the wish back.
type WishRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
	Step string `json:"step"`
	Then string `json:"then,omitempty"`
}

// ExchangeRequest exchanges two outputs of the unit; without the other it takes the exchange back.
type ExchangeRequest struct {
	ID     string      `json:"id"`
	Seen   int64       `json:"seen"`
	A      harness.Ref `json:"a"`
	B      harness.Ref `json:"b,omitzero"`
	Reason string      `json:"reason,omitempty"`
}

// HaveRequest says which parts and tools are there.
type HaveRequest struct {
	ID   string          `json:"id"`
	Seen int64           `json:"seen"`
	Have map[string]bool `json:"have"`
}

// FaceRequest says what a connector's face is like: in words, or the whole layout; neither takes it back.
type FaceRequest struct {
	ID     string       `json:"id"`
	Seen   int64        `json:"seen"`
	Words  string       `json:"words,omitempty"`
	Layout *face.Layout `json:"layout,omitempty"`
	Mate   bool         `json:"mate,omitempty"` // as the other half of its in-line pair wants it
}

// FacesView lists all connectors that can have a face: those of the sheet, and the others of the harness.
type FacesView struct {
	Revision   int64                `json:"revision"`
	Connectors []harness.Connector  `json:"connectors"`
	Faces      map[string]desk.Face `json:"faces"`
	Mates      map[string]string    `json:"mates"` // by connector: the other half, where its face is known
}

// FacePreview is a face as it was read from words.
type FacePreview struct {
	Layout face.Layout `json:"layout"`
	Face   desk.Face   `json:"face"`
	Ways   int         `json:"ways"`
}

// LibraryView lists the generic faces, and the contact widths in mm that terminals are known for.
type LibraryView struct {
	Faces  []FacePreview `json:"faces"`
	Blades []float64     `json:"blades"`
}

// CheckView is what a second check goes by: what each cavity must hold, and what was found. The first person's ticks
// are not in it.
type CheckView struct {
	Revision int64                `json:"revision"`
	Expected []pin.Expected       `json:"expected"`
	Checks   []pin.Check          `json:"checks"`
	Faces    map[string]desk.Face `json:"faces"`
	Left     int                  `json:"left"` // steps that are not done yet
}

// CheckRequest says what a second check found in a cavity; without a verdict it takes the check back.
type CheckRequest struct {
	ID   string      `json:"id"`
	Seen int64       `json:"seen"`
	At   harness.Ref `json:"at"`
	OK   bool        `json:"ok"`
	Saw  string      `json:"saw,omitempty"`
	Drop bool        `json:"drop,omitempty"`
}

// BenchView is what the bench works through: the steps of a stage, or of all of them in one order.
type BenchView struct {
	Revision int64                `json:"revision"`
	Title    string               `json:"title"`
	Stage    string               `json:"stage"`
	Done     []BenchDone          `json:"done"`
	Steps    []desk.WorkStep      `json:"steps"` // what is left, in its order
	Hand     []string             `json:"hand"`
	Faces    map[string]desk.Face `json:"faces"`
	Wires    []desk.CavityWire    `json:"wires"` // what is in the cavities now
	Line     string               `json:"line"`
	Proven   bool                 `json:"proven"`
}

// BenchDone is a step that was done: what it was ticked as.
type BenchDone struct {
	Step string `json:"step"`
	Text string `json:"text"`
	Who  string `json:"who,omitempty"`
	When int64  `json:"when,omitempty"`
}
