package harness_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
)

// What the edits of joining do to the tips of wires, and what they refuse.
func TestEditsOfJoining(t *testing.T) {
	bare := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	lay := harness.Edit{Do: harness.Lay, Wire: "n", Tips: bare}
	cut := harness.Edit{Do: harness.Cut, Wire: "w1", End: 0}
	n0, n1 := []harness.TipID{{Wire: "n"}}, []harness.TipID{{Wire: "n", End: 1}}
	tap := harness.Edit{Do: harness.Tap, Wire: "w1", Joint: "T", Lengths: n0}
	for _, c := range []struct {
		name  string
		edits []harness.Edit
		want  string // a word of the error, or the tips in the end
	}{
		{"a tap cuts nothing", []harness.Edit{lay, tap}, "n 0 at T; w1 0 at T; w1 1 at S; w1 stub 1 0 A1; w1 stub 1 1 at T"},
		{"a tap of a wire that is open", []harness.Edit{lay, cut, tap}, "error"},
		{"a tap with an end that is not open", []harness.Edit{{Do: harness.Tap, Wire: "w1", Joint: "T",
			Lengths: []harness.TipID{{Wire: "w2"}}}}, "error"},
		{"one more onto a joint", []harness.Edit{lay, {Do: harness.Join, Joint: "S", Lengths: n1}}, "n 1 at S; w1 0 A1; " +
			"w1 1 at S"},
		{"one alone makes no joint", []harness.Edit{lay, {Do: harness.Join, Joint: "new", Lengths: n1}}, "error"},
		{"landed on a stud", []harness.Edit{lay, {Do: harness.Land, Wire: "n", Joint: "fuse 3"}}, "n 0 at fuse 3; w1 0 " +
			"A1; w1 1 at S"},
		{"landed where it is not open", []harness.Edit{{Do: harness.Land, Wire: "w1", Joint: "fuse 3"}}, "error"},
		{"off a joint at which others stay", []harness.Edit{{Do: harness.Unjoin, Wire: "w3", End: 1}}, "w1 0 A1; w1 1 at S"},
		{"off what it is not at", []harness.Edit{{Do: harness.Unjoin, Wire: "w1", End: 0}}, "error"},
		{"healed after a cut", []harness.Edit{cut, {Do: harness.Heal, Wire: "w1", End: 0}}, "w1 0 A1; w1 1 at S"},
		{"healed without a cut", []harness.Edit{{Do: harness.Heal, Wire: "w1", End: 0}}, "error"},
	} {
		t.Run(c.name, func(t *testing.T) {
			h, err := harness.Apply(laid(t), c.edits...)
			if err != nil || c.want == "error" {
				if (err != nil) != (c.want == "error") {
					t.Errorf("%v, want %s", err, c.want)
				}
				return
			}
			if got := tipsOf(h); got != c.want {
				t.Errorf("got  %s\nwant %s", got, c.want)
			}
		})
	}
}

// tipsOf says what the tips of w1, its stub and the new wire are at, open ones left out.
func tipsOf(h harness.Harness) string {
	var out []string
	for _, w := range h.Wires() {
		if w != "n" && !strings.HasPrefix(string(w), "w1") {
			continue
		}
		tips, _ := h.Tips(w)
		for end, tip := range tips {
			name := string(w+" ") + string(rune('0'+end)) + " "
			switch tip.State {
			case harness.Joined:
				out = append(out, name+"at "+string(tip.Joint))
			case harness.Crimped:
				p, _ := h.Place(tip.Terminal)
				out = append(out, name+p.At.String())
			}
		}
	}
	slices.Sort(out)
	return strings.Join(out, "; ")
}
