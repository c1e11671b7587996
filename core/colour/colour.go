// Package colour reads wire colours in every maker's habit into one neutral form, the codes of IEC 60757, and keeps
// what was written.
//
// Habits clash: GN is green in one and green with a brown tracer in another; L is blue here and part of LG, light
// green, there. So a cell is never read alone. Detect looks at a whole column and says which habit it was written in
// and, where two would read it differently, that it cannot tell; Parse then reads each cell in that habit. A colour
// that stays ambiguous keeps its candidates. The shade (light, dark) is kept beside the code: light green is not green.
package colour

import "strings"

// Code is a colour in the two letters of IEC 60757; TN (tan) and NA (natural) are not in the standard and are ours.
type Code string

// The codes of IEC 60757 that vehicle wires use, with TN and NA beside them.
const (
	Black     Code = "BK"
	Brown     Code = "BN"
	Red       Code = "RD"
	Orange    Code = "OG"
	Yellow    Code = "YE"
	Green     Code = "GN"
	Blue      Code = "BU"
	Violet    Code = "VT"
	Grey      Code = "GY"
	White     Code = "WH"
	Pink      Code = "PK"
	Turquoise Code = "TQ"
	Silver    Code = "SR"
	Gold      Code = "GD"
	Tan       Code = "TN"
	Natural   Code = "NA"
)

// Shade tells light green from green; empty is the plain colour.
type Shade string

// The shades that makers write.
const (
	Light Shade = "light"
	Dark  Shade = "dark"
)

// Part is one colour of a wire: the base or a tracer.
type Part struct {
	Code  Code  `json:"code"`
	Shade Shade `json:"shade,omitempty"`
}

// String writes the part as IEC 60757 with the shade before it: "light GN".
func (p Part) String() string {
	if p.Shade == "" {
		return string(p.Code)
	}
	return string(p.Shade) + " " + string(p.Code)
}

// Colour is a wire's colour as one cell gives it.
type Colour struct {
	Written    string   `json:"written"`              // the cell, to the letter
	Parts      []Part   `json:"parts,omitempty"`      // base first, then tracers; none when blank, unread or ambiguous
	Candidates [][]Part `json:"candidates,omitempty"` // the readings of an ambiguous cell, two or more
}

// Known says that the colour was read, and in one way only.
func (c Colour) Known() bool { return len(c.Parts) > 0 }

// String writes the neutral form, "GN-YE"; an ambiguous colour as "GN|BK-GN"; and what was written when it was not
// read.
func (c Colour) String() string {
	if c.Known() {
		return join(c.Parts)
	}
	if len(c.Candidates) > 0 {
		all := make([]string, len(c.Candidates))
		for i, p := range c.Candidates {
			all[i] = join(p)
		}
		return strings.Join(all, "|")
	}
	return c.Written
}

func join(parts []Part) string {
	all := make([]string, len(parts))
	for i, p := range parts {
		all[i] = p.String()
	}
	return strings.Join(all, "-")
}

// Agreement is how two colours compare.
type Agreement int

// From no comparison to the same base, tracer and shades.
const (
	Missing    Agreement = iota // one of them is blank or was not read
	Differ                      // another base
	Compatible                  // the same base but another tracer or shade
	Equal                       // base, tracers and shades agree
)

// Compare sets two colours side by side. An ambiguous one takes the better of its readings: it cannot speak against.
func Compare(a, b Colour) Agreement {
	best := Missing
	for _, x := range readings(a) {
		for _, y := range readings(b) {
			best = max(best, compare(x, y))
		}
	}
	if best == Differ && (len(a.Candidates) > 0 || len(b.Candidates) > 0) {
		return Missing
	}
	return best
}

func readings(c Colour) [][]Part {
	if c.Known() {
		return [][]Part{c.Parts}
	}
	return c.Candidates
}

func compare(x, y []Part) Agreement {
	if x[0].Code != y[0].Code {
		return Differ
	}
	if len(x) != len(y) {
		return Compatible
	}
	for i := range x {
		if x[i] != y[i] {
			return Compatible
		}
	}
	return Equal
}

// Warns says whether a colour means danger or a constant feed to whoever opens the harness next: orange is high
// voltage, yellow restraint, red and brown a battery feed in one habit or another, green with yellow protective ground.
func (c Colour) Warns() bool {
	if !c.Known() || len(c.Parts) == 0 {
		return false
	}
	switch c.Parts[0].Code {
	case Orange, Yellow, Red, Brown:
		return true
	case Green:
		return len(c.Parts) > 1 && c.Parts[1].Code == Yellow
	}
	return false
}
