package wanted

import (
	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/harness"
)

// Block is what the wanted harness needs of a fuse block of one's own: which it is, and the wires that lead to it and
// from it. Its zero value is none.
type Block struct {
	ID    string
	Leads []feed.Lead
}

// BlockOf gives it of a block, nil where there is none.
func BlockOf(b *feed.Block) Block {
	if b == nil {
		return Block{}
	}
	return Block{ID: b.ID, Leads: b.Leads()}
}

// Uses lists the cavities of the harness that wires of the block are led to.
func (b Block) Uses(f *fact.Facts) []harness.Ref {
	var out []harness.Ref
	for _, l := range b.Leads {
		if at, is := f.Cavity(l.To); is {
			out = append(out, at)
		}
	}
	return out
}
