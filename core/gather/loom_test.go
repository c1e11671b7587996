package gather_test

import (
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/gather"
	"draxel/core/harness"
)

func ref(text string) harness.Ref {
	c, n, _ := strings.Cut(text, "-")
	return harness.Ref{Connector: c, Cavity: n}
}

// pinout reads rows "A-1|circuit|function|far end|colour".
func pinout(t *testing.T, name string, rows ...string) harness.Pinout {
	t.Helper()
	cells := [][]string{{"Connector", "Cavity", "Circuit", "Function", "Goes to", "Colour"}}
	for _, r := range rows {
		p := append(strings.Split(r, "|"), "", "", "", "")
		at := ref(p[0])
		cells = append(cells, []string{at.Connector, at.Cavity, p[1], p[2], p[3], p[4]})
	}
	r, err := gather.Read(cells, gather.Options{Habit: colour.IEC})
	if err != nil {
		t.Fatal(err)
	}
	return r.Pinout(name)
}

// list reads a sheet from lines with cells parted by bars, the heading first.
func list(t *testing.T, kind gather.SheetKind, lines ...string) gather.SheetReading {
	t.Helper()
	var s gather.Sheet
	for _, l := range lines {
		s.Cells = append(s.Cells, strings.Split(l, "|"))
	}
	r, err := gather.ReadSheet(kind, s)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// ends writes a wire's ends: "A1 – splice S1".
func ends(l gather.Laid, id harness.WireID) string {
	for i := range l.Loom.Wires {
		if w := &l.Loom.Wires[i]; w.ID == id {
			s := w.Ends[0].String() + " – " + w.Ends[1].String()
			if w.Implied {
				s += ", implied"
			}
			return s
		}
	}
	return "no such wire"
}

func found(l gather.Laid, code string) int {
	n := 0
	for _, f := range l.Findings {
		if f.Code == code {
			n++
		}
	}
	return n
}

func TestRowsBecomeWires(t *testing.T) {
	l := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{pinout(t, "engine",
		"A-1|11|Injector 1|B-7", "B-7|11|Injector 1", // a stated far end
		"A-2|22|Injector 2", "B-2|22|Injector 2", // one number on two connectors: a wire
		"A-3|33|Sensor ground", "B-3|33|Sensor ground", "C-3|33|Sensor ground", // on three: a splice
		"A-4|44|Battery", "A-5|44|Battery", // twice on one unit: a splice
		"A-6||Knock sensor|taped off", "A-7||Coolant temperature sensor",
	)}})
	for id, want := range map[harness.WireID]string{"A1": "A1 – B7", "A2": "A2 – B2, implied",
		"A3": "A3 – splice S~33, implied", "C3": "C3 – splice S~33, implied",
		"A4": "A4 – splice S~44, implied", "A5": "A5 – splice S~44, implied", "A6": "A6 – taped off", "A7": "A7 – not seen",
		"B7": "no such wire", "B2": "no such wire"} {
		if got := ends(l, id); got != want {
			t.Errorf("%s: %s, want %s", id, got, want)
		}
	}
	for _, s := range l.Loom.Splices {
		if !s.Implied {
			t.Errorf("splice %s that nobody has seen is not implied", s.ID)
		}
	}
	if found(l, "splices-implied") != 1 || found(l, "ends-unseen") != 1 {
		t.Errorf("findings %v", l.Findings)
	}
}

func TestListsAreLaid(t *testing.T) {
	l := gather.Lay(gather.Structure{Habit: colour.IEC,
		Pinouts: []harness.Pinout{pinout(t, "engine", "A-1|7|Injector 1, control||GN", "A-2||Injector 2")},
		Sheets: map[gather.SheetKind]gather.SheetReading{
			gather.WireList: list(t, gather.WireList, "Wire|From|Cavity|To|Cavity|Colour|Function|Length|Twist",
				"W1|A|1|S1||GN|||p", "W2|S1||IJ|1|RD|Injector 1 supply|1,2 m|p", "W3|S1||?||GN||", "W1|A|2|S1||||",
				"W5|X1|1|X1|1||||"),
			gather.SpliceList: list(t, gather.SpliceList, "Splice|Legs|Seen", "S1||no", "S9|A-2|"),
			gather.ConnectorList: list(t, gather.ConnectorList, "Connector|Device|Faces|Joined inside|Not ours",
				"IJ|injector 1|||", "X1||X2||", "X2||||yes", "J|||1-2-3; 4+5|", "Y||Z||"),
			gather.DeviceList: list(t, gather.DeviceList, "Device|Kind|System|Belongs to", "VK|control unit|engine|engine",
				"injector 1||Fuel|engine", "S9|ground point||"),
			gather.BranchList: list(t, gather.BranchList, "Branch|Breaks out of|At|Length", "trunk|||1450",
				"bank 1|trunk|250|620"),
		}})
	for id, want := range map[harness.WireID]string{"W1": "A1 – splice S1", "W2": "splice S1 – IJ1",
		"W3": "splice S1 – not seen", "A2": "A2 – splice S9", "W5": "X1-1 – not seen"} {
		if got := ends(l, id); got != want {
			t.Errorf("%s: %s, want %s", id, got, want)
		}
	}
	byID := map[harness.WireID]harness.Wire{}
	for _, w := range l.Loom.Wires {
		byID[w.ID] = w
	}
	if w := byID["W1"]; w.Function != "Injector 1, control" || w.Circuit != "7" || !w.Signal.Read() {
		t.Errorf("W1 did not learn from the row: %+v", w)
	}
	if w := byID["W2"]; w.Length != 1200 || w.Colour.String() != "RD" || w.Pair != "p" {
		t.Errorf("W2 %+v", w)
	}
	for code, want := range map[string]int{"listed-twice": 1, "splice-short": 1, "mate-unknown": 1, "wire-loops": 1,
		"name-of-two": 1} {
		if found(l, code) != want {
			t.Errorf("%s found %d times, want %d: %v", code, found(l, code), want, l.Findings)
		}
	}
	for _, c := range l.Loom.Connectors {
		switch c.ID {
		case "X2":
			if c.Mate != "X1" || !c.Locked {
				t.Errorf("the other half does not face the first: %+v", c)
			}
		case "J":
			if len(c.Links) != 2 || len(c.Links[0]) != 3 || c.Links[1][1] != "5" {
				t.Errorf("joined inside %v", c.Links)
			}
		}
	}
	if d := l.Loom.Devices; d[0].Kind != harness.Unit || d[1].System != "fuel" || d[1].Owner != harness.Engine {
		t.Errorf("devices %+v", d)
	}
}

func TestAColourThatDiffersIsNamed(t *testing.T) {
	l := gather.Lay(gather.Structure{Habit: colour.IEC, Pinouts: []harness.Pinout{pinout(t, "x", "A-1||Injector 1||RD")},
		Sheets: map[gather.SheetKind]gather.SheetReading{gather.WireList: list(t, gather.WireList,
			"Wire|From|Cavity|To|Cavity|Colour", "W1|A|1|IJ|1|GN")}})
	if found(l, "colour-differs") != 1 {
		t.Errorf("findings %v", l.Findings)
	}
}

func TestASheetIsPutRight(t *testing.T) {
	s := gather.Sheet{Cells: [][]string{{"our harness"}, {"Wire", "From", "Cavity", "To", "Cavity"},
		{"W1", "A", "1", "B", "1"}, {"", "A", "2", "B", "2"}, {"W3", "A", "3", "B", "3"}},
		Edits: []gather.CellEdit{{Line: 3, Field: "to", Text: "C"}, {Line: 6, Field: "wire", Text: "W4"},
			{Line: 6, Field: "from", Text: "D"}, {Line: 1, Field: "wire", Text: "no"}, {Line: 7, Field: "burnt", Text: "no"}},
		Gone: []int{5}}
	r, err := gather.ReadSheet(gather.WireList, s)
	if err != nil {
		t.Fatal(err)
	}
	if len(r.Rows) != 2 || r.Rows[0].Cells["to"] != "C" || r.Rows[0].Cells["toCavity"] != "1" ||
		r.Rows[1].Cells["wire"] != "W4" || r.Next != 7 {
		t.Errorf("read %+v", r)
	}
	if len(r.Rejected) != 1 || r.Rejected[0].Line != 4 {
		t.Errorf("rejected %v", r.Rejected)
	}
	if _, err := gather.ReadSheet("burnt", s); err == nil {
		t.Error("a sheet that is none was read")
	}
	if _, err := gather.ReadSheet(gather.WireList, gather.Sheet{Cells: [][]string{{"a", "b"}, {"c", "d"}}}); err == nil {
		t.Error("a table without a wire column was read")
	}
}

func TestTracesCorrectTheModel(t *testing.T) {
	rows := pinout(t, "engine", "A-1|1|Injector 1", "B-1|1|Injector 1", "A-2||Injector 2", "B-9||something",
		"A-3||Sensor ground", "A-4||Sensor ground", "A-5||Battery|B-5")
	for _, c := range []struct {
		name  string
		trace gather.Trace
		want  map[string]string
	}{
		{"it goes elsewhere", gather.Trace{At: ref("A-1"), Saw: gather.GoesHere, To: ref("B-9")},
			map[string]string{"A1": "A1 – B9", "B1": "B1 – not seen", "B9": "no such wire"}},
		{"it goes where nobody had seen", gather.Trace{Wire: "A2", Saw: gather.GoesHere, To: ref("C-1")},
			map[string]string{"A2": "A2 – C1"}},
		{"it joins others", gather.Trace{At: ref("A-3"), Saw: gather.JoinsAt, Splice: "S7", With: []string{"A4", "A-2"}},
			map[string]string{"A3": "A3 – splice S7", "A4": "A4 – splice S7", "A2": "A2 – splice S7"}},
		{"it ends taped off", gather.Trace{At: ref("A-2"), Saw: gather.EndsOff}, map[string]string{"A2": "A2 – taped off"}},
		{"it does not come out", gather.Trace{Wire: "A5", Saw: gather.Stuck},
			map[string]string{"A5": "A5 – splice S1", "A5 beyond S1": "splice S1 – B5",
				"A5 hidden leg": "splice S1 – not seen, implied"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			c.trace.ID, c.trace.Who = "t1", "Ines"
			l := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{rows}, Traces: []gather.Trace{c.trace}})
			for id, want := range c.want {
				if got := ends(l, harness.WireID(id)); got != want {
					t.Errorf("%s: %s, want %s", id, got, want)
				}
			}
			if len(l.Beliefs) == 0 || l.Beliefs[0].By != "t1" || l.Beliefs[0].Was == l.Beliefs[0].Now {
				t.Errorf("what was believed is lost: %+v", l.Beliefs)
			}
		})
	}
	lost := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{rows},
		Traces: []gather.Trace{{At: ref("Q-1"), Saw: gather.EndsOff}}})
	if found(lost, "trace-lost") != 1 {
		t.Errorf("a trace of no wire is not named: %v", lost.Findings)
	}
	by := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{rows},
		Traces: []gather.Trace{{At: ref("A-3"), Saw: gather.AddedTo, With: []string{"A-4"}, By: "an alarm fitter"}}})
	if s := by.Loom.Splices; s[len(s)-1].Added != "an alarm fitter" {
		t.Errorf("who added the splice is lost: %+v", s)
	}
}

func TestWiresNobodyCanName(t *testing.T) {
	l := gather.Lay(gather.Structure{Habit: colour.IEC,
		Pinouts: []harness.Pinout{pinout(t, "x", "A-1||Injector 1||GN", "A-3||Injector 3||GN")},
		Sheets: map[gather.SheetKind]gather.SheetReading{gather.WireList: list(t, gather.WireList,
			"Wire|From|Cavity|To|Cavity|Colour", "W9|A|2|S1||GN", "W8|B|1|S1||BK")}})
	q := gather.Queue(&l.Loom)
	if len(q) != 2 || q[0].Wire != "W9" || len(q[0].Neighbour) != 2 || len(q[0].Alike) != 2 {
		t.Errorf("queue %+v", q)
	}
}

// FuzzLay lays whatever lists say: it must neither fail nor give two wires one name, and a model can be made of it.
func FuzzLay(f *testing.F) {
	f.Add("W1|A|1|S1\nW2|S1||A|2\n", "S1|A-1, W2\n", "A|x|B|1-2\nB||A\n", "A-1", "B-2", 1)
	f.Add("W1|A|1|A|1\nW1|?||taped\n", "S1|W1, W1\n", "A|||\n", "A-1", "A-1", 6)
	f.Fuzz(func(t *testing.T, wires, splices, connectors, a, b string, saw int) {
		lines := func(head, text string) []string { return append([]string{head}, strings.Split(text, "\n")...) }
		read := func(kind gather.SheetKind, head, text string) gather.SheetReading {
			var s gather.Sheet
			for _, l := range lines(head, text) {
				s.Cells = append(s.Cells, strings.Split(l, "|"))
			}
			r, err := gather.ReadSheet(kind, s)
			if err != nil {
				t.Skip()
			}
			return r
		}
		kinds := []gather.Saw{gather.GoesHere, gather.JoinsAt, gather.EndsOff, gather.AddedTo, gather.Differs, gather.Stuck,
			gather.NamedAs}
		yes := saw%2 == 0
		s := gather.Structure{Pinouts: []harness.Pinout{pinout(t, "x", "A-1|1|Injector 1", "A-2|1|Injector 1",
			"B-1|1|Injector 1", "B-2|2|Battery", "C-1|2|Battery")},
			Sheets: map[gather.SheetKind]gather.SheetReading{
				gather.WireList:      read(gather.WireList, "Wire|From|Cavity|To|Cavity", wires),
				gather.SpliceList:    read(gather.SpliceList, "Splice|Legs", splices),
				gather.ConnectorList: read(gather.ConnectorList, "Connector|Device|Faces|Joined inside", connectors),
			},
			Traces: []gather.Trace{{ID: "1", At: ref(a), Saw: kinds[max(0, saw)%len(kinds)], To: ref(b),
				With: []string{b, "W2"}}, {ID: "2", Wire: "W1", Saw: gather.Stuck}},
			Readings: []gather.Measurement{{At: ref(a), To: ref(b), Joined: &yes}}}
		l := gather.Lay(s)
		seen := map[harness.WireID]bool{}
		for _, w := range l.Loom.Wires {
			if w.ID == "" || seen[w.ID] {
				t.Fatalf("a wire without a name, or two of one name: %q", w.ID)
			}
			seen[w.ID] = true
		}
		if h := l.Loom.Found(); len(h.Wires()) != len(l.Loom.Wires) {
			t.Fatal("wires are lost on the way to the model")
		}
		gather.Queue(&l.Loom)
	})
}
