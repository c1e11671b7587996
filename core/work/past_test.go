package work_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

func ticked(s work.Step, when int64) work.Tick {
	return work.Tick{Step: s.ID, Edits: s.Edits, When: when}
}

// Ticks are carried out in the order in which they were made, however they are kept; one that cannot be done is lost
// with its reason, whole, and those after it stand.
func TestReplay(t *testing.T) {
	found := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(3)}})
	first, onto, out, third := add("w1", "1"), add("w2", "1"), pull("w1", "1"), add("w3", "3")
	p := work.Replay(found, []work.Tick{ticked(third, 4), ticked(out, 3), ticked(onto, 2), ticked(first, 1)})
	if len(p.Lost) != 1 || p.Lost[0].Step != onto.ID || p.Lost[0].Reason == "" || !p.IsLost(onto.ID) ||
		p.IsLost(first.ID) {
		t.Errorf("lost %+v: w2 went where w1 was", p.Lost)
	}
	if _, there := p.Now.Place("w2"); there {
		t.Error("half of what could not be done was done: w2 is in hand")
	}
	if at, full := p.Now.In(ref("3")); !full || at != "w3" {
		t.Error("what came after the lost tick does not stand")
	}
	if _, full := p.Now.In(ref("1")); full {
		t.Error("w1 was pulled, and is there")
	}
	if _, full := found.In(ref("3")); full {
		t.Error("the harness as found was changed")
	}
	if !slices.IsSortedFunc(p.Ticks, func(a, b work.Tick) int { return int(a.When - b.When) }) || len(p.Done) != 4 {
		t.Errorf("%d done, in the order %+v", len(p.Done), p.Ticks)
	}
}

// Where something stands in the way, that step is held and what needs it; the rest can be done.
func TestRemaining(t *testing.T) {
	found := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(3)}})
	done, blocked, free := add("w1", "1"), add("w2", "1"), add("w3", "3")
	after := work.New(add("w4", "2").Edits, blocked.ID)
	past := work.Replay(found, []work.Tick{ticked(done, 1)})
	steps := []work.Step{done, blocked, after, free}
	left := work.Remaining(past, steps, true)
	if len(left.Steps) != 1 || left.Steps[0].ID != free.ID || len(left.Held) != 2 ||
		left.Held[after.ID] == left.Held[blocked.ID] {
		t.Errorf("left %+v, held %v", left.Steps, left.Held)
	}
	if all := work.Remaining(past, steps, false); len(all.Steps) != 3 || len(all.Held) != 0 {
		t.Errorf("nothing is tried, and held is %v", all.Held)
	}
	needing := work.New(free.Edits, done.ID)
	if left := work.Remaining(past, []work.Step{done, needing}, true); len(left.Steps) != 1 ||
		len(left.Steps[0].Needs) != 0 {
		t.Errorf("it needs what is done: %+v", left.Steps)
	}
}

// Whatever order ticks are kept in, the same harness comes of them.
func TestReplayDoesNotRestOnHowTicksAreKept(t *testing.T) {
	found := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(6)}})
	r := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		var ticks []work.Tick
		for n := range 12 {
			name, at := string(rune('a'+r.IntN(4))), string(rune('1'+r.IntN(6)))
			s := add(name, at)
			if r.IntN(3) == 0 {
				s = pull(name, at)
			}
			x := ticked(s, int64(n/2)) // two at a time: their place among those ticked at once decides
			x.Seq = n % 2
			ticks = append(ticks, x)
		}
		want := work.Replay(found, ticks)
		r.Shuffle(len(ticks), func(i, k int) { ticks[i], ticks[k] = ticks[k], ticks[i] })
		got := work.Replay(found, ticks)
		if d := harness.Differences(got.Now, want.Now); len(d) > 0 || len(got.Lost) != len(want.Lost) {
			t.Fatalf("%v; %d lost, %d before", d, len(got.Lost), len(want.Lost))
		}
	}
}
