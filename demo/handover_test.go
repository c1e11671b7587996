package demo_test

import (
	"math"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/demo"
)

// The Packhorse as it is shown: what is ticked can be done and is wanted, the plan is proven on from there, and what
// was kept opens as the job that it was.
func TestHandedOverHalfDone(t *testing.T) {
	before, f := packhorse(t)
	whole := plan.Compute(f, before.Chosen())
	j := before
	if err := demo.HandOver(&j); err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	if len(p.Past.Lost) > 0 || len(p.Work.Strays) > 0 {
		t.Errorf(
			"%d ticks cannot be done, %d are not wanted: %v %v",
			len(p.Past.Lost),
			len(p.Work.Strays),
			p.Past.Lost,
			p.Work.Strays,
		)
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
	kept, err := stored.Thaw(j.Delivered[0].Kept)
	if err != nil {
		t.Fatal(err)
	}
	if hash, err := kept.Hash(); err != nil || hash != j.Delivered[0].Hash {
		t.Errorf("what was kept has the hash %s, %s was written beside it (%v)", hash, j.Delivered[0].Hash, err)
	}
	lines := handover.Merge(papers.Wants(&p, &f, j.Chosen(), 0), j.Bought, func(string) int { return 0 })
	for i := range lines {
		if lines[i].Idle {
			t.Errorf("%s was bought and nothing asks for it", lines[i].Key)
		}
	}
}

// The book's tables of what was deleted and what is spare say what is so and what is only planned, by the harness as it
// is: a wire that is deleted and done is in it no more, one that is planned is in it whole; a cavity that is spare
// now has no terminal.
func TestDeletedAndSpareAreAsBuilt(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	j := all[1]
	if err := demo.HandOver(&j); err != nil {
		t.Fatal(err)
	}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	now := map[harness.WireID]bool{}
	for _, name := range p.Past.Now.Wires() {
		now[name] = true
	}
	wanted := map[harness.WireID]bool{}
	for _, name := range p.Wanted.Wires() {
		wanted[name] = true
	}
	states := map[string]int{}
	for _, s := range papers.Appendix(&p, &f, j.Chosen()) {
		for _, row := range s.Rows {
			switch s.Title {
			case "Deleted, and where its ends lie":
				states[row[8]]++
				if wanted[harness.WireID(row[0])] || now[harness.WireID(row[0])] != (row[8] == "planned") {
					t.Errorf(
						"%s is deleted, %s; in the harness as it is: %v, as it is wanted: %v",
						row[0],
						row[8],
						now[harness.WireID(row[0])],
						wanted[harness.WireID(row[0])],
					)
				}
			case "Spare cavities and feeds":
				for _, at := range p.Past.Now.Cavities() {
					if _, full := p.Past.Now.In(at); at.String() == row[0] &&
						full != strings.HasPrefix(row[2], "planned") {
						t.Errorf("%s is spare, %s; there is a terminal in it: %v", row[0], row[2], full)
					}
				}
			}
		}
	}
	kept := map[harness.WireID]bool{} // wires of which more than a stub is in the finished harness
	for name := range wanted {
		if whole, rest, _ := strings.Cut(string(name), " "); !strings.HasPrefix(rest, "stub ") {
			kept[harness.WireID(whole)] = true
		}
	}
	gone := 0
	for i := range f.Laid.Loom.Wires {
		if !kept[f.Laid.Loom.Wires[i].ID] {
			gone++
		}
	}
	if states["done"] == 0 || states["done"]+states["planned"] != gone {
		t.Errorf("the book has %v, and %d are gone", states, gone)
	}
}

// The bill does not shrink as the work is done: a job is carried out to its end, some steps at a time, each plan made
// anew from what was done, and what it takes in all stays what it was reckoned to take at the beginning. At the end
// nothing is left to be ordered.
func TestTheBillStaysAsTheWorkIsDone(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	for i, id := range demo.IDs() {
		j := all[i]
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		f = f.With(j.Block)
		total := func(p *plan.Plan) (need, used map[string]float64) {
			need, used = map[string]float64{}, map[string]float64{}
			for _, w := range papers.Wants(p, &f, j.Chosen(), 0) {
				if !w.Tool {
					need[w.What] += w.Need
					used[w.What] += w.Used
				}
			}
			return need, used
		}
		p := plan.Compute(f, j.Chosen())
		first, _ := total(&p)
		for round := 0; ; round++ {
			var next []string
			for k := range p.Work.Steps {
				if _, done := p.Done(p.Work.Steps[k].ID); !done && len(next) < 40 {
					next = append(next, p.Work.Steps[k].ID)
				}
			}
			if len(next) == 0 || round > 40 {
				break
			}
			uses := papers.Uses(&p, &f, j.Chosen(), next)
			for k, step := range next {
				tick, _ := p.Tick(step)
				tick.Used, tick.When, tick.Seq, tick.Reason = uses[step], int64(round+1), k, "it is so"
				j.Ticks = append(j.Ticks, tick)
			}
			p = plan.Compute(f, j.Chosen())
		}
		last, used := total(&p)
		n := 0
		for what, need := range first {
			n++
			if math.Abs(last[what]-need) > 0.02 || math.Abs(used[what]-need) > 0.02 {
				t.Errorf("%s: %s: %.2f at the beginning, %.2f at the end, of which %.2f are built in", id, what,
					need, last[what], used[what])
			}
		}
		for what, need := range last {
			if first[what] == 0 && need > 0 {
				t.Errorf("%s: %s: none at the beginning, %.2f at the end", id, what, need)
			}
		}
		t.Logf("%s: %d things, %d ticks", id, n, len(j.Ticks))
	}
}
