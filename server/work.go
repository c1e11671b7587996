package server

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/gather"
	"draxel/core/plan"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/store"
)

// showWork gives Thin's steps with their ticks, the stock and the list for the donor's yard.
func (s *Server) showWork(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	t := j.plan.Thin
	v := WorkView{Revision: j.Revision, Steps: workSteps(&t), Strays: []work.Tick{}, Counts: t.Counts, Proof: t.Proof, Line: workLine(t.Proof), Yard: j.Job.Yard(t.Result), Bench: j.Job.Chosen().Bench, Findings: t.Progress.Findings}
	planned := map[string]bool{}
	for _, x := range v.Steps {
		planned[x.ID] = true
	}
	for _, x := range j.Job.Ticks {
		if !planned[x.Step] && x.Stage != "reach" {
			v.Strays = append(v.Strays, x)
		}
	}
	if v.Findings == nil {
		v.Findings = stageFindings(nil, "")
	}
	v.Stock, v.Off = t.Result.Stock(t.Progress.Now)
	v.Clips = t.Result.Clips()
	c.JSON(http.StatusOK, v)
	return nil
}

// gateStep is where the gate stands among the steps, −1 where nothing goes.
func gateStep(steps []thin.Step) int {
	return slices.IndexFunc(steps, func(s thin.Step) bool { return s.Kind == thin.Gate })
}

// workSteps gives the steps with their ticks and, for each that cannot be ticked yet, why.
func workSteps(t *plan.Thinning) []WorkStep {
	out := make([]WorkStep, 0, len(t.Steps))
	gate := gateStep(t.Steps)
	for _, s := range t.Steps {
		w := WorkStep{Step: s}
		if tick, done := t.Progress.Done[s.ID]; done {
			w.Done, w.Who, w.When = true, tick.Who, tick.When
		} else {
			w.Blocked = blocked(t, s, gate)
		}
		out = append(out, w)
	}
	return out
}

// blocked says why a step cannot be done yet: the gate comes before the first cut, and others may have to come before.
func blocked(t *plan.Thinning, s thin.Step, gate int) string {
	if len(s.Edits) > 0 && gate >= 0 {
		if _, passed := t.Progress.Done[t.Steps[gate].ID]; !passed {
			return "the gate before the first cut"
		}
	}
	if why := t.Held[s.ID]; why != "" {
		return "what was done before the decisions changed stands in its way (" + why + ")"
	}
	var waits []string
	for _, need := range s.Needs {
		if _, done := t.Progress.Done[need]; !done {
			if i := slices.IndexFunc(t.Steps, func(x thin.Step) bool { return x.ID == need }); i >= 0 {
				waits = append(waits, t.Steps[i].Text)
			}
		}
	}
	if len(waits) > 0 {
		return waits[0]
	}
	return ""
}

// tick ticks steps off in the order of the plan, takes ticks back, or notes that a wire does not come out.
func (s *Server) tick(c *gin.Context) error {
	r, err := read[TickRequest](c)
	if err == nil && len(r.Steps) == 0 {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say which step.", "/steps")
	}
	if err != nil {
		return err
	}
	if known, err := s.again(c, r.ID); known || err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		switch {
		case r.Outcome == "stuck":
			return s.stuck(c, j, r)
		case r.Outcome != "":
			return problem(http.StatusUnprocessableEntity, "no-action", "There is no such outcome.", "/outcome")
		case !r.Done:
			return s.untick(c, j, r)
		}
		bodies, err := s.ticks(c, j, r)
		if err != nil {
			return err
		}
		return s.apply(c, change{id: r.ID, what: "tick", reason: r.Reason, seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

func (s *Server) ticks(c *gin.Context, j *computed, r TickRequest) (map[string]any, error) {
	t := j.plan.Thin
	done := make(map[string]work.Tick, len(t.Progress.Done))
	for id, x := range t.Progress.Done {
		done[id] = x
	}
	t.Progress.Done = done
	now := s.now().UTC().UnixMilli()
	bodies := map[string]any{}
	gate := gateStep(t.Steps)
	for seq, step := range t.Steps {
		if !slices.Contains(r.Steps, step.ID) {
			continue
		}
		if _, already := done[step.ID]; already {
			continue
		}
		if why := blocked(&t, step, gate); why != "" {
			return nil, problem(http.StatusUnprocessableEntity, "needs-first", sentence("first: "+why), "/steps")
		}
		if step.Kind == thin.Gate && len(step.Missing) > 0 && strings.TrimSpace(r.Reason) == "" {
			return nil, problem(http.StatusUnprocessableEntity, "gate-open", "The gate is not complete: "+strings.Join(step.Missing[:min(len(step.Missing), 6)], "; ")+". Complete it, or say why it is passed.", "/reason")
		}
		x := work.Tick{Step: step.ID, Edits: step.Edits, Text: step.Text, Minutes: step.Minutes, Who: who(c), When: now, Seq: seq}
		if step.Kind == thin.Gate {
			x.Reason = r.Reason
		}
		done[step.ID] = x
		bodies[store.SubjectTick(step.ID)] = x
	}
	if len(bodies) == 0 {
		return nil, problem(http.StatusUnprocessableEntity, "no-such-step", "There is no such step to tick in the plan as it is now.", "/steps")
	}
	return bodies, nil
}

// untick takes ticks back, unless something that was done later rests on them.
func (s *Server) untick(c *gin.Context, j *computed, r TickRequest) error {
	var rest []work.Tick
	bodies := map[string]any{}
	for _, x := range j.Job.Ticks {
		if slices.Contains(r.Steps, x.Step) {
			bodies[store.SubjectTick(x.Step)] = nil
		} else {
			rest = append(rest, x)
		}
	}
	if len(bodies) == 0 {
		return problem(http.StatusUnprocessableEntity, "no-such-step", "That step is not ticked.", "/steps")
	}
	planned := make([]work.Step, len(j.plan.Thin.Steps))
	for i, x := range j.plan.Thin.Steps {
		planned[i] = x.Step
	}
	lost := func(ticks []work.Tick) int {
		n := 0
		for _, f := range j.plan.Thin.Result.Progress(j.facts.Laid.Loom.Found(), ticks, planned).Findings {
			if f.Code == "tick-lost" {
				n++
			}
		}
		return n
	}
	if lost(rest) > lost(j.Job.Ticks) {
		return problem(http.StatusConflict, "later-steps", "Steps that were done later rest on this one: take those back first.", "/steps")
	}
	return s.apply(c, change{id: r.ID, what: "untick", seen: r.Seen, base: j.Revision, bodies: bodies})
}

// stuck notes that a wire does not come out: a splice that nobody has seen holds it.
func (s *Server) stuck(c *gin.Context, j *computed, r TickRequest) error {
	i := slices.IndexFunc(j.plan.Thin.Steps, func(x thin.Step) bool { return x.ID == r.Steps[0] })
	if i < 0 || j.plan.Thin.Steps[i].Kind != thin.ComeOut {
		return problem(http.StatusUnprocessableEntity, "no-such-step", "Only a wire that is to fall out can be stuck.", "/steps")
	}
	wire := j.plan.Thin.Steps[i].Wires[0]
	t := gather.Trace{ID: r.ID, Wire: wire, Saw: gather.Stuck, Note: r.Reason, Who: who(c), When: s.now().UTC().UnixMilli()}
	return s.apply(c, change{id: r.ID, what: "stuck", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectTrace(t.ID): t}})
}
