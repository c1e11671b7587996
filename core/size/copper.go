package size

import (
	"fmt"
	"math"
)

// Copper at 20 °C, IEC 60028: the International Annealed Copper Standard.
const (
	resistivity = 1.0 / 58 // Ω·mm²/m at 20 °C
	perKelvin   = 0.00393  // temperature coefficient of resistance at 20 °C
)

// maxima are the greatest conductor resistances of road-vehicle cable at 20 °C in mΩ/m by section in mm², ISO 6722-1
// (from memory of the standard).
var maxima = []struct{ section, milliohm float64 }{
	{0.13, 136}, {0.22, 84.8}, {0.35, 54.4}, {0.5, 37.1}, {0.75, 24.7}, {1, 18.5}, {1.25, 14.9}, {1.5, 12.7}, {2, 9.42},
	{2.5, 7.60}, {3, 6.15}, {4, 4.71}, {5, 3.94}, {6, 3.14}, {8, 2.38}, {10, 1.82}, {12, 1.52}, {16, 1.16}, {20, 0.955},
	{25, 0.743}, {30, 0.647}, {35, 0.527}, {40, 0.473}, {50, 0.368}, {60, 0.315}, {70, 0.259}, {95, 0.196}, {120, 0.153},
}

// Resistance gives the resistance in Ω/m of an annealed copper conductor of exactly this section at a temperature in
// °C (IEC 60028). It is 0 where the section is not known.
func (s Section) Resistance(celsius float64) float64 {
	if s <= 0 {
		return 0
	}
	return resistivity / float64(s) * warm(celsius)
}

// WorstResistance gives the greatest resistance in Ω/m that vehicle cable sold as this section may have at a
// temperature in °C: the maximum of ISO 6722-1 where the standard lists the section, and between and beyond them the
// conductor's own with the same allowance as the listed section nearest to it. It is 0 where the section is not known.
func (s Section) WorstResistance(celsius float64) float64 {
	if s <= 0 {
		return 0
	}
	best, ratio := math.Inf(1), 1.0
	for _, m := range maxima {
		if off := math.Abs(math.Log(float64(s) / m.section)); off < best {
			best, ratio = off, m.milliohm/1000/(resistivity/m.section)
		}
	}
	return s.Resistance(celsius) * ratio
}

// warm is how many times its resistance at 20 °C copper has at a temperature in °C.
func warm(celsius float64) float64 { return 1 + perKelvin*(celsius-20) }

// Drop gives the volts lost in a length of vehicle cable, in mm one way, that carries a current in A at a conductor's
// temperature in °C. The way back is another length.
func (s Section) Drop(amperes, mm, celsius float64) float64 {
	return amperes * s.WorstResistance(celsius) * mm / 1000
}

// Class is the temperature class of a wire's insulation, ISO 6722-1.
type Class string

// The classes with the highest temperature of their conductor (from memory of the standard).
const (
	NoClass Class = "" // nobody has said

	ClassA Class = "A" // 85 °C
	ClassB Class = "B" // 100 °C
	ClassC Class = "C" // 125 °C
	ClassD Class = "D" // 150 °C
	ClassE Class = "E" // 175 °C
	ClassF Class = "F" // 200 °C
	ClassG Class = "G" // 225 °C
	ClassH Class = "H" // 250 °C
)

var limits = map[Class]float64{ClassA: 85, ClassB: 100, ClassC: 125, ClassD: 150, ClassE: 175, ClassF: 200, ClassG: 225,
	ClassH: 250}

// Classes lists the classes, the coolest first.
func Classes() []Class {
	return []Class{ClassA, ClassB, ClassC, ClassD, ClassE, ClassF, ClassG, ClassH}
}

// Limit gives the highest temperature in °C that the insulation stands for its life; 0 for a class that there is not.
func (c Class) Limit() float64 { return limits[c] }

// ClassFor gives the lowest class that stands a temperature in °C, and false where none does.
func ClassFor(celsius float64) (Class, bool) {
	for _, c := range Classes() {
		if c.Limit() >= celsius {
			return c, true
		}
	}
	return ClassH, false
}

// amps is what a single wire with insulation for 105 °C carries in free air at 30 °C outside an engine space, by its
// AWG: ABYC E-11 (from memory of the standard).
var amps = []struct {
	gauge   AWG
	amperes float64
}{{18, 20}, {16, 25}, {14, 35}, {12, 45}, {10, 60}, {8, 80}, {6, 120}, {4, 160}, {2, 210}, {1, 245}, {0, 285},
	{-1, 330}, {-2, 385}, {-3, 445}}

// Reference conditions of ABYC E-11, °C.
const (
	ratedLimit = 105.0
	ratedAir   = 30.0
)

// Ampacity gives the current in A that a wire may carry without end: the table of ABYC E-11, drawn on along its own
// slope for other sections, then less for hotter air and other insulation, by the square root of the rise that is left
// (as IEC 60364-5-52 reckons), less for the other loaded wires of its bundle (bundling: ABYC E-11, from memory). It is
// 0 where the section is not known or the air is as hot as the insulation stands.
func (s Section) Ampacity(c Class, air float64, loaded int) float64 {
	if s <= 0 || air >= c.Limit() {
		return 0
	}
	return freeAir(float64(s)) * math.Sqrt((c.Limit()-air)/(ratedLimit-ratedAir)) * bundling(loaded)
}

// freeAir interpolates the table between neighbours along straight lines in the logarithms.
func freeAir(mm2 float64) float64 {
	i := 1
	for i < len(amps)-1 && mm2 > float64(amps[i].gauge.Area()) {
		i++
	}
	a, b := amps[i-1], amps[i]
	la, lb := math.Log(float64(a.gauge.Area())), math.Log(float64(b.gauge.Area()))
	t := (math.Log(mm2) - la) / (lb - la)
	return math.Exp(math.Log(a.amperes) + t*(math.Log(b.amperes)-math.Log(a.amperes)))
}

// bundling is what is left of the ampacity where several wires of a bundle are loaded at once.
func bundling(loaded int) float64 {
	switch {
	case loaded >= 25:
		return 0.4
	case loaded >= 7:
		return 0.5
	case loaded >= 4:
		return 0.6
	case loaded == 3:
		return 0.7
	}
	return 1
}

// thinnest is the least section in mm² that a wire of a vehicle is mended or made with: common practice, no source.
const thinnest = 0.35

// Trade lists the sections in mm² that vehicle wire is sold in, ISO 6722-1, from 0.35 mm² up.
func Trade() []Section {
	out := make([]Section, 0, len(maxima))
	for _, m := range maxima {
		if m.section >= thinnest {
			out = append(out, Section(m.section))
		}
	}
	return out
}

// Upgrade gives the smallest section of the trade that is at least s, carries the amperes in that class, air and
// bundle, and loses at most the volts over the mm at the temperature of the air. Sizes only go up. It fails where
// none does.
func (s Section) Upgrade(amperes float64, c Class, air float64, loaded int, mm, volts float64) (Section, error) {
	for _, t := range append([]Section{s}, Trade()...) {
		if t >= s && t > 0 && t.Ampacity(c, air, loaded) >= amperes && (volts <= 0 || t.Drop(amperes, mm, air) <= volts) {
			return t, nil
		}
	}
	return s, fmt.Errorf("no wire up to %s carries %.3g A over %.0f mm at %.0f °C in class %s",
		Section(maxima[len(maxima)-1].section), amperes, mm, air, c)
}

// outside are the greatest outside diameters in mm of thin-wall vehicle cable by section, ISO 6722-1 (from memory of
// the standard).
var outside = []struct{ section, diameter float64 }{
	{0.22, 1.2}, {0.35, 1.4}, {0.5, 1.6}, {0.75, 1.9}, {1, 2.1}, {1.5, 2.4}, {2.5, 3.0}, {4, 3.7}, {6, 4.3},
	{10, 6.0}, {16, 7.3}, {25, 9.0}, {35, 10.4}, {50, 12.2}, {70, 14.4}, {95, 16.7},
	{120, 18.7},
}

// Outside gives the greatest outside diameter in mm of thin-wall vehicle cable of this section, between the listed ones
// along straight lines, beyond them in proportion to the conductor. It is 0 where the section is not known.
func (s Section) Outside() float64 {
	if s <= 0 {
		return 0
	}
	x, last := float64(s), len(outside)-1
	switch {
	case x <= outside[0].section:
		return outside[0].diameter * math.Sqrt(x/outside[0].section)
	case x >= outside[last].section:
		return outside[last].diameter * math.Sqrt(x/outside[last].section)
	}
	i := 1
	for x > outside[i].section {
		i++
	}
	a, b := outside[i-1], outside[i]
	return a.diameter + (b.diameter-a.diameter)*(x-a.section)/(b.section-a.section)
}
