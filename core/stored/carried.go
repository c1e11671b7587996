package stored

import (
	"cmp"
	"fmt"
	"reflect"
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

// Along gives the job that the next one of its kind begins with: the fields whose tag says that they come along, "yes"
// or what is asked about them.
func (j *Job) Along() Job {
	out := Job{Kind: j.Kind, Donor: j.Donor, Chassis: j.Chassis, OneScheme: j.OneScheme}
	from, to := reflect.ValueOf(j).Elem(), reflect.ValueOf(&out).Elem()
	for _, f := range Fields() {
		if f.Tag.Get("along") != "" {
			to.FieldByIndex(f.Index).Set(from.FieldByIndex(f.Index))
		}
	}
	return out
}

// there says whether something is in a field: a list or a table of nothing is nothing.
func there(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Slice, reflect.Map:
		return v.Len() > 0
	}
	return !v.IsZero()
}

// Carries gives what of a job comes along beside its decisions; nil where nothing does.
func (j *Job) Carries(title string) *Carried {
	c := Carried{From: title}
	if lists, _ := FeedLists(j.FeedSheets()); len(lists) > 0 {
		c.What = append(c.What, "lists")
	}
	job := reflect.ValueOf(j).Elem()
	for _, f := range Fields() {
		if what := f.Tag.Get("along"); carriedKind(what) >= 0 && there(job.FieldByIndex(f.Index)) &&
			!slices.Contains(c.What, what) {
			c.What = append(c.What, what)
		}
	}
	if len(c.What) == 0 {
		return nil
	}
	slices.SortFunc(c.What, func(a, b string) int { return cmp.Compare(carriedKind(a), carriedKind(b)) })
	return &c
}
