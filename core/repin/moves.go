package repin

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/terminal"
	"draxel/core/wanted"
)

// Moves plans the moves from what is there now, and what goes with each.
func Moves(in Reads) *Sheet {
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
	p.Pinning.Extractions, p.Pinning.Fewest, p.Pinning.Openings = r.Extractions, r.Fewest, r.Openings
	p.Pinning.Bound, p.Pinning.Stuck = r.Bound, r.Stuck
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
				out[t.Terminal] = pin.Made{TipID: harness.TipID{Wire: w, End: end}, Name: string(w)}
			}
		}
	}
	for t, on := range m.Made {
		out[t] = on
	}
	return out
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
func (p *Sheet) around(in *Reads) {
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
