package prove

import (
	"math/rand/v2"
	"slices"
	"testing"
)

// Three multipliers and two adders (de Kleer & Williams 1987, from memory): F is 10 where 12 is predicted, G is 12. The
// conflicts are {A1 M1 M2} and {A1 A2 M1 M3}; the least candidates {A1}, {M1}, {A2 M2} and {M2 M3}; the best next
// probe is X.
func TestThreeMultipliersTwoAdders(t *testing.T) {
	const a1, a2, m1, m2, m3 = 0, 1, 2, 3, 4
	got := hits([][]int{{a1, m1, m2}, {a1, a2, m1, m3}}, 2)
	want := [][]int{{a1}, {m1}, {a2, m2}, {m2, m3}}
	if !slices.EqualFunc(got, want, slices.Equal) {
		t.Fatalf("candidates %v, want %v", got, want)
	}
	// What each candidate has at X, Y and Z, the outputs of the multipliers: F = X + Y is 10, G = Y + Z is 12.
	shows := map[string][]Shown{
		"X": {{Value: 6}, {Value: 4}, {Value: 6}, {Value: 6}},
		"Y": {{Value: 6}, {Value: 6}, {Value: 4}, {Value: 4}},
		"Z": {{Value: 6}, {Value: 6}, {Value: 6}, {Value: 8}},
	}
	p := 0.01
	weight := []float64{p, p, p * p, p * p}
	sum := 2*p + 2*p*p
	for i := range weight {
		weight[i] /= sum
	}
	open := map[string]float64{}
	for probe, x := range shows {
		class, bands := parted(&Measure{Kind: Volts}, x)
		open[probe] = left(class, len(bands), weight)
	}
	if !(open["X"] < open["Y"] && open["Y"] <= open["Z"]) {
		t.Errorf("bits that are open after each probe: %v; X tells most", open)
	}
}

// Hitting sets against trying every set.
func TestHits(t *testing.T) {
	r := rand.New(rand.NewPCG(16, 3))
	for range 400 {
		n := 3 + r.IntN(6)
		var sets [][]int
		for range 1 + r.IntN(4) {
			var s []int
			for x := range n {
				if r.IntN(3) == 0 {
					s = append(s, x)
				}
			}
			if len(s) > 0 {
				sets = append(sets, s)
			}
		}
		var want [][]int
		for bits := range 1 << n {
			var h []int
			for x := range n {
				if bits&(1<<x) != 0 {
					h = append(h, x)
				}
			}
			covers := func(h []int) bool {
				for _, s := range sets {
					if !slices.ContainsFunc(s, func(x int) bool { return slices.Contains(h, x) }) {
						return false
					}
				}
				return true
			}
			least := covers(h)
			for i := range h {
				least = least && !covers(slices.Delete(slices.Clone(h), i, i+1))
			}
			if least && len(h) <= 3 {
				want = append(want, h)
			}
		}
		got := hits(sets, 3)
		order := func(a, b []int) int {
			if len(a) != len(b) {
				return len(a) - len(b)
			}
			return slices.Compare(a, b)
		}
		slices.SortFunc(got, order)
		slices.SortFunc(want, order)
		if !slices.EqualFunc(got, want, slices.Equal) {
			t.Fatalf("%v: %v, want %v", sets, got, want)
		}
	}
}
