package demo_test

import (
	"testing"

	"draxel/core/handover"
	"draxel/core/plan"
	"draxel/demo"
)

// Every length of wire of the demonstration's jobs, and every cable, is on exactly one page of their books, with both
// its ends;
// drawings fit the paper, and what is not so yet is told.
func TestEveryWireIsInTheBookOnce(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	paper := handover.Paper{Wide: 277, High: 120}
	for i, id := range demo.IDs() {
		f, err := all[i].Facts()
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, all[i].Chosen())
		in := p.Book(&f)
		pages := handover.Pages(
			in,
			paper,
			func(text string, size float64, _ bool) float64 { return 0.55 * size * float64(len([]rune(text))) },
		)
		seen := map[string]int{}
		planned, runs, large := 0, 0, 0
		groups := map[string]int{}
		for k := range pages {
			page := &pages[k]
			groups[page.Group] += len(page.Lengths)
			planned += page.Planned
			runs += len(page.Drawing.Runs) + len(page.Untold)
			if page.Drawing.Wide > paper.Wide || page.Drawing.High > paper.High {
				large++
			}
			for _, l := range page.Lengths {
				seen[l.Name]++
				if l.Ends[0].At == "" || l.Ends[1].At == "" {
					t.Errorf("%s: %s has no ends", id, l.Name)
				}
			}
		}
		want := len(p.Wanted.Wires()) + len(in.Inside.Cables)
		t.Logf(
			"%s: %d lengths on %d pages, %d too large, %d planned; %v",
			id,
			want,
			len(pages),
			large,
			planned,
			groups,
		)
		if len(seen) != want || runs != want {
			t.Errorf("%s: %d of %d lengths are in the book, %d lines", id, len(seen), want, runs)
		}
		for _, w := range p.Wanted.Wires() {
			if seen[w] != 1 {
				t.Errorf("%s: %s is in the book %d times", id, w, seen[w])
			}
		}
	}
}
