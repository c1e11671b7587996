package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/work"
)

// pairedJob is a job of one pair of cavities, accepted.
func pairedJob(kind stored.Kind, from, to string) stored.Job {
	connector := "P"
	if kind == stored.Repinned {
		connector = "A"
	}
	return stored.Job{Title: "pair", Kind: kind, From: table("ours", []string{"A", "1", from}), To: table("theirs",
		[]string{connector, "2", to}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", connector+"2")}}}
}

// A supply of one class does not pass for another: wrong where terminals move, and danger where a joint would tie a
// start or a battery feed to an ignition circuit, which then lives with the key off or turns the engine.
func TestSuppliesOfAnotherClass(t *testing.T) {
	for _, c := range []struct {
		from, to string
		moved    finding.Severity // empty: nothing is said
		joined   finding.Severity
	}{
		{"Battery feed", "Ignition feed", finding.Wrong, finding.Danger},
		{"Ignition feed", "Battery feed", finding.Wrong, finding.Danger},
		{"Crank request, terminal 50", "Ignition feed", finding.Wrong, finding.Danger},
		{"Accessory feed", "Ignition feed", finding.Wrong, finding.Wrong},
		{"Power ground", "Sensor ground", finding.Wrong, finding.Wrong},
		{"Battery feed", "Battery feed", "", ""},
		{"Ignition feed", "Ignition feed", "", ""},
		{"Power ground", "Power ground 2", "", ""},
	} {
		for kind, want := range map[stored.Kind]finding.Severity{stored.Repinned: c.moved, stored.Integrated: c.joined} {
			p := computeJob(t, pairedJob(kind, c.from, c.to))
			var got finding.Severity
			for _, f := range p.Findings {
				if slices.Contains([]string{"supply-differs", "must-not-meet", "veto"}, f.Code) && (got == "" ||
					f.Severity == finding.Danger) {
					got = f.Severity
				}
			}
			if got != want {
				t.Errorf("%s, %s onto %s: %q, want %q; %v", kind, c.from, c.to, got, want, p.Findings)
			}
		}
	}
}

// A wire that is joined to that of a cavity is joined to the wire that will be there, not to the one that still is.
func TestAJointIsMadeWithTheRightWire(t *testing.T) {
	j := stored.Job{Title: "joint", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Power ground"}, []string{"A", "2", "Power ground 2"}, []string{"A", "5",
			"Injector 1"}),
		To: table("theirs", []string{"A", "5", "Power ground"}, []string{"A", "6", "Injector 1"}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "A5"), matched("A5", "A6"),
			{Side: match.From, At: ref("A2"), Choice: match.Joined, To: ref("A5")}}}}
	p := computeJob(t, j)
	if wrong(p) || !p.Proof.Reached || len(p.Join.Joints) != 1 {
		t.Fatalf("%s, joints %+v", p.Proof.Line(), p.Join.Joints)
	}
	for _, e := range p.Join.Joints[0].Ends {
		if e.At == ref("A5") {
			t.Errorf("joined to the injector's wire: %+v", p.Join.Joints[0].Ends)
		}
	}
	for _, s := range p.Work.Steps {
		if s.Stage == "join" && strings.Contains(s.Text, "Injector") {
			t.Errorf("%s", s.Text)
		}
	}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	if n := oneCircuit(t, 0, &j, f, &p); n < 2 {
		t.Errorf("only %d matches are looked at", n)
	}
}

// Two wires that are joined into one cavity feed it: nothing is said to feed it not, and no wire is added.
func TestTwoWiresInOneCavityFeedIt(t *testing.T) {
	j := stored.Job{Title: "two", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Ignition feed"}, []string{"A", "2", "Ignition feed 2"}),
		To:   table("theirs", []string{"A", "3", "Ignition feed"}),
		OfMatch: match.Record{Decisions: []match.Decision{{Side: match.From, At: ref("A1"), Choice: match.Joined,
			To: ref("A3")},
			{Side: match.From, At: ref("A2"), Choice: match.Joined, To: ref("A3")}}}}
	p := computeJob(t, j)
	if has(p.Findings, "feed-missing") || p.Totals.NeedsWire != 0 || wrong(p) || len(p.Join.Wires) != 0 {
		t.Errorf("%+v, new wires %+v, %s", p.Totals, p.Join.Wires, p.Proof.Line())
	}
}

// A wire of which somebody has measured that it is the right one is not to be measured again before it is cut.
func TestWhatIsMeasuredIsNotMeasuredAgain(t *testing.T) {
	j := pairedJob(stored.Integrated, "Coolant temperature gauge", "Coolant temperature gauge")
	measures := func() (n int) {
		p := computeJob(t, j)
		for _, s := range p.Work.Steps {
			if s.Kind == "measure" {
				n++
			}
		}
		return n
	}
	if measures() != 1 {
		t.Fatal("nothing is measured before the vehicle's wire is cut")
	}
	volts := 8.0
	j.Readings = []gather.Measurement{{ID: "r", At: ref("A1"), Volts: &volts, Key: gather.Keys()[2], Loaded: true,
		Who: "Ines"}}
	if measures() != 0 {
		t.Error("measured, and to be measured again")
	}
}

// Cavities named after a table's title keep what was said of them when the table gets another title.
func TestAReadingSurvivesAnotherTitle(t *testing.T) {
	j := stored.Job{Title: "names", Kind: stored.Integrated, From: table("ours", []string{"A", "1", "Injector 1"}),
		To:      table("theirs", []string{"A", "2", "Injector 1"}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "A2")}}}
	volts := 12.0
	old := ref("A2")
	old.Connector = "theirs A"
	j.Readings = []gather.Measurement{{ID: "r", At: old, Volts: &volts, Who: "Ines"}}
	for _, was := range [][]string{nil, {"theirs"}} {
		if was != nil {
			j.To.Name, j.To.Was = "another title", was
		}
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		if len(f.Measured) != 1 || !f.Measured[f.At(ref("A2"))] {
			t.Errorf("titles before %v: measured %v, wanted %s", was, fmt.Sprint(f.Measured), f.At(ref("A2")))
		}
	}
}

// A step of one's own keeps its turn when what it comes after is done and off the list, and says so when that is not
// planned any more.
func TestAnOwnStepKeepsItsTurn(t *testing.T) {
	j := pairedJob(stored.Integrated, "Coolant temperature gauge", "Coolant temperature gauge")
	p := computeJob(t, j)
	at := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { return s.Stage == work.Join && len(s.Edits) > 0 })
	first := p.Work.Steps[at].ID
	j.Own = []stored.OwnStep{{ID: "o", Text: "Trim off.", After: first}}
	place := func() int {
		p = computeJob(t, j)
		return slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { return s.Stage == work.Own })
	}
	if i := place(); i == 0 || p.Work.Steps[i].Needs[0] != first {
		t.Fatalf("it is step %d, not after the one that it comes after", i)
	}
	tickWith(t, &j, &p, first)
	done := func(s work.Step) bool { _, done := p.Done(s.ID); return done }
	if i := place(); slices.ContainsFunc(p.Work.Steps[:i], func(s work.Step) bool {
		return len(s.Edits) > 0 &&
			!done(s)
	}) ||
		has(p.Findings, "own-step-adrift") {
		t.Errorf("its turn has come, and it is step %d of %d", i, len(p.Work.Steps))
	}
	j.Ticks, j.Decisions = nil, nil
	if i := place(); i != len(p.Work.Steps)-1 || !has(p.Findings, "own-step-adrift") {
		t.Errorf("nothing is joined any more, and nothing is said of the step beside it: %d", i)
	}
}

// What feeds a restraint circuit is neither moved nor joined onto, whatever was decided in Match, and no step touches
// it; beside it the work goes on.
func TestWhatFeedsRestraintIsNotTouched(t *testing.T) {
	sheets := map[gather.SheetKind]*gather.Sheet{
		gather.WireList: sheet("Wire|From|Cavity|To|Cavity|Function", "w1|F|1|S1||Ignition feed",
			"w2|S1||R|1|Airbag, driver", "w3|S1||L|1|Ignition feed", "w4|F|2|L|2|Injector 1"),
		gather.ConnectorList: sheet("Connector|Device", "F|fuses", "R|bag", "L|radio"),
		gather.DeviceList:    sheet("Device|Kind|System", "fuses|fuse box|power", "bag||restraint", "radio||body"),
	}
	for _, c := range []struct {
		name    string
		decide  match.Decision
		touches string // what the finding is about, empty where there is none
	}{
		{"its feed moved", matched("F1", "P2"), "F1"},
		{"another cavity moved", matched("F2", "P1"), ""},
		{"its splice tapped", match.Decision{Side: match.To, At: ref("P2"), Choice: match.Wired,
			Origin: &match.Origin{Kind: match.AtSplice, Name: "S1"}}, "P2"},
		{"its feed tapped", match.Decision{Side: match.To, At: ref("P2"), Choice: match.Wired,
			Origin: &match.Origin{Kind: match.AtCavity, At: ref("F1")}}, "P2"},
	} {
		for _, kind := range []stored.Kind{stored.Repinned, stored.Exchange, stored.Integrated} {
			j := stored.Job{Title: "bag", Kind: kind, OfGather: gather.Record{Sheets: sheets},
				OfMatch: match.Record{Decisions: []match.Decision{c.decide}},
				From:    table("ours", []string{"F", "1", "Ignition feed"}, []string{"F", "2", "Injector 1"}),
				To:      table("theirs", []string{"P", "1", "Injector 1"}, []string{"P", "2", "Ignition feed"})}
			p := computeJob(t, j)
			var said string
			for _, f := range p.Findings {
				if f.Code == "touches-restraint" {
					said += f.Subject
				}
			}
			if said != c.touches || p.Proof.Fault != "" || len(p.Proof.Meets) > 0 || !p.Proof.Reached {
				t.Errorf("%s, %s: said of %q, want %q; %+v", c.name, kind, said, c.touches, p.Proof)
			}
			for _, s := range p.Work.Steps {
				for _, e := range s.Edits {
					if e.Wire == "w1" || e.Wire == "w2" || e.Joint == "S1" || e.Terminal == harness.TerminalAt(ref("F1")) {
						t.Errorf("%s, %s: %q touches what feeds the airbag", c.name, kind, s.Text)
					}
				}
			}
		}
	}
}
