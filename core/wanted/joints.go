package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/signal"
)

// JointAt names the joint that is known by a cavity of the model.
func JointAt(at harness.Ref) harness.JointID { return harness.JointAt(at.String()) }

// joint notes a joint that is known by a cavity of the model.
func (m *Model) joint(at harness.Ref, why string) harness.JointID {
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
func (m *Model) comes(name harness.JointID, e join.End) {
	j := m.Planned[name]
	for i := range j.Ends {
		if have := &j.Ends[i]; have.TipID == e.TipID {
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
		TipID: harness.TipID{Wire: w.ID, End: m.Ends.end[at]},
		How:   how,
		At:    at,
		Name:  fact.WireOf(w, at),
	}, true
}

// onto brings a joint onto the wire of a cavity, which stays whole.
func (m *Model) onto(name harness.JointID, at harness.Ref) bool {
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
func (m *Model) bring(name harness.JointID, at harness.Ref) bool {
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
			ID:    harness.NewWire("lead of " + at.String()),
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
func (m *Model) placeOf(name harness.JointID) harness.Ref {
	if j := m.Planned[name]; j != nil && len(j.For) > 0 {
		return j.For[0]
	}
	return harness.Ref{}
}

// begin notes an end of a new wire at a joint.
func (m *Model) begin(name harness.JointID, n newWire, end int) {
	m.comes(name, join.End{TipID: harness.TipID{Wire: n.ID, End: end}, How: join.Beginning, Name: called(n)})
}

// lies gives where a joint is for an end that comes to it: on the wire that stays in its place, the vehicle's or the
// one that stays whole.
func lies(j *join.Joint, of harness.TipID) reach.Meet {
	for _, e := range j.Ends {
		if (e.Theirs || e.How == join.Whole) && e.TipID != of {
			return reach.Meet{With: e.Wire, Back: e.Back}
		}
	}
	return reach.Meet{}
}
