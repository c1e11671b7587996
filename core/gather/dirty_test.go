package gather_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/gather"
)

// More tables as a person would meet them, cells parted by bars: what each row is read as, cavity, colour, circuit,
// device, or which question it asks.
func TestMoreDirtyTables(t *testing.T) {
	for name, c := range map[string]struct {
		lines, rows string
		asks        string // codes of remarks
	}{
		"heading in two lines": {"|Wire|Wire|\nPin|colour|size|Function\n1|RD|2,5|Battery +\n2|BK|2,5|Ground",
			"X1-1 RD battery; X1-2 BK ground", ""},
		"units in a line below the heading": {"Pin|Colour|Size|Function\n||mm²|\n1|RD|2,5|Battery +\n2|BK|2,5|Ground",
			"X1-1 RD battery; X1-2 BK ground", "no-cavity"},
		"a blank column between": {"Pin||Colour||Function\n1||RD||Battery +\n2||BK||Ground",
			"X1-1 RD battery; X1-2 BK ground", ""},
		"numbered lines before the pins": {"No.|Connector|Pin|Colour|Function\n1|A|7|RD|Battery +\n2|A|9|BK|Ground",
			"A7 RD battery; A9 BK ground", ""},
		"pins with a hash": {"Pin|Colour|Function\n#1|RD|Battery +\n#2|BK|Ground",
			"X1-1 RD battery; X1-2 BK ground", ""},
		"pins with the word": {"Pin|Colour|Function\nPin 1|RD|Battery +\nPin 2|BK|Ground",
			"X1-1 RD battery; X1-2 BK ground", ""},
		"decimals of a spreadsheet": {"Connector|Pin|Colour|Function\nA|1.0|RD|Battery +\nA|2.0|BK|Ground",
			"A1 RD battery; A2 BK ground", ""},
		"leading zeros": {"Connector|Pin|Colour|Function\nA|01|RD|Battery +\nA|02|BK|Ground",
			"A1 RD battery; A2 BK ground", ""},
		"a total at the foot": {"Connector|Pin|Colour|Function\nA|1|RD|Battery +\nA|2|BK|Ground\nTotal|2||wires",
			"A1 RD battery; A2 BK ground", "sum"},
		"a footnote": {"Connector|Pin|Colour|Function\nA|1|RD|Battery +\nA|2|BK|Ground\n* from issue 3 of the sheet|||",
			"A1 RD battery; A2 BK ground", "no-cavity"},
		"an asterisk at the pin": {"Connector|Pin|Colour|Function\nA|1*|RD|Battery +\nA|2|BK|Ground",
			"A1 RD battery; A2 BK ground", ""},
		"a page break": {"Pin|Colour|Function\n1|RD|Battery +\nPage 2 of 3||\nPin|Colour|Function\n2|BK|Ground",
			"X1-1 RD battery; X1-2 BK ground", "bad-cavity"},
		"sections with a colon": {"Pin|Colour|Function\nConnector: B||\n1|RD|Battery +\nConnector: C||\n1|BK|Ground",
			"B1 RD battery; C1 BK ground", ""},
		"upside down":    {"Pin|Colour|Function\n2|BK|Ground\n1|RD|Battery +", "X1-2 BK ground; X1-1 RD battery", ""},
		"function first": {"Function|Colour|Pin\nBattery +|RD|1\nGround|BK|2", "X1-1 RD battery; X1-2 BK ground", ""},
		"no-break spaces": {"Pin|Colour|Function\n\u00a01\u00a0|RD\u00a0|Battery\u00a0+\n2|BK|Ground",
			"X1-1 RD battery; X1-2 BK ground", ""},
		"lower-case letters of a second row": {"Connector|Pin|Colour|Function\nA|A|RD|Battery +\nA|a|BK|Ground",
			"A-A RD battery; A-a BK ground", ""},
		"a pin of many names": {"Connector|Pin|Colour|Function\nA|7 (30)|RD|Battery +\nA|2|BK|Ground",
			"A2 BK ground", "bad-cavity"},
		"one column of all": {"A1 RD Battery +\nA2 BK Ground", "", "fails"},
		"colour with its size": {"Connector|Pin|Wire|Function\nA|1|RD 2.5|Battery +\nA|2|BK 1.5|Ground",
			"A1 RD battery; A2 BK ground", ""},
		"two wires in a cavity": {"Connector|Pin|Colour|Function\nA|1|RD|Battery +\nA|1|RD|Battery + to fuse " +
			"box\nA|2|BK|Ground",
			"A1 RD battery; A2 BK ground", "duplicate-cavity"},
		"dashes for nothing": {"Connector|Pin|Colour|Function\nA|1|RD|Battery +\nA|2|-|-\nA|3|BK|Ground",
			"A1 RD battery; A2 empty; A3 BK ground", ""},
		"ditto marks": {"Connector|Pin|Colour|Function\nA|1|BK|Ground\n\"|2|\"|\"\nA|3|RD|Battery +",
			"A1 BK ground; A2 BK ground; A3 RD battery", ""},
		"a merged function": {"Connector|Pin|Colour|Function\nA|1|BK|Ground\nA|2|BK|\nA|3|RD|Battery +",
			"A1 BK ground; A2 BK not read; A3 RD battery", ""},
		"connector behind the pin": {"Pin|Colour|Function\n1 (A)|RD|Battery +\n2 (A)|BK|Ground", "", "bad-cavity"},
	} {
		var cells [][]string
		for _, line := range strings.Split(c.lines, "\n") {
			cells = append(cells, strings.Split(line, "|"))
		}
		r, err := gather.Read(cells, gather.Options{})
		if err != nil {
			if c.asks != "fails" {
				t.Errorf("%s: %v", name, err)
			}
			continue
		}
		var got []string
		for _, row := range r.Rows {
			what := "empty"
			if !row.Empty {
				what = row.Colour.String() + " " + row.Signal.Device
				if !row.Signal.Read() {
					what = row.Colour.String() + " not read"
				}
			}
			got = append(got, row.Ref.String()+" "+what)
		}
		asks := ""
		for _, m := range append(slices.Clone(r.Rejected), r.Warnings...) {
			if m.Code != "section" && m.Code != "heading-repeated" {
				asks += m.Code + " "
			}
		}
		if all := strings.Join(got,
			"; "); all != c.rows || (c.asks == "") != (asks == "") || !strings.Contains(asks, c.asks) {
			t.Errorf("%s:\n got %s, asks %q\nwant %s, %q", name, all, asks, c.rows, c.asks)
		}
	}
}

// Of tables side by side the left one is read until somebody says which are meant.
func TestTablesSideBySide(t *testing.T) {
	cells := table("Plug B|||Plug C||", "Pin|Colour|Function|Pin|Colour|Function", "1|RD|Battery +|1|GN|Injector 1",
		"2|BK|Ground|2|BU|Injector 2", "3|WH|Ignition||||")
	for which, want := range map[gather.Beside]string{
		gather.LeftTable: "B1@3 B2@4 B3@5", gather.RightTable: "C1@3 C2@4", gather.AllTables: "B1@3 B2@4 B3@5 C1@8 C2@9",
	} {
		r, err := gather.Read(cells, gather.Options{Beside: which})
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, row := range r.Rows {
			got = append(got, fmt.Sprintf("%s@%d", row.Ref, row.Line))
		}
		if n := len(r.Rows) + len(r.Rejected) + len(r.Preface) + 1; n != r.Lines {
			t.Errorf("%q: %d lines accounted for of %d", which, n, r.Lines)
		}
		if strings.Join(got, " ") != want || r.Tables != 2 || !strings.Contains(codes(r.Warnings), "side-by-side") {
			t.Errorf("%q: %v of %d tables, %s; want %s", which, got, r.Tables, codes(r.Warnings), want)
		}
	}
	r, err := gather.Read(cells, gather.Options{Beside: gather.AllTables, Cells: []gather.Correction{{Line: 9,
		Column: gather.Colour, Text: "VT"}}})
	if err != nil || r.Rows[4].Colour.String() != "VT" || r.Rows[1].Colour.String() != "BK" {
		t.Errorf("a cell of the right one put right: %+v, %v", r.Rows, err)
	}
	// From one connector to another is one table, not two.
	r = read(t, gather.Options{}, "Connector|Pin|Colour|Connector|Pin", "A|1|RD|B|2", "A|2|BK|B|1")
	if r.Tables != 1 || len(r.Rows) != 2 {
		t.Errorf("a list of wires is %d tables", r.Tables)
	}
}

// A line is struck out and still shown; a cell that the table has no column for is kept.
func TestALineIsStruckOut(t *testing.T) {
	lines := []string{"Pin|Colour|Function", "1|RD|Battery +", "1|BK|Ground", "2|WH|Ignition"}
	r := read(t, gather.Options{Gone: []int{2, 1, 40}, Cells: []gather.Correction{
		{Line: 4, Column: gather.Circuit, Text: "15"}, {Line: 3, Column: gather.Size, Text: "2,5"}}}, lines...)
	if len(r.Rows) != 2 || r.Rows[0].Colour.String() != "BK" || len(r.Rejected) != 0 || codes(r.Struck) != "2:struck" {
		t.Errorf("%+v, rejected %s, struck %s", r.Rows, codes(r.Rejected), codes(r.Struck))
	}
	if r.Rows[1].Circuit != "15" || r.Rows[0].Size != 2.5 {
		t.Errorf("circuit %q, size %v", r.Rows[1].Circuit, r.Rows[0].Size)
	}
}
