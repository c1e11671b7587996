package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// sheet makes a list from lines with cells parted by bars.
func sheet(lines ...string) *gather.Sheet {
	s := &gather.Sheet{}
	for _, l := range lines {
		s.Cells = append(s.Cells, strings.Split(l, "|"))
	}
	return s
}

// small is a re-pinned harness of four wires, with the parts at their far ends.
func small(kind stored.Kind) stored.Job {
	return stored.Job{Title: "small", Kind: kind,
		From: table("old", []string{"A", "1", "Injector 1"}, []string{"A", "2", "Canister purge valve, control"},
			[]string{"A", "3", "Battery"}, []string{"A", "4", "Coolant temperature sensor"}),
		To: table("new", []string{"A", "1", "Injector 1"}, []string{"A", "2", "Coolant temperature sensor"},
			[]string{"A", "3", "Battery"}),
		OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
			gather.WireList: sheet("Wire|From|Cavity|To|Cavity", "W1|A|1|IJ|1", "W2|A|2|PV|1", "W3|A|3|F|1", "W4|A|4|CT|1",
				"W5|PV|2|S1|", "W6|S1||F|2", "W7|S1||IJ|2"),
			gather.ConnectorList: sheet("Connector|Device", "A|unit", "IJ|injector 1", "PV|purge valve", "F|fuse box",
				"CT|coolant sensor"),
			gather.DeviceList: sheet("Device|Kind|System", "unit|unit|engine", "injector 1||fuel", "purge valve||emissions",
				"fuse box|fuses|power", "coolant sensor||cooling"),
		}}}
}

func follow(t *testing.T, j stored.Job) (fact.Facts, plan.Plan) {
	t.Helper()
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	return f, plan.Compute(f, j.Chosen())
}

// A terminal that Thin takes out stands on Pin's sheet and in Thin's work, as one step, and both are proven.
func TestWhatThinTakesOutPinPulls(t *testing.T) {
	for _, kind := range []stored.Kind{stored.Repinned, stored.Integrated, stored.ThinningOnly} {
		j := small(kind)
		j.Thin = []thin.Decision{{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none here"}}
		_, p := follow(t, j)
		if !p.Proof.Reached {
			t.Fatalf("%s: not proven: %+v", kind, p.Proof)
		}
		pulls := map[string]bool{}
		for _, s := range p.Steps {
			if s.From == (harness.Ref{Connector: "A", Cavity: "2"}) && s.Kind == "out" {
				pulls[s.ID] = true
			}
		}
		both := 0
		for _, s := range p.Work.Steps {
			if s.Stage == work.Pin && pulls[s.ID] {
				both++
			}
		}
		want := 1
		if kind == stored.ThinningOnly { // its school cuts dead ends
			want = 0
		}
		if both != want || len(pulls) != want {
			t.Errorf("%s: %d steps on both lists, %d on Pin's", kind, both, len(pulls))
		}
	}
}

// A wire that Match has put to use is kept, whatever is decided about what is larger; where it is decided away itself
// the two stages contradict each other, and that is said.
func TestMatchKeepsWhatItUses(t *testing.T) {
	j := small(stored.Repinned)
	j.Decisions = []match.Decision{{Side: match.From, At: harness.Ref{Connector: "A", Cavity: "4"}, Choice: match.Matched,
		To: harness.Ref{Connector: "A", Cavity: "2"}}}
	j.Thin = []thin.Decision{{On: thin.System, ID: "cooling", Choice: thin.Goes},
		{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none"}}
	f, p := follow(t, j)
	verdict := func(p plan.Plan, id harness.WireID) thin.Verdict {
		return p.Thin.Result.Wires[slices.IndexFunc(f.Laid.Loom.Wires, func(w harness.Wire) bool { return w.ID == id })]
	}
	if v := verdict(p, "W4"); v.Choice != thin.Keep || v.By == nil || v.By.Reason != "serves A2" {
		t.Errorf("W4 %+v", v)
	}
	if v := verdict(p, "W2"); v.Choice != thin.Goes {
		t.Errorf("W2 %+v", v)
	}
	if !p.Proof.Reached {
		t.Errorf("the move into the cavity that Thin empties is not proven: %+v", p.Proof)
	}
	j.Thin = append(j.Thin, thin.Decision{On: thin.Wire, ID: "W4", Choice: thin.Goes})
	if _, p := follow(t, j); !has(p.Findings, "two-edits") {
		t.Error("two stages contradict each other, and nothing is said")
	}
}

// What the kind of job and the matches suggest is proposed and changes nothing.
func TestProposals(t *testing.T) {
	j := small(stored.Standalone)
	j.From.Cells = append(j.From.Cells, []string{"A", "5", "Main beam"})
	j.Decisions = []match.Decision{{Side: match.From, At: harness.Ref{Connector: "A", Cavity: "2"}, Choice: match.Gone}}
	_, p := follow(t, j)
	var got []string
	for _, x := range p.Thin.Proposed {
		if x.Why == "" || x.Choice != thin.Goes {
			t.Errorf("proposal %+v", x)
		}
		got = append(got, string(x.On)+" "+x.ID)
	}
	if strings.Join(got, ", ") != "system lighting, wire W2" || p.Thin.Counts.Goes != 0 {
		t.Errorf("proposed %v, %d go", got, p.Thin.Counts.Goes)
	}
	j.Thin = []thin.Decision{{On: thin.System, ID: "lighting", Choice: thin.Keep},
		{On: thin.Wire, ID: "W2", Choice: thin.Goes}}
	if _, p := follow(t, j); len(p.Thin.Proposed) != 0 {
		t.Errorf("what is decided is proposed again: %v", p.Thin.Proposed)
	}
}

// In the kinds that join wires both pinouts are of harnesses; plugs of one name are kept apart.
func TestTwoHarnessesWithOneName(t *testing.T) {
	j := small(stored.Integrated)
	j.Sheets = nil
	f, _ := follow(t, j)
	ids := map[string]bool{}
	for _, c := range f.Laid.Loom.Connectors {
		ids[c.ID] = true
	}
	if !ids["A"] || !ids["other A"] || len(f.Laid.Loom.Wires) != 7 {
		t.Errorf("connectors %v, %d wires", ids, len(f.Laid.Loom.Wires))
	}
	if row, ok := f.To.Row(harness.Ref{Connector: "A", Cavity: "2"}); !ok || row.Function == "" {
		t.Error("the pinout that Match works on was renamed too")
	}
	moves := small(stored.Repinned)
	moves.Sheets = nil
	if f, _ := follow(t, moves); len(f.Laid.Loom.Wires) != 4 {
		t.Errorf("%d wires: what the finished harness must fill is no harness", len(f.Laid.Loom.Wires))
	}
}

func TestTheGateKnowsWhatWasNoted(t *testing.T) {
	j := small(stored.Repinned)
	j.Thin = []thin.Decision{{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none"}}
	j.Looked = map[string]gather.Looked{"A": {Labelled: true, Counted: 4}, "PV": {Labelled: true, Counted: 2}}
	j.Photos = []stored.Photo{{ID: "1", Connector: "A"}, {ID: "2", Connector: "PV"}}
	_, p := follow(t, j)
	for _, s := range p.Work.Steps {
		if s.Kind == thin.Gate && len(s.Missing) != 0 {
			t.Errorf("missing %v", s.Missing)
		}
	}
}

func TestYard(t *testing.T) {
	j := small(stored.Repinned)
	j.Identity = &gather.Identity{Throttle: gather.Change{Donor: "cable", Will: "electric"},
		Immobiliser: "keep and relearn", Gearbox: gather.Change{Donor: "manual", Will: "automatic"}}
	j.Looked = map[string]gather.Looked{"IJ": {Latch: gather.Broken}, "PV": {Latch: gather.Broken}}
	j.Thin = []thin.Decision{{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none"}}
	_, p := follow(t, j)
	var text string
	for _, y := range j.Yard(p.Thin.Result) {
		text += y.Text + "; "
	}
	for _, want := range []string{"pedal", "every key", "gearbox unit", "a plug like IJ", "range switch"} {
		if !strings.Contains(text, want) {
			t.Errorf("nothing about %s: %s", want, text)
		}
	}
	if strings.Contains(text, "a plug like PV") {
		t.Error("a plug is wanted for what goes")
	}
	j.Items = map[string]bool{}
	for _, i := range j.Identity.OpenItems() {
		j.Items[i.ID] = true
	}
	if n := len(j.Yard(p.Thin.Result)); n != 4 {
		t.Errorf("%d items when all that the changes bring is seen to", n)
	}
}

// What an earlier job brings counts for nothing, and what does not agree, is decided here, or must not be, stays
// behind.
func TestEarlier(t *testing.T) {
	past := small(stored.Repinned)
	ref := func(c string) harness.Ref { return harness.Ref{Connector: "A", Cavity: c} }
	past.Decisions = []match.Decision{{Side: match.From, At: ref("1"), Choice: match.Matched, To: ref("1")},
		{Side: match.From, At: ref("2"), Choice: match.Gone},
		{Side: match.From, At: ref("3"), Choice: match.Matched, To: ref("3")},
		{Side: match.From, At: ref("4"), Choice: match.Matched, To: ref("2")}}
	past.Thin = []thin.Decision{{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none"},
		{On: thin.Module, ID: "not here", Choice: thin.Goes}, {On: thin.System, ID: "fuel", Choice: thin.Keep}}
	now := small(stored.Repinned)
	now.From.Cells[3] = []string{"A", "3", "Ignition feed"}
	now.Decisions = past.Decisions[3:]
	now.Thin = past.Thin[2:]
	brought, err := fact.Earlier(now, past)
	thins, matches := brought.Thin, brought.Match
	if err != nil || len(matches) != 2 || len(thins) != 1 || thins[0].Verify != "small" || matches[0].Verify != "small" {
		t.Fatalf("%+v %+v %v", thins, matches, err)
	}
	now.Thin, now.Decisions = append(now.Thin, thins...), append(now.Decisions, matches...)
	_, p := follow(t, now)
	if p.Thin.Counts.Goes != 0 || p.Totals.Decided != 1 || !has(p.Findings, "to-be-verified") {
		t.Errorf("%d go, %d decided", p.Thin.Counts.Goes, p.Totals.Decided)
	}
	for _, l := range p.Match.Lines {
		if l.From == ref("1") && (l.Verify != "small" || l.To != ref("1") || l.Decided) {
			t.Errorf("line %+v", l)
		}
	}
}

// Small differences of wording do not keep a decision behind, nor does the side: a cavity that was left empty is
// brought too, and counts as open until it is verified.
func TestEarlierBearsOtherWords(t *testing.T) {
	past := stored.Job{Title: "first", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Injector 1, control"}, []string{"A", "2", "Knock sensor 1"},
			[]string{"A", "3", "Purge valve"}),
		To: table("theirs", []string{"P", "1", "INJ 1"}, []string{"P", "2", "Knock 1"},
			[]string{"P", "3", "Secondary air pump"}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "P1"), matched("A2", "P2"),
			{Side: match.To, At: harness.Ref{Connector: "P", Cavity: "3"}, Choice: match.Vacant, Reason: "none fitted"}}}}
	now := past
	now.Decisions = nil
	now.From = table("ours", []string{"A", "1", "Control, Injector 1"}, []string{"A", "2", "Knock sensor 2"},
		[]string{"A", "3", "Purge valve"})
	now.To = table("theirs", []string{"P", "1", "Fuel injector no. 1"}, []string{"P", "2", "Knock 1"},
		[]string{"P", "3", "Secondary air pump"})
	brought, err := fact.Earlier(now, past)
	matches := brought.Match
	got := ""
	for _, d := range matches {
		got += string(d.Side) + " " + d.At.String() + " "
	}
	if err != nil || got != "from A1 to P3 " {
		t.Fatalf("%s, %v", got, err)
	}
	now.Decisions = matches
	for _, w := range computeJob(t, now).Match.Wants {
		if w.To.Cavity == "3" && (w.Decided || w.Verify != "first" || w.Verdict != match.NeedsWire) {
			t.Errorf("%+v", w)
		}
	}
}

// An exchange of outputs comes with an earlier map where both outputs are here too, and exchanges nothing until
// somebody has taken it over.
func TestEarlierExchanges(t *testing.T) {
	ref := func(c string) harness.Ref { return harness.Ref{Connector: "P", Cavity: c} }
	past := stored.Job{Title: "first", Kind: stored.Repinned,
		From: table("ours", []string{"A", "1", "Purge valve, control"}),
		To: table("theirs", []string{"P", "1", "Purge valve, control"}, []string{"P", "2", "Fan relay, control"},
			[]string{"P", "3", "Pump relay, control"}, []string{"P", "4", "Starter relay, control"}),
		OfPin: pin.Record{Exchanges: []pin.Exchange{{A: ref("1"), B: ref("2"), Reason: "burnt"}, {A: ref("3"), B: ref("4")}}}}
	now := past
	now.Exchanges = nil
	now.To = table("theirs", []string{"P", "1", "Purge valve, control"}, []string{"P", "2", "Fan relay, control"},
		[]string{"P", "3", "Pump relay, control"}, []string{"P", "4", "Wastegate valve, control"})
	brought, err := fact.Earlier(now, past)
	if err != nil || len(brought.Exchanges) != 1 || brought.Exchanges[0].A != ref("1") ||
		brought.Exchanges[0].Verify != "first" {
		t.Fatalf("%+v, %v", brought.Exchanges, err)
	}
	now.Exchanges = brought.Exchanges
	p := computeJob(t, now)
	if !has(p.Findings, "exchange-to-verify") || len(p.Pin.Settings) != 0 {
		t.Errorf("settings %v, findings %v", p.Pin.Settings, p.Findings)
	}
	for _, o := range p.Pin.Outputs {
		if o.With != (harness.Ref{}) || (o.Verify == "first") != (o.At == ref("1")) {
			t.Errorf("output %+v", o)
		}
	}
	now.Exchanges[0].Verify = ""
	if p := computeJob(t, now); has(p.Findings, "exchange-to-verify") || len(p.Pin.Settings) != 2 {
		t.Errorf("taken over: settings %v", p.Pin.Settings)
	}
}

func TestSchoolsByKind(t *testing.T) {
	for kind, want := range map[stored.Kind]thin.School{stored.ThinningOnly: thin.CutSeal, stored.Repinned: thin.Extract} {
		if got := (stored.Job{Kind: kind}).Chosen().Bench.School; got != want {
			t.Errorf("%s: %s", kind, got)
		}
	}
	own := thin.Standard()
	if got := (stored.Job{Kind: stored.ThinningOnly,
		OfThin: thin.Record{Bench: &own}}).Chosen().Bench.School; got != thin.Extract {
		t.Errorf("what the job says itself: %s", got)
	}
	for _, k := range stored.Kinds() {
		if len(k.Stages) == 0 || k.Stages[0] != "gather" {
			t.Errorf("%s needs %v", k.ID, k.Stages)
		}
	}
}

// What was done before the decisions changed is mended where it can be; where it stands in the way, that is said, and
// it is no fault of the steps.
func TestWorkDoneBeforeTheDecisionsChanged(t *testing.T) {
	j := small(stored.ThinningOnly)
	j.Thin = []thin.Decision{{On: thin.Module, ID: "purge valve", Choice: thin.Goes, Reason: "none"}}
	_, before := follow(t, j)
	for i, s := range before.Work.Steps {
		if s.Kind != thin.ComeOut && s.Kind != thin.TakeOff {
			j.Ticks = append(j.Ticks, work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text, Seq: i, When: 1})
		}
	}
	_, done := follow(t, j)
	if !done.Proof.Reached || !done.Thin.Counts.Balanced || done.Thin.Counts.Done != len(j.Ticks) {
		t.Fatalf("half way: %+v %+v", done.Proof, done.Thin.Counts)
	}
	j.Thin = append(j.Thin, thin.Decision{On: thin.Wire, ID: "W2", Choice: thin.Keep})
	_, p := follow(t, j)
	mends := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { return s.Kind == thin.Mend })
	if mends < 0 || !p.Proof.Partial || done.Proof.Partial || p.Proof.Fault != "" || !p.Proof.Reached ||
		p.Work.Steps[mends].Wires[0] != "W2" {
		t.Errorf("nothing is mended: %+v", p.Proof)
	}
	j.Thin = nil
	_, p = follow(t, j)
	anew := slices.ContainsFunc(p.Work.Steps,
		func(s work.Step) bool { return s.Kind == thin.Mend && strings.Contains(s.Text, "Make splice S1 anew") })
	if p.Proof.Fault != "" || !p.Proof.Reached || !anew {
		t.Errorf("a splice that was taken apart and is wanted: %+v", p.Proof)
	}
	j.Ticks = append(j.Ticks, work.Tick{Step: "out", Edits: []harness.Edit{{Do: harness.Free,
		At: harness.Ref{Connector: "CT"}}}, Text: "Take connector CT off.", When: 2})
	// It is seen to in the list of the work, where its tick can be taken back.
	listed := func(f finding.Finding) bool { return f.Code == "done-unwanted" && f.Place.Part == "work" }
	if _, p := follow(t, j); p.Proof.Fault != "" || !slices.ContainsFunc(p.Findings, listed) {
		t.Errorf("a plug that is off and is wanted: %+v %v", p.Proof, p.Findings)
	}
}
