package plan_test

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/signal"
	"draxel/core/stored"
	"draxel/core/work"
)

// pinout makes a pinout from "A1 text" lines.
func pinout(name string, ways int, lines ...string) harness.Pinout {
	p := harness.Pinout{Name: name, Trust: harness.Maker}
	for i, l := range lines {
		at, text, _ := strings.Cut(l, " ")
		row := harness.Row{Ref: harness.Ref{Connector: at[:1], Cavity: at[1:]},
			Conductor: harness.Conductor{Function: text, Signal: signal.Read(text)}, Line: i + 1, Empty: text == ""}
		if _, known := p.Connector(row.Ref.Connector); !known {
			p.Connectors = append(p.Connectors, harness.Connector{ID: row.Ref.Connector, Name: row.Ref.Connector,
				Cavities: harness.Numbered(ways), Rows: 2})
		}
		p.Rows = append(p.Rows, row)
	}
	return p
}

func ref(s string) harness.Ref { return harness.Ref{Connector: s[:1], Cavity: s[1:]} }

func matched(from, to string) match.Decision {
	return match.Decision{Side: match.From, At: ref(from), Choice: match.Matched, To: ref(to)}
}

func compute(from, to harness.Pinout, decisions ...match.Decision) plan.Plan {
	return plan.Compute(fact.Facts{Kind: stored.Repinned, From: from, To: to, Meetings: match.SameNames(from, to)},
		stored.Decisions{Match: decisions, Pin: pin.Decisions{Limit: 1}})
}

func texts(p plan.Plan) string {
	var out []string
	for _, s := range p.Steps {
		if s.Kind == pin.Close {
			continue // the lock goes home: that is Pin's to test
		}
		out = append(out, fmt.Sprintf("%s %s %s", s.Kind, s.From, s.To))
	}
	return strings.Join(out, "; ")
}

// tickWith ticks a step off with everything that it needs of other stages before.
func tickWith(t *testing.T, j *stored.Job, p *plan.Plan, id string) {
	t.Helper()
	if _, done := p.Done(id); done {
		return
	}
	s, ok := p.Step(id)
	if !ok {
		return
	}
	for _, n := range s.Needs {
		if need, known := p.Step(n); known && need.Stage != s.Stage {
			tickWith(t, j, p, n)
		}
	}
	p.Past.Done[id] = work.Tick{}
	x, _ := p.Tick(id)
	x.When, x.Seq = 1, len(j.Ticks)
	for n := 2; slices.ContainsFunc(j.Ticks, func(have work.Tick) bool { return have.Step == x.Step }); n++ {
		x.Step = fmt.Sprintf("%s-%d", id, n)
	}
	j.Ticks = append(j.Ticks, x)
}

// wrong says what a proof must never say of a job that can be worked: a fault, a difference, a match that is none.
func wrong(p plan.Plan) bool {
	return p.Proof.Fault != "" || len(p.Proof.Differences)+len(p.Proof.Apart) > 0 || !p.Proof.Reached &&
		!p.Proof.Partial && len(p.Proof.Meets) == 0
}

// joinSteps gives the sentences of the steps that make joints and lay new wires.
func joinSteps(p plan.Plan) string {
	var out []string
	for _, s := range p.Join.Steps {
		out = append(out, s.Text)
	}
	return strings.Join(out, "\n")
}

func has(all []finding.Finding, code string) bool {
	return slices.ContainsFunc(all, func(f finding.Finding) bool { return f.Code == code })
}

func TestDecisionsBecomeSteps(t *testing.T) {
	from := pinout("from", 6, "A1 Injector 1", "A2 Injector 2", "A3 Canister purge", "A4 Battery feed")
	to := pinout("to", 6, "A1 Injector 2", "A2 Injector 1", "A5 Knock sensor 1")
	p := compute(from, to, matched("A1", "A2"), matched("A2", "A1"),
		match.Decision{Side: match.From, At: ref("A3"), Choice: match.Gone},
		match.Decision{Side: match.From, At: ref("A4"), Choice: match.Sourced, Source: "battery"})
	if got := texts(p); got != "out A3 ; hold A4 ; pull A1 ; move A2 A1; seat  A2; new  A5; plug  A3; plug  A4" {
		t.Errorf("steps %s", got)
	}
	if !p.Proof.Reached || p.Proof.Steps != 12 || p.Proof.InHand != 1 {
		t.Errorf("proof %+v", p.Proof)
	}
	if !p.Totals.Reconciled || p.Totals.Open != 0 {
		t.Errorf("totals %+v", p.Totals)
	}
}

func TestUndecidedStaysAndHoldsItsCavity(t *testing.T) {
	from := pinout("from", 6, "A1 Injector 1", "A2 zqk", "A3 Injector 2")
	to := pinout("to", 6, "A2 Injector 1", "A1 Injector 2")
	p := compute(from, to, matched("A1", "A2"), matched("A3", "A1"))
	if len(p.Steps) != 0 || p.Withheld != 2 || !has(p.Findings, "cavity-held") || !p.Proof.Reached {
		t.Errorf("A2 is not decided: A1 cannot go there, so A3 cannot follow; steps %q, findings %v", texts(p), p.Findings)
	}
}

func TestOpenRowsPromiseNoNewWire(t *testing.T) {
	from := pinout("from", 6, "A1 Injector 1")
	to := pinout("to", 6, "A2 Injector 1", "A3 Injector 2")
	if got := texts(compute(from, to)); got != "new  A3" {
		t.Errorf("steps %q: A2 may still be filled by A1, A3 by nobody", got)
	}
}

func TestKindsThatJoinMoveNothing(t *testing.T) {
	from, to := pinout("from", 6, "A1 Injector 1"), pinout("to", 6, "P2 Injector 1")
	f := fact.Facts{Kind: stored.Integrated, From: from, To: to, Meetings: stored.Integrated.Meetings(from, to)}
	p := plan.Compute(f, stored.Decisions{Match: []match.Decision{matched("A1", "P2")}})
	if len(p.Steps) != 0 || p.Totals.Meets != 1 || len(p.Join.Joints) != 1 || !p.Proof.Reached || p.Proof.Partial {
		t.Errorf("steps %q, totals %+v, joints %+v, proof %+v", texts(p), p.Totals, p.Join.Joints, p.Proof)
	}
}

func TestNewHousingOfTheSameName(t *testing.T) {
	from, to := pinout("from", 4, "A1 Injector 1", "A2 Injector 2"), pinout("to", 4, "A1 Injector 1", "A2 Injector 2")
	f := fact.Facts{Kind: stored.Repinned, From: from, To: to, Meetings: match.Meetings{}}
	p := plan.Compute(f, stored.Decisions{Match: []match.Decision{matched("A1", "A1"), matched("A2", "A2")}})
	if got := texts(p); got != "move A1 new A-1; move A2 new A-2" || !p.Proof.Reached ||
		!has(p.Findings, "terminal-system") {
		t.Errorf("steps %q, proof %+v", got, p.Proof)
	}
}

func TestFindings(t *testing.T) {
	doubtful := pinout("from", 9, "A1 Injector 1", "A2 Injector 3", "A3 Battery feed", "A4 Knock sensor 1 signal",
		"A5 Knock sensor 1 ground", "A6 Airbag squib", "A7 Coil feed, resistance wire", "A8 MAP sensor frequency signal",
		"A9 Injector 1")
	doubtful.Trust = harness.Copied
	to := pinout("to", 9, "A1 Terminal 15", "A2 Power ground", "A4 Knock sensor 1 signal", "A8 MAP sensor signal",
		"A9 Injector 2 high side")
	p := compute(doubtful, to, matched("A4", "A4"), matched("A8", "A8"), matched("A3", "A2"))
	for _, code := range []string{"feed-missing", "cylinder-missing", "cylinder-twice", "unverified-feed", "wires-differ",
		"signal-differs", "left-alone", "resistance-feed", "veto"} {
		if !has(p.Findings, code) {
			t.Errorf("no finding %s in %v", code, p.Findings)
		}
	}
	if p.Findings[0].Severity != finding.Danger {
		t.Errorf("the first finding is %+v, want a danger", p.Findings[0])
	}
	vacant := match.Decision{Side: match.To, At: ref("A1"), Choice: match.Vacant, Reason: "fed elsewhere"}
	n := len(compute(doubtful, to).Findings)
	if m := len(compute(doubtful, to, vacant).Findings); m >= n {
		t.Errorf("%d findings with the cavity left empty on purpose, %d without", m, n)
	}
}

// Whatever is decided, the steps lead to the wanted harness and never more than one terminal is loose.
func TestRandomJobsAreProven(t *testing.T) {
	words := []string{"Injector 1", "Injector 2", "Coil 1", "Battery feed", "Power ground", "Knock sensor 1", "zqk",
		"CAN high", "Canister purge", ""}
	for seed := range uint64(1500) {
		r := rand.New(rand.NewPCG(seed, 21))
		side := func(n int) []string {
			var lines []string
			for _, c := range r.Perm(12)[:n] {
				lines = append(lines, fmt.Sprintf("%c%d %s", 'A'+rune(c%2), c/2+1, words[r.IntN(len(words))]))
			}
			return lines
		}
		from, to := pinout("from", 6, side(3+r.IntN(9))...), pinout("to", 6, side(3+r.IntN(9))...)
		kept := match.SameNames(from, to)
		if r.IntN(3) == 0 {
			delete(kept, "A")
		}
		if r.IntN(5) == 0 && kept["B"].With != "" {
			kept["A"] = kept["B"] // two To connectors said to be one housing
		}
		var d []match.Decision
		for _, row := range from.Rows {
			switch r.IntN(5) {
			case 0:
				d = append(d, match.Decision{Side: match.From, At: row.Ref, Choice: match.Gone})
			case 1:
				d = append(d, match.Decision{Side: match.From, At: row.Ref, Choice: match.Sourced, Source: "ground"})
			case 2, 3:
				d = append(d, match.Decision{Side: match.From, At: row.Ref, Choice: match.Matched,
					To: to.Rows[r.IntN(len(to.Rows))].Ref})
			}
		}
		f := fact.Facts{Kind: stored.Repinned, From: from, To: to, Meetings: kept}
		p := plan.Compute(f, stored.Decisions{Match: d})
		if !p.Proof.Reached || p.Proof.InHand > 1 {
			t.Fatalf("seed %d: proof %+v, steps %s", seed, p.Proof, texts(p))
		}
		if !p.Totals.Reconciled {
			t.Fatalf("seed %d: totals do not reconcile: %+v", seed, p.Totals)
		}
		if seed%50 == 0 {
			again := plan.Compute(f, stored.Decisions{Match: d})
			if !reflect.DeepEqual(p.Steps, again.Steps) || !reflect.DeepEqual(p.Findings, again.Findings) ||
				!reflect.DeepEqual(p.Match.Lines, again.Match.Lines) {
				t.Fatalf("seed %d: the same input gave another plan", seed)
			}
		}
	}
}

func TestStepsNameTheirWire(t *testing.T) {
	from, to := pinout("from", 6, "A1 Injector 1"), pinout("to", 6, "A2 Injector 1")
	p := compute(from, to, matched("A1", "A2"))
	if len(p.Steps) != 3 || p.Steps[0].Kind != pin.Move || p.Steps[0].Wire.Function != "Injector 1" ||
		p.Steps[0].Goal.Ref != ref("A2") {
		t.Errorf("steps %+v", p.Steps)
	}
}
