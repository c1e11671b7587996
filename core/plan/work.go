package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// Work is the one list of what is to be done: the steps of all stages in one order, those that are done among them
// where the plan still asks for them.
type Work struct {
	Steps  []work.Step
	Held   map[string]string // by step: why it cannot be done as the harness is now
	Strays []work.Tick       // done, and not in the plan any more
	at     map[string]int
	gate   string
}

// finish makes Wanted, puts all steps into one order, and proves them.
func (p *Plan) finish(m *model, d stored.Decisions) {
	base := m.joined
	p.Wanted = base.With(p.Reach.Result.Changes(base))
	parted := p.Reach.Result.Part(m.found, p.Past.Now, p.Wanted)
	whole := p.Wanted.With(parted.Made) // what is parted later is still whole when it is joined
	p.Wanted = p.Wanted.With(parted.Changes)
	p.Findings = append(p.Findings, parted.Findings...)
	plain := p.Wanted
	added := p.addParts(m, d)
	whole = whole.With(added.Made)
	p.Feed.Circuits = p.circuits(m.facts)
	p.drops(m.facts)
	p.feeds(m.facts, d)
	p.measureCircuits(m.facts)
	p.functions(m.facts, d)
	p.Join.Sites, p.Join.Added = p.sites(plain), d.Added
	p.moves(m, d)
	p.expectJoints(m)
	p.Join.Steps = append(p.Join.Part.Steps(p.Past.Now, whole), m.proofs(d.Bench.Rates.Check)...)
	brings := fresh(added.Steps, p.Join.Steps)
	planned := map[string]bool{}
	all := slices.Concat(p.Thin.Result.Steps, p.Join.Steps, p.pinSteps(),
		unlaid(p.Reach.Result.Steps, d.Added, &added))
	all = fed(after(all, &parted), p.Feed.Steps, d.Feed.Block)
	all = append(all, p.liveEnds(m)...)
	all = behind(all, brings, added.Touches)
	p.Join.Steps = append(p.Join.Steps, brings...)
	for i := range all {
		planned[all[i].ID] = true
	}
	for _, s := range slices.Concat(p.Join.Steps, p.pinSteps()) {
		if len(s.Edits) > 0 { // these come from what is there now: the same was done before, and is wanted again
			delete(p.Past.Done, s.ID)
		}
	}
	for i := range all { // what was done and is not so any more is to be done again
		if s := &all[i]; len(s.Edits) > 0 && p.Past.Now.Again(s.Edits[0]) {
			delete(p.Past.Done, s.ID)
		}
	}
	p.Thin.Progress = p.Thin.Result.Progress(p.Past, planned)
	p.Findings = append(p.Findings, p.Thin.Progress.Findings...)
	p.Thin.Counts = p.Thin.Result.Count(m.found, p.Thin.Progress, p.Thin.Result.Steps)
	all = p.own(slices.Concat(p.Thin.Progress.Mends, all), d.Own)
	all = batteryOff(p.gated(m, all))
	p.Work.Steps = work.Order(p.Past.Now, all)
	p.Work.at = make(map[string]int, len(all))
	for i := range p.Work.Steps {
		p.Work.at[p.Work.Steps[i].ID] = i
		planned[p.Work.Steps[i].ID] = true
	}
	isDone := func(id string) bool { _, done := p.Past.Done[id]; return done }
	work.Settle(p.Past.Now, p.Work.Steps, isDone)
	for i := range p.Join.Steps {
		if k, known := p.Work.at[p.Join.Steps[i].ID]; known {
			p.Join.Steps[i].Text, p.Join.Steps[i].At = p.Work.Steps[k].Text, p.Work.Steps[k].At
		}
	}
	p.strays(planned)
	p.prove(m, d.Pin.Limit)
}

// pinSteps gives Pin's steps as those of every stage are, with the advice that goes with them.
func (p *Plan) pinSteps() []work.Step {
	out := make([]work.Step, len(p.Steps))
	for i := range p.Steps {
		s := &p.Steps[i]
		out[i] = s.Step.Step
		out[i].Warn = s.Advice.Warn
	}
	return out
}

// proofs are the measurements before a terminal of the vehicle is drawn.
func (m *model) proofs(minutes float64) []work.Step {
	var out []work.Step
	for i := range m.facts.Laid.Loom.Wires {
		for _, e := range m.facts.Laid.Loom.Wires[i].Ends {
			t := harness.TerminalAt(e.At)
			if goal, known := m.wanted.Place(t); !known || goal.State != harness.Capped || !m.drawn[t] ||
				m.facts.Measured[e.At] {
				continue
			}
			if now, there := m.now.Place(t); !there || now.State != harness.Seated {
				continue
			}
			w := fact.WireOf(&m.facts.Laid.Loom.Wires[i], harness.Ref{})
			s := join.MeasureFirst(e.At, w, Meter(m.facts.RoleAt(e.At)), minutes)
			s.GuardsTerminal = []harness.TerminalID{t}
			out = append(out, s)
		}
	}
	return out
}

// gated puts the gate before the first cut, whichever stage makes it: every connector that a cut or a removal touches
// is labelled, photographed and counted, those of wires that are kept too.
func (p *Plan) gated(m *model, all []work.Step) []work.Step {
	touched := map[string]bool{}
	first := -1
	for i := range all {
		s := &all[i]
		for k := range s.Edits {
			e := &s.Edits[k]
			switch e.Do {
			case harness.Cut, harness.Tap, harness.Clip, harness.FallOut:
				if first < 0 && s.Cuts() {
					first = i
				}
				if tips, there := m.found.Tips(e.Wire); there {
					for end, t := range tips {
						if place, seated := m.found.Place(t.Terminal); t.State == harness.Crimped && seated &&
							(end == e.End || e.Do == harness.FallOut) {
							touched[place.At.Connector] = true
						}
					}
				}
			case harness.Sever:
				touched[e.At.Connector] = true
			}
		}
		for _, at := range s.At {
			if s.Stage == work.Thin && len(s.Edits) > 0 {
				touched[at.Connector] = true
			}
		}
	}
	if len(touched) == 0 && first < 0 {
		return all
	}
	missing := p.Thin.Result.Missing(touched)
	if first >= 0 {
		missing = append(slices.Clone(m.facts.Unsettled), missing...)
	}
	at := slices.IndexFunc(all, func(s work.Step) bool { return s.Stage == work.Thin && s.Kind == thin.Gate })
	if at < 0 {
		gate := p.Thin.Result.GateStep()
		all = append([]work.Step{gate}, all...)
		at = 0
	}
	all[at].Missing = missing
	p.Work.gate = all[at].ID
	for i := range all {
		if s := &all[i]; i != at && (s.Cuts() || s.Stage == work.Thin && len(s.Edits) > 0) &&
			!slices.Contains(s.Needs, p.Work.gate) {
			s.Needs = append(slices.Clone(s.Needs), p.Work.gate)
		}
	}
	return all
}

// batteryOff puts one step that takes the battery off before whatever cuts or bares a wire, and after what is
// measured
// with the power on.
func batteryOff(all []work.Step) []work.Step {
	off := work.BatteryOff(work.Join, 0)
	at, cuts := -1, false
	var live []string
	all = slices.DeleteFunc(slices.Clone(all), func(s work.Step) bool {
		cuts = cuts || s.Cuts()
		if s.Live {
			live = append(live, s.ID)
		}
		if s.ID != off.ID {
			return false
		}
		at++
		return at > 0
	})
	switch {
	case at >= 0:
		at = slices.IndexFunc(all, func(s work.Step) bool { return s.ID == off.ID })
	case cuts:
		all, at = append([]work.Step{off}, all...), 0
	default:
		return all
	}
	all[at].Needs = append(slices.Clone(all[at].Needs), live...)
	for i := range all {
		if s := &all[i]; s.Cuts() && !slices.Contains(s.Needs, off.ID) {
			s.Needs = append(slices.Clone(s.Needs), off.ID)
		}
	}
	return all
}

// strays lists what was done and is not in the plan any more. Pin goes on from wherever its terminals are.
func (p *Plan) strays(planned map[string]bool) {
	for _, t := range p.Past.Ticks {
		if planned[t.Step] || len(t.Edits) == 0 || t.Stage == work.Pin || t.Stage == work.Join ||
			p.Past.IsLost(t.Step) {
			continue
		}
		p.Work.Strays = append(p.Work.Strays, t)
		if t.Stage == work.Reach {
			p.Reach.Strays = append(p.Reach.Strays, t)
			p.Findings = append(p.Findings, finding.Finding{
				Code: "done-unwanted", Severity: finding.Check, Stage: "reach", Subject: string(t.Wire),
				Text:   fmt.Sprintf("%q was done, and the plan does not ask for it any more.", t.Text),
				Remedy: "Look at the wire; take the tick back if it was not done.",
			})
		}
	}
}

// Done gives the tick of a step, and false where it is not done.
func (p *Plan) Done(step string) (work.Tick, bool) {
	t, ok := p.Past.Done[step]
	return t, ok
}

// Blocked says why a step cannot be done yet, empty where it can: what must come first is named, else what stands in
// its way on the harness as it is now.
func (p *Plan) Blocked(s *work.Step) string { return p.BlockedAfter(s, nil) }

// BlockedAfter says it of when further steps are done too.
func (p *Plan) BlockedAfter(s *work.Step, done map[string]bool) string {
	if why := p.Work.Held[s.ID]; why != "" {
		return "what was done before the decisions changed stands in its way (" + why + ")"
	}
	if s.Kind != thin.Gate && len(s.Missing) > 0 {
		return "what is missing: " + strings.Join(s.Missing, "; ")
	}
	if g := p.Work.gate; g != "" && slices.Contains(s.Needs, g) {
		if _, passed := p.Past.Done[g]; !passed && !done[g] {
			return "the gate before the first cut"
		}
	}
	for _, need := range s.Needs {
		if _, before := p.Past.Done[need]; before || done[need] {
			continue
		}
		if i, known := p.Work.at[need]; known {
			return p.Work.Steps[i].Text
		}
	}
	return ""
}

// Ready says whether a step can be done now, tried on a bench that holds the harness as it is.
func (p *Plan) Ready(s *work.Step, bench *harness.Bench) bool {
	if p.Blocked(s) != "" {
		return false
	}
	if s.Stage != work.Pin || len(s.Edits) == 0 {
		return true
	}
	before := bench.InHand()
	after, err := harness.Apply(bench.Look(), s.Edits...)
	return err == nil && after.InHand() <= max(before, p.Pin.Limit)
}

// Of gives the steps on the list of a stage, in their order: its own, and before the first of them that needs it the
// caution or the gate of another. Of no stage it gives all.
func (p *Plan) Of(stage work.Stage) []*work.Step {
	var out []*work.Step
	told := map[string]bool{}
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		if stage != "" && s.Stage != stage {
			continue
		}
		for _, need := range s.Needs {
			k, known := p.Work.at[need]
			if x := &p.Work.Steps[k]; stage != "" && known && x.Stage != stage && !told[need] && len(x.Edits) == 0 &&
				(need == p.Work.gate || x.Kind == work.Caution) {
				told[need], out = true, append(out, x)
			}
		}
		out = append(out, s)
	}
	return out
}

// Step gives a step of the plan by its id.
func (p *Plan) Step(id string) (*work.Step, bool) {
	i, ok := p.Work.at[id]
	if !ok {
		return nil, false
	}
	return &p.Work.Steps[i], true
}

// Tick gives what is kept of a step of the plan when it has been carried out, and false where there is no such step.
func (p *Plan) Tick(id string) (work.Tick, bool) {
	s, ok := p.Step(id)
	if !ok {
		return work.Tick{}, false
	}
	t := s.Tick()
	if sheet, pins := p.Sheet(id); pins {
		t = sheet.Tick()
		t.Minutes = sheet.Minutes
	}
	if s.Stage == work.Reach && s.Length > 0 {
		t.Piece = p.Reach.Result.PieceFor(s.Wire())
	}
	return t, true
}

// Sheet gives a step of Pin with its advice, and false where it is of another stage.
func (p *Plan) Sheet(id string) (*Step, bool) {
	i := slices.IndexFunc(p.Steps, func(s Step) bool { return s.ID == id })
	if i < 0 {
		return nil, false
	}
	return &p.Steps[i], true
}

// closing says what is left open by decisions that wait for somebody.
func (p *Plan) closing(f *fact.Facts) []finding.Finding {
	var out []finding.Finding
	for _, w := range p.Join.Wires {
		if w.Open && w.Owner == "" && f.Kind.MovesTerminals() && !w.There {
			continue // the crosswalk says of feeds that nothing feeds them; the rest is a new function's own
		}
		if w.Open && w.Owner == "" {
			out = append(out, finding.Finding{
				Code: "open-end", Severity: finding.Check, Stage: "match", Side: string(match.To), Subject: w.Row.Ref.String(),
				Text: fmt.Sprintf(
					"The new wire of %s is laid, its other end is open, and nobody sees to it.",
					w.Row.Ref,
				),
				Remedy: "Say in Match where it begins, or who sees to it.",
			})
		}
	}
	return out
}
