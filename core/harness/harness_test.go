package harness_test

import (
	"fmt"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/harness"
)

func bench(t *testing.T) harness.Harness {
	t.Helper()
	h := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(4)}})
	for _, c := range []string{"1", "2"} {
		var err error
		h, err = harness.Apply(h, harness.Edit{Do: harness.Add, Terminal: harness.TerminalID("w" + c), Label: "new"},
			harness.Edit{Do: harness.Insert, Terminal: harness.TerminalID("w" + c), At: harness.Ref{Connector: "A", Cavity: c}})
		if err != nil {
			t.Fatal(err)
		}
	}
	return h
}

func at(c string) harness.Ref { return harness.Ref{Connector: "A", Cavity: c} }

func TestApplyRefusesTheImpossible(t *testing.T) {
	for _, c := range []struct {
		name  string
		edits []harness.Edit
		says  string
	}{
		{"pull from the wrong cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("2"), Label: "x"}}, "not in A2"},
		{"pull without a label", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1")}}, "label"},
		{"push in while seated", []harness.Edit{{Do: harness.Insert, Terminal: "w1", At: at("3")}}, "not in hand"},
		{"two in one cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"}, {Do: harness.Insert, Terminal: "w1", At: at("2")}}, "holds w2"},
		{"no such cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"}, {Do: harness.Insert, Terminal: "w1", At: at("9")}}, "no cavity"},
		{"plug a full cavity", []harness.Edit{{Do: harness.Plug, At: at("1")}}, "holds w1"},
		{"push into a plugged one", []harness.Edit{{Do: harness.Plug, At: at("3")}, {Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"}, {Do: harness.Insert, Terminal: "w1", At: at("3")}}, "plugged"},
		{"the same wire twice", []harness.Edit{{Do: harness.Add, Terminal: "w1"}}, "already"},
		{"cap what is seated", []harness.Edit{{Do: harness.Cap, Terminal: "w1"}}, "not in hand"},
		{"an unknown terminal", []harness.Edit{{Do: harness.Park, Terminal: "w7"}}, "no such terminal"},
	} {
		t.Run(c.name, func(t *testing.T) {
			h := bench(t)
			after, err := harness.Apply(h, c.edits...)
			if err == nil || !strings.Contains(err.Error(), c.says) {
				t.Fatalf("got error %v, want one with %q", err, c.says)
			}
			if d := harness.Differences(after, bench(t)); len(d) > 0 {
				t.Errorf("a refused edit changed the harness: %v", d)
			}
		})
	}
}

func TestApplyLeavesTheOldHarness(t *testing.T) {
	h := bench(t)
	after, err := harness.Apply(h, harness.Edit{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "A1"}, harness.Edit{Do: harness.Plug, At: at("1")})
	if err != nil {
		t.Fatal(err)
	}
	if len(harness.Differences(h, bench(t))) > 0 {
		t.Error("Apply changed the harness it was given")
	}
	if d := harness.Differences(after, h); len(d) != 2 {
		t.Errorf("want the terminal and the plug told apart, got %q", d)
	}
}

func TestFaceIsMirrored(t *testing.T) {
	c := harness.Connector{Cavities: harness.Numbered(7), Rows: 2, First: face.TopLeft}
	wire, mating := fmt.Sprint(c.Face(face.WireSide)), fmt.Sprint(c.Face(face.MatingFace))
	if wire != "[[1 2 3 4] [5 6 7]]" || mating != "[[4 3 2 1] [7 6 5]]" {
		t.Errorf("wire side %s, mating face %s", wire, mating)
	}
	c.First = face.TopRight
	if got := fmt.Sprint(c.Face(face.WireSide)); got != "[[4 3 2 1] [7 6 5]]" {
		t.Errorf("counted from the top right, the wire side is %s", got)
	}
}

// Lettered cavities usually skip I, O and Q (common practice).
func TestLettered(t *testing.T) {
	if got := strings.Join(face.Letters.Names(25), ""); got != "ABCDEFGHJKLMNPRSTUVWXYZAAAB" {
		t.Errorf("letters %s", got)
	}
}

func ExampleRef_String() {
	fmt.Println(harness.Ref{Connector: "A", Cavity: "14"}, harness.Ref{Connector: "C1", Cavity: "20"}, harness.Ref{Connector: "E", Cavity: "K"})
	// Output: A14 C1-20 E-K
}
