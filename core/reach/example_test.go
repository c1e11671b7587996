package reach_test

import (
	"fmt"

	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
)

// A wire that has 900 mm and must span 1200 mm between two stations.
func ExampleCompute() {
	station := func(connector, at string) route.Place {
		return route.Place{Thing: route.Thing{Kind: route.AConnector, ID: connector}, Station: at}
	}
	end := func(connector string) harness.End {
		return harness.End{At: harness.Ref{Connector: connector, Cavity: "1"}}
	}
	r := reach.Compute(reach.Input{
		Loom: &harness.Loom{},
		Wires: []reach.Run{{Wire: harness.Wire{ID: "7110", Ends: [2]harness.End{end("B"), end("IJ1")},
			Conductor: harness.Conductor{Size: 0.75}, Length: 900}}},
		Decisions: reach.Decisions{
			Map: route.Map{Stations: []route.Station{{ID: "shelf"}, {ID: "engine"}},
				Paths: []route.Path{{ID: "tunnel", From: "shelf", To: "engine", Length: 1200}}},
			Places: []route.Place{station("B", "shelf"), station("IJ1", "engine")}, Rules: reach.Standard()},
	})
	l := r.Lines[0]
	for _, t := range l.Terms {
		fmt.Printf("%5.0f %s\n", t.MM, t.What)
	}
	fmt.Printf("%5.0f needed, %.0f had: %s by %.0f mm with %d joints\n", l.Need, l.Had, l.Verdict, l.By, l.Joints)
	// Output:
	//  1200 tunnel
	//    80 down to the plug at shelf
	//    80 down to the plug at engine
	//    30 one re-termination at end 1
	//    30 one re-termination at end 2
	//  1420 needed, 900 had: extend by 580 mm with 2 joints
}
