// Package diagram lays out a circuit as a drawing: geometry and nothing else.
//
// A Graph is symbols with rows of ports on their two sides, and wires from port to port. Layout puts the symbols into
// columns from left to right, after Sugiyama, Tagawa and Toda ("Methods for visual understanding of hierarchical
// system structures", IEEE Transactions on Systems, Man and Cybernetics 11, 1981): ranks by longest path, order in
// each column by medians with exchanges of neighbours, then places. A wire runs level from its port through a zone in
// which its words stand, then in a channel up or down a track of its own, then level into its port; where it passes a
// column it has a row of its own there. So no wire goes through a symbol and no word lies on another, whatever the
// graph: the test measures it. All lengths are mm, all text is measured by the font's own widths, which are passed
// in. The same graph gives the same drawing.
package diagram

import "draxel/core/colour"

// Kind is what a symbol is.
type Kind string

// The kinds of symbols.
const (
	Box    Kind = "box"    // a device: its ports at both sides
	Fuse   Kind = "fuse"   // one row
	Relay  Kind = "relay"  // coil and contacts, by the names of its ports
	Splice Kind = "splice" // as found: a dot
	Joint  Kind = "joint"  // made by us: a diamond
	Plug   Kind = "plug"   // an in-line pair, or a bulkhead: two halves
	Ground Kind = "ground" // a ground point
	Stub   Kind = "stub"   // an end that is cut, capped or parked
)

// Port is where a wire comes to a symbol.
type Port struct {
	Name string `json:"name"` // beside the port, inside of the symbol
}

// Symbol is a symbol with its words.
type Symbol struct {
	ID    string   `json:"id"`
	Kind  Kind     `json:"kind"`
	Title string   `json:"title"`
	Under []string `json:"under,omitempty"` // further words, a line each
	// A symbol that feeds stands in the first column, one that is fed by all in the last: −1 first, 1 last, 0 by
	// its wires.
	Place int `json:"place,omitempty"`
}

// End is an end of a wire: a port of a symbol, made where it is first named.
type End struct {
	Symbol string `json:"symbol"`
	Port   string `json:"port,omitempty"` // its name
}

// Line is a wire from the left, or the source, to the right.
type Line struct {
	ID      string        `json:"id"`
	From    End           `json:"from"`
	To      End           `json:"to"`
	Above   string        `json:"above"`             // colour and size
	Below   string        `json:"below"`             // length, circuit
	Colours []colour.Code `json:"colours,omitempty"` // IEC 60757: base, tracer
	Dotted  bool          `json:"dotted,omitempty"`  // dead, or planned and not done
}

// Graph is what is drawn.
type Graph struct {
	Symbols []Symbol `json:"symbols"`
	Wires   []Line   `json:"wires"`
}

// Measure gives the width of a text in mm at a size of letters in mm; bold where it is a name.
type Measure func(text string, size float64, bold bool) float64

// Sizes of what is drawn, mm.
const (
	Letter   = 2.5  // of titles and of what stands at wires
	Small    = 2.1  // of what stands below
	Pitch    = 8.0  // between rows
	Track    = 3.2  // between wires side by side in a channel
	gap      = 4.0  // between symbols of a column, beside their rows
	pad      = 2.0  // beside words in a symbol
	lead     = 3.0  // a wire runs level before and behind its words
	line     = 3.0  // between lines of words
	least    = 14.0 // width of a symbol
	dotWide  = 5.0  // width of a splice, a joint, a plug
	fuseWide = 12.0
)

// Point is a place on the sheet, from its upper left.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Placed is a symbol in its place.
type Placed struct {
	Symbol
	X     float64      `json:"x"` // upper left
	Y     float64      `json:"y"`
	Wide  float64      `json:"wide"`
	High  float64      `json:"high"`
	Ports []PlacedPort `json:"ports"`
}

// PlacedPort is a port in its place, at the edge of its symbol.
type PlacedPort struct {
	Name  string `json:"name"`
	Right bool   `json:"right"`
	At    Point  `json:"at"`
}

// Run is a wire on its way: level and upright pieces.
type Run struct {
	Line
	Points []Point `json:"points"`
}

// Text is words in their place: their lower left, and the room that they take.
type Text struct {
	Words string  `json:"words"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"` // base line
	Size  float64 `json:"size"`
	Wide  float64 `json:"wide"`
	Bold  bool    `json:"bold,omitempty"`
	Quiet bool    `json:"quiet,omitempty"`
}

// Drawing is a graph that is laid out.
type Drawing struct {
	Wide    float64  `json:"wide"`
	High    float64  `json:"high"`
	Symbols []Placed `json:"symbols"`
	Runs    []Run    `json:"runs"`
	Texts   []Text   `json:"texts"`
}
