package pin

import (
	"cmp"
	"slices"

	"draxel/core/harness"
	"draxel/core/terminal"
)

// Order is a line of what has to be there before the first terminal is pulled.
type Order struct {
	terminal.Part
	Need  int           `json:"need"`  // what the plan uses; of a tool, 1
	Spare int           `json:"spare"` // to order beyond that: a tenth, at least 2 of what is small (common practice, no source)
	For   []harness.Ref `json:"for"`   // cavities that it is for
	Have  bool          `json:"have,omitempty"`
	Stops bool          `json:"stops,omitempty"` // the job stops where it is missing
}

// Use is a part that a step uses.
type Use struct {
	Part terminal.Part
	At   harness.Ref
}

// Orders adds up what the steps use. Have names what is there, by the parts' names.
func Orders(uses []Use, have map[string]bool) []Order {
	lines := map[terminal.Part]*Order{}
	for _, u := range uses {
		l := lines[u.Part]
		if l == nil {
			l = &Order{Part: u.Part, For: []harness.Ref{}, Have: have[u.Part.Name]}
			lines[u.Part] = l
		}
		if l.Need++; u.Part.Kind.Tool() {
			l.Need = 1
		}
		if u.At != (harness.Ref{}) && !slices.Contains(l.For, u.At) {
			l.For = append(l.For, u.At)
		}
	}
	out := make([]Order, 0, len(lines))
	for _, l := range lines {
		switch l.Kind {
		case terminal.Terminal, terminal.Seal, terminal.Plug:
			l.Spare = max(2, (l.Need+9)/10)
		case terminal.Joint, terminal.Lead:
			l.Spare = (l.Need + 9) / 10
		case terminal.Pick, terminal.Crimper, terminal.Lock:
		}
		l.Stops = l.Kind != terminal.Plug && l.Kind != terminal.Lock
		out = append(out, *l)
	}
	slices.SortFunc(out, func(a, b Order) int {
		return cmp.Or(cmp.Compare(slices.Index(orderOfKinds, a.Kind), slices.Index(orderOfKinds, b.Kind)),
			cmp.Compare(a.Name, b.Name))
	})
	return out
}

// orderOfKinds: the tools first, since without them nothing begins.
var orderOfKinds = []terminal.PartKind{terminal.Pick, terminal.Crimper, terminal.Terminal, terminal.Seal,
	terminal.Plug, terminal.Lead, terminal.Joint, terminal.Lock}

// Spare is a cavity in which nothing is wanted: where a circuit can be added, or a terminal can wait.
type Spare struct {
	At      harness.Ref   `json:"at"`
	Seat    terminal.Seat `json:"seat"`
	Plugged bool          `json:"plugged,omitempty"`
	Reason  string        `json:"reason,omitempty"` // why it is empty, where a person has said
}

// Spares lists the cavities of the housings that are empty in a harness.
func (a *Adviser) Spares(h harness.Harness, reasons map[harness.Ref]string) []Spare {
	out := []Spare{}
	for _, at := range h.Cavities() {
		if _, full := h.In(at); full || h.Stump(at) {
			continue
		}
		if _, ours := a.Housings[at.Connector]; ours {
			out = append(out, Spare{At: at, Seat: a.seat(at), Plugged: h.Plugged(at), Reason: reasons[at]})
		}
	}
	return out
}
