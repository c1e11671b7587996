package route

import (
	"fmt"
	"slices"

	"draxel/core/harness"
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

// Check says why a place cannot be.
func (p *Place) Check() error {
	if !slices.Contains(Kinds(), p.Thing.Kind) || p.Thing.ID == "" || p.Station == "" {
		return fmt.Errorf("%s is put at %q: that cannot be", p.Thing, p.Station)
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
