package plan_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

// addNow gives a job a part at any cavity that has a wire, or takes one away.
func addNow(r *rand.Rand, j *stored.Job, f *fact.Facts) {
	if len(j.Added) > 0 && r.IntN(3) == 0 {
		j.Added = slices.Delete(slices.Clone(j.Added), 0, 1)
		return
	}
	var free []harness.Ref
	for _, w := range f.Laid.Loom.Wires {
		for _, e := range w.Ends {
			if e.At != (harness.Ref{}) {
				free = append(free, e.At)
			}
		}
	}
	if len(free) == 0 || len(j.Added) > 4 {
		return
	}
	n := 1
	for slices.ContainsFunc(j.Added, func(a join.Added) bool { return a.ID == fmt.Sprint("R", n) }) {
		n++
	}
	any := func() harness.Ref { return free[r.IntN(len(free))] }
	a := join.Added{ID: fmt.Sprint("R", n), Function: "tach", What: "resistor of 120 Ω", Body: join.Resistor, Ohms: 120}
	switch r.IntN(5) {
	case 0:
		a.In = any()
	case 1:
		a.Leads = []join.PartLead{{Point: "1", To: any().String()}, {Point: "2", To: any().String()}}
	case 2:
		a.In, a.Body, a.Leads = any(), join.Through, []join.PartLead{{Point: "+", To: any().String()}}
	case 3:
		a.In, a.Body = any(), join.RelayBody
		a.Leads = []join.PartLead{{Point: "86", To: string(a.Point("30"))}, {Point: "85", To: any().String()}}
	default:
		a.Body, a.Leads = join.SingleWire, []join.PartLead{{Point: "1", To: any().String()}, {Point: "2", To: any().String()}}
	}
	j.Added = append(slices.Clone(j.Added), a)
}

// Parts come, change and go in the middle of work of every kind: the steps lead to what is wanted, and by a count
// that shares nothing with the product each lies in its wire, and its leads come to the wires that they are for.
func TestPartsLeadToWhatIsWanted(t *testing.T) {
	in, relays, wires, leads, out, refused, past := 0, 0, 0, 0, 0, 0, 0
	for seed := *first; seed < *first+*mixed; seed++ {
		r := rand.New(rand.NewPCG(seed, 151))
		j := mixedJob(r)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatalf("job %d: %v", seed, err)
		}
		p := plan.Compute(f, j.Chosen())
		for round := range 6 {
			if r.IntN(3) > 0 {
				decideMixed(r, &j, &p, f)
				p = plan.Compute(f, j.Chosen())
			}
			addNow(r, &j, &f)
			p = plan.Compute(f, j.Chosen())
			check(t, seed, round, &j, f, &p)
			for n := r.IntN(14); n > 0 && tickAny(r, &j, &p); n-- {
				p = plan.Compute(f, j.Chosen())
				check(t, seed, round, &j, f, &p)
			}
		}
		if p.Proof.Partial || p.Proof.Fault != "" {
			continue
		}
		b := newBench(&f.Laid.Loom)
		for _, x := range work.InOrder(j.Ticks) {
			for _, e := range x.Edits {
				b.do(e)
				if e.Do == harness.FallOut && strings.HasPrefix(string(e.Wire), "new wire through") {
					out++
				}
			}
		}
		for i := range p.Work.Steps {
			if s := &p.Work.Steps[i]; func() bool { _, done := p.Done(s.ID); return !done }() {
				for _, e := range s.Edits {
					b.do(e)
				}
			}
		}
		for _, a := range j.Added {
			if slices.ContainsFunc(p.Findings, func(x finding.Finding) bool {
				return x.Code == "part-no-place" && strings.HasPrefix(x.Text, a.ID+",")
			}) {
				refused++
				continue
			}
			at := a.In.Connector + "/" + a.In.Cavity
			through := "new wire through " + a.ID
			switch {
			case a.Body == join.SingleWire:
				wires++
				for _, l := range a.Leads {
					if !b.one(string(a.Wire()), spot(&f, l.To)) {
						t.Errorf("job %d: wire %s does not come to %s", seed, a.ID, l.To)
					}
				}
				continue
			case a.Body == join.RelayBody:
				relays++
				was := b.one("j"+a.ID+" 30", "j"+a.ID+" 87")
				if !b.one("j"+a.ID+" 87", at) || !b.one("j"+a.ID+" 30", "new wire lead 86 of "+a.ID) {
					t.Errorf("job %d: relay %s does not lie at %s", seed, a.ID, a.In)
				}
				if was {
					past++
				}
			case at != "/":
				in++
				if !b.one(at, through) {
					t.Errorf("job %d: %s is not at %s", seed, a.ID, a.In)
				}
				tips := b.tips[through]
				delete(b.tips, through)
				if b.one(tips[0], tips[1]) {
					past++ // the circuit is a ring, or it is bridged behind the plug
				} else if b.one(at, tips[0]) == b.one(at, tips[1]) {
					t.Errorf("job %d: %s hangs on neither side of %s", seed, a.ID, a.In)
				}
				b.tips[through] = tips
			}
			for _, l := range a.Leads {
				if cavity := spot(&f, l.To); cavity != "" {
					leads++
					if !b.one("j"+a.ID+" "+l.Point, cavity) {
						t.Errorf("job %d: lead %s of %s does not come to %s", seed, l.Point, a.ID, l.To)
					}
				}
			}
		}
	}
	t.Logf("%d parts in wires, %d relays (%d of both by-passed), %d wires, %d leads, %d taken out again, %d refused", in,
		relays, past, wires, leads, out, refused)
	if *mixed >= 100 && (in < 20 || relays < 20 || wires < 20 || past > in/3 || leads < 20 || out < 5) {
		t.Error("the jobs say too little")
	}
}

// spot gives a cavity as the bench names it.
func spot(f *fact.Facts, text string) string {
	for _, w := range f.Laid.Loom.Wires {
		for _, e := range w.Ends {
			if e.At.String() == text {
				return e.At.Connector + "/" + e.At.Cavity
			}
		}
	}
	return ""
}
