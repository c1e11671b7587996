package feed

import (
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/network"
)

// Feeder is a thing in the feed tree: the battery, a fuse, a contact, a load; and the band of copper that leads to it.
type Feeder struct {
	ID      string   `json:"id"`   // name of its element
	Name    string   `json:"name"` // as a person calls it
	Kind    FedThing `json:"kind"`
	Parent  int      `json:"parent"`
	At      string   `json:"at"`               // the node of its fed end
	Behind  string   `json:"behind,omitempty"` // the node behind a fuse or a contact
	Depth   int      `json:"depth"`
	Rating  float64  `json:"rating,omitempty"` // A of a fuse, a contact
	Amps    float64  `json:"amps"`             // A through it
	Volts   float64  `json:"volts"`            // V at its fed end, against the battery's negative terminal
	Has     float64  `json:"has,omitempty"`    // V across a load
	Live    Alive    `json:"live"`
	Carries float64  `json:"carries,omitempty"` // A that the band before it may carry; 0 where nothing is known
	Band    float64  `json:"band"`              // A in the band before it: that of the wire which has least to spare
	Thin    string   `json:"thin,omitempty"`    // that wire
	Drop    float64  `json:"drop"`              // V lost from its parent
	Device  string   `json:"device,omitempty"`
	Open    bool     `json:"open,omitempty"` // a contact or a fuse that lets nothing through
}

// Tree gives the feed tree in a position as it usually is.
func (r *Result) Tree(position string) []Feeder { return r.TreeOf(r.state(position)) }

// TreeOf gives the feed tree in a state: from the poles of the sources along what hands current on to every load, each
// by the shortest way. What hangs on nothing that is fed has no place in it.
func (r *Result) TreeOf(s *network.State) []Feeder {
	t := &growing{r: r, s: s, heads: r.Drawn.Heads(), via: map[int32]int32{}, limb: map[int32]int{},
		fed: r.fedBy(s), taken: map[int32]bool{}}
	if i, known := r.Drawn.Element(network.BatteryName); known {
		t.sprout(i)
		return t.out
	}
	for i := range r.Drawn.Elements {
		if r.source(int32(i)) {
			t.sprout(int32(i))
			break
		}
	}
	return t.out
}

type growing struct {
	r     *Result
	s     *network.State
	heads []int32
	via   map[int32]int32 // by node: the element by which it was reached
	limb  map[int32]int   // by node: the limb that it hangs on
	fed   map[int32]bool
	taken map[int32]bool // elements
	out   []Feeder
	from  map[int32]int32
}

// sprout grows the tree from a source.
func (t *growing) sprout(i int32) {
	e := &t.r.Drawn.Elements[i]
	root := t.heads[e.A]
	t.from = map[int32]int32{root: -1}
	t.out = append(t.out, Feeder{ID: e.Name, Name: e.Name, Kind: ASource, Parent: -1, Amps: t.s.Amps(i),
		Volts: t.s.Volts[root], At: t.r.Drawn.Names[root], Live: Fed})
	t.limb[root] = 0
	t.taken[i] = true
	queue, later := []int32{root}, []int32{} // what is closed first: a thing hangs where its current comes from
	for len(queue)+len(later) > 0 {
		if len(queue) == 0 {
			i := later[0]
			later = later[1:]
			e := &t.r.Drawn.Elements[i]
			for _, x := range []int32{t.heads[e.A], t.heads[e.B]} {
				if !t.seen(x) && x != 0 {
					t.lead(i, t.other(i, x), x)
					queue = append(queue, x)
				}
			}
			continue
		}
		x := queue[0]
		queue = queue[1:]
		next := slices.Clone(t.r.at[x])
		slices.SortFunc(next, func(a, b int32) int {
			return finding.Natural(t.r.Drawn.Elements[a].Name,
				t.r.Drawn.Elements[b].Name)
		})
		for _, i := range next {
			if t.taken[i] || t.slight(i) {
				continue
			}
			e := &t.r.Drawn.Elements[i]
			far := t.other(i, x)
			switch {
			case e.Kind == network.Source:
			case !e.Kind.Hands():
				if far != x { // a load hangs at the end by which it is first reached
					t.taken[i] = true
					t.add(i, x)
				}
			case far == 0 || t.seen(far) || t.grounded(far):
			case !t.s.Conducts(i):
				later = append(later, i)
			default:
				t.lead(i, x, far)
				queue = append(queue, far)
			}
		}
	}
}

// other gives the node at the other end of an element.
func (t *growing) other(i, x int32) int32 {
	e := &t.r.Drawn.Elements[i]
	if t.heads[e.A] == x {
		return t.heads[e.B]
	}
	return t.heads[e.A]
}

// lead leads the tree from a node along an element to another.
func (t *growing) lead(i, x, far int32) {
	e := &t.r.Drawn.Elements[i]
	t.taken[i] = true
	t.from[far], t.via[far] = x, i
	if e.Kind == network.Fuse || e.Kind == network.Switch {
		t.limb[far] = t.add(i, x)
	} else {
		t.limb[far] = t.limb[x]
	}
}

// slight says whether an element takes so little that it is no branch of a feed tree: a sensor, an input.
func (t *growing) slight(i int32) bool {
	e := &t.r.Drawn.Elements[i]
	return !e.Kind.Hands() && e.Kind != network.Source && e.Ohms > 1500
}

func (t *growing) seen(node int32) bool {
	_, ok := t.from[node]
	return ok
}

// grounded says whether a node is a unit's inside or another way back: what lies behind it is not fed from here.
func (t *growing) grounded(node int32) bool {
	return t.r.inner(node) && !t.fed[node]
}

// add adds the limb of an element that hangs at a node.
func (t *growing) add(i, node int32) int {
	e := &t.r.Drawn.Elements[i]
	parent := t.limb[node]
	l := Feeder{ID: e.Name, Name: e.Name, Parent: parent, Depth: t.out[parent].Depth + 1,
		Amps: math.Abs(t.s.Amps(i)), Volts: t.s.Volts[node], At: t.r.Drawn.Names[node], Device: t.r.Drawn.Device[i]}
	if e.Kind.Hands() {
		l.Behind = t.r.Drawn.Names[t.other(i, node)]
	}
	switch {
	case e.Kind == network.Fuse:
		l.Kind, l.Name, l.Rating = AFuse, e.Of, e.Limit
	case e.Kind == network.Switch && e.Gate.Relay > 0 && e.Gate.Switch == "":
		l.Kind, l.Name = ARelay, t.r.Drawn.Relays[e.Gate.Relay-1].Name
		l.Rating = t.r.Facts.Contacts[l.Name]
	case e.Role == network.OutputPin:
		l.Kind, l.Name = AnOutput, e.Name
	case e.Kind == network.Switch:
		l.Kind = ASwitch
	case e.Kind == network.Lamp:
		l.Kind = ALamp
	default:
		l.Kind = ALoad
		if _, unit := t.r.Drawn.Units[l.Device]; unit {
			l.Kind = AUnit
		}
	}
	l.Open = e.Kind.Hands() && !t.s.Conducts(i)
	if !e.Kind.Hands() {
		l.Has = math.Abs(t.s.Across(i))
	}
	if l.Live = alive(t.s, t.fed, node); l.Live == Floating {
		l.Volts = 0
	}
	t.band(&l, node, parent)
	t.out = append(t.out, l)
	return len(t.out) - 1
}

// band looks along the copper from a limb back to its parent for the wire that has least to spare.
func (t *growing) band(l *Feeder, node int32, parent int) {
	spare := math.Inf(1)
	top := node
	for n := node; n >= 0 && t.limb[n] == parent; n = t.from[n] {
		i, known := t.via[n]
		if !known {
			top = n
			break
		}
		e := &t.r.Drawn.Elements[i]
		if e.Kind == network.Fuse || e.Kind == network.Switch {
			top = n
			break
		}
		amps := math.Abs(t.s.Amps(i))
		if w, is := t.r.in.Wires[metal(e)]; is && w.Carries > 0 && w.Carries-amps < spare {
			spare, l.Carries, l.Band, l.Thin = w.Carries-amps, w.Carries, amps, e.Name
		}
		top = t.from[n]
	}
	if top >= 0 && l.Live == Fed {
		l.Drop = max(0, t.s.Volts[top]-t.s.Volts[node])
	}
	if l.Thin == "" {
		l.Band = l.Amps
	}
}

// Unfed lists the devices that have no place in the tree: nothing leads to them that a source feeds, whatever the key
// does.
func (r *Result) Unfed() []string {
	in := map[string]bool{}
	for _, f := range r.Tree("run") {
		in[f.Device] = true
	}
	var out []string
	for _, d := range r.Devices() {
		if in[d] {
			continue
		}
		strong := false
		for _, i := range r.Drawn.Of[d] {
			strong = strong || r.Drawn.Elements[i].Ohms <= 1500
		}
		if _, unit := r.Drawn.Units[d]; strong || unit {
			out = append(out, d)
		}
	}
	return out
}
