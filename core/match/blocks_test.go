package match_test

import (
	"math"
	"testing"

	"draxel/core/match"
)

// The tally of patterns by kinds is the tally pair by pair; and where only rows with something in common are
// compared, the same pairs are offered as where all are.
func TestBlocksOfferWhatAllPairsOffer(t *testing.T) {
	all := wordings(t)
	lines, other, apart := 0, 0, 0.0
	for k, rc := range recipes {
		for seed := range uint64(6) {
			p := madeFrom(all, rc, seed)
			if seed > 2 {
				grow(&p, 150*int(seed-1))
			}
			met := match.SameNames(p.from, p.to)
			whole, blocked := match.Crosswalk(p.from, p.to, met, nil), match.Blocked(p.from, p.to, met, nil)
			if counted, one := whole.Tallies(); counted != one {
				t.Fatalf("recipe %d, seed %d: tally %v, pair by pair %v", k, seed, counted, one)
			}
			for i := range whole.Lines {
				a, b := &whole.Lines[i], &blocked.Lines[i]
				lines++
				if a.Feeds() != b.Feeds() || a.Feeds() && a.To != b.To {
					other++
				}
				apart = max(apart, math.Abs(a.P-b.P)*boolean(a.To == b.To))
			}
		}
	}
	t.Logf("%d lines, %d offer another pair; probabilities of the same pair differ by at most %.3f",
		lines, other, apart)
	if float64(other) > 0.002*float64(lines) {
		t.Errorf("%d of %d lines offer another pair", other, lines)
	}
}

func boolean(b bool) float64 {
	if b {
		return 1
	}
	return 0
}
