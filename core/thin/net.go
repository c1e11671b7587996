package thin

import (
	"draxel/core/harness"
)

// nodeKind says what copper meets in.
type nodeKind uint8

const (
	terminal nodeKind = iota // a cavity of a connector that plugs into a device
	splice                   // a factory splice
	link                     // cavities joined inside a connector: a junction, a wire that only passes through
	contact                  // two cavities of an in-line pair, facing
	unseen                   // an end that nobody has followed
	taped                    // an end that was found taped off
)

// passes says whether a node has no use of its own and only hands copper on.
func (k nodeKind) passes() bool { return k == splice || k == link || k == contact }

type node struct {
	kind     nodeKind
	half     int32         // of the first cavity, −1 where there is none
	cavities []harness.Ref // in order of appearance
	splice   int32         // index of the splice, −1
	circuit  int32
}

// net is the harness as copper: nodes joined by wires, all by number. It is made once for a loom in time that grows with
// its wires.
type net struct {
	loom     *harness.Loom
	nodes    []node
	ends     [][2]int32 // by wire: the nodes of its ends
	first    []int32    // by node: where its tips begin in list
	list     []tip
	halves   []int32       // by tip: the connector that it is in, −1 for none
	plugged  []int32       // by connector: its device, −1 for none
	alone    []harness.Ref // the cavities of nodes that have one, in one piece
	circuits int
	half     map[string]int32 // connector id to its index
	device   map[string]int32
	splice   map[string]int32      // splice id to its node
	at       []cavities            // by connector: which node each cavity is
	strays   map[harness.Ref]int32 // of cavities of connectors that are not listed
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
func (n *net) find(half int32, at harness.Ref) (int32, bool) {
	if half >= 0 {
		return n.at[half].find(at.Cavity)
	}
	i, ok := n.strays[at]
	return i, ok
}

func (n *net) place(half int32, ref harness.Ref, at int32) {
	if half >= 0 {
		n.at[half].add(ref.Cavity, at)
	} else {
		n.strays[ref] = at
	}
}

func newNet(l *harness.Loom) *net {
	n := &net{loom: l, ends: make([][2]int32, len(l.Wires)), half: make(map[string]int32, len(l.Connectors)), device: make(map[string]int32, len(l.Devices)),
		splice: make(map[string]int32, len(l.Splices)), at: make([]cavities, len(l.Connectors)), strays: map[harness.Ref]int32{}}
	n.nodes = make([]node, 0, 2*len(l.Wires))
	for i := range l.Devices {
		n.device[l.Devices[i].ID] = int32(i)
	}
	n.plugged = make([]int32, len(l.Connectors))
	n.alone = make([]harness.Ref, 0, 2*len(l.Wires))
	for i := range l.Connectors {
		n.half[l.Connectors[i].ID] = int32(i)
		n.plugged[i] = -1
		if d, ok := n.device[l.Connectors[i].Device]; ok {
			n.plugged[i] = d
		}
	}
	for i := range l.Splices {
		n.splice[l.Splices[i].ID] = n.add(node{kind: splice, half: -1, splice: int32(i)})
	}
	n.linked()
	n.halves = make([]int32, 2*len(l.Wires))
	for i := range l.Wires {
		for k := range l.Wires[i].Ends {
			h := int32(-1)
			if c := l.Wires[i].Ends[k].At.Connector; c != "" {
				if known, ok := n.half[c]; ok {
					h = known
				}
			}
			n.halves[2*i+k] = h
			n.ends[i][k] = n.nodeOf(&l.Wires[i].Ends[k], h)
		}
	}
	n.gatherTips()
	n.joinCircuits()
	return n
}

func (n *net) add(x node) int32 {
	n.nodes = append(n.nodes, x)
	return int32(len(n.nodes) - 1)
}

// linked makes one node of the cavities that are joined inside a connector.
func (n *net) linked() {
	for h := range n.loom.Connectors {
		for _, group := range n.loom.Connectors[h].Links {
			at := int32(-1)
			for _, c := range group {
				ref := harness.Ref{Connector: n.loom.Connectors[h].ID, Cavity: c}
				if _, twice := n.find(int32(h), ref); twice {
					continue
				}
				if at < 0 {
					at = n.add(node{kind: link, half: int32(h), splice: -1})
				}
				n.place(int32(h), ref, at)
				n.nodes[at].cavities = append(n.nodes[at].cavities, ref)
			}
		}
	}
}

// nodeOf gives the node of a wire's end. Two cavities that face each other in an in-line pair are one.
func (n *net) nodeOf(e *harness.End, h int32) int32 {
	switch {
	case e.Splice != "":
		at, ok := n.splice[e.Splice]
		if !ok {
			at = n.add(node{kind: splice, half: -1, splice: -1})
			n.splice[e.Splice] = at
		}
		return at
	case e.Taped:
		return n.add(node{kind: taped, half: -1, splice: -1})
	case e.At == (harness.Ref{}):
		return n.add(node{kind: unseen, half: -1, splice: -1})
	}
	if at, ok := n.find(h, e.At); ok {
		return at
	}
	n.alone = append(n.alone, e.At)
	last := len(n.alone)
	x := node{kind: terminal, half: h, splice: -1, cavities: n.alone[last-1 : last : last]}
	if h >= 0 {
		if mate := n.loom.Connectors[h].Mate; mate != "" {
			other, known := n.half[mate]
			if at, ok := n.find(other, harness.Ref{Connector: mate, Cavity: e.At.Cavity}); known && ok {
				n.nodes[at].cavities = append(n.nodes[at].cavities, e.At)
				if n.nodes[at].kind == terminal {
					n.nodes[at].kind = contact
				}
				n.place(h, e.At, at)
				return at
			}
			if known {
				x.kind = contact
			}
		}
	}
	at := n.add(x)
	n.place(h, e.At, at)
	return at
}

// tip is one end of one wire by number: twice the wire's, and one more for its second end.
type tip int32

func (x tip) wire() int32 { return int32(x) >> 1 }
func (x tip) end() int    { return int(x & 1) }

// gatherTips lists the tips at each node.
func (n *net) gatherTips() {
	n.first = make([]int32, len(n.nodes)+1)
	for _, e := range n.ends {
		n.first[e[0]+1]++
		n.first[e[1]+1]++
	}
	for i := range n.nodes {
		n.first[i+1] += n.first[i]
	}
	n.list = make([]tip, 2*len(n.ends))
	fill := append([]int32(nil), n.first...)
	for w, e := range n.ends {
		for end, at := range e {
			n.list[fill[at]] = tip(2*w + end)
			fill[at]++
		}
	}
}

// tips lists the tips of wires at a node.
func (n *net) tips(at int32) []tip { return n.list[n.first[at]:n.first[at+1]] }

// far gives the node at the other end of the tip's wire.
func (n *net) far(x tip) int32 { return n.ends[x.wire()][1-x.end()] }

// end gives what the loom says of a tip.
func (n *net) end(x tip) *harness.End { return &n.loom.Wires[x.wire()].Ends[x.end()] }

// length names the tip in the model.
func (n *net) length(x tip) harness.Length {
	return harness.Length{Wire: n.loom.Wires[x.wire()].ID, End: x.end()}
}

// joinCircuits numbers the circuits: all copper that is joined. A circuit is computed; a circuit number is only a label.
func (n *net) joinCircuits() {
	parent := make([]int32, len(n.nodes))
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
	for _, e := range n.ends {
		if a, b := find(e[0]), find(e[1]); a < b {
			parent[b] = a
		} else {
			parent[a] = b
		}
	}
	number := make([]int32, len(n.nodes))
	for i := range n.nodes {
		root := find(int32(i))
		if root == int32(i) {
			number[i] = int32(n.circuits)
			n.circuits++
		}
		n.nodes[i].circuit = number[root]
	}
}

// deviceOf gives the device that a node's connector plugs into, nil where it is not known.
func (n *net) deviceOf(at int32) *harness.Device {
	h := n.nodes[at].half
	if h < 0 || n.plugged[h] < 0 {
		return nil
	}
	return &n.loom.Devices[n.plugged[h]]
}

func (n *net) hub(at int32) bool {
	d := n.deviceOf(at)
	return d != nil && d.Kind.Hub()
}

// Circuits numbers the circuits of a loom, by wire: two wires have one number exactly if they are joined by copper.
func Circuits(l *harness.Loom) []int {
	n := newNet(l)
	out := make([]int, len(l.Wires))
	for w := range n.ends {
		out[w] = int(n.nodes[n.ends[w][0]].circuit)
	}
	return out
}
