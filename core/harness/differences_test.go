package harness_test

import (
	"fmt"
	"strings"
	"testing"

	"draxel/core/harness"
)

// A plan is proven by there being no difference between what its steps come to and what is wanted: whatever one edit
// makes different is named, seen from either side.
func TestEveryDifferenceIsNamed(t *testing.T) {
	a, tips := harness.Ref{Connector: "A", Cavity: "1"}, []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	for _, c := range []struct {
		name      string
		edits     []harness.Edit
		more, sub string // what is said of the harness with the edits against the one without, and the other way round
	}{
		{"a wire more", []harness.Edit{{Do: harness.Lay, Wire: "n", Tips: tips}}, "wire n should not be there",
			"wire n is missing"},
		{"a cut", []harness.Edit{{Do: harness.Cut, Wire: "w1", End: 1}},
			"wire w1 ends in terminal wire A1 and bare, should end in terminal wire A1 and at S | wire w1 stub 2 should not " +
				"be there",
			"wire w1 stub 2 is missing"},
		{"a connector off", []harness.Edit{{Do: harness.Free, At: a}}, "connector A is off and should not be",
			"connector A should be off"},
		{"a terminal that waits", []harness.Edit{{Do: harness.Remove, Terminal: harness.TerminalAt(a), At: a, Label: "x"},
			{Do: harness.Cap, Terminal: harness.TerminalAt(a), Label: "x"}}, "terminal wire A1 is capped",
			"terminal wire A1 is in A1"},
		{"a terminal more", []harness.Edit{{Do: harness.Add, Terminal: "T9", Wire: "w3", Label: "x"}},
			"terminal T9 should not be there", "terminal T9 is missing"},
		{"a plug in a cavity", []harness.Edit{{Do: harness.Remove, Terminal: harness.TerminalAt(a), At: a, Label: "x"},
			{Do: harness.Cap, Terminal: harness.TerminalAt(a), Label: "x"}, {Do: harness.Plug, At: a}},
			"cavity A1: plugged true", "cavity A1: plugged false"},
	} {
		before := laid(t)
		after, err := harness.Apply(before, c.edits...)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		for _, x := range [][2]string{{strings.Join(harness.Differences(after, before), " | "), c.more},
			{strings.Join(harness.Differences(before, after), " | "), c.sub}} {
			if !strings.Contains(x[0], x[1]) {
				t.Errorf("%s: %q, want %q in it", c.name, x[0], x[1])
			}
		}
		if d := harness.Differences(after, after); len(d) > 0 {
			t.Errorf("%s: from itself it differs by %v", c.name, d)
		}
	}
}

// What was done cannot be done again while it is so, and could be done before.
func TestWhatCouldBeDoneAgain(t *testing.T) {
	cut, other := harness.Edit{Do: harness.Cut, Wire: "w1"}, harness.Edit{Do: harness.Cut, Wire: "w2"}
	tips := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	for _, e := range []harness.Edit{cut, {Do: harness.Lay, Wire: "n", Tips: tips},
		{Do: harness.Free, At: harness.Ref{Connector: "A"}}, {Do: harness.Open, Joint: "S"},
		{Do: harness.Join, Joint: "J", Lengths: []harness.TipID{{Wire: "w2"}, {Wire: "w2 stub 1", End: 1}}}} {
		h := laid(t)
		if e.Do == harness.Join {
			next, err := harness.Apply(h, other)
			if err != nil {
				t.Fatal(err)
			}
			h = next
		}
		after, err := harness.Apply(h, e)
		if err != nil {
			t.Errorf("%s: %v", e.Do, err)
			continue
		}
		if !h.Again(e) || after.Again(e) {
			t.Errorf("%s could be done before: %v; and again: %v", e.Do, h.Again(e), after.Again(e))
		}
	}
	h := laid(t)
	for name, e := range map[string]harness.Edit{"a splice cut off": {Do: harness.Cut, Wire: "w1", End: 1},
		"cut what is not there": {Do: harness.Cut, Wire: "w9"},
		"joined with what is not there": {Do: harness.Join, Joint: "J",
			Lengths: []harness.TipID{{Wire: "w9"}}}, "nothing joined": {Do: harness.Join, Joint: "J"},
		"out what is not there": {Do: harness.FallOut, Wire: "w9"}, "opened what is no joint": {Do: harness.Open, Joint: "Q"},
		"something of terminals": {Do: harness.Plug, At: harness.Ref{Connector: "Z", Cavity: "1"}}} {
		if h.Again(e) {
			t.Errorf("%s: it could be done again", name)
		}
	}
	if !h.Again(harness.Edit{Do: harness.FallOut, Wire: "w1"}) {
		t.Error("a wire that is there could not fall out again")
	}
}

func TestWhatStandsForAWire(t *testing.T) {
	h, err := harness.Apply(laid(t), harness.Edit{Do: harness.Lay, Wire: harness.WireID("w9").Instead(),
		Tips: []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}})
	if err != nil {
		t.Fatal(err)
	}
	for wire, want := range map[harness.WireID]harness.WireID{"w1": "w1", "w9": "w9 new"} {
		if got := h.Standing(wire); got != want {
			t.Errorf("for %s stands %s, not %s", wire, got, want)
		}
	}
}

func TestEditsThatNobodyCanDo(t *testing.T) {
	for name, e := range map[string]harness.Edit{"no word for it": {Do: "polish"},
		"an end before the first": {Do: harness.Cut, End: -1},
		"a third end":             {Do: harness.Cut, End: 2}, "a length with a third end": {Do: harness.Join,
			Lengths: []harness.TipID{{Wire: "w"}, {Wire: "w", End: 2}}}, "a length with one tip": {Do: harness.Lay,
			Tips: make([]harness.Tip, 1)}, "a length with three": {Do: harness.Lay, Tips: make([]harness.Tip, 3)}} {
		if e.Check() == nil {
			t.Errorf("%s: it can be", name)
		}
	}
	for _, e := range []harness.Edit{{Do: harness.Cut, End: 1}, {Do: harness.Lay, Tips: make([]harness.Tip, 2)},
		{Do: harness.Plug}} {
		if err := e.Check(); err != nil {
			t.Errorf("%+v: %v", e, err)
		}
	}
}

// A pinout finds the same in either form; the first of a name holds, and what was changed after it is looked through.
func TestAPinoutIsFoundInEitherForm(t *testing.T) {
	p := harness.Pinout{}
	for i := range 6 {
		id := fmt.Sprint("C", i%4) // C0 and C1 twice
		p.Connectors = append(p.Connectors, harness.Connector{ID: id, Name: fmt.Sprint("name ", i)})
		p.Rows = append(p.Rows, harness.Row{Ref: harness.Ref{Connector: id, Cavity: "1"},
			Conductor: harness.Conductor{Function: fmt.Sprint("function ", i)}})
	}
	fast := p.Findable()
	shorter := fast
	shorter.Connectors, shorter.Rows = fast.Connectors[:2], fast.Rows[:2]
	other := fast
	other.Connectors, other.Rows = p.Connectors[1:], p.Rows[1:]
	for name, x := range map[string][2]harness.Pinout{"whole": {p, fast}, "nothing": {{}, harness.Pinout{}.Findable()},
		"shorter":    {{Connectors: p.Connectors[:2], Rows: p.Rows[:2]}, shorter},
		"of another": {{Connectors: p.Connectors[1:], Rows: p.Rows[1:]}, other}} {
		for i := range 7 {
			id := fmt.Sprint("C", i)
			a, okA := x[0].Connector(id)
			b, okB := x[1].Connector(id)
			if okA != okB || a.Name != b.Name || okA != (a.ID == id) {
				t.Errorf("%s: connector %s is %q, %v, and %q, %v", name, id, a.Name, okA, b.Name, okB)
			}
			at := harness.Ref{Connector: id, Cavity: "1"}
			r, okR := x[0].Row(at)
			s, okS := x[1].Row(at)
			if okR != okS || r.Function != s.Function || okR != okA {
				t.Errorf("%s: row %s is %q, %v, and %q, %v", name, at, r.Function, okR, s.Function, okS)
			}
		}
	}
	if c, _ := fast.Connector("C0"); c.Name != "name 0" {
		t.Errorf("the first of a name does not hold: %q", c.Name)
	}
}

func TestWhereManyCircuitsMeet(t *testing.T) {
	for _, k := range harness.DeviceKinds() {
		if want := k == harness.Unit || k == harness.Fuses || k == harness.Grounds; k.Hub() != want {
			t.Errorf("%q is a hub: %v", k, !want)
		}
	}
}
