package fact

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/stored"
	"draxel/core/vehicle"
)

// Drawn draws the network of a harness with what stands in the vehicle.
func (f *Facts) Drawn(
	h harness.Harness,
	facts *vehicle.Facts,
	wires map[harness.WireID]network.Metal,
) (*network.Drawn, error) {
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := wires[w.ID]; !there {
			wires[w.ID] = network.Metal{Square: w.Size, Mm: w.Length, Signal: w.Signal, Text: w.Function}
		}
	}
	maps.Copy(wires, f.Parts)
	for wire, ohms := range f.resistances() {
		l := wires[wire]
		l.Ohms = ohms
		wires[wire] = l
	}
	for _, name := range h.Wires() { // stubs and pieces are what they are part of
		if _, there := wires[name]; !there {
			wires[name] = wires[name.Whole()]
			if l := wires[name]; l.Ohms > 0 {
				l.Ohms = 0 // it lies in the wire once
				wires[name] = l
			}
		}
	}
	return network.Draw(network.Input{Harness: h, Connectors: f.Laid.Loom.Connectors, Devices: f.Laid.Loom.Devices,
		Wires: wires, Inside: facts.Inside, OwnGround: f.ownGrounds()})
}

// ownGrounds gives the devices that were found with a ground wire of their own.
func (f *Facts) ownGrounds() map[string]bool {
	device := f.Devices()
	out := map[string]bool{}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if d := device[e.At.Connector]; d != "" && w.Signal.Role == signal.Ground {
				out[d] = true
			}
		}
	}
	return out
}

// resistances gives the Ω that were measured before cavities, by the wire that ends there.
func (f *Facts) resistances() map[harness.WireID]float64 {
	out := map[harness.WireID]float64{}
	for _, d := range f.Drops {
		if !d.Fraught {
			continue
		}
		for i := range f.Laid.Loom.Wires {
			w := &f.Laid.Loom.Wires[i]
			if w.Ends[0].At == d.At || w.Ends[1].At == d.At {
				out[w.ID] = max(out[w.ID], d.Ohms)
				break
			}
		}
	}
	return out
}

// keyContacts makes contacts of the key of what was measured at an ignition switch: from the cavity that is live with
// the key off to each that is live in other positions. A reading outranks what a list says of the same cavity.
func (f *Facts) keyContacts(all []gather.Measurement, lines []vehicle.Line) []vehicle.Line {
	table := gather.KeyTable(slices.Clone(all))
	source := map[string]string{}
	keys := vehicle.KeySwitches(f.seenEnds(), lines)
	atSwitch := func(connector string) bool {
		return slices.ContainsFunc(f.Laid.Loom.Connectors,
			func(h harness.Half) bool { return h.ID == connector && keys[h.Device] })
	}
	for _, l := range table {
		if atSwitch(l.At.Connector) && l.Volts[gather.KeyOff] >= 9 {
			source[l.At.Connector] = l.At.String()
		}
	}
	for _, l := range table {
		from := source[l.At.Connector]
		if from == "" || from == l.At.String() {
			continue
		}
		var closed []string
		for _, k := range gather.Keys() {
			if l.Volts[k] >= 9 {
				closed = append(closed, string(k))
			}
		}
		if len(closed) == 0 {
			continue
		}
		measured := map[string]string{"switch": "key " + l.At.String(), "from": from, "to": l.At.String(),
			"closed": strings.Join(closed, ", ")}
		at := slices.IndexFunc(lines, func(x vehicle.Line) bool { return x.Cells["to"] == l.At.String() })
		if at >= 0 {
			measured["switch"], measured["from"] = lines[at].Cells["switch"], cmp.Or(lines[at].Cells["from"], from)
			lines = slices.Clone(lines)
			lines[at].Cells = measured
			continue
		}
		lines = append(lines, vehicle.Line{Cells: measured})
	}
	return lines
}

// seenEnds gives the ends of wires at devices, as Feed looks at them.
func (f *Facts) seenEnds() []vehicle.Seen {
	at := map[string]*harness.Half{}
	for i := range f.Laid.Loom.Connectors {
		at[f.Laid.Loom.Connectors[i].ID] = &f.Laid.Loom.Connectors[i]
	}
	kinds := map[string]harness.DeviceKind{}
	for i := range f.Laid.Loom.Devices {
		kinds[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind
	}
	var ends []vehicle.Seen
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if h := at[e.At.Connector]; h != nil {
				ends = append(ends, vehicle.Seen{At: e.At, Device: h.Device, Kind: kinds[h.Device], Signal: w.Signal,
					Text: w.Function, Square: w.Size})
			}
		}
	}
	return ends
}

// UsualFeeds proposes what a vehicle usually has, for each of Feed's lists in which the job has no line yet.
func UsualFeeds(j stored.Job, f *Facts) []vehicle.Proposed {
	lists, _ := stored.FeedLists(j.FeedSheets()) // one that cannot be read is said where the facts are read
	lines := map[string]int{}
	for list, rows := range lists {
		lines[list] = len(rows)
	}
	return vehicle.Usual(f.seenEnds(), lines)
}
