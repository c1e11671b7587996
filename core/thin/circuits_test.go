package thin_test

import (
	"math/rand/v2"
	"testing"

	"draxel/core/circuit"
	"draxel/core/harness"
)

// Circuits are what gonum's connected components say they are.
func TestCircuitsAreConnectedComponents(t *testing.T) {
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 7))
		l := made(r, 4+r.IntN(120))
		ours := circuit.Circuits(l)
		theirs := components(l, map[harness.WireID]bool{}, func(string) bool { return false })
		same := map[int]int{}
		other := map[int]int{}
		for i, w := range l.Wires {
			for _, e := range w.Ends {
				c, ok := theirs[e.At]
				if !ok {
					continue
				}
				if was, known := same[ours[i]]; known && was != c {
					t.Fatalf("seed %d: wire %s is in two of their components and one of our circuits", seed, w.ID)
				}
				if was, known := other[c]; known && was != ours[i] {
					t.Fatalf("seed %d: wire %s is in one of their components and two of our circuits", seed, w.ID)
				}
				same[ours[i]], other[c] = c, ours[i]
			}
		}
	}
}
