package demo_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/part"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// watched is a memory that notes which parts are computed.
func watched() (*part.Memory, *[]string) {
	computed := &[]string{}
	return &part.Memory{Watch: func(name string, kept bool) func() {
		if !kept {
			*computed = append(*computed, name)
		}
		return func() {}
	}}, computed
}

// loaded gives a job as the store gives it: equal, and none of it the same thing.
func loaded(t *testing.T, j *stored.Job) stored.Job {
	t.Helper()
	body, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	var out stored.Job
	if err := json.Unmarshal(body, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// A change computes again what reads it, and nothing else; and what is kept is what would be computed.
func TestWhatIsComputedAgain(t *testing.T) {
	_, base := jobs(t)
	first, err := fact.Of(base)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(first, base.Chosen())
	bench := harness.Work(p.Past.Now)
	next := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool {
		_, done := p.Done(s.ID)
		return !done && len(s.Edits) > 0 && p.Ready(&s, bench)
	})
	tick, _ := p.Tick(p.Work.Steps[next].ID)
	for _, c := range []struct {
		name   string
		change func(j *stored.Job)
		again  string
	}{
		{"nothing", func(*stored.Job) {}, ""},
		{"a price", func(j *stored.Job) { j.Terms = &handover.Terms{PerHour: 70} }, ""},
		{"what was bought", func(j *stored.Job) { j.Bought = append(j.Bought, handover.Bought{}) }, ""},
		{"an answer", func(j *stored.Job) {
			f := p.Findings[0]
			j.Acks = append(j.Acks, finding.Answer{Code: f.Code, Subject: f.Subject, Reason: "seen"})
		}, ""},
		{"a note", func(j *stored.Job) {
			j.Notes = append(j.Notes, prove.Note{Kind: prove.Changed, Text: "a relay", When: 9})
		},
			"measured"},
		{"what a function is wanted to be", func(j *stored.Job) {
			j.Functions = append(slices.Clone(j.Functions), join.FunctionWish{Function: "horn", Choice: join.NotFitted})
		}, "functions measured"},
		{"a step of our own", func(j *stored.Job) { j.Own = append(j.Own, stored.OwnStep{ID: "o1", Text: "Wash it."}) },
			"work"},
		{"a fuse line", func(j *stored.Job) { j.Sheets[gather.FuseList].Cells[1][3] += "0" },
			"feed finished flow functions lists measured reach stands work"},
		{"a tick", func(j *stored.Job) { j.Ticks = append(j.Ticks, tick) }, "asked finished sheet wanted work"},
		{"how much an end needs", func(j *stored.Job) { r := *j.Rules; r.Drop += 10; j.Rules = &r },
			"asked feed finished functions measured reach sheet wanted work"},
		{"a place", func(j *stored.Job) { j.Places[0].Station = j.Map.Stations[0].ID },
			"asked feed finished functions measured reach sheet work"},
		{"a length that was measured", func(j *stored.Job) {
			j.Lengths = append(j.Lengths, reach.Measured{Wire: first.Laid.Loom.Wires[0].ID, Had: 4321})
		}, "asked feed finished functions measured reach work"},
		{"what was left over", func(j *stored.Job) {
			j.Leftover = append(j.Leftover, reach.Leftover{ID: "x", Wire: first.Laid.Loom.Wires[0].ID, Left: 20})
		}, "asked feed finished functions measured reach work"},
		{"a photograph", func(j *stored.Job) { j.Photos = append(j.Photos, stored.Photo{Connector: "A"}) },
			"asked facts fed feed finished flow found functions measured reach sheet stands thin wanted ways work"},
		{"a verdict of Thin", func(j *stored.Job) {
			j.Thin = append(slices.Clone(j.Thin), thin.Decision{On: thin.System, ID: "climate", Choice: thin.Goes})
		}, "asked feed finished flow functions measured reach sheet thin wanted ways work"},
		{"a decision of Match", func(j *stored.Job) {
			j.Decisions = slices.DeleteFunc(slices.Clone(j.Decisions),
				func(d match.Decision) bool { return d.At == j.Decisions[0].At })
		}, "asked fed feed finished flow functions match measured reach sheet thin wanted ways work"},
		{"a cell of a table", func(j *stored.Job) { j.From.Cells[2][2] += " (seen)" },
			"asked facts fed feed finished flow found functions measured reach sheet stands tables thin wanted ways work"},
	} {
		t.Run(c.name, func(t *testing.T) {
			memory, computed := watched()
			j := loaded(t, &base)
			follow := func() *plan.Plan {
				f, err := fact.Read(j, memory)
				if err != nil {
					t.Fatal(err)
				}
				return plan.Begin(f, j.Chosen(), memory).Whole()
			}
			was := follow()
			before := said(t, was)
			*computed = nil
			j = loaded(t, &j)
			c.change(&j)
			now := follow()
			slices.Sort(*computed)
			if got := strings.Join(*computed, " "); got != c.again {
				t.Errorf("computed again: %q, wanted %q", got, c.again)
			}
			f, err := fact.Of(j)
			if err != nil {
				t.Fatal(err)
			}
			fresh := plan.Compute(f, j.Chosen())
			if a, b := said(t, now), said(t, &fresh); !bytes.Equal(a, b) {
				t.Errorf("kept\n%s\nafresh\n%s", a, b)
			}
			if !bytes.Equal(before, said(t, was)) {
				t.Error("the plan before it has become another")
			}
		})
	}
}
