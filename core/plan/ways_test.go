package plan_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

var mixed = flag.Uint64("mixed", 80, "how many random jobs the tests of this package go through; the long form is 1500")

var first = flag.Uint64("first", 0, "the first of those jobs")

// mixedJob is a job in which anything can happen: housings kept, new, staying and plugged on, wires that go on to
// devices, splices and nothing, plugs in mid-air.
func mixedJob(r *rand.Rand) stored.Job {
	words := []string{"Injector 1", "Injector 2", "Battery feed", "Ignition feed", "Power ground",
		"Coolant temperature sensor", "Fan relay 1 control", "Canister purge", "Knock sensor 1", "zqk",
		"Engine speed output", "Sensor ground"}
	side := func(connectors string) (lines [][]string) {
		for i, c := range r.Perm(18)[:4+r.IntN(9)] {
			lines = append(lines, []string{string(connectors[c%3]), fmt.Sprint(c/3 + 1), words[(i+r.IntN(4))%len(words)]})
		}
		return lines
	}
	from, to := side("ABC"), side("ADE")
	j := stored.Job{Title: "mixed", Kind: stored.Kinds()[r.IntN(13)].ID, From: table("ours", from...), To: table("theirs",
		to...), OfMatch: match.Record{Met: match.Meetings{}}}
	used := map[string]bool{}
	for _, id := range []string{"A", "D", "E"} {
		m := match.Meeting{Met: []match.Met{match.Stays, match.Stays, match.NewHousing, match.SameAs, match.PlugsOnto,
			match.NoConcern}[r.IntN(6)]}
		if m.Met == match.SameAs || m.Met == match.PlugsOnto {
			if m.With = string("ABC"[r.IntN(3)]); used[m.With] {
				continue
			}
			used[m.With] = true
		}
		if r.IntN(3) > 0 {
			j.Met[id] = m
		}
	}
	if r.IntN(2) == 0 {
		j.Vehicle = match.From
	}
	if r.IntN(3) > 0 {
		wires := [][]string{strings.Split("Wire|From|Cavity|To|Cavity|Function", "|")}
		for i, l := range append(slices.Clone(from), to...) {
			end := [][]string{{"X", fmt.Sprint(i)}, {"S1", ""}, {"?", ""}, {"taped", ""}, {"Y", fmt.Sprint(i)}}[r.IntN(5)]
			connector := l[0]
			if connector == "A" && i >= len(from) {
				continue
			}
			wires = append(wires, append([]string{fmt.Sprint("w", i), connector, l[1]}, append(end, l[2])...))
		}
		j.Sheets = map[gather.SheetKind]*gather.Sheet{gather.WireList: {Cells: wires},
			gather.ConnectorList: sheet("Connector|Device", "A|"+[]string{"unit", ""}[r.IntN(2)], "B|"+[]string{"old unit",
				""}[r.IntN(2)], "D|"+[]string{"body", ""}[r.IntN(2)], "X|parts", "Y|"+[]string{"lamp", ""}[r.IntN(2)]),
			gather.DeviceList: sheet("Device|Kind|System", "unit|unit|engine", "old unit|unit|engine", "body|unit|body",
				"parts|unit|engine", "lamp||lighting")}
	}
	hand := r.IntN(3)
	bench := thin.Standard()
	bench.Hand = &hand
	j.Bench = &bench
	return j
}

// decideMixed takes decisions as the server would let them be taken.
func decideMixed(r *rand.Rand, j *stored.Job, p *plan.Plan, f fact.Facts) {
	if len(f.From.Rows) == 0 || len(f.To.Rows) == 0 {
		return
	}
	from, to := f.From.Rows[r.IntN(len(f.From.Rows))], f.To.Rows[r.IntN(len(f.To.Rows))]
	if r.IntN(3) > 0 { // mostly as it is offered
		for _, l := range p.Match.Lines {
			if row, ok := f.To.Row(l.To); ok && l.From == from.Ref && !l.Decided {
				to = row
			}
		}
	}
	put := func(d match.Decision) { j.Decisions = append(without(j.Decisions, d.Side, d.At), d) }
	origin := &match.Origin{Kind: []match.OriginKind{match.AtCavity, match.AtSplice, match.AtFuse,
		match.OpenEnd}[r.IntN(4)], At: from.Ref, Name: "F7", Owner: "Ines"}
	if origin.Kind == match.AtSplice && r.IntN(2) == 0 {
		origin.Name = "S1"
	}
	switch r.IntN(12) {
	case 0, 1, 2, 3, 9, 10, 11:
		if _, vetoed := match.Veto(from.Signal, to.Signal); !vetoed &&
			!slices.ContainsFunc(j.Decisions, func(d match.Decision) bool {
				return d.To == to.Ref || d.Side == match.To &&
					d.At == to.Ref
			}) {
			put(match.Decision{Side: match.From, At: from.Ref, Choice: match.Matched, To: to.Ref, Way: append(match.Ways(),
				match.Proposed, match.Proposed)[r.IntN(9)]})
		}
	case 4:
		if _, never := match.NeverJoin(from.Signal, to.Signal); !never {
			put(match.Decision{Side: match.From, At: from.Ref, Choice: match.Joined, To: to.Ref})
		}
	case 5:
		put(match.Decision{Side: match.From, At: from.Ref, Choice: []match.Choice{match.Gone, match.Open}[r.IntN(2)]})
	case 6:
		put(match.Decision{Side: match.From, At: from.Ref, Choice: match.Sourced, Source: "ground",
			Origin: []*match.Origin{nil, origin}[r.IntN(2)]})
	case 7:
		if _, never := match.NeverJoin(to.Signal, from.Signal); !never {
			put(match.Decision{Side: match.To, At: to.Ref, Choice: []match.Choice{match.Branch, match.Wired}[r.IntN(2)],
				Of: from.Ref, Origin: origin})
		}
	case 8:
		if n := len(p.Thin.Result.Systems); n > 0 && r.IntN(3) == 0 {
			d := thin.Decision{On: thin.System, ID: p.Thin.Result.Systems[r.IntN(n)].System, Choice: []thin.Choice{thin.Goes,
				thin.Keep}[r.IntN(2)], Reason: "a trial"}
			if r.IntN(2) == 0 {
				d = thin.Decision{On: thin.Module, ID: "old unit", Choice: thin.Goes, Reason: "a trial"}
			}
			if p.Thin.Result.Refuses(d) == "" {
				j.Thin = append(slices.DeleteFunc(j.Thin, func(x thin.Decision) bool { return x.On == d.On && x.ID == d.ID }), d)
			}
		}
	}
}

// tickAny ticks a step that can be done now, whichever.
func tickAny(r *rand.Rand, j *stored.Job, p *plan.Plan) bool {
	var ready []int
	bench := harness.Work(p.Past.Now)
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		if _, done := p.Done(s.ID); !done && p.Ready(s, bench) {
			ready = append(ready, i)
		} else if !done && s.Kind == reach.CutWire && len(s.Missing) > 0 { // nobody knows its size: somebody states it
			j.Spans = append(j.Spans, reach.Wish{Wire: s.Wires[0], Size: 1})
		}
	}
	if len(ready) == 0 {
		return false
	}
	t, _ := p.Tick(p.Work.Steps[ready[r.IntN(len(ready))]].ID)
	base := t.Step
	for n := 2; slices.ContainsFunc(j.Ticks, func(have work.Tick) bool { return have.Step == t.Step }); n++ {
		t.Step = fmt.Sprintf("%s-%d", base, n)
	}
	t.When = int64(len(j.Ticks) + 1)
	j.Ticks = append(j.Ticks, t)
	return true
}

// All ways in one job, decisions that change in the middle of the work, steps ticked in any order that hands allow: the
// steps lead to Wanted, and by a count that shares nothing with the product every accepted match is one circuit in
// the end.
func TestEveryWayLeadsToWhatIsWanted(t *testing.T) {
	seen := map[match.Way]int{}
	whole, partial, matches := 0, 0, 0
	seeds := []uint64{21115} // once both ends of a wire changed, and the second change forgot the first
	for seed := *first; seed < *first+*mixed; seed++ {
		seeds = append(seeds, seed)
	}
	for _, seed := range seeds {
		r := rand.New(rand.NewPCG(seed, 41))
		j := mixedJob(r)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatalf("job %d: %v", seed, err)
		}
		p := plan.Compute(f, j.Chosen())
		for round := range 12 {
			for range 1 + r.IntN(4) {
				decideMixed(r, &j, &p, f)
			}
			p = plan.Compute(f, j.Chosen())
			check(t, seed, round, &j, f, &p)
			for n := r.IntN(12); n > 0 && tickAny(r, &j, &p); n-- {
				p = plan.Compute(f, j.Chosen())
				check(t, seed, round, &j, f, &p)
			}
		}
		for _, w := range p.Ways {
			if w.Chosen {
				seen[w.Way]++
			}
		}
		if p.Proof.Partial {
			partial++
		} else if whole++; p.Proof.Fault == "" {
			matches += oneCircuit(t, seed, &j, f, &p)
		}
	}
	t.Logf("%d jobs compared to the end, %d with work that is not wanted any more; %d matches are one circuit; ways "+
		"chosen %v", whole, partial, matches, seen)
	if whole < int(*mixed)/2 || matches < int(*mixed)/2 {
		t.Errorf("too few jobs say anything: %d whole, %d matches", whole, matches)
	}
}

func check(t *testing.T, seed uint64, round int, j *stored.Job, f fact.Facts, p *plan.Plan) {
	t.Helper()
	if wrong(*p) || has(p.Findings, "tick-lost") {
		var steps []string
		for _, s := range p.Work.Steps {
			steps = append(steps, string(s.Stage)+" "+s.Text)
		}
		t.Fatalf("job %d, round %d, %s: %+v %s\nmet %v, vehicle %s\ndecisions %+v\nthin %+v\nticks %d\nsteps\n%s", seed,
			round, j.Kind, p.Proof, text(p.Findings, "tick-lost"), f.Meetings, f.Vehicle, j.Decisions, j.Thin, len(j.Ticks),
			strings.Join(steps, "\n"))
	}
	if !p.Totals.Reconciled {
		t.Fatalf("job %d: the counts do not balance: %+v", seed, p.Totals)
	}
}

// oneCircuit carries the raw edits out on the test's own bench and looks at every accepted match.
func oneCircuit(t *testing.T, seed uint64, j *stored.Job, f fact.Facts, p *plan.Plan) int {
	t.Helper()
	loom := f.Laid.Loom
	before := newBench(&loom)
	b := newBench(&loom)
	for _, x := range work.InOrder(j.Ticks) {
		for _, e := range x.Edits {
			b.do(e)
		}
	}
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		if _, done := p.Done(s.ID); done {
			continue
		}
		for _, e := range s.Edits {
			b.do(e)
		}
	}
	wire := map[harness.Ref]harness.WireID{}
	for _, w := range loom.Wires {
		for _, e := range w.Ends {
			wire[e.At] = w.ID
		}
	}
	held := has(p.Findings, "cavity-held") || has(p.Findings, "wire-is-out") || has(p.Findings, "no-wire-there")
	n := 0
	for _, w := range p.Ways {
		i := slices.IndexFunc(p.Match.Lines, func(l match.Line) bool { return l.From == w.From })
		l := &p.Match.Lines[i]
		if !l.Decided {
			continue
		}
		to := f.At(l.To)
		a, c := wire[l.From], to.Connector+"/"+to.Cavity
		if l.Verdict == match.Meets && w.Way != match.Into {
			c = string(wire[to])
		}
		if l.Verdict == match.Meets && w.Way == match.Into {
			ours, vehicle := to, l.From
			if f.Vehicle == match.To {
				ours, vehicle = l.From, to
			}
			a, c = wire[ours], vehicle.Connector+"/"+vehicle.Cavity
		}
		if w.Way == match.Lead {
			a = harness.WireID(l.From.Connector + "/" + l.From.Cavity)
			b.mates["plug on "+l.From.Connector] = l.From.Connector
		}
		said := slices.Contains(p.Proof.Left, fmt.Sprintf("%s to %s", l.From, l.To))
		if a == "" || c == "" {
			if l.Verdict == match.Meets && !said {
				t.Fatalf("job %d: there is no wire for %s and %s, and nothing says that they are left off", seed, l.From, l.To)
			}
			continue
		}
		one := b.one(string(a), c)
		// of one circuit they may be anyway
		if one == said && l.Verdict != match.Faces && !(one && before.one(string(a), c)) {
			t.Fatalf("job %d: %s and %s (%s, %s) are one circuit: %v, left off: %v", seed, l.From, l.To, w.Way, l.Verdict, one,
				p.Proof.Left)
		}
		if held {
			continue
		}
		if n++; !one {
			t.Fatalf("job %d: %s and %s are matched by %q (%s), and %s and %s are not one circuit in the end\n%+v", seed,
				l.From, l.To, w.Way, l.Verdict, a, c, b.tips)
		}
	}
	return n
}
