package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// While nobody is named who programs the unit, or nothing is said of the immobiliser, the gate before the first cut is
// not complete, and it is found; a job that matches no unit asks neither.
func TestTheUnitIsSettledBeforeTheFirstCut(t *testing.T) {
	settled := &gather.Identity{Immobiliser: "none fitted", Programmer: gather.Person{Name: "Jonas", Confirmed: true}}
	asked := *settled
	asked.Programmer.Confirmed = false
	for name, c := range map[string]struct {
		identity *gather.Identity
		found    []string
		holds    int
	}{
		"nothing is said": {nil, []string{"no-programmer", "no-immobiliser-plan"}, 2},
		"not confirmed":   {&asked, []string{"programming-open"}, 1},
		"all is said":     {settled, nil, 0},
	} {
		p := computeJob(t, stored.Job{Title: "feeds", Kind: stored.Integrated, OfGather: gather.Record{Identity: c.identity},
			From:    table("ours", []string{"A", "1", "Ignition feed"}, []string{"A", "2", "Power ground"}),
			To:      table("theirs", []string{"P", "1", "Ignition feed"}, []string{"P", "2", "Power ground"}),
			OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "P1"), matched("A2", "P2")}}})
		var found []string
		for _, f := range p.Findings {
			if slices.Contains([]string{"no-programmer", "no-immobiliser-plan", "programming-open"}, f.Code) {
				found = append(found, f.Code)
			}
		}
		slices.Sort(found)
		slices.Sort(c.found)
		gate := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { return s.Kind == thin.Gate })
		if gate < 0 || !slices.Equal(found, c.found) {
			t.Fatalf("%s: gate at %d, found %v", name, gate, found)
		}
		holds := 0
		for _, m := range p.Work.Steps[gate].Missing {
			if strings.Contains(m, "program") || strings.Contains(m, "immobiliser") {
				holds++
			}
		}
		if holds != c.holds {
			t.Errorf("%s: the gate lacks %v", name, p.Work.Steps[gate].Missing)
		}
	}
}

// What did not start again with a module unplugged, or was never to be unplugged, is told by name.
func TestTheLogOfWhatWasUnplugged(t *testing.T) {
	list := func(lines ...string) *gather.Sheet {
		s := &gather.Sheet{}
		for _, l := range lines {
			s.Cells = append(s.Cells, strings.Split(l, "|"))
		}
		return s
	}
	j := stored.Job{Title: "thinned", Kind: stored.ThinningOnly,
		OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
			gather.DeviceList: list("device|kind|system", "gateway|unit|network", "belt module|unit|restraint",
				"clock||body"),
			gather.ConnectorList: list("connector|device", "G|gateway", "B|belt module", "C|clock"),
			gather.WireList:      list("wire|from|cavity|to|cavity", "W1|G|1|C|1", "W2|B|1|C|2"),
		}}, OfThin: thin.Record{Thin: []thin.Decision{{On: thin.Module, ID: "gateway", Choice: thin.Goes}}}}
	for _, c := range []struct {
		u    gather.Unplugged
		code string
	}{
		{gather.Unplugged{Item: "Gateway", KeyOff: true}, "needed-to-start"},
		{gather.Unplugged{Item: "gateway", KeyOff: true, Restarted: true}, ""},
		{gather.Unplugged{Item: "clock", KeyOff: true}, ""},
		{gather.Unplugged{Item: "belt module", KeyOff: true, Restarted: true}, "unplugged-wrongly"},
	} {
		j.Before = &gather.Before{Unplugged: []gather.Unplugged{c.u}}
		got := ""
		for _, f := range computeJob(t, j).Findings {
			if f.Code == "needed-to-start" || f.Code == "unplugged-wrongly" {
				got += f.Code
			}
		}
		if got != c.code {
			t.Errorf("%+v: %q, want %q", c.u, got, c.code)
		}
	}
}

// Left and right meet bank 1 and bank 2 once it is said which is which; a table with injectors of another number of
// cylinders than the engine has is told.
func TestBanksAndCylindersAreUsed(t *testing.T) {
	j := stored.Job{Title: "banks", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Knock sensor"}, []string{"A", "2", "Lambda sensor left, before cat."},
			[]string{"A", "3", "Lambda sensor right, before cat."},
			[]string{"A", "4", "Injector 1"}, []string{"A", "5", "Injector 2"}),
		To: table("theirs", []string{"P", "1", "HO2S bank 2 sensor 1"}, []string{"P", "2", "HO2S bank 1 sensor 1"})}
	for bank1, want := range map[string]string{"": "undecided", "left": "P2 P1", "right, as one drives": "P1 P2"} {
		j.Identity = &gather.Identity{Bank1: bank1, Cylinders: 4}
		p := computeJob(t, j)
		got := ""
		for _, l := range p.Match.Lines[1:3] {
			if l.P >= match.Offered {
				got += " " + l.To.String()
			}
		}
		if got = strings.TrimSpace(got); (want == "undecided") != (got == "") || want != "undecided" && got != want {
			t.Errorf("bank 1 is %q: %q, want %s", bank1, got, want)
		}
		told := 0
		for _, f := range p.Findings {
			if f.Code == "cylinder-count" {
				told++
			}
		}
		if told != 1 {
			t.Errorf("two injectors of four cylinders are told %d times", told)
		}
	}
}

// The firing order says which cylinders share a coil: 1 with 4 and 2 with 3 in 1-3-4-2; in 1-5-3-6-2-4, 1 with 6
// (common practice).
func TestCoilsOfTwoCylinders(t *testing.T) {
	j := stored.Job{Title: "coils", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Ignition coil 1"}, []string{"A", "2", "Ignition coil 3"},
			[]string{"A", "3", "Injector 1"}),
		To: table("theirs", []string{"P", "1", "Ignition coil 2 & 3"}, []string{"P", "2", "Ignition coil 1 & 4"},
			[]string{"P", "3", "Injector 1"})}
	for order, want := range map[string]string{"1-3-4-2": "P2 P1, ", "1-2-3-4": ", P1 P2", "": ", "} {
		j.Identity = &gather.Identity{FiringOrder: order, Cylinders: 4}
		facts, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(facts, j.Chosen())
		same := ""
		for _, l := range p.Match.Lines[:2] {
			row, _ := facts.To.Row(l.To)
			from, _ := facts.From.Row(l.From)
			if from.Signal.Also > 0 && from.Signal.Also == row.Signal.Also {
				same += l.To.String() + " "
			}
		}
		var told []string
		for _, f := range p.Findings {
			if f.Code == "coil-pair" {
				told = append(told, f.Subject)
			}
		}
		slices.Sort(told)
		if got := strings.TrimSpace(same) + ", " + strings.Join(told, " "); got != want {
			t.Errorf("order %q: %q, want %q", order, got, want)
		}
	}
	if c := gather.Companions("1-5-3-6-2-4", 6); c[1] != 6 || c[5] != 2 || c[3] != 4 || len(c) != 6 {
		t.Errorf("companions of six: %v", c)
	}
	if c := gather.Companions("1-2-4-5-3", 5); c != nil {
		t.Errorf("companions of five: %v", c)
	}
}
