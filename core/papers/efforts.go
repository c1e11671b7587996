package papers

import (
	"draxel/core/handover"
	"draxel/core/plan"
)

// Efforts gives every step of the work with how it stands, those that are done and not asked for any more too.
func Efforts(p *plan.Plan) []handover.Effort {
	out := make([]handover.Effort, 0, len(p.Work.Steps)+len(p.Work.Strays))
	in := map[string]bool{}
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		e := handover.Effort{ID: s.ID, Stage: string(s.Stage), Text: s.Text, Minutes: s.Minutes, Needs: s.Needs}
		if t, done := p.Done(s.ID); done {
			e.Done, e.Spent, e.Who = true, t.Spent, t.Who
		}
		in[s.ID] = true
		out = append(out, e)
	}
	for i := range p.Past.Ticks { // what the plan does not ask for any more, or asks for again, has taken its time too
		t := &p.Past.Ticks[i]
		if _, counted := p.Done(t.Step); counted && in[t.Step] {
			continue
		}
		out = append(out, handover.Effort{ID: "before " + t.Step, Stage: string(t.Of()), Text: t.Text,
			Minutes: t.Minutes,
			Done:    true, Spent: t.Spent, Who: t.Who})
	}
	return out
}
