// Package route has the map of the places where wires run: stations and the paths between them, what lives at which
// station, and the shortest permitted ways from one to another.
package route

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
)

// Map is the vehicle as far as wires care: stations, and the paths that run between them.
type Map struct {
	Stations []Station `json:"stations"`
	Paths    []Path    `json:"paths"`
}

// Station is a place where wires break out, end or turn.
type Station struct {
	ID    string  `json:"id"`              // its name, as people say it
	X     float64 `json:"x"`               // mm on the drawing, from the left; for showing only
	Y     float64 `json:"y"`               // mm on the drawing, from the top
	Group string  `json:"group,omitempty"` // what comes out of the vehicle with it: engine, gearbox, driveline, body or another word
	Drop  float64 `json:"drop,omitempty"`  // mm from the bundle to the plugs there; 0: the job's allowance
	Note  string  `json:"note,omitempty"`
}

// Path is a way between two stations with its measured length and what lies along it.
type Path struct {
	ID     string  `json:"id"`
	From   string  `json:"from"`
	To     string  `json:"to"`
	Length float64 `json:"length"`           // mm, measured along the way the bundle will lie
	Spread float64 `json:"spread,omitempty"` // ± mm of the measurement, meant to hold 19 times of 20; 0: a twentieth
	Heat   float64 `json:"heat,omitempty"`   // °C of the hottest air along it; 0: 40
	Edge   bool    `json:"edge,omitempty"`   // it passes a raw edge
	Moving bool    `json:"moving,omitempty"` // something along it moves, or the bundle flexes
	Wet    bool    `json:"wet,omitempty"`
	Wall   bool    `json:"wall,omitempty"`  // it goes through a wall: a grommet is in the middle of it
	Plugs  bool    `json:"plugs,omitempty"` // of a wall: the housings are passed through, not fitted afterwards
	Waits  string  `json:"waits,omitempty"` // the mechanical part without which its length is provisional
	Cover  Cover   `json:"cover,omitempty"`
	Group  string  `json:"group,omitempty"` // service group, where it is not that of its stations
	Note   string  `json:"note,omitempty"`
}

// Cover says what a path's bundle is covered with.
type Cover string

// The covers, with what they add to the diameter; common practice, no source.
const (
	Bare   Cover = ""
	Tape   Cover = "tape"
	Sleeve Cover = "sleeve" // split sleeve
	Sock   Cover = "sock"   // heat-shrink sock
)

// Covers lists the covers.
func Covers() []Cover { return []Cover{Bare, Tape, Sleeve, Sock} }

// Adds gives the mm that a cover adds to a bundle's diameter.
func (c Cover) Adds() float64 { return map[Cover]float64{Tape: 0.8, Sleeve: 2.4, Sock: 3}[c] }

// longestPath is how long a path can be that a person has measured on a road vehicle, mm.
const longestPath = 15000

const (
	// LongestWire is how long a wire of a road vehicle can be, mm.
	LongestWire = 40000
	// PlainAir is the air along a path of which nothing else is said, °C.
	PlainAir = 40
)

// Air gives the hottest air along the path, °C.
func (p *Path) Air() float64 {
	if p.Heat == 0 {
		return PlainAir
	}
	return p.Heat
}

// sigma is the standard deviation of the path's length, mm: half of its spread. While it waits for a part, at least a
// twentieth of the length.
func (p *Path) sigma() float64 {
	spread := p.Spread
	if spread == 0 {
		spread = p.Length / 20
	}
	if p.Waits != "" {
		spread = max(spread, p.Length/10)
	}
	return spread / 2
}

// Doubts says what is wrong with a map as it stands; what is wrong with a path makes it unusable.
func (m *Map) Doubts() []finding.Finding {
	var out []finding.Finding
	bad := func(subject, code, text, remedy string) *finding.Finding {
		out = append(out, finding.Finding{Code: code, Severity: finding.Wrong, Stage: "reach", Subject: subject, Text: text,
			Remedy: remedy})
		return &out[len(out)-1]
	}
	stations := map[string]bool{}
	for _, s := range m.Stations {
		if stations[s.ID] {
			bad(s.ID, "station-twice", fmt.Sprintf("There are two stations %q.", s.ID),
				"Give one of them another name.").Place = finding.Place{Part: "map"}
		}
		stations[s.ID] = true
	}
	reached, paths := map[string]bool{}, map[string]bool{}
	for i := range m.Paths {
		p := &m.Paths[i]
		if paths[p.ID] {
			bad(p.ID, "path-twice", fmt.Sprintf("There are two paths %q.", p.ID),
				"Give one of them another name.").Place = finding.Place{Part: "map"}
		}
		paths[p.ID] = true
		if why := p.unusable(stations); why != "" {
			bad(p.ID, "bad-path", fmt.Sprintf("The path %s %s: no wire is routed over it.", p.ID, why),
				"Put it right.").Place = finding.Place{Part: "map"}
			continue
		}
		reached[p.From], reached[p.To] = true, true
	}
	for _, s := range m.Stations {
		if !reached[s.ID] && len(m.Stations) > 1 {
			bad(s.ID, "station-alone", fmt.Sprintf("No path leads to %s.", s.ID),
				"Measure a path to it, or take it away.").Place = finding.Place{Part: "map"}
		}
	}
	return out
}

// unusable says why no wire can be routed over a path, empty where one can.
func (p *Path) unusable(stations map[string]bool) string {
	switch {
	case !stations[p.From] || !stations[p.To]:
		return "ends at a station that is not there"
	case p.From == p.To:
		return "begins where it ends"
	case math.IsNaN(p.Length) || p.Length <= 0:
		return fmt.Sprintf("has a length of %.0f mm", p.Length)
	case p.Length > longestPath:
		return fmt.Sprintf("is said to be %.1f m long", p.Length/1000)
	case p.Spread < 0 || p.Spread > p.Length || math.IsNaN(p.Spread):
		return fmt.Sprintf("has a length of %.0f ± %.0f mm", p.Length, p.Spread)
	case p.Heat < -60 || p.Heat > 400 || math.IsNaN(p.Heat):
		return fmt.Sprintf("is said to be at %.0f °C", p.Heat)
	}
	return ""
}

// Kind says what a placed thing is.
type Kind string

// The kinds of thing that are put at a station.
const (
	ADevice    Kind = "device"
	AConnector Kind = "connector"
	ASplice    Kind = "splice"
	ABranch    Kind = "branch" // where it breaks out of what it hangs on
)

// Kinds lists them, what rules first.
func Kinds() []Kind { return []Kind{AConnector, ADevice, ASplice, ABranch} }

// Thing is something that has a place.
type Thing struct {
	Kind Kind   `json:"kind"`
	ID   string `json:"id"`
}

// String names the thing as people do.
func (t Thing) String() string {
	if t.Kind == ADevice {
		return t.ID
	}
	return string(t.Kind) + " " + t.ID
}

// Place is where a person put a thing. A move keeps why and when.
type Place struct {
	Thing   Thing  `json:"thing"`
	Station string `json:"station"`
	Reason  string `json:"reason,omitempty"`
	Who     string `json:"who,omitempty"`
	When    int64  `json:"when,omitempty"` // Unix milliseconds
}

// Option is a way to place some things, to be compared with what is chosen.
type Option struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	Moves []Place `json:"moves"` // what is elsewhere than it is placed now
}

// Over gives the places with the option's laid over them; as they are, without one.
func (o *Option) Over(places []Place) []Place {
	if o == nil {
		return places
	}
	moved := map[Thing]bool{}
	for _, p := range o.Moves {
		moved[p.Thing] = true
	}
	out := slices.DeleteFunc(slices.Clone(places), func(p Place) bool { return moved[p.Thing] })
	return append(out, o.Moves...)
}

// roads are the usable paths, by station, in the order of their names.
type roads struct {
	Number   map[string]int // stations
	Stations []Station
	Paths    []Path
	at       [][]road // by station
}

type road struct {
	path, to int
}

func newRoads(m *Map) *roads {
	r := &roads{Number: make(map[string]int, len(m.Stations))}
	there := map[string]bool{}
	for _, s := range m.Stations {
		if !there[s.ID] {
			r.Number[s.ID] = len(r.Stations)
			r.Stations = append(r.Stations, s)
		}
		there[s.ID] = true
	}
	r.at = make([][]road, len(r.Stations))
	known := map[string]bool{}
	for i := range m.Paths {
		if p := &m.Paths[i]; p.unusable(there) == "" && !known[p.ID] {
			known[p.ID] = true
			r.Paths = append(r.Paths, *p)
		}
	}
	slices.SortFunc(r.Paths, func(a, b Path) int { return cmp.Or(finding.Natural(a.ID, b.ID), cmp.Compare(a.ID, b.ID)) })
	for i := range r.Paths {
		a, b := r.Number[r.Paths[i].From], r.Number[r.Paths[i].To]
		r.at[a] = append(r.at[a], road{i, b})
		r.at[b] = append(r.at[b], road{i, a})
	}
	return r
}

// Group gives a station's service group.
func (r *roads) Group(station int) string { return r.Stations[station].Group }

// GroupOf gives a path's service group: its own word, else that of its stations where they agree, else none.
func (r *roads) GroupOf(path int) string {
	p := &r.Paths[path]
	a, b := r.Group(r.Number[p.From]), r.Group(r.Number[p.To])
	switch {
	case p.Group != "":
		return p.Group
	case a == b:
		return a
	}
	return ""
}
