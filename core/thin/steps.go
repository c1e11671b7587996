package thin

import (
	"fmt"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/work"
)

// The kinds of step.
const (
	Caution               = work.Caution
	Gate        work.Kind = "gate" // what must be complete before the first cut
	Tie         work.Kind = "tie"  // mark a branch as kept
	Legs        work.Kind = "trim"
	OneWire     work.Kind = "through"
	TakeApart   work.Kind = "remove" // a splice that is not needed
	JoinWithout work.Kind = "rejoin"
	SealEnd     work.Kind = "seal"     // cut and seal an end at a connector
	TakeOff     work.Kind = "take-off" // a connector comes off
	ComeOut     work.Kind = "out"      // a wire falls out
	Nicks       work.Kind = "nicks"
	Mend        work.Kind = "mend" // put right what was cut before the decision changed
)

// Label is what an extracted terminal is labelled with until its wire is out.
func (e Extraction) Label() string { return e.At.String() + " goes" }

// planner collects the steps; released says which step lets go of which end.
type planner struct {
	*thinning
	all      []Step
	released []string           // by tip: the step that lets it go
	takeOff  []string           // by connector: the step
	cutAt    [][]string         // by connector: the steps that cut what stays from it
	tails    [][]harness.WireID // by connector: what hangs on it when it comes off
	byID     map[string]int
}

func (t *thinning) steps() {
	tips, connectors := 2*len(t.loom.Wires), len(t.loom.Connectors)
	p := &planner{thinning: t, all: make([]Step, 0, t.going()*2), released: make([]string, tips),
		takeOff: make([]string, connectors), cutAt: make([][]string, connectors),
		tails: make([][]harness.WireID, connectors), byID: make(map[string]int, t.going()*2)}
	for i := range t.result.Joints {
		p.joint(&t.result.Joints[i])
	}
	for x := range tips {
		p.end(circuit.Tip(x))
	}
	for h := range t.loom.Connectors {
		if t.off(int32(h)) {
			p.offConnector(h)
		}
	}
	for w := range t.loom.Wires {
		if !t.stays[w] {
			p.comeOut(int32(w))
		}
	}
	t.result.Steps = p.ordered()
}

// going counts the wires that go.
func (t *thinning) going() int {
	n := 0
	for _, stays := range t.stays {
		if !stays {
			n++
		}
	}
	return n
}

func (p *planner) add(s Step, edits []harness.Edit, needs ...string) string {
	s = s.As(work.New(edits, needs...))
	s.Stage, s.NoReturn = work.Thin, s.Kind != TakeOff && s.Kind != ComeOut
	p.byID[s.ID] = len(p.all)
	p.all = append(p.all, s)
	return s.ID
}

// name says which wire is meant as a person recognises it: number, colour, what for.
func (t *thinning) name(w int32) string {
	wire := &t.loom.Wires[w]
	s := wire.ID.Name()
	if c := wire.Colour.String(); c != "" {
		s += " " + c
	}
	if wire.Function != "" {
		s += " (" + wire.Function + ")"
	}
	return s
}

func (p *planner) joint(j *JointVerdict) {
	if j.Fate == Leave || j.Kind == InJunction && j.Fate == Trim {
		return
	}
	at := j.node
	s := Step{System: j.System, Why: j.Why, At: j.At, Wires: append(append([]harness.WireID{}, j.Goes...), j.Stays...)}
	var edits []harness.Edit
	var staying []harness.TipID
	for _, x := range p.net.Tips(at) {
		l := p.net.TipID(x)
		if p.stays[x.Wire()] {
			staying = append(staying, l)
			if j.taken {
				edits = append(edits, harness.Edit{Do: harness.Cut, Wire: l.Wire, End: l.End})
				p.tail(x)
			}
		} else if j.Fate == Trim {
			edits = append(edits, cutAndSeal(l)...)
		}
	}
	switch j.Fate {
	case Trim:
		s.Kind, s.Minutes = Legs, p.in.Bench.Rates.Seal*float64(len(j.Goes))
		s.Text = fmt.Sprintf("At splice %s cut %s %s from the splice and seal each stub.%s", j.ID, p.list(j.node, false),
			mm(p.in.Bench.Stub), p.find(at))
		if p.guard.Nodes[at] {
			s.Text += " Leave the splice itself alone: a restraint or high-voltage circuit hangs on it. Battery off, wait as " +
				"the maker says, and never probe it."
		}
	case Through:
		s.Kind, s.Minutes = OneWire, p.in.Bench.Rates.Join
		s.Text = fmt.Sprintf("Take splice %s apart and join %s into one wire.%s", j.ID, p.list(j.node, true), p.find(at))
		edits = append(edits, harness.Edit{Do: harness.Open, Joint: j.ID},
			harness.Edit{Do: harness.Join, Joint: j.ID.Through(), Lengths: staying})
	case Rejoin:
		s.Kind, s.Minutes = JoinWithout, p.in.Bench.Rates.Join
		s.Text = fmt.Sprintf("Cut %s at %s and join them: they only passed through it.", p.list(j.node, true), refs(j.At))
		edits = append(edits, harness.Edit{Do: harness.Join, Joint: rejoinName(j.ID), Lengths: staying})
	case Dissolve:
		p.dissolve(j, &s, &edits, staying)
	case Leave:
	}
	if len(edits) == 0 {
		return
	}
	id := p.add(s, edits)
	for _, x := range p.net.Tips(at) {
		stays := p.stays[x.Wire()]
		if j.taken && !stays {
			continue // leaves with the connector
		}
		p.released[x] = id
		if h := p.net.Halves[x]; h >= 0 && stays {
			p.cutAt[h] = append(p.cutAt[h], id)
		}
	}
}

func (p *planner) dissolve(j *JointVerdict, s *Step, edits *[]harness.Edit, staying []harness.TipID) {
	s.Kind, s.Minutes = TakeApart, p.in.Bench.Rates.Splice
	if !j.taken {
		*edits = append(*edits, harness.Edit{Do: harness.Open, Joint: j.ID})
		s.Text = fmt.Sprintf("Take splice %s apart.%s", j.ID, p.find(j.node))
	} else {
		s.Kind, s.Text = SealEnd, fmt.Sprintf("Cut %s at %s.", p.list(j.node, true), refs(j.At))
	}
	for _, l := range staying {
		*edits = append(*edits, harness.Edit{Do: harness.Seal, Wire: l.Wire, End: l.End})
		s.Text += fmt.Sprintf(" Seal the end of %s and label it: it joins nothing any more.", l.Wire)
	}
}

// find says that a splice has to be looked for, where nobody has seen it.
func (p *planner) find(at int32) string {
	if i := p.net.Nodes[at].Splice; i >= 0 && !p.loom.Splices[i].Implied {
		return ""
	}
	return " Nobody has seen this splice so far: find it first."
}

func cutAndSeal(l harness.TipID) []harness.Edit {
	return []harness.Edit{{Do: harness.Cut, Wire: l.Wire, End: l.End},
		{Do: harness.Seal, Wire: l.Wire.Stub(l.End), End: 1}}
}

func rejoinName(id harness.JointID) harness.JointID { return id + " rejoined" }

// tail leaves the piece that is cut off at a tip on its connector.
func (p *planner) tail(x circuit.Tip) {
	h, l := p.net.Halves[x], p.net.TipID(x)
	p.tails[h] = append(p.tails[h], l.Wire.Stub(l.End))
}

// end plans what is done at an end in a connector, where no joint has seen to it.
func (p *planner) end(x circuit.Tip) {
	w, end, ref, h := x.Wire(), x.End(), p.net.End(x).At, p.net.Halves[x]
	if p.released[x] != "" || ref == (harness.Ref{}) {
		return
	}
	off := p.off(h)
	if p.stays[w] && !off || !p.stays[w] && off {
		return
	}
	l := p.net.TipID(x)
	switch {
	case p.stays[w] && off && p.moves(x):
	case p.stays[w] && off:
		id := p.add(Step{Kind: SealEnd, System: p.systemOfHalf(h), At: []harness.Ref{ref}, Wires: []harness.WireID{l.Wire},
			Minutes: p.in.Bench.Rates.Seal,
			Text: fmt.Sprintf("Cut %s at %s, seal its end and label it: it stays, and the connector comes off.", p.name(w),
				ref)},
			[]harness.Edit{{Do: harness.Cut, Wire: l.Wire, End: end}, {Do: harness.Seal, Wire: l.Wire, End: end}})
		p.cutAt[h] = append(p.cutAt[h], id)
		p.tail(x)
	case p.in.Bench.School == Extract && p.comesOut(x):
		p.result.Extract = append(p.result.Extract, Extraction{harness.TerminalAt(ref), ref, l.Wire})
	default:
		why := "The job's school is to cut dead ends at the connector and seal them."
		if p.in.Bench.School == Extract {
			why = "Another wire that stays is crimped into the same terminal, or the connector is somebody else's: it cannot " +
				"be extracted."
		}
		if h >= 0 && p.guard.Plugs[h] {
			why = "The connector carries a restraint or high-voltage circuit too: it is not opened."
		}
		p.released[x] = p.add(Step{Kind: SealEnd, System: p.result.Wires[w].System, At: []harness.Ref{ref},
			Wires: []harness.WireID{l.Wire}, Minutes: p.in.Bench.Rates.Seal, Why: why,
			Text: fmt.Sprintf("Cut %s at the back of %s and seal the stub.", p.name(w), ref)}, cutAndSeal(l))
	}
}

// moves says whether the terminal of a tip is taken elsewhere before its connector comes off. One that holds several
// wires is not.
func (t *thinning) moves(x circuit.Tip) bool { return t.in.Moved[t.net.End(x).At] && t.aloneIn(x) }

func (p *planner) offConnector(h int) {
	c := &p.loom.Connectors[h]
	edits := []harness.Edit{{Do: harness.Free, At: harness.Ref{Connector: c.ID}}}
	for _, piece := range p.tails[h] {
		edits = append(edits, harness.Edit{Do: harness.FallOut, Wire: piece})
	}
	text := fmt.Sprintf("Take connector %s off.", c.ID)
	if n := len(p.cutAt[h]); n > 0 {
		text = fmt.Sprintf("Take connector %s off; what stays has been cut from it.", c.ID)
	}
	p.takeOff[h] = p.add(Step{Kind: TakeOff, System: p.systemOfHalf(int32(h)), Text: text,
		At: []harness.Ref{{Connector: c.ID}}, Minutes: p.in.Bench.Rates.TakeOff}, edits, p.cutAt[h]...)
	p.result.Off = append(p.result.Off, c.ID)
}

func (p *planner) comeOut(w int32) {
	wire := &p.loom.Wires[w]
	s := Step{Kind: ComeOut, System: p.result.Wires[w].System, Wires: []harness.WireID{wire.ID},
		Minutes: p.in.Bench.Rates.Out, Text: fmt.Sprintf("%s falls out.", p.name(w))}
	var needs []string
	for end, e := range wire.Ends {
		x := circuit.Tip(2*int(w) + end)
		if e.At != (harness.Ref{}) {
			s.At = append(s.At, e.At)
		}
		if id := p.released[x]; id != "" {
			needs = append(needs, id)
		}
		if h := p.net.Halves[x]; h >= 0 && p.takeOff[h] != "" {
			needs = append(needs, p.takeOff[h])
		}
		if !e.Seen() {
			s.Text = fmt.Sprintf("Pull %s; nobody has followed its other end. If it does not come, leave it and say so.",
				p.name(w))
		}
	}
	p.add(s, []harness.Edit{{Do: harness.FallOut, Wire: wire.ID}}, needs...)
}
