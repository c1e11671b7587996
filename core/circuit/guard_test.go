package circuit_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/signal"
)

// What is left to qualified hands, as the sentences of Guard have it, worked out wire by wire.
func TestTheGuardByHand(t *testing.T) {
	guarded, free, stripped := 0, 0, 0
	for seed := range uint64(900) {
		l := madeLoom(rand.New(rand.NewPCG(seed, 73)))
		g, h := circuit.Draw(l), follow(l)
		got := g.Guard()
		want, circuits := byHand(l, g, h)
		for w := range l.Wires {
			if got.Wires[w] != want[w] {
				t.Fatalf("loom %d: %s (%s, %v – %v) is guarded: %v, by hand %v", seed, l.Wires[w].ID,
					l.Wires[w].Signal.System, l.Wires[w].Ends[0], l.Wires[w].Ends[1], got.Wires[w], want[w])
			}
			switch {
			case want[w]:
				guarded++
			case circuits[w]:
				stripped++
			default:
				free++
			}
		}
		for n := range g.Nodes {
			is := slices.ContainsFunc(g.Tips(int32(n)), func(x circuit.Tip) bool { return want[x.Wire()] })
			if got.Nodes[n] != is {
				t.Fatalf("loom %d: node %d is guarded: %v", seed, n, got.Nodes[n])
			}
		}
		for c := range l.Connectors {
			is := false
			for w := range l.Wires {
				is = is || want[w] && (l.Wires[w].Ends[0].At.Connector == l.Connectors[c].ID ||
					l.Wires[w].Ends[1].At.Connector == l.Connectors[c].ID)
			}
			if got.Plugs[c] != is {
				t.Fatalf("loom %d: %s is guarded: %v", seed, l.Connectors[c].ID, got.Plugs[c])
			}
		}
		for d, x := range l.Devices {
			if got.Devices[d] != (x.System == "restraint" || x.System == "high-voltage") {
				t.Fatalf("loom %d: %s is guarded: %v", seed, x.ID, got.Devices[d])
			}
		}
	}
	if guarded < 1000 || free < 1000 || stripped < 100 {
		t.Errorf("%d wires are guarded, %d beside them are not, %d have nothing to do with it", guarded, stripped, free)
	}
}

// byHand gives the wires that are guarded, and those with which restraint or high voltage is on one circuit.
func byHand(l *harness.Loom, g *circuit.Graph, h *hand) (marked, together []bool) {
	system := func(wire, end int) string { // of the device at an end
		if d := g.DeviceOf(g.Ends[wire][end]); d != nil {
			return d.System
		}
		return ""
	}
	n := len(l.Wires)
	marked, together = make([]bool, n), make([]bool, n)
	high, own := make([]bool, n), make([]bool, n)
	for w := range l.Wires {
		s := &l.Wires[w].Signal
		high[w] = s.Role == signal.HighVoltage || s.System == "high-voltage" || system(w, 0) == "high-voltage" ||
			system(w, 1) == "high-voltage"
		own[w] = s.Role == signal.Restraint || s.System == "restraint"
		marked[w] = high[w] || own[w] || system(w, 0) == "restraint" || system(w, 1) == "restraint"
	}
	begun := slices.Clone(marked)
	at := map[string][]int{} // by place: the wires that end there, one with both its ends twice
	for w := range l.Wires {
		for end := range 2 {
			at[h.place(w, end)] = append(at[h.place(w, end)], w)
		}
	}
	for more := true; more; { // what goes on where nothing else could be meant
		more = false
		for w := range l.Wires {
			for end := range 2 {
				k, here := h.kind(w, end), at[h.place(w, end)]
				if !marked[w] || k != circuit.Contact && (k != circuit.Splice && k != circuit.Link || len(here) != 2) {
					continue
				}
				for _, x := range here {
					more, marked[x] = more || !marked[x], true
				}
			}
		}
	}
	first := slices.Clone(marked)
	for w := range l.Wires {
		all := h.joined(w, -1)
		whole, fed, signalled := false, false, false
		source := func(x, end int) bool {
			d := g.DeviceOf(g.Ends[x][end])
			return h.kind(x, end) != circuit.Contact && d != nil && (d.Kind == harness.Fuses || d.Kind == harness.Grounds)
		}
		for x := range all {
			together[w] = together[w] || begun[x]
			whole, signalled = whole || high[x], signalled || own[x]
			fed = fed || source(x, 0) || source(x, 1)
		}
		if !together[w] {
			continue
		}
		anchored := func(x, end int) bool {
			return source(x, end) || h.kind(x, end) == circuit.Unseen ||
				slices.ContainsFunc(at[h.place(x, end)], func(y int) bool { return first[y] })
		}
		marked[w] = marked[w] || whole || !fed && signalled || fed && between(l, h, w, anchored)
	}
	return marked, together
}

// between says whether a wire lies on a way from one anchor to another, or on a ring: on either side of it there is
// one.
func between(l *harness.Loom, h *hand, wire int, anchored func(x, end int) bool) bool {
	for end := range 2 {
		places, wires := map[string]bool{h.place(wire, end): true}, map[int]bool{}
		found := anchored(wire, end)
		for more := true; more; {
			more = false
			for x := range l.Wires {
				if x == wire || wires[x] || !places[h.place(x, 0)] && !places[h.place(x, 1)] {
					continue
				}
				wires[x], more = true, true
				for k := range 2 {
					places[h.place(x, k)] = true
					found = found || anchored(x, k)
				}
			}
		}
		ring := places[h.place(wire, 1-end)] || len(wires) >= len(places) // more wires than a tree has
		if !found && !ring {
			return false
		}
	}
	return true
}
