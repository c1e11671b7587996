// Package harness is the model of a harness: the pinout tables it was learned from, and the thing itself, connectors
// with cavities and the terminals in them, which edits change one at a time.
//
// A Harness is a value. Apply gives a new one and refuses what hands could not do: a terminal pulled from a cavity it
// is not in, two terminals in one cavity, a plug pushed into a full one.
package harness

import (
	"strconv"
	"strings"

	"draxel/core/colour"
	"draxel/core/signal"
	"draxel/core/size"
)

// Ref names a cavity within one harness: the connector's id, fixed at import, and the cavity's name as moulded.
type Ref struct {
	Connector string `json:"connector"`
	Cavity    string `json:"cavity"`
}

// String writes the cavity as people do: A14, or C1-20 where the connector's name ends in a digit or the cavity is lettered.
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
	Ref      Ref            `json:"ref"`
	Colour   colour.Colour  `json:"colour"`
	Circuit  string         `json:"circuit,omitempty"` // circuit number, a label as found
	Function string         `json:"function,omitempty"`
	Signal   signal.Reading `json:"signal"`
	Size     size.Section   `json:"size,omitempty"` // mm²
	SizeText string         `json:"sizeText,omitempty"`
	FarEnd   string         `json:"farEnd,omitempty"`
	Note     string         `json:"note,omitempty"`
	Empty    bool           `json:"empty,omitempty"`    // a cavity that is said to hold no wire
	Measured string         `json:"measured,omitempty"` // what readings say it is, where they say otherwise than the table
	Line     int            `json:"line"`               // where in the imported table it stood, from 1
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
	Connectors []Connector  `json:"connectors"`
	Rows       []Row        `json:"rows"`
}

// Connector gives the connector with the id, and false when there is none.
func (p Pinout) Connector(id string) (Connector, bool) {
	for _, c := range p.Connectors {
		if c.ID == id {
			return c, true
		}
	}
	return Connector{}, false
}

// Row gives the row of a cavity, and false when there is none.
func (p Pinout) Row(at Ref) (Row, bool) {
	for _, r := range p.Rows {
		if r.Ref == at {
			return r, true
		}
	}
	return Row{}, false
}

// View is the side from which a connector's face is seen.
type View string

// The two views. One numbering is stored, as seen from the wire side; the mating face is its mirror image.
const (
	WireSide   View = "wire"
	MatingFace View = "mating"
)

// Corner says where the first cavity lies, seen from the wire side with the lock up.
type Corner string

// The two corners from which makers count.
const (
	TopLeft  Corner = "top-left"
	TopRight Corner = "top-right"
)

// Connector is a housing: its cavities in the order they are numbered, and how they lie in rows.
type Connector struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Cavities []string `json:"cavities"` // names in order of numbering
	Rows     int      `json:"rows"`
	First    Corner   `json:"first"`
	Assumed  bool     `json:"assumed"` // the layout is a guess until somebody has looked at the housing
}

// Ways is the number of cavities.
func (c Connector) Ways() int { return len(c.Cavities) }

// Has says whether the connector has a cavity of that name.
func (c Connector) Has(cavity string) bool {
	for _, n := range c.Cavities {
		if n == cavity {
			return true
		}
	}
	return false
}

// Face gives the cavity names row by row from the top, left to right, as seen in the view. Rows are as long as they can
// be evenly; where they differ the upper ones are longer.
func (c Connector) Face(v View) [][]string {
	rows := max(1, min(c.Rows, len(c.Cavities)))
	var face [][]string
	at := 0
	for r := range rows {
		n := (len(c.Cavities) - at + rows - r - 1) / (rows - r)
		row := append([]string(nil), c.Cavities[at:at+n]...)
		at += n
		if (c.First == TopRight) != (v == MatingFace) {
			for i, j := 0, len(row)-1; i < j; i, j = i+1, j-1 {
				row[i], row[j] = row[j], row[i]
			}
		}
		face = append(face, row)
	}
	return face
}

// Numbered gives cavity names 1 to ways.
func Numbered(ways int) []string {
	names := make([]string, ways)
	for i := range names {
		names[i] = strconv.Itoa(i + 1)
	}
	return names
}

// Lettered gives cavity names A, B, C … without I, O and Q, as makers commonly do; after Z come AA, AB …
func Lettered(ways int) []string {
	const letters = "ABCDEFGHJKLMNPRSTUVWXYZ"
	names := make([]string, ways)
	for i := range names {
		names[i] = strings.Repeat("A", i/len(letters)) + string(letters[i%len(letters)])
	}
	return names
}
