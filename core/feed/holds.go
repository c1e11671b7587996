package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
)

// Hold is something that must let current through for a device to work: a fuse, a contact of the key, a switch, a
// relay.
type Hold struct {
	Name  string   `json:"name"`
	Kind  FedThing `json:"kind"` // AFuse, AKey, ASwitch, ARelay or AnOutput
	Volts float64  `json:"volts"`
	Amps  float64  `json:"amps"`
}

// Holds gives what must be true for a device to work in a position of the key with switches of their own on: each thing
// that stops it when it alone is opened, in the order in which current comes to them. Empty where it does not work.
func (r *Result) Holds(position string, on []string, device string) ([]Hold, error) {
	s, err := r.With(position, on)
	if err != nil {
		return nil, err
	}
	if !slices.Contains(r.Devices(), device) {
		return nil, fmt.Errorf("nothing of the name %q uses current", device)
	}
	out := []Hold{}
	if !r.Works(s, device) {
		return out, nil
	}
	heads := r.Drawn.Heads()
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		amps := math.Abs(s.Amps(int32(i)))
		if e.Kind != network.Fuse && e.Kind != network.Switch || !s.Conducts(int32(i)) || amps < 0.001 {
			continue
		}
		without, err := s.With(network.Fault{Do: network.Open, Element: e.Name})
		if err != nil {
			return nil, fmt.Errorf("what holds %s: %w", device, err)
		}
		if r.Works(without, device) {
			continue
		}
		h := Hold{Name: e.Name, Kind: ASwitch, Volts: max(s.Volts[heads[e.A]],
			s.Volts[heads[e.B]]), Amps: amps}
		switch {
		case e.Kind == network.Fuse:
			h.Kind, h.Name = AFuse, e.Of
		case e.Role == network.OutputPin:
			h.Kind = AnOutput
		case e.Gate.Relay > 0:
			h.Kind, h.Name = ARelay, r.Drawn.Relays[e.Gate.Relay-1].Name
		case e.Gate.Key != 0:
			h.Kind = AKey
		}
		out = append(out, h)
	}
	slices.SortStableFunc(out, func(a, b Hold) int {
		switch {
		case a.Volts > b.Volts+1e-9:
			return -1
		case a.Volts < b.Volts-1e-9:
			return 1
		}
		return finding.Natural(a.Name, b.Name)
	})
	return out, nil
}

// CranksWithout says whether a starter turns in crank with every switch of its own closed but that one: nothing
// holds it, as far as copper goes. A starter's relay that a unit works is taken as withheld: whether the unit is told
// of the switch is for the list of functions. Known is false where no starter turns with it either.
func (r *Result) CranksWithout(open string) (turns, known bool) {
	all := r.Own()
	rest := slices.DeleteFunc(slices.Clone(all), func(s string) bool { return s == open })
	with, err := r.With("crank", all)
	if err != nil {
		return false, false
	}
	without, err := r.With("crank", rest)
	if err != nil {
		return false, false
	}
	var withheld []network.Fault
	for name, drives := range r.Drawn.Outputs {
		if strings.Contains(strings.ToLower(drives), "start") && without.Condition.On[name] {
			withheld = append(withheld, network.Fault{Do: network.Force, Element: name, On: false})
		}
	}
	if len(withheld) > 0 {
		if without, err = without.With(withheld...); err != nil {
			return false, false
		}
	}
	return r.turns(without), r.turns(with)
}

// turns says whether something that only crank feeds turns.
func (r *Result) turns(s *network.State) bool {
	for _, i := range r.Drawn.Loads {
		if r.Drawn.Starters[r.Drawn.Device[i]] && s.Conducts(i) && math.Abs(s.Across(i)) >= 6 &&
			r.Drawn.Elements[i].Gate.Key == 0 {
			return true
		}
	}
	return false
}
