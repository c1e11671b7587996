package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// AddedHow says how a part comes into the harness.
type AddedHow string

// The ways: into a wire, which is cut for it; between two wires, neither of which is cut; or fitted in the place of
// another, which changes no wire.
const (
	InWire  AddedHow = "in"
	Between AddedHow = "between"
	Fitted  AddedHow = "fitted"
)

// Added is a part that a function wants so that its sum works out: a resistor, a converter, another sender.
type Added struct {
	ID       string      `json:"id"`       // R1
	Function string      `json:"function"` // that it serves
	What     string      `json:"what"`     // "resistor of 51 Ω, 1 W"
	How      AddedHow    `json:"how"`
	At       harness.Ref `json:"at,omitzero"`      // the cavity behind which it is let in or joined on
	To       string      `json:"to,omitempty"`     // between: the cavity or the stud that its other lead comes to
	Plus     string      `json:"plus,omitempty"`   // the cavity or the stud that feeds it, where it wants a feed
	Minus    string      `json:"minus,omitempty"`  // and that grounds it
	Ohms     float64     `json:"ohms,omitempty"`   // of a resistor
	Was      Stated      `json:"was,omitempty"`    // what the function stated before it was taken
	Who      string      `json:"who,omitempty"`    //
	When     int64       `json:"when,omitempty"`   // Unix milliseconds
	Reason   string      `json:"reason,omitempty"` // the sum that asked for it
}

// Stated are the facts of a function by name, as they were typed.
type Stated map[string]string

// Check says why a part cannot be.
func (a *Added) Check() error {
	switch {
	case a.ID == "" || len(a.ID) > 20 || a.What == "" || len(a.What) > 200:
		return fmt.Errorf("a part has a name of at most 20 letters and says what it is")
	case !slices.Contains([]AddedHow{InWire, Between, Fitted}, a.How):
		return fmt.Errorf("a part cannot be %q", a.How)
	case a.How != Fitted && a.At == (harness.Ref{}):
		return fmt.Errorf("say behind which cavity %s comes", a.ID)
	case a.How == Between && a.To == "":
		return fmt.Errorf("say where the other lead of %s comes", a.ID)
	case !(a.Ohms >= 0 && a.Ohms <= 1e6):
		return fmt.Errorf("%g Ω cannot be", a.Ohms)
	case len(a.To) > 80 || len(a.Plus) > 80 || len(a.Minus) > 80 || len(a.Was) > 40:
		return fmt.Errorf("a lead comes to a cavity or a stud of at most 80 letters")
	}
	if _, known := FunctionOf(a.Function); !known {
		return fmt.Errorf("there is no function %q", a.Function)
	}
	return nil
}

// Wire names the copper of a part that is let into a wire.
func (a *Added) Wire() string { return NewWire + "through " + a.ID }

// lead is a wire of a part: from a point of it to a cavity's wire or a stud.
type lead struct {
	wire, point, to string
}

// leads lists the leads of a part that come to wires or studs without cutting anything.
func (a *Added) leads() []lead {
	var out []lead
	add := func(point, to string) {
		if to != "" {
			out = append(out, lead{NewWire + "lead " + point + " of " + a.ID, a.Point(point), to})
		}
	}
	if a.How == Between {
		add("1", a.At.String())
		add("2", a.To)
	}
	if a.How != Fitted {
		add("+", a.Plus)
		add("−", a.Minus)
	}
	return out
}

// Point names the end of a part that a lead comes to, as a stud is named.
func (a *Added) Point(end string) string { return a.ID + " " + end }

// Wires names the copper that a part brings.
func (a *Added) Wires() []string {
	var out []string
	if a.How == InWire {
		out = append(out, a.Wire())
	}
	for _, l := range a.leads() {
		out = append(out, l.wire)
	}
	return out
}

// AddIn is what parts are added to: the harness as it is now, and as all else wants it.
type AddIn struct {
	Now, Wanted harness.Harness
	Cavity      func(text string) (harness.Ref, bool)
	Stud        func(text string) bool             // whether there is such a stud
	Name        func(wire string) string           // a wire as a person recognises it
	Alone       func(wire string) bool             // it is left to qualified hands
	Proof       func(at harness.Ref) (Meter, bool) // what proves a wire of the vehicle that nobody has measured
	School      string
	Join, Check float64 // minutes a joint, a measurement
}

// AddedPart is what follows from the parts that are added.
type AddedPart struct {
	Changes  harness.Changes
	Made     harness.Changes // of them, what is so already
	Steps    []work.Step
	Findings []finding.Finding
	Touches  map[string][]string // by step: the lengths that it handles, which are finished before
}

// adder is the work in progress.
type adder struct {
	AddIn
	out   AddedPart
	seats map[harness.TerminalID][]harness.Length // what is crimped into each terminal, in the wanted harness
	taken map[harness.Length]string               // ends at which a part sits already
}

// Add plans the parts: which wire is cut or joined onto for each, and the step that brings it in. It comes after all
// else is decided, so that a part sits right behind the plug in whatever wire ends there at last.
func Add(parts []Added, in AddIn) AddedPart {
	x := &adder{AddIn: in, taken: map[harness.Length]string{}, out: AddedPart{Touches: map[string][]string{},
		Changes: harness.Changes{Tips: map[string][2]harness.Tip{}}, Made: harness.Changes{Tips: map[string][2]harness.Tip{}}}}
	if len(parts) > 0 {
		x.seats = Crimped(in.Wanted)
	}
	for i := range parts {
		x.add(&parts[i])
	}
	return x.out
}

// Crimped gives the ends of wires by the terminals that they are crimped into.
func Crimped(h harness.Harness) map[harness.TerminalID][]harness.Length {
	out := map[harness.TerminalID][]harness.Length{}
	for _, w := range h.Wires() {
		tips, _ := h.Tips(w)
		for end, t := range tips {
			if t.State == harness.Crimped {
				out[t.Terminal] = append(out[t.Terminal], harness.Length{Wire: w, End: end})
			}
		}
	}
	return out
}

// Site gives the end of the wire behind a cavity that a part can come to, or why none can: one wire, in one terminal,
// that ends there whole.
func Site(h harness.Harness, seats map[harness.TerminalID][]harness.Length, at harness.Ref) (harness.Length, error) {
	t, full := h.In(at)
	if !full || len(seats[t]) == 0 {
		return harness.Length{}, fmt.Errorf("no wire ends in %s in the finished harness", at)
	}
	if len(seats[t]) > 1 {
		return harness.Length{}, fmt.Errorf("several wires end in the terminal of %s", at)
	}
	l := seats[t][0]
	if strings.HasSuffix(l.Wire, " stub 1") || strings.HasSuffix(l.Wire, " stub 2") {
		return l, fmt.Errorf("the wire of %s is cut or joined onto there already", at)
	}
	return l, nil
}

// site gives the end of the wire behind a cavity, and says where none can be had.
func (x *adder) site(a *Added, at harness.Ref) (harness.Length, bool) {
	l, err := Site(x.Wanted, x.seats, at)
	switch {
	case err == nil && x.Alone(l.Wire):
		err = fmt.Errorf("the wire of %s is left to qualified hands", at)
	case err == nil && x.taken[l] != "":
		err = fmt.Errorf("%s sits at %s already", x.taken[l], at)
	}
	if err == nil {
		return l, true
	}
	x.say(a, err.Error())
	return harness.Length{}, false
}

func (x *adder) say(a *Added, why string) {
	x.out.Findings = append(x.out.Findings, finding.Finding{Code: "part-no-place", Severity: finding.Wrong, Stage: "join",
		Subject: a.Function, Text: fmt.Sprintf("%s, %s, finds no place: %s.", a.ID, a.What, why),
		Remedy: "Choose another end of the circuit for it, or take it out again."})
}

// target is where a lead comes: an end of a wire that it is joined onto, or a stud.
type target struct {
	lead
	host harness.Length
	stud string
}

func (x *adder) add(a *Added) {
	if a.How == Fitted {
		s := work.Step{Kind: FitPart, Minutes: 15, Why: a.Reason, Text: fmt.Sprintf("Fit %s: %s.", a.ID, a.What)}
		s = s.As(work.Check("join", "fit", a.ID, a.What))
		s.Stage = work.Join
		x.out.Steps = append(x.out.Steps, s)
		return
	}
	var cut harness.Length
	var hosts []harness.Length
	if a.How == InWire {
		l, ok := x.site(a, a.At)
		if !ok {
			return
		}
		cut, hosts = l, []harness.Length{l}
	}
	var targets []target
	for _, l := range a.leads() {
		g := target{lead: l}
		if at, is := x.Cavity(l.to); is {
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
		} else if g.stud = l.to; !x.Stud(l.to) {
			x.say(a, fmt.Sprintf("there is no cavity and no stud %q", l.to))
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
func (a *Added) joint(at, end string) string { return JointAt + at + " " + a.ID + " " + end }

// plan says what a part changes, and makes its step.
func (x *adder) plan(a *Added, cut harness.Length, targets []target) {
	ends := map[harness.Length]harness.Tip{} // of the wires that are cut or joined onto
	bits := map[string][2]harness.Tip{}      // stubs, and what the part brings
	var edits []harness.Edit
	joined := func(name string) harness.Tip { return harness.Tip{State: harness.Joined, Joint: name} }
	set := func(l harness.Length, to harness.Tip, stub harness.Tip) {
		was, _ := x.Wanted.Tips(l.Wire)
		ends[l], bits[harness.Stub(l.Wire, l.End)] = to, [2]harness.Tip{was[l.End], stub}
	}
	open := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	var says []string
	if a.How == InWire {
		one, other := a.joint(a.At.String(), "a"), a.joint(a.At.String(), "b")
		set(cut, joined(one), joined(other))
		bits[a.Wire()] = [2]harness.Tip{joined(one), joined(other)}
		edits = append(edits, harness.Edit{Do: harness.Cut, Wire: cut.Wire, End: cut.End},
			harness.Edit{Do: harness.Lay, Wire: a.Wire(), Tips: open},
			harness.Edit{Do: harness.Join, Joint: one, Lengths: []harness.Length{cut, {Wire: a.Wire()}}},
			harness.Edit{Do: harness.Join, Joint: other,
				Lengths: []harness.Length{{Wire: harness.Stub(cut.Wire, cut.End), End: 1}, {Wire: a.Wire(), End: 1}}})
		says = append(says, fmt.Sprintf("cut %s close behind %s and let it in, %s", x.Name(cut.Wire), a.At, x.School))
	}
	for _, g := range targets {
		edits = append(edits, harness.Edit{Do: harness.Lay, Wire: g.wire, Tips: open})
		near := joined(g.stud)
		if g.stud != "" {
			edits = append(edits, harness.Edit{Do: harness.Land, Wire: g.wire, Joint: g.stud})
			says = append(says, fmt.Sprintf("lead %s to %s", g.point, g.stud))
		} else {
			near = joined(a.joint(g.to, g.point[len(a.ID)+1:]))
			set(g.host, near, near)
			edits = append(edits, harness.Edit{Do: harness.Tap, Wire: g.host.Wire, End: g.host.End, Joint: near.Joint,
				Lengths: []harness.Length{{Wire: g.wire}}})
			says = append(says, fmt.Sprintf("join %s onto %s close behind %s, without cutting it", g.point, x.Name(g.host.Wire),
				g.to))
		}
		edits = append(edits, harness.Edit{Do: harness.Land, Wire: g.wire, End: 1, Joint: g.point})
		bits[g.wire] = [2]harness.Tip{near, joined(g.point)}
	}
	x.change(&x.out.Changes, ends, bits)
	if x.made(ends, bits) {
		x.change(&x.out.Made, ends, bits)
		return
	}
	x.step(a, edits, says, cut, targets)
}

// change notes what becomes of ends and of whole lengths: a wire may be cut at its other end for another part.
func (x *adder) change(to *harness.Changes, ends map[harness.Length]harness.Tip, bits map[string][2]harness.Tip) {
	for l, tip := range ends {
		tips, told := to.Tips[l.Wire]
		if !told {
			tips, _ = x.Wanted.Tips(l.Wire)
		}
		tips[l.End] = tip
		to.Tips[l.Wire] = tips
	}
	for w, tips := range bits {
		to.Tips[w] = tips
	}
}

// made says whether all that a part changes is so already.
func (x *adder) made(ends map[harness.Length]harness.Tip, bits map[string][2]harness.Tip) bool {
	for l, tip := range ends {
		if is, there := x.Now.Tips(l.Wire); !there || is[l.End] != tip {
			return false
		}
	}
	for w, tips := range bits {
		if is, there := x.Now.Tips(w); !there || is != tips {
			return false
		}
	}
	return true
}

func (x *adder) step(a *Added, edits []harness.Edit, says []string, cut harness.Length, targets []target) {
	s := work.Step{Kind: BringIn, Minutes: x.Join * float64(2*len(says)-len(targets)), Why: a.Reason,
		Text: fmt.Sprintf("Bring in %s, %s: %s.", a.ID, a.What, strings.Join(says, "; ")),
		Warn: []string{"It wants air and a place of its own where it gets warm: not taped into the bundle."}}
	var needs, touches []string
	guard := func(at harness.Ref, l harness.Length) {
		touches = append(touches, l.Wire, harness.Stub(l.Wire, l.End))
		s.Wires, s.At = append(s.Wires, l.Wire), append(s.At, at)
		if meter, open := x.Proof(at); open {
			m := MeasureFirst(at, x.Name(l.Wire), meter, x.Check)
			m.Wires, m.Guards = []string{l.Wire}, []harness.Length{l}
			needs = append(needs, m.ID)
			x.out.Steps = append(x.out.Steps, m)
		}
	}
	if a.How == InWire {
		guard(a.At, cut)
	}
	for _, g := range targets {
		if at, is := x.Cavity(g.to); is && g.stud == "" {
			guard(at, g.host)
		}
	}
	s = s.As(work.New(edits, needs...))
	s.Stage, s.NoReturn = work.Join, s.Cuts()
	x.out.Steps = append(x.out.Steps, s)
	x.out.Touches[s.ID] = append(touches, a.Wires()...)
}
