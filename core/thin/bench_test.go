package thin_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"draxel/core/thin"
)

// BenchmarkThin computes everything that follows from the decisions about a harness of so many wires: circuits, what is
// inherited, the verdicts of wires and splices, the findings and the steps.
func BenchmarkThin(b *testing.B) {
	for _, wires := range []int{300, 3000, 30000} {
		b.Run(fmt.Sprint(wires), func(b *testing.B) {
			r := rand.New(rand.NewPCG(uint64(wires), 1))
			l := made(r, wires)
			in := thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()}
			b.ReportAllocs()
			var result *thin.Result
			for b.Loop() {
				result = thin.Compute(in)
			}
			b.ReportMetric(float64(len(l.Splices)), "splices")
			b.ReportMetric(float64(len(result.Steps)+len(result.Extract)), "steps")
		})
	}
}
