package gather

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
)

// Together lays further pinouts, a pigtail's or a sub-harness's, beside the pinout of a harness: their connectors and
// rows become the harness's, each row with its table's name and trust. Of a cavity that two tables have the first row
// stands; where they do not say the same of it, that is found, and the row is named that counts for nothing.
func Together(side string, p harness.Pinout, more ...harness.Pinout) (harness.Pinout, []finding.Finding) {
	var out []finding.Finding
	if p.Name == "" && len(more) > 0 {
		p, more = more[0], more[1:]
	}
	if len(more) == 0 {
		return p, nil
	}
	p.Connectors, p.Rows = slices.Clone(p.Connectors), slices.Clone(p.Rows)
	rows := map[harness.Ref]int{}
	for i := range p.Rows {
		rows[p.Rows[i].Ref] = i
	}
	halves := map[string]int{}
	for i := range p.Connectors {
		halves[p.Connectors[i].ID] = i
	}
	for _, m := range more {
		for _, c := range m.Connectors {
			at, known := halves[c.ID]
			if !known {
				halves[c.ID] = len(p.Connectors)
				p.Connectors = append(p.Connectors, c)
				continue
			}
			p.Connectors[at] = wider(p.Connectors[at], c)
		}
		for _, r := range m.Rows {
			r.Table, r.Trust = m.Name, m.Trust
			at, twice := rows[r.Ref]
			if !twice {
				rows[r.Ref] = len(p.Rows)
				p.Rows = append(p.Rows, r)
				continue
			}
			if first := &p.Rows[at]; !alike(first, &r) {
				out = append(out, finding.Finding{
					Code: "tables-differ", Place: finding.Place{Part: "tables"},
					Severity: finding.Check, Stage: "gather", Side: side, Subject: r.Ref.String(),
					Text: fmt.Sprintf("%s is %s in %s, and %s in %s: the first stands.", r.Ref, told(first),
						cmp.Or(first.Table, p.Name), told(&r), m.Name),
					Remedy: "Look at the plug. Strike the wrong row out, or name the connector in the further pinout otherwise.",
				})
			}
		}
	}
	return p, out
}

// wider gives a connector that two tables have, with the cavities of both.
func wider(a, b harness.Connector) harness.Connector {
	a.Cavities = slices.Clone(a.Cavities)
	for _, c := range b.Cavities {
		if !slices.Contains(a.Cavities, c) {
			a.Cavities = append(a.Cavities, c)
		}
	}
	slices.SortFunc(a.Cavities, finding.Natural)
	return a
}

// alike says whether two rows of one cavity do not contradict each other.
func alike(a, b *harness.Row) bool {
	if a.Empty != b.Empty {
		return false
	}
	if a.Colour.Known() && b.Colour.Known() && colour.Compare(a.Colour, b.Colour) == colour.Differ {
		return false
	}
	if a.Signal.Read() && b.Signal.Read() {
		return a.Signal.Device == b.Signal.Device && a.Signal.Aspect == b.Signal.Aspect
	}
	return a.Function == "" || b.Function == "" || strings.EqualFold(a.Function, b.Function)
}

// told says in a few words what a row says.
func told(r *harness.Row) string {
	if r.Empty {
		return "empty"
	}
	return fmt.Sprintf("“%s”", strings.TrimSpace(r.Colour.String()+" "+r.Function))
}

// checkOrigins finds where parts of unlike year or variant meet: at the halves of an in-line pair, and along wires that
// run from a connector of one to a connector of the other.
func checkOrigins(loom *harness.Loom, sources []Origin) []finding.Finding {
	source := map[string]*Origin{}
	for i := range sources {
		if o := &sources[i]; source[o.Name] == nil {
			source[o.Name] = o
		}
	}
	var out []finding.Finding
	from := map[string]string{} // by connector
	unknown := map[string][]string{}
	for _, c := range loom.Connectors {
		from[c.ID] = c.Origin
		if c.Origin != "" && source[c.Origin] == nil {
			unknown[c.Origin] = append(unknown[c.Origin], c.ID)
		}
	}
	for _, name := range sortedKeys(unknown) {
		out = append(out, finding.Finding{Code: "origin-unknown", Place: finding.Place{Part: "vehicles"},
			Severity: finding.Note, Stage: "gather",
			Subject: name,
			Text: fmt.Sprintf("%s come from %q, of which Vehicles says nothing.", strings.Join(unknown[name],
				", "), name),
			Remedy: "List it under Vehicles with its year and variant, or name one of those that are listed."})
	}
	places := map[[2]string][]string{}
	meet := func(a, b, where string) {
		x, y := source[from[a]], source[from[b]]
		if x == nil || y == nil || x == y || !unlike(x.Year, y.Year) && !unlike(x.Variant, y.Variant) {
			return
		}
		pair := [2]string{x.Name, y.Name}
		if pair[0] > pair[1] {
			pair[0], pair[1] = pair[1], pair[0]
		}
		if !slices.Contains(places[pair], where) {
			places[pair] = append(places[pair], where)
		}
	}
	for _, c := range loom.Connectors {
		if c.Mate != "" && (c.ID < c.Mate || from[c.Mate] == "") {
			meet(c.ID, c.Mate, "at "+c.ID+" and "+c.Mate)
		}
	}
	for i := range loom.Wires {
		if w := &loom.Wires[i]; w.Ends[0].At.Connector != w.Ends[1].At.Connector {
			meet(w.Ends[0].At.Connector, w.Ends[1].At.Connector, "in "+w.ID.Name())
		}
	}
	for pair, where := range places {
		x, y := source[pair[0]], source[pair[1]]
		out = append(out, finding.Finding{Code: "origins-meet", Place: finding.Place{Part: "vehicles"},
			Severity: finding.Check, Stage: "gather",
			Subject: pair[0] + " with " + pair[1],
			Text: fmt.Sprintf("%s and %s are of unlike year or variant, and meet %s.", x.title(), y.title(),
				someOf(where)),
			Remedy: "Compare the two halves cavity by cavity, and measure the feeds, before they are joined: makers change " +
				"pinouts with the year and the variant."})
	}
	return out
}

// unlike says whether two statements are both there and differ.
func unlike(a, b string) bool { return a != "" && b != "" && !strings.EqualFold(a, b) }

// title gives an origin's name with its year and variant.
func (o *Origin) title() string {
	s := o.Name
	if about := strings.TrimSpace(o.Year + " " + o.Variant); about != "" {
		s += " (" + about + ")"
	}
	return s
}

// someOf lists the first few of many.
func someOf(all []string) string {
	const shown = 6
	slices.SortFunc(all, finding.Natural)
	if len(all) > shown {
		return strings.Join(all[:shown], ", ") + fmt.Sprintf(" and %d more", len(all)-shown)
	}
	return strings.Join(all, ", ")
}
