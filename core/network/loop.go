package network

import (
	"slices"

	"draxel/core/harness"
)

// loop draws the bridge by which a plug of the interlock loop closes it while it is plugged: a contact of the plug
// between the two cavities that the loop comes in and goes out by. Nothing else of high voltage is reckoned.
func (d *drawing) loop(dev *harness.Device, all []pin) {
	ends := slices.DeleteFunc(slices.Clone(all), func(p pin) bool { return p.Device != interlock })
	if len(ends) == 2 {
		d.b.Add(Element{Name: "interlock of " + dev.ID, Kind: Switch, A: ends[0].n, B: ends[1].n, Ohms: loopOhms})
	}
}

// interlock is the interlock loop in the vocabulary, and loopOhms the contact by which a plug closes it (common
// practice).
const (
	interlock = "interlock"
	loopOhms  = 0.05
)
