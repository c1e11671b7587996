package thin_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/thin"
	"draxel/core/work"
)

// ticked ticks the work off up to a step, Pin's extractions first.
func ticked(r *thin.Result, upTo int) []work.Tick {
	var out []work.Tick
	for i, s := range carried(r) {
		if i >= upTo {
			break
		}
		out = append(out, work.Tick{Step: s.ID, Edits: s.Edits, Seq: i, When: 1})
	}
	return out
}

// planned gives the ids of steps.
func planned(all []work.Step) map[string]bool {
	ids := map[string]bool{}
	for _, s := range all {
		ids[s.ID] = true
	}
	return ids
}

// At every moment of the work what has been pulled is accounted for, counted in two ways.
func TestCountsBalanceAtEveryStep(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 11))
		l := made(r, 4+r.IntN(40))
		for i := range l.Wires {
			l.Wires[i].Length = float64(r.IntN(3) * 200)
		}
		result := thin.Compute(thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()})
		all, found := carried(result), l.Found()
		for n := 0; n <= len(all); n += 1 + r.IntN(4) {
			ticks := ticked(result, n)
			r.Shuffle(len(ticks), func(i, k int) { ticks[i], ticks[k] = ticks[k], ticks[i] }) // they come in any order
			p := result.Progress(work.Replay(found, ticks), planned(all))
			if c := result.Count(found, p, result.Steps); !c.Balanced || n == len(all) && c.InHand > 0 {
				t.Fatalf("seed %d, %d of %d steps: %+v", seed, n, len(all), c)
			}
			if len(p.Findings)+len(p.Mends) > 0 {
				t.Fatalf("seed %d: what is in the plan is not wanted: %v", seed, p.Findings)
			}
		}
	}
}

// Ticks outlive a plan that changes: what was cut and is wanted after all is mended, and says so.
func TestTicksSurviveAPlanThatChanges(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device valve part emissions V", "device lamp part lighting L",
		"device lamp2 part lighting L2", "W1 U-1 S1", "W2 S1 L-1", "W3 S1 L2-1", "W4 S1 V-1")
	compute := func(d ...string) *thin.Result {
		return thin.Compute(thin.Input{Loom: l, Decisions: decide(d...), Bench: thin.Standard()})
	}
	before := compute("goes module valve")
	trim := slices.IndexFunc(before.Steps, func(s thin.Step) bool { return s.Kind == thin.Legs })
	tick := work.Tick{Step: before.Steps[trim].ID, Edits: before.Steps[trim].Edits, Text: before.Steps[trim].Text}
	after := compute("goes module valve", "keep wire W4")
	p := after.Progress(work.Replay(l.Found(), []work.Tick{tick}), planned(carried(after)))
	if len(p.Mends) != 1 || !strings.Contains(p.Mends[0].Text, "W4") {
		t.Fatalf("mends %+v", p.Mends)
	}
	mended, _, err := work.Run(p.Now, []work.Step{p.Mends[0]}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if c := componentsOf(l, mended); c[harness.Ref{Connector: "V", Cavity: "1"}] != c[harness.Ref{Connector: "L",
		Cavity: "1"}] {
		t.Error("the wire that was mended is not joined")
	}
	same := compute("goes module valve", "keep module lamp")
	if p := same.Progress(work.Replay(l.Found(), []work.Tick{tick}),
		planned(carried(same))); len(p.Mends)+len(p.Findings) > 0 || len(p.Done) != 1 {
		t.Errorf("another decision changed what was done: %+v", p)
	}
	through := compute("goes module valve", "goes module lamp2") // the splice becomes one wire, and is wanted after all
	made := slices.IndexFunc(through.Steps, func(s thin.Step) bool { return s.Kind == thin.OneWire })
	apart := work.Tick{Step: through.Steps[made].ID, Edits: through.Steps[made].Edits}
	again := compute("goes module valve")
	p = again.Progress(work.Replay(l.Found(), []work.Tick{apart}), planned(carried(again)))
	if len(p.Mends) != 1 || len(p.Findings) != 0 || !strings.Contains(p.Mends[0].Text, "W1, W2, W3") {
		t.Fatalf("mends %+v, %v", p.Mends, p.Findings)
	}
	if mended, _, err = work.Run(p.Now, []work.Step{p.Mends[0]}, nil); err != nil {
		t.Fatal(err)
	}
	c := componentsOf(l, mended)
	if u := c[harness.Ref{Connector: "U", Cavity: "1"}]; u != c[harness.Ref{Connector: "L", Cavity: "1"}] ||
		u != c[harness.Ref{Connector: "L2", Cavity: "1"}] {
		t.Error("the splice that was made anew does not join its legs")
	}
	l.Wires[3].Ends[1] = harness.End{}
	l.Wires[3].ID = "W9"
	gone := compute()
	if p := gone.Progress(work.Replay(l.Found(), []work.Tick{tick}), planned(carried(gone))); len(p.Findings) != 0 ||
		len(p.Lost) != 1 {
		t.Errorf("a tick about a wire that is gone: %+v, %+v", p.Findings, p.Lost)
	}
}

func TestStockAndHours(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device box fuses power F", "device valve part emissions V", "W1 U-1 V-1",
		"W2 U-2 V-2", "W3 F-1 V-3")
	l.Wires[0].Length, l.Wires[1].Length = 900, 120
	b := thin.Standard()
	r := thin.Compute(thin.Input{Loom: l, Decisions: decide("goes module valve"), Bench: b})
	all := carried(r)
	p := r.Progress(work.Replay(l.Found(), ticked(r, len(all))), planned(all))
	stock, off := r.Stock(p.Now)
	if len(stock) != 1 || stock[0].Pieces != 2 || stock[0].Out != 2 || stock[0].Length != 900 || stock[0].Unknown != 1 {
		t.Errorf("stock %+v: a piece of 120 mm is not worth keeping, one of unknown length may be", stock)
	}
	if len(off) != 1 || off[0].Tails != 3 || !off[0].Off || off[0].Socket {
		t.Errorf("connectors %+v", off)
	}
	c := r.Count(l.Found(), p, r.Steps)
	if c.Stock != 4 || c.Deleted != 2 || c.Left != 0 || c.Done != c.Steps {
		t.Errorf("counts %+v", c)
	}
	b.Worked = 2 * c.Minutes
	slow := thin.Compute(thin.Input{Loom: l, Decisions: decide("goes module valve"), Bench: b})
	if s := slow.Count(l.Found(), p, slow.Steps); s.Learned != 2 || s.Minutes != 2*c.Minutes {
		t.Errorf("nothing was learned from the log: %+v", s)
	}
}

// Nothing in the drawing lies on anything else, and every wire's limbs hang together from one end to the other.
func TestTheDrawingIsLegible(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 5))
		l := made(r, 20+r.IntN(500))
		for i := range 3 + r.IntN(8) {
			b := harness.Branch{ID: "B" + string(rune('0'+i)), At: float64(r.IntN(900))}
			if r.IntN(4) > 0 {
				// its own, one that comes later or one that is not listed: a misprint
				b.Parent = "B" + string(rune('0'+r.IntN(i+2)))
			}
			l.Branches = append(l.Branches, b)
		}
		for i := range l.Connectors {
			if r.IntN(5) > 0 {
				l.Connectors[i].Branch = l.Branches[r.IntN(len(l.Branches))].ID
			}
		}
		result := thin.Compute(thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()})
		d := result.Draw()
		plugs := 0
		for i, a := range d.Spots {
			if a.X < 0 || a.Y < 0 || a.X+a.Width > d.Width || a.Y > d.Height {
				t.Fatalf("seed %d: %s lies outside the drawing", seed, a.ID)
			}
			if a.Kind != "connector" {
				continue
			}
			plugs++
			for _, b := range d.Spots[:i] {
				if b.Kind == "connector" && a.X < b.X+b.Width && b.X < a.X+a.Width && a.Y < b.Y+20 && b.Y < a.Y+20 {
					t.Fatalf("seed %d: %s lies on %s", seed, a.ID, b.ID)
				}
			}
		}
		if plugs != len(l.Connectors) {
			t.Fatalf("seed %d: %d of %d connectors are drawn", seed, plugs, len(l.Connectors))
		}
		hangTogether(t, seed, result, d)
	}
}

func hangTogether(t *testing.T, seed uint64, result *thin.Result, d thin.Drawing) {
	t.Helper()
	parent := map[string]string{}
	for _, b := range d.Branches {
		parent[b.ID] = b.Parent
	}
	for _, v := range result.Wires[:min(20, len(result.Wires))] {
		for wire, limbs := range result.Routes(d, func(w int) bool { return result.Wires[w].Circuit == v.Circuit }) {
			var heads []string
			for i, limb := range limbs {
				if slices.Contains(limbs[:i], limb) {
					t.Fatalf("seed %d: %s runs through %s twice", seed, wire, limb)
				}
				if !slices.Contains(limbs, parent[limb]) {
					heads = append(heads, limb)
				}
			}
			// From one trunk to another a wire runs through both of them, and has two heads.
			trunk := func(limb string) bool { return parent[limb] == "" }
			if len(heads) > 1 && slices.ContainsFunc(heads, func(h string) bool { return !trunk(h) }) {
				t.Fatalf("seed %d: the limbs of %s do not hang together: %v", seed, wire, limbs)
			}
		}
	}
}

// Whatever was done under one set of decisions, another set gives a plan that can be carried out from there, or says
// what of the work done stands in its way.
func TestDecisionsThatChangeInTheMiddleOfTheWork(t *testing.T) {
	stray := 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 17))
		l := made(r, 4+r.IntN(50))
		first := thin.Compute(thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()})
		done := ticked(first, r.IntN(len(carried(first))+1))
		second := thin.Compute(thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()})
		p := second.Progress(work.Replay(l.Found(), done), planned(carried(second)))
		left := work.Remaining(p.Past, append(slices.Clone(p.Mends), carried(second)...), len(p.Findings)+len(p.Mends) > 0)
		if len(p.Findings)+len(p.Mends) > 0 {
			stray++
		}
		if _, _, err := work.Run(p.Now, left.Steps, nil); err != nil {
			t.Fatalf("seed %d: what is left cannot be carried out: %v", seed, err)
		}
		if len(left.Held) > 0 && len(p.Findings)+len(p.Mends) == 0 {
			t.Fatalf("seed %d: %d steps are held up, and nothing says by what", seed, len(left.Held))
		}
	}
	if stray < 50 {
		t.Errorf("only %d of the changes met work that had been done", stray)
	}
}
