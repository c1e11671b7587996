package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
	"draxel/server/workapi"
)

// waysOf gives how each pair comes together.
func (c *client) waysOf(job string) map[harness.Ref]wanted.Way {
	out := map[harness.Ref]wanted.Way{}
	for _, w := range show[matchapi.MatchView](c, job+"/match").Ways {
		out[w.From] = w
	}
	return out
}

// A pair that is accepted comes together in a way; another way is another list of work, and what cannot be is refused.
func TestTheWayOfAMatch(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	row := harness.Ref{Connector: "K", Cavity: "1"}
	joins := func() (n int) {
		for _, s := range show[workapi.WorkView](c, job+"/work").Steps {
			if s.Stage == work.Join {
				n++
			}
		}
		return n
	}
	if w := c.waysOf(job)[row]; w.Way != match.Into || w.Chosen {
		t.Fatalf("proposed %+v", w)
	}
	before := joins()
	decide := func(way match.Way) string {
		return c.decide(job, matchapi.DecideRequest{Seen: 99, Side: match.From, At: row, Action: matchapi.ByWay, Way: way,
			Reason: "the gauge is fed from the plug"})
	}
	if code := decide("solder"); code == "" {
		t.Error("a way that there is not")
	}
	if code := decide(match.Lead); code == "" {
		t.Error("a lead, where the plug is a plug of the vehicle")
	}
	if code := decide(match.Tap); code != "" {
		t.Fatal(code)
	}
	if w := c.waysOf(job)[row]; w.Way != match.Tap || !w.Chosen || w.Proposed != match.Into {
		t.Errorf("chosen %+v", w)
	}
	w := show[workapi.WorkView](c, job+"/work")
	if joins() <= before || !w.Proof.Reached || w.Proof.Partial {
		t.Errorf("%d steps of joining, %d before; %+v", joins(), before, w.Proof)
	}
	i := slices.IndexFunc(w.Steps, func(s desk.WorkStep) bool {
		return s.Kind == "join" && strings.Contains(s.Text, "without cutting") && strings.Contains(s.Text, "K1")
	})
	measure := slices.IndexFunc(w.Steps,
		func(s desk.WorkStep) bool { return s.Kind == "measure" && strings.Contains(s.Text, "K1 ") })
	if i < 0 || measure < 0 || measure > i || w.Steps[i].Blocked == "" {
		t.Fatalf("the joint is step %d, its measuring step %d", i, measure)
	}
	if _, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{ID: c.change()}); code != "" {
		t.Fatal(code)
	}
	if w := c.waysOf(job)[row]; w.Way != match.Into || joins() != before {
		t.Errorf("after undo %+v", w)
	}
}

// A cavity that nothing serves gets a new wire from somewhere, and the joint of it is work.
func TestANewWireFromSomewhere(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	at := harness.Ref{Connector: "E", Cavity: "11"}
	wire := func(o *match.Origin) string {
		return c.decide(job, matchapi.DecideRequest{Seen: 99, Side: match.To, At: at, Action: matchapi.WireFrom, Origin: o})
	}
	for code, o := range map[string]*match.Origin{"no-origin": {Kind: match.AtFuse}, "no owner": {Kind: match.OpenEnd},
		"no cavity": {Kind: match.AtCavity}} {
		if got := wire(o); got == "" {
			t.Errorf("%s: %+v", code, o)
		}
	}
	if got := wire(&match.Origin{Kind: match.AtFuse, Name: "fans, 30 A"}); got != "" {
		t.Fatal(got)
	}
	m := show[matchapi.MatchView](c, job+"/match")
	w := show[workapi.WorkView](c, job+"/work")
	if !slices.ContainsFunc(w.Steps, func(s desk.WorkStep) bool {
		return s.Kind == "land" && strings.Contains(s.Text, "fans, 30 A") && len(s.Warn) > 0
	}) || !w.Proof.Reached {
		t.Errorf("the wire is not brought to its fuse: %+v", w.Proof)
	}
	if m.Totals.NewWire != 6 || !m.Totals.Reconciled {
		t.Errorf("totals %+v", m.Totals)
	}
}

// A step of one's own stands where it was put, keeps its place, and what it measures is held against its limit.
func TestAStepOfOnesOwn(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	steps := show[workapi.WorkView](c, job+"/work").Steps
	beside := steps[20]
	put := func(s stored.OwnStep) string {
		_, code := send[desk.Done](c, "POST", job+"/work/own", workapi.OwnRequest{ID: c.change(), Seen: 99, Step: s})
		return code
	}
	least, saw := 15.0, 9.0
	own := stored.OwnStep{ID: "hoist", Text: "Lower the gearbox: a hoist and a second person.", Before: beside.ID,
		What: "clearance", Unit: "mm", Least: &least, Saw: &saw}
	nothing := own
	nothing.What = ""
	elsewhere := own
	elsewhere.Before = "none"
	for code, s := range map[string]stored.OwnStep{"bad-step": nothing, "no-such-step": elsewhere, "": own} {
		if got := put(s); got != code {
			t.Errorf("%q, want %q", got, code)
		}
	}
	after := show[workapi.WorkView](c, job+"/work").Steps
	i := slices.IndexFunc(after, func(s desk.WorkStep) bool { return strings.HasPrefix(s.Text, "Lower the gearbox") })
	if i < 0 || i+1 >= len(after) || after[i+1].ID != beside.ID || after[i].Stage != work.Own {
		t.Errorf("it is step %d of %d, not before %q", i, len(after), beside.Text)
	}
	if !slices.ContainsFunc(show[matchapi.MatchView](c, job+"/match").Findings,
		func(f finding.Finding) bool { return strings.Contains(f.Text, "9 mm") }) {
		t.Error("9 mm where at least 15 were wanted is no finding")
	}
	if code := put(stored.OwnStep{ID: "hoist"}); code != "" ||
		len(show[workapi.WorkView](c, job+"/work").Steps) != len(steps) {
		t.Errorf("not taken away: %q", code)
	}
}

// A finding that may stand is answered with a reason, and comes back when what it says changes.
func TestAFindingIsAnswered(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	all := show[matchapi.MatchView](c, job+"/match").Findings
	wrong := all[slices.IndexFunc(all, func(f finding.Finding) bool { return f.Severity == finding.Wrong })]
	say := func(a finding.Answer) string {
		_, code := send[desk.Done](c, "POST", job+"/findings/answer", workapi.AnswerRequest{ID: c.change(), Seen: 99,
			Answer: a})
		return code
	}
	a := finding.Answer{Code: wrong.Code, Stage: wrong.Stage, Side: wrong.Side, Subject: wrong.Subject, Text: wrong.Text,
		Reason: "the coil is bought anew"}
	other := a
	other.Text = "Something else."
	if code := say(other); code != "no-such-finding" {
		t.Errorf("%q", code)
	}
	open := func() int { return len(finding.Open(show[matchapi.MatchView](c, job+"/match").Findings)) }
	before := open()
	if code := say(a); code != "" || open() != before-1 {
		t.Errorf("%q; %d open of %d", code, open(), before)
	}
	a.Reason = ""
	if code := say(a); code != "" || open() != before {
		t.Errorf("the answer is not taken back: %q", code)
	}
}
