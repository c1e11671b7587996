package demo_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/stock"
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
		f, err := fact.Of(job)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, job.Chosen())
		r := p.Reach.Result
		if len(r.Unplaced) > 0 || r.Figures.NoWay > 0 || !p.Proof.Reached || p.Proof.Partial {
			t.Errorf("%s: %v without a place, %+v", job.Title, r.Unplaced, p.Proof)
		}
		thin := map[string]bool{} // the mistakes that Feed's network finds in it: wires that stay, with too much on them
		for _, x := range r.Findings {
			if x.Code == "too-thin" && x.Severity == finding.Danger {
				thin[x.Subject] = true
			} else if x.Severity == finding.Danger || x.Severity == finding.Wrong {
				t.Errorf("%s: %s %s", job.Title, x.Code, x.Text)
			}
		}
		if job.Title == "Packhorse" && !maps.Equal(thin, map[string]bool{"7199": true, "7507": true, "7508": true,
			"P016": true, "P054": true, "P077": true,
			"P083": true}) || job.Title != "Packhorse" && len(thin) > 0 {
			t.Errorf("%s: too much is on %v", job.Title, thin)
		}
		if job.Title != "Packhorse" {
			continue
		}
		if r.Figures.Extend < 20 || r.Figures.Troubled > 0 || r.Figures.Provisional == 0 || len(r.Walls) != 1 ||
			len(r.Kept) == 0 || len(r.Disconnects) < 2 {
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
		for wire, hadBy := range map[harness.WireID]string{"7431": "measured by Ines", "7411": "from the list",
			"7412": "from the list"} {
			i := slices.IndexFunc(r.Lines, func(l reach.Line) bool { return l.Wire == wire })
			if l := r.Lines[i]; l.HadBy != hadBy || l.Verdict == reach.Extend && l.Provision[0].Kind != stock.Shielded {
				t.Errorf("%s: %s, %s, %v: what is under a shield is lengthened in kind", wire, l.HadBy, l.Verdict, l.Provision)
			}
		}
	}
}

// Where joints crowd, the finding names wires that replaced whole leave room for the rest: the Packhorse without those
// that were replaced for it, and with those that are named then.
func TestWhatIsProposedMakesRoom(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	job := all[1]
	job.Spans = slices.DeleteFunc(slices.Clone(job.Spans), func(w reach.Wish) bool { return w.Whole })
	crowd := func() (int, string) {
		f, err := fact.Of(job)
		if err != nil {
			t.Fatal(err)
		}
		r := plan.Compute(f, job.Chosen()).Reach.Result
		for _, x := range r.Findings {
			if x.Code == "joints-crowd" {
				return r.Figures.Troubled, x.Remedy
			}
		}
		return r.Figures.Troubled, ""
	}
	n, remedy := crowd()
	named, _, found := strings.Cut(strings.TrimPrefix(remedy, "Replaced whole, "), " would leave room")
	if n < 10 || !found {
		t.Fatalf("%d in trouble: %q", n, remedy)
	}
	for _, w := range strings.Split(named, ", ") {
		job.Spans = append(job.Spans, reach.Wish{Wire: harness.WireID(w), Whole: true})
	}
	if n, _ := crowd(); n > 0 {
		t.Errorf("%d in trouble when %s are replaced", n, named)
	}
}
