package work_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

// An end is joined after it was cut, a joint after the wire for it was laid, whoever planned which, and however they
// come.
func TestOrderFollowsFromTheEdits(t *testing.T) {
	at := func(c string) harness.End { return harness.End{At: harness.Ref{Connector: c, Cavity: "1"}} }
	l := harness.Loom{Wires: []harness.Wire{{ID: "a", Ends: [2]harness.End{at("A"), at("B")}}, {ID: "b",
		Ends: [2]harness.End{at("C"), at("D")}}}}
	h := l.Found()
	step := func(name string, stage work.Stage, edits ...harness.Edit) work.Step {
		s := work.New(edits)
		s.Text, s.Stage = name, stage
		return s
	}
	steps := []work.Step{
		step("join", work.Join, harness.Edit{Do: harness.Join, Joint: "J", Lengths: []harness.TipID{{Wire: "a", End: 0},
			{Wire: "n", End: 1}}}),
		step("out", work.Thin, harness.Edit{Do: harness.FallOut, Wire: "b"}),
		step("cut b", work.Thin, harness.Edit{Do: harness.Cut, Wire: "b", End: 0}, harness.Edit{Do: harness.Cut, Wire: "b",
			End: 1}),
		step("cut a", work.Join, harness.Edit{Do: harness.Cut, Wire: "a", End: 0}),
		step("land", work.Join, harness.Edit{Do: harness.Land, Wire: "n", End: 0, Joint: "fuse"}),
		step("lay", work.Reach, harness.Edit{Do: harness.Lay, Wire: "n", Tips: []harness.Tip{{State: harness.Bare},
			{State: harness.Bare}}}),
	}
	text := func(steps []work.Step) string {
		var out []string
		for _, s := range steps {
			out = append(out, s.Text)
		}
		return strings.Join(out, ", ")
	}
	if _, _, err := work.Run(h, steps, nil); err == nil {
		t.Fatal("as they are given they cannot be done: the test says nothing")
	}
	ordered := work.Order(h, steps)
	place := map[string]int{}
	for i, s := range ordered {
		place[s.Text] = i
	}
	for _, pair := range [][2]string{{"cut a", "join"}, {"lay", "join"}, {"cut b", "out"}, {"lay", "land"}} {
		if place[pair[0]] > place[pair[1]] {
			t.Errorf("%s comes after %s: %s", pair[0], pair[1], text(ordered))
		}
	}
	if _, _, err := work.Run(h, ordered, nil); err != nil || len(ordered) != len(steps) {
		t.Errorf("%d of %d steps, %v: %s", len(ordered), len(steps), err, text(ordered))
	}
	if again := work.Order(h, ordered); text(again) != text(ordered) {
		t.Errorf("what is in order is put in another: %s", text(again))
	}
}
