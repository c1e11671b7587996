package wanted

import (
	"fmt"
	"slices"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// model is the harness as found with what the decisions say of its terminals, joints and new wires. Now and wanted
// are what Pin sees of it: the connectors that are worked in, and what is in them.
type Model struct {
	Facts       *fact.Facts
	block       Block
	rules       reach.Rules
	rates       thin.Rates
	Ends        *ends
	Ways        map[harness.Ref]match.Way
	Alone       thin.Alone
	Housings    []harness.Connector
	Retained    map[string]bool // housings that stay: what is vacated in them gets a plug
	Adviser     pin.Adviser
	Found       harness.Harness // the whole of it
	Part        join.Part
	Joints      []Joined
	Laid        []Laid
	Joined      harness.Harness // as it should become, but for what Reach does
	Past        work.Past
	Now, Wanted harness.Harness
	Ticks       []work.Tick // Pin's, in their order
	Wires       map[harness.TerminalID]wire
	Made        map[harness.TerminalID]pin.Made
	Renew       map[harness.TerminalID]bool
	drawn       map[harness.TerminalID]bool // the vehicle's, whose cavities ours go into
	Swapped     map[harness.Ref]harness.Ref // To cavities whose outputs are exchanged
	Fresh       []newWire
	Planned     map[string]*join.Joint
	Renamed     func(string) string // gives the joint that one was merged into
	// What is left of each splice: the joint's name, empty where it is taken apart.
	splices     map[string]string
	bare        map[harness.Length]harness.TerminalID // ends whose terminal was cut off, and that get none
	Adaptations []pin.Adaptation
	Withheld    int
	Findings    []finding.Finding
}

// Reads is what the wanted harness follows from.
type Reads struct {
	Facts     *fact.Facts
	Match     *match.Result
	Thin      *Thinned
	Ways      []Way
	Block     Block
	Ticks     []work.Tick // what has been carried out
	Exchanges []pin.Exchange
	Reports   []pin.Report
	Rules     reach.Rules
	Rates     thin.Rates
}

// wire is what is known of the wire at a terminal: its row, and the To row that it fills.
type wire struct{ Row, Goal harness.Row }

// model makes the harness as found, as it is now and as wanted at the connectors. Only what a person has decided moves.
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
		Wires:    map[harness.TerminalID]wire{},
		Made:     map[harness.TerminalID]pin.Made{},
		Renew:    map[harness.TerminalID]bool{},
		drawn:    map[harness.TerminalID]bool{},
		Swapped:  map[harness.Ref]harness.Ref{},
		rules:    d.Rules,
		rates:    d.Rates,
		Planned:  map[string]*join.Joint{},
	}
	m.splices = map[string]string{}
	for i := range d.Thin.Result.Joints {
		if j := &d.Thin.Result.Joints[i]; j.Kind == "splice" {
			m.splices[j.ID] = j.Joint()
		}
	}
	extract := d.Thin.Result.Extract
	pulled := m.pulledBefore(d.Ticks, extract)
	m.Retained = map[string]bool{}
	for _, x := range f.Meetings {
		m.Retained[x.With] = x.With != ""
	}
	for _, e := range append(slices.Clone(extract), pulled...) {
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
	m.Adviser = pin.Adviser{Housings: map[string]harness.Connector{}, Near: f.Nearness()}
	for _, h := range m.Housings {
		m.Adviser.Housings[h.ID] = h
	}
	for _, x := range d.Exchanges {
		if x.Verify == "" && f.WhyNotExchanged(x) == "" {
			m.Swapped[x.A], m.Swapped[x.B] = x.B, x.A
		}
	}
	m.Found = f.Laid.Loom.Found().Housing(m.Housings)
	m.carryOut(d.Ticks)
	goals, order := m.goals(d.Match)
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
	m.bare = map[harness.Length]harness.TerminalID{}
	for _, t := range m.Found.Terminals() {
		if end, clipped := m.clipped(t); clipped && goals[t].State != harness.Seated {
			m.bare[end] = t
			delete(goals, t)
		}
	}
	order = slices.DeleteFunc(order, func(t harness.TerminalID) bool { _, wanted := goals[t]; return !wanted })
	m.want(goals, order)
	m.adapt(goals)
	m.join(&d)
	return m
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

// movesInto says whether our own terminal can go into the vehicle's plug: it is there, its plug is plugged into
// nothing that stays, and it is not cut off with it.
func (m *Model) MovesInto(x fact.Pairing) bool {
	return m.Ends.Wires[x.Ours] != nil && !m.Ends.off[x.Ours.Connector] && !m.Ends.live(x.Ours.Connector)
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
		m.Findings = append(m.Findings, finding.Finding{
			Code: "tick-lost", Severity: finding.Wrong, Stage: string(t.Of()), Subject: tickedAt(t),
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
				m.Wires[t] = wire{Row: row}
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

// out says that a wire that was found is out of the harness altogether.
func (m *Model) out(t harness.TerminalID) bool {
	_, found := m.Found.Place(t)
	_, there := m.Past.Now.Place(t)
	return found && !there
}

// clipped says that a terminal that was found was cut off its wire, which is still there, and on which end of it.
func (m *Model) clipped(t harness.TerminalID) (harness.Length, bool) {
	found, ok := m.Found.Place(t)
	if !ok || !m.out(t) {
		return harness.Length{}, false
	}
	w := m.Ends.Wires[found.At]
	if w == nil {
		return harness.Length{}, false
	}
	_, there := m.Past.Now.Tips(w.ID)
	return harness.Length{Wire: w.ID, End: m.Ends.end[found.At]}, there
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
			m.Wires[r.Stranger()] = wire{Row: harness.Row{Ref: r.At, Function: "wire that no table shows"}}
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
