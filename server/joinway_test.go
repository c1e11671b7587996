package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/join"
	"draxel/core/papers"
	"draxel/server/desk"
	"draxel/server/joinapi"
	"draxel/server/workapi"
)

func wayOf(t testing.TB, it join.Item, text string) int {
	t.Helper()
	for k, w := range it.Sum.Ways {
		if strings.Contains(w.Text, text) {
			return k
		}
	}
	t.Fatalf("%s has no way %q: %+v", it.ID, text, it.Sum.Ways)
	return 0
}

func found(v joinapi.JoinView, code string) bool {
	for _, f := range v.Findings {
		if f.Code == code {
			return true
		}
	}
	return false
}

// Ways that want parts: the resistor of a gauge comes into its wire as a step of the one work, which stays proven;
// taken out again what was stated is as it was. A relay whose coil the clutch switch grounds ends the cranking in
// gear, by the network. A wire brings what a unit's input lacks.
func TestWaysBecomeParts(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[joinapi.JoinView](c, job+"/join")
	send1 := func(path string, r any) string {
		_, code := send[desk.Done](c, "POST", job+path, r)
		v = show[joinapi.JoinView](c, job+"/join")
		return code
	}
	step := func(text string) bool {
		return slices.ContainsFunc(v.Steps, func(s desk.WorkStep) bool { return strings.Contains(s.Text, text) })
	}
	proven := func(what string) {
		t.Helper()
		if p := show[workapi.WorkView](c, job+"/work").Proof; !p.Reached || p.Fault != "" {
			t.Errorf("%s: %s", what, p.Line())
		}
	}
	it := function(t, v, "coolantgauge")
	k := wayOf(t, it, "in series")
	way := joinapi.WayRequest{ID: c.change(), Seen: v.Revision, Function: it.ID, Way: k, Text: it.Sum.Ways[k].Text,
		In: "OGS-1"}
	if code := send1("/join/way", way); code != "" {
		t.Fatal(code)
	}
	if got := function(t, v, it.ID); !got.Sum.Works || len(v.Parts) != 2 || !step("Bring in R1") {
		t.Errorf("%+v, parts %+v", got.Sum, v.Parts)
	}
	proven("with a resistor")
	if way.ID, way.Seen = c.change(), v.Revision; send1("/join/way", way) != "no-such-way" {
		t.Error("a way that is not offered any more is taken again")
	}
	if code := send1("/join/part", joinapi.PartRequest{ID: c.change(), Seen: v.Revision, Out: "R1"}); code != "" {
		t.Fatal(code)
	}
	if got := function(t, v, it.ID); got.Sum.Works || len(v.Parts) != 1 || step("R1") {
		t.Errorf("taken out, the gauge %s", got.Sum.Says)
	}
	proven("without it")

	if !found(v, "cranks-in-gear") {
		t.Fatal("the demonstration does not crank in gear")
	}
	it = function(t, v, "interlock")
	k = wayOf(t, it, "relay in the start wire")
	way = joinapi.WayRequest{ID: c.change(), Seen: v.Revision, Function: it.ID, Way: k, Text: it.Sum.Ways[k].Text,
		In: "OST-1", Leads: map[string]string{"85": "OCL-1"}}
	if code := send1("/join/way", way); code != "" {
		t.Fatal(code)
	}
	if got := function(t, v, "interlock"); found(v, "cranks-in-gear") || found(v, "interlock-missing") {
		t.Errorf("with a relay in the start wire: %s %s, %+v", got.State, got.Why, v.Findings)
	}
	if s := function(t, v, "start"); !strings.HasPrefix(s.Why, "Packhorse starter has volts") {
		t.Errorf("with the relay starting %s: %s", s.State, s.Why)
	}
	proven("with a start relay")

	it = function(t, v, "brake")
	if !slices.ContainsFunc(it.Needs, func(n join.Need) bool { return n.At == "A27" }) {
		t.Fatalf("the brake lamps need %+v", it.Needs)
	}
	if code := send1("/join/part", joinapi.PartRequest{ID: c.change(), Seen: v.Revision, Function: "brake", From: "A27",
		To: "RL1"}); code != "" {
		t.Fatal(code)
	}
	it = function(t, v, "brake")
	if slices.ContainsFunc(it.Needs, func(n join.Need) bool { return n.At == "A27" }) || found(v, "part-no-place") {
		t.Errorf("with a wire the brake lamps need %+v, %+v", it.Needs, v.Findings)
	}
	if !step("Bring in W1") || !slices.ContainsFunc(v.Named, func(n papers.Named) bool {
		return n.At.String() == "RL1" && !n.Measured && n.Proof != ""
	}) {
		t.Errorf("its steps say nothing of it, or the vehicle's wire is not named twice: %+v", v.Named)
	}
	proven("with a wire")
	for name, x := range map[string]struct {
		path string
		body any
		want string
	}{
		"no such part": {"/join/part", joinapi.PartRequest{ID: c.change(), Seen: v.Revision, Out: "R9"}, "no-such-thing"},
		"no such function": {"/join/part", joinapi.PartRequest{ID: c.change(), Seen: v.Revision, Function: "warp"},
			"no-such-thing"},
		"to nowhere": {"/join/part", joinapi.PartRequest{ID: c.change(), Seen: v.Revision, Function: "brake", From: "B33"},
			"bad-value"},
		"a way without a place": {"/join/way", joinapi.WayRequest{ID: c.change(), Seen: v.Revision, Function: "tach", Way: 1,
			Text: function(t, v, "tach").Sum.Ways[1].Text}, "bad-value"},
	} {
		if code := send1(x.path, x.body); code != x.want {
			t.Errorf("%s: %q, want %q", name, code, x.want)
		}
	}
}
