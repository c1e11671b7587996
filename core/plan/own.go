package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/stored"
	"draxel/core/work"
)

// ownSteps puts the person's own steps among the others.
func ownSteps(all []work.Step, own []stored.OwnStep, past *work.Past) ([]work.Step, []finding.Finding) {
	var found []finding.Finding
	for i := range own {
		o := &own[i]
		s := o.Step()
		if at := slices.IndexFunc(all, func(x work.Step) bool { return x.ID == o.After }); at >= 0 {
			s.Needs = []string{o.After}
			all = slices.Insert(all, at+1, s)
		} else if at := slices.IndexFunc(all, func(x work.Step) bool { return x.ID == o.Before }); at >= 0 {
			all[at].Needs = append(slices.Clone(all[at].Needs), s.ID)
			all = slices.Insert(all, at, s)
		} else if ticked(past, o.After) { // what it comes after is done, and off the list: it is its turn
			all = slices.Insert(all, 0, s)
		} else {
			all = append(all, s)
			_, done := past.Done[s.ID]
			if beside := o.After + o.Before; beside != "" && !done && !ticked(past, beside) {
				found = append(found, finding.Finding{
					Code: "own-step-adrift", Severity: finding.Check, Stage: "work", Subject: o.ID,
					Text: fmt.Sprintf("%s: the step that it stood beside is not planned any more, so it stands last.",
						strings.TrimSuffix(o.Text, ".")),
					Remedy: "Take it away, and put it in beside another stew.",
				})
			}
		}
		switch {
		case !o.Within():
			found = append(found, finding.Finding{
				Code: "limit-missed", Severity: finding.Wrong, Stage: "work", Subject: o.ID,
				Text:   fmt.Sprintf("%s: %s.", strings.TrimSuffix(o.Text, "."), o.Limit()),
				Remedy: "Put it right and measure again.",
			})
		case o.What != "" && o.Saw == nil && (o.Least != nil || o.Most != nil):
			found = append(found, finding.Finding{
				Code: "limit-open", Severity: finding.Note, Stage: "work", Subject: o.ID,
				Text: fmt.Sprintf("%s: %s, not measured yet.", strings.TrimSuffix(o.Text, "."), o.Limit()),
			})
		}
	}
	return all, found
}

// ticked says whether a step was done, whether or not the plan still has it.
func ticked(past *work.Past, step string) bool {
	return step != "" && slices.ContainsFunc(past.Ticks, func(t work.Tick) bool {
		return t.Step == step || strings.HasPrefix(t.Step, step+"-")
	})
}
