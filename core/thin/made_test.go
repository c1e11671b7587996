package thin_test

import (
	"fmt"
	"math/rand/v2"

	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/thin"
)

// made is a random harness: a unit and a fuse box with many circuits, parts in a dozen systems, splices of two to six
// legs, some of them chained, junction connectors, in-line pairs, a wire that passes through something, ends that
// nobody has followed and ends taped off.
func made(r *rand.Rand, wires int) *harness.Loom {
	l := &harness.Loom{}
	systems := []string{"emissions", "climate", "fuel", "ignition", "lighting", "body", "brakes", "engine", "restraint"}
	device := func(id string, kind harness.DeviceKind, system string) {
		l.Devices = append(l.Devices, harness.Device{ID: id, Kind: kind, System: system})
	}
	connector := func(c harness.Half) { l.Connectors = append(l.Connectors, c) }
	device("unit", harness.Unit, "engine")
	device("fuses", harness.Fuses, "power")
	device("ground", harness.Grounds, "power")
	next := map[string]int{}
	cavity := func(c string) harness.End {
		next[c]++
		return harness.End{At: harness.Ref{Connector: c, Cavity: fmt.Sprint(next[c])}}
	}
	for _, h := range []struct{ id, device string }{{"U1", "unit"}, {"U2", "unit"}, {"F", "fuses"}, {"G", "ground"}} {
		connector(harness.Half{Connector: harness.Connector{ID: h.id}, Device: h.device})
	}
	hubs := []string{"U1", "U2", "F", "G"}
	var parts []string
	for i := range max(2, wires/4) {
		id := fmt.Sprint("part", i)
		kind := harness.Part
		if r.IntN(12) == 0 {
			kind = harness.Unit
		}
		device(id, kind, systems[r.IntN(len(systems))])
		connector(harness.Half{Connector: harness.Connector{ID: fmt.Sprint("P", i)}, Device: id, Locked: r.IntN(30) == 0})
		parts = append(parts, fmt.Sprint("P", i))
	}
	wire := func(a, b harness.End) {
		w := harness.Wire{ID: harness.WireID(fmt.Sprint("W", len(l.Wires)+1)), Ends: [2]harness.End{a, b},
			Conductor: harness.Conductor{Function: "of some use"}, Branch: fmt.Sprint("B", r.IntN(5))}
		w.Signal.System = systems[r.IntN(len(systems)-1)]
		if r.IntN(40) == 0 {
			w.Signal.Role = signal.Restraint
		}
		if r.IntN(200) == 0 {
			w.Signal.Role = signal.HighVoltage
		}
		l.Wires = append(l.Wires, w)
	}
	end := func() harness.End {
		switch k := r.IntN(20); {
		case k < 9:
			return cavity(parts[r.IntN(len(parts))])
		case k < 16:
			return cavity(hubs[r.IntN(len(hubs))])
		case k < 17:
			return harness.End{}
		case k < 18:
			return harness.End{Taped: true}
		}
		e := cavity(parts[r.IntN(len(parts))]) // a second wire in a cavity that may have one
		e.At.Cavity = fmt.Sprint(1 + r.IntN(next[e.At.Connector]))
		return e
	}
	for len(l.Wires) < wires {
		switch r.IntN(7) {
		case 0, 1:
			wire(end(), end())
		case 2, 3: // a splice, sometimes with others behind it
			var made []string
			for range 1 + r.IntN(3) {
				s := fmt.Sprint("S", len(l.Splices)+1)
				l.Splices = append(l.Splices, harness.Splice{ID: harness.JointID(s), Implied: r.IntN(5) == 0})
				if len(made) > 0 {
					wire(harness.End{Splice: harness.JointID(made[r.IntN(len(made))])}, harness.End{Splice: harness.JointID(s)})
				}
				made = append(made, s)
				for range 2 + r.IntN(4) {
					wire(end(), harness.End{Splice: harness.JointID(s)})
				}
			}
			if len(made) > 2 && r.IntN(3) == 0 { // copper that runs in a ring
				wire(harness.End{Splice: harness.JointID(made[0])}, harness.End{Splice: harness.JointID(made[2])})
			}
		case 4: // a junction connector of two rows
			j := fmt.Sprint("J", len(l.Connectors))
			connector(harness.Half{Connector: harness.Connector{ID: j}, Links: [][]string{{"1", "2", "3"}, {"4", "5", "6"}}})
			for c := range 6 {
				wire(end(), harness.End{At: harness.Ref{Connector: j, Cavity: fmt.Sprint(c + 1)}})
			}
		case 5: // an in-line pair, one half sometimes somebody else's
			a, b := fmt.Sprint("X", len(l.Connectors), "a"), fmt.Sprint("X", len(l.Connectors), "b")
			connector(harness.Half{Connector: harness.Connector{ID: a}, Mate: b})
			connector(harness.Half{Connector: harness.Connector{ID: b}, Mate: a, Locked: r.IntN(2) == 0})
			for c := range 1 + r.IntN(3) {
				wire(end(), harness.End{At: harness.Ref{Connector: a, Cavity: fmt.Sprint(c + 1)}})
				wire(harness.End{At: harness.Ref{Connector: b, Cavity: fmt.Sprint(c + 1)}}, end())
			}
		case 6: // a wire that passes through a part
			p := parts[r.IntN(len(parts))]
			a, b := cavity(p), cavity(p)
			for i := range l.Connectors {
				if l.Connectors[i].ID == p {
					l.Connectors[i].Links = append(l.Connectors[i].Links, []string{a.At.Cavity, b.At.Cavity})
				}
			}
			wire(end(), a)
			wire(b, end())
		}
	}
	return l
}

// decided makes random decisions about a loom.
func decided(r *rand.Rand, l *harness.Loom) []thin.Decision {
	var out []thin.Decision
	some := func(on thin.Scope, id string, one int) {
		if r.IntN(one) == 0 {
			out = append(out, thin.Decision{On: on, ID: id, Choice: []thin.Choice{thin.Keep, thin.Goes}[r.IntN(2)]})
		}
	}
	for _, s := range []string{"emissions", "climate", "fuel", "lighting", "body", "restraint"} {
		some(thin.System, s, 3)
	}
	for _, d := range l.Devices {
		some(thin.Module, d.ID, 6)
	}
	for _, c := range l.Connectors {
		some(thin.Connector, c.ID, 8)
	}
	for _, w := range l.Wires {
		some(thin.Wire, string(w.ID), 25)
	}
	return out
}
