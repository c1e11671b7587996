package demo_test

import (
	"flag"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

var harnesses = flag.Uint64("storms", 3, "how many storms TestThinPinAndReachInAStorm goes through")

// Thin, Pin and Reach work on one harness: whatever is decided or moved, and whichever of them has a step ticked, all
// three plans stand, and nothing that was ticked is lost.
func TestThinPinAndReachInAStorm(t *testing.T) {
	cut := map[string]int{}
	for seed := range *harnesses {
		r := rand.New(rand.NewPCG(seed, 19))
		_, job := jobs(t)
		job.Ticks = nil
		rules := *job.Rules
		rules.Free = seed%2 == 0
		job.Rules = &rules
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
			switch r.IntN(7) {
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
			case 4:
				at := &job.Places[r.IntN(len(job.Places))]
				at.Station = job.Map.Stations[r.IntN(len(job.Map.Stations))].ID
			case 5, 6:
				for n := r.IntN(25); n > 0; n-- {
					i := slices.IndexFunc(p.Reach.Result.Steps, func(s work.Step) bool {
						_, done := p.Past.Done[s.ID]
						return !done && p.Work.Held[s.ID] == "" && !slices.ContainsFunc(s.Needs, func(id string) bool { _, ok := p.Past.Done[id]; return !ok && !false })
					})
					if i < 0 {
						break
					}
					s := p.Reach.Result.Steps[i]
					tick(work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text, Stage: "reach", Wire: s.Wire, Length: s.Length, Piece: p.Reach.Result.PieceFor(s.Wire)})
					cut[string(s.Kind)]++
					p = plan.Follow(facts, job.Chosen(), crosswalk)
				}
			case 3:
				for n := r.IntN(12); n > 0; n-- {
					i := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool {
						_, done := p.Past.Done[s.ID]
						_, held := p.Work.Held[s.ID]
						return !done && !held && !slices.ContainsFunc(s.Needs, func(id string) bool { _, ok := p.Past.Done[id]; return !ok })
					})
					if i < 0 {
						break
					}
					s := p.Work.Steps[i]
					tick(work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text})
					p = plan.Follow(facts, job.Chosen(), crosswalk)
				}
			}
			p = plan.Follow(facts, job.Chosen(), crosswalk)
			if p.Proof.Fault != "" || !p.Proof.Reached {
				t.Fatalf("job %d: the moves: %+v", seed, p.Proof)
			}
			if p.Proof.Fault != "" || !p.Proof.Reached {
				t.Fatalf("job %d: Thin: %+v", seed, p.Proof)
			}
			if p.Proof.Fault != "" || !p.Proof.Reached {
				t.Fatalf("job %d: Reach: %+v", seed, p.Proof)
			}
			for _, f := range p.Findings {
				if f.Code == "tick-lost" {
					t.Fatalf("job %d: %s", seed, f.Text)
				}
			}
		}
	}
	if cut["cut"] < 5 || cut["join"] < 3 {
		t.Errorf("the storms hardly reach the cutting: %v", cut)
	}
}
