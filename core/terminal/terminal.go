// Package terminal says whether a terminal that sits in one cavity can go into another, and what has to be ordered
// where it cannot. Families are generic: a family stands for housings that take the same terminals, whoever made them.
//
// The ranges of wire and the tools are common practice of the trade, no source: what the terminal's own data sheet says
// comes first.
package terminal

import (
	"fmt"
	"slices"

	"draxel/core/size"
)

// Gender says which half of a contact a terminal is.
type Gender string

// The genders.
const (
	NoGender Gender = "" // nobody has said
	Female   Gender = "female"
	Male     Gender = "male"
)

// Sealing says how the wire is sealed where it enters the housing.
type Sealing string

// The ways of sealing.
const (
	Unsealed Sealing = ""
	Mat      Sealing = "mat"  // one mat for all wires
	WireSeal Sealing = "wire" // a seal crimped onto each wire with its terminal
)

// Release says how a terminal leaves its cavity.
type Release string

// The ways out.
const (
	NoRelease  Release = ""             // nobody has said
	Rear       Release = "rear"         // to the wire side, after its tang is released
	Front      Release = "front"        // released from the mating face, and out to the wire side
	PullToSeat Release = "pull-to-seat" // out by the mating face: the wire is cut, or threaded back
)

// Ends says how a connector's wires end in it.
type Ends string

// The kinds of end. Only crimped ones can be taken out.
const (
	Crimped  Ends = ""
	Moulded  Ends = "moulded"
	Pierced  Ends = "pierced" // insulation displacement
	Soldered Ends = "soldered"
)

// Fixed says that a terminal cannot be taken out of its housing.
func (e Ends) Fixed() bool { return e != Crimped }

// String names the end in words.
func (e Ends) String() string {
	return map[Ends]string{Crimped: "crimped", Moulded: "over-moulded", Pierced: "insulation-displacement",
		Soldered: "soldered"}[e]
}

// Seat is what a cavity takes: the terminal that sits in it, or would have to. A blade of 0 mm means that nobody has
// said.
type Seat struct {
	Family  string  `json:"family,omitempty"` // housings of one family take the same terminals
	Blade   float64 `json:"blade,omitempty"`  // width of the contact, mm
	Gender  Gender  `json:"gender,omitempty"`
	Sealing Sealing `json:"sealing,omitempty"`
	Plating string  `json:"plating,omitempty"` // tin, gold, silver: as its mate
	Release Release `json:"release,omitempty"`
	Ends    Ends    `json:"ends,omitempty"`
}

// Known says whether enough is known of a seat to judge a move by it.
func (s Seat) Known() bool { return s.Blade > 0 && s.Family != "" }

// String describes the terminal: 1.5 mm female, sealed, tin.
func (s Seat) String() string {
	if s.Blade == 0 {
		return "terminal not known"
	}
	text := fmt.Sprintf("%g mm", s.Blade)
	if s.Gender != "" {
		text += " " + string(s.Gender)
	}
	if s.Family != "" {
		text += ", family " + s.Family
	}
	switch s.Sealing {
	case Mat:
		text += ", sealed by a mat"
	case WireSeal:
		text += ", single-wire seal"
	case Unsealed:
	}
	if s.Plating != "" {
		text += ", " + s.Plating
	}
	return text
}

// Grip is the range of wire that one terminal is made for, mm².
type Grip struct{ Least, Most size.Section }

// String writes the range with its unit.
func (g Grip) String() string { return fmt.Sprintf("%g–%g mm²", float64(g.Least), float64(g.Most)) }

// grips lists, by width of the contact, the ranges that terminals are commonly made for (common practice, no source).
var grips = map[float64][]Grip{
	0.64: {{0.22, 0.35}, {0.35, 0.75}},
	1.5:  {{0.35, 0.5}, {0.5, 1}, {1, 2.5}},
	2.8:  {{0.5, 1}, {1, 2.5}, {2.5, 4}},
	6.3:  {{1, 2.5}, {2.5, 6}},
	9.5:  {{4, 6}, {6, 16}},
}

// Blades lists the widths of contact that Draxel knows, mm, the smallest first.
func Blades() []float64 {
	out := make([]float64, 0, len(grips))
	for b := range grips {
		out = append(out, b)
	}
	slices.Sort(out)
	return out
}

// GripFor gives the range of the smallest terminal of a width in mm that takes the wire, and false where none does or
// the width is not known.
func GripFor(blade float64, wire size.Section) (Grip, bool) {
	for _, g := range grips[blade] {
		if wire >= g.Least && wire <= g.Most {
			return g, true
		}
	}
	return Grip{}, false
}
