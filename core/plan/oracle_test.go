package plan_test

import (
	"fmt"
	"slices"

	"draxel/core/harness"
)

// bench is a second way of saying what edits do, which shares nothing with the product: labels on the two tips of each
// length of wire, places of terminals, and a union–find over them. It refuses nothing; it only says what is joined in
// the end.
type bench struct {
	tips  map[string][2]string // a label says what a tip is at: "t…" a terminal, "j…" a joint, "o…" open
	at    map[string]string    // terminals by name: the cavity that they are in
	mates map[string]string
	fresh int
}

func newBench(l *harness.Loom) *bench {
	b := &bench{tips: map[string][2]string{}, at: map[string]string{}, mates: map[string]string{}}
	for _, c := range l.Connectors {
		if c.Mate != "" {
			b.mates[c.ID] = c.Mate
		}
	}
	for _, w := range l.Wires {
		var tips [2]string
		for k, e := range w.Ends {
			switch {
			case e.At.Cavity != "":
				t := "wire " + e.At.String()
				tips[k], b.at[t] = "t"+t, e.At.Connector+"/"+e.At.Cavity
			case e.Splice != "":
				tips[k] = "j" + string(e.Splice)
			default:
				tips[k] = b.open()
			}
		}
		b.tips[string(w.ID)] = tips
	}
	return b
}

func (b *bench) open() string {
	b.fresh++
	return fmt.Sprint("o", b.fresh)
}

func (b *bench) do(e harness.Edit) {
	stub := fmt.Sprintf("%s stub %d", e.Wire, e.End+1)
	set := func(w harness.WireID, end int, label string) {
		t := b.tips[string(w)]
		t[end] = label
		b.tips[string(w)] = t
	}
	join := func() {
		for _, l := range e.Lengths {
			set(l.Wire, l.End, "j"+string(e.Joint))
		}
	}
	switch e.Do {
	case harness.Remove, harness.Sever:
		delete(b.at, string(e.Terminal))
	case harness.Insert:
		b.at[string(e.Terminal)] = e.At.Connector + "/" + e.At.Cavity
	case harness.Lay:
		b.tips[string(e.Wire)] = [2]string{b.open(), b.open()}
	case harness.Cut:
		b.tips[stub] = [2]string{b.tips[string(e.Wire)][e.End], b.open()}
		set(e.Wire, e.End, b.open())
	case harness.Tap:
		join()
		b.tips[stub] = [2]string{b.tips[string(e.Wire)][e.End], "j" + string(e.Joint)}
		set(e.Wire, e.End, "j"+string(e.Joint))
	case harness.Join:
		join()
	case harness.Land:
		set(e.Wire, e.End, "j"+string(e.Joint))
	case harness.Unjoin, harness.Clip:
		set(e.Wire, e.End, b.open())
	case harness.Open:
		for w, t := range b.tips {
			for k := range t {
				if t[k] == "j"+string(e.Joint) {
					t[k] = b.open()
				}
			}
			b.tips[w] = t
		}
	case harness.Crimp:
		for w, t := range b.tips { // a new terminal takes the place of one on a stub
			if t[0] == "t"+string(e.Terminal) && len(w) > 7 && w[len(w)-7:len(w)-1] == " stub " {
				delete(b.tips, w)
			}
		}
		set(e.Wire, e.End, "t"+string(e.Terminal))
	case harness.Heal:
		set(e.Wire, e.End, b.tips[stub][0])
		delete(b.tips, stub)
	case harness.FallOut:
		delete(b.tips, string(e.Wire))
	}
}

// one says whether two things are one circuit: wires by their names, cavities as "A/1".
func (b *bench) one(x, y string) bool {
	parent := map[string]string{}
	var find func(s string) string
	find = func(s string) string {
		if p, ok := parent[s]; ok && p != s {
			return find(p)
		}
		parent[s] = s
		return s
	}
	union := func(s, t string) { parent[find(s)] = find(t) }
	for w, t := range b.tips {
		union(w, t[0])
		union(w, t[1])
	}
	for t, at := range b.at {
		union("t"+t, at)
		connector, cavity, _ := cut(at)
		if mate := b.mates[connector]; mate != "" {
			union(at, mate+"/"+cavity)
		}
	}
	return find(x) == find(y)
}

func cut(at string) (connector, cavity string, ok bool) {
	i := slices.Index([]byte(at), '/')
	return at[:max(i, 0)], at[i+1:], i >= 0
}
