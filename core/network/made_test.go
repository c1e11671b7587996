package network_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"draxel/core/network"
)

// made draws a network at random: a fed tree of copper with contacts, fuses and switches, loads and lamps to ground,
// some loops, diodes, relays, limited references, an alternator, and a few pieces that nothing joins to the rest.
func made(t testing.TB, r *rand.Rand, size int, bent bool) *network.Network {
	t.Helper()
	var b network.Builder
	name := func(i int) string { return fmt.Sprintf("P%d", i) }
	add := func(e network.Element) int32 { return b.Add(e) }
	plus, body := b.Node("battery +"), b.Node("body")
	add(network.Element{Name: network.BatteryName, Kind: network.Source, A: plus, B: network.Reference,
		Ohms: 0.006, Volts: 12.6})
	add(network.Element{Name: "strap", Kind: network.Copper, A: body, B: network.Reference, Ohms: 0.0004})
	nodes := []network.Node{plus}
	pick := func() network.Node { return nodes[r.IntN(len(nodes))] }
	near := func() network.Node { return nodes[r.IntN(min(len(nodes), 12))] } // a harness loops through its feeds
	relays := 0
	for i := range size {
		n := b.Node(name(i))
		from := pick()
		if r.IntN(12) == 0 {
			from = b.Node(fmt.Sprintf("alone %d", i/9))
			nodes = append(nodes, from)
		}
		e := network.Element{Name: fmt.Sprintf("e%d", i), A: from, B: n, Ohms: 0.002 + 0.05*r.Float64()}
		kind := r.IntN(9)
		if size > 200 && kind == 4 && r.IntN(8) > 0 { // a whole harness has few diodes
			kind = 8
		}
		switch kind {
		case 0:
			e.Kind = network.Fuse
		case 1:
			e.Kind, e.Gate = network.Switch, network.Gate{Key: network.Key(1 + r.IntN(15))}
		case 2:
			e.Kind, e.Gate = network.Switch, network.Gate{Switch: fmt.Sprintf("s%d", r.IntN(4)), Rest: r.IntN(2) == 0}
		case 3:
			e.Kind, e.Ohms = network.Contact, 0.0005+0.004*r.Float64()
		case 4:
			if bent {
				e.Kind, e.Volts = network.Diode, 0.65
			}
		}
		add(e)
		nodes = append(nodes, n)
		hangs := r.IntN(7)
		if size > 200 && (hangs == 5 || hangs == 2) && r.IntN(3) > 0 { // and fewer relays and lamps than loads
			hangs = 0
		}
		switch hangs {
		case 0, 1:
			add(network.Element{Name: fmt.Sprintf("load%d", i), Kind: network.Load, A: n, B: body,
				Ohms: 2 + 200*r.Float64()})
		case 2:
			if bent {
				add(network.Element{Name: fmt.Sprintf("lamp%d", i), Kind: network.Lamp, A: n, B: body,
					Ohms: 3 + 100*r.Float64(), Volts: 12})
			}
		case 3:
			add(network.Element{Name: fmt.Sprintf("high%d", i), Kind: network.Load, A: n, B: near(),
				Ohms: 1e4 + 1e6*r.Float64()})
		case 4:
			if r.IntN(3) == 0 {
				add(network.Element{Name: fmt.Sprintf("loop%d", i), Kind: network.Copper, A: n, B: near(),
					Ohms: 0.01 + r.Float64()})
			}
		case 5:
			if r.IntN(2) == 0 {
				coil := add(network.Element{Name: fmt.Sprintf("coil%d", i), Kind: network.Load, A: n, B: body,
					Ohms: 85})
				k := b.Relay(network.Relay{Name: fmt.Sprintf("K%d", i), Coil: coil, PullIn: 7.5, DropOut: 2})
				contact := b.Node(fmt.Sprintf("K%d 87", i))
				add(network.Element{Name: fmt.Sprintf("K%d contact", i), Kind: network.Switch, A: near(),
					B: contact, Ohms: 0.005,
					Gate: network.Gate{Relay: k, Rest: r.IntN(4) == 0}})
				add(network.Element{Name: fmt.Sprintf("K%d load", i), Kind: network.Load, A: contact, B: body,
					Ohms: 3 + 20*r.Float64()})
				relays++
			}
		case 6:
			if bent && r.IntN(4) == 0 {
				ref := b.Node(fmt.Sprintf("ref%d", i))
				add(network.Element{Name: fmt.Sprintf("reference%d", i), Kind: network.Source, A: ref, B: body,
					Ohms: 0.5, Volts: 5, Limit: 0.1})
				add(network.Element{Name: fmt.Sprintf("sensor%d", i), Kind: network.Load, A: ref, B: body,
					Ohms: 10 + 500*r.Float64()})
			}
		}
	}
	add(network.Element{Name: "alternator", Kind: network.Source, A: pick(), B: body, Ohms: 0.02, Volts: 14.2,
		Gate: network.Gate{Running: 1}})
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	return n
}

func anyCondition(r *rand.Rand) network.Condition {
	c := network.Condition{Key: network.Keys()[r.IntN(4)], Running: r.IntN(2) == 0, On: map[string]bool{}}
	for i := range 4 {
		c.On[fmt.Sprintf("s%d", i)] = r.IntN(2) == 0
	}
	if r.IntN(3) == 0 {
		c.Celsius = 85
	}
	return c
}
