package fact_test

import (
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
)

// What comes along is what there was, each with a question where it is looked at; of a job of nothing nothing comes.
func TestWhatComesAlong(t *testing.T) {
	none, err := fact.Start(stored.Job{Title: "empty"}, "next")
	if err != nil || none.Carried != nil {
		t.Errorf("%+v, %v", none.Carried, err)
	}
	one, err := fact.Start(stored.Job{Title: "an earlier one", OfReach: reach.Record{Map: &route.Map{}}}, "next")
	if err != nil || one.Carried == nil || len(one.Carried.What) != 1 || one.Carried.From != "an earlier one" {
		t.Fatalf("%+v, %v", one.Carried, err)
	}
	f, err := fact.Of(one)
	if err != nil {
		t.Fatal(err)
	}
	if len(f.Findings) != 1 || f.Findings[0].Code != "carried-map" || f.Findings[0].Stage != "reach" ||
		f.Findings[0].Severity != finding.Check {
		t.Errorf("%+v", f.Findings)
	}
	for _, bad := range []stored.Carried{{}, {From: "x", What: []string{"the engine"}},
		{From: "x", What: []string{"map", "map", "map", "map", "map", "map"}}} {
		if bad.Check() == nil {
			t.Errorf("%+v can be", bad)
		}
	}
}
