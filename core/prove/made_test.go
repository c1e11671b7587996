package prove_test

import (
	"fmt"
	"math/rand/v2"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/prove"
)

// vehicle makes a random vehicle: a battery, a bus of fuses, a key, relays that a unit works, two plugs in line that
// look the same, two of the unit that do, and loads that are fed through the ones and grounded or switched through
// the others.
func vehicle(r *rand.Rand, loads int) *prove.Vehicle {
	var b network.Builder
	v := &prove.Vehicle{Where: map[string]string{}, Made: map[string]float64{}, Drives: map[string]string{}}
	node := func(format string, args ...any) network.Node { return b.Node(fmt.Sprintf(format, args...)) }
	wires := 0
	wire := func(x, y network.Node) {
		wires++
		name := fmt.Sprint("w", wires)
		b.Add(
			network.Element{Name: name, Wire: harness.WireID(name), Kind: network.Copper, A: x, B: y,
				Ohms: 0.02 + r.Float64()*0.06},
		)
	}
	plug := func(id string, unit bool, n int, like ...string) {
		p := prove.Plug{ID: id, Unit: unit, Like: like}
		for i := range n {
			p.Cavities = append(p.Cavities, fmt.Sprint(i+1))
		}
		v.Plugs = append(v.Plugs, p)
	}
	contact := func(at string) (wire, inside network.Node) {
		wire, inside = b.Place(network.WireSide(at), network.OfWire), b.Node(at)
		b.Add(network.Element{Name: network.ContactOf(at), Role: network.AtCavity, Of: at, Kind: network.Contact,
			A: wire, B: inside, Ohms: network.ContactOhms})
		return wire, inside
	}
	b.Add(
		network.Element{
			Name:  "battery",
			Kind:  network.Source,
			A:     node("battery +"),
			B:     network.Reference,
			Volts: 12.6,
			Ohms:  0.006,
		},
	)
	b.Add(
		network.Element{
			Name: "battery cable",
			Kind: network.Copper,
			A:    node("battery +"),
			B:    node("bus"),
			Ohms: 0.001,
		},
	)
	for i := range 3 {
		b.Add(network.Element{Name: fmt.Sprint("strap ", i+1), Kind: network.Copper, A: node("G%d", i+1),
			B:    network.Reference,
			Ohms: 0.002})
	}
	fuses := 4 + loads/6
	for i := range fuses {
		b.Add(
			network.Element{
				Name:  fmt.Sprint("fuse ", i+1),
				Kind:  network.Fuse,
				A:     node("bus"),
				B:     node("fuse %d out", i+1),
				Ohms:  0.005,
				Limit: 15,
			},
		)
	}
	b.Add(network.Element{Name: "key", Kind: network.Switch, A: node("fuse 1 out"), B: node("ignition"), Ohms: 0.01,
		Gate: network.Gate{Key: network.Run | network.Crank}})
	n := loads + 4
	plug("X", false, n, "Z")
	plug("Z", false, n, "X")
	plug("U", true, n, "V")
	plug("V", true, n, "U")
	cavity := 0
	through := func(shell string, from network.Node) network.Node { // along one cavity of a plug in line
		cavity++
		at := fmt.Sprint(shell, cavity)
		w, inside := contact(at)
		wire(from, w)
		return inside
	}
	outputs := map[string]bool{}
	// A relay that the unit works, its contact from a fuse.
	relays := 1 + loads/12
	for k := range relays {
		coil := b.Add(
			network.Element{Name: fmt.Sprint("relay ", k+1, " coil"), Kind: network.Load, A: node("K%d-86", k+1),
				B: node("K%d-85", k+1), Ohms: 85, Volts: 12},
		)
		v.Where[fmt.Sprint("relay ", k+1, " coil")] = fmt.Sprint("relay ", k+1)
		wire(node("ignition"), node("K%d-86", k+1))
		at := fmt.Sprintf("U%d", k+1)
		w, inside := contact(at)
		wire(node("K%d-85", k+1), w)
		b.Add(
			network.Element{Name: "output " + at, Kind: network.Switch, A: inside, B: node("unit ground"), Ohms: 0.05,
				Gate: network.Gate{Switch: at}},
		)
		outputs[at] = true
		g := b.Relay(network.Relay{Name: fmt.Sprint("relay ", k+1), Coil: coil, PullIn: 7.5, DropOut: 2.4})
		b.Add(network.Element{Name: fmt.Sprint("relay ", k+1, " contact"), Kind: network.Switch,
			A: node(
				"fuse %d out",
				2+k%(fuses-1),
			), B: node("relay %d out", k+1), Ohms: 0.02, Gate: network.Gate{Relay: g}})
	}
	wg, inside := contact(fmt.Sprintf("U%d", n))
	wire(node("G1"), wg)
	b.Add(
		network.Element{Name: "unit ground path", Kind: network.Load, A: inside, B: node("unit ground"), Ohms: 0.002},
	)
	for k := range loads {
		feed := node("ignition")
		switch r.IntN(3) {
		case 0:
			feed = node("fuse %d out", 2+r.IntN(fuses-1))
		case 1:
			feed = node("relay %d out", 1+r.IntN(relays))
		}
		in := through([]string{"X", "Z"}[r.IntN(2)], feed)
		id := fmt.Sprintf("D%d-", k+1)
		plug(fmt.Sprintf("D%d", k+1), false, 2)
		w1, d1 := contact(id + "1")
		w2, d2 := contact(id + "2")
		wire(in, w1)
		name := fmt.Sprint("load ", k+1)
		kind, ohms := network.Load, 6+r.Float64()*30
		b.Add(network.Element{Name: name, Kind: kind, A: d1, B: d2, Ohms: ohms, Volts: 12})
		v.Where[name] = name
		if r.IntN(2) == 0 || relays+k+1 >= n {
			wire(w2, node("G%d", 1+r.IntN(3)))
			continue
		}
		at := fmt.Sprintf("%s%d", []string{"U", "V"}[r.IntN(2)], relays+k+1)
		w, inside := contact(at)
		wire(w2, w)
		b.Add(
			network.Element{Name: "output " + at, Kind: network.Switch, A: inside, B: node("unit ground"), Ohms: 0.05,
				Gate: network.Gate{Switch: at}},
		)
		outputs[at] = true
		if k%5 == 0 {
			v.Drives[at] = fmt.Sprint("valve ", k+1)
		}
	}
	v.Studs = append(v.Studs, "battery +", "bus", "G1", "G2", "G3", "ignition")
	for i := range fuses {
		v.Studs = append(v.Studs, fmt.Sprintf("fuse %d out", i+1))
	}
	for k := range relays {
		v.Studs = append(
			v.Studs,
			fmt.Sprintf("K%d-85", k+1),
			fmt.Sprintf("K%d-86", k+1),
			fmt.Sprintf("relay %d out", k+1),
		)
	}
	net, err := b.Network()
	if err != nil {
		panic(err)
	}
	v.Net, v.Of = net, map[string][]int32{}
	for element, device := range v.Where {
		i, _ := net.Element(element)
		v.Of[device] = append(v.Of[device], i)
	}
	v.Usual = func(s prove.Setup) network.Condition {
		keys := map[string]network.Key{"run": network.Run, "crank": network.Crank, "off": network.Off}
		key := keys[s.Key]
		if key == 0 {
			key = network.Off
		}
		return network.Condition{Key: key, On: outputs}
	}
	return v
}
