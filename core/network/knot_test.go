package network_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"draxel/core/network"
)

// A knot that no vehicle has is refused in a moment, and not ordered for hours.
func TestAKnotIsRefused(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 6))
	var b network.Builder
	for i := range 12000 {
		b.Node(fmt.Sprint("n", i))
	}
	for i := range 40000 {
		b.Add(network.Element{Name: fmt.Sprint("w", i), A: network.Node(r.IntN(12000)), B: network.Node(r.IntN(12000)),
			Ohms: 1})
	}
	if _, err := b.Network(); err == nil {
		t.Error("a knot of 40,000 cables between 12,000 points is ordered")
	}
}

func TestWhatCannotBe(t *testing.T) {
	for name, e := range map[string]network.Element{
		"no resistance": {Name: "x", A: 1}, "below nothing": {Name: "x", A: 1, Ohms: -1}, "no number": {Name: "x",
			A: 1, Ohms: math.NaN()},
		"no node": {Name: "x", A: 7, Ohms: 1}, "no relay": {Name: "x", A: 1, Ohms: 1, Gate: network.Gate{Relay: 3}},
		"endless": {Name: "x", A: 1, Ohms: math.Inf(1)}, "a limit below 0": {Name: "x", A: 1, Ohms: 1, Limit: -1},
	} {
		var b network.Builder
		b.Node("one")
		b.Add(e)
		if _, err := b.Network(); err == nil {
			t.Errorf("%s: drawn", name)
		}
	}
	var b network.Builder
	b.Node("one")
	b.Relay(network.Relay{Name: "K", Coil: 4, PullIn: 8, DropOut: 2})
	if _, err := b.Network(); err == nil {
		t.Error("a relay without a coil is drawn")
	}
	s, err := relayed(t, false).Solve(network.Condition{})
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range []network.Fault{{Do: network.Open, Element: "nothing"}, {Do: network.Short, A: "plus",
		B: "nowhere"},
		{Do: network.Worse, Element: "own", Ohms: -1}, {Do: network.Weak, Volts: -4}, {Do: network.Stuck,
			Element: "own"}, {Do: "melt"}} {
		if _, err := s.With(f); err == nil {
			t.Errorf("%v is taken", f)
		}
	}
}

// stays gives the state of a relay that holds itself when the battery falls to 1.5 V.
func stays(n *network.Network) (*network.State, error) {
	s, err := n.Solve(network.Condition{On: map[string]bool{"button": true}})
	if err != nil {
		return nil, err
	}
	return s.With(network.Fault{Do: network.Force, Element: "button"}, network.Fault{Do: network.Weak, Volts: 1.5})
}
