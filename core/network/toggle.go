package network

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/signal"
)

// isSwitch says whether the wires of a device make it a switch: more are those of a switch than are not, what feeds or
// grounds it aside.
func isSwitch(all []pin) bool {
	are, others := 0, 0
	for i := range all {
		switch p := &all[i]; {
		case signal.Switches(p.Device) && p.Role == signal.SwitchInput:
			are++
		case p.Role == signal.Ground, p.Role == signal.SensorGround, p.Role == signal.Battery, p.Role == signal.Ignition,
			p.Role == signal.SensorSupply:
		case p.Role == signal.Load && feedWords.MatchString(p.text):
		default:
			others++
		}
	}
	return are > others
}

// toggle draws a switch that is a device of the harness: open until somebody works it, between what it is fed or
// grounded by and each of its other wires. One with a single wire is left for later: see alone.
func (d *drawing) toggle(dev *harness.Device, all []pin) {
	rank := func(p pin) int {
		switch p.Role {
		case signal.Battery, signal.Ignition, signal.SensorSupply:
			return 0
		case signal.Ground, signal.SensorGround:
			return 1
		case signal.SwitchInput:
			return 3
		}
		return 2
	}
	pins := slices.Clone(all)
	slices.SortStableFunc(pins, func(a, b pin) int {
		if feedWords.MatchString(a.text) != feedWords.MatchString(b.text) { // "brake lamp switch feed" is its common
			if feedWords.MatchString(a.text) {
				return -1
			}
			return 1
		}
		return cmp.Compare(rank(a), rank(b))
	})
	common, rest := pins[0].n, pins[1:]
	if len(rest) == 0 {
		d.single = append(d.single, oneWire{dev, pins[0].n})
		return
	}
	d.out.Own = append(d.out.Own, dev.ID)
	for i, p := range rest {
		name := dev.ID
		if i > 0 {
			name = fmt.Sprint(dev.ID, number(i))
		}
		d.b.Add(Element{Name: name, Kind: Switch, A: common, B: p.n, Ohms: SwitchOhms, Gate: Gate{Switch: dev.ID}})
	}
}

// oneWire is a switch that one wire comes to.
type oneWire struct {
	device *harness.Device
	at     Node
}

// alone draws the switches that one wire comes to: they ground it by their case. Where that wire is fed it would be
// a short by the plan's own guess: what such a switch leads on to is a wire that nobody has listed, and nothing is
// reckoned behind it.
func (d *drawing) alone() {
	if len(d.single) == 0 {
		return
	}
	fed := d.fed()
	for _, s := range d.single {
		id := s.device.ID
		if fed[find(d.b.merged, int32(s.at))] {
			d.out.Open = append(d.out.Open, id)
			d.out.Assumed = append(d.out.Assumed,
				fmt.Sprintf("%s has one wire, and that is fed: what it leads on to is not listed, and nothing is "+
					"reckoned there", id))
			continue
		}
		d.out.Own = append(d.out.Own, id)
		d.b.Add(Element{Name: id, Kind: Switch, A: d.point(d.ground(s.device)), B: s.at, Ohms: SwitchOhms,
			Gate: Gate{Switch: id}})
	}
}

// fed gives the heads of the nodes that a battery or an alternator comes to through what hands current on, open or
// closed. Insides of units are not entered.
func (d *drawing) fed() map[int32]bool {
	head := func(n Node) int32 { return find(d.b.merged, int32(n)) }
	next := map[int32][]int32{}
	seen := map[int32]bool{head(Reference): true}
	var queue []int32
	for i := range d.b.elements {
		e := &d.b.elements[i]
		_, inside := d.out.Device[int32(i)]
		switch a, b := head(e.A), head(e.B); {
		case e.Kind == Source && !inside && !seen[a]:
			seen[a] = true
			queue = append(queue, a)
		case e.Kind.Hands() && !d.out.Inner[e.A] && !d.out.Inner[e.B]:
			next[a], next[b] = append(next[a], b), append(next[b], a)
		}
	}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, n := range next[queue[0]] {
			if !seen[n] {
				seen[n] = true
				queue = append(queue, n)
			}
		}
	}
	delete(seen, head(Reference))
	return seen
}
