package wanted

import (
	"cmp"
	"fmt"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/signal"
)

// lead: a plug is put onto the From connector, and a new wire leads from its cavity to the To cavity.
func (g *planning) lead(l *match.Line) {
	row, _ := g.Facts.To.Row(l.To)
	from, _ := g.Facts.From.Row(l.From)
	row.Size = cmp.Or(row.Size, from.Size)
	on := harness.Ref{Connector: fact.Header(l.From.Connector), Cavity: l.From.Cavity}
	t, far := NewTerminal(l.To), NewEnd(on)
	n := newWire{ID: harness.WireID(t), Row: row, lands: [2]harness.Ref{g.Target(l.To), on}}
	n.ends = [2]join.Goal{{Terminal: t, At: n.lands[0]}, {Terminal: far, At: on}}
	g.lay(n)
	if was, there := g.Now.Place(harness.TerminalAt(l.From)); there && g.Facts.Repinned(l.From.Connector) {
		g.set(harness.TerminalAt(l.From), was)
	}
}

// want: a To cavity that a new wire serves, or a lead from a wire that serves another.
func (g *planning) want(w *match.Want, row harness.Row, stays bool) {
	t := NewTerminal(w.To)
	n := newWire{ID: harness.WireID(t), Row: row, lands: [2]harness.Ref{g.Target(w.To)}}
	if stays {
		name := g.joint(n.lands[0], fmt.Sprintf("%s gets a new wire.", w.To))
		if !g.bring(name, n.lands[0]) {
			return
		}
		g.begin(name, n, 0)
		n.ends[0] = join.Goal{Joint: name}
	} else {
		n.ends[0] = join.Goal{Terminal: t, At: n.lands[0]}
	}
	origin := w.Origin
	if w.Verdict == match.Branches {
		origin = &match.Origin{Kind: match.AtCavity, At: w.Of}
	}
	g.originate(&n, origin)
	g.lay(n)
}

// originate says what the second end of a new wire begins at.
func (g *planning) originate(n *newWire, o *match.Origin) {
	switch {
	case o == nil:
	case o.Kind == match.AtCavity && g.Alone.Cavity(o.At), o.Kind == match.AtSplice &&
		g.Alone.Splice(harness.JointID(o.Name)):
		g.untouched(n.Row.Ref, o.String())
	case o.Kind == match.AtCavity && o.At == n.lands[0]:
		g.itself(o.At)
	case o.Kind == match.AtCavity && g.Ends.Wires[o.At] != nil:
		n.lands[1] = o.At
		name := g.joint(o.At, fmt.Sprintf("The wire of %s serves %s too.", o.At, n.lands[0]))
		g.onto(name, o.At)
		g.begin(name, *n, 1)
		n.ends[1] = join.Goal{Joint: name}
	case o.Kind == match.AtCavity && g.begins[o.At] > 1:
		n.lands[1] = o.At
		name := g.pigtail(o.At)
		g.begin(name, *n, 1)
		n.ends[1] = join.Goal{Joint: name}
	case o.Kind == match.AtCavity:
		n.lands[1] = o.At
		n.ends[1] = join.Goal{Terminal: g.farEnd(n), At: o.At}
	case o.Kind == match.AtSplice:
		n.splice = harness.JointID(o.Name)
		n.ends[1] = join.Goal{Stud: harness.JointID(o.Name)}
		if left, known := g.splices[harness.JointID(o.Name)]; known && left != "" {
			n.ends[1] = join.Goal{Joint: left}
		} else if known {
			n.splice, n.ends[1] = "", join.Goal{}
			g.Findings = append(g.Findings, finding.Finding{
				Code: "origin-goes", Severity: finding.Wrong, Stage: "match", Subject: n.Row.Ref.String(),
				Text:   fmt.Sprintf("The new wire of %s is to begin at splice %s, which is taken apart.", n.Row.Ref, o.Name),
				Remedy: "Say where it begins instead, or keep a leg of the splice.",
			})
		}
	case o.Kind == match.OpenEnd:
		n.ends[1] = join.Goal{Owner: o.Owner}
	default:
		n.ends[1] = join.Goal{Stud: harness.JointID(o.Name)}
	}
}

// source: a From wire that needs a source gets a new wire from what it was said to be fed from.
func (g *planning) source(l *match.Line) {
	if l.Origin.At == l.From {
		g.itself(l.From)
		return
	}
	name := g.joint(l.From, fmt.Sprintf("%s is fed from %s.", l.From, l.Origin))
	if g.Facts.Repinned(l.From.Connector) {
		if !g.freed(name, l.From, l.Origin.String()) {
			return
		}
	} else if !g.bring(name, l.From) {
		return
	}
	row, _ := g.Facts.From.Row(l.From)
	n := newWire{ID: harness.NewWire("for " + l.From.String()), Row: row, lands: [2]harness.Ref{l.From}}
	g.begin(name, n, 0)
	n.ends[0] = join.Goal{Joint: name}
	g.originate(&n, l.Origin)
	g.lay(n)
}

// leadsOf lays the wires that a block of one's own needs: what feeds its groups, and the ends of its coils.
func (g *planning) leadsOf(b Block) {
	for _, l := range b.Leads {
		row := harness.Row{Ref: l.At, Conductor: harness.Conductor{
			Function: "feed of the fuse block", Size: feedSquare, Signal: signal.Reading{Role: signal.Battery}}}
		if l.Coil {
			row.Function, row.Size, row.Signal = "relay coil of the fuse block", coilSquare,
				signal.Reading{Role: signal.RelayCoil}
		}
		t := NewEnd(l.At)
		n := newWire{ID: NewWireOf(l.At), Row: row, lands: [2]harness.Ref{l.At}}
		n.ends[0] = join.Goal{Terminal: t, At: l.At}
		origin := &match.Origin{Kind: match.AtFuse, Name: l.To}
		if at, is := g.cavity(l.To); is {
			origin = &match.Origin{Kind: match.AtCavity, At: at}
		}
		g.originate(&n, origin)
		g.lay(n)
	}
}

// untouched says that a decision about a cavity is not carried out, since it would touch what is left alone.
func (m *Model) untouched(subject harness.Ref, what string) {
	m.Findings = append(m.Findings, finding.Finding{
		Code: "touches-restraint", Severity: finding.Danger, Stage: "match", Subject: subject.String(),
		Text: fmt.Sprintf("%s belongs to or feeds a restraint or high-voltage circuit: what was decided about %s is not "+
			"done.",
			what, subject),
		Remedy: "Reopen the row and choose another source; this one is left to qualified hands.",
	})
}

// itself says that a wire was said to begin where it ends.
func (m *Model) itself(at harness.Ref) {
	m.Findings = append(m.Findings, finding.Finding{
		Code: "fed-from-itself", Severity: finding.Wrong, Stage: "match", Subject: at.String(),
		Text:   fmt.Sprintf("The wire of %s is said to be fed from %s itself.", at, at),
		Remedy: "Say where it begins: another cavity, a splice, a fuse, a ground point.",
	})
}
