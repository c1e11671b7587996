package server_test

import (
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
	"draxel/server/jobsapi"
)

// Where no step is left the front page does not say that all is done: undecided wires, functions and gates come next,
// and a job of nothing is told to bring something.
func TestTheFrontPageKnowsWhatIsNext(t *testing.T) {
	c := start(t)
	front := func(job string) jobsapi.FrontView { return show[jobsapi.FrontView](c, job+"/front") }
	ticked := func(j *stored.Job) {
		f, err := fact.Of(*j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, j.Chosen())
		for i := range p.Work.Steps {
			x := &p.Work.Steps[i]
			j.Ticks = append(j.Ticks, work.Tick{Step: x.ID, Seq: i + 1, Edits: x.Edits, Text: x.Text,
				Stage: x.Stage, Kind: x.Kind})
		}
	}
	if v := front(c.packhorse(nil)); v.Next == nil || v.Steps == 0 || len(v.Next.Waits) == 0 || v.Hours <= 0 {
		t.Errorf("the Packhorse has %d steps, next %+v", v.Steps, v.Next)
	}
	v := front(c.packhorse(ticked))
	if v.Steps != 0 || v.Next == nil || v.Next.Stage != "match" || !strings.Contains(v.Next.Text, "Decide") ||
		v.Done == 0 {
		t.Errorf("all steps ticked and wires undecided: %d left, next %+v", v.Steps, v.Next)
	}
	v = front(c.opened(stored.Job{Title: "nothing", Kind: stored.Integrated}, nil))
	if v.Next == nil || v.Next.Stage != "gather" {
		t.Errorf("of nothing at all next is %+v", v.Next)
	}
}

// What can hurt is shown kind by kind, the first of each with how many more there are: all of them are accounted for.
func TestWhatCanHurtIsShownByKind(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[jobsapi.FrontView](c, job+"/front")
	kinds, sum := map[string]bool{}, 0
	for _, f := range v.Danger {
		if kinds[f.Code] {
			t.Errorf("%s is shown twice", f.Code)
		}
		kinds[f.Code] = true
		sum += 1 + v.Alike[f.Code]
	}
	if !kinds["too-thin"] || !kinds["starter-fed"] || !kinds["cranks-in-gear"] || sum != v.Dangers {
		t.Errorf("%d of %d, of %v", sum, v.Dangers, kinds)
	}
}
