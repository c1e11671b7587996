package thin

import (
	"draxel/core/harness"
)

// Wanted gives the harness as it should become. It is built from the verdicts, never from the steps, so that carrying
// the steps out proves something.
func (r *Result) Wanted() harness.Harness {
	t := r.t
	connectors := make([]harness.Connector, len(t.loom.Connectors))
	for i, c := range t.loom.Connectors {
		connectors[i] = c.Connector
	}
	m := maker{thinning: t, become: map[harness.Length]harness.Tip{}}
	for i := range r.Joints {
		m.joint(&r.Joints[i])
	}
	for w := range t.loom.Wires {
		m.wire(int32(w))
	}
	return m.harness(connectors)
}

// maker says what each end becomes, and then makes the harness of it.
type maker struct {
	*thinning
	become map[harness.Length]harness.Tip
	pieces []piece
}

type piece struct {
	id   string
	tips [2]harness.Tip
	at   [2]harness.Ref
}

func (m *maker) joint(j *JointVerdict) {
	joined := map[Fate]harness.Tip{
		Leave:    {State: harness.Joined, Joint: j.ID},
		Trim:     {State: harness.Joined, Joint: j.ID},
		Through:  {State: harness.Joined, Joint: throughName(j.ID)},
		Rejoin:   {State: harness.Joined, Joint: rejoinName(j.ID)},
		Dissolve: {State: harness.Sealed},
	}[j.Fate]
	if j.Kind == link.word() && j.Fate == Trim {
		return // the wires that stay keep their terminals
	}
	for _, x := range m.net.tips(j.node) {
		l := m.net.length(x)
		if m.stays[x.wire()] {
			m.become[l] = joined
		} else if j.Fate == Trim {
			m.pieces = append(m.pieces, piece{id: harness.Stub(l.Wire, l.End), tips: [2]harness.Tip{joined, {State: harness.Sealed}}})
		}
	}
}

func (m *maker) wire(w int32) {
	wire := &m.loom.Wires[w]
	p := piece{id: wire.ID}
	for end, e := range wire.Ends {
		h, known := m.net.half[e.At.Connector]
		off := known && m.off(h)
		became, told := m.become[harness.Length{Wire: wire.ID, End: end}]
		switch {
		case told:
			p.tips[end] = became
		case e.At != (harness.Ref{}) && off:
			p.tips[end] = harness.Tip{State: harness.Sealed}
		case e.At != (harness.Ref{}):
			p.tips[end], p.at[end] = harness.Tip{State: harness.Crimped, Terminal: harness.TerminalAt(e.At)}, e.At
			if !m.stays[w] && (m.in.Bench.School == CutSeal || !m.aloneIn(tip(2*int(w)+end)) || known && m.loom.Connectors[h].Locked) {
				stub := piece{id: harness.Stub(wire.ID, end), at: [2]harness.Ref{e.At}}
				stub.tips = [2]harness.Tip{p.tips[end], {State: harness.Sealed}}
				m.pieces = append(m.pieces, stub)
			}
		case e.Splice != "":
			p.tips[end] = harness.Tip{State: harness.Joined, Joint: e.Splice}
		case e.Taped:
			p.tips[end] = harness.Tip{State: harness.Ended}
		default:
			p.tips[end] = harness.Tip{State: harness.Unseen}
		}
	}
	if m.stays[w] {
		m.pieces = append(m.pieces, p)
	}
}

// aloneIn says whether the tip is the only one in its cavity.
func (t *thinning) aloneIn(x tip) bool {
	at, n := t.net.end(x).At, 0
	for _, o := range t.net.tips(t.net.ends[x.wire()][x.end()]) {
		if t.net.end(o).At == at {
			n++
		}
	}
	return n == 1
}

// harness lays the pieces, with the terminals that they end in, and takes off what comes off.
func (m *maker) harness(connectors []harness.Connector) harness.Harness {
	b := harness.Empty(connectors, m.loom.Wires)
	for _, p := range m.pieces {
		for end, tip := range p.tips {
			if tip.State == harness.Crimped {
				b.Seat(tip.Terminal, p.at[end])
			}
		}
		b.Must(harness.Edit{Do: harness.Lay, Wire: p.id, Tips: p.tips[:]})
	}
	for h := range m.loom.Connectors {
		if m.off(int32(h)) {
			b.Must(harness.Edit{Do: harness.Free, At: harness.Ref{Connector: m.loom.Connectors[h].ID}})
		}
	}
	return b.Harness()
}
