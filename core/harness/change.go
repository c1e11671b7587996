package harness

import (
	"maps"
)

// Changes say what is different in a harness that is wanted: statements, not the way there. Of what they do not name
// nothing changes.
type Changes struct {
	Cavities []Connector          // housings that are new
	Tips     map[WireID][2]Tip    // lengths that are there, with what their tips are at
	Gone     []WireID             // lengths that are not there any more
	Places   map[TerminalID]Place // terminals that are there, and where
	Taken    []TerminalID         // terminals that are not there any more
	Off      []string             // connectors that are off what they were plugged into
	Plugs    map[Ref]bool         // cavities with a plug, or without one
	Stumps   []Ref                // cavities that hold a terminal whose wire was cut off it
}

// With gives the harness with changes made, one after the other. A terminal goes with the last wire that was crimped in
// it. With says nothing of whether hands can get there: that is what steps are proven for.
func (h Harness) With(all ...Changes) Harness {
	b := Work(h)
	n := &b.h
	if n.metal == nil {
		n.metal = newCopper()
	}
	for i := range all {
		n.change(&all[i])
	}
	was := n.crimps
	n.crimps = map[TerminalID]int{}
	for _, tips := range n.metal.wires {
		for _, t := range tips {
			if t.State == Crimped {
				n.crimps[t.Terminal]++
			}
		}
	}
	for t := range was {
		if n.crimps[t] == 0 {
			delete(n.terminals, t)
		}
	}
	n.at, n.loose = make(map[Ref]TerminalID, len(n.terminals)), 0
	for t, p := range n.terminals {
		switch p.State {
		case Seated:
			n.at[p.At] = t
		case Loose:
			n.loose++
		}
	}
	return *n
}

func (h *Harness) change(c *Changes) {
	*h = h.Housing(c.Cavities)
	maps.Copy(h.metal.wires, c.Tips)
	for _, w := range c.Gone {
		delete(h.metal.wires, w)
		h.metal.out[w] = true
	}
	maps.Copy(h.terminals, c.Places)
	for _, t := range c.Taken {
		delete(h.terminals, t)
	}
	for _, id := range c.Off {
		h.metal.free[id] = true
	}
	for at, plugged := range c.Plugs {
		if delete(h.plugs, at); plugged {
			h.plugs[at] = true
		}
	}
	for _, at := range c.Stumps {
		h.stumps[at] = true
	}
}

// Again says whether what an edit of copper does could be done once more: whatever it did is not so any more. It
// looks at the harness alone and changes nothing.
func (h Harness) Again(e Edit) bool {
	tips, there := h.Tips(e.Wire)
	switch e.Do {
	case Lay:
		return !there
	case FallOut:
		return there
	case Cut:
		_, stub := h.Tips(e.Wire.Stub(e.End))
		return there && !stub && tips[e.End].State != Joined && !tips[e.End].Open()
	case Open:
		return h.metal != nil && h.metal.has(e.Joint)
	case Free:
		return !h.Free(e.At.Connector)
	case Join:
		for _, l := range e.Lengths {
			if tips, there := h.Tips(l.Wire); !there || !tips[l.End].Open() {
				return false
			}
		}
		return len(e.Lengths) > 0
	}
	return false
}

func newCopper() *copper {
	return &copper{map[WireID][2]Tip{}, map[string]bool{}, map[WireID]bool{}}
}
