package plan_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

// blockNow gives a job a block of its own, moves a circuit in it to another slot, or takes it away.
func blockNow(r *rand.Rand, j *stored.Job, p *plan.Plan, f *fact.Facts) {
	take := func(o stored.FeedOption) {
		d := p.Fed.Take(j.Chosen(), &o)
		j.Decisions, j.Block = d.Match, d.Feed.Block
	}
	switch k := r.IntN(6); {
	case j.Block == nil || k == 0:
		take(p.Fed.Propose(j.Chosen(), f.Feed, r.IntN(2) == 0))
	case k == 1: // it goes again, and what it fed is open
		id := j.Block.ID
		j.Block = nil
		j.Decisions = slices.DeleteFunc(j.Decisions, func(d match.Decision) bool {
			return d.Origin != nil && d.Origin.At.Connector == id
		})
	default:
		c := p.Feed.Circuits
		if len(c) == 0 || len(j.Block.Slots) == 0 {
			return
		}
		x := c[r.IntN(len(c))]
		d, open, err := p.Fed.Lead(x.Side, x.At, j.Block.At(j.Block.Slots[r.IntN(len(j.Block.Slots))].Name))
		if err != nil {
			return
		}
		for _, o := range open {
			j.Decisions = without(j.Decisions, o.Side, o.At)
		}
		j.Decisions = append(without(j.Decisions, d.Side, d.At), d)
	}
}

// A block of one's own comes, changes and goes in the middle of work of every kind: the steps lead to what is
// wanted, and by a count that shares nothing with the product every circuit on it is joined to its slot, every lead
// to its end.
func TestABlockLeadsToWhatIsWanted(t *testing.T) {
	circuits, leads, shared := 0, 0, 0
	for seed := *first; seed < *first+*mixed; seed++ {
		r := rand.New(rand.NewPCG(seed, 97))
		j := mixedJob(r)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatalf("job %d: %v", seed, err)
		}
		p := plan.Compute(f, j.Chosen())
		for round := range 6 {
			decideMixed(r, &j, &p, f)
			p = plan.Compute(f, j.Chosen())
			blockNow(r, &j, &p, &f)
			p = plan.Compute(f, j.Chosen())
			check(t, seed, round, &j, f, &p)
			for n := r.IntN(10); n > 0 && tickAny(r, &j, &p); n-- {
				p = plan.Compute(f, j.Chosen())
				check(t, seed, round, &j, f, &p)
			}
		}
		if j.Block == nil || p.Proof.Partial || p.Proof.Fault != "" {
			continue
		}
		a, b, c := onTheBlock(t, seed, &j, f, &p)
		circuits, leads, shared = circuits+a, leads+b, shared+c
	}
	t.Logf("%d circuits stand on their slots, %d of them share one, %d leads come to their ends", circuits, shared, leads)
	if *mixed >= 100 && (circuits < 20 || leads < 20 || shared == 0) {
		t.Error("the jobs say too little")
	}
}

// onTheBlock counts circuits and leads that are joined as they should be, and fails at one that is not.
func onTheBlock(t *testing.T, seed uint64, j *stored.Job, f fact.Facts, p *plan.Plan) (circuits, leads, shared int) {
	t.Helper()
	loom := f.With(j.Block).Laid.Loom
	b := newBench(&loom)
	for _, x := range work.InOrder(j.Ticks) {
		for _, e := range x.Edits {
			b.do(e)
		}
	}
	for i := range p.Work.Steps {
		if s := &p.Work.Steps[i]; func() bool { _, done := p.Done(s.ID); return !done }() {
			for _, e := range s.Edits {
				b.do(e)
			}
		}
	}
	if has(p.Findings, "cavity-held") || has(p.Findings, "wire-is-out") || has(p.Findings, "no-wire-there") ||
		has(p.Findings, "touches-restraint") || has(p.Findings, "fed-from-itself") {
		return 0, 0, 0 // said, and not done
	}
	wire := map[harness.Ref]harness.WireID{}
	for _, w := range loom.Wires {
		for _, e := range w.Ends {
			wire[e.At] = w.ID
		}
	}
	laid := map[harness.WireID]bool{}
	for _, w := range p.Join.Wires {
		laid[w.ID] = true
	}
	slots := map[string]int{}
	for _, c := range p.Feed.Circuits {
		at := c.At
		if c.Side == match.To {
			at = f.At(c.At)
		}
		if c.Slot == "" || !laid[harness.WireID("new wire "+at.String())] &&
			!laid[harness.WireID("new wire "+c.At.String())] &&
			!laid[harness.WireID("new wire for "+at.String())] {
			continue
		}
		end := at.Connector + "/" + at.Cavity
		if wire[at] != "" && (c.Side == match.From || f.Meetings[c.At.Connector].Met == match.Stays) {
			end = string(wire[at])
		}
		if slot := j.Block.ID + "/" + c.Slot; !b.one(slot, end) {
			t.Fatalf("job %d (%s): %s stands on %s, and %s is not one circuit with it\n%v %v", seed, j.Kind, c.At, slot, end,
				b.tips, b.at)
		}
		circuits++
		if slots[c.Slot]++; slots[c.Slot] > 1 {
			shared++
		}
	}
	for _, l := range j.Block.Leads() {
		if !laid[harness.WireID("new wire "+l.At.String())] {
			continue
		}
		end := "j" + l.To
		for _, h := range loom.Connectors {
			for _, cavity := range h.Cavities {
				if at := (harness.Ref{Connector: h.ID, Cavity: cavity}); at.String() == l.To {
					if end = h.ID + "/" + cavity; wire[at] != "" {
						end = string(wire[at])
					}
				}
			}
		}
		if at := l.At.Connector + "/" + l.At.Cavity; !b.one(at, end) {
			t.Fatalf("job %d (%s): %s is to be led to %s (%s), and is not\n%v %v", seed, j.Kind, l.At, l.To, end, b.tips, b.at)
		}
		leads++
	}
	return circuits, leads, shared
}

// What was fed before a block was taken is fed so again when that way is taken back: the same plan.
func TestAWayToFeedLeadsBack(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 5))
		j := mixedJob(r)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		for range 12 {
			p := plan.Compute(f, j.Chosen())
			decideMixed(r, &j, &p, f)
		}
		d := j.Chosen()
		p := plan.Compute(f, d)
		o := p.Fed.Propose(d, f.Feed, false)
		with := p.Fed.Take(d, &o)
		before := p.Fed.Option(d, "b", "before").Before(d.Match, with.Match)
		q := plan.Compute(f, with)
		again := plan.Compute(f, q.Fed.Take(with, &before))
		if a, b := steps(&p), steps(&again); a != b {
			t.Fatalf("job %d: before\n%s\nand again\n%s\nhad %v\nwith %v\nway %v %v\nagain %v", seed, a, b, d.Match,
				with.Match, before.Decisions, before.Open, q.Fed.Take(with, &before).Match)
		}
	}
}

func steps(p *plan.Plan) string {
	var b strings.Builder
	for i := range p.Work.Steps {
		fmt.Fprintln(&b, p.Work.Steps[i].Text)
	}
	return b.String()
}

// The steps of Feed: the block is mounted before anything goes into it, and its fuses come after all that they feed.
func TestFusesGoInLast(t *testing.T) {
	j := stored.Job{Title: "own", Kind: stored.Standalone, From: table("ours", []string{"A", "1", "Battery feed"},
		[]string{"A", "2", "Ignition feed"}, []string{"A", "3", "Power ground"}),
		OfMatch: match.Record{Decisions: []match.Decision{}}}
	for cavity, from := range map[string]string{"1": "1", "2": "2"} {
		j.Decisions = append(j.Decisions, match.Decision{Side: match.From, At: harness.Ref{Connector: "A", Cavity: cavity},
			Choice: match.Sourced,
			Source: "battery", Origin: &match.Origin{Kind: match.AtCavity, At: harness.Ref{Connector: "FB", Cavity: from}}})
	}
	j.Block = &feed.Block{ID: "FB", Groups: []feed.FeedGroup{{Name: "battery", From: "battery +", Fused: true}},
		Slots: []feed.BlockSlot{{Name: "1", Group: "battery", Amps: 10}, {Name: "2", Group: "battery", Amps: 5}, {Name: "3",
			Group: "battery"}}}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	if wrong(p) {
		t.Fatalf("%+v", p.Proof)
	}
	mounted, firstFuse, lastEdit, fuses := -1, -1, -1, 0
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		switch {
		case s.Kind == live.MountBlock:
			mounted = i
		case s.Kind == live.FitFuse:
			if fuses++; firstFuse < 0 {
				firstFuse = i
			}
		case len(s.Edits) > 0:
			lastEdit = i
			if mounted < 0 && slices.ContainsFunc(s.Edits, func(e harness.Edit) bool {
				return e.Do == harness.Insert &&
					e.At.Connector == "FB"
			}) {
				t.Errorf("%q comes before the block is mounted", s.Text)
			}
		}
	}
	if mounted < 0 || fuses != 3 || firstFuse < lastEdit {
		t.Errorf("mounted %d, %d fuses from %d on, the last edit is %d", mounted, fuses, firstFuse, lastEdit)
	}
}
