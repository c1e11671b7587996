package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/work"
)

// target is where a lead comes: an end of a wire that it is joined onto, or a stud.
type target struct {
	PartLead
	wire harness.WireID
	end  int // of wire
	host harness.TipID
	stud harness.JointID
}

func (x *adder) add(a *Added) {
	if a.Body == Fitted {
		s := work.Step{Kind: FitPart, Minutes: 15, Why: a.Reason, Text: fmt.Sprintf("Fit %s: %s.", a.ID, a.What)}
		s = s.As(work.Check("join", "fit", a.ID, a.What))
		s.Stage = work.Join
		x.out.Steps = append(x.out.Steps, s)
		return
	}
	var cut harness.TipID
	var hosts []harness.TipID
	if a.In != (harness.Ref{}) {
		l, ok := x.site(a, a.In)
		if !ok {
			return
		}
		cut, hosts = l, []harness.TipID{l}
	}
	var targets []target
	for i, l := range a.Leads {
		g := target{PartLead: l, wire: a.lead(l.Point)}
		if a.Body == SingleWire {
			g.wire, g.end = a.Wire(), i
		}
		if at, is := x.Cavity(l.To); is {
			end, ok := x.site(a, at)
			if !ok {
				return
			}
			if slices.Contains(hosts, end) {
				x.say(a, "two of its ends would come to the same wire at "+at.String())
				return
			}
			g.host = end
			hosts = append(hosts, end)
		} else if g.stud = harness.JointID(l.To); !x.Stud(l.To) && !a.own(l.To) {
			x.say(a, fmt.Sprintf("there is no cavity and no stud %q", l.To))
			return
		}
		targets = append(targets, g)
	}
	for _, l := range hosts {
		x.taken[l] = a.ID
	}
	x.plan(a, cut, targets)
}

// joint names a joint of a part.
func (a *Added) joint(at, end string) harness.JointID {
	return harness.JointAt(at + " " + a.ID + " " + end)
}

func joined(name harness.JointID) harness.Tip { return harness.Tip{State: harness.Joined, Joint: name} }

// bit is what one deed of bringing a part in changes, and the edits that do it.
type bit struct {
	ends  map[harness.TipID]harness.Tip     // of wires that are cut or joined onto
	tips  map[harness.WireID][2]harness.Tip // stubs and what the part brings
	edits []harness.Edit
	says  string
}

// plan says what a part changes, and makes its step.
func (x *adder) plan(a *Added, cut harness.TipID, targets []target) {
	open := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	var bits []bit
	if a.In != (harness.Ref{}) {
		bits = append(bits, x.through(a, cut, open))
	}
	wire := [2]harness.Tip{} // of a single wire
	for _, g := range targets {
		near := joined(g.stud)
		b := bit{ends: map[harness.TipID]harness.Tip{}, tips: map[harness.WireID][2]harness.Tip{}}
		lead := string(a.Point(g.Point))
		if a.Body == SingleWire {
			lead = "its end"
		} else {
			b.edits = append(b.edits, harness.Edit{Do: harness.Lay, Wire: g.wire, Tips: open})
		}
		if g.stud != "" {
			b.edits = append(b.edits, harness.Edit{Do: harness.Land, Wire: g.wire, End: g.end, Joint: g.stud})
			b.says = fmt.Sprintf("lead %s to %s", lead, g.stud)
		} else {
			near = joined(a.joint(g.To, g.Point))
			x.set(&b, g.host, near, near)
			b.edits = append(b.edits, harness.Edit{Do: harness.Tap, Wire: g.host.Wire, End: g.host.End, Joint: near.Joint,
				Lengths: []harness.TipID{{Wire: g.wire, End: g.end}}})
			b.says = fmt.Sprintf("join %s onto %s close behind %s, without cutting it", lead, x.Name(g.host.Wire), g.To)
		}
		wire[g.end] = near
		if a.Body != SingleWire {
			b.edits = append(b.edits, harness.Edit{Do: harness.Land, Wire: g.wire, End: 1, Joint: a.Point(g.Point)})
			b.tips[g.wire] = [2]harness.Tip{near, joined(a.Point(g.Point))}
		}
		bits = append(bits, b)
	}
	if a.Body == SingleWire {
		x.single(a, bits, wire, cut, targets)
		return
	}
	made := true
	var edits []harness.Edit
	var says []string
	for i := range bits {
		made = made && x.made(&bits[i])
		x.change(&x.out.Changes, &bits[i])
		edits, says = append(edits, bits[i].edits...), append(says, bits[i].says)
	}
	if made {
		for i := range bits {
			x.change(&x.out.Made, &bits[i])
		}
		return
	}
	x.step(a, edits, says, cut, targets)
}

// set notes what becomes of an end, and of the bit that is left at its terminal.
func (x *adder) set(b *bit, l harness.TipID, to, stub harness.Tip) {
	was, _ := x.Wanted.Tips(l.Wire)
	b.ends[l], b.tips[l.Wire.Stub(l.End)] = to, [2]harness.Tip{was[l.End], stub}
}

// through leads a wire that is cut through a part: what lets through as one length, a relay by its two contacts.
func (x *adder) through(a *Added, cut harness.TipID, open []harness.Tip) bit {
	one, other := a.joint(a.In.String(), "a"), a.joint(a.In.String(), "b")
	b := bit{ends: map[harness.TipID]harness.Tip{}, tips: map[harness.WireID][2]harness.Tip{}}
	x.set(&b, cut, joined(one), joined(other))
	b.edits = []harness.Edit{{Do: harness.Cut, Wire: cut.Wire, End: cut.End}}
	b.says = fmt.Sprintf("cut %s close behind %s and lead it through, %s", x.Name(cut.Wire), a.In, x.School)
	stub := harness.TipID{Wire: cut.Wire.Stub(cut.End), End: 1}
	if a.Body != RelayBody {
		b.tips[a.Wire()] = [2]harness.Tip{joined(one), joined(other)}
		b.edits = append(b.edits, harness.Edit{Do: harness.Lay, Wire: a.Wire(), Tips: open},
			harness.Edit{Do: harness.Join, Joint: one, Lengths: []harness.TipID{cut, {Wire: a.Wire()}}},
			harness.Edit{Do: harness.Join, Joint: other, Lengths: []harness.TipID{stub, {Wire: a.Wire(), End: 1}}})
		return b
	}
	for k, point := range []string{"30", "87"} {
		wire, at, end := a.lead(point), []harness.JointID{one, other}[k], []harness.TipID{cut, stub}[k]
		b.tips[wire] = [2]harness.Tip{joined(at), joined(a.Point(point))}
		b.edits = append(b.edits, harness.Edit{Do: harness.Lay, Wire: wire, Tips: open},
			harness.Edit{Do: harness.Join, Joint: at, Lengths: []harness.TipID{end, {Wire: wire}}},
			harness.Edit{Do: harness.Land, Wire: wire, End: 1, Joint: a.Point(point)})
	}
	return b
}

// single plans a wire that is added: Reach lays it, as every new wire, and each of its ends is brought where it is not
// yet.
func (x *adder) single(a *Added, bits []bit, wire [2]harness.Tip, cut harness.TipID, targets []target) {
	is, there := x.Now.Tips(a.Wire())
	var edits []harness.Edit
	var says []string
	for end := range bits {
		b := &bits[end]
		x.change(&x.out.Changes, b)
		if there && is[end] == wire[end] && x.made(b) {
			x.change(&x.out.Made, b)
			continue
		}
		edits, says = append(edits, b.edits...), append(says, b.says)
	}
	x.out.Changes.Tips[a.Wire()] = wire
	if there {
		x.out.Made.Tips[a.Wire()] = is
	}
	if len(edits) > 0 {
		x.step(a, edits, says, cut, targets)
	}
}

// change notes what becomes of ends and of whole lengths: a wire may be cut at its other end for another part.
func (x *adder) change(to *harness.Changes, b *bit) {
	for l, tip := range b.ends {
		tips, told := to.Tips[l.Wire]
		if !told {
			tips, _ = x.Wanted.Tips(l.Wire)
		}
		tips[l.End] = tip
		to.Tips[l.Wire] = tips
	}
	for w, tips := range b.tips {
		to.Tips[w] = tips
	}
}

// made says whether all that a deed changes is so already.
func (x *adder) made(b *bit) bool {
	for l, tip := range b.ends {
		if is, there := x.Now.Tips(l.Wire); !there || is[l.End] != tip {
			return false
		}
	}
	for w, tips := range b.tips {
		if is, there := x.Now.Tips(w); !there || is != tips {
			return false
		}
	}
	return true
}

func (x *adder) step(a *Added, edits []harness.Edit, says []string, cut harness.TipID, targets []target) {
	s := work.Step{Kind: BringIn, Minutes: x.Join * float64(len(says)), Why: a.Reason,
		Text: fmt.Sprintf("Bring in %s, %s: %s.", a.ID, a.What, strings.Join(says, "; "))}
	if a.Body == Resistor {
		s.Warn = []string{"It gets warm: give it air and a place of its own, not in the bundle."}
	}
	var needs []string
	var touches []harness.WireID
	guard := func(at harness.Ref, l harness.TipID) {
		touches = append(touches, l.Wire, l.Wire.Stub(l.End))
		s.Wires, s.At = append(s.Wires, l.Wire), append(s.At, at)
		if meter, open := x.Proof(at); open {
			m := MeasureFirst(at, x.Name(l.Wire), meter, x.Check)
			m.Wires, m.Guards = []harness.WireID{l.Wire}, []harness.TipID{l}
			needs = append(needs, m.ID)
			x.out.Steps = append(x.out.Steps, m)
		}
	}
	if a.In != (harness.Ref{}) {
		guard(a.In, cut)
	}
	for _, g := range targets {
		if at, is := x.Cavity(g.To); is && g.stud == "" {
			guard(at, g.host)
		}
	}
	s = s.As(work.New(edits, needs...))
	s.Stage, s.NoReturn = work.Join, s.Cuts()
	x.out.Steps = append(x.out.Steps, s)
	x.out.Touches[s.ID] = append(touches, a.Wires()...)
}
