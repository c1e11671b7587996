package size_test

import (
	"math"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"draxel/core/size"
)

func within(t *testing.T, what string, got, want, part float64) {
	t.Helper()
	if math.IsNaN(got) || math.Abs(got-want) > part*math.Abs(want) {
		t.Errorf("%s: %.5g, want %.5g within %.1f %%", what, got, want, 100*part)
	}
}

// ISO 6722-1, greatest conductor resistance at 20 °C, mΩ/m (from memory of the standard); they must also lie a little
// above what the nominal section of IEC 60028 copper has.
func TestResistanceISO6722(t *testing.T) {
	for section, milliohm := range map[size.Section]float64{0.35: 54.4, 0.5: 37.1, 0.75: 24.7, 1: 18.5, 1.5: 12.7,
		2.5: 7.60,
		4:   4.71, 6: 3.14, 10: 1.82, 16: 1.16, 25: 0.743, 35: 0.527, 50: 0.368, 0.22: 84.8, 1.25: 14.9, 2: 9.42, 3: 6.15,
		5: 3.94,
		8: 2.38, 12: 1.52, 20: 0.955, 30: 0.647, 40: 0.473, 60: 0.315, 70: 0.259, 95: 0.196, 120: 0.153} {
		within(t, section.String(), 1000*section.WorstResistance(20), milliohm, 1e-9)
		if r := section.WorstResistance(20) / section.Resistance(20); r < 1.05 || r > 1.15 {
			t.Errorf("%s: the maximum is %.3f of ρ/A", section, r)
		}
	}
	if between := size.Section(2).WorstResistance(20); between >= size.Section(1.5).WorstResistance(20) ||
		between <= size.Section(2.5).WorstResistance(20) {
		t.Error("2 mm² does not lie between its neighbours")
	}
}

// NEC chapter 9 table 8 (from memory): stranded uncoated copper, DC at 75 °C, Ω per 1000 ft. Stranding adds some 2 %
// that the solid section of ASTM B258 has not.
func TestResistanceNEC(t *testing.T) {
	for gauge, ohms := range map[size.AWG]float64{14: 3.14, 12: 1.98, 10: 1.24, 8: 0.778, 6: 0.491, 4: 0.308, 2: 0.194,
		0: 0.122} {
		within(t, gauge.String(), gauge.Area().Resistance(75)*304.8, ohms, 0.03)
	}
}

// GNU units computes the same from its own tables: copper's resistivity there is that of the standard.
func TestResistanceGNUUnits(t *testing.T) {
	if _, err := exec.LookPath("units"); err != nil {
		t.Skip("GNU units is not installed")
	}
	for _, n := range []size.AWG{20, 16, 10, 4} {
		out, err := exec.Command("units", "-t", "(1|58) ohm mm^2/m / (pi/4 * awg("+strconv.Itoa(int(n))+")^2)",
			"ohm/m").Output()
		if err != nil {
			t.Fatal(err)
		}
		want, err := strconv.ParseFloat(strings.TrimSpace(string(out)), 64)
		if err != nil {
			t.Fatal(err)
		}
		within(t, n.String(), n.Area().Resistance(20), want, 1e-5)
	}
}

// ABYC E-11 (from memory): circular mils = 10.75 × amperes × feet / volts, which holds near 29 °C. A conductor of that
// section must lose those volts, to 2 %.
func TestDropABYC(t *testing.T) {
	const amperes, feet, volts = 15.0, 20.0, 0.36 // 3 % of 12 V, there and back
	mils := 10.75 * amperes * feet / volts
	section := size.Section(mils * math.Pi / 4 * 0.0254 * 0.0254)
	within(t, "drop", amperes*section.Resistance(29)*feet*0.3048, volts, 0.02)
}

// ABYC E-11 (from memory): amperes of a single wire, 105 °C insulation. Class C is reckoned with its own limit, so the
// table is met where class and limit agree: the rise of 75 K, which a class of 125 °C has in air of 50 °C.
func TestAmpacityABYC(t *testing.T) {
	for gauge, amperes := range map[size.AWG]float64{18: 20, 16: 25, 14: 35, 12: 45, 10: 60, 8: 80, 6: 120, 4: 160,
		2: 210, 1: 245,
		0: 285, -1: 330, -2: 385, -3: 445} {
		within(t, gauge.String(), gauge.Area().Ampacity(size.ClassC, 50, 1), amperes, 1e-9)
	}
	one := size.Section(1.5).Ampacity(size.ClassB, 40, 1)
	for loaded, part := range map[int]float64{2: 1, 3: 0.7, 6: 0.6, 7: 0.5, 24: 0.5, 25: 0.4} {
		within(t, "bundle", size.Section(1.5).Ampacity(size.ClassB, 40, loaded), part*one, 1e-9)
	}
	if size.Section(1.5).Ampacity(size.ClassA, 85, 1) != 0 || size.Section(0).Ampacity(size.ClassC, 20, 1) != 0 {
		t.Error("a wire in air as hot as its insulation stands, or of no known section, carries something")
	}
	last := 0.0
	for _, s := range size.Trade() {
		if a := s.Ampacity(size.ClassB, 60, 3); a <= last {
			t.Errorf("%s carries %.3g A, no more than the next smaller", s, a)
		} else {
			last = a
		}
	}
}

func TestUpgradeOnlyGoesUp(t *testing.T) {
	for name, c := range map[string]struct {
		have     size.Section
		amperes  float64
		mm, loss float64
		want     size.Section
	}{
		"enough as it is":       {1.5, 5, 2000, 0.36, 1.5},
		"an odd size is kept":   {1.3, 5, 1000, 0.36, 1.3},
		"drop demands more":     {0.75, 8, 4000, 0.36, 2}, // 8 A × 4 m × 9.42 mΩ/m × 1.157 = 0.349 V
		"the sum of injectors":  {0.5, 16, 300, 0, 0.75},
		"no loss is asked for":  {4, 12, 9000, 0, 4},
		"unknown is from least": {0, 1, 1000, 0.5, 0.35},
	} {
		got, err := c.have.Upgrade(c.amperes, size.ClassC, 60, 2, c.mm, c.loss)
		if err != nil || got != c.want {
			t.Errorf("%s: %s, want %s (%v)", name, got, c.want, err)
		}
	}
	if _, err := size.Section(1).Upgrade(900, size.ClassB, 60, 1, 100, 0); err == nil {
		t.Error("a wire for 900 A was found")
	}
}

func TestClasses(t *testing.T) {
	for celsius, want := range map[float64]size.Class{20: size.ClassA, 85: size.ClassA, 86: size.ClassB, 110: size.ClassC,
		150: size.ClassD,
		175: size.ClassE, 200: size.ClassF, 201: size.ClassG, 250: size.ClassH} {
		if c, ok := size.ClassFor(celsius); !ok || c != want {
			t.Errorf("%.0f °C: class %s", celsius, c)
		}
	}
	if _, ok := size.ClassFor(251); ok {
		t.Error("a class stands 251 °C")
	}
}

// ISO 6722-1, thin wall, greatest outside diameters (from memory of the standard).
func TestOutside(t *testing.T) {
	for s, want := range map[size.Section]float64{0.35: 1.4, 0.75: 1.9, 1.5: 2.4, 6: 4.3, 0.625: 1.75} {
		within(t, s.String(), s.Outside(), want, 1e-9)
	}
	last := 0.0
	for s := size.Section(0.1); s < 120; s *= 1.07 {
		if d := s.Outside(); d <= last {
			t.Fatalf("%s is no thicker than the next smaller", s)
		} else {
			last = d
		}
	}
}
