package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/join"
	"draxel/server/desk"
	"draxel/server/joinapi"
)

func function(t testing.TB, v joinapi.JoinView, id string) join.Item {
	t.Helper()
	for _, it := range v.Items {
		if it.ID == id {
			return it
		}
	}
	t.Fatalf("there is no function %s", id)
	return join.Item{}
}

// A sum is stated and put right by a setting of the unit, a function is given up with the law's word and its codes;
// what cannot be is refused and changes nothing.
func TestFunctionsAreSetAndRefused(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[joinapi.JoinView](c, job+"/join")
	set := func(r joinapi.FunctionRequest) string {
		r.ID, r.Seen = c.change(), v.Revision
		_, code := send[desk.Done](c, "POST", job+"/join/function", r)
		v = show[joinapi.JoinView](c, job+"/join")
		return code
	}
	tach := function(t, v, "tach")
	if tach.State != join.Needs || len(tach.Sum.Ways) < 2 || tach.Sum.Ways[0].Unit == "" {
		t.Fatalf("%+v", tach)
	}
	facts := map[string]string{"dial": "2.5", "setting": tach.Sum.Ways[0].Unit}
	for k, x := range tach.Sum.Ways[0].Facts {
		facts[k] = x
	}
	if code := set(joinapi.FunctionRequest{Function: "tach", Facts: facts}); code != "" {
		t.Fatal(code)
	}
	if got := function(t, v, "tach"); got.State != join.OnPaper ||
		!slices.Contains(v.Settings, tach.Sum.Ways[0].Unit) {
		t.Errorf("%+v, settings %v", got, v.Settings)
	}
	for _, choice := range []join.Choice{join.Wanted, join.GivenUp, join.Unsaid} { // what was stated outlives a choice
		if code := set(joinapi.FunctionRequest{Function: "tach", Choice: choice, Reason: "tried"}); code != "" {
			t.Fatal(code)
		}
		if is := slices.Contains(v.Settings, tach.Sum.Ways[0].Unit); is != (choice != join.GivenUp) {
			t.Errorf("chosen %q, the settings are %v", choice, v.Settings)
		}
	}
	if got := function(t, v, "tach"); got.State != join.OnPaper {
		t.Errorf("after its choices were taken back the tachometer %s: %s", got.State, got.Why)
	}
	for name, x := range map[string]struct {
		r    joinapi.FunctionRequest
		want string
	}{
		"no such function":       {joinapi.FunctionRequest{Function: "warp"}, "no-such-thing"},
		"no such choice":         {joinapi.FunctionRequest{Function: "tach", Choice: "maybe"}, "bad-value"},
		"a law without a reason": {joinapi.FunctionRequest{Function: "horn", Choice: join.GivenUp}, "no-reason"},
		"a fact that is too long": {joinapi.FunctionRequest{Function: "tach",
			Facts: map[string]string{"dial": strings.Repeat("2", 900)}},
			"bad-value"},
	} {
		if code := set(x.r); code != x.want {
			t.Errorf("%s: %q, want %s", name, code, x.want)
		}
	}
	raised := func(r joinapi.RaisedCodes) bool { return r.Function == "engine check lamp" && r.Codes[0] == "P0650" }
	if slices.ContainsFunc(v.Raised, raised) {
		t.Errorf("nothing is given up and the check lamp raises its code: %v", v.Raised)
	}
	for _, id := range []string{"oxygen", "check"} {
		if code := set(joinapi.FunctionRequest{Function: id, Choice: join.GivenUp,
			Reason: "off the road; checked with the owner"}); code != "" {
			t.Fatal(code)
		}
		if got := function(t, v, id); got.State != join.Gone {
			t.Errorf("%+v", got)
		}
	}
	if !slices.ContainsFunc(v.Raised, raised) {
		t.Errorf("the check lamp is given up, and raised are %v", v.Raised)
	}
	found := false
	for _, f := range v.Findings {
		found = found || f.Code == "given-up-law" && f.Subject == "oxygen" && strings.Contains(f.Text, "unlawful")
	}
	if !found {
		t.Error("nothing is said of the law")
	}
	if code := set(joinapi.FunctionRequest{Function: "tach", Facts: map[string]string{"dial": "none"}}); code != "" {
		t.Fatal(code)
	}
	if got := function(t, v, "tach"); got.Sum.Error == "" {
		t.Errorf("a dial of %q is taken: %+v", "none", got.Sum)
	}
}

// A condition is tried: an output that is held off stops what it drives; what there is not is refused.
func TestAConditionIsTried(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	got := show[joinapi.TrialView](c, job+"/join/try?position=running&sw=master+switch&off=A8")
	if !slices.Contains(got.Stops, "fuel pump") || slices.Contains(got.Pulled, "pump relay") ||
		!slices.Contains(got.Pulled, "main relay") {
		t.Errorf("%+v", got)
	}
	for path, want := range map[string]string{"position=sideways": "no-such-position",
		"position=run&sw=x":  "no-such-switch",
		"position=run&on=Z1": "no-such-switch"} {
		if _, code := send[any](c, "GET", job+"/join/try?"+path, nil); code != want {
			t.Errorf("%s: %q", path, code)
		}
	}

	// The unit's own rules: what a number and a request say, and a hand that outweighs them.
	on := func(query string) map[string]bool {
		v := show[joinapi.TrialView](c, job+"/join/try?position=running&sw=master+switch&"+query)
		out := map[string]bool{}
		for _, r := range v.Ruled {
			out[r.Output] = r.On && r.Decides
		}
		return out
	}
	if got := on("is=coolant%3D96"); !got["B18"] || got["B19"] || got["B32"] {
		t.Errorf("at 96 °C %v", got)
	}
	if got := on("is=coolant%3D40&flag=a%2Fc+request"); !got["B18"] || !got["B19"] || !got["B32"] {
		t.Errorf("with the request %v", got)
	}
	seen := show[joinapi.JoinView](c, job+"/join").Revision
	for name, x := range map[string]struct {
		r    joinapi.OutRuleRequest
		want string
	}{"nonsense": {joinapi.OutRuleRequest{Output: "B18", When: "coolant above hot"}, "bad-value"},
		"no output": {joinapi.OutRuleRequest{When: "a"}, "bad-value"}, "a circle": {joinapi.OutRuleRequest{Output: "B18",
			When: "B19"}, ""}} {
		x.r.ID, x.r.Seen = c.change(), seen
		if _, code := send[desk.Done](c, "POST", job+"/join/rule", x.r); code != x.want {
			t.Errorf("%s: %q, want %q", name, code, x.want)
		}
	}
	found := false
	for _, f := range show[joinapi.JoinView](c, job+"/join").Findings {
		found = found || f.Code == "rule-circle"
	}
	if !found || on("is=coolant%3D120")["B18"] {
		t.Error("a circle is not told, or decides something")
	}
}
