package work_test

import (
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

// A step names the cavity in which a terminal is when its turn comes, and stands there itself.
func TestAStepIsToldAsThingsThenStand(t *testing.T) {
	a, b := harness.Ref{Connector: "A", Cavity: "1"}, harness.Ref{Connector: "B", Cavity: "2"}
	strange := harness.Ref{Connector: "Z", Cavity: "9"} // nothing was found in it
	l := harness.Loom{Wires: []harness.Wire{{ID: "w", Ends: [2]harness.End{{At: a}, {Taped: true}}}}}
	tells := func(id string) work.Step {
		return work.Step{ID: id, Text: "Cut " + work.Spot(a) + work.Moved(a) + " beside " + work.Spot(strange) +
			work.Moved(strange) + ".", At: []harness.Ref{strange, a}}
	}
	does := func(id string, e harness.Edit) work.Step {
		s := tells(id)
		s.Edits = []harness.Edit{e}
		return s
	}
	out := harness.Edit{Do: harness.Remove, Terminal: harness.TerminalAt(a)}
	in := harness.Edit{Do: harness.Insert, Terminal: harness.TerminalAt(a), At: b}
	before, waits, there := "Cut A1 beside Z9.", "Cut A1 (where it was), now out of A1 beside Z9.",
		"Cut B2, now in B2 beside Z9."
	for name, c := range map[string]struct {
		done string
		want []string
		at   []harness.Ref
	}{
		"all to do":     {"", []string{before, before, waits, waits, there}, []harness.Ref{a, a, a, a, b}},
		"one was done":  {"out", []string{before, before, before, before, there}, []harness.Ref{a, a, a, a, b}},
		"both are done": {"out in", []string{before, before, before, before, before}, []harness.Ref{a, a, a, a, a}},
	} {
		steps := []work.Step{tells("1"), does("out", out), tells("2"), does("in", in), tells("3")}
		work.Settle(l.Found(), steps, func(id string) bool { return c.done == id || c.done == "out in" && len(id) > 1 })
		for i, s := range steps {
			if s.Text != c.want[i] || s.At[1] != c.at[i] || s.At[0] != strange {
				t.Errorf("%s, step %s: %q at %v, want %q at %v", name, s.ID, s.Text, s.At, c.want[i], c.at[i])
			}
		}
	}
}
