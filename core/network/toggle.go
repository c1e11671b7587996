package network

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/signal"
)

// isSwitch says whether the wires of a device make it a switch: more are those of a switch than are not, what feeds or
// grounds it aside.
func isSwitch(all []pin) bool {
	are, others := 0, 0
	for i := range all {
		switch p := &all[i]; {
		case signal.Switches(p.Device) && p.Role == signal.SwitchInput:
			are++
		case p.Role == signal.Ground, p.Role == signal.SensorGround, p.Role == signal.Battery, p.Role == signal.Ignition,
			p.Role == signal.SensorSupply:
		case p.Role == signal.Load && feedWords.MatchString(p.text):
		default:
			others++
		}
	}
	return are > others
}

// toggle draws a switch that is a device of the harness: open until somebody works it, between what it is fed or
// grounded by and each of its other wires; to the case where it has one wire.
func (d *drawing) toggle(dev *harness.Device, all []pin) {
	d.out.Own = append(d.out.Own, dev.ID)
	rank := func(p pin) int {
		switch p.Role {
		case signal.Battery, signal.Ignition, signal.SensorSupply:
			return 0
		case signal.Ground, signal.SensorGround:
			return 1
		case signal.SwitchInput:
			return 3
		}
		return 2
	}
	pins := slices.Clone(all)
	slices.SortStableFunc(pins, func(a, b pin) int {
		if feedWords.MatchString(a.text) != feedWords.MatchString(b.text) { // "brake lamp switch feed" is its common
			if feedWords.MatchString(a.text) {
				return -1
			}
			return 1
		}
		return cmp.Compare(rank(a), rank(b))
	})
	common, rest := pins[0].n, pins[1:]
	if len(rest) == 0 {
		common, rest = d.point(d.ground(dev)), pins
	}
	for i, p := range rest {
		name := dev.ID
		if i > 0 {
			name = fmt.Sprint(dev.ID, number(i))
		}
		d.b.Add(Element{Name: name, Kind: Switch, A: common, B: p.n, Ohms: SwitchOhms, Gate: Gate{Switch: dev.ID}})
	}
}
