package fact

import (
	"fmt"
	"math"
	"slices"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
)

// Housings lists From's connectors that are re-pinned, those that are kept with the cavities of both sides, then To's
// new ones and the plugs that are put onto connectors.
func Housings(f *Facts) []harness.Connector {
	var out []harness.Connector
	for _, c := range f.From.Connectors {
		if f.Repinned(c.ID) {
			out = append(out, c)
		}
	}
	for _, c := range f.To.Connectors {
		m := f.Meetings[c.ID]
		if m.Met == match.Stays || m.Met == match.NoConcern {
			continue
		}
		_, there := f.From.Connector(m.With)
		i := slices.IndexFunc(out, func(h harness.Connector) bool { return h.ID == m.With && there })
		if i < 0 {
			c.ID = f.NewHousing(c.ID)
			c.Name = c.ID
			out = append(out, c)
			continue
		}
		out[i].Cavities = slices.Clone(out[i].Cavities)
		for _, n := range c.Cavities {
			if !out[i].Has(n) {
				out[i].Cavities = append(out[i].Cavities, n)
			}
		}
	}
	return out
}

// wear gives the connectors of both sides the layouts that somebody made of them.
func (f *Facts) wear(layouts map[string]*face.Layout) {
	for side, p := range map[match.Side]*harness.Pinout{match.From: &f.From, match.To: &f.To} {
		p.Connectors = slices.Clone(p.Connectors)
		for i, c := range p.Connectors {
			id := f.Housing(side, c.ID)
			if l := layouts[id]; l != nil {
				p.Connectors[i] = c.Laid(l)
			}
		}
	}
}

// wearLoom gives them to the connectors of the loom, and looks whether in-line halves meet.
func (f *Facts) wearLoom(layouts map[string]*face.Layout) {
	all := f.Laid.Loom.Connectors
	for i := range all {
		if l := layouts[all[i].ID]; l != nil {
			all[i].Connector = all[i].Connector.Laid(l)
		}
	}
	worn := make([]*harness.Half, 0, len(layouts))
	for i := range all {
		if all[i].Layout != nil {
			worn = append(worn, &all[i])
		}
	}
	for i, b := range worn {
		for _, a := range worn[:i] {
			if a.Mate != b.ID && b.Mate != a.ID {
				continue
			}
			if err := face.Meets(*a.Layout, *b.Layout); err != nil {
				f.Findings = append(f.Findings, finding.Finding{
					Code: "halves-do-not-meet", Place: finding.Place{Part: "faces"},
					Severity: finding.Wrong, Stage: "pin", Subject: b.ID,
					Text: fmt.Sprintf("%s and %s are two halves of one plug, and their cavities do not face each other: %v.", a.ID,
						b.ID, err),
					Remedy: "One of the faces was read from the wrong side: look at the moulded numbers of both.",
				})
			}
		}
	}
}

// mistaken is how far apart two plugs may hang and yet be taken for each other, mm (common practice, no source).
const mistaken = 300

// Nearness gives a function that says whether two connectors of the loom hang within reach of each other: on one
// branch, or on branches that leave the same trunk close together.
func (f *Facts) Nearness() func(a, b string) bool {
	branches := make(map[string]*harness.Branch, len(f.Laid.Loom.Branches))
	for i := range f.Laid.Loom.Branches {
		branches[f.Laid.Loom.Branches[i].ID] = &f.Laid.Loom.Branches[i]
	}
	on := make(map[string]*harness.Branch, len(f.Laid.Loom.Connectors))
	for i := range f.Laid.Loom.Connectors {
		on[f.Laid.Loom.Connectors[i].ID] = branches[f.Laid.Loom.Connectors[i].Branch]
	}
	return func(a, b string) bool {
		x, y := on[a], on[b]
		return x != nil && y != nil &&
			(x == y || x.Parent == y.Parent && x.Parent != "" && math.Abs(x.At-y.At) <= mistaken)
	}
}
