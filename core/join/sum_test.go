package join

import (
	"encoding/json"
	"fmt"
	"math"
	"os/exec"
	"strings"
	"testing"
)

func near(t *testing.T, what string, got, want, by float64) {
	t.Helper()
	if math.Abs(got-want) > by {
		t.Errorf("%s: %.6g, want %.6g", what, got, want)
	}
}

// Pulses a revolution by hand (common practice): half the cylinders for one coil on a four-stroke.
func TestPulses(t *testing.T) {
	for _, c := range []struct {
		cylinders, strokes int
		coils              string
		want               float64
	}{{4, 4, "one", 2}, {5, 4, "one", 2.5}, {6, 4, "one", 3}, {8, 4, "one", 4}, {3, 4, "one", 1.5}, {2, 2, "one", 2},
		{4, 4, "wasted", 1}, {6, 4, "wasted", 1}, {4, 4, "each", 0.5}, {2, 2, "each", 1}} {
		got, err := Pulses(c.cylinders, c.strokes, c.coils)
		if err != nil {
			t.Fatal(err)
		}
		near(t, fmt.Sprint(c), got, c.want, 1e-12)
	}
	for _, bad := range []struct {
		cylinders, strokes int
		coils              string
	}{{0, 4, "one"}, {40, 4, "one"}, {4, 3, "one"}, {4, 4, "two"}} {
		if _, err := Pulses(bad.cylinders, bad.strokes, bad.coils); err == nil {
			t.Errorf("%v passes", bad)
		}
	}
}

// The ratio of small whole numbers that is nearest, against trying all in floating point.
func TestRatioIsNearest(t *testing.T) {
	for i := range 400 {
		x := 0.1 + float64(i)*0.02
		up, down := Ratio(x, 12)
		best := math.Inf(1)
		for a := 1; a <= 12; a++ {
			for b := 1; b <= 12; b++ {
				best = min(best, math.Abs(float64(a)/float64(b)-x))
			}
		}
		near(t, fmt.Sprint("ratio of ", x), math.Abs(float64(up)/float64(down)-x), best, 1e-12)
	}
}

// Tyres by their designation: 205/55 R 16 is 631.9 mm across (ISO 4000-1, ETRTO, from memory).
func TestTyres(t *testing.T) {
	for text, want := range map[string]float64{"205/55 R 16": 631.9, "205/55R16 91V": 631.9, "175/70 R 13": 575.2,
		"235/85 R16": 805.9,
		"P215/60R15": 639, "7.00-16": 0, "185 R 14 C": 659, "315/80 R 22.5": 1075.5, "31x10.50 R15": 0, "": 0,
		"205/5 R 16": 0} {
		tyre, err := ReadTyre(text)
		if want == 0 {
			if err == nil {
				t.Errorf("%q is read as %+v", text, tyre)
			}
			continue
		}
		if err != nil {
			t.Error(err)
		}
		near(t, text, tyre.Across(), want, 0.2)
	}
}

// UN Regulation 39 (from memory): 0 ≤ V1 − V2 ≤ V2/10 + 4 km/h.
func TestLawful(t *testing.T) {
	for _, c := range []struct {
		shown, actual float64
		may           bool
	}{{50, 50, true}, {49.9, 50, false}, {59, 50, true}, {59.1, 50, false}, {114, 100, true}, {115, 100, false}, {99.9,
		100, false}} {
		if Lawful(c.shown, c.actual) != c.may {
			t.Errorf("%v at %v", c.shown, c.actual)
		}
	}
}

// A 10 kΩ thermistor of Beta 3977 K: 0 °C 32.6 kΩ, 50 °C 3.60, 100 °C 0.68 (a maker's table, from memory).
func TestBeta(t *testing.T) {
	for celsius, want := range map[float64]float64{25: 10000, 0: 32600, 50: 3600, 100: 680} {
		near(t, fmt.Sprint(celsius), Beta(10000, 3977, celsius)/want, 1, 0.04)
	}
}

// published are points of such a thermistor, Ω by °C.
const published = "0: 32600, 25: 10000, 50: 3600, 100: 680"

// Steinhart and Hart through three points is exact there (Steinhart & Hart 1968), and fits the fourth; over four it
// is what SciPy's least squares gives.
func TestSteinhartHart(t *testing.T) {
	three, err := ReadCurve("0: 32600, 25: 10000, 100: 680")
	if err != nil {
		t.Fatal(err)
	}
	s, err := Fit(three)
	if err != nil {
		t.Fatal(err)
	}
	for i, x := range three.X {
		near(t, "through a point", s.Celsius(three.Y[i]), x, 1e-6)
	}
	near(t, "the fourth", s.Celsius(3600), 50, 0.3)
	all, err := ReadCurve(published)
	if err != nil {
		t.Fatal(err)
	}
	fit, err := Fit(all)
	if err != nil {
		t.Fatal(err)
	}
	script := `import json,sys
try:
    import numpy as np
    from scipy.optimize import least_squares
except ImportError:
    sys.exit(3)
T=np.array([0,25,50,100.0])+273.15; R=np.array([32600,10000,3600,680.0]); L=np.log(R)
f=lambda p: (p[0]*1e-3+p[1]*1e-4*L+p[2]*1e-7*L**3-1/T)*1e6
r=least_squares(f,[1,2,1],xtol=1e-15,ftol=1e-15,gtol=1e-15)
print(json.dumps([r.x[0]*1e-3,r.x[1]*1e-4,r.x[2]*1e-7]))`
	out, err := exec.Command("/usr/bin/python3", "-c", script).Output() // the one that Debian has the package for
	if err != nil {
		t.Skipf("SciPy (Debian package python3-scipy) is not installed: the fit is not compared with it")
	}
	var want []float64
	if err := json.Unmarshal(out, &want); err != nil {
		t.Fatal(err)
	}
	for i, got := range []float64{fit.A, fit.B, fit.C} {
		if math.Abs(got/want[i]-1) > 1e-4 {
			t.Errorf("number %d: %g, SciPy %g", i, got, want[i])
		}
	}
}

// Curves that cannot be are refused in words.
func TestCurvesThatCannotBe(t *testing.T) {
	for text, says := range map[string]string{"20: 120": "2 to 100", "20: 120, 20: 80": "two points are at 20",
		"0: 10, 50: 40, 100: 20": "doubles back at 100",
		"0: ten, 50: 40":         "no point", "0: 10, 50: 10": "doubles back", "": "2 to 100", "0: NaN, 1: 2": "no point"} {
		if _, err := ReadCurve(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want %s", text, err, says)
		}
	}
	if _, err := Fit(Curve{[]float64{0, 50, 100}, []float64{100, -5, 3}}); err == nil {
		t.Error("a thermistor of −5 Ω is fitted")
	}
}

// The resistor that fits best, against trying every value of E24 by a sum of the test's own; a decade has 24 values
// (IEC 60063).
func TestTheResistorThatFits(t *testing.T) {
	sender, _ := ReadCurve("40: 240, 80: 60, 120: 20")
	gauge, _ := ReadCurve("40: 290, 80: 110, 120: 70")
	shows := gauge.Back()
	got := Match(sender, shows)
	if got.Parallel || got.Ohms != 51 {
		t.Errorf("%+v, want 51 Ω in series: the gauge wants 50 Ω more throughout", got)
	}
	best := math.Inf(1)
	for _, decade := range []float64{1, 10, 100, 1000, 10000} {
		for _, v := range []float64{1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7,
			5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1} {
			for _, beside := range []bool{false, true} {
				worst := 0.0
				for i := 0; i <= 20; i++ {
					x := 40 + 4*float64(i)
					r := 240 + (60-240)*(x-40)/40
					if x > 80 {
						r = 60 + (20-60)*(x-80)/40
					}
					if beside {
						r = 1 / (1/r + 1/(v*decade))
					} else {
						r += v * decade
					}
					shown := 80 + (r-110)*(40-80)/(290-110)
					if r < 110 {
						shown = 120 + (r-70)*(80-120)/(110-70)
					}
					worst = max(worst, math.Abs(shown-x))
				}
				best = min(best, worst)
			}
		}
	}
	near(t, "what is left", got.Off, best, 1e-6)
}

// sumOf works out a sum from facts as they are typed.
func sumOf(id string, job Known, facts map[string]string) *Sum {
	items, _ := List(Inputs{Job: job, Wishes: []FunctionWish{{Function: id, Choice: Wanted, Facts: facts}},
		Sockets: []Socket{{Device: "a", Circuit: 1, Signal: reading(id)}, {Device: "b", Circuit: 1, Signal: reading(id)}}})
	for _, it := range items {
		if it.ID == id {
			return it.Sum
		}
	}
	return nil
}

// Sums by hand: what works, what does not, and that the first way that can be taken makes it work.
func TestSumsByHand(t *testing.T) {
	for name, c := range map[string]struct {
		id    string
		job   Known
		facts map[string]string
		works bool
		says  string
	}{
		"a V4 on a five-cylinder's dial": {"tach", Known{Cylinders: 4}, map[string]string{"dial": "2,5"}, false, "80 %"},
		"as it should be":                {"tach", Known{Cylinders: 4}, map[string]string{"dial": "2"}, true, "what is true"},
		"a coil's pulses": {"tach", Known{}, map[string]string{"dial": "2", "gives": "2", "level": "300"},
			false, "destroy"},
		"5 V for 12 V": {"tach", Known{}, map[string]string{"dial": "2", "gives": "2", "level": "5"},
			false, "too little"},
		// 8 pulses a turn × 4.1 ÷ 1.916 m = 17,123 pulses a km (205/55 R 16 rolls 0.965 × π × 631.9 mm)
		"a speedometer that reads low": {"speed", Known{}, map[string]string{"dial": "20000", "teeth": "8",
			"axle": "4.1", "tyre": "205/55 R 16"}, false, "too little"},
		// 0.3 turns of the cable a turn × 4.1 ÷ 1.916 m = 642 turns a km, for a dial of 637: 0.8 % too much, which
		// may be
		"a cable": {"speed", Known{}, map[string]string{"dial": "637", "teeth": "0.3", "axle": "4.1",
			"tyre": "205/55 R 16"}, true, "642"},
		"one that reads too high": {"speed", Known{}, map[string]string{"dial": "10000", "gives": "17123"}, false,
			"more than the law"},
		"one that may": {"speed", Known{}, map[string]string{"dial": "16800", "gives": "17123"}, true,
			"allows"},
		"an LED": {"charge", Known{Alternator: "lamp-excited"}, map[string]string{"lamp": "LED"},
			false, "too little"},
		"a bulb": {"charge", Known{Alternator: "lamp-excited"}, map[string]string{"lamp": "bulb",
			"watts": "2"}, true, "excites"},
		"nobody commands it": {"charge", Known{Alternator: "controlled"}, nil, false, "nothing commands"},
		"by itself":          {"charge", Known{Alternator: "self-exciting"}, nil, true, "itself"},
		"the network's lamp": {"charge", Known{Alternator: "lamp-excited", LampAmps: 0.17}, nil, true,
			"excites"},
		"a pump at the end of a thin wire": {"pump", Known{PumpVolts: 10.9}, nil, false, "loses about 19"},
		"a pump that has enough":           {"pump", Known{PumpVolts: 13.1}, nil, true, "what it wants"},
		"two ends":                         {"bus", Known{}, map[string]string{"ends": "2"}, true, "two ends"},
		"one end":                          {"bus", Known{}, map[string]string{"ends": "1"}, false, "went with"},
		"three ends":                       {"bus", Known{}, map[string]string{"ends": "3"}, false, "too many"},
		"a star":                           {"bus", Known{}, map[string]string{"ends": "2", "stub": "2500"}, false, "star"},
		"a gateway": {"bus", Known{}, map[string]string{"ends": "2", "gateway": "yes"}, false,
			"gateway"},
		"tracks that agree": {"pedal", Known{}, map[string]string{"track1": "0: 0.75, 100: 4.2",
			"track2": "0: 0.375, 100: 2.1"}, true, "agree"},
		"tracks of another pedal": {"pedal", Known{}, map[string]string{"track1": "0: 0.75, 100: 4.2",
			"track2": "0: 0.75, 100: 2.1",
			"wants1": "0: 0.75, 100: 4.2", "wants2": "0: 0.375, 100: 2.1"}, false, "limp"},
		"one reference": {"pedal", Known{}, map[string]string{"track1": "0: 0.75, 100: 4.2",
			"track2": "0: 0.375, 100: 2.1", "references": "no"}, false, "one reference"},
		"another sender": {"oilgauge", Known{}, map[string]string{"sender": "0: 10, 5: 180", "gauge": "0: 240, 5: 33"},
			false, "off by"},
		"its own sender": {"oilgauge", Known{}, map[string]string{"sender": "0: 240, 5: 33", "gauge": "0: 240, 5: 33",
			"tolerance": "0.3"}, true, "off by at most 0"},
		"a shared sender": {"coolantgauge", Known{}, map[string]string{"sender": "40: 300, 120: 25",
			"gauge": "40: 300, 120: 25", "shared": "yes"}, false, "reads this sender too"},
	} {
		s := sumOf(c.id, c.job, c.facts)
		if s == nil || s.Works != c.works || !strings.Contains(s.Says+fmt.Sprint(s.Lines), c.says) {
			t.Errorf("%s: %+v", name, s)
			continue
		}
		if c.works {
			continue
		}
		for _, way := range s.Ways {
			if len(way.Facts) == 0 {
				continue
			}
			facts := map[string]string{}
			for k, v := range c.facts {
				facts[k] = v
			}
			for k, v := range way.Facts {
				facts[k] = v
			}
			if after := sumOf(c.id, c.job, facts); !after.Works {
				t.Errorf("%s: %q is taken, and %s %+v", name, way.Text, after.Says, after.Lines)
			}
		}
	}
}

// What cannot be typed is told with its words, and nothing is lost or divided by nothing.
func TestFactsThatCannotBe(t *testing.T) {
	for id, facts := range map[string]map[string]string{"tach": {"dial": "0"}, "speed": {"tyre": "round", "dial": "100"},
		"charge": {"watts": "-3"},
		"bus":    {"ends": "many"}, "pedal": {"track1": "0: 1, 0: 2", "track2": "0: 1, 100: 2"},
		"oilgauge": {"sender": "1: 2",
			"gauge": "0: 1, 1: 2"}, "pump": {"volts": "1e9"}} {
		s := sumOf(id, Known{}, facts)
		if s == nil || s.Error == "" || s.Works {
			t.Errorf("%s %v: %+v", id, facts, s)
		}
	}
	if s := sumOf("speed", Known{}, map[string]string{"dial": "1000", "teeth": "8", "axle": "0",
		"tyre": "205/55 R 16"}); s.Error == "" {
		t.Errorf("an axle of 0 gives %+v", s)
	}
}
