package plan_test

import (
	"encoding/json"
	"reflect"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// A job that is written down is the same job when it is read, value by value.
func TestAStoredJobIsReadWhole(t *testing.T) {
	j := spanned()
	j.Decisions = []match.Decision{matched("A1", "P2")}
	j.Thin = []thin.Decision{{On: thin.Wire, ID: "w5", Choice: thin.Goes, Reason: "not used"}}
	j.Ticks = []work.Tick{{Step: "x", Edits: []harness.Edit{{Do: harness.Cut, Wire: "w5", End: 1}}, When: 7}}
	text, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	got, err := stored.Read(text)
	if err != nil || len(got.Aside) > 0 {
		t.Fatalf("%v, set aside %+v", err, got.Aside)
	}
	if !reflect.DeepEqual(got, j) {
		t.Errorf("read as %+v\nwas %+v", got, j)
	}
}

// One bad value is set aside and named, whatever is wrong with it; everything else is as it was, and the plan stands.
func TestABadValueIsSetAside(t *testing.T) {
	good := spanned()
	good.Thin = []thin.Decision{{On: thin.Wire, ID: "w5", Choice: thin.Goes}}
	text, err := json.Marshal(good)
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct{ field, value string }{
		"an edit at a third end":    {"ticks", `[{"step":"x","edits":[{"do":"cut","wire":"w1","end":7}]}]`},
		"an edit that nothing does": {"ticks", `[{"step":"x","edits":[{"do":"burn","wire":"w1"}]}]`},
		"a laid wire of one tip": {
			"ticks",
			`[{"step":"x","edits":[{"do":"lay","wire":"w8","tips":[{"state":"bare"}]}]}]`,
		},
		"a decision of no side": {
			"decisions",
			`[{"side":"above","at":{"connector":"A","cavity":"1"},"choice":"goes"}]`,
		},
		"a number that is a word":   {"lengths", `[{"wire":"w1","had":"long"}]`},
		"a reading without a value": {"readings", `[{"id":"r","at":{"connector":"A","cavity":"1"}}]`},
		"a place of no kind":        {"places", `[{"thing":{"kind":"moon","id":"x"},"station":"in"}]`},
		"a map of negative lengths": {
			"map",
			`{"stations":[],"paths":[{"id":"p","from":"a","to":"b","length":-5,"cover":""}]}`,
		},
		"a face that is no face":      {"layouts", `{"A":{"cells":[]}}`},
		"a way that nobody works in":  {"bench", `{"school":"bite","stub":60,"rates":{},"usable":300}`},
		"a connector met in no way":   {"met", `{"P":{"met":"by chance"}}`},
		"a list that is none":         {"traces", `"none"`},
		"a field that nobody knows":   {"weather", `"rain"`},
		"a table without any trust":   {"to", `{"name":"x","trust":"hearsay","cells":[["Connector","Cavity"],["P","1"]]}`},
		"a disconnect without a plug": {"partings", `[{"between":["a","b"],"plugs":[]}]`},
	} {
		var fields map[string]json.RawMessage
		if err := json.Unmarshal(text, &fields); err != nil {
			t.Fatal(err)
		}
		fields[c.field] = json.RawMessage(c.value)
		bad, err := json.Marshal(fields)
		if err != nil {
			t.Fatal(err)
		}
		j, err := stored.Read(bad)
		if err != nil || len(j.Aside) != 1 || !strings.HasPrefix(j.Aside[0].Name, c.field) || j.Aside[0].Why == "" {
			t.Errorf("%s: %v, set aside %+v", name, err, j.Aside)
			continue
		}
		p := computeJob(t, j)
		if !has(p.Findings, "set-aside") || wrong(p) || !p.Proof.Reached {
			t.Errorf("%s: %+v", name, p.Proof)
		}
		j.Aside = nil
		again, err := stored.Read(must(json.Marshal(j)))
		if err != nil || !reflect.DeepEqual(again, j) {
			t.Errorf("%s: what is left is not a job: %v", name, err)
		}
	}
}

func must(data []byte, err error) []byte {
	if err != nil {
		panic(err)
	}
	return data
}
