package harness_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
)

// laid is a wire from A1 to a splice, where two others end: one at B1, one that nobody followed.
func laid(t *testing.T) harness.Harness {
	t.Helper()
	ref := func(c string) harness.Ref { return harness.Ref{Connector: c, Cavity: "1"} }
	l := harness.Loom{Wires: []harness.Wire{
		{ID: "w1", Ends: [2]harness.End{{At: ref("A")}, {Splice: "S"}}},
		{ID: "w2", Ends: [2]harness.End{{At: ref("B")}, {Splice: "S"}}},
		{ID: "w3", Ends: [2]harness.End{{}, {Splice: "S"}}},
		{ID: "w4", Ends: [2]harness.End{{At: ref("A")}, {Taped: true}}},
	}}
	return l.Found()
}

func TestCopperRefusesTheImpossible(t *testing.T) {
	cut := harness.Edit{Do: harness.Cut, Wire: "w1", End: 1}
	for _, c := range []struct {
		name  string
		edits []harness.Edit
		says  string
	}{
		{"cut what is not there", []harness.Edit{{Do: harness.Cut, Wire: "w9"}}, "no such wire"},
		{"cut twice", []harness.Edit{cut, cut}, "cut there already"},
		{"cut, joined and cut again", []harness.Edit{cut,
			{Do: harness.Join, Joint: "j", Lengths: []harness.TipID{{Wire: "w1", End: 1},
				{Wire: harness.WireID("w1").Stub(1), End: 1}}}, cut}, "cut there before"},
		{"seal what is whole", []harness.Edit{{Do: harness.Seal, Wire: "w1", End: 1}}, "not open"},
		{"open what is no splice", []harness.Edit{{Do: harness.Open, Joint: "Q"}}, "nothing is joined"},
		{"join what is whole", []harness.Edit{{Do: harness.Join, Joint: "j",
			Lengths: []harness.TipID{{Wire: "w1", End: 1}, {Wire: "w2", End: 1}}}}, "not open"},
		{"join one end", []harness.Edit{cut, {Do: harness.Join, Joint: "j",
			Lengths: []harness.TipID{{Wire: "w1", End: 1}}}}, "two ends"},
		{"join what is not there", []harness.Edit{{Do: harness.Join, Joint: "j",
			Lengths: []harness.TipID{{Wire: "w9"}, {Wire: "w8"}}}}, "no wire w9"},
		{"out while joined", []harness.Edit{{Do: harness.FallOut, Wire: "w3"}}, "still joined at S"},
		{"out while seated", []harness.Edit{{Do: harness.FallOut, Wire: "w4"}}, "its terminal is still in A1"},
		{"lay the same wire twice", []harness.Edit{{Do: harness.Lay, Wire: "w1", Tips: make([]harness.Tip, 2)}}, "already"},
		{"lay a wire with one tip", []harness.Edit{{Do: harness.Lay, Wire: "w7", Tips: make([]harness.Tip, 1)}}, "two tips"},
		{"take off twice", []harness.Edit{{Do: harness.Free, At: harness.Ref{Connector: "A"}},
			{Do: harness.Free, At: harness.Ref{Connector: "A"}}}, "off already"},
	} {
		t.Run(c.name, func(t *testing.T) {
			after, err := harness.Apply(laid(t), c.edits...)
			if err == nil || !strings.Contains(err.Error(), c.says) {
				t.Fatalf("got error %v, want one with %q", err, c.says)
			}
			if d := harness.Differences(after, laid(t)); len(d) > 0 {
				t.Errorf("a refused edit changed the harness: %v", d)
			}
		})
	}
}

func TestATerminalStaysWhileAWireIsInIt(t *testing.T) {
	a := harness.Ref{Connector: "A", Cavity: "1"}
	h, err := harness.Apply(laid(t), harness.Edit{Do: harness.Free, At: a}, harness.Edit{Do: harness.FallOut, Wire: "w4"})
	if err != nil {
		t.Fatal(err)
	}
	if _, in := h.In(a); !in || !h.Out("w4") {
		t.Error("the terminal of w1 went with w4")
	}
	h, err = harness.Apply(h, harness.Edit{Do: harness.Open, Joint: "S"}, harness.Edit{Do: harness.FallOut, Wire: "w1"})
	if err != nil {
		t.Fatal(err)
	}
	if _, in := h.In(a); in {
		t.Error("a terminal stayed without a wire")
	}
	if d := harness.Differences(h, laid(t)); len(d) != 6 {
		t.Errorf("differences %q", d)
	}
}

func TestKeysTellEditsApart(t *testing.T) {
	seen := map[string]bool{}
	for _, e := range []harness.Edit{{Do: harness.Cut, Wire: "w"}, {Do: harness.Cut, Wire: "w", End: 1},
		{Do: harness.Seal, Wire: "w"}, {Do: harness.Cut, Joint: "w"},
		{Do: harness.Join, Lengths: []harness.TipID{{Wire: "w"}}},
		{Do: harness.Join, Lengths: []harness.TipID{{Wire: "w", End: 1}}},
		{Do: harness.Lay, Tips: []harness.Tip{{Joint: "w"}}}, {Do: harness.Lay, Tips: []harness.Tip{{Terminal: "w"}}}} {
		key := string(e.AppendKey(nil))
		if seen[key] {
			t.Errorf("%+v has the key of another", e)
		}
		seen[key] = true
	}
}
