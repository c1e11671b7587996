package stored

import (
	"fmt"
	"strings"

	"draxel/core/work"
)

// OwnWork is the kind of such steps.
const OwnWork work.Kind = "own"

// OwnStep is a step of the person's own between the others: trim off, gearbox lowered, a hoist and a second person.
// It may carry a measurement with its limit.
type OwnStep struct {
	ID     string   `json:"id"`
	Text   string   `json:"text"`
	Before string   `json:"before,omitempty"` // step that it comes before
	After  string   `json:"after,omitempty"`  // step that it comes after
	What   string   `json:"what,omitempty"`   // what is measured: clearance
	Unit   string   `json:"unit,omitempty"`   // mm, Nm, °
	Least  *float64 `json:"least,omitempty"`
	Most   *float64 `json:"most,omitempty"`
	Saw    *float64 `json:"saw,omitempty"` // what was measured
	Who    string   `json:"who,omitempty"`
	When   int64    `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a step of one's own cannot be.
func (o *OwnStep) Check() error {
	switch {
	case o.ID == "" || strings.TrimSpace(o.Text) == "":
		return fmt.Errorf("say what is done")
	case len(o.Text) > 300 || len(o.What) > 80 || len(o.Unit) > 12:
		return fmt.Errorf("that is too long for a step")
	case o.What == "" && (o.Least != nil || o.Most != nil || o.Saw != nil):
		return fmt.Errorf("say what is measured")
	case o.Least != nil && o.Most != nil && *o.Least > *o.Most:
		return fmt.Errorf("the least is more than the most")
	}
	return nil
}

// Limit says in words what was or is to be measured: "clearance at least 15 mm, measured 23 mm".
func (o *OwnStep) Limit() string {
	if o.What == "" {
		return ""
	}
	s := o.What
	if o.Least != nil {
		s += fmt.Sprintf(" at least %g %s", *o.Least, o.Unit)
	}
	if o.Most != nil {
		s += fmt.Sprintf(" at most %g %s", *o.Most, o.Unit)
	}
	if o.Saw != nil {
		s += fmt.Sprintf(", measured %g %s", *o.Saw, o.Unit)
	}
	return strings.TrimSpace(s)
}

// Within says whether what was measured keeps its limits; true where nothing was.
func (o *OwnStep) Within() bool {
	return o.Saw == nil || (o.Least == nil || *o.Saw >= *o.Least) && (o.Most == nil || *o.Saw <= *o.Most)
}

// Step is the step among the others; its id is that of what the person keeps, whatever it says.
func (o *OwnStep) Step() work.Step {
	s := work.Step{Stage: work.Own, Kind: OwnWork, Text: o.Text, Why: o.Limit()}
	return s.As(work.Check("own", o.ID))
}
