package gather

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
)

// wireOf makes the wire that a pinout's row shows one end of.
func (b *builder) wireOf(r *harness.Row) harness.Wire {
	return harness.Wire{ID: b.freeID(r.Ref.String()), Ends: [2]harness.End{{At: r.Ref}},
		Conductor: r.Conductor,
		Source:    b.loom.Connectors[b.connector[r.Ref.Connector]].Source}
}

// freeID gives the name, or one like it that no wire has yet.
func (b *builder) freeID(name string) harness.WireID {
	id := harness.Listed(name)
	for n := 2; ; n++ {
		if _, taken := b.wire[id]; !taken {
			return id
		}
		id = harness.Listed(fmt.Sprintf("%s (%d)", name, n))
	}
}

// farEnds makes whole wires of rows that say where they go.
func (b *builder) farEnds() {
	for _, ref := range b.order {
		r := b.rows[ref]
		if len(b.at[ref]) > 0 || r.FarEnd == "" {
			continue
		}
		e := b.end(r.FarEnd, "")
		if e == (harness.End{}) {
			continue
		}
		w := b.wireOf(r)
		w.Ends[1] = e
		if len(b.at[e.At]) == 0 || e.At == (harness.Ref{}) {
			b.addWire(w)
		}
	}
}

// sameNumbers: rows of one harness that carry one circuit number and that nothing is known of but one end each. On two
// different connectors they propose a wire; more of them, or two on one connector, a splice.
func (b *builder) sameNumbers() {
	byNumber := map[string][]harness.Ref{}
	var order []string
	for _, ref := range b.order {
		r := b.rows[ref]
		if len(b.at[ref]) > 0 || r.Circuit == "" {
			continue
		}
		key := b.loom.Connectors[b.connector[ref.Connector]].Source + "\x00" + r.Circuit
		if byNumber[key] == nil {
			order = append(order, key)
		}
		byNumber[key] = append(byNumber[key], ref)
	}
	for _, key := range order {
		all := byNumber[key]
		if len(all) < 2 {
			continue
		}
		if len(all) == 2 && all[0].Connector != all[1].Connector {
			w := b.wireOf(b.rows[all[0]])
			w.Ends[1], w.Implied = harness.End{At: all[1]}, true
			b.addWire(w)
			continue
		}
		id := harness.JointID("S~" + b.rows[all[0]].Circuit)
		b.addSplice(harness.Splice{ID: id, Implied: true,
			Note: "the rows share a circuit number; nobody has seen the splice"})
		for _, ref := range all {
			w := b.wireOf(b.rows[ref])
			w.Ends[1], w.Implied = harness.End{Splice: id}, true
			b.addWire(w)
		}
	}
}

// lone makes a wire with an end that nobody has seen of every row that is left.
func (b *builder) lone() {
	for _, ref := range b.order {
		if len(b.at[ref]) == 0 {
			b.addWire(b.wireOf(b.rows[ref]))
		}
	}
}

// legs ties wires with an unseen end to the splice that lists them among its legs.
func (b *builder) legs() {
	for _, r := range b.sheet(SpliceList) {
		for _, leg := range strings.FieldsFunc(r.Cells["legs"], func(c rune) bool { return c == ',' || c == ';' }) {
			leg = strings.TrimSpace(leg)
			i, ok := b.wireNamed(leg)
			if !ok {
				b.find("leg-unknown", finding.Check, r.Cells["splice"], "Put the leg right, or list the wire.",
					"Splice %s is said to join %q, which is no wire and no cavity with one.", r.Cells["splice"], leg)
				continue
			}
			w := &b.loom.Wires[i]
			here := harness.End{Splice: harness.ListedSplice(r.Cells["splice"])}
			if w.Ends[0] == here || w.Ends[1] == here {
				continue
			}
			k := slices.IndexFunc(w.Ends[:], func(e harness.End) bool { return !e.Seen() })
			if k < 0 {
				b.find("leg-elsewhere", finding.Check, string(w.ID), "One of the two lists is wrong: follow the wire.",
					"Splice %s is said to join %s, whose two ends are %s and %s.", r.Cells["splice"], w.ID, w.Ends[0], w.Ends[1])
				continue
			}
			w.Ends[k] = here
		}
	}
}

// wireNamed gives the wire of that number, or the only one in that cavity.
func (b *builder) wireNamed(name string) (int, bool) {
	if i, ok := b.wire[harness.Listed(name)]; ok {
		return i, true
	}
	if at, ok := b.cavityIn(name); ok && len(b.at[at]) == 1 {
		return b.at[at][0], true
	}
	return 0, false
}

// remarks says what of the structure is doubtful.
func (b *builder) remarks() {
	legs := map[harness.JointID]int{}
	unseen := 0
	for i := range b.loom.Wires {
		w := &b.loom.Wires[i]
		for _, e := range w.Ends {
			if e.Splice != "" {
				legs[e.Splice]++
			}
			if !e.Seen() {
				unseen++
			}
		}
	}
	implied := 0
	for i := range b.loom.Splices {
		s := &b.loom.Splices[i]
		if s.Implied {
			implied++
		}
		if legs[s.ID] < 2 {
			b.find("splice-short", finding.Check, string(s.ID), "Say which other wires it joins, or strike it out.",
				"Splice %s joins %d wire: a splice joins two or more.", s.ID, legs[s.ID])
		}
		if _, both := b.device[s.ID.Name()]; both {
			b.find("name-of-two", finding.Check, string(s.ID), "Where they are two, give the splice another name in its list.",
				"%s is a splice and a device: they are taken for one place, and what is joined in the one is at the other.", s.ID)
		}
	}
	if implied > 0 {
		b.find("splices-implied", finding.Note, "", "Open the harness there, or measure, before anything is cut.",
			"Splices that follow from circuit numbers or readings, or that nobody has seen: %d.", implied)
	}
	if unseen > 0 {
		b.find("ends-unseen", finding.Note, "", "Trace them, or leave them: what is not understood stays in the harness.",
			"Ends of wires that nobody has followed: %d.", unseen).Place = finding.Place{Part: "readings"}
	}
	b.facing()
	for i := range b.loom.Connectors {
		c := &b.loom.Connectors[i]
		if c.Mate == "" {
			continue
		}
		m, known := b.connector[c.Mate]
		switch {
		case !known:
			b.find("mate-unknown", finding.Check, c.ID, "List the other half, or clear the cell.",
				"Connector %s is said to face %s, which is not listed.", c.ID, c.Mate)
		case b.loom.Connectors[m].Mate == "":
			b.loom.Connectors[m].Mate = c.ID
		case b.loom.Connectors[m].Mate != c.ID:
			b.find("mate-differs", finding.Check, c.ID, "Two halves of a plug face each other: put one right.",
				"%s faces %s, but that faces %s.", c.ID, c.Mate, b.loom.Connectors[m].Mate)
		}
	}
}

// facing notes the wires that come to one half of an in-line pair where the other half shows none.
func (b *builder) facing() {
	full := map[harness.Ref]bool{}
	for i := range b.loom.Wires {
		for _, e := range b.loom.Wires[i].Ends {
			full[e.At] = true
		}
	}
	var alone []string
	for i := range b.loom.Wires {
		for _, e := range b.loom.Wires[i].Ends {
			h, known := b.connector[e.At.Connector]
			if !known || b.loom.Connectors[h].Mate == "" {
				continue
			}
			mate := b.loom.Connectors[h].Mate
			if _, listed := b.connector[mate]; listed && !full[harness.Ref{Connector: mate, Cavity: e.At.Cavity}] {
				alone = append(alone, e.At.String())
			}
		}
	}
	if n := len(alone); n > 0 {
		slices.SortFunc(alone, finding.Natural)
		alone = slices.Compact(alone)
		b.find("mate-empty", finding.Note, "",
			"List the wire of the other half, or trace it: until then it counts as not followed, and stays.",
			"The other half shows no wire for %s.", strings.Join(alone[:min(len(alone), 6)], ", ")+more(len(alone)-6))
	}
}

func more(n int) string {
	if n <= 0 {
		return ""
	}
	return fmt.Sprintf(" and %d more", n)
}

// Unnamed is a wire that nobody can name, with what is known of it.
type Unnamed struct {
	Wire      harness.WireID `json:"wire"`
	At        []string       `json:"at"`
	Colour    string         `json:"colour"`
	Size      string         `json:"size,omitempty"`
	Joins     []string       `json:"joins"`     // what it is joined to
	Neighbour []string       `json:"neighbour"` // named wires in the cavities beside it
	Alike     []string       `json:"alike"`     // named wires of its colour and size elsewhere
}

// Queue lists the wires that nobody can name, neither a table nor a trace, with their clues; those with most clues
// first.
func Queue(l *harness.Loom) []Unnamed {
	beside := map[harness.Ref]string{}
	byColour := map[string][]string{}
	atSplice := map[harness.JointID][]string{}
	for i := range l.Wires {
		w := &l.Wires[i]
		named := w.Signal.Read()
		for _, e := range w.Ends {
			if named && e.At != (harness.Ref{}) {
				beside[e.At] = e.At.String() + " " + w.Function
			}
			if e.Splice != "" && named {
				atSplice[e.Splice] = append(atSplice[e.Splice], string(w.ID+" ")+w.Function)
			}
		}
		if c := w.Colour.String(); named && c != "" {
			byColour[c+"/"+w.Size.String()] = append(byColour[c+"/"+w.Size.String()], string(w.ID+" ")+w.Function)
		}
	}
	out := []Unnamed{}
	for i := range l.Wires {
		w := &l.Wires[i]
		if strings.TrimSpace(w.Function) != "" || w.Signal.Read() {
			continue
		}
		u := Unnamed{Wire: w.ID, Colour: w.Colour.String(), At: []string{}, Joins: []string{}, Neighbour: []string{},
			Alike: []string{}}
		if w.Size > 0 {
			u.Size = w.Size.String()
		}
		for _, e := range w.Ends {
			u.At = append(u.At, e.String())
			if e.Splice != "" {
				u.Joins = append(u.Joins, atSplice[e.Splice]...)
			}
			u.Neighbour = append(u.Neighbour, neighbours(l, e.At, beside)...)
		}
		if u.Colour != "" {
			u.Alike = append(u.Alike, byColour[u.Colour+"/"+w.Size.String()]...)
		}
		u.Alike = u.Alike[:min(len(u.Alike), 4)]
		out = append(out, u)
	}
	slices.SortStableFunc(out, func(a, b Unnamed) int {
		clues := func(u Unnamed) int { return 4*len(u.Joins) + 2*len(u.Neighbour) + len(u.Alike) }
		return clues(b) - clues(a)
	})
	return out
}

// neighbours gives what is named in the cavities before and after one.
func neighbours(l *harness.Loom, at harness.Ref, beside map[harness.Ref]string) []string {
	var out []string
	for i := range l.Connectors {
		c := &l.Connectors[i]
		if c.ID != at.Connector {
			continue
		}
		k := slices.Index(c.Cavities, at.Cavity)
		for _, n := range []int{k - 1, k + 1} {
			if k >= 0 && n >= 0 && n < len(c.Cavities) {
				if text := beside[harness.Ref{Connector: c.ID, Cavity: c.Cavities[n]}]; text != "" {
					out = append(out, text)
				}
			}
		}
	}
	return out
}
