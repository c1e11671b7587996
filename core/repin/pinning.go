package repin

import (
	"fmt"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/terminal"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Pinning is what goes with the steps of the re-pin sheet.
type Pinning struct {
	Now         harness.Harness // the connectors that are worked in
	Done        []work.Tick     // what has been carried out, in its order
	Limit       int             // terminals that may be in hand
	Extractions int
	Fewest      int
	Openings    int
	Bound       int
	Stuck       []pin.Stuck
	Orders      []pin.Order
	Spares      []pin.Spare
	Adaptations []pin.Adaptation
	Expected    []pin.Expected
	Settings    []string // what must be changed in the unit's settings
	Outputs     []Output
	Minutes     float64 // reckoned for what is left to be taken out
	Rate        float64 // minutes a terminal that this rests on
	Logged      int     // terminals whose time was logged; the rate is theirs where there are enough
}

// enoughLogged is how many terminals' time must be logged before their average says more than the rate of the job.
const enoughLogged = 5

// longest is how many times the reckoned time a logged one may be: what took longer was a break, and is not counted.
const longest = 5

// Measured says whether the rate is what was logged.
func (p *Pinning) Measured() bool { return p.Logged >= enoughLogged }

// reckon says how long the terminals that are left will take: at the job's rate, or at what was logged.
func (p *Pinning) reckon(left int, rate float64) {
	spent := 0.0
	for _, t := range p.Done {
		if t.Spent > 0 && t.Minutes > 0 && t.Spent <= longest*t.Minutes {
			spent += t.Spent
			p.Logged++
		}
	}
	if p.Rate = rate; p.Measured() {
		p.Rate = spent / float64(p.Logged)
	}
	p.Minutes = p.Rate * float64(left)
}

// counted says what a finished connector must show when its wires and seals are counted.
func (p *Pinning) counted(connector string) string {
	wires, empty := 0, 0
	for _, e := range p.Expected {
		if e.At.Connector != connector {
			continue
		}
		if e.Empty {
			empty++
		} else {
			wires++
		}
	}
	if wires+empty == 0 {
		return ""
	}
	return fmt.Sprintf(
		"Count: %d wires, %d empty cavities; where it is sealed, a plug in each of those. ",
		wires,
		empty,
	)
}

// Output is an output of the unit that could be exchanged with others of its kind.
type Output struct {
	At       harness.Ref `json:"at"`
	Function string      `json:"function"`
	Kind     signal.Role `json:"kind"`
	With     harness.Ref `json:"with,omitzero"` // the output that it is exchanged with
	// The output that it is exchanged with in the earlier job named, which nobody has taken over.
	Earlier harness.Ref `json:"earlier,omitzero"`
	Verify  string      `json:"verify,omitempty"`
}

// Step is a step of the re-pin sheet with what tells its wire from others.
type Step struct {
	pin.Step
	pin.Advice
	Wire harness.Row `json:"wire"` // the wire's row; for a new wire the To row
	Goal harness.Row `json:"goal"` // the To row that it fills, zero when it fills none
}

// SheetReads is what the sheet follows from.
type SheetReads struct {
	Model  *wanted.Model
	Match  *match.Result
	Wanted harness.Harness
	Pin    pin.Decisions
	Rate   float64 // minutes that a terminal takes, as long as too few were logged
}

// Sheet is the re-pin sheet: Pin's steps with what tells their wires, and what goes with them.
type Sheet struct {
	Steps    []Step
	Pinning  Pinning
	Findings []finding.Finding
	Fault    string // why the moves could not be planned
}

// Moves plans the moves from what is there now, and what goes with each.
func Moves(in SheetReads) *Sheet {
	m, d := in.Model, in.Pin
	p := &Sheet{Steps: []Step{}, Pinning: Pinning{Now: m.Now, Done: m.Ticks, Limit: d.Limit, Adaptations: m.Adaptations,
		Expected: expected(m)}}
	defer p.expectJoints(&in)
	r, err := pin.Plan(
		pin.Input{
			Now:    m.Now,
			Wanted: m.Wanted,
			Limit:  d.Limit,
			Fits:   m.Adviser.Fits,
			Fixed:  m.Adviser.Fixed,
			Made:   madeOf(m),
			Renew:  m.Renew,
			State:  pin.Left(m.Ticks),
			Wishes: d.Wishes,
		},
	)
	if err != nil {
		p.Fault = err.Error()
		return p
	}
	p.Pinning.reckon(r.Extractions, in.Rate)
	p.Pinning.Extractions, p.Pinning.Fewest, p.Pinning.Openings, p.Pinning.Bound, p.Pinning.Stuck = r.Extractions, r.Fewest, r.Openings, r.Bound, r.Stuck
	uses := []pin.Use{}
	for _, s := range r.Steps {
		w := m.Wires[s.Terminal]
		goal, _ := m.Wanted.Place(s.Terminal)
		if s.Kind == pin.Seat && s.From == (harness.Ref{}) && s.Origin == (harness.Ref{}) {
			s.Origin = w.Row.Ref
		}
		step := Step{Step: s, Wire: w.Row, Goal: w.Goal, Advice: m.Adviser.Advise(s, goal.At, w.Row.Size)}
		if m.Renew[s.Terminal] && (s.Kind == pin.Move || s.Kind == pin.Pull) {
			step.Fit = m.Adviser.Anew(goal.At, w.Row.Size)
		}
		step.tell(m, &p.Pinning, in.Rate)
		for _, part := range step.Fit.Parts {
			uses = append(uses, pin.Use{Part: part, At: step.About()})
		}
		p.Steps = append(p.Steps, step)
	}
	for _, rep := range d.Reports {
		if _, open := rep.Finding(); open && rep.What == pin.Broken {
			uses = append(
				uses,
				pin.Use{Part: terminal.Part{Kind: terminal.Lock, Name: "secondary lock of " + rep.At.Connector}},
			)
		}
	}
	for _, j := range m.Joints {
		if !j.Made && len(j.For) > 0 {
			uses = append(
				uses,
				pin.Use{Part: terminal.Part{Kind: terminal.Joint, Name: "joint, sealed"}, At: j.For[0]},
			)
		}
	}
	p.Pinning.Orders = pin.Orders(uses, d.Have)
	p.around(&in)
	p.Findings = append(p.Findings, p.pinFindings(m, r, d)...)
	return p
}

// tell adds to a step what the rest of the plan knows of it.
func (s *Step) tell(m *wanted.Model, p *Pinning, minutes float64) {
	s.Advice.Warn = append(s.Advice.Warn, together(m, s.Step)...)
	for _, a := range m.Adaptations {
		if slices.Contains(s.Opens, a.Connector) {
			s.Advice.Warn = append(s.Advice.Warn, a.Warn)
		}
	}
	if s.Kind == pin.Close && !s.Again {
		s.After = p.counted(s.Connector) + s.After
	}
	if s.From != (harness.Ref{}) && s.Kind != pin.Unseal {
		s.Minutes = minutes
	}
	if w := m.Ends.Wires[s.Wire.Ref]; w != nil && s.Terminal != "" {
		s.Wires = []harness.WireID{w.ID}
	}
}

// madeOf says of each terminal that is no longer where it was found on which end of which wire it is, and of those
// that are new on which they will be.
func madeOf(m *wanted.Model) map[harness.TerminalID]pin.Made {
	out := map[harness.TerminalID]pin.Made{}
	for _, w := range m.Past.Now.Wires() {
		tips, _ := m.Past.Now.Tips(w)
		for end, t := range tips {
			if _, found := m.Found.Place(t.Terminal); t.State == harness.Crimped && !found {
				out[t.Terminal] = pin.Made{Length: harness.Length{Wire: w, End: end}, Name: string(w)}
			}
		}
	}
	for t, on := range m.Made {
		out[t] = on
	}
	return out
}

// About is the cavity that a step is best known by.
func (s *Step) About() harness.Ref {
	if s.To != (harness.Ref{}) {
		return s.To
	}
	return s.From
}

// together warns of wires that run as a pair or under one shield.
func together(m *wanted.Model, s pin.Step) []string {
	if s.From == (harness.Ref{}) {
		return nil
	}
	w := m.Ends.Wires[m.Wires[s.Terminal].Row.Ref]
	if w == nil {
		return nil
	}
	var out []string
	if w.Pair != "" {
		out = append(
			out,
			fmt.Sprintf("It is twisted as pair %s: open no more of the twist than the move needs.", w.Pair),
		)
	} else if w.Shield != "" {
		out = append(out, fmt.Sprintf("It runs under shield %s: leave the shield whole, grounded at one end only.", w.Shield))
	}
	return out
}

// around fills in what is asked about the connectors when the steps are known.
func (p *Sheet) around(in *SheetReads) {
	m := in.Model
	reasons := map[harness.Ref]string{}
	for _, w := range in.Match.Wants {
		if w.Verdict == match.LeftEmpty {
			reasons[m.Target(w.To)] = w.Reason
		}
	}
	p.Pinning.Spares = m.Adviser.Spares(m.Wanted, reasons)
	p.exchanges(m, in.Pin)
}
