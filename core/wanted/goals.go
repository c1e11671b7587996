package wanted

import (
	"cmp"
	"fmt"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
)

// newWire is a wire that is laid: the row that it is for, and what each of its ends comes to.
type newWire struct {
	Id     harness.WireID
	Row    harness.Row
	ends   [2]join.Goal
	lands  [2]harness.Ref // cavities at whose place its ends are
	splice string         // that its second end comes to
	// It leads from a cavity to the joint of those that begin there.
	pigtail bool
}

// newWireOf names the new wire for a cavity.
func NewWireOf(at harness.Ref) harness.WireID { return harness.NewWire(at.String()) }

// newTerminal names the terminal of a new wire for a To cavity.
func NewTerminal(to harness.Ref) harness.TerminalID { return harness.TerminalID(NewWireOf(to)) }

// newEnd names a terminal that is crimped on an end which was cut, for a cavity of the model.
func NewEnd(at harness.Ref) harness.TerminalID {
	return harness.TerminalID("new end " + at.String())
}

// target gives the cavity of the model in which what is wanted in a To cavity comes.
func (m *Model) Target(to harness.Ref) harness.Ref {
	if other, ok := m.Swapped[to]; ok {
		to = other
	}
	return m.Facts.At(to)
}

// planning collects where each terminal should end.
type planning struct {
	*Model
	goals  map[harness.TerminalID]harness.Place
	order  []harness.TerminalID
	begins map[harness.Ref]int // by empty cavity: how many new wires begin there
}

func (g *planning) set(t harness.TerminalID, p harness.Place) {
	if _, known := g.goals[t]; !known {
		g.order = append(g.order, t)
	}
	g.goals[t] = p
}

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
			g.Made[t] = pin.Made{Length: end, Name: fact.WireOf(g.Ends.Wires[l.From], l.From)}
		}
	}
	g.set(t, place)
}

// lead: a plug is put onto the From connector, and a new wire leads from its cavity to the To cavity.
func (g *planning) lead(l *match.Line) {
	row, _ := g.Facts.To.Row(l.To)
	from, _ := g.Facts.From.Row(l.From)
	row.Size = cmp.Or(row.Size, from.Size)
	on := harness.Ref{Connector: fact.Header(l.From.Connector), Cavity: l.From.Cavity}
	t, far := NewTerminal(l.To), NewEnd(on)
	n := newWire{Id: harness.WireID(t), Row: row, lands: [2]harness.Ref{g.Target(l.To), on}}
	n.ends = [2]join.Goal{{Terminal: t, At: n.lands[0]}, {Terminal: far, At: on}}
	g.lay(n)
	if was, there := g.Now.Place(harness.TerminalAt(l.From)); there && g.Facts.Repinned(l.From.Connector) {
		g.set(harness.TerminalAt(l.From), was)
	}
}

// lay notes a new wire with its terminals.
func (g *planning) lay(n newWire) {
	if w := g.Ends.Wires[n.lands[0]]; w != nil { // as thick as what it goes on with
		n.Row.Size = cmp.Or(n.Row.Size, w.Size)
	}
	g.Fresh = append(g.Fresh, n)
	for end, goal := range n.ends {
		if goal.Terminal == "" {
			continue
		}
		g.Wires[goal.Terminal] = wire{Row: n.Row, Goal: n.Row}
		g.Made[goal.Terminal] = pin.Made{Length: harness.Length{Wire: n.Id, End: end}, Name: called(n)}
		g.set(goal.Terminal, harness.Place{State: harness.Seated, At: goal.At})
	}
}

func called(n newWire) string {
	s := "the " + n.Id.Name()
	if n.Row.Function != "" {
		s += " (" + n.Row.Function + ")"
	}
	return s
}

// want: a To cavity that a new wire serves, or a lead from a wire that serves another.
func (g *planning) want(w *match.Want, row harness.Row, stays bool) {
	t := NewTerminal(w.To)
	n := newWire{Id: harness.WireID(t), Row: row, lands: [2]harness.Ref{g.Target(w.To)}}
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
	case o.Kind == match.AtCavity && g.Alone.Cavity(o.At), o.Kind == match.AtSplice && g.Alone.Splice(o.Name):
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
		n.splice = o.Name
		n.ends[1] = join.Goal{Stud: o.Name}
		if left, known := g.splices[o.Name]; known && left != "" {
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
		n.ends[1] = join.Goal{Stud: o.Name}
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
	n := newWire{Id: harness.NewWire("for " + l.From.String()), Row: row, lands: [2]harness.Ref{l.From}}
	g.begin(name, n, 0)
	n.ends[0] = join.Goal{Joint: name}
	g.originate(&n, l.Origin)
	g.lay(n)
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

// want makes the connectors as they should become.
func (m *Model) want(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	wanted := harness.Work(harness.New(m.Housings))
	for _, at := range m.Now.Cavities() {
		if m.Now.Stump(at) {
			wanted.Block(at)
		}
	}
	for _, t := range m.Now.Terminals() { // what is cut off leaves its terminal behind, also where its wire is taken away
		if was, _ := m.Now.Place(t); was.State == harness.Seated && was != goals[t] && m.Adviser.Fixed(was.At) {
			wanted.Block(was.At)
		}
	}
	for _, t := range order {
		wanted.Put(t, goals[t])
	}
	m.Wanted = wanted.Harness()
	m.plugVacated()
	m.changesOfHousing(goals, order)
}

// plugVacated wants a plug in every cavity of a kept housing that was full and is to be empty. A housing that is
// known not to be sealed takes none.
func (m *Model) plugVacated() {
	plugs := harness.Work(m.Wanted)
	for _, at := range m.Now.Cavities() {
		_, was := m.Found.In(at)
		_, is := m.Wanted.In(at)
		layout := m.Adviser.Housings[at.Connector].Layout
		if was && !is && !m.Wanted.Stump(at) && m.Retained[at.Connector] && (layout == nil || layout.Sealed()) {
			plugs.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.Wanted = plugs.Harness()
}

// changes says what is different at the connectors in the wanted harness.
func (m *Model) changes() harness.Changes {
	c := harness.Changes{
		Cavities: m.Housings,
		Places:   map[harness.TerminalID]harness.Place{},
		Plugs:    map[harness.Ref]bool{},
	}
	for _, t := range m.Wanted.Terminals() {
		p, _ := m.Wanted.Place(t)
		if was, found := m.Found.Place(t); !found || was != p {
			c.Places[t] = p
		}
	}
	for _, at := range m.Past.Now.Plugs() { // where nothing is worked in any more plugs stay where they are
		if !m.Wanted.Has(at) {
			c.Plugs[at] = true
		}
	}
	for _, at := range m.Wanted.Cavities() {
		if plugged := m.Wanted.Plugged(at); plugged != m.Found.Plugged(at) {
			c.Plugs[at] = plugged
		}
		if m.Wanted.Stump(at) {
			c.Stumps = append(c.Stumps, at)
		}
	}
	return c
}

// changesOfHousing names the terminals that change their housing where nobody has said what the housings take.
func (m *Model) changesOfHousing(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	pairs := map[string][]string{}
	for _, t := range order {
		was, seated := m.Now.Place(t)
		if g := goals[t]; seated && was.State == harness.Seated && g.State == harness.Seated &&
			g.At.Connector != was.At.Connector &&
			!m.Renew[t] &&
			m.Adviser.Unknown(was.At, g.At) {
			key := was.At.Connector + " to " + g.At.Connector
			pairs[key] = append(pairs[key], was.At.String())
		}
	}
	for key, cavities := range pairs {
		m.Findings = append(m.Findings, finding.Finding{
			Code: "terminal-system", Severity: finding.Check, Side: string(match.From), Subject: cavities[0],
			Text: fmt.Sprintf("%d terminals change housing, %s: %s.", len(cavities), key, strings.Join(cavities, ", ")),
			Remedy: "Say in Pin what terminals both housings take, or check it before the first is pulled; where they " +
				"differ, it must be re-terminated.",
		})
	}
}
