package plan

import (
	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/stored"
	"draxel/core/work"
)

// FeedFigures are what a way to feed a job comes to.
type FeedFigures struct {
	Fuses   int     `json:"fuses"`  // that stand in a block of one's own
	Relays  int     `json:"relays"` // of it
	Wires   int     `json:"wires"`  // new ones
	Metres  float64 `json:"metres"` // of new wire, as far as the way is known
	Joints  int     `json:"joints"` // that are made
	Steps   int     `json:"steps"`  // of all stages
	Hours   float64 `json:"hours"`  // of all stages
	Danger  int     `json:"danger"` // findings of Feed and of Reach's sizes
	Wrong   int     `json:"wrong"`
	Check   int     `json:"check"`
	Sleeps  float64 `json:"sleeps"`  // A with the key off
	Thin    int     `json:"thin"`    // fuses above what a wire behind them may carry for long
	Reached bool    `json:"reached"` // the plan is proven
}

// FeedCompared is a way to feed a job with its figures.
type FeedCompared struct {
	ID      string      `json:"id"` // empty: as the job stands
	Name    string      `json:"name"`
	Block   bool        `json:"block"` // a block of one's own
	Figures FeedFigures `json:"figures"`
}

// CompareFeeds works out a job with each of its ways to be fed, as it stands first.
func CompareFeeds(f fact.Facts, d stored.Decisions, p *Plan, options []stored.FeedOption) []FeedCompared {
	out := []FeedCompared{{Name: "as it stands", Block: d.Feed.Block != nil, Figures: p.feedFigures(d.Feed.Block)}}
	for i := range options {
		o := &options[i]
		taken := p.Fed.Take(d, o)
		q := Compute(f, taken)
		out = append(out, FeedCompared{ID: o.ID, Name: o.Name, Block: o.Block != nil, Figures: q.feedFigures(o.Block)})
	}
	return out
}

func (p *Plan) feedFigures(b *feed.Block) FeedFigures {
	x := FeedFigures{Wires: len(p.Join.Wires), Joints: len(p.Join.Joints), Steps: len(p.Work.Steps),
		Reached: p.Proof.Reached}
	if b != nil {
		x.Relays = len(b.Relays)
	}
	if r := p.Feed.Result; r != nil {
		x.Sleeps = r.Sleeps
		for i := range r.Fuses {
			if b != nil && b.Holds(r.Fuses[i].Fuse) && r.Fuses[i].Rating > 0 {
				x.Fuses++
			}
			if r.Fuses[i].Carries > 0 && r.Fuses[i].Rating > r.Fuses[i].Carries {
				x.Thin++
			}
		}
	}
	wires := p.Reach.Result.Wires()
	for i := range wires {
		if wires[i].New {
			x.Metres += p.Reach.Result.Lines[i].Need / 1000
		}
	}
	for i := range p.Work.Steps {
		x.Hours += p.Work.Steps[i].Minutes / 60
	}
	for _, f := range p.Findings {
		if f.Stage != string(work.Feed) && f.Code != "too-thin" || f.Answer != nil {
			continue
		}
		switch f.Severity {
		case finding.Danger:
			x.Danger++
		case finding.Wrong:
			x.Wrong++
		case finding.Check:
			x.Check++
		}
	}
	return x
}
