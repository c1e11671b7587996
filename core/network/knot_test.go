package network_test

import (
	"fmt"
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
		b.Add(network.Element{Name: fmt.Sprint("w", i), A: network.Node(r.IntN(12000)), B: network.Node(r.IntN(12000)), Ohms: 1})
	}
	if _, err := b.Network(); err == nil {
		t.Error("a knot of 40,000 cables between 12,000 points is ordered")
	}
}
