package work_test

import (
	"slices"
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

// Of two steps of which the second needs what the first makes, the first comes first however they are given, and says
// so; of two that have nothing to do with each other the given order stays.
func TestWhatAStepNeeds(t *testing.T) {
	at := func(c string) harness.End { return harness.End{At: harness.Ref{Connector: c, Cavity: "1"}} }
	l := harness.Loom{Wires: []harness.Wire{{ID: "a", Ends: [2]harness.End{at("A"), {Splice: "S"}}},
		{ID: "b", Ends: [2]harness.End{at("C"), {Splice: "S"}}}, {ID: "c", Ends: [2]harness.End{at("E"), at("F")}}}}
	now := l.Found()
	tip := func(wire harness.WireID, end int) harness.TipID { return harness.TipID{Wire: wire, End: end} }
	e := func(do harness.Do, wire harness.WireID, end int) harness.Edit {
		return harness.Edit{Do: do, Wire: wire, End: end}
	}
	of := func(do harness.Do, terminal harness.TerminalID) harness.Edit {
		return harness.Edit{Do: do, Terminal: terminal}
	}
	joins := func(do harness.Do, joint harness.JointID, ends ...harness.TipID) harness.Edit {
		return harness.Edit{Do: do, Joint: joint, Lengths: ends, Wire: map[bool]harness.WireID{true: "c"}[do == harness.Tap]}
	}
	inA := harness.TerminalAt(harness.Ref{Connector: "A", Cavity: "1"})
	lay := harness.Edit{Do: harness.Lay, Wire: "n", Tips: make([]harness.Tip, 2)}
	for _, c := range []struct {
		name          string
		first, second harness.Edit
		needs         bool
	}{
		{"sealed after the cut", e(harness.Cut, "a", 0), e(harness.Seal, "a", 0), true},
		{"not after the cut at the other end", e(harness.Cut, "a", 1), e(harness.Seal, "a", 0), false},
		{"the stub is sealed after the cut", e(harness.Cut, "a", 0), e(harness.Seal, "a stub 1", 1), true},
		{"the stub falls out after the cut", e(harness.Cut, "a", 0), e(harness.FallOut, "a stub 1", 0), true},
		{"healed after the cut", e(harness.Cut, "a", 0), e(harness.Heal, "a", 0), true},
		{"landed after the cut", e(harness.Cut, "a", 0), e(harness.Land, "a", 0), true},
		{"landed after it was clipped", e(harness.Clip, "a", 0), e(harness.Land, "a", 0), true},
		{"landed after it was taken off a joint", e(harness.Unjoin, "a", 1), e(harness.Land, "a", 1), true},
		{"crimped after it was laid", lay, e(harness.Crimp, "n", 1), true},
		{"joined after it was laid", lay, joins(harness.Join, "J", tip("n", 0), tip("n", 1)), true},
		{"joined after the other was cut", e(harness.Cut, "b", 0), joins(harness.Join, "J", tip("a", 0), tip("b", 0)), true},
		{"tapped with what was laid", lay, joins(harness.Tap, "J", tip("n", 0)), true},
		{"the tapped bit goes after it", joins(harness.Tap, "J", tip("n", 0)), e(harness.FallOut, "c stub 1", 0), true},
		{"one more comes to a joint that is made", joins(harness.Join, "J", tip("a", 0), tip("b", 0)),
			joins(harness.Join, "J", tip("c", 0)), true},
		{"one more comes to a joint that is tapped", joins(harness.Tap, "J", tip("n", 0)),
			joins(harness.Join, "J", tip("a", 0)), true},
		{"two ends make another joint", joins(harness.Join, "J", tip("a", 0), tip("b", 0)),
			joins(harness.Join, "K", tip("c", 0), tip("c", 1)), false},
		{"joined elsewhere after the splice was opened", joins(harness.Open, "S"),
			joins(harness.Join, "J", tip("a", 1), tip("c", 0)), true},
		{"out after the splice was opened", joins(harness.Open, "S"), e(harness.FallOut, "a", 0), true},
		{"out after its terminal came out", of(harness.Remove, inA), e(harness.FallOut, "a", 0), true},
		{"out after its terminal was cut off", of(harness.Sever, inA), e(harness.FallOut, "a", 0), true},
		{"out after its terminal was capped", of(harness.Cap, inA), e(harness.FallOut, "a", 0), true},
		{"out after its terminal was parked", of(harness.Park, inA), e(harness.FallOut, "a", 0), true},
		{"out after its connector came off", harness.Edit{Do: harness.Free, At: harness.Ref{Connector: "A"}},
			e(harness.FallOut, "a", 0), true},
		{"not after another connector came off", harness.Edit{Do: harness.Free, At: harness.Ref{Connector: "C"}},
			e(harness.FallOut, "a", 0), false},
		{"out after it was cut", e(harness.Cut, "c", 1), e(harness.FallOut, "c", 0), true},
		{"put in after it was added", of(harness.Add, "T"), of(harness.Insert, "T"), true},
		{"crimped into what was added", of(harness.Add, "T"),
			harness.Edit{Do: harness.Crimp, Wire: "a", End: 0, Terminal: "T"}, true},
		{"dropped after it was added", of(harness.Add, "T"), of(harness.Drop, "T"), true},
		{"clipped after its terminal came out", of(harness.Remove, inA), e(harness.Clip, "a", 0), true},
	} {
		first, second := work.New([]harness.Edit{c.first}), work.New([]harness.Edit{c.second})
		got := work.Order(now, []work.Step{second, first})
		if turned := got[0].ID == first.ID; turned != c.needs || slices.Contains(got[1].Needs, first.ID) != c.needs {
			t.Errorf("%s: the first comes first: %v; it is needed: %v", c.name, turned, got[1].Needs)
		}
		if got := work.Order(now, []work.Step{first, second}); got[0].ID != first.ID {
			t.Errorf("%s: in the order of the work they are turned round", c.name)
		}
	}
}

// What is measured is measured before anything is done to it; Pin's steps stay in their order, and steps that need one
// another in a ring in that in which they were given.
func TestGuardsPinAndRings(t *testing.T) {
	step := func(name string, stage work.Stage, edits ...harness.Edit) work.Step {
		s := work.New(edits)
		s.ID, s.Text, s.Stage = name, name, stage
		return s
	}
	end := step("guards an end", work.Join)
	end.Guards = []harness.TipID{{Wire: "a", End: 1}}
	terminal := step("guards a terminal", work.Join)
	terminal.GuardsTerminal = []harness.TerminalID{"T"}
	cut := step("cut", work.Thin, harness.Edit{Do: harness.Cut, Wire: "a", End: 1})
	far := step("cut at the other end", work.Thin, harness.Edit{Do: harness.Cut, Wire: "a"})
	join := step("join", work.Join, harness.Edit{Do: harness.Join, Joint: "J",
		Lengths: []harness.TipID{{Wire: "z"}, {Wire: "a", End: 1}}})
	pull := step("pull", work.Pin, harness.Edit{Do: harness.Remove, Terminal: "T"})
	ring := func(name, needs string) work.Step {
		s := step(name, work.Thin)
		s.Needs = []string{needs}
		return s
	}
	for name, c := range map[string]struct{ given, want []work.Step }{
		"an end":       {[]work.Step{far, cut, end}, []work.Step{far, end, cut}},
		"an end in it": {[]work.Step{join, end}, []work.Step{end, join}},
		"a terminal":   {[]work.Step{pull, terminal}, []work.Step{terminal, pull}},
		"Pin": {[]work.Step{step("1", work.Pin), step("x", work.Thin), step("2", work.Pin)},
			[]work.Step{step("1", work.Pin), step("x", work.Thin), step("2", work.Pin)}},
		"Pin waits for its first": {[]work.Step{ring("1", "x"), step("2", work.Pin), step("x", work.Thin)},
			[]work.Step{step("2", work.Pin), step("x", work.Thin), ring("1", "x")}},
		"a ring": {[]work.Step{ring("p", "q"), ring("q", "p"), step("x", work.Thin)},
			[]work.Step{step("x", work.Thin), ring("p", "q"), ring("q", "p")}},
	} {
		var got, want []string
		for _, s := range work.Order(harness.Harness{}, c.given) {
			got = append(got, s.ID)
		}
		for _, s := range c.want {
			want = append(want, s.ID)
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %q, want %q", name, got, want)
		}
	}
	first := step("1", work.Pin)
	first.Needs = []string{"x"}
	var got []string
	for _, s := range work.Order(harness.Harness{}, []work.Step{first, step("2", work.Pin), step("x", work.Thin)}) {
		got = append(got, s.ID)
	}
	if !slices.Equal(got, []string{"x", "1", "2"}) {
		t.Errorf("what Pin's first step waits for, its second waits for too: %q", got)
	}
}
