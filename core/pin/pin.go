// Package pin orders terminal moves so that hands can carry them out one after another.
//
// Plan is given two states of the connectors, now and wanted, and knows nothing of why they differ. A terminal can only
// go into an empty cavity, so a move waits until its target has been vacated. Following who waits for whom gives chains,
// which end in an empty cavity and are done from that end, and cycles, which nothing starts: one terminal of each cycle
// is pulled first and waits, in a free cavity of the same housing where there is one, else loose and labelled. Cycles are
// worked one at a time, so that never more than one terminal waits.
package pin

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/work"
)

// Kind is what a step is about.
type Kind string

// The kinds of step on a re-pin sheet.
const (
	Move Kind = "move" // out of one cavity and into another
	Pull Kind = "pull" // the first of a cycle: out, and waits
	Seat Kind = "seat" // the one that waited goes home
	Out  Kind = "out"  // out of its cavity and sealed off: it goes
	Hold Kind = "hold" // out of its cavity, sealed and labelled: it waits for its source
	New  Kind = "new"  // a new wire
	Seal Kind = "plug" // a plug into a vacated cavity
)

// Step is a step on the re-pin sheet: what hands do, in one sentence, on which cavities.
type Step struct {
	work.Step
	Kind     Kind               `json:"kind"`
	Terminal harness.TerminalID `json:"terminal,omitempty"`
	From     harness.Ref        `json:"from,omitzero"`  // the cavity it leaves
	To       harness.Ref        `json:"to,omitzero"`    // the cavity it enters, or waits in
	Text     string             `json:"text"`           // what to do, one sentence
	Why      string             `json:"why,omitempty"`  // why now and not earlier
	Hand     string             `json:"hand,omitempty"` // the label of the terminal that is loose after this step
}

// Plan gives the steps that lead from now to wanted. Terminals that wanted does not mention stay where they are; a
// terminal that stays in a cavity which another wants is the caller's contradiction, and fails.
func Plan(now, wanted harness.Harness) ([]Step, error) {
	p := planner{now: now, wanted: wanted, bench: harness.Work(now), target: map[harness.Ref]harness.TerminalID{}, vacated: map[harness.Ref]string{}, done: map[harness.TerminalID]bool{}}
	for _, t := range wanted.Terminals() {
		was, known := now.Place(t)
		goal, _ := wanted.Place(t)
		switch {
		case !known:
			p.added = append(p.added, t)
		case was.State != harness.Seated || was == goal:
		case goal.State == harness.Seated:
			p.moves = append(p.moves, t)
			p.target[goal.At] = t
		default:
			p.leaving = append(p.leaving, t)
		}
	}
	byNow := func(a, b harness.TerminalID) int { return harness.CompareRefs(p.at(a), p.at(b)) }
	slices.SortFunc(p.leaving, byNow)
	slices.SortFunc(p.moves, byNow)
	err := p.run()
	return p.steps, err
}

type planner struct {
	now, wanted           harness.Harness
	bench                 *harness.Bench // as the steps so far leave it
	leaving, moves, added []harness.TerminalID
	target                map[harness.Ref]harness.TerminalID // which move wants the cavity
	vacated               map[harness.Ref]string             // the step that emptied the cavity
	done                  map[harness.TerminalID]bool
	steps                 []Step
}

func (p *planner) at(t harness.TerminalID) harness.Ref {
	place, _ := p.now.Place(t)
	return place.At
}

func (p *planner) goal(t harness.TerminalID) harness.Place {
	place, _ := p.wanted.Place(t)
	return place
}

func (p *planner) run() error {
	for _, t := range p.leaving {
		if err := p.leave(t); err != nil {
			return err
		}
	}
	for _, t := range p.moves { // chains: those whose target is empty, and whatever they let follow
		if _, full := p.bench.Look().In(p.goal(t).At); !p.done[t] && !full {
			if err := p.chain(t, ""); err != nil {
				return err
			}
		}
	}
	for _, t := range p.moves { // what is left runs in circles
		if !p.done[t] {
			if err := p.cycle(t); err != nil {
				return err
			}
		}
	}
	for _, t := range p.added {
		if err := p.add(t); err != nil {
			return err
		}
	}
	return p.plug()
}

// emit carries the step's edits out on the model and puts it on the sheet.
func (p *planner) emit(s Step, edits ...harness.Edit) error {
	if err := p.bench.Do(edits...); err != nil {
		return fmt.Errorf("pin: %w", err)
	}
	var needs []string
	if s.To != (harness.Ref{}) && s.Kind != Pull {
		if id, ok := p.vacated[s.To]; ok {
			needs = append(needs, id)
		}
	}
	if s.Kind == Seat {
		needs = append(needs, p.lastPull())
	}
	s.Step = work.New(edits, needs...)
	if s.From != (harness.Ref{}) {
		p.vacated[s.From] = s.ID
	}
	p.steps = append(p.steps, s)
	return nil
}

func (p *planner) lastPull() string {
	for _, s := range slices.Backward(p.steps) {
		if s.Kind == Pull {
			return s.ID
		}
	}
	return ""
}

func (p *planner) leave(t harness.TerminalID) error {
	from, goal := p.at(t), p.goal(t)
	p.done[t] = true
	s := Step{Kind: Out, Terminal: t, From: from, Text: fmt.Sprintf("Pull the terminal out of %s, seal the end and label it %q.", from, goal.Label)}
	last := harness.Edit{Do: harness.Cap, Terminal: t, Label: goal.Label}
	if goal.State == harness.Parked {
		s.Kind, last.Do = Hold, harness.Park
		s.Text = fmt.Sprintf("Pull the terminal out of %s, seal the end, label it %q and tie it back: it waits for its source.", from, goal.Label)
	}
	if err := p.emit(s, harness.Edit{Do: harness.Remove, Terminal: t, At: from, Label: goal.Label}, last); err != nil {
		return err
	}
	return p.follow(from, "")
}

// chain moves a terminal into its empty target and then whoever waits for the cavity that this leaves.
func (p *planner) chain(t harness.TerminalID, hand string) error {
	from, to := p.at(t), p.goal(t).At
	p.done[t] = true
	s := Step{Kind: Move, Terminal: t, From: from, To: to, Text: fmt.Sprintf("Move the terminal from %s to %s.", from, to), Hand: hand}
	s.Why = p.whyEmpty(to)
	err := p.emit(s, harness.Edit{Do: harness.Remove, Terminal: t, At: from, Label: to.String()}, harness.Edit{Do: harness.Insert, Terminal: t, At: to})
	if err != nil {
		return err
	}
	return p.follow(from, hand)
}

// whyEmpty says since when a cavity is empty; one that always was may have a plug in it.
func (p *planner) whyEmpty(at harness.Ref) string {
	if id, ok := p.vacated[at]; ok {
		return fmt.Sprintf("%s is empty since step %d.", at, p.number(id))
	}
	return fmt.Sprintf("%s holds no wire: if there is a plug in it, take it out first.", at)
}

func (p *planner) number(id string) int {
	return slices.IndexFunc(p.steps, func(s Step) bool { return s.ID == id }) + 1
}

// follow does the move that waited for this cavity, if there is one that is not in hand.
func (p *planner) follow(vacant harness.Ref, hand string) error {
	if t, ok := p.target[vacant]; ok && !p.done[t] {
		return p.chain(t, hand)
	}
	return nil
}

// cycle breaks a ring of moves at t: t is pulled and waits, the others follow, and t goes home last.
func (p *planner) cycle(t harness.TerminalID) error {
	from, to := p.at(t), p.goal(t).At
	p.done[t] = true
	label := to.String()
	pull := Step{Kind: Pull, Terminal: t, From: from, Hand: label,
		Text: fmt.Sprintf("Pull the terminal out of %s; label it %q and leave it loose.", from, label),
		Why:  fmt.Sprintf("These moves run in a circle and no cavity of the housing is free: this one waits in hand until %s is empty.", to)}
	edits := []harness.Edit{{Do: harness.Remove, Terminal: t, At: from, Label: label}}
	wait, free := p.freeCavity(from.Connector)
	if free {
		pull.To, pull.Hand = wait, ""
		pull.Text = fmt.Sprintf("Pull the terminal out of %s, label it %q and let it wait in %s.", from, label, wait)
		pull.Why = fmt.Sprintf("These moves run in a circle: this one waits in the free cavity %s until %s is empty. %s", wait, to, p.whyEmpty(wait))
		edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: wait})
	}
	if err := p.emit(pull, edits...); err != nil {
		return err
	}
	if err := p.follow(from, pull.Hand); err != nil {
		return err
	}
	home := Step{Kind: Seat, Terminal: t, To: to, Text: fmt.Sprintf("Push the waiting terminal labelled %q into %s.", label, to), Why: fmt.Sprintf("%s is empty since step %d; the circle is closed.", to, p.number(p.vacated[to]))}
	edits = nil
	if free {
		home.From = wait
		home.Text = fmt.Sprintf("Move the waiting terminal labelled %q from %s to %s.", label, wait, to)
		edits = append(edits, harness.Edit{Do: harness.Remove, Terminal: t, At: wait, Label: label})
	}
	return p.emit(home, append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: to})...)
}

// freeCavity gives a cavity of the connector in which a terminal can wait: one that this job vacated before any other,
// since it surely has no plug in it.
func (p *planner) freeCavity(connector string) (harness.Ref, bool) {
	var best harness.Ref
	found, bestVacated := false, false
	for _, r := range p.bench.Look().Cavities() {
		if _, full := p.bench.Look().In(r); full || r.Connector != connector || p.bench.Look().Plugged(r) {
			continue
		}
		_, vacated := p.vacated[r]
		if !found || vacated && !bestVacated {
			best, found, bestVacated = r, true, vacated
		}
	}
	return best, found
}

func (p *planner) add(t harness.TerminalID) error {
	goal := p.goal(t)
	if goal.State != harness.Seated {
		return nil
	}
	return p.emit(Step{Kind: New, Terminal: t, To: goal.At, Why: p.whyEmpty(goal.At), Text: fmt.Sprintf("Crimp a new terminal with its seal on a new wire, label it %q and push it into %s.", goal.At, goal.At)},
		harness.Edit{Do: harness.Add, Terminal: t, Label: goal.At.String()}, harness.Edit{Do: harness.Insert, Terminal: t, At: goal.At})
}

func (p *planner) plug() error {
	for _, r := range p.wanted.Cavities() {
		if p.wanted.Plugged(r) && !p.now.Plugged(r) {
			if err := p.emit(Step{Kind: Seal, To: r, Text: fmt.Sprintf("Push a cavity plug into %s.", r)}, harness.Edit{Do: harness.Plug, At: r}); err != nil {
				return err
			}
		}
	}
	return nil
}
