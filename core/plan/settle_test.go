package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/work"
)

// What is measured first is settled by a reading that fits what the wire is said to be, and by no other: a dead feed
// holds the joint and is a danger, a ground that is none is wrong.
func TestOnlyAReadingThatFitsSettlesIt(t *testing.T) {
	volts := func(key gather.Key, v float64, loaded bool) gather.Measurement {
		return gather.Measurement{At: ref("D1"), Key: key, Volts: &v, Loaded: loaded}
	}
	ohms := func(v float64) gather.Measurement { return gather.Measurement{At: ref("D1"), Ohms: &v} }
	for name, c := range map[string]struct {
		says     string
		readings []gather.Measurement
		measured bool             // the step that measures first is not there any more
		severity finding.Severity // of what is found; empty: nothing, and it is joined
	}{
		"nobody has measured": {says: "Ignition feed"},
		"live in run and crank": {"Ignition feed", []gather.Measurement{volts("run", 12.2, true),
			volts("crank", 10.8, true)}, true, ""},
		"dead in run": {"Ignition feed", []gather.Measurement{volts("run", 0.1, false)}, false, finding.Danger},
		"it drops out in crank": {"Ignition feed", []gather.Measurement{volts("run", 12.3, true),
			volts("crank", 0.2, true)}, false, finding.Danger},
		"dead, then mended": {"Battery feed", []gather.Measurement{volts("off", 0.1, false),
			volts("off", 12.5, true)}, true, ""},
		"only with the key off":    {"Ignition feed", []gather.Measurement{volts("off", 0, false)}, false, ""},
		"a ground":                 {"Power ground", []gather.Measurement{ohms(0.3)}, true, ""},
		"a ground of 40 Ω":         {"Power ground", []gather.Measurement{ohms(40)}, false, finding.Wrong},
		"a sensor that leads on":   {"Coolant temperature signal", []gather.Measurement{ohms(2400)}, true, ""},
		"a start signal, in crank": {"Start signal", []gather.Measurement{volts("crank", 10.9, true)}, true, ""},
		"a start signal, dead":     {"Start signal", []gather.Measurement{volts("crank", 0.4, true)}, false, finding.Danger},
	} {
		t.Run(name, func(t *testing.T) {
			list := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
			table := func(name, connector string) *stored.Table {
				return &stored.Table{Name: name, Trust: harness.Maker, Cells: [][]string{{"Connector", "Cavity", "Function"},
					{connector, "1", c.says}}}
			}
			for i := range c.readings {
				c.readings[i].When = int64(i + 1)
			}
			j := stored.Job{Title: "t", Kind: stored.Integrated, From: table("chassis", "D"), To: table("donor", "J"),
				OfGather: gather.Record{Readings: c.readings, Sheets: map[gather.SheetKind]*gather.Sheet{
					gather.WireList: list([]string{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Function"},
						[]string{"w1", "A", "1", "J", "1", "1", c.says}),
					gather.ConnectorList: list([]string{"Connector", "Device"}, []string{"A", "unit"}),
					gather.DeviceList:    list([]string{"Device", "Kind", "System"}, []string{"unit", "unit", "engine"})}},
				OfMatch: match.Record{Decisions: []match.Decision{{Side: match.From, At: ref("D1"), Choice: match.Matched,
					To: ref("J1")}}}}
			p := computeJob(t, j)
			i := slices.IndexFunc(p.Findings, func(f finding.Finding) bool { return f.Code == "reading-contradicts" })
			joined := slices.ContainsFunc(p.Work.Steps, func(s work.Step) bool {
				return s.Stage == work.Join && (s.Kind == join.Make || strings.Contains(s.Text, "label it \"D1"))
			})
			first := slices.ContainsFunc(p.Work.Steps, func(s work.Step) bool {
				return strings.HasPrefix(s.Text,
					"Measure first")
			})
			if c.severity != "" {
				if i < 0 || p.Findings[i].Severity != c.severity || joined || len(p.Proof.Left) != 1 {
					t.Errorf("found %d, joined %v, left off %v: %v", i, joined, p.Proof.Left, p.Findings)
				}
				return
			}
			if i >= 0 || !joined || first == c.measured {
				t.Errorf("found %d, joined %v, measured first %v", i, joined, first)
			}
		})
	}
}
