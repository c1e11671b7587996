package plan

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/terminal"
	"draxel/core/thin"
	"draxel/core/work"
)

// Reaching is the part of the plan that makes wires reach.
type Reaching struct {
	Result *reach.Result
	Done   map[string]work.Tick // by step
	Strays []work.Tick          // done, and not in the plan any more
	Held   map[string]string    // by step: why it cannot be done as the harness is now
	Before map[string]bool      // steps of Thin that are done
	Proof  Proof
}

// decideReach computes which wires reach, of those that stay, where the decisions of the other stages want their ends.
func (p *Plan) decideReach(f Facts, d Decisions, m *model) {
	l := &f.Laid.Loom
	in := reach.Input{Loom: l, Decisions: d.Reach}
	off := map[string]bool{}
	for _, c := range p.Thin.Result.Off {
		off[c] = true
	}
	lands := landings(f, p.Match)
	after := stepsBefore(p.Thin.Result.Steps)
	cut := map[string]work.Tick{}
	used := map[string]float64{}
	out := map[string]bool{}
	for _, t := range d.Ticks {
		for _, e := range t.Edits {
			out[e.Wire] = out[e.Wire] || e.Do == harness.FallOut
		}
		if t.Stage == "reach" && t.Length > 0 {
			cut[t.Wire] = t
			used[t.Piece] += t.Length
		}
	}
	for i := range l.Wires {
		w := &l.Wires[i]
		if p.Thin.Result.Wires[i].Choice == thin.Goes {
			in.Stock = append(in.Stock, pulledPiece(w, d.Bench, used, out[w.ID])...)
			continue
		}
		x := reach.Wire{Wire: *w, After: after[w.ID], Cut: cut[w.ID].Length, CutAt: cutAt(cut[w.ID])}
		for end, e := range w.Ends {
			if e.At == (harness.Ref{}) {
				continue
			}
			if to, joined := lands[e.At]; joined {
				x.Lands[end], x.Renewed[end] = to, true
			} else if x.Dead[end] = off[e.At.Connector]; !x.Dead[end] {
				x.Lands[end], x.Renewed[end], x.Dead[end] = m.landing(e.At)
			}
		}
		in.Wires = append(in.Wires, x)
	}
	for _, t := range m.wanted.Terminals() {
		w, known := m.wires[t]
		if place, _ := m.wanted.Place(t); known && place.State == harness.Seated && t == newTerminal(w.goal.Ref) {
			x := reach.Wire{New: true, Cut: cut[string(t)].Length, Wire: harness.Wire{ID: string(t), Ends: [2]harness.End{{At: place.At}, {}}, Colour: w.goal.Colour, Circuit: w.goal.Circuit, Function: w.goal.Function, Signal: w.goal.Signal, Size: w.goal.Size}}
			x.Lands[1] = m.leads[t]
			in.Wires = append(in.Wires, x)
		}
	}
	p.Reach.Result = reach.Compute(in)
	p.Findings = append(p.Findings, p.Reach.Result.Findings...)
}

// cutAt gives the end, 1 or 2, at which a tick of Reach cut its wire, 0 where it cut none or both.
func cutAt(t work.Tick) int {
	at := 0
	for _, e := range t.Edits {
		if e.Do == harness.Cut {
			if at > 0 {
				return 0
			}
			at = e.End + 1
		}
	}
	return at
}

// landing gives where the moves want a terminal, whether it gets a new one for that, and whether nothing is left for it.
func (m *model) landing(found harness.Ref) (to harness.Ref, renewed, dead bool) {
	goal, known := m.wanted.Place(harness.TerminalAt(found))
	switch {
	case !known:
		return harness.Ref{}, false, false
	case goal.State == harness.Capped || goal.State == harness.Parked:
		return harness.Ref{}, false, true
	case goal.At == found:
		return harness.Ref{}, false, false
	}
	return goal.At, goal.State == harness.Tied || m.adviser.Fit(found, goal.At).Verdict == terminal.Reterminated, false
}

// landings gives, where matched wires are joined and not moved, the cavity that each end of the other harness comes to.
func landings(f Facts, r *match.Result) map[harness.Ref]harness.Ref {
	out := map[harness.Ref]harness.Ref{}
	if f.Kind.MovesTerminals() {
		return out
	}
	for _, l := range r.Lines {
		if l.Decided && l.Feeds() {
			at := l.To
			if _, clash := f.From.Connector(at.Connector); clash {
				at.Connector = f.To.Name + " " + at.Connector
			}
			out[at] = l.From
		}
	}
	return out
}

// stepsBefore gives, by wire, the steps of Thin that cut or join it: they come before it is lengthened.
func stepsBefore(steps []thin.Step) map[string][]string {
	out := map[string][]string{}
	for _, s := range steps {
		if len(s.Edits) == 0 || s.Kind == thin.ComeOut {
			continue
		}
		for _, w := range s.Wires {
			out[w] = append(out[w], s.ID)
		}
	}
	return out
}

// pulledPiece gives the piece of stock that a wire which goes leaves.
func pulledPiece(w *harness.Wire, b thin.Bench, used map[string]float64, out bool) []reach.Piece {
	p := reach.Piece{ID: w.ID, Colour: w.Colour, Size: w.Size, Length: w.Length - used[w.ID], Waits: !out}
	for _, e := range w.Ends {
		if e.Splice != "" {
			p.Length -= b.Stub
		}
	}
	if w.Shield != "" {
		p.Kind = reach.Shielded
	} else if w.Pair != "" {
		p.Kind = reach.Twisted
	}
	if p.Length <= 0 || w.Length < b.Usable {
		return nil
	}
	return []reach.Piece{p}
}

// workReach carries out what is left of Reach's work behind Thin's, and gives the harness that results. Where something
// was done that is not planned any more, what cannot be done is held.
func (p *Plan) workReach(d Decisions, left thin.Remaining, end harness.Harness, partial bool) harness.Harness {
	x := &p.Reach
	x.Done, x.Held, x.Before = map[string]work.Tick{}, map[string]string{}, map[string]bool{}
	for id := range p.Thin.Progress.Done {
		x.Before[id] = true
	}
	for _, t := range d.Ticks {
		if t.Stage == "reach" {
			x.Done[t.Step] = t
		}
	}
	planned := map[string]bool{}
	for i := range x.Result.Steps {
		planned[x.Result.Steps[i].ID] = true
	}
	for _, id := range slices.Sorted(maps.Keys(x.Done)) {
		if t := x.Done[id]; !planned[id] && len(t.Edits) > 0 {
			x.Strays = append(x.Strays, t)
			p.Findings = append(p.Findings, finding.Finding{Code: "done-unwanted", Severity: finding.Check, Stage: "reach", Subject: t.Wire,
				Text: fmt.Sprintf("%q was done, and the plan does not ask for it any more.", t.Text), Remedy: "Look at the wire; take the tick back if it was not done."})
		}
	}
	for _, t := range p.Thin.Progress.Lost {
		p.Findings = append(p.Findings, finding.Finding{Code: "tick-lost", Severity: finding.Wrong, Stage: "reach", Subject: t.Wire,
			Text:   fmt.Sprintf("It was ticked that %q, but on the harness as it is known now that cannot be done: %s.", t.Text, t.Reason),
			Remedy: "The facts have changed since: look at the wire, and take the tick back if it was not done."})
	}
	x.Proof.Partial = partial || len(x.Strays)+len(p.Thin.Progress.Lost) > 0
	reached := maps.Clone(left.Reached)
	for id := range x.Done {
		reached[id] = true
	}
	b := work.NewTrial(end)
	for i := range x.Result.Steps {
		s := &x.Result.Steps[i]
		if _, done := x.Done[s.ID]; done {
			continue
		}
		x.Proof.Steps++
		for _, need := range s.Needs {
			if !reached[need] {
				x.Held[s.ID] = "a step that it needs cannot be done"
			}
		}
		if x.Held[s.ID] == "" {
			if err := b.Try(s.Edits...); err != nil {
				x.Held[s.ID] = err.Error()
			}
		}
		if x.Held[s.ID] == "" {
			reached[s.ID] = true
		} else if !x.Proof.Partial && x.Proof.Fault == "" {
			x.Proof.Fault = fmt.Sprintf("%s: %s", s.Text, x.Held[s.ID])
		}
	}
	x.Proof.Reached = x.Proof.Fault == ""
	if n := len(x.Held); n > 0 && x.Proof.Partial {
		p.Findings = append(p.Findings, finding.Finding{Code: "steps-held", Severity: finding.Wrong, Stage: "reach",
			Text: fmt.Sprintf("%d steps cannot be done as the harness is now: what was done before the decisions changed stands in their way.", n), Remedy: "See what was done and is not wanted any more; put it right, or take the ticks back if it was not done."})
	}
	return b.Harness()
}
