package harness

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"sync"

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
	Tied   State = "joined" // joined to the wire of a cavity, which serves for both
)

// Place is a state with its particulars: the cavity of a seated terminal, or of the wire that a tied one is joined
// to; the label of those that are not seated.
type Place struct {
	State State  `json:"state"`
	At    Ref    `json:"at,omitzero"`
	Label string `json:"label,omitempty"`
}

// Harness is a harness at one moment. Its zero value has no connectors.
type Harness struct {
	cavities  *cavities // that there are; a harness that follows from another has the same
	at        map[Ref]TerminalID
	terminals map[TerminalID]Place
	plugs     map[Ref]bool
	stumps    map[Ref]bool       // cavities that hold a terminal whose wire was cut off it
	crimps    map[TerminalID]int // how many lengths of wire are crimped into a terminal, where the copper is known
	metal     *copper            // nil where only the terminals are known
	loose     int                // terminals in hand
}

// New gives a harness with these connectors and nothing in them.
func New(connectors []Connector) Harness {
	h := Harness{cavities: &cavities{has: map[Ref]bool{}}, at: map[Ref]TerminalID{},
		terminals: map[TerminalID]Place{}, plugs: map[Ref]bool{}, stumps: map[Ref]bool{}, crimps: map[TerminalID]int{}}
	for _, c := range connectors {
		for _, n := range c.Cavities {
			h.cavities.has[Ref{c.ID, n}] = true
		}
	}
	return h
}

// Has says whether the harness has that cavity.
func (h Harness) Has(at Ref) bool { return h.cavities.is(at) }

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

// Stump says whether the cavity holds a terminal whose wire was cut off it.
func (h Harness) Stump(at Ref) bool { return h.stumps[at] }

// Plugged says whether the cavity has a plug.
func (h Harness) Plugged(at Ref) bool { return h.plugs[at] }

// Plugs lists the cavities with a plug.
func (h Harness) Plugs() []Ref { return slices.SortedFunc(maps.Keys(h.plugs), CompareRefs) }

// Terminals lists the terminals by name.
func (h Harness) Terminals() []TerminalID {
	return slices.SortedFunc(maps.Keys(h.terminals), func(a,
		b TerminalID) int {
		return finding.Natural(string(a), string(b))
	})
}

// Cavities lists the cavities by connector and name.
func (h Harness) Cavities() []Ref { return slices.Clone(h.cavities.sorted()) }

// cavities is a set of cavities, put in order once.
type cavities struct {
	has   map[Ref]bool
	once  sync.Once
	order []Ref
}

func (c *cavities) is(at Ref) bool { return c != nil && c.has[at] }

// sorted gives them by connector and name. Nothing is added after it was asked for.
func (c *cavities) sorted() []Ref {
	if c == nil {
		return nil
	}
	c.once.Do(func() { c.order = slices.SortedFunc(maps.Keys(c.has), CompareRefs) })
	return c.order
}

// InHand counts the loose terminals.
func (h Harness) InHand() int { return h.loose }

// CompareRefs orders cavities as people read them: by connector, then by number.
func CompareRefs(a, b Ref) int {
	return cmp.Or(finding.Natural(a.Connector, b.Connector), finding.Natural(a.Cavity, b.Cavity))
}

// Differences lists, in words, what tells two harnesses apart; none when they are the same.
func Differences(got, want Harness) []string {
	out := placeDifferences(got, want)
	out = append(out, copperDifferences(got, want)...)
	for _, kind := range []struct {
		name      string
		got, want map[Ref]bool
	}{{"plugged", got.plugs, want.plugs}, {"with a cut-off terminal", got.stumps, want.stumps}} {
		refs := map[Ref]bool{}
		maps.Copy(refs, kind.got)
		maps.Copy(refs, kind.want)
		for _, r := range slices.SortedFunc(maps.Keys(refs), CompareRefs) {
			if kind.got[r] != kind.want[r] {
				out = append(out, fmt.Sprintf("cavity %s: %s %v, should be %v", r, kind.name, kind.got[r], kind.want[r]))
			}
		}
	}
	return out
}

func placeDifferences(got, want Harness) []string {
	var out []string
	for _, t := range want.Terminals() {
		g, ok := got.terminals[t]
		switch w := want.terminals[t]; {
		case !ok:
			out = append(out, fmt.Sprintf("terminal %s is missing, should be %s", t, w))
		case g != w:
			out = append(out, fmt.Sprintf("terminal %s is %s, should be %s", t, g, w))
		}
	}
	for _, t := range got.Terminals() {
		if _, ok := want.terminals[t]; !ok {
			out = append(out, fmt.Sprintf("terminal %s should not be there", t))
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
