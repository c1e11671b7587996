package circuit_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/signal"
)

// madeLoom gives a loom by lot: units, fuses, grounds and parts, plugs that face each other, junctions, splices that
// nobody has listed, ends that were taped or not followed, wires of restraint and of high voltage.
func madeLoom(r *rand.Rand) *harness.Loom {
	l := &harness.Loom{Devices: []harness.Device{{ID: "unit", Kind: harness.Unit}, {ID: "box", Kind: harness.Fuses},
		{ID: "earth", Kind: harness.Grounds}, {ID: "lamp"}, {ID: "belt", System: "restraint"},
		{ID: "heater", System: []string{"climate", "high-voltage"}[r.IntN(2)]}}}
	for i := range 4 + r.IntN(5) {
		c := harness.Half{Connector: harness.Connector{ID: fmt.Sprint("C", i)}}
		if r.IntN(5) > 0 {
			c.Device = append(l.Devices, harness.Device{ID: "nowhere"})[r.IntN(len(l.Devices)+1)].ID
		}
		if r.IntN(4) == 0 {
			c.Links = [][]string{{"1", "2"}, {"3", "4", "1"}}[:1+r.IntN(2)]
		}
		l.Connectors = append(l.Connectors, c)
	}
	for i := 0; i+1 < len(l.Connectors); i += 2 {
		if a, b := &l.Connectors[i], &l.Connectors[i+1]; r.IntN(3) == 0 {
			a.Mate, b.Mate, a.Device, b.Device = b.ID, a.ID, "", ""
		}
	}
	if c := &l.Connectors[0]; c.Mate == "" {
		c.Mate = []string{"", "gone"}[r.IntN(2)]
	}
	l.Splices = []harness.Splice{{ID: "S0"}, {ID: "S1"}}
	texts := []string{"Injector 1, control", "Air bag feed", "Power ground", "Lamp", "High-voltage positive", ""}
	for i := range 4 + r.IntN(14) {
		w := harness.Wire{ID: harness.WireID(fmt.Sprint("w", i))}
		if w.Signal = signal.Read(texts[r.IntN(4)]); r.IntN(12) == 0 {
			w.Signal = signal.Read(texts[4+r.IntN(2)])
		}
		for k := range w.Ends {
			switch r.IntN(8) {
			case 0, 1:
				w.Ends[k].Splice = harness.JointID(fmt.Sprint("S", r.IntN(3))) // S2 has no entry of its own
			case 2:
				w.Ends[k].Taped = true
			case 3:
				w.Ends[k] = harness.End{}
			default:
				c := "stray"
				if n := r.IntN(len(l.Connectors) + 1); n < len(l.Connectors) {
					c = l.Connectors[n].ID
				}
				w.Ends[k].At = harness.Ref{Connector: c, Cavity: fmt.Sprint(1 + r.IntN(14))}
			}
		}
		l.Wires = append(l.Wires, w)
	}
	return l
}

// hand follows a loom by the names of places alone.
type hand struct {
	loom *harness.Loom
	one  map[string]string // a place to another that is the same piece of metal
}

func follow(l *harness.Loom) *hand {
	h := &hand{l, map[string]string{}}
	for _, c := range l.Connectors {
		for _, group := range c.Links {
			for _, cavity := range group {
				h.join(c.ID+"-"+group[0], c.ID+"-"+cavity)
			}
		}
	}
	for _, c := range l.Connectors { // what faces what, where something is on either side
		for cavity := range 15 {
			own, facing := harness.Ref{Connector: c.ID, Cavity: fmt.Sprint(cavity)},
				harness.Ref{Connector: c.Mate, Cavity: fmt.Sprint(cavity)}
			if h.connector(c.Mate) != nil && h.there(own) && h.there(facing) {
				h.join(c.ID+"-"+own.Cavity, c.Mate+"-"+own.Cavity)
			}
		}
	}
	return h
}

func (h *hand) connector(id string) *harness.Half {
	if i := slices.IndexFunc(h.loom.Connectors, func(c harness.Half) bool { return c.ID == id }); i >= 0 {
		return &h.loom.Connectors[i]
	}
	return nil
}

func (h *hand) linked(at harness.Ref) bool {
	c := h.connector(at.Connector)
	return c != nil && slices.ContainsFunc(c.Links, func(g []string) bool { return slices.Contains(g, at.Cavity) })
}

// there says whether a wire ends in a cavity, or a junction joins it to others.
func (h *hand) there(at harness.Ref) bool {
	return h.linked(at) || slices.ContainsFunc(h.loom.Wires, func(w harness.Wire) bool {
		return w.Ends[0].At == at || w.Ends[1].At == at
	})
}

func (h *hand) same(place string) string {
	for h.one[place] != "" {
		place = h.one[place]
	}
	return place
}

func (h *hand) join(a, b string) {
	if a, b = h.same(a), h.same(b); a != b {
		h.one[a] = b
	}
}

// place names where an end is; each that is at nothing is a place of its own.
func (h *hand) place(wire, end int) string {
	switch e := h.loom.Wires[wire].Ends[end]; {
	case e.Splice != "":
		return "splice " + string(e.Splice)
	case e.At != harness.Ref{}:
		return h.same(e.At.Connector + "-" + e.At.Cavity)
	}
	return fmt.Sprint("end ", wire, end)
}

// kind says what copper meets in at an end.
func (h *hand) kind(wire, end int) circuit.Kind {
	e := h.loom.Wires[wire].Ends[end]
	switch c := h.connector(e.At.Connector); {
	case e.Splice != "":
		return circuit.Splice
	case e.Taped:
		return circuit.Taped
	case e.At == harness.Ref{}:
		return circuit.Unseen
	case h.linked(e.At):
		return circuit.Link
	case c != nil && h.connector(c.Mate) != nil:
		facing := harness.Ref{Connector: c.Mate, Cavity: e.At.Cavity}
		if h.linked(facing) {
			return circuit.Link
		}
		if h.there(facing) {
			return circuit.Contact
		}
		return circuit.Unseen
	}
	return circuit.Terminal
}

// joined gives the wires that copper joins to one, without some wire.
func (h *hand) joined(wire, without int) map[int]bool {
	out, more := map[int]bool{wire: true}, true
	for more {
		more = false
		for w := range h.loom.Wires {
			for x := range out {
				if w == without || out[w] {
					continue
				}
				for _, k := range []int{0, 1, 2, 3} {
					if h.place(w, k/2) == h.place(x, k%2) && !out[w] {
						out[w], more = true, true
					}
				}
			}
		}
	}
	return out
}

func TestAGraphIsWhatAHandFollows(t *testing.T) {
	kinds := map[circuit.Kind]int{}
	for seed := range uint64(500) {
		l := madeLoom(rand.New(rand.NewPCG(seed, 71)))
		g, h := circuit.Draw(l), follow(l)
		numbers, found := circuit.Circuits(l), l.Found()
		net := circuit.Of(found, l.Connectors)
		for w := range l.Wires {
			all := h.joined(w, -1)
			for x := range l.Wires {
				if slices.Contains(net.Wire(found, l.Wires[w].ID), l.Wires[x].ID) != all[x] {
					t.Fatalf("loom %d: the net joins %s and %s: %v, by hand %v", seed, l.Wires[w].ID, l.Wires[x].ID, !all[x],
						all[x])
				}
				if (numbers[w] == numbers[x]) != all[x] {
					t.Fatalf("loom %d: %s and %s are joined: %v, by hand %v", seed, l.Wires[w].ID, l.Wires[x].ID,
						numbers[w] == numbers[x], all[x])
				}
				for k := range 4 {
					if a, b := g.Ends[w][k/2], g.Ends[x][k%2]; (a == b) != (h.place(w, k/2) == h.place(x, k%2)) {
						t.Fatalf("loom %d: an end of %s at %s, of %s at %s: one place is %v", seed, l.Wires[w].ID,
							h.place(w, k/2), l.Wires[x].ID, h.place(x, k%2), a == b)
					}
				}
			}
			if numbers[w] >= g.Circuits {
				t.Fatalf("loom %d: circuit %d of %d", seed, numbers[w], g.Circuits)
			}
			for end := range 2 {
				tip, at := circuit.Tip(2*w+end), g.Ends[w][end]
				kinds[g.Nodes[at].Kind]++
				if got, want := g.Nodes[at].Kind, h.kind(w, end); got != want {
					t.Fatalf("loom %d: %v meets in kind %d, by hand %d", seed, l.Wires[w].Ends[end], got, want)
				}
				if !slices.Contains(g.Tips(at), tip) || g.Far(tip) != g.Ends[w][1-end] || tip.End() != end ||
					g.End(tip) != &l.Wires[w].Ends[end] || g.TipID(tip) != (harness.TipID{Wire: l.Wires[w].ID, End: end}) {
					t.Fatalf("loom %d: tip %d of %s", seed, end, l.Wires[w].ID)
				}
				ref := l.Wires[w].Ends[end].At
				if got, there := g.Cavity(ref); ref.Connector != "" && (!there || got != at) {
					t.Fatalf("loom %d: %v is at %d, %v, not %d", seed, ref, got, there, at)
				}
				c := h.connector(ref.Connector)
				if (g.Halves[2*w+end] >= 0) != (c != nil) || c != nil && &l.Connectors[g.Halves[2*w+end]] != c {
					t.Fatalf("loom %d: %v is in connector %d", seed, ref, g.Halves[2*w+end])
				}
				if d := g.DeviceOf(at); c != nil && len(g.Nodes[at].Cavities) == 1 &&
					(d == nil) != !slices.ContainsFunc(l.Devices, func(x harness.Device) bool { return x.ID == c.Device }) ||
					d != nil && d.ID != l.Connectors[g.Nodes[at].Half].Device || g.Hub(at) != (d != nil && d.Kind.Hub()) {
					t.Fatalf("loom %d: %v is plugged into %v", seed, ref, d)
				}
			}
		}
		tips := 0
		for n := range g.Nodes {
			tips += len(g.Tips(int32(n)))
		}
		if tips != 2*len(l.Wires) {
			t.Fatalf("loom %d: %d tips of %d wires", seed, tips, len(l.Wires))
		}
	}
	for k := range circuit.Taped + 1 {
		if kinds[k] < 50 {
			t.Errorf("of kind %d there were %d", k, kinds[k])
		}
	}
}

// A connector that is off faces nothing and joins nothing inside: the net of a harness with it off is that of a loom in
// which it has neither.
func TestAConnectorThatIsOff(t *testing.T) {
	apart := 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 79))
		l := madeLoom(r)
		off := l.Connectors[r.IntN(len(l.Connectors))].ID
		h, err := harness.Apply(l.Found(), harness.Edit{Do: harness.Free, At: harness.Ref{Connector: off}})
		if err != nil {
			t.Fatal(err)
		}
		without := *l
		without.Connectors = slices.Clone(l.Connectors)
		for i := range without.Connectors {
			if c := &without.Connectors[i]; c.ID == off {
				c.Mate, c.Links = "", nil
			} else if c.Mate == off {
				c.Mate = ""
			}
		}
		net, as, by := circuit.Of(h, l.Connectors), circuit.Of(h, without.Connectors), follow(l)
		for w := range l.Wires {
			got, want := names(net.Wire(h, l.Wires[w].ID)), names(as.Wire(h, l.Wires[w].ID))
			if got != want {
				t.Fatalf("loom %d: with %s off %s is with %s, not with %s", seed, off, l.Wires[w].ID, got, want)
			}
			if len(by.joined(w, -1)) > len(net.Wire(h, l.Wires[w].ID)) {
				apart++
			}
		}
	}
	if apart < 50 {
		t.Errorf("%d wires were parted by it", apart)
	}
}

func TestWhatOnlyHandsOn(t *testing.T) {
	for k, want := range map[circuit.Kind]bool{circuit.Terminal: false, circuit.Splice: true, circuit.Link: true,
		circuit.Contact: true, circuit.Unseen: false, circuit.Taped: false} {
		if k.Passes() != want {
			t.Errorf("kind %d passes: %v", k, !want)
		}
	}
}
