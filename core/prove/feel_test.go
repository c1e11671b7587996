package prove_test

import (
	"math/rand/v2"
	"testing"

	"draxel/core/prove"
)

// A diagnosis does not put in what a reading cannot feel. Here every cause is put in for every line of a sheet: each
// that changes what a line shows is found by a diagnosis that is told so, as likely as with everything put in.
func TestWhatAReadingCannotFeelIsNotPutIn(t *testing.T) {
	t.Parallel()
	left := 0
	for seed := range uint64(1 + *jobs/10) {
		r := rand.New(rand.NewPCG(seed, 77))
		v := vehicle(r, 5+r.IntN(8))
		sheet, err := v.Sheet([]string{"run"})
		if err != nil {
			t.Fatal(err)
		}
		causes := v.Causes()
		for i := range sheet.Lines {
			m := &sheet.Lines[i].Measure
			was, err := v.Expect(m)
			if err != nil {
				t.Fatal(err)
			}
			for k := range causes {
				is, err := v.With(m, causes[k].In(m.Setup))
				if err != nil {
					t.Fatal(err)
				}
				changed := is.Over != was.Over || abs(is.Value-was.Value) > 1e-6*(1+abs(was.Value))
				felt := prove.Feels(v, m, causes[k])
				if changed && !felt {
					t.Fatalf(
						"vehicle %d: %s shows %+v with %s, %+v without, and is taken not to feel it",
						seed,
						m.Key(),
						is,
						causes[k].Text,
						was,
					)
				}
				if !felt {
					left++
				}
			}
		}
	}
	t.Logf("%d need not be put in", left)
	if left == 0 {
		t.Error("everything is put in")
	}
}

func abs(x float64) float64 { return max(x, -x) }
