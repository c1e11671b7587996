// Package handover makes what a person keeps, gives away and bills from the plan: the book with one drawn diagram per
// group of circuits, its indexes, the lists that must end at zero, and where a job stands.
//
// A book is made from the harness as it is built; what is not done yet is in it as planned, and said so. Every wire
// is on one page of it and no other: Book parts the wires into groups by what their circuits are for, and each group
// into pages that a sheet of paper holds. How a page is drawn is for core/diagram.
package handover

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/size"
)

// Known is what is known of a wire, as its table has it and as it becomes.
type Known struct {
	ID harness.WireID
	harness.Conductor
	Extended string  // colour or code of what lengthens it
	Mm       float64 // length, 0 where nobody knows
	New      bool    // cut from new wire
}

// Joint is a joint that was made, or is to be made.
type Joint struct {
	ID    string
	Place string // where it lies: "620 mm from the bulkhead"
	How   string // solder, crimp
}

// Input is what a book is made from.
type Input struct {
	Harness    harness.Harness // as it is built, with what is planned and not done
	Now        harness.Harness // as it is now
	Connectors []harness.Half
	Devices    []harness.Device
	Splices    []harness.Splice         // factory ones
	Wires      map[harness.WireID]Known // by whole wire
	Joints     map[harness.JointID]Joint
	Inside     network.Inside // fuses, relays, switches, cables that somebody has stated
}

// End is where an end of a length of wire is.
type End struct {
	Symbol string // the symbol of the drawing
	At     string // as people write it: "A8", "splice S21", "sealed end"
	Cavity harness.Ref
	Dead   string // why it ends in nothing: cut and sealed, capped, parked, taped, not followed
}

// Piece is a length of wire as the book has it.
type Piece struct {
	Name harness.WireID // of a cable as what is listed is named
	Known
	Ends    [2]End
	Planned bool // it is not so yet
	Cable   bool // a strap or cable of the lists
	Group   string
	circuit int
}

// Text is how the length is written at its line: colour and size.
func (l *Piece) Text() string {
	out := l.Colour.String()
	if out == "" {
		out = "?"
	}
	if thick := l.Thick(); thick != "" {
		out += " " + thick
	}
	return out
}

// Standing says whether the length is there: "planned" or "as built".
func (l *Piece) Standing() string {
	if l.Planned {
		return "planned"
	}
	return "as built"
}

// Long is its length in mm, without the unit; empty where nobody knows it.
func (l *Piece) Long() string {
	if l.Mm <= 0 {
		return ""
	}
	return strconv.FormatFloat(l.Mm, 'f', 0, 64)
}

// Thick is its size in mm², without the unit; empty where nobody knows it.
func (l *Piece) Thick() string {
	if l.Size <= 0 {
		return ""
	}
	return strings.TrimSuffix(l.Size.String(), " mm²")
}

// binder is a book in the making.
type binder struct {
	in      Input
	halves  map[string]*harness.Half
	devices map[string]*harness.Device
	factory map[harness.JointID]bool
	slots   map[string]*network.Slot   // by cavity or point of either side
	relays  map[string]*network.Coiled // by point
	all     []Piece
	symbols map[string]symbol
	count   map[string]int // of ends of wires, by the symbol that they are at
}

// Lengths lists every length of wire of the harness, and every cable of the lists, with where its ends are. In the
// order of their names.
func Lengths(in Input) []Piece {
	b := bind(in)
	return b.all
}

func bind(in Input) *binder {
	b := &binder{
		in:      in,
		halves:  map[string]*harness.Half{},
		devices: map[string]*harness.Device{},
		factory: map[harness.JointID]bool{},
		slots:   map[string]*network.Slot{},
		relays:  map[string]*network.Coiled{},
		symbols: map[string]symbol{},
		count:   map[string]int{},
	}
	for i := range in.Connectors {
		b.halves[in.Connectors[i].ID] = &in.Connectors[i]
	}
	for i := range in.Devices {
		b.devices[in.Devices[i].ID] = &in.Devices[i]
	}
	for _, s := range in.Splices {
		b.factory[s.ID] = true
	}
	for i := range in.Inside.Slots {
		s := &in.Inside.Slots[i]
		b.slots[b.point(s.In)], b.slots[b.point(s.Out)] = s, s
	}
	for i := range in.Inside.Relays {
		r := &in.Inside.Relays[i]
		for _, p := range []string{r.Coil[0], r.Coil[1], r.Common, r.Make, r.Break} {
			if p != "" {
				b.relays[b.point(p)] = r
			}
		}
	}
	for _, name := range in.Harness.Wires() {
		tips, there := in.Harness.Tips(name)
		if !there {
			continue
		}
		l := Piece{Name: name, Known: in.Wires[name.Whole()], Planned: b.planned(name, tips)}
		for end := range tips {
			l.Ends[end] = b.end(name, end, tips[end])
		}
		b.all = append(b.all, l)
	}
	for _, c := range in.Inside.Cables {
		l := Piece{
			Name:  harness.Listed(c.Name),
			Cable: true,
			Known: Known{ID: harness.Listed(c.Name), Mm: c.Length,
				Conductor: harness.Conductor{Function: "cable", Size: size.Section(c.Square)}},
		}
		l.Ends = [2]End{b.at(c.From), b.at(c.To)}
		b.all = append(b.all, l)
	}
	slices.SortStableFunc(b.all, func(a, c Piece) int { return finding.Natural(a.Name, c.Name) })
	for i := range b.all {
		for _, e := range b.all[i].Ends {
			b.count[e.Symbol]++
		}
	}
	b.group()
	return b
}

// point writes a point as its cavity, where it is one.
func (b *binder) point(text string) string {
	if at, is := b.cavity(text); is {
		return at.String()
	}
	return text
}

func (b *binder) cavity(text string) (harness.Ref, bool) {
	return network.Cavity(text, func(id string) (harness.Connector, bool) {
		if h := b.halves[id]; h != nil {
			return h.Connector, true
		}
		return harness.Connector{}, false
	})
}

// planned says whether a length is not yet as the book has it.
func (b *binder) planned(name harness.WireID, want [2]harness.Tip) bool {
	is, there := b.in.Now.Tips(name)
	if !there || is != want {
		return true
	}
	for _, t := range want {
		if t.State == harness.Crimped {
			now, okA := b.in.Now.Place(t.Terminal)
			then, okB := b.in.Harness.Place(t.Terminal)
			if okA != okB || now != then {
				return true
			}
		}
	}
	return false
}

// end gives where a tip is.
func (b *binder) end(name harness.WireID, end int, t harness.Tip) End {
	dead := func(why string) End {
		id := "end " + string(name) + map[int]string{0: " 1", 1: " 2"}[end]
		b.symbols[id] = symbol{kind: stub, title: why}
		return End{Symbol: id, At: why, Dead: why}
	}
	switch t.State {
	case harness.Joined:
		return b.joint(t.Joint)
	case harness.Crimped:
		p, there := b.in.Harness.Place(t.Terminal)
		switch {
		case !there:
			return dead("a terminal that is nowhere")
		case p.State == harness.Seated:
			return b.seated(p.At)
		case p.State == harness.Capped:
			return dead("capped " + p.Label)
		case p.State == harness.Parked:
			return dead("parked " + p.Label)
		}
		return dead("loose " + p.Label)
	case harness.Bare:
		return dead("cut, open")
	case harness.Sealed:
		return dead("cut and sealed")
	case harness.Ended:
		return dead("taped off")
	}
	return dead("not followed")
}

// at gives where a point is that is written as people do.
func (b *binder) at(text string) End {
	if at, is := b.cavity(text); is {
		return b.seated(at)
	}
	id := "point " + text
	kind := box
	switch low := strings.ToLower(text); {
	case strings.Contains(low, "battery −"),
		low == "body",
		low == "frame",
		strings.Contains(low, "ground"),
		strings.Contains(low, "block"):
		kind = ground
	case b.devices[text] != nil && b.devices[text].Kind == harness.Grounds:
		kind = ground
	}
	b.symbols[id] = symbol{kind: kind, title: text, source: strings.HasPrefix(strings.ToLower(text), "battery +")}
	return End{Symbol: id, At: text}
}

func (b *binder) joint(name harness.JointID) End {
	if at, is := b.cavity(string(name)); is && !b.factory[name] {
		return b.seated(at)
	}
	s := symbol{kind: joint, title: name.Name()}
	if b.factory[name] {
		s.kind = splice
	}
	if j, known := b.in.Joints[name]; known {
		s.under = []string{strings.TrimSpace(j.How + " " + j.Place)}
	}
	id := "joint " + string(name)
	b.symbols[id] = s
	word := "joint "
	if s.kind == splice {
		word = "splice "
	}
	if strings.HasPrefix(s.title, strings.TrimSpace(word)) || !b.factory[name] && name.Made() {
		word = ""
	}
	return End{Symbol: id, At: word + s.title}
}

// seated gives where a cavity is: at its device, in an in-line pair, at a fuse or a relay of a box.
func (b *binder) seated(at harness.Ref) End {
	e := End{At: at.String(), Cavity: at}
	h := b.halves[at.Connector]
	switch {
	case h == nil:
		e.Symbol = "plug " + at.Connector
		b.symbols[e.Symbol] = symbol{kind: box, title: at.Connector}
		return e
	case b.slots[e.At] != nil:
		s := b.slots[e.At]
		e.Symbol = "fuse " + s.Name
		b.symbols[e.Symbol] = symbol{kind: fuse, title: s.Name, under: amps(s.Rating), source: true}
		return e
	case b.relays[e.At] != nil:
		r := b.relays[e.At]
		e.Symbol = "relay " + r.Name
		b.symbols[e.Symbol] = symbol{kind: relay, title: r.Name}
		return e
	case h.Mate != "" && !b.in.Harness.Free(h.ID) && !b.in.Harness.Free(h.Mate):
		a := harness.Ref{Connector: min(h.ID, h.Mate), Cavity: at.Cavity}
		c := harness.Ref{Connector: max(h.ID, h.Mate), Cavity: at.Cavity}
		e.Symbol = "pair " + a.String()
		b.symbols[e.Symbol] = symbol{kind: plug, title: a.String() + " ][ " + c.String()}
		return e
	case b.in.Harness.Free(h.ID):
		e.Symbol, e.Dead = "plug "+h.ID, "plug "+h.ID+" hangs free"
		b.symbols[e.Symbol] = symbol{kind: box, title: h.ID, under: []string{"plug, hangs free"}}
		return e
	}
	if row := slices.IndexFunc(h.Links, func(row []string) bool { return slices.Contains(row, at.Cavity) }); row >= 0 {
		e.Symbol = "link " + harness.Ref{Connector: h.ID, Cavity: h.Links[row][0]}.String()
		b.symbols[e.Symbol] = symbol{kind: splice, title: h.ID + ", joined row"}
		return e
	}
	id := cmp.Or(h.Device, "plug "+h.ID)
	e.Symbol = "device " + id
	s := symbol{kind: box, title: cmp.Or(h.Device, h.ID)}
	if d := b.devices[h.Device]; d != nil {
		switch d.Kind {
		case harness.Grounds:
			s.kind = ground
			e.Symbol = "point " + h.Device
		case harness.Unit:
			s.unit = true
		case harness.Fuses:
			s.source = true
		}
		s.source = s.source || strings.Contains(strings.ToLower(h.Device), "ignition switch") ||
			strings.Contains(strings.ToLower(h.Device), "battery")
	}
	b.symbols[e.Symbol] = s
	return e
}
