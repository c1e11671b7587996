package live

import (
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/signal"
)

// sockets lists the cavities of devices in the wanted harness with the circuits that they are on. What a switch
// parts, it can join: its cavities are one circuit here.
func sockets(f *fact.Facts, wanted harness.Harness, drawn *network.Drawn, c *copperCircuits) []join.Socket {
	heads := drawn.Heads()
	device := f.Devices()
	hub, unit := map[string]bool{}, map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		if k := f.Laid.Loom.Devices[i].Kind; k == harness.Fuses || k == harness.Grounds {
			hub[f.Laid.Loom.Devices[i].ID] = true
		}
		unit[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind == harness.Unit
	}
	seen := map[harness.Ref]bool{} // cavities whose wire somebody has followed to its other end
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for end, e := range w.Ends {
			seen[e.At] = seen[e.At] || w.Ends[1-end].Seen()
		}
	}
	// Where there is no list of devices every plug is one of the harness's own, that of which nobody said more.
	plugs := len(f.Laid.Loom.Devices) == 0
	var out []join.Socket
	first := map[string]int32{}
	for _, at := range wanted.Cavities() {
		id := device[at.Connector]
		if plugs && id == "" {
			id = "harness"
		}
		n, known := drawn.Points[at]
		if _, full := wanted.In(at); !full || !known || id == "" || hub[id] || wanted.Free(at.Connector) {
			continue
		}
		reading, text := drawn.Read(at)
		node := heads[n]
		if !unit[id] && signal.Switches(reading.Device) && reading.Role != signal.Ground &&
			reading.Role != signal.SensorGround {
			if other, twice := first[id]; twice {
				c.join(other, node)
			} else {
				first[id] = node
			}
		}
		out = append(out, join.Socket{At: at, Device: id, Signal: reading, Text: text, Circuit: int(node), Unit: unit[id],
			Unfollowed: !seen[at]})
	}
	for i := range out {
		out[i].Circuit = int(c.find(int32(out[i].Circuit)))
	}
	slices.SortFunc(out, func(a, b join.Socket) int { return harness.CompareRefs(a.At, b.At) })
	return out
}

// partSockets lists the ends of the parts that are added, with the circuits that their leads bring them to: what a part
// serves comes to where its lead comes.
func partSockets(parts []join.Added, drawn *network.Drawn, c *copperCircuits) []join.Socket {
	heads := drawn.Heads()
	var out []join.Socket
	for i := range parts {
		a := &parts[i]
		for _, l := range a.Leads {
			if n, known := drawn.Nodes[string(a.Point(l.Point))]; known {
				out = append(out, join.Socket{At: harness.Ref{Connector: a.ID, Cavity: l.Point}, Device: a.ID, Text: a.What,
					Circuit: int(c.find(heads[n])), Function: a.Function})
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
