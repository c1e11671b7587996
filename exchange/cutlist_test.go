package exchange_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/exchange"
)

// The cut list says of every wire what it needs and how that comes about, and holds nothing that a spreadsheet would
// run.
func TestCutList(t *testing.T) {
	end := func(c string) harness.End { return harness.End{At: harness.Ref{Connector: c, Cavity: "1"}} }
	w := func(id, function string, a, b string, mm float64) reach.Run {
		return reach.Run{Wire: harness.Wire{ID: harness.WireID(id),
			Conductor: harness.Conductor{Function: function, Colour: colour.Parse("GN-BK", colour.IEC), Size: 0.75}, Length: mm,
			Ends: [2]harness.End{end(a), end(b)}}}
	}
	place := func(c, at string) route.Place {
		return route.Place{Thing: route.Thing{Kind: route.AConnector, ID: c}, Station: at}
	}
	r := reach.Compute(reach.Input{Loom: &harness.Loom{Connectors: []harness.Half{{Connector: harness.Connector{ID: "A",
		Cavities: []string{"1"}}}, {Connector: harness.Connector{ID: "B", Cavities: []string{"1"}}}}},
		Wires: []reach.Run{w("1", "=cmd()", "A", "B", 700), w("2", "", "A", "C", 0)},
		Decisions: reach.Decisions{Rules: reach.Standard(), Places: []route.Place{place("A", "in"), place("B", "out")},
			Map: route.Map{Stations: []route.Station{{ID: "in"}, {ID: "out"}},
				Paths: []route.Path{{ID: "p", From: "in", To: "out", Length: 900}}}}})
	var b bytes.Buffer
	if err := exchange.WriteCutList(&b, r); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&b).ReadAll()
	if err != nil || len(rows) != 3 {
		t.Fatalf("%d rows, %v", len(rows), err)
	}
	col := map[string]int{}
	for i, name := range rows[0] {
		col[name] = i
	}
	first := rows[1]
	for name, want := range map[string]string{"Wire": "1", "Colour": "GN-BK", "mm²": "0.75", "From": "in", "To": "out",
		"Verdict": "extend", "By mm": "480", "Need mm": "1120", "Have mm": "700", "Code": "1"} {
		if first[col[name]] != want {
			t.Errorf("%s: %q, want %q", name, first[col[name]], want)
		}
	}
	if !strings.HasPrefix(first[col["Function"]], "'") || !strings.Contains(first[col["Reckoned as"]], "p 900; ") ||
		!strings.Contains(first[col["New wire"]], "class B, new") || strings.Count(first[col["Joints"]], "mm from") != 2 {
		t.Errorf("%q", first)
	}
	if second := rows[2]; second[col["Verdict"]] != "no place" || second[col["Need mm"]] != "" {
		t.Errorf("%q", second)
	}
}
