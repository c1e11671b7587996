package gather_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/gather"
	"draxel/core/harness"
)

// table splits lines at | into cells.
func table(lines ...string) [][]string {
	out := make([][]string, len(lines))
	for i, l := range lines {
		if l != "" {
			out[i] = strings.Split(l, "|")
		}
	}
	return out
}

func read(t *testing.T, o gather.Options, lines ...string) gather.Reading {
	t.Helper()
	r, err := gather.Read(table(lines...), o)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func codes(all []gather.Remark) string {
	var out []string
	for _, r := range all {
		out = append(out, fmt.Sprintf("%d:%s", r.Line, r.Code))
	}
	return strings.Join(out, " ")
}

func TestHeadingsAnyhow(t *testing.T) {
	for _, c := range []struct{ heading, want string }{
		{"Connector|Pin|Wire Color|Circuit|Function", "connector cavity colour circuit function"},
		{"Plug|Contact|Colour code|Wire no.|Designation", "connector cavity colour circuit function"},
		{"Conn|Terminal|Color|Ckt|Function", "connector cavity colour circuit function"},
		{"Circuit description|Cavity|Housing|Circuit No.|Insulation colour|mm²|Goes to|Remarks",
			"function cavity connector circuit colour size farEnd note"},
		{"PIN NO|SIGNAL|COL|AWG", "cavity function colour size"},
		{"Connector colour|Way|Bezeichnung|Farbe", "connector cavity function colour"},
		{"Terminal name|Terminal No.|Wire size", "function cavity size"},
	} {
		heads := strings.Split(c.heading, "|")
		blank := make([]string, len(heads))
		for i := range blank {
			blank[i] = "1"
		}
		r := read(t, gather.Options{}, c.heading, strings.Join(blank, "|"))
		if got := strings.Trim(fmt.Sprint(r.Columns), "[]"); got != c.want {
			t.Errorf("%s: read as %s, want %s", c.heading, got, c.want)
		}
	}
}

func TestPrefaceDirtAndReasons(t *testing.T) {
	r := read(t, gather.Options{},
		"Engine harness, issue 4|||||", "printed for the workshop|||||", "", "colours by IEC 60757|||||", "do not copy|||||",
		"Connector|Cavity|Colour|Circuit|Function|Size", // 6
		"A|1|GN-YE|101|Injector 1|0,75",
		"|2|BN|102|Ground|1,5",
		"|2|RD|103|Battery|2,5",                         // 9: cavity twice
		"||WH|104|Injector 2|",                          // 10: no cavity
		"A|see below|WH|105|Note|",                      // 11: not a cavity
		"Connector|Cavity|Colour|Circuit|Function|Size", // 12
		"A|4|QQ-RD|106|Injector 3|thick",                // taken, colour and size unread
		"A|5||||", "A|6|BU||not used|",
	)
	if r.HeaderLine != 6 || len(r.Preface) != 4 {
		t.Errorf("heading on line %d after %d lines of preface, want 6 and 4", r.HeaderLine, len(r.Preface))
	}
	if got := codes(r.Rejected); got != "9:duplicate-cavity 10:no-cavity 11:bad-cavity 12:heading-repeated" {
		t.Errorf("rejected %s", got)
	}
	if got := codes(r.Warnings); got != "13:colour-unread 13:size-unread" {
		t.Errorf("warnings %s", got)
	}
	if n := len(r.Rows) + len(r.Rejected) + len(r.Preface) + 1; n != r.Lines {
		t.Errorf("%d lines accounted for of %d: a row was dropped in silence", n, r.Lines)
	}
	if r.Rows[1].Ref.String() != "A2" || r.Rows[1].Size != 1.5 {
		t.Errorf("second row %+v: want the connector filled down and the decimal comma read", r.Rows[1])
	}
	if !r.Rows[3].Empty || !r.Rows[4].Empty || r.Rows[2].Empty {
		t.Error("a blank and a not-used row are empty cavities, a row with unread cells is not")
	}
}

func TestCavityNames(t *testing.T) {
	for _, c := range []struct{ written, want string }{
		{"A12", "A12"}, {"C1-20", "C1-20"}, {"24/7", "24-7"}, {"blue 42", "blue-42"}, {"E-K", "E-K"}, {"07", "X1-7"},
		{"B 3", "B3"}, {"K", "X1-K"},
	} {
		r := read(t, gather.Options{}, "Cavity|Colour|Function", c.written+"|GN|Injector 1")
		if len(r.Rows) != 1 || r.Rows[0].Ref.String() != c.want {
			t.Errorf("%q read as %+v (%s), want %s", c.written, r.Rows, codes(r.Rejected), c.want)
		}
	}
	r := read(t, gather.Options{}, "Connector|Cavity|Function", "A|A12|Injector 1", "Conn 2 (32-way)|7|Injector 2")
	if r.Rows[0].Ref.String() != "A12" || r.Rows[1].Ref.Cavity != "7" || r.Connectors[1].Ways() != 32 {
		t.Errorf("rows %v %v, connectors %+v", r.Rows[0].Ref, r.Rows[1].Ref, r.Connectors)
	}
}

func TestSectionsNameTheConnector(t *testing.T) {
	r := read(t, gather.Options{}, "Pin|Colour|Function", "Connector A (52-way)", "1|GN|Injector 1",
		"Connector B: 38 way|||", "1|BN|Ground")
	if r.Rows[0].Ref.String() != "A1" || r.Rows[1].Ref.String() != "B1" || r.Connectors[0].Ways() != 52 ||
		r.Connectors[1].Ways() != 38 {
		t.Errorf("rows %v, %v; connectors %d and %d ways", r.Rows[0].Ref, r.Rows[1].Ref, r.Connectors[0].Ways(),
			r.Connectors[1].Ways())
	}
}

func TestNoHeadingAtAll(t *testing.T) {
	r := read(t, gather.Options{}, "A|1|GN-YE|4471|Injector 1 control", "A|2|BN-WH|4472|Injector 2 control",
		"A|3|BU|4473|Coolant temperature signal",
		"A|4|BK|4474|Sensor ground", "A|5|RD|4475|Battery", "A|6|WH|4476|Crank sensor")
	if r.HeaderLine != 0 || len(r.Rows) != 6 || r.Rows[2].Circuit != "4473" || r.Rows[2].Function == "" ||
		r.Rows[2].Colour.String() != "BU" {
		t.Errorf("columns %v, rows %+v", r.Columns, r.Rows)
	}
}

func TestNotUsedInItsManyWords(t *testing.T) {
	for _, words := range []string{"not used", "Not Connected", "N/C", "n.c.", "Spare", "—", "-", "unused",
		"nicht belegt", "vacant (plugged)", "Blank", "x"} {
		if r := read(t, gather.Options{}, "Connector|Cavity|Function", "A|1|"+words); !r.Rows[0].Empty {
			t.Errorf("%q is taken for a circuit", words)
		}
	}
	for _, words := range []string{"Open throttle switch", "Free-wheel clutch", "Spare battery feed", "Blank-off valve"} {
		if r := read(t, gather.Options{}, "Connector|Cavity|Function", "A|1|"+words); r.Rows[0].Empty {
			t.Errorf("%q is taken for an empty cavity", words)
		}
	}
}

func TestLetteredHousing(t *testing.T) {
	r := read(t, gather.Options{}, "Connector|Cavity|Function", "E|A|Injector 1", "E|H|Ground", "E|J|Battery")
	if got := strings.Join(r.Connectors[0].Cavities, ""); got != "ABCDEFGHJ" {
		t.Errorf("cavities %s: I is skipped", got)
	}
	r = read(t, gather.Options{}, "Connector|Cavity|Function", "E|A|Injector 1", "E|I|Ground")
	if got := strings.Join(r.Connectors[0].Cavities, ""); got != "AI" {
		t.Errorf("cavities %s: a housing that has an I is kept as found", got)
	}
}

func TestCorrections(t *testing.T) {
	lines := []string{"Connector|Cavity|Shade|Function", "A|1|BN|Injector 1", "A|2|GN|Ground"}
	r := read(t, gather.Options{Columns: map[int]gather.Column{2: gather.Colour}, Habit: colour.BS,
		Layouts: map[string]gather.Layout{"A": {Ways: 18, Rows: 3, First: face.TopRight}}}, lines...)
	c := r.Connectors[0]
	if got := r.Rows[0].Colour.String(); got != "BK-BN" || c.Ways() != 18 || c.Rows != 3 || c.Assumed ||
		c.First != face.TopRight {
		t.Errorf("colour %s, connector %+v", got, c)
	}
	if r = read(t, gather.Options{}, lines...); r.Habit.Sure || len(r.Habit.Clashes) == 0 {
		t.Errorf("BN and GN mean something in two habits, yet %+v", r.Habit)
	}
}

func TestAMisprintIsPutRight(t *testing.T) {
	lines := []string{"Connector|Cavity|Function", "A|1|Injector 3", "A|1|Injector 3"}
	r := read(t, gather.Options{Cells: []gather.Correction{{Line: 3, Column: gather.Cavity, Text: "2"},
		{Line: 3, Column: gather.Function, Text: "Injector 4"},
		{Line: gather.MaxLines + 1, Column: gather.Cavity, Text: "x"}}}, lines...)
	if len(r.Rows) != 2 || r.Rows[1].Ref.String() != "A2" || r.Rows[1].Signal.Cylinder != 4 || len(r.Rejected) != 0 {
		t.Errorf("rows %+v, rejected %s", r.Rows, codes(r.Rejected))
	}
	if r = read(t, gather.Options{}, lines...); len(r.Rows) != 1 {
		t.Error("the correction changed the table itself")
	}
}

func TestNothingToRead(t *testing.T) {
	for _, lines := range [][]string{{}, {"", ""}, {"just some words", "and some more words here"}} {
		if r, err := gather.Read(table(lines...), gather.Options{}); err == nil {
			t.Errorf("%q gave %+v", lines, r.Rows)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add("Connector|Cavity|Function\nA|1|Injector 1\n|2|\nConnector B\n1|x|y")
	f.Fuzz(func(t *testing.T, text string) {
		cells := table(strings.Split(text, "\n")...)
		r, err := gather.Read(cells, gather.Options{})
		if err != nil {
			return
		}
		lines := map[int]bool{} // a line with several cavities makes several rows
		if r.HeaderLine > 0 {
			lines[r.HeaderLine] = true
		}
		for _, row := range r.Rows {
			lines[row.Line] = true
		}
		for _, m := range append(slices.Clone(r.Rejected), r.Preface...) {
			lines[m.Line] = true
		}
		if len(lines) != r.Lines {
			t.Errorf("%d of %d lines accounted for", len(lines), r.Lines)
		}
		for _, row := range r.Rows {
			i := slices.IndexFunc(r.Connectors, func(c harness.Connector) bool { return c.ID == row.Ref.Connector })
			if i < 0 || !r.Connectors[i].Has(row.Ref.Cavity) {
				t.Errorf("row %v is in no connector", row.Ref)
			}
		}
	})
}

// Tables as a person would meet them: each is read as it was meant, or asks.
func TestDirtyTables(t *testing.T) {
	for name, c := range map[string]struct {
		lines string   // cells parted by bars
		rows  []string // read, with their connector
		asks  string   // code of a remark, where there is something to ask
	}{
		"named above the heading": {"Connector C1, 24-way\nPin|Colour|Function\n1|RD|Battery\n2|BK|Ground",
			[]string{"C1-1", "C1-2"}, ""},
		"stated above the heading": {"Plug X9 (4-way)\nPin|Colour|Function\n1|RD|Battery\n5|BK|Ground",
			[]string{"X9-1", "X9-5"}, "beyond-ways"},
		"ways and colour in a cell": {"Connector|Pin|Colour|Function\nA (26-way, grey)|1|RD|Battery\n|2|BK|Ground",
			[]string{"A1", "A2"}, ""},
		"beyond its ways": {"Connector|Pin|Colour|Function\nA (2-way)|1|RD|Battery\n|3|BK|Ground",
			[]string{"A1", "A3"}, "beyond-ways"},
		"two by a sign": {"Connector|Pin|Colour|Function\nA|1|RD|Battery\nA|4 & 5|BK|Ground",
			[]string{"A1", "A4", "A5"}, "several-cavities"},
		"two by a word": {"Connector|Pin|Colour|Function\nA|1|RD|Battery\nA|4 and 5|BK|Ground",
			[]string{"A1", "A4", "A5"}, "several-cavities"},
		"a range": {"Connector|Pin|Colour|Function\nA|1|RD|Battery\nA|6-8|BK|Ground",
			[]string{"A1", "A6", "A7", "A8"}, "several-cavities"},
		"two ranges": {"Connector|Pin|Colour|Function\nA|9|RD|Battery\nA|1-3; 4-6|BK|Ground",
			[]string{"A9", "A1", "A2", "A3", "A4", "A5", "A6"}, "several-cavities"},
		"a range that overlaps": {"Connector|Pin|Colour|Function\nA|7|RD|Battery\nA|6-8|BK|Ground",
			[]string{"A7", "A6", "A8"}, "duplicate-cavity"},
		"a slash": {"Connector|Pin|Colour|Function\nA|1|RD|Battery\nA|9/10|BK|Ground", []string{"A1"},
			"two-cavities"},
		"one slash of many": {"Pin|Colour|Function\n1|RD|Battery\n2|GN|Injector 1\n9/10|BK|Ground",
			[]string{"X1-1", "X1-2"}, "two-cavities"},
		"all with a slash": {"Pin|Colour|Function\n24/1|RD|Battery\n24/2|BK|Ground\n16/3|GN|Injector 1",
			[]string{"24-1", "24-2", "16-3"}, ""},
		"slashes that name no ways": {"Pin|Colour|Function\n4/12|RD|Battery\n4/13|BK|Ground", []string{}, "two-cavities"},
		"side by side": {"Pin|Colour|Function|Pin|Colour|Function\n1|RD|Battery|21|GN|Injector " +
			"1\n2|BK|Ground|22|BU|Injector 2", []string{"X1-1", "X1-2"}, "side-by-side"},
		"a size of 0": {"Pin|Colour|Function|mm²\n1|RD|Battery|0\n2|BK|Ground|2,5", []string{"X1-1", "X1-2"},
			""},
		"a range without end": {"Connector|Pin|Colour|Function\nA|1|RD|Battery\nA|2-90|BK|Ground", []string{"A1"},
			"bad-cavity"},
		"letters": {"Connector|Pin|Colour|Function\nA|B2 & B3|RD|Battery", []string{"A-B2", "A-B3"},
			"several-cavities"},
	} {
		var cells [][]string
		for _, line := range strings.Split(c.lines, "\n") {
			cells = append(cells, strings.Split(line, "|"))
		}
		r, err := gather.Read(cells, gather.Options{})
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		got, asks := []string{}, ""
		for _, row := range r.Rows {
			got = append(got, row.Ref.String())
			if row.Size > 3 {
				t.Errorf("%s: %s has %s", name, row.Ref, row.Size)
			}
		}
		for _, m := range append(slices.Clone(r.Rejected), r.Warnings...) {
			if m.Code != "section" {
				asks += m.Code + " "
			}
		}
		if !slices.Equal(got, c.rows) || (c.asks == "") != (asks == "") || !strings.Contains(asks, c.asks) {
			t.Errorf("%s: %v, asks %q; want %v, %q", name, got, asks, c.rows, c.asks)
		}
	}
}

// A row can be added below the table, and one that was not taken is taken when its cavity is put right.
func TestARowIsAddedAndSplit(t *testing.T) {
	cells := [][]string{{"Connector", "Pin", "Colour", "Function"}, {"A", "1", "RD", "Battery"},
		{"A", "9/10", "BK", "Ground"}}
	first, err := gather.Read(cells, gather.Options{})
	if err != nil || len(first.Rows) != 1 || first.Next != 4 {
		t.Fatalf("%d rows, next %d, %v", len(first.Rows), first.Next, err)
	}
	r, err := gather.Read(cells, gather.Options{Cells: []gather.Correction{{3, gather.Cavity, "9 & 10"},
		{4, gather.Connector, "A"},
		{4, gather.Cavity, "11"}, {4, gather.Function, "Purge valve"}, {gather.MaxLines + 1, gather.Cavity, "12"}}})
	got := ""
	for _, row := range r.Rows {
		got += row.Ref.String() + " "
	}
	if err != nil || got != "A1 A9 A10 A11 " || r.Next != 5 || r.Rows[3].Signal.Device != "purge" || len(cells) != 3 {
		t.Errorf("%s, next %d, %v", got, r.Next, err)
	}
}
