package join

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// The kinds of step.
const (
	Measure work.Kind = "measure" // prove with the meter that it is that wire
	Cut     work.Kind = "cut"     // cut an end off its connector
	Make    work.Kind = "join"    // make a joint
	Land    work.Kind = "land"    // bring an end to a fuse, a ground point or another stud
	Seal    work.Kind = "seal"    // seal an open end, labelled for whoever sees to it
	Apart   work.Kind = "apart"   // take a joint apart that is not wanted any more
	Mend    work.Kind = "mend"    // make a wire whole that was cut for it
	Away    work.Kind = "away"    // take a new wire away that is not wanted any more
	BringIn work.Kind = "bring"   // bring a part into a wire or between two
	FitPart work.Kind = "fit"     // fit a part in the place of another
)

// MeasureFirst is the step that proves with a meter that the wire in a cavity is the one that it is taken for, before
// anything is done to it.
func MeasureFirst(at harness.Ref, wire string, meter Meter, minutes float64) work.Step {
	s := work.Step{Stage: work.Join, Kind: Measure, At: []harness.Ref{at}, Minutes: minutes, Live: meter.Live,
		Text: fmt.Sprintf("Measure first: prove that the wire in %s is %s. %s", work.Spot(at), wire, meter.Text),
		Why:  "Never trust a colour or a table alone. A reading entered in Gather settles it too."}
	return s.As(work.Check("join", "measure", at.Connector, at.Cavity))
}

// planner collects the steps between two states.
type planner struct {
	*Part
	now, wanted harness.Harness
	atNow       map[harness.JointID][]harness.TipID // ends by the joint that they are at now
	atWanted    map[harness.JointID][]harness.TipID
	ends        map[harness.TipID]*End
	names       map[harness.WireID]string
	steps       []work.Step
}

// Steps gives the work that leads from now to wanted, as far as joints and new wires go.
func (p *Part) Steps(now, wanted harness.Harness) []work.Step {
	x := &planner{
		Part:     p,
		now:      now,
		wanted:   wanted,
		atNow:    atJoints(now),
		atWanted: atJoints(wanted),
		ends:     map[harness.TipID]*End{},
		names:    map[harness.WireID]string{},
	}
	for i := range p.in.Wires {
		x.names[p.in.Wires[i].ID] = p.in.Wires[i].Name
	}
	for i := range p.in.Joints {
		for k := range p.in.Joints[i].Ends {
			e := &p.in.Joints[i].Ends[k]
			x.ends[e.TipID] = e
			x.names[e.Wire] = e.Name
		}
	}
	opened := x.apart()
	x.mends(opened)
	x.seals(opened)
	x.stubs(opened)
	for _, j := range p.merged() {
		x.make(&j, opened)
	}
	for i := range p.in.Wires {
		x.finish(&p.in.Wires[i])
	}
	x.away()
	return x.steps
}

// merged gives the joints with those that come to the joint of another stage together.
func (p *Part) merged() []Joint {
	var out []Joint
	for _, j := range p.in.Joints {
		name := p.named[j.Name]
		i := slices.IndexFunc(out, func(o Joint) bool { return p.named[o.Name] == name })
		if i < 0 {
			out = append(out, j)
			continue
		}
		out[i].Ends = append(slices.Clone(out[i].Ends), j.Ends...)
	}
	return out
}

func atJoints(h harness.Harness) map[harness.JointID][]harness.TipID {
	out := map[harness.JointID][]harness.TipID{}
	for _, w := range h.Wires() {
		tips, _ := h.Tips(w)
		for end, t := range tips {
			if t.State == harness.Joined {
				out[t.Joint] = append(out[t.Joint], harness.TipID{Wire: w, End: end})
			}
		}
	}
	return out
}

func (x *planner) add(s work.Step, made work.Step) string {
	s = s.As(made)
	s.Stage, s.NoReturn = work.Join, s.Cuts()
	x.steps = append(x.steps, s)
	return s.ID
}

func (x *planner) name(wire harness.WireID) string {
	if n := x.names[wire]; n != "" {
		return n
	}
	return wire.Name()
}

// apart takes apart the joints made here at which something is joined that is not wanted there, and names the ends
// that are open then. From a splice of the factory, or a joint of another stage, only what came to it is taken off.
func (x *planner) apart() map[harness.TipID]bool {
	opened := map[harness.TipID]bool{}
	for _, j := range slices.SortedFunc(maps.Keys(x.in.Mine), finding.Natural) {
		var extra []harness.TipID
		for _, l := range x.atNow[j] {
			if tips, there := x.wanted.Tips(l.Wire); !there ||
				tips[l.End] != (harness.Tip{State: harness.Joined, Joint: j}) {
				extra = append(extra, l)
			}
		}
		if len(extra) == 0 {
			continue
		}
		s := work.Step{
			Kind:    Apart,
			Minutes: x.in.Join,
			Why:     "It was made for a decision that has been taken back or changed.",
		}
		if j.MadeAt() {
			for _, l := range x.atNow[j] {
				opened[l] = true
			}
			s.Text = fmt.Sprintf("Take the %s apart: %s.", j, x.list(x.atNow[j]))
			x.add(s, work.New([]harness.Edit{{Do: harness.Open, Joint: j}}))
			continue
		}
		for _, l := range extra {
			if l.Wire.New() {
				continue // it is taken away whole
			}
			if _, there := x.wanted.Tips(l.Wire); !there {
				continue // another stage takes the wire out
			}
			opened[l] = true
			s.Text, s.Wires = fmt.Sprintf("Take %s off %s.", x.name(l.Wire), j), []harness.WireID{l.Wire}
			x.add(s, work.New([]harness.Edit{{Do: harness.Unjoin, Wire: l.Wire, End: l.End}}))
		}
	}
	return opened
}

// called names a joint in a sentence.
func called(joint harness.JointID) string {
	if joint.MadeAt() {
		return string(joint)
	}
	return "joint " + string(joint)
}

// mends makes the wires whole that were cut for a joint and are wanted whole.
func (x *planner) mends(opened map[harness.TipID]bool) {
	for _, l := range x.in.Cut {
		is, there := x.now.Tips(l.Wire)
		want, wanted := x.wanted.Tips(l.Wire)
		stub, cut := x.now.Tips(l.Wire.Stub(l.End))
		if !there || !wanted || !cut || want[l.End] != stub[0] {
			continue
		}
		if !is[l.End].Open() && !opened[l] ||
			!stub[1].Open() && !opened[harness.TipID{Wire: l.Wire.Stub(l.End), End: 1}] {
			continue
		}
		x.add(
			work.Step{
				Kind:    Mend,
				Wires:   []harness.WireID{l.Wire},
				Minutes: x.in.Join,
				Text:    fmt.Sprintf("Join %s to its stub again.", x.name(l.Wire)),
				Why:     "It was cut for a joint, and is wanted whole after all.",
			},
			work.New([]harness.Edit{{Do: harness.Heal, Wire: l.Wire, End: l.End}}),
		)
	}
}

// stubs takes away the last bits of wires that nothing wants any more.
func (x *planner) stubs(opened map[harness.TipID]bool) {
	for _, l := range x.in.Cut {
		stub := l.Wire.Stub(l.End)
		is, there := x.now.Tips(stub)
		_, wanted := x.wanted.Tips(stub)
		whole, stays := x.wanted.Tips(l.Wire)
		if there && !wanted && (!stays || whole[l.End] != is[0]) &&
			(is[1].Open() || opened[harness.TipID{Wire: stub, End: 1}]) {
			x.add(
				work.Step{
					Kind:    Away,
					Wires:   []harness.WireID{stub},
					Minutes: x.in.Check,
					Text:    fmt.Sprintf("Take the stub of %s away.", x.name(l.Wire)),
					Why:     "Nothing is joined to it any more.",
				},
				work.New([]harness.Edit{{Do: harness.FallOut, Wire: stub}}),
			)
		}
	}
}

// seals seals the ends that are open, or will be when a joint is apart, and to which nothing comes any more.
func (x *planner) seals(opened map[harness.TipID]bool) {
	for _, w := range x.now.Wires() {
		is, _ := x.now.Tips(w)
		want, wanted := x.wanted.Tips(w)
		for end := range is {
			if !wanted || w.New() || want[end].State != harness.Sealed ||
				is[end].State != harness.Bare && !opened[harness.TipID{Wire: w, End: end}] {
				continue
			}
			x.add(
				work.Step{
					Kind:    Seal,
					Wires:   []harness.WireID{w},
					Minutes: x.in.Seal,
					Text:    fmt.Sprintf("Seal the open end of %s and label it.", x.name(w)),
					Why:     "Nothing is joined to it any more.",
				},
				work.New([]harness.Edit{{Do: harness.Seal, Wire: w, End: end}}),
			)
		}
	}
}

// make plans a joint: measure, cut, join.
func (x *planner) make(j *Joint, opened map[harness.TipID]bool) {
	name := x.named[j.Name]
	missing, stay := x.missing(name, opened)
	if len(missing) == 0 {
		return
	}
	var needs []string
	host := -1
	var refs []harness.Ref
	for i := range j.Ends {
		e := &j.Ends[i]
		if e.At != (harness.Ref{}) && !slices.Contains(refs, e.At) {
			refs = append(refs, e.At)
		}
		if !slices.ContainsFunc(missing, e.comes) {
			continue
		}
		if e.Meter.Text != "" {
			s := MeasureFirst(e.At, e.Name, e.Meter, x.in.Check)
			s.Wires, s.Guards = []harness.WireID{e.Wire}, []harness.TipID{e.TipID}
			needs = append(needs, x.add(s, s))
		}
		tips, there := x.now.Tips(e.Wire)
		switch {
		case !there || tips[e.End].Open() || opened[e.TipID]:
		case e.How == CutOff && x.cutHere(e):
			x.cut(e)
		case e.How == Clipped && tips[e.End].State == harness.Crimped && !slices.Contains(missing, e.TipID):
			x.clip(e) // a piece that lengthens it comes to the joint in its place
		case e.How == Whole && x.tapped(e, name):
			host = i
		}
	}
	x.bring(j, name, missing, stay, host, refs, needs)
}

// cutHere says whether it is this stage that cuts an end: another may, with its connector that comes off.
func (x *planner) cutHere(e *End) bool {
	_, ours := x.Changes.Tips[e.Wire.Stub(e.End)]
	return ours || x.loose[e.TipID]
}

// tapped says whether a wire is to stay whole where others are joined onto it: nobody else cuts it there.
func (x *planner) tapped(e *End, joint harness.JointID) bool {
	stub, there := x.wanted.Tips(e.Wire.Stub(e.End))
	return there && stub[1] == harness.Tip{State: harness.Joined, Joint: joint}
}

// missing lists the ends that are wanted at a joint and are not there, and says whether others are there and stay.
func (x *planner) missing(name harness.JointID, opened map[harness.TipID]bool) (missing []harness.TipID, stay bool) {
	for _, l := range x.atWanted[name] {
		if tips, there := x.now.Tips(l.Wire); there && !opened[l] &&
			tips[l.End] == (harness.Tip{State: harness.Joined, Joint: name}) {
			stay = true
			continue
		}
		missing = append(missing, l)
	}
	return missing, stay
}

func (x *planner) ours(joint harness.JointID) bool { _, ours := x.named[joint]; return ours }

// away takes new wires away that nothing wants any more.
func (x *planner) away() {
	for _, w := range x.now.Wires() {
		if _, wanted := x.wanted.Tips(w); wanted || !w.New() || w.Piece() != harness.WholeWire {
			continue
		}
		tips, _ := x.now.Tips(w)
		edits := []harness.Edit{}
		for end, t := range tips {
			if t.State == harness.Joined && !t.Joint.MadeAt() {
				edits = append(edits, harness.Edit{Do: harness.Unjoin, Wire: w, End: end})
			}
		}
		edits = append(edits, harness.Edit{Do: harness.FallOut, Wire: w})
		x.add(
			work.Step{
				Kind:    Away,
				Wires:   []harness.WireID{w},
				Minutes: x.in.Check,
				Text:    fmt.Sprintf("Take %s away.", w.Name()),
				Why:     "It was laid for a decision that has been taken back.",
			},
			work.New(edits),
		)
	}
}

func (x *planner) list(all []harness.TipID) string {
	var names []string
	for _, l := range all {
		n := x.name(l.Wire)
		if whole := l.Wire.Whole(); whole != l.Wire && x.names[l.Wire] == "" {
			n = "the piece that lengthens " + x.name(whole)
			if l.Wire.Piece() == harness.Successor {
				n = "the wire that replaces " + x.name(whole)
			}
		}
		if e := x.ends[l]; e != nil && e.At != (harness.Ref{}) && e.How != Beginning &&
			!strings.Contains(n, e.At.String()) {
			n += " (" + e.At.String() + ")"
		}
		if e := x.ends[l]; e != nil && e.At != (harness.Ref{}) && e.How == Whole {
			n += work.Moved(e.At)
		}
		if l.Wire.Piece().Stub() {
			n = "the stub of " + x.name(l.Wire.Of())
		}
		names = append(names, n)
	}
	switch n := len(names); n {
	case 0:
		return "nothing"
	case 1:
		return names[0]
	default:
		return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
	}
}
