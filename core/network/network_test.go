package network_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"gonum.org/v1/gonum/mat"

	"draxel/core/network"
)

// The volts are those of the dense equations, written out here element by element, on thousands of small networks whose
// switches and relays are as they came to rest.
func TestAgainstDenseEquations(t *testing.T) {
	worst := 0.0
	for seed := range uint64(3000) {
		r := rand.New(rand.NewPCG(seed, 1))
		n := made(t, r, 4+r.IntN(24), false)
		s, err := n.Solve(anyCondition(r))
		if err != nil {
			t.Fatal(err)
		}
		heads := n.Heads()
		size := len(n.Names)
		g, rhs := mat.NewDense(size, size, nil), mat.NewVecDense(size, nil)
		fed := make([]bool, size)
		fed[0] = true
		for range size { // what conducting elements join to the reference
			for i, e := range n.Elements {
				if a, b := heads[e.A], heads[e.B]; s.Conducts(int32(i)) && fed[a] != fed[b] {
					fed[a], fed[b] = true, true
				}
			}
		}
		for i, e := range n.Elements {
			if !s.Conducts(int32(i)) {
				continue
			}
			ohms := e.Ohms
			if e.Kind == network.Copper && s.Condition.Celsius != 0 {
				ohms *= 1 + 0.00393*(s.Condition.Celsius-20)
			}
			a, b := int(heads[e.A]), int(heads[e.B])
			g.Set(a, a, g.At(a, a)+1/ohms)
			g.Set(b, b, g.At(b, b)+1/ohms)
			g.Set(a, b, g.At(a, b)-1/ohms)
			g.Set(b, a, g.At(b, a)-1/ohms)
			if e.Kind == network.Source {
				rhs.SetVec(a, rhs.AtVec(a)+e.Volts/ohms)
				rhs.SetVec(b, rhs.AtVec(b)-e.Volts/ohms)
			}
		}
		for i := range size {
			if !fed[heads[i]] || heads[i] == 0 || int(heads[i]) != i {
				for k := range size {
					g.Set(i, k, 0)
					if fed[heads[i]] || int(heads[i]) != i {
						continue
					}
					g.Set(k, i, 0)
				}
				g.Set(i, i, 1)
				rhs.SetVec(i, 0)
			}
		}
		var v mat.VecDense
		if err := v.SolveVec(g, rhs); err != nil && v.Len() != size {
			t.Fatal(err)
		}
		for i := range size {
			if s.Floating[i] == fed[heads[i]] {
				t.Fatalf("seed %d: %s is floating %v, joined to the reference %v", seed, n.Names[i], s.Floating[i],
					fed[heads[i]])
			}
			if fed[heads[i]] {
				worst = max(worst, math.Abs(s.Volts[i]-v.AtVec(int(heads[i]))))
			}
		}
		if worst > 1e-4 { // the dense equations themselves lose as much, between 0.4 mΩ and 1 MΩ
			t.Fatalf("seed %d: the volts differ by %g", seed, worst)
		}
	}
	t.Logf("the volts differ by at most %.2g", worst)
}

// Kirchhoff's laws hold on networks with every kind of element: what flows into a node flows out, and of a node's volts
// there is one. A diode carries no current back and a limited source no more than its limit.
func TestKirchhoff(t *testing.T) {
	relays, buzz := 0, 0
	for seed := range uint64(1500) {
		r := rand.New(rand.NewPCG(seed, 2))
		n := made(t, r, 10+r.IntN(120), true)
		s, err := n.Solve(anyCondition(r))
		if err != nil {
			t.Fatal(err)
		}
		if s.Unsettled {
			t.Errorf("seed %d: no volts that everything agrees with", seed)
		}
		for i := range n.Elements { // lamps, by the rule itself
			if e := &n.Elements[i]; e.Kind == network.Lamp && s.Conducts(int32(i)) {
				v := math.Abs(s.Across(int32(i)))
				want := e.Volts / e.Ohms * math.Pow(v/e.Volts, 0.55)
				if v < e.Volts*math.Pow(0.1, 1/0.45) {
					want = v / (0.1 * e.Ohms)
				}
				if math.Abs(math.Abs(s.Amps(int32(i)))-want) > 1e-8 {
					t.Fatalf("seed %d: %s takes %g A at %g V, want %g", seed, e.Name, s.Amps(int32(i)), v, want)
				}
			}
		}
		kirchhoff(t, seed, s)
		for i, on := range s.Pulled {
			if v := math.Abs(s.Across(n.Relays[i].Coil)); len(s.Buzzes) == 0 && s.Conducts(n.Relays[i].Coil) &&
				(on && v < n.Relays[i].DropOut || !on && v >= n.Relays[i].PullIn) {
				t.Errorf("seed %d: %s has pulled %v at %.2f V", seed, n.Relays[i].Name, on, v)
			}
			if on {
				relays++
			}
		}
		buzz += len(s.Buzzes)
	}
	if relays < 500 {
		t.Errorf("%d relays pulled", relays)
	}
	t.Logf("%d relays pulled, %d buzz", relays, buzz)
}

func kirchhoff(t *testing.T, seed uint64, s *network.State) {
	t.Helper()
	n, heads := s.Network, s.Network.Heads()
	sum, gross := make([]float64, len(n.Names)), make([]float64, len(n.Names))
	for i := range n.Elements {
		e, a := &n.Elements[i], s.Amps(int32(i))
		if e.Kind == network.Source {
			a = -a
		}
		sum[heads[e.A]] -= a
		sum[heads[e.B]] += a
		gross[heads[e.A]] += math.Abs(a)
		gross[heads[e.B]] += math.Abs(a)
		switch {
		case e.Kind == network.Diode && a < -1e-9:
			t.Fatalf("seed %d: %s carries %g A back", seed, e.Name, a)
		case e.Kind == network.Source && e.Limit > 0 && -a > e.Limit*(1+1e-6):
			t.Fatalf("seed %d: %s gives %g A of %g", seed, e.Name, -a, e.Limit)
		case !s.Conducts(int32(i)) && a != 0:
			t.Fatalf("seed %d: %s is open and carries %g A", seed, e.Name, a)
		}
	}
	for i, a := range sum {
		if math.Abs(a) > 1e-6+1e-8*gross[i] {
			t.Fatalf("seed %d: %g A are lost at %s, where %g A meet", seed, a, n.Names[i], gross[i])
		}
	}
	for _, f := range s.Condition.Faults {
		if f.Do == network.Short {
			t.Fatal("touches are not counted here")
		}
	}
}

// A state with a fault is that of the network solved anew in the condition with the fault, and one of which the fault
// is an element like any other.
func TestAFaultIsAnEdit(t *testing.T) {
	worst := 0.0
	same := func(seed uint64, what string, a, b *network.State) {
		t.Helper()
		if !slices.Equal(a.Pulled, b.Pulled) || !slices.Equal(a.Floating[:len(b.Floating)], b.Floating) {
			t.Fatalf("seed %d, %s: relays or floating nodes differ", seed, what)
		}
		for i := range b.Volts {
			if !b.Floating[i] {
				worst = max(worst, math.Abs(a.Volts[i]-b.Volts[i]))
			}
		}
		if worst > 1e-6 {
			t.Fatalf("seed %d, %s: %g V", seed, what, worst)
		}
	}
	for seed := range uint64(800) {
		r := rand.New(rand.NewPCG(seed, 3))
		n := made(t, r, 10+r.IntN(60), seed%2 == 0)
		c := anyCondition(r)
		base, err := n.Solve(c)
		if err != nil {
			t.Fatal(err)
		}
		some := func() string { return n.Elements[r.IntN(len(n.Elements))].Name }
		node := func() string { return n.Names[r.IntN(len(n.Names))] }
		for _, f := range []network.Fault{{Do: network.Open, Element: some()}, {Do: network.Worse, Element: some(),
			Ohms: r.Float64()},
			{Do: network.Short, A: node(), B: node(), Ohms: 0.01 + r.Float64()}, {Do: network.Force, Element: "s1",
				On: true}} {
			with, err := base.With(f)
			if err != nil {
				t.Fatal(err)
			}
			c.Faults = []network.Fault{f}
			anew, err := n.Follow(base, c)
			if err != nil {
				t.Fatal(err)
			}
			if len(with.Buzzes)+len(anew.Buzzes)+len(with.Race)+len(anew.Race) > 0 {
				continue
			}
			same(seed, f.String(), with, anew)
		}
	}
	t.Logf("by %.2g V at most", worst)
}

// Two touches and an open wire at once are the network drawn with them.
func TestTouchesAreElements(t *testing.T) {
	for seed := range uint64(400) {
		draw := func(more ...network.Element) *network.Network {
			r := rand.New(rand.NewPCG(seed, 4))
			var b network.Builder
			for i := range 12 {
				b.Node(fmt.Sprint("n", i))
			}
			b.Add(network.Element{Name: "battery", Kind: network.Source, A: 1, B: 0, Ohms: 0.01, Volts: 12})
			for i := range 12 {
				b.Add(network.Element{Name: fmt.Sprint("w", i), Kind: network.Copper, A: network.Node(r.IntN(13)),
					B: network.Node(r.IntN(13)), Ohms: 0.1 + r.Float64()})
			}
			for _, e := range more {
				b.Add(e)
			}
			n, err := b.Network()
			if err != nil {
				t.Fatal(err)
			}
			return n
		}
		r := rand.New(rand.NewPCG(seed, 5))
		a1, b1, a2, b2 := network.Node(r.IntN(13)), network.Node(r.IntN(13)), network.Node(r.IntN(13)),
			network.Node(r.IntN(13))
		n := draw()
		base, err := n.Solve(network.Condition{})
		if err != nil {
			t.Fatal(err)
		}
		got, err := base.With(network.Fault{Do: network.Short, A: n.Names[a1], B: n.Names[b1], Ohms: 0.3},
			network.Fault{Do: network.Short, A: n.Names[a2], B: n.Names[b2]}, network.Fault{Do: network.Open,
				Element: "w3"})
		if err != nil {
			t.Fatal(err)
		}
		want, err := draw(network.Element{Name: "t1", A: a1, B: b1, Ohms: 0.3}, network.Element{Name: "t2", A: a2,
			B: b2, Ohms: 0.001}).
			Solve(network.Condition{Faults: []network.Fault{{Do: network.Open, Element: "w3"}}})
		if err != nil {
			t.Fatal(err)
		}
		for i := range want.Volts {
			if got.Floating[i] != want.Floating[i] || !want.Floating[i] && math.Abs(got.Volts[i]-want.Volts[i]) > 1e-9 {
				t.Fatalf("seed %d: %s at %.12f V, floating %v; drawn %.12f V, %v", seed, n.Names[i], got.Volts[i],
					got.Floating[i], want.Volts[i], want.Floating[i])
			}
		}
	}
}

// By hand: a divider, a diode, a lamp cold and hot, a limited reference, a relay that holds itself and one that buzzes.
func TestByHand(t *testing.T) {
	var b network.Builder
	plus, mid, k, lamp, ref := b.Node("plus"), b.Node("mid"), b.Node("k"), b.Node("lamp"), b.Node("ref")
	b.Add(network.Element{Name: "battery", Kind: network.Source, A: plus, Ohms: 1e-6, Volts: 12})
	b.Add(network.Element{Name: "top", Kind: network.Load, A: plus, B: mid, Ohms: 1000})
	b.Add(network.Element{Name: "bottom", Kind: network.Load, A: mid, Ohms: 3000})
	b.Add(network.Element{Name: "diode", Kind: network.Diode, A: plus, B: k, Ohms: 0.01, Volts: 0.7})
	b.Add(network.Element{Name: "after", Kind: network.Load, A: k, Ohms: 11.29})
	b.Add(network.Element{Name: "feed", Kind: network.Copper, A: plus, B: lamp, Ohms: 1e-6})
	b.Add(network.Element{Name: "bulb", Kind: network.Lamp, A: lamp, Ohms: 144. / 21, Volts: 12})
	b.Add(network.Element{Name: "reference", Kind: network.Source, A: ref, Ohms: 0.1, Volts: 5, Limit: 0.05})
	b.Add(network.Element{Name: "short sensor", Kind: network.Load, A: ref, Ohms: 10})
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	s, err := n.Solve(network.Condition{Key: network.Run})
	if err != nil {
		t.Fatal(err)
	}
	for node, want := range map[network.Node]float64{plus: 12, mid: 9, k: 12 - 0.7 - 0.01, ref: 0.5} {
		if math.Abs(s.Volts[node]-want) > 1e-4 {
			t.Errorf("%s at %.5f V, want %.5f", n.Names[node], s.Volts[node], want)
		}
	}
	bulb, _ := n.Element("bulb")
	if a := s.Amps(bulb); math.Abs(a-21./12) > 1e-4 { // 21 W at 12 V
		t.Errorf("the bulb takes %.4f A", a)
	}
	cold, err := s.With(network.Fault{Do: network.Worse, Element: "feed", Ohms: 2000})
	if err != nil {
		t.Fatal(err)
	}
	if a, want := cold.Amps(bulb), 12/(2000+0.1*144./21); math.Abs(a-want) > 1e-7 { // cold: a tenth of its resistance
		t.Errorf("behind 2 kΩ it takes %.7f A, want %.7f", a, want)
	}
}

// relayed draws a battery, a switch and a relay whose coil is fed through its own contact, that of rest or that of
// work.
func relayed(t *testing.T, rest bool) *network.Network {
	t.Helper()
	var b network.Builder
	plus, coil, contact := b.Node("plus"), b.Node("coil"), b.Node("contact")
	b.Add(network.Element{Name: "battery", Kind: network.Source, A: plus, Ohms: 0.01, Volts: 12})
	c := b.Add(network.Element{Name: "coil", Kind: network.Load, A: coil, Ohms: 85})
	k := b.Relay(network.Relay{Name: "K", Coil: c, PullIn: 8, DropOut: 2})
	b.Add(network.Element{Name: "contact", Kind: network.Switch, A: plus, B: contact, Ohms: 0.005,
		Gate: network.Gate{Relay: k, Rest: rest}})
	b.Add(network.Element{Name: "own", Kind: network.Copper, A: contact, B: coil, Ohms: 0.01})
	b.Add(network.Element{Name: "button", Kind: network.Switch, A: plus, B: coil, Ohms: 0.01,
		Gate: network.Gate{Switch: "button"}})
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	return n
}

func TestRelaysHoldAndBuzz(t *testing.T) {
	hold := relayed(t, false)
	before, _ := hold.Solve(network.Condition{})
	pressed, _ := hold.Follow(before, network.Condition{On: map[string]bool{"button": true}})
	after, err := hold.Follow(pressed, network.Condition{})
	if err != nil || before.Pulled[0] || !pressed.Pulled[0] || !after.Pulled[0] || len(after.Buzzes) > 0 {
		t.Errorf("a relay that holds itself: %v %v %v, %v", before.Pulled, pressed.Pulled, after.Pulled, err)
	}
	if dead, err := after.With(network.Fault{Do: network.Dead, Element: "K"}); err != nil || dead.Pulled[0] {
		t.Errorf("dead it still holds: %v", err)
	}
	buzz, err := relayed(t, true).Solve(network.Condition{})
	if err != nil || !reflect.DeepEqual(buzz.Buzzes, []string{"K"}) {
		t.Errorf("a relay that takes its own coil away: buzzes %v, %v", buzz.Buzzes, err)
	}
	if weak, err := stays(hold); err != nil || weak.Pulled[0] {
		t.Errorf("at 1.5 V it still holds: %v", err)
	}
	// In crank the battery has 6 V: pulled in run it stays, from rest it does not pull.
	run, _ := hold.Solve(network.Condition{On: map[string]bool{"button": true}})
	stays, _ := hold.Follow(run, network.Condition{Battery: 6, On: map[string]bool{"button": true}})
	rests, _ := hold.Solve(network.Condition{Battery: 6, On: map[string]bool{"button": true}})
	if !stays.Pulled[0] || rests.Pulled[0] {
		t.Errorf("at 6 V: after run %v, from rest %v", stays.Pulled, rests.Pulled)
	}
}

// Equal conditions give equal states, to the last bit.
func TestDeterministic(t *testing.T) {
	n := made(t, rand.New(rand.NewPCG(9, 9)), 400, true)
	c := anyCondition(rand.New(rand.NewPCG(9, 10)))
	a, err := n.Solve(c)
	if err != nil {
		t.Fatal(err)
	}
	for range 3 {
		b, err := made(t, rand.New(rand.NewPCG(9, 9)), 400, true).Solve(c)
		if err != nil || !slices.Equal(a.Volts, b.Volts) {
			t.Fatalf("other volts, %v", err)
		}
	}
}
