package demo_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/plan"
	"draxel/core/thin"
	"draxel/core/work"
)

// Thin and Pin work on one harness: whatever is decided, and whichever of the two has a step ticked, both plans stand, and
// nothing that was ticked is lost.
func TestThinAndPinInAStorm(t *testing.T) {
	for seed := range uint64(4) {
		r := rand.New(rand.NewPCG(seed, 19))
		_, job := jobs(t)
		job.Ticks = nil
		facts, err := job.Facts()
		if err != nil {
			t.Fatal(err)
		}
		crosswalk := plan.Compute(facts, job.Chosen()).Match
		p := plan.Follow(facts, job.Chosen(), crosswalk)
		var systems, wires []string
		for _, s := range p.Thin.Result.Systems {
			systems = append(systems, s.System)
		}
		for i := range facts.Laid.Loom.Wires {
			wires = append(wires, facts.Laid.Loom.Wires[i].ID)
		}
		tick := func(x work.Tick) {
			x.When = int64(len(job.Ticks) + 1)
			job.Ticks = append(job.Ticks, x)
		}
		for range 30 {
			switch r.IntN(4) {
			case 0:
				on, id := thin.System, systems[r.IntN(len(systems))]
				if r.IntN(2) == 0 {
					on, id = thin.Wire, wires[r.IntN(len(wires))]
				}
				d := thin.Decision{On: on, ID: id, Choice: []thin.Choice{thin.Goes, thin.Goes, thin.Keep}[r.IntN(3)], Reason: "a trial"}
				if p.Thin.Result.Refuses(d) == "" {
					job.Thin = append(slices.DeleteFunc(job.Thin, func(x thin.Decision) bool { return x.On == on && x.ID == id }), d)
				}
			case 1, 2:
				for n := r.IntN(5); n > 0 && len(p.Steps) > 0; n-- {
					tick(p.Steps[0].Tick())
					p = plan.Follow(facts, job.Chosen(), crosswalk)
				}
			case 3:
				for n := r.IntN(12); n > 0; n-- {
					i := slices.IndexFunc(p.Thin.Steps, func(s thin.Step) bool {
						_, done := p.Thin.Progress.Done[s.ID]
						_, held := p.Thin.Held[s.ID]
						return !done && !held && !slices.ContainsFunc(s.Needs, func(id string) bool { _, ok := p.Thin.Progress.Done[id]; return !ok })
					})
					if i < 0 {
						break
					}
					s := p.Thin.Steps[i]
					tick(work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text})
					p = plan.Follow(facts, job.Chosen(), crosswalk)
				}
			}
			p = plan.Follow(facts, job.Chosen(), crosswalk)
			if p.Proof.Fault != "" || !p.Proof.Reached {
				t.Fatalf("job %d: the moves: %+v", seed, p.Proof)
			}
			if p.Thin.Proof.Fault != "" || !p.Thin.Proof.Reached {
				t.Fatalf("job %d: Thin: %+v", seed, p.Thin.Proof)
			}
			for _, f := range p.Findings {
				if f.Code == "tick-lost" {
					t.Fatalf("job %d: %s", seed, f.Text)
				}
			}
		}
	}
}
