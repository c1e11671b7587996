package live

import (
	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/signal"
)

// absent gives what a unit of the finished harness does without: the wire of its cavity goes, or its cavity is left
// empty.
func absent(f *fact.Facts, wanted harness.Harness, empty []harness.Ref) []signal.Reading {
	var out []signal.Reading
	for _, at := range empty {
		row, _ := f.To.Row(at)
		out = append(out, row.Signal)
	}
	device, full := f.Devices(), map[string]int{}
	for _, at := range wanted.Cavities() {
		if _, there := wanted.In(at); there && !wanted.Free(at.Connector) {
			full[device[at.Connector]]++
		}
	}
	unit := map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		d := &f.Laid.Loom.Devices[i]
		unit[d.ID] = d.Kind == harness.Unit && full[d.ID] > 0
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := wanted.Tips(wanted.Standing(w.ID)); there {
			continue
		}
		for _, e := range w.Ends {
			if unit[device[e.At.Connector]] {
				out = append(out, w.Signal)
			}
		}
	}
	return out
}

// lost lists the cavities of devices at which a wire was found and none is in the wanted harness.
func lost(f *fact.Facts, wanted harness.Harness) []join.Socket {
	device, unit := f.Devices(), map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		unit[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind == harness.Unit
	}
	var out []join.Socket
	seen := map[harness.Ref]bool{}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			id := device[e.At.Connector]
			if _, full := wanted.In(e.At); id == "" || full || seen[e.At] {
				continue
			}
			seen[e.At] = true
			out = append(out, join.Socket{At: e.At, Device: id, Signal: w.Signal, Text: w.Function,
				Unit: unit[id]})
		}
	}
	return out
}
