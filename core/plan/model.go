package plan

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
type model struct {
	facts        *fact.Facts
	block        Block
	rules        reach.Rules
	rates        thin.Rates
	ends         *ends
	ways         map[harness.Ref]match.Way
	alone        thin.Alone
	housings     []harness.Connector
	retained     map[string]bool // housings that stay: what is vacated in them gets a plug
	adviser      pin.Adviser
	found        harness.Harness // the whole of it
	part         join.Part
	listedJoints []Joined
	laid         []Laid
	joined       harness.Harness // as it should become, but for what Reach does
	past         work.Past
	now, wanted  harness.Harness
	ticks        []work.Tick // Pin's, in their order
	wires        map[harness.TerminalID]wire
	made         map[harness.TerminalID]pin.Made
	renew        map[harness.TerminalID]bool
	drawn        map[harness.TerminalID]bool // the vehicle's, whose cavities ours go into
	swapped      map[harness.Ref]harness.Ref // To cavities whose outputs are exchanged
	fresh        []newWire
	joints       map[string]*join.Joint
	renamed      func(string) string // gives the joint that one was merged into
	// What is left of each splice: the joint's name, empty where it is taken apart.
	splices     map[string]string
	bare        map[harness.Length]harness.TerminalID // ends whose terminal was cut off, and that get none
	adaptations []pin.Adaptation
	withheld    int
	findings    []finding.Finding
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
type wire struct{ row, goal harness.Row }

// model makes the harness as found, as it is now and as wanted at the connectors. Only what a person has decided moves.
// Undecided wires stay where they are, and a cavity that one of them holds cannot be filled: that is a finding, and
// whoever was to go there stays too.
func newModel(d Reads) *model {
	f := d.Facts
	m := &model{
		facts:    f,
		block:    d.Block,
		ends:     newEnds(&f.Laid.Loom, d.Thin.Result),
		ways:     wayOf(d.Ways),
		alone:    d.Thin.Result.Alone(),
		housings: fact.Housings(f),
		wires:    map[harness.TerminalID]wire{},
		made:     map[harness.TerminalID]pin.Made{},
		renew:    map[harness.TerminalID]bool{},
		drawn:    map[harness.TerminalID]bool{},
		swapped:  map[harness.Ref]harness.Ref{},
		rules:    d.Rules,
		rates:    d.Rates,
		joints:   map[string]*join.Joint{},
	}
	m.splices = map[string]string{}
	for i := range d.Thin.Result.Joints {
		if j := &d.Thin.Result.Joints[i]; j.Kind == "splice" {
			m.splices[j.ID] = j.Joint()
		}
	}
	extract := d.Thin.Result.Extract
	pulled := m.pulledBefore(d.Ticks, extract)
	m.retained = map[string]bool{}
	for _, x := range f.Meetings {
		m.retained[x.With] = x.With != ""
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
	m.adviser = pin.Adviser{Housings: map[string]harness.Connector{}, Near: f.Nearness()}
	for _, h := range m.housings {
		m.adviser.Housings[h.ID] = h
	}
	for _, x := range d.Exchanges {
		if x.Verify == "" && f.WhyNotExchanged(x) == "" {
			m.swapped[x.A], m.swapped[x.B] = x.B, x.A
		}
	}
	m.found = f.Laid.Loom.Found().Housing(m.housings)
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
	for _, n := range m.fresh { // a wire of which one end finds no place is not laid
		for end, g := range n.ends {
			if _, there := goals[g.Terminal]; g.Terminal != "" && !there {
				delete(goals, n.ends[1-end].Terminal)
			}
		}
	}
	m.lonelyPigtails(goals)
	m.bare = map[harness.Length]harness.TerminalID{}
	for _, t := range m.found.Terminals() {
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
func (m *model) involve(at harness.Ref) {
	m.retained[at.Connector] = true
	i := slices.IndexFunc(m.housings, func(h harness.Connector) bool { return h.ID == at.Connector })
	if i < 0 {
		i = len(m.housings)
		m.housings = append(m.housings, m.facts.Connector(at.Connector))
	}
	if !m.housings[i].Has(at.Cavity) {
		m.housings[i].Cavities = append(slices.Clone(m.housings[i].Cavities), at.Cavity)
	}
}

// listed adds the cavities that only a list of wires names to the housings that they are in: a table that shows
// fewer is none the less of the same plug.
func (m *model) listed() {
	ours := make(map[string]int, len(m.housings))
	has := map[harness.Ref]bool{}
	for i := range m.housings {
		ours[m.housings[i].ID] = i
		for _, c := range m.housings[i].Cavities {
			has[harness.Ref{Connector: m.housings[i].ID, Cavity: c}] = true
		}
	}
	for k := range m.facts.Laid.Loom.Wires {
		for _, e := range m.facts.Laid.Loom.Wires[k].Ends {
			i, known := ours[e.At.Connector]
			if known && !has[e.At] {
				has[e.At] = true
				h := &m.housings[i]
				h.Cavities = append(slices.Clone(h.Cavities), e.At.Cavity)
			}
		}
	}
}

// reached adds the connectors that decided wires enter, beside the housings: plugs of the vehicle, plugs that are put
// onto connectors, cavities at which new wires begin.
func (m *model) reached(r *match.Result) {
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Decided && l.Verdict == match.NeedsSource && l.Origin != nil && l.Origin.Kind == match.AtCavity &&
			m.ends.wires[l.Origin.At] == nil {
			m.involve(l.Origin.At)
		}
		if !l.Decided || !l.Feeds() {
			continue
		}
		switch m.ways[l.From] {
		case match.Into:
			x := m.facts.Pair(l)
			m.involve(x.Vehicle)
			if m.movesInto(x) {
				m.involve(x.Ours)
			}
		case match.Lead:
			m.involve(harness.Ref{Connector: fact.Header(l.From.Connector), Cavity: l.From.Cavity})
		case match.Move, match.Renew:
			if !m.facts.Repinned(l.From.Connector) {
				m.involve(l.From)
			}
		}
	}
	for _, w := range r.Wants {
		if w.Verdict == match.NewWire && w.Origin.Kind == match.AtCavity && m.ends.wires[w.Origin.At] == nil {
			m.involve(w.Origin.At)
		}
	}
}

// movesInto says whether our own terminal can go into the vehicle's plug: it is there, its plug is plugged into
// nothing that stays, and it is not cut off with it.
func (m *model) movesInto(x fact.Pairing) bool {
	return m.ends.wires[x.Ours] != nil && !m.ends.off[x.Ours.Connector] && !m.ends.live(x.Ours.Connector)
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
			if t.Stage == work.Pin && e.Do == harness.Remove && e.Terminal == harness.TerminalAt(e.At) &&
				!known[e.Terminal] &&
				!(inTable && m.facts.Repinned(e.At.Connector)) {
				known[e.Terminal] = true
				out = append(out, thin.Extraction{Terminal: e.Terminal, At: e.At})
			}
		}
	}
	return out
}

// carryOut makes Now, once, of everything that was ticked; what of it is at the connectors is what the moves begin
// from.
func (m *model) carryOut(ticks []work.Tick) {
	m.past = work.Replay(m.found, ticks)
	made := map[harness.TerminalID]bool{}
	for i := range m.past.Ticks {
		t := &m.past.Ticks[i]
		if t.Stage == work.Pin {
			m.ticks = append(m.ticks, *t)
		}
		for _, e := range t.Edits {
			made[e.Terminal] = made[e.Terminal] || e.Do == harness.Add && t.Kind != reach.PartWire
		}
	}
	for _, t := range m.past.Lost {
		m.findings = append(m.findings, finding.Finding{
			Code: "tick-lost", Severity: finding.Wrong, Stage: string(t.Of()), Subject: tickedAt(t),
			Text: fmt.Sprintf("It was ticked that %q, but on the harness as it is known now that cannot be done: %s.",
				t.Text, t.Reason),
			Remedy: "The facts have changed since: look at the harness, and take the tick back if it was not done.",
		})
	}
	ours := map[string]bool{}
	for _, h := range m.housings {
		ours[h.ID] = true
	}
	homes := map[harness.TerminalID]bool{}
	for i := range m.facts.Laid.Loom.Wires {
		w := &m.facts.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if ours[e.At.Connector] {
				t := harness.TerminalAt(e.At)
				homes[t] = true
				row, inTable := m.facts.From.Row(e.At)
				if !inTable {
					row = fact.RowOfWire(w, e.At)
				}
				m.wires[t] = wire{row: row}
			}
		}
	}
	whole, now := m.past.Now, harness.Work(harness.New(m.housings))
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
	m.now = now.Harness()
}

// out says that a wire that was found is out of the harness altogether.
func (m *model) out(t harness.TerminalID) bool {
	_, found := m.found.Place(t)
	_, there := m.past.Now.Place(t)
	return found && !there
}

// clipped says that a terminal that was found was cut off its wire, which is still there, and on which end of it.
func (m *model) clipped(t harness.TerminalID) (harness.Length, bool) {
	found, ok := m.found.Place(t)
	if !ok || !m.out(t) {
		return harness.Length{}, false
	}
	w := m.ends.wires[found.At]
	if w == nil {
		return harness.Length{}, false
	}
	_, there := m.past.Now.Tips(w.ID)
	return harness.Length{Wire: w.ID, End: m.ends.end[found.At]}, there
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
func (m *model) keepPut(
	reports []pin.Report,
	goals map[harness.TerminalID]harness.Place,
	order []harness.TerminalID,
) []harness.TerminalID {
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

// rest leaves every other terminal at the connectors where it is, unless it was made for a decision that is none any
// more.
func (m *model) rest(goals map[harness.TerminalID]harness.Place, order []harness.TerminalID) []harness.TerminalID {
	for _, t := range m.now.Terminals() {
		if _, known := goals[t]; known {
			continue
		}
		if _, found := m.found.Place(t); found {
			was, _ := m.now.Place(t)
			goals[t] = was
			order = append(order, t)
		}
	}
	return order
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
