// Package join plans the joints that are made and the new wires that are laid: which end of which wire comes to which
// joint, what is measured before anything is cut, what is cut and what becomes of the end that is left.
//
// It is told the joints that are wanted and given two states of the harness, now and wanted, and knows nothing of why
// they differ. What is wanted is said by Changes, from the joints alone; the steps come from the difference of the
// two states, so that a plan goes on from whatever was done: a joint that is there is not made again, one that is not
// wanted any more is taken apart, and a wire that was cut for it is made whole.
//
// Beside the copper it says what must work in the finished vehicle: List gives every function with how it stands,
// the sum behind it and the ways to make it work; rules say when a unit works its outputs.
package join

import (
	"cmp"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
)

// How says how an end comes to a joint.
type How int

// The ways. The zero value is an end that is open, or will be by what other stages do.
const (
	AsIs      How = iota
	CutOff        // cut close to its connector, or where it leads to nothing; a stub stays there
	Whole         // nothing is cut: the others are joined onto it
	Clipped       // its terminal is out of its cavity and is cut off
	Beginning     // an end of a new wire
)

// End is an end of a wire that comes to a joint.
type End struct {
	harness.TipID
	How    How
	At     harness.Ref // the cavity that it is known by
	Name   string      // the wire as a person recognises it
	Theirs bool        // it is the vehicle's: measured before it is cut
	Meter  Meter       // what proves that it is that wire; empty where a reading is there
	Back   float64     // mm from its connector at which it is cut or joined onto
}

// Meter says what a meter must show at a wire that it is the one it is taken for, and whether that takes the power on.
type Meter struct {
	Text string
	Live bool
}

// Joint is a joint that is wanted.
type Joint struct {
	Name harness.JointID
	For  []harness.Ref // the cavities whose match it makes
	Ends []End
	Why  string
}

// Fresh is a new wire with its two ends.
type Fresh struct {
	ID   harness.WireID
	Name string
	Ends [2]Goal
}

// Goal is where an end of a new wire comes: into a terminal, to a joint, onto a stud outside of the harness, or it
// stays open and sealed, with an owner.
type Goal struct {
	Terminal harness.TerminalID
	At       harness.Ref // of the terminal
	Joint    harness.JointID
	Stud     harness.JointID
	Owner    string
}

// Input is what is wanted.
type Input struct {
	Joints []Joint
	Wires  []Fresh
	School string                   // the school of joints in words
	Join   float64                  // minutes a joint
	Seal   float64                  // minutes a cut that is sealed
	Check  float64                  // minutes a measurement
	Mine   map[harness.JointID]bool // joints that this stage has made so far
	Cut    []harness.TipID          // ends that this stage has cut so far
}

// Part is what the stage gives the plan.
type Part struct {
	Changes  harness.Changes
	Findings []finding.Finding
	in       Input
	loose    map[harness.TipID]bool // ends that are cut where they lead to nothing
	// joints that other stages make already, and that these come to, by the name wanted
	named map[harness.JointID]harness.JointID
}

// Join says what is different in the harness that is wanted. Base is the harness as the other stages want it.
func Join(in Input, base harness.Harness) Part {
	p := Part{
		in:      in,
		named:   map[harness.JointID]harness.JointID{},
		loose:   map[harness.TipID]bool{},
		Changes: harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}},
	}
	slices.SortStableFunc(p.in.Joints, func(a, b Joint) int { return finding.Natural(a.Name, b.Name) })
	slices.SortStableFunc(p.in.Wires, func(a, b Fresh) int { return finding.Natural(a.ID, b.ID) })
	for i := range p.in.Joints {
		p.joint(&p.in.Joints[i], base)
	}
	for i := range p.in.Wires {
		p.wire(&p.in.Wires[i])
	}
	return p
}

// tips gives what the tips of a wire are to be, so far.
func (p *Part) tips(wire harness.WireID, base harness.Harness) ([2]harness.Tip, bool) {
	if tips, told := p.Changes.Tips[wire]; told {
		return tips, true
	}
	return base.Tips(wire)
}

// joint says of every end what it becomes. An end that another stage joins already takes the others along to its joint.
func (p *Part) joint(j *Joint, base harness.Harness) {
	slices.SortStableFunc(
		j.Ends,
		func(a, b End) int { return cmp.Or(cmp.Compare(a.Wire, b.Wire), cmp.Compare(a.End, b.End)) },
	)
	p.named[j.Name] = j.Name
	for _, e := range j.Ends {
		if tips, there := p.tips(e.Wire, base); there && tips[e.End].State == harness.Joined && e.How != Beginning {
			p.named[j.Name] = tips[e.End].Joint
		}
	}
	at := harness.Tip{State: harness.Joined, Joint: p.named[j.Name]}
	for i := range j.Ends {
		e := &j.Ends[i]
		if e.How == Beginning {
			continue
		}
		tips, there := p.tips(e.Wire, base)
		if !there {
			p.Findings = append(p.Findings, finding.Finding{
				Code: "wire-is-out", Severity: finding.Wrong, Stage: "match", Subject: e.At.String(),
				Text:   e.Name + " is to be joined at " + e.At.String() + ", and it is not in the harness any more.",
				Remedy: "Reopen its row in Match, or keep the wire in Thin.",
			})
			continue
		}
		was := tips[e.End]
		if was == at {
			continue
		}
		stub := e.Wire.Stub(e.End)
		switch {
		case was.Open() || e.How == Clipped || e.How == AsIs:
		case e.How == CutOff && was.State != harness.Crimped:
			p.loose[e.TipID] = true // what is cut off leads nowhere, and is thrown away
		case e.How == CutOff:
			p.Changes.Tips[stub] = [2]harness.Tip{was, {State: harness.Sealed}}
		case e.How == Whole:
			p.Changes.Tips[stub] = [2]harness.Tip{was, at}
		}
		tips[e.End] = at
		p.Changes.Tips[e.Wire] = tips
	}
}

func (p *Part) wire(w *Fresh) {
	var tips [2]harness.Tip
	for i := range w.Ends {
		switch g := &w.Ends[i]; {
		case g.Terminal != "":
			tips[i] = harness.Tip{State: harness.Crimped, Terminal: g.Terminal}
		case g.Joint != "":
			name := g.Joint
			if resolved, ours := p.named[name]; ours {
				name = resolved
			}
			tips[i] = harness.Tip{State: harness.Joined, Joint: name}
		case g.Stud != "":
			tips[i] = harness.Tip{State: harness.Joined, Joint: g.Stud}
		default:
			tips[i] = harness.Tip{State: harness.Sealed}
		}
	}
	p.Changes.Tips[w.ID] = tips
}
