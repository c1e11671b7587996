package thin

import (
	"cmp"
	"slices"

	"draxel/core/circuit"
	"draxel/core/colour"
	"draxel/core/harness"
	"draxel/core/size"
)

// Counts are what must balance: every wire end that was let go is joined again, deleted, capped, parked, in stock or in
// hand. Pulled is counted from the steps that were carried out, the rest from the harness that they left.
type Counts struct {
	Pulled    int     `json:"pulled"`
	Placed    int     `json:"placed"`
	Deleted   int     `json:"deleted"` // of pieces too short to keep
	Capped    int     `json:"capped"`
	Parked    int     `json:"parked"`
	Stock     int     `json:"stock"`
	InHand    int     `json:"inHand"`
	Balanced  bool    `json:"balanced"`
	Undecided int     `json:"undecided"` // wires
	Keep      int     `json:"keep"`
	Goes      int     `json:"goes"`
	LiveStubs int     `json:"liveStubs"` // stubs on copper that stays
	Steps     int     `json:"steps"`
	Done      int     `json:"done"`
	Minutes   float64 `json:"minutes"` // reckoned for the whole, with what was learned from the log
	Left      float64 `json:"left"`    // for what is left
	Learned   float64 `json:"learned"` // worked over reckoned so far; 1 where nothing was logged
}

// Count draws up the balance.
func (r *Result) Count(found harness.Harness, p Progress, planned []Step) Counts {
	c := Counts{Learned: 1}
	for _, v := range r.Wires {
		switch v.Choice {
		case Keep:
			c.Keep++
		case Goes:
			c.Goes++
		case Undecided:
			c.Undecided++
		}
	}
	c.Pulled = pulled(found, p)
	r.ends(&c, found, p)
	c.Balanced = c.Pulled == c.Placed+c.Deleted+c.Capped+c.Parked+c.Stock+c.InHand
	reckoned := 0.0
	for _, s := range planned {
		c.Steps++
		c.Minutes += s.Minutes
		if _, done := p.Done[s.ID]; done {
			c.Done++
			reckoned += s.Minutes
		} else {
			c.Left += s.Minutes
		}
	}
	if w := r.t.in.Bench.Worked; w > 0 && reckoned > 0 {
		c.Learned = w / reckoned
	}
	c.Minutes *= c.Learned
	c.Left *= c.Learned
	return c
}

// pulled counts the ends of the wires as found that the ticks let go, from the edits that were done.
func pulled(found harness.Harness, p Progress) int {
	gone := map[harness.TipID]bool{}
	byTerminal := map[harness.TerminalID][]harness.TipID{}
	byJoint := map[harness.JointID][]harness.TipID{}
	for _, w := range found.Wires() {
		tips, _ := found.Tips(w)
		for end, t := range tips {
			l := harness.TipID{Wire: w, End: end}
			byTerminal[t.Terminal] = append(byTerminal[t.Terminal], l)
			byJoint[t.Joint] = append(byJoint[t.Joint], l)
		}
	}
	for _, t := range p.Done {
		for _, e := range t.Edits {
			switch e.Do {
			case harness.Cut:
				if _, there := found.Tips(e.Wire); there {
					gone[harness.TipID{Wire: e.Wire, End: e.End}] = true
				}
			case harness.Open:
				for _, l := range byJoint[e.Joint] {
					gone[l] = true
				}
			case harness.Remove:
				for _, l := range byTerminal[e.Terminal] {
					gone[l] = true
				}
			case harness.FallOut:
				if _, whole := found.Tips(e.Wire); whole {
					gone[harness.TipID{Wire: e.Wire}] = true
					gone[harness.TipID{Wire: e.Wire, End: 1}] = true
				}
			default:
			}
		}
	}
	return len(gone)
}

// ends looks where each end of each wire as found is now. An end that others were joined onto uncut was never let go.
func (r *Result) ends(c *Counts, found harness.Harness, p Progress) {
	now, tapped := p.Now, map[harness.TipID]bool{}
	for _, t := range p.Done {
		for _, e := range t.Edits {
			if e.Do == harness.Tap {
				tapped[harness.TipID{Wire: e.Wire, End: e.End}] = true
			}
		}
	}
	for w := range r.t.loom.Wires {
		wire := &r.t.loom.Wires[w]
		was, _ := found.Tips(wire.ID)
		is, there := now.Tips(wire.ID)
		if !there {
			if now.Out(wire.ID) {
				if wire.Length > 0 && wire.Length < r.t.in.Bench.Usable {
					c.Deleted += 2
				} else {
					c.Stock += 2
				}
			}
			continue
		}
		for end := range 2 {
			place, _ := now.Place(is[end].Terminal)
			switch {
			case is[end].State == harness.Crimped && place.State == harness.Capped:
				c.Capped++
			case is[end].State == harness.Crimped && place.State == harness.Parked:
				c.Parked++
			case is[end].State == harness.Crimped && place.State == harness.Loose, is[end].State == harness.Bare:
				c.InHand++
			case is[end].State == harness.Crimped && place.State == harness.Seated:
				if before, _ := found.Place(was[end].Terminal); is[end] != was[end] || place != before {
					c.Placed++
				}
			case is[end] == was[end], tapped[harness.TipID{Wire: wire.ID, End: end}]:
			case is[end].State == harness.Sealed:
				c.Capped++
			case is[end].State == harness.Joined:
				c.Placed++
			}
			if tips, stub := now.Tips(wire.ID.Stub(end)); stub && tips[1].State == harness.Sealed {
				c.LiveStubs++
			}
		}
	}
}

// StockLine is wire of one colour and size that came out, or will.
type StockLine struct {
	Colour  string        `json:"colour"`
	Shown   []string      `json:"shown"` // the wires
	Size    size.Section  `json:"size,omitempty"`
	Pieces  int           `json:"pieces"`
	Out     int           `json:"out"`     // of them, already out
	Length  float64       `json:"length"`  // mm of those whose length is known, less what stays behind as stubs
	Unknown int           `json:"unknown"` // pieces of unknown length
	Swatch  colour.Colour `json:"swatch"`
}

// Stock lists the wire that comes out by colour and size, and the connectors that come off with what is on them.
func (r *Result) Stock(now harness.Harness) ([]StockLine, []OffLine) {
	type key struct {
		colour string
		size   size.Section
	}
	lines := map[key]*StockLine{}
	for w, v := range r.Wires {
		if v.Choice != Goes {
			continue
		}
		wire := &r.t.loom.Wires[w]
		k := key{wire.Colour.String(), wire.Size}
		l := lines[k]
		if l == nil {
			l = &StockLine{Colour: k.colour, Size: k.size, Swatch: wire.Colour, Shown: []string{}}
			lines[k] = l
		}
		length := wire.Length
		for _, e := range wire.Ends {
			if e.Splice != "" && length > 0 {
				length = max(0, length-r.t.in.Bench.Stub)
			}
		}
		if wire.Length > 0 && length < r.t.in.Bench.Usable {
			continue
		}
		l.Pieces++
		l.Shown = append(l.Shown, string(wire.ID))
		l.Length += length
		if wire.Length == 0 {
			l.Unknown++
		}
		if now.Out(wire.ID) {
			l.Out++
		}
	}
	out := []StockLine{}
	for _, l := range lines {
		if l.Pieces > 0 {
			out = append(out, *l)
		}
	}
	slices.SortFunc(out, func(a, b StockLine) int {
		return cmp.Or(cmp.Compare(a.Colour, b.Colour), cmp.Compare(a.Size, b.Size))
	})
	return out, r.offLines(now)
}

// Clips lists the branches that are left without a wire, with the clips that come free with them.
func (r *Result) Clips() []ClipLine {
	stays := map[string]int{}
	goes := map[string]int{}
	for w, v := range r.Wires {
		if v.Choice == Goes {
			goes[r.t.loom.Wires[w].Branch]++
		} else {
			stays[r.t.loom.Wires[w].Branch]++
		}
	}
	out := []ClipLine{}
	for _, b := range r.t.loom.Branches {
		if b.Clips > 0 && goes[b.ID] > 0 && stays[b.ID] == 0 {
			out = append(out, ClipLine{b.ID, b.Clips})
		}
	}
	return out
}

// ClipLine is the clips of a branch that nothing is left in.
type ClipLine struct {
	Branch string `json:"branch"`
	Clips  int    `json:"clips"`
}

// OffLine is a connector that comes off: with tails it is a pigtail.
type OffLine struct {
	ID     string `json:"id"`
	Device string `json:"device,omitempty"`
	Tails  int    `json:"tails"` // wires that come away with it
	Socket bool   `json:"socket,omitempty"`
	Off    bool   `json:"off"`
}

func (r *Result) offLines(now harness.Harness) []OffLine {
	out := []OffLine{}
	for _, id := range r.Off {
		h, _ := r.t.net.Half(id)
		l := OffLine{ID: id, Device: r.t.loom.Connectors[h].Device, Off: now.Free(id)}
		if d := r.t.net.Plugged[h]; d >= 0 {
			l.Socket = r.t.loom.Devices[d].Kind == harness.Fuses
		}
		for x, at := range r.t.net.Halves {
			if at == h && !r.t.stays[circuit.Tip(x).Wire()] {
				l.Tails++
			}
		}
		out = append(out, l)
	}
	return out
}
