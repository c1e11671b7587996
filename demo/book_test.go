package demo_test

import (
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/work"
	"draxel/demo"
)

// Every length of wire of the demonstration's jobs, and every cable, is on exactly one page of their books, with both
// its ends; drawings fit the paper, and what is not so yet is told.
func TestEveryWireIsInTheBookOnce(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	paper := handover.Paper{Wide: 277, High: 120}
	for i, id := range demo.IDs() {
		f, err := fact.Of(all[i])
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, all[i].Chosen())
		in := papers.Book(&p, &f)
		pages := handover.Pages(
			in,
			paper,
			func(text string, size float64, _ bool) float64 { return 0.55 * size * float64(len([]rune(text))) },
		)
		seen := map[harness.WireID]int{}
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
		if large > 0 {
			t.Errorf("%s: %d drawings do not fit the paper", id, large)
		}
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

// What is drawn is what the harness has: each end of each length in a cavity, as the harness itself says it, is at
// that cavity's port, or at the pair, the fuse or the relay that has it; both ends of a line are those of its wire.
// With every step of the work ticked nothing is planned any more.
func TestTheBookIsTheHarness(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	wide := func(text string, size float64, _ bool) float64 { return 0.55 * size * float64(len([]rune(text))) }
	for i, id := range demo.IDs() {
		j := all[i]
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, j.Chosen())
		checked, ports := 0, 0
		for _, page := range handover.Pages(papers.Book(&p, &f), handover.Paper{Wide: 277, High: 120}, wide) {
			drawn := map[harness.WireID]string{}
			for _, r := range page.Drawing.Runs {
				drawn[harness.WireID(r.ID)] = r.From.Symbol + " " + r.From.Port + "|" + r.To.Symbol + " " + r.To.Port
			}
			for _, l := range page.Lengths {
				tips, there := p.Wanted.Tips(l.Name)
				for end := range tips {
					if !there || tips[end].State != harness.Crimped {
						continue
					}
					place, _ := p.Wanted.Place(tips[end].Terminal)
					if place.State != harness.Seated {
						continue
					}
					checked++
					if l.Ends[end].Cavity != place.At || l.Ends[end].At != place.At.String() {
						t.Errorf("%s: %s ends in %s, and the book has %s", id, l.Name, place.At, l.Ends[end].At)
					}
					line := drawn[l.Name]
					named := strings.Contains(line, place.At.String())
					if ports++; !named && !strings.Contains(line, "fuse ") && !strings.Contains(line, "pair ") &&
						!strings.Contains(line, "link ") {
						t.Errorf("%s: %s is drawn as %s, and ends in %s", id, l.Name, line, place.At)
					}
				}
			}
		}
		if checked < 80 || ports < 80 {
			t.Errorf("%s: only %d ends were looked at", id, checked)
		}
		for i := range p.Work.Steps {
			x := &p.Work.Steps[i]
			j.Ticks = append(
				j.Ticks,
				work.Tick{Step: x.ID, Seq: i + 1, Edits: x.Edits, Text: x.Text, Stage: x.Stage, Kind: x.Kind},
			)
		}
		p = plan.Compute(f, j.Chosen())
		planned := 0
		for _, page := range handover.Pages(papers.Book(&p, &f), handover.Paper{Wide: 277, High: 120}, wide) {
			planned += page.Planned
		}
		if planned > 0 || len(p.Past.Done) == 0 {
			t.Errorf("%s: with %d steps done %d lengths are planned", id, len(p.Past.Done), planned)
		}
	}
}
