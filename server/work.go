package server

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/proof"
	"draxel/core/reach"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/store"
)

// WorkListView is the one list of what is to be done: the steps of all stages in one order, with what was done so
// far, the joints that are made and the new wires that are laid.
type WorkListView struct {
	Revision int64           `json:"revision"`
	Steps    []WorkStep      `json:"steps"`
	Done     []work.Tick     `json:"done"`   // everything that was ticked, in its order
	Strays   []work.Tick     `json:"strays"` // done, and not in the plan any more
	Proof    proof.Proof     `json:"proof"`
	Line     string          `json:"line"`
	Open     string          `json:"open,omitempty"` // what the list leaves out
	Minutes  float64         `json:"minutes"`        // reckoned for what is left
	Joints   []wanted.Joined `json:"joints"`
	Wires    []wanted.Laid   `json:"wires"`
	Places   []string        `json:"places"` // connectors and paths that steps are at
	People   []string        `json:"people"` // who has ticked
	Hand     []string        `json:"hand"`
}

// WorkStep is a step with its tick, with what tells its wire from others, and with why it cannot be ticked yet.
type WorkStep struct {
	work.Step
	Done    bool            `json:"done"`
	Who     string          `json:"who,omitempty"`
	When    int64           `json:"when,omitempty"`
	Blocked string          `json:"blocked,omitempty"`
	Ready   bool            `json:"ready"` // it can be done now
	From    harness.Ref     `json:"from,omitzero"`
	To      harness.Ref     `json:"to,omitzero"`
	Row     *harness.Row    `json:"row,omitempty"` // the wire as found
	Becomes string          `json:"becomes,omitempty"`
	How     string          `json:"how,omitempty"`
	After   string          `json:"after,omitempty"`
	Fit     *terminal.Fit   `json:"fit,omitempty"`
	Hand    []string        `json:"hand,omitempty"`
	Measure string          `json:"measure,omitempty"` // the wire whose length is typed in at the step
	Place   string          `json:"place,omitempty"`   // the connector or path that it is at
	Own     *stored.OwnStep `json:"own,omitempty"`     // of a step of the person's own: what it was said to be
}

// workSteps gives the steps of a stage, of all where none is named, with their ticks.
func (j *computed) workSteps(stage work.Stage) []WorkStep {
	p := j.plan()
	wires := map[harness.WireID]*harness.Wire{}
	for i := range p.Reach.Result.Wires() {
		w := &p.Reach.Result.Wires()[i]
		wires[w.ID] = &w.Wire
	}
	for i := range j.facts.Laid.Loom.Wires {
		wires[j.facts.Laid.Loom.Wires[i].ID] = &j.facts.Laid.Loom.Wires[i]
	}
	sheet := map[string]*repin.Step{}
	for i := range p.Steps {
		sheet[p.Steps[i].ID] = &p.Steps[i]
	}
	own := map[string]*stored.OwnStep{}
	for i := range j.Job.Own {
		own[j.Job.Own[i].Step().ID] = &j.Job.Own[i]
	}
	bench := harness.Work(p.Past.Now)
	out := []WorkStep{}
	for _, s := range p.Of(stage) {
		w := WorkStep{Step: *s, Own: own[s.ID]}
		if tick, done := p.Done(s.ID); done {
			w.Done, w.Who, w.When = true, tick.Who, tick.When
		} else if w.Blocked = p.Blocked(s); w.Blocked == "" {
			w.Ready = p.Ready(s, bench)
		}
		w.place()
		if x := sheet[s.ID]; x != nil {
			w.pins(x)
		} else if len(s.Wires) > 0 && wires[s.Wires[0]] != nil {
			row := fact.RowOf(wires[s.Wires[0]])
			w.Row = &row
		}
		if s.Stage == work.Reach && s.Kind == reach.ToLength {
			w.Measure = string(s.Wire())
		}
		out = append(out, w)
	}
	return out
}

// place says where the hands are for a step.
func (w *WorkStep) place() {
	switch {
	case len(w.At) > 0:
		w.Place, w.From = w.At[0].Connector, w.At[0]
	case w.Path != "":
		w.Place = w.Path
	}
}

// pins fills in what a step of Pin knows beside its sentence.
func (w *WorkStep) pins(x *repin.Step) {
	w.From, w.To, w.How, w.After, w.Hand, w.Warn = x.From, x.To, x.How, x.After, x.Hand, x.Advice.Warn
	if x.Wire.Ref != (harness.Ref{}) {
		w.Row = &x.Wire
	}
	if x.Connector != "" {
		w.From = harness.Ref{Connector: x.Connector} // its face is shown, no cavity of it
	}
	if x.Goal.Function != x.Wire.Function {
		w.Becomes = x.Goal.Function
	}
	if x.Fit.Verdict != terminal.Unknown || x.Fit.Why != "" || len(x.Fit.Parts) > 0 {
		w.Fit = &x.Fit
	}
}

// showWorkList gives the one list.
func (s *Server) showWorkList(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	p := j.plan()
	v := WorkListView{Revision: j.Revision, Steps: j.workSteps(""), Done: orEmpty(p.Past.Ticks),
		Strays: orEmpty(p.Work.Strays), Proof: p.Proof, Line: p.Proof.Line(), Open: j.leavesOut(),
		Joints: p.Join.Joints, Wires: p.Join.Wires, Places: []string{}, People: []string{}, Hand: inHand(p.Past.Now)}
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
func (j *computed) leavesOut() string {
	t := j.plan().Totals
	switch {
	case t.Open > 0 && j.plan().Withheld > 0:
		return fmt.Sprintf("%d of %d rows are not decided, and %d moves or new wires wait for a cavity that such a wire "+
			"holds: they are not on the list.", t.Open, t.From, j.plan().Withheld)
	case t.Open > 0:
		return fmt.Sprintf("%d of %d rows are not decided and are not on the list.", t.Open, t.From)
	case j.plan().Withheld > 0:
		return fmt.Sprintf("%d moves or new wires wait for a cavity that stays full, and are not on the list.",
			j.plan().Withheld)
	}
	return ""
}

// showWork gives what goes with Thin's work: its steps, the stock and the list for the donor's yard.
func (s *Server) showWork(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	t := &j.plan().Thin
	v := WorkView{Revision: j.Revision, Steps: j.workSteps(work.Thin), Strays: []work.Tick{}, Counts: t.Counts,
		Proof: j.plan().Proof, Line: j.plan().Proof.Line(), Yard: j.Job.Yard(t.Result), Bench: j.Job.Chosen().Bench,
		Findings: t.Progress.Findings}
	for _, x := range j.plan().Work.Strays {
		if x.Of() == work.Thin {
			v.Strays = append(v.Strays, x)
		}
	}
	if v.Findings == nil {
		v.Findings = stageFindings(nil, "")
	}
	v.Stock, v.Off = t.Result.Stock(j.plan().Past.Now)
	v.Clips = t.Result.Clips()
	c.JSON(http.StatusOK, v)
	return nil
}

// tick ticks steps of any stage off, each where hands could do it as things are, or takes ticks back, or says what
// came of a step instead.
func (s *Server) tick(c *gin.Context) error {
	r, err := read[TickRequest](c)
	if err == nil && (len(r.Steps) == 0 || len(r.Steps) > 2000 || r.Spent < 0 || r.Spent > 1e5 || math.IsNaN(r.Spent)) {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say which steps, and minutes that can be.", "/steps")
	}
	if err != nil {
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

// ticks gives the ticks of steps in the order of the plan, each tried on the harness as it is then.
func (s *Server) ticks(c *gin.Context, j *computed, r TickRequest) (map[string]any, error) {
	p := j.plan()
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
	uses := papers.Uses(p, &j.facts, j.Job.Chosen(), order)
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
		s.stamp(c, j, &t, len(bodies))
		bodies[store.SubjectTick(t.Step)] = t
	}
	if len(bodies) == 0 || len(steps) < len(r.Steps) {
		return nil, problem(http.StatusConflict, "no-such-step", "The plan does not have that step any more: it has been "+
			"done, or something has changed.", "/steps")
	}
	return bodies, nil
}

// mayTick refuses a step that cannot be done yet, with what comes first.
func (s *Server) mayTick(p *plan.Plan, step *work.Step, reason string, done map[string]bool,
	bench *harness.Bench) error {
	gate := step.Kind == thin.Gate
	if why := p.BlockedAfter(step, done); why != "" && !(gate && strings.TrimSpace(reason) != "") {
		code := "needs-first"
		if gate {
			code = "gate-open"
		}
		return problem(http.StatusUnprocessableEntity, code, sentence("first: "+why), "/steps")
	}
	if gate && len(step.Missing) > 0 && strings.TrimSpace(reason) == "" {
		return problem(http.StatusUnprocessableEntity, "gate-open",
			"The gate is not complete: "+strings.Join(step.Missing[:min(len(step.Missing), 6)], "; ")+". Complete it, or "+
				"say why it is passed.", "/reason")
	}
	before := bench.InHand()
	if err := bench.Try(step.Edits...); err != nil {
		return problem(http.StatusUnprocessableEntity, "needs-first",
			sentence("that cannot be done as things are: "+err.Error()), "/steps")
	}
	if n := bench.InHand(); step.Stage == work.Pin && n > max(before, p.Pin.Limit) {
		return problem(http.StatusUnprocessableEntity, "needs-first", fmt.Sprintf("That would leave %d in hand, and %d "+
			"may be: put one home first.", n, p.Pin.Limit), "/steps")
	}
	return nil
}

// stamp gives a tick its name, its maker and its time. A step that was done before under the same name gets another
// name: the same can be done twice. Time goes on even where the clock does not.
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

// untick takes ticks back, unless something that was done later rests on them.
func (s *Server) untick(c *gin.Context, j *computed, r TickRequest) error {
	ch := change{id: r.ID, what: "untick", seen: r.Seen, base: j.Revision, bodies: map[string]any{}}
	job := j.Job
	job.Ticks = nil
	for _, x := range j.Job.Ticks {
		if slices.Contains(r.Steps, x.Step) {
			ch.bodies[store.SubjectTick(x.Step)] = nil
		} else {
			job.Ticks = append(job.Ticks, x)
		}
	}
	if len(ch.bodies) == 0 {
		return problem(http.StatusConflict, "no-such-step", "That step is not ticked.", "/steps")
	}
	if len(j.plan().Replay(job.Chosen().Ticks).Lost) > len(j.plan().Past.Lost) {
		return problem(http.StatusConflict, "later-steps", "Steps that were done later rest on this one: take those back first.", "/steps")
	}
	return s.apply(c, ch)
}

// stuck notes that a wire does not come out: a splice that nobody has seen holds it.
func (s *Server) stuck(c *gin.Context, j *computed, r TickRequest) error {
	step, ok := j.plan().Step(r.Steps[0])
	if !ok || step.Stage != work.Thin || step.Kind != thin.ComeOut {
		return problem(http.StatusUnprocessableEntity, "no-such-step", "Only a wire that is to fall out can be stuck.", "/steps")
	}
	t := gather.Trace{ID: r.ID, Wire: step.Wires[0], Saw: gather.Stuck, Note: r.Reason, Who: who(c),
		When: s.now().UTC().UnixMilli()}
	return s.apply(c, change{id: r.ID, what: "stuck", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectTrace(t.ID): t}})
}
