package harness_test

import (
	"fmt"
	"math/rand/v2"
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
		{"pull from the wrong cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("2"), Label: "x"}},
			"not in A2"},
		{"pull without a label", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1")}}, "label"},
		{"push in while seated", []harness.Edit{{Do: harness.Insert, Terminal: "w1", At: at("3")}}, "not in hand"},
		{"two in one cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"},
			{Do: harness.Insert, Terminal: "w1", At: at("2")}}, "holds w2"},
		{"no such cavity", []harness.Edit{{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"},
			{Do: harness.Insert, Terminal: "w1", At: at("9")}}, "no cavity"},
		{"plug a full cavity", []harness.Edit{{Do: harness.Plug, At: at("1")}}, "holds w1"},
		{"push into a plugged one", []harness.Edit{{Do: harness.Plug, At: at("3")},
			{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"}, {Do: harness.Insert, Terminal: "w1", At: at("3")}},
			"plugged"},
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
	after, err := harness.Apply(h, harness.Edit{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "A1"},
		harness.Edit{Do: harness.Plug, At: at("1")})
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

// Without a layout a connector's cavities lie in even rows; a layout brings its own, and no cavity of the table is
// lost.
func TestShapes(t *testing.T) {
	c := harness.Connector{ID: "A", Cavities: harness.Numbered(7), Rows: 2, First: face.TopRight, Assumed: true}
	d := c.Shape().Draw(face.WireSide)
	if fmt.Sprint(d.Rows) != "[4 3]" || d.Cells[0].Name != "4" || d.Cells[6].Name != "5" {
		t.Errorf("drawn as %v %+v", d.Rows, d.Cells)
	}
	l, err := face.Parse("1x6 sealed, 1.5 mm, family s15")
	if err != nil {
		t.Fatal(err)
	}
	laid := c.Laid(&l)
	if laid.Assumed || laid.Ways() != 7 || !laid.Has("7") || laid.Seat("3").Blade != 1.5 || laid.Seat("7").Known() ||
		c.Seat("3").Known() {
		t.Errorf("laid: %+v", laid)
	}
}

// What is done to an end outside its cavity: joined, taken up again, taken away, cut off.
func TestEnds(t *testing.T) {
	h := bench(t)
	remove := harness.Edit{Do: harness.Remove, Terminal: "w1", At: at("1"), Label: "x"}
	for _, c := range []struct {
		name  string
		edits []harness.Edit
		fails string
	}{
		{"joined and taken up again", []harness.Edit{remove,
			{Do: harness.Tie, Terminal: "w1", At: at("2"), Label: "with A2"}, {Do: harness.Resume, Terminal: "w1", Label: "x"},
			{Do: harness.Insert, Terminal: "w1", At: at("1")}}, ""},
		{"joined to nothing", []harness.Edit{remove, {Do: harness.Tie, Terminal: "w1", At: at("99"), Label: "x"}},
			"no cavity A99"},
		{"joined in its cavity", []harness.Edit{{Do: harness.Tie, Terminal: "w1", At: at("2")}}, "not in hand"},
		{"taken up in its cavity", []harness.Edit{{Do: harness.Resume, Terminal: "w1", Label: "x"}}, "not sealed off"},
		{"taken up without a label", []harness.Edit{remove, {Do: harness.Cap, Terminal: "w1", Label: "goes"},
			{Do: harness.Resume, Terminal: "w1"}}, "needs a label"},
		{"taken away in its cavity", []harness.Edit{{Do: harness.Drop, Terminal: "w1"}}, "not in hand"},
		{"unplugged without a plug", []harness.Edit{{Do: harness.Unplug, At: at("1")}}, "no plug"},
		{"plugged and unplugged", []harness.Edit{remove, {Do: harness.Plug, At: at("1")}, {Do: harness.Unplug, At: at("1")},
			{Do: harness.Insert, Terminal: "w1", At: at("1")}}, ""},
		{"cut off another's", []harness.Edit{{Do: harness.Sever, Terminal: "w2", At: at("1"), Label: "x"}}, "not in A1"},
		{"into a cavity with a stump", []harness.Edit{{Do: harness.Sever, Terminal: "w1", At: at("1"), Label: "x"},
			{Do: harness.Insert, Terminal: "w1", At: at("1")}}, "cut off"},
	} {
		after, err := harness.Apply(h, c.edits...)
		if (err == nil) != (c.fails == "") || err != nil && !strings.Contains(err.Error(), c.fails) {
			t.Errorf("%s: %v, want %q", c.name, err, c.fails)
		}
		if d := harness.Differences(after, h); len(d) > 0 {
			t.Errorf("%s: it is another harness: %v", c.name, d)
		}
	}
	gone, err := harness.Apply(h, remove, harness.Edit{Do: harness.Drop, Terminal: "w1"})
	if err != nil || gone.InHand() != 0 || len(harness.Differences(gone, h)) != 1 {
		t.Errorf("taken away: %v, %v", err, harness.Differences(gone, h))
	}
	cut, err := harness.Apply(h, harness.Edit{Do: harness.Sever, Terminal: "w1", At: at("1"), Label: "x"})
	if err != nil || !cut.Stump(at("1")) || cut.InHand() != 1 || len(harness.Differences(cut, h)) != 2 {
		t.Errorf("cut off: %v, %v", err, harness.Differences(cut, h))
	}
}

func ExampleRef_String() {
	fmt.Println(harness.Ref{Connector: "A", Cavity: "14"}, harness.Ref{Connector: "C1", Cavity: "20"},
		harness.Ref{Connector: "E", Cavity: "K"})
	// Output: A14 C1-20 E-K
}

// What would become of edits is what becomes of them, whatever they are: how many terminals are in hand, or why it
// cannot be done; and nothing is changed by the look.
func TestWhatEditsWould(t *testing.T) {
	draw := rand.New(rand.NewPCG(7, 7))
	does := []harness.Do{harness.Remove, harness.Insert, harness.Add, harness.Cap, harness.Park, harness.Plug,
		harness.Unplug, harness.Resume, harness.Sever}
	done, refused := 0, 0
	for range 400 {
		h := bench(t)
		for range 12 {
			var edits []harness.Edit
			for range 1 + draw.IntN(3) {
				edits = append(edits, harness.Edit{Do: does[draw.IntN(len(does))], Label: []string{"", "x"}[draw.IntN(2)],
					Terminal: harness.TerminalID(fmt.Sprint("w", 1+draw.IntN(4))), At: at(fmt.Sprint(1 + draw.IntN(4)))})
			}
			b := harness.Work(h)
			inHand, err := b.Would(edits...)
			after, want := harness.Apply(h, edits...)
			if fmt.Sprint(err) != fmt.Sprint(want) || inHand != after.InHand() {
				t.Fatalf("%v: %d, %v; it becomes %d, %v", edits, inHand, err, after.InHand(), want)
			}
			if d := harness.Differences(b.Look(), h); len(d) > 0 {
				t.Fatalf("%v: the look has changed %v", edits, d)
			}
			if want == nil {
				h = after
				done++
			} else {
				refused++
			}
		}
	}
	if done < 200 || refused < 200 {
		t.Errorf("%d were done, %d refused", done, refused)
	}
}
