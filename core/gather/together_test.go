package gather_test

import (
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
)

func pinoutOf(t *testing.T, name, origin string, trust harness.Trust, lines ...string) harness.Pinout {
	t.Helper()
	p := read(t, gather.Options{}, append([]string{"Connector|Pin|Colour|Function|Goes to"}, lines...)...).Pinout(name)
	p.Trust = trust
	for i := range p.Connectors {
		p.Connectors[i].Origin = origin
	}
	return p
}

// A pigtail's pinout becomes part of the harness, and what two tables say otherwise of a cavity is named.
func TestAFurtherPinout(t *testing.T) {
	engine := pinoutOf(t, "engine", "Sorrel", harness.Maker, "A|1|RD|Battery +|", "A|2|BK|Ground|",
		"A|3|GN|Injector 1|")
	pigtail := pinoutOf(t, "pigtail", "Fell", harness.Copied, "P|1|WH|Ignition feed|", "A|3|BU|Injector 2|",
		"A|2|BK|Ground|", "A|9|VT|Purge valve|")
	all, found := gather.Together("from", engine, pigtail)
	var rows []string
	for _, r := range all.Rows {
		rows = append(rows, r.Ref.String()+r.Table+string(r.Trust))
	}
	if got := strings.Join(rows, " "); got != "A1 A2 A3 P1pigtailcopied A9pigtailcopied" {
		t.Errorf("rows %s", got)
	}
	if len(found) != 1 || found[0].Code != "tables-differ" || found[0].Subject != "A3" ||
		!strings.Contains(found[0].Text, "Injector 1") || !strings.Contains(found[0].Text, "Injector 2") {
		t.Errorf("found %+v: want A3 alone", found)
	}
	if len(all.Connectors) != 2 || !all.Connectors[0].Has("9") || all.Connectors[1].Origin != "Fell" {
		t.Errorf("connectors %+v", all.Connectors)
	}
	if len(engine.Rows) != 3 || engine.Connectors[0].Has("9") {
		t.Error("the pinout that was given has changed")
	}
	alone, found := gather.Together("from", harness.Pinout{}, pigtail)
	if alone.Name != "pigtail" || len(found) != 0 || alone.Rows[0].Table != "" {
		t.Errorf("a further pinout alone: %+v, %v", alone, found)
	}
}

// Parts of unlike years are told where they meet: at in-line halves and along wires, and nowhere else.
func TestWhereUnlikeYearsMeet(t *testing.T) {
	engine := pinoutOf(t, "engine", "Sorrel", harness.Maker, "A|1|RD|Battery +|", "XA|1|BK|Ground|A 7",
		"XA|2|GN|Injector 1|")
	pigtail := pinoutOf(t, "pigtail", "Fell", harness.Maker, "XB|1|BK|Ground|", "P|4|GN|Injector 3|A 9")
	all, _ := gather.Together("from", engine, pigtail)
	sheet, err := gather.ReadSheet(gather.ConnectorList, gather.Sheet{Cells: table("Connector|Faces|Comes from",
		"XA|XB|", "XB|XA|", "Q||Moor")})
	if err != nil {
		t.Fatal(err)
	}
	lay := func(sources ...gather.Origin) []finding.Finding {
		var out []finding.Finding
		for _, f := range gather.Lay(gather.Structure{Pinouts: []harness.Pinout{all}, Sources: sources,
			Sheets: map[gather.SheetKind]gather.SheetReading{gather.ConnectorList: sheet}}).Findings {
			if strings.HasPrefix(f.Code, "origin") {
				out = append(out, f)
			}
		}
		return out
	}
	moor := gather.Origin{Name: "Moor"}
	found := lay(gather.Origin{Name: "Sorrel", Year: "1998"}, gather.Origin{Name: "Fell", Year: "2003",
		Variant: "estate"}, moor)
	if len(found) != 1 || found[0].Code != "origins-meet" || !strings.Contains(found[0].Text, "at XA and XB") ||
		!strings.Contains(found[0].Text, "Fell (2003 estate)") || strings.Contains(found[0].Text, "XA1") {
		t.Errorf("found %+v", found)
	}
	if !strings.Contains(found[0].Text, "in ") {
		t.Errorf("the wire from P4 to A9 is not named: %s", found[0].Text)
	}
	for _, same := range [][]gather.Origin{
		{{Name: "Sorrel", Year: "1998"}, {Name: "Fell", Year: "1998"}, moor}, {{Name: "Sorrel", Year: "1998"},
			{Name: "Fell"}, moor},
	} {
		if found := lay(same...); len(found) != 0 {
			t.Errorf("%v: found %v", same, found)
		}
	}
	if found := lay(gather.Origin{Name: "Sorrel"},
		gather.Origin{Name: "Fell"}); len(found) != 1 || found[0].Code != "origin-unknown" ||
		found[0].Subject != "Moor" {
		t.Errorf("found %v: want Moor unknown", found)
	}
}
