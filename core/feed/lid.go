package feed

import (
	"fmt"
	"strings"
)

// LidRow is a row of the label inside a block's lid: a group with its slots and relays, as they lie in the block.
type LidRow struct {
	Group string
	From  string // what feeds it
	Cells []LidCell
}

// LidCell is a slot or a relay on the label.
type LidCell struct {
	Name  string // 1, R1
	Amps  string // "15 A", "slow 20 A"; empty for a spare, "none fits" where none does
	Says  string // what it feeds
	Relay bool
}

// Lid gives the label of the block. Feeds gives what begins at a cavity of it, in words.
func (r *Result) Lid(b *Block, feeds func(cavity string) string) []LidRow {
	rating := map[string]float64{}
	for i := range r.Fuses {
		rating[r.Fuses[i].Fuse] = r.Fuses[i].Rating
	}
	var out []LidRow
	for i := range b.Groups {
		g := &b.Groups[i]
		row := LidRow{Group: g.Name, From: "from " + g.From}
		if g.Relay != "" {
			row.From = "through " + g.Relay
		} else if a := rating[b.main(g)]; g.Fused && a > 0 {
			row.From += fmt.Sprintf(", %g A there", a)
		}
		for k := range b.Slots {
			s := &b.Slots[k]
			if s.Group != g.Name {
				continue
			}
			fed := feeds(s.Name)
			c := LidCell{Name: s.Name, Says: s.For}
			if c.Says == "" {
				c.Says = fed
			}
			switch a := rating[b.At(s.Name).String()]; {
			case a > 0 && s.Slow:
				c.Amps = fmt.Sprintf("slow %g A", a)
			case a > 0:
				c.Amps = fmt.Sprintf("%g A", a)
			case fed != "":
				c.Amps = "none fits"
			default:
				c.Says = strings.TrimSpace(c.Says + " spare")
			}
			row.Cells = append(row.Cells, c)
		}
		for k := range b.Relays {
			if x := &b.Relays[k]; b.groupOf(x.From) == g.Name {
				row.Cells = append(row.Cells, LidCell{Name: x.Name, Amps: fmt.Sprintf("%g A", usual(x.Amps, usualContact)),
					Says: x.For, Relay: true})
			}
		}
		out = append(out, row)
	}
	return out
}

// groupOf gives the group that a relay's 30 stands on, also behind a slot.
func (b *Block) groupOf(from string) string {
	if s := b.slot(strings.TrimPrefix(from, slotWord)); b.group(from) == nil && s != nil {
		return s.Group
	}
	return from
}
