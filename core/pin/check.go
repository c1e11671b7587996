package pin

import (
	"fmt"
	"slices"
)

// Check says why a wish about the order cannot be.
func (w *Wish) Check() error {
	if w.Step == "" || w.Then == "" || w.Step == w.Then {
		return fmt.Errorf("a wish names two steps")
	}
	return nil
}

// Check says why an exchange cannot be.
func (x *Exchange) Check() error {
	if x.A.Cavity == "" || x.B.Cavity == "" {
		return fmt.Errorf("two outputs are exchanged")
	}
	return nil
}

// Check says why a report cannot be.
func (r *Report) Check() error {
	if r.ID == "" || !slices.Contains(Whats(), r.What) || r.At.Connector == "" {
		return fmt.Errorf("at %s %q is not reported", r.At, r.What)
	}
	return nil
}

// Check says why what was seen at a second check cannot be.
func (c *Check) Check() error {
	if c.At.Cavity == "" {
		return fmt.Errorf("a cavity is checked")
	}
	return nil
}
