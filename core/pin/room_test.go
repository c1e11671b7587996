package pin_test

import (
	"testing"

	"draxel/core/harness"
	"draxel/core/pin"
)

// possible searches all orders in which terminals can go home, come out, or wait in a free cavity of their own
// connector, with nothing in hand between two steps. What stays where it is stays; plugs go in at the end.
func possible(now, wanted harness.Harness) bool {
	cavities := now.Cavities()
	number := map[harness.Ref]int{}
	for i, at := range cavities {
		number[at] = i
	}
	home := map[byte]int{} // where each terminal ends, −1 outside
	seats := make([]byte, len(cavities))
	var outside []byte
	id := byte('a')
	for among, all := range [][]harness.TerminalID{now.Terminals(), wanted.Terminals()} {
		for _, t := range all {
			was, known := now.Place(t)
			goal, wants := wanted.Place(t)
			if known && among == 1 {
				continue
			}
			home[id] = -1
			if wants && goal.State == harness.Seated {
				home[id] = number[goal.At]
			}
			if was.State == harness.Seated {
				seats[number[was.At]] = id
			} else if home[id] >= 0 {
				outside = append(outside, id)
			}
			id++
		}
	}
	start := string(seats) + string(outside)
	seen := map[string]bool{start: true}
	queue := []string{start}
	for len(queue) > 0 {
		s := []byte(queue[0])
		queue = queue[1:]
		done := len(s) == len(cavities)
		visit := func(next []byte) {
			if k := string(next); !seen[k] {
				seen[k] = true
				queue = append(queue, k)
			}
		}
		with := func(change func(n []byte)) []byte {
			n := append([]byte(nil), s...)
			change(n)
			return n
		}
		for i, b := range s[len(cavities):] {
			if to := home[b]; s[to] == 0 {
				n := with(func(n []byte) { n[to] = b })
				visit(append(n[:len(cavities)+i], n[len(cavities)+i+1:]...))
			}
		}
		for at, b := range s[:len(cavities)] {
			if b == 0 || home[b] == at {
				continue
			}
			done = false
			if to := home[b]; to < 0 {
				visit(with(func(n []byte) { n[at] = 0 }))
			} else if s[to] == 0 {
				visit(with(func(n []byte) { n[at], n[to] = 0, b }))
			}
			for to := range cavities {
				if s[to] == 0 && cavities[to].Connector == cavities[at].Connector {
					visit(with(func(n []byte) { n[at], n[to] = 0, b }))
				}
			}
		}
		if done {
			return true
		}
	}
	return false
}

// With nothing allowed in hand a job is called impossible exactly where no order of using the free cavities does it.
func TestFreeCavitiesAreUsedInWhateverOrderItTakes(t *testing.T) {
	stuck, cycles := 0, 0
	for seed := range uint64(1500) {
		b := randomBench(t, seed, 2, 3+int(seed%2))
		r, err := pin.Plan(pin.Input{Now: b.now, Wanted: b.wanted})
		if err != nil {
			t.Fatal(err)
		}
		can := possible(b.now, b.wanted)
		if can != (len(r.Stuck) == 0) {
			t.Fatalf("job %d: it can be done: %v; said to be stuck at %v", seed, can, r.Stuck)
		}
		for _, s := range r.Steps {
			if s.Kind == pin.Pull {
				cycles++
			}
		}
		if !can {
			stuck++
		}
	}
	if stuck < 20 || cycles < 100 {
		t.Errorf("%d stuck, %d cycles begun: this tests little", stuck, cycles)
	}
}
