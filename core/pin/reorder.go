package pin

import (
	"errors"
	"fmt"
	"slices"

	"draxel/core/harness"
)

// errNoStep: a wish about a step that is done, or that the plan does not have any more, is no fault.
var errNoStep = errors.New("there is no such step to be done")

// Reorder puts one step before another where hands could do it so, and fails with the reason where they could not: a
// cavity still full, more in hand than allowed, a connector closed before it is finished.
func Reorder(now harness.Harness, steps []Step, limit int, w Wish) ([]Step, error) {
	from := slices.IndexFunc(steps, func(s Step) bool { return s.ID == w.Step })
	to := slices.IndexFunc(steps, func(s Step) bool { return s.ID == w.Then })
	if from < 0 || to < 0 || from == to {
		return steps, errNoStep
	}
	if from < to {
		return steps, nil
	}
	moved := steps[from]
	out := slices.Insert(slices.Delete(slices.Clone(steps), from, from+1), to, moved)
	if err := possible(now, out, limit); err != nil {
		return steps, err
	}
	return out, nil
}

// possible says why steps cannot be done in their order.
func possible(now harness.Harness, steps []Step, limit int) error {
	b := harness.Work(now)
	closed := map[string]int{}
	for i, s := range steps {
		if s.Kind == Close {
			closed[s.Connector] = i + 1
			continue
		}
		for _, at := range []harness.Ref{s.From, s.To} {
			if n := closed[at.Connector]; n > 0 && slices.Contains(steps[n-1].Needs, s.ID) {
				return fmt.Errorf("%s would be closed before %q is done", at.Connector, s.Text)
			}
		}
		if err := b.Do(s.Edits...); err != nil {
			return fmt.Errorf("%q cannot be done then: %w", s.Text, err)
		}
		if b.InHand() > limit {
			return fmt.Errorf("after %q there would be %d in hand, and %d may be", s.Text, b.InHand(), limit)
		}
	}
	return nil
}
