package gather_test

import (
	"fmt"
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
)

// Headings as people write them, in any order.
func TestHeadingsOfLists(t *testing.T) {
	for _, c := range []struct {
		kind    gather.SheetKind
		heading string
		columns string
	}{
		{gather.WireList, "Wire|From|Cavity|To|Cavity|Colour", "[wire from fromCavity to toCavity colour]"},
		{gather.WireList, "wire no.|Connector|Pin|Goes to|Far cavity|mm²|Length",
			"[wire from fromCavity to toCavity size length]"},
		{gather.WireList, "ID|end 1|cavity 1|end 2|cavity 2|Twisted with|Screen|Something else",
			"[wire from fromCavity to toCavity pair shield ]"},
		{gather.SpliceList, "Joint|Where|Wires|Opened", "[splice branch legs seen]"},
		{gather.ConnectorList, "Plug|Component|Mates with|Bridged|Body half", "[connector device mate joined locked]"},
		{gather.DeviceList, "Module|Type|Group|Part of|Added by", "[device kind system owner added]"},
		{gather.BranchList, "Name|Parent|Position|Long|Fixings", "[branch parent at length clips]"},
	} {
		r := list(t, c.kind, c.heading, strings.Repeat("x|", strings.Count(c.heading, "|"))+"x")
		if got := fmt.Sprint(r.Columns); got != c.columns {
			t.Errorf("%s: %s, want %s", c.heading, got, c.columns)
		}
		if len(r.Rows) != 1 || r.Next != 3 {
			t.Errorf("%s: %d rows, next line %d", c.heading, len(r.Rows), r.Next)
		}
	}
	said := gather.Sheet{Cells: [][]string{{"Wire", "From", "odd"}, {"W1", "A", "B"}}, Map: map[string]string{"2": "to"}}
	if r, err := gather.ReadSheet(gather.WireList, said); err != nil || r.Rows[0].Cells["to"] != "B" {
		t.Errorf("a column that a person named: %v, %v", r.Rows, err)
	}
	for _, k := range gather.SheetKinds() {
		if len(k.Fields()) < 5 || k.Fields()[0].Title == "" {
			t.Errorf("fields of %s: %v", k, k.Fields())
		}
	}
}

// Where a wire ends, as people write it.
func TestEndsAsTheyAreWritten(t *testing.T) {
	for text, want := range map[string]string{
		"B|7": "B7", "B|07": "B7", "B|7.0": "B7", "B7|": "B7", "B-7|": "B7", "C1 20|": "C1-20", "S4|": "splice S4",
		"splice 9|": "splice 9", "S1|": "splice S1",
		"taped|": "taped off", "cut off|": "taped off", "dead end|": "taped off", "?|": "not seen", "|": "not seen",
		"unknown|": "not seen", "the glove box|": "not seen", "E|K": "E-K",
	} {
		l := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{pinout(t, "x", "B-1||Injector 1", "C1-1||Injector 2")},
			Sheets: map[gather.SheetKind]gather.SheetReading{gather.WireList: list(t, gather.WireList,
				"Wire|From|Cavity|To|Cavity", "W1|A|1|"+text),
				gather.SpliceList: list(t, gather.SpliceList, "Splice|Branch", "S1|trunk")}})
		if got := strings.TrimPrefix(ends(l, "W1"), "A1 – "); got != want {
			t.Errorf("%q: %s, want %s", text, got, want)
		}
	}
}

func TestLengthsAsTheyAreWritten(t *testing.T) {
	for text, want := range map[string]float64{"620": 620, "62 cm": 620, "1,2 m": 1200, "1.2m": 1200, "10 in": 254, `10"`: 254, "2 ft": 609.6, "long": 0, "": 0, "9999999": 0, "-5": 0} {
		l := gather.Lay(gather.Structure{Sheets: map[gather.SheetKind]gather.SheetReading{gather.BranchList: list(t,
			gather.BranchList, "Branch|Length|At", "b|"+text+"|0")}})
		if got := l.Loom.Branches[0].Length; got != want {
			t.Errorf("%q: %v mm, want %v", text, got, want)
		}
	}
}

func TestDevicesAsTheyAreWritten(t *testing.T) {
	for text, want := range map[string]harness.DeviceKind{"control unit": harness.Unit, "Body module": harness.Unit,
		"instrument panel": harness.Unit, "Fuse box": harness.Fuses, "relay box": harness.Fuses,
		"earth point": harness.Grounds, "Ground": harness.Grounds, "noise suppressor": harness.Suppressor, "": harness.Part,
		"sensor": harness.Part} {
		l := gather.Lay(gather.Structure{Sheets: map[gather.SheetKind]gather.SheetReading{gather.DeviceList: list(t,
			gather.DeviceList, "Device|Kind|System", "d|"+text+"|Fuel", "d||")}})
		if d := l.Loom.Devices; len(d) != 1 || d[0].Kind != want || d[0].System != "fuel" {
			t.Errorf("%q: %+v", text, d)
		}
		if found(l, "listed-twice") != 1 {
			t.Error("a device that is listed twice is not named")
		}
	}
}

// Each change of throttle, gearbox and alternator has a list, and each item says what to do.
func TestEveryChangeHasItsList(t *testing.T) {
	choices := gather.Choices()
	for _, c := range []struct {
		name string
		set  func(*gather.Identity, gather.Change)
	}{
		{"throttle", func(id *gather.Identity, c gather.Change) { id.Throttle = c }},
		{"gearbox", func(id *gather.Identity, c gather.Change) { id.Gearbox = c }},
		{"alternator", func(id *gather.Identity, c gather.Change) { id.Alternator = c }},
	} {
		for _, from := range choices[c.name] {
			for _, to := range choices[c.name] {
				var id gather.Identity
				c.set(&id, gather.Change{Donor: from, Will: to})
				items := id.OpenItems()
				if (len(items) == 0) != (from == to) {
					t.Errorf("%s from %s to %s: %d items", c.name, from, to, len(items))
				}
				seen := map[string]bool{}
				for _, i := range items {
					if seen[i.ID] || i.Text == "" || i.Why == "" || i.Do != "add" && i.Do != "remove" && i.Do != "code" {
						t.Errorf("item %+v", i)
					}
					seen[i.ID] = true
				}
			}
		}
	}
}

func TestSeenColoursAndNames(t *testing.T) {
	rows := pinout(t, "x", "A-1||||GN")
	l := gather.Lay(gather.Structure{Habit: "iec", Pinouts: []harness.Pinout{rows}, Traces: []gather.Trace{
		{ID: "1", Wire: "A1", Saw: gather.Differs, Text: "RD", When: 1},
		{ID: "2", At: ref("A-1"), Saw: gather.NamedAs, Text: "Fuel pump feed", When: 2},
		{ID: "3", At: ref("A-1"), Saw: "burnt", When: 3}}})
	w := l.Loom.Wires[0]
	if w.Colour.String() != "RD" || w.Function != "Fuel pump feed" || !w.Signal.Read() {
		t.Errorf("wire %+v", w)
	}
	if len(l.Beliefs) != 2 || l.Beliefs[0].Was != "colour GN" || found(l, "trace-lost") != 1 {
		t.Errorf("beliefs %+v", l.Beliefs)
	}
	if len(gather.Queue(&l.Loom)) != 0 {
		t.Error("a wire that has been named is still in the queue")
	}
}

func TestReadingsAsTheyAreSaid(t *testing.T) {
	yes, no, v, o := true, false, 12.4, 0.2
	for want, m := range map[string]gather.Measurement{
		"K13 in run: 12.4 V loaded":   {At: ref("K-13"), Key: gather.KeyRun, Volts: &v, Loaded: true},
		"K18 to ground: 0.2 Ω":        {At: ref("K-18"), Ohms: &o},
		"A1 to B2: continuity":        {At: ref("A-1"), To: ref("B-2"), Joined: &yes},
		"A1 to ground: no continuity": {At: ref("A-1"), Joined: &no},
	} {
		if got := m.String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
