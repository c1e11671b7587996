package plan_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/thin"
)

// Two decisions of the person's own that contradict each other are told as such: they are no fault of ours, and nothing
// is called proven over them. Whatever else is decided, there is no fault of ours.
func TestAContradictionIsNoFaultOfOurs(t *testing.T) {
	against, plain := 0, 0
	for seed := *first; seed < *first+*mixed; seed++ {
		r := rand.New(rand.NewPCG(seed, 7))
		j := mixedJob(r)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, j.Chosen())
		for range 12 {
			decideMixed(r, &j, &p, f)
			if n := len(f.Laid.Loom.Wires); r.IntN(2) == 0 && n > 0 {
				d := thin.Decision{On: thin.Wire, ID: string(f.Laid.Loom.Wires[r.IntN(n)].ID), Choice: thin.Goes, Reason: "a trial"}
				if p.Thin.Result.Refuses(d) == "" {
					j.Thin = append(j.Thin, d)
				}
			}
			p = plan.Compute(f, j.Chosen())
			line := p.Proof.Line()
			if strings.Contains(line, "ault of ours") {
				t.Fatalf("job %d: %s", seed, line)
			}
			switch {
			case len(p.Proof.Against) == 0:
				plain++
			case p.Proof.Reached || !has(p.Findings, "two-edits") || !strings.Contains(line, "own decisions contradict"):
				t.Fatalf("job %d: %s", seed, line)
			default:
				against++
			}
		}
	}
	if against < 50 || plain < 50 {
		t.Errorf("%d contradict themselves, %d do not: the jobs say too little", against, plain)
	}
}

// An accepted match that is held up is counted out of the proof, by name, and comes back when what holds it up is gone.
func TestTheProofNamesWhatItLeavesOff(t *testing.T) {
	j := job([]string{"A1 Injector 1", "A2 Injector 2"}, []string{"A2 Injector 1", "A3 Injector 2"}, matched("A1", "A2"))
	p := computeJob(t, j)
	line := p.Proof.Line()
	if len(p.Proof.Left) != 1 || !strings.Contains(line, "but for 1 that is left off") ||
		!strings.Contains(line, "A1 to A2") {
		t.Errorf("%v: %s", p.Proof.Left, line)
	}
	j.Decisions = append(j.Decisions, matched("A2", "A3"))
	if p = computeJob(t, j); len(p.Proof.Left) > 0 || strings.Contains(p.Proof.Line(), "left off") {
		t.Errorf("%v: %s", p.Proof.Left, p.Proof.Line())
	}
	j.Decisions[1].Choice = match.Gone
	if p = computeJob(t, j); len(p.Proof.Left) > 0 {
		t.Errorf("its cavity is free: %v", p.Proof.Left)
	}
}
