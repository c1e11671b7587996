package harness

import (
	"fmt"
	"maps"
	"slices"
)

// TipState is what one tip of a length of wire is at.
type TipState string

// The states of a tip.
const (
	Crimped TipState = "crimped" // in a terminal
	Joined  TipState = "joined"  // at a splice or a joint
	Bare    TipState = "bare"    // cut and open
	Sealed  TipState = "sealed"  // cut, sealed and taped back
	Ended   TipState = "taped"   // found taped off
	Unseen  TipState = "unseen"  // nobody has followed it so far
)

// Tip is one end of a length of wire in the model.
type Tip struct {
	State    TipState   `json:"state"`
	Terminal TerminalID `json:"terminal,omitempty"` // of Crimped
	Joint    JointID    `json:"joint,omitempty"`    // of Joined: the splice or joint
}

// Open says whether the tip is ready to be joined or crimped.
func (t Tip) Open() bool { return t.State == Bare || t.State == Sealed }

// TipID names one tip of one length of wire.
type TipID struct {
	Wire WireID `json:"wire"`
	End  int    `json:"end"` // 0 or 1
}

// copper is what lies between the terminals: lengths of wire, and which connectors are off.
type copper struct {
	wires map[WireID][2]Tip
	free  map[string]bool // connectors taken off what they were plugged into, with whatever is in them
	out   map[WireID]bool // lengths that fell out
}

func (c *copper) clone() *copper {
	if c == nil {
		return nil
	}
	return &copper{maps.Clone(c.wires), maps.Clone(c.free), maps.Clone(c.out)}
}

// Standing gives what stands for a wire in the harness: itself, or the new one that took its place.
func (h Harness) Standing(wire WireID) WireID {
	if _, there := h.Tips(wire); there {
		return wire
	}
	return wire.Instead()
}

// Wires lists the lengths of wire that are in the harness, by name.
func (h Harness) Wires() []WireID {
	if h.metal == nil {
		return nil
	}
	return slices.Sorted(maps.Keys(h.metal.wires))
}

// Tips gives what the tips of a length are at, and false when it is not in the harness.
func (h Harness) Tips(wire WireID) ([2]Tip, bool) {
	if h.metal == nil {
		return [2]Tip{}, false
	}
	tips, ok := h.metal.wires[wire]
	return tips, ok
}

// Out says whether a length fell out.
func (h Harness) Out(wire WireID) bool { return h.metal != nil && h.metal.out[wire] }

// Free says whether a connector has been taken off.
func (h Harness) Free(connector string) bool { return h.metal != nil && h.metal.free[connector] }

func (h *Harness) applyCopper(e Edit) error {
	if h.metal == nil {
		h.metal = newCopper()
	}
	c := h.metal
	switch e.Do {
	case Lay:
		if err := c.lay(e); err != nil {
			return err
		}
		for _, t := range e.Tips {
			if t.State == Crimped {
				h.crimps[t.Terminal]++
			}
		}
		return nil
	case Free:
		if c.free[e.At.Connector] {
			return fmt.Errorf("connector %s is off already", e.At.Connector)
		}
		c.free[e.At.Connector] = true
		return nil
	case Open:
		return c.open(e.Joint)
	case Join:
		return c.join(e)
	}
	tips, ok := c.wires[e.Wire]
	if !ok {
		return fmt.Errorf("there is no such wire")
	}
	switch e.Do {
	case Cut:
		if s := tips[e.End].State; s == Bare || s == Sealed {
			return fmt.Errorf("it is cut there already")
		}
		stub := e.Wire.Stub(e.End)
		if _, twice := c.wires[stub]; twice || c.out[stub] {
			return fmt.Errorf("it was cut there before")
		}
		c.wires[stub] = [2]Tip{tips[e.End], {State: Bare}}
		tips[e.End] = Tip{State: Bare}
	case Seal:
		if tips[e.End].State != Bare {
			return fmt.Errorf("its end is not open but %s", tips[e.End].State)
		}
		tips[e.End] = Tip{State: Sealed}
	case Crimp:
		if !tips[e.End].Open() {
			return fmt.Errorf("its end is not open but %s", tips[e.End].State)
		}
		if h.crimps[e.Terminal] == 0 {
			if err := h.inHand(e.Terminal); err != nil {
				return err
			}
			h.crimps[e.Terminal]++
		} else if err := h.takeStub(e.Terminal); err != nil {
			return err
		}
		tips[e.End] = Tip{State: Crimped, Terminal: e.Terminal}
	case Land:
		if !tips[e.End].Open() || e.Joint == "" {
			return fmt.Errorf("its end is not open but %s, or nothing is named to bring it to", tips[e.End].State)
		}
		tips[e.End] = Tip{State: Joined, Joint: e.Joint}
	case Unjoin:
		if tips[e.End].State != Joined {
			return fmt.Errorf("its end is not joined but %s", tips[e.End].State)
		}
		tips[e.End] = Tip{State: Bare}
	case Tap:
		return h.tap(e, tips)
	case Clip:
		if err := h.clip(tips[e.End]); err != nil {
			return err
		}
		tips[e.End] = Tip{State: Bare}
	case Heal:
		stub := e.Wire.Stub(e.End)
		was, there := c.wires[stub]
		if !there || !tips[e.End].Open() || !was[1].Open() {
			return fmt.Errorf("its end and its stub are not both open")
		}
		tips[e.End] = was[0]
		delete(c.wires, stub)
	case FallOut:
		for _, t := range tips {
			if err := h.canLeave(t); err != nil {
				return err
			}
		}
		h.takeTerminals(tips)
		delete(c.wires, e.Wire)
		c.out[e.Wire] = true
		return nil
	}
	c.wires[e.Wire] = tips
	return nil
}

func (c *copper) lay(e Edit) error {
	if len(e.Tips) != 2 {
		return fmt.Errorf("a wire has two tips, not %d", len(e.Tips))
	}
	if _, twice := c.wires[e.Wire]; twice || e.Wire == "" {
		return fmt.Errorf("there is one of that name already")
	}
	c.wires[e.Wire] = [2]Tip{e.Tips[0], e.Tips[1]}
	return nil
}

// open takes a splice apart: every tip at it is bare.
func (c *copper) open(joint JointID) error {
	found := false
	for w, tips := range c.wires {
		for i, t := range tips {
			if t.State == Joined && t.Joint == joint {
				tips[i], found = Tip{State: Bare}, true
			}
		}
		c.wires[w] = tips
	}
	if !found {
		return fmt.Errorf("nothing is joined at %s", joint)
	}
	return nil
}

// join joins open ends; one alone can only come to a joint that is there.
func (c *copper) join(e Edit) error {
	if e.Joint == "" || len(e.Lengths) == 0 || len(e.Lengths) == 1 && !c.has(e.Joint) {
		return fmt.Errorf("a joint needs two ends and a name")
	}
	return c.bring(e)
}

// has says whether anything is joined at a joint.
func (c *copper) has(joint JointID) bool {
	for _, tips := range c.wires {
		for _, t := range tips {
			if t.State == Joined && t.Joint == joint {
				return true
			}
		}
	}
	return false
}

// bring brings open ends to a joint.
func (c *copper) bring(e Edit) error {
	for _, l := range e.Lengths {
		tips, ok := c.wires[l.Wire]
		if !ok {
			return fmt.Errorf("there is no wire %s", l.Wire)
		}
		if !tips[l.End].Open() {
			return fmt.Errorf("the end of %s is not open but %s", l.Wire, tips[l.End].State)
		}
		tips[l.End] = Tip{State: Joined, Joint: e.Joint}
		c.wires[l.Wire] = tips
	}
	return nil
}

// tap joins open ends onto a wire that stays whole. In the model its last bit is then a length of its own, named like
// the stub of a cut.
func (h *Harness) tap(e Edit, tips [2]Tip) error {
	c, stub := h.metal, e.Wire.Stub(e.End)
	if len(e.Lengths) == 0 || e.Joint == "" {
		return fmt.Errorf("a tap needs an end to join and a name")
	}
	if tips[e.End].Open() {
		return fmt.Errorf("its end is open: join it")
	}
	if _, twice := c.wires[stub]; twice {
		return fmt.Errorf("it was cut there before")
	}
	if err := c.bring(e); err != nil {
		return err
	}
	at := Tip{State: Joined, Joint: e.Joint}
	c.wires[stub] = [2]Tip{tips[e.End], at}
	tips[e.End] = at
	c.wires[e.Wire] = tips
	return nil
}

// clip takes the terminal off an end that is out of its cavity.
func (h *Harness) clip(t Tip) error {
	if t.State != Crimped {
		return fmt.Errorf("its end has no terminal but is %s", t)
	}
	if h.crimps[t.Terminal] != 1 {
		return fmt.Errorf("%d wires are crimped into terminal %s", h.crimps[t.Terminal], t.Terminal)
	}
	if p := h.terminals[t.Terminal]; p.State == Seated {
		return fmt.Errorf("its terminal is still %s", p)
	} else if p.State == Loose {
		h.loose--
	}
	delete(h.crimps, t.Terminal)
	delete(h.terminals, t.Terminal)
	return nil
}

// takeStub takes away the piece that was cut off with a terminal, and leaves the terminal's place to a new one.
func (h *Harness) takeStub(t TerminalID) error {
	if _, there := h.terminals[t]; !there {
		return fmt.Errorf("there is no terminal %s", t)
	}
	if h.crimps[t] != 1 {
		return fmt.Errorf("%d wires are crimped into terminal %s", h.crimps[t], t)
	}
	for w, tips := range h.metal.wires {
		for end, tip := range tips {
			if tip.State != Crimped || tip.Terminal != t {
				continue
			}
			if s := tips[1-end].State; s != Bare && s != Sealed {
				return fmt.Errorf("wire %s is still crimped into terminal %s", w, t)
			}
			delete(h.metal.wires, w)
			return nil
		}
	}
	return fmt.Errorf("no wire is crimped into terminal %s", t)
}

// canLeave says why a tip still holds its wire in the harness.
func (h *Harness) canLeave(t Tip) error {
	switch t.State {
	case Joined:
		return fmt.Errorf("it is still joined at %s", t.Joint)
	case Crimped:
		if p := h.terminals[t.Terminal]; p.State == Seated && !h.metal.free[p.At.Connector] {
			return fmt.Errorf("its terminal is still %s", p)
		}
	}
	return nil
}

// takeTerminals takes the terminals of a length that fell out, unless another wire is crimped into them too.
func (h *Harness) takeTerminals(tips [2]Tip) {
	for _, t := range tips {
		if t.State != Crimped {
			continue
		}
		h.crimps[t.Terminal]--
		if h.crimps[t.Terminal] > 0 {
			continue
		}
		if p, ok := h.terminals[t.Terminal]; ok && p.State == Seated {
			delete(h.at, p.At)
		}
		delete(h.terminals, t.Terminal)
	}
}

// copperDifferences lists what tells the lengths of wire of two harnesses apart.
func copperDifferences(got, want Harness) []string {
	var out []string
	for _, w := range want.Wires() {
		g, ok := got.Tips(w)
		if x, _ := want.Tips(w); !ok {
			out = append(out, fmt.Sprintf("wire %s is missing", w))
		} else if g != x {
			out = append(out, fmt.Sprintf("wire %s ends %s and %s, should end %s and %s", w, g[0], g[1], x[0], x[1]))
		}
	}
	for _, c := range got.freeConnectors() {
		if !want.Free(c) {
			out = append(out, fmt.Sprintf("connector %s is off and should not be", c))
		}
	}
	for _, c := range want.freeConnectors() {
		if !got.Free(c) {
			out = append(out, fmt.Sprintf("connector %s should be off", c))
		}
	}
	for _, w := range got.Wires() {
		if _, ok := want.Tips(w); !ok {
			out = append(out, fmt.Sprintf("wire %s should not be there", w))
		}
	}
	return out
}

// String says what the tip is at, in words.
func (t Tip) String() string {
	switch t.State {
	case Crimped:
		return "in terminal " + string(t.Terminal)
	case Joined:
		return "at " + string(t.Joint)
	}
	return string(t.State)
}

func (h Harness) freeConnectors() []string {
	if h.metal == nil {
		return nil
	}
	return slices.Sorted(maps.Keys(h.metal.free))
}
