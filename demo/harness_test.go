package demo_test

import (
	"slices"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/thin"
)

// The Packhorse is a whole harness, with everything in it that makes the work hard.
func TestThePackhorseIsAWholeHarness(t *testing.T) {
	_, job := jobs(t)
	f, err := fact.Of(job)
	if err != nil {
		t.Fatal(err)
	}
	l := &f.Laid.Loom
	legs, chained, pairs, shields, taped, unseen := map[string]int{}, map[string]bool{}, map[string]int{},
		map[string]int{}, 0, 0
	for i := range l.Wires {
		w := &l.Wires[i]
		for k, e := range w.Ends {
			if e.Splice != "" {
				legs[string(e.Splice)]++
				if w.Ends[1-k].Splice != "" {
					chained[string(e.Splice)] = true
				}
			}
			if e.Taped {
				taped++
			}
			if !e.Seen() {
				unseen++
			}
		}
		if w.Pair != "" {
			pairs[w.Pair]++
		}
		if w.Shield != "" {
			shields[w.Shield]++
		}
	}
	junctions := 0
	for _, c := range l.Connectors {
		if len(c.Links) > 1 {
			junctions++
		}
	}
	if len(l.Wires) < 180 || len(legs) < 14 || len(chained) < 3 || junctions != 2 || len(pairs) < 4 || len(shields) < 3 ||
		taped == 0 || unseen == 0 {
		t.Errorf("%d wires, %d splices, %d of them chained, %d junctions, %d pairs, %d shields, %d taped off, %d unseen",
			len(l.Wires), len(legs), len(chained), junctions, len(pairs), len(shields), taped, unseen)
	}
	for _, x := range f.Laid.Findings {
		if x.Severity != finding.Note {
			t.Errorf("the lists do not hang together: %s", x.Text)
		}
	}
	for s, n := range legs {
		if n < 3 {
			t.Errorf("splice %s joins %d wires", s, n)
		}
	}
	p := plan.Compute(f, job.Chosen())
	if !p.Proof.Reached || !p.Thin.Counts.Balanced {
		t.Errorf("not proven: %+v", p.Proof)
	}
	got := map[string]thin.Fate{}
	for _, j := range p.Thin.Result.Joints {
		got[string(j.ID)] = j.Fate
	}
	for id, want := range map[string]thin.Fate{"AL3": thin.Rejoin, "SP26": thin.Rejoin, "S26": thin.Through,
		"S9": thin.Trim, "S1": thin.Leave} {
		if got[id] != want {
			t.Errorf("%s: %q, want %q", id, got[id], want)
		}
	}
	for _, code := range []string{"passes-through", "factory-rejoined", "carries-kept", "mixed-sources", "unit-not-read",
		"programming-open", "to-replace"} {
		if !slices.ContainsFunc(p.Findings, func(x finding.Finding) bool { return x.Code == code }) {
			t.Errorf("nothing is said of %s", code)
		}
	}
	disaster, err := p.Thin.Result.Cut(thin.Connector, "WB")
	if err != nil || len(disaster.Dies) < 8 || !slices.Contains(disaster.Legal, "brake lamps") {
		t.Errorf("the classic disaster kills %d functions, %v", len(disaster.Dies), disaster.Legal)
	}
}

// A reading overturns the mis-coloured wire, in Match too: the winch's wire is a ground by the meter.
func TestTheMiscolouredWireIsOverturned(t *testing.T) {
	_, job := jobs(t)
	zero := 0.2
	job.Readings = append(job.Readings, gather.Measurement{ID: "k18", At: harness.Ref{Connector: "K", Cavity: "18"},
		Ohms: &zero})
	f, err := fact.Of(job)
	if err != nil {
		t.Fatal(err)
	}
	row, _ := f.From.Row(harness.Ref{Connector: "K", Cavity: "18"})
	if row.Measured != "ground" || row.Signal.Role != "ground" ||
		!slices.ContainsFunc(f.Findings, func(x finding.Finding) bool {
			return x.Code == "reading-overturns" &&
				x.Subject == "K18"
		}) {
		t.Errorf("row %+v", row)
	}
}
