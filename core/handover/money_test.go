package handover_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/handover"
)

// What is learned is reckoned by hand here: (measured + 60) / (estimated + 60), minutes.
func TestHoursByStageAndPerson(t *testing.T) {
	all := []handover.Effort{
		{ID: "a", Stage: "pin", Minutes: 10, Done: true, Spent: 20, Who: "Ines"},
		{ID: "b", Stage: "pin", Minutes: 10, Done: true, Spent: 300, Who: "Ines"}, // a break: counts as 10
		{ID: "c", Stage: "pin", Minutes: 40},
		{ID: "d", Stage: "thin", Minutes: 30, Done: true, Who: "Tor"},
		{ID: "e", Stage: "thin", Minutes: 60},
		{ID: "f", Stage: "reach", Minutes: 12},
	}
	noted := []handover.Spent{{ID: "1", Stage: "thin", Minutes: 120, Who: "Tor"},
		{ID: "2", Stage: "prove", Minutes: 45, Who: "Ines"}}
	h := handover.Reckon(all, noted)
	want := map[string]handover.StageHours{
		"pin":   {Stage: "pin", Steps: 3, Done: 2, Estimate: 60, Earned: 20, Spent: 30, Learned: 90.0 / 80, Left: 45},
		"thin":  {Stage: "thin", Steps: 2, Done: 1, Estimate: 90, Earned: 30, Spent: 120, Learned: 2, Left: 120},
		"reach": {Stage: "reach", Steps: 1, Estimate: 12, Learned: 1, Left: 12},
		"prove": {Stage: "prove", Spent: 45, Learned: 1},
	}
	for _, s := range h.Stages {
		if s != want[s.Stage] {
			t.Errorf("%s: %+v, by hand %+v", s.Stage, s, want[s.Stage])
		}
	}
	if len(h.Stages) != len(want) || h.Estimate != 162 || h.Spent != 195 || h.Left != 177 {
		t.Errorf(
			"in all %v, %v, %v of %d stages; by hand 162, 195, 177 of 4",
			h.Estimate,
			h.Spent,
			h.Left,
			len(h.Stages),
		)
	}
	if got := fmt.Sprint(h.People); got != "[{Tor 120 1} {Ines 75 2}]" {
		t.Errorf("people: %s", got)
	}
}

// A log of ten hours beside one ticked step is not a rate of a hundred: what is learned stays within thrice.
func TestWhatIsLearnedIsBounded(t *testing.T) {
	h := handover.Reckon([]handover.Effort{{ID: "a", Stage: "pin", Minutes: 1, Done: true}, {ID: "b", Stage: "pin",
		Minutes: 60}}, []handover.Spent{{Stage: "pin", Minutes: 600, Who: "x"}})
	if l := h.Learned("pin"); l != 3 {
		t.Errorf("learned %v, 3 is the most", l)
	}
}

func TestOneOrderList(t *testing.T) {
	wants := []handover.Want{
		{What: "terminal 1.5 mm", Need: 14, Spare: 2, Stage: "pin", For: []string{"A1"}, Steps: []string{"s1"}},
		{What: "terminal 1.5 mm", Need: 3, Stage: "join", For: []string{"A1", "E4"}, Steps: []string{"s2"}},
		{What: "wire 1 mm² GN", Unit: "m", Need: 2.31, Spare: 0.2, Stage: "reach", Steps: []string{"s3"}},
		{What: "pick 1.5 mm", Need: 1, Stage: "pin", There: true},
		{What: "relay 12 V", Need: 2, Stage: "feed", Steps: []string{"s4"}},
		{What: "clip", Need: 5, Used: 5, Stage: "reach"}, // built in, whatever is said
		{What: "clip", Need: 3, Stage: "reach", Steps: []string{"s5"}},
		{What: "crimper", Need: 1, Tool: true, Stage: "pin", Steps: []string{"s1"}},
		{What: "crimper", Need: 1, Tool: true, Stage: "join", Steps: []string{"s2"}},
	}
	said := []handover.Bought{
		{
			Key:      "terminal 1.5 mm",
			There:    10,
			Ordered:  9,
			On:       "2026-11-20",
			Days:     10,
			Price:    0.35,
			Supplier: "the corner shop",
		},
		{Key: "wire 1 mm² GN m", Days: 3, Price: 1.2},
		{Key: "clip", Price: 2, Days: 4},
		{Key: "relay 12 V", Ordered: 2, On: "2026-11-10", Days: 5, Price: 6},
		{Key: "left over from another plan", Ordered: 1, Price: 40},
	}
	ago := map[string]int{"2026-11-20": 7, "2026-11-10": 17}
	lines := handover.Merge(wants, said, func(d string) int { return ago[d] })
	type row struct {
		what               string
		need, spare, order float64
		cost               float64
		wait               int
		late               bool
	}
	var got []row
	for _, l := range lines {
		got = append(got, row{l.What, l.Need, l.Spare, l.Order, l.Cost, l.Wait, l.Late != ""})
	}
	want := []row{ // by hand
		{"clip", 8, 0, 3, 16, 4, false},
		{"crimper", 1, 0, 1, 0, 0, false},
		{"left over from another plan", 0, 0, 0, 40, 0, false},
		{"pick 1.5 mm", 1, 0, 0, 0, 0, false},
		{"relay 12 V", 2, 0, 0, 12, 0, true},          // due twelve days ago
		{"terminal 1.5 mm", 17, 2, 0, 6.65, 3, false}, // 10 from the shelf, 9 ordered,
		{"wire 1 mm² GN", 2.4, 0.2, 2.6, 3.12, 3, false},
	}
	if !slices.Equal(got, want) {
		t.Errorf("got  %v\nwant %v", got, want)
	}
	h := handover.Hours{Spent: 90, Left: 30}
	if c := handover.Costs(lines, &h, &handover.Terms{PerHour: 50, Tax: 20}); c.Parts != 77.77 || c.Work != 100 ||
		c.Tax != 35.55 || c.All != 213.32 || c.Unpriced != 2 {
		t.Errorf("it comes to %+v; by hand 77.77 + 100, tax 35.55, 213.32, pick and crimper without a price", c)
	}
}

// A worked network, by hand: a 3, b 2, c 4 after a, d 3 after a and b, e 2 after c and d. The way a c e is 9 long, d
// may wait 1, b 2.
func TestCriticalPathByHand(t *testing.T) {
	all := []handover.Activity{
		{ID: "a", Minutes: 3},
		{ID: "b", Minutes: 2},
		{ID: "c", Minutes: 4, Needs: []string{"a"}},
		{ID: "d", Minutes: 3, Needs: []string{"a", "b"}},
		{ID: "e", Minutes: 2, Needs: []string{"c", "d"}},
	}
	n := handover.Critical(all)
	if n.Ends != 9 || fmt.Sprint(n.Chain) != "[a c e]" || n.Of["d"].Slack() != 1 || n.Of["b"].Slack() != 2 ||
		n.Of["c"].Slack() != 0 {
		t.Errorf("ends %v by %v; %+v", n.Ends, n.Chain, n.Of)
	}
	all[1].From = 20 // a part of b comes late: now b is what all waits for
	if n = handover.Critical(all); n.Ends != 27 || fmt.Sprint(n.Chain) != "[b d e]" {
		t.Errorf("with a late part: ends %v by %v; by hand 27 by b d e", n.Ends, n.Chain)
	}
	if one := handover.Lay(all, 1); one.Ends != 27 || one.Idle != 13 || one.Begins["b"] != 20 {
		t.Errorf("one pair of hands: %+v; by hand a and c, 13 minutes of waiting, b d e: 27", one)
	}
	all[1].From = 0
	if one, two := handover.Lay(all, 1), handover.Lay(all, 2); one.Ends != 14 || two.Ends != 9 {
		t.Errorf("one pair %v, two pairs %v; by hand 14 and 9", one.Ends, two.Ends)
	}
}

// randomWork makes activities each of which needs some of those before it.
func randomWork(r *rand.Rand, n int) []handover.Activity {
	all := make([]handover.Activity, n)
	for i := range all {
		all[i] = handover.Activity{ID: fmt.Sprint(i), Minutes: float64(r.IntN(9))}
		if r.IntN(6) == 0 {
			all[i].From = float64(r.IntN(30))
		}
		for k := range i {
			if r.IntN(5) == 0 {
				all[i].Needs = append(all[i].Needs, fmt.Sprint(k))
			}
		}
	}
	return all
}

// longest is the second way: every way through, one after the other.
func longest(all []handover.Activity, i int) float64 {
	begin := all[i].From
	for _, need := range all[i].Needs {
		for k := range all {
			if all[k].ID == need {
				begin = max(begin, longest(all, k))
			}
		}
	}
	return begin + all[i].Minutes
}

// Slack is tried out: what waits as long as it may moves nothing, a minute longer moves the end by a minute.
func TestCriticalPathAgainstEveryWay(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 4))
	for range 300 {
		all := randomWork(r, 2+r.IntN(9))
		n := handover.Critical(all)
		ends, sum := 0.0, 0.0
		for i := range all {
			ends = max(ends, longest(all, i))
			sum += all[i].Minutes
		}
		if math.Abs(n.Ends-ends) > 1e-9 {
			t.Fatalf("ends at %v, by every way %v: %+v", n.Ends, ends, all)
		}
		for i := range all {
			c := n.Of[all[i].ID]
			for _, more := range []float64{0, 1} {
				moved := slices.Clone(all)
				moved[i].From = c.Early + c.Slack() + more
				if got := handover.Critical(moved).Ends; math.Abs(got-(ends+more)) > 1e-9 {
					t.Fatalf("%s waits %v and %v more: ends %v, not %v", all[i].ID, c.Slack(), more, got, ends+more)
				}
			}
		}
		// The chain is without a gap, from its first begin to the end.
		begin := 0.0
		for k, id := range n.Chain {
			c := n.Of[id]
			if k > 0 && math.Abs(c.Early-begin) > 1e-9 || c.Slack() > 1e-9 {
				t.Fatalf("the chain %v breaks at %s: %+v", n.Chain, id, c)
			}
			for i := range all {
				if all[i].ID == id {
					begin = c.Early + all[i].Minutes
				}
			}
		}
		if math.Abs(begin-ends) > 1e-9 {
			t.Fatalf("the chain %v ends at %v, not %v", n.Chain, begin, ends)
		}
		proveTimetable(t, all, n, sum, 1+r.IntN(3))
	}
}

// proveTimetable looks at each minute: no more at once than hands, nothing before what it needs or before its part.
func proveTimetable(t *testing.T, all []handover.Activity, n handover.Network, sum float64, hands int) {
	t.Helper()
	table := handover.Lay(all, hands)
	if table.Ends < n.Ends-1e-9 || table.Ends < sum/float64(hands)-1e-9 {
		t.Fatalf("it ends at %v, before it can", table.Ends)
	}
	if len(table.Begins) != len(all) {
		t.Fatalf("%d of %d are begun", len(table.Begins), len(all))
	}
	for i := range all {
		begin, at := table.Begins[all[i].ID], 0
		if begin < all[i].From {
			t.Fatalf("%s begins before its part is there", all[i].ID)
		}
		for k := range all {
			other := table.Begins[all[k].ID]
			if slices.Contains(all[i].Needs, all[k].ID) && other+all[k].Minutes > begin+1e-9 {
				t.Fatalf("%s begins before %s is done", all[i].ID, all[k].ID)
			}
			if other <= begin && begin < other+all[k].Minutes {
				at++
			}
		}
		if at > hands {
			t.Fatalf("%d at once with %d pairs of hands", at, hands)
		}
	}
}

func TestWorkingDays(t *testing.T) {
	w := handover.Week{Today: 3, Days: 5, Hours: 4} // a Thursday
	for minutes, day := range map[float64]int{0: 0, 240: 0, 241: 1, 480: 1, 481: 4, 720: 4} {
		if got := w.Day(minutes); got != day {
			t.Errorf("%v minutes are day %d, not %d", minutes, got, day)
		}
	}
	for day, minutes := range map[int]float64{0: 0, 1: 240, 2: 480, 3: 480, 4: 480, 5: 720} {
		if got := w.Minutes(day); got != minutes {
			t.Errorf("before day %d are worked %v minutes, not %v", day, got, minutes)
		}
	}
}
