package plan_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/core/work"
)

func text(all []finding.Finding, code string) string {
	i := slices.IndexFunc(all, func(f finding.Finding) bool { return f.Code == code })
	if i < 0 {
		return ""
	}
	return all[i].Text
}

// job makes a re-pin job of two tables.
func job(from, to []string, decisions ...match.Decision) stored.Job {
	table := func(name string, lines []string) *stored.Table {
		t := &stored.Table{Name: name, Trust: harness.Maker, Cells: [][]string{{"Connector", "Cavity", "Function"}}}
		for _, l := range lines {
			at, text, _ := strings.Cut(l, " ")
			t.Cells = append(t.Cells, []string{at[:1], at[1:], text})
		}
		return t
	}
	return stored.Job{Kind: stored.Repinned, From: table("from", from), To: table("to", to),
		OfMatch: match.Record{Decisions: decisions}}
}

func computeJob(t testing.TB, j stored.Job) plan.Plan {
	t.Helper()
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	return plan.Compute(f, j.Chosen())
}

func layoutOf(t testing.TB, words string) *face.Layout {
	t.Helper()
	l, err := face.Parse(words)
	if err != nil {
		t.Fatal(err)
	}
	return &l
}

// A feed in two cavities is a lead from one wire; two grounds in one cavity are a joint. Two different outputs are
// neither.
func TestJointsAndLeads(t *testing.T) {
	j := job([]string{"A1 Battery feed", "A2 Power ground", "A3 Power ground", "A4 Injector 1", "A5 Injector 2"},
		[]string{"A1 Battery feed", "A2 Power ground", "A4 Injector 1", "A6 Battery feed"},
		matched("A1", "A1"), matched("A2", "A2"), matched("A4", "A4"),
		match.Decision{Side: match.From, At: ref("A3"), Choice: match.Joined, To: ref("A2")},
		match.Decision{Side: match.To, At: ref("A6"), Choice: match.Branch, Of: ref("A1")})
	p := computeJob(t, j)
	if got := texts(p); got != "hold A3 ; new  A6; plug  A3" || !p.Proof.Reached {
		t.Errorf("steps %s, proof %+v", got, p.Proof)
	}
	if n := len(p.Join.Joints); n != 2 || p.Join.Joints[0].Name != "joint at A1" ||
		p.Join.Joints[1].Name != "joint at A2" {
		t.Errorf("joints %+v", p.Join.Joints)
	}
	if !p.Totals.Reconciled || p.Totals.Joins != 1 || p.Totals.Branches != 1 || p.Totals.NeedsWire != 0 {
		t.Errorf("totals %+v", p.Totals)
	}
	if made := joinSteps(p); !strings.Contains(made, "Bare A1 (Battery feed), 60 mm behind A1, without cutting it, "+
		"and join the new wire A6 (Battery feed) onto it") || !strings.Contains(made, "join A3 (Power ground) onto it") {
		t.Errorf("joints are made thus: %s", made)
	}
	j.Decisions = append(j.Decisions, match.Decision{Side: match.From, At: ref("A5"), Choice: match.Joined, To: ref("A4")})
	if got := text(computeJob(t, j).Findings, "never-joined"); !strings.Contains(got, "A5 is to share a wire with A4") {
		t.Errorf("two injectors on one wire: %q", got)
	}
}

// Outputs of one kind can be exchanged: what was wanted in one comes into the other, and the settings say so.
func TestOutputsAreExchanged(t *testing.T) {
	j := job([]string{"A1 Fan relay 1 control", "A2 Canister purge", "A3 Battery feed"},
		[]string{"A1 Fan relay 1 control", "A2 Canister purge", "A3 Battery feed"},
		matched("A1", "A1"), matched("A2", "A2"), matched("A3", "A3"))
	j.Exchanges = []pin.Exchange{{A: ref("A1"), B: ref("A2")}}
	p := computeJob(t, j)
	if got := texts(p); got != "pull A1 ; move A2 A1; seat  A2" || !p.Proof.Reached {
		t.Errorf("steps %s", got)
	}
	if len(p.Pin.Settings) != 2 || p.Pin.Settings[0] != "Output A2 drives Fan relay 1 control, made for Canister purge." {
		t.Errorf("settings %q", p.Pin.Settings)
	}
	if len(p.Pin.Outputs) != 2 || p.Pin.Outputs[0].Kind != p.Pin.Outputs[1].Kind {
		t.Errorf("outputs %+v", p.Pin.Outputs)
	}
	j.Exchanges[0].B = ref("A3")
	p = computeJob(t, j)
	if got := text(p.Findings, "exchange-lost"); !strings.Contains(got, "only outputs can be exchanged") ||
		len(p.Steps) > 0 {
		t.Errorf("an output with a feed: %q, and steps %s", got, texts(p))
	}
}

// What the housings take says what becomes of a terminal, what to order and what stops the work.
func TestHousingsSayWhatTravels(t *testing.T) {
	j := job([]string{"A1 Injector 1", "A2 Injector 2", "A3 Canister purge"},
		[]string{"A2 Injector 1", "A1 Injector 2", "B1 Canister purge"},
		matched("A1", "A2"), matched("A2", "A1"), matched("A3", "B1"))
	p := computeJob(t, j)
	if !strings.Contains(text(p.Findings, "terminal-system"), "A to B: A3") || has(p.Findings, "parts-missing") {
		t.Errorf("of unknown housings: %v", p.Findings)
	}
	j.Layouts = map[string]*face.Layout{"A": layoutOf(t, "2x3 sealed, 1.5 mm, family s15, female"),
		"B": layoutOf(t, "1x2 sealed, 2.8 mm, family s28, female, wedge")}
	p = computeJob(t, j)
	if has(p.Findings, "terminal-system") || !strings.Contains(text(p.Findings, "re-crimp"), "1: A3") {
		t.Errorf("of known housings: %v", p.Findings)
	}
	if got := text(p.Findings, "parts-missing"); !strings.Contains(got, "2.8 mm female, family s28") ||
		!strings.Contains(got, "release pick for 1.5 mm") {
		t.Errorf("parts missing: %q", got)
	}
	j.Have = map[string]bool{}
	for _, o := range p.Pin.Orders {
		j.Have[o.Name] = true
		if o.Kind.Tool() && (o.Need != 1 || o.Spare != 0) || !o.Kind.Tool() && o.Spare < 2 {
			t.Errorf("to order: %+v", o)
		}
	}
	if p = computeJob(t, j); has(p.Findings, "parts-missing") {
		t.Errorf("with all there: %q", text(p.Findings, "parts-missing"))
	}
	i := slices.IndexFunc(p.Steps, func(s repin.Step) bool { return s.To == ref("B1") })
	if s := p.Steps[i]; s.Fit.Verdict != "re-crimp" || !strings.Contains(s.How, "Lift the wedge out of the mating face "+
		"of B") || !slices.Contains(s.Warn, "It changes its plug: cavity 1 of B, not that of A.") {
		t.Errorf("the step: %+v", s.Advice)
	}
	// Two shells that look the same are told apart at the step that opens one.
	j.Layouts["B"] = layoutOf(t, "2x3 sealed, 1.5 mm, family s15, female")
	j.Layouts["A"].Colour, j.Layouts["B"].Colour = "GY", "BK"
	p = computeJob(t, j)
	if w := strings.Join(p.Steps[0].Warn, " "); !strings.Contains(w, "same shell in GY and BK") {
		t.Errorf("warned: %q", w)
	}
	// What cannot be taken out is cut off, and holds its cavity for good.
	j.Layouts["A"] = layoutOf(t, "2x3, 1.5 mm, family s15, soldered")
	p = computeJob(t, j)
	if got := texts(p); got != "move A3 B1" || p.Withheld != 2 ||
		!strings.Contains(p.Steps[0].Text, "Cut the wire behind A3") || !p.Proof.Reached {
		t.Errorf("steps %s, withheld %d, proof %+v", got, p.Withheld, p.Proof)
	}
}

// Each plug that the sheet pushes in is ordered once.
func TestPlugsAreOrderedOnce(t *testing.T) {
	j := job([]string{"A1 Injector 1", "A2 Canister purge", "A3 Power ground", "A4 Power ground", "A5 Battery feed"},
		[]string{"A6 Injector 1", "A3 Power ground"},
		matched("A1", "A6"), matched("A3", "A3"), match.Decision{Side: match.From, At: ref("A2"), Choice: match.Gone},
		match.Decision{Side: match.From, At: ref("A4"), Choice: match.Joined, To: ref("A3")},
		match.Decision{Side: match.From, At: ref("A5"), Choice: match.Sourced, Source: "battery"})
	j.Layouts = map[string]*face.Layout{"A": layoutOf(t, "2x3 sealed, 1.5 mm, family s15")}
	p := computeJob(t, j)
	pushed := strings.Count(texts(p), "plug ")
	i := slices.IndexFunc(p.Pin.Orders, func(o pin.Order) bool { return o.Kind == terminal.Plug })
	if pushed != 4 || i < 0 || p.Pin.Orders[i].Need != pushed {
		t.Errorf("%d plugs are pushed in; orders %+v", pushed, p.Pin.Orders)
	}
}

func TestHalvesThatDoNotMeet(t *testing.T) {
	loom := harness.Loom{Connectors: []harness.Half{{Connector: harness.Connector{ID: "E1"}, Mate: "E2"},
		{Connector: harness.Connector{ID: "E2"}, Mate: "E1"}}}
	for _, c := range []struct {
		words string
		meet  bool
	}{{"2x6 from top right", true}, {"2x6 from top left", false}} {
		j := stored.Job{Kind: stored.ThinningOnly, OfPin: pin.Record{Layouts: map[string]*face.Layout{"E1": layoutOf(t,
			"2x6 from top left"),
			"E2": layoutOf(t, c.words)}}}
		j.Sheets = map[gather.SheetKind]*gather.Sheet{gather.ConnectorList: {Cells: [][]string{{"Connector", "Mates with"},
			{loom.Connectors[0].ID, "E2"}, {"E2", "E1"}}}}
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		if len(f.Laid.Loom.Connectors) != 2 || has(f.Findings, "halves-do-not-meet") == c.meet {
			t.Errorf("%s: %v", c.words, f.Findings)
		}
	}
}

// Adapting a sensor: the same wires in another order.
func TestSensorAdaptation(t *testing.T) {
	from := []string{"A1 MAP sensor signal", "A2 MAP sensor 5 V reference", "A3 MAP sensor ground"}
	for _, c := range []struct {
		to   [3]string
		want pin.Pattern
	}{{[3]string{"2", "3", "1"}, pin.Rotation}, {[3]string{"3", "2", "1"}, pin.OuterSwap},
		{[3]string{"2", "1", "3"}, pin.OneSwap}, {[3]string{"1", "2", "3"}, ""}} {
		j := job(from, []string{"A" + c.to[0] + " MAP sensor signal", "A" + c.to[1] + " MAP sensor 5 V reference", "A" +
			c.to[2] + " MAP sensor ground"},
			matched("A1", "A"+c.to[0]), matched("A2", "A"+c.to[1]), matched("A3", "A"+c.to[2]))
		j.Kind = stored.Sensor
		p := computeJob(t, j)
		all := p.Pin.Adaptations
		if n := len(p.Steps); n > 0 && !strings.Contains(strings.Join(p.Steps[0].Warn, " "), "Trimming the key off") {
			t.Errorf("%v: the first step does not warn of the key: %q", c.to, p.Steps[0].Warn)
		}
		if c.want == "" {
			if len(all) > 0 {
				t.Errorf("nothing changes: %+v", all)
			}
			continue
		}
		if len(all) != 1 || all[0].Pattern != c.want || !strings.Contains(all[0].Warn, "key") ||
			!strings.Contains(all[0].Pigtail, "3 joints") {
			t.Errorf("%v: %+v", c.to, all)
		}
	}
}

// Reports of the bench change the plan until they are settled.
func TestReportsFeedBack(t *testing.T) {
	j := job([]string{"A1 Injector 1", "A2 Injector 2", "A3 Canister purge"},
		[]string{"A2 Injector 1", "A4 Injector 2", "A1 Canister purge"},
		matched("A1", "A2"), matched("A2", "A4"), matched("A3", "A1"))
	for _, c := range []struct {
		what    pin.What
		at      string
		steps   string
		finding string
	}{
		{pin.IsStuck, "A2", "", "does not come out"},
		{pin.IsStuck, "A1", "move A2 A4; plug  A2", "does not come out"},
		{pin.Differs, "A3", "move A2 A4; move A1 A2; plug  A1", "is PK, and the table says otherwise"},
		{pin.Occupied, "A4", "", "holds a wire that no table shows"},
		{pin.Broken, "A1", "move A2 A4; move A1 A2; move A3 A1; plug  A3", "secondary lock of A is broken"},
	} {
		j.Reports = []pin.Report{{ID: "r", What: c.what, At: ref(c.at), Saw: "PK"}}
		j.Ticks = nil
		if tick, ok := j.Reports[0].Tick(); ok {
			j.Ticks = []work.Tick{tick}
		}
		p := computeJob(t, j)
		if got := strings.TrimSuffix(texts(p), "; plug  A3"); got != strings.TrimSuffix(c.steps, "; plug  A3") &&
			c.what != pin.IsStuck || !p.Proof.Reached {
			t.Errorf("%s at %s: steps %q, want %q; proof %+v", c.what, c.at, texts(p), c.steps, p.Proof)
		}
		if got := text(p.Findings, "found-"+string(c.what)); !strings.Contains(got, c.finding) {
			t.Errorf("%s at %s: %q", c.what, c.at, got)
		}
		if c.what == pin.IsStuck && p.Withheld == 0 {
			t.Errorf("stuck at %s holds nothing up", c.at)
		}
		j.Reports[0].Settled = "done"
		if p = computeJob(t, j); has(p.Findings, "found-"+string(c.what)) || c.what != pin.Occupied && p.Withheld > 0 {
			t.Errorf("%s at %s stands though it is settled", c.what, c.at)
		}
	}
}

// A decision that is taken back leaves the wire wherever it is by then.
func TestReopenedWiresStayWhereTheyAre(t *testing.T) {
	j := job([]string{"A1 Injector 1", "A2 Injector 2"}, []string{"A3 Injector 1", "A2 Injector 2"}, matched("A1", "A3"),
		matched("A2", "A2"))
	p := computeJob(t, j)
	j.Ticks = []work.Tick{p.Steps[0].Tick()}
	j.Decisions = j.Decisions[1:]
	p = computeJob(t, j)
	if in, _ := p.Pin.Now.In(ref("A3")); in != harness.TerminalAt(ref("A1")) ||
		slices.ContainsFunc(p.Steps, func(s repin.Step) bool { return s.Terminal != "" }) || !p.Proof.Reached {
		t.Errorf("steps %s, proof %+v", texts(p), p.Proof)
	}
}

// What Thin's ticks did to terminals counts for the moves too; a wire that fell out has taken its terminals with it,
// and is missed where a decision wants it again.
func TestThinsTicksCountForTheMoves(t *testing.T) {
	gone := match.Decision{Side: match.From, At: ref("A1"), Choice: match.Gone}
	j := job([]string{"A1 Canister purge", "A2 Injector 1"}, []string{"A1 Injector 1", "A4 Canister purge"},
		matched("A2", "A1"), gone)
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	term := harness.TerminalAt(ref("A1"))
	j.Ticks = []work.Tick{{Step: "x", Text: "pulled",
		Edits: []harness.Edit{{Do: harness.Remove, Terminal: term, At: ref("A1"), Label: "A1 goes"},
			{Do: harness.Cap, Terminal: term, Label: "A1 goes"}}}}
	for range 2 {
		p := computeJob(t, j)
		if got := texts(p); got != "move A2 A1; new  A4; plug  A2" || !p.Proof.Reached || has(p.Findings, "wire-is-out") {
			t.Errorf("steps %s, proof %+v: the terminal of A1 is out already", got, p.Proof)
		}
		j.Ticks = append(j.Ticks[:1], work.Tick{Step: "y", Seq: 1, Text: "fell out",
			Edits: []harness.Edit{{Do: harness.FallOut, Wire: f.Laid.Loom.Wires[0].ID}}})
	}
	j.Decisions[1] = matched("A1", "A4")
	p := computeJob(t, j)
	if got := text(p.Findings, "wire-is-out"); !strings.Contains(got, "found in A1 is out") || !p.Proof.Reached {
		t.Errorf("wanted again: %q, steps %s", got, texts(p))
	}
}

// What was logged makes the next estimate better, as soon as there is enough of it.
func TestLoggedTimeMakesTheEstimateBetter(t *testing.T) {
	from, to := []string{}, []string{}
	var d []match.Decision
	for i := 1; i <= 8; i++ {
		from, to = append(from, fmt.Sprintf("A%d Injector %d", i, i)), append(to, fmt.Sprintf("A%d Injector %d", i+1, i))
		d = append(d, matched(fmt.Sprintf("A%d", i), fmt.Sprintf("A%d", i+1)))
	}
	j := job(from, to, d...)
	p := computeJob(t, j)
	if p.Pin.Rate != 4 || p.Pin.Minutes != 32 || !strings.Contains(p.Steps[len(p.Steps)-1].After,
		"Count: 8 wires, 1 empty cavities") {
		t.Errorf("%.1f min a terminal, %.0f min; %q", p.Pin.Rate, p.Pin.Minutes, p.Steps[len(p.Steps)-1].After)
	}
	for i := range 6 {
		tick := p.Steps[0].Tick()
		tick.Seq, tick.Spent, tick.Minutes = i, 1.5, 4
		j.Ticks = append(j.Ticks, tick)
		if i == 5 {
			j.Ticks[0].Spent = 45 // lunch
			if p = computeJob(t, j); p.Pin.Logged != 5 || p.Pin.Rate != 1.5 {
				t.Errorf("a break counts as work: %d logged, %.1f min a terminal", p.Pin.Logged, p.Pin.Rate)
			}
			continue
		}
		p = computeJob(t, j)
		if want := map[bool]float64{true: 1.5, false: 4}[i >= 4]; p.Pin.Rate != want || p.Pin.Minutes != want*float64(7-i) {
			t.Errorf("after %d: %.1f min a terminal, %.1f min", i+1, p.Pin.Rate, p.Pin.Minutes)
		}
	}
}

// Work is ticked in any order that hands allow, decisions change in between, and every plan reaches what is wanted
// from what is there.
func TestPlansGoOnFromWhatIsThere(t *testing.T) {
	words := []string{"Injector 1", "Injector 2", "Coil 1", "Battery feed", "Power ground", "Knock sensor 1",
		"Canister purge", "Fan relay 1 control"}
	for seed := range uint64(250) {
		r := rand.New(rand.NewPCG(seed, 5))
		lines := func() (out []string) {
			for i, c := range r.Perm(12)[:3+r.IntN(6)] {
				out = append(out, fmt.Sprintf("%c%d %s", 'A'+rune(c%2), c/2+1, words[(i+r.IntN(3))%len(words)]))
			}
			return out
		}
		from, to := lines(), lines()
		j := job(from, to)
		hand := r.IntN(3)
		bench := j.Chosen().Bench
		j.Bench = &bench
		j.Bench.Hand = &hand
		for range 4 {
			j.Decisions = nil
			for _, l := range from {
				at, _, _ := strings.Cut(l, " ")
				target, _, _ := strings.Cut(to[r.IntN(len(to))], " ")
				d := match.Decision{Side: match.From, At: ref(at), To: ref(target),
					Choice: []match.Choice{match.Gone, match.Matched, match.Matched, match.Joined, match.Open}[r.IntN(5)]}
				if d.Choice != match.Open {
					j.Decisions = append(j.Decisions, d)
				}
			}
			p := computeJob(t, j)
			if wrong(p) {
				t.Fatalf("job %d: proof %+v, steps %s", seed, p.Proof, texts(p))
			}
			if p.Proof.InHand > max(hand, p.Pin.Now.InHand()) {
				t.Fatalf("job %d: %d in hand", seed, p.Proof.InHand)
			}
			for n := r.IntN(6); n > 0 && len(p.Steps) > 0; n-- {
				tick := p.Steps[0]
				tickWith(t, &j, &p, tick.ID)
				rest := computeJob(t, j)
				if has(rest.Findings, "tick-lost") {
					t.Fatalf("job %d: %s", seed, text(rest.Findings, "tick-lost"))
				}
				if hand > 0 && len(rest.Steps) != len(p.Steps)-1 {
					t.Fatalf("job %d: after %q of %s come %s; %+v", seed, tick.Text, texts(p), texts(rest), rest.Steps)
				}
				p = rest
			}
		}
	}
}
