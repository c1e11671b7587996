package demo_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/demo"
)

// The sheets of two jobs in which nothing was wrong say what they said before all stages were planned as one harness:
// the same moves in the same order, the same cuts, the same lengths. The files were written by the code of that time.
func TestTheOldSheetsStand(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	for name, job := range map[string]stored.Job{"sorrel-refit": all[0], "fuse-block": all[2]} {
		kept, err := os.ReadFile("testdata/golden/" + name + ".txt")
		if err != nil {
			t.Fatal(err)
		}
		facts, err := fact.Of(job)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(facts, job.Chosen())
		var lines []string
		if name == "sorrel-refit" {
			for _, s := range p.Steps {
				lines = append(lines, fmt.Sprintf("pin %s %s %s %s", s.Kind, s.From, s.To, s.Connector))
			}
		} else {
			for _, s := range p.Thin.Result.Steps {
				lines = append(lines, fmt.Sprintf("thin %s %s", s.Kind, s.Text))
			}
			for _, l := range p.Reach.Result.Lines {
				lines = append(lines, fmt.Sprintf("reach %s need %.0f had %.0f", l.Wire, l.Need, l.Had))
			}
		}
		want := strings.Split(strings.TrimRight(string(kept), "\n"), "\n")
		for i := range max(len(lines), len(want)) {
			switch {
			case i >= len(lines):
				t.Fatalf("%s: %q is missing", name, want[i])
			case i >= len(want):
				t.Fatalf("%s: %q is more than there was", name, lines[i])
			case strings.TrimSpace(lines[i]) != strings.TrimSpace(want[i]):
				t.Fatalf("%s, line %d: %q, was %q", name, i+1, lines[i], want[i])
			}
		}
	}
}
