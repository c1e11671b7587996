package join

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// staged are rules of two fans and a compressor, as the outputs B18, B19 and B32 have them.
func staged(first, second, clutch string) []OutputRule {
	return []OutputRule{{Output: "B18", When: first}, {Output: "B19", When: second}, {Output: "B32", When: clutch}}
}

// Sums of fans, compressor, brake switches, lamps and the diagnostic connector by hand; each way that states
// something makes them work. What is common practice has no source; the pins are those of SAE J1962 and the
// terminals those of DIN 72552 (from memory).
func TestMoreSumsByHand(t *testing.T) {
	fan := Known{Fans: []string{"B18", "B19"}, Cools: true,
		Rules: staged("coolant above 95 or A/C request", "coolant above 102 or A/C request", "")}
	late, never, upside := fan, fan, fan
	late.Rules = staged("coolant above 95 or A/C request", "coolant above 118", "")
	never.Rules = staged("coolant above 70 or A/C request", "coolant above 102", "")
	upside.Rules = staged("coolant above 102 or A/C request", "coolant above 102", "")
	warm := fan
	warm.Rules = staged("coolant above 95", "coolant above 102", "")
	clutch := Known{Clutch: []string{"B32"}, Rules: staged("", "", "A/C request and not full throttle")}
	loose := Known{Clutch: []string{"B32"}, Rules: staged("", "", "not full throttle")}
	pins := "4: ground, 5: ground, 6: A51, 7: A29, 14: A52, 16: battery"
	for name, c := range map[string]struct {
		id    string
		job   Known
		facts map[string]string
		works bool
		says  string
	}{
		"two stages by rules":         {"fans", fan, nil, true, "95 °C"},
		"the second too late":         {"fans", late, nil, false, "too late"},
		"one that never stops":        {"fans", never, nil, false, "never stops"},
		"both at once":                {"fans", upside, nil, false, "with the first"},
		"no fan with the compressor":  {"fans", warm, nil, false, "air conditioning"},
		"a contact that is too small": {"fans", fan, map[string]string{"amps": "28"}, false, "28 A are too much"},
		"a contact at four fifths":    {"fans", fan, map[string]string{"amps": "24"}, true, "in time"},
		"a switch in the chain":       {"compressor", clutch, map[string]string{"by": "switch"}, true, "granted"},
		"nothing that cuts":           {"compressor", clutch, map[string]string{"by": "nothing"}, false, "Nothing cuts"},
		"a sensor of another unit": {"compressor", clutch, map[string]string{"by": "sensor", "knows": "no"}, false,
			"not know"},
		"a switch that never lets it on": {"compressor", clutch, map[string]string{"by": "switch", "low": "5"}, false,
			"never starts"},
		"a clutch on a small contact": {"compressor", clutch, map[string]string{"by": "switch", "amps": "6", "rated": "7"},
			false,
			"too much"},
		"one that closes, one that opens": {"brake", Known{}, map[string]string{"second": "closed", "wants": "closed"}, true,
			"agree"},
		"two that close": {"brake", Known{}, map[string]string{"second": "open", "wants": "closed"}, false,
			"other way round"},
		"one where two are compared": {"brake", Known{}, map[string]string{"second": "none", "wants": "closed"}, false,
			"gets one"},
		"far apart": {"brake", Known{}, map[string]string{"second": "closed", "wants": "closed", "travel1": "4",
			"travel2": "14"}, false, "10 mm apart"},
		"a lamp that always burns": {"brake", Known{}, map[string]string{"first": "closed", "second": "open",
			"wants": "open"},
			false, "burn"},
		"a unit that compares nothing": {"brake", Known{}, map[string]string{"second": "none", "wants": "none"}, true,
			"nothing"},
		// 13.5 V less 2 V by 15 mA are 767 Ω: 820 Ω of E24
		"an LED without a resistor": {"check", Known{}, map[string]string{"lamp": "LED"}, false, "820 Ω"},
		"an LED with one":           {"check", Known{}, map[string]string{"lamp": "LED", "series": "820"}, true, "lights"},
		"an LED that burns out": {"check", Known{}, map[string]string{"lamp": "LED", "series": "300"}, false,
			"More flows"},
		"an LED in the dark": {"check", Known{}, map[string]string{"lamp": "LED", "series": "10000"}, false,
			"Too little"},
		"a bulb of 5 W":          {"check", Known{}, map[string]string{"lamp": "bulb", "watts": "5"}, false, "417 mA"},
		"a bulb of 1.2 W":        {"check", Known{}, nil, true, "carries"},
		"pins as they should be": {"diagnostic", Known{}, map[string]string{"pins": pins}, true, "as the standard"},
		"high and low crossed": {"diagnostic", Known{}, map[string]string{"pins": strings.NewReplacer("A51", "A52", "A52",
			"A51").Replace(pins)}, false, "belongs on pin"},
		"battery from the key": {"diagnostic", Known{}, map[string]string{"pins": strings.Replace(pins, "battery", "ignition",
			1)}, false, "gets ignition"},
		"no signal ground": {"diagnostic", Known{}, map[string]string{"pins": strings.Replace(pins, "5: ground, ", "", 1)},
			false, "pin 5"},
		"where a foot strikes it": {"diagnostic", Known{}, map[string]string{"pins": pins, "kicked": "yes"}, false, "struck"},
		"a module that misses": {"bus", Known{}, map[string]string{"ends": "2", "misses": "panel: gearbox"}, false,
			"misses messages"},
		"a node that sleeps": {"bus", Known{}, map[string]string{"ends": "2", "classes": "unit: 30, panel: 15"}, true,
			"dead with the key off"},
	} {
		of := func(facts map[string]string) *Sum {
			in := Inputs{Job: c.job, Wishes: []FunctionWish{{Function: c.id, Choice: Wanted, Facts: facts}}, Sockets: []Socket{
				at("A1", "a", reading(c.id).Device, 1, true), at("B1", "b", reading(c.id).Device, 1, true),
				at("A51", "unit", "canh", 2, true), at("A52", "unit", "canl", 3, true), at("A29", "unit", "kline", 4, true)}}
			items, _ := List(in)
			i := slices.IndexFunc(items, func(it Item) bool { return it.ID == c.id })
			return items[i].Sum
		}
		s := of(c.facts)
		if s == nil || s.Error != "" || s.Works != c.works || !strings.Contains(s.Says+fmt.Sprint(s.Lines), c.says) {
			t.Errorf("%s: %+v", name, s)
			continue
		}
		for _, way := range s.Ways {
			facts := map[string]string{}
			for k, v := range c.facts {
				facts[k] = v
			}
			for k, v := range way.Facts {
				facts[k] = v
			}
			if after := of(facts); len(way.Facts) > 0 && !after.Works {
				t.Errorf("%s: %q is taken, and %s %+v", name, way.Text, after.Says, after.Lines)
			}
			if !way.Takes() && way.Stage == "" {
				t.Errorf("%s: %q can neither be taken nor says where it is done", name, way.Text)
			}
		}
	}
	if s := sumOf("compressor", loose, map[string]string{"by": "switch"}); s.Works ||
		!strings.Contains(s.Says, "without a request") {
		t.Errorf("a compressor that runs unasked: %+v", s)
	}
	for id, facts := range map[string]map[string]string{"brake": {"second": "half", "wants": "open"},
		"diagnostic": {"pins": "3: A1"}, "fans": {"low": "hot"}, "check": {"lamp": "candle"},
		"bus": {"ends": "2", "classes": "unit"}} {
		if s := sumOf(id, Known{}, facts); s == nil || s.Error == "" || s.Works {
			t.Errorf("%s %v: %+v", id, facts, s)
		}
	}
}

func at(cavity, device, is string, circuit int, unit bool) Socket {
	return Socket{At: harness.Ref{Connector: cavity[:1], Cavity: cavity[1:]}, Device: device, Circuit: circuit, Unit: unit,
		Signal: signal.Reading{Device: is}, Text: is}
}

// A resistor of E24 that is not below what is asked: a decade has 24 values (IEC 60063), each at most a tenth and a
// little above the one before.
func TestTheNextResistor(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 24))
	for range 500 {
		x := math.Exp(r.Float64() * 11)
		if got := atLeast(x); got < x-1e-6 || got > x*1.16 {
			t.Fatalf("%.5g Ω: %g", x, got)
		}
	}
}

// The interlock loop against a walk of the test's own: plugs in a row between the two ends of a unit, with one left
// open, one by-passed, or none.
func TestTheInterlockLoop(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 62))
	open, past, whole := 0, 0, 0
	for k := range 400 {
		n := 1 + r.IntN(8)
		sockets := []Socket{at("U1", "unit", "interlock", 0, true), at("U2", "unit", "interlock", n, true)}
		var want []string
		for i := range n { // plug i bridges circuits i and i+1
			want = append(want, fmt.Sprint("plug ", i))
			sockets = append(sockets, at(fmt.Sprintf("P%da", i), want[i], "interlock", i, false),
				at(fmt.Sprintf("P%db", i), want[i], "interlock", i+1, false))
		}
		fault := r.IntN(3)
		bad := r.IntN(n)
		switch fault {
		case 0: // its second cavity leads nowhere
			sockets[2+2*bad+1].Circuit = 100
		case 1: // it is bridged by copper: a circuit less
			for i := range sockets {
				if sockets[i].Circuit > bad {
					sockets[i].Circuit--
				}
			}
		}
		r.Shuffle(len(sockets), func(a, b int) { sockets[a], sockets[b] = sockets[b], sockets[a] })
		got := FollowLoop(sockets)
		forward := slices.Equal(got.Through, want)
		slices.Reverse(got.Through)
		switch {
		case fault == 2 && (got.Open != "" || len(got.Past) > 0 || !forward && !slices.Equal(got.Through, want)):
			t.Errorf("loop %d is whole: %+v", k, got)
		case fault == 1 && (len(got.Past) == 0 || len(got.Past) > 1 && n > 1 || !strings.HasPrefix(got.Past[0],
			want[bad]) || got.Open != ""):
			t.Errorf("loop %d is by-passed at %d of %d: %+v", k, bad, n, got)
		case fault == 0 && got.Open == "":
			t.Errorf("loop %d is open at %d of %d: %+v", k, bad, n, got)
		}
		open, past, whole = open+b2i(fault == 0), past+b2i(fault == 1), whole+b2i(fault == 2)
	}
	if open < 100 || past < 100 || whole < 100 {
		t.Errorf("%d open, %d by-passed, %d whole", open, past, whole)
	}
	if l := FollowLoop([]Socket{at("U1", "unit", "interlock", 0, true), at("U2", "unit", "interlock", 0,
		true)}); len(l.Past) !=
		1 {
		t.Errorf("a loop that is bridged at its unit: %+v", l)
	}
	items, found := List(Inputs{Sockets: []Socket{at("U1", "unit", "interlock", 0, true), at("U2", "unit", "interlock", 1,
		true), at("P1", "inverter plug", "interlock", 0, false), at("P2", "inverter plug", "interlock", 0, false)}})
	i := slices.IndexFunc(items, func(it Item) bool { return it.ID == "hvloop" })
	if items[i].State != Needs || !slices.ContainsFunc(found, func(f finding.Finding) bool {
		return f.Code == "loop-bypassed" && f.Severity == finding.Danger
	}) {
		t.Errorf("a plug that is by-passed: %s %s, %v", items[i].State, items[i].Why, found)
	}
}

func b2i(is bool) int {
	if is {
		return 1
	}
	return 0
}

// What is found beside the states: two sources on a gauge, volts on an input for 5 V, a gearbox whose items are open,
// reverse lamps without a switch, a wire that nobody followed.
func TestMoreFindings(t *testing.T) {
	single := at("A7", "harness", "brakeswitch", 9, false)
	single.Unfollowed = true
	other := at("A8", "harness", "mil", 10, false)
	other.Unfollowed = true
	items, found := List(Inputs{Job: Known{Gearbox: []string{"add a clutch switch"},
		Over: []Over{{At: "A3", Text: "pedal", Volts: 12.1}}}, Sockets: []Socket{
		at("P1", "panel", "tempgauge", 1, true), at("A1", "unit", "tempgauge", 1, true),
		at("S1", "sender", "tempgauge", 1, false), at("A3", "unit", "app", 2, true), at("Q1", "pedal", "app", 2, false),
		at("G1", "unit", "wakeup", 3, true), at("G2", "gearbox", "wakeup", 3, false),
		at("R1", "lamp left", "reversefeed", 4, false), at("R2", "lamp right", "reversefeed", 5, false), single, other}})
	for code, want := range map[string]string{"two-sources": "coolantgauge", "volts-on-5v": "pedal",
		"gearbox-items": "gearbox", "reverse-no-switch": "reverse", "function-open": "brake"} {
		if !slices.ContainsFunc(found, func(f finding.Finding) bool { return f.Code == code && f.Subject == want }) {
			t.Errorf("%s of %s is not found: %v", code, want, found)
		}
	}
	if slices.ContainsFunc(found, func(f finding.Finding) bool { return f.Subject == "check" }) {
		t.Error("a lamp whose wire nobody followed is judged")
	}
	for _, it := range items {
		for _, n := range it.Needs {
			if n.Text == "" || n.Stage == "" && it.Sum == nil {
				t.Errorf("%s needs %+v: it does not say where", it.ID, n)
			}
		}
	}
}
