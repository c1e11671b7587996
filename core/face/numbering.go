package face

import (
	"slices"
	"strconv"
	"strings"
)

// Corner is a corner of the face.
type Corner string

// The corners.
const (
	NoCorner    Corner = "" // nobody has said
	TopLeft     Corner = "top-left"
	TopRight    Corner = "top-right"
	BottomLeft  Corner = "bottom-left"
	BottomRight Corner = "bottom-right"
)

func (c Corner) right() bool  { return c == TopRight || c == BottomRight }
func (c Corner) bottom() bool { return c == BottomLeft || c == BottomRight }

func (c Corner) mirrored() Corner {
	switch c {
	case TopRight:
		return TopLeft
	case BottomLeft:
		return BottomRight
	case BottomRight:
		return BottomLeft
	default:
		return TopRight
	}
}

// Style is how cavities are called.
type Style string

// The styles. Lettered housings usually leave out I, O and Q (common practice, no source); after Z some go on with
// AA, AB, some with small letters.
const (
	Numbers    Style = ""
	Letters    Style = "letters"       // A … Z without I, O and Q, then AA, AB …
	ThenSmall  Style = "letters-small" // A … Z without I, O and Q, then a … z without i, l, o and q
	AllLetters Style = "all-letters"   // A … Z, then AA, AB …
	ByHand     Style = "by-hand"       // names that follow no rule
)

// Numbering is the rule by which cavities are named. Its zero value counts along the rows from the top left, as seen
// from the wire side.
type Numbering struct {
	From    Corner `json:"from,omitempty"`
	Columns bool   `json:"columns,omitempty"` // down the columns and not along the rows
	Turns   bool   `json:"turns,omitempty"`   // back and forth: each row runs against the one before
	Style   Style  `json:"style,omitempty"`
	Start   int    `json:"start,omitempty"` // the first number, less one
}

type place struct{ row, slot int }

// order lists the cavities as the rule counts them.
func (n Numbering) order(rows []Row) []place {
	var lines [][]place
	if n.Columns {
		longest := 0
		for _, r := range rows {
			longest = max(longest, len(r.Slots))
		}
		for c := range longest { // a row that is shorter is counted from the corner's own edge
			var line []place
			for r := range rows {
				slot := c
				if n.From.right() {
					slot = len(rows[r].Slots) - 1 - c
				}
				if slot >= 0 && slot < len(rows[r].Slots) {
					line = append(line, place{r, slot})
				}
			}
			if n.From.bottom() {
				slices.Reverse(line)
			}
			lines = append(lines, line)
		}
	} else {
		for r := range rows {
			line := make([]place, len(rows[r].Slots))
			for i := range line {
				line[i] = place{r, i}
			}
			if n.From.right() {
				slices.Reverse(line)
			}
			lines = append(lines, line)
		}
		if n.From.bottom() {
			slices.Reverse(lines)
		}
	}
	var all []place
	for i, line := range lines {
		if n.Turns && i%2 == 1 {
			slices.Reverse(line)
		}
		for _, p := range line {
			if rows[p.row].Slots[p.slot].Gap == 0 {
				all = append(all, p)
			}
		}
	}
	return all
}

// Named gives the layout with its cavities named by the rule. The corner is seen from the given side.
func (l Layout) Named(n Numbering, seen View) Layout {
	if n.From == "" {
		n.From = TopLeft
	}
	if seen == MatingFace {
		n.From = n.From.mirrored()
	}
	l.Numbering = n
	rows := make([]Row, len(l.Rows))
	for r, row := range l.Rows {
		rows[r] = Row{Slots: slices.Clone(row.Slots), Shift: row.Shift}
	}
	l.Rows = rows
	order := n.order(rows)
	names := n.Style.Names(len(order), n.Start)
	for i, p := range order {
		rows[p.row].Slots[p.slot].Name = names[i]
	}
	return l
}

// Names gives the names of so many cavities, the numbers from start + 1.
func (s Style) Names(ways, start int) []string {
	names := make([]string, ways)
	for i := range names {
		switch s {
		case Letters:
			names[i] = lettered(i, "ABCDEFGHJKLMNPRSTUVWXYZ")
		case AllLetters:
			names[i] = lettered(i, "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
		case ThenSmall:
			names[i] = lettered(i, "ABCDEFGHJKLMNPRSTUVWXYZabcdefghjkmnprstuvwxyz")
		case Numbers, ByHand:
			names[i] = strconv.Itoa(i + 1 + start)
		}
	}
	return names
}

// lettered gives the i-th name over an alphabet: after its last letter come those of two letters, the first of them
// going through the alphabet in turn.
func lettered(i int, alphabet string) string {
	n := len(alphabet)
	if i < n {
		return alphabet[i : i+1]
	}
	return strings.Clone(lettered(i/n-1, alphabet) + alphabet[i%n:i%n+1])
}
