package thin_test

import (
	"flag"
	"math/rand/v2"
	"slices"
	"testing"

	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/graph/topo"

	"draxel/core/harness"
	"draxel/core/thin"
	"draxel/core/work"
)

var cases = flag.Int("cases", 2000, "random harnesses to prove")

// carried is the work of a plan in its order, with Pin's extractions before it.
func carried(r *thin.Result) []work.Step {
	var all []work.Step
	for _, e := range r.Extract {
		all = append(all, work.New([]harness.Edit{{Do: harness.Remove, Terminal: e.Terminal, At: e.At, Label: e.Label()},
			{Do: harness.Cap, Terminal: e.Terminal, Label: e.Label()}}))
	}
	return append(all, r.Steps...)
}

// The heart of the stage: the steps, carried out on the model as found, lead to the wanted harness; what is kept is
// joined as it was; and every piece is accounted for.
func TestRandomHarnessesAreThinnedAsDecided(t *testing.T) {
	for seed := range uint64(*cases) {
		r := rand.New(rand.NewPCG(seed, 3))
		l := made(r, 4+r.IntN(60))
		bench := thin.Standard()
		if r.IntN(2) == 0 {
			bench.School = thin.CutSeal
		}
		decisions := decided(r, l)
		result := thin.Compute(thin.Input{Loom: l, Decisions: decisions, Bench: bench})
		found := l.Found()
		end, _, err := work.Run(found, carried(result), nil)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		if d := harness.Differences(end, l.Found().With(result.Changes())); len(d) > 0 {
			t.Fatalf("seed %d: the steps do not lead to the wanted harness: %v", seed, d)
		}
		joinedAsBefore(t, seed, l, decisions, result, end)
		accounted(t, seed, l, result, end)
	}
}

// joinedAsBefore compares, by another's components, what is joined before and after. Nothing of the verdicts is used
// but which ends of wires are kept: those that no decision reaches or that a decision keeps.
func joinedAsBefore(t *testing.T, seed uint64, l *harness.Loom, decisions []thin.Decision, result *thin.Result,
	end harness.Harness) {
	t.Helper()
	gone, alone := map[harness.WireID]bool{}, leftAlone(l)
	for _, d := range decisions { // nobody decides here about what is left to qualified hands
		if d.On == thin.Wire && (result.Refuses(d) != "") != alone[d.ID] {
			t.Fatalf("seed %d: to decide about %s is refused with %q; that it is left alone is %v", seed, d.ID,
				result.Refuses(d), alone[d.ID])
		}
		if d.On == thin.Wire && d.Choice == thin.Goes && !alone[d.ID] {
			gone[harness.WireID(d.ID)] = true
		}
	}
	before, after := components(l, gone, parted(l, result)), componentsOf(l, end)
	var kept []harness.Ref
	for w := range l.Wires {
		wire := &l.Wires[w]
		if gone[wire.ID] {
			continue
		}
		if _, still := end.Tips(wire.ID); !still {
			if result.Wires[w].Choice != thin.Goes {
				t.Fatalf("seed %d: wire %s was not decided away and is gone", seed, wire.ID)
			}
			continue
		}
		for _, e := range wire.Ends {
			if p, ok := end.Place(harness.TerminalAt(e.At)); e.At != (harness.Ref{}) && ok && p.State == harness.Seated &&
				!end.Free(e.At.Connector) {
				kept = append(kept, e.At)
			}
		}
	}
	for i, a := range kept {
		for _, b := range kept[:i] {
			if x, y := before[a] == before[b], after[a] == after[b]; x != y {
				t.Fatalf("seed %d: %s and %s were joined %v and are joined %v", seed, a, b, x, y)
			}
		}
	}
}

// parted says of which in-line halves the contact was decided away: the half goes, and its mate is somebody else's.
func parted(l *harness.Loom, result *thin.Result) func(string) bool {
	locked, off := map[string]bool{}, map[string]bool{}
	for _, c := range l.Connectors {
		locked[c.ID] = c.Locked
	}
	for _, c := range l.Connectors {
		off[c.ID] = c.Mate != "" && locked[c.Mate] && slices.Contains(result.Off, c.ID)
	}
	return func(id string) bool { return off[id] }
}

// graph numbers names as they come.
type graph struct {
	g   *simple.UndirectedGraph
	ids map[string]int64
}

func newGraph() *graph { return &graph{simple.NewUndirectedGraph(), map[string]int64{}} }

func (g *graph) node(name string) int64 {
	id, ok := g.ids[name]
	if !ok {
		id = int64(len(g.ids))
		g.ids[name] = id
		g.g.AddNode(simple.Node(id))
	}
	return id
}

func (g *graph) edge(a, b string) {
	if x, y := g.node(a), g.node(b); x != y {
		g.g.SetEdge(simple.Edge{F: simple.Node(x), T: simple.Node(y)})
	}
}

func (g *graph) components() map[string]int {
	number := map[int64]int{}
	for i, c := range topo.ConnectedComponents(g.g) {
		for _, n := range c {
			number[n.ID()] = i
		}
	}
	out := map[string]int{}
	for name, id := range g.ids {
		out[name] = number[id]
	}
	return out
}

func byRef(l *harness.Loom, c map[string]int) map[harness.Ref]int {
	out := map[harness.Ref]int{}
	for _, w := range l.Wires {
		for _, e := range w.Ends {
			if n, ok := c[string(harness.TerminalAt(e.At))]; ok {
				out[e.At] = n
			}
		}
	}
	return out
}

// inside joins what is joined inside connectors that are on.
func inside(g *graph, l *harness.Loom, off func(string) bool) {
	at := func(c, cavity string) string {
		return string(harness.TerminalAt(harness.Ref{Connector: c, Cavity: cavity}))
	}
	for _, c := range l.Connectors {
		if off(c.ID) {
			continue
		}
		for _, group := range c.Links {
			for _, cavity := range group[1:] {
				g.edge(at(c.ID, group[0]), at(c.ID, cavity))
			}
		}
		if c.Mate != "" && !off(c.Mate) {
			for i := range 9 {
				cavity := string(rune('1' + i))
				g.edge(at(c.ID, cavity), at(c.Mate, cavity))
			}
		}
	}
}

func components(l *harness.Loom, gone map[harness.WireID]bool, parted func(string) bool) map[harness.Ref]int {
	g := newGraph()
	for i, w := range l.Wires {
		name := func(e harness.End) string {
			switch {
			case e.At != (harness.Ref{}):
				return string(harness.TerminalAt(e.At))
			case e.Splice != "":
				return "splice " + string(e.Splice)
			}
			return "end " + string(rune(i))
		}
		if a, b := name(w.Ends[0]), name(w.Ends[1]); !gone[w.ID] {
			g.edge(a, b)
		} else {
			g.node(a)
			g.node(b)
		}
	}
	inside(g, l, parted)
	return byRef(l, g.components())
}

func componentsOf(l *harness.Loom, h harness.Harness) map[harness.Ref]int {
	g := newGraph()
	for _, w := range h.Wires() {
		tips, _ := h.Tips(w)
		var names [2]string
		for i, t := range tips {
			switch t.State {
			case harness.Crimped:
				names[i] = string(t.Terminal)
			case harness.Joined:
				names[i] = "joint " + string(t.Joint)
			default:
				names[i] = "end of " + string(w) + string(rune('0'+i))
			}
		}
		g.edge(names[0], names[1])
	}
	inside(g, l, h.Free)
	return byRef(l, g.components())
}

// accounted: every wire is in the harness or out; nothing that stays has an open end; no terminal is in hand.
func accounted(t *testing.T, seed uint64, l *harness.Loom, result *thin.Result, end harness.Harness) {
	t.Helper()
	for w := range l.Wires {
		id := l.Wires[w].ID
		_, in := end.Tips(id)
		if in == end.Out(id) || in == (result.Wires[w].Choice == thin.Goes) {
			t.Fatalf("seed %d: wire %s: in the harness %v, out %v, verdict %q", seed, id, in, end.Out(id),
				result.Wires[w].Choice)
		}
	}
	for _, w := range end.Wires() {
		tips, _ := end.Tips(w)
		for _, tip := range tips {
			if tip.State == harness.Bare {
				t.Fatalf("seed %d: %s has an open end", seed, w)
			}
		}
	}
	if end.InHand() > 0 {
		t.Fatalf("seed %d: %d terminals are in hand", seed, end.InHand())
	}
}
