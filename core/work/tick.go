package work

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/harness"
)

// Tick is a step that has been carried out: the edits that were done, with who and when, so that it outlives a plan
// that changes.
type Tick struct {
	Step    string         `json:"step"`
	Edits   []harness.Edit `json:"edits"`
	Text    string         `json:"text"`              // what the step said when it was done
	Minutes float64        `json:"minutes,omitempty"` // how long it was reckoned to take
	Spent   float64        `json:"spent,omitempty"`   // minutes that it took, where somebody's watch ran
	Reason  string         `json:"reason,omitempty"`  // why the gate was passed though something was missing
	Who     string         `json:"who,omitempty"`
	When    int64          `json:"when,omitempty"`   // Unix milliseconds
	Seq     int            `json:"seq,omitempty"`    // its place among steps ticked at once
	Stage   Stage          `json:"stage,omitempty"`  // empty where Thin's work had it
	Kind    Kind           `json:"kind,omitempty"`   // of a step of Pin
	At      []harness.Ref  `json:"at,omitempty"`     // of a step of Pin: the cavity left, the cavity entered
	Wire    harness.WireID `json:"wire,omitempty"`   // of a step of Reach: the wire that it lengthens
	Length  float64        `json:"length,omitempty"` // mm, of the piece that was cut for it
	Piece   string         `json:"piece,omitempty"`  // the piece of stock that it was cut from
	Used    []Use          `json:"used,omitempty"`   // what was built in with it, as the order list calls it
}

// Use is an amount of something that a step takes.
type Use struct {
	What   string  `json:"what"`
	Unit   string  `json:"unit,omitempty"` // "m"; empty: pieces
	Amount float64 `json:"amount"`
}

// mostUsed bounds what one step takes.
const mostUsed = 500

// Of gives the stage whose work a tick was made in.
func (t *Tick) Of() Stage {
	if t.Stage == "" {
		return Thin
	}
	return t.Stage
}

// InOrder gives the ticks in the order in which they were made.
func InOrder(ticks []Tick) []Tick {
	ticks = slices.Clone(ticks)
	slices.SortStableFunc(ticks, func(a, b Tick) int {
		return cmp.Or(cmp.Compare(a.When, b.When), cmp.Compare(a.Seq, b.Seq), cmp.Compare(a.Step, b.Step))
	})
	return ticks
}

// Check says why a tick cannot be.
func (t *Tick) Check() error {
	if t.Step == "" || !harness.Within(0, 1e6, t.Minutes, t.Spent, t.Length) {
		return fmt.Errorf("a step that is done has a name, minutes and a length that can be")
	}
	if len(t.Used) > mostUsed {
		return fmt.Errorf("a step takes at most %d things", mostUsed)
	}
	for _, u := range t.Used {
		if u.What == "" || len(u.What) > 400 || len(u.Unit) > 10 || !harness.Within(0, 1e6, u.Amount) {
			return fmt.Errorf("what a step took has a name and an amount that can be")
		}
	}
	for i := range t.Edits {
		if err := t.Edits[i].Check(); err != nil {
			return err
		}
	}
	return nil
}
