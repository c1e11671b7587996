package gather

import (
	"fmt"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
)

// way finds how two cavities are joined in the model: the wires from one to the other, nil where they are not.
func (b *builder) way(from, to harness.Ref) []int {
	type point struct {
		at     harness.Ref
		splice harness.JointID
	}
	came := map[point]int{{at: from}: -1}
	before := map[point]point{}
	queue := []point{{at: from}}
	bySplice := map[harness.JointID][]int{}
	for i := range b.loom.Wires {
		for _, e := range b.loom.Wires[i].Ends {
			if e.Splice != "" && b.loom.Wires[i].ID != "" {
				bySplice[e.Splice] = append(bySplice[e.Splice], i)
			}
		}
	}
	for len(queue) > 0 {
		p := queue[0]
		queue = queue[1:]
		if p.at == to {
			out := []int{}
			for p.at != from {
				if came[p] >= 0 {
					out = append(out, came[p])
				}
				p = before[p]
			}
			slices.Reverse(out)
			return out
		}
		step := func(next point, wire int) {
			if _, seen := came[next]; !seen {
				came[next], before[next] = wire, p
				queue = append(queue, next)
			}
		}
		wires := b.at[p.at]
		if p.splice != "" {
			wires = bySplice[p.splice]
		}
		for _, i := range wires {
			for _, e := range b.loom.Wires[i].Ends {
				if e.At != (harness.Ref{}) {
					step(point{at: e.At}, i)
				} else if e.Splice != "" {
					step(point{splice: e.Splice}, i)
				}
			}
		}
		if i, ok := b.connector[p.at.Connector]; ok && p.splice == "" {
			c := &b.loom.Connectors[i]
			for _, group := range c.Links {
				for _, x := range group {
					if x == p.at.Cavity {
						for _, y := range group {
							step(point{at: harness.Ref{Connector: c.ID, Cavity: y}}, -1)
						}
					}
				}
			}
			if c.Mate != "" {
				step(point{at: harness.Ref{Connector: c.Mate, Cavity: p.at.Cavity}}, -1)
			}
		}
	}
	return nil
}

func (b *builder) sameCopper(x, y harness.Ref) bool { return x == y || b.way(x, y) != nil }

// confirm: what lies between two cavities that measure as joined has been proven.
func (b *builder) confirm(m Measurement) {
	for _, i := range b.way(m.At, m.To) {
		w := &b.loom.Wires[i]
		w.Implied = false
		for _, e := range w.Ends {
			if e.Splice != "" {
				b.loom.Splices[b.splice[e.Splice]].Implied = false
			}
		}
	}
}

// tie joins two cavities that measure as joined: a wire of which one end was not seen ends at the other.
func (b *builder) tie(m Measurement) {
	x, y := b.openEnd(m.At), b.openEnd(m.To)
	by := func(i int, was, now string) {
		b.beliefs = append(b.beliefs, Belief{Wire: b.loom.Wires[i].ID, Was: was, Now: now, By: "reading " + m.String(),
			Who: m.Who, When: m.When})
	}
	switch {
	case x >= 0 && len(b.at[m.To]) == 0, x >= 0 && y >= 0:
		by(x, "far end not seen", "joined to "+m.To.String())
		b.setEnd(x, b.unseenEnd(x), harness.End{At: m.To})
		b.merge(x, m.To)
	case y >= 0 && len(b.at[m.At]) == 0:
		by(y, "far end not seen", "joined to "+m.At.String())
		b.setEnd(y, b.unseenEnd(y), harness.End{At: m.At})
	case x >= 0 && len(b.at[m.To]) > 0:
		by(x, "far end not seen", "joins "+b.loom.Wires[b.at[m.To][0]].ID.Name())
		b.into(x, b.at[m.To][0], m)
	case y >= 0 && len(b.at[m.At]) > 0:
		by(y, "far end not seen", "joins "+b.loom.Wires[b.at[m.At][0]].ID.Name())
		b.into(y, b.at[m.At][0], m)
	default:
		b.find("reading-contradicts", finding.Check, m.At.String(),
			"Trace both wires: there is a splice or a link that nobody has seen.",
			"%s: the two measure as joined, and no way is known.", m).Place = finding.Place{Part: "readings"}
	}
}

// openEnd gives a wire in a cavity whose other end nobody has seen, −1 when there is none.
func (b *builder) openEnd(at harness.Ref) int {
	for _, i := range b.at[at] {
		if b.unseenEnd(i) >= 0 {
			return i
		}
	}
	return -1
}

func (b *builder) unseenEnd(i int) int {
	for k, e := range b.loom.Wires[i].Ends {
		if !e.Seen() {
			return k
		}
	}
	return -1
}

// into ends a wire at a splice in the middle of another: where, nobody has seen.
func (b *builder) into(i, other int, m Measurement) {
	o := b.loom.Wires[other]
	id := harness.JointID("")
	for _, e := range o.Ends {
		if e.Splice != "" {
			id = e.Splice
		}
	}
	if id == "" {
		id = b.newSplice()
		b.addSplice(harness.Splice{ID: id, Branch: o.Branch, Implied: true, Note: "follows from a reading: " + m.String()})
		rest := o
		rest.ID, rest.Length, rest.Implied = b.freeID(o.ID.Name()+" beyond "+string(id)), 0, true
		rest.Ends[0] = harness.End{Splice: id}
		b.addWire(rest)
		b.setEnd(other, 1, harness.End{Splice: id})
		b.loom.Wires[other].Length = 0
	}
	b.setEnd(i, b.unseenEnd(i), harness.End{Splice: id})
	b.loom.Wires[i].Implied = true
}

// part takes apart what was only implied between two cavities that measure as not joined.
func (b *builder) part(m Measurement) {
	way := b.way(m.At, m.To)
	for _, i := range way {
		w := &b.loom.Wires[i]
		for k, e := range w.Ends {
			if e.Splice == "" && !w.Implied || e.Splice != "" && !b.loom.Splices[b.splice[e.Splice]].Implied && !w.Implied {
				continue
			}
			if e.At == m.At || e.At == m.To || !e.Seen() {
				continue
			}
			b.beliefs = append(b.beliefs, Belief{Wire: w.ID, Was: fmt.Sprintf("implied to reach %s", e),
				Now: "far end not seen", By: "reading " + m.String(), Who: m.Who, When: m.When})
			b.setEnd(i, k, harness.End{})
			b.loom.Wires[i].Implied = false
			return
		}
	}
	for _, i := range way { // an implied wire straight from one to the other
		if w := &b.loom.Wires[i]; w.Implied && len(way) == 1 {
			k := 1
			if w.Ends[1].At == m.At {
				k = 0
			}
			lost := w.Ends[k].At
			b.beliefs = append(b.beliefs, Belief{Wire: w.ID, Was: fmt.Sprintf("implied to reach %s", lost),
				Now: "far end not seen", By: "reading " + m.String(), Who: m.Who, When: m.When})
			b.setEnd(i, k, harness.End{})
			b.loom.Wires[i].Implied = false
			return
		}
	}
	b.find("reading-contradicts", finding.Wrong, m.At.String(),
		"Look for a break, or a table that is wrong: measure again, then trace the wire.",
		"%s, and yet they are joined by wires that were seen.", m).Place = finding.Place{Part: "readings"}
}
