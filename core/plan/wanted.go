package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/thin"
)

// model is the harness as found and as wanted, and which wire each terminal ends.
type model struct {
	facts       Facts
	housings    []harness.Connector
	now, wanted harness.Harness
	wires       map[harness.TerminalID]wire
	withheld    int
	retained    map[string]bool // housings that stay: what is vacated in them gets a plug
	findings    []finding.Finding
}

type wire struct{ row, goal harness.Row }

func newTerminal(to harness.Ref) harness.TerminalID {
	return harness.TerminalID("new wire " + to.String())
}

// build makes Now from the From rows and Wanted from the decisions. Only what a person has decided moves. Undecided wires
// stay where they are, and a cavity that one of them holds cannot be filled: that is a finding, and whoever was to go
// there stays too.
//
// Where wires are joined instead of moved nothing moves here; what Thin takes out of connectors that stay is pulled in
// every kind of job.
func build(f Facts, r *match.Result, extract []thin.Extraction) *model {
	m := &model{facts: f, wires: map[harness.TerminalID]wire{}}
	moves := f.Kind.MovesTerminals()
	if moves {
		m.housings = housings(f)
	}
	m.thinned(extract)
	now := harness.Work(harness.New(m.housings))
	if moves {
		for _, row := range f.From.Rows {
			if !row.Empty {
				m.wires[harness.TerminalAt(row.Ref)] = wire{row: row}
				now.Seat(harness.TerminalAt(row.Ref), row.Ref)
			}
		}
	}
	for _, e := range extract {
		if _, known := m.wires[e.Terminal]; !known {
			m.wires[e.Terminal] = wire{row: m.rowOf(e)}
		}
		now.Seat(e.Terminal, e.At)
	}
	m.now = now.Harness()
	goals, order := map[harness.TerminalID]harness.Place{}, []harness.TerminalID(nil)
	if moves {
		goals, order = m.goals(r)
	}
	for _, e := range extract {
		if _, known := goals[e.Terminal]; !known {
			order = append(order, e.Terminal)
		}
		goals[e.Terminal] = harness.Place{State: harness.Capped, Label: e.Label()}
	}
	m.withhold(goals, order)
	order = slices.DeleteFunc(order, func(t harness.TerminalID) bool { _, wanted := goals[t]; return !wanted })
	wanted := harness.Work(harness.New(m.housings))
	for _, t := range order {
		goal := goals[t]
		switch goal.State {
		case harness.Capped:
			wanted.Must(harness.Edit{Do: harness.Add, Terminal: t, Label: goal.Label}, harness.Edit{Do: harness.Cap, Terminal: t, Label: goal.Label})
		case harness.Parked:
			wanted.Must(harness.Edit{Do: harness.Add, Terminal: t, Label: goal.Label}, harness.Edit{Do: harness.Park, Terminal: t, Label: goal.Label})
		default:
			wanted.Seat(t, goal.At)
		}
	}
	m.wanted = wanted.Harness()
	m.plugVacated()
	m.terminalSystems(goals, order)
	return m
}

// housings lists From's connectors, those that are kept with the cavities of both sides, then To's new ones.
func housings(f Facts) []harness.Connector {
	out := slices.Clone(f.From.Connectors)
	for _, c := range f.To.Connectors {
		kept, ok := f.Kept[c.ID]
		i := slices.IndexFunc(out, func(h harness.Connector) bool { return ok && h.ID == kept })
		if i < 0 {
			c.ID = f.newHousing(c.ID)
			c.Name = c.ID
			out = append(out, c)
			continue
		}
		out[i].Cavities = slices.Clone(out[i].Cavities)
		for _, n := range c.Cavities {
			if !out[i].Has(n) {
				out[i].Cavities = append(out[i].Cavities, n)
			}
		}
	}
	return out
}

// newHousing names a new housing apart from a From housing of the same name.
func (f Facts) newHousing(to string) string {
	if _, clash := f.From.Connector(to); clash {
		return "new " + to
	}
	return to
}

// At gives where a To cavity is in the model.
func (f Facts) At(to harness.Ref) harness.Ref {
	if kept, ok := f.Kept[to.Connector]; ok {
		if _, there := f.From.Connector(kept); there {
			return harness.Ref{Connector: kept, Cavity: to.Cavity}
		}
	}
	return harness.Ref{Connector: f.newHousing(to.Connector), Cavity: to.Cavity}
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
		switch {
		case !l.Decided:
			if l.To.Cavity != "" {
				claimed[l.To] = true
			}
		case l.Verdict == match.Goes:
			place = harness.Place{State: harness.Capped, Label: l.From.String() + " goes"}
		case l.Verdict == match.NeedsSource:
			place = harness.Place{State: harness.Parked, Label: l.From.String() + " " + l.Source}
		default:
			place.At = m.facts.At(l.To)
			w := m.wires[t]
			w.goal, _ = m.facts.To.Row(l.To)
			m.wires[t] = w
		}
		set(t, place)
	}
	for _, w := range r.Wants { // a cavity that an open row may still fill gets no new wire yet
		row, _ := m.facts.To.Row(w.To)
		if _, untouchable := match.Veto(row.Signal, row.Signal); w.Verdict == match.NeedsWire && !claimed[w.To] && !untouchable {
			t := newTerminal(w.To)
			m.wires[t] = wire{row: row, goal: row}
			set(t, harness.Place{State: harness.Seated, At: m.facts.At(w.To)})
		}
	}
	return goals, order
}

// withhold takes back the moves into cavities that somebody else holds: one who is undecided and stays, or was there
// first. Whoever is taken back stays where it was, which may hold up others in turn.
func (m *model) withhold(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	waits := map[harness.TerminalID]harness.TerminalID{} // for the wire that holds the cavity
	for again := true; again; {
		again = false
		holder := m.holders(goals, order)
		for _, t := range order {
			g, ok := goals[t]
			who, held := holder[g.At]
			if !ok || g.State != harness.Seated || !held || who == t {
				continue
			}
			waits[t] = who
			if was, exists := m.now.Place(t); exists {
				goals[t] = was
			} else {
				delete(goals, t)
			}
			again = true
		}
	}
	m.withheld = len(waits)
	m.heldUp(waits)
}

// holders gives who has each cavity: who stays in it, else the first that is to go there.
func (m *model) holders(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) map[harness.Ref]harness.TerminalID {
	holder := map[harness.Ref]harness.TerminalID{}
	for _, t := range order {
		g, ok := goals[t]
		if !ok || g.State != harness.Seated {
			continue
		}
		was, exists := m.now.Place(t)
		if _, taken := holder[g.At]; !taken || exists && was == g {
			holder[g.At] = t
		}
	}
	return holder
}

// heldUp names each wire that holds a cavity which others need, with how many of them wait for it, directly or in turn.
func (m *model) heldUp(waits map[harness.TerminalID]harness.TerminalID) {
	count := map[harness.TerminalID]int{}
	for _, who := range waits {
		seen := map[harness.TerminalID]bool{}
		for next, held := waits[who]; held && !seen[who]; next, held = waits[who] {
			seen[who] = true
			who = next
		}
		count[who]++
	}
	for root, n := range count {
		at := m.wires[root].row.Ref
		moves := fmt.Sprintf("%d moves wait", n)
		if n == 1 {
			moves = "1 move waits"
		}
		m.findings = append(m.findings, finding.Finding{Code: "cavity-held", Severity: finding.Check, Side: string(match.From), Subject: at.String(),
			Text:   fmt.Sprintf("The wire in %s stays, and others need its cavity: %s for it, directly or in turn, and are left off the sheet.", at, moves),
			Remedy: fmt.Sprintf("Decide what becomes of the wire in %s.", at)})
	}
}

// plugVacated wants a plug in every cavity of a kept housing that is full now and is to be empty.
func (m *model) plugVacated() {
	plugs := harness.Work(m.wanted)
	for _, at := range m.now.Cavities() {
		_, was := m.now.In(at)
		if _, is := m.wanted.In(at); was && !is && m.retained[at.Connector] {
			plugs.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.wanted = plugs.Harness()
}

// terminalSystems reminds of what Draxel does not know yet: whether a terminal fits the other housing.
func (m *model) terminalSystems(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	pairs := map[string][]string{}
	for _, t := range order {
		was, seated := m.now.Place(t)
		if g := goals[t]; seated && g.State == harness.Seated && g.At.Connector != was.At.Connector {
			key := was.At.Connector + " to " + g.At.Connector
			pairs[key] = append(pairs[key], was.At.String())
		}
	}
	for key, cavities := range pairs {
		m.findings = append(m.findings, finding.Finding{Code: "terminal-system", Severity: finding.Check, Side: string(match.From), Subject: cavities[0],
			Text:   fmt.Sprintf("%d terminals change housing, %s: %s.", len(cavities), key, strings.Join(cavities, ", ")),
			Remedy: "Check that both housings take the same terminal and size before the first is pulled; where not, it must be re-terminated."})
	}
}
