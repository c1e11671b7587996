// Package wanted says what the decisions want of the harness: what stays and what goes, how each matched wire comes
// to its counterpart, where terminals and joints come, and which wires are laid. Its Model is the harness as found,
// as it is now and as wanted, but for what lengths bring: it asks Reach its question.
package wanted

import (
	"cmp"

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

// Model is the harness as found with what the decisions say of its terminals, joints and new wires. Now and Wanted
// are what Pin sees of it: the connectors that are worked in, and what is in them. Once it is made it is only read.
type Model struct {
	Facts *fact.Facts
	Found harness.Harness           // as it was found, the whole of it
	Past  work.Past                 // what was done to it, and the whole of it now
	Ways  map[harness.Ref]match.Way // how matched wires come to their counterparts, by From cavity
	Ends  *ends                     // where the loom's wires end
	Alone thin.Alone                // what is left to qualified hands

	Housings    []harness.Connector // that are worked in
	Retained    map[string]bool     // housings that stay: what is vacated in them gets a plug
	Adviser     pin.Adviser         // what goes into which housing
	Now, Wanted harness.Harness     // at the housings
	Ticks       []work.Tick         // Pin's, in their order
	Wires       map[harness.TerminalID]Filling
	Made        map[harness.TerminalID]pin.Made // terminals that are crimped on, and the ends that get them
	Renew       map[harness.TerminalID]bool     // terminals that are cut off and crimped anew
	Swapped     map[harness.Ref]harness.Ref     // To cavities whose outputs are exchanged
	Adaptations []pin.Adaptation                // plugs whose wires only change places
	Withheld    int                             // moves that are left off, since somebody holds their cavity

	Fresh   []newWire                             // wires that are laid
	Planned map[harness.JointID]*join.Joint       // joints that decisions make, by name
	Renamed func(harness.JointID) harness.JointID // gives the joint that one was merged into
	Part    join.Part                             // what Join makes of them
	Joints  []Joined                              // the joints for whoever looks at them
	Laid    []Laid                                // the new wires likewise
	Joined  harness.Harness                       // as it should become, but for what Reach does

	Findings []finding.Finding

	block   Block
	rules   reach.Rules
	rates   thin.Rates
	drawn   map[harness.TerminalID]bool          // the vehicle's, whose cavities ours go into
	splices map[harness.JointID]harness.JointID  // what is left of each: the joint's name, empty where it is taken apart
	bare    map[harness.TipID]harness.TerminalID // ends whose terminal was cut off, and that get none
}

// Filling is what is known of the wire at a terminal: its row, and the To row that it fills.
type Filling struct{ Row, Goal harness.Row }

// newWire is a wire that is laid: the row that it is for, and what each of its ends comes to.
type newWire struct {
	ID     harness.WireID
	Row    harness.Row
	ends   [2]join.Goal
	lands  [2]harness.Ref  // cavities at whose place its ends are
	splice harness.JointID // that its second end comes to
	// It leads from a cavity to the joint of those that begin there.
	pigtail bool
}

// NewWireOf names the new wire for a cavity.
func NewWireOf(at harness.Ref) harness.WireID { return harness.NewWire(at.String()) }

// NewTerminal names the terminal of a new wire for a To cavity.
func NewTerminal(to harness.Ref) harness.TerminalID { return harness.TerminalID(NewWireOf(to)) }

// NewEnd names a terminal that is crimped on an end which was cut, for a cavity of the model.
func NewEnd(at harness.Ref) harness.TerminalID {
	return harness.TerminalID("new end " + at.String())
}

func called(n newWire) string {
	s := "the " + n.ID.Name()
	if n.Row.Function != "" {
		s += " (" + n.Row.Function + ")"
	}
	return s
}

// planning collects where each terminal should end.
type planning struct {
	*Model
	goals  map[harness.TerminalID]harness.Place
	order  []harness.TerminalID
	begins map[harness.Ref]int // by empty cavity: how many new wires begin there
}

func (g *planning) set(t harness.TerminalID, p harness.Place) {
	if _, known := g.goals[t]; !known {
		g.order = append(g.order, t)
	}
	g.goals[t] = p
}

// lay notes a new wire with its terminals.
func (g *planning) lay(n newWire) {
	if w := g.Ends.Wires[n.lands[0]]; w != nil { // as thick as what it goes on with
		n.Row.Size = cmp.Or(n.Row.Size, w.Size)
	}
	g.Fresh = append(g.Fresh, n)
	for end, goal := range n.ends {
		if goal.Terminal == "" {
			continue
		}
		g.Wires[goal.Terminal] = Filling{Row: n.Row, Goal: n.Row}
		g.Made[goal.Terminal] = pin.Made{TipID: harness.TipID{Wire: n.ID, End: end}, Name: called(n)}
		g.set(goal.Terminal, harness.Place{State: harness.Seated, At: goal.At})
	}
}

// Target gives the cavity of the model in which what is wanted in a To cavity comes.
func (m *Model) Target(to harness.Ref) harness.Ref {
	if other, ok := m.Swapped[to]; ok {
		to = other
	}
	return m.Facts.At(to)
}

// MovesInto says whether our own terminal can go into the vehicle's plug: it is there, its plug is plugged into
// nothing that stays, and it is not cut off with it.
func (m *Model) MovesInto(x fact.Pairing) bool {
	return m.Ends.Wires[x.Ours] != nil && !m.Ends.off[x.Ours.Connector] && !m.Ends.live(x.Ours.Connector)
}

// free gives the cavity that a text names, and whether no wire is known in it.
func (m *Model) free(text string) (harness.Ref, bool) {
	at, is := m.cavity(text)
	return at, is && m.Ends.Wires[at] == nil
}

// cavity reads a text as a cavity of the model.
func (m *Model) cavity(text string) (harness.Ref, bool) { return m.Facts.Cavity(text) }

// out says that a wire that was found is out of the harness altogether.
func (m *Model) out(t harness.TerminalID) bool {
	_, found := m.Found.Place(t)
	_, there := m.Past.Now.Place(t)
	return found && !there
}

// clipped says that a terminal that was found was cut off its wire, which is still there, and on which end of it.
func (m *Model) clipped(t harness.TerminalID) (harness.TipID, bool) {
	found, ok := m.Found.Place(t)
	if !ok || !m.out(t) {
		return harness.TipID{}, false
	}
	w := m.Ends.Wires[found.At]
	if w == nil {
		return harness.TipID{}, false
	}
	_, there := m.Past.Now.Tips(w.ID)
	return harness.TipID{Wire: w.ID, End: m.Ends.end[found.At]}, there
}
