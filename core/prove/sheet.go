package prove

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/network"
)

// SheetLine is a line of the test sheet: a measurement with what it must show.
type SheetLine struct {
	Measure
	Section string `json:"section"` // continuity, loads, isolation, feeds, relays
	Expect  Shown  `json:"expect"`
	Band    Band   `json:"band"`
	First   bool   `json:"first,omitempty"` // one of the fewest that find every fault of the stated kinds
	Why     string `json:"why"`
	Caution string `json:"caution,omitempty"`
}

// Sheet is the test sheet of a vehicle.
type Sheet struct {
	Lines  []SheetLine `json:"lines"`
	Fewest int         `json:"fewest"` // lines that find every open, swap and touch of neighbours
	Bound  int         `json:"bound"`  // fewer can not be: half of the ends of every circuit, and a line for each pair of circuits that lie side by side
}

// sheeter is the sheet in the making.
type sheeter struct {
	*Vehicle
	bare    *network.State
	island  []int32            // by node: the circuit that it is on, by what only hands current on, units out
	spots   map[int32][]string // by circuit: the cavities on it, in the order of plugs
	nodeOf  map[string]int32
	plugAt  map[string]int // by cavity: the plug
	out     Sheet
	noRoom  map[string]bool
	stopped error
}

// Sheet gives the measurements that prove a harness: with everything dead and the units out from cavity to cavity,
// then each load, then what must not be joined; then each feed of a unit in each position of the key with a lamp on
// it, and each relay by a jumper at the cavity that commands it. Those that find most come first.
func (v *Vehicle) Sheet(keys []string) (Sheet, error) {
	v.ready()
	bare, err := v.state(Dead)
	if err != nil {
		return Sheet{}, err
	}
	x := &sheeter{Vehicle: v, bare: bare, spots: map[int32][]string{}, nodeOf: map[string]int32{},
		plugAt: map[string]int{},
		noRoom: map[string]bool{}}
	x.islands()
	x.continuity()
	x.loads()
	x.isolation()
	x.fuses()
	x.feeds(keys)
	x.relays()
	for i := range x.out.Lines {
		if x.out.Lines[i].First {
			x.out.Fewest++
		}
	}
	return x.out, x.stopped
}

// islands finds the circuits by what hands current on with everything dead: wires, contacts, fuses, closed switches.
func (x *sheeter) islands() {
	heads := x.Net.Heads()
	set := slices.Clone(heads)
	find := func(i int32) int32 {
		for set[i] != i {
			set[i] = set[set[i]]
			i = set[i]
		}
		return i
	}
	for i := range x.Net.Elements {
		e := &x.Net.Elements[i]
		if e.Kind <= network.Switch && x.bare.Conducts(int32(i)) {
			a, b := find(heads[e.A]), find(heads[e.B])
			set[max(a, b)] = min(a, b)
		}
	}
	x.island = make([]int32, len(heads))
	for i := range heads {
		x.island[i] = find(heads[i])
	}
	for k := range x.Plugs {
		p := &x.Plugs[k]
		for _, cavity := range p.Cavities {
			at := p.At(cavity)
			if _, there := x.nodes[network.WireSide(at)]; !there {
				continue
			}
			n, _ := x.point(at, Dead)
			x.nodeOf[at], x.plugAt[at] = heads[n], k
			x.spots[x.island[n]] = append(x.spots[x.island[n]], at)
		}
	}
	for _, s := range x.Studs {
		if n, there := x.nodes[s]; there && heads[n] != 0 {
			x.nodeOf[s], x.plugAt[s] = heads[n], -1
			x.spots[x.island[n]] = append(x.spots[x.island[n]], s)
		}
	}
}

// add adds a line with what it must show.
func (x *sheeter) add(l SheetLine) {
	l.ID = l.Key()
	_, okA := x.point(l.A, l.Setup)
	_, okB := x.point(l.B, l.Setup)
	if x.noRoom[l.ID] || x.stopped != nil || !okA || !okB ||
		l.A == l.B { // what lies inside of something is not touched
		return
	}
	x.noRoom[l.ID] = true
	s, err := x.state(l.Setup)
	if err == nil {
		l.Expect, err = x.shows(s, &l.Measure)
	}
	if err != nil {
		x.stopped = err
		return
	}
	l.Band = BandOf(&l.Measure, l.Expect)
	x.out.Lines = append(x.out.Lines, l)
}

// ends lists the cavities at which a circuit ends, in the order of a walk through it: of a tree its leaves. With one
// half of them measured against the other half every wire of it is in a measurement.
func (x *sheeter) ends(of int32, spots []string) []string {
	heads := x.Net.Heads()
	at := map[int32][]string{}
	for _, s := range spots {
		at[x.nodeOf[s]] = append(at[x.nodeOf[s]], s)
	}
	seen := map[int32]bool{}
	var out []string
	var walk func(n int32) bool
	walk = func(n int32) (below bool) {
		seen[n] = true
		for _, i := range x.at[n] {
			e := &x.Net.Elements[i]
			if e.Kind > network.Switch || !x.bare.Conducts(i) {
				continue
			}
			far := heads[e.A]
			if far == n {
				far = heads[e.B]
			}
			if !seen[far] && x.island[far] == of {
				below = walk(far) || below
			}
		}
		if !below && len(at[n]) > 0 {
			out = append(out, at[n][0])
			return true
		}
		return below
	}
	walk(x.nodeOf[spots[0]])
	if first := spots[0]; !slices.Contains(out, first) &&
		x.degree(x.nodeOf[first], of) == 1 { // the walk began at an end
		out = append([]string{first}, out...)
	}
	return out
}

// degree counts the elements of a circuit at a node.
func (x *sheeter) degree(n, of int32) int {
	count := 0
	for _, i := range x.at[n] {
		e := &x.Net.Elements[i]
		if e.Kind <= network.Switch && x.bare.Conducts(i) && x.island[e.A] == of {
			count++
		}
	}
	return count
}

// continuity measures each circuit from end to end, its ends in two halves; and for whoever looks for the place, each
// cavity against the first.
func (x *sheeter) continuity() {
	circuits := make([]int32, 0, len(x.spots))
	for c := range x.spots {
		circuits = append(circuits, c)
	}
	slices.SortFunc(circuits, func(a, b int32) int { return natural(x.spots[a][0], x.spots[b][0]) })
	for _, c := range circuits {
		spots := x.spots[c]
		ground := x.island[0] == c
		ends := x.ends(c, spots)
		half := (len(ends) + 1) / 2
		if ground { // against the battery's negative: all of them
			for _, e := range ends {
				x.add(SheetLine{Section: "continuity", First: true, Why: "a ground: the way back to the battery",
					Measure: Measure{Kind: Ohms, Setup: Dead, A: e, B: "battery −"}})
			}
			x.out.Bound += (len(ends) + 1) / 2
			continue
		}
		if len(ends) == 1 && len(spots) == 1 { // it ends in something that is no cavity
			if stud := x.stud(c, ends[0]); stud != "" {
				x.add(SheetLine{Section: "continuity", First: true, Why: "it ends at a stud or a joint",
					Measure: Measure{Kind: Ohms, Setup: Dead, A: ends[0], B: stud}})
				x.out.Bound++
			}
			continue
		}
		for i := range half {
			if j := i + len(ends)/2; j < len(ends) && i != j {
				x.add(SheetLine{Section: "continuity", First: true, Why: "one circuit, end to end",
					Measure: Measure{Kind: Ohms, Setup: Dead, A: ends[i], B: ends[j]}})
			}
		}
		x.out.Bound += half
		for _, s := range spots[1:] {
			x.add(
				SheetLine{
					Section: "continuity",
					Why:     "the same circuit, to find the place",
					Measure: Measure{Kind: Ohms,
						Setup: Dead, A: spots[0],
						B: s},
				},
			)
		}
	}
}

// stud gives a place of a circuit that is no cavity and can be touched, empty where there is none.
func (x *sheeter) stud(c int32, not string) string {
	best := ""
	for n, name := range x.Net.Names {
		if x.island[n] != c || x.Net.Sides[n] != network.Named || name == not {
			continue
		}
		if _, cavity := x.nodeOf[name]; !cavity && (best == "" || natural(name, best) < 0) {
			best = name
		}
	}
	return best
}

// mostLoad is up to what Ω something is measured as a load: a sensor with electronics in it shows nothing that says
// much.
const mostLoad = 20e3

// loads measures each load across the cavities that it is between: its own contacts are in it.
func (x *sheeter) loads() {
	heads := x.Net.Heads()
	near := func(n network.Node) string { // the cavity of a device's side
		for _, i := range x.at[heads[n]] {
			if e := &x.Net.Elements[i]; e.Kind == network.Contact {
				return e.At()
			}
		}
		return ""
	}
	for i := range x.Net.Elements {
		e := &x.Net.Elements[i]
		if e.Kind != network.Load && e.Kind != network.Lamp || !x.bare.Conducts(int32(i)) {
			continue
		}
		a, b := near(e.A), near(e.B)
		if a == "" || a == b {
			continue
		}
		m := Measure{Kind: Ohms, Setup: Dead, A: a, B: cmp.Or(b, "battery −")}
		_, known := x.point(m.A, Dead)
		if _, other := x.point(m.B, Dead); !known || !other || x.bare.Ohms(int32(i)) > mostLoad {
			continue
		}
		x.add(SheetLine{Section: "loads", First: true, Why: cmp.Or(x.Where[e.Name], e.Name) + ", with its contacts",
			Measure: m})
		l := &x.out.Lines[len(x.out.Lines)-1]
		if l.Expect.Over {
			continue
		}
		own := x.bare.Ohms(int32(i))
		if e.Kind == network.Lamp {
			own *= network.LampCold
		}
		beside := 1 / max(1/l.Expect.Value-1/own, 1e-9) // Ω of what lies beside it
		if !l.Band.Fits(&MeterReading{Measure: m, Value: beside, Over: beside > overOhms}) {
			continue
		}
		for _, at := range []string{a, b} { // others lie beside it, and hide it: at the face of its plug, with that off
			for _, home := range x.spots[x.island[x.nodes[network.WireSide(at)]]] {
				if at != "" && home != at && x.plugOf[home] != x.plugOf[at] {
					x.add(
						SheetLine{Section: "loads", First: true, Why: "others lie beside it: at the face of its plug",
							Measure: Measure{
								Kind:  Ohms,
								A:     home,
								B:     at,
								Setup: Setup{Pulled: true, Off: x.plugOf[at]},
							}},
					)
					break
				}
			}
		}
	}
}

// isolation measures between circuits that lie side by side in a plug, once for each pair, and from each to ground.
func (x *sheeter) isolation() {
	type pair [2]int32
	seen := map[pair]bool{}
	grounded := map[int32]bool{x.island[0]: true}
	for k := range x.Plugs {
		p := &x.Plugs[k]
		for c, cavity := range p.Cavities {
			a := p.At(cavity)
			if _, there := x.nodeOf[a]; !there {
				continue
			}
			if i := x.island[x.nodeOf[a]]; !grounded[i] {
				grounded[i] = true
				x.add(SheetLine{Section: "isolation", First: true, Why: "it must not touch ground",
					Measure: Measure{Kind: Ohms, Setup: Dead, A: a, B: "battery −"}})
				x.out.Bound++
				if _, there := x.nodes[plus]; there && i != x.island[x.nodes[plus]] {
					x.add(SheetLine{Section: "isolation", First: true, Why: "it must not touch a feed",
						Measure: Measure{Kind: Ohms, Setup: Dead, A: a, B: plus}})
					x.out.Bound++
				}
			}
			if c+1 == len(p.Cavities) {
				continue
			}
			b := p.At(p.Cavities[c+1])
			if _, there := x.nodeOf[b]; !there {
				continue
			}
			i, j := x.island[x.nodeOf[a]], x.island[x.nodeOf[b]]
			if key := (pair{min(i, j), max(i, j)}); i != j && !seen[key] && i != x.island[0] && j != x.island[0] {
				seen[key] = true
				x.add(SheetLine{Section: "isolation", First: true, Why: "neighbours in their plug",
					Measure: Measure{Kind: Ohms, Setup: Dead, A: a, B: b}})
				x.out.Bound++
			}
		}
	}
}

// Text says what a line asks for, in a sentence.
func (l *SheetLine) Text() string {
	if l.Kind == Works {
		return l.A
	}
	text := fmt.Sprintf("%s from %s to %s", map[Kind]string{Ohms: "Ω", Volts: "V"}[l.Kind], l.A, l.B)
	if l.Lamp > 0 {
		text += fmt.Sprintf(", with a lamp of %g W", l.Lamp)
	}
	return text
}
