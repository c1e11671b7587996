package stored_test

import (
	"testing"

	"draxel/core/face"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
)

// Jobs of old named a connector of both sides after the title of the To table, as it was at the time; what has its name
// of now already is not written over by what had the old one.
func TestNamesOfOld(t *testing.T) {
	at := func(connector string) harness.Ref { return harness.Ref{Connector: connector, Cavity: "1"} }
	now := &face.Layout{}
	j := stored.Job{
		From: &stored.Table{Name: "Donor"}, To: &stored.Table{Name: "Chassis", Was: []string{"Body", ""}},
		OfGather: gather.Record{Readings: []gather.Measurement{{At: at("Chassis A"), To: at("A")}},
			Traces: []gather.Trace{{At: at("Body B"), To: at("Elsewhere B")}},
			Looked: map[string]gather.Looked{"Chassis A": {Labelled: true}, "B": {}}},
		OfReach: reach.Record{Places: []route.Place{{Thing: route.Thing{Kind: route.AConnector, ID: "Body A"}},
			{Thing: route.Thing{Kind: route.ADevice, ID: "Body A"}}}},
		OfThin: thin.Record{Thin: []thin.Decision{{On: thin.Connector, ID: "Chassis A"}}},
		OfPin:  pin.Record{Layouts: map[string]*face.Layout{"Chassis A": {}, "other A": now}},
	}
	got := j.WithIDs()
	for what, is := range map[string][2]string{
		"a reading's cavity":           {got.Readings[0].At.Connector, "other A"},
		"where it was measured to":     {got.Readings[0].To.Connector, "A"},
		"a trace's cavity":             {got.Traces[0].At.Connector, "other B"},
		"where it leads":               {got.Traces[0].To.Connector, "Elsewhere B"},
		"a connector's place":          {got.Places[0].Thing.ID, "other A"},
		"a device's place":             {got.Places[1].Thing.ID, "Body A"},
		"a decision about a connector": {got.Thin[0].ID, "other A"},
		"the job itself":               {j.Readings[0].At.Connector, "Chassis A"},
	} {
		if is[0] != is[1] {
			t.Errorf("%s is of %q, not %q", what, is[0], is[1])
		}
	}
	if len(got.Layouts) != 1 || got.Layouts["other A"] != now || !got.Looked["other A"].Labelled || len(got.Looked) != 2 {
		t.Errorf("faces %v, looked at %v", got.Layouts, got.Looked)
	}
	j.From = nil // of one side alone nothing is named after a title
	if alone := j.WithIDs(); alone.Readings[0].At.Connector != "Chassis A" {
		t.Errorf("with one side: %v", alone.Readings)
	}
}

// A wire is decided about by the name that the harness has for it, also where a job of old has it as it was listed.
func TestWiresOfOld(t *testing.T) {
	listed := harness.Listed("7004")
	j := stored.Job{OfThin: thin.Record{Thin: []thin.Decision{{On: thin.Wire, ID: "7004"}, {On: thin.System, ID: "7004"}}},
		OfReach: reach.Record{Spans: []reach.Wish{{Wire: "7004"}}, Lengths: []reach.Measured{{Wire: "7004"}, {Wire: listed}},
			Leftover: []reach.Leftover{{Wire: "7004"}}}}
	got := j.WithIDs()
	if got.Thin[0].ID != string(listed) || got.Thin[1].ID != "7004" || got.Spans[0].Wire != listed ||
		got.Lengths[0].Wire != listed || got.Lengths[1].Wire != harness.Listed(string(listed)) ||
		got.Leftover[0].Wire != listed {
		t.Errorf("named are %+v %+v %+v %+v", got.Thin, got.Spans, got.Lengths, got.Leftover)
	}
	if j.Spans[0].Wire != "7004" {
		t.Error("the job itself was changed")
	}
}
