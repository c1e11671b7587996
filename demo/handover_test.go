package demo_test

import (
	"testing"

	"draxel/core/handover"
	"draxel/core/plan"
	"draxel/demo"
)

// The Packhorse as it is shown: what is ticked can be done and is wanted, the plan is proven on from there, and what was
// kept opens as the job that it was.
func TestHandedOverHalfDone(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	before := all[1]
	f, err := before.Facts()
	if err != nil {
		t.Fatal(err)
	}
	whole := plan.Compute(f, before.Chosen())
	j := all[1]
	if err := demo.HandOver(&j); err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	if len(p.Past.Lost) > 0 || len(p.Work.Strays) > 0 {
		t.Errorf("%d ticks cannot be done, %d are not wanted: %v %v", len(p.Past.Lost), len(p.Work.Strays), p.Past.Lost, p.Work.Strays)
	}
	if !p.Proof.Reached || p.Proof.Fault != "" {
		t.Errorf("the plan is not proven: %s %s", p.Proof.Line(), p.Proof.Fault)
	}
	left := 0
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done {
			left++
		}
	}
	if n := len(whole.Work.Steps); len(j.Ticks) < n/4 || left+len(j.Ticks) != n {
		t.Errorf("%d ticked, %d left, of %d steps", len(j.Ticks), left, n)
	}
	kept, err := plan.Thaw(j.Delivered[0].Kept)
	if err != nil {
		t.Fatal(err)
	}
	if hash, err := kept.Hash(); err != nil || hash != j.Delivered[0].Hash {
		t.Errorf("what was kept has the hash %s, %s was written beside it (%v)", hash, j.Delivered[0].Hash, err)
	}
	lines := handover.Merge(p.Wants(&f, j.Chosen(), 0), j.Bought, func(string) int { return 0 })
	for i := range lines {
		if lines[i].Idle {
			t.Errorf("%s was bought and nothing asks for it", lines[i].Key)
		}
	}
}
