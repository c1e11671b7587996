package fact

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
)

// Header names the plug that is put onto a connector.
func Header(connector string) string { return "plug on " + connector }

// NewHousing names a new housing apart from a From housing of the same name.
func (f *Facts) NewHousing(to string) string {
	if _, clash := f.From.Connector(to); clash {
		return "new " + to
	}
	return to
}

// At gives where a To cavity is in the model.
func (f *Facts) At(to harness.Ref) harness.Ref {
	return harness.Ref{Connector: f.Housing(match.To, to.Connector), Cavity: to.Cavity}
}

// Housing gives the connector of the model that a connector of a side is.
func (f *Facts) Housing(side match.Side, id string) string {
	if side == match.From {
		return id
	}
	m := f.Meetings[id]
	switch _, there := f.From.Connector(m.With); {
	case (m.Met == match.SameAs || m.Met == match.PlugsOnto) && there:
		return m.With
	case m.Met == match.Stays:
		return f.theirs(id)
	}
	return f.NewHousing(id)
}

// theirs gives what a connector of the To side that is there with its wires is called in the model.
func (f *Facts) theirs(id string) string {
	if _, clash := f.From.Connector(id); clash {
		return stored.OtherName(id)
	}
	return id
}

// there gives the pinout of the To connectors that are there with their wires, by their names in the model.
func (f *Facts) there() harness.Pinout {
	p := f.To
	p.Connectors, p.Rows = nil, nil
	for _, c := range f.To.Connectors {
		if m := f.Meetings[c.ID].Met; m == match.Stays || m == match.PlugsOnto {
			c.ID = f.theirs(c.ID)
			c.Name = c.ID
			p.Connectors = append(p.Connectors, c)
		}
	}
	for _, r := range f.To.Rows {
		if m := f.Meetings[r.Ref.Connector].Met; m == match.Stays || m == match.PlugsOnto {
			r.Ref.Connector = f.theirs(r.Ref.Connector)
			p.Rows = append(p.Rows, r)
		}
	}
	return p
}

// facing says of the connectors that plug onto one another that they are two halves.
func (f *Facts) facing() {
	all := f.Laid.Loom.Connectors
	half := func(id string) *harness.Half {
		i := slices.IndexFunc(all, func(h harness.Half) bool { return h.ID == id })
		if i < 0 {
			return nil
		}
		return &all[i]
	}
	for _, to := range f.To.Connectors {
		m := f.Meetings[to.ID]
		if m.Met != match.PlugsOnto {
			continue
		}
		if a, b := half(f.theirs(to.ID)), half(m.With); a != nil && b != nil && a.Mate == "" && b.Mate == "" {
			a.Mate, b.Mate = m.With, a.ID
		}
	}
}

// Repinned says whether the terminals of a From connector are moved about: in kinds of job that move terminals, and in
// connectors that are kept as a To housing or that a To connector plugs onto.
func (f *Facts) Repinned(connector string) bool {
	if _, ours := f.From.Connector(connector); !ours {
		return false
	}
	if f.Kind.MovesTerminals() {
		return true
	}
	for _, m := range f.Meetings {
		if m.With == connector && (m.Met == match.SameAs || m.Met == match.PlugsOnto) {
			return true
		}
	}
	return false
}

// WireOf describes a wire as a person recognises it: its name, colour, what for, and the cavity that it is known by.
func WireOf(w *harness.Wire, at harness.Ref) string {
	s := w.ID.Name()
	if c := w.Colour.String(); c != "" {
		s += " " + c
	}
	if w.Function != "" {
		s += " (" + w.Function + ")"
	}
	if at != (harness.Ref{}) && !strings.Contains(s, at.String()) {
		s += fmt.Sprintf(" of %s", at)
	}
	return s
}
