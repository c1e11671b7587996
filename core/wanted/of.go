package wanted

import (
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// Of makes the harness as found, as it is now and as wanted at the connectors. Only what a person has decided moves.
// Undecided wires stay where they are, and a cavity that one of them holds cannot be filled: that is a finding, and
// whoever was to go there stays too.
func Of(d Reads) *Model {
	f := d.Facts
	m := &Model{
		Facts:    f,
		block:    d.Block,
		Ends:     newEnds(&f.Laid.Loom, d.Thin.Result),
		Ways:     wayOf(d.Ways),
		Alone:    d.Thin.Result.Alone(),
		Housings: fact.Housings(f),
		Wires:    map[harness.TerminalID]Filling{},
		Made:     map[harness.TerminalID]pin.Made{},
		Renew:    map[harness.TerminalID]bool{},
		drawn:    map[harness.TerminalID]bool{},
		Swapped:  map[harness.Ref]harness.Ref{},
		rules:    d.Rules,
		rates:    d.Rates,
		Planned:  map[harness.JointID]*join.Joint{},
		Retained: map[string]bool{},
		splices:  map[harness.JointID]harness.JointID{},
		bare:     map[harness.TipID]harness.TerminalID{},
	}
	for i := range d.Thin.Result.Joints {
		if j := &d.Thin.Result.Joints[i]; j.Kind == thin.AtSplice {
			m.splices[j.ID] = j.Joint()
		}
	}
	for _, x := range d.Exchanges {
		if x.Verify == "" && f.WhyNotExchanged(x) == "" {
			m.Swapped[x.A], m.Swapped[x.B] = x.B, x.A
		}
	}
	pulled := m.pulledBefore(d.Ticks, d.Thin.Result.Extract)
	m.workedIn(&d, pulled)
	m.Found = f.Laid.Loom.Found().Housing(m.Housings)
	m.carryOut(d.Ticks)
	goals, order := m.settled(&d, pulled)
	m.want(goals, order)
	m.adapt(goals)
	m.join(&d)
	return m
}

// workedIn finds the connectors that are worked in.
func (m *Model) workedIn(d *Reads, pulled []thin.Extraction) {
	for _, x := range m.Facts.Meetings {
		m.Retained[x.With] = x.With != ""
	}
	for _, e := range slices.Concat(d.Thin.Result.Extract, pulled) {
		m.involve(e.At)
	}
	m.reached(d.Match)
	for _, l := range d.Block.Leads {
		m.involve(l.At)
		if at, free := m.free(l.To); free {
			m.involve(at)
		}
	}
	for _, t := range d.Ticks { // what was worked in stays known, whatever is decided now
		for _, e := range t.Edits {
			if e.Do == harness.Insert && t.Kind != reach.PartWire { // plugs of disconnects are Reach's own
				m.involve(e.At)
			}
		}
	}
	m.listed()
	m.Adviser = pin.Adviser{Housings: map[string]harness.Connector{}, Near: m.Facts.Nearness()}
	for _, h := range m.Housings {
		m.Adviser.Housings[h.ID] = h
	}
}

// settled says where each terminal should end, and gives the terminals in order: as decisions want it, less what
// somebody else's wire or an end without a place keeps from it.
func (m *Model) settled(d *Reads,
	pulled []thin.Extraction) (map[harness.TerminalID]harness.Place, []harness.TerminalID) {
	goals, order := m.goals(d.Match)
	for _, e := range d.Thin.Result.Extract {
		if m.out(e.Terminal) {
			continue
		}
		if _, known := goals[e.Terminal]; !known {
			order = append(order, e.Terminal)
		}
		goals[e.Terminal] = harness.Place{State: harness.Capped, Label: e.Label()}
	}
	for _, e := range pulled {
		if _, known := goals[e.Terminal]; !known && !m.out(e.Terminal) {
			goals[e.Terminal] = harness.Place{State: harness.Seated, At: e.At}
			order = append(order, e.Terminal)
		}
	}
	order = m.keepPut(d.Reports, goals, order)
	order = m.rest(goals, order)
	m.withhold(goals, order)
	for _, n := range m.Fresh { // a wire of which one end finds no place is not laid
		for end, g := range n.ends {
			if _, there := goals[g.Terminal]; g.Terminal != "" && !there {
				delete(goals, n.ends[1-end].Terminal)
			}
		}
	}
	m.lonelyPigtails(goals)
	for _, t := range m.Found.Terminals() {
		if end, clipped := m.clipped(t); clipped && goals[t].State != harness.Seated {
			m.bare[end] = t
			delete(goals, t)
		}
	}
	return goals, slices.DeleteFunc(order, func(t harness.TerminalID) bool { _, wanted := goals[t]; return !wanted })
}

// involve adds the connector of a cavity to those that are worked in.
func (m *Model) involve(at harness.Ref) {
	m.Retained[at.Connector] = true
	i := slices.IndexFunc(m.Housings, func(h harness.Connector) bool { return h.ID == at.Connector })
	if i < 0 {
		i = len(m.Housings)
		m.Housings = append(m.Housings, m.Facts.Connector(at.Connector))
	}
	if !m.Housings[i].Has(at.Cavity) {
		m.Housings[i].Cavities = append(slices.Clone(m.Housings[i].Cavities), at.Cavity)
	}
}

// listed adds the cavities that only a list of wires names to the housings that they are in: a table that shows
// fewer is none the less of the same plug.
func (m *Model) listed() {
	ours := make(map[string]int, len(m.Housings))
	has := map[harness.Ref]bool{}
	for i := range m.Housings {
		ours[m.Housings[i].ID] = i
		for _, c := range m.Housings[i].Cavities {
			has[harness.Ref{Connector: m.Housings[i].ID, Cavity: c}] = true
		}
	}
	for k := range m.Facts.Laid.Loom.Wires {
		for _, e := range m.Facts.Laid.Loom.Wires[k].Ends {
			i, known := ours[e.At.Connector]
			if known && !has[e.At] {
				has[e.At] = true
				h := &m.Housings[i]
				h.Cavities = append(slices.Clone(h.Cavities), e.At.Cavity)
			}
		}
	}
}

// reached adds the connectors that decided wires enter, beside the housings: plugs of the vehicle, plugs that are put
// onto connectors, cavities at which new wires begin.
func (m *Model) reached(r *match.Result) {
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Decided && l.Verdict == match.NeedsSource && l.Origin != nil && l.Origin.Kind == match.AtCavity &&
			m.Ends.Wires[l.Origin.At] == nil {
			m.involve(l.Origin.At)
		}
		if !l.Decided || !l.Feeds() {
			continue
		}
		switch m.Ways[l.From] {
		case match.Into:
			x := m.Facts.Pair(l)
			m.involve(x.Vehicle)
			if m.MovesInto(x) {
				m.involve(x.Ours)
			}
		case match.Lead:
			m.involve(harness.Ref{Connector: fact.Header(l.From.Connector), Cavity: l.From.Cavity})
		case match.Move, match.Renew:
			if !m.Facts.Repinned(l.From.Connector) {
				m.involve(l.From)
			}
		}
	}
	for _, w := range r.Wants {
		if w.Verdict == match.NewWire && w.Origin.Kind == match.AtCavity && m.Ends.Wires[w.Origin.At] == nil {
			m.involve(w.Origin.At)
		}
	}
}

// pulledBefore lists terminals that were taken out and that nothing asks for any more: they go home.
func (m *Model) pulledBefore(ticks []work.Tick, extract []thin.Extraction) []thin.Extraction {
	var out []thin.Extraction
	known := map[harness.TerminalID]bool{}
	for _, e := range extract {
		known[e.Terminal] = true
	}
	for _, t := range ticks {
		for _, e := range t.Edits {
			_, inTable := m.Facts.From.Row(e.At)
			if t.Stage == work.Pin && e.Do == harness.Remove && e.Terminal == harness.TerminalAt(e.At) &&
				!known[e.Terminal] &&
				!(inTable && m.Facts.Repinned(e.At.Connector)) {
				known[e.Terminal] = true
				out = append(out, thin.Extraction{Terminal: e.Terminal, At: e.At})
			}
		}
	}
	return out
}

// keepPut leaves where they are the wires that a report says cannot be moved, and those that no table shows.
func (m *Model) keepPut(
	reports []pin.Report,
	goals map[harness.TerminalID]harness.Place,
	order []harness.TerminalID,
) []harness.TerminalID {
	stay := func(t harness.TerminalID) {
		if was, there := m.Now.Place(t); there {
			if _, known := goals[t]; !known {
				order = append(order, t)
			}
			goals[t] = was
		}
	}
	for _, r := range reports {
		if r.What == pin.Occupied {
			m.Wires[r.Stranger()] = Filling{Row: harness.Row{Ref: r.At,
				Conductor: harness.Conductor{Function: "wire that no table shows"}}}
			stay(r.Stranger())
		}
		if f, open := r.Finding(); open {
			m.Findings = append(m.Findings, f)
		}
		if t, full := m.Now.In(r.At); full && r.Stays() {
			stay(t)
		}
	}
	return order
}

// rest leaves every other terminal at the connectors where it is, unless it was made for a decision that is none any
// more.
func (m *Model) rest(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) []harness.TerminalID {
	for _, t := range m.Now.Terminals() {
		if _, known := goals[t]; known {
			continue
		}
		if _, found := m.Found.Place(t); found {
			was, _ := m.Now.Place(t)
			goals[t] = was
			order = append(order, t)
		}
	}
	return order
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
		Mine:   map[harness.JointID]bool{},
	}
	for i := range m.Past.Ticks {
		if t := &m.Past.Ticks[i]; t.Stage == work.Join {
			for _, e := range t.Edits {
				switch e.Do {
				case harness.Join, harness.Tap, harness.Land:
					in.Mine[e.Joint] = true
				}
				if e.Do == harness.Cut || e.Do == harness.Tap {
					in.Cut = append(in.Cut, harness.TipID{Wire: e.Wire, End: e.End})
				}
			}
		}
	}
	m.spread(d.Rules)
	for _, name := range slices.Sorted(maps.Keys(m.Planned)) {
		in.Joints = append(in.Joints, *m.Planned[name])
	}
	for _, n := range m.Fresh {
		in.Wires = append(in.Wires, join.Fresh{ID: n.ID, Name: called(n), Ends: n.ends})
	}
	base := m.base(d.Thin.Result)
	m.Part = join.Join(in, base)
	m.Joined = base.With(m.Part.Changes)
	m.Findings = append(m.Findings, m.Part.Findings...)
	m.describe()
}
