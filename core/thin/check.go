package thin

import (
	"fmt"
	"slices"

	"draxel/core/harness"
)

// Check says why a decision cannot be, whatever the harness.
func (d *Decision) Check() error {
	if !slices.Contains([]Scope{System, Module, Connector, Wire}, d.On) || d.ID == "" {
		return fmt.Errorf("nothing is decided about the %s %q", d.On, d.ID)
	}
	if !slices.Contains([]Choice{Undecided, Keep, Goes}, d.Choice) {
		return fmt.Errorf("%s %s is kept or goes, and not %q", d.On, d.ID, d.Choice)
	}
	return nil
}

// Check says why the way that somebody works cannot be.
func (b *Bench) Check() error {
	r := &b.Rates
	switch {
	case !slices.Contains([]School{Extract, CutSeal}, b.School):
		return fmt.Errorf("dead ends are extracted, or cut and sealed, and not %q", b.School)
	case !harness.Within(0, 10000, b.Stub, b.Usable), !harness.Within(0, 1e6, b.Worked):
		return fmt.Errorf("a length or a time cannot be that")
	case !harness.Within(0, 1000, r.Check, r.Seal, r.Splice, r.Join, r.Extract, r.Out, r.TakeOff):
		return fmt.Errorf("a step does not take that many minutes")
	case b.Hand != nil && (*b.Hand < 0 || *b.Hand > 100):
		return fmt.Errorf("nobody has so many terminals in hand")
	}
	return nil
}
