package circuit_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/circuit"
	"draxel/core/harness"
)

// bench is a small loom: a splice of three, an in-line pair, a terminal with two wires, a junction linked inside.
func bench() *harness.Loom {
	at := func(c, cavity string) harness.End { return harness.End{At: harness.Ref{Connector: c, Cavity: cavity}} }
	half := func(id, mate string, links ...[]string) harness.Half {
		return harness.Half{Connector: harness.Connector{ID: id}, Mate: mate, Links: links}
	}
	return &harness.Loom{
		Connectors: []harness.Half{half("A", ""), half("K", "KB"), half("KB", "K"), half("J", "", []string{"1", "2"}),
			half("L", "")},
		Wires: []harness.Wire{
			{ID: "w1", Ends: [2]harness.End{at("A", "1"), {Splice: "S"}}},
			{ID: "w2", Ends: [2]harness.End{{Splice: "S"}, at("K", "1")}},
			{ID: "w3", Ends: [2]harness.End{{Splice: "S"}, {Taped: true}}},
			{ID: "w4", Ends: [2]harness.End{at("KB", "1"), at("L", "1")}},
			{ID: "w5", Ends: [2]harness.End{at("A", "2"), at("J", "1")}},
			{ID: "w6", Ends: [2]harness.End{at("J", "2"), at("L", "2")}},
			{ID: "w7", Ends: [2]harness.End{at("J", "3"), at("L", "2")}},
			{ID: "w8", Ends: [2]harness.End{at("A", "3"), at("K", "2")}},
		},
	}
}

func names(wires []harness.WireID) string {
	slices.Sort(wires)
	return strings.Join(harness.Names(wires), " ")
}

func TestWhatIsJoinedToWhat(t *testing.T) {
	l := bench()
	h := l.Found()
	n := circuit.Of(h, l.Connectors)
	for wire, want := range map[harness.WireID]string{"w1": "w1 w2 w3 w4", "w4": "w1 w2 w3 w4", "w5": "w5 w6 w7",
		"w7": "w5 w6 w7", "w8": "w8"} {
		if got := names(n.Wire(h, wire)); got != want {
			t.Errorf("%s: %s, want %s", wire, got, want)
		}
	}
	if got := names(n.Cavity(h, harness.Ref{Connector: "KB", Cavity: "2"})); got != "w8" {
		t.Errorf("across an in-line pair: %q", got)
	}
	if got := n.Cavity(h, harness.Ref{Connector: "A", Cavity: "9"}); len(got) != 0 {
		t.Errorf("an empty cavity: %v", got)
	}
	if got := names(n.Walk(h, harness.TipID{Wire: "w2", End: 0})); got != "w2 w4" {
		t.Errorf("what hangs on w2 beyond its splice: %q", got)
	}
}

// A net that follows a harness through edits says the same as one that is made of it anew.
func TestANetFollows(t *testing.T) {
	l := bench()
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 3))
		h := l.Found()
		n := circuit.Of(h, l.Connectors)
		did := 0
		for range 30 {
			wires := h.Wires()
			w, end := wires[r.IntN(len(wires))], r.IntN(2)
			e := []harness.Edit{
				{Do: harness.Cut, Wire: w, End: end},
				{Do: harness.Seal, Wire: w, End: end},
				{Do: harness.Heal, Wire: w, End: end},
				{Do: harness.FallOut, Wire: w},
				{Do: harness.Lay, Wire: harness.WireID(fmt.Sprint("n", r.IntN(4))), Tips: []harness.Tip{{State: harness.Bare},
					{State: harness.Bare}}},
				{Do: harness.Open, Joint: "S"},
				{Do: harness.Join, Joint: harness.JointID(fmt.Sprint("T", r.IntN(2))),
					Lengths: []harness.TipID{{Wire: w, End: end},
						{Wire: wires[r.IntN(len(wires))], End: r.IntN(2)}}},
			}[r.IntN(7)]
			next, err := harness.Apply(h, e)
			if err != nil {
				continue
			}
			did++
			h = next
			n.Follow(h, []harness.Edit{e})
			anew := circuit.Of(h, l.Connectors)
			for _, x := range h.Wires() {
				if got, want := names(n.Wire(h, x)), names(anew.Wire(h, x)); got != want {
					t.Fatalf("job %d after %+v: %s is with %s, anew with %s", seed, e, x, got, want)
				}
			}
		}
		if did == 0 && seed == 0 {
			t.Error("nothing could be done")
		}
	}
}
