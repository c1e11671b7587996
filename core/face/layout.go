// Package face is what a connector looks like: where its cavities lie, how they are named, where the lock and the keys
// are, and what terminals go in.
//
// One numbering is stored, as seen from the wire side with the housing upright. The other view is computed: a face seen
// from the mating side is the mirror image, and so is the face of the other half of an in-line pair seen from its own
// wire side, which is how the halves meet.
package face

import (
	"fmt"
	"slices"

	"draxel/core/terminal"
)

// View is the side from which a face is seen.
type View string

// The two views.
const (
	WireSide   View = "wire"
	MatingFace View = "mating"
)

// String names the view in words.
func (v View) String() string {
	if v == MatingFace {
		return "mating face"
	}
	return "wire side"
}

// Side is an edge of the face as seen from the wire side.
type Side string

// The edges.
const (
	NoSide Side = "" // nobody has said
	Top    Side = "top"
	Bottom Side = "bottom"
	Left   Side = "left"
	Right  Side = "right"
)

// Secondary is the kind of secondary lock.
type Secondary string

// The kinds of secondary lock.
const (
	NoLock Secondary = ""
	Comb   Secondary = "comb"  // slides in from the side
	Wedge  Secondary = "wedge" // in the mating face
	Cover  Secondary = "cover" // hinged at the back
	Slide  Secondary = "slide" // part of the housing, lifts or slides a millimetre
)

// Slot is one place in a row: a cavity, or a gap.
type Slot struct {
	Name  string  `json:"name,omitempty"`
	Blade float64 `json:"blade,omitempty"` // width of the contact, mm; 0 where it is not known
	Gap   float64 `json:"gap,omitempty"`   // of a gap: its width, in cavities
}

// Row is a row of slots from left to right, seen from the wire side.
type Row struct {
	Slots []Slot  `json:"slots"`
	Shift float64 `json:"shift,omitempty"` // by how many cavities it stands to the right of the middle
}

// Key is a rib or groove that lets one plug in and keeps others out.
type Key struct {
	Side Side    `json:"side"`
	At   float64 `json:"at"` // along the edge, 0 to 1, from the left or from the top
}

// Layout is a connector's face with what goes into it. A layout without rows is one that nobody has looked at.
type Layout struct {
	Title     string        `json:"title,omitempty"`
	Rows      []Row         `json:"rows"`
	Numbering Numbering     `json:"numbering,omitzero"` // the rule that the names follow
	Lock      Side          `json:"lock,omitempty"`     // the outer lock; the top where nothing is said
	Keys      []Key         `json:"keys,omitempty"`
	Secondary Secondary     `json:"secondary,omitempty"`
	Colour    string        `json:"colour,omitempty"` // of the housing, IEC 60757
	Terminal  terminal.Seat `json:"terminal,omitzero"`
}

// Most is the greatest number of cavities that a layout may have.
const Most = 400

// Names lists the cavities in the order in which they are numbered, and by place where the names follow no rule.
func (l Layout) Names() []string {
	var names []string
	for _, at := range l.Numbering.order(l.Rows) {
		names = append(names, l.Rows[at.row].Slots[at.slot].Name)
	}
	return names
}

// Ways is the number of cavities.
func (l Layout) Ways() int {
	n := 0
	for _, r := range l.Rows {
		for _, s := range r.Slots {
			if s.Gap == 0 {
				n++
			}
		}
	}
	return n
}

// Seat gives what the cavity of that name takes, and false when there is none of that name.
func (l Layout) Seat(name string) (terminal.Seat, bool) {
	for _, r := range l.Rows {
		for _, s := range r.Slots {
			if s.Gap == 0 && s.Name == name {
				seat := l.Terminal
				if s.Blade > 0 {
					seat.Blade = s.Blade
				}
				return seat, true
			}
		}
	}
	return terminal.Seat{}, false
}

// Sealed says whether an empty cavity of the housing wants a plug.
func (l Layout) Sealed() bool { return l.Terminal.Sealing != terminal.Unsealed }

// Check says what is wrong with a layout that somebody made.
func (l Layout) Check() error {
	if n := l.Ways(); n < 1 || n > Most {
		return fmt.Errorf("a face has 1 to %d cavities, not %d", Most, n)
	}
	seen := map[string]bool{}
	for r, row := range l.Rows {
		for _, s := range row.Slots {
			switch {
			case s.Gap < 0 || s.Gap > 40 || s.Blade < 0 || s.Blade > 20:
				return fmt.Errorf("row %d: a gap of 0 to 40 cavities, a contact of 0 to 20 mm", r+1)
			case s.Gap > 0 && s.Name != "":
				return fmt.Errorf("row %d: a gap has no name", r+1)
			case s.Gap > 0:
			case s.Name == "" || len(s.Name) > 8:
				return fmt.Errorf("row %d: a cavity has a name of at most 8 characters", r+1)
			case seen[s.Name]:
				return fmt.Errorf("cavity %q twice", s.Name)
			}
			seen[s.Name] = seen[s.Name] || s.Gap == 0
		}
		if row.Shift < -40 || row.Shift > 40 {
			return fmt.Errorf("row %d: shifted by more than 40 cavities", r+1)
		}
	}
	for _, k := range l.Keys {
		if k.At < 0 || k.At > 1 {
			return fmt.Errorf("a key lies between 0 and 1 along its edge, not at %g", k.At)
		}
	}
	return nil
}

// Even lays the cavities of these names, in their order, in so many rows: as evenly as can be, the upper ones the
// longer.
func Even(names []string, rows int, from Corner) Layout {
	rows = max(1, min(rows, len(names)))
	lengths := make([]int, rows)
	for r, left := 0, len(names); r < rows; r++ {
		lengths[r] = (left + rows - r - 1) / (rows - r)
		left -= lengths[r]
	}
	l := Blank(lengths, 0)
	l.Numbering = Numbering{From: from}
	for i, at := range l.Numbering.order(l.Rows) {
		l.Rows[at.row].Slots[at.slot].Name = names[i]
	}
	return l
}

// Blank gives rows of these lengths whose cavities have no names yet. The blade is in mm, 0 where it is not known.
func Blank(lengths []int, blade float64) Layout {
	l := Layout{Rows: make([]Row, len(lengths))}
	for r, n := range lengths {
		l.Rows[r].Slots = make([]Slot, n)
		for i := range n {
			l.Rows[r].Slots[i].Blade = blade
		}
	}
	return l
}

// Mirrored gives the face as its mirror image: the same housing seen from the other side, or, seen from its own wire
// side, the other half that meets it cavity by cavity.
func (l Layout) Mirrored() Layout {
	m := l
	m.Rows = make([]Row, len(l.Rows))
	for r, row := range l.Rows {
		m.Rows[r] = Row{Slots: slices.Clone(row.Slots), Shift: -row.Shift}
		slices.Reverse(m.Rows[r].Slots)
	}
	m.Keys = slices.Clone(l.Keys)
	for i, k := range m.Keys {
		m.Keys[i].Side = k.Side.mirrored()
		if k.Side != Left && k.Side != Right {
			m.Keys[i].At = 1 - k.At
		}
	}
	m.Lock = l.Lock.mirrored()
	m.Numbering.From = l.Numbering.From.mirrored()
	return m
}

// Mate gives the other half of an in-line pair: its mirror image, with terminals of the other gender.
func (l Layout) Mate() Layout {
	m := l.Mirrored()
	switch l.Terminal.Gender {
	case terminal.Female:
		m.Terminal.Gender = terminal.Male
	case terminal.Male:
		m.Terminal.Gender = terminal.Female
	}
	return m
}

func (s Side) mirrored() Side {
	switch s {
	case Left:
		return Right
	case Right:
		return Left
	default:
		return s
	}
}

// Meets says whether two halves meet: pushed together, each cavity faces the one of its name. It names the first that
// does not.
func Meets(a, b Layout) error {
	m := a.Mirrored()
	if len(m.Rows) != len(b.Rows) {
		return fmt.Errorf("one half has %d rows, the other %d", len(a.Rows), len(b.Rows))
	}
	for r := range m.Rows {
		x, y := m.Rows[r].Slots, b.Rows[r].Slots
		if len(x) != len(y) {
			return fmt.Errorf("row %d has %d places in one half and %d in the other", r+1, len(x), len(y))
		}
		for i := range x {
			if x[i].Name != y[i].Name || x[i].Gap != y[i].Gap {
				return fmt.Errorf("row %d: %q faces %q", r+1, x[i].Name, y[i].Name)
			}
		}
	}
	return nil
}

// Alike says whether two housings look the same from outside: rows, gaps and sizes agree, and the keys do. A terminal
// pushed into the wrong one would fit.
func Alike(a, b Layout) bool {
	if len(a.Rows) != len(b.Rows) || a.Terminal.Family != b.Terminal.Family || !slices.Equal(a.Keys, b.Keys) {
		return false
	}
	for r := range a.Rows {
		x, y := a.Rows[r], b.Rows[r]
		if x.Shift != y.Shift || !slices.EqualFunc(x.Slots, y.Slots,
			func(p, q Slot) bool { return p.Blade == q.Blade && p.Gap == q.Gap }) {
			return false
		}
	}
	return true
}
