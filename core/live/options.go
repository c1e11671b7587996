package live

import (
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
)

// touches lists the rows whose decisions say how a job is fed: of its circuits, of the vehicle's rows that feed
// them, and of the ends of the block's relays.
func (p *Fed) touches() map[stored.FeedRow]bool {
	f := p.Facts
	out := map[stored.FeedRow]bool{}
	for _, c := range p.Circuits {
		out[stored.FeedRow{Side: c.Side, At: c.At}] = true
		if c.By != (harness.Ref{}) {
			out[stored.FeedRow{Side: match.From, At: c.By}] = true
		}
	}
	if p.Block.ID != "" {
		for _, l := range p.Block.Leads {
			end, is := f.Cavity(l.To)
			for i := range f.To.Rows {
				if at := f.To.Rows[i].Ref; is && f.At(at) == end {
					out[stored.FeedRow{Side: match.To, At: at}] = true
				}
			}
		}
		for i := range p.Match.Wants {
			if w := &p.Match.Wants[i]; w.Origin != nil && w.Origin.At.Connector == p.Block.ID {
				out[stored.FeedRow{Side: match.To, At: w.To}] = true
			}
		}
	}
	return out
}

// Option gives the way in which a job is fed as it stands, as an option of that name.
func (p *Fed) Option(d stored.Decisions, id, name string) stored.FeedOption {
	o := stored.FeedOption{ID: id, Name: name, Block: d.Feed.Block, Decisions: []match.Decision{},
		Open: []stored.FeedRow{}}
	rows := p.touches()
	for _, x := range d.Match {
		key := stored.FeedRow{Side: x.Side, At: x.At}
		if rows[key] || x.Choice == match.Matched && rows[stored.FeedRow{Side: match.To, At: x.To}] {
			o.Decisions = append(o.Decisions, x)
			delete(rows, key)
		}
	}
	for key := range rows {
		o.Open = append(o.Open, key)
	}
	slices.SortFunc(o.Open, func(a, b stored.FeedRow) int {
		if a.Side != b.Side {
			return finding.Natural(string(a.Side), string(b.Side))
		}
		return harness.CompareRefs(a.At, b.At)
	})
	return o
}

// Take gives the decisions with an option taken: those of the rows that either way is about are its own.
func (p *Fed) Take(d stored.Decisions, o *stored.FeedOption) stored.Decisions {
	rows := p.touches()
	for _, x := range o.Open {
		rows[x] = true
	}
	fills := map[harness.Ref]bool{}
	for _, x := range o.Decisions {
		rows[stored.FeedRow{Side: x.Side, At: x.At}] = true
		if x.Choice == match.Matched {
			fills[x.To] = true
		}
	}
	d.Match = slices.DeleteFunc(slices.Clone(d.Match), func(x match.Decision) bool {
		return rows[stored.FeedRow{Side: x.Side, At: x.At}] ||
			x.Choice == match.Matched && (rows[stored.FeedRow{Side: match.To, At: x.To}] || fills[x.To])
	})
	d.Match = append(d.Match, o.Decisions...)
	d.Feed.Block = o.Block
	return d
}
