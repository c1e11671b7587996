package network

import (
	"fmt"

	"draxel/core/harness"
)

// grounds joins the ground points of which nobody has said a cable to the battery, and says so: without a way back
// nothing could be said of anything.
func (d *drawing) grounds() {
	led := map[string]bool{}
	for _, c := range d.in.Inside.Cables {
		led[c.From], led[c.To] = true, true
	}
	var points []string
	for _, dev := range d.in.Devices {
		if dev.Kind == harness.Grounds {
			points = append(points, dev.ID)
		}
	}
	for _, p := range append(points, "body", "engine block") {
		if n, used := d.out.Nodes[p]; used && !led[p] {
			d.b.Add(Element{Name: p + " to battery, assumed", Kind: Copper, A: n, B: Reference, Ohms: 0.002})
			d.out.Assumed = append(d.out.Assumed,
				fmt.Sprintf("how %s is joined to the battery's negative terminal is not listed: reckoned at 2 mΩ", p))
		}
	}
}
