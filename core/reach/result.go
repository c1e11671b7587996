package reach

import (
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
	"draxel/core/size"
	"draxel/core/stock"
	"draxel/core/work"
)

// Bundle is what lies along one path.
type Bundle struct {
	Path  string           `json:"path"`
	Wires []harness.WireID `json:"wires"`
	// Mm: outside diameters, a shielded lead as one, the thickest first.
	Round   []float64 `json:"round"`
	Area    float64   `json:"area"`              // mm: no bundle of these can be thinner, √Σd²
	Laid    float64   `json:"laid"`              // mm: as hands lay it, 1.2 × √Σd², but two wires lie side by side
	Over    float64   `json:"over"`              // mm: with its cover
	Assumed int       `json:"assumed,omitempty"` // wires of unknown size, taken for 0.5 mm²
	Loaded  int       `json:"loaded"`            // wires that carry 1 A or more
}

// Wall is where a bundle goes through a wall.
type Wall struct {
	Path    string   `json:"path"`
	Wires   int      `json:"wires"`
	Over    float64  `json:"over"`             // mm, the bundle with its cover
	Plugs   []Plug   `json:"plugs,omitempty"`  // that are passed through, the largest first
	After   []Plug   `json:"after,omitempty"`  // that are fitted afterwards, or are on the other side
	Hole    float64  `json:"hole"`             // mm
	Saved   float64  `json:"saved,omitempty"`  // mm of hole saved by fitting the housings afterwards
	From    string   `json:"from,omitempty"`   // the station from which the plugs that are passed are fed
	Caution []string `json:"caution"`          //
	Loose   int      `json:"loose,omitempty"`  // wires that end at splices beyond it: they go through last
	Edge    bool     `json:"edge,omitempty"`   // a raw edge
	Joints  int      `json:"joints,omitempty"` // found in the grommet: there must be none
}

// Plug is a housing with its size.
type Plug struct {
	Connector string  `json:"connector"`
	Ways      int     `json:"ways"`
	Across    float64 `json:"across"`            // mm, at its widest
	Guessed   bool    `json:"guessed,omitempty"` // from its ways: measure it
}

// KeepApart is a path on which cables that disturb lie with wires that are disturbed.
type KeepApart struct {
	Path   string   `json:"path"`
	Length float64  `json:"length"` // mm
	Strong []string `json:"strong"` // starter, alternator, coil and motor cables
	Weak   []string `json:"weak"`   // crank, cam, knock and bus
}

// Figures are what one way to place things comes to.
type Figures struct {
	Wires       int       `json:"wires"`    // with a way
	Crossing    int       `json:"crossing"` // that go through a wall
	Extend      int       `json:"extend"`
	Replace     int       `json:"replace"`
	Fresh       int       `json:"fresh"`
	Trim        int       `json:"trim"`
	Unknown     int       `json:"unknown"`     // to be measured
	NoWay       int       `json:"noWay"`       // without a way or a place
	Provisional int       `json:"provisional"` // that wait for a mechanical part
	Short       float64   `json:"short"`       // wires that fall short as chance will have it, of those that reach
	New         float64   `json:"new"`         // mm of new wire
	Buy         float64   `json:"buy"`         // mm to be bought, with margin
	Stock       float64   `json:"stock"`       // mm from stock
	Joints      int       `json:"joints"`
	Troubled    int       `json:"troubled"` // joints that could not be kept clear
	Heaviest    string    `json:"heaviest,omitempty"`
	Thick       float64   `json:"thick"` // mm, of the heaviest bundle with its cover
	Hole        float64   `json:"hole"`  // mm, the largest
	Worst       []Dropped `json:"worst"` // the feeds that lose most
	Hours       float64   `json:"hours"`
	Guessed     float64   `json:"guessed,omitempty"` // mm, where somebody guessed a length for each wire
}

// Dropped is what a feed loses along its way.
type Dropped struct {
	Wire  harness.WireID `json:"wire"`
	Amps  float64        `json:"amps"`
	Volts float64        `json:"volts"`
	Part  float64        `json:"part"` // of the vehicle's voltage
	AsIs  float64        `json:"asIs"` // volts that it would lose in the size that it has
}

// Disconnect is what runs between two service groups: what comes out with the one must come apart from the other.
type Disconnect struct {
	Between [2]string        `json:"between"`
	Wires   []harness.WireID `json:"wires"`             // all that run from one group to the other
	Parted  []harness.WireID `json:"parted"`            // of them, those that end in an in-line plug: they come apart
	Ties    []harness.WireID `json:"ties"`              // those that would tie the one to the other
	Where   string           `json:"where,omitempty"`   // the path on which most of the ties cross
	Plugs   []ContactPlug    `json:"plugs"`             // what would part the ties
	Shields []string         `json:"shields,omitempty"` // leads whose cores and shield must stay together in one plug
	Pairs   []string         `json:"pairs,omitempty"`   // pairs that must sit in neighbouring cavities

	Taken    []PartingPlug `json:"taken,omitempty"`    // the plugs that somebody has taken for it
	Cavities []PartedWire  `json:"cavities,omitempty"` // where each wire is parted
	Parts    []string      `json:"parts,omitempty"`    // what has to be there

	blade map[harness.WireID]float64 // by tie: the contact that it needs, 0: a stud
}

// ContactPlug is a choice from the generic sealed multi-way families.
type ContactPlug struct {
	Blade  float64          `json:"blade"` // mm, width of the contact; 0: a stud with ring terminals
	Wires  []harness.WireID `json:"wires"`
	Ways   []int            `json:"ways"`            // of each plug
	Spare  int              `json:"spare"`           // ways that stay free
	Amps   float64          `json:"amps"`            // A, the most on one contact
	Limit  float64          `json:"limit"`           // A that one contact carries
	Thick  size.Section     `json:"thick,omitempty"` // the thickest of the wires
	Reason string           `json:"reason"`
}

// Joint is a joint to be made.
type Joint struct {
	ID   harness.JointID `json:"id"`
	Wire harness.WireID  `json:"wire"`
	Path string          `json:"path,omitempty"` // where it lies; empty in the tail of a plug
	From string          `json:"from"`           // the station or plug that At is measured from
	At   float64         `json:"at"`             // mm
	// Mm from the end that is lengthened, when the joints have taken their laps.
	Along    float64  `json:"along"`
	School   School   `json:"school"`
	Why      string   `json:"why"`
	Cautions []string `json:"cautions,omitempty"`
	Thick    float64  `json:"thick"`             // mm, the bundle's diameter at the joint
	Trouble  string   `json:"trouble,omitempty"` // why it could not be kept clear
}

// Learned is what the log of leftovers says of the allowances.
type Learned struct {
	Count  int     `json:"count"`
	Mean   float64 `json:"mean"`             // mm left over
	Spread float64 `json:"spread"`           // mm, standard deviation
	Less   float64 `json:"less"`             // mm by which the allowance at each end may shrink, negative: must grow
	Ready  bool    `json:"ready,omitempty"`  // enough was logged to go by
	Why    string  `json:"why,omitempty"`    // the working
	Source string  `json:"source,omitempty"` // of the rule
}

// PartedWire says in which cavity of which plug a wire is parted.
type PartedWire struct {
	Wire   harness.WireID `json:"wire"`
	Plug   string         `json:"plug"`
	Cavity string         `json:"cavity"`
	At     string         `json:"at"` // station
}

// Step is one thing to do so that the wires reach.
type Step = work.Step

// Verdict says what becomes of a wire for its length.
type Verdict string

// The verdicts.
const (
	Reaches Verdict = "reaches"
	Trim    Verdict = "trim"
	Extend  Verdict = "extend"
	Replace Verdict = "replace"
	Fresh   Verdict = "new"      // cut from new wire
	Measure Verdict = "measure"  // nobody knows how long it is
	NoWay   Verdict = "no way"   // no permitted path leads from one end to the other
	Adrift  Verdict = "no place" // an end has no station
	Loose   Verdict = "no end"   // an end goes nowhere, or nobody has followed it
)

// Verdicts lists them in the order in which a cut list shows their counts.
func Verdicts() []Verdict {
	return []Verdict{Reaches, Trim, Extend, Replace, Fresh, Measure, NoWay, Adrift, Loose}
}

// Term is a part of a length with its reason.
type Term struct {
	What string  `json:"what"`
	MM   float64 `json:"mm"`
}

// Mark is a tape mark on a wire.
type Mark struct {
	Station string  `json:"station"`
	At      float64 `json:"at"` // mm from the control unit, or from the wire's first end where it does not begin there
}

// Line is a line of the cut list: one wire. Ends, stations and marks go from its first end to its second.
type Line struct {
	Wire      harness.WireID    `json:"wire"`
	Verdict   Verdict           `json:"verdict"`
	By        float64           `json:"by,omitempty"` // mm to trim, to let in or to cut new
	Stations  []string          `json:"stations,omitempty"`
	Paths     []string          `json:"paths,omitempty"`
	Need      float64           `json:"need,omitempty"` // mm, with the allowances
	Terms     []Term            `json:"terms,omitempty"`
	Spread    float64           `json:"spread,omitempty"` // ± mm of need and had together
	Had       float64           `json:"had,omitempty"`    // mm, 0 where nobody knows
	HadBy     string            `json:"hadBy,omitempty"`
	Short     float64           `json:"short,omitempty"`   // chance that it cannot be plugged in at both ends, 0 to 1
	NoSlack   bool              `json:"noSlack,omitempty"` // it reaches, and nothing is left for a later re-termination
	Waits     []string          `json:"waits,omitempty"`   // mechanical parts for which its length waits
	Stale     bool              `json:"stale,omitempty"`   // something was measured or cut for another place
	Marks     []Mark            `json:"marks,omitempty"`
	FromUnit  bool              `json:"fromUnit,omitempty"` // its marks are measured from the control unit
	Air       float64           `json:"air,omitempty"`      // °C, hottest of its way
	Class     size.Class        `json:"class,omitempty"`    // that a new piece needs at least
	Amps      float64           `json:"amps,omitempty"`     // A
	AmpsBy    string            `json:"ampsBy,omitempty"`
	Fuse      float64           `json:"fuse,omitempty"`  // A of the fuse before a new wire
	Volts     float64           `json:"volts,omitempty"` // lost along it at that current
	Size      size.Section      `json:"size,omitempty"`  // that it should have
	At        int               `json:"at,omitempty"`    // end at which it is lengthened, 1 or 2
	Joints    int               `json:"joints,omitempty"`
	Provision []stock.Provision `json:"provision,omitempty"` // what the new piece is cut from
	Code      string            `json:"code,omitempty"`      // printed at both ends where colour does not tell
	Why       []finding.Reason  `json:"why,omitempty"`
	wire      int
	route     route.Route
	ok        bool // it has a route
	bare      float64
	back      float64 // mm from its end at which it is cut, where a piece is let in
	elsewhere bool    // its way was measured between other stations
	Unsized   bool    `json:"unsized,omitempty"` // it is new, and nothing says how thick it is to be
	summed    bool    // its current is a sum of what is usual, and no more than a hint
}

// Result is what follows.
type Result struct {
	Lines       []Line // as the wires
	Joints      []Joint
	Bundles     []Bundle // of the usable paths
	Walls       []Wall
	Disconnects []Disconnect
	Tape        []Mark // each station's distance from the control unit
	Unit        string // the device that tape marks are measured from
	Buy         []stock.BuyLine
	Stock       stock.Allocation
	Colours     []stock.ColourLine
	Kept        []KeepApart
	Figures     Figures
	Learned     Learned
	Placed      map[route.Thing]string // station of every device, connector, splice and branch that has one
	Unplaced    []route.Thing          // what wires end at and nobody has put anywhere
	unplaced    map[route.Thing]bool
	relief      []string // wires that replaced whole would leave room for the joints of the rest
	Steps       []Step
	Findings    []finding.Finding
	in          *Input
	router      *route.Router
	wires       map[harness.WireID]int
	on          [][]int      // by path: the lines that run along it
	offered     []Disconnect // as they are before any is taken
	loaded      []int        // by path: the wires that warm each other
}

// Wires gives the wires that the lines are about, in their order.
func (r *Result) Wires() []Run { return r.in.Wires }

// Pieces gives the wire that comes out of the harness and is stock here.
func (r *Result) Pieces() []stock.Piece { return r.in.Stock }

// PieceFor gives the piece of stock that a wire's new length is cut from, empty where it is bought.
func (r *Result) PieceFor(wire harness.WireID) string {
	if i, known := r.wires[wire]; known && len(r.Lines[i].Provision) > 0 {
		return r.Lines[i].Provision[0].From
	}
	return ""
}
