package pin_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/work"
)

// bench is a harness of several connectors with a random goal.
type bench struct {
	*rand.Rand
	now, wanted harness.Harness
	connectors  []harness.Connector
	made        int
}

func randomBench(t testing.TB, seed uint64, connectors, ways int) *bench {
	b := &bench{Rand: rand.New(rand.NewPCG(seed, 11))}
	for i := range connectors {
		b.connectors = append(b.connectors, harness.Connector{ID: string(rune('A' + i)), Cavities: harness.Numbered(ways)})
	}
	b.now = harness.New(b.connectors)
	for _, at := range b.now.Cavities() {
		if b.IntN(4) > 0 {
			b.now = apply(t, b.now, harness.Edit{Do: harness.Add, Terminal: b.name(), Label: "n"},
				harness.Edit{Do: harness.Insert, Terminal: b.name(), At: at})
			b.made++
		}
	}
	b.decide(t)
	return b
}

func (b *bench) name() harness.TerminalID { return harness.TerminalID(fmt.Sprintf("w%d", b.made)) }

// decide makes a new goal for what is there now, whatever state it is in: some stay, most move, some go, wait or are
// joined, some are new, some that were new are not wanted any more, some cavities get a plug.
func (b *bench) decide(t testing.TB) {
	h := harness.New(b.connectors)
	cavities := h.Cavities()
	b.Shuffle(len(cavities), func(i, j int) { cavities[i], cavities[j] = cavities[j], cavities[i] })
	seat := func(name harness.TerminalID, at harness.Ref) {
		h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: name, Label: "n"},
			harness.Edit{Do: harness.Insert, Terminal: name, At: at})
	}
	for _, name := range b.now.Terminals() {
		was, _ := b.now.Place(name)
		switch n := b.IntN(12); {
		case n == 0 || len(cavities) == 0:
			h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: name, Label: "n"},
				harness.Edit{Do: harness.Cap, Terminal: name, Label: "goes"})
		case n == 1:
			h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: name, Label: "n"},
				harness.Edit{Do: harness.Park, Terminal: name, Label: "waits"})
		case n == 2:
			h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: name, Label: "n"}, harness.Edit{Do: harness.Park,
				Terminal: name, Label: "joined"})
		case n == 3 && len(name) > 0 && name[0] == 'n': // was new, is not wanted any more
		case n < 6 && was.State == harness.Seated && slices.Contains(cavities, was.At):
			seat(name, was.At)
			cavities = slices.DeleteFunc(cavities, func(r harness.Ref) bool { return r == was.At })
		default:
			seat(name, cavities[0])
			cavities = cavities[1:]
		}
	}
	for _, at := range cavities {
		switch b.IntN(5) {
		case 0:
			b.made++
			seat("n"+b.name(), at)
		case 1:
			h = apply(t, h, harness.Edit{Do: harness.Plug, At: at})
		}
	}
	b.wanted = h
}

// otherwise is what a person does that the plan does not say: a terminal put somewhere else, or left in hand.
func (b *bench) otherwise(limit int) (work.Tick, bool) {
	var full, free []harness.Ref
	for _, at := range b.now.Cavities() {
		if _, in := b.now.In(at); in {
			full = append(full, at)
		} else if !b.now.Plugged(at) {
			free = append(free, at)
		}
	}
	if len(full) == 0 || len(free) == 0 {
		return work.Tick{}, false
	}
	from := full[b.IntN(len(full))]
	t, _ := b.now.In(from)
	out := harness.Edit{Do: harness.Remove, Terminal: t, At: from, Label: "otherwise"}
	if b.now.InHand() < limit && b.IntN(2) == 0 {
		return work.Tick{Edits: []harness.Edit{out}, At: []harness.Ref{from}, Stage: "pin"}, true
	}
	to := free[b.IntN(len(free))]
	return work.Tick{Edits: []harness.Edit{out, {Do: harness.Insert, Terminal: t, At: to}}, At: []harness.Ref{from, to},
		Stage: "pin"}, true
}

// A thousand random jobs: steps are ticked, not always the first that could be done; things are done otherwise;
// decisions change; and the plan goes on from what is there. It always ends in the wanted harness, within the limit.
func TestJobsWithDeviationsReachWanted(t *testing.T) {
	ended := 0
	for seed := range uint64(1000) {
		limit := int(seed % 3)
		b := randomBench(t, seed, 1+int(seed%3), 2+int(seed%7))
		var ticks []work.Tick
		for round := 0; ; round++ {
			r, err := pin.Plan(pin.Input{Now: b.now, Wanted: b.wanted, Limit: limit, State: pin.Left(ticks)})
			if err != nil {
				t.Fatalf("job %d: %v", seed, err)
			}
			if len(r.Stuck) > 0 {
				if limit > 0 {
					t.Fatalf("job %d: stuck at %v with %d allowed in hand", seed, r.Stuck, limit)
				}
				limit = 1 // as the plan tells the person to
				continue
			}
			held(t, b.now, b.wanted, limit, r)
			if round > 4 {
				ended++
				break
			}
			for n := b.IntN(8); n > 0 && len(r.Steps) > 0; n-- {
				i := 0
				if b.IntN(3) == 0 {
					i = b.IntN(len(r.Steps))
				}
				after, err := harness.Apply(b.now, r.Steps[i].Edits...)
				if err != nil || after.InHand() > max(limit, b.now.InHand()) {
					continue
				}
				tick := r.Steps[i].Tick()
				tick.Seq = len(ticks)
				b.now, ticks = after, append(ticks, tick)
				r.Steps = slices.Delete(r.Steps, i, i+1)
			}
			switch b.IntN(3) {
			case 0:
				b.decide(t)
			case 1:
				if tick, can := b.otherwise(limit); can {
					tick.Seq = len(ticks)
					b.now, ticks = apply(t, b.now, tick.Edits...), append(ticks, tick)
				}
			}
		}
	}
	if ended != 1000 {
		t.Errorf("%d jobs came to their end", ended)
	}
}

// A plan made after some of its steps are done goes on as the first would have.
func TestContinuesWhereItWas(t *testing.T) {
	for seed := range uint64(300) {
		b := randomBench(t, seed, 1+int(seed%3), 3+int(seed%9))
		whole := prove(t, b.now, b.wanted, 1)
		var ticks []work.Tick
		now := b.now
		for i, s := range whole.Steps {
			rest, err := pin.Plan(pin.Input{Now: now, Wanted: b.wanted, Limit: 1, State: pin.Left(ticks)})
			if err != nil {
				t.Fatal(err)
			}
			if got, want := ids(rest.Steps), ids(whole.Steps[i:]); !slices.Equal(got, want) {
				t.Fatalf("job %d, after %d of %d steps: %v, want %v", seed, i, len(whole.Steps), got, want)
			}
			tick := s.Tick()
			tick.Seq = i
			now, ticks = apply(t, now, s.Edits...), append(ticks, tick)
		}
	}
}

func ids(steps []pin.Step) []string {
	var out []string
	for _, s := range steps {
		out = append(out, s.ID)
	}
	return out
}

// Each connector is opened once where the work is at one or two of them, and it is closed when it is finished.
func TestLocksAreOpenedSeldom(t *testing.T) {
	openings, bound := 0, 0
	for seed := range uint64(300) {
		n := 1 + int(seed%5)
		b := randomBench(t, seed, n, 8)
		r := prove(t, b.now, b.wanted, int(seed/5%2)+1)
		if n <= 2 && r.Openings != r.Bound {
			t.Fatalf("job %d: %d openings of %d connectors", seed, r.Openings, r.Bound)
		}
		openings, bound = openings+r.Openings, bound+r.Bound
		open, last := map[string]bool{}, map[string]int{}
		for i, s := range r.Steps {
			for _, c := range s.Opens {
				open[c] = true
			}
			if s.Kind == pin.Close {
				delete(open, s.Connector)
				last[s.Connector] = i
			}
			for _, at := range []harness.Ref{s.From, s.To} {
				if at.Connector != "" && !open[at.Connector] {
					t.Fatalf("job %d: %q at a connector whose lock is home", seed, s.Text)
				}
			}
			if len(open) > 2 {
				t.Fatalf("job %d: %v are open at once", seed, open)
			}
		}
		if len(open) > 0 {
			t.Fatalf("job %d: %v were never closed", seed, open)
		}
		for i, s := range r.Steps {
			if s.Kind == pin.Close && s.Again == (last[s.Connector] == i) {
				t.Fatalf("job %d: %q is not so", seed, s.Text)
			}
		}
	}
	t.Logf("%d openings, the bound is %d", openings, bound)
	if openings > 2*bound {
		t.Errorf("%d openings where %d are the least: the heuristic is worth nothing", openings, bound)
	}
}

func TestReordering(t *testing.T) {
	now, wanted := permuted(t, 5, []int{1, 2, 3}) // a chain: 3 to 4, 2 to 3, 1 to 2
	wanted = apply(t, wanted, harness.Edit{Do: harness.Plug, At: a(1)})
	in := pin.Input{Now: now, Wanted: wanted, Limit: 1}
	plain, err := pin.Plan(in)
	if err != nil {
		t.Fatal(err)
	}
	s := plain.Steps
	for _, c := range []struct {
		name       string
		step, then int
		why        string
	}{
		{"a move into a full cavity", 2, 0, `"Move the terminal from A1 to A2." cannot be done then: place wire`},
		{"a plug into a full cavity", 3, 1, "cannot be done then"},
		{"closing before the end", 4, 2, "A would be closed before"},
	} {
		in.Wishes = []pin.Wish{{Step: s[c.step].ID, Then: s[c.then].ID}}
		r, err := pin.Plan(in)
		c.why = strings.ReplaceAll(c.why, "place wire", "place w1")
		if err != nil || len(r.Refused) != 1 || !strings.Contains(r.Refused[0].Why, c.why) ||
			!slices.Equal(ids(r.Steps), ids(s)) {
			t.Errorf("%s: refused %v, %v", c.name, r.Refused, err)
		}
	}
	// Two chains that do not touch can be done either way round.
	now, wanted = permuted(t, 8, []int{4, 1, 6})
	in = pin.Input{Now: now, Wanted: wanted, Limit: 1}
	plain, _ = pin.Plan(in)
	in.Wishes = []pin.Wish{{Step: plain.Steps[1].ID, Then: plain.Steps[0].ID}}
	r, err := pin.Plan(in)
	if err != nil || len(r.Refused) > 0 || r.Steps[0].ID != plain.Steps[1].ID {
		t.Errorf("not reordered: %v, %v", r.Refused, ids(r.Steps))
	}
	held(t, now, wanted, 1, r)
	// Pulling both of two cycles first would put two in hand.
	now, wanted = permuted(t, 4, []int{1, 0, 3, 2})
	in = pin.Input{Now: now, Wanted: wanted, Limit: 1}
	plain, _ = pin.Plan(in)
	second := slices.IndexFunc(plain.Steps[1:], func(s pin.Step) bool { return s.Kind == pin.Pull }) + 1
	in.Wishes = []pin.Wish{{Step: plain.Steps[second].ID, Then: plain.Steps[1].ID}}
	if r, _ = pin.Plan(in); len(r.Refused) != 1 || !strings.Contains(r.Refused[0].Why, "2 in hand, and 1 may be") {
		t.Errorf("two in hand: %v", r.Refused)
	}
	in.Limit = 2
	if r, _ = pin.Plan(in); len(r.Refused) > 0 {
		t.Errorf("with two allowed: %v", r.Refused)
	}
}

// What cannot be taken out is cut off; its cavity stays full for good.
func TestFixedTerminalsAreCutOff(t *testing.T) {
	now, _ := permuted(t, 3, []int{2})
	wanted := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(3)},
		{ID: "B", Cavities: harness.Numbered(3)}})
	wanted = apply(t, wanted, harness.Edit{Do: harness.Add, Terminal: "w1", Label: "n"},
		harness.Edit{Do: harness.Insert, Terminal: "w1", At: a(1)},
		harness.Edit{Do: harness.Sever, Terminal: "w1", At: a(1), Label: "n"},
		harness.Edit{Do: harness.Insert, Terminal: "w1", At: a(3)})
	r, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: 1,
		Fixed: func(at harness.Ref) bool { return at == a(1) }})
	if err != nil {
		t.Fatal(err)
	}
	held(t, now, wanted, 1, r)
	if !strings.Contains(r.Steps[0].Text, "Cut the wire behind A1, whose terminal does not come out, join a lead") {
		t.Errorf("%s", r.Steps[0].Text)
	}
}
