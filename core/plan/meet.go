package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/thin"
)

// Meetings gives how the To connectors of a kind of job are met until a person says otherwise.
func (k Kind) Meetings(from, to harness.Pinout) match.Meetings {
	same := match.SameNames(from, to)
	m := match.Meetings{}
	for _, c := range to.Connectors {
		switch x, alike := same[c.ID]; {
		case k.MovesTerminals() && alike:
			m[c.ID] = x
		case k == Adapter, k.MovesTerminals():
			m[c.ID] = match.Meeting{Met: match.NewHousing}
		case k == Bulkhead && (alike || len(from.Connectors) == 1 && len(to.Connectors) == 1):
			m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: from.Connectors[0].ID}
			if alike {
				m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: c.ID}
			}
		case k == Bought && alike:
			m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: c.ID}
		default:
			m[c.ID] = match.Meeting{Met: match.Stays}
		}
	}
	return m
}

// Vehicle gives the side on which the vehicle's own wiring is, where wires are joined: what is measured first, and
// cut off its old source.
func (k Kind) Vehicle() match.Side {
	if k == Integrated {
		return match.From
	}
	return match.To
}

// header names the plug that is put onto a connector.
func header(connector string) string { return "plug on " + connector }

// otherName names a connector of the To side apart from one of the From side that has the same name. It does not rest
// on what a table is called: tables are renamed.
func otherName(id string) string { return "other " + id }

// newHousing names a new housing apart from a From housing of the same name.
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
		return otherName(id)
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

// repinned says whether the terminals of a From connector are moved about: in kinds of job that move terminals, and in
// connectors that are kept as a To housing or that a To connector plugs onto.
func (f *Facts) repinned(connector string) bool {
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

// withIDs gives the job with connectors named as they are now. Jobs that were kept before named a connector of both
// sides after the title of the To table; every title that the table has had is known.
func (j Job) withIDs() Job {
	j.wireNames()
	if j.To == nil || j.From == nil {
		return j
	}
	as := func(id string) string {
		for _, title := range append([]string{j.To.Name}, j.To.Was...) {
			if rest, ok := strings.CutPrefix(id, title+" "); ok && title != "" {
				return otherName(rest)
			}
		}
		return id
	}
	both := func(at, to *harness.Ref) { at.Connector, to.Connector = as(at.Connector), as(to.Connector) }
	j.Readings, j.Traces = slices.Clone(j.Readings), slices.Clone(j.Traces)
	for i := range j.Readings {
		both(&j.Readings[i].At, &j.Readings[i].To)
	}
	for i := range j.Traces {
		both(&j.Traces[i].At, &j.Traces[i].To)
	}
	j.Places = slices.Clone(j.Places)
	for i := range j.Places {
		if j.Places[i].Thing.Kind == reach.AConnector {
			j.Places[i].Thing.ID = as(j.Places[i].Thing.ID)
		}
	}
	j.Thin = slices.Clone(j.Thin)
	for i := range j.Thin {
		j.Thin[i].ID = as(j.Thin[i].ID)
	}
	j.Layouts, j.Looked = renamed(j.Layouts, as), renamed(j.Looked, as)
	return j
}

// wireNames puts the names of wires in decisions as the harness has them: a job of an earlier Draxel may have a wire's
// name as it was listed.
func (j *Job) wireNames() {
	j.Thin, j.Spans = slices.Clone(j.Thin), slices.Clone(j.Spans)
	j.Lengths, j.Leftover = slices.Clone(j.Lengths), slices.Clone(j.Leftover)
	for i := range j.Thin {
		if j.Thin[i].On == thin.Wire {
			j.Thin[i].ID = string(harness.Listed(j.Thin[i].ID))
		}
	}
	for i := range j.Spans {
		j.Spans[i].Wire = ourOr(j.Spans[i].Wire)
	}
	for i := range j.Lengths {
		j.Lengths[i].Wire = ourOr(j.Lengths[i].Wire)
	}
	for i := range j.Leftover {
		j.Leftover[i].Wire = ourOr(j.Leftover[i].Wire)
	}
}

// ourOr leaves the name of a new wire of ours as it is, and gives that of a listed one as the harness has it.
func ourOr(wire harness.WireID) harness.WireID {
	if wire.New() {
		return wire
	}
	return harness.Listed(string(wire))
}

// renamed gives a map with other keys; what has the new name already is not overwritten by what had the old one.
func renamed[V any](m map[string]V, as func(string) string) map[string]V {
	if len(m) == 0 {
		return m
	}
	out := make(map[string]V, len(m))
	for id, v := range m {
		if as(id) == id {
			out[id] = v
		}
	}
	for id, v := range m {
		if _, taken := out[as(id)]; !taken {
			out[as(id)] = v
		}
	}
	return out
}

// wireOf describes a wire as a person recognises it: its name, colour, what for, and the cavity that it is known by.
func wireOf(w *harness.Wire, at harness.Ref) string {
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
