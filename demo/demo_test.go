package demo_test

import (
	"bytes"
	"flag"
	"fmt"
	"os"
	"reflect"
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/exchange"
)

func jobs(t testing.TB) (sorrel, packhorse stored.Job) {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	return all[0], all[1]
}

func compute(t testing.TB, j stored.Job, d []match.Decision) plan.Plan {
	t.Helper()
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	return plan.Compute(f, stored.Decisions{Match: d, Pin: pin.Decisions{Limit: 1}})
}

func codes(p plan.Plan) map[string]int {
	n := map[string]int{}
	for _, f := range p.Findings {
		n[f.Code]++
	}
	return n
}

// Sorrel refit proves Match and Pin whole: every row decided as offered, some seventy moves with cycles, and the proof.
func TestSorrelRefitWhole(t *testing.T) {
	job, _ := jobs(t)
	open := compute(t, job, nil)
	var d []match.Decision
	for _, l := range open.Match.Lines {
		choice := match.Matched
		switch {
		case l.Verdict == match.Goes, strings.Contains(l.Because, "the law"):
			// emissions and what the law may want are for a person to let go of
			choice = match.Gone
		case l.Verdict == match.Undecided: // coil 4: the number says A36, the misprinted words say coil 3
			continue
		}
		d = append(d, match.Decision{Side: match.From, At: l.From, Choice: choice, To: l.To})
	}
	p := compute(t, job, d)
	if !p.Proof.Reached || p.Proof.InHand > 1 || p.Proof.Steps < 70 {
		t.Errorf("proof %+v", p.Proof)
	}
	if c := p.Totals; c.Moves < 60 || c.MovesConnector < 3 || c.Stays < 5 || c.NeedsWire < 2 || c.Open != 1 ||
		c.Undecided != 1 || !c.Reconciled {
		t.Errorf("totals %+v", c)
	}
	kinds := map[string]int{}
	for _, s := range p.Steps {
		kinds[string(s.Kind)]++
	}
	if kinds["pull"] < 1 || kinds["seat"] != kinds["pull"] || kinds["new"] < 2 || kinds["out"] != 4 {
		t.Errorf("steps by kind %v", kinds)
	}
	if c := codes(p); c["cylinder-twice"] != 1 || c["number-contradicts"] != 1 || c["unverified-feed"] != 1 {
		t.Errorf("the misprinted row and the copied table must be found: %v", c)
	}
}

// Packhorse proves matching with nothing shared: some twenty counterparts, the old British colours read as such, and
// the feed through the resistance wire kept away from the unit.
func TestPackhorseMatches(t *testing.T) {
	_, job := jobs(t)
	_, reading, err := job.From.Read()
	if err != nil {
		t.Fatal(err)
	}
	if reading.Habit.Habit != colour.BS || !reading.Habit.Sure {
		t.Errorf("colours read as %+v", reading.Habit)
	}
	if len(reading.Rejected) != 1 || reading.Rejected[0].Code != "duplicate-cavity" {
		t.Errorf("rejected %+v", reading.Rejected)
	}
	p := compute(t, job, nil)
	near := 0
	for _, l := range p.Match.Lines {
		if l.Feeds() || l.Verdict == match.Undecided && l.P > 0.1 {
			near++
		}
		if l.From.Connector == "K" && (l.From.Cavity == "2" || l.From.Cavity == "3") && (l.Feeds() || len(l.Candidates) > 0) {
			t.Errorf("the resistance-wire feed %s may go to %v", l.From, l.Candidates)
		}
		if l.From.String() == "SP-27" && l.Verdict == match.Goes {
			t.Error("the brake-lamp wire that passes through the unit is proposed to go")
		}
	}
	if near < 18 || p.Totals.NeedsWire < 8 || !p.Totals.Reconciled {
		t.Errorf("%d near matches, totals %+v", near, p.Totals)
	}
	if c := codes(p); c["resistance-feed"] != 2 || c["feed-missing"] == 0 {
		t.Errorf("findings %v", c)
	}
}

var update = flag.Bool("update", false, "write the golden files anew")

// The golden job files are kept for ever: each format must be read as long as there is a Draxel. The latest is what is
// written today; what is read of an older one is written in the latest and comes back the same.
func TestGoldenJobFiles(t *testing.T) {
	_, job := jobs(t)
	job.More = map[string]*stored.Table{"x1": {Name: "winch pigtail", Trust: harness.Copied, Origin: "Fell Quarryman",
		With: match.From, Cells: [][]string{{"Pin", "Function", "Pin", "Function"}, {"1", "Ground", "2", "Winch relay"}},
		Options: gather.Options{Beside: gather.AllTables, Gone: []int{2}}}}
	if err := demo.HandOver(&job); err != nil {
		t.Fatal(err)
	}
	job.Archived = true
	job.Decisions[0].Sure, job.Spans[0].Size = 0.42, 1.5
	latest := fmt.Sprintf("testdata/packhorse.format-%d.json", exchange.Format)
	if *update {
		if err := os.WriteFile(latest, written(t, job), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	for format := 1; format <= exchange.Format; format++ {
		kept, err := os.ReadFile(fmt.Sprintf("testdata/packhorse.format-%d.json", format))
		if err != nil {
			t.Fatal(err)
		}
		back, _, err := exchange.ReadJob(kept)
		if err != nil {
			t.Fatalf("format %d: %v", format, err)
		}
		again := written(t, back)
		if format == exchange.Format && !bytes.Equal(again, kept) {
			t.Error("the latest golden job file does not come back as it was")
		}
		if twice, _, err := exchange.ReadJob(again); err != nil || !reflect.DeepEqual(twice, back) {
			t.Errorf("format %d: what was read does not come back: %v", format, err)
		}
		if len(back.From.Cells) != len(job.From.Cells) || back.Title != job.Title {
			t.Errorf("format %d: the job is not whole", format)
		}
	}
}

func written(t *testing.T, j stored.Job) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, j, nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// packhorse gives the Packhorse of the demonstration with its facts.
func packhorse(t *testing.T) (stored.Job, fact.Facts) {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	f, err := fact.Of(all[1])
	if err != nil {
		t.Fatal(err)
	}
	return all[1], f
}
