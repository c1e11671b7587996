// Package harness is the model of a harness: the pinout tables it was learned from, and the thing itself, connectors
// with cavities and the terminals in them, which edits change one at a time.
//
// A Harness is a value. Apply gives a new one and refuses what hands could not do: a terminal pulled from a cavity it
// is not in, two terminals in one cavity, a plug pushed into a full one.
package harness

import (
	"slices"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/terminal"
)

// Ref names a cavity within one harness: the connector's id, fixed at import, and the cavity's name as moulded.
type Ref struct {
	Connector string `json:"connector"`
	Cavity    string `json:"cavity"`
}

// String writes the cavity as people do: A14, or C1-20 where the connector's name ends in a digit or the cavity is
// lettered.
func (r Ref) String() string {
	if r.Connector == "" {
		return r.Cavity
	}
	last := r.Connector[len(r.Connector)-1]
	if len(r.Connector) > 2 || last >= '0' && last <= '9' || r.Cavity == "" || r.Cavity[0] < '0' || r.Cavity[0] > '9' {
		return r.Connector + "-" + r.Cavity
	}
	return r.Connector + r.Cavity
}

// Row is one line of a pinout: one cavity and what its wire is said to be.
type Row struct {
	Ref Ref `json:"ref"`
	Conductor
	SizeText string `json:"sizeText,omitempty"`
	FarEnd   string `json:"farEnd,omitempty"`
	Note     string `json:"note,omitempty"`
	Empty    bool   `json:"empty,omitempty"`    // a cavity that is said to hold no wire
	Measured string `json:"measured,omitempty"` // what readings say it is, where they say otherwise than the table
	Line     int    `json:"line"`               // where in the imported table it stood, from 1
	// The further pinout that it stood in, and how far that is to be believed; empty where it is its side's own.
	Table string `json:"table,omitempty"`
	Trust Trust  `json:"trust,omitempty"`
}

// Trust is how far a table is to be believed.
type Trust string

// Where a table comes from.
const (
	Maker    Trust = "maker"    // the maker's own literature
	Copied   Trust = "copied"   // copied out, forwarded, found
	Earlier  Trust = "earlier"  // an earlier job's map
	Measured Trust = "measured" // traced or measured on this harness
)

// Verified says whether a power or ground that only this table knows may be relied on.
func (t Trust) Verified() bool { return t == Maker || t == Measured }

// Pinout is one side of a job: its connectors and rows, with where they come from.
type Pinout struct {
	Name       string       `json:"name"`
	Source     string       `json:"source,omitempty"`
	Date       string       `json:"date,omitempty"` // ISO, as stated by the person
	Trust      Trust        `json:"trust"`
	Habit      colour.Habit `json:"habit,omitempty"`
	OneScheme  bool         `json:"-"` // somebody said that its circuit numbers are those of the other pinout too
	Connectors []Connector  `json:"connectors"`
	Rows       []Row        `json:"rows"`

	found *findable
}

// Connector gives the connector with the id, and false when there is none.
func (p Pinout) Connector(id string) (Connector, bool) {
	if x := p.found; x != nil && len(p.Connectors) > 0 && x.connectors == &p.Connectors[0] &&
		x.ways == len(p.Connectors) {
		i, there := x.connector[id]
		if !there {
			return Connector{}, false
		}
		return p.Connectors[i], true
	}
	for i := range p.Connectors {
		if p.Connectors[i].ID == id {
			return p.Connectors[i], true
		}
	}
	return Connector{}, false
}

// Row gives the row of a cavity, and false when there is none.
func (p Pinout) Row(at Ref) (Row, bool) {
	if x := p.found; x != nil && len(p.Rows) > 0 && x.rows == &p.Rows[0] && x.lines == len(p.Rows) {
		i, there := x.row[at]
		if !there {
			return Row{}, false
		}
		return p.Rows[i], true
	}
	for i := range p.Rows {
		if p.Rows[i].Ref == at {
			return p.Rows[i], true
		}
	}
	return Row{}, false
}

// findable is where connectors and rows stand in a pinout that is not changed any more. A pinout that is made from it
// with other connectors or rows is looked through from the beginning.
type findable struct {
	connectors  *Connector
	rows        *Row
	ways, lines int
	connector   map[string]int
	row         map[Ref]int
}

// Findable gives the pinout in a form in which its rows and connectors are found at once. Their names must not be
// changed in place after it.
func (p Pinout) Findable() Pinout {
	x := &findable{ways: len(p.Connectors), lines: len(p.Rows), connector: make(map[string]int, len(p.Connectors)),
		row: make(map[Ref]int, len(p.Rows))}
	if x.ways > 0 {
		x.connectors = &p.Connectors[0]
	}
	if x.lines > 0 {
		x.rows = &p.Rows[0]
	}
	for i := len(p.Connectors) - 1; i >= 0; i-- { // the first of a name holds
		x.connector[p.Connectors[i].ID] = i
	}
	for i := len(p.Rows) - 1; i >= 0; i-- {
		x.row[p.Rows[i].Ref] = i
	}
	p.found = x
	return p
}

// Connector is a housing: its cavities in the order they are numbered, and how they lie.
type Connector struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	Cavities []string     `json:"cavities"` // names in order of numbering
	Rows     int          `json:"rows"`     // how many rows they lie in, where no layout says so
	First    face.Corner  `json:"first"`    // where the first lies, seen from the wire side with the lock up
	Assumed  bool         `json:"assumed"`  // the rows are a guess until somebody has looked at the housing
	Layout   *face.Layout `json:"layout,omitempty"`
	Origin   string       `json:"origin,omitempty"` // the vehicle or part that it comes from, as Vehicles names it
}

// Ways is the number of cavities.
func (c Connector) Ways() int { return len(c.Cavities) }

// Has says whether the connector has a cavity of that name.
func (c Connector) Has(cavity string) bool { return slices.Contains(c.Cavities, cavity) }

// Shape gives the connector's face: its layout, else its cavities in even rows.
func (c Connector) Shape() face.Layout {
	if c.Layout != nil {
		return *c.Layout
	}
	return face.Even(c.Cavities, c.Rows, c.First)
}

// Seat gives what a cavity takes; the zero seat where nobody has said.
func (c Connector) Seat(cavity string) terminal.Seat {
	seat, _ := c.Shape().Seat(cavity)
	return seat
}

// Laid gives the connector with a layout that somebody made of it. Cavities that a table has and the layout has not are
// kept: a fact is not lost because another is missing.
func (c Connector) Laid(l *face.Layout) Connector {
	names := l.Names()
	for _, n := range c.Cavities {
		if !slices.Contains(names, n) {
			names = append(names, n)
		}
	}
	c.Cavities, c.Layout, c.Rows, c.Assumed = names, l, len(l.Rows), false
	return c
}

// Numbered gives cavity names 1 to ways.
func Numbered(ways int) []string { return face.Numbers.Names(ways, 0) }
