package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/server/matchapi"
)

// What a pair was accepted at is noted by the server, stays when the way is changed, and is a finding below even odds.
func TestHowSureAPairWasIsNoted(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) { j.Decisions, j.Own = nil, nil })
	v := show[matchapi.MatchView](c, job+"/match")
	i := slices.IndexFunc(v.Lines, func(l match.Line) bool {
		return l.Verdict == match.Undecided && len(l.Candidates) > 0 && l.Candidates[0].P < 0.45
	})
	if i < 0 {
		t.Fatal("no row is doubtful")
	}
	low := v.Lines[i]
	k := slices.IndexFunc(v.Lines, func(l match.Line) bool { return l.Feeds() && l.P > 0.9 })
	for _, l := range []match.Line{low, v.Lines[k]} {
		to := l.To
		if !l.Feeds() {
			to = l.Candidates[0].To
		}
		if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: l.From, Action: matchapi.Accept,
			To: to}); code != "" {
			t.Fatalf("%s to %s: %s", l.From, to, code)
		}
	}
	v = show[matchapi.MatchView](c, job+"/match")
	var said []finding.Finding
	for _, f := range v.Findings {
		if f.Code == "unlikely-match" {
			said = append(said, f)
		}
	}
	d := slices.IndexFunc(v.Decisions, func(d match.Decision) bool { return d.At == low.From })
	if v.Decisions[d].Sure < low.Candidates[0].P*0.999 || v.Decisions[d].Sure >= 0.5 {
		t.Errorf("noted is %v, and it was %v", v.Decisions[d].Sure, low.Candidates[0].P)
	}
	if len(said) != 1 || said[0].Subject != low.From.String() || !strings.Contains(said[0].Text, " %") {
		t.Errorf("%v", said)
	}
}
