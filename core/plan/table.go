package plan

import (
	"slices"
	"sync"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/part"
	"draxel/core/reach"
	"draxel/core/repin"
	"draxel/core/stock"
	"draxel/core/stored"
	"draxel/core/wanted"
)

// table is the parts that the plan is made of: each with its name, what it reads, and the function that gives it. A
// part is computed when another reads it, so that their order is what their reads imply; it is not that of the rail.
// First what becomes of every wire, then where terminals and joints come, then lengths; then the steps and the proof.
type table struct {
	decisions stored.Decisions
	block     wanted.Block

	match     func() *match.Result
	facts     func() *fact.Facts // with what decisions add to them
	thin      func() *wanted.Thinned
	ways      func() *[]wanted.Way
	wanted    func() *wanted.Model
	asked     func() *reach.Input // what Reach is asked, but for the currents
	flow      func() *live.Flow
	reach     func() *reach.Result
	finished  func() *finished
	fed       func() *live.Fed
	feed      func() *live.Feeding
	functions func() *live.Functioning
	sheet     func() *repin.Sheet
	work      func() *worked
	measured  func() *[]finding.Finding
}

func newTable(found fact.Found, d stored.Decisions, m *part.Memory) *table {
	t := &table{decisions: d, block: wanted.BlockOf(d.Feed.Block)}
	studs := sync.OnceValue(func() []string {
		f := *t.facts()
		f.Feed = found.Feed
		return f.Studs()
	})
	t.match = part.Lazy(m, "match", func() matchReads {
		return matchReads{From: found.From, To: found.To, Meetings: found.Meetings, Decisions: d.Match}
	}, crosswalk)
	t.facts = part.Lazy(m, "facts", func() factReads {
		return factReads{Found: found.Bare, PutOn: found.PutOn(t.match()), Partings: d.Reach.Partings,
			Block: feed.Record{Block: d.Feed.Block}, Parts: wanted.PartWires(d.Join.Added)}
	}, factsWith)
	t.thin = part.Lazy(m, "thin", func() wanted.ThinReads {
		return wanted.ThinReads{Facts: t.facts(), Match: t.match(), Decisions: d.Thin, Bench: d.Bench, Block: t.block}
	}, wanted.Thin)
	t.ways = part.Lazy(m, "ways", func() wanted.WayReads {
		return wanted.WayReads{Facts: t.facts(), Match: t.match(), Off: t.thin().Result.Off}
	}, wanted.Ways)
	t.wanted = part.Lazy(m, "wanted", func() wanted.Reads {
		return wanted.Reads{Facts: t.facts(), Match: t.match(), Thin: t.thin(), Ways: *t.ways(), Block: t.block,
			Ticks: d.Ticks, Exchanges: d.Pin.Exchanges, Reports: d.Pin.Reports, Rules: d.Reach.Rules, Rates: d.Bench.Rates}
	}, wanted.Of)
	t.asked = part.Lazy(m, "asked", func() wanted.ReachReads {
		return wanted.ReachReads{Model: t.wanted(), Thin: t.thin(), Decisions: d.Reach, Bench: d.Bench, Ticks: d.Ticks,
			Added: d.Join.Added, Studs: studs()}
	}, wanted.ReachInput)
	t.flow = part.Lazy(m, "flow", func() live.FlowReads {
		return live.FlowReads{Facts: t.facts(), Stand: found.Feed, Joined: t.wanted().Joined,
			Wires: t.asked().Wires, Feed: d.Feed}
	}, live.Flowing)
	t.reach = part.Lazy(m, "reach", func() reachReads {
		in := t.asked()
		return reachReads{Facts: t.facts(), Wires: in.Wires, Stock: in.Stock, Decisions: in.Decisions, Flow: *t.flow()}
	}, reached)
	t.finished = part.Lazy(m, "finished", func() finishReads {
		return finishReads{Model: t.wanted(), Reach: t.reach(), Added: d.Join.Added, Studs: studs()}
	}, finish)
	t.fed = part.Lazy(m, "fed", func() live.FedReads {
		return live.FedReads{Facts: t.facts(), Match: t.match(), Block: t.block}
	}, live.Circuits)
	t.feed = part.Lazy(m, "feed", func() live.FeedReads {
		return live.FeedReads{Facts: t.facts(), Stand: found.Feed, Wanted: t.finished().Wanted, Reach: t.reach(),
			Feed: d.Feed, Added: d.Join.Added, Class: d.Reach.Rules.Class}
	}, live.Feed)
	t.functions = part.Lazy(m, "functions", func() live.FunctionReads {
		return live.FunctionReads{Facts: t.facts(), Wanted: t.finished().Wanted, Feed: t.feed(),
			Empty: leftEmpty(t.match()), Wishes: d.Join.Functions, Rules: d.Join.OutRules, Added: d.Join.Added}
	}, live.Functions)
	t.sheet = part.Lazy(m, "sheet", func() repin.Reads {
		return repin.Reads{Model: t.wanted(), Match: t.match(), Wanted: t.finished().Wanted, Pin: d.Pin,
			Rate: d.Bench.Rates.Extract}
	}, repin.Moves)
	t.work = part.Lazy(m, "work", func() workReads {
		return workReads{Facts: t.facts(), Match: t.match(), Thin: t.thin(), Model: t.wanted(),
			Finished: t.finished(), Feed: t.feed(), Block: feed.Record{Block: d.Feed.Block}, Sheet: t.sheet(),
			Added: d.Join.Added, Own: d.Own, Limit: d.Pin.Limit, Check: d.Bench.Rates.Check}
	}, workOf)
	t.measured = part.Lazy(m, "measured", func() live.MeasuredReads {
		return live.MeasuredReads{Facts: t.facts(), Studs: studs(), Feed: t.feed(), Functions: t.functions(),
			Found: t.wanted().Found, Wanted: t.finished().Wanted,
			Settings: slices.Concat(t.sheet().Pinning.Settings, t.functions().Settings),
			Prove:    d.Prove}
	}, live.Measured)
	return t
}

// early are the findings of what is known at once.
func (t *table) early() []finding.Finding {
	f := t.facts()
	return slices.Concat(f.Findings, t.match().Findings(f.From, f.To), t.thin().Findings)
}

type matchReads struct {
	From, To  harness.Pinout
	Meetings  match.Meetings
	Decisions []match.Decision
}

func crosswalk(r matchReads) *match.Result {
	return match.Crosswalk(r.From, r.To, r.Meetings, r.Decisions)
}

// leftEmpty lists the To cavities that are left empty.
func leftEmpty(r *match.Result) []harness.Ref {
	var out []harness.Ref
	for i := range r.Wants {
		if w := &r.Wants[i]; w.Verdict == match.LeftEmpty {
			out = append(out, w.To)
		}
	}
	return out
}

type factReads struct {
	Found    *fact.Facts
	PutOn    []string // connectors that plugs are put onto
	Partings []reach.Parting
	Block    feed.Record // the block alone
	Parts    map[harness.WireID]network.Metal
}

// factsWith gives the facts with what decisions add to the harness: a wire for every row, plugs that are put on, those
// of disconnects, the fuse block, the wires of parts.
func factsWith(r factReads) *fact.Facts {
	f := *r.Found
	f.Complete()
	f.PlugsOn(r.PutOn)
	f.Part(r.Partings)
	f = f.With(r.Block.Block)
	f.Parts = r.Parts
	return &f
}

type reachReads struct {
	Facts     *fact.Facts
	Wires     []reach.Run
	Stock     []stock.Piece
	Decisions reach.Decisions
	Flow      live.Flow
}

func reached(r reachReads) *reach.Result {
	return reach.Compute(reach.Input{Loom: &r.Facts.Laid.Loom, Wires: r.Wires, Stock: r.Stock, Decisions: r.Decisions,
		Amps: r.Flow.Amps, Fuses: r.Flow.Fuses})
}
