// Package plan composes the stages into the whole plan and proves it.
//
// Facts and decisions go in. What comes out, verdicts, steps and findings, is computed from them and nothing else,
// and is never edited or stored. There is one harness: Now is what was found with everything that was ticked done to
// it, once; Wanted is what was found with the Changes of every stage, which follow from verdicts alone. The steps of
// all stages are put into one order and carried out on the model; if they do not end in Wanted the plan says so: that
// would be a fault of ours. docs/plan.md tells how a stage, a decision or a finding is added.
package plan

import (
	"slices"
	"sync"
	"sync/atomic"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/work"
)

// Plan is everything that follows from facts and decisions.
type Plan struct {
	Moves    bool // this kind of job moves the terminals of matched wires; others mostly join the wires
	Match    *match.Result
	Totals   match.Totals
	Ways     []Way // how matched wires come to their counterparts
	Findings []finding.Finding
	Past     work.Past       // what has been done, and the harness as it is now
	Wanted   harness.Harness // as it should become
	Work     Work            // the one list of what is to be done
	Proof    Proof
	Steps    []Step // the re-pin sheet: Pin's steps with what tells their wires
	Withheld int    // decided moves and new wires left off the steps, since an undecided wire holds a cavity
	// The connectors that are worked in: From's, To's that are new, those that terminals leave or enter.
	Housings []harness.Connector
	Thin     Thinning
	Pin      Pinning
	Reach    Reaching
	Join     Joining
	Feed     Feeding
	block    *feed.Block
	Found    harness.Harness
}

// Replay gives what other ticks would have come to on the harness as it was found.
func (p *Plan) Replay(ticks []work.Tick) work.Past { return work.Replay(p.Found, ticks) }

// Step is a step of the re-pin sheet with what tells its wire from others.
type Step struct {
	pin.Step
	pin.Advice
	Wire harness.Row `json:"wire"` // the wire's row; for a new wire the To row
	Goal harness.Row `json:"goal"` // the To row that it fills, zero when it fills none
}

// Compute gives the plan. It is pure: the same facts and decisions give the same plan.
func Compute(f fact.Facts, d stored.Decisions) Plan {
	return Follow(f, d, match.Crosswalk(f.From, f.To, f.Meetings, d.Match))
}

// Follow gives the plan where the crosswalk of these facts and decisions is known already.
func Follow(f fact.Facts, d stored.Decisions, crosswalk *match.Result) Plan {
	return *Begin(f, d, crosswalk, nil).Whole()
}

// Draft is a plan as far as it has been asked for. What becomes of every wire is known at once; the rest, ways and
// joints, lengths, steps and proof, is computed when it is first asked for.
type Draft struct {
	facts     fact.Facts
	decisions stored.Decisions
	begun     Plan
	// The latest draft of the same facts all of which is there: its parts are taken where nothing that they follow from
	// has changed. A draft that nobody asked for all of is passed over, so that drafts do not hang on one another.
	last  atomic.Pointer[Draft]
	rest  sync.Once
	done  atomic.Bool // all of it is there
	whole Plan
	reach *reach.Input
}

// Begin gives the draft of a plan where the crosswalk is known. Last, which may be nil, is an earlier draft of the
// same
// facts: computing is pure, so that a part whose input is the same again is the same again.
//
// The order of computing is not that of the rail. First what becomes of every wire, then where terminals and joints
// come, then lengths; then Now, the steps and the proof.
func Begin(f fact.Facts, d stored.Decisions, crosswalk *match.Result, last *Draft) *Draft {
	f.Complete()
	f.PutOn(crosswalk)
	f.Part(d.Reach.Partings)
	f = f.With(d.Feed.Block)
	f.Parts = partWires(d.Added)
	t := &Draft{facts: f, decisions: d, begun: Plan{Moves: f.Kind.MovesTerminals(), Match: crosswalk,
		block: d.Feed.Block}}
	for last != nil && !last.done.Load() {
		last = last.last.Load()
	}
	t.last.Store(last)
	p := &t.begun
	p.Totals = p.Match.Totals()
	p.Findings = append(slices.Clone(f.Findings), p.Match.Findings(f.From, f.To)...)
	p.decideThin(&f, d)
	return t
}

// Begun gives the part of the plan that is known at once: Match and what becomes of every wire in Thin, without
// steps.
func (t *Draft) Begun() *Plan { return &t.begun }

// Whole gives all of the plan.
func (t *Draft) Whole() *Plan {
	t.rest.Do(func() {
		f, d := &t.facts, t.decisions
		p := t.begun
		p.Findings = slices.Clone(p.Findings)
		p.decideWays(f)
		m := p.model(f, d)
		p.join(m, d)
		t.decideReach(&p, m)
		p.finish(m, d)
		p.unplugged(f)
		p.Findings = append(p.Findings, p.closing(f)...)
		p.Findings = append(p.Findings, p.proved(f, &d.Prove)...)
		finding.Sort(p.Findings)
		p.Findings = finding.Answered(p.Findings, d.Acks)
		t.whole = p
		t.done.Store(true)
		t.last.Store(nil)
	})
	return &t.whole
}
