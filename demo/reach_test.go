package demo_test

import (
	"slices"
	"testing"

	"draxel/core/finding"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/demo"
)

// The demonstration is complete through Reach: everything that wires end at has a place, every wire that has two ends
// has a way, the work is proven, and the chassis's own wires reach as they lie.
func TestTheDemonstrationReaches(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	for _, job := range all[1:] {
		f, err := job.Facts()
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, job.Chosen())
		r := p.Reach.Result
		if len(r.Unplaced) > 0 || r.Figures.NoWay > 0 || !p.Proof.Reached || p.Proof.Partial {
			t.Errorf("%s: %v without a place, %+v", job.Title, r.Unplaced, p.Proof)
		}
		for _, x := range r.Findings {
			if x.Severity == finding.Danger || x.Severity == finding.Wrong {
				t.Errorf("%s: %s %s", job.Title, x.Code, x.Text)
			}
		}
		if job.Title != "Packhorse" {
			continue
		}
		if r.Figures.Extend < 20 || r.Figures.Troubled > 0 || r.Figures.Provisional == 0 || len(r.Walls) != 1 || len(r.Kept) == 0 || len(r.Disconnects) < 2 {
			t.Errorf("%+v: the Packhorse should show all that Reach knows", r.Figures)
		}
		own := 0
		for _, l := range r.Lines {
			if l.Wire[0] == 'P' && (l.Verdict == reach.Extend || l.Verdict == reach.Replace) {
				own++
			}
		}
		if own > 3 {
			t.Errorf("%d of the chassis's own wires do not reach where they lie", own)
		}
		for wire, hadBy := range map[string]string{"7431": "measured by Ines", "7411": "from the list", "7412": "from the list"} {
			i := slices.IndexFunc(r.Lines, func(l reach.Line) bool { return l.Wire == wire })
			if l := r.Lines[i]; l.HadBy != hadBy || l.Verdict == reach.Extend && l.Provision[0].Kind != reach.Shielded {
				t.Errorf("%s: %s, %s, %v: what is under a shield is lengthened in kind", wire, l.HadBy, l.Verdict, l.Provision)
			}
		}
	}
}
