package prove_test

import (
	"math/rand/v2"
	"testing"

	"draxel/core/prove"
)

// The fewest lines of the sheet find every single open, swap and touch of neighbours of random harnesses; the whole
// sheet finds what they find. Every fault is put into the network and every line is read there.
func TestTheSheetFindsEveryFault(t *testing.T) {
	looked, hidden := 0, 0
	for seed := range 1 + *jobs/3 {
		r := rand.New(rand.NewPCG(uint64(seed), 200))
		v := vehicle(r, 4+r.IntN(14))
		sheet, err := v.Sheet([]string{"off", "run", "crank"})
		if err != nil {
			t.Fatal(err)
		}
		if sheet.Fewest < sheet.Bound/2 || sheet.Fewest > 3*sheet.Bound {
			t.Errorf("vehicle %d: %d lines where %d are the least", seed, sheet.Fewest, sheet.Bound)
		}
		for i := range sheet.Lines {
			l := &sheet.Lines[i]
			if x, err := v.Expect(&l.Measure); err != nil || x != l.Expect ||
				!l.Band.Fits(&prove.MeterReading{Measure: l.Measure,
					Value: x.Value, Over: x.Over}) {
				t.Fatalf("vehicle %d: %s is to show %+v in %+v: %v", seed, l.Text(), l.Expect, l.Band, err)
			}
		}
		for _, c := range v.Causes() {
			switch c.Kind {
			case "open", "loose", "swap", "shell", "beside", "crossed", "short", "supply", "blown":
			default:
				continue
			}
			looked++
			found := false
			for i := range sheet.Lines {
				l := &sheet.Lines[i]
				if !l.First {
					continue
				}
				x, err := v.With(&l.Measure, c.Faults)
				if err != nil {
					t.Fatal(err)
				}
				if !l.Band.Fits(&prove.MeterReading{Measure: l.Measure, Value: x.Value, Over: x.Over}) {
					found = true
					break
				}
			}
			if !found {
				hidden++
				if hidden < 12 {
					t.Logf("vehicle %d: %s is not found", seed, c.Text)
				}
			}
		}
	}
	t.Logf("%d faults, %d are not found by the fewest lines", looked, hidden)
	if hidden > 0 {
		t.Error("the sheet does not find every fault")
	}
}
