package wanted

import (
	"fmt"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
)

// withhold takes back the moves into cavities that somebody else holds: one who is undecided and stays, or was there
// first. Whoever is taken back stays where it was, which may hold up others in turn.
func (m *Model) withhold(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
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
			if was, exists := m.Now.Place(t); exists {
				goals[t] = was
			} else {
				delete(goals, t)
			}
			again = true
		}
	}
	m.Withheld = len(waits)
	m.heldUp(waits)
}

// holders gives who has each cavity: who stays in it, else the first that is to go there.
func (m *Model) holders(
	goals map[harness.TerminalID]harness.Place,
	order []harness.TerminalID,
) map[harness.Ref]harness.TerminalID {
	holder := map[harness.Ref]harness.TerminalID{}
	for _, at := range m.Now.Cavities() {
		if m.Now.Stump(at) {
			holder[at] = harness.TerminalID("terminal cut off in " + at.String())
		}
	}
	for _, t := range m.Now.Terminals() { // one that does not come out holds its cavity wherever its wire goes
		if was, there := m.Now.Place(t); there && was.State == harness.Seated && m.Adviser.Fixed(was.At) {
			holder[was.At] = t
		}
	}
	for _, t := range order {
		g, ok := goals[t]
		if !ok || g.State != harness.Seated {
			continue
		}
		was, exists := m.Now.Place(t)
		if _, taken := holder[g.At]; !taken || exists && was == g {
			holder[g.At] = t
		}
	}
	return holder
}

// heldUp names each wire that holds a cavity which others need, with how many of them wait for it, directly or in turn.
func (m *Model) heldUp(waits map[harness.TerminalID]harness.TerminalID) {
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
		at := m.Wires[root].Row.Ref.String()
		if at == "" {
			at = string(root)
		}
		moves := fmt.Sprintf("%d moves wait", n)
		if n == 1 {
			moves = "1 move waits"
		}
		m.Findings = append(m.Findings, finding.Finding{
			Code: "cavity-held", Severity: finding.Check, Side: string(match.From), Subject: at,
			Text: fmt.Sprintf("The wire in %s stays, and others need its cavity: %s for it, directly or in turn, and are "+
				"left off the sheet.", at, moves),
			Remedy: fmt.Sprintf("Decide what becomes of the wire in %s.", at),
		})
	}
}
