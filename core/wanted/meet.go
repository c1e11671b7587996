package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
)

// meet: a matched wire is joined to one that stays, or goes into its plug.
func (g *planning) meet(l *match.Line) {
	x := g.Facts.Pair(l)
	if g.Ways[l.From] == match.Into {
		g.into(l, x)
		return
	}
	how, why := join.CutOff, "%s and %s become one circuit: the vehicle's wire is cut off its old source."
	if g.Ways[l.From] == match.Tap {
		how, why = join.Whole, "%s and %s become one circuit: nothing of the vehicle's wire is cut."
	}
	name := g.joint(x.Vehicle, fmt.Sprintf(why, l.From, l.To))
	e, ok := g.endAt(x.Vehicle, how)
	if !ok {
		return
	}
	g.measureFirst(&e)
	g.comes(name, e)
	g.Planned[name].For = append(g.Planned[name].For, x.Ours)
	g.bring(name, x.Ours)
}

// into: the vehicle's terminal is drawn and ours goes into its cavity.
func (g *planning) into(l *match.Line, x fact.Pairing) {
	if t := harness.TerminalAt(x.Vehicle); !g.out(t) {
		if _, there := g.Now.Place(t); there {
			g.drawn[t] = true
			g.set(t, harness.Place{State: harness.Capped, Label: x.Vehicle.String() + " drawn"})
		}
	}
	goal, _ := g.Facts.To.Row(l.To)
	w := g.Ends.Wires[x.Ours]
	switch {
	case w == nil:
		g.endAt(x.Ours, join.CutOff) // says that there is none
	case g.MovesInto(x):
		t := harness.TerminalAt(x.Ours)
		if g.out(t) {
			g.wanting(*l)
			return
		}
		g.set(t, harness.Place{State: harness.Seated, At: x.Vehicle})
		it := g.Wires[t]
		it.Goal = goal
		g.Wires[t] = it
	case g.Ends.off[x.Ours.Connector]: // it was cut off its plug: its end gets a new terminal
		t := NewEnd(x.Vehicle)
		g.Wires[t] = Filling{Row: fact.RowOfWire(w, x.Ours), Goal: goal}
		g.Made[t] = pin.Made{TipID: harness.TipID{Wire: w.ID, End: g.Ends.end[x.Ours]}, Name: fact.WireOf(w, x.Ours)}
		g.set(t, harness.Place{State: harness.Seated, At: x.Vehicle})
	default: // it stays in its own plug: a lead goes into the vehicle's
		name := g.joint(
			x.Ours,
			fmt.Sprintf("%s stays in its plug: a lead from its wire goes into %s.", x.Ours, x.Vehicle),
		)
		if !g.bring(name, x.Ours) {
			return
		}
		t := NewEnd(x.Vehicle)
		n := newWire{
			ID:    harness.NewWire("into " + x.Vehicle.String()),
			Row:   fact.RowOfWire(w, x.Ours),
			lands: [2]harness.Ref{x.Ours, x.Vehicle},
		}
		n.ends = [2]join.Goal{{Joint: name}, {Terminal: t, At: x.Vehicle}}
		g.begin(name, n, 0)
		g.lay(n)
		g.Wires[t] = Filling{Row: n.Row, Goal: goal}
	}
}

// joinTo: a wire is joined onto the one that fills a To cavity.
func (g *planning) joinTo(l, fill *match.Line) {
	if fill == nil {
		return
	}
	to, why := g.Target(l.To), fmt.Sprintf("Two wires serve %s.", l.To)
	var name harness.JointID
	if x := g.Facts.Pair(fill); fill.Verdict == match.Meets && g.Ways[fill.From] != match.Into {
		name = g.joint(x.Vehicle, why)
	} else if name = g.joint(to, why); !g.onto(name, fill.From) {
		return
	}
	if g.Facts.Repinned(l.From.Connector) {
		g.freed(name, l.From, to.String())
	} else {
		g.bring(name, l.From)
	}
}

// freed takes the terminal of a wire out of its cavity for a joint; it waits, labelled, until it is clipped off.
func (g *planning) freed(name harness.JointID, from harness.Ref, to string) bool {
	t := harness.TerminalAt(from)
	e, ok := g.endAt(from, join.Clipped)
	_, clipped := g.clipped(t)
	if !ok || g.out(t) && !clipped {
		return false
	}
	if clipped { // it was cut off before
		e.How = join.AsIs
	} else if n := g.crimpedAt(from); n > 1 { // another wire is crimped into it: it stays, and this one is cut off
		e.How = join.CutOff
	} else {
		g.set(t, harness.Place{State: harness.Parked, Label: from.String() + " to be joined to " + to})
	}
	g.comes(name, e)
	return true
}

func (m *Model) crimpedAt(at harness.Ref) int {
	n := 0
	for i := range m.Facts.Laid.Loom.Wires {
		for _, e := range m.Facts.Laid.Loom.Wires[i].Ends {
			if e.At == at {
				n++
			}
		}
	}
	return n
}

// wanting says that a wire which the decisions want is out of the harness.
func (m *Model) wanting(l match.Line) {
	if l.Decided && l.Verdict != match.Goes {
		m.Findings = append(m.Findings, finding.Finding{
			Code: "wire-is-out", Severity: finding.Wrong, Stage: "pin", Side: string(match.From), Subject: l.From.String(),
			Text:   fmt.Sprintf("The wire found in %s is out of the harness, and the decisions want it.", l.From),
			Remedy: "Reopen its row in Match: the plan then adds a new wire where one is wanted.",
		})
	}
}
