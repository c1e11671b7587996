package pin

import (
	"errors"

	"draxel/core/harness"
)

// Plan gives the steps that lead from now to wanted. A terminal that wanted does not mention is a new wire which is not
// wanted any more, and comes out. It fails when a cavity that is wanted is held by a terminal that stays.
func Plan(in Input) (Result, error) {
	b := newBoard(in)
	r := Result{Fewest: b.fewest(in.Limit), Bound: b.bound(in)}
	s := scheduler{board: b, in: in, closed: map[string]int{}, last: -1}
	if err := s.run(); err != nil {
		return Result{}, err
	}
	r.Steps, r.Extractions, r.Openings, r.Stuck = s.steps, s.extractions, s.openings, s.stuck
	for _, w := range in.Wishes {
		steps, err := Reorder(in.Now, r.Steps, max(in.Limit, in.Now.InHand()), w)
		if err != nil {
			r.Refused = append(r.Refused, Refusal{w, err.Error(), errors.Is(err, errNoStep)})
			continue
		}
		r.Steps = steps
	}
	label(in.Now, r.Steps)
	return r, nil
}

// label writes into each step what is in hand after it.
func label(now harness.Harness, steps []Step) {
	var terminals []harness.TerminalID
	var labels []string
	take := func(t harness.TerminalID, label string) {
		terminals, labels = append(terminals, t), append(labels, label)
	}
	if now.InHand() > 0 {
		for _, t := range now.Terminals() {
			if p, _ := now.Place(t); p.State == harness.Loose {
				take(t, p.Label)
			}
		}
	}
	for i := range steps {
		for _, e := range steps[i].Edits {
			switch e.Do {
			case harness.Remove, harness.Add, harness.Resume, harness.Sever:
				take(e.Terminal, e.Label)
			case harness.Insert, harness.Cap, harness.Park, harness.Drop, harness.Clip:
				for k, t := range terminals {
					if t == e.Terminal || e.Do == harness.Clip && t == steps[i].Terminal {
						terminals = append(terminals[:k:k], terminals[k+1:]...)
						labels = append(labels[:k:k], labels[k+1:]...)
						break
					}
				}
			}
		}
		steps[i].Hand = append([]string(nil), labels...)
	}
}
