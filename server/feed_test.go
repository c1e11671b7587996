package server_test

import (
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/server"
)

// What is live is asked for by position; what cannot be asked is refused with a code that stays.
func TestFeedIsAsked(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[server.FeedView](c, job+"/feed")
	if !v.Said || len(v.Trees["run"]) < 20 || len(v.Positions) != 5 {
		t.Fatalf("said %v, %d in the tree", v.Said, len(v.Trees["run"]))
	}
	tree := show[server.FeedTree](c, job+"/feed/tree?position=run&sw=light+switch")
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
		"/feed/ask?position=sideways&do=open&element=fuse+5": "no-such-position", "/feed/ask?position=run&do=melt": "no-such-fault",
		"/feed/ask?position=run&do=worse&element=P054&ohms=x": "bad-value", "/feed/tree?position=run&sw=nothing": "no-such-switch",
		"/feed/spice?position=": "no-such-position", "/feed/dot?position=never": "no-such-position",
	} {
		if _, got := send[any](c, "GET", job+path, nil); got != code {
			t.Errorf("%s: %q, want %s", path, got, code)
		}
	}
}
