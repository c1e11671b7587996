package harness

import (
	"fmt"
	"maps"
	"slices"
)

// Do is what an edit does.
type Do string

// The edits of a harness.
const (
	Remove Do = "remove" // pull a terminal out of its cavity; it is then loose under its label
	Insert Do = "place"  // push a loose terminal into an empty cavity
	Add    Do = "add"    // a new wire's end, loose
	Cap    Do = "cap"    // seal a loose end off for good
	Park   Do = "park"   // seal a loose end that waits for its source
	Plug   Do = "plug"   // push a plug into an empty cavity
	Unplug Do = "unplug" // take a plug out of a cavity
	Tie    Do = "tie"    // join a loose end to the wire of a cavity: that wire serves for both
	Resume Do = "resume" // take an end that was capped, parked or tied in hand again
	Drop   Do = "drop"   // a loose end of a wire that is not wanted after all is taken away
	Sever  Do = "sever"  // cut a wire off a terminal that cannot be taken out: the end is loose, the cavity stays full

	Lay     Do = "lay"  // a length of wire as found
	Cut     Do = "cut"  // cut a wire close to one of its ends; a stub stays there
	Seal    Do = "seal" // seal an open end
	Open    Do = "open" // take a splice apart: what was joined is open
	Join    Do = "join" // join open ends
	Free    Do = "free" // take a connector off what it is plugged into
	FallOut Do = "out"  // a length that nothing holds comes out
	// Crimp an open end into a terminal: a new one in hand, or one that takes the place of one that was cut off.
	Crimp  Do = "crimp"
	Tap    Do = "tap"    // join open ends onto a wire close to one of its ends, which nobody cuts
	Clip   Do = "clip"   // cut the terminal off an end that is out of its cavity: the end is open
	Heal   Do = "heal"   // join a wire to the stub that was cut off it: it is whole again
	Land   Do = "land"   // bring an open end to a fuse, a ground point or another stud, named as a joint
	Unjoin Do = "unjoin" // take an end off a joint or a stud at which others stay: the end is open
)

// Edit is one change of a harness.
type Edit struct {
	Do       Do         `json:"do"`
	Terminal TerminalID `json:"terminal,omitempty"`
	At       Ref        `json:"at,omitzero"`
	Label    string     `json:"label,omitempty"`
	Wire     WireID     `json:"wire,omitempty"`
	End      int        `json:"end,omitempty"`     // of Wire: 0 or 1
	Joint    JointID    `json:"joint,omitempty"`   // of Open, Join, Tap and Land
	Tips     []Tip      `json:"tips,omitempty"`    // of Lay: two
	Lengths  []TipID    `json:"lengths,omitempty"` // of Join and Tap: the open ends
}

// Apply carries the edits out one after the other on a copy. It fails on the first that cannot be done and says why;
// the harness given is never changed.
func Apply(h Harness, edits ...Edit) (Harness, error) {
	b := Work(h)
	if err := b.Do(edits...); err != nil {
		return h, err
	}
	return b.h, nil
}

// Bench carries many edits out on one copy of a harness, for runs of steps so long that a copy for each would be waste.
type Bench struct{ h Harness }

// Work puts a copy of the harness on the bench.
func Work(h Harness) *Bench {
	return &Bench{Harness{cavities: h.cavities, at: maps.Clone(h.at), terminals: maps.Clone(h.terminals),
		plugs:  maps.Clone(h.plugs),
		stumps: maps.Clone(h.stumps), crimps: maps.Clone(h.crimps), metal: h.metal.clone(), loose: h.loose}}
}

// Do carries edits out until one cannot be done and says why. What was done before it stays done.
func (b *Bench) Do(edits ...Edit) error {
	for _, e := range edits {
		if err := b.h.apply(e); err != nil {
			return fmt.Errorf("%s %s: %w", e.Do, e.subject(), err)
		}
	}
	return nil
}

// Try carries edits out, all of them or none.
func (b *Bench) Try(edits ...Edit) error {
	after, err := Apply(b.h, edits...)
	if err == nil {
		b.h = after
	}
	return err
}

// ofOne are the edits that concern their own cavity and terminal and nothing else.
var ofOne = map[Do]bool{Remove: true, Insert: true, Add: true, Cap: true, Park: true, Plug: true, Unplug: true}

// Would gives how many terminals would be loose after edits, or why they cannot be done; nothing is changed.
func (b *Bench) Would(edits ...Edit) (inHand int, err error) {
	if slices.ContainsFunc(edits, func(e Edit) bool { return !ofOne[e.Do] }) {
		after, err := Apply(b.h, edits...)
		return after.loose, err
	}
	part := Bench{Harness{cavities: b.h.cavities, at: map[Ref]TerminalID{}, terminals: map[TerminalID]Place{},
		plugs: map[Ref]bool{}, stumps: map[Ref]bool{}, loose: b.h.loose}}
	for _, e := range edits {
		taken(part.h.at, b.h.at, e.At)
		taken(part.h.plugs, b.h.plugs, e.At)
		taken(part.h.stumps, b.h.stumps, e.At)
		taken(part.h.terminals, b.h.terminals, e.Terminal)
	}
	if err := part.Do(edits...); err != nil {
		return b.h.loose, err
	}
	return part.h.loose, nil
}

// taken takes what a map has under a key into another.
func taken[K comparable, V any](into, from map[K]V, key K) {
	if v, has := from[key]; has {
		into[key] = v
	}
}

// InHand counts the loose terminals.
func (b *Bench) InHand() int { return b.h.loose }

// Look gives the harness as it is now and as further edits will change it: to look at, not to keep.
func (b *Bench) Look() Harness { return b.h }

// Harness gives the harness as it is now; the bench is not to be used after it.
func (b *Bench) Harness() Harness { return b.h }

func (e Edit) subject() string {
	for _, name := range []string{string(e.Terminal), string(e.Wire), string(e.Joint)} {
		if name != "" {
			return name
		}
	}
	return e.At.String()
}

func (h *Harness) apply(e Edit) error {
	switch e.Do {
	case Remove:
		if h.at[e.At] != e.Terminal || e.Terminal == "" {
			return fmt.Errorf("it is not in %s", e.At)
		}
		if e.Label == "" {
			return fmt.Errorf("a terminal in hand needs a label")
		}
		delete(h.at, e.At)
		h.move(e.Terminal, Place{State: Loose, Label: e.Label})
	case Insert:
		if err := h.inHand(e.Terminal); err != nil {
			return err
		}
		if err := h.empty(e.At); err != nil {
			return err
		}
		h.at[e.At] = e.Terminal
		h.move(e.Terminal, Place{State: Seated, At: e.At})
	case Add:
		if _, twice := h.terminals[e.Terminal]; twice || e.Terminal == "" {
			return fmt.Errorf("there is one of that name already")
		}
		h.move(e.Terminal, Place{State: Loose, Label: e.Label})
	case Cap, Park:
		if err := h.inHand(e.Terminal); err != nil {
			return err
		}
		h.move(e.Terminal, Place{State: map[Do]State{Cap: Capped, Park: Parked}[e.Do], Label: e.Label})
	case Plug:
		if err := h.empty(e.At); err != nil {
			return err
		}
		h.plugs[e.At] = true
	case Unplug:
		if !h.plugs[e.At] {
			return fmt.Errorf("it has no plug")
		}
		delete(h.plugs, e.At)
	case Tie, Resume, Drop, Sever:
		return h.applyEnd(e)
	case Lay, Cut, Seal, Open, Join, Free, FallOut, Crimp, Tap, Clip, Heal, Land, Unjoin:
		return h.applyCopper(e)
	default:
		return fmt.Errorf("no such edit")
	}
	return nil
}

// applyEnd carries out what is done to one end of a wire outside a cavity.
func (h *Harness) applyEnd(e Edit) error {
	switch e.Do {
	case Tie:
		if err := h.inHand(e.Terminal); err != nil {
			return err
		}
		if !h.cavities.is(e.At) {
			return fmt.Errorf("there is no cavity %s", e.At)
		}
		h.move(e.Terminal, Place{State: Tied, At: e.At, Label: e.Label})
	case Resume:
		p, ok := h.terminals[e.Terminal]
		if !ok || p.State == Seated || p.State == Loose {
			return fmt.Errorf("it is not sealed off or joined")
		}
		if e.Label == "" {
			return fmt.Errorf("a terminal in hand needs a label")
		}
		h.move(e.Terminal, Place{State: Loose, Label: e.Label})
	case Drop:
		if err := h.inHand(e.Terminal); err != nil {
			return err
		}
		if h.crimps[e.Terminal] > 0 {
			return fmt.Errorf("its wire is still there")
		}
		h.loose--
		delete(h.terminals, e.Terminal)
	case Sever:
		if h.at[e.At] != e.Terminal || e.Terminal == "" {
			return fmt.Errorf("it is not in %s", e.At)
		}
		if e.Label == "" {
			return fmt.Errorf("a wire in hand needs a label")
		}
		delete(h.at, e.At)
		h.stumps[e.At] = true
		h.move(e.Terminal, Place{State: Loose, Label: e.Label})
	default:
		return fmt.Errorf("no such edit")
	}
	return nil
}

// move puts a terminal somewhere and keeps count of those in hand.
func (h *Harness) move(t TerminalID, p Place) {
	if h.terminals[t].State == Loose {
		h.loose--
	}
	if p.State == Loose {
		h.loose++
	}
	h.terminals[t] = p
}

func (h *Harness) inHand(t TerminalID) error {
	p, ok := h.terminals[t]
	if !ok {
		return fmt.Errorf("there is no such terminal")
	}
	if p.State != Loose {
		return fmt.Errorf("it is not in hand but %s", p)
	}
	return nil
}

func (h *Harness) empty(at Ref) error {
	if !h.cavities.is(at) {
		return fmt.Errorf("there is no cavity %s", at)
	}
	if t, full := h.at[at]; full {
		return fmt.Errorf("cavity %s holds %s", at, t)
	}
	if h.plugs[at] {
		return fmt.Errorf("cavity %s is plugged", at)
	}
	if h.stumps[at] {
		return fmt.Errorf("cavity %s holds the terminal that its wire was cut off", at)
	}
	return nil
}

// AppendKey appends what tells the edit from every other, each part ended by a zero byte, which no name has in it.
func (e *Edit) AppendKey(key []byte) []byte {
	for _, part := range [...]string{string(e.Do), string(e.Terminal), e.At.Connector, e.At.Cavity, e.Label,
		string(e.Wire), string(e.Joint)} {
		key = append(append(key, part...), 0)
	}
	key = append(key, byte(e.End), byte(len(e.Tips)), byte(len(e.Lengths)))
	for _, t := range e.Tips {
		for _, part := range [...]string{string(t.State), string(t.Terminal), string(t.Joint)} {
			key = append(append(key, part...), 0)
		}
	}
	for _, l := range e.Lengths {
		key = append(append(append(key, l.Wire...), 0), byte(l.End))
	}
	return key
}

// Check says why an edit cannot be, whatever harness it is done to.
func (e *Edit) Check() error {
	known := []Do{Remove, Insert, Add, Cap, Park, Plug, Unplug, Tie, Resume, Drop, Sever, Lay, Cut, Seal, Open, Join, Free,
		FallOut, Crimp, Tap, Clip, Heal, Land, Unjoin}
	ends := []int{e.End}
	for _, l := range e.Lengths {
		ends = append(ends, l.End)
	}
	switch {
	case !slices.Contains(known, e.Do):
		return fmt.Errorf("nothing is done by %q", e.Do)
	case slices.ContainsFunc(ends, func(end int) bool { return end < 0 || end > 1 }):
		return fmt.Errorf("a wire has two ends, 0 and 1")
	case e.Do == Lay && len(e.Tips) != 2:
		return fmt.Errorf("a length that is laid has two tips")
	}
	return nil
}
