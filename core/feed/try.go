package feed

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/finding"
	"draxel/core/network"
)

// Trial is what works in a condition that somebody tries.
type Trial struct {
	Works  []string `json:"works"`
	Not    []string `json:"not"`    // of what uses current
	Pulled []string `json:"pulled"` // relays
	Rest   []string `json:"rest"`   // relays that have not pulled
	Buzzes []string `json:"buzzes"`
	Starts []string `json:"starts"` // works now and not in the usual condition of the position
	Stops  []string `json:"stops"`
}

// Held gives the state of a position of the key with switches of their own on, those named and no other, and outputs of
// units held on or off against what is usual. It fails where there is no such switch or output.
func (r *Result) Held(position string, on, held, off []string) (*network.State, error) {
	before, err := r.With(position, on)
	if err != nil {
		return nil, err
	}
	var faults []network.Fault
	for _, x := range []struct {
		outputs []string
		on      bool
	}{{held, true}, {off, false}} {
		for _, o := range x.outputs {
			if _, known := r.Drawn.Outputs[o]; !known {
				return nil, fmt.Errorf("no unit has an output %q", o)
			}
			if before.Condition.On[o] != x.on {
				faults = append(faults, network.Fault{Do: network.Force, Element: o, On: x.on})
			}
		}
	}
	if len(faults) == 0 {
		return before, nil
	}
	return before.With(faults...)
}

// Try gives what works in a condition, as Held has it. It fails where there is no such switch or output.
func (r *Result) Try(position string, on, held, off []string) (Trial, error) {
	s, err := r.Held(position, on, held, off)
	if err != nil {
		return Trial{}, err
	}
	t := Trial{Works: []string{}, Not: []string{}, Pulled: []string{}, Rest: []string{}, Buzzes: []string{},
		Starts: []string{}, Stops: []string{}}
	usual := r.state(position)
	for _, d := range r.Devices() {
		was, is := r.Works(usual, d), r.Works(s, d)
		if is {
			t.Works = append(t.Works, d)
		} else {
			t.Not = append(t.Not, d)
		}
		switch {
		case is && !was:
			t.Starts = append(t.Starts, d)
		case was && !is:
			t.Stops = append(t.Stops, d)
		}
	}
	for k := range r.Drawn.Relays {
		name := r.Drawn.Relays[k].Name
		if _, unit := r.unitOf(k); unit {
			continue
		}
		if s.Pulled[k] {
			t.Pulled = append(t.Pulled, name)
		} else {
			t.Rest = append(t.Rest, name)
		}
	}
	t.Buzzes = append(t.Buzzes, s.Buzzes...)
	slices.SortFunc(t.Pulled, finding.Natural)
	slices.SortFunc(t.Rest, finding.Natural)
	return t, nil
}

// unitOf gives the unit that a relay stands for, and false where it is a relay.
func (r *Result) unitOf(relay int) (string, bool) {
	for name, k := range r.Drawn.Units {
		if int(k) == relay+1 {
			return name, true
		}
	}
	return "", false
}

// TriedRow is a line of the table of conditions: a relay, an output of a unit or a device, and whether it has pulled,
// is on or works in each position of the key, in their order.
type TriedRow struct {
	Name string   `json:"name"`
	Kind FedThing `json:"kind"` // ARelay, AnOutput or ADevice
	In   []bool   `json:"in"`
}

// Tries lays a condition out over all positions of the key: with the same switches on, and outputs held. It fails where
// there is no such switch or output.
func (r *Result) Tries(on, held, off []string) ([]TriedRow, error) {
	var relays, outputs, devices []TriedRow
	for k, p := range Positions() {
		s, err := r.Held(p.Name, on, held, off)
		if err != nil {
			return nil, err
		}
		put := func(rows *[]TriedRow, at int, name string, kind FedThing, is bool) {
			if k == 0 {
				*rows = append(*rows, TriedRow{Name: name, Kind: kind})
			}
			(*rows)[at].In = append((*rows)[at].In, is)
		}
		at := 0
		for i := range r.Drawn.Relays {
			if _, unit := r.unitOf(i); !unit {
				put(&relays, at, r.Drawn.Relays[i].Name, ARelay, s.Pulled[i])
				at++
			}
		}
		for i, o := range slices.SortedFunc(maps.Keys(r.Drawn.Outputs), finding.Natural) {
			e, known := r.Drawn.Element("output " + o)
			put(&outputs, i, o, AnOutput, known && s.Conducts(e))
		}
		for i, d := range r.Devices() {
			put(&devices, i, d, ADevice, r.Works(s, d))
		}
	}
	slices.SortStableFunc(relays, func(a, b TriedRow) int { return finding.Natural(a.Name, b.Name) })
	return slices.Concat(relays, outputs, devices), nil
}
