package stored

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/thin"
)

// YardItem is something to bring from the donor before it is gone.
type YardItem struct {
	Text string `json:"text"`
	Why  string `json:"why"`
}

// Yard lists what to bring from the donor, from what the job says of it and what was found at its connectors.
func (j Job) Yard(r *thin.Result) []YardItem {
	out := []YardItem{}
	if id := j.Identity; id != nil {
		if id.Throttle.Will == "electric" {
			out = append(
				out,
				YardItem{
					"the accelerator pedal, with its plug and a hand's breadth of tails",
					"An electric throttle and its pedal are matched as a pair with the unit.",
				},
			)
		}
		if id.Immobiliser == "keep and relearn" {
			out = append(
				out,
				YardItem{
					"every key, the ring coil, the immobiliser module and the ignition lock",
					"The immobiliser is kept and relearned.",
				},
			)
		}
		if id.Gearbox.Changed() && id.Gearbox.Will != "manual" {
			out = append(
				out,
				YardItem{
					"the gearbox unit, the selector and their plugs with tails",
					"The gearbox changes to " + id.Gearbox.Will + ".",
				},
			)
		}
	}
	ids := make([]string, 0, len(j.Looked))
	for id := range j.Looked {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, finding.Natural)
	for _, id := range ids {
		if parts := j.Looked[id].Replace(); len(parts) > 0 && !slices.Contains(r.Off, id) {
			out = append(
				out,
				YardItem{
					fmt.Sprintf("a plug like %s, with tails", id),
					"To be replaced there: " + strings.Join(parts, ", ") + ".",
				},
			)
		}
	}
	for _, item := range j.OpenItems() {
		if item.Do == "add" {
			out = append(out, YardItem{item.Text, "It comes new: " + item.Why + "."})
		}
	}
	return out
}

// OpenItems lists what the changes of the vehicle's identity bring with them and nobody has seen to.
func (j Job) OpenItems() []gather.OpenItem {
	if j.Identity == nil {
		return nil
	}
	return slices.DeleteFunc(j.Identity.OpenItems(), func(i gather.OpenItem) bool { return j.Items[i.ID] })
}
