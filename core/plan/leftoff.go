package plan

import (
	"fmt"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/match"
)

// leftOff names the accepted matches that the steps do not bring about: their wires are not one circuit with what they
// were matched to in the end, nor does their terminal stand where it was to go.
func leftOff(in *workReads, end harness.Harness) []string {
	m := in.Model
	end = end.With(contactsClosed(in.Added, end))
	net := circuit.Of(end, m.facts.Laid.Loom.Connectors)
	var out []string
	for i := range in.Match.Lines {
		l := &in.Match.Lines[i]
		accepted := l.Decided && (l.Feeds() || l.Verdict == match.Joins) && l.Verdict != match.Faces
		if accepted && !broughtAbout(in, end, net, l) {
			out = append(out, fmt.Sprintf("%s to %s", l.From, l.To))
		}
	}
	return out
}

// broughtAbout says whether an accepted match is what it was to become.
func broughtAbout(in *workReads, end harness.Harness, net *circuit.Net, l *match.Line) bool {
	m := in.Model
	seated := func(t harness.TerminalID, at harness.Ref) bool {
		place, there := end.Place(t)
		return there && place.State == harness.Seated && place.At == at
	}
	a, b := m.ends.wires[l.From], m.ends.wires[m.facts.At(l.To)]
	switch x := m.facts.Pair(l); {
	case l.Verdict == match.Joins:
		if b = m.filler(in.Match, l.To); b == nil {
			b = m.ends.wires[m.facts.At(l.To)]
		}
	case m.ways[l.From] == match.Lead:
		return seated(newTerminal(l.To), m.target(l.To))
	case l.Verdict == match.Meets && m.ways[l.From] == match.Into:
		ours := m.ends.wires[x.Ours]
		return ours != nil && (seated(harness.TerminalAt(x.Ours), x.Vehicle) || seated(newEnd(x.Vehicle), x.Vehicle)) &&
			holds(net.Cavity(end, x.Vehicle), ours.ID)
	case l.Verdict != match.Meets:
		return seated(harness.TerminalAt(l.From), m.target(l.To)) ||
			a != nil && holds(net.Cavity(end, m.target(l.To)), a.ID)
	}
	return a != nil && b != nil && holds(net.Wire(end, alive(end, a.ID)), b.ID)
}
