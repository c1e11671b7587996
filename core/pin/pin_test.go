package pin_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/work"
)

// layout gives a harness with two housings and the named terminals in the given cavities.
func layout(t testing.TB, ways int, seats map[harness.Ref]string) harness.Harness {
	t.Helper()
	h := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(ways)},
		{ID: "B", Cavities: harness.Numbered(ways)}})
	for _, r := range h.Cavities() {
		if name := seats[r]; name != "" {
			h = apply(t, h, harness.Edit{Do: harness.Add, Terminal: harness.TerminalID(name), Label: name},
				harness.Edit{Do: harness.Insert, Terminal: harness.TerminalID(name), At: r})
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

// prove plans, carries the plan out on the model and holds what a plan promises.
func prove(t testing.TB, now, wanted harness.Harness, limit int) pin.Result {
	t.Helper()
	r, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: limit})
	if err != nil {
		t.Fatal(err)
	}
	held(t, now, wanted, limit, r)
	return r
}

func held(t testing.TB, now, wanted harness.Harness, limit int, r pin.Result) {
	t.Helper()
	end, inHand, err := work.Run(now, steps2work(r.Steps), nil)
	if err != nil {
		t.Fatal(err)
	}
	if d := harness.Differences(end, wanted); len(d) > 0 {
		t.Fatalf("the steps do not lead to the wanted harness: %v", d)
	}
	if inHand > max(limit, now.InHand()) {
		t.Fatalf("%d terminals in hand at once", inHand)
	}
	out := 0
	for _, s := range r.Steps {
		for _, e := range s.Edits {
			if e.Do == harness.Remove || e.Do == harness.Sever {
				out++
			}
		}
	}
	if out != r.Extractions || out != r.Fewest {
		t.Fatalf("%d extractions, said to be %d, the least %d", out, r.Extractions, r.Fewest)
	}
	if r.Openings < r.Bound {
		t.Fatalf("%d openings, fewer than the bound of %d", r.Openings, r.Bound)
	}
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

// fewest is the brute force: the least number of extractions that carry a permutation out, by breadth-first search over
// all arrangements of n terminals in the cavities and in hand. A terminal goes from one cavity into another in one
// go; in between as many may lie in hand as the limit says. A terminal goes only into cavities of its size.
func fewest(start string, size func(cavity, terminal int) bool, limit int) map[string]int {
	type state struct{ seats, hand string }
	dist := map[state]int{{start, ""}: 0}
	level := []state{{start, ""}}
	for d := 0; len(level) > 0; d++ {
		var next []state
		for i := 0; i < len(level); i++ { // putting down costs nothing: the same level
			s := level[i]
			visit := func(to state, cost int) {
				if old, seen := dist[to]; seen && old <= d+cost {
					return
				}
				dist[to] = d + cost
				if cost == 0 {
					level = append(level, to)
				} else {
					next = append(next, to)
				}
			}
			put := func(seats string, at int, b byte) string { return seats[:at] + string(b) + seats[at+1:] }
			for at := range s.seats {
				b := s.seats[at]
				if b == '.' {
					for k := range s.hand {
						if size(at, int(s.hand[k]-'a')) {
							visit(state{put(s.seats, at, s.hand[k]), s.hand[:k] + s.hand[k+1:]}, 0)
						}
					}
					continue
				}
				out := put(s.seats, at, '.')
				for to := range out {
					if out[to] == '.' && size(to, int(b-'a')) {
						visit(state{put(out, to, b), s.hand}, 1)
					}
				}
				if len(s.hand) < limit {
					hand := []byte(s.hand + string(b))
					slices.Sort(hand)
					visit(state{out, string(hand)}, 1)
				}
			}
		}
		level = next
	}
	out := map[string]int{}
	for s, d := range dist {
		if s.hand == "" {
			out[s.seats] = d
		}
	}
	return out
}

// Every permutation of up to five terminals, without and with a free cavity, takes no more extractions than the brute
// force needs, whatever may be in hand. With nothing in hand and nothing free a cycle cannot be done, and that is said.
func TestExtractionsAgainstBruteForce(t *testing.T) {
	any := func(int, int) bool { return true }
	for n := 2; n <= 5; n++ {
		for free := range 2 {
			for limit := range 3 {
				start := "abcde"[:n] + "."[:free]
				dist := fewest(start, any, limit)
				for _, p := range permutations(n) {
					now, wanted := permuted(t, n+free, p)
					goal := []byte(strings.Repeat(".", n+free))
					for i, j := range p {
						goal[j] = start[i]
					}
					least, can := dist[string(goal)]
					r, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: limit})
					if err != nil {
						t.Fatal(err)
					}
					if can != (len(r.Stuck) == 0) {
						t.Fatalf("%v, %d free, %d in hand: can be done %v, said to be stuck at %v", p, free, limit, can, r.Stuck)
					}
					if !can {
						continue
					}
					held(t, now, wanted, limit, r)
					if r.Extractions != least {
						t.Fatalf("%v, %d free, %d in hand: %d extractions, brute force needs %d", p, free, limit, r.Extractions, least)
					}
				}
			}
		}
	}
}

// With two sizes of cavity a terminal waits only where it fits.
func TestTwoSizesAgainstBruteForce(t *testing.T) {
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 3))
		n := 5
		wide := make([]bool, n+1) // by cavity; a terminal is as wide as the cavity that it was found in
		for i := range wide {
			wide[i] = r.IntN(2) == 0
		}
		p := make([]int, n)
		for i := range p {
			p[i] = i
		}
		r.Shuffle(n, func(i, j int) {
			if wide[i] == wide[j] {
				p[i], p[j] = p[j], p[i]
			}
		})
		now, wanted := permuted(t, n+1, p)
		cavity := func(at harness.Ref) bool { i, _ := strconv.Atoi(at.Cavity); return wide[i-1] }
		result, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Fits: func(from, wait harness.Ref) bool {
			return from.Connector == wait.Connector && cavity(from) == cavity(wait)
		}})
		if err != nil {
			t.Fatal(err)
		}
		goal := []byte("......")
		for i, j := range p {
			goal[j] = byte('a' + i)
		}
		least, can := fewest("abcde.", func(at, terminal int) bool { return wide[at] == wide[terminal] }, 0)[string(goal)]
		if can != (len(result.Stuck) == 0) || can && result.Extractions != least {
			t.Fatalf("%v, wide %v: %d extractions, stuck %v; brute force %d %v", p, wide, result.Extractions, result.Stuck,
				least, can)
		}
		if can {
			held(t, now, wanted, 0, result)
		}
	}
}

func TestFullHousingWaitsInHand(t *testing.T) {
	now, wanted := permuted(t, 3, []int{1, 2, 0})
	steps := prove(t, now, wanted, 1).Steps
	if len(steps) != 5 || steps[0].Kind != pin.Pull || steps[3].Kind != pin.Seat || steps[4].Kind != pin.Close {
		t.Errorf("steps %+v", steps)
	}
	for _, s := range steps[:3] {
		if !slices.Equal(s.Hand, []string{"A2"}) {
			t.Errorf("%q: the terminal in hand is not named", s.Text)
		}
	}
	if len(steps[3].Hand) > 0 || !slices.Equal(steps[0].Opens, []string{"A"}) || len(steps[4].Needs) != 4 {
		t.Errorf("in hand %v; opens %v; closing needs %v", steps[3].Hand, steps[0].Opens, steps[4].Needs)
	}
}

func TestChainStartsAtTheEmptyEnd(t *testing.T) {
	now, wanted := permuted(t, 4, []int{1, 2, 3})
	steps := prove(t, now, wanted, 1).Steps
	if len(steps) != 4 || steps[0].From != a(3) || steps[2].From != a(1) ||
		steps[1].Why != "A3 is empty since its wire went to A4." || len(steps[1].Needs) != 1 {
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
		prove(t, now, wanted, 1+r.IntN(2))
	}
}

// A cavity that holds a terminal which its wire was cut off cannot be filled.
func TestContradictionFails(t *testing.T) {
	now := layout(t, 2, map[harness.Ref]string{a(1): "w1", a(2): "w2"})
	wanted := layout(t, 2, map[harness.Ref]string{a(2): "w1"})
	wanted = apply(t, wanted, harness.Edit{Do: harness.Add, Terminal: "w2", Label: "n"},
		harness.Edit{Do: harness.Cap, Terminal: "w2", Label: "n"})
	if r, err := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: 1,
		Fixed: func(at harness.Ref) bool { return at == a(2) }}); err == nil {
		t.Errorf("no error, steps %v", r.Steps)
	}
}

func ExamplePlan() {
	var t testing.T
	now, wanted := permuted(&t, 3, []int{1, 0})
	for limit := range 2 {
		r, _ := pin.Plan(pin.Input{Now: now, Wanted: wanted, Limit: limit})
		for _, s := range r.Steps {
			fmt.Println(s.Text)
		}
	}
	// Output:
	// Pull the terminal out of A1, label it "A2" and let it wait in A3.
	// Move the terminal from A2 to A1.
	// Move the waiting terminal labelled "A2" from A3 to A2.
	// A is finished: push its secondary lock home.
	// Pull the terminal out of A1; label it "A2" and leave it loose.
	// Move the terminal from A2 to A1.
	// Push the waiting terminal labelled "A2" into A2.
	// A is finished: push its secondary lock home.
}
