package reach

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/size"
)

// Check says why rules cannot be.
func (r *Rules) Check() error {
	t := &r.Rates
	switch {
	case !harness.Within(0, 10000, r.Roll, r.End, r.Drop, r.Lap, r.Stub, r.Apart, r.Bulge, r.Excess, r.Least, r.Guess,
		r.Mostly):
		return fmt.Errorf("that is not a length")
	case !harness.Within(0, 1000, t.Route, t.Measure, t.Cut, t.Solder, t.Crimp, t.Cover):
		return fmt.Errorf("that is not a time")
	case !harness.Within(0, 2, r.Margin), !harness.Within(0, 0.5, r.Loss, r.Rest), !harness.Within(1, 1000, r.Volts):
		return fmt.Errorf("margin, loss or voltage cannot be that")
	case !slices.Contains(Schools(), r.School):
		return fmt.Errorf("joints are soldered, crimped in a sleeve, or crimped under shrink")
	case !slices.Contains(size.Classes(), r.Class):
		return fmt.Errorf("insulation is of class A, B, C or D")
	case len(r.Plugs) > 1000 || len(r.Shelf) > 1000:
		return fmt.Errorf("that is too much")
	}
	for name, mm := range r.Plugs {
		if !harness.Within(0, 500, mm) {
			return fmt.Errorf("no plug is as large as %s", name)
		}
	}
	for i := range r.Shelf {
		if p := &r.Shelf[i]; p.ID == "" || !harness.Within(1, 1e6, p.Length) || !harness.Within(0, 240, float64(p.Size)) {
			return fmt.Errorf("a piece has a name, a size and a length")
		}
	}
	return nil
}

// Check says why what was measured at a wire cannot be.
func (m *Measured) Check() error {
	if m.Wire == "" || !harness.Within(0, 40000, m.Had, m.Need) || !harness.Within(0, 2000, m.Spread) {
		return fmt.Errorf("that is no length of a wire in a vehicle: millimetres, up to 40 m")
	}
	return nil
}

// Check says why a decision about a wire cannot be.
func (w *Wish) Check() error {
	if w.Wire == "" || !harness.Within(0, 1000, w.Amps) || !harness.Within(0, 240, float64(w.Size)) ||
		w.At < 0 || w.At > 2 ||
		w.School != "" && !slices.Contains(Schools(), w.School) {
		return fmt.Errorf("that cannot be decided about a wire")
	}
	return nil
}

// Check says why what was left over cannot be.
func (x *Leftover) Check() error {
	if x.ID == "" || x.Wire == "" || !harness.Within(-10000, 10000, x.Left) {
		return fmt.Errorf("a leftover is that of a wire, in mm")
	}
	return nil
}
