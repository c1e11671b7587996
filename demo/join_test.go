package demo_test

import (
	"testing"

	"draxel/core/join"
	"draxel/core/plan"
	"draxel/demo"
)

// How the Packhorse's functions stand: the dial that wants 2.5 pulses and gets 2, the gauge that a resistor puts
// right, the bus that lost an end, the unit's brake switch inputs to which nothing comes; taken by its first way
// each works out.
func TestThePackhorsesFunctions(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	j := all[1]
	f, err := j.Facts()
	if err != nil {
		t.Fatal(err)
	}
	look := func() map[string]join.Item {
		p := plan.Compute(f, j.Chosen())
		out := map[string]join.Item{}
		for _, it := range p.Join.Functions {
			out[it.ID] = it
		}
		return out
	}
	items := look()
	for id, want := range map[string]join.State{"tach": join.Needs, "speed": join.OnPaper, "coolantgauge": join.Needs,
		"bus":   join.Needs,
		"brake": join.Needs, "diagnostic": join.Needs, "lights": join.OnPaper, "oilgauge": join.OnPaper,
		"charge": join.OnPaper,
		"pump":   join.OnPaper, "start": join.OnPaper, "immobiliser": join.OnPaper, "check": join.OnPaper,
		"wipers": join.NotThere,
		"pedal":  join.Needs} {
		if items[id].State != want {
			t.Errorf("%s: %s (%s), want %s", id, items[id].State, items[id].Why, want)
		}
	}
	for _, id := range []string{"tach", "coolantgauge", "bus"} {
		way := items[id].Sum.Ways[0]
		for i := range j.Functions {
			if j.Functions[i].Function == id {
				for k, v := range way.Facts {
					j.Functions[i].Facts[k] = v
				}
			}
		}
		if after := look()[id]; !after.Sum.Works {
			t.Errorf("%s: %q is taken, and %s", id, way.Text, after.Sum.Says)
		}
	}
	if s := items["speed"].Sum; !s.Works {
		t.Errorf("the speedometer: %s %+v", s.Says, s.Lines)
	}
}
