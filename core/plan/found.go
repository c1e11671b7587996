package plan

import (
	"fmt"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/thin"
	"draxel/core/work"
)

// find makes the harness as found: the From rows, and what Thin takes out.
func (m *model) find(moves bool, extract []thin.Extraction) {
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

// carryOut makes Now: what has been ticked is done on the whole harness, its copper too, since a wire that fell out took its
// terminals with it. What of it is at the connectors is what the moves begin from.
func (m *model) carryOut(ticks []work.Tick) {
	if m.now = m.found; len(ticks) == 0 {
		return
	}
	whole := harness.Work(m.foundWhole(&m.facts.Laid.Loom))
	for _, t := range m.found.Terminals() {
		p, _ := m.found.Place(t)
		whole.Seat(t, p.At)
	}
	ours := map[harness.TerminalID]bool{}
	for _, t := range work.InOrder(ticks) {
		if t.Stage == "pin" {
			m.ticks = append(m.ticks, t)
		}
		for _, e := range t.Edits {
			ours[e.Terminal] = ours[e.Terminal] || e.Do == harness.Add
		}
		if err := whole.Do(t.Edits...); err != nil && t.Stage == "pin" {
			m.findings = append(m.findings, finding.Finding{Code: "tick-lost", Severity: finding.Wrong, Stage: "pin", Subject: tickedAt(t),
				Text:   fmt.Sprintf("It was ticked that %q, but on the harness as it is known now that cannot be done: %v.", t.Text, err),
				Remedy: "The facts have changed since: look at the connector, and take the tick back if it was not done."})
		}
	}
	m.atConnectors(whole.Harness(), ours)
}

// atConnectors makes Now of what the whole harness has at the connectors of the moves.
func (m *model) atConnectors(whole harness.Harness, made map[harness.TerminalID]bool) {
	now := harness.Work(harness.New(m.housings))
	for _, t := range whole.Terminals() {
		if _, found := m.found.Place(t); found || made[t] {
			p, _ := whole.Place(t)
			now.Put(t, p)
		}
	}
	for _, at := range m.found.Cavities() {
		if whole.Stump(at) {
			now.Block(at)
		}
		if _, full := now.Look().In(at); whole.Plugged(at) && !full {
			now.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.now = now.Harness()
}

// out says that a wire that was found is out of the harness altogether.
func (m *model) out(t harness.TerminalID) bool {
	_, found := m.found.Place(t)
	_, there := m.now.Place(t)
	return found && !there
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
	for _, r := range reports {
		if r.What == pin.Occupied {
			m.wires[r.Stranger()] = wire{row: harness.Row{Ref: r.At, Function: "wire that no table shows"}}
			stay(r.Stranger())
		}
		if f, open := r.Finding(); open {
			m.findings = append(m.findings, f)
		}
		if t, full := m.now.In(r.At); full && r.Stays() {
			stay(t)
		}
	}
	return order
}
