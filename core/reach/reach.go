// Package reach says whether each wire reaches from where it begins to where it ends in the vehicle, and what is done
// where it does not.
//
// A person lays the vehicle out as stations and measured paths and puts things at stations. The shortest permitted way
// of each wire follows, and with stated allowances the length that it needs; beside the length that it has that gives a
// verdict: it reaches, it is trimmed, extended or replaced. From the verdicts come joints, spread along the bundle so
// that they do not stack, pieces from stock before anything is bought, and the work in its order. From the wires on
// each path come the bundle, what goes through a wall, and what ties one part of the vehicle to another.
//
// Lengths are mm, sections mm², currents A, temperatures °C. What the allowances and rates begin with is common
// practice of the trade, no source; each can be changed.
package reach

import (
	"draxel/core/harness"
	"draxel/core/route"
	"draxel/core/size"
	"draxel/core/stock"
)

// Run is a length of wire of the harness as it is to become, with where it is to land.
type Run struct {
	harness.Wire
	Alone   bool           // it is left to qualified hands: nothing is done to it
	New     bool           // there is none yet: it is cut from new wire
	Lands   [2]harness.Ref // where an end is to land, where that is not its own cavity
	Renewed [2]bool        // the end gets a new terminal or joint in any case
	Dead    [2]bool        // nothing is left for the end to go to
	Joint   [2]bool        // the end is cut and comes to a joint: a piece that lengthens it begins there
	Whole   [2]bool        // others are joined onto the wire at that end: it is not cut there
	// An end comes to a joint that lies on another wire, and loses what is cut off with its plug.
	Meets [2]Meet
	Lost  [2]float64 // mm
	Made  bool       // its ends are joined already: it is not lengthened any more
	After []string   // steps of other stages that come before it is cut
	CutAt int        // end, 1 or 2, at which it has been cut already, 0 where it has not
	Cut   float64    // mm of the piece that has been let in already, 0 where none has
}

// Meet is where an end is joined to another wire: so many mm along that wire from the cavity at which the end lands.
type Meet struct {
	With harness.WireID
	Back float64
}

// Input is what Compute works on.
type Input struct {
	Loom      *harness.Loom // connectors, devices, splices and branches; wires are Wires
	Wires     []Run
	Stock     []stock.Piece // wire that comes out of the harness
	Decisions Decisions
	Amps      map[harness.WireID]float64 // A by wire, as the network has it, the most that lasts; nil where there is none
	Fuses     map[harness.WireID]float64 // A by new wire, of the fuse before it: it is to carry as much
}

// Decisions are what a person measured and chose for this stage.
type Decisions struct {
	Map      route.Map
	Places   []route.Place
	Rules    Rules
	Wishes   []Wish
	Measured []Measured
	Options  []route.Option
	Leftover []Leftover
	Partings []Parting
}

// Wish is what a person decided about one wire.
type Wish struct {
	Wire  harness.WireID `json:"wire"`
	Avoid []string       `json:"avoid,omitempty"` // paths that it must not take
	Amps  float64        `json:"amps,omitempty"`  // A that it carries; 0: reckoned
	// mm² that it has at least where it is a new wire; 0: what its row has, else what its current asks for.
	Size   size.Section `json:"size,omitempty"`
	School School       `json:"school,omitempty"` // of its joints; empty: the job's, or what the place asks for
	Whole  bool         `json:"whole,omitempty"`  // replace it, do not joint it
	At     int          `json:"at,omitempty"`     // end at which it is cut: 1 or 2; 0: where it costs least
	Renew  bool         `json:"renew,omitempty"`  // that end gets a new terminal: one joint is enough
	// It is lengthened though it reaches, so that it can be terminated anew once more.
	Slack  bool   `json:"slack,omitempty"`
	Far    string `json:"far,omitempty"` // station of an end that nobody has followed
	Reason string `json:"reason,omitempty"`
	Who    string `json:"who,omitempty"`
	When   int64  `json:"when,omitempty"` // Unix milliseconds
}

// Measured is what somebody measured at a wire.
type Measured struct {
	Wire   harness.WireID `json:"wire"`
	Had    float64        `json:"had,omitempty"`    // mm of wire that there is
	Need   float64        `json:"need,omitempty"`   // mm along its way with a string, plug to plug, without allowances
	Spread float64        `json:"spread,omitempty"` // ± mm, 0: 10
	From   string         `json:"from,omitempty"`   // stations of its ends when it was measured
	To     string         `json:"to,omitempty"`
	Who    string         `json:"who,omitempty"`
	When   int64          `json:"when,omitempty"` // Unix milliseconds
}

// Leftover is what was cut off in the end because it was too long, 0 where it just reached, negative where it fell
// short.
type Leftover struct {
	ID   string         `json:"id"`
	Wire harness.WireID `json:"wire"`
	Left float64        `json:"left"` // mm
	Who  string         `json:"who,omitempty"`
	When int64          `json:"when,omitempty"` // Unix milliseconds
}

// Rules are how the person works: lengths in mm.
type Rules struct {
	Unit   string             `json:"unit,omitempty"` // device from which tape marks are measured; empty: the unit with most wires
	Roll   float64            `json:"roll"`           // where a wire crosses from what rolls with the engine
	End    float64            `json:"end"`            // at each end in a terminal, for one re-termination
	Drop   float64            `json:"drop"`           // at each end, from the bundle to the plug
	Lap    float64            `json:"lap"`            // of wire that a joint uses
	Stub   float64            `json:"stub"`           // from a plug to a joint, at least
	Apart  float64            `json:"apart"`          // between two joints of a bundle, at least
	Bulge  float64            `json:"bulge"`          // that a joint may thicken a bundle under its sleeve
	Excess float64            `json:"excess"`         // from which a wire is too long
	Least  float64            `json:"least"`          // shortest piece worth letting in
	Mostly float64            `json:"mostly"`         // how many times as long as the wire a piece may be, before a new wire is the better one; 0: however long
	School School             `json:"school"`
	Class  size.Class         `json:"class"`           // of the wires that are there, where nobody has said
	Margin float64            `json:"margin"`          // part that is bought in excess
	Volts  float64            `json:"volts"`           // of the vehicle
	Loss   float64            `json:"loss"`            // part of the volts that a feed of the engine may lose, there and back
	Rest   float64            `json:"rest"`            // part that any other feed may lose
	Guess  float64            `json:"guess,omitempty"` // mm for each wire that somebody guessed before there were paths
	Free   bool               `json:"free"`            // circuit by circuit: no gates between measuring, cutting and joining
	Rates  Rates              `json:"rates"`
	Plugs  map[string]float64 `json:"plugs,omitempty"` // mm across each housing, where somebody measured it
	Shelf  []stock.Piece      `json:"shelf,omitempty"` // reels and pieces that are there
}

// Rates are the minutes that each kind of work takes.
type Rates struct {
	Route   float64 `json:"route"` // per path
	Measure float64 `json:"measure"`
	Cut     float64 `json:"cut"`
	Solder  float64 `json:"solder"`
	Crimp   float64 `json:"crimp"`
	Cover   float64 `json:"cover"` // per metre
}

// Standard gives the rules that a job begins with: common practice, no source, but for the losses, 3 % for what is
// critical and 10 % for the rest, which are those of ABYC E-11 (from memory).
func Standard() Rules {
	return Rules{Roll: 60, End: 30, Drop: 80, Lap: 15, Stub: 60, Apart: 40, Bulge: 5, Excess: 250, Least: 60, Mostly: 3,
		School: Solder, Class: size.ClassB,
		Margin: 0.1, Volts: 12, Loss: 0.03, Rest: 0.1, Rates: Rates{Route: 6, Measure: 2, Cut: 2, Solder: 7, Crimp: 4,
			Cover: 10}}
}

// School is a way of making a joint.
type School string

// The schools.
const (
	NoSchool School = "" // nobody has said
	// solder and adhesive heat shrink: small, nothing to wrap around; not where the bundle flexes
	Solder    School = "solder"
	Crimp     School = "crimp" // a crimp with a sealed sleeve: fast, serviceable, takes heat and current
	BareCrimp School = "bare"  // an uninsulated crimp under adhesive heat shrink: small and quick
)

// Schools lists them.
func Schools() []School { return []School{Solder, Crimp, BareCrimp} }

// Parting is a disconnect that somebody has taken: the plugs that part what comes out with one service group from what
// stays with another.
type Parting struct {
	Between [2]string     `json:"between"`
	Plugs   []PartingPlug `json:"plugs"`
	Who     string        `json:"who,omitempty"`
	When    int64         `json:"when,omitempty"` // Unix milliseconds
}

// PartingPlug is a plug of a disconnect, or a row of studs. It has a half on either side.
type PartingPlug struct {
	ID    string  `json:"id"`    // D1
	Blade float64 `json:"blade"` // mm, width of the contact; 0: studs with ring terminals
	Ways  int     `json:"ways"`
}
