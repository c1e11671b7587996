package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Body says what a part is, electrically.
type Body string

// The bodies. A part of which nothing is known lets through what it is let into; what is fitted in the place of another
// changes no wire.
const (
	Resistor   Body = "resistor"
	RelayBody  Body = "relay"
	Through    Body = "part"
	SingleWire Body = "wire"
	Fitted     Body = "fitted"
)

// Added is something that a function wants so that it works: a resistor, a relay, a converter, another sender, a wire.
type Added struct {
	ID       string      `json:"id"`       // R1
	Function string      `json:"function"` // that it serves
	What     string      `json:"what"`     // "resistor of 51 Ω, 1 W"
	Body     Body        `json:"body"`
	Ohms     float64     `json:"ohms,omitempty"`   // of a resistor
	In       harness.Ref `json:"in,omitzero"`      // the cavity behind which a wire is cut and led through it
	Leads    []PartLead  `json:"leads,omitempty"`  // to wires that are not cut, and to studs
	Was      Stated      `json:"was,omitempty"`    // what the function stated before it was taken
	Reason   string      `json:"reason,omitempty"` // the sum that asked for it
	Who      string      `json:"who,omitempty"`
	When     int64       `json:"when,omitempty"` // Unix milliseconds
}

// PartLead is a lead of a part: from one of its points to the wire of a cavity, or to a stud.
type PartLead struct {
	Point string `json:"point"` // 1, 86, +
	To    string `json:"to"`
}

// Stated are the facts of a function by name, as they were typed.
type Stated map[string]string

// Check says why a part cannot be.
func (a *Added) Check() error {
	in := a.In != harness.Ref{}
	switch {
	case a.ID == "" || len(a.ID) > 20 || a.What == "" || len(a.What) > 200:
		return fmt.Errorf("a part has a name of at most 20 letters and says what it is")
	case !slices.Contains([]Body{Resistor, RelayBody, Through, SingleWire, Fitted}, a.Body):
		return fmt.Errorf("a part cannot be %q", a.Body)
	case a.Body == Fitted && (in || len(a.Leads) > 0):
		return fmt.Errorf("what is fitted in the place of another has no leads")
	case a.Body != Fitted && !in && len(a.Leads) < 2:
		return fmt.Errorf("say behind which cavity %s comes, or where its leads come", a.ID)
	case a.Body == SingleWire && (in || len(a.Leads) != 2):
		return fmt.Errorf("a wire has two ends")
	case !(a.Ohms >= 0 && a.Ohms <= 1e6) || a.Body == Resistor && a.Ohms == 0:
		return fmt.Errorf("a resistor of %g Ω cannot be", a.Ohms)
	case len(a.Leads) > 8 || len(a.Was) > 40:
		return fmt.Errorf("a part has at most 8 leads")
	}
	seen := map[string]bool{}
	for _, l := range a.Leads {
		if l.Point == "" || len(l.Point) > 8 || l.To == "" || len(l.To) > 80 || seen[l.Point] {
			return fmt.Errorf("a lead has a point of its own and comes to a cavity or a stud: %q", l.Point)
		}
		seen[l.Point] = true
	}
	if _, known := FunctionOf(a.Function); !known {
		return fmt.Errorf("there is no function %q", a.Function)
	}
	return nil
}

// Point names a point of a part, as a stud is named.
func (a *Added) Point(end string) harness.JointID { return harness.JointID(a.ID + " " + end) }

// Wire names the copper of a part that is let into a wire, or a wire that is added: after its ends, so that one that is
// led elsewhere is another.
func (a *Added) Wire() harness.WireID {
	if a.Body == SingleWire && len(a.Leads) == 2 {
		return harness.NewWire(a.ID + " from " + a.Leads[0].To + " to " + a.Leads[1].To)
	}
	return harness.NewWire("through " + a.ID)
}

// Wires names the copper that a part brings.
func (a *Added) Wires() []harness.WireID {
	var out []harness.WireID
	if a.Body == SingleWire {
		return append(out, a.Wire())
	}
	if a.In != (harness.Ref{}) {
		if a.Body == RelayBody {
			out = append(out, a.lead("30"), a.lead("87"))
		} else {
			out = append(out, a.Wire())
		}
	}
	for _, l := range a.Leads {
		out = append(out, a.lead(l.Point))
	}
	return out
}

func (a *Added) lead(point string) harness.WireID {
	return harness.NewWire("lead " + point + " of " + a.ID)
}

// AddIn is what parts are added to: the harness as it is now, and as all else wants it.
type AddIn struct {
	Now, Wanted harness.Harness
	Cavity      func(text string) (harness.Ref, bool)
	Stud        func(text string) bool             // whether there is such a stud
	Name        func(wire harness.WireID) string   // a wire as a person recognises it
	Alone       func(wire harness.WireID) bool     // it is left to qualified hands
	Proof       func(at harness.Ref) (Meter, bool) // what proves a wire of the vehicle that nobody has measured
	School      string
	Join, Check float64 // minutes a joint, a measurement
}

// own says whether a text names a point of the part itself.
func (a *Added) own(text string) bool { return strings.HasPrefix(text, a.ID+" ") }

// AddedPart is what follows from the parts that are added.
type AddedPart struct {
	Changes  harness.Changes
	Made     harness.Changes // of them, what is so already
	Steps    []work.Step
	Findings []finding.Finding
	Touches  map[string][]harness.WireID // by step: the lengths that it handles, which are finished before
}

// adder is the work in progress.
type adder struct {
	AddIn
	out   AddedPart
	seats map[harness.TerminalID][]harness.TipID // what is crimped into each terminal, in the wanted harness
	taken map[harness.TipID]string               // ends at which a part sits already
}

// Add plans the parts: which wire is cut or joined onto for each, and the step that brings it in. It comes after all
// else is decided, so that a part sits right behind the plug in whatever wire ends there at last.
func Add(parts []Added, in AddIn) AddedPart {
	x := &adder{AddIn: in, taken: map[harness.TipID]string{}, out: AddedPart{Touches: map[string][]harness.WireID{},
		Changes: harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}},
		Made:    harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}}}
	if len(parts) > 0 {
		x.seats = Crimped(in.Wanted)
	}
	for i := range parts {
		x.add(&parts[i])
	}
	return x.out
}

// Crimped gives the ends of wires by the terminals that they are crimped into.
func Crimped(h harness.Harness) map[harness.TerminalID][]harness.TipID {
	out := map[harness.TerminalID][]harness.TipID{}
	for _, w := range h.Wires() {
		tips, _ := h.Tips(w)
		for end, t := range tips {
			if t.State == harness.Crimped {
				out[t.Terminal] = append(out[t.Terminal], harness.TipID{Wire: w, End: end})
			}
		}
	}
	return out
}

// Site gives the end of the wire behind a cavity that a part can come to, or why none can: one wire, in one terminal,
// that ends there whole.
func Site(h harness.Harness, seats map[harness.TerminalID][]harness.TipID, at harness.Ref) (harness.TipID, error) {
	t, full := h.In(at)
	if !full || len(seats[t]) == 0 {
		return harness.TipID{}, fmt.Errorf("no wire ends in %s in the finished harness", at)
	}
	if len(seats[t]) > 1 {
		return harness.TipID{}, fmt.Errorf("several wires end in the terminal of %s", at)
	}
	l := seats[t][0]
	if l.Wire.Piece().Stub() {
		return l, fmt.Errorf("the wire of %s is cut or joined onto there already", at)
	}
	return l, nil
}

// site gives the end of the wire behind a cavity, and says where none can be had.
func (x *adder) site(a *Added, at harness.Ref) (harness.TipID, bool) {
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
	return harness.TipID{}, false
}

func (x *adder) say(a *Added, why string) {
	x.out.Findings = append(x.out.Findings, finding.Finding{Code: "part-no-place", Severity: finding.Wrong, Stage: "join",
		Subject: a.Function, Name: a.ID, Text: fmt.Sprintf("%s, %s, finds no place: %s.", a.ID, a.What, why),
		Remedy: "Choose another end of the circuit for it, or take it out again."})
}
