package prove_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/prove"
)

// Gates are passed one after the other; the sheet and the second check hold theirs; a number out of its limits is
// refused unless somebody says why it may stand. The 60 Ω of a bus are of ISO 11898-2, the other limits common
// practice.
func TestGates(t *testing.T) {
	full := map[string]prove.Standing{}
	for _, s := range []string{"continuity", "loads", "isolation", "fuses", "feeds", "relays"} {
		full[s] = prove.Standing{Lines: 3, Done: 3}
	}
	held := func(passed []prove.Passed, sheet map[string]prove.Standing, second bool, gate string) string {
		for _, g := range prove.PowerUp(passed, sheet, second, true) {
			if g.ID == gate {
				return g.Held
			}
		}
		t.Fatalf("there is no gate %s", gate)
		return ""
	}
	if h := held(nil, full, true, "unit"); !strings.Contains(h, "Look") {
		t.Errorf("the unit goes in before anybody looked: %q", h)
	}
	look := []prove.Passed{{Gate: "look"}}
	if h := held(look, full, true, "dead"); h != "" {
		t.Errorf("measured dead: %q", h)
	}
	half := map[string]prove.Standing{"continuity": {Lines: 3, Done: 2}}
	if h := held(look, half, true, "dead"); !strings.Contains(h, "1 of continuity not measured") {
		t.Errorf("half measured: %q", h)
	}
	bad := map[string]prove.Standing{"isolation": {Lines: 3, Done: 3, Out: 1}}
	if h := held(look, bad, true, "dead"); !strings.Contains(h, "out of band") {
		t.Errorf("out of band: %q", h)
	}
	if h := held(append(look, prove.Passed{Gate: "dead"}), full, false, "second"); h == "" {
		t.Error("nobody checked twice, and it is passed")
	}
	v := func(x float64) *float64 { return &x }
	for name, c := range map[string]struct {
		p  prove.Passed
		ok bool
	}{
		"60 Ω":              {prove.Passed{Gate: "bus", Value: v(60)}, true},
		"120 Ω":             {prove.Passed{Gate: "bus", Value: v(120)}, false},
		"40 Ω":              {prove.Passed{Gate: "bus", Value: v(40)}, false},
		"40 Ω with reason":  {prove.Passed{Gate: "bus", Value: v(40), Reason: "three ends, for now"}, true},
		"a throttle at 0.6": {prove.Passed{Gate: "throttle", Value: v(0.6)}, true},
		"one at 4.5":        {prove.Passed{Gate: "throttle", Value: v(4.5)}, false},
		"cranks at 9":       {prove.Passed{Gate: "crank", Value: v(9)}, false},
		"no number":         {prove.Passed{Gate: "crank"}, false},
		"no such gate":      {prove.Passed{Gate: "warp"}, false},
		"a number too many": {prove.Passed{Gate: "look", Value: v(1)}, false},
	} {
		if err := c.p.Check(); (err == nil) != c.ok {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// The engine is not started while a programming is begun and not closed; what is to be heard at key-on is what the
// network does there: of a random vehicle its relays and what hangs on the key.
func TestTheStartWaitsForTheProgramming(t *testing.T) {
	var passed []prove.Passed
	for _, g := range prove.Gates() {
		if g.ID == "start" {
			break
		}
		passed = append(passed, prove.Passed{Gate: g.ID})
	}
	for written, want := range map[bool]string{true: "", false: "begun and not closed"} {
		for _, g := range prove.PowerUp(passed, nil, true, written) {
			if g.ID == "start" && (g.Held == "") != (want == "") ||
				g.ID == "start" && !strings.Contains(g.Held, want) {
				t.Errorf("closed %v: %q", written, g.Held)
			}
		}
	}
	v := vehicle(rand.New(rand.NewPCG(3, 3)), 8)
	heard := v.AtKeyOn()
	if !slices.Contains(heard, "relay 1 clicks") {
		t.Errorf("heard %v", heard)
	}
	for _, x := range heard {
		device, works := strings.CutSuffix(x, " works")
		is, err := v.Expect(
			&prove.Measure{Kind: prove.Works, A: device, Setup: prove.Setup{Key: "off", Battery: true, Units: true}},
		)
		if works && (err != nil || is.Value != 0) {
			t.Errorf("%s, and it did before", x)
		}
	}
}
