package plan_test

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

// The small job of each kind in testdata has work to do, proven, whose accepted matches are one circuit by the test's
// own count. What the work consists of is worked out by hand: which stage lets go, moves or joins, by common practice
// of the trade.
func TestAJobOfEachKind(t *testing.T) {
	for _, c := range []struct {
		kind stored.Kind
		want string // kinds of step by stage, in the order of the list, those of checking left out
		ways string // how each pair comes together: a ground is tapped, for others need it too
	}{
		{stored.Repinned, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{stored.Grown, "pin pull ×1, pin move ×2, pin seat ×1, reach " +
			"cut ×1, join land ×1, pin new ×1", "move ×3"},
		{stored.Exchange, "pin move ×3", "move ×3"},
		{stored.Sensor, "pin move ×3", "move ×3"},
		{stored.Integrated, "join measure ×3, join cut ×5, join join ×3", "take-over ×2, tap ×1"},
		{stored.Standalone, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{stored.Transplant, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{stored.Electric, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{stored.Classic, "join cut ×5, join measure ×3, join join ×3", "take-over ×2, tap ×1"},
		{stored.Adapter, "reach cut ×3, pin new ×6", "new-wire ×3"},
		{stored.Bought, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{stored.Bulkhead, "pin pull ×1, pin move ×2, pin seat ×1", "move ×3"},
		{stored.ThinningOnly, "thin take-off ×1, thin seal ×1, thin out ×1", ""},
	} {
		t.Run(string(c.kind), func(t *testing.T) {
			data, err := os.ReadFile("testdata/kinds/" + string(c.kind) + ".json")
			if err != nil {
				t.Fatal(err)
			}
			var j stored.Job
			if err := json.Unmarshal(data, &j); err != nil || j.Kind != c.kind {
				t.Fatalf("%s is not a job of that kind: %v", c.kind, err)
			}
			f, err := fact.Of(j)
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
	j := stored.Job{Title: "joined", Kind: stored.Integrated,
		From:    table("ours", []string{"A", "1", "Coolant temperature gauge"}, []string{"A", "2", "Power ground"}),
		To:      table("theirs", []string{"P", "1", "Coolant temperature gauge"}, []string{"P", "2", "Power ground"}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "P1"), matched("A2", "P2")}},
		OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
			gather.WireList: sheet("Wire|From|Cavity|To|Cavity|Function", "v1|A|1|G|1|Coolant temperature gauge",
				"v2|A|2|E|1|Power ground", "o1|P|1|U|7|Coolant temperature gauge", "o2|P|2|U|8|Power ground"),
			gather.ConnectorList: sheet("Connector|Device", "A|old unit", "G|gauge", "E|earth", "U|unit"),
			gather.DeviceList: sheet("Device|Kind|System", "old unit|unit|engine", "gauge||instruments",
				"earth|ground|power", "unit|unit|engine"),
		}}}
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
