package join

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// reading gives what a wire of a function is read as.
func reading(id string) signal.Reading {
	f, _ := FunctionOf(id)
	return signal.Reading{Device: f.Ends[0]}
}

// Every function of the list can be told, and its ends are devices of the vocabulary.
func TestTheListOfFunctions(t *testing.T) {
	if len(Functions()) < 30 {
		t.Fatalf("%d functions", len(Functions()))
	}
	seen := map[string]bool{}
	for _, f := range Functions() {
		if seen[f.ID] || f.Name == "" || len(f.Ends) == 0 ||
			!slices.Contains([]FunctionKind{WhereJoined, WhereWorks, WherePlan, WhereLoop, WhereFed}, f.Kind) {
			t.Errorf("%+v", f)
		}
		seen[f.ID] = true
		for _, e := range f.Ends {
			if !signal.Known(e) {
				t.Errorf("%s: the vocabulary has no %s", f.ID, e)
			}
		}
	}
}

// How a function stands, worked out by hand.
func TestHowFunctionsStand(t *testing.T) {
	socket := func(device, what string, circuit int) Socket {
		return Socket{Device: device, Circuit: circuit, Signal: signal.Reading{Device: what}}
	}
	in := Inputs{Sockets: []Socket{socket("unit", "tach", 1), socket("panel", "tach", 1), socket("unit", "mil", 2),
		socket("panel", "mil", 3),
		socket("horn", "horn", 4), socket("fan", "fan", 5), socket("switch", "clutchswitch", 6), socket("unit",
			"clutchswitch", 7),
		socket("unit", "vss", 11), socket("wheel sensor", "vss", 11), {Device: "panel", Circuit: 12, Unit: true,
			Signal: signal.Reading{Device: "vssout"}},
		socket("brake switch", "brakeswitch", 8), socket("rear lamp", "stopfeed", 9), socket("unit", "immobiliser", 10)},
		Works:  map[string]bool{"horn": true},
		Before: map[string]string{"fuelgauge": "worked", "glow": "worked"},
		Wishes: []FunctionWish{{Function: "glow", Choice: NotFitted}, {Function: "purge", Choice: GivenUp},
			{Function: "wipers", Choice: Wanted}}}
	items, found := List(in)
	state := map[string]State{}
	for _, it := range items {
		state[it.ID] = it.State
	}
	for id, want := range map[string]State{"check": Needs, "horn": OnPaper, "fans": Needs, "interlock": Needs,
		"brake": Needs, "immobiliser": Open,
		"fuelgauge": Open, "glow": NotThere, "purge": Gone, "wipers": Open, "winch": NotThere, "tach": Open,
		"speed": Needs} {
		if state[id] != want {
			t.Errorf("%s: %s, want %s", id, state[id], want)
		}
	}
	var codes []string
	for _, f := range found {
		codes = append(codes, f.Code+" "+f.Subject)
		if f.Text == "" || f.Remedy == "" {
			t.Errorf("%+v says too little", f)
		}
	}
	for _, want := range []string{"interlock-missing interlock", "brake-depends brake", "worked-before glow",
		"given-up-law purge", "function-needs check",
		"function-open fuelgauge"} {
		if !slices.Contains(codes, want) {
			t.Errorf("%s is not found: %v", want, codes)
		}
	}
	in.Job.Cranks = []string{"clutch switch"}
	in.Sockets = append(in.Sockets, socket("rear lamp", "stopfeed", 8))
	_, found = List(in)
	codes = nil
	for _, f := range found {
		codes = append(codes, f.Code)
	}
	if !slices.Contains(codes, "cranks-in-gear") || slices.Contains(codes, "brake-depends") {
		t.Errorf("found %v", codes)
	}
	in.Unfed = true // that nothing has volts is no finding where nobody has said what stands in the vehicle
	unfed, found := List(in)
	for _, it := range unfed {
		if it.ID == "fans" && (it.State != Open || len(it.Needs) == 0) || it.ID == "check" && it.State != Needs {
			t.Errorf("without Feed %s %s: %s", it.ID, it.State, it.Why)
		}
	}
	if slices.ContainsFunc(found, func(f finding.Finding) bool { return f.Subject == "fans" }) {
		t.Errorf("without Feed the fans are judged: %v", found)
	}
	if got := Raised(items, nil)["canister purge valve"]; strings.Join(got, " ") != "P0443 P0446" {
		t.Errorf("what is given up raises %v", got)
	}
	for _, bad := range []FunctionWish{{Function: "warp drive"}, {Function: "tach", Choice: "maybe"}, {Function: "tach",
		Facts: map[string]string{"dial": strings.Repeat("9", 500)}}} {
		if bad.Check() == nil {
			t.Errorf("%+v passes", bad.Function)
		}
	}
}

// Lamps that a switch lights, and feeds, stand as the network has them: one of two brake lamps that stays dark is a
// danger, whatever copper says; a spare feed is one that has volts.
func TestWhatTheNetworkSaysOfLampsAndFeeds(t *testing.T) {
	lamp := func(at string, circuit int) Socket {
		return Socket{At: harness.Ref{Connector: at, Cavity: "1"}, Device: "rear lamp " + at, Circuit: circuit,
			Signal: signal.Reading{Device: "stopfeed"}}
	}
	spare := Socket{At: harness.Ref{Connector: "S", Cavity: "1"}, Device: "plug",
		Signal: signal.Reading{Device: "sparefeed"}}
	unit := Socket{At: harness.Ref{Connector: "U", Cavity: "1"}, Device: "unit", Unit: true, Circuit: 9,
		Signal: signal.Reading{Device: "brakeswitch"}}
	lost := lamp("R", 2)
	lost.Unfollowed = true
	for name, c := range map[string]struct {
		sockets []Socket
		on      []string
		live    bool
		brake   State
		spare   State
		found   string
	}{
		"both lit":      {[]Socket{lamp("L", 1), lamp("R", 1)}, []string{"L1", "R1"}, true, OnPaper, OnPaper, ""},
		"one of two":    {[]Socket{lamp("L", 1), lamp("R", 1)}, []string{"L1"}, false, Needs, Needs, "brake-depends"},
		"none, and fed": {[]Socket{lamp("L", 1), lamp("R", 1)}, nil, true, Needs, OnPaper, "brake-depends"},
		// each behind a fuse of its own, and the unit's input to which nothing comes
		"lit, and not told to the unit": {[]Socket{lamp("L", 1), lamp("R", 2), unit}, []string{"L1", "R1"}, true, Needs,
			OnPaper, ""},
		"one that nobody has followed": {[]Socket{lamp("L", 1), lost}, []string{"L1"}, true, Open, OnPaper, ""},
	} {
		lit := Lit{Switches: []string{"brake pedal"}, On: map[string]bool{}}
		for _, at := range c.on {
			lit.On[at] = true
		}
		items, found := List(Inputs{Sockets: append(c.sockets, spare), Works: map[string]bool{},
			Lit: map[string]Lit{"brake": lit}, Live: map[string]bool{"S1": c.live}})
		for _, it := range items {
			switch {
			case it.ID == "brake" && it.State != c.brake, it.ID == "logger" && it.State != c.spare:
				t.Errorf("%s: %s %s, %s", name, it.ID, it.State, it.Why)
			}
		}
		if has := slices.ContainsFunc(found, func(f finding.Finding) bool {
			return f.Code == "brake-depends" && f.Severity == finding.Danger
		}); has != (c.found != "") {
			t.Errorf("%s: found %v", name, found)
		}
	}
}
