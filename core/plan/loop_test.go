package plan_test

import (
	"fmt"
	"slices"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/plan"
	"draxel/core/signal"
	"draxel/core/stored"
)

// An electric job's interlock loop: from the unit through three plugs and back, in the order in which they are wired; a
// plug whose two cavities one wire joins is by-passed, and no part is ever brought into the loop.
func TestTheInterlockLoopOfAJob(t *testing.T) {
	loom := func(wires ...[2]string) fact.Facts {
		var f fact.Facts
		l := &f.Laid.Loom
		for _, id := range []string{"U", "P", "Q", "S"} {
			l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: id, Name: id,
				Cavities: []string{"1", "2"}}, Device: map[string]string{"U": "control unit", "P": "inverter plug",
				"Q": "battery plug", "S": "service plug"}[id]})
			kind := harness.Part
			if id == "U" {
				kind = harness.Unit
			}
			l.Devices = append(l.Devices, harness.Device{ID: l.Connectors[len(l.Connectors)-1].Device, Kind: kind})
		}
		for i, w := range wires {
			at := func(s string) harness.End { return harness.End{At: harness.Ref{Connector: s[:1], Cavity: s[1:]}} }
			l.Wires = append(l.Wires, harness.Wire{ID: harness.WireID(fmt.Sprint("w", i)),
				Ends:      [2]harness.End{at(w[0]), at(w[1])},
				Conductor: harness.Conductor{Function: "HV interlock loop", Signal: signal.Read("HV interlock loop")}})
		}
		return f
	}
	of := func(f fact.Facts, d stored.Decisions) (join.Item, []finding.Finding) {
		p := plan.Compute(f, d)
		i := slices.IndexFunc(p.Join.Functions, func(it join.Item) bool { return it.ID == "hvloop" })
		return p.Join.Functions[i], p.Findings
	}
	whole := loom([2]string{"U1", "S1"}, [2]string{"S2", "P2"}, [2]string{"P1", "Q1"}, [2]string{"Q2", "U2"})
	if it, _ := of(whole, stored.Decisions{}); it.State != join.OnPaper ||
		it.Sum.Lines[0].Value != "service plug → inverter plug → battery plug" {
		t.Errorf("%s %s: %+v", it.State, it.Why, it.Sum)
	}
	if it, _ := of(loom([2]string{"U1", "S1"}, [2]string{"S2", "P2"}, [2]string{"Q2", "U2"}),
		stored.Decisions{}); it.State !=
		join.Needs || it.Why != "it is open at inverter plug" {
		t.Errorf("open behind the inverter: %s %s", it.State, it.Why)
	}
	past := loom([2]string{"U1", "S1"}, [2]string{"S2", "P2"}, [2]string{"P2", "P1"}, [2]string{"P1", "Q1"},
		[2]string{"Q2", "U2"})
	if it, found := of(past, stored.Decisions{}); it.State != join.Needs || !has(found, "loop-bypassed") {
		t.Errorf("by-passed: %s %s", it.State, it.Why)
	}
	bypass := join.Added{ID: "W1", Function: "hvloop", What: "wire", Body: join.SingleWire,
		Leads: []join.PartLead{{Point: "1", To: "P1"}, {Point: "2", To: "P2"}}}
	_, found := of(whole, stored.Decisions{Join: join.Record{Added: []join.Added{bypass}}})
	if !has(found, "part-no-place") {
		t.Errorf("a plug of the loop can be by-passed by a wire: %v", found)
	}
}
