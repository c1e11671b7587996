package join

import (
	"fmt"
	"math"
	"strings"
)

// excites is the current in A that a lamp-excited alternator wants before it charges: a bulb of 2 to 3 W gives that,
// an LED does not (common practice).
const excites = 0.15

// charging is whether an alternator charges with what it is given.
func charging(f *facts, job *Known) *Sum {
	kind := f.word("alternator", "alternator: lamp-excited, self-exciting, controlled", job.Alternator)
	lamp := f.word("lamp", "charge lamp: bulb, LED or none", "bulb")
	watts, _ := f.number("watts", "watts of the bulb", "W", 2, 0.5, 10)
	beside, _ := f.number("beside", "resistor beside the lamp, 0 for none", "Ω", 0, 0, 10000)
	commanded := f.word("commanded", "the unit commands it: yes or no", "no")
	s := &Sum{Lines: []SumLine{}}
	switch strings.ToLower(kind) {
	case "self-exciting":
		s.Works, s.Says = true, "It excites itself: the lamp only tells."
	case "controlled":
		if s.Works = commanded == "yes"; s.Works {
			s.Says = "The unit commands it."
		} else {
			s.Says = "It charges at its fallback or not at all: nothing commands it."
			s.Ways = []SumWay{{Text: "lead its command to the unit that knows it", Facts: map[string]string{"commanded": "yes"},
				Stage: "match"},
				{Text: "an alternator that excites itself", Facts: map[string]string{"alternator": "self-exciting"},
					Part: &WayPart{What: "alternator that excites itself", Body: Fitted}}}
		}
	case "lamp-excited":
		amps := 0.0
		switch strings.ToLower(lamp) {
		case "bulb":
			amps = watts / 12
		case "led":
			amps = 0.02
		}
		if job.LampAmps > 0 && f.given["lamp"] == "" && f.given["watts"] == "" {
			amps = job.LampAmps
			s.Lines = append(s.Lines, SumLine{"the network has through the lamp", value(amps*1000, "mA"), "Feed"})
		}
		if beside > 0 {
			amps += 12 / beside
		}
		s.Lines = append(s.Lines, SumLine{"it is excited with", value(math.Round(amps*1000), "mA"), ""},
			SumLine{"it wants about", value(excites*1000, "mA"), "common practice"})
		if s.Works = amps >= excites; s.Works {
			s.Says = "The lamp excites it."
		} else {
			s.Says = "The lamp gives too little to excite it: it may charge only once it is revved, or never."
			ohms := 12 / (excites - amps)
			e24 := 0.0
			for _, v := range Resistors() {
				if v <= ohms {
					e24 = v
				}
			}
			s.Ways = []SumWay{{Text: fmt.Sprintf("a resistor of %g Ω (E24), %.0f W, beside the lamp", e24,
				math.Ceil(14.5*14.5/e24)),
				Facts: map[string]string{"beside": fmt.Sprint(e24)},
				Part: &WayPart{What: fmt.Sprintf("resistor of %g Ω (E24), %.0f W", e24, math.Ceil(14.5*14.5/e24)), Body: Resistor,
					Ohms: e24, Leads: between("the wire from lamp to alternator", "the feed of the lamp")}}, {Text: "a bulb of 2 W",
				Facts: map[string]string{"lamp": "bulb", "watts": "2"},
				Part:  &WayPart{What: "bulb of 2 W for the charge lamp", Body: Fitted}}}
		}
	default:
		return short("State what kind the alternator is: lamp-excited, self-exciting, or controlled by the unit.")
	}
	return s
}

// least is the volts that a fuel pump wants at its plug (common practice: 12 of the 13.5 V).
const least = 12.0

// pump is what a fuel pump has at its plug, and the flow that it loses by it.
func pump(f *facts, job *Known) *Sum {
	volts, known := f.number("volts", "volts at the pump, engine running, as measured", "V", round(job.PumpVolts), 1, 20)
	rated, _ := f.number("rated", "volts at which its flow is stated", "V", 13.5, 6, 16)
	if !known {
		return short("The network says nothing of the volts at the pump: state them, or complete Feed.")
	}
	lost := max(0, 1-volts/rated)
	s := &Sum{Works: volts >= least, Lines: []SumLine{{"it has", value(volts, "V"), "Feed, or as measured"},
		{"its flow is stated at", value(rated, "V"), ""}, {"it turns slower by about", percent(lost),
			"its speed goes with its volts: common practice"}}}
	if job.PumpAmps > 0 {
		s.Lines = append(s.Lines, SumLine{"it takes", value(job.PumpAmps, "A"), "Feed"})
	}
	if s.Says = "The pump has what it wants."; !s.Works {
		s.Says = fmt.Sprintf("%.1f V at the pump are too few: it loses about %s of its flow.", volts, percent(lost))
		s.Ways = []SumWay{{Text: "a thicker feed, and a ground of the same size", Stage: "reach"},
			{Text: "a relay near it, fed from the battery", Stage: "feed"}}
	}
	return s
}

func round(x float64) float64 { return math.Round(x*100) / 100 }

// pedal is whether two tracks of a pedal or a throttle agree as the unit wants it.
func pedal(f *facts) *Sum {
	a := f.word("track1", "track 1: volts by % of travel, 0: 0.75, 100: 4.2", "")
	b := f.word("track2", "track 2, the same way", "")
	tolerance, _ := f.number("tolerance", "how far they may differ", "%", 5, 0.1, 50)
	ref := f.word("references", "the tracks have references and grounds of their own: yes or no", "yes")
	pair := f.word("pair", "pedal and throttle belong to the unit: yes or no", "yes")
	if a == "" || b == "" {
		return short("State both tracks, as the data of pedal and unit have them: then it is reckoned whether they agree.")
	}
	t1, err := ReadCurve(a)
	if err != nil {
		f.bad = "track 1: " + err.Error()
		return nil
	}
	t2, err := ReadCurve(b)
	if err != nil {
		f.bad = "track 2: " + err.Error()
		return nil
	}
	wants1 := f.word("wants1", "the unit expects of track 1", a)
	wants2 := f.word("wants2", "the unit expects of track 2", b)
	u1, err1 := ReadCurve(wants1)
	u2, err2 := ReadCurve(wants2)
	if err1 != nil || err2 != nil {
		f.bad = fmt.Sprint(err1, err2)
		return nil
	}
	back1, back2 := u1.Back(), u2.Back()
	worst, at := 0.0, 0.0
	s := &Sum{Lines: []SumLine{}, Chart: &Chart{Across: "travel %", Up: "read by track 2 where track 1 reads the travel"}}
	for x := 0.0; x <= 100; x += 5 {
		one, two := back1.At(t1.At(x)), back2.At(t2.At(x))
		if d := math.Abs(one - two); d > worst {
			worst, at = d, x
		}
		s.Chart.Points = append(s.Chart.Points, Point{one, two, one - tolerance, one + tolerance})
	}
	s.Works = worst <= tolerance && ref == "yes" && pair == "yes"
	s.Lines = append(s.Lines, SumLine{"the tracks differ by at most", value(math.Round(worst*100)/100, "% of travel"), ""},
		SumLine{"which is at", value(at, "%"), ""})
	switch {
	case worst > tolerance:
		s.Says = "The two tracks do not agree as the unit reads them: it goes into limp mode (P2135, P2138)."
		s.Ways = []SumWay{{Text: "the pedal that belongs to the unit",
			Facts: map[string]string{"track1": wants1, "track2": wants2, "pair": "yes"},
			Part:  &WayPart{What: "pedal that belongs to the unit", Body: Fitted}},
			{Text: "the unit's calibration for this pedal",
				Facts: map[string]string{"wants1": a, "wants2": b}, Unit: "pedal: calibrate it to the tracks of the one fitted"}}
	case ref != "yes":
		s.Says = "Both tracks hang on one reference or one ground: one fault takes both, and the unit cannot tell."
		s.Ways = []SumWay{{Text: "references and grounds of their own, cavity by cavity (Match)",
			Facts: map[string]string{"references": "yes"}, Stage: "match"}}
	case pair != "yes":
		s.Says = "Pedal and throttle are learned together with the unit: others are not."
		s.Ways = []SumWay{{Text: "pedal, throttle and unit of one vehicle", Facts: map[string]string{"pair": "yes"},
			Part: &WayPart{What: "pedal and throttle of the unit's vehicle", Body: Fitted}}}
	default:
		s.Says = "The tracks agree, each on a reference of its own."
	}
	return s
}

// bus is whether a data bus has its two ends.
func bus(f *facts) *Sum {
	ends, known := f.number("ends", "resistors of 120 Ω across the pair, at units and in the harness", "", 0, 0, 20)
	rate, _ := f.number("rate", "bit rate", "kbit/s", 500, 10, 1000)
	stub, hasStub := f.number("stub", "longest stub from the line to a unit", "mm", 0, 0, 20000)
	gateway := f.word("gateway", "between diagnostic connector and unit lies a gateway that does not know it: yes or no",
		"no")
	misses := f.word("misses", "who stays and misses what: instrument panel: gearbox messages", "")
	classes := f.word("classes", "supply of each node, 30 or 15: unit: 30, panel: 15", "")
	if !known {
		return short("State how many ends the bus has: resistors of 120 Ω, at which units. The meter shows 60 Ω with two.")
	}
	s := &Sum{Lines: []SumLine{}}
	if ends > 0 {
		s.Lines = append(s.Lines, SumLine{"across the pair with power off the meter shows", value(120/ends, "Ω"),
			"ISO 11898-2"})
	} else {
		s.Lines = append(s.Lines, SumLine{"across the pair with power off the meter shows", "no end at all", "ISO 11898-2"})
	}
	limit := map[bool]float64{true: 300, false: 1000}[rate > 250]
	if hasStub && stub > 0 {
		s.Lines = append(s.Lines, SumLine{"the longest stub", value(stub, "mm"), ""}, SumLine{"it may have", value(limit,
			"mm"),
			"ISO 11898-2 at 1 Mbit/s, from memory; more at lower rates: common practice"})
	}
	asleep, err := supplied(classes)
	if err != nil {
		f.bad = err.Error()
		return nil
	}
	if asleep != "" {
		s.Lines = append(s.Lines, SumLine{"dead with the key off, while others are awake", asleep,
			"terminals 15 and 30: DIN 72552 (from memory); the others then miss it"})
	}
	if misses != "" {
		s.Lines = append(s.Lines, SumLine{"missed on it", misses, ""})
	}
	switch {
	case ends == 2 && gateway != "yes" && stub <= limit && misses != "":
		s.Says = "A module that stays misses messages of one that goes: " + misses + "."
		s.Ways = []SumWay{{Text: "code the modules for what they have now, where they can be", Facts: map[string]string{
			"misses": ""}, Unit: "modules: coded for what is fitted (" + misses + ")"},
			{Text: "a translator that sends what is missed", Facts: map[string]string{"misses": ""},
				Part: &WayPart{What: "translator on the bus: " + misses, Body: Fitted}}}
	case ends == 2 && gateway != "yes" && stub <= limit:
		s.Works, s.Says = true, "The bus has its two ends."
	case ends < 2:
		s.Says = "An end of the bus went with a module that is deleted: it works badly or not at all."
		s.Ways = []SumWay{{Text: "a resistor of 120 Ω across the pair where the module was",
			Facts: map[string]string{"ends": fmt.Sprint(ends + 1)},
			Part: &WayPart{What: "resistor of 120 Ω, an end of the bus", Body: Resistor, Ohms: 120,
				Leads: between("one wire of the pair", "the other wire of the pair")}}}
	case ends > 2:
		s.Says = "The bus has an end too many: the levels fall."
		s.Ways = []SumWay{{Text: "take the resistor out of the unit that is not at an end",
			Facts: map[string]string{"ends": fmt.Sprint(ends - 1)}, Part: &WayPart{Body: Fitted,
				What: "no resistor in the unit that is not at an end of the bus: take it out"}}}
	case stub > limit:
		s.Says = "A stub is too long for the bit rate: it is a star, not a line."
		s.Ways = []SumWay{{Text: "lead the line to the unit and back", Facts: map[string]string{"stub": fmt.Sprint(limit)},
			Stage: "reach"}}
	default:
		s.Says = "The gateway before the diagnostic connector does not know the unit: nothing is read there."
		s.Ways = []SumWay{{Text: "lead the connector to the unit's own bus", Facts: map[string]string{"gateway": "no"},
			Stage: "match"}}
	}
	return s
}

// supplied reads by what terminal each node of a bus is fed, "unit: 30, panel: 15", and names those that are dead with
// the key off while another is not (DIN 72552, from memory).
func supplied(text string) (asleep string, err error) {
	var off []string
	awake := false
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		node, by, ok := strings.Cut(part, ":")
		switch by = strings.ReplaceAll(by, " ", ""); {
		case ok && strings.Contains(by, "30"):
			awake = true
		case ok && (by == "15" || by == "75"):
			off = append(off, strings.TrimSpace(node))
		default:
			return "", fmt.Errorf("%q says of no node by which terminal it is fed, 30 or 15", strings.TrimSpace(part))
		}
	}
	if !awake {
		return "", nil
	}
	return strings.Join(off, ", "), nil
}
