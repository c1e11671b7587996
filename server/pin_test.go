package server_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/server/desk"
	"draxel/server/pinapi"
	"draxel/server/workapi"
)

// demoRefit opens the demonstration's re-pin job.
func (c *client) demoRefit(change func(*stored.Job)) string {
	c.t.Helper()
	jobs, err := demo.Jobs()
	if err != nil {
		c.t.Fatal(err)
	}
	return c.opened(jobs[0], change)
}

func (c *client) pin(job string) pinapi.PinView {
	c.t.Helper()
	return show[pinapi.PinView](c, job+"/pin")
}

func (c *client) tick(job string, seen int64, done bool, steps ...string) string {
	c.t.Helper()
	_, code := send[desk.Done](c, "POST", job+"/work/tick", workapi.TickRequest{ID: c.change(), Seen: seen,
		Steps: steps, Done: done, Spent: 1.5})
	return code
}

func at(name string) harness.Ref {
	return harness.Ref{Connector: name[:1], Cavity: name[1:]}
}

func stepIDs(v pinapi.PinView) []string {
	var out []string
	for _, s := range v.Steps {
		out = append(out, s.ID)
	}
	return out
}

// Every step of the demonstration is ticked; the plan goes on as it said it would, and ends with nothing to do.
func TestTheWholeSheetIsTicked(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	whole := stepIDs(v)
	if len(whole) < 50 || !v.Proof.Reached || v.Proof.InHand > 1 {
		t.Fatalf("%d steps, %+v", len(whole), v.Proof)
	}
	if code := c.tick(job, v.Revision, true, v.Steps[1].ID); code != "needs-first" {
		t.Errorf("the second step first: %q", code)
	}
	closing := slices.IndexFunc(v.Steps, func(s repin.Step) bool { return s.Kind == pin.Close })
	if code := c.tick(job, v.Revision, true, v.Steps[closing].ID); code != "needs-first" {
		t.Errorf("a connector closed before it is finished: %q", code)
	}
	for i, id := range whole {
		if code := c.tick(job, v.Revision, true, id); code != "" {
			t.Fatalf("step %d: %s", i+1, code)
		}
		if i%9 == 0 || i == len(whole)-1 {
			v = c.pin(job)
			if got := stepIDs(v); !slices.Equal(got, whole[i+1:]) || len(v.Done) != i+1 || !v.Proof.Reached {
				t.Fatalf("after step %d: %d left, %d done, proof %+v", i+1, len(got), len(v.Done), v.Proof)
			}
		}
	}
	if v.Done[0].Who != "Inès" || v.Done[0].Spent != 1.5 || v.Done[0].Minutes != 4 {
		t.Errorf("ticked as %+v", v.Done[0])
	}
	if code := c.tick(job, v.Revision, false, whole[0]); code != "later-steps" {
		t.Errorf("the first tick taken back under all others: %q", code)
	}
	if code := c.tick(job, v.Revision, false, whole[len(whole)-1]); code != "" {
		t.Errorf("the last tick taken back: %q", code)
	}
}

// Ticks keep their order even where the clock stands still: two may come within a millisecond.
func TestTicksOfOneMomentKeepTheirOrder(t *testing.T) {
	c := startAt(t, func() time.Time { return time.UnixMilli(1_764_000_000_000) })
	job := c.demoRefit(nil)
	v := c.pin(job)
	whole := stepIDs(v)
	for i, id := range whole[:20] {
		if code := c.tick(job, v.Revision, true, id); code != "" {
			t.Fatalf("step %d: %s", i+1, code)
		}
	}
	v = c.pin(job)
	for i, d := range v.Done {
		if d.Step != whole[i] {
			t.Fatalf("tick %d is %q", i+1, d.Text)
		}
	}
	if len(v.Done) != 20 || !slices.Equal(stepIDs(v), whole[20:]) {
		t.Errorf("%d done, %d left", len(v.Done), len(v.Steps))
	}
}

// A browser that lost the reply sends the change again: it is one change.
func TestATickArrivesOnce(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	r := workapi.TickRequest{ID: "again", Seen: v.Revision, Steps: []string{v.Steps[0].ID}, Done: true}
	first, code := send[desk.Done](c, "POST", job+"/work/tick", r)
	if code != "" {
		t.Fatal(code)
	}
	second, code := send[desk.Done](c, "POST", job+"/work/tick", r)
	if code != "" || second.Revision != first.Revision || len(c.pin(job).Done) != 1 {
		t.Errorf("sent twice: %q, revisions %d and %d, %d done", code, first.Revision, second.Revision, len(c.pin(job).Done))
	}
	r.ID = "other"
	if _, code = send[desk.Done](c, "POST", job+"/work/tick", r); code != "no-such-step" {
		t.Errorf("a step that is done, done again: %q", code)
	}
}

// The same move can be made, undone by hand and made again: each is kept.
func TestTheSameMoveTwice(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	s := v.Steps[0]
	for round := range 2 {
		if code := c.tick(job, v.Revision, true, s.ID); code != "" {
			t.Fatal(round, code)
		}
		v = c.pin(job)
		if _, code := send[desk.Done](c, "POST", job+"/pin/otherwise",
			pinapi.OtherwiseRequest{ID: c.change(), Seen: v.Revision, At: s.To, To: s.From}); code != "" {
			t.Fatal(round, code)
		}
		v = c.pin(job)
		if len(v.Done) != 2*round+2 || v.Steps[0].ID != s.ID || !v.Proof.Reached ||
			slices.ContainsFunc(v.Findings, func(f finding.Finding) bool { return f.Code == "tick-lost" }) {
			t.Fatalf("round %d: %d done, first %q, proof %+v, %v", round, len(v.Done), v.Steps[0].Text, v.Proof, v.Findings)
		}
	}
}

func TestDoneOtherwise(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	s := v.Steps[0]
	other := func(r pinapi.OtherwiseRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[desk.Done](c, "POST", job+"/pin/otherwise", r)
		return code
	}
	for _, x := range []struct {
		r    pinapi.OtherwiseRequest
		code string
	}{
		{pinapi.OtherwiseRequest{At: harness.Ref{Connector: "A", Cavity: "99"}}, "no-such-terminal"},
		{pinapi.OtherwiseRequest{At: s.From, To: v.Steps[1].From}, "cannot-be"},
		{pinapi.OtherwiseRequest{Label: "nobody", To: s.To}, "no-such-terminal"},
		{pinapi.OtherwiseRequest{At: s.From}, ""},
	} {
		if code := other(x.r); code != x.code {
			t.Errorf("%+v: %q, want %q", x.r, code, x.code)
		}
	}
	v = c.pin(job)
	if !slices.Equal(v.Hand, []string{"from " + s.From.String()}) || v.Steps[0].Terminal != s.Terminal ||
		!v.Proof.Reached {
		t.Fatalf("in hand %v, next %q, proof %+v", v.Hand, v.Steps[0].Text, v.Proof)
	}
	if code := other(pinapi.OtherwiseRequest{Label: v.Hand[0]}); code != "no-such-terminal" {
		t.Errorf("in hand, and still in hand: %q", code)
	}
	if code := other(pinapi.OtherwiseRequest{Label: v.Hand[0], Off: true}); code != "" || len(c.pin(job).Hand) != 0 {
		t.Errorf("sealed off from the hand: %q", code)
	}
	last := c.pin(job).Done
	if code := c.tick(job, c.pin(job).Revision, false, last[len(last)-1].Step); code != "" {
		t.Errorf("and taken back: %q", code)
	}
	if code := other(pinapi.OtherwiseRequest{Label: v.Hand[0], To: s.To}); code != "" || len(c.pin(job).Hand) != 0 {
		t.Errorf("put in by its label: %q", code)
	}
	if code := other(pinapi.OtherwiseRequest{At: s.To, Off: true}); code != "" {
		t.Errorf("sealed off: %q", code)
	}
	if v = c.pin(job); !v.Proof.Reached || len(v.Hand) != 0 {
		t.Errorf("after it was sealed off: %+v", v.Proof)
	}
}

func TestReportsAreSettled(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	say := func(what pin.What, ref harness.Ref, saw string) string {
		_, code := send[desk.Done](c, "POST", job+"/pin/reports",
			pinapi.ReportRequest{ID: c.change(), Seen: v.Revision, What: what, At: ref, Saw: saw})
		return code
	}
	s := v.Steps[0]
	for _, x := range []struct {
		what pin.What
		at   harness.Ref
		code string
	}{{"burnt", s.From, "no-action"}, {pin.IsStuck, harness.Ref{}, "no-cavity"}, {pin.IsStuck, at("A99"), "no-cavity"},
		{pin.Broken, harness.Ref{Connector: "Q"}, "no-such-connector"}, {pin.Occupied, s.From, "known-wire"},
		{pin.Differs, s.To, "no-such-terminal"}, {pin.IsStuck, s.From, ""}} {
		if code := say(x.what, x.at, ""); code != x.code {
			t.Errorf("%s at %s: %q, want %q", x.what, x.at, code, x.code)
		}
	}
	after := c.pin(job)
	if slices.Contains(stepIDs(after), s.ID) || len(after.Steps) >= len(v.Steps) || !after.Proof.Reached {
		t.Errorf("the stuck terminal is still to be moved: %d steps, %+v", len(after.Steps), after.Proof)
	}
	settle := job + "/pin/reports/" + after.Reports[0].ID + "/settle"
	if _, code := send[desk.Done](c, "POST", settle, pinapi.SettleRequest{ID: c.change(),
		Seen: after.Revision}); code != "no-reason" {
		t.Errorf("settled without saying how: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", settle, pinapi.SettleRequest{ID: c.change(), Seen: after.Revision,
		Settled: "came out with the other pick"}); code != "" {
		t.Error(code)
	}
	if got := stepIDs(c.pin(job)); !slices.Equal(got, stepIDs(v)) {
		t.Error("settled, and the plan is not as it was")
	}
}

func TestSecondCheckAndBench(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := show[pinapi.CheckView](c, job+"/pin/check")
	e := v.Expected[0]
	if !e.Power || v.Left == 0 {
		t.Fatalf("expected %+v", e)
	}
	say := func(r pinapi.CheckRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[desk.Done](c, "POST", job+"/pin/check", r)
		return code
	}
	if code := say(pinapi.CheckRequest{At: at("A99"), OK: true}); code != "no-cavity" {
		t.Errorf("of no cavity: %q", code)
	}
	if code := say(pinapi.CheckRequest{At: e.At, Saw: "black"}); code != "" {
		t.Fatal(code)
	}
	if !slices.ContainsFunc(c.pin(job).Findings, func(f finding.Finding) bool {
		return f.Code == "second-check" &&
			f.Severity == finding.Danger
	}) {
		t.Error("a power that differs is no danger")
	}
	if code := say(pinapi.CheckRequest{At: e.At, Drop: true}); code != "" ||
		len(show[pinapi.CheckView](c, job+"/pin/check").Checks) != 0 {
		t.Errorf("taken back: %q", code)
	}
	b := show[pinapi.BenchView](c, job+"/bench?stage=pin")
	last := b.Steps[len(b.Steps)-1]
	if b.Stage != "pin" || len(b.Steps) != len(c.pin(job).Steps) || last.Kind != "close" ||
		!strings.Contains(last.After, "Count: ") {
		t.Errorf("the bench: %d steps, last %+v", len(b.Steps), last)
	}
	whole := c.packhorse(nil)
	thin := show[pinapi.BenchView](c, whole+"/bench?stage=thin")
	if thin.Stage != "thin" || len(thin.Steps) != len(show[workapi.WorkView](c, whole+"/thin/work").Steps) {
		t.Errorf("Thin at the bench: %d steps", len(thin.Steps))
	}
	if link := show[desk.LinkView](c, job+"/bench/link"); link.Address != "" || !strings.Contains(link.Why, "--lan") {
		t.Errorf("a link though nobody is let in: %+v", link)
	}
}
