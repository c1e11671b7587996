package join

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Tyre is a tyre by its designation (ISO 4000-1, ETRTO).
type Tyre struct {
	Wide float64 // mm
	Part float64 // height of its side by its width, 0 to 1
	Rim  float64 // inches
}

var tyreText = regexp.MustCompile(`(?i)^\s*(?:P|LT)?\s*(\d{2,3})(?:\s*/\s*(\d{2,3}))?\s*-?\s*(?:Z?R|-|B|D)?\s*(\d{2}(?:[.,]5)?)\s*(?:C|LT)?\b`)

// ReadTyre reads a designation as it stands on the side wall: 205/55 R 16, 7.00-16 is refused. A width without a
// height is reckoned at 82 %, as such tyres are.
func ReadTyre(text string) (Tyre, error) {
	m := tyreText.FindStringSubmatch(text)
	if m == nil {
		return Tyre{}, fmt.Errorf("%q is no designation of a tyre such as 205/55 R 16", text)
	}
	wide, _ := strconv.ParseFloat(m[1], 64)
	part := 82.0
	if m[2] != "" {
		part, _ = strconv.ParseFloat(m[2], 64)
	}
	rim, _ := strconv.ParseFloat(strings.Replace(m[3], ",", ".", 1), 64)
	if wide < 100 || wide > 455 || part < 20 || part > 100 || rim < 10 || rim > 30 {
		return Tyre{}, fmt.Errorf("%q is no tyre of a road vehicle", text)
	}
	return Tyre{wide, part / 100, rim}, nil
}

// Across gives the diameter in mm.
func (t Tyre) Across() float64 { return 25.4*t.Rim + 2*t.Part*t.Wide }

// rolls is the part of its outside that a tyre rolls a turn (common practice: 0.96 to 0.97).
const rolls = 0.965

// Rolls gives the mm that it rolls a turn.
func (t Tyre) Rolls() float64 { return rolls * math.Pi * t.Across() }

// Lawful says whether a speedometer that shows so much at a true speed, km/h, may: never too little, and at most a
// tenth and 4 km/h too much (UN Regulation 39, from memory).
func Lawful(shown, actual float64) bool {
	return shown >= actual-1e-9 && shown <= actual*1.1+4+1e-9
}

// speedometer is what a needle shows of the pulses that it is given.
func speedometer(f *facts) *Sum {
	dial, known := f.number("dial", "pulses a km, or turns of its cable, that the speedometer expects", "", 0, 10,
		200000)
	gives, given := f.number("gives", "pulses or turns a km that it is given, where known", "", 0, 10, 200000)
	teeth, _ := f.number("teeth", "pulses, or turns of the cable, a turn of the output shaft", "", 0, 0.02, 200)
	axle, _ := f.number("axle", "axle ratio", ": 1", 0, 0.5, 12)
	tyre := f.word("tyre", "tyre, as on its side wall", "")
	if f.bad != "" {
		return nil
	}
	s := &Sum{Lines: []SumLine{}}
	if tyre != "" {
		t, err := ReadTyre(tyre)
		if err != nil {
			f.bad = err.Error()
			return nil
		}
		s.Lines = append(s.Lines, SumLine{"the tyre is across", value(t.Across(), "mm"), "ISO 4000-1, ETRTO (from memory)"},
			SumLine{"it rolls a turn", value(t.Rolls(), "mm"), "0.965 of its outside: common practice"})
		if !given && teeth > 0 && axle > 0 {
			gives, given = teeth*axle*1e6/t.Rolls(), true
			s.Lines = append(s.Lines, SumLine{"so it is given", value(gives, "a km"), ""})
		}
	}
	if !known || !given {
		return short("State what the speedometer expects, and what it is given: pulses a km, or those a turn, the axle " +
			"and the tyre.")
	}
	s.Chart = &Chart{Across: "true km/h", Up: "shown km/h"}
	s.Works = true
	low := false
	for v := 20.0; v <= 140; v += 20 {
		shown := v * gives / dial
		s.Chart.Points = append(s.Chart.Points, Point{v, shown, v, v*1.1 + 4})
		s.Works = s.Works && Lawful(shown, v)
		low = low || shown < v-1e-9
	}
	off := gives/dial - 1
	s.Lines = append(s.Lines, SumLine{"the needle is off by", percent(off), ""},
		SumLine{"at 50 km/h it shows", value(50*gives/dial, "km/h"), ""}, SumLine{"it may show there", "50 to 59 km/h",
			"UN Regulation 39 (from memory)"})
	switch {
	case s.Works:
		s.Says = "The needle shows what the law allows."
	case low:
		s.Says = "The needle shows too little: the law wants it never to."
	default:
		s.Says = "The needle shows more than the law allows."
	}
	if !s.Works {
		want := dial * 1.02 // a little too much is allowed, too little is not
		up, down := Ratio(want/gives, 40)
		s.Ways = []SumWay{{Text: fmt.Sprintf("set the unit's speed output to %.0f pulses a km", want),
			Facts: map[string]string{"gives": fmt.Sprintf("%.0f", want)},
			Unit:  fmt.Sprintf("speed output: %.0f pulses a km", want)}}
		if r := gives * float64(up) / float64(down); Lawful(100*r/dial, 100) {
			s.Ways = append(s.Ways, SumWay{Text: fmt.Sprintf("a converter of %d to %d", up, down),
				Facts: map[string]string{"gives": fmt.Sprintf("%.0f", r)},
				Part: &WayPart{What: fmt.Sprintf("converter of %d to %d pulses", up, down), Body: Through, In: true,
					Leads: powered}})
		}
		s.Ways = append(s.Ways, SumWay{Text: fmt.Sprintf("a speedometer for %.0f pulses a km", gives),
			Facts: map[string]string{"dial": fmt.Sprintf("%.0f", gives/1.02)},
			Part:  &WayPart{What: fmt.Sprintf("speedometer for %.0f pulses a km", gives), Body: Fitted}})
	}
	return s
}
