package wanted

import (
	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
)

// goals gives where each terminal that a decision moves should end, and the terminals in order. New wires and the
// joints that decisions make are noted on the way.
func (m *Model) goals(r *match.Result) (map[harness.TerminalID]harness.Place, []harness.TerminalID) {
	g := &planning{Model: m, goals: map[harness.TerminalID]harness.Place{}, begins: m.begins(r)}
	claimed := map[harness.Ref]bool{}
	fills := map[harness.Ref]*match.Line{} // by the To cavity that its wire fills
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && l.Feeds() {
			fills[l.To] = l
		}
	}
	for i := range r.Lines {
		l := &r.Lines[i]
		if !l.Decided && l.To.Cavity != "" {
			claimed[l.To] = true
		}
		switch {
		case l.Decided && g.leftAlone(l):
		case l.Decided && l.Verdict == match.Meets:
			g.meet(l)
		case l.Decided && l.Verdict == match.Joins:
			g.joinTo(l, fills[l.To])
		case l.Decided && l.Feeds() && m.Ways[l.From] == match.Lead:
			g.lead(l)
		case m.Facts.Repinned(l.From.Connector), l.Decided && l.Feeds():
			g.line(l)
		case l.Decided && l.Verdict == match.NeedsSource && l.Origin != nil:
			g.source(l)
		}
	}
	for i := range r.Wants { // a cavity that an open row may still fill gets no new wire yet
		w := &r.Wants[i]
		row, _ := m.Facts.To.Row(w.To)
		stays := m.Facts.Meetings[w.To.Connector].Met == match.Stays
		_, untouchable := match.Veto(row.Signal, row.Signal)
		if untouchable || claimed[w.To] && !w.Decided || w.Verdict == match.LeftEmpty ||
			w.Verdict == match.NeedsWire && (stays || !m.Facts.Kind.MovesTerminals()) {
			continue
		}
		g.want(w, row, stays)
	}
	g.leadsOf(m.block)
	return g.goals, g.order
}

// leftAlone says whether what was decided about a row would touch what is left to qualified hands. Then it stays as it
// is, and that is said.
func (g *planning) leftAlone(l *match.Line) bool {
	at := harness.Ref{}
	switch {
	case l.Verdict == match.Faces:
	case g.Alone.Cavity(l.From):
		at = l.From
	case l.To.Cavity != "" && g.Alone.Cavity(g.Facts.At(l.To)):
		at = l.To
	}
	if at == (harness.Ref{}) {
		return false
	}
	g.untouched(l.From, at.String())
	if was, there := g.Now.Place(harness.TerminalAt(l.From)); there {
		g.set(harness.TerminalAt(l.From), was)
	}
	return true
}

// line says where the terminal of a row goes that is moved, sealed off or parked.
func (g *planning) line(l *match.Line) {
	t := harness.TerminalAt(l.From)
	place := harness.Place{State: harness.Seated, At: l.From}
	end, clipped := g.clipped(t)
	if g.out(t) && !clipped {
		g.wanting(*l)
		return
	}
	switch {
	case clipped && (!l.Decided || !l.Feeds()):
		if l.Decided && l.Verdict == match.NeedsSource && l.Origin != nil {
			g.source(l)
		}
		return // its end is open, and stays sealed
	case !l.Decided: // it stays wherever it is now: nothing is done to what is not decided
		if was, there := g.Now.Place(t); there {
			place = was
		}
	case l.Verdict == match.Goes:
		place = harness.Place{State: harness.Capped, Label: l.From.String() + " goes"}
	case l.Verdict == match.NeedsSource && l.Origin != nil:
		g.source(l)
		return
	case l.Verdict == match.NeedsSource:
		place = harness.Place{State: harness.Parked, Label: l.From.String() + " " + l.Source}
	default:
		place.At = g.Target(l.To)
		w := g.Wires[t]
		w.Goal, _ = g.Facts.To.Row(l.To)
		g.Wires[t] = w
		g.Renew[t] = g.Ways[l.From] == match.Renew
		if clipped {
			g.Made[t] = pin.Made{TipID: end, Name: fact.WireOf(g.Ends.Wires[l.From], l.From)}
		}
	}
	g.set(t, place)
}
