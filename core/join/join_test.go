package join_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/work"
)

// twoSides is ours, A1 to a unit, and the vehicle's, B1 to a gauge.
func twoSides() harness.Harness {
	at := func(c string) harness.End { return harness.End{At: harness.Ref{Connector: c, Cavity: "1"}} }
	l := harness.Loom{Wires: []harness.Wire{
		{ID: "ours", Ends: [2]harness.End{at("A"), at("U")}},
		{ID: "theirs", Ends: [2]harness.End{at("B"), at("G")}},
		{ID: "third", Ends: [2]harness.End{at("C"), at("H")}},
	}}
	return l.Found()
}

func end(wire, connector harness.WireID, how join.How) join.End {
	return join.End{TipID: harness.TipID{Wire: wire}, How: how,
		At:   harness.Ref{Connector: string(connector), Cavity: "1"},
		Name: string(wire), Theirs: wire == "theirs", Back: 60}
}

// worked joins, runs the steps in their order, and gives what they were and what came of them.
func worked(t *testing.T, in join.Input, found, now harness.Harness) (string, harness.Harness) {
	t.Helper()
	p := join.Join(in, found)
	wanted := found.With(p.Changes)
	steps := work.Order(now, p.Steps(now, wanted))
	got, _, err := work.Run(now, steps, nil)
	if err != nil {
		t.Fatalf("%v: %v", err, steps)
	}
	if d := harness.Differences(got, wanted); len(d) > 0 {
		t.Fatalf("the steps do not reach what is wanted: %v", d)
	}
	var kinds []string
	for _, s := range steps {
		kinds = append(kinds, string(s.Kind))
	}
	return strings.Join(kinds, " "), got
}

// From any of these states to any other the steps lead there: a joint is made, kept, made otherwise, or taken apart and
// its wires are whole again. What they consist of is worked out by hand.
func TestJointsAreMadeAndTakenApart(t *testing.T) {
	name := harness.JointAt("A1")
	meter := end("theirs", "B", join.CutOff)
	meter.Meter = join.Meter{Text: "Continuity to the gauge."}
	takeOver := []join.Joint{{Name: name, Ends: []join.End{end("ours", "A", join.CutOff), meter}}}
	tap := []join.Joint{{Name: name, Ends: []join.End{end("ours", "A", join.CutOff), end("theirs", "B", join.Whole)}}}
	three := []join.Joint{{Name: name, Ends: []join.End{end("ours", "A", join.CutOff), end("theirs", "B", join.CutOff),
		end("third", "C", join.CutOff)}}}
	mine := map[harness.JointID]bool{name: true}
	cuts := []harness.TipID{{Wire: "ours"}, {Wire: "theirs"}, {Wire: "third"}}
	for _, c := range []struct {
		name        string
		first, then []join.Joint
		made, after string
	}{
		{"taken over", takeOver, takeOver, "cut measure cut join", ""},
		{"tapped", tap, tap, "cut join", ""},
		{"taken over and not wanted", takeOver, nil, "cut measure cut join", "apart mend mend"},
		{"one more comes to it", takeOver, three, "cut measure cut join", "cut join"},
		{"one goes from it", three, takeOver, "cut cut cut join", "apart mend measure join"},
	} {
		t.Run(c.name, func(t *testing.T) {
			found := twoSides()
			made, now := worked(t, join.Input{Joints: c.first}, found, found)
			if made != c.made {
				t.Errorf("made by %s, want %s", made, c.made)
			}
			after, end := worked(t, join.Input{Joints: c.then, Mine: mine, Cut: cuts}, found, now)
			if after != c.after {
				t.Errorf("then %q, want %q", after, c.after)
			}
			if c.then == nil && len(harness.Differences(end, found)) > 0 {
				t.Errorf("not as it was found: %v", harness.Differences(end, found))
			}
		})
	}
}
