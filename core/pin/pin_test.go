package pin_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/work"
)

// layout gives a harness with two housings and the named terminals in the given cavities.
func layout(t testing.TB, ways int, seats map[harness.Ref]string) harness.Harness {
	t.Helper()
	h := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(ways)}, {ID: "B", Cavities: harness.Numbered(ways)}})
	for _, r := range h.Cavities() {
		if name := seats[r]; name != "" {
			h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: harness.TerminalID(name), Label: name}, harness.Edit{Do: harness.Insert, Terminal: harness.TerminalID(name), At: r})
		}
	}
	return h
}

func apply(t testing.TB, h harness.Harness, edits ...harness.Edit) harness.Harness {
	t.Helper()
	h, err := harness.Apply(h, edits...)
	if err != nil {
		t.Fatal(err)
	}
	return h
}

func a(n int) harness.Ref { return harness.Ref{Connector: "A", Cavity: fmt.Sprint(n)} }

// permuted gives now and wanted for a permutation of the first cavities of A: what is in i goes to to[i].
func permuted(t testing.TB, ways int, to []int) (now, wanted harness.Harness) {
	from, goal := map[harness.Ref]string{}, map[harness.Ref]string{}
	for i, j := range to {
		name := fmt.Sprintf("w%d", i+1)
		from[a(i+1)], goal[a(j+1)] = name, name
	}
	return layout(t, ways, from), layout(t, ways, goal)
}

func prove(t testing.TB, now, wanted harness.Harness) []pin.Step {
	t.Helper()
	steps, err := pin.Plan(now, wanted)
	if err != nil {
		t.Fatal(err)
	}
	end, inHand, err := work.Run(now, steps2work(steps))
	if err != nil {
		t.Fatal(err)
	}
	if d := harness.Differences(end, wanted); len(d) > 0 {
		t.Fatalf("the steps do not lead to the wanted harness: %v", d)
	}
	if inHand > 1 {
		t.Fatalf("%d terminals in hand at once", inHand)
	}
	return steps
}

func steps2work(steps []pin.Step) []work.Step {
	out := make([]work.Step, len(steps))
	for i, s := range steps {
		out[i] = s.Step
	}
	return out
}

func permutations(n int) [][]int {
	if n == 0 {
		return [][]int{{}}
	}
	var out [][]int
	for _, p := range permutations(n - 1) {
		for i := 0; i <= len(p); i++ {
			q := append([]int{}, p[:i]...)
			out = append(out, append(append(q, n-1), p[i:]...))
		}
	}
	return out
}

// fewest is the brute force: the least number of single moves into the empty cavity that carry out the permutation, by
// breadth-first search over all arrangements of n terminals in n+1 cavities.
func fewest(n int) map[string]int {
	start := make([]byte, n+1)
	for i := range n {
		start[i] = byte('a' + i)
	}
	start[n] = '.'
	dist := map[string]int{string(start): 0}
	for queue := []string{string(start)}; len(queue) > 0; queue = queue[1:] {
		s := queue[0]
		hole := strings.IndexByte(s, '.')
		for i := range s {
			if i == hole {
				continue
			}
			b := []byte(s)
			b[hole], b[i] = b[i], '.'
			if _, seen := dist[string(b)]; !seen {
				dist[string(b)] = dist[s] + 1
				queue = append(queue, string(b))
			}
		}
	}
	return dist
}

// Every permutation of up to six terminals with one free cavity takes no more moves than the brute force needs.
func TestCyclesAgainstBruteForce(t *testing.T) {
	for n := 2; n <= 6; n++ {
		dist := fewest(n)
		for _, p := range permutations(n) {
			now, wanted := permuted(t, n+1, p)
			steps := prove(t, now, wanted)
			goal := make([]byte, n+1)
			goal[n] = '.'
			for i, j := range p {
				goal[j] = byte('a' + i)
			}
			if len(steps) != dist[string(goal)] {
				t.Fatalf("permutation %v: %d steps, brute force needs %d", p, len(steps), dist[string(goal)])
			}
		}
	}
}

func TestFullHousingWaitsInHand(t *testing.T) {
	now, wanted := permuted(t, 3, []int{1, 2, 0})
	steps := prove(t, now, wanted)
	if len(steps) != 4 || steps[0].Kind != pin.Pull || steps[0].Hand != "A2" || steps[3].Kind != pin.Seat {
		t.Errorf("steps %+v", steps)
	}
	for _, s := range steps[:3] {
		if s.Hand != "A2" {
			t.Errorf("%q: the terminal in hand is not named", s.Text)
		}
	}
}

func TestChainStartsAtTheEmptyEnd(t *testing.T) {
	now, wanted := permuted(t, 4, []int{1, 2, 3})
	steps := prove(t, now, wanted)
	if len(steps) != 3 || steps[0].From != a(3) || steps[2].From != a(1) || steps[1].Why == "" || len(steps[1].Needs) != 1 {
		t.Errorf("steps %+v", steps)
	}
}

// Random harnesses of two housings: some terminals move, some go, some are parked, some are new, some cavities plugged.
func TestRandomHarnessesReachWanted(t *testing.T) {
	for seed := range uint64(3000) {
		r := rand.New(rand.NewPCG(seed, 7))
		ways := 2 + r.IntN(12)
		now := layout(t, ways, map[harness.Ref]string{})
		all := now.Cavities()
		wanted := now
		home := r.Perm(len(all))
		goal := r.Perm(len(all))
		for i := range all {
			name := harness.TerminalID(fmt.Sprintf("w%d", i))
			add := []harness.Edit{{Do: harness.Add, Terminal: name, Label: "n"}}
			seat := func(at int) harness.Edit { return harness.Edit{Do: harness.Insert, Terminal: name, At: all[at]} }
			switch fate := r.IntN(6); fate {
			case 0: // an empty pair of cavities
			case 1, 2: // goes or is parked
				now = apply(t, now, append(add, seat(home[i]))...)
				do := []harness.Do{harness.Cap, harness.Park}[fate-1]
				wanted = apply(t, wanted, append(add, harness.Edit{Do: do, Terminal: name, Label: "x"})...)
			case 3: // new
				wanted = apply(t, wanted, append(add, seat(goal[i]))...)
			default:
				now = apply(t, now, append(add, seat(home[i]))...)
				wanted = apply(t, wanted, append(add, seat(goal[i]))...)
			}
		}
		for _, c := range all {
			_, was := now.In(c)
			if _, is := wanted.In(c); was && !is {
				wanted = apply(t, wanted, harness.Edit{Do: harness.Plug, At: c})
			}
		}
		prove(t, now, wanted)
	}
}

func TestContradictionFails(t *testing.T) {
	now := layout(t, 2, map[harness.Ref]string{a(1): "w1", a(2): "w2"})
	wanted := layout(t, 2, map[harness.Ref]string{a(2): "w1"}) // says nothing of w2, which sits there
	if steps, err := pin.Plan(now, wanted); err == nil {
		t.Errorf("no error, steps %v", steps)
	}
}

func ExamplePlan() {
	var t testing.T
	now, wanted := permuted(&t, 3, []int{1, 0})
	steps, _ := pin.Plan(now, wanted)
	for _, s := range steps {
		fmt.Println(s.Text)
	}
	// Output:
	// Pull the terminal out of A1, label it "A2" and let it wait in A3.
	// Move the terminal from A2 to A1.
	// Move the waiting terminal labelled "A2" from A3 to A2.
}
