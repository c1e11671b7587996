package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/thin"
	"draxel/core/work"
)

// model is the harness as found, as it is now and as wanted, and which wire each terminal ends.
type model struct {
	facts              Facts
	housings           []harness.Connector
	adviser            pin.Adviser
	found, now, wanted harness.Harness
	ticks              []work.Tick // Pin's, in their order
	wires              map[harness.TerminalID]wire
	leads              map[harness.TerminalID]harness.Ref // of new ones: the cavity whose wire they branch from
	swapped            map[harness.Ref]harness.Ref        // To cavities whose outputs are exchanged
	adaptations        []pin.Adaptation
	endsAt             map[harness.Ref]*harness.Wire // the wires of the loom by the cavities that they end in
	withheld           int
	retained           map[string]bool // housings that stay: what is vacated in them gets a plug
	findings           []finding.Finding
}

// target gives the cavity of the model in which what is wanted in a To cavity comes.
func (m *model) target(to harness.Ref) harness.Ref {
	if other, ok := m.swapped[to]; ok {
		to = other
	}
	return m.facts.At(to)
}

type wire struct{ row, goal harness.Row }

func newTerminal(to harness.Ref) harness.TerminalID {
	return harness.TerminalID("new wire " + to.String())
}

// build makes Found from the From rows, Now from what has been carried out on it, and Wanted from the decisions. Only what a
// person has decided moves. Undecided wires stay where they are, and a cavity that one of them holds cannot be filled: that
// is a finding, and whoever was to go there stays too.
//
// Where wires are joined instead of moved nothing moves here; what Thin takes out of connectors that stay is pulled in
// every kind of job.
func build(f Facts, d Decisions, r *match.Result, extract []thin.Extraction) *model {
	m := &model{facts: f, wires: map[harness.TerminalID]wire{}, leads: map[harness.TerminalID]harness.Ref{}, swapped: map[harness.Ref]harness.Ref{}}
	moves := f.Kind.MovesTerminals()
	if moves {
		m.housings = housings(f)
	}
	m.endsAt = make(map[harness.Ref]*harness.Wire, 2*len(f.Laid.Loom.Wires))
	for i := range f.Laid.Loom.Wires {
		for _, e := range f.Laid.Loom.Wires[i].Ends {
			if e.At != (harness.Ref{}) {
				m.endsAt[e.At] = &f.Laid.Loom.Wires[i]
			}
		}
	}
	pulled := m.pulledBefore(d.Ticks, extract)
	m.thinned(append(slices.Clone(extract), pulled...))
	m.adviser = pin.Adviser{Housings: map[string]harness.Connector{}, Near: f.nearness()}
	for _, h := range m.housings {
		m.adviser.Housings[h.ID] = h
	}
	for _, x := range d.Pin.Exchanges {
		if f.whyNotExchanged(x) == "" {
			m.swapped[x.A], m.swapped[x.B] = x.B, x.A
		}
	}
	m.find(moves, append(slices.Clone(extract), pulled...))
	m.carryOut(d.Ticks)
	goals, order := map[harness.TerminalID]harness.Place{}, []harness.TerminalID(nil)
	if moves {
		goals, order = m.goals(r)
	}
	for _, e := range extract {
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
	order = m.keepPut(d.Pin.Reports, goals, order)
	m.withhold(goals, order)
	order = slices.DeleteFunc(order, func(t harness.TerminalID) bool { _, wanted := goals[t]; return !wanted })
	m.want(goals, order)
	m.adapt(goals)
	return m
}

// want makes the harness as it should become.
func (m *model) want(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	wanted := harness.Work(harness.New(m.housings))
	for _, at := range m.now.Cavities() {
		if m.now.Stump(at) {
			wanted.Block(at)
		}
	}
	for _, t := range m.now.Terminals() { // what is cut off leaves its terminal behind, also where its wire is taken away
		if was, _ := m.now.Place(t); was.State == harness.Seated && was != goals[t] && m.adviser.Fixed(was.At) {
			wanted.Block(was.At)
		}
	}
	for _, t := range order {
		wanted.Put(t, goals[t])
	}
	m.wanted = wanted.Harness()
	m.plugVacated()
	m.changesOfHousing(goals, order)
}

// goals gives where each terminal should end, and the terminals in order.
func (m *model) goals(r *match.Result) (map[harness.TerminalID]harness.Place, []harness.TerminalID) {
	goals := map[harness.TerminalID]harness.Place{}
	var order []harness.TerminalID
	set := func(t harness.TerminalID, p harness.Place) {
		goals[t] = p
		order = append(order, t)
	}
	claimed := map[harness.Ref]bool{}
	for _, l := range r.Lines {
		t := harness.TerminalAt(l.From)
		place := harness.Place{State: harness.Seated, At: l.From}
		if m.out(t) {
			m.wanting(l)
			continue
		}
		switch {
		case !l.Decided: // it stays wherever it is now: nothing is done to what is not decided
			if was, there := m.now.Place(t); there {
				place = was
			}
			if l.To.Cavity != "" {
				claimed[l.To] = true
			}
		case l.Verdict == match.Goes:
			place = harness.Place{State: harness.Capped, Label: l.From.String() + " goes"}
		case l.Verdict == match.NeedsSource:
			place = harness.Place{State: harness.Parked, Label: l.From.String() + " " + l.Source}
		case l.Verdict == match.Joins:
			place = harness.Place{State: harness.Tied, At: m.target(l.To), Label: l.From.String() + " joined to " + m.target(l.To).String()}
		default:
			place.At = m.target(l.To)
			w := m.wires[t]
			w.goal, _ = m.facts.To.Row(l.To)
			m.wires[t] = w
		}
		set(t, place)
	}
	for _, w := range r.Wants { // a cavity that an open row may still fill gets no new wire yet
		row, _ := m.facts.To.Row(w.To)
		if _, untouchable := match.Veto(row.Signal, row.Signal); untouchable || claimed[w.To] || w.Verdict != match.NeedsWire && w.Verdict != match.Branches {
			continue
		}
		t := newTerminal(w.To)
		m.wires[t] = wire{row: row, goal: row}
		if w.Verdict == match.Branches {
			m.leads[t] = w.Of
			if g := goals[harness.TerminalAt(w.Of)]; g.State == harness.Seated {
				m.leads[t] = g.At
			}
		}
		set(t, harness.Place{State: harness.Seated, At: m.target(w.To)})
	}
	return goals, order
}

// plugVacated wants a plug in every cavity of a kept housing that was full and is to be empty. A housing that is known not
// to be sealed takes none.
func (m *model) plugVacated() {
	plugs := harness.Work(m.wanted)
	for _, at := range m.found.Cavities() {
		_, was := m.found.In(at)
		_, is := m.wanted.In(at)
		layout := m.adviser.Housings[at.Connector].Layout
		if was && !is && !m.wanted.Stump(at) && m.retained[at.Connector] && (layout == nil || layout.Sealed()) {
			plugs.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.wanted = plugs.Harness()
}

// changesOfHousing names the terminals that change their housing where nobody has said what the housings take.
func (m *model) changesOfHousing(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	pairs := map[string][]string{}
	for _, t := range order {
		was, seated := m.now.Place(t)
		if g := goals[t]; seated && was.State == harness.Seated && g.State == harness.Seated && g.At.Connector != was.At.Connector && m.adviser.Unknown(was.At, g.At) {
			key := was.At.Connector + " to " + g.At.Connector
			pairs[key] = append(pairs[key], was.At.String())
		}
	}
	for key, cavities := range pairs {
		m.findings = append(m.findings, finding.Finding{Code: "terminal-system", Severity: finding.Check, Side: string(match.From), Subject: cavities[0],
			Text:   fmt.Sprintf("%d terminals change housing, %s: %s.", len(cavities), key, strings.Join(cavities, ", ")),
			Remedy: "Say in Pin what terminals both housings take, or check it before the first is pulled; where they differ, it must be re-terminated."})
	}
}
