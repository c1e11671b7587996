package wanted

import (
	"slices"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/reach"
	"draxel/core/stock"
	"draxel/core/terminal"
	"draxel/core/thin"
	"draxel/core/work"
)

// ReachReads is what Reach's input follows from beside the wanted harness.
type ReachReads struct {
	Model     *Model
	Thin      *Thinned
	Decisions reach.Decisions
	Bench     thin.Bench
	Ticks     []work.Tick
	Added     []join.Added
	Studs     []string // that parts can come to
}

// ReachInput puts together what Reach works on.
func ReachInput(d ReachReads) *reach.Input {
	m := d.Model
	l := &m.Facts.Laid.Loom
	in := reach.Input{Loom: l, Decisions: d.Decisions}
	after := stepsBefore(d.Thin.Result.Steps)
	cut := map[harness.WireID]work.Tick{}
	used := map[string]float64{}
	for _, t := range d.Ticks {
		if t.Stage == work.Reach && t.Length > 0 {
			cut[t.Wire] = t
			used[t.Piece] += t.Length
		}
	}
	at := m.atJoints()
	for i := range l.Wires {
		w := &l.Wires[i]
		if d.Thin.Result.Wires[i].Choice == thin.Goes {
			in.Stock = append(in.Stock, pulledPiece(w, d.Bench, used, m.Past.Now.Out(w.ID))...)
			continue
		}
		x := reach.Run{Wire: *w, Alone: m.Alone.Wire(i), After: after[w.ID], Cut: cut[w.ID].Length, CutAt: cutAt(cut[w.ID])}
		for end, e := range w.Ends {
			j, joined := at[harness.TipID{Wire: w.ID, End: end}]
			switch {
			case joined && j.whole:
				x.Whole[end] = true
			case joined:
				x.Lands[end], x.Renewed[end], x.Joint[end] = j.lands, true, true
				x.Meets[end], x.Lost[end] = j.meets, m.lost(w.ID, end, j.lost, &d.Decisions)
				tips, there := m.Past.Now.Tips(w.ID)
				x.Made = x.Made || there && tips[end].State == harness.Joined && tips[end].Joint == j.name
			case e.At == (harness.Ref{}):
			default:
				if x.Dead[end] = m.Ends.off[e.At.Connector]; !x.Dead[end] {
					x.Lands[end], x.Renewed[end], x.Dead[end] = m.landing(e.At)
				}
			}
			if to, anew := m.anew(harness.TipID{Wire: w.ID, End: end}); anew {
				x.Lands[end], x.Renewed[end], x.Dead[end] = to, true, false
			}
		}
		in.Wires = append(in.Wires, x)
	}
	for _, n := range m.Fresh {
		x := reach.Run{
			New: true,
			Cut: cut[n.ID].Length,
			Wire: harness.Wire{
				ID:        n.ID,
				Ends:      [2]harness.End{{At: n.lands[0]}, {At: n.lands[1]}},
				Conductor: n.Row.Conductor,
			},
		}
		for end, g := range n.ends {
			if j := m.Planned[g.Joint]; j != nil {
				x.Meets[end] = lies(j, harness.TipID{Wire: n.ID, End: end})
			}
		}
		if n.splice != "" {
			x.Ends[1] = harness.End{Splice: n.splice}
		}
		in.Wires = append(in.Wires, x)
	}
	for _, x := range m.addedWires(d.Added, d.Studs) {
		x.Cut = cut[x.ID].Length
		in.Wires = append(in.Wires, x)
	}
	return &in
}

// comesTo says to which joint an end comes, where that is, and whether its wire stays whole there.
type comesTo struct {
	name  harness.JointID
	lands harness.Ref
	whole bool
	meets reach.Meet
	lost  float64 // mm that are cut off with its plug
}

// lost gives the mm that are cut off an end with its plug and that a length of the wire still counts: what was measured
// after the cut does not.
func (m *Model) lost(wire harness.WireID, end int, mm float64, d *reach.Decisions) float64 {
	if _, cut := m.Past.Now.Tips(wire.Stub(end)); cut &&
		slices.ContainsFunc(d.Measured, func(x reach.Measured) bool { return x.Wire == wire && x.Had > 0 }) {
		return 0
	}
	return mm
}

// atJoints gives the ends that come to joints. Our wire is led to where the vehicle's ends.
func (m *Model) atJoints() map[harness.TipID]comesTo {
	out := map[harness.TipID]comesTo{}
	for name, j := range m.Planned {
		place := harness.Ref{}
		for _, e := range j.Ends {
			if e.Theirs || e.How == join.Whole {
				place = e.At
			}
		}
		for _, e := range j.Ends { // of wires that are all led there the others come to where the first is
			if place == (harness.Ref{}) && e.How != join.Beginning {
				place = e.At
			}
		}
		for _, e := range j.Ends {
			if e.How == join.Beginning {
				continue
			}
			c := comesTo{name: name, lands: place, whole: e.How == join.Whole}
			if e.Theirs {
				c.lands = e.At
			} else if e.How != join.Whole {
				c.meets = lies(j, e.TipID)
			}
			if e.How == join.CutOff && !e.Theirs {
				c.lost = e.Back
			}
			out[e.TipID] = c
		}
	}
	return out
}

// anew gives the cavity in which an end that was cut gets a new terminal, and false where it gets none.
func (m *Model) anew(l harness.TipID) (harness.Ref, bool) {
	for t, on := range m.Made {
		if on.TipID == l {
			place, seated := m.Wanted.Place(t)
			return place.At, seated
		}
	}
	return harness.Ref{}, false
}

// cutAt gives the end, 1 or 2, at which a tick of Reach cut its wire, 0 where it cut none or both.
func cutAt(t work.Tick) int {
	at := 0
	for _, e := range t.Edits {
		if e.Do == harness.Cut {
			if at > 0 {
				return 0
			}
			at = e.End + 1
		}
	}
	return at
}

// landing gives where the moves want a terminal, whether it gets a new one for that, and whether nothing is left for
// it.
func (m *Model) landing(found harness.Ref) (to harness.Ref, renewed, dead bool) {
	t := harness.TerminalAt(found)
	goal, known := m.Wanted.Place(t)
	switch {
	case !known:
		return harness.Ref{}, false, false
	case goal.State == harness.Capped || goal.State == harness.Parked:
		return harness.Ref{}, false, true
	case goal.At == found:
		return harness.Ref{}, false, false
	}
	return goal.At, m.Renew[t] || m.Adviser.Fit(found, goal.At).Verdict == terminal.Reterminated, false
}

// stepsBefore gives, by wire, the steps of Thin that cut or join it: they come before it is lengthened.
func stepsBefore(steps []work.Step) map[harness.WireID][]string {
	out := map[harness.WireID][]string{}
	for _, s := range steps {
		if len(s.Edits) == 0 || s.Kind == thin.ComeOut {
			continue
		}
		for _, w := range s.Wires {
			out[w] = append(out[w], s.ID)
		}
	}
	return out
}

// pulledPiece gives the piece of stock that a wire which goes leaves.
func pulledPiece(w *harness.Wire, b thin.Bench, used map[string]float64, out bool) []stock.Piece {
	p := stock.Piece{ID: string(w.ID), Colour: w.Colour, Size: w.Size, Length: w.Length - used[string(w.ID)], Waits: !out}
	for _, e := range w.Ends {
		if e.Splice != "" {
			p.Length -= b.Stub
		}
	}
	if w.Shield != "" {
		p.Kind = stock.Shielded
	} else if w.Pair != "" {
		p.Kind = stock.Twisted
	}
	if p.Length <= 0 || w.Length < b.Usable {
		return nil
	}
	return []stock.Piece{p}
}
