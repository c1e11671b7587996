package plan_test

import (
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/stored"
)

// On an electric vehicle the interlock loop is closed by its plugs: with the unit out a meter between its two ends at
// the unit shows the wires and the plugs of it, by hand four wires of some 40 mΩ and three contacts; a loop that is
// open, and one that touches ground, are out of band. The plug that is off opens it.
func TestTheSheetOfAnInterlockLoop(t *testing.T) {
	list := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
	loop := "HV interlock loop"
	j := stored.Job{Title: "t", Kind: stored.Electric, OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
		gather.WireList: list([]string{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Function", "Length mm"},
			[]string{"i1", "U", "1", "S", "1", "0.5", loop, "1000"}, []string{"i2", "S", "2", "P", "1", "0.5", loop, "1000"},
			[]string{"i3", "P", "2", "Q", "1", "0.5", loop, "1000"}, []string{"i4", "Q", "2", "U", "2", "0.5", loop, "1000"},
			[]string{"f1", "FB", "1", "U", "3", "1", "Battery feed, terminal 30", "800"},
			[]string{"g1", "U", "4", "G", "1", "1", "Power ground", "800"}),
		gather.ConnectorList: list([]string{"Connector", "Device"}, []string{"U", "high-voltage unit"},
			[]string{"S", "service plug"},
			[]string{"P", "inverter"}, []string{"Q", "pack"}, []string{"FB", "fuse box"}, []string{"G", "ground point"}),
		gather.DeviceList: list([]string{"Device", "Kind", "System"}, []string{"high-voltage unit", "unit", "engine"},
			[]string{"service plug", "", "high-voltage"}, []string{"inverter", "", "high-voltage"},
			[]string{"pack", "", "high-voltage"},
			[]string{"fuse box", "fuses", "power"}, []string{"ground point", "grounds", "power"}),
		gather.SourceList: list([]string{"Source", "Volts", "Positive at"}, []string{"battery", "12.6", "battery +"}),
		gather.FuseList:   list([]string{"Fuse", "Rating", "Fed from", "Feeds"}, []string{"F1", "10", "battery +", "FB1"}),
		gather.CableList: list([]string{"Cable", "From", "To", "Size"},
			[]string{"strap", "ground point", "battery −", "16"}),
	}}}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	v, err := p.Vehicle(&f)
	if err != nil {
		t.Fatal(err)
	}
	sheet, err := v.Sheet([]string{"off", "run"})
	if err != nil {
		t.Fatal(err)
	}
	ends := 0
	for _, l := range sheet.Lines {
		a, b := strings.ReplaceAll(l.A, "-", ""), strings.ReplaceAll(l.B, "-", "")
		if l.Setup != prove.Dead || !(a == "U1" && b == "U2" || a == "U2" && b == "U1") {
			continue
		}
		ends++
		read := func(value float64, over bool) bool {
			return l.Band.Fits(&prove.MeterReading{Measure: l.Measure, Value: value, Over: over})
		}
		if l.Expect.Over || l.Expect.Value < 0.15 || l.Expect.Value > 0.5 || !read(0.3, false) || read(0, true) {
			t.Errorf("%s: %+v, %+v", l.Section, l.Expect, l.Band)
		}
	}
	if ends == 0 {
		t.Error("nothing is measured between the two ends of the loop")
	}
	off := prove.Measure{Kind: prove.Ohms, A: "U1", B: "U2", Setup: prove.Setup{Pulled: true, Off: "P"}}
	if x, err := v.Expect(&off); err != nil || !x.Over {
		t.Errorf("with the inverter's plug off it shows %+v, %v", x, err)
	}
}
