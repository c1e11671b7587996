package harness_test

import (
	"testing"

	"draxel/core/harness"
)

// Two harnesses that are made alike are the same, and one that is otherwise in anything is not.
func TestSameHarness(t *testing.T) {
	made := func(connectors []harness.Connector, edits ...harness.Edit) harness.Harness {
		l := harness.Loom{Wires: []harness.Wire{{ID: "w1", Ends: [2]harness.End{
			{At: harness.Ref{Connector: "A", Cavity: "1"}}, {At: harness.Ref{Connector: "B", Cavity: "1"}}}}}}
		for _, c := range connectors {
			l.Connectors = append(l.Connectors, harness.Half{Connector: c})
		}
		h, err := harness.Apply(l.Found(), edits...)
		if err != nil {
			t.Fatal(err)
		}
		return h
	}
	two := []harness.Connector{{ID: "A", Cavities: []string{"1", "2"}}, {ID: "B", Cavities: []string{"1"}}}
	at := harness.Ref{Connector: "A", Cavity: "1"}
	out := harness.Edit{Do: harness.Remove, At: at, Terminal: harness.TerminalAt(at), Label: "A1"}
	base := made(two)
	if !base.Same(made(two)) || !made(two, out).Same(made(two, out)) {
		t.Error("harnesses that are made alike are not the same")
	}
	for name, other := range map[string]harness.Harness{
		"another cavity": made([]harness.Connector{{ID: "A", Cavities: []string{"1", "2", "3"}}, two[1]}),
		"a terminal out": made(two, out),
		"a plug":         made(two, harness.Edit{Do: harness.Plug, At: harness.Ref{Connector: "A", Cavity: "2"}}),
		"a cut":          made(two, harness.Edit{Do: harness.Cut, Wire: "w1", End: 0}),
		"a new wire": made(two, harness.Edit{Do: harness.Lay, Wire: "n", Tips: []harness.Tip{
			{State: harness.Bare}, {State: harness.Bare}}}),
		"another end": made(two, harness.Edit{Do: harness.Lay, Wire: "n", Tips: []harness.Tip{
			{State: harness.Bare}, {State: harness.Sealed}}}),
		"nothing": {},
	} {
		if base.Same(other) || other.Same(base) {
			t.Errorf("%s: it is told to be the same", name)
		}
	}
}
