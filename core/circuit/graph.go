package circuit

import (
	"slices"

	"draxel/core/harness"
)

// Kind says what copper meets in.
type Kind uint8

// The kinds of place.
const (
	Terminal Kind = iota // a cavity of a connector that plugs into a device
	Splice               // a factory splice
	Link                 // cavities joined inside a connector: a junction, a wire that only passes through
	Contact              // two cavities of an in-line pair, facing
	Unseen               // an end that nobody has followed, or that faces a cavity of an in-line pair without a wire
	Taped                // an end that was found taped off
)

// Passes says whether a place has no use of its own and only hands copper on.
func (k Kind) Passes() bool { return k == Splice || k == Link || k == Contact }

// Node is a place where ends of wires are.
type Node struct {
	Kind     Kind
	Half     int32         // number of the connector of its first cavity, −1 where there is none
	Cavities []harness.Ref // in order of appearance
	Splice   int32         // number of the splice, −1 where it is none or has no entry of its own
	Circuit  int32         // number of the circuit, from 0: two places have one number exactly if copper joins them
}

// Graph is a loom as it was found, as copper: places joined by wires, all by number. It is drawn once for a loom in
// time that grows with its wires, and does not change; what follows a harness that does is a Net.
type Graph struct {
	Nodes    []Node
	Ends     [][2]int32 // by wire: the nodes of its ends
	Halves   []int32    // by tip: number of the connector that it is in, −1 for none
	Plugged  []int32    // by connector: number of its device, −1 for none
	Circuits int        // how many there are
	loom     *harness.Loom
	first    []int32 // by node: where its tips begin in list
	list     []Tip
	alone    []harness.Ref    // the cavities of nodes that have one, in one piece
	half     map[string]int32 // connector id to its number
	device   map[string]int32
	splice   map[harness.JointID]int32 // splice id to its node
	at       []cavities                // by connector: which node each cavity is
	strays   map[harness.Ref]int32     // of cavities of connectors that are not listed
}

// Half gives the number of a connector, and false where it is not listed.
func (g *Graph) Half(id string) (int32, bool) {
	h, ok := g.half[id]
	return h, ok
}

// Device gives the number of a device, and false where it is not listed.
func (g *Graph) Device(id string) (int32, bool) {
	d, ok := g.device[id]
	return d, ok
}

// Joint gives the node of a splice, and false where there is none.
func (g *Graph) Joint(id harness.JointID) (int32, bool) {
	at, ok := g.splice[id]
	return at, ok
}

// Cavity gives the node of a cavity, and false where nothing is in it.
func (g *Graph) Cavity(at harness.Ref) (int32, bool) {
	half, known := g.half[at.Connector]
	if !known {
		half = -1
	}
	return g.find(half, at)
}

// cavities finds the node of a connector's cavity: by looking through them while they are few, else by a map.
type cavities struct {
	names  []string
	nodes  []int32
	byName map[string]int32
}

// few is how many names are looked through sooner than a map is asked.
const few = 10

func (c *cavities) find(name string) (int32, bool) {
	if c.byName != nil {
		at, ok := c.byName[name]
		return at, ok
	}
	for i, n := range c.names {
		if n == name {
			return c.nodes[i], true
		}
	}
	return 0, false
}

func (c *cavities) add(name string, at int32) {
	c.names, c.nodes = append(c.names, name), append(c.nodes, at)
	switch {
	case c.byName != nil:
		c.byName[name] = at
	case len(c.names) > few:
		c.byName = make(map[string]int32, 4*few)
		for i, n := range c.names {
			c.byName[n] = c.nodes[i]
		}
	}
}

// find gives the node of a cavity of a connector; half is its number, −1 where it is not listed.
func (g *Graph) find(half int32, at harness.Ref) (int32, bool) {
	if half >= 0 {
		return g.at[half].find(at.Cavity)
	}
	i, ok := g.strays[at]
	return i, ok
}

func (g *Graph) place(half int32, ref harness.Ref, at int32) {
	if half >= 0 {
		g.at[half].add(ref.Cavity, at)
	} else {
		g.strays[ref] = at
	}
}

// Draw gives the graph of a loom.
func Draw(l *harness.Loom) *Graph {
	g := &Graph{
		loom:   l,
		Ends:   make([][2]int32, len(l.Wires)),
		half:   make(map[string]int32, len(l.Connectors)),
		device: make(map[string]int32, len(l.Devices)),
		splice: make(map[harness.JointID]int32, len(l.Splices)),
		at:     make([]cavities, len(l.Connectors)),
		strays: map[harness.Ref]int32{},
	}
	g.Nodes = make([]Node, 0, 2*len(l.Wires))
	for i := range l.Devices {
		g.device[l.Devices[i].ID] = int32(i)
	}
	g.Plugged = make([]int32, len(l.Connectors))
	g.alone = make([]harness.Ref, 0, 2*len(l.Wires))
	for i := range l.Connectors {
		g.half[l.Connectors[i].ID] = int32(i)
		g.Plugged[i] = -1
		if d, ok := g.device[l.Connectors[i].Device]; ok {
			g.Plugged[i] = d
		}
	}
	for i := range l.Splices {
		g.splice[l.Splices[i].ID] = g.add(Node{Kind: Splice, Half: -1, Splice: int32(i)})
	}
	g.linked()
	g.Halves = make([]int32, 2*len(l.Wires))
	for i := range l.Wires {
		for k := range l.Wires[i].Ends {
			h := int32(-1)
			if c := l.Wires[i].Ends[k].At.Connector; c != "" {
				if known, ok := g.half[c]; ok {
					h = known
				}
			}
			g.Halves[2*i+k] = h
			g.Ends[i][k] = g.nodeOf(&l.Wires[i].Ends[k], h)
		}
	}
	for i := range g.Nodes { // what lies behind the other half of a pair is not known: it may lead on
		if x := &g.Nodes[i]; x.Kind == Contact && len(x.Cavities) == 1 {
			x.Kind = Unseen
		}
	}
	g.gatherTips()
	g.joinCircuits()
	return g
}

func (g *Graph) add(x Node) int32 {
	g.Nodes = append(g.Nodes, x)
	return int32(len(g.Nodes) - 1)
}

// linked makes one node of the cavities that are joined inside a connector. Rows that share a cavity are one, and so
// are rows of two halves that face each other with one.
func (g *Graph) linked() {
	for h := range g.loom.Connectors {
		halves := []int32{int32(h)}
		if mate, known := g.half[g.loom.Connectors[h].Mate]; known && g.half[g.loom.Connectors[mate].Mate] == int32(h) {
			if halves = append(halves, mate); int(mate) < h {
				continue // its rows were made with those of the other half
			}
		}
		var links [][]string
		for _, half := range halves {
			links = append(links, g.loom.Connectors[half].Links...)
		}
		for _, row := range rows(links) {
			at := g.add(Node{Kind: Link, Half: -1, Splice: -1})
			for _, half := range halves {
				for _, c := range row {
					if joins := g.loom.Connectors[half].Links; !slices.ContainsFunc(joins,
						func(link []string) bool { return slices.Contains(link, c) }) {
						continue
					}
					ref := harness.Ref{Connector: g.loom.Connectors[half].ID, Cavity: c}
					if g.place(half, ref, at); g.Nodes[at].Half < 0 {
						g.Nodes[at].Half = half
					}
					g.Nodes[at].Cavities = append(g.Nodes[at].Cavities, ref)
				}
			}
		}
	}
}

// rows gives links with those that share a cavity made one, each cavity once, in order of appearance.
func rows(links [][]string) [][]string {
	var out [][]string
	for _, link := range links {
		row := []string{}
		rest := out[:0]
		for _, other := range out { // it takes in whatever shares a cavity with it
			if slices.ContainsFunc(link, func(c string) bool { return slices.Contains(other, c) }) {
				row = append(row, other...)
			} else {
				rest = append(rest, other)
			}
		}
		for _, c := range link {
			if !slices.Contains(row, c) {
				row = append(row, c)
			}
		}
		out = rest
		if len(row) > 0 {
			out = append(out, row)
		}
	}
	return out
}

// nodeOf gives the node of a wire's end. Two cavities that face each other in an in-line pair are one.
func (g *Graph) nodeOf(e *harness.End, h int32) int32 {
	switch {
	case e.Splice != "":
		at, ok := g.splice[e.Splice]
		if !ok {
			at = g.add(Node{Kind: Splice, Half: -1, Splice: -1})
			g.splice[e.Splice] = at
		}
		return at
	case e.Taped:
		return g.add(Node{Kind: Taped, Half: -1, Splice: -1})
	case e.At == (harness.Ref{}):
		return g.add(Node{Kind: Unseen, Half: -1, Splice: -1})
	}
	if at, ok := g.find(h, e.At); ok {
		return at
	}
	g.alone = append(g.alone, e.At)
	last := len(g.alone)
	x := Node{Kind: Terminal, Half: h, Splice: -1, Cavities: g.alone[last-1 : last : last]}
	if h >= 0 {
		if mate := g.loom.Connectors[h].Mate; mate != "" {
			other, known := g.half[mate]
			if at, ok := g.find(other, harness.Ref{Connector: mate, Cavity: e.At.Cavity}); known && ok {
				g.Nodes[at].Cavities = append(g.Nodes[at].Cavities, e.At)
				if g.Nodes[at].Kind == Terminal {
					g.Nodes[at].Kind = Contact
				}
				g.place(h, e.At, at)
				return at
			}
			if known {
				x.Kind = Contact
			}
		}
	}
	at := g.add(x)
	g.place(h, e.At, at)
	return at
}

// Tip is one end of one wire by number: twice the wire's, and one more for its second end.
type Tip int32

// Wire gives the number of its wire.
func (x Tip) Wire() int32 { return int32(x) >> 1 }

// End says which end it is, 0 or 1.
func (x Tip) End() int { return int(x & 1) }

// gatherTips lists the tips at each node.
func (g *Graph) gatherTips() {
	g.first = make([]int32, len(g.Nodes)+1)
	for _, e := range g.Ends {
		g.first[e[0]+1]++
		g.first[e[1]+1]++
	}
	for i := range g.Nodes {
		g.first[i+1] += g.first[i]
	}
	g.list = make([]Tip, 2*len(g.Ends))
	fill := append([]int32(nil), g.first...)
	for w, e := range g.Ends {
		for end, at := range e {
			g.list[fill[at]] = Tip(2*w + end)
			fill[at]++
		}
	}
}

// Tips lists the tips of wires at a node.
func (g *Graph) Tips(at int32) []Tip { return g.list[g.first[at]:g.first[at+1]] }

// Far gives the node at the other end of the tip's wire.
func (g *Graph) Far(x Tip) int32 { return g.Ends[x.Wire()][1-x.End()] }

// End gives what the loom says of a tip.
func (g *Graph) End(x Tip) *harness.End { return &g.loom.Wires[x.Wire()].Ends[x.End()] }

// TipID names the tip in the model.
func (g *Graph) TipID(x Tip) harness.TipID {
	return harness.TipID{Wire: g.loom.Wires[x.Wire()].ID, End: x.End()}
}

// joinCircuits numbers the circuits: all copper that is joined. A circuit is computed; a circuit number is only a
// label.
func (g *Graph) joinCircuits() {
	parent := make([]int32, len(g.Nodes))
	for i := range parent {
		parent[i] = int32(i)
	}
	find := func(a int32) int32 {
		for parent[a] != a {
			parent[a] = parent[parent[a]]
			a = parent[a]
		}
		return a
	}
	for _, e := range g.Ends {
		if a, b := find(e[0]), find(e[1]); a < b {
			parent[b] = a
		} else {
			parent[a] = b
		}
	}
	number := make([]int32, len(g.Nodes))
	for i := range g.Nodes {
		root := find(int32(i))
		if root == int32(i) {
			number[i] = int32(g.Circuits)
			g.Circuits++
		}
		g.Nodes[i].Circuit = number[root]
	}
}

// DeviceOf gives the device that a node's connector plugs into, nil where it is not known.
func (g *Graph) DeviceOf(at int32) *harness.Device {
	h := g.Nodes[at].Half
	if h < 0 || g.Plugged[h] < 0 {
		return nil
	}
	return &g.loom.Devices[g.Plugged[h]]
}

// Hub says whether a node is at a device that only hands on what others need: a unit, a fuse box, a ground.
func (g *Graph) Hub(at int32) bool {
	d := g.DeviceOf(at)
	return d != nil && d.Kind.Hub()
}

// Circuits numbers the circuits of a loom, by wire: two wires have one number exactly if they are joined by copper.
func Circuits(l *harness.Loom) []int {
	g := Draw(l)
	out := make([]int, len(l.Wires))
	for w := range g.Ends {
		out[w] = int(g.Nodes[g.Ends[w][0]].Circuit)
	}
	return out
}
