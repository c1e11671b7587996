package demo

import (
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
)

// crosswalkPackhorse says where the Packhorse's wires go: pairs that are accepted, one that is tapped against the
// proposal, and what new wires begin at. The pairs SP2 to E4, SP26 to E18 and SP25 to E22 are left for whoever looks
// at it.
func crosswalkPackhorse(j *stored.Job) {
	at := func(connector, cavity string) harness.Ref { return harness.Ref{Connector: connector, Cavity: cavity} }
	pairs := [][2]harness.Ref{
		{at("SP", "4"), at("E", "6")}, {at("SP", "19"), at("A", "40")}, {at("SP", "20"), at("E", "3")}, {at("SP", "21"),
			at("A", "3")},
		{at("SP", "24"), at("E", "15")}, {at("SP", "28"), at("E", "17")}, {at("K", "1"), at("E", "8")}, {at("K", "5"),
			at("E", "16")},
		{at("K", "6"), at("A", "14")}, {at("K", "7"), at("E", "10")}, {at("K", "8"), at("E", "24")}, {at("K", "12"), at("B",
			"17")},
	}
	decide := func(d match.Decision) {
		d.Who, d.When = "Ines", when
		j.Decisions = append(j.Decisions, d)
	}
	for _, p := range pairs {
		decide(match.Decision{Side: match.From, At: p[0], Choice: match.Matched, To: p[1]})
	}
	decide(match.Decision{Side: match.From, At: at("K", "10"), Choice: match.Matched, To: at("E", "19"), Way: match.Tap,
		Reason: "the starter lock of the vehicle keeps the switch as well"})
	for _, w := range []struct {
		to     string
		begins match.Origin
	}{
		{"1", match.Origin{Kind: match.AtFuse, Name: "engine, 40 A"}}, {"2", match.Origin{Kind: match.AtFuse,
			Name: "engine, 40 A"}},
		{"5", match.Origin{Kind: match.AtGround, Name: "engine ground"}}, {"13", match.Origin{Kind: match.OpenEnd,
			Owner: "Fen"}},
	} {
		decide(match.Decision{Side: match.To, At: at("E", w.to), Choice: match.Wired, Origin: &w.begins})
	}
	decide(match.Decision{Side: match.From, At: at("SP", "2"), Choice: match.Matched, To: at("E", "4"),
		Reason: "fuse 5 is on in run and in crank, as measured at the switch"})
	decide(match.Decision{Side: match.To, At: at("A", "9"), Choice: match.Wired,
		Origin: &match.Origin{Kind: match.AtCavity, At: at("MR", "4")},
		Reason: "the main relay of the Packhorse feeds the engine"})
	volts := []float64{0, 0, 0, 10.6}
	for i, key := range gather.Keys() {
		j.Readings = append(j.Readings, gather.Measurement{ID: "crank-" + string(key), At: at("SP", "19"), Key: key,
			Volts: &volts[i], Loaded: true, Who: "Ines", When: when + 100 + int64(i)})
	}
	least, saw := 15.0, 23.0
	j.Own = []stored.OwnStep{{ID: "own-1", Text: "Turn the crank by hand with the loom laid: nothing may touch the " +
		"front pulley.", What: "clearance", Unit: "mm", Least: &least, Saw: &saw, Who: "Ines", When: when}}
}
