package pack

import (
	"math"
	"math/rand"
	"slices"
	"testing"
)

// round gives the smallest ring round three circles by another way than the product's: the two large ones side by side
// where the third goes into the gap that they leave (Archimedes, Book of Lemmas, proposition 6: of radii a and b it has
// the radius ab(a+b)/(a²+ab+b²)), else the ring in which all three lie along the edge and their angles, by the law of
// cosines, go just once round.
func round(a, b, c float64) float64 {
	if c <= a*b*(a+b)/(a*a+a*b+b*b) {
		return a + b
	}
	angle := func(ring, x, y float64) float64 {
		p, q := ring-x, ring-y
		return math.Acos(max(-1, min(1, (p*p+q*q-(x+y)*(x+y))/(2*p*q))))
	}
	low, high := a+b, 3*a
	for range 200 {
		ring := (low + high) / 2
		if angle(ring, a, b)+angle(ring, b, c)+angle(ring, a, c) > 2*math.Pi {
			low = ring
		} else {
			high = ring
		}
	}
	return high
}

func TestThreeCircles(t *testing.T) {
	for _, c := range []struct{ d, want []float64 }{
		{[]float64{2, 2, 2}, []float64{2 * 2.1547}}, // Kravitz 1967
		{[]float64{6, 4, 2}, []float64{10}},
		{[]float64{6, 4, 60.0 / 19}, []float64{10}}, // just in the gap
	} {
		if got := three(c.d); math.Abs(got-c.want[0]) > 1e-4 {
			t.Errorf("%v: %.5f, want %.5f", c.d, got, c.want[0])
		}
	}
	r := rand.New(rand.NewSource(2))
	gaps := 0
	for range 2000 {
		d := []float64{1 + 10*r.Float64(), 1 + 10*r.Float64(), 1 + 10*r.Float64()}
		slices.SortFunc(d, func(a, b float64) int { return int(math.Copysign(1, b-a)) })
		want := 2 * round(d[0]/2, d[1]/2, d[2]/2)
		if want == d[0]+d[1] {
			gaps++
		}
		if got := three(d); math.Abs(got-want) > 1e-6*want {
			t.Fatalf("%v: %.6f, along the edge %.6f", d, got, want)
		}
	}
	if gaps < 100 {
		t.Errorf("only %d lie in the gap", gaps)
	}
}
