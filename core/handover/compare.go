package handover

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
)

// Difference is what differs between two states of a job, or two jobs.
type Difference struct {
	Kind string `json:"kind"` // wire, end, colour, size, length, setting, decision
	At   string `json:"at"`   // the wire, the cavity, the setting
	Was  string `json:"was"`  // empty: it was not there
	Is   string `json:"is"`   // empty: it is not there any more
}

// State is what two states are compared by.
type State struct {
	Lengths   []Length
	Settings  []string
	Decisions map[string]string // by cavity: what was decided
}

// within is how many mm two lengths may differ by and are the same.
const within = 1.0

// Compare lists what differs: wires that came and went, their ends, colours, sizes and lengths, settings, decisions.
// In the order of kinds, then of names.
func Compare(was, is *State) []Difference {
	out := []Difference{}
	add := func(kind, at, a, b string) {
		if a != b {
			out = append(out, Difference{kind, at, a, b})
		}
	}
	before, after := byName(was.Lengths), byName(is.Lengths)
	for _, name := range both(before, after) {
		a, b := before[name], after[name]
		switch {
		case a == nil:
			add("wire", name, "", ends(b))
			continue
		case b == nil:
			add("wire", name, ends(a), "")
			continue
		}
		add("end", name, ends(a), ends(b))
		add("colour", name, a.Colour.String(), b.Colour.String())
		if a.Size != b.Size {
			add("size", name, a.Size.String(), b.Size.String())
		}
		if d := a.Mm - b.Mm; d > within || d < -within {
			add("length", name, fmt.Sprintf("%.0f mm", a.Mm), fmt.Sprintf("%.0f mm", b.Mm))
		}
		add("state", name, a.Standing(), b.Standing())
	}
	for _, s := range was.Settings {
		if !slices.Contains(is.Settings, s) {
			add("setting", s, s, "")
		}
	}
	for _, s := range is.Settings {
		if !slices.Contains(was.Settings, s) {
			add("setting", s, "", s)
		}
	}
	for _, at := range both(was.Decisions, is.Decisions) {
		add("decision", at, was.Decisions[at], is.Decisions[at])
	}
	slices.SortStableFunc(out, func(a, b Difference) int { return strings.Compare(a.Kind, b.Kind) })
	return out
}

func byName(all []Length) map[string]*Length {
	out := make(map[string]*Length, len(all))
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

func ends(l *Length) string { return l.Ends[0].At + " – " + l.Ends[1].At }
