package wanted

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/signal"
	"draxel/core/work"
)

// Joined is a joint that is to be made, or has been.
type Joined struct {
	Name  string        `json:"name"`
	Ends  []JoinedEnd   `json:"ends"`
	For   []harness.Ref `json:"for"` // the cavities that it serves
	Why   string        `json:"why"`
	Made  bool          `json:"made,omitempty"`
	Proof string        `json:"proof,omitempty"` // what is to be measured before anything is cut; empty where it was
}

// JoinedEnd is an end that comes to a joint.
type JoinedEnd struct {
	Wire   harness.WireID `json:"wire"`
	Name   string         `json:"name"`
	At     harness.Ref    `json:"at,omitzero"`
	How    string         `json:"how"`
	Back   float64        `json:"back,omitempty"` // mm behind its plug
	Theirs bool           `json:"theirs,omitempty"`
}

// Laid is a new wire that is to be laid, or has been.
type Laid struct {
	ID    harness.WireID `json:"id"`
	Row   harness.Row    `json:"row"`
	Ends  [2]string      `json:"ends"`
	Owner string         `json:"owner,omitempty"` // who sees to an end that waits
	Open  bool           `json:"open,omitempty"`  // an end waits for its source
	There bool           `json:"there,omitempty"` // it is laid
}

func JointAt(at harness.Ref) string { return harness.JointAt(at.String()) }

// joint notes a joint that is known by a cavity of the model.
func (m *Model) joint(at harness.Ref, why string) string {
	name := JointAt(at)
	if m.Planned[name] == nil {
		m.Planned[name] = &join.Joint{Name: name, Why: why}
	}
	j := m.Planned[name]
	j.For = append(j.For, at)
	return name
}

// comes notes an end that comes to a joint, once; that it is cut comes before that it is left whole. Of one wire one
// end comes: a wire is not joined to itself.
func (m *Model) comes(name string, e join.End) {
	j := m.Planned[name]
	for i := range j.Ends {
		if have := &j.Ends[i]; have.Length == e.Length {
			if have.How == join.Whole && e.How != join.Whole {
				have.How = e.How
			}
			if have.Meter == (join.Meter{}) {
				have.Meter, have.Theirs = e.Meter, have.Theirs || e.Theirs
			}
			return
		} else if have.Wire == e.Wire {
			if have.How == join.Whole {
				*have = e
			}
			return
		}
	}
	j.Ends = append(j.Ends, e)
}

// endAt gives the end of the wire in a cavity, and false where none is known.
func (m *Model) endAt(at harness.Ref, how join.How) (join.End, bool) {
	if m.Facts.Against[at] {
		return join.End{}, false // the meter contradicts what it is said to be, and that is found
	}
	w := m.Ends.Wires[at]
	if w == nil {
		m.Findings = append(m.Findings, finding.Finding{
			Code: "no-wire-there", Severity: finding.Wrong, Stage: "match", Subject: at.String(),
			Text:   fmt.Sprintf("Something is to be joined to the wire of %s, and no wire is known there.", at),
			Remedy: "Put the table or the list right in Gather.",
		})
		return join.End{}, false
	}
	return join.End{
		Length: harness.Length{Wire: w.ID, End: m.Ends.end[at]},
		How:    how,
		At:     at,
		Name:   fact.WireOf(w, at),
	}, true
}

// onto brings a joint onto the wire of a cavity, which stays whole.
func (m *Model) onto(name string, at harness.Ref) bool {
	e, ok := m.endAt(at, join.Whole)
	if ok {
		m.theirs(&e)
		m.comes(name, e)
	}
	return ok
}

// theirs says of an end on the vehicle's own wiring that it is measured first, and how.
func (m *Model) theirs(e *join.End) {
	_, from := m.Facts.From.Connector(e.At.Connector)
	if from == (m.Facts.Vehicle == match.From) && !m.Facts.Repinned(e.At.Connector) {
		m.measureFirst(e)
	}
}

// measureFirst says that an end is the vehicle's, and what proves it unless somebody has measured there.
func (m *Model) measureFirst(e *join.End) {
	e.Theirs = true
	if !m.Facts.Measured[e.At] {
		e.Meter = Meter(m.Facts.RoleAt(e.At))
	}
}

// Meter says what proves a wire of the vehicle: common practice, no source.
func Meter(role signal.Role) join.Meter {
	switch role {
	case signal.Battery:
		return join.Meter{Text: "Against ground, with a lamp on it: about 12 V in every position of the key.", Live: true}
	case signal.Ignition:
		return join.Meter{Text: "Against ground, with a lamp on it: about 12 V in run and in crank, nothing in off.",
			Live: true}
	case signal.Start:
		return join.Meter{Text: "Against ground, with a lamp on it: about 12 V in crank alone. Neutral, chocks, hands " +
			"clear.", Live: true}
	case signal.Ground, signal.SensorGround:
		return join.Meter{Text: "Against the battery's negative: under 2 Ω."}
	case signal.SwitchInput:
		return join.Meter{Text: "Work the switch: its state changes with it, and with nothing else."}
	}
	return join.Meter{Text: "Continuity to its other end, under 5 Ω, and none to its neighbours in the plug."}
}

// bring brings our own wire of a cavity to a joint: cut off its plug where that is plugged into nothing that stays,
// at its other end where that leads to nothing, else by a lead that is joined onto it.
func (m *Model) bring(name string, at harness.Ref) bool {
	e, ok := m.endAt(at, join.CutOff)
	if !ok {
		return false
	}
	m.theirs(&e)
	w := m.Ends.Wires[at]
	far := w.Ends[1-e.End]
	switch {
	case !m.Ends.live(at.Connector):
	case !far.Seen() || far.Taped, far.At != (harness.Ref{}) && !m.Ends.live(far.At.Connector):
		e.End = 1 - e.End
		if far.At != (harness.Ref{}) {
			e.At = far.At
		}
	case JointAt(at) == name: // it is known by this very plug: the others are joined onto its wire
		e.How = join.Whole
	default:
		own := m.joint(at, fmt.Sprintf("%s stays in its plug: a lead is joined onto its wire.", at))
		e.How = join.Whole
		m.comes(own, e)
		row, inTo := m.Facts.From.Row(at)
		if !inTo {
			row = fact.RowOfWire(w, at)
		}
		n := newWire{
			Id:    harness.NewWire("lead of " + at.String()),
			Row:   row,
			lands: [2]harness.Ref{at, m.placeOf(name)},
		}
		n.ends = [2]join.Goal{{Joint: own}, {Joint: name}}
		m.begin(own, n, 0)
		m.begin(name, n, 1)
		m.Fresh = append(m.Fresh, n)
		return true
	}
	m.comes(name, e)
	return true
}

// placeOf gives the cavity at whose place a joint lies.
func (m *Model) placeOf(name string) harness.Ref {
	if j := m.Planned[name]; j != nil && len(j.For) > 0 {
		return j.For[0]
	}
	return harness.Ref{}
}

// begin notes an end of a new wire at a joint.
func (m *Model) begin(name string, n newWire, end int) {
	m.comes(name, join.End{Length: harness.Length{Wire: n.Id, End: end}, How: join.Beginning, Name: called(n)})
}

// freed takes the terminal of a wire out of its cavity for a joint; it waits, labelled, until it is clipped off.
func (g *planning) freed(name string, from harness.Ref, to string) bool {
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
		g.Wires[t] = wire{Row: fact.RowOfWire(w, x.Ours), Goal: goal}
		g.Made[t] = pin.Made{Length: harness.Length{Wire: w.ID, End: g.Ends.end[x.Ours]}, Name: fact.WireOf(w, x.Ours)}
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
			Id:    harness.NewWire("into " + x.Vehicle.String()),
			Row:   fact.RowOfWire(w, x.Ours),
			lands: [2]harness.Ref{x.Ours, x.Vehicle},
		}
		n.ends = [2]join.Goal{{Joint: name}, {Terminal: t, At: x.Vehicle}}
		g.begin(name, n, 0)
		g.lay(n)
		g.Wires[t] = wire{Row: n.Row, Goal: goal}
	}
}

// joinTo: a wire is joined onto the one that fills a To cavity.
func (g *planning) joinTo(l, fill *match.Line) {
	if fill == nil {
		return
	}
	to, why := g.Target(l.To), fmt.Sprintf("Two wires serve %s.", l.To)
	name := ""
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

// join makes the joints and new wires of what is left when cavities are held: a wire whose terminal finds no place is
// not laid, and a joint that nothing comes to is not made.
func (m *Model) join(d *Reads) {
	m.merge()
	m.drop()
	in := join.Input{
		School: reach.SchoolWord(d.Rules.School),
		Join:   d.Rates.Join,
		Seal:   d.Rates.Seal,
		Check:  d.Rates.Check,
		Mine:   map[string]bool{},
	}
	for i := range m.Past.Ticks {
		if t := &m.Past.Ticks[i]; t.Stage == work.Join {
			for _, e := range t.Edits {
				switch e.Do {
				case harness.Join, harness.Tap, harness.Land:
					in.Mine[e.Joint] = true
				}
				if e.Do == harness.Cut || e.Do == harness.Tap {
					in.Cut = append(in.Cut, harness.Length{Wire: e.Wire, End: e.End})
				}
			}
		}
	}
	m.spread(d.Rules)
	for _, name := range slices.Sorted(maps.Keys(m.Planned)) {
		in.Joints = append(in.Joints, *m.Planned[name])
	}
	for _, n := range m.Fresh {
		in.Wires = append(in.Wires, join.Wire{ID: n.Id, Name: called(n), Ends: n.ends})
	}
	base := m.base(d.Thin.Result)
	m.Part = join.Join(in, base)
	m.Joined = base.With(m.Part.Changes)
	m.Findings = append(m.Findings, m.Part.Findings...)
	m.describe()
}
