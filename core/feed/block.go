package feed

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// Block is a fuse and relay block of one's own. In the harness it is a connector of its name: a cavity for what each
// slot feeds, for the ends of each relay, and for what feeds each group.
type Block struct {
	ID     string       `json:"id"` // "FB": its first slot is cavity FB-1
	Groups []FeedGroup  `json:"groups"`
	Slots  []BlockSlot  `json:"slots"`
	Relays []BlockRelay `json:"relays"`
}

// FeedGroup is a bus of the block: what stands on it is fed together.
type FeedGroup struct {
	Name  string  `json:"name"`            // battery, ignition, through the main relay, start
	From  string  `json:"from,omitempty"`  // what feeds it: a cavity of the vehicle, or a place such as "battery +"
	Relay string  `json:"relay,omitempty"` // or the relay of this block whose 87 feeds it
	Fused bool    `json:"fused,omitempty"` // a fuse stands where its cable begins
	Main  float64 `json:"main,omitempty"`  // A of that fuse, 0: the one that is reckoned to fit
	Stud  string  `json:"stud,omitempty"`  // thread of the stud that its cable is bolted to: M8
}

// BlockSlot is a place for a fuse. What it feeds is said where that wire begins, in Match.
type BlockSlot struct {
	Name  string  `json:"name"` // 1
	Group string  `json:"group"`
	Amps  float64 `json:"amps,omitempty"` // A of the fuse, 0: the one that is reckoned to fit
	Slow  bool    `json:"slow,omitempty"`
	For   string  `json:"for,omitempty"` // what the lid says, where that is not what it feeds
}

// BlockRelay is a relay of the block. Its 30 stands on a group or behind a slot; its coil is led to where each end
// is said to be: a group of the block, a cavity, or a ground point.
type BlockRelay struct {
	Name       string  `json:"name"` // R1
	For        string  `json:"for,omitempty"`
	From       string  `json:"from"`                 // the group, or "slot 3"
	Plus       string  `json:"plus"`                 // what feeds the coil's 86
	Minus      string  `json:"minus"`                // what the coil's 85 is led to
	Amps       float64 `json:"amps,omitempty"`       // A that its contact is made for, 0: 30
	Suppressed string  `json:"suppressed,omitempty"` // resistor, diode; empty: not
}

// What a relay's coil can be suppressed by.
const (
	ByResistor = "resistor"
	ByDiode    = "diode"
)

// usualContact is what the contact of a relay is made for of which nobody has said, A (common practice).
const usualContact = 30

// mostSlots is how many slots or relays a block can have.
const mostSlots = 100

// Check says why a block cannot be.
func (b *Block) Check() error {
	names := map[string]bool{}
	once := func(what, name string) error {
		if name == "" || len(name) > 60 || strings.ContainsAny(name, ";\n") {
			return fmt.Errorf("a %s has a name of at most 60 letters", what)
		}
		if names[what+name] {
			return fmt.Errorf("there are two %ss %q", what, name)
		}
		names[what+name] = true
		return nil
	}
	if err := once("block", b.ID); err != nil {
		return err
	}
	if len(b.Slots) > mostSlots || len(b.Relays) > mostSlots || len(b.Groups) > mostSlots {
		return fmt.Errorf("a block has at most %d slots, relays and groups", mostSlots)
	}
	for i := range b.Groups {
		g := &b.Groups[i]
		if err := once("group", g.Name); err != nil {
			return err
		}
		if g.From != "" && g.Relay != "" || g.From == "" && g.Relay == "" {
			return fmt.Errorf("group %q is fed from a place or through a relay of the block: one of the two", g.Name)
		}
		if g.Relay != "" && b.relay(g.Relay) == nil {
			return fmt.Errorf("group %q is fed through %s, and the block has no such relay", g.Name, g.Relay)
		}
		if g.Main != 0 && !(g.Main >= 1 && g.Main <= 1000) {
			return fmt.Errorf("the main fuse of group %q has 1 to 1000 A", g.Name)
		}
	}
	for i := range b.Slots {
		s := &b.Slots[i]
		if err := once("slot", s.Name); err != nil {
			return err
		}
		if b.group(s.Group) == nil {
			return fmt.Errorf("slot %s stands in group %q, and the block has none of that name", s.Name, s.Group)
		}
		if s.Amps != 0 && !(s.Amps >= 0.5 && s.Amps <= 1000) {
			return fmt.Errorf("slot %s has a fuse of 0.5 to 1000 A, or the one that is reckoned", s.Name)
		}
	}
	for i := range b.Relays {
		r := &b.Relays[i]
		if err := once("relay", r.Name); err != nil {
			return err
		}
		if b.bus(r.From) == "" {
			return fmt.Errorf("30 of relay %s stands on %q: a group or a slot of the block", r.Name, r.From)
		}
		if r.Plus == "" || r.Minus == "" || r.Plus == r.Minus {
			return fmt.Errorf("say where both ends of the coil of relay %s are led", r.Name)
		}
		if r.Amps != 0 && !(r.Amps >= 1 && r.Amps <= 500) {
			return fmt.Errorf("the contact of relay %s is made for 1 to 500 A", r.Name)
		}
		if !slices.Contains([]string{"", ByResistor, ByDiode}, r.Suppressed) {
			return fmt.Errorf("the coil of relay %s is suppressed by a resistor or a diode, not by %q", r.Name, r.Suppressed)
		}
	}
	return b.circle()
}

// circle refuses a group that is fed by itself: through its own relay, or round by others.
func (b *Block) circle() error {
	for i := range b.Groups {
		seen := map[string]bool{}
		for g := &b.Groups[i]; g != nil && g.Relay != ""; {
			if seen[g.Name] {
				return fmt.Errorf("group %q feeds itself", g.Name)
			}
			seen[g.Name] = true
			g = b.group(b.groupOf(b.relay(g.Relay).From))
		}
	}
	return nil
}

func (b *Block) group(name string) *FeedGroup {
	i := slices.IndexFunc(b.Groups, func(g FeedGroup) bool { return g.Name == name })
	if i < 0 {
		return nil
	}
	return &b.Groups[i]
}

func (b *Block) relay(name string) *BlockRelay {
	i := slices.IndexFunc(b.Relays, func(r BlockRelay) bool { return r.Name == name })
	if i < 0 {
		return nil
	}
	return &b.Relays[i]
}

func (b *Block) slot(name string) *BlockSlot {
	i := slices.IndexFunc(b.Slots, func(s BlockSlot) bool { return s.Name == name })
	if i < 0 {
		return nil
	}
	return &b.Slots[i]
}

// slotWord begins the name of a slot where a group could stand too.
const slotWord = "slot "

// bus gives the point that a group's name or "slot 3" stands for, empty where the block has none.
func (b *Block) bus(name string) string {
	if b.group(name) != nil {
		return b.ID + " bus " + name
	}
	if s := strings.TrimPrefix(name, slotWord); s != name && b.slot(s) != nil {
		return b.At(s).String()
	}
	return ""
}

// At gives the cavity of a slot or of a relay's end.
func (b *Block) At(cavity string) harness.Ref { return harness.Ref{Connector: b.ID, Cavity: cavity} }

// in names the cavity at which a group is fed from outside.
func (b *Block) in(group int) string { return fmt.Sprint("in", group+1) }

// Half gives the block as a connector of the harness.
func (b *Block) Half() harness.Half {
	var cavities []string
	for i := range b.Slots {
		cavities = append(cavities, b.Slots[i].Name)
	}
	for i := range b.Relays {
		for _, end := range []string{"30", "85", "86", "87"} {
			cavities = append(cavities, b.Relays[i].Name+"."+end)
		}
	}
	for i := range b.Groups {
		if b.Groups[i].From != "" {
			cavities = append(cavities, b.in(i))
		}
	}
	return harness.Half{Connector: harness.Connector{ID: b.ID, Name: b.ID, Cavities: cavities, Rows: 2, Assumed: true},
		Device: b.ID}
}

// OwnBlock says of a device that it is such a block.
const OwnBlock = "a block of one's own"

// Device gives the block as a device of the harness, that Reach puts somewhere.
func (b *Block) Device() harness.Device {
	return harness.Device{ID: b.ID, Kind: harness.Fuses, System: "power", Owner: harness.Body, Added: OwnBlock}
}

// Lead is a wire that the block itself needs.
type Lead struct {
	At   harness.Ref // its cavity
	To   string      // a cavity, or a place
	Why  string
	Coil bool // it feeds or grounds a coil, and no more
}

// Leads lists the wires that the block itself needs: what feeds its groups, and the ends of its coils.
func (b *Block) Leads() []Lead {
	var out []Lead
	for i := range b.Groups {
		g := &b.Groups[i]
		if g.From == "" {
			continue
		}
		l := Lead{At: b.At(b.in(i)), To: g.From, Why: fmt.Sprintf("%s feeds group %q of %s.", g.From, g.Name, b.ID)}
		if g.Fused {
			l.To = b.main(g)
			l.Why = fmt.Sprintf("%s feeds group %q of %s through a fuse beside it.", g.From, g.Name, b.ID)
		}
		out = append(out, l)
	}
	for i := range b.Relays {
		r := &b.Relays[i]
		for end, to := range map[string]string{"86": r.Plus, "85": r.Minus} {
			if b.bus(to) == "" {
				out = append(out, Lead{At: b.At(r.Name + "." + end), To: to, Coil: true,
					Why: fmt.Sprintf("%s of relay %s, %s.", end, r.Name, b.titleOf(r))})
			}
		}
	}
	slices.SortStableFunc(out, func(x, y Lead) int { return harness.CompareRefs(x.At, y.At) })
	return out
}

// main names the point behind the fuse at a group's source.
func (b *Block) main(g *FeedGroup) string { return b.ID + " main " + g.Name }

func (b *Block) titleOf(r *BlockRelay) string {
	if r.For != "" {
		return r.For
	}
	return "of " + b.ID
}

// RelayName is what the network calls a relay of the block.
func (b *Block) RelayName(relay string) string { return b.ID + " " + relay }

// fuseless is the rating in A by which a slot is drawn until the fuse that fits is reckoned: its few mΩ are the
// least of its circuit.
const fuseless = 10

// rated gives the rating in A by which a fuse is drawn, and notes where it is to be reckoned.
func rated(f *vehicle.Facts, fuse string, said float64) float64 {
	if said == 0 {
		f.Reckoned[fuse] = true
		return fuseless
	}
	return said
}

// Add puts the block into what stands in the vehicle.
func (b *Block) Add(f *vehicle.Facts) {
	in := &f.Inside
	link := func(name, from, to string) {
		in.Cables = append(in.Cables, network.Cable{Name: name, From: from, To: to, Ohms: network.StudOhms})
	}
	for i := range b.Groups {
		g := &b.Groups[i]
		bus := b.bus(g.Name)
		if g.Relay != "" {
			link(b.ID+" 87 to "+g.Name, b.At(g.Relay+".87").String(), bus)
			continue
		}
		link(b.ID+" inlet "+g.Name, b.At(b.in(i)).String(), bus)
		if g.Fused {
			in.Slots = append(in.Slots, network.Slot{Name: b.main(g), In: g.From, Out: b.main(g), Rating: rated(f, b.main(g),
				g.Main)})
			f.Slow[b.main(g)] = true
		}
	}
	for i := range b.Slots {
		s := &b.Slots[i]
		name := b.At(s.Name).String()
		in.Slots = append(in.Slots, network.Slot{Name: name, In: b.bus(s.Group), Out: name, Rating: rated(f, name, s.Amps)})
		f.Slow[name] = s.Slow
	}
	for i := range b.Relays {
		r := &b.Relays[i]
		coil := [2]string{b.bus(r.Plus), b.bus(r.Minus)}
		for k, end := range []string{"86", "85"} {
			if coil[k] == "" {
				coil[k] = b.At(r.Name + "." + end).String()
			}
		}
		link(b.ID+" "+r.Name+" 30", b.bus(r.From), b.At(r.Name+".30").String())
		in.Relays = append(in.Relays, network.Coiled{Name: b.RelayName(r.Name), Coil: coil,
			Common: b.At(r.Name + ".30").String(), Make: b.At(r.Name + ".87").String(), Diode: r.Suppressed == ByDiode})
		f.Contacts[b.RelayName(r.Name)] = usual(r.Amps, usualContact)
	}
}

func usual(said, other float64) float64 {
	if said > 0 {
		return said
	}
	return other
}
