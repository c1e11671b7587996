package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/work"
)

// carryOut makes Now, once, of everything that was ticked; what of it is at the connectors is what the moves begin
// from.
func (m *Model) carryOut(ticks []work.Tick) {
	m.Past = work.Replay(m.Found, ticks)
	made := map[harness.TerminalID]bool{}
	for i := range m.Past.Ticks {
		t := &m.Past.Ticks[i]
		if t.Stage == work.Pin {
			m.Ticks = append(m.Ticks, *t)
		}
		for _, e := range t.Edits {
			made[e.Terminal] = made[e.Terminal] || e.Do == harness.Add && t.Kind != reach.PartWire
		}
	}
	for _, t := range m.Past.Lost {
		place := finding.Place{}
		if t.Of() == work.Reach || t.Of() == work.Thin { // whose steps have a part of their own
			place.Part = "work"
		}
		m.Findings = append(m.Findings, finding.Finding{
			Code: "tick-lost", Place: place, Severity: finding.Wrong, Stage: string(t.Of()), Subject: tickedAt(t),
			Text: fmt.Sprintf("It was ticked that %q, but on the harness as it is known now that cannot be done: %s.",
				t.Text, t.Reason),
			Remedy: "The facts have changed since: look at the harness, and take the tick back if it was not done.",
		})
	}
	ours := map[string]bool{}
	for _, h := range m.Housings {
		ours[h.ID] = true
	}
	homes := map[harness.TerminalID]bool{}
	for i := range m.Facts.Laid.Loom.Wires {
		w := &m.Facts.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if ours[e.At.Connector] {
				t := harness.TerminalAt(e.At)
				homes[t] = true
				row, inTable := m.Facts.From.Row(e.At)
				if !inTable {
					row = fact.RowOfWire(w, e.At)
				}
				m.Wires[t] = Filling{Row: row}
			}
		}
	}
	whole, now := m.Past.Now, harness.Work(harness.New(m.Housings))
	for _, t := range whole.Terminals() {
		if p, _ := whole.Place(t); p.State == harness.Seated && ours[p.At.Connector] ||
			p.State != harness.Seated && homes[t] ||
			made[t] {
			now.Put(t, p)
		}
	}
	for _, at := range now.Look().Cavities() {
		if whole.Stump(at) {
			now.Block(at)
		}
		if _, full := now.Look().In(at); whole.Plugged(at) && !full {
			now.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.Now = now.Harness()
}

// tickedAt names what a tick is about.
func tickedAt(t work.Tick) string {
	for _, at := range t.At {
		if at.Cavity != "" {
			return at.String()
		}
	}
	return string(t.Wire)
}
