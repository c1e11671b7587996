package join

import (
	"fmt"
	"math"
	"strings"
	"testing"
)

// The other way round a thermistor's curve comes back to its points, and through three of a maker's table it meets the
// fourth (10 kΩ, from memory).
func TestOhmsOfAThermistor(t *testing.T) {
	three, _ := ReadCurve("0: 32600, 25: 10000, 100: 680")
	fit, err := Fit(three)
	if err != nil {
		t.Fatal(err)
	}
	for i, x := range three.X {
		r, err := fit.Ohms(x)
		if err != nil || math.Abs(r/three.Y[i]-1) > 1e-9 {
			t.Errorf("at %g °C %g Ω, %v", x, r, err)
		}
	}
	if r, _ := fit.Ohms(50); math.Abs(r/3600-1) > 0.02 {
		t.Errorf("at 50 °C %g Ω", r)
	}
	if _, err := (SteinhartHart{A: 1}).Ohms(20); err == nil {
		t.Error("no thermistor, and it has ohms")
	}
}

// A sender by its Beta, by its points, and what each way between the points makes of it: by the formula written out
// here (1/T = 1/T25 + ln(R/R25)/B), at every degree.
func TestWhatASenderGives(t *testing.T) {
	truth := func(c float64) float64 { return 10000 * math.Exp(3977/(c+273.15)-3977/298.15) }
	var points []string
	for _, c := range []float64{0, 50, 100} {
		points = append(points, fmt.Sprintf("%g: %.1f", c, truth(c)))
	}
	over := Curve{X: []float64{0, 100}, Y: []float64{2, 1}}
	for _, c := range []struct {
		text, between string
		off           float64 // of Ω, the greatest part that it may be off by; −1: refused
		says          string
	}{
		{"10k B3977", thermistor, 0.03, "by its Beta: 1e+04 Ω at 25 °C, 3977 K"},
		{"NTC 10 kΩ, Beta = 3977 K", straight, 0.03, "by its Beta"},
		{strings.Join(points, ", "), thermistor, 0.03, "a thermistor's curve"},
		{strings.Join(points[:2], ", "), thermistor, 9, "wants three points"},
		{"0: 1, 50: 2, 100: 3", thermistor, 9, "straight: no thermistor"},
		{"10k B3977", "bent", -1, "no way from point to point"},
		{"10k B99999", thermistor, -1, "Beta of 500 to 10,000"},
		{"10k", thermistor, -1, "no point"},
		{"0: -4, 50: -5, 100: -6", thermistor, -1, "cannot be"},
	} {
		got, how, err := readSender(c.text, c.between, over)
		if c.off < 0 {
			if err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%s, %s: %v, want %s", c.text, c.between, err, c.says)
			}
			continue
		}
		if err != nil || !strings.Contains(how, c.says) {
			t.Errorf("%s: %q, %v, want %s", c.text, how, err, c.says)
			continue
		}
		for x := 0.0; x <= 100 && c.off < 1; x++ {
			if off := math.Abs(got.At(x)/truth(x) - 1); off > c.off {
				t.Errorf("%s: at %g °C %.0f Ω, by the formula %.0f Ω", c.text, x, got.At(x), truth(x))
				break
			}
		}
	}
	far, _, _ := readSender(strings.Join(points, ", "), straight, over)
	if off := far.At(25)/truth(25) - 1; off < 0.5 {
		t.Errorf("straight from 0 to 50 °C it is off by %.0f %% at 25 °C only: the other way would not matter", off*100)
	}
}

// A gauge for such a thermistor shows what is true, whichever way it was stated; taken as straight lines from point to
// point beside a Beta it would be told to lie.
func TestAGaugeForAThermistor(t *testing.T) {
	facts := map[string]string{"sender": "10k B3977", "gauge": published, "tolerance": "2"}
	if s := sumOf("coolantgauge", Known{}, facts); s == nil || !s.Works {
		t.Errorf("%+v", s)
	}
	facts["steps"] = straight
	s := sumOf("coolantgauge", Known{}, facts)
	if s == nil || s.Works || !strings.Contains(s.Says, "°C") {
		t.Fatalf("straight: %+v", s)
	}
	for _, way := range s.Ways {
		for name, text := range way.Facts {
			facts[name] = text
		}
		if again := sumOf("coolantgauge", Known{}, facts); again == nil || !again.Works {
			t.Errorf("%s: %+v", way.Text, again)
		}
		facts = map[string]string{"sender": "10k B3977", "gauge": published, "tolerance": "2", "steps": straight}
	}
}
