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
	strangers          []harness.TerminalID               // wires that no table shows
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
	m.adviser = pin.Adviser{Housings: map[string]harness.Connector{}, Near: f.near}
	for _, h := range m.housings {
		m.adviser.Housings[h.ID] = h
	}
	for _, x := range d.Pin.Exchanges {
		m.swapped[x.A], m.swapped[x.B] = x.B, x.A
	}
	m.find(moves, d, append(slices.Clone(extract), pulled...))
	m.carryOut(d.Ticks)
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
	for _, e := range pulled {
		if _, known := goals[e.Terminal]; !known {
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

// find makes the harness as found: the From rows, what Thin takes out, and wires that turned up in cavities that the tables
// show empty.
func (m *model) find(moves bool, d Decisions, extract []thin.Extraction) {
	found := harness.Work(harness.New(m.housings))
	if moves {
		for _, row := range m.facts.From.Rows {
			if !row.Empty {
				m.wires[harness.TerminalAt(row.Ref)] = wire{row: row}
				found.Seat(harness.TerminalAt(row.Ref), row.Ref)
			}
		}
	}
	for _, e := range extract {
		if _, known := m.wires[e.Terminal]; !known {
			m.wires[e.Terminal] = wire{row: m.rowOf(e)}
		}
		found.Seat(e.Terminal, e.At)
	}
	for _, r := range d.Pin.Reports {
		t := strangerAt(r.At)
		if _, full := found.Look().In(r.At); full || r.What != pin.Occupied || !found.Look().Has(r.At) {
			continue
		}
		m.strangers = append(m.strangers, t)
		m.wires[t] = wire{row: harness.Row{Ref: r.At, Function: "wire that no table shows"}}
		found.Seat(t, r.At)
	}
	m.found = found.Harness()
}

// pulledBefore lists terminals that were taken out and that nothing asks for any more: they go home.
func (m *model) pulledBefore(ticks []work.Tick, extract []thin.Extraction) []thin.Extraction {
	var out []thin.Extraction
	known := map[harness.TerminalID]bool{}
	for _, e := range extract {
		known[e.Terminal] = true
	}
	for _, t := range ticks {
		for _, e := range t.Edits {
			_, inTable := m.facts.From.Row(e.At)
			if t.Stage == "pin" && e.Do == harness.Remove && e.Terminal == harness.TerminalAt(e.At) && !known[e.Terminal] && !(inTable && m.facts.Kind.MovesTerminals()) {
				known[e.Terminal] = true
				x := thin.Extraction{Terminal: e.Terminal, At: e.At}
				if w := m.endsAt[e.At]; w != nil {
					x.Wire = w.ID
				}
				out = append(out, x)
			}
		}
	}
	return out
}

// strangerAt names the terminal of a wire that no table shows.
func strangerAt(at harness.Ref) harness.TerminalID {
	return harness.TerminalID("unknown wire " + at.String())
}

// carryOut does on the connectors what has been ticked. What was done to the copper is Thin's.
func (m *model) carryOut(ticks []work.Tick) {
	now := harness.Work(m.found)
	for _, t := range work.InOrder(ticks) {
		var edits []harness.Edit
		for _, e := range t.Edits {
			if e.OnTerminal() {
				edits = append(edits, e)
			}
		}
		if t.Stage == "pin" {
			m.ticks = append(m.ticks, t)
		}
		if err := now.Try(edits...); err != nil && t.Stage == "pin" {
			m.findings = append(m.findings, finding.Finding{Code: "tick-lost", Severity: finding.Wrong, Stage: "pin", Subject: tickedAt(t),
				Text:   fmt.Sprintf("It was ticked that %q, but on the harness as it is known now that cannot be done: %v.", t.Text, err),
				Remedy: "The facts have changed since: look at the connector, and take the tick back if it was not done."})
		}
	}
	m.now = now.Harness()
}

// tickedAt names the cavity that a tick is about.
func tickedAt(t work.Tick) string {
	for _, at := range t.At {
		if at.Cavity != "" {
			return at.String()
		}
	}
	return ""
}

// keepPut leaves where they are the wires that a report says cannot be moved, and those that no table shows.
func (m *model) keepPut(reports []pin.Report, goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) []harness.TerminalID {
	stay := func(t harness.TerminalID) {
		if was, there := m.now.Place(t); there {
			if _, known := goals[t]; !known {
				order = append(order, t)
			}
			goals[t] = was
		}
	}
	for _, t := range m.strangers {
		stay(t)
	}
	for _, r := range reports {
		if f, open := r.Finding(); open {
			m.findings = append(m.findings, f)
		}
		if t, full := m.now.In(r.At); full && r.Stays() {
			stay(t)
		}
	}
	return order
}

// want makes the harness as it should become.
func (m *model) want(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	wanted := harness.Work(harness.New(m.housings))
	for _, at := range m.now.Cavities() {
		if m.now.Stump(at) {
			wanted.Block(at)
		}
	}
	for _, t := range order {
		was, there := m.now.Place(t)
		if there && was.State == harness.Seated && was != goals[t] && m.adviser.Fixed(was.At) {
			wanted.Block(was.At)
		}
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
		switch {
		case !l.Decided:
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
	for _, at := range m.now.Cavities() {
		if m.now.Stump(at) {
			holder[at] = harness.TerminalID("terminal cut off in " + at.String())
		}
	}
	for _, t := range order { // one that does not come out holds its cavity wherever its wire goes
		if was, there := m.now.Place(t); there && was.State == harness.Seated && m.adviser.Fixed(was.At) {
			holder[was.At] = t
		}
	}
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
		at := m.wires[root].row.Ref.String()
		if at == "" {
			at = string(root)
		}
		moves := fmt.Sprintf("%d moves wait", n)
		if n == 1 {
			moves = "1 move waits"
		}
		m.findings = append(m.findings, finding.Finding{Code: "cavity-held", Severity: finding.Check, Side: string(match.From), Subject: at,
			Text:   fmt.Sprintf("The wire in %s stays, and others need its cavity: %s for it, directly or in turn, and are left off the sheet.", at, moves),
			Remedy: fmt.Sprintf("Decide what becomes of the wire in %s.", at)})
	}
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

// mostAdapted is the size up to which a plug whose wires only change places is shown as an adaptation.
const mostAdapted = 8

// adapt finds the plugs whose wires all stay in them and stand in another order.
func (m *model) adapt(goals map[harness.TerminalID]harness.Place) {
	for _, h := range m.housings {
		if h.Ways() > mostAdapted {
			continue
		}
		var names []string
		var wires []harness.TerminalID
		for _, n := range h.Cavities {
			if t, full := m.found.In(harness.Ref{Connector: h.ID, Cavity: n}); full {
				names, wires = append(names, n), append(wires, t)
			}
		}
		goes := make([]int, len(wires))
		for i, t := range wires {
			goes[i] = -1
			if g := goals[t]; g.State == harness.Seated && g.At.Connector == h.ID {
				goes[i] = slices.Index(names, g.At.Cavity)
			}
		}
		if a, ok := pin.Adapt(h.ID, names, goes); ok {
			m.adaptations = append(m.adaptations, a)
		}
	}
}
