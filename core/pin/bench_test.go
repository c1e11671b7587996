package pin

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"draxel/core/harness"
)

// BenchmarkPin plans an arbitrary permutation of two connectors of 300 cavities. Extractions is the part of Plan that
// settles which terminals come out, which of them go round in circles and how many extractions are the least; all is
// Plan, with the order of moves and locks and the words.
func BenchmarkPin(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 2))
	h := harness.Work(harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(300)},
		{ID: "B", Cavities: harness.Numbered(300)}}))
	g := harness.Work(h.Look())
	cavities := h.Look().Cavities()
	for i, j := range r.Perm(len(cavities)) {
		t := harness.TerminalID(fmt.Sprintf("w%d", i))
		h.Seat(t, cavities[i])
		g.Seat(t, cavities[j])
	}
	in := Input{Now: h.Harness(), Wanted: g.Harness(), Limit: 1}
	b.Run("extractions", func(b *testing.B) {
		for b.Loop() {
			if newBoard(in).fewest(in.Limit) < 590 {
				b.Fatal("too few")
			}
		}
	})
	b.Run("all", func(b *testing.B) {
		for b.Loop() {
			if r, err := Plan(in); err != nil || r.Extractions != r.Fewest {
				b.Fatal(err)
			}
		}
	})
}
