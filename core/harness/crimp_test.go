package harness_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
)

func crimpEdits() (cut, lay, join, crimp harness.Edit) {
	bare := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	cut = harness.Edit{Do: harness.Cut, Wire: "w2"}
	lay = harness.Edit{Do: harness.Lay, Wire: "piece", Tips: bare}
	join = harness.Edit{Do: harness.Join, Joint: "j", Lengths: []harness.TipID{{Wire: "w2"}, {Wire: "piece"}}}
	crimp = harness.Edit{Do: harness.Crimp, Wire: "piece", End: 1, Terminal: "wire B1"}
	return cut, lay, join, crimp
}

// A wire is cut off its terminal, a piece let in, and a new terminal takes the place of the old one, whose stub is
// gone.
func TestANewTerminalTakesThePlaceOfTheOld(t *testing.T) {
	h := laid(t)
	at := harness.Ref{Connector: "B", Cavity: "1"}
	terminal, full := h.In(at)
	if !full {
		t.Fatal("nothing is in B1")
	}
	cut, lay, join, crimp := crimpEdits()
	crimp.Terminal = terminal
	end, err := harness.Apply(h, cut, lay, join, crimp)
	if err != nil {
		t.Fatal(err)
	}
	if still, _ := end.In(at); still != terminal {
		t.Errorf("%s is in B1", still)
	}
	tips, there := end.Tips("piece")
	if _, stub := end.Tips(harness.WireID("w2").Stub(0)); !there || stub ||
		tips[1] != (harness.Tip{State: harness.Crimped, Terminal: terminal}) {
		t.Errorf("the piece ends %v; the stub is there: %v", tips, stub)
	}
	// Made straight from what is wanted it is the same harness.
	wanted := h.With(harness.Changes{Tips: map[harness.WireID][2]harness.Tip{"piece": {{State: harness.Joined, Joint: "j"},
		{State: harness.Crimped, Terminal: terminal}}, "w2": {{State: harness.Joined, Joint: "j"}, {State: harness.Joined,
		Joint: "S"}}}})
	if d := harness.Differences(end, wanted); len(d) > 0 {
		t.Error(d)
	}
	if again, err := harness.Apply(end, harness.Edit{Do: harness.Remove, Terminal: terminal, At: at,
		Label: "x"}); err != nil || again.InHand() != 1 {
		t.Errorf("the new terminal does not come out like any other: %v", err)
	}
}

func TestCrimpRefusesTheImpossible(t *testing.T) {
	h := laid(t)
	terminal, _ := h.In(harness.Ref{Connector: "B", Cavity: "1"})
	shared, _ := h.In(harness.Ref{Connector: "A", Cavity: "1"})
	cut, lay, _, crimp := crimpEdits()
	crimp.Terminal = terminal
	with := func(e harness.Edit, t harness.TerminalID) harness.Edit { e.Terminal = t; return e }
	for name, c := range map[string]struct {
		edits []harness.Edit
		says  string
	}{
		"the old wire is still on it": {[]harness.Edit{lay, crimp}, "still crimped"},
		"the end is not open":         {[]harness.Edit{cut, lay, crimp, crimp}, "not open"},
		"there is no such terminal":   {[]harness.Edit{cut, lay, with(crimp, "wire Z9")}, "no such terminal"},
		"two wires are crimped into it": {[]harness.Edit{{Do: harness.Cut, Wire: "w1"}, lay, with(crimp, shared)},
			"2 wires"},
		"there is no such wire to crimp": {[]harness.Edit{cut, crimp}, "no such wire"},
	} {
		if _, err := harness.Apply(h, c.edits...); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func TestChangesTakeAwayAndLeaveTheRest(t *testing.T) {
	h := laid(t)
	out := h.With(harness.Changes{Gone: []harness.WireID{"w3"}})
	if _, there := out.Tips("w3"); there || len(out.Wires()) != len(h.Wires())-1 {
		t.Errorf("%v are left of %v", out.Wires(), h.Wires())
	}
	if _, there := h.Tips("w3"); !there {
		t.Error("the harness that was given has changed")
	}
}
