package network

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// Input is a harness with what is known of its wires, and what stands in it.
type Input struct {
	Harness    harness.Harness
	Connectors []harness.Half
	Devices    []harness.Device
	Wires      map[harness.WireID]Metal // by wire
	Inside     Inside
	// Devices that were found with a ground wire of their own: without it they are not grounded by their case.
	OwnGround map[string]bool
}

// Metal is what is known of a wire.
type Metal struct {
	Square size.Section // mm², 0 where nobody knows
	Mm     float64      // 0 where nobody knows
	Signal signal.Reading
	Text   string  // what it is for, in the words of its table
	Ohms   float64 // Ω that were measured in it beside its copper: a resistance wire; 0 where nobody has
}

// What a wire is reckoned at of which nobody knows size or length (common practice).
const (
	usualSquare size.Section = 0.75
	usualMm     float64      = 1500
)

// Drawn is the network of a harness, with what had to be assumed.
type Drawn struct {
	*Network
	Assumed []string                 // in words
	Open    []string                 // devices of which nothing is known: nothing flows through them
	Wires   map[harness.WireID]int32 // element of each wire
	Outputs map[string]string        // by output, a cavity of a unit: what it drives
	Own     []string                 // switches of their own that are devices of the harness
	// devices that turn the engine, or pull what does: by their wires, or as somebody said
	Starters map[string]bool
	Units    map[string]int32      // by unit: number of the relay that stands for its being awake
	Points   map[harness.Ref]Node  // the device's side of each cavity
	Nodes    map[string]Node       // places of their own names
	Loads    []int32               // elements that use current
	Motors   []int32               // of them, what cranks the engine
	Device   map[int32]string      // by element: the device that it is inside of
	Stalled  map[int32]float64     // by element: Ω of a motor that does not turn yet
	Inner    map[Node]bool         // inside of units: what lies there is the unit's to protect
	Of       map[string][]int32    // by device: its elements
	roles    map[harness.Ref]ended // what comes to each cavity
	byName   map[string]ended      // the same by the cavity's name
	points   map[string]bool       // ground points
}

type ended struct {
	signal signal.Reading
	text   string
}

// Draw draws the network of a harness. It fails only where what stands in it cannot be; what is not known is assumed,
// and said.
func Draw(in Input) (*Drawn, error) {
	d := &drawing{in: in, out: &Drawn{Wires: map[harness.WireID]int32{}, Outputs: map[string]string{},
		Starters: map[string]bool{},
		Units:    map[string]int32{},
		Points:   map[harness.Ref]Node{}, Nodes: map[string]Node{}, Device: map[int32]string{}, Of: map[string][]int32{},
		Stalled: map[int32]float64{},
		roles:   map[harness.Ref]ended{}, Inner: map[Node]bool{}}, halves: map[string]*harness.Half{},
		said:  map[string]bool{},
		feeds: map[string]string{}}
	for i := range in.Connectors {
		d.halves[in.Connectors[i].ID] = &in.Connectors[i]
	}
	for _, s := range in.Inside.Slots {
		d.feeds[s.Name], d.feeds["fuse "+s.Name] = s.Out, s.Out
	}
	d.b.begin()
	d.copper()
	d.plugs()
	d.inside()
	d.devices()
	d.alone()
	d.grounds()
	n, err := d.b.Network()
	if err != nil {
		return nil, err
	}
	d.out.Network = n
	d.index()
	slices.Sort(d.out.Own)
	slices.Sort(d.out.Assumed)
	slices.Sort(d.out.Open)
	return d.out, nil
}

// index notes by name what the checks ask for.
func (d *drawing) index() {
	o := d.out
	o.byName, o.points = map[string]ended{}, map[string]bool{}
	for i := range d.in.Devices {
		if d.in.Devices[i].Kind == harness.Grounds {
			o.points[d.in.Devices[i].ID] = true
		}
	}
	for at, e := range o.roles {
		o.byName[at.String()] = e
	}
}

// Turning is the switch that is on while the engine turns: what a unit only triggers draws current then.
const Turning = "engine turning"

type drawing struct {
	in      Input
	b       Builder
	out     *Drawn
	halves  map[string]*harness.Half
	feeds   map[string]string // by fuse: the point behind it, by which a new wire names it
	said    map[string]bool   // points and devices that somebody has said what is inside of
	turning bool              // what is drawn works only while the engine turns
	motors  []Element         // that crank the engine: drawn when it is known what works them
	single  []oneWire         // switches that one wire comes to
	lone    int               // wires of which size or length is assumed
}

// copper draws the wires, from what their tips are at.
func (d *drawing) copper() {
	h := d.in.Harness
	// by what is said of it: the wire that is the resistance, where several lead on as one
	resists := map[string]harness.WireID{}
	for _, w := range h.Wires() {
		if l := d.in.Wires[w]; l.Signal.Device == "ballast" && (resists[l.Text] == "" || l.Ohms > 0) {
			resists[l.Text] = w
		}
	}
	for _, w := range h.Wires() {
		tips, there := h.Tips(w)
		if !there {
			continue
		}
		l := d.in.Wires[w]
		more := 0.0
		square, mm := cmp.Or(l.Square, usualSquare), cmp.Or(l.Mm, usualMm)
		if l.Square == 0 || l.Mm == 0 {
			d.lone++
		}
		switch {
		case l.Ohms > 0:
			more = l.Ohms
		case resists[l.Text] == w: // a resistance wire: its copper is the least of it
			more = bodies()["ballast"].Ohms
			d.out.Assumed = append(d.out.Assumed, fmt.Sprintf("%s is a resistance wire: reckoned at %.3g Ω", w, more))
		}
		e := Element{Name: string(w), Kind: Copper, Wire: w, A: d.tip(w, 0, tips[0], l), B: d.tip(w, 1, tips[1], l),
			Ohms: square.WorstResistance(20)*mm/1000 + 2*JointOhms + more}
		d.out.Wires[w] = d.b.Add(e)
	}
	if d.lone > 0 {
		d.out.Assumed = append(d.out.Assumed,
			fmt.Sprintf("size or length of %d wires is not known: reckoned at %s and %.0f mm",
				d.lone, usualSquare, usualMm))
	}
}

// tip gives the node that a tip is at.
func (d *drawing) tip(wire harness.WireID, end int, t harness.Tip, l Metal) Node {
	switch t.State {
	case harness.Joined:
		if t.Joint.MadeAt() {
			d.b.Place(string(t.Joint), Made)
		}
		return d.point(string(t.Joint))
	case harness.Crimped:
		if p, ok := d.in.Harness.Place(t.Terminal); ok && p.State == harness.Seated {
			if _, known := d.out.roles[p.At]; !known || !d.out.roles[p.At].signal.Read() {
				d.out.roles[p.At] = ended{l.Signal, l.Text}
			}
			return d.b.Place(WireSide(p.At.String()), OfWire)
		}
		return d.b.Node("terminal " + string(t.Terminal))
	}
	return d.b.Place(fmt.Sprintf("end %d of %s", end+1, wire), OpenEnd)
}

// cavity gives the device's side of a cavity.
func (d *drawing) cavity(at harness.Ref) Node {
	if n, known := d.out.Points[at]; known {
		return n
	}
	n := d.b.Node(at.String())
	d.out.Points[at] = n
	return n
}

// plugs draws what is between terminals and what they face: contacts, links, the halves of in-line pairs.
func (d *drawing) plugs() {
	for _, at := range d.in.Harness.Cavities() {
		if _, full := d.in.Harness.In(at); !full || d.in.Harness.Free(at.Connector) {
			continue
		}
		d.b.Add(Element{Name: ContactOf(at.String()), Role: AtCavity, Of: at.String(), Kind: Contact,
			A:    d.b.Place(WireSide(at.String()), OfWire),
			B:    d.cavity(at),
			Ohms: ContactOhms})
	}
	for i := range d.in.Connectors {
		c := &d.in.Connectors[i]
		if d.in.Harness.Free(c.ID) {
			continue
		}
		if c.Mate != "" && !d.in.Harness.Free(c.Mate) {
			for _, cavity := range c.Cavities {
				d.b.Merge(d.cavity(harness.Ref{Connector: c.ID, Cavity: cavity}),
					d.cavity(harness.Ref{Connector: c.Mate, Cavity: cavity}))
			}
		}
		for _, row := range c.Links {
			for _, cavity := range row[min(1, len(row)):] {
				d.b.Merge(d.cavity(harness.Ref{Connector: c.ID, Cavity: row[0]}),
					d.cavity(harness.Ref{Connector: c.ID, Cavity: cavity}))
			}
		}
	}
}

// point gives the node that people mean by a text: a cavity, a place of its own name, or what a fuse feeds, by its
// name.
func (d *drawing) point(text string) Node {
	if out, is := d.feeds[text]; is {
		text = out
	}
	if at, ok := d.ref(text); ok {
		return d.cavity(at)
	}
	if text == "battery -" {
		text = "battery −"
	}
	n := d.b.Node(text)
	d.out.Nodes[text] = n
	return n
}

// ref reads a text as a cavity of a connector that is known.
func (d *drawing) ref(text string) (harness.Ref, bool) {
	return Cavity(text, func(id string) (harness.Connector, bool) {
		half, known := d.halves[id]
		if !known {
			return harness.Connector{}, false
		}
		c := half.Connector
		if rest := strings.TrimLeft(text[len(id):], "- "); !c.Has(rest) && d.in.Harness.Has(harness.Ref{Connector: id,
			Cavity: rest}) { // worked in, and not in the list
			c.Cavities = append(slices.Clone(c.Cavities), rest)
		}
		return c, true
	})
}

// Cavity reads a text as people write a cavity, "F3", "IS-1", "IS 1", and false where no connector that is known has
// it.
func Cavity(text string, connector func(id string) (harness.Connector, bool)) (harness.Ref, bool) {
	for i := len(text) - 1; i > 0; i-- {
		c, known := connector(text[:i])
		if !known {
			continue
		}
		cavity := text[i:]
		for len(cavity) > 1 && (cavity[0] == '-' || cavity[0] == ' ') {
			cavity = cavity[1:]
		}
		if c.Has(cavity) {
			return harness.Ref{Connector: c.ID, Cavity: cavity}, true
		}
	}
	return harness.Ref{}, false
}

// load adds something inside of a device that uses current.
func (d *drawing) load(device string, e Element) int32 {
	i := d.b.Add(e)
	d.out.Loads = append(d.out.Loads, i)
	d.out.Device[i] = device
	d.out.Of[device] = append(d.out.Of[device], i)
	return i
}

// Signal gives what the wire in a cavity is read as, by the cavity's name.
func (d *Drawn) Signal(cavity string) signal.Reading { return d.byName[cavity].signal }

// Read gives what the wire in a cavity is read as, and its words.
func (d *Drawn) Read(at harness.Ref) (reading signal.Reading, text string) {
	e := d.roles[at]
	return e.signal, e.text
}

// GroundPoint says whether a place is a ground point.
func (d *Drawn) GroundPoint(name string) bool { return d.points[name] }
