package demo_test

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/part"
	"draxel/core/plan"
	"draxel/core/thin"
	"draxel/core/work"
)

var harnesses = flag.Uint64("storms", 3, "how many storms TestThinPinAndReachInAStorm goes through")

// said gives what a plan tells people.
func said(t *testing.T, p *plan.Plan) []byte {
	t.Helper()
	out, err := json.Marshal([]any{p.Work.Steps, p.Work.Held, p.Steps, p.Findings, p.Proof, p.Reach.Result.Lines,
		p.Reach.Result.Joints, p.Join.Joints, p.Feed.Circuits, p.Pin.Orders, p.Thin.Counts, p.Totals})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Thin, Pin and Reach work on one harness: whatever is decided or moved, and whichever of them has a step ticked, all
// three plans stand, and nothing that was ticked is lost.
func TestThinPinAndReachInAStorm(t *testing.T) {
	cut := map[string]int{}
	for seed := range *harnesses {
		r := rand.New(rand.NewPCG(seed, 19))
		_, job := jobs(t)
		job.Ticks = nil
		rules := *job.Rules
		rules.Free = seed%2 == 0
		job.Rules = &rules
		facts, err := fact.Of(job)
		if err != nil {
			t.Fatal(err)
		}
		var memory part.Memory // as the server has it
		found := fact.Apart(&facts)
		moment := 0
		follow := func() plan.Plan {
			p := plan.Begin(found, job.Chosen(), &memory).Whole()
			if moment++; moment%10 == 0 { // and one in ten is what comes of nothing as well
				fresh := plan.Compute(facts, job.Chosen())
				if a, b := said(t, p), said(t, &fresh); !bytes.Equal(a, b) {
					t.Fatalf("job %d, moment %d: the draft says\n%s\nand afresh it is\n%s", seed, moment, a, b)
				}
			}
			return *p
		}
		p := follow()
		var systems, wires []string
		for _, s := range p.Thin.Result.Systems {
			systems = append(systems, s.System)
		}
		for i := range facts.Laid.Loom.Wires {
			wires = append(wires, string(facts.Laid.Loom.Wires[i].ID))
		}
		tick := func(x work.Tick) {
			base := x.Step
			for n := 2; slices.ContainsFunc(job.Ticks, func(have work.Tick) bool { return have.Step == x.Step }); n++ {
				x.Step = fmt.Sprintf("%s-%d", base, n)
			}
			x.When = int64(len(job.Ticks) + 1)
			job.Ticks = append(job.Ticks, x)
		}
		for range 30 {
			switch r.IntN(7) {
			case 0:
				on, id := thin.System, systems[r.IntN(len(systems))]
				if r.IntN(2) == 0 {
					on, id = thin.Wire, wires[r.IntN(len(wires))]
				}
				d := thin.Decision{On: on, ID: id, Choice: []thin.Choice{thin.Goes, thin.Goes, thin.Keep}[r.IntN(3)],
					Reason: "a trial"}
				if p.Thin.Result.Refuses(d) == "" {
					job.Thin = append(slices.DeleteFunc(slices.Clone(job.Thin),
						func(x thin.Decision) bool { return x.On == on && x.ID == id }), d)
				}
			case 4:
				job.Places = slices.Clone(job.Places) // what a plan has read is changed by nobody
				at := &job.Places[r.IntN(len(job.Places))]
				at.Station = job.Map.Stations[r.IntN(len(job.Map.Stations))].ID
			default: // a stretch of one stage's work, or of whichever comes
				stage := append(work.Stages(), "")[r.IntN(6)]
				for n := r.IntN(70); n > 0; n-- {
					bench := harness.Work(p.Past.Now)
					i := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool {
						_, done := p.Done(s.ID)
						return !done && (stage == "" || s.Stage == stage) && p.Ready(&s, bench)
					})
					if i < 0 {
						break
					}
					s := &p.Work.Steps[i]
					x, _ := p.Tick(s.ID)
					tick(x)
					cut[string(s.Stage)+" "+string(s.Kind)]++
					p = follow()
				}
			}
			p = follow()
			if p.Proof.Fault != "" || len(p.Proof.Differences)+len(p.Proof.Apart) > 0 {
				t.Fatalf("job %d: %+v", seed, p.Proof)
			}
			for _, f := range p.Findings {
				if f.Code == "tick-lost" {
					t.Fatalf("job %d: %s", seed, f.Text)
				}
			}
		}
	}
	if cut["reach cut"] < 5 || cut["reach join"] < 3 || cut["join join"] < 3 {
		t.Errorf("the storms hardly reach the cutting: %v", cut)
	}
}
