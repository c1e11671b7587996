package plan_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/work"
)

var partings = flag.Uint64("partings", 60, "how many random jobs TestDisconnectsInAStorm goes through")

// take takes the disconnects that a plan offers.
func take(j *stored.Job, p *plan.Plan) {
	for i := range p.Reach.Result.Disconnects {
		d := &p.Reach.Result.Disconnects[i]
		if x := d.Offer(j.Partings); len(x.Plugs) > 0 {
			j.Partings = append(slices.DeleteFunc(j.Partings, func(y reach.Parting) bool { return y.Between == d.Between }), x)
		}
	}
}

// placed lays a random vehicle out, places all that a job has, and measures most of its wires.
func placed(own *rand.Rand, j *stored.Job) {
	j.Map = &route.Map{}
	for i := range 5 {
		j.Map.Stations = append(j.Map.Stations, route.Station{ID: fmt.Sprint("s", i), Group: []string{"body", "engine",
			"box"}[own.IntN(3)]})
		if i > 0 {
			j.Map.Paths = append(j.Map.Paths, route.Path{ID: fmt.Sprint("p", i), From: fmt.Sprint("s", own.IntN(i)),
				To: fmt.Sprint("s", i), Length: float64(200 + own.IntN(900)), Wall: own.IntN(2) == 0})
		}
	}
	f, err := fact.Of(*j)
	if err != nil {
		panic(err)
	}
	put := func(kind route.Kind, id string) {
		j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: kind, ID: id},
			Station: fmt.Sprint("s", own.IntN(5))})
	}
	for _, c := range f.Laid.Loom.Connectors {
		put(route.AConnector, c.ID)
	}
	for i := range f.Laid.Loom.Splices {
		put(route.ASplice, string(f.Laid.Loom.Splices[i].ID))
	}
	for i := range f.Laid.Loom.Wires {
		if own.IntN(3) > 0 {
			j.Lengths = append(j.Lengths, reach.Measured{Wire: f.Laid.Loom.Wires[i].ID, Had: float64(300 + own.IntN(2000))})
		}
	}
}

// inTheEnd carries out what is left of a plan on the test's own bench.
func inTheEnd(f fact.Facts, j *stored.Job, p *plan.Plan) *bench {
	b := newBench(&f.Laid.Loom)
	for _, x := range work.InOrder(j.Ticks) {
		for _, e := range x.Edits {
			b.do(e)
		}
	}
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done {
			for _, e := range p.Work.Steps[i].Edits {
				b.do(e)
			}
		}
	}
	for _, x := range j.Partings {
		for _, h := range x.Halves() {
			b.mates[h.ID] = h.Mate
		}
	}
	return b
}

// A disconnect that is taken is in the plan: its plugs, each tie's two contacts in facing cavities, proven. Plugged in,
// all is joined as before; pulled apart, nothing is left that ties the one group to the other.
func TestADisconnectIsTaken(t *testing.T) {
	j := spanned()
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := computeJob(t, j)
	if !has(p.Findings, "tied") {
		t.Fatal("nothing is tied")
	}
	take(&j, &p)
	p = computeJob(t, j)
	proven(t, "taken", p)
	d := p.Reach.Result.Disconnects[0]
	if has(p.Findings, "tied") || len(d.Cavities) != len(d.Ties) || len(d.Ties) != 3 || len(d.Parts) == 0 {
		t.Fatalf("%+v; %v", d, p.Findings)
	}
	seen := map[string]bool{}
	for _, c := range d.Cavities {
		if seen[c.Plug+c.Cavity] || c.At == "" {
			t.Errorf("%+v, and that cavity is taken or has no place", c)
		}
		seen[c.Plug+c.Cavity] = true
	}
	pairs := [][2]string{{"A/1", "J/1"}, {"A/2", "J/2"}, {"A/2", "K/1"}, {"K/2", "A/3"}}
	for _, done := range []int{0, 3, len(p.Work.Steps)} {
		j.Ticks = nil
		for i := range p.Work.Steps[:done] {
			tick, _ := p.Tick(p.Work.Steps[i].ID)
			tick.When = int64(i + 1)
			j.Ticks = append(j.Ticks, tick)
		}
		now := computeJob(t, j)
		proven(t, fmt.Sprint(done, " steps done"), now)
		b := inTheEnd(f, &j, &now)
		for _, x := range pairs {
			if !b.one(x[0], x[1]) {
				t.Errorf("%d steps done, plugged in: %s and %s are not joined", done, x[0], x[1])
			}
		}
		b.mates = map[string]string{}
		for _, x := range pairs {
			if b.one(x[0], x[1]) {
				t.Errorf("%d steps done, pulled apart: %s is still joined to %s", done, x[0], x[1])
			}
		}
	}
}

// Disconnects are taken, taken anew and taken back in jobs of every kind while the work goes on: the plan stands, and
// what it says is parted hangs together by its plugs alone.
func TestDisconnectsInAStorm(t *testing.T) {
	parted := 0
	for seed := range *partings {
		r := rand.New(rand.NewPCG(seed, 41))
		own := rand.New(rand.NewPCG(seed, 42))
		j := mixedJob(r)
		placed(own, &j)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, j.Chosen())
		for round := range 6 {
			switch own.IntN(4) {
			case 0, 1:
				take(&j, &p)
			case 2:
				if n := len(j.Partings); n > 0 && len(j.Ticks) == 0 {
					j.Partings = slices.Delete(j.Partings, n-1, n)
				}
			}
			if round < 3 {
				decideMixed(r, &j, &p, f)
			}
			p = plan.Compute(f, j.Chosen())
			check(t, seed, round, &j, f, &p)
			for n := own.IntN(10); round > 2 && n > 0 && tickAny(own, &j, &p); n-- {
				p = plan.Compute(f, j.Chosen())
				check(t, seed, round, &j, f, &p)
			}
		}
		if p.Proof.Partial || p.Proof.Fault != "" {
			continue
		}
		b := inTheEnd(f, &j, &p)
		for _, d := range p.Reach.Result.Disconnects {
			for _, c := range d.Cavities {
				parted++
				a, z := c.Plug+" "+d.Between[0]+"/"+c.Cavity, c.Plug+" "+d.Between[1]+"/"+c.Cavity
				if !held(b, a) || !held(b, z) || !b.one(a, z) {
					t.Fatalf("job %d: %s in %s and %s: filled %v %v", seed, c.Wire, a, z, held(b, a), held(b, z))
				}
			}
		}
	}
	if parted < int(*partings) {
		t.Errorf("only %d wires were parted", parted)
	}
	t.Logf("%d wires parted", parted)
}

// held says whether a terminal is in a cavity.
func held(b *bench, at string) bool {
	for _, in := range b.at {
		if in == at {
			return true
		}
	}
	return false
}

// What restraint hangs on is not parted, and that is said.
func TestADisconnectLeavesRestraintAlone(t *testing.T) {
	j := spanned()
	for _, row := range j.Sheets["wires"].Cells {
		if row[0] == "w1" {
			row[7] = "Airbag, driver"
		}
	}
	p := computeJob(t, j)
	take(&j, &p)
	p = computeJob(t, j)
	proven(t, "taken", p)
	if !has(p.Findings, "not-parted") || !strings.Contains(text(p.Findings, "not-parted"), "w1") {
		t.Errorf("%v", p.Findings)
	}
	for _, s := range p.Work.Steps {
		if slices.ContainsFunc(s.Edits, func(e harness.Edit) bool { return e.Wire == "w1" }) {
			t.Errorf("%q touches restraint", s.Text)
		}
	}
}

// A disconnect that parts nothing any more is said to, and is still shown, so that it can be taken back from there.
func TestADisconnectThatPartsNothingIsShown(t *testing.T) {
	j := spanned()
	p := computeJob(t, j)
	take(&j, &p)
	for i := range j.Map.Stations {
		j.Map.Stations[i].Group = "body"
	}
	p = computeJob(t, j)
	if !has(p.Findings, "parts-nothing") || len(p.Reach.Result.Disconnects) != 1 {
		t.Fatalf("%+v; %v", p.Reach.Result.Disconnects, p.Findings)
	}
	if d := p.Reach.Result.Disconnects[0]; d.Between != j.Partings[0].Between || len(d.Taken) == 0 || len(d.Wires) > 0 {
		t.Errorf("%+v", d)
	}
	j.Partings = nil
	if p = computeJob(t, j); has(p.Findings, "parts-nothing") || len(p.Reach.Result.Disconnects) > 0 {
		t.Errorf("taken back: %+v; %v", p.Reach.Result.Disconnects, p.Findings)
	}
}
