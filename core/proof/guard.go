package proof

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
	"draxel/core/wanted"
	"draxel/core/work"
)

// guard looks at the circuits that meet when something is joined.
type guard struct {
	net     *circuit.Net
	signals map[harness.WireID]*signal.Reading
	// What is left to qualified hands.
	wires     map[harness.WireID]bool
	joints    map[harness.JointID]bool
	terminals map[harness.TerminalID]bool
	found     []string
}

func newGuard(m *wanted.Model, now harness.Harness) *guard {
	g := &guard{net: circuit.Of(now, m.Facts.Laid.Loom.Connectors), signals: map[harness.WireID]*signal.Reading{},
		wires: map[harness.WireID]bool{}, joints: map[harness.JointID]bool{}, terminals: map[harness.TerminalID]bool{}}
	for i := range m.Facts.Laid.Loom.Wires {
		w := &m.Facts.Laid.Loom.Wires[i]
		g.signals[w.ID] = &w.Signal
		for _, e := range w.Ends {
			if m.Alone.Wire(i) {
				g.wires[w.ID] = true
				if e.Splice != "" {
					g.joints[e.Splice] = true
				}
			}
			if e.At != (harness.Ref{}) && m.Alone.Cavity(e.At) {
				g.terminals[harness.TerminalAt(e.At)] = true
			}
		}
	}
	for i := range m.Fresh {
		g.signals[m.Fresh[i].ID] = &m.Fresh[i].Row.Signal
	}
	return g
}

// look compares what meets at the joint of a step: nothing with restraint or high voltage, no supply with a ground,
// no two different outputs.
func (g *guard) look(s *work.Step, h harness.Harness) error {
	if len(s.Edits) == 0 {
		return nil
	}
	for i := range s.Edits {
		e := &s.Edits[i]
		if what := g.own(e); what != "" {
			g.note(fmt.Sprintf("%q would touch %s, which is left to qualified hands", strings.TrimSuffix(s.Text, "."), what))
		}
	}
	g.net.Follow(h, s.Edits)
	for i := range s.Edits {
		e := &s.Edits[i]
		if e.Do != harness.Join && e.Do != harness.Tap {
			continue
		}
		var groups [][]*signal.Reading
		ends := g.net.At(e.Joint)
		if len(ends) > 40 {
			continue
		}
		for _, l := range ends {
			groups = append(groups, g.readings(g.net.Walk(h, l)))
		}
		for a := range groups {
			for b := range groups[:a] {
				if why := clash(groups[a], groups[b]); why != "" {
					g.note(fmt.Sprintf("after %q %s", strings.TrimSuffix(s.Text, "."), why))
				}
			}
		}
	}
	return nil
}

// own gives the name of what an edit acts on where that is left to qualified hands.
func (g *guard) own(e *harness.Edit) string {
	switch {
	case g.wires[e.Wire]:
		return e.Wire.Name()
	case g.terminals[e.Terminal]:
		return string(e.Terminal)
	case g.joints[e.Joint]:
		return string(e.Joint)
	}
	return ""
}

func (g *guard) note(text string) {
	if !slices.Contains(g.found, text) {
		g.found = append(g.found, text)
	}
}

// readings gives what wires are for, each thing once.
func (g *guard) readings(wires []harness.WireID) []*signal.Reading {
	var out []*signal.Reading
	for _, w := range wires {
		r := g.signals[w.Whole()]
		if r == nil || r.Sure < 0.5 && !match.Fraught(r.Role) {
			continue
		}
		if !slices.ContainsFunc(out, func(x *signal.Reading) bool {
			return x.Device == r.Device && x.Aspect == r.Aspect && x.Cylinder == r.Cylinder && x.Bank == r.Bank &&
				x.Channel == r.Channel
		}) {
			out = append(out, r)
		}
	}
	return out
}

func clash(a, b []*signal.Reading) string {
	for _, x := range a {
		for _, y := range b {
			if why := match.NeverMeet(x, y); why != "" {
				return why
			}
		}
	}
	return ""
}
