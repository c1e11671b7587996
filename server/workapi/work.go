package workapi

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/server/desk"
)

// showWorkList gives the one list.
func (s *API) showWorkList(c *gin.Context, j *desk.Computed) error {
	p := j.Plan()
	v := WorkListView{Revision: j.Revision, Steps: j.WorkSteps(""), Done: desk.OrEmpty(p.Past.Ticks),
		Strays: desk.OrEmpty(p.Work.Strays), Proof: p.Proof, Line: p.Proof.Line(), Open: leavesOut(j),
		Joints: p.Join.Joints, Wires: p.Join.Wires, Places: []string{}, People: []string{}, Hand: desk.InHand(p.Past.Now)}
	for _, x := range v.Steps {
		if !x.Done {
			v.Minutes += x.Minutes
		}
		if x.Place != "" && !slices.Contains(v.Places, x.Place) {
			v.Places = append(v.Places, x.Place)
		}
	}
	for _, t := range v.Done {
		if t.Who != "" && !slices.Contains(v.People, t.Who) {
			v.People = append(v.People, t.Who)
		}
	}
	slices.SortFunc(v.Places, finding.Natural)
	c.JSON(http.StatusOK, v)
	return nil
}

// leavesOut says what the list leaves out, since it is not decided or is held up.
func leavesOut(j *desk.Computed) string {
	t := j.Plan().Totals
	switch {
	case t.Open > 0 && j.Plan().Withheld > 0:
		return fmt.Sprintf("%d of %d rows are not decided, and %d moves or new wires wait for a cavity that such a wire "+
			"holds: they are not on the list.", t.Open, t.From, j.Plan().Withheld)
	case t.Open > 0:
		return fmt.Sprintf("%d of %d rows are not decided and are not on the list.", t.Open, t.From)
	case j.Plan().Withheld > 0:
		return fmt.Sprintf("%d moves or new wires wait for a cavity that stays full, and are not on the list.",
			j.Plan().Withheld)
	}
	return ""
}

// showWork gives what goes with Thin's work: its steps, the stock and the list for the donor's yard.
func (s *API) showWork(c *gin.Context, j *desk.Computed) error {
	t := &j.Plan().Thin
	v := WorkView{Revision: j.Revision, Steps: j.WorkSteps(work.Thin), Strays: []work.Tick{}, Counts: t.Counts,
		Proof: j.Plan().Proof, Line: j.Plan().Proof.Line(), Yard: j.Job.Yard(t.Result), Bench: j.Job.Chosen().Bench,
		Findings: t.Progress.Findings}
	for _, x := range j.Plan().Work.Strays {
		if x.Of() == work.Thin {
			v.Strays = append(v.Strays, x)
		}
	}
	if v.Findings == nil {
		v.Findings = desk.StageFindings(nil, "")
	}
	v.Stock, v.Off = t.Result.Stock(j.Plan().Past.Now)
	v.Clips = t.Result.Clips()
	c.JSON(http.StatusOK, v)
	return nil
}

// tick ticks steps of any stage off, each where hands could do it as things are, or takes ticks back, or says what
// came of a step instead.
func (s *API) tick(c *gin.Context) error {
	r, err := desk.Read[TickRequest](c)
	if err == nil && (len(r.Steps) == 0 || len(r.Steps) > 2000 || r.Spent < 0 || r.Spent > 1e5 || math.IsNaN(r.Spent)) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-action", "Say which steps, and minutes that can be.", "/steps")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		switch {
		case r.Outcome == "stuck":
			return s.stuck(c, j, r)
		case r.Outcome != "":
			return desk.Refusal(http.StatusUnprocessableEntity, "no-action", "There is no such outcome.", "/outcome")
		case !r.Done:
			return s.untick(c, j, r)
		}
		bodies, err := s.ticks(c, j, r)
		if err != nil {
			return err
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "tick", Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

// ticks gives the ticks of steps in the order of the plan, each tried on the harness as it is then.
func (s *API) ticks(c *gin.Context, j *desk.Computed, r TickRequest) (map[string]any, error) {
	p := j.Plan()
	steps := make([]*work.Step, 0, len(r.Steps))
	for i := range p.Work.Steps {
		if slices.Contains(r.Steps, p.Work.Steps[i].ID) {
			steps = append(steps, &p.Work.Steps[i])
		}
	}
	bench, done, bodies := harness.Work(p.Past.Now), map[string]bool{}, map[string]any{}
	order := make([]string, len(steps))
	for i, step := range steps {
		order[i] = step.ID
	}
	uses := papers.Uses(p, &j.Facts, j.Job.Chosen(), order)
	for _, step := range steps {
		if _, already := p.Done(step.ID); already {
			continue
		}
		if err := s.mayTick(p, step, r.Reason, done, bench); err != nil {
			return nil, err
		}
		done[step.ID] = true
		t, _ := p.Tick(step.ID)
		t.Spent, t.Used = r.Spent/float64(len(steps)), uses[step.ID]
		if step.Kind == thin.Gate {
			t.Reason = r.Reason
		}
		s.Stamp(c, j, &t, len(bodies))
		bodies[stored.SubjectOf(t)] = t
	}
	if len(bodies) == 0 || len(steps) < len(r.Steps) {
		return nil, desk.Refusal(http.StatusConflict, "no-such-step",
			"The plan does not have that step any more: it has been "+
				"done, or something has changed.", "/steps")
	}
	return bodies, nil
}

// mayTick refuses a step that cannot be done yet, with what comes first.
func (s *API) mayTick(p *plan.Plan, step *work.Step, reason string, done map[string]bool,
	bench *harness.Bench) error {
	gate := step.Kind == thin.Gate
	if why := p.BlockedAfter(step, done); why != "" && !(gate && strings.TrimSpace(reason) != "") {
		code := "needs-first"
		if gate {
			code = "gate-open"
		}
		return desk.Refusal(http.StatusUnprocessableEntity, code, desk.Sentence("first: "+why), "/steps")
	}
	if gate && len(step.Missing) > 0 && strings.TrimSpace(reason) == "" {
		return desk.Refusal(http.StatusUnprocessableEntity, "gate-open",
			"The gate is not complete: "+strings.Join(step.Missing[:min(len(step.Missing), 6)], "; ")+". Complete it, or "+
				"say why it is passed.", "/reason")
	}
	before := bench.InHand()
	if err := bench.Try(step.Edits...); err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "needs-first",
			desk.Sentence("that cannot be done as things are: "+err.Error()), "/steps")
	}
	if n := bench.InHand(); step.Stage == work.Pin && n > max(before, p.Pin.Limit) {
		return desk.Refusal(http.StatusUnprocessableEntity, "needs-first", fmt.Sprintf("That would leave %d in hand, and %d "+
			"may be: put one home first.", n, p.Pin.Limit), "/steps")
	}
	return nil
}

// untick takes ticks back, unless something that was done later rests on them.
func (s *API) untick(c *gin.Context, j *desk.Computed, r TickRequest) error {
	ch := desk.Change{ID: r.ID, What: "untick", Seen: r.Seen, Base: j.Revision, Bodies: map[string]any{}}
	job := j.Job
	job.Ticks = nil
	for _, x := range j.Job.Ticks {
		if slices.Contains(r.Steps, x.Step) {
			ch.Bodies[stored.SubjectOf(x)] = nil
		} else {
			job.Ticks = append(job.Ticks, x)
		}
	}
	if len(ch.Bodies) == 0 {
		return desk.Refusal(http.StatusConflict, "no-such-step", "That step is not ticked.", "/steps")
	}
	if len(j.Plan().Replay(job.Chosen().Ticks).Lost) > len(j.Plan().Past.Lost) {
		return desk.Refusal(http.StatusConflict, "later-steps", "Steps that were done later rest on this one: take those "+
			"back first.", "/steps")
	}
	return s.Apply(c, ch)
}

// stuck notes that a wire does not come out: a splice that nobody has seen holds it.
func (s *API) stuck(c *gin.Context, j *desk.Computed, r TickRequest) error {
	step, ok := j.Plan().Step(r.Steps[0])
	if !ok || step.Stage != work.Thin || step.Kind != thin.ComeOut {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-step", "Only a wire that is to fall out can be stuck.",
			"/steps")
	}
	t := gather.Trace{ID: r.ID, Wire: step.Wires[0], Saw: gather.Stuck, Note: r.Reason, Who: desk.Who(c),
		When: s.Now().UTC().UnixMilli()}
	return s.Apply(c, desk.Change{ID: r.ID, What: "stuck", Seen: r.Seen, Base: j.Revision,
		Bodies: desk.Keeping(t)})
}
