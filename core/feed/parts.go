package feed

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/finding"
	"draxel/core/size"
)

// PartLine is a line of what is needed for this stage beside wire.
type PartLine struct {
	What  string   `json:"what"`
	Count int      `json:"count"`
	For   []string `json:"for"` // where it goes
	Note  string   `json:"note,omitempty"`
}

// Parts lists what a block of one's own and changed fuses need: fuses by rating, relays by contact, the sockets, ring
// terminals for what is bolted. Square gives the size in mm² of the wire in a cavity of the block, 0 where nobody
// knows.
func (r *Result) Parts(d Record, square func(cavity string) size.Section) []PartLine {
	items := map[string]*PartLine{}
	add := func(what, where, note string) {
		if items[what] == nil {
			items[what] = &PartLine{What: what, Note: note, For: []string{}}
		}
		items[what].Count++
		items[what].For = append(items[what].For, where)
	}
	fuse := func(p *Protected) string {
		kind := "blade fuse"
		switch {
		case p.Rating > 40:
			kind = "bolted fuse"
		case r.Facts.Slow[p.Fuse]:
			kind = "slow blade fuse"
		}
		return fmt.Sprintf("%s %g A", kind, p.Rating)
	}
	for i := range r.Fuses {
		p := &r.Fuses[i]
		if p.Was > 0 {
			add(fuse(p), p.Fuse, "instead of the one that is there")
		}
		if b := d.Block; b != nil && p.Rating > 0 && b.Holds(p.Fuse) {
			add(fuse(p), p.Fuse, "")
		}
	}
	if b := d.Block; b != nil {
		add(fmt.Sprintf("fuse and relay block, %d slots, %d relays", len(b.Slots), len(b.Relays)), b.ID,
			"with a cover that a label fits into")
		for i := range b.Relays {
			x := &b.Relays[i]
			note := "without suppression"
			if x.Suppressed != "" {
				note = "its coil suppressed by a " + x.Suppressed
			}
			add(fmt.Sprintf("relay 12 V, %g A, %s", usual(x.Amps, usualContact), note), b.RelayName(x.Name), "")
		}
		for i := range b.Groups {
			g := &b.Groups[i]
			if g.Fused {
				add("holder for the main fuse", b.main(g), "within 180 mm of the source (ABYC E-11, from memory)")
			}
			if g.From != "" && (g.Fused || g.Stud != "") {
				at := b.At(b.in(i)).String()
				add(fmt.Sprintf("ring terminal %s for %s", cmp.Or(g.Stud, "for its stud"), sizeWord(square(b.in(i)))), at, "")
			}
		}
		spares := map[float64]bool{}
		for i := range r.Fuses { // one of each rating beside the block
			if p := &r.Fuses[i]; p.Rating > 0 && p.Rating <= 40 && b.Holds(p.Fuse) && !spares[p.Rating] {
				spares[p.Rating] = true
				add(fuse(p), "spare", "")
			}
		}
	}
	out := make([]PartLine, 0, len(items))
	for _, x := range items {
		out = append(out, *x)
	}
	slices.SortFunc(out, func(a, b PartLine) int { return finding.Natural(a.What, b.What) })
	return out
}

func sizeWord(s size.Section) string {
	if s == 0 {
		return "its cable"
	}
	return s.String()
}

// Holds says whether a fuse stands in the block or belongs to it.
func (b *Block) Holds(fuse string) bool {
	for i := range b.Slots {
		if b.At(b.Slots[i].Name).String() == fuse {
			return true
		}
	}
	for i := range b.Groups {
		if g := &b.Groups[i]; g.Fused && b.main(g) == fuse {
			return true
		}
	}
	return false
}
