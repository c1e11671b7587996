package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

// A lead that is live in some position and ends in nothing is a danger, with a step that caps it: bare, or in a plug
// that hangs; one that is taped off, dead, led to something or in a junction is none. Ticked, it is settled.
func TestALiveLeadThatEndsInNothing(t *testing.T) {
	list := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
	job := func(to, cavity, fuse, device string) stored.Job {
		return stored.Job{Title: "t", Kind: stored.Bought, OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
			gather.WireList: list([]string{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Function"},
				[]string{"s1", "FB", fuse, to, cavity, "1", "Spare feed"},
				[]string{"w2", "FB", "2", "L", "1", "1", "Side lamp feed"},
				[]string{"w3", "L", "2", "G", "1", "1", "Ground"}),
			gather.ConnectorList: list([]string{"Connector", "Device", "Linked"}, []string{"FB", "fuse box", ""},
				[]string{"L", "side lamp", ""}, []string{"G", "ground point", ""}, []string{"H", device, ""}),
			gather.DeviceList: list([]string{"Device", "Kind", "System"}, []string{"fuse box", "fuses", "power"},
				[]string{"side lamp", "", "lighting"}, []string{"ground point", "grounds", "power"}, []string{"horn", "", "body"}),
			gather.SourceList: list([]string{"Source", "Volts", "Positive at"}, []string{"battery", "12.6", "battery +"}),
			gather.FuseList: list([]string{"Fuse", "Rating", "Fed from", "Feeds"}, []string{"F1", "10", "battery +", "FB1"},
				[]string{"F2", "10", "battery +", "FB2"}),
			gather.CableList: list([]string{"Cable", "From", "To", "Size"},
				[]string{"strap", "ground point", "battery −", "16"}),
		}}}
	}
	capped := func(p *plan.Plan) int {
		return slices.IndexFunc(p.Work.Steps, func(s work.Step) bool {
			return strings.HasPrefix(s.Text,
				"Cap the end of s1")
		})
	}
	for name, c := range map[string]struct {
		j    stored.Job
		want bool
	}{
		"bare":                        {job("open", "", "1", ""), true},
		"in a plug that hangs":        {job("H", "1", "1", ""), true},
		"taped off":                   {job("taped off", "", "1", ""), false},
		"dead: its fuse is not there": {job("open", "", "3", ""), false},
		"led to a horn":               {job("H", "1", "1", "horn"), false},
	} {
		p := computeJob(t, c.j)
		i := slices.IndexFunc(p.Findings, func(f finding.Finding) bool {
			return f.Code == "live-end" && f.Severity == finding.Danger && f.Subject == "s1"
		})
		if at := capped(&p); (i >= 0) != c.want || (at >= 0) != c.want {
			t.Errorf("%s: found %v, step %v", name, i >= 0, at >= 0)
		} else if c.want {
			x, _ := p.Tick(p.Work.Steps[at].ID)
			x.When = 1
			c.j.Ticks = []work.Tick{x}
			if p = computeJob(t, c.j); has(p.Findings, "live-end") {
				t.Errorf("%s: it is capped, and found all the same", name)
			}
		}
		if !p.Proof.Reached {
			t.Errorf("%s: %s", name, p.Proof.Line())
		}
	}
}
