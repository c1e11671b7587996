package server

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/work"
	"draxel/store"
)

// again answers a change that came through before: a browser that lost the reply sends it once more.
func (s *Server) again(c *gin.Context, id string) (bool, error) {
	revision, err := s.store.Known(c.Request.Context(), id)
	if err != nil || revision == 0 {
		return false, err
	}
	c.JSON(http.StatusOK, Done{Job: c.Param("job"), Revision: revision})
	return true, nil
}

// tickPin ticks steps of the sheet off, each where hands could do it as things are, or takes ticks back.
func (s *Server) tickPin(c *gin.Context) error {
	r, err := read[PinTickRequest](c)
	if err == nil && (len(r.Steps) == 0 || len(r.Steps) > 1000 || r.Spent < 0 || r.Spent > 1e5 || math.IsNaN(r.Spent)) {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say which steps, and minutes that can be.", "/steps")
	}
	if err != nil {
		return err
	}
	if known, err := s.again(c, r.ID); known || err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if !r.Done {
			return s.untickOf(c, j, "pin", change{id: r.ID, seen: r.Seen}, r.Steps)
		}
		bodies := map[string]any{}
		bench := harness.Work(j.plan.Pin.Now)
		done := map[string]bool{}
		for _, id := range r.Steps {
			i := slices.IndexFunc(j.plan.Steps, func(x plan.Step) bool { return x.ID == id })
			if i < 0 || done[id] {
				return problem(http.StatusConflict, "no-such-step", "The plan does not have that step any more: it has been done, or something has changed.", "/steps")
			}
			step := &j.plan.Steps[i]
			if why := cannot(bench, j, step, done); why != "" {
				return problem(http.StatusUnprocessableEntity, "needs-first", why, "/steps")
			}
			done[id] = true
			t := step.Tick()
			t.Spent = r.Spent / float64(len(r.Steps))
			t.Minutes = minutes(j, step)
			s.stamp(c, j, &t, len(bodies))
			bodies[store.SubjectTick(t.Step)] = t
		}
		return s.apply(c, change{id: r.ID, what: "tick", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// cannot says why a step cannot be done yet, empty where it can, and does it on the bench.
func cannot(bench *harness.Bench, j *computed, step *plan.Step, done map[string]bool) string {
	if step.Kind == pin.Close {
		for _, need := range step.Needs {
			if i := slices.IndexFunc(j.plan.Steps, func(x plan.Step) bool { return x.ID == need }); i >= 0 && !done[need] {
				return fmt.Sprintf("%s is not finished: %s", step.Connector, j.plan.Steps[i].Text)
			}
		}
		return ""
	}
	before := bench.InHand()
	if err := bench.Try(step.Edits...); err != nil {
		return sentence("that cannot be done as things are: " + err.Error())
	}
	if n := bench.InHand(); n > max(before, j.plan.Pin.Limit) {
		return fmt.Sprintf("That would leave %d in hand, and %d may be: put one home first.", n, j.plan.Pin.Limit)
	}
	return ""
}

// minutes is how long a step is reckoned to take.
func minutes(j *computed, step *plan.Step) float64 {
	if step.From == (harness.Ref{}) || step.Kind == pin.Unseal {
		return 0
	}
	return j.Job.Chosen().Bench.Rates.Extract
}

// stamp gives a tick its name, its maker and its time. A step that was done before under the same name gets another name:
// the same move can be made twice. Time goes on even where the clock does not.
func (s *Server) stamp(c *gin.Context, j *computed, t *work.Tick, nth int) {
	base := t.Step
	for n := 2; slices.ContainsFunc(j.Job.Ticks, func(x work.Tick) bool { return x.Step == t.Step }); n++ {
		t.Step = fmt.Sprintf("%s-%d", base, n)
	}
	t.Who, t.When, t.Seq = who(c), s.now().UTC().UnixMilli(), nth
	for _, x := range j.Job.Ticks {
		t.When = max(t.When, x.When+1)
	}
}

// untickOf takes ticks of a stage back, unless something that was done later rests on them.
func (s *Server) untickOf(c *gin.Context, j *computed, stage string, ch change, steps []string) error {
	ch.what, ch.base, ch.bodies = "untick", j.Revision, map[string]any{}
	job := j.Job
	job.Ticks = nil
	for _, x := range j.Job.Ticks {
		if x.Stage == stage && slices.Contains(steps, x.Step) {
			ch.bodies[store.SubjectTick(x.Step)] = nil
		} else {
			job.Ticks = append(job.Ticks, x)
		}
	}
	if len(ch.bodies) == 0 {
		return problem(http.StatusConflict, "no-such-step", "That step is not ticked.", "/steps")
	}
	after := plan.Follow(j.facts, job.Chosen(), j.plan.Match)
	if count(after, "tick-lost") > count(j.plan, "tick-lost") {
		return problem(http.StatusConflict, "later-steps", "Steps that were done later rest on this one: take those back first.", "/steps")
	}
	return s.apply(c, ch)
}

func count(p plan.Plan, code string) int {
	n := 0
	for _, f := range p.Findings {
		if f.Code == code {
			n++
		}
	}
	return n
}

// otherwise records a move that the plan did not say.
func (s *Server) otherwise(c *gin.Context) error {
	r, err := read[OtherwiseRequest](c)
	if err != nil {
		return err
	}
	if known, err := s.again(c, r.ID); known || err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		now := j.plan.Pin.Now
		t, label := harness.TerminalID(""), r.Label
		var edits []harness.Edit
		from := r.At.String()
		if r.At != (harness.Ref{}) {
			var full bool
			if t, full = now.In(r.At); !full {
				return problem(http.StatusUnprocessableEntity, "no-such-terminal", fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
			}
			if label = "from " + r.At.String(); r.To != (harness.Ref{}) {
				label = r.To.String()
			}
			edits = append(edits, harness.Edit{Do: harness.Remove, Terminal: t, At: r.At, Label: label})
		} else {
			for _, x := range now.Terminals() {
				if p, _ := now.Place(x); p.State == harness.Loose && p.Label == r.Label {
					t = x
				}
			}
			if from = fmt.Sprintf("in hand, labelled %q,", r.Label); t == "" || r.To == (harness.Ref{}) && !r.Off {
				return problem(http.StatusUnprocessableEntity, "no-such-terminal", "Say which terminal in hand, and what became of it.", "/label")
			}
		}
		text := fmt.Sprintf("Otherwise than planned: the terminal %s is in hand, labelled %q.", from, label)
		if r.Off && r.To == (harness.Ref{}) {
			text = fmt.Sprintf("Otherwise than planned: the terminal %s is out and sealed off.", from)
			edits = append(edits, harness.Edit{Do: harness.Cap, Terminal: t, Label: label})
		}
		if r.To != (harness.Ref{}) {
			text = fmt.Sprintf("Otherwise than planned: the terminal %s went into %s.", from, r.To)
			if now.Plugged(r.To) {
				edits = append(edits, harness.Edit{Do: harness.Unplug, At: r.To})
			}
			edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: r.To})
		}
		if _, err := harness.Apply(now, edits...); err != nil {
			return problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "/to")
		}
		tick := work.Tick{Step: work.New(edits).ID, Edits: edits, Text: text, Stage: "pin", Kind: "otherwise", At: []harness.Ref{r.At, r.To}}
		s.stamp(c, j, &tick, 0)
		return s.apply(c, change{id: r.ID, what: "otherwise", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectTick(tick.Step): tick}})
	})
}

// report keeps what was not as expected. A wire that no table shows is refused where the model has one.
func (s *Server) report(c *gin.Context) error {
	r, err := read[ReportRequest](c)
	if err == nil && !slices.Contains(pin.Whats(), r.What) {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say what is not as expected: stuck, colour, occupied or lock.", "/what")
	}
	if err == nil && r.What != pin.Broken {
		err = checkRef(r.At, "/at")
	}
	if err != nil {
		return err
	}
	if known, err := s.again(c, r.ID); known || err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		_, full := j.plan.Pin.Now.In(r.At)
		switch {
		case r.What == pin.Broken && !j.hasConnector(r.At.Connector):
			return problem(http.StatusUnprocessableEntity, "no-such-connector", fmt.Sprintf("There is no connector %s.", r.At.Connector), "/at")
		case r.What != pin.Broken && !j.plan.Pin.Now.Has(r.At):
			return problem(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("There is no cavity %s.", r.At), "/at")
		case r.What == pin.Occupied && full:
			return problem(http.StatusUnprocessableEntity, "known-wire", fmt.Sprintf("%s holds a wire on this plan too: record the move that emptied it, or take the tick back that filled it.", r.At), "/at")
		case (r.What == pin.IsStuck || r.What == pin.Differs) && !full:
			return problem(http.StatusUnprocessableEntity, "no-such-terminal", fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
		}
		x := pin.Report{ID: r.ID, What: r.What, At: r.At, Saw: strings.TrimSpace(r.Saw), Who: who(c), When: s.now().UTC().UnixMilli()}
		bodies := map[string]any{store.SubjectReport(x.ID): x}
		if tick, ok := x.Tick(); ok {
			if _, err := harness.Apply(j.plan.Pin.Now, tick.Edits...); err != nil {
				return problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "/at")
			}
			s.stamp(c, j, &tick, 0)
			bodies[store.SubjectTick(tick.Step)] = tick
		}
		return s.apply(c, change{id: r.ID, what: "report", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// settle says how what was not as expected was settled.
func (s *Server) settle(c *gin.Context) error {
	r, err := read[SettleRequest](c)
	if err == nil && strings.TrimSpace(r.Settled) == "" {
		err = problem(http.StatusUnprocessableEntity, "no-reason", "Say how it was settled.", "/settled")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		i := slices.IndexFunc(j.Job.Reports, func(x pin.Report) bool { return x.ID == c.Param("fact") })
		if i < 0 {
			return problem(http.StatusNotFound, "no-such-thing", "There is no such report.", "")
		}
		x := j.Job.Reports[i]
		x.Settled = strings.TrimSpace(r.Settled)
		return s.apply(c, change{id: r.ID, what: "settle", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectReport(x.ID): x}})
	})
}
