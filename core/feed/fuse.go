package feed

import (
	"fmt"
	"math"

	"draxel/core/size"
)

// Blade lists the ratings in A of blade fuses, and Bolted those of large blades and bolted links: ISO 8820, from
// memory.
var (
	Blade  = []float64{1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40}
	Bolted = []float64{50, 60, 70, 80, 100, 125, 150, 175, 200, 250, 300, 400, 500}
)

// Part is how much of a fuse's rating its load may be that lasts (common practice).
const Part = 0.8

// Choose gives the rating in A of the fuse before a load in A that lasts, with a thinnest wire behind it that may
// carry so many A: the next rating at or above the load by Part, and at or below what the wire may carry. It fails
// where there is none, and says what must change.
func Choose(load, carries float64) (float64, error) {
	need := load / Part
	for _, r := range append(append([]float64{}, Blade...), Bolted...) {
		if r < need-1e-9 {
			continue
		}
		if r > carries {
			return 0, fmt.Errorf("%.3g A want a fuse of %.3g A, and the thinnest wire behind it may carry %.3g A: a thicker "+
				"wire, or two circuits", load, r, carries)
		}
		return r, nil
	}
	return 0, fmt.Errorf("%.3g A are more than a fuse of %.3g A may carry for long", load, Bolted[len(Bolted)-1])
}

// band is the times in s within which a blade fuse opens at a multiple of its rating: ISO 8820-3, from memory.
var band = []struct{ times, least, most float64 }{
	{1.1, 360000, math.Inf(1)}, {1.35, 0.75, 600}, {1.6, 0.25, 50}, {2, 0.15, 5}, {3.5, 0.04, 0.5}, {6, 0.02, 0.1},
}

// Opens gives the times in s within which a fuse of a rating in A opens at a current in A, and false where it does not
// open. Between the points of the standard the times lie on straight lines of their logarithms; beyond the last they
// fall as I²t stays.
func Opens(rating, amps float64) (least, most float64, opens bool) {
	x := math.Abs(amps) / rating
	if x <= band[0].times {
		return 0, 0, false
	}
	if x < band[1].times { // it may last for hours
		return band[1].least, math.Inf(1), true
	}
	for i := 2; i < len(band); i++ {
		if x > band[i].times {
			continue
		}
		a, b := band[i-1], band[i]
		f := math.Log(x/a.times) / math.Log(b.times/a.times)
		return a.least * math.Pow(b.least/a.least, f), a.most * math.Pow(b.most/a.most, f), true
	}
	last := band[len(band)-1]
	fall := (last.times / x) * (last.times / x)
	return last.least * fall, last.most * fall, true
}

// heat is k of IEC 60364-5-54 for copper in A·s½/mm² from 85 °C, a warm wire, to 160 °C, where its insulation is spent
// (from memory): 226 √ln((234.5 + 160)/(234.5 + 85)).
var heat = 226 * math.Sqrt(math.Log((234.5+160)/(234.5+85)))

// Burns gives the time in s after which a wire's insulation is spent at a current in A, if nothing of the heat gets
// away: IEC 60364-5-54, good for at most 5 s.
func Burns(s size.Section, amps float64) float64 {
	if s == 0 || amps == 0 {
		return math.Inf(1)
	}
	q := heat * float64(s) / math.Abs(amps)
	return q * q
}
