package demo_test

import (
	"slices"
	"testing"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/demo"
)

// The resistance wire of the old coil must not wake the unit through a block of one's own, whatever was decided about
// it: the ignition is taken from the key instead, which is on in run and in crank.
func TestNoBlockIsFedThroughTheResistanceWire(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	j := all[1]
	for i := range j.Decisions {
		if d := &j.Decisions[i]; d.Side == match.From && d.To == (harness.Ref{Connector: "E", Cavity: "4"}) {
			d.At = harness.Ref{Connector: "K", Cavity: "2"}
		}
	}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	if !slices.ContainsFunc(p.Feed.Circuits, func(c live.Circuit) bool { return c.By.String() == "K2" }) {
		t.Fatal("E4 is not fed by the resistance wire: the test says nothing")
	}
	o := p.Fed.Propose(j.Chosen(), f.Feed, false)
	for _, g := range o.Block.Groups {
		if g.From == "K2" {
			t.Errorf("group %q is fed from the resistance wire", g.Name)
		}
		if g.Name == "ignition" && g.From != "IS-2" && g.From != "IS2" {
			t.Errorf("the ignition group is fed from %s", g.From)
		}
	}
}
