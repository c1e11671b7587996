package network_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"draxel/core/network"
)

// BenchmarkNetwork draws and solves a network of so many wires: once, and in all four positions of the key with the
// engine standing and running.
func BenchmarkNetwork(b *testing.B) {
	for _, size := range []int{300, 3000, 30000} {
		n := made(b, rand.New(rand.NewPCG(uint64(size), 7)), size, true)
		c := network.Condition{Key: network.Run, Running: true, On: map[string]bool{"s0": true, "s1": true}}
		b.Run(fmt.Sprint(size), func(b *testing.B) {
			for b.Loop() {
				if _, err := n.Solve(c); err != nil {
					b.Fatal(err)
				}
			}
			b.ReportMetric(float64(len(n.Elements)), "elements")
		})
		b.Run(fmt.Sprint(size, "-eight"), func(b *testing.B) {
			for b.Loop() {
				n := made(b, rand.New(rand.NewPCG(uint64(size), 7)), size, true)
				for _, key := range network.Keys() {
					for _, running := range []bool{false, true} {
						c.Key, c.Running = key, running
						if _, err := n.Solve(c); err != nil {
							b.Fatal(err)
						}
					}
				}
			}
		})
	}
}

// BenchmarkWhatIf asks what if of a network of 3,000 wires: an open wire, a touch, a relay stuck.
func BenchmarkWhatIf(b *testing.B) {
	n := made(b, rand.New(rand.NewPCG(3000, 7)), 3000, true)
	s, err := n.Solve(network.Condition{Key: network.Run, Running: true, On: map[string]bool{"s0": true}})
	if err != nil {
		b.Fatal(err)
	}
	relay := ""
	for i, p := range s.Pulled {
		if p {
			relay = n.Relays[i].Name
		}
	}
	for name, f := range map[string]network.Fault{"open": {Do: network.Open, Element: "e40"},
		"touch":   {Do: network.Short, A: "P700", B: "body"},
		"between": {Do: network.Short, A: "P700", B: "P1900"}, "dead": {Do: network.Dead, Element: relay}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := s.With(f); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
