package join

import (
	"fmt"
	"math"
)

// within is how far a tachometer may be off before it is said not to work (common practice).
const within = 0.03

// Ratio gives the ratio of two small whole numbers, at most most, that is nearest to x > 0: what a divider or
// multiplier can be set to.
func Ratio(x float64, most int) (up, down int) {
	best := math.Inf(1)
	for d := 1; d <= most; d++ {
		u := int(math.Round(x * float64(d)))
		if u < 1 || u > most {
			continue
		}
		if off := math.Abs(float64(u)/float64(d) - x); off < best-1e-12 {
			best, up, down = off, u, d
		}
	}
	return up, down
}

// Pulses gives the pulses that an engine gives a revolution: half its cylinders for one coil on a four-stroke, one
// for a coil that fires twice a cycle, half of one for a coil of its own (common practice).
func Pulses(cylinders, strokes int, coils string) (float64, error) {
	if cylinders < 1 || cylinders > 16 || strokes != 2 && strokes != 4 {
		return 0, fmt.Errorf("an engine has 1 to 16 cylinders and two or four strokes")
	}
	turns := float64(strokes) / 2 // revolutions a cycle
	switch coils {
	case "one":
		return float64(cylinders) / turns, nil
	case "wasted":
		return 1, nil
	case "each":
		return 1 / turns, nil
	}
	return 0, fmt.Errorf("coils are one for all, wasted spark, or one each")
}

// tachometer is what a dial shows of what it is given.
func tachometer(f *facts, cylinders int) *Sum {
	gives, given := f.number("gives", "pulses that it is given a revolution", "", 0, 0.25, 120)
	coils := f.word("from", "from: the unit's output, one coil, wasted spark, a coil each", "output")
	dial, known := f.number("dial", "pulses a revolution that the dial expects", "", 0, 0.25, 120)
	signalVolts, _ := f.number("level", "height of its signal", "V", 12, 0.5, 500)
	expects, _ := f.number("expects", "height that the dial expects", "V", 12, 0.5, 500)
	if !given && cylinders > 0 && f.given["gives"] == "" {
		if n, err := Pulses(cylinders, 4, map[string]string{"output": "one", "one coil": "one", "wasted spark": "wasted",
			"a coil each": "each"}[coils]); err == nil {
			gives, given = n, true
		}
	}
	if !given || !known {
		return short("State what the dial expects and what it is given a revolution.")
	}
	s := &Sum{Lines: []SumLine{{"it is given", value(gives, "pulses a revolution"), ""}, {"the dial expects", value(dial,
		"pulses a revolution"), ""}}}
	off := gives/dial - 1
	for _, rpm := range []float64{1000, 3000, 6000} {
		s.Lines = append(s.Lines, SumLine{fmt.Sprintf("at %.0f rpm it shows", rpm), fmt.Sprintf("%.0f rpm, %s",
			rpm*gives/dial, percent(off)), ""})
	}
	s.Chart = &Chart{Across: "true rpm", Up: "shown rpm"}
	for rpm := 0.0; rpm <= 6000; rpm += 1000 {
		s.Chart.Points = append(s.Chart.Points, Point{rpm, rpm * gives / dial, rpm * (1 - within), rpm * (1 + within)})
	}
	s.Works = math.Abs(off) <= within
	if !s.Works {
		up, down := Ratio(dial/gives, 12)
		s.Says = fmt.Sprintf("The dial shows %s of what is true.", percent(gives/dial))
		s.Ways = []SumWay{{Text: fmt.Sprintf("set the unit's output to %g pulses a revolution", dial),
			Facts: map[string]string{"gives": fmt.Sprint(dial)},
			Unit:  fmt.Sprintf("tachometer output: %g pulses a revolution", dial)}}
		if math.Abs(float64(up)/float64(down)*gives/dial-1) <= within {
			s.Ways = append(s.Ways, SumWay{Text: fmt.Sprintf("a converter of %d to %d between output and dial", up, down),
				Facts: map[string]string{"gives": fmt.Sprint(gives * float64(up) / float64(down))},
				Part: &WayPart{What: fmt.Sprintf("converter of %d to %d pulses", up, down), Body: Through, In: true,
					Leads: powered}})
		}
		s.Ways = append(s.Ways, SumWay{Text: fmt.Sprintf("a dial for %g pulses a revolution", gives),
			Facts: map[string]string{"dial": fmt.Sprint(gives)},
			Part:  &WayPart{What: fmt.Sprintf("tachometer for %g pulses a revolution", gives), Body: Fitted}},
			SumWay{Text: "another output of the unit: match it to the dial's wire", Stage: "match"})
		return s
	}
	s.Says = "The dial shows what is true."
	switch {
	case signalVolts > 50 && expects < 50:
		s.Works, s.Says = false, fmt.Sprintf("The pulses of a coil's negative, some %.0f V, destroy an input for %.0f V.",
			signalVolts, expects)
		s.Ways = []SumWay{{Text: "take the unit's own output", Facts: map[string]string{"level": fmt.Sprint(expects)},
			Stage: "match"}, {Text: "a divider and a clamp made for it", Facts: map[string]string{"level": fmt.Sprint(expects)},
			Part: &WayPart{What: "divider and clamp for a coil's pulses", Body: Through, In: true, Leads: powered}}}
	case signalVolts < 0.6*expects:
		s.Works, s.Says = false, fmt.Sprintf("%.3g V are too little for a dial that expects %.3g V.", signalVolts, expects)
		s.Ways = []SumWay{{Text: "a pull-up of 1 kΩ to 12 V where the output only sinks",
			Facts: map[string]string{"level": "12"},
			Part: &WayPart{What: "resistor of 1 kΩ, a pull-up", Body: Resistor, Ohms: 1000,
				Leads: between("the wire from output to dial", "the feed of the dial")}}}
	}
	return s
}
