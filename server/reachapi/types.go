package reachapi

import (
	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pack"
	"draxel/core/proof"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/size"
	"draxel/core/stock"
	"draxel/core/work"
	"draxel/server/desk"
)

// ReachView is everything of Reach but the comparison of placements.
type ReachView struct {
	Revision    int64              `json:"revision"`
	Map         route.Map          `json:"map"`
	Things      []PlacedThing      `json:"things"` // what can be put somewhere
	Proposed    []route.Place      `json:"proposed"`
	Rules       reach.Rules        `json:"rules"`
	Lines       []reach.Line       `json:"lines"`
	Wires       []ReachWire        `json:"wires"` // as the lines
	Joints      []reach.Joint      `json:"joints"`
	Bundles     []reach.Bundle     `json:"bundles"`
	Walls       []reach.Wall       `json:"walls"`
	Disconnects []reach.Disconnect `json:"disconnects"`
	Apart       []reach.KeepApart  `json:"apart"`
	Tape        []reach.Mark       `json:"tape"`
	Unit        string             `json:"unit,omitempty"`
	Buy         []stock.BuyLine    `json:"buy"`
	Stock       stock.Allocation   `json:"stock"`
	Pieces      []stock.Piece      `json:"pieces"` // stock from the harness
	Colours     []stock.ColourLine `json:"colours"`
	Figures     reach.Figures      `json:"figures"`
	Learned     reach.Learned      `json:"learned"`
	Steps       []desk.WorkStep    `json:"steps"`
	Strays      []work.Tick        `json:"strays"`
	Proof       proof.Proof        `json:"proof"`
	Line        string             `json:"line"`
	Wishes      []reach.Wish       `json:"wishes"`
	Measured    []reach.Measured   `json:"measured"`
	Leftover    []reach.Leftover   `json:"leftover"`
	Findings    []finding.Finding  `json:"findings"`
}

// PlacedThing is a thing with its station.
type PlacedThing struct {
	Thing   route.Thing `json:"thing"`
	Station string      `json:"station,omitempty"`
	Own     bool        `json:"own,omitempty"` // it was put there itself, and is not there because of what it belongs to
	Wires   int         `json:"wires"`
	Reason  string      `json:"reason,omitempty"`
	Who     string      `json:"who,omitempty"`
	When    int64       `json:"when,omitempty"`
	With    string      `json:"with,omitempty"` // the device or branch that it belongs to
}

// ReachWire says which wire a line is about.
type ReachWire struct {
	Colour   colour.Colour  `json:"colour"`
	Size     size.Section   `json:"size,omitempty"`
	Circuit  string         `json:"circuit,omitempty"`
	Function string         `json:"function,omitempty"`
	Ends     [2]harness.End `json:"ends"`
	Lands    [2]harness.Ref `json:"lands"`
	Pair     string         `json:"pair,omitempty"`
	Shield   string         `json:"shield,omitempty"`
	New      bool           `json:"new,omitempty"` // there is none yet
}

// CompareView sets the ways to place things side by side.
type CompareView struct {
	Revision int64            `json:"revision"`
	Now      reach.Figures    `json:"now"`
	Options  []reach.Compared `json:"options"`
}

// PackView is the cross-section of a bundle.
type PackView struct {
	Path    string        `json:"path"`
	Circles []pack.Circle `json:"circles"` // none where there are too many to pack
	Floor   float64       `json:"floor"`   // mm: the smallest that was found, or the bound by area
	Packed  bool          `json:"packed"`  // it was packed, and is no mere bound
	Area    float64       `json:"area"`
	Laid    float64       `json:"laid"`
	Over    float64       `json:"over"`
}

// TemplateList lists the maps to start from.
type TemplateList struct {
	Templates []route.Template `json:"templates"`
	Classes   []ClassLine      `json:"classes"`
}

// ClassLine is a class of insulation.
type ClassLine struct {
	Class size.Class `json:"class"`
	Limit float64    `json:"limit"` // °C
}

// MapRequest lays the vehicle out.
type MapRequest struct {
	ID   string    `json:"id"`
	Seen int64     `json:"seen"`
	Map  route.Map `json:"map"`

	Renamed map[string]string `json:"renamed,omitempty"` // stations that got another name, by their old one: what is there goes with it
}

// RulesRequest sets how the person works in Reach.
type RulesRequest struct {
	ID    string      `json:"id"`
	Seen  int64       `json:"seen"`
	Rules reach.Rules `json:"rules"`
}

// PlacesRequest puts things at stations; an empty station takes them away.
type PlacesRequest struct {
	ID     string        `json:"id"`
	Seen   int64         `json:"seen"`
	Reason string        `json:"reason,omitempty"`
	Places []route.Place `json:"places"`
}

// SpanRequest decides about one wire; an empty wish takes back what was decided.
type SpanRequest struct {
	ID   string     `json:"id"`
	Seen int64      `json:"seen"`
	Wish reach.Wish `json:"wish"`
}

// LengthRequest keeps what was measured at a wire; without any length it takes it back.
type LengthRequest struct {
	ID     string         `json:"id"`
	Seen   int64          `json:"seen"`
	Wire   harness.WireID `json:"wire"`
	Had    float64        `json:"had,omitempty"`
	Need   float64        `json:"need,omitempty"`
	Spread float64        `json:"spread,omitempty"`
}

// OptionRequest keeps a way to place things; one without moves is taken away.
type OptionRequest struct {
	ID     string       `json:"id"`
	Seen   int64        `json:"seen"`
	Option route.Option `json:"option"`
}

// ChooseRequest chooses a way to place things, with the reason.
type ChooseRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Option string `json:"option"`
	Reason string `json:"reason"`
}

// PartingRequest takes the plugs that are offered for a disconnect, or takes them back.
type PartingRequest struct {
	ID      string    `json:"id"`
	Seen    int64     `json:"seen"`
	Between [2]string `json:"between"`
	Back    bool      `json:"back,omitempty"`
}

// LeftoverRequest logs what a wire left over.
type LeftoverRequest struct {
	ID   string         `json:"id"`
	Seen int64          `json:"seen"`
	Wire harness.WireID `json:"wire"`
	Left float64        `json:"left"` // mm, negative where it fell short
}
