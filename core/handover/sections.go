package handover

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"draxel/core/diagram"
	"draxel/core/finding"
	"draxel/core/harness"
)

// Section is a table of the book.
type Section struct {
	Title string
	Head  []string
	Share []float64 // of the paper's width, by column
	Rows  [][]string
	Empty string // what stands there where there are no rows
}

// Sections gives the book's indexes of what is in the harness: wires, splices and joints, plugs with every cavity,
// ground points, fuses and relays, ends that end in nothing. Number gives the number of the page that a drawing is
// on.
func Sections(in Input, pages []Page, number func(page int) int) []Section {
	b := bind(in)
	on := map[harness.WireID]int{} // by length
	for k := range pages {
		for i := range pages[k].Lengths {
			on[pages[k].Lengths[i].Name] = number(k)
		}
	}
	return []Section{b.wires(on), b.joined(on), b.plugs(on), b.grounds(on), b.fuses(on), b.ends(on)}
}

func (b *binder) wires(on map[harness.WireID]int) Section {
	s := Section{
		Title: "Wires",
		Head: []string{
			"wire",
			"colour",
			"mm²",
			"circuit",
			"function",
			"from",
			"to",
			"mm",
			"extended",
			"state",
			"page",
		},
		Share: []float64{11, 8, 5, 7, 26, 12, 12, 6, 8, 7, 5},
		Empty: "There is no wire.",
	}
	for i := range b.all {
		l := &b.all[i]
		s.Rows = append(
			s.Rows,
			[]string{
				l.Name.Name(),
				l.Colour.String(),
				l.Thick(),
				l.Circuit,
				l.Function,
				l.Ends[0].At,
				l.Ends[1].At,
				l.Long(),
				l.Extended,
				l.Standing(),
				strconv.Itoa(on[l.Name]),
			},
		)
	}
	return s
}

func (b *binder) joined(on map[harness.WireID]int) Section {
	s := Section{Title: "Splices and joints", Head: []string{"name", "what", "where and how", "wires", "pages"},
		Share: []float64{12, 12, 28, 40, 10}, Empty: "There is no splice and no joint."}
	for _, id := range b.named(splice, joint) {
		what := "joint, made"
		if b.symbols[id].kind == splice {
			what = "splice, as found"
		}
		wires, pages := b.met(id, on)
		s.Rows = append(
			s.Rows,
			[]string{b.symbols[id].title, what, strings.Join(b.symbols[id].under, " "), wires, pages},
		)
	}
	return s
}

func (b *binder) grounds(on map[harness.WireID]int) Section {
	s := Section{
		Title: "Ground points",
		Head:  []string{"point", "wires and cables", "pages"},
		Share: []float64{20, 70, 10},
		Empty: "Nobody has said where anything is grounded.",
	}
	for _, id := range b.named(ground) {
		wires, pages := b.met(id, on)
		s.Rows = append(s.Rows, []string{b.symbols[id].title, wires, pages})
	}
	return s
}

// named lists the symbols of some kinds by their titles.
func (b *binder) named(kinds ...diagram.Kind) []string {
	var out []string
	for id, x := range b.symbols {
		if slices.Contains(kinds, x.kind) {
			out = append(out, id)
		}
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

// met gives the lengths that come to a symbol, and their pages.
func (b *binder) met(id string, on map[harness.WireID]int) (wires, pages string) {
	var names, nrs []string
	for i := range b.all {
		l := &b.all[i]
		if l.Ends[0].Symbol != id && l.Ends[1].Symbol != id {
			continue
		}
		names = append(names, l.Name.Name())
		if nr := strconv.Itoa(on[l.Name]); !slices.Contains(nrs, nr) {
			nrs = append(nrs, nr)
		}
	}
	slices.SortFunc(nrs, finding.Natural)
	return strings.Join(names, ", "), strings.Join(nrs, ", ")
}

// plugs lists every cavity of every connector with what is in it.
func (b *binder) plugs(on map[harness.WireID]int) Section {
	s := Section{
		Title: "Plugs, cavity by cavity",
		Head:  []string{"cavity", "at", "wire", "colour", "mm²", "circuit", "function", "page"},
		Share: []float64{9, 16, 14, 10, 6, 9, 34, 6},
		Empty: "There is no plug.",
	}
	of := map[harness.Ref][]*Piece{}
	for i := range b.all {
		for end := range b.all[i].Ends {
			if at := b.all[i].Ends[end].Cavity; at.Connector != "" {
				of[at] = append(of[at], &b.all[i])
			}
		}
	}
	for i := range b.in.Connectors {
		h := &b.in.Connectors[i]
		where := h.Device
		switch {
		case b.in.Harness.Free(h.ID):
			where = "hangs free"
		case h.Mate != "":
			where = "in-line with " + h.Mate
		}
		for _, cavity := range h.Cavities {
			at := harness.Ref{Connector: h.ID, Cavity: cavity}
			lengths := of[at]
			if len(lengths) == 0 {
				s.Rows = append(s.Rows, []string{at.String(), where, "empty", "", "", "", "", ""})
			}
			for _, l := range lengths {
				s.Rows = append(
					s.Rows,
					[]string{
						at.String(),
						where,
						l.Name.Name(),
						l.Colour.String(),
						l.Thick(),
						l.Circuit,
						l.Function,
						strconv.Itoa(on[l.Name]),
					},
				)
			}
		}
	}
	return s
}

// fuses lists fuses and relays with what comes to them.
func (b *binder) fuses(on map[harness.WireID]int) Section {
	s := Section{Title: "Fuses and relays", Head: []string{"name", "A", "from", "to", "wires", "pages"},
		Share: []float64{18, 8, 18, 18, 30, 8}, Empty: "Nobody has said which fuses there are."}
	for i := range b.in.Inside.Slots {
		x := &b.in.Inside.Slots[i]
		wires, pages := b.met("fuse "+x.Name, on)
		s.Rows = append(
			s.Rows,
			[]string{x.Name, strconv.FormatFloat(x.Rating, 'g', 4, 64), x.In, x.Out, wires, pages},
		)
	}
	for i := range b.in.Inside.Relays {
		r := &b.in.Inside.Relays[i]
		wires, pages := b.met("relay "+r.Name, on)
		s.Rows = append(s.Rows, []string{r.Name, "relay", fmt.Sprintf("86 %s, 85 %s", r.Coil[0], r.Coil[1]),
			strings.TrimSuffix(
				fmt.Sprintf("30 %s, 87 %s, 87a %s", r.Common, r.Make, r.Break),
				", 87a ",
			), wires, pages})
	}
	return s
}

// ends lists what ends in nothing: stubs, capped and parked ends, ends that nobody has followed.
func (b *binder) ends(on map[harness.WireID]int) Section {
	s := Section{
		Title: "Ends that end in nothing",
		Head:  []string{"wire", "function", "how it ends", "its other end", "state", "page"},
		Share: []float64{16, 30, 20, 18, 10, 6},
		Empty: "No wire ends in nothing.",
	}
	for i := range b.all {
		l := &b.all[i]
		for end := range l.Ends {
			if l.Ends[end].Dead == "" {
				continue
			}
			state := "as built"
			if l.Planned {
				state = "planned"
			}
			s.Rows = append(
				s.Rows,
				[]string{l.Name.Name(), l.Function, l.Ends[end].Dead, l.Ends[1-end].At, state, strconv.Itoa(on[l.Name])},
			)
		}
	}
	return s
}

// Whole gives the wire that a length is part of.
func (l *Piece) Whole() harness.WireID { return l.Name.Whole() }
