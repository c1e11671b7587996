package thin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// offConnectors: what a connector that comes off carries that stays, and what is lost with it.
func (t *thinning) offConnectors() {
	carried := make([]apart, len(t.loom.Connectors))
	for x, h := range t.net.Halves {
		if h >= 0 && t.off(h) {
			w := circuit.Tip(x).Wire()
			carried[h].take(w, t.stays[w])
		}
	}
	told := map[string]bool{}
	for h := range t.loom.Connectors {
		if !t.off(int32(h)) {
			continue
		}
		c := &t.loom.Connectors[h]
		by := t.half[h].by
		if n := len(carried[h].stays); n > 0 && by != nil {
			severity, remedy := finding.Wrong, "Say why it goes, or keep it: a connector cut off by mistake costs a trace "+
				"for every wire it carried."
			if by.Reason != "" {
				severity, remedy = finding.Check, "The reason given: "+by.Reason
			}
			t.find("carries-kept", severity, c.ID, remedy, "Connector %s goes and carries %d wires that stay: %s.", c.ID, n,
				t.named(carried[h].stays)).Place = finding.Place{Of: "connector"}
		}
		if i, ok := t.net.Device(c.Device); ok && !told[c.Device] {
			told[c.Device] = true
			t.goingDevice(&t.loom.Devices[i], by, append(carried[h].goes, carried[h].stays...))
		}
	}
}

func (t *thinning) goingDevice(d *harness.Device, by *Decision, ws []int32) {
	if d.Kind == harness.Suppressor {
		t.find("suppressor", finding.Check, d.ID, "Keep it: without it ignition noise reaches sensors and the radio.",
			"%s looks as if it did nothing; it is a noise suppressor.", d.ID).Place = finding.Place{Of: "module"}
	}
	if by != nil && by.On != Module && (d.Owner == harness.Body || d.Owner == harness.Driveline) {
		t.find("rides-along", finding.Note, d.ID,
			"Make sure that it is really not wanted; it is decided by what it rides in.",
			"%s belongs to the %s and goes with %s %s.", d.ID, d.Owner, by.On, by.ID).Place = finding.Place{Of: "module"}
	}
	for _, w := range ws {
		if dev := t.loom.Wires[w].Signal.Device; (dev == "canh" || dev == "canl") && circuitSize(t.net, w) > 2 {
			t.find("bus-end", finding.Check, d.ID, "Measure across the pair with power off: 60 Ω is right, 120 Ω says that "+
				"one end is missing (ISO 11898-2).", "%s sits on a data bus; if its end of the bus goes with it, the rest loses "+
				"its 120 Ω.", d.ID).Place = finding.Place{Of: "module"}
			break
		}
	}
}

// circuitSize counts the terminals that a wire's circuit has, up to four.
func circuitSize(n *circuit.Graph, w int32) int {
	seen, terminals := map[int32]bool{n.Ends[w][0]: true}, 0
	for queue := []int32{n.Ends[w][0]}; len(queue) > 0 && terminals < 4; queue = queue[1:] {
		if n.Nodes[queue[0]].Kind == circuit.Terminal {
			terminals++
		}
		for _, x := range n.Tips(queue[0]) {
			if o := n.Far(x); !seen[o] {
				seen[o] = true
				queue = append(queue, o)
			}
		}
	}
	return terminals
}

// passing: wires that only pass through something that goes, and factory wires that somebody cut.
func (t *thinning) passing() {
	for i := range t.result.Joints {
		j := &t.result.Joints[i]
		if j.Fate != Rejoin {
			continue
		}
		severity, what := finding.Check, "wires"
		for _, x := range t.net.Tips(j.node) {
			if l := signal.Legal(&t.loom.Wires[x.Wire()].Signal); l != "" && t.stays[x.Wire()] {
				severity, what = finding.Wrong, "wires of the "+l
			}
		}
		if d := t.net.DeviceOf(j.node); d != nil && d.Added != "" {
			t.find("factory-rejoined", finding.Note, string(j.ID), "",
				"%s was added by %s, who cut a factory wire for it: %s are "+
					"joined again.", d.ID, d.Added, strings.Join(harness.Names(j.Stays), ", ")).Place = finding.Place{Of: "joint"}
			continue
		}
		t.find("passes-through", severity, string(j.ID), "The plan joins them where it comes off; check that nothing "+
			"inside it "+
			"switched them.", "The %s %s only pass through %s, which goes.", what, strings.Join(harness.Names(j.Stays), ", "),
			refs(j.At)).Place = finding.Place{Of: "joint"}
	}
}

// doubtful: wires pulled both ways, decisions that cannot hold, and what the law may say.
func (t *thinning) doubtful() {
	var contested []int32
	laws := map[string][]int32{}
	for w := range t.result.Wires {
		v := &t.result.Wires[w]
		if v.Contested {
			contested = append(contested, int32(w))
		}
		if v.Choice != Goes {
			continue
		}
		if l := signal.Legal(&t.loom.Wires[w].Signal); l != "" {
			laws[l] = append(laws[l], int32(w))
		}
	}
	if len(contested) > 0 {
		t.find("contested", finding.Check, string(t.loom.Wires[contested[0]].ID),
			"Decide these wires one by one; until then they stay.", "%d wires have one end that goes and one that is kept or "+
				"undecided: %s.", len(contested), t.named(contested))
	}
	names := make([]string, 0, len(laws))
	for l := range laws {
		names = append(names, l)
	}
	slices.Sort(names)
	for _, l := range names {
		t.find("law", finding.Check, string(t.loom.Wires[laws[l][0]].ID),
			"Check local rules first, and get an engineer's certificate where one is required.",
			"%s: %d wires go. To remove it may be unlawful on the road.", strings.ToUpper(l[:1])+l[1:], len(laws[l]))
	}
	for _, h := range t.torn {
		t.find("pair-contested", finding.Check, t.loom.Connectors[h].ID, "Decide both halves alike.",
			"%s goes and %s is kept: they are two halves of one plug, and stay.", t.loom.Connectors[h].ID,
			t.loom.Connectors[h].Mate).Place = finding.Place{Of: "connector"}
	}
	t.leftAlone()
	t.decisionsThatCannotHold()
}

// leftAlone names what stays although it was decided away, since it carries what is left to qualified hands, and the
// splices that feed it and lose other legs.
func (t *thinning) leftAlone() {
	for h := range t.loom.Connectors {
		by := t.half[h].by
		if !t.guard.Plugs[h] || by == nil || by.Choice != Goes {
			continue
		}
		t.find("left-alone", finding.Check, t.loom.Connectors[h].ID, "Battery off, wait as the maker says, never probe "+
			"it with a meter; whether it may come off is for qualified hands. Its other wires are cut behind it and sealed.",
			"Connector %s stays: it carries a restraint or high-voltage circuit. Its other cavities follow what was decided.",
			t.loom.Connectors[h].ID).Place = finding.Place{Of: "connector"}
	}
	for i := range t.result.Joints {
		j := &t.result.Joints[i]
		if !t.guard.Nodes[j.node] || len(j.Goes) == 0 {
			continue
		}
		t.find("shared-splice", finding.Check, string(j.ID), "Battery off and wait as the maker says. Cut only the dead "+
			"legs, "+
			"away from it, and seal them; leave the "+string(j.Kind)+" itself alone.",
			"%s belongs to a restraint or high-voltage circuit too, and %s goes.", j.ID,
			strings.Join(harness.Names(j.Goes), ", ")).Place = finding.Place{Of: "joint"}
	}
}

func (t *thinning) decisionsThatCannotHold() {
	verify := 0
	for i := range t.in.Decisions {
		d := &t.in.Decisions[i]
		if d.Verify != "" {
			verify++
			continue
		}
		if d.Choice == Undecided {
			continue
		}
		if why := t.Refuses(*d); why != "" {
			t.find("decision-lost", finding.Check, d.ID, "Look at it again and decide anew.",
				"It was decided that %s %s %s, but %s.", d.On, d.ID, map[Choice]string{Keep: "is kept", Goes: "goes"}[d.Choice],
				why)
		}
	}
	if verify > 0 {
		t.find("to-be-verified", finding.Check, "", "Look at each and take it over or reopen it; until then it counts for "+
			"nothing.", "%d decisions were brought from an earlier job and nobody has verified them here.", verify)
	}
}

// wireNumber files the wires by their ids, when somebody first asks.
func (t *thinning) wireNumber() map[harness.WireID]int32 {
	t.filing.Do(func() {
		t.number = make(map[harness.WireID]int32, len(t.loom.Wires))
		for w := range t.loom.Wires {
			t.number[t.loom.Wires[w].ID] = int32(w)
		}
	})
	return t.number
}

// Refuses says why a decision cannot be taken, empty when it can.
func (r *Result) Refuses(d Decision) string { return r.t.Refuses(d) }

// Refuses says why a decision cannot be taken, empty when it can.
func (t *thinning) Refuses(d Decision) string {
	switch d.On {
	case System:
		if d.ID == "restraint" || d.ID == "high-voltage" {
			return "it is left to qualified hands"
		}
		if !slices.ContainsFunc(t.result.Systems, func(s SystemLine) bool { return s.System == d.ID }) {
			return "there is no such system"
		}
	case Module:
		i, ok := t.net.Device(d.ID)
		if !ok {
			return "there is no such module"
		}
		if t.guard.Devices[i] {
			return "it is left to qualified hands"
		}
	case Connector:
		h, ok := t.net.Half(d.ID)
		if !ok {
			return "there is no such connector"
		}
		if t.loom.Connectors[h].Locked {
			return "it is somebody else's"
		}
		if d.Choice == Goes && t.guard.Plugs[h] && (t.loom.Connectors[h].Mate != "" || t.closed(h)) {
			return "it carries a restraint or high-voltage circuit, which is left to qualified hands"
		}
	case Wire:
		w, ok := t.wireNumber()[harness.WireID(d.ID)]
		if !ok {
			return "there is no such wire"
		}
		if t.guard.Wires[w] {
			return "it belongs to or feeds a restraint or high-voltage circuit, which is left to qualified hands"
		}
	case Joint:
		return "what becomes of a splice follows from its legs"
	default:
		return fmt.Sprintf("nothing is decided about a %s", d.On)
	}
	return ""
}
