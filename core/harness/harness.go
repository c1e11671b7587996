package harness

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"draxel/core/finding"
)

// TerminalID names one end of one wire for as long as the job lasts, wherever the terminal goes.
type TerminalID string

// State is where a terminal is.
type State string

// The states of a terminal.
const (
	Seated State = "seated" // in a cavity
	Loose  State = "loose"  // in hand or waiting, with a label
	Capped State = "capped" // sealed off and labelled: a circuit that goes
	Parked State = "parked" // sealed, labelled and waiting for its source
)

// Place is a state with its particulars: the cavity of a seated terminal, the label of the others.
type Place struct {
	State State  `json:"state"`
	At    Ref    `json:"at,omitzero"`
	Label string `json:"label,omitempty"`
}

// Harness is a harness at one moment. Its zero value has no connectors.
type Harness struct {
	cavities  map[Ref]bool
	at        map[Ref]TerminalID
	terminals map[TerminalID]Place
	plugs     map[Ref]bool
	crimps    map[TerminalID]int // how many lengths of wire are crimped into a terminal, where the copper is known
	metal     *copper            // nil where only the terminals are known
	loose     int                // terminals in hand
}

// New gives a harness with these connectors and nothing in them.
func New(connectors []Connector) Harness {
	h := Harness{cavities: map[Ref]bool{}, at: map[Ref]TerminalID{}, terminals: map[TerminalID]Place{}, plugs: map[Ref]bool{}, crimps: map[TerminalID]int{}}
	for _, c := range connectors {
		for _, n := range c.Cavities {
			h.cavities[Ref{c.ID, n}] = true
		}
	}
	return h
}

// Has says whether the harness has that cavity.
func (h Harness) Has(at Ref) bool { return h.cavities[at] }

// In gives the terminal in a cavity, and false when it is empty.
func (h Harness) In(at Ref) (TerminalID, bool) {
	t, ok := h.at[at]
	return t, ok
}

// Place gives where a terminal is, and false when the harness has no such terminal.
func (h Harness) Place(t TerminalID) (Place, bool) {
	p, ok := h.terminals[t]
	return p, ok
}

// Plugged says whether the cavity has a plug.
func (h Harness) Plugged(at Ref) bool { return h.plugs[at] }

// Terminals lists the terminals by name.
func (h Harness) Terminals() []TerminalID {
	return slices.SortedFunc(maps.Keys(h.terminals), func(a, b TerminalID) int { return finding.Natural(string(a), string(b)) })
}

// Cavities lists the cavities by connector and name.
func (h Harness) Cavities() []Ref { return slices.SortedFunc(maps.Keys(h.cavities), CompareRefs) }

// InHand counts the loose terminals.
func (h Harness) InHand() int { return h.loose }

// CompareRefs orders cavities as people read them: by connector, then by number.
func CompareRefs(a, b Ref) int {
	return cmp.Or(finding.Natural(a.Connector, b.Connector), finding.Natural(a.Cavity, b.Cavity))
}

// Differences lists, in words, what tells two harnesses apart; none when they are the same.
func Differences(got, want Harness) []string {
	var out []string
	for _, t := range want.Terminals() {
		g, ok := got.terminals[t]
		if w := want.terminals[t]; !ok {
			out = append(out, fmt.Sprintf("terminal %s is missing, should be %s", t, w))
		} else if g != w {
			out = append(out, fmt.Sprintf("terminal %s is %s, should be %s", t, g, w))
		}
	}
	for _, t := range got.Terminals() {
		if _, ok := want.terminals[t]; !ok {
			out = append(out, fmt.Sprintf("terminal %s should not be there", t))
		}
	}
	out = append(out, copperDifferences(got, want)...)
	refs := map[Ref]bool{}
	maps.Copy(refs, got.plugs)
	maps.Copy(refs, want.plugs)
	for _, r := range slices.SortedFunc(maps.Keys(refs), CompareRefs) {
		if got.plugs[r] != want.plugs[r] {
			out = append(out, fmt.Sprintf("cavity %s: plugged %v, should be %v", r, got.plugs[r], want.plugs[r]))
		}
	}
	return out
}

// String says where the terminal is, in words.
func (p Place) String() string {
	if p.State == Seated {
		return "in " + p.At.String()
	}
	return string(p.State) + " \"" + p.Label + "\""
}
