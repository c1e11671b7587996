package papers_test

import (
	"fmt"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/work"
	"draxel/demo"
)

// Whatever a step uses up is in the order list: counted here from what the steps say that hands do, edit by edit, and
// there from the list. Each line names steps that are on the work list; what is done is asked for no more.
func TestNoStepIsWithoutWhatItTakes(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	if err := demo.HandOver(&all[1]); err != nil {
		t.Fatal(err)
	}
	for i, id := range demo.IDs() {
		j := &all[i]
		f, err := fact.Of(*j)
		if err != nil {
			t.Fatal(err)
		}
		f = f.With(j.Block)
		p := plan.Compute(f, j.Chosen())
		lines := handover.Merge(papers.Wants(&p, &f, j.Chosen(), 0), nil, func(string) int { return 0 })
		uses := map[string]int{}
		open := map[string]bool{}
		for k := range p.Work.Steps {
			s := &p.Work.Steps[k]
			if _, done := p.Done(s.ID); done {
				continue
			}
			open[s.ID] = true
			for _, e := range s.Edits {
				switch e.Do {
				case harness.Join, harness.Tap, harness.Tie, harness.Heal:
					uses["sleeve"]++
				case harness.Seal:
					uses["cap for a cut end"]++
				case harness.Cap, harness.Park:
					uses["cap for a terminal"]++
				case harness.Plug:
					uses["cavity plug"]++
				case harness.Land:
					uses["ring terminal for"]++
				}
				if e.Do == harness.Crimp && s.Stage != work.Pin {
					uses["terminal"]++
				}
			}
			if s.Stage == work.Pin && s.Kind == "new" {
				uses["terminal"]++
			}
		}
		has := map[string]int{}
		for _, l := range lines {
			for _, step := range l.Steps {
				if !open[step] {
					t.Errorf("%s: %s waits in a step that is not open", id, l.What)
				}
			}
			for kind := range uses {
				if kind != "terminal" && strings.HasPrefix(l.What, kind) {
					has[kind] += int(l.Need - l.Used)
				}
			}
			if strings.HasPrefix(l.What, "terminals for") ||
				strings.Contains(l.What, "terminal") && !strings.HasPrefix(l.What, "cap") &&
					!strings.HasPrefix(l.What, "ring") {
				has["terminal"] += int(l.Need - l.Used)
			}
			if l.Need <= 0 {
				t.Errorf("%s: nothing of %s is needed", id, l.What)
			}
		}
		t.Logf("%s: uses %v, list %v", id, uses, has)
		for kind, n := range uses {
			if kind == "terminal" && j.Title == "Sorrel refit" {
				continue // its housings are known: a terminal there is a terminal and a seal by name
			}
			if has[kind] != n {
				t.Errorf("%s: %d of %s are used, %d are on the list: %s", id, n, kind, has[kind], fmt.Sprint(lines))
			}
		}
	}
}
