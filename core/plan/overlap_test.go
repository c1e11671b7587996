package plan_test

import (
	"fmt"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/wanted"
)

// meeting is a job on a straight trunk: a unit at "in", a plug of the vehicle at "dash" 400 mm on, and what its wires
// lead to 900 mm beyond that, or back at "in". Six wires of ours, so long, hang in a plug at "out" and are taken to
// the plug.
func meeting(had string, back bool) stored.Job {
	list := func(rows [][]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
	wires := [][]string{{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Function", "Length mm"}}
	from := [][]string{{"Connector", "Cavity", "Function"}}
	to := [][]string{{"Connector", "Cavity", "Function"}}
	j := stored.Job{Title: "t", Kind: stored.Integrated,
		OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{}}}
	for i := range 6 {
		n := fmt.Sprint(i + 1)
		text := fmt.Sprintf("Injector %s, control", n)
		wires = append(wires, []string{"w" + n, "A", n, "J", n, "0.75", text, had},
			[]string{"v" + n, "D", n, "L", n, "0.75", text, "2000"})
		from, to = append(from, []string{"D", n, text}), append(to, []string{"J", n, text})
		j.Decisions = append(j.Decisions, match.Decision{Side: match.From, At: ref("D" + n), Choice: match.Matched,
			To: ref("J" + n), Way: match.TakeOver})
	}
	j.From, j.To = &stored.Table{Name: "vehicle", Trust: harness.Maker, Cells: from}, &stored.Table{Name: "donor",
		Trust: harness.Maker, Cells: to}
	j.Sheets[gather.WireList] = list(wires)
	j.Sheets[gather.ConnectorList] = list([][]string{{"Connector", "Device", "Ways"}, {"A", "unit", "8"},
		{"L", "parts", "8"}})
	j.Sheets[gather.DeviceList] = list([][]string{{"Device", "Kind", "System"}, {"unit", "unit", "engine"},
		{"parts", "", "fuel"}})
	j.Map = &route.Map{Stations: []route.Station{{ID: "in", Group: "body"}, {ID: "out", Group: "body"},
		{ID: "dash", Group: "body"}, {ID: "rear", Group: "body"}},
		Paths: []route.Path{{ID: "p", From: "in", To: "out", Length: 300},
			{ID: "q", From: "in", To: "dash", Length: 400}, {ID: "r", From: "dash", To: "rear", Length: 900}}}
	parts := "rear"
	if back {
		parts = "in"
	}
	for thing, at := range map[route.Thing]string{{Kind: route.ADevice, ID: "unit"}: "in",
		{Kind: route.ADevice, ID: "parts"}: parts,
		{Kind: route.AConnector, ID: "J"}:  "out", {Kind: route.AConnector, ID: "D"}: "dash"} {
		j.Places = append(j.Places, route.Place{Thing: thing, Station: at})
	}
	return j
}

// Joints that are spread behind a plug lie where both wires can come: by the geometry of a straight trunk, reckoned
// here by hand. A tail of 80 mm hangs from the trunk at every plug. The vehicle's wire ends so far behind its plug as
// is said, up its tail and then along the trunk; ours comes from the unit, up its tail and along the trunk to that
// point.
func TestJointsAreWhereBothWiresCome(t *testing.T) {
	const tail, lap = 80.0, 15.0
	for _, back := range []bool{false, true} {
		for _, had := range []float64{520, 560, 600, 640, 700, 900} {
			j := meeting(fmt.Sprint(had), back)
			p := computeJob(t, j)
			proven(t, "spread", p)
			farthest := 0.0
			for _, x := range p.Join.Joints {
				var theirs, ours wanted.JoinedEnd
				for _, e := range x.Ends {
					if e.Theirs {
						theirs = e
					} else {
						ours = e
					}
				}
				farthest = max(farthest, theirs.Back)
				joint := 400 + (theirs.Back - tail) // along the trunk from "in", on the side of what the vehicle's wire leads to
				if back {
					joint = 400 - (theirs.Back - tail)
				}
				way := tail + joint
				if theirs.Back < tail {
					way = tail + 400 + tail - theirs.Back
				}
				l := lineOf(t, p, ours.Wire)
				there := had - ours.Back
				if l.Verdict == reach.Extend {
					there += l.By - 2*lap*float64(l.Joints)
				}
				if l.Verdict == reach.Replace {
					there = l.By
				}
				if there < way-1 {
					t.Errorf("%g mm, %v: %s comes %.0f mm, and its joint %.0f mm behind %s is %.0f mm away (%s, %v)", had, back,
						ours.Wire, there, theirs.Back, theirs.At, way, l.Verdict, l.Terms)
				}
			}
			if farthest < 200 {
				t.Errorf("the joints are not spread: %g mm", farthest)
			}
		}
	}
}
