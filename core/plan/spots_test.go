package plan_test

import (
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

var behind = regexp.MustCompile(`(?:behind|Bare .* at) ([A-Z])-?(\d+)\b`)

// Where a step tells hands to bare or to cut a wire behind a cavity, that wire's terminal stands in that cavity at that
// moment. What moved is followed by the moves of terminals alone, in a map of the test's own; before that, the example
// of the trade: a wire has gone to A3, and another has come where it was.
func TestStepsNameTheCavityAsItIsThen(t *testing.T) {
	j := job([]string{"A1 Ignition feed", "A2 Injector 2"},
		[]string{"A3 Ignition feed", "A1 Injector 2", "B1 Ignition feed"},
		matched("A1", "A3"), matched("A2", "A1"),
		match.Decision{Side: match.To, At: ref("B1"), Choice: match.Branch, Of: ref("A1")})
	p := computeJob(t, j)
	said := ""
	for _, s := range p.Work.Steps {
		if strings.HasPrefix(s.Text, "Bare ") {
			said = s.Text
		}
	}
	if !strings.Contains(said, "now in A3") || !strings.Contains(said, "behind A3") ||
		strings.Contains(said, "behind A1") {
		t.Errorf("%q", said)
	}
	moved, named := 0, 0
	for seed := *first; seed < *first+*mixed; seed++ {
		r := rand.New(rand.NewPCG(seed, 3))
		j := mixedJob(r)
		if seed%2 == 0 {
			j.Kind, j.Met = stored.Repinned, nil
		}
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, j.Chosen())
		for range 10 {
			decideMixed(r, &j, &p, f)
			for _, d := range j.Decisions { // a lead from a wire that moves
				if to := f.To.Rows[r.IntN(len(f.To.Rows))]; d.Choice == match.Matched && r.IntN(4) == 0 &&
					!taken(j.Decisions, to.Ref) {
					j.Decisions = append(j.Decisions, match.Decision{Side: match.To, At: to.Ref, Choice: match.Branch, Of: d.At})
				}
			}
			p = plan.Compute(f, j.Chosen())
			for n := r.IntN(4); n > 0 && tickAny(r, &j, &p); n-- {
				p = plan.Compute(f, j.Chosen())
			}
		}
		stands := map[harness.TerminalID]harness.Ref{}
		follow := func(edits []harness.Edit) {
			for _, e := range edits {
				switch e.Do {
				case harness.Insert:
					stands[e.Terminal] = e.At
				case harness.Remove:
					stands[e.Terminal] = harness.Ref{}
				}
			}
		}
		for _, x := range work.InOrder(p.Past.Ticks) {
			follow(x.Edits)
		}
		for _, s := range p.Work.Steps {
			if strings.ContainsAny(s.Text, "\uE000\uE001\uE002\uE003") {
				t.Fatalf("job %d: a mark is left in %q", seed, s.Text)
			}
			if _, done := p.Done(s.ID); done {
				continue
			}
			for _, e := range s.Edits {
				if e.Do != harness.Tap && e.Do != harness.Cut {
					continue
				}
				for _, w := range f.Laid.Loom.Wires {
					at := w.Ends[e.End].At
					m := behind.FindStringSubmatch(s.Text)
					if w.ID != e.Wire || at == (harness.Ref{}) || m == nil || s.Stage != work.Join {
						continue
					}
					is, knows := stands[harness.TerminalAt(at)]
					if !knows {
						is = at
					}
					if named++; is != at {
						moved++
					}
					if is != (harness.Ref{}) && (m[1] != is.Connector || m[2] != is.Cavity) {
						t.Fatalf("job %d: %q, and its terminal is in %s", seed, s.Text, is)
					}
				}
			}
			follow(s.Edits)
		}
	}
	if named < 20 || moved < 5 {
		t.Errorf("%d steps name a cavity, %d of one that was moved: the jobs say too little", named, moved)
	}
}

func taken(all []match.Decision, to harness.Ref) bool {
	return slices.ContainsFunc(all, func(d match.Decision) bool { return d.To == to || d.Side == match.To && d.At == to })
}
