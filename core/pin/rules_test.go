package pin_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/terminal"
	"draxel/core/work"
)

// How many permutations of n have k cycles are Stirling's numbers for cycles (R. Graham, D. Knuth, O. Patashnik,
// "Concrete Mathematics", table of Stirling's triangle for cycles; from memory). A cycle of more than one costs an
// extraction more when nothing may be in hand, and a terminal that is at home costs none: from both the cycles of
// each permutation follow.
func TestExtractionsCountCyclesAsStirlingDoes(t *testing.T) {
	for n, row := range map[int][]int{3: {0, 2, 3, 1}, 4: {0, 6, 11, 6, 1}, 5: {0, 24, 50, 35, 10, 1},
		6: {0, 120, 274, 225, 85, 15, 1}} {
		got := make([]int, n+1)
		for _, p := range permutations(n) {
			now, wanted := permuted(t, n+1, p)
			one, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: 1})
			if err != nil {
				t.Fatal(err)
			}
			none, err := pin.Plan(pin.Input{Now: now, Wanted: wanted})
			if err != nil {
				t.Fatal(err)
			}
			atHome := n - one.Extractions
			got[atHome+none.Extractions-one.Extractions]++
		}
		if !slices.Equal(got, row) {
			t.Errorf("of %d terminals: %v, the triangle says %v", n, got, row)
		}
	}
}

func connector(t testing.TB, id, words string) harness.Connector {
	t.Helper()
	l, err := face.Parse(words)
	if err != nil {
		t.Fatal(err)
	}
	return harness.Connector{ID: id, Name: id}.Laid(&l)
}

func ref(connector, cavity string) harness.Ref {
	return harness.Ref{Connector: connector, Cavity: cavity}
}

// Where a terminal can wait, and what its lock and its way out are, follow from the faces.
func TestAdvice(t *testing.T) {
	a := pin.Adviser{Housings: map[string]harness.Connector{
		"A": connector(t, "A", "2x4 sealed, 1.5 mm, row 2 of 2.8 mm, family s15, comb"),
		"B": connector(t, "B", "2x4 sealed, 1.5 mm, row 2 of 2.8 mm, family s15, cover"),
		"C": connector(t, "C", "1x3, 1.5 mm, family s15, pull to seat, wedge"),
		"D": connector(t, "D", "1x3, 1.5 mm, family s15, front release, over-moulded"),
		"E": {ID: "E", Cavities: harness.Numbered(4)},
	}}
	for _, c := range []struct {
		from, wait harness.Ref
		fits       bool
	}{
		{ref("A", "1"), ref("A", "2"), true}, {ref("A", "1"), ref("A", "5"), false}, {ref("A", "5"), ref("B", "6"), true},
		{ref("A", "1"), ref("E", "1"), false}, {ref("E", "1"), ref("E", "2"), true}, {ref("E", "1"), ref("A", "1"), false},
	} {
		if a.Fits(c.from, c.wait) != c.fits {
			t.Errorf("%s waiting in %s: %v", c.from, c.wait, !c.fits)
		}
	}
	if !a.Fixed(ref("D", "1")) || a.Fixed(ref("A", "1")) || !a.Unknown(ref("A", "1"), ref("E", "1")) ||
		a.Unknown(ref("A", "1"), ref("B", "5")) {
		t.Error("what is fixed, and what is not known")
	}
	for _, c := range []struct {
		step pin.Step
		goal harness.Ref
		how  string
		fit  terminal.Verdict
	}{
		{pin.Step{Step: work.Step{Kind: pin.Move}, From: ref("A", "1"), To: ref("A", "2"), Opens: []string{"A"}}, ref("A",
			"2"), "Draw the comb of A out", terminal.Travels},
		{pin.Step{Step: work.Step{Kind: pin.Move}, From: ref("A", "1"), To: ref("B", "5"), Opens: []string{"B"}}, ref("B",
			"5"), "Open the cover at the back of B", terminal.Reterminated},
		{pin.Step{Step: work.Step{Kind: pin.Pull}, From: ref("C", "1"), Opens: []string{"C"}}, ref("A", "1"),
			"Lift the wedge out of the mating face of C", terminal.Reterminated},
		{pin.Step{Step: work.Step{Kind: pin.Pull}, From: ref("C", "1")}, ref("A", "1"), "leaves by the mating face",
			terminal.Reterminated},
		{pin.Step{Step: work.Step{Kind: pin.Move}, From: ref("D", "1"), To: ref("A", "1")}, ref("A", "1"),
			"cut the wire a hand's breadth behind", terminal.Pigtail},
		{pin.Step{Step: work.Step{Kind: pin.Out}, From: ref("E", "1"), Opens: []string{"E"}}, harness.Ref{},
			"about 1 to 1.5 mm", terminal.Unknown},
		{pin.Step{Step: work.Step{Kind: pin.New}, To: ref("A", "1")}, ref("A", "1"), "", terminal.Reterminated},
		{pin.Step{Step: work.Step{Kind: pin.Seat}, To: ref("A", "5")}, ref("A", "5"), "", terminal.Unknown},
	} {
		v := a.Advise(c.step, c.goal, 0.75)
		if !strings.Contains(v.How, c.how) || v.Fit.Verdict != c.fit {
			t.Errorf("%s %s to %s: %q, %q", c.step.Kind, c.step.From, c.step.To, v.How, v.Fit.Verdict)
		}
		if inserts := c.step.To != (harness.Ref{}); inserts != (v.After == "It clicks, and takes a tug.") {
			t.Errorf("%s %s to %s: %q", c.step.Kind, c.step.From, c.step.To, v.After)
		}
	}
	if v := a.Advise(pin.Step{Step: work.Step{Kind: pin.Seal}, To: ref("A", "1")}, harness.Ref{}, 0); v.After == "" ||
		len(v.Fit.Parts) != 1 {
		t.Errorf("a plug: %+v", v)
	}
}

// A housing that could be taken for another is said where it is opened, and how near the other is.
func TestShellsThatCouldBeTakenForAnother(t *testing.T) {
	grey, black, plain := connector(t, "G", "2x4, 1.5 mm, family s15"), connector(t, "K", "2x4, 1.5 mm, family s15"),
		connector(t, "P", "2x4, 1.5 mm, family s15")
	keyed := connector(t, "Y", "2x4, 1.5 mm, family s15, key at the left")
	grey.Layout.Colour, black.Layout.Colour = "GY", "BK"
	a := pin.Adviser{Housings: map[string]harness.Connector{"G": grey, "K": black, "P": plain, "Y": keyed},
		Near: func(x, y string) bool { return x == "P" && y == "K" }}
	warned := func(opens string) string {
		return strings.Join(a.Advise(pin.Step{Step: work.Step{Kind: pin.Seal}, To: ref(opens, "1"), Opens: []string{opens}},
			harness.Ref{}, 0).Warn, " ")
	}
	if w := warned("G"); !strings.Contains(w, "same shell in GY and BK") || !strings.Contains(w, "P looks the same as G") {
		t.Errorf("of G: %q", w)
	}
	if w := warned("P"); !strings.Contains(w, "K lies within reach of P") {
		t.Errorf("of P: %q", w)
	}
	if w := warned("Y"); w != "" {
		t.Errorf("a key of its own keeps it apart: %q", w)
	}
	for id, ways := range map[string]int{"U1": 24, "U2": 24, "U3": 12} {
		a.Housings[id] = harness.Connector{ID: id, Cavities: harness.Numbered(ways)}
	}
	a.Near = func(x, y string) bool { return x[0] == 'U' && y[0] == 'U' }
	if w := warned("U1"); !strings.Contains(w, "U2 lies within reach of U1 and has 24 cavities too") ||
		strings.Contains(w, "U3") {
		t.Errorf("of a plug that nobody has looked at: %q", w)
	}
	crossing := a.Advise(pin.Step{Step: work.Step{Kind: pin.Move}, From: ref("G", "1"), To: ref("K", "2")}, ref("K",
		"2"), 0)
	if len(crossing.Warn) != 1 || !strings.Contains(crossing.Warn[0], "cavity 2 of K, not that of G") {
		t.Errorf("the right cavity of the wrong plug: %q", crossing.Warn)
	}
}

// Sensors that look the same differ in the order of their wires (common practice of the trade, no source).
func TestPatternsOfAdaptation(t *testing.T) {
	names := []string{"1", "2", "3", "4"}
	for _, c := range []struct {
		goes []int
		want pin.Pattern
		text string
	}{
		{[]int{1, 2, 3, 0}, pin.Rotation, "moves on by 1 cavity"},
		{[]int{2, 3, 0, 1}, pin.Rotation, "moves on by 2 cavities"},
		{[]int{3, 1, 2, 0}, pin.OuterSwap, "outer wires"}, {[]int{1, 0, 2, 3}, pin.OneSwap, "1 to 2, 2 to 1"},
		{[]int{3, 2, 1, 0}, pin.Reversed, "turned round"}, {[]int{1, 0, 3, 2}, pin.AnyOrder, "another order"},
	} {
		a, ok := pin.Adapt("X", names, c.goes)
		if !ok || a.Pattern != c.want || !strings.Contains(a.Text, c.text) || !strings.Contains(a.Pigtail, "4 joints") {
			t.Errorf("%v: %+v", c.goes, a)
		}
	}
	for _, goes := range [][]int{{0, 1, 2, 3}, {0, 0, 1, 2}, {-1, 1, 2, 3}, {1, 2, 3, 4}, {1, 0}} {
		if a, ok := pin.Adapt("X", names, goes); ok {
			t.Errorf("%v is no other order of the same wires: %+v", goes, a)
		}
	}
}

func TestWhatToOrder(t *testing.T) {
	var uses []pin.Use
	for i := range 34 {
		uses = append(uses, pin.Use{Part: terminal.Part{Kind: terminal.Terminal, Name: "t"},
			At: ref("A", harness.Numbered(40)[i])}, pin.Use{Part: terminal.Part{Kind: terminal.Pick, Name: "p"},
			At: ref("A", "1")})
	}
	uses = append(uses, pin.Use{Part: terminal.Part{Kind: terminal.Plug, Name: "g"}},
		pin.Use{Part: terminal.Part{Kind: terminal.Lead, Name: "l"}},
		pin.Use{Part: terminal.Part{Kind: terminal.Lock, Name: "k"}})
	orders := pin.Orders(uses, map[string]bool{"t": true})
	want := []pin.Order{
		{Part: terminal.Part{Kind: terminal.Pick, Name: "p"}, Need: 1, Stops: true},
		{Part: terminal.Part{Kind: terminal.Terminal, Name: "t"}, Need: 34, Spare: 4, Have: true, Stops: true},
		{Part: terminal.Part{Kind: terminal.Plug, Name: "g"}, Need: 1, Spare: 2},
		{Part: terminal.Part{Kind: terminal.Lead, Name: "l"}, Need: 1, Spare: 1, Stops: true},
		{Part: terminal.Part{Kind: terminal.Lock, Name: "k"}, Need: 1},
	}
	for i, o := range orders {
		if n := len(o.For); i == 1 && n != 34 {
			t.Errorf("terminals for %d cavities", n)
		}
		o.For = nil
		if i >= len(want) || !slices.Equal(o.For, want[i].For) || o.Part != want[i].Part || o.Need != want[i].Need ||
			o.Spare != want[i].Spare || o.Have != want[i].Have || o.Stops != want[i].Stops {
			t.Errorf("line %d: %+v", i+1, o)
		}
	}
	if len(orders) != len(want) {
		t.Errorf("%d lines", len(orders))
	}
}

// A cavity is spare where nothing is in it and nothing is stuck in it.
func TestSpareCavities(t *testing.T) {
	a := pin.Adviser{Housings: map[string]harness.Connector{"A": connector(t, "A", "1x4, 1.5 mm, family s15")}}
	b := harness.Work(harness.New([]harness.Connector{a.Housings["A"], {ID: "Z", Cavities: []string{"1"}}}))
	b.Seat("w", ref("A", "1"))
	b.Block(ref("A", "2"))
	b.Must(harness.Edit{Do: harness.Plug, At: ref("A", "3")})
	got := a.Spares(b.Harness(), map[harness.Ref]string{ref("A", "4"): "for a later fan"})
	if len(got) != 2 || got[0].At != ref("A", "3") || !got[0].Plugged || got[1].Reason != "for a later fan" ||
		got[1].Seat.Blade != 1.5 {
		t.Errorf("spare: %+v", got)
	}
}

func TestSecondCheckNamesWhatDiffers(t *testing.T) {
	expected := []pin.Expected{{At: ref("A", "1"), Colour: "RD", Function: "battery", Power: true},
		{At: ref("A", "2"), Function: "injector 1"}, {At: ref("A", "3"), Empty: true}}
	codes := func(checks ...pin.Check) string {
		var out []string
		for _, f := range pin.Second(expected, checks, []work.Tick{{Who: "Ines", When: 5,
			At: []harness.Ref{ref("A", "2")}}}) {
			out = append(out, f.Code+" "+string(f.Severity))
		}
		return strings.Join(out, ", ")
	}
	const day = 24 * 3600 * 1000
	for _, c := range []struct {
		checks []pin.Check
		want   string
	}{
		{nil, ""},
		{[]pin.Check{{At: ref("A", "1"), OK: true, Who: "Jo"}}, ""},
		{[]pin.Check{{At: ref("A", "1"), Who: "Jo"}}, "second-check danger"},
		{[]pin.Check{{At: ref("A", "1"), OK: true, Who: "Jo"}, {At: ref("A", "3"), Saw: "a wire", Who: "Jo"}},
			"second-check wrong"},
		{[]pin.Check{{At: ref("A", "1"), OK: true, Who: "Ines", When: 6}}, "second-check-alike check"},
		{[]pin.Check{{At: ref("A", "1"), OK: true, Who: "Ines", When: 6 + day}}, ""},
		{[]pin.Check{{At: ref("A", "2"), OK: true, Who: "Jo"}}, "second-check-open check"},
		{[]pin.Check{{At: ref("Q", "9"), Who: "Jo"}, {At: ref("A", "1"), OK: true, Who: "Jo"}}, ""},
	} {
		if got := codes(c.checks...); got != c.want {
			t.Errorf("%+v: %q, want %q", c.checks, got, c.want)
		}
	}
	f := pin.Second(expected, []pin.Check{{At: ref("A", "3"), Saw: "a wire"}}, nil)
	if !strings.Contains(f[0].Text, "found a wire in A3, where nothing should be") || f[0].Severity != finding.Wrong {
		t.Errorf("%q", f[0].Text)
	}
}
