package wanted

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
)

// want makes the connectors as they should become.
func (m *Model) want(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	wanted := harness.Work(harness.New(m.Housings))
	for _, at := range m.Now.Cavities() {
		if m.Now.Stump(at) {
			wanted.Block(at)
		}
	}
	for _, t := range m.Now.Terminals() { // what is cut off leaves its terminal behind, also where its wire is taken away
		if was, _ := m.Now.Place(t); was.State == harness.Seated && was != goals[t] && m.Adviser.Fixed(was.At) {
			wanted.Block(was.At)
		}
	}
	for _, t := range order {
		wanted.Put(t, goals[t])
	}
	m.Wanted = wanted.Harness()
	m.plugVacated()
	m.changesOfHousing(goals, order)
}

// plugVacated wants a plug in every cavity of a kept housing that was full and is to be empty. A housing that is
// known not to be sealed takes none.
func (m *Model) plugVacated() {
	plugs := harness.Work(m.Wanted)
	for _, at := range m.Now.Cavities() {
		_, was := m.Found.In(at)
		_, is := m.Wanted.In(at)
		layout := m.Adviser.Housings[at.Connector].Layout
		if was && !is && !m.Wanted.Stump(at) && m.Retained[at.Connector] && (layout == nil || layout.Sealed()) {
			plugs.Must(harness.Edit{Do: harness.Plug, At: at})
		}
	}
	m.Wanted = plugs.Harness()
}

// changes says what is different at the connectors in the wanted harness.
func (m *Model) changes() harness.Changes {
	c := harness.Changes{
		Cavities: m.Housings,
		Places:   map[harness.TerminalID]harness.Place{},
		Plugs:    map[harness.Ref]bool{},
	}
	for _, t := range m.Wanted.Terminals() {
		p, _ := m.Wanted.Place(t)
		if was, found := m.Found.Place(t); !found || was != p {
			c.Places[t] = p
		}
	}
	for _, at := range m.Past.Now.Plugs() { // where nothing is worked in any more plugs stay where they are
		if !m.Wanted.Has(at) {
			c.Plugs[at] = true
		}
	}
	for _, at := range m.Wanted.Cavities() {
		if plugged := m.Wanted.Plugged(at); plugged != m.Found.Plugged(at) {
			c.Plugs[at] = plugged
		}
		if m.Wanted.Stump(at) {
			c.Stumps = append(c.Stumps, at)
		}
	}
	return c
}

// changesOfHousing names the terminals that change their housing where nobody has said what the housings take.
func (m *Model) changesOfHousing(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) {
	pairs := map[string][]string{}
	for _, t := range order {
		was, seated := m.Now.Place(t)
		if g := goals[t]; seated && was.State == harness.Seated && g.State == harness.Seated &&
			g.At.Connector != was.At.Connector &&
			!m.Renew[t] &&
			m.Adviser.Unknown(was.At, g.At) {
			key := was.At.Connector + " to " + g.At.Connector
			pairs[key] = append(pairs[key], was.At.String())
		}
	}
	for key, cavities := range pairs {
		m.Findings = append(m.Findings, finding.Finding{
			Code: "terminal-system", Severity: finding.Check, Side: string(match.From), Subject: cavities[0],
			Text: fmt.Sprintf("%d terminals change housing, %s: %s.", len(cavities), key, strings.Join(cavities, ", ")),
			Remedy: "Say in Pin what terminals both housings take, or check it before the first is pulled; where they " +
				"differ, it must be re-terminated.",
		})
	}
}

// mostAdapted is the size up to which a plug whose wires only change places is shown as an adaptation.
const mostAdapted = 8

// adapt finds the plugs whose wires all stay in them and stand in another order.
func (m *Model) adapt(goals map[harness.TerminalID]harness.Place) {
	for _, h := range m.Housings {
		if h.Ways() > mostAdapted {
			continue
		}
		var names []string
		var wires []harness.TerminalID
		for _, n := range h.Cavities {
			if t, full := m.Found.In(harness.Ref{Connector: h.ID, Cavity: n}); full {
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
			m.Adaptations = append(m.Adaptations, a)
		}
	}
}
