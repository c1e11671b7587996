package server_test

import (
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/server/desk"
	"draxel/server/feedapi"
	"draxel/server/jobsapi"
)

// What is live is asked for by position; what cannot be asked is refused with a code that stays.
func TestFeedIsAsked(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[feedapi.FeedView](c, job+"/feed")
	if !v.Said || len(v.Trees["run"]) < 20 || len(v.Positions) != 5 {
		t.Fatalf("said %v, %d in the tree", v.Said, len(v.Trees["run"]))
	}
	tree := show[feedapi.FeedTree](c, job+"/feed/tree?position=run&sw=light+switch")
	lit := false
	for _, f := range tree.Tree {
		lit = lit || f.ID == "light switch" && !f.Open
	}
	if !lit {
		t.Error("the light switch is on and open")
	}
	o := show[feed.Outcome](c, job+"/feed/ask?position=running&do=open&element=fuse+5")
	if !strings.Contains(strings.Join(o.Stops, " "), "VK-2") {
		t.Errorf("fuse 5 pulled stops %v", o.Stops)
	}
	for path, code := range map[string]string{
		"/feed/ask?position=sideways&do=open&element=fuse+5":  "no-such-position",
		"/feed/ask?position=run&do=melt":                      "no-such-fault",
		"/feed/ask?position=run&do=worse&element=P054&ohms=x": "bad-value",
		"/feed/tree?position=run&sw=nothing":                  "no-such-switch",
		"/feed/spice?position=":                               "no-such-position",
		"/feed/dot?position=never":                            "no-such-position",
	} {
		if _, got := send[any](c, "GET", job+path, nil); got != code {
			t.Errorf("%s: %q, want %s", path, got, code)
		}
	}
}

// What is usual is proposed, taken into the lists by one change that can be taken back, told as not looked at until
// somebody has; and the table of what is live follows.
func TestWhatIsUsualIsTakenAndLookedAt(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	view := show[feedapi.UsualView](c, job+"/feed/usual")
	if len(view.Lines) < 6 || c.feed(job).Said {
		t.Fatalf("%d lines are proposed", len(view.Lines))
	}
	var all []feedapi.UsualLine
	for _, l := range view.Lines {
		all = append(all, feedapi.UsualLine{List: l.List, Name: l.Name})
	}
	for _, bad := range []struct {
		code string
		body feedapi.UsualRequest
	}{
		{"no-such-line", feedapi.UsualRequest{Lines: []feedapi.UsualLine{{List: "fuses", Name: "nothing"}}}},
		{"nothing-taken", feedapi.UsualRequest{}}, {"no-such-list", feedapi.UsualRequest{So: "wires"}},
		{"nothing-taken", feedapi.UsualRequest{So: "fuses"}},
	} {
		bad.body.ID, bad.body.Seen = c.change(), view.Revision
		if code := c.asked(job, "POST", "/usual", bad.body); code != bad.code {
			t.Errorf("%+v: %q, want %s", bad.body, code, bad.code)
		}
	}
	if code := c.asked(job, "POST", "/usual", feedapi.UsualRequest{ID: c.change(), Seen: view.Revision,
		Lines: all}); code != "" {
		t.Fatalf("%v: %s", all, code)
	}
	unlooked := func() (lists []string) {
		for _, f := range c.feed(job).Findings {
			if f.Code == "usual-not-looked" {
				lists = append(lists, f.Subject)
			}
		}
		return lists
	}
	v := c.feed(job)
	if !v.Said || len(unlooked()) != 5 || len(show[feedapi.UsualView](c, job+"/feed/usual").Lines) != 0 {
		t.Fatalf("said %v, not looked at %v", v.Said, unlooked())
	}
	if code := c.asked(job, "POST", "/usual", feedapi.UsualRequest{ID: c.change(), Seen: v.Revision,
		So: "cables"}); code != "" {
		t.Fatal(code)
	}
	if got := unlooked(); len(got) != 4 {
		t.Errorf("not looked at: %v", got)
	}
	rows := show[feedapi.FeedLines](c, job+"/feed/table?position=crank").Rows
	live := map[string]feed.Alive{}
	for _, r := range rows {
		live[r.Name] = r.Live
	}
	if live["starter cable"] != "live" || live["block to body strap"] != "dead" || live["starter motor"] != "works" {
		t.Errorf("the table in crank: %v", live)
	}
	for range 2 {
		if _, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{ID: c.change()}); code != "" {
			t.Fatal(code)
		}
	}
	if c.feed(job).Said {
		t.Error("taken back, and something is said all the same")
	}
}
