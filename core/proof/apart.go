package proof

import (
	"fmt"
	"slices"

	"draxel/core/circuit"
	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/wanted"
)

// apart names the accepted matches whose two cavities are not one circuit in the end. It walks the copper of the
// harness that the steps led to, and knows nothing of how they got there.
func apart(in *Reads, end harness.Harness) []string {
	m := in.Model
	end = end.With(wanted.ContactsClosed(in.Added, end))
	net := circuit.Of(end, m.Facts.Laid.Loom.Connectors)
	var out []string
	for i := range in.Match.Lines {
		l := &in.Match.Lines[i]
		if !l.Decided || l.Verdict != match.Meets && l.Verdict != match.Joins {
			continue
		}
		a, b := m.Ends.Wires[l.From], m.Ends.Wires[m.Facts.At(l.To)]
		if l.Verdict == match.Joins {
			b = filler(m, in.Match, l.To)
		}
		if a == nil || b == nil {
			continue
		}
		if m.Ways[l.From] == match.Into && l.Verdict == match.Meets {
			x := m.Facts.Pair(l)
			ours := m.Ends.Wires[x.Ours]
			if t, full := end.In(x.Vehicle); ours != nil &&
				(!full || !holds(net.Cavity(end, x.Vehicle), ours.ID) || t == harness.TerminalAt(x.Vehicle)) &&
				entered(m, x) {
				out = append(out, fmt.Sprintf("%s and %s", l.From, l.To))
			}
			continue
		}
		if x := m.Facts.Pair(l); m.Planned[m.Renamed(wanted.JointAt(x.Vehicle))] == nil &&
			m.Planned[m.Renamed(wanted.JointAt(m.Target(l.To)))] == nil {
			continue // held up, and said so
		}
		if !holds(net.Wire(end, end.Standing(a.ID)), b.ID) {
			out = append(out, fmt.Sprintf("%s and %s", l.From, l.To))
		}
	}
	return out
}

// entered says whether the plan brings our end into the vehicle's plug: it may be held up by what stays there.
func entered(m *wanted.Model, x fact.Pairing) bool {
	t := wanted.NewEnd(x.Vehicle)
	if m.MovesInto(x) {
		t = harness.TerminalAt(x.Ours)
	}
	place, seated := m.Wanted.Place(t)
	return seated && place.At == x.Vehicle
}

// filler gives the wire that fills a To cavity.
func filler(m *wanted.Model, r *match.Result, to harness.Ref) *harness.Wire {
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && l.Feeds() && l.To == to {
			return m.Ends.Wires[l.From]
		}
	}
	return nil
}

// holds says whether wires include one, or what was let into it or put in its place.
func holds(all []harness.WireID, wire harness.WireID) bool {
	return slices.ContainsFunc(all, func(w harness.WireID) bool { return w == wire || w.Whole() == wire })
}

// leftOff names the accepted matches that the steps do not bring about: their wires are not one circuit with what they
// were matched to in the end, nor does their terminal stand where it was to go.
func leftOff(in *Reads, end harness.Harness) []string {
	m := in.Model
	end = end.With(wanted.ContactsClosed(in.Added, end))
	net := circuit.Of(end, m.Facts.Laid.Loom.Connectors)
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
func broughtAbout(in *Reads, end harness.Harness, net *circuit.Net, l *match.Line) bool {
	m := in.Model
	seated := func(t harness.TerminalID, at harness.Ref) bool {
		place, there := end.Place(t)
		return there && place.State == harness.Seated && place.At == at
	}
	a, b := m.Ends.Wires[l.From], m.Ends.Wires[m.Facts.At(l.To)]
	switch x := m.Facts.Pair(l); {
	case l.Verdict == match.Joins:
		if b = filler(m, in.Match, l.To); b == nil {
			b = m.Ends.Wires[m.Facts.At(l.To)]
		}
	case m.Ways[l.From] == match.Lead:
		return seated(wanted.NewTerminal(l.To), m.Target(l.To))
	case l.Verdict == match.Meets && m.Ways[l.From] == match.Into:
		ours := m.Ends.Wires[x.Ours]
		return ours != nil && (seated(harness.TerminalAt(x.Ours), x.Vehicle) ||
			seated(wanted.NewEnd(x.Vehicle), x.Vehicle)) &&
			holds(net.Cavity(end, x.Vehicle), ours.ID)
	case l.Verdict != match.Meets:
		return seated(harness.TerminalAt(l.From), m.Target(l.To)) ||
			a != nil && holds(net.Cavity(end, m.Target(l.To)), a.ID)
	}
	return a != nil && b != nil && holds(net.Wire(end, end.Standing(a.ID)), b.ID)
}
