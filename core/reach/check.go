package reach

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/size"
)

// Bounds of what a map, and what is kept about it, can hold.
const (
	MostStations = 300
	MostPaths    = 600
	longestName  = 80
)

// Check says why a map cannot be.
func (m *Map) Check() error {
	if len(m.Stations) > MostStations || len(m.Paths) > MostPaths {
		return fmt.Errorf("a map has at most %d stations and %d paths", MostStations, MostPaths)
	}
	for i := range m.Stations {
		x := &m.Stations[i]
		if x.ID == "" || len(x.ID) > longestName {
			return fmt.Errorf("each station has a name")
		}
		if !harness.Within(-1e5, 1e5, x.X, x.Y) || !harness.Within(0, 5000, x.Drop) {
			return fmt.Errorf("%s has a place or a drop that cannot be", x.ID)
		}
	}
	for i := range m.Paths {
		x := &m.Paths[i]
		if x.ID == "" || len(x.ID) > 2*longestName {
			return fmt.Errorf("each path has a name")
		}
		if !slices.Contains(Covers(), x.Cover) {
			return fmt.Errorf("%s is bare, taped, in a sleeve or in a sock", x.ID)
		}
		if !harness.Within(0, 1e6, x.Length, x.Spread) || !harness.Within(-60, 1000, x.Heat) {
			return fmt.Errorf("%s has a length or a temperature that cannot be", x.ID)
		}
	}
	return nil
}

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

// Check says why a place cannot be.
func (p *Place) Check() error {
	if !slices.Contains(Kinds(), p.Thing.Kind) || p.Thing.ID == "" || p.Station == "" {
		return fmt.Errorf("%s is put at %q: that cannot be", p.Thing, p.Station)
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

// Check says why a way to place things cannot be.
func (o *Option) Check() error {
	if o.ID == "" || len(o.ID) > longestName || len(o.Moves) > 500 {
		return fmt.Errorf("a placement has a name and moves at most 500 things")
	}
	for i := range o.Moves {
		if !slices.Contains(Kinds(), o.Moves[i].Thing.Kind) {
			return fmt.Errorf("a placement moves things")
		}
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
