package handover

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/finding"
)

// Differing is in what two states of a wire, or of a job, differ.
type Differing string

// The wire itself, something of it, or something of the job.
const (
	InWire     Differing = "wire"
	InEnds     Differing = "end"
	InColour   Differing = "colour"
	InSize     Differing = "size"
	InLength   Differing = "length"
	InState    Differing = "state"
	InSetting  Differing = "setting" // of the unit
	InDecision Differing = "decision"
)

// Difference is what differs between two states of a job, or two jobs.
type Difference struct {
	Kind Differing `json:"kind"`
	At   string    `json:"at"`  // the wire, the cavity, the setting
	Was  string    `json:"was"` // empty: it was not there
	Is   string    `json:"is"`  // empty: it is not there any more
}

// State is what two states are compared by.
type State struct {
	Lengths   []Piece
	Settings  []string
	Decisions map[string]string // by cavity: what was decided
}

// within is how many mm two lengths may differ by and are the same.
const within = 1.0

// Compare lists what differs: wires that came and went, their ends, colours, sizes and lengths, settings, decisions.
// In the order of kinds, then of names.
func Compare(was, is *State) []Difference {
	out := []Difference{}
	add := func(kind Differing, at, a, b string) {
		if a != b {
			out = append(out, Difference{kind, at, a, b})
		}
	}
	before, after := byName(was.Lengths), byName(is.Lengths)
	for _, name := range both(before, after) {
		a, b := before[name], after[name]
		switch {
		case a == nil:
			add(InWire, name, "", ends(b))
			continue
		case b == nil:
			add(InWire, name, ends(a), "")
			continue
		}
		add(InEnds, name, ends(a), ends(b))
		add(InColour, name, a.Colour.String(), b.Colour.String())
		if a.Size != b.Size {
			add(InSize, name, a.Size.String(), b.Size.String())
		}
		if d := a.Mm - b.Mm; d > within || d < -within {
			add(InLength, name, fmt.Sprintf("%.0f mm", a.Mm), fmt.Sprintf("%.0f mm", b.Mm))
		}
		add(InState, name, a.Standing(), b.Standing())
	}
	for _, s := range was.Settings {
		if !slices.Contains(is.Settings, s) {
			add(InSetting, s, s, "")
		}
	}
	for _, s := range is.Settings {
		if !slices.Contains(was.Settings, s) {
			add(InSetting, s, "", s)
		}
	}
	for _, at := range both(was.Decisions, is.Decisions) {
		add(InDecision, at, was.Decisions[at], is.Decisions[at])
	}
	slices.SortStableFunc(out, func(a, b Difference) int { return cmp.Compare(a.Kind, b.Kind) })
	return out
}

func byName(all []Piece) map[string]*Piece {
	out := make(map[string]*Piece, len(all))
	for i := range all {
		out[string(all[i].Name)] = &all[i]
	}
	return out
}

// both gives the keys of two maps, each once, as people order them.
func both[T any](a, b map[string]T) []string {
	var out []string
	for k := range a {
		out = append(out, k)
	}
	for k := range b {
		if _, there := a[k]; !there {
			out = append(out, k)
		}
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

func ends(l *Piece) string { return l.Ends[0].At + " – " + l.Ends[1].At }
