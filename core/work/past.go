package work

import (
	"slices"

	"draxel/core/harness"
)

// Past is what has been done: the harness that the ticks made of the harness as found.
type Past struct {
	Now   harness.Harness
	Ticks []Tick          // in the order in which they were made
	Done  map[string]Tick // by step
	Lost  []Tick          // that cannot be done on the harness as it is known now, with why in their reason
}

// Replay carries the ticks out on the harness as found, in the order in which they were made. One that cannot be done
// leaves no half of itself behind.
func Replay(found harness.Harness, ticks []Tick) Past {
	p := Past{Ticks: InOrder(ticks), Done: make(map[string]Tick, len(ticks))}
	trial := NewTrial(found)
	for _, t := range p.Ticks {
		p.Done[t.Step] = t
		if err := trial.Try(t.Edits...); err != nil {
			t.Reason = err.Error()
			p.Lost = append(p.Lost, t)
		}
	}
	p.Now = trial.Harness()
	return p
}

// IsLost says whether a tick could not be carried out.
func (p *Past) IsLost(step string) bool {
	return slices.ContainsFunc(p.Lost, func(t Tick) bool { return t.Step == step })
}

// Left is the work that is left: the steps that can be carried out in their order, and those that cannot.
type Left struct {
	Steps []Step
	Held  map[string]string // by step: why it cannot be done
}

// Remaining gives what is left of the steps, in their order. Where something was done that the plan does not ask for
// any more, each is tried: those that it stands in the way of are held, and so is what needs them. Else nothing is
// tried, and running the steps will prove them.
func Remaining(p Past, steps []Step, try bool) Left {
	left := Left{Held: map[string]string{}}
	reached := make(map[string]bool, len(steps))
	known := make(map[string]bool, len(steps))
	for i := range steps {
		known[steps[i].ID] = true
	}
	var trial *Trial
	if try {
		trial = NewTrial(p.Now)
	}
	for _, s := range steps {
		if _, done := p.Done[s.ID]; done {
			continue
		}
		var needs []string
		for _, n := range s.Needs {
			if _, done := p.Done[n]; done || !known[n] {
				continue
			}
			needs = append(needs, n)
			if try && !reached[n] {
				left.Held[s.ID] = "a step that it needs cannot be done"
			}
		}
		if trial != nil && left.Held[s.ID] == "" {
			if err := trial.Try(s.Edits...); err != nil {
				left.Held[s.ID] = err.Error()
			}
		}
		if left.Held[s.ID] != "" {
			continue
		}
		reached[s.ID] = true
		s.Needs = needs
		left.Steps = append(left.Steps, s)
	}
	return left
}
