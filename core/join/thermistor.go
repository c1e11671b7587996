package join

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"gonum.org/v1/gonum/mat"
)

const kelvin = 273.15

// Beta gives the Ω of a thermistor at °C by its Ω at 25 °C and its Beta in K.
func Beta(r25, beta, celsius float64) float64 {
	return r25 * math.Exp(beta*(1/(celsius+kelvin)-1/(25+kelvin)))
}

// SteinhartHart are the three numbers of 1/T = A + B ln R + C (ln R)³ (Steinhart & Hart 1968), T in K and R in Ω.
type SteinhartHart struct{ A, B, C float64 }

// Fit fits them to points of Ω by °C, by least squares where there are more than three.
func Fit(points Curve) (SteinhartHart, error) {
	n := len(points.X)
	if n < 3 {
		return SteinhartHart{}, fmt.Errorf("three points at least are wanted for a thermistor's curve")
	}
	m, b := mat.NewDense(n, 3, nil), mat.NewVecDense(n, nil)
	for i := range n {
		if points.Y[i] <= 0 || points.X[i] <= -kelvin {
			return SteinhartHart{}, fmt.Errorf("%g Ω at %g °C cannot be", points.Y[i], points.X[i])
		}
		l := math.Log(points.Y[i])
		m.SetRow(i, []float64{1, l, l * l * l})
		b.SetVec(i, 1/(points.X[i]+kelvin))
	}
	var x mat.VecDense
	if err := x.SolveVec(m, b); err != nil {
		return SteinhartHart{}, fmt.Errorf("no thermistor has these points: %w", err)
	}
	return SteinhartHart{x.AtVec(0), x.AtVec(1), x.AtVec(2)}, nil
}

// Celsius gives the temperature in °C at a resistance in Ω.
func (s SteinhartHart) Celsius(ohms float64) float64 {
	l := math.Log(ohms)
	return 1/(s.A+s.B*l+s.C*l*l*l) - kelvin
}

// Ohms gives the resistance in Ω at a temperature in °C, the other way round: by halving, since Ω fall while °C rise.
// It fails where they do not, from 0.01 Ω to 100 MΩ.
func (s SteinhartHart) Ohms(celsius float64) (float64, error) {
	low, high := math.Log(0.01), math.Log(1e8)
	at := func(l float64) float64 { return s.A + s.B*l + s.C*l*l*l - 1/(celsius+kelvin) } // rises with l
	if at(low) > 0 || at(high) < 0 {
		return 0, fmt.Errorf("no thermistor has these points")
	}
	for range 80 {
		if mid := (low + high) / 2; at(mid) < 0 {
			low = mid
		} else {
			high = mid
		}
	}
	return math.Exp((low + high) / 2), nil
}

// How a sender goes between what is stated of it.
const (
	straight   = "straight"
	thermistor = "thermistor"
)

// steps is by how many places a formula is written as a curve.
const steps = 24

// betaText is a thermistor by its Ω at 25 °C and its Beta in K: "10k B3977", "2.2 kΩ, Beta 3560 K".
var betaText = regexp.MustCompile(`(?i)^\s*(?:ntc\s*)?(\d+(?:[.,]\d+)?)\s*(k)?\s*(?:Ω|ohms?)?\s*[,;]?\s*(?:beta|b)\s*=?\s*(\d+(?:[.,]\d+)?)\s*K?\s*$`)

// readSender reads what a sender gives or a gauge expects, and says in words how it goes between what is stated: by a
// thermistor's curve through three points and more (Steinhart & Hart 1968), by Beta, or straight. Over gives the range
// of one by Beta.
func readSender(text, between string, over Curve) (Curve, string, error) {
	if between != straight && between != thermistor {
		return Curve{}, "", fmt.Errorf("%q is no way from point to point: thermistor or straight", between)
	}
	if m := betaText.FindStringSubmatch(text); m != nil {
		return byBeta(m[1], m[2] != "", m[3], over)
	}
	c, err := ReadCurve(text)
	if err != nil {
		return c, "", err
	}
	if between == straight {
		return c, straight, nil
	}
	if len(c.X) < 3 {
		return c, "straight: a thermistor's curve wants three points", nil
	}
	fit, err := Fit(c)
	if err != nil {
		return c, "", err
	}
	off := 0.0
	for i, x := range c.X {
		off = max(off, math.Abs(fit.Celsius(c.Y[i])-x))
	}
	out, err := sampled(c.X[0], c.X[len(c.X)-1], fit.Ohms)
	if err != nil {
		return c, "straight: " + err.Error(), nil
	}
	return out, fmt.Sprintf("a thermistor's curve, its points within %.2g °C (Steinhart & Hart 1968)", off), nil
}

// byBeta gives a thermistor's curve by Beta over the range of what reads it.
func byBeta(ohms string, kilo bool, beta string, over Curve) (Curve, string, error) {
	if len(over.X) == 0 {
		return Curve{}, "", fmt.Errorf("a gauge is stated by points")
	}
	r, _ := strconv.ParseFloat(strings.Replace(ohms, ",", ".", 1), 64)
	b, _ := strconv.ParseFloat(strings.Replace(beta, ",", ".", 1), 64)
	if kilo {
		r *= 1000
	}
	if !(r >= 1 && r <= 1e7) || !(b >= 500 && b <= 10000) {
		return Curve{}, "", fmt.Errorf("a thermistor has 1 Ω to 10 MΩ at 25 °C and a Beta of 500 to 10,000 K")
	}
	c, err := sampled(over.X[0], over.X[len(over.X)-1], func(x float64) (float64, error) { return Beta(r, b, x), nil })
	return c, fmt.Sprintf("by its Beta: %.4g Ω at 25 °C, %g K", r, b), err
}

// sampled writes a falling curve by its values; it fails where it does not fall.
func sampled(from, to float64, at func(x float64) (float64, error)) (Curve, error) {
	var c Curve
	for i := 0; i <= steps; i++ {
		x := from + (to-from)*float64(i)/steps
		y, err := at(x)
		if err != nil {
			return c, err
		}
		if i > 0 && y >= c.Y[i-1] {
			return c, fmt.Errorf("no thermistor has these points")
		}
		c.X, c.Y = append(c.X, x), append(c.Y, y)
	}
	return c, nil
}
