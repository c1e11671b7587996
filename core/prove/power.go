package prove

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/network"
)

// Gate is a stage of powering up: what is done there, and what must be true before the next.
type Gate struct {
	ID      string   `json:"id"`
	Title   string   `json:"title"`
	Do      []string `json:"do"`
	Caution string   `json:"caution,omitempty"`
	Asks    *Asked   `json:"asks,omitempty"`  // a number that is read there
	Sheet   []string `json:"sheet,omitempty"` // sections of the test sheet that must be done and in band
}

// Asked is a number that a gate asks for, with its limits.
type Asked struct {
	What  string  `json:"what"`
	Unit  string  `json:"unit"`
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
}

// gates are the stages of powering up, in their order (common practice; the volts of a battery and of a closed
// throttle, and the 60 Ω of a bus with its two ends, ISO 11898-2, are limits that a unit's own data come before).
var gates = []Gate{
	{
		ID:    "look",
		Title: "Look",
		Do: []string{"No loose metal, no strand, no tool in the bay.", "Every plug home, every lock shut.",
			"Battery off.", "Restraint and high voltage are not measured here: they are for qualified persons."},
	},
	{ID: "dead", Title: "Measure it dead", Sheet: []string{"continuity", "loads", "isolation", "fuses"},
		Do: []string{"Units out, fuses out: the lines of the sheet that come first."}},
	{ID: "second", Title: "A second pair of eyes", Do: []string{
		"Every power and ground cavity checked once more by another person, or on another day (Pin, second check)."}},
	{ID: "small", Title: "A small master fuse", Do: []string{"A fuse of 5 to 10 A in the place of the main one.",
		"Battery on, units out, every switch off."}, Caution: "A fire extinguisher to hand. What gets warm is switched " +
		"off first.",
		Asks: &Asked{"current with everything off", "A", 0, 0.5}},
	{ID: "feeds", Title: "Feeds, one by one", Sheet: []string{"feeds", "relays"},
		Do: []string{
			"Fuses in one after the other; each feed in each position of the key, with the lamp on it.",
		},
		Caution: "Fans and starter may move: neutral, chocks, hands clear."},
	{ID: "unit", Title: "The unit goes in", Do: []string{"Battery off, key off; then the plugs; then battery on."},
		Caution: "Never plug a unit in with the power on."},
	{ID: "wake", Title: "It wakes", Do: []string{"Key in run, and listen."},
		Asks: &Asked{"volts at the battery, key in run", "V", 11.8, 15}},
	{
		ID:    "prime",
		Title: "Prime",
		Do: []string{"The pump runs about two seconds and stops. A dry line wants the key three to five times.",
			"Look at every joint of the fuel line."},
		Caution: "Fuel: away from sparks, extinguisher to hand.",
	},
	{ID: "outputs", Title: "Outputs, one at a time", Do: []string{
		"Each output of the unit on an indicator of high resistance: injectors, coils, fans, valves."},
		Caution: "Never a filament lamp on an output, a bus or a reference."},
	{
		ID:    "throttle",
		Title: "Throttle",
		Do:    []string{"Closed, then opened by hand or by the pedal: it follows without a jump."},
		Asks:  &Asked{"volts of the closed throttle, as the unit states: typically", "V", 0.3, 0.9},
	},
	{
		ID:    "bus",
		Title: "Data bus",
		Do:    []string{"Power off: across the pair. 120 Ω is an end missing, 40 Ω one too many."},
		Asks:  &Asked{"across the pair, power off", "Ω", 55, 66},
	},
	{
		ID:      "crank",
		Title:   "Crank for oil",
		Do:      []string{"Oil in. Coils and fuel pump unplugged. Crank until there is pressure."},
		Caution: "Neutral, chocks, hands clear.",
		Asks:    &Asked{"volts at the battery while it cranks", "V", 9.6, 13},
	},
	{ID: "start", Title: "First start", Do: []string{"Watch oil pressure, fuel joints, temperature, charge lamp.",
		"Smoke, fuel, or no oil pressure in five seconds: off at once."}, Caution: "Outdoors or with the exhaust led out."},
	{ID: "charge", Title: "It charges", Do: []string{"At a fast idle, lights on."},
		Asks: &Asked{"volts at the battery, engine running", "V", 13.4, 14.9}},
}

// Gates lists the stages of powering up.
func Gates() []Gate { return slices.Clone(gates) }

// Passed is a gate that somebody has passed.
type Passed struct {
	Gate   string   `json:"gate"`
	Value  *float64 `json:"value,omitempty"`
	Reason string   `json:"reason,omitempty"` // why it may stand, where it is not as it should be
	Who    string   `json:"who,omitempty"`
	When   int64    `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a gate cannot be passed so.
func (p *Passed) Check() error {
	i := slices.IndexFunc(gates, func(g Gate) bool { return g.ID == p.Gate })
	if i < 0 {
		return fmt.Errorf("there is no gate %q", p.Gate)
	}
	a := gates[i].Asks
	switch {
	case a == nil && p.Value != nil:
		return fmt.Errorf("no number is asked for there")
	case a == nil || p.Reason != "":
		return nil
	case p.Value == nil:
		return fmt.Errorf("say %s, in %s", a.What, a.Unit)
	case math.IsNaN(*p.Value) || *p.Value < a.Least || *p.Value > a.Most:
		return fmt.Errorf(
			"%s has to be %g to %g %s and is %g: find out why, or say why it may stand",
			a.What,
			a.Least,
			a.Most,
			a.Unit,
			*p.Value,
		)
	}
	return nil
}

// Standing is how a section of the sheet stands.
type Standing struct {
	Lines, Done, Out int
}

// GateState is a gate with how it stands.
type GateState struct {
	Gate
	Passed *Passed `json:"passed,omitempty"`
	Held   string  `json:"held,omitempty"` // why it cannot be passed yet
}

// PowerUp says how each gate stands: one after the other, and those that the sheet decides only when its lines are
// done. Second says whether every power and ground cavity was checked twice, and written whether the record of the
// programming is closed, or none was begun.
func PowerUp(passed []Passed, sheet map[string]Standing, second, written bool) []GateState {
	out := make([]GateState, len(gates))
	before := ""
	for i := range gates {
		g := &out[i]
		g.Gate = gates[i]
		if k := slices.IndexFunc(passed, func(p Passed) bool { return p.Gate == g.ID }); k >= 0 {
			g.Passed = &passed[k]
		}
		switch {
		case before != "":
			g.Held = "“" + before + "” comes first"
		case g.ID == "second" && !second:
			g.Held = "not every power and ground cavity is checked twice"
		case g.ID == "start" && !written:
			g.Held = "the record of the programming is begun and not closed"
		default:
			g.Held = lacks(g.Sheet, sheet)
		}
		if g.Passed == nil && before == "" {
			before = g.Title
		}
	}
	return out
}

// lacks says what sections of the sheet lack.
func lacks(sections []string, sheet map[string]Standing) string {
	var out []string
	for _, s := range sections {
		switch x := sheet[s]; {
		case x.Out > 0:
			out = append(out, fmt.Sprintf("%d of %s out of band", x.Out, s))
		case x.Done < x.Lines:
			out = append(out, fmt.Sprintf("%d of %s not measured", x.Lines-x.Done, s))
		}
	}
	return strings.Join(out, ", ")
}

// AtKeyOn lists what is to be seen and heard when the key comes from off to run with everything plugged in: relays
// that pull and devices that begin to work. Whatever else makes a sound is unknown, and looked for.
func (v *Vehicle) AtKeyOn() []string {
	out := []string{}
	off, run := Setup{Key: "off", Battery: true, Units: true}, Setup{Key: "run", Battery: true, Units: true}
	was, err1 := v.Pulled(off, nil)
	is, err2 := v.Pulled(run, nil)
	if err1 != nil || err2 != nil {
		return out
	}
	stands := func(r string) bool { // for a unit that is fed
		return slices.ContainsFunc(v.Net.Relays, func(x network.Relay) bool { return x.Name == r && x.Pull == network.Awake })
	}
	for _, r := range is {
		if !slices.Contains(was, r) && !stands(r) {
			out = append(out, r+" clicks")
		}
	}
	before, now := v.Usual(off).On, v.Usual(run).On
	for _, at := range v.Outputs() {
		if now[at] && !before[at] && !strings.Contains(v.Drives[at], "relay") { // a relay is among those that click
			out = append(out, v.Drives[at]+" on")
		}
	}
	for _, d := range v.Devices() {
		before, err1 := v.Expect(&Measure{Kind: Works, A: d, Setup: off})
		now, err2 := v.Expect(&Measure{Kind: Works, A: d, Setup: run})
		if err1 == nil && err2 == nil && before.Value == 0 && now.Value == 1 && !slices.Contains(is, d) {
			out = append(out, d+" works")
		}
	}
	return out
}
