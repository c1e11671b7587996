package handover_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"draxel/core/handover"
)

// minuteDays is a week in which one minute is worked on each of seven days: days and minutes of work are one.
var minuteDays = handover.Week{Days: 7, Hours: 1.0 / 60}

// By hand: a 3 and b 2, then c 4. A part of b comes on day 9, wanted at once: all waits for it, 9 + 2 + 4. A part of a
// that comes on day 5 may come 3 later still: c cannot begin before 11.
func TestPartThatAllWaitsFor(t *testing.T) {
	all := []handover.Effort{{ID: "a", Minutes: 3}, {ID: "b", Minutes: 2},
		{ID: "c", Minutes: 4, Needs: []string{"a", "b"}}}
	lines := []handover.OrderLine{{Key: "seal", Wait: 5, Steps: []string{"a"}},
		{Key: "pin", Wait: 9, Steps: []string{"b"}}}
	got := handover.Time(all, lines, &handover.Hours{}, &handover.Terms{Hands: 2}, minuteDays)
	if got.Least != 15 || len(got.Late) != 2 || len(got.Chain) != 2 || got.Chain[0].Part != "pin" {
		t.Fatalf("%+v", got)
	}
	for i, spare := range []float64{3, 0} {
		if math.Abs(got.Late[i].Spare-spare) > 1e-9 {
			t.Errorf("%s may come %v later still, by hand %v", got.Late[i].Key, got.Late[i].Spare, spare)
		}
	}
}

// How much later a part may come still is tried out: that late it moves nothing, a day later it moves the end by a day.
func TestLaterStillMovesTheEnd(t *testing.T) {
	r, tried := rand.New(rand.NewPCG(26, 11)), 0
	for range 200 {
		var all []handover.Effort
		var lines []handover.OrderLine
		for _, a := range randomWork(r, 3+r.IntN(8)) {
			all = append(all, handover.Effort{ID: a.ID, Minutes: a.Minutes, Needs: a.Needs})
			if r.IntN(3) == 0 {
				steps := []string{a.ID}
				if other := all[r.IntN(len(all))].ID; other != a.ID {
					steps = append(steps, other)
				}
				lines = append(lines, handover.OrderLine{Key: a.ID, Wait: 1 + r.IntN(30), Steps: steps})
			}
		}
		lay := func() handover.Timing {
			return handover.Time(all, lines, &handover.Hours{}, &handover.Terms{Hands: 1}, minuteDays)
		}
		was := lay()
		for _, late := range was.Late {
			for i := range lines {
				if lines[i].Key != late.Key {
					continue
				}
				wait := lines[i].Wait
				for _, more := range []float64{0, 1} {
					lines[i].Wait = wait + int(math.Round(late.Spare+more))
					if got := lay().Least; math.Abs(got-was.Least-more) > 1e-6 {
						t.Fatalf("%s, %v and %v later: ends at %v, was %v", late.Key, late.Spare, more, got, was.Least)
					}
				}
				lines[i].Wait = wait
				tried++
			}
		}
	}
	if tried < 200 {
		t.Errorf("only %d parts are late", tried)
	}
}
