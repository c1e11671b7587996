package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/thin"
	"draxel/core/work"
)

// A small job of each kind has work to do, proven, whose accepted matches are one circuit by the test's own count.
// What the work consists of is worked out by hand: which stage lets go, moves or joins, by common practice of the
// trade.
func TestAJobOfEachKind(t *testing.T) {
	ours := [][]string{{"A", "1", "Injector 1"}, {"A", "2", "Coolant temperature sensor"}, {"A", "3", "Power ground"}}
	other := [][]string{{"P", "2", "Injector 1"}, {"P", "3", "Coolant temperature sensor"}, {"P", "1", "Power ground"}}
	alike := [][]string{{"A", "2", "Injector 1"}, {"A", "3", "Coolant temperature sensor"}, {"A", "1", "Power ground"}}
	at := func(lines [][]string) (cells [][]string) { return append(cells, lines...) }
	for _, c := range []struct {
		kind plan.Kind
		to   [][]string
		want string // kinds of step by stage, in the order of the list, those of checking left out
		ways string // how each pair comes together: a ground is tapped, for others need it too
	}{
		{plan.Repinned, alike, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{plan.Grown, append(at(alike), []string{"A", "4", "Injector 2"}), "pin pull ×1, pin move ×2, pin seat ×1, reach " +
			"cut ×1, join land ×1, pin new ×1", "move ×3"},
		{plan.Exchange, other, "pin move ×3", "move ×3"},
		{plan.Sensor, other, "pin move ×3", "move ×3"},
		{plan.Integrated, other, "join measure ×3, join cut ×5, join join ×3", "take-over ×2, tap ×1"},
		{plan.Standalone, other, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{plan.Transplant, other, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{plan.Electric, other, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{plan.Classic, other, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{plan.Adapter, other, "reach cut ×3, pin new ×6", "new-wire ×3"},
		{plan.Bought, alike, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{plan.Bulkhead, alike, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{plan.ThinningOnly, nil, "thin take-off ×1, thin seal ×1, thin out ×1", ""},
	} {
		t.Run(string(c.kind), func(t *testing.T) {
			j := plan.Job{Title: "small", Kind: c.kind, From: table("ours", ours...)}
			if c.to != nil {
				j.To = table("theirs", c.to...)
			}
			for i, line := range ours {
				if c.to != nil {
					j.Decisions = append(j.Decisions, match.Decision{Side: match.From, At: ref(line[0] + line[1]),
						Choice: match.Matched, To: ref(c.to[i][0] + c.to[i][1])})
				}
			}
			if c.kind == plan.Grown {
				j.Decisions = append(j.Decisions, match.Decision{Side: match.To, At: ref("A4"), Choice: match.Wired,
					Origin: &match.Origin{Kind: match.AtFuse, Name: "injectors, 10 A"}})
			}
			if c.kind == plan.ThinningOnly {
				j.Sheets = map[gather.SheetKind]*gather.Sheet{
					gather.WireList: sheet("Wire|From|Cavity|To|Cavity|Function", "w1|A|1|V|1|Injector 1",
						"w2|A|2|X|1|Coolant temperature sensor"),
					gather.ConnectorList: sheet("Connector|Device", "A|unit", "V|valve", "X|sensor"),
					gather.DeviceList:    sheet("Device|Kind|System", "unit|unit|engine", "valve||emissions", "sensor||engine"),
				}
				j.Thin = []thin.Decision{{On: thin.Module, ID: "valve", Choice: thin.Goes, Reason: "not used"}}
			}
			f, err := j.Facts()
			if err != nil {
				t.Fatal(err)
			}
			p := plan.Compute(f, j.Chosen())
			if wrong(p) || !p.Proof.Reached || p.Proof.Partial || len(p.Work.Steps) == 0 {
				t.Fatalf("%s; %d steps, %+v", p.Proof.Line(), len(p.Work.Steps), p.Proof)
			}
			var steps []string
			for i := range p.Work.Steps {
				if s := &p.Work.Steps[i]; len(s.Edits) > 0 || s.Kind == "measure" {
					steps = append(steps, string(s.Stage)+" "+string(s.Kind))
				}
			}
			var ways []string
			for _, w := range p.Ways {
				ways = append(ways, string(w.Way))
			}
			if got := counted(steps); got != c.want {
				t.Errorf("steps %s\nwant  %s", got, c.want)
			}
			if got := counted(ways); got != c.ways {
				t.Errorf("ways %s, want %s", got, c.ways)
			}
			if n := oneCircuit(t, 0, &j, f, &p); n < len(p.Ways) {
				t.Errorf("only %d of %d matches can be looked at", n, len(p.Ways))
			}
			// Everything is ticked, and nothing is left.
			for range 3 * len(p.Work.Steps) {
				i := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { _, done := p.Done(s.ID); return !done })
				if i < 0 {
					break
				}
				tickWith(t, &j, &p, p.Work.Steps[i].ID)
				p = plan.Compute(f, j.Chosen())
			}
			if wrong(p) || p.Proof.Steps != 0 || !strings.HasPrefix(p.Proof.Line(), "Nothing is left to do") {
				t.Errorf("when all is done: %s", p.Proof.Line())
			}
		})
	}
}

// counted gives words in the order in which they first come, each with how often.
func counted(words []string) string {
	var order, out []string
	n := map[string]int{}
	for _, w := range words {
		if n[w]++; n[w] == 1 {
			order = append(order, w)
		}
	}
	for _, w := range order {
		out = append(out, fmt.Sprintf("%s ×%d", w, n[w]))
	}
	return strings.Join(out, ", ")
}

// The second check of a joined job asks for the circuits that the joints make: from a cavity that is left, which
// others a meter must find. What is where is looked up by hand.
func TestTheSecondCheckAsksForJoinedCircuits(t *testing.T) {
	j := plan.Job{Title: "joined", Kind: plan.Integrated,
		From:      table("ours", []string{"A", "1", "Coolant temperature gauge"}, []string{"A", "2", "Power ground"}),
		To:        table("theirs", []string{"P", "1", "Coolant temperature gauge"}, []string{"P", "2", "Power ground"}),
		Decisions: []match.Decision{matched("A1", "P1"), matched("A2", "P2")},
		Sheets: map[gather.SheetKind]*gather.Sheet{
			gather.WireList: sheet("Wire|From|Cavity|To|Cavity|Function", "v1|A|1|G|1|Coolant temperature gauge",
				"v2|A|2|E|1|Power ground", "o1|P|1|U|7|Coolant temperature gauge", "o2|P|2|U|8|Power ground"),
			gather.ConnectorList: sheet("Connector|Device", "A|old unit", "G|gauge", "E|earth", "U|unit"),
			gather.DeviceList: sheet("Device|Kind|System", "old unit|unit|engine", "gauge||instruments",
				"earth|ground|power", "unit|unit|engine"),
		}}
	p := computeJob(t, j)
	if wrong(p) || len(p.Join.Joints) != 2 {
		t.Fatalf("%s, joints %+v", p.Proof.Line(), p.Join.Joints)
	}
	var got []string
	for _, e := range p.Pin.Expected {
		if len(e.Joined) > 0 {
			got = append(got, fmt.Sprint(e.At, " with ", e.Joined, " power ", e.Power))
		}
	}
	for _, want := range []string{"U7", "G1", "U8", "E1"} {
		if !strings.Contains(strings.Join(got, "; "), want) {
			t.Errorf("%s is not asked for: %v", want, got)
		}
	}
	if len(got) != 2 || !strings.HasSuffix(got[0], "power true") {
		t.Errorf("asked for %v: the ground comes first", got)
	}
}
