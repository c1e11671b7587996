package join

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// lasting is the part of a contact's rating that may flow for long (common practice: four fifths, as of a fuse).
const lasting = 0.8

// Temperatures in °C over which rules are tried to find when they work an output.
const coldest, hottest = 40.0, 140.0

// comesOn gives the least coolant temperature in °C at which the rules work an output, with or without a request for
// air conditioning; false where they never do, or say nothing of it.
func comesOn(rules []OutputRule, output string, request bool) (celsius float64, known bool) {
	works := func(c float64) bool {
		on, _ := Ruled(rules, Condition{Numbers: map[string]float64{"coolant": c, "temperature": c},
			On: map[string]bool{"a/c request": request, "a/c": request, "air conditioning": request}})
		return on[output]
	}
	for c := coldest; c <= hottest; c++ {
		if !works(c) {
			continue
		}
		off, on := c-1, c
		for c > coldest && on-off > 0.01 {
			if half := (off + on) / 2; works(half) {
				on = half
			} else {
				off = half
			}
		}
		return math.Round(on*10) / 10, true
	}
	return 0, false
}

// fans is whether staged fans keep an engine cool: when they come on, what they carry, what air conditioning does.
func fans(f *facts, job *Known) *Sum {
	usual := [2]float64{}
	forced := "none"
	for i, out := range job.Fans[:min(len(job.Fans), 2)] {
		if c, known := comesOn(job.Rules, out, false); known {
			usual[i] = c
		}
		if c, known := comesOn(job.Rules, out, true); known && c == coldest {
			forced = []string{"first", "both"}[i]
		}
	}
	low, known := f.number("low", "the first stage comes on at", "°C", usual[0], 40, 140)
	high, second := f.number("high", "the second stage comes on at", "°C", usual[1], 40, 140)
	opens, _ := f.number("opens", "the thermostat opens at", "°C", 88, 60, 110)
	most, _ := f.number("most", "the coolant may have at most", "°C", 112, 90, 130)
	amps, flows := f.number("amps", "current of a fan that runs", "A", 0, 0.5, 100)
	rated, _ := f.number("rated", "its relay's contact is rated", "A", 30, 5, 200)
	ac := f.word("ac", "air conditioning forces: none, first, both", forced)
	if !known {
		return short("State when the fans come on: here, or as the unit's own rules (Try it).")
	}
	s := &Sum{Works: true, Lines: []SumLine{{"the first stage comes on at", value(low, "°C"), ""}}}
	if second {
		s.Lines = append(s.Lines, SumLine{"the second stage comes on at", value(high, "°C"), ""})
	}
	s.Lines = append(s.Lines, SumLine{"between thermostat and limit", fmt.Sprintf("%g to %g °C", opens, most),
		"common practice"}, SumLine{"air conditioning forces", ac, ""})
	if flows {
		s.Lines = append(s.Lines, SumLine{"its contact may carry for long", value(lasting*rated, "A"), "common practice"})
	}
	fail := func(says string, ways ...SumWay) {
		if s.Works {
			s.Says = says
		}
		s.Works = false
		s.Ways = append(s.Ways, ways...)
	}
	wants := [2]float64{math.Round(opens + 7), math.Round(min(opens+14, most-4))}
	set := SumWay{Text: fmt.Sprintf("set the unit's fans to %g and %g °C", wants[0], wants[1]),
		Facts: map[string]string{"low": fmt.Sprint(wants[0]), "high": fmt.Sprint(wants[1])},
		Unit:  fmt.Sprintf("fans: %g and %g °C", wants[0], wants[1])}
	switch {
	case low <= opens:
		fail("The first stage runs before the thermostat opens: it never stops.", set)
	case low >= most || second && high >= most:
		fail(fmt.Sprintf("A stage comes on at or above %g °C: too late.", most), set)
	case second && high < low+3:
		fail("The second stage comes on with the first, or before it.", set)
	}
	if flows && amps > lasting*rated {
		next := math.Ceil(amps/lasting/10) * 10
		fail(fmt.Sprintf("%.3g A are too much for a contact of %.3g A.", amps, rated),
			SumWay{Text: fmt.Sprintf("a relay of %g A", next), Facts: map[string]string{"rated": fmt.Sprint(next)},
				Part: &WayPart{What: fmt.Sprintf("relay of %g A for the fan", next), Body: Fitted}})
	}
	if ac == "none" && job.Cools {
		fail("Nothing runs the fans with the air conditioning: its pressure rises until the switch opens.",
			SumWay{Text: "let the air conditioning work the fans in the unit", Facts: map[string]string{"ac": "both"},
				Unit: "fans: on with the air conditioning"})
	}
	if s.Works {
		s.Says = "The fans come on in time, in their order."
	}
	return s
}

// standing is the pressure in bar above the air's that R134a stands at in a car of 20 °C: 5.7 bar absolute (saturation,
// from memory).
const standing = 4.7

// compressor is whether a compressor is protected: what cuts it on too little and on too much pressure, and who
// grants it.
func compressor(f *facts, job *Known) *Sum {
	by := f.word("by", "its pressure is watched by: switch, sensor, nothing", "")
	low, _ := f.number("low", "it is cut below", "bar", 2, 0.1, 10)
	high, _ := f.number("high", "it is cut above", "bar", 27, 5, 50)
	knows := f.word("knows", "a sensor is one that the unit knows: yes or no", "yes")
	amps, _ := f.number("amps", "current of its clutch", "A", 3.5, 0.5, 15)
	rated, _ := f.number("rated", "its relay's contact is rated", "A", 20, 5, 100)
	if by == "" {
		return short("State what watches its pressure: a switch in the chain, a sensor at the unit, or nothing.")
	}
	s := &Sum{Works: true, Says: "It is granted by the unit, and cut on too little and too much pressure.",
		Lines: []SumLine{{"it is cut below", value(low, "bar"), ""}, {"it stands at, cold", value(standing, "bar"),
			"R134a at 20 °C (from memory)"}, {"it is cut above", value(high, "bar"), "common practice: 24 to 32 bar"},
			{"its clutch takes", value(amps, "A"), ""}, {"its contact may carry for long", value(lasting*rated, "A"),
				"common practice"}}}
	fail := func(says string, ways ...SumWay) {
		if s.Works {
			s.Says = says
		}
		s.Works, s.Ways = false, append(s.Ways, ways...)
	}
	pressed := SumWay{Text: "a pressure switch of two stages in the request's wire",
		Facts: map[string]string{"by": "switch", "low": "2", "high": "27"},
		Part:  &WayPart{What: "pressure switch, 2 and 27 bar", Body: Through, In: true}}
	switch {
	case strings.EqualFold(by, "nothing"):
		fail("Nothing cuts it: with too little gas it runs dry, with too much it bursts its valve.", pressed)
	case strings.EqualFold(by, "sensor") && knows != "yes":
		fail("The unit does not know the sensor: what it reads as pressure is another.",
			SumWay{Text: "the sensor that belongs to the unit", Facts: map[string]string{"knows": "yes"},
				Part: &WayPart{What: "pressure sensor that belongs to the unit", Body: Fitted}}, pressed)
	}
	switch {
	case low >= standing:
		fail("It is cut below more than it stands at cold: it never starts.", pressed)
	case high < 20 || high > 32:
		fail("It is cut above a pressure that none is made for.", pressed)
	}
	if amps > lasting*rated {
		fail(fmt.Sprintf("%.3g A are too much for a contact of %.3g A.", amps, rated),
			SumWay{Text: "a relay of 30 A", Facts: map[string]string{"rated": "30"},
				Part: &WayPart{What: "relay of 30 A for the compressor", Body: Fitted}})
	}
	for _, out := range job.Clutch {
		if on, _ := Ruled(job.Rules, Condition{Numbers: map[string]float64{"coolant": 80}}); on[out] {
			fail("The unit's rule works it without a request.",
				SumWay{Text: "state the rule with the request in it (Try it)", Stage: "try"})
		}
	}
	return s
}

// lampOut is a lamp on an output of a unit: its current, or the resistor that an LED wants.
func lampOut(f *facts) *Sum {
	lamp := strings.ToLower(f.word("lamp", "lamp: bulb or LED", "bulb"))
	watts, _ := f.number("watts", "watts of the bulb", "W", 1.2, 0.2, 60)
	forward, _ := f.number("forward", "forward volts of the LED", "V", 2, 1, 6)
	wants, _ := f.number("wants", "current that the LED wants", "mA", 15, 1, 1000)
	series, _ := f.number("series", "resistor in series with the LED, 0 for none", "Ω", 0, 0, 100000)
	carries, _ := f.number("carries", "the output may carry", "mA", 300, 5, 20000)
	const volts = 13.5
	switch lamp {
	case "bulb":
		amps := 1000 * watts / 12
		s := &Sum{Works: amps <= carries, Says: "The output carries the bulb.", Lines: []SumLine{{"the bulb takes",
			value(math.Round(amps), "mA"), ""}, {"for an instant, cold", value(math.Round(10*amps), "mA"),
			"a cold filament has a tenth of its resistance: common practice"}, {"the output may carry",
			value(carries, "mA"), "common practice"}}}
		if !s.Works {
			s.Says = "The bulb takes more than the output may carry."
			ohms := atLeast((volts - forward) / (wants / 1000))
			s.Ways = []SumWay{{Text: fmt.Sprintf("an LED with %g Ω (E24) in series", ohms),
				Facts: map[string]string{"lamp": "LED", "series": fmt.Sprint(ohms)},
				Part:  &WayPart{What: fmt.Sprintf("LED with %g Ω in series", ohms), Body: Fitted}}}
		}
		return s
	case "led":
	default:
		return &Sum{Error: fmt.Sprintf("%q is no lamp: bulb or LED", lamp), Says: "What was typed cannot be.",
			Lines: []SumLine{}}
	}
	ohms := atLeast((volts - forward) / (wants / 1000))
	s := &Sum{Lines: []SumLine{{"at 13.5 V it wants in series", value(math.Round((volts-forward)/(wants/1000)), "Ω"),
		"R = (U − Uf) / I"}, {"the next of E24", value(ohms, "Ω"), "IEC 60063"}, {"it takes up",
		value(math.Ceil((volts-forward)*(volts-forward)/ohms*1000), "mW"), ""}}}
	flows := math.Inf(1)
	if series > 0 {
		flows = 1000 * (volts - forward) / series
		s.Lines = append(s.Lines, SumLine{"with its resistor flow", value(math.Round(flows*10)/10, "mA"), ""})
	}
	in := SumWay{Text: fmt.Sprintf("a resistor of %g Ω (E24) in its wire", ohms),
		Facts: map[string]string{"series": fmt.Sprint(ohms)},
		Part:  &WayPart{What: fmt.Sprintf("resistor of %g Ω (E24), 0.5 W", ohms), Body: Resistor, In: true, Ohms: ohms}}
	switch {
	case series == 0:
		s.Says, s.Ways = "An LED without a resistor burns out at once.", []SumWay{in}
	case flows > 2*wants:
		s.Says, s.Ways = "More flows than the LED takes.", []SumWay{in}
	case flows > carries:
		s.Says, s.Ways = "More flows than the output may carry.", []SumWay{in}
	case flows < wants/5:
		s.Says, s.Ways = "Too little flows to see it by day.", []SumWay{in}
	default:
		s.Works, s.Says = true, "The LED lights as it should."
	}
	return s
}

// atLeast gives the least value of E24 that is not below some Ω.
func atLeast(ohms float64) float64 {
	all := Resistors()
	if i := slices.IndexFunc(all, func(v float64) bool { return v >= ohms-1e-9 }); i >= 0 {
		return all[i]
	}
	return all[len(all)-1]
}
