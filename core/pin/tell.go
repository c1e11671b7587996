package pin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/work"
)

// write puts a step on the sheet.
func (s *scheduler) write(step Step, edits ...harness.Edit) {
	var needs []string
	for _, e := range edits {
		if id := s.emptied[e.At]; id != "" && (e.Do == harness.Insert || e.Do == harness.Plug) {
			needs = append(needs, id)
		}
		if e.Do == harness.Insert { // the step that pulled what waits
			for _, earlier := range slices.Backward(s.steps) {
				if earlier.Kind == Pull && earlier.Terminal == e.Terminal {
					needs = append(needs, earlier.ID)
					break
				}
			}
		}
	}
	slices.Sort(needs)
	step.Step = step.As(work.New(edits, slices.Compact(needs)...))
	step.Stage, step.At = work.Pin, cavities(step.From, step.To)
	step.Opens = s.opened
	s.opened = nil
	for _, at := range []harness.Ref{step.From, step.To} {
		if at == (harness.Ref{}) {
			continue
		}
		if c := s.where[s.cavity(at)]; len(s.since[c]) == 0 || s.since[c][len(s.since[c])-1] != step.ID {
			s.since[c] = append(s.since[c], step.ID)
		}
	}
	s.steps = append(s.steps, step)
}

// cavities lists those that are any.
func cavities(all ...harness.Ref) []harness.Ref {
	return slices.DeleteFunc(all, func(r harness.Ref) bool { return r == (harness.Ref{}) })
}

// tellPull writes the step that begins a cycle.
func (s *scheduler) tellPull(a action) {
	t := &s.tasks[a.task]
	from, to := s.refs[t.from], t.goal.At
	tag := to.String()
	step := Step{Terminal: t.terminal, From: from}
	step.Kind, step.Text = Pull, fmt.Sprintf("Pull the terminal out of %s; label it %q and leave it loose.", from, tag)
	step.Why = fmt.Sprintf("These moves run in a circle: this one waits in hand until %s is empty.", to)
	edits := []harness.Edit{{Do: harness.Remove, Terminal: t.terminal, At: from, Label: tag}}
	if a.cavity >= 0 {
		step.To = s.refs[a.cavity]
		step.Text = fmt.Sprintf("Pull the terminal out of %s, label it %q and let it wait in %s.", from, tag, step.To)
		step.Why = fmt.Sprintf("These moves run in a circle: this one waits in the free cavity %s until %s is empty. %s",
			step.To, to, s.whyEmpty(step.To))
		edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t.terminal, At: step.To})
	}
	s.write(step, edits...)
}

// whyEmpty says since when a cavity is empty; one that always was may have a plug in it.
func (s *scheduler) whyEmpty(at harness.Ref) string {
	if id := s.emptied[at]; id != "" {
		i := slices.IndexFunc(s.steps, func(x Step) bool { return x.ID == id })
		if to := s.steps[i].To; to != (harness.Ref{}) {
			return fmt.Sprintf("%s is empty since its wire went to %s.", at, to)
		}
		return fmt.Sprintf("%s is empty since its wire came out.", at)
	}
	if s.in.State.Vacated[at] {
		return fmt.Sprintf("%s is empty: its wire is out.", at)
	}
	return fmt.Sprintf("%s holds no wire: if there is a plug in it, take it out first.", at)
}

// tell writes the step that brings a task to its end.
func (s *scheduler) tell(i int32) {
	t := &s.tasks[i]
	tag := t.goal.Label
	if t.to >= 0 {
		tag = t.goal.At.String()
	}
	if tag == "" {
		tag = "not wanted"
	}
	var edits []harness.Edit
	step := Step{Terminal: t.terminal}
	have := s.takeUp(t, &step, tag, &edits)
	switch {
	case t.to >= 0:
		s.goHome(t, &step, have, &edits)
	case t.goal.State == harness.Parked:
		step.Kind, step.Text = Hold, fmt.Sprintf("%s, seal the end, label it %q and tie it back: it waits.", have, tag)
		edits = append(edits, harness.Edit{Do: harness.Park, Terminal: t.terminal, Label: tag})
	case t.goal.State == harness.Capped:
		step.Kind, step.Text = Out, fmt.Sprintf("%s, seal the end and label it %q.", have, tag)
		edits = append(edits, harness.Edit{Do: harness.Cap, Terminal: t.terminal, Label: tag})
	default:
		step.Kind, step.Text = Drop, have+" and take its wire away."
		step.Why = "It was made for a decision that has been taken back."
		if on, crimped := s.in.Made[t.terminal]; crimped {
			step.Text = fmt.Sprintf("%s and cut the terminal off %s.", have, on.Name)
			edits = append(edits, harness.Edit{Do: harness.Clip, Wire: on.Wire, End: on.End})
		} else {
			edits = append(edits, harness.Edit{Do: harness.Drop, Terminal: t.terminal})
		}
	}
	s.write(step, edits...)
}

// takeUp says how an end is taken in hand and adds the edits for it.
func (s *scheduler) takeUp(t *task, step *Step, tag string, edits *[]harness.Edit) string {
	out := t.from
	if t.wait >= 0 {
		out = t.wait
	}
	add := func(e harness.Edit) { *edits = append(*edits, e) }
	switch {
	case out >= 0:
		step.From = s.refs[out]
		if s.in.Fixed != nil && s.in.Fixed(step.From) {
			add(harness.Edit{Do: harness.Sever, Terminal: t.terminal, At: step.From, Label: tag})
			return fmt.Sprintf("Cut the wire behind %s, whose terminal does not come out", step.From)
		}
		add(harness.Edit{Do: harness.Remove, Terminal: t.terminal, At: step.From, Label: tag})
		return fmt.Sprintf("Pull the terminal out of %s", step.From)
	case t.made:
		add(harness.Edit{Do: harness.Add, Terminal: t.terminal, Label: tag})
		if on, ok := s.in.Made[t.terminal]; ok {
			add(harness.Edit{Do: harness.Crimp, Wire: on.Wire, End: on.End, Terminal: t.terminal})
			return fmt.Sprintf("Crimp a new terminal with its seal on %s, label it %q", on.Name, tag)
		}
		return fmt.Sprintf("Crimp a new terminal with its seal on a new wire, label it %q", tag)
	case t.was.State == harness.Loose:
		return fmt.Sprintf("Take the loose terminal labelled %q", t.was.Label)
	}
	add(harness.Edit{Do: harness.Resume, Terminal: t.terminal, Label: tag})
	return fmt.Sprintf("Open the %s end labelled %q", t.was.State, t.was.Label)
}

// goHome writes the pushing of a terminal into its cavity.
func (s *scheduler) goHome(t *task, step *Step, have string, edits *[]harness.Edit) {
	step.To = t.goal.At
	step.Why = s.whyEmpty(step.To)
	unplug := ""
	if s.plugged[t.to] {
		unplug = fmt.Sprintf("Take the plug out of %s. ", step.To)
		step.Why = ""
		*edits = append([]harness.Edit{{Do: harness.Unplug, At: step.To}}, *edits...)
	}
	switch {
	case t.wait >= 0:
		step.Kind, step.Text = Seat, fmt.Sprintf("Move the waiting terminal labelled %q from %s to %s.", step.To, step.From,
			step.To)
	case t.made:
		step.Kind, step.Text = New, fmt.Sprintf("%s and push it into %s.", have, step.To)
	case t.from >= 0 && strings.HasPrefix(have, "Cut"):
		step.Kind, step.Text = Move, fmt.Sprintf("%s, join a lead with the right terminal to it, and push that into %s.",
			have, step.To)
	case t.from >= 0 && s.in.Renew[t.terminal]:
		step.Kind, step.Text = Move, fmt.Sprintf("Pull the terminal out of %s, cut it off, crimp a new one and push that "+
			"into %s.", step.From, step.To)
	case t.from >= 0:
		step.Kind, step.Text = Move, fmt.Sprintf("Move the terminal from %s to %s.", step.From, step.To)
	case t.was.State == harness.Loose:
		step.Kind, step.Text = Seat, fmt.Sprintf("Push the waiting terminal labelled %q into %s.", t.was.Label, step.To)
	default:
		step.Kind, step.Text = Seat, fmt.Sprintf("%s, crimp a terminal on it and push it into %s.", have, step.To)
	}
	step.Text = unplug + step.Text
	step.Origin = t.origin
	*edits = append(*edits, harness.Edit{Do: harness.Insert, Terminal: t.terminal, At: step.To})
}

// stopper puts a plug in or takes one out.
func (s *scheduler) stopper(a action) {
	at, where := s.refs[a.cavity], s.where[a.cavity]
	same := func(c int32) bool { return c == a.cavity }
	if a.kind == Seal {
		step := Step{To: at}
		step.Kind, step.Text = Seal, fmt.Sprintf("Push a cavity plug into %s.", at)
		s.write(step, harness.Edit{Do: harness.Plug, At: at})
		s.plugs[where] = slices.DeleteFunc(s.plugs[where], same)
	} else {
		step := Step{From: at}
		step.Kind, step.Text = Unseal, fmt.Sprintf("Take the plug out of %s.", at)
		s.write(step, harness.Edit{Do: harness.Unplug, At: at})
		s.unplugs[where] = slices.DeleteFunc(s.unplugs[where], same)
	}
	s.plugged[a.cavity] = a.kind == Seal
	s.left[where]--
}

// close writes the closing of a connector: finished, or for now.
func (s *scheduler) close(c int32, again bool) {
	name := s.names[c]
	s.closed[name]++
	step := Step{Connector: name, Again: again}
	step.Step = work.Check("close", name, fmt.Sprint(s.closed[name]), fmt.Sprint(again))
	step.Stage, step.Kind, step.Text = work.Pin, Close, fmt.Sprintf("%s is finished: push its secondary lock home.", name)
	step.At = []harness.Ref{{Connector: name}}
	if again {
		step.Text = fmt.Sprintf("Push the secondary lock of %s home for now: it will be opened again.", name)
	}
	step.Needs = s.since[c]
	delete(s.since, c)
	s.open = slices.DeleteFunc(s.open, func(o int32) bool { return o == c })
	s.steps = append(s.steps, step)
}
