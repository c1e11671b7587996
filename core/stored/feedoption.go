package stored

import (
	"fmt"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/match"
)

// FeedOption is one way to feed the vehicle: the block of one's own that it has, if any, and what each circuit is fed
// from.
type FeedOption struct {
	ID        string           `json:"id"`
	Name      string           `json:"name"`
	Block     *feed.Block      `json:"block,omitempty"`
	Decisions []match.Decision `json:"decisions"` // about the circuits and what feeds them
	Open      []FeedRow        `json:"open"`      // rows of them about which nothing is decided in it
	Who       string           `json:"who,omitempty"`
	When      int64            `json:"when,omitempty"` // Unix milliseconds
}

// FeedRow names a row of a side.
type FeedRow struct {
	Side match.Side  `json:"side"`
	At   harness.Ref `json:"at"`
}

// Check says why an option cannot be.
func (o *FeedOption) Check() error {
	if o.ID == "" || o.Name == "" || len(o.Name) > 80 {
		return fmt.Errorf("a way to feed has a name of at most 80 letters")
	}
	if o.Block != nil {
		if err := o.Block.Check(); err != nil {
			return err
		}
	}
	for _, d := range o.Decisions {
		if err := d.Check(); err != nil {
			return err
		}
	}
	return nil
}

// Before gives an option with all that becomes different when another is taken: taking it again leads back.
func (o FeedOption) Before(had, taken []match.Decision) FeedOption {
	is := map[FeedRow]match.Decision{}
	for _, d := range taken {
		is[FeedRow{d.Side, d.At}] = d
	}
	known := map[FeedRow]bool{}
	for _, d := range o.Decisions {
		known[FeedRow{d.Side, d.At}] = true
	}
	for _, r := range o.Open {
		known[r] = true
	}
	was := map[FeedRow]bool{}
	for _, d := range had {
		row := FeedRow{d.Side, d.At}
		was[row] = true
		if _, still := is[row]; !still && !known[row] {
			o.Decisions = append(o.Decisions, d)
		}
	}
	for _, d := range taken {
		if row := (FeedRow{d.Side, d.At}); !was[row] && !known[row] {
			o.Open = append(o.Open, row)
		}
	}
	return o
}
