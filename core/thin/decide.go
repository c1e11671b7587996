package thin

import (
	"cmp"

	"draxel/core/circuit"
	"draxel/core/harness"
)

// leaveAlone marks what is left to qualified hands: it stays, whatever is decided.
func (t *thinning) leaveAlone() {
	t.guard = t.net.Guard()
	for w, guarded := range t.guard.Wires {
		if guarded {
			t.forced[w] = Keep
		}
	}
}

// restrains says whether a connector plugs into a part of restraint or high voltage.
func (t *thinning) restrains(h int32) bool {
	d := t.net.Plugged[h]
	return d >= 0 && t.guard.Devices[d]
}

// closed says whether a connector is left to qualified hands with everything that is in it.
func (t *thinning) closed(h int32) bool {
	if t.restrains(h) {
		return true
	}
	for x, at := range t.net.Halves {
		if at == h && !t.guard.Wires[circuit.Tip(x).Wire()] {
			return false
		}
	}
	return true
}

// halves says, for each connector, what was decided about it as a whole: itself, else its device, else its device's
// system. What is somebody else's, and restraint and high voltage, is never decided.
func (t *thinning) halves() {
	t.half = make([]status, len(t.loom.Connectors))
	for h := range t.loom.Connectors {
		c := &t.loom.Connectors[h]
		d := t.net.Plugged[h]
		if c.Locked || t.restrains(int32(h)) {
			continue
		}
		if d := t.decided.connector[c.ID]; d != nil {
			t.half[h] = status{choice: d.Choice, by: d}
			continue
		}
		if d < 0 {
			continue
		}
		device := &t.loom.Devices[d]
		if d := t.decided.module[device.ID]; d != nil {
			t.half[h] = status{choice: d.Choice, by: d}
		} else if d := t.decided.system[device.System]; d != nil && device.System != "" && device.Kind != harness.Suppressor {
			t.half[h] = status{choice: d.Choice, by: d}
		}
	}
}

// statuses gives every node its status. A node that only hands copper on has none.
func (t *thinning) statuses() {
	t.node = make([]status, len(t.net.Nodes))
	for i := range t.net.Nodes {
		at := int32(i)
		switch n := &t.net.Nodes[i]; n.Kind {
		case circuit.Terminal:
			t.node[i] = t.terminalStatus(at)
		case circuit.Taped:
			t.node[i].soft = true
		case circuit.Contact:
			t.splitPair(at)
		case circuit.Unseen:
			if n.Half >= 0 { // it faces the empty cavity of an in-line pair
				t.splitPair(at)
				if t.off(n.Half) {
					t.node[i] = t.half[n.Half]
				}
			}
		case circuit.Splice, circuit.Link:
		}
	}
	if len(t.decided.wire) == 0 {
		return
	}
	for w := range t.loom.Wires {
		t.exception(int32(w))
	}
}

// terminalStatus: at a sensor or a lamp, what was decided about its connector. At a hub that is not to go, what was
// decided about the system of the wire, since keeping a control unit says nothing of each of its wires.
func (t *thinning) terminalStatus(at int32) status {
	var s status
	h := t.net.Nodes[at].Half
	if h >= 0 {
		s = t.half[h]
	}
	hub := t.net.Hub(at)
	if t.guard.Nodes[at] {
		return status{soft: hub}
	}
	if s.choice == Goes || !hub && s.choice != Undecided {
		return s
	}
	if h >= 0 && t.loom.Connectors[h].Locked {
		return status{soft: hub}
	}
	by := t.ofFunctions(at)
	if by == nil {
		return status{soft: hub}
	}
	return status{choice: by.Choice, by: by, weak: hub}
}

// ofFunctions gives what was decided about the systems of the wires in a cavity: of several that agree the first by
// name, none where they contradict each other.
func (t *thinning) ofFunctions(at int32) *Decision {
	var by *Decision
	for _, x := range t.net.Tips(at) {
		if t.loom.Wires[x.Wire()].Function == "" {
			continue
		}
		d := t.decided.system[t.wireSystem(x.Wire())]
		switch {
		case d == nil:
		case by == nil || d.Choice == by.Choice && d.ID < by.ID:
			by = d
		case d.Choice != by.Choice:
			return nil
		}
	}
	return by
}

// soften: where something smaller than a system was decided about a circuit, an end at a hub no longer follows the
// system: an oxygen sensor that is kept though the emissions go keeps its ends at the control unit.
func (t *thinning) soften() {
	narrow := make([]bool, t.net.Circuits)
	for i := range t.node {
		if by := t.node[i].by; by != nil && by.On != System {
			narrow[t.net.Nodes[i].Circuit] = true
		}
	}
	for i := range t.node {
		if t.node[i].weak && narrow[t.net.Nodes[i].Circuit] {
			t.node[i] = status{soft: true}
		}
	}
}

// splitPair lets the wires of one half of an in-line pair go when that half goes and the other is somebody else's.
// Where both halves are ours, a half that goes takes the other along and the wires are joined without the pair.
func (t *thinning) splitPair(at int32) {
	for _, c := range t.net.Nodes[at].Cavities {
		h, _ := t.net.Half(c.Connector)
		mate, known := t.net.Half(t.loom.Connectors[h].Mate)
		if !t.off(h) || !known || !t.loom.Connectors[mate].Locked {
			continue
		}
		for _, x := range t.net.Tips(at) {
			if t.net.End(x).At == c && !t.guard.Wires[x.Wire()] {
				t.forced[x.Wire()] = Goes
			}
		}
	}
}

// pairs takes the other half of an in-line pair along. Where that is to be kept the two contradict each other, and the
// pair stays until somebody says which is meant.
func (t *thinning) pairs() {
	for h := range t.loom.Connectors {
		mate, known := t.net.Half(t.loom.Connectors[h].Mate)
		if !known || !t.off(int32(h)) || t.loom.Connectors[mate].Locked {
			continue
		}
		switch held := t.guard.Plugs[mate]; {
		case held, t.half[mate].choice == Keep:
			t.half[h] = status{}
			t.torn = append(t.torn, int32(h))
		case t.half[mate].choice == Undecided:
			t.half[mate] = t.half[h]
		}
	}
}

// exception carries what was decided about a wire itself to its ends.
func (t *thinning) exception(w int32) {
	d := t.decided.wire[t.loom.Wires[w].ID]
	if d == nil || t.guard.Wires[w] {
		return
	}
	t.forced[w] = d.Choice
	for _, at := range t.net.Ends[w] {
		n := &t.net.Nodes[at]
		if n.Kind.Passes() || n.Kind == circuit.Terminal && len(t.net.Tips(at)) > 1 && d.Choice == Goes {
			continue
		}
		t.node[at] = status{choice: d.Choice, by: d}
	}
}

// wireSystem gives the system a wire belongs to: that of its function, else of the devices at its ends, hubs last. A
// device that it only passes through says nothing of it while anything else does: somebody's alarm sits in the
// factory's feed.
func (t *thinning) wireSystem(w int32) string {
	wire := &t.loom.Wires[w]
	if s := wire.Signal.System; s != "" && s != "power" {
		return s
	}
	best, through := wire.Signal.System, ""
	for _, at := range t.net.Ends[w] {
		if d := t.net.DeviceOf(at); d != nil && d.System != "" {
			if t.net.Nodes[at].Kind == circuit.Link {
				through = d.System
				continue
			}
			if !d.Kind.Hub() {
				return d.System
			}
			if best == "" {
				best = d.System
			}
		}
	}
	return cmp.Or(best, through)
}
