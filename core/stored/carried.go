package stored

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/finding"
)

// Carried says what came along from an earlier job beside decisions about rows and wires, which say so themselves. It
// stays a question until somebody has looked at this vehicle, and answered it with a reason.
type Carried struct {
	From string   `json:"from"` // title of the earlier job
	What []string `json:"what"` // map, places, feeds, functions
}

// carriedKinds are what can come along: where it is looked at, and what it is in words.
var carriedKinds = []struct{ what, stage, part, words string }{
	{"map", "reach", "map", "the map with its measured paths and its rules"},
	{"places", "reach", "places", "where things live, and the disconnects"},
	{"feeds", "feed", "block", "the fuse block, the ways to feed and the fuses that are to be changed"},
	{"functions", "join", "", "what was stated of functions, the parts that they brought and the rules of the unit"},
	{"lists", "feed", "sources", "what stands in the vehicle beside its wires"},
}

// Check says why it cannot be.
func (c *Carried) Check() error {
	if c.From == "" || len(c.From) > 200 {
		return fmt.Errorf("an earlier job has a title of at most 200 letters")
	}
	if len(c.What) > len(carriedKinds) {
		return fmt.Errorf("%d kinds of things can come along", len(carriedKinds))
	}
	for _, w := range c.What {
		if carriedKind(w) < 0 {
			return fmt.Errorf("nothing like %q comes along from an earlier job", w)
		}
	}
	return nil
}

func carriedKind(what string) int {
	for i := range carriedKinds {
		if carriedKinds[i].what == what {
			return i
		}
	}
	return -1
}

// Findings asks of each thing that came along whether it is so here too.
func (c *Carried) Findings() []finding.Finding {
	var out []finding.Finding
	for _, w := range c.What {
		k := carriedKinds[carriedKind(w)]
		out = append(out, finding.Finding{Code: "carried-" + w, Severity: finding.Check, Stage: k.stage, Subject: w,
			Place:  finding.Place{Part: k.part},
			Text:   fmt.Sprintf("From “%s” came %s: nobody has said that it is so here.", c.From, k.words),
			Remedy: "Look at this vehicle, change what is otherwise, and then answer this with what you looked at."})
	}
	return out
}

// Carries gives what of a job comes along beside its decisions; nil where nothing does.
func (j *Job) Carries(title string) *Carried {
	c := Carried{From: title}
	lists, _ := FeedLists(j.FeedSheets())
	for what, there := range map[string]bool{"map": j.Map != nil, "places": len(j.Places)+len(j.Partings) > 0,
		"feeds": j.Block != nil || len(j.Feeds)+len(j.Rated) > 0, "lists": len(lists) > 0,
		"functions": len(j.Functions)+len(j.Added)+len(j.OutRules) > 0} {
		if there {
			c.What = append(c.What, what)
		}
	}
	if len(c.What) == 0 {
		return nil
	}
	slices.SortFunc(c.What, func(a, b string) int { return cmp.Compare(carriedKind(a), carriedKind(b)) })
	return &c
}
