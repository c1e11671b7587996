package thin

import (
	"draxel/core/circuit"
	"draxel/core/harness"
)

// Changes say what is different in the wanted harness. They are made from the verdicts, never from the steps, so that
// carrying the steps out proves something.
func (r *Result) Changes() harness.Changes {
	m := maker{thinning: r.t, become: map[harness.TipID]harness.Tip{},
		out: harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}}
	for i := range r.Joints {
		m.joint(&r.Joints[i])
	}
	for w := range r.t.loom.Wires {
		m.wire(int32(w))
	}
	for h := range r.t.loom.Connectors {
		if m.off(int32(h)) {
			m.out.Off = append(m.out.Off, r.t.loom.Connectors[h].ID)
		}
	}
	return m.out
}

// maker says what each end becomes.
type maker struct {
	*thinning
	become map[harness.TipID]harness.Tip
	out    harness.Changes
}

func (m *maker) joint(j *JointVerdict) {
	joined := map[Fate]harness.Tip{
		Leave:    {State: harness.Joined, Joint: j.ID},
		Trim:     {State: harness.Joined, Joint: j.ID},
		Through:  {State: harness.Joined, Joint: j.ID.Through()},
		Rejoin:   {State: harness.Joined, Joint: rejoinName(j.ID)},
		Dissolve: {State: harness.Sealed},
	}[j.Fate]
	if j.Kind == InJunction && j.Fate == Trim {
		return // the wires that stay keep their terminals
	}
	for _, x := range m.net.Tips(j.node) {
		l := m.net.TipID(x)
		if m.stays[x.Wire()] {
			m.become[l] = joined
		} else if j.Fate == Trim {
			m.out.Tips[l.Wire.Stub(l.End)] = [2]harness.Tip{joined, {State: harness.Sealed}}
		}
	}
}

func (m *maker) wire(w int32) {
	wire := &m.loom.Wires[w]
	var was, is [2]harness.Tip
	for end, e := range wire.Ends {
		h, known := m.net.Half(e.At.Connector)
		off := known && m.off(h)
		was[end] = e.Tip()
		became, told := m.become[harness.TipID{Wire: wire.ID, End: end}]
		switch {
		case told:
			is[end] = became
		case e.At != (harness.Ref{}) && off && m.stays[w] && m.moves(circuit.Tip(2*int(w)+end)):
			is[end] = was[end]
		case e.At != (harness.Ref{}) && off:
			is[end] = harness.Tip{State: harness.Sealed}
		case e.At != (harness.Ref{}):
			is[end] = was[end]
			if !m.stays[w] && (m.in.Bench.School == CutSeal || !m.comesOut(circuit.Tip(2*int(w)+end))) {
				m.out.Tips[wire.ID.Stub(end)] = [2]harness.Tip{is[end], {State: harness.Sealed}}
			}
		default:
			is[end] = was[end]
		}
	}
	switch {
	case !m.stays[w]:
		m.out.Gone = append(m.out.Gone, wire.ID)
	case is != was:
		m.out.Tips[wire.ID] = is
	}
}

// comesOut says whether the terminal at a tip can be taken out of its cavity: no other wire is crimped into it, and its
// connector is neither somebody else's nor one that is left to qualified hands.
func (t *thinning) comesOut(x circuit.Tip) bool {
	h := t.net.Halves[x]
	return t.aloneIn(x) && (h < 0 || !t.loom.Connectors[h].Locked && !t.guard.Plugs[h])
}

// aloneIn says whether the tip is the only one in its cavity.
func (t *thinning) aloneIn(x circuit.Tip) bool {
	at, n := t.net.End(x).At, 0
	for _, o := range t.net.Tips(t.net.Ends[x.Wire()][x.End()]) {
		if t.net.End(o).At == at {
			n++
		}
	}
	return n == 1
}
