package join

import (
	"fmt"
	"slices"
	"strings"
)

// comparing is whether the two switches of a brake pedal agree as the unit compares them: one that closes and one that
// opens, or two of a kind, and both at nearly the same travel.
func comparing(f *facts) *Sum {
	first := f.word("first", "the brake lamp switch, pedal up: open or closed", "open")
	second := f.word("second", "the second switch, pedal up: open, closed or none", "")
	wants := f.word("wants", "the unit expects of the second, pedal up: open, closed or none", "")
	one, _ := f.number("travel1", "the first switches at a travel of", "mm", 5, 0, 60)
	two, _ := f.number("travel2", "the second at", "mm", 5, 0, 60)
	apart, _ := f.number("apart", "they may be apart by", "mm", 6, 0.5, 60)
	if second == "" || wants == "" {
		return short("State what the second switch is with the pedal up, and what the unit expects: it compares the two.")
	}
	for _, x := range []string{first, second, wants} {
		if !slices.Contains([]string{"open", "closed", "none"}, x) || x == "none" && first == x {
			f.bad = fmt.Sprintf("%q is no state of a switch: open, closed or none", x)
			return nil
		}
	}
	other := map[string]string{"open": "closed", "closed": "open", "none": "none"}
	s := &Sum{Lines: []SumLine{{"pedal up: brake lamp switch, second", first + ", " + second, ""},
		{"pedal down", other[first] + ", " + other[second], ""}, {"the unit expects of the second, up and down",
			wants + ", " + other[wants], ""}}}
	double := SumWay{Text: "a double switch as the unit expects it", Facts: map[string]string{"first": "open",
		"second": wants, "travel2": fmt.Sprint(one)},
		Part: &WayPart{What: "double brake switch, the second " + wants + " with the pedal up", Body: Fitted}}
	single := SumWay{Text: "set the unit to one switch, where it can be", Facts: map[string]string{"wants": "none",
		"second": "none"}, Unit: "brake: one switch, none to compare"}
	turned := SumWay{Text: "a relay that turns the brake lamp's signal round for the second input",
		Facts: map[string]string{"second": other[first], "travel2": fmt.Sprint(one)},
		Part: &WayPart{What: "relay that turns the brake lamp's signal round", Body: RelayBody,
			Leads: []WayLead{{Point: "30", Asks: "a feed that is on with the ignition"},
				{Point: "87a", Asks: "the unit's second brake input"}, {Point: "86", Asks: "the wire from switch to lamps"},
				{Point: "85", Asks: "its ground"}}}}
	switch {
	case first == "closed":
		s.Says = "The brake lamp switch is closed with the pedal up: the lamps burn until it is pressed."
		s.Ways = []SumWay{double}
	case wants == "none":
		s.Works, s.Says = true, "The unit compares nothing."
	case second == wants && max(one-two, two-one) <= apart:
		s.Works, s.Says = true, "The two switches agree as the unit compares them."
	case second == wants:
		s.Says = fmt.Sprintf("They switch %.3g mm apart: between the two the unit sees a fault.", max(one-two, two-one))
		s.Ways = []SumWay{{Text: "set the second switch to the travel of the first",
			Facts: map[string]string{"travel2": fmt.Sprint(one)},
			Part:  &WayPart{What: "brake switches, set to one travel", Body: Fitted}}, double}
	case second == "none":
		s.Says = "The unit compares two switches and gets one: it reports a fault and may cut the torque."
		if other[first] == wants {
			s.Ways = append(s.Ways, turned)
		}
		s.Ways = append(s.Ways, double, single)
	default:
		s.Says = "The second switch is the other way round: the unit sees brake and no brake at once."
		if other[first] == wants {
			s.Ways = append(s.Ways, turned)
		}
		s.Ways = append(s.Ways, double, single)
	}
	return s
}

// j1962 is what stands on the pins of the diagnostic connector (SAE J1962, ISO 15031-3, from memory).
var j1962 = map[string]string{"2": "J1850 +", "4": "chassis ground", "5": "signal ground", "6": "CAN high",
	"7": "K line", "10": "J1850 −", "14": "CAN low", "15": "L line", "16": "battery +"}

// pinsOf are the pins of the diagnostic connector by the device whose wire belongs there.
var pinsOf = map[string]string{"canh": "6", "canl": "14", "kline": "7", "lline": "15"}

// diagnostics is whether what a person says of the pins of the diagnostic connector is what belongs there.
func diagnostics(f *facts, sockets []Socket) *Sum {
	text := f.word("pins", "its pins, 4: ground, 5: ground, 7: A29, 16: battery", "")
	reached := f.word("reached", "it is reached from the driver's seat: yes or no", "yes")
	kicked := f.word("kicked", "a foot or a knee strikes it there: yes or no", "no")
	if text == "" {
		return short("State its pins, and which wire comes to each: then it is reckoned whether a reader finds the unit.")
	}
	at := map[string]*Socket{}
	var lines []string // that the unit has, in the order of pins
	for i := range sockets {
		x := &sockets[i]
		at[strings.ToLower(x.At.String())] = x
		if pin := pinsOf[x.Signal.Device]; pin != "" && x.Unit && !slices.Contains(lines, pin) {
			lines = append(lines, pin)
		}
	}
	s := &Sum{Works: true, Says: "Its pins are as the standard has them.", Lines: []SumLine{}}
	is := map[string]string{}
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		pin, what, ok := strings.Cut(part, ":")
		pin, what = strings.TrimSpace(pin), strings.ToLower(strings.TrimSpace(what))
		if n, belongs := j1962[pin]; !ok || what == "" || !belongs {
			f.bad = fmt.Sprintf("%q is no pin with what comes to it, such as 7: A29 (%s)", strings.TrimSpace(part), n)
			return nil
		}
		if is[pin] != "" {
			f.bad = fmt.Sprintf("pin %s twice", pin)
			return nil
		}
		is[pin] = what
	}
	right := map[string]string{"4": "ground", "5": "ground", "16": "battery"}
	var wrong []string
	for _, pin := range []string{"2", "4", "5", "6", "7", "10", "14", "15", "16"} {
		what := is[pin]
		if what == "" {
			if right[pin] != "" || slices.Contains(lines, pin) && pin != "15" {
				wrong = append(wrong, fmt.Sprintf("pin %s, %s, has nothing", pin, j1962[pin]))
			}
			continue
		}
		s.Lines = append(s.Lines, SumLine{"pin " + pin + " is " + j1962[pin], what, "SAE J1962 (from memory)"})
		x := at[what]
		switch {
		case right[pin] == "ground" && !strings.Contains(what, "ground") && !strings.Contains(what, "body"),
			right[pin] == "battery" && !strings.Contains(what, "battery"):
			wrong = append(wrong, fmt.Sprintf("pin %s is %s and gets %s", pin, j1962[pin], what))
		case right[pin] == "" && x != nil && pinsOf[x.Signal.Device] != pin && pinsOf[x.Signal.Device] != "":
			wrong = append(wrong, fmt.Sprintf("pin %s is %s and gets %s, which belongs on pin %s", pin, j1962[pin], x.Text,
				pinsOf[x.Signal.Device]))
		}
	}
	if len(wrong) > 0 {
		s.Works, s.Says = false, "A reader finds nothing: "+strings.Join(wrong[:min(len(wrong), 3)], "; ")+"."
		s.Ways = []SumWay{{Text: "a connector of 16 ways, wired as the standard has it",
			Facts: map[string]string{"pins": pinned(sockets)},
			Part:  &WayPart{What: "diagnostic connector: " + pinned(sockets), Body: Fitted}}}
		return s
	}
	if reached != "yes" || kicked == "yes" {
		s.Works, s.Says = false, "It is where nobody reaches it, or where it is struck."
		s.Ways = []SumWay{{Text: "mount it under the dash, reached from the seat, clear of feet and knees",
			Facts: map[string]string{"reached": "yes", "kicked": "no"},
			Part:  &WayPart{What: "bracket for the diagnostic connector, under the dash", Body: Fitted}}}
	}
	return s
}

// pinned writes the pins that the lines of the control unit want.
func pinned(sockets []Socket) string {
	out := []string{"4: ground", "5: ground"}
	for _, device := range []string{"canh", "kline", "canl", "lline"} {
		for i := range sockets {
			if x := &sockets[i]; x.Signal.Device == device && x.Unit {
				out = append(out, pinsOf[device]+": "+x.At.String())
				break
			}
		}
	}
	return strings.Join(append(out, "16: battery"), ", ")
}
