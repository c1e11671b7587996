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

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/part"
	"draxel/core/proof"
	"draxel/core/reach"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Plan is everything that follows from facts and decisions.
type Plan struct {
	Moves    bool // this kind of job moves the terminals of matched wires; others mostly join the wires
	Match    *match.Result
	Totals   match.Totals
	Ways     []wanted.Way // how matched wires come to their counterparts
	Findings []finding.Finding
	Past     work.Past       // what has been done, and the harness as it is now
	Wanted   harness.Harness // as it should become
	Work     Work            // the one list of what is to be done
	Proof    proof.Proof
	Steps    []repin.Step // the re-pin sheet: Pin's steps with what tells their wires
	Withheld int          // decided moves and new wires left off the steps, since an undecided wire holds a cavity
	// The connectors that are worked in: From's, To's that are new, those that terminals leave or enter.
	Housings []harness.Connector
	Thin     Thinning
	Pin      repin.Pinning
	Reach    Reaching
	Join     Joining
	Feed     Supply
	Fed      *live.Fed // how the job is fed as it is decided
	Found    harness.Harness
}

// Thinning is the part of the plan that takes out what is not wanted.
type Thinning struct {
	Result   *thin.Result
	Progress thin.Progress
	Counts   thin.Counts
	Proposed []wanted.Proposal
}

// Reaching is the part of the plan that makes wires reach.
type Reaching struct {
	Result *reach.Result
	Strays []work.Tick // done, and not in the plan any more
}

// Joining is the part of the plan that makes joints and lays new wires.
type Joining struct {
	Part   join.Part
	Joints []wanted.Joined
	Wires  []wanted.Laid
	Steps  []work.Step
	// What must work in the vehicle, and how it stands.
	Functions []join.Item
	Legs      []live.Leg
	Sites     []live.Site
	Added     []join.Added        // parts that are taken
	Settings  []string            // of the unit, by the sums
	Raised    map[string][]string // generic fault codes of what is given up, by function
}

// Supply is the part of the plan that says what is live and what protects it.
type Supply struct {
	live.Feeding
	Circuits []live.Circuit // what a feed has to be led to, and what each takes
}

// Replay gives what other ticks would have come to on the harness as it was found.
func (p *Plan) Replay(ticks []work.Tick) work.Past { return work.Replay(p.Found, ticks) }

// Compute gives the plan. It is pure: the same facts and decisions give the same plan.
func Compute(f fact.Facts, d stored.Decisions) Plan { return *Begin(fact.Apart(&f), d, nil).Whole() }

// Draft is a plan as far as it has been asked for. What becomes of every wire is known at once; the rest, ways and
// joints, lengths, steps and proof, is computed when it is first asked for.
type Draft struct {
	table *table
	begun Plan
	whole func() *Plan
}

// Begin gives the draft of a plan. The memory, which may be nil, has the parts of an earlier one: computing is pure, so
// that a part that reads the same again is the same again.
func Begin(f fact.Found, d stored.Decisions, memory *part.Memory) *Draft {
	t := newTable(f, d, memory)
	draft := &Draft{table: t, begun: Plan{Moves: f.Kind.MovesTerminals(), Match: t.match(), Totals: t.match().Totals(),
		Findings: t.early(), Thin: Thinning{Result: t.thin().Result, Proposed: t.thin().Proposed}}}
	draft.whole = sync.OnceValue(draft.compose)
	return draft
}

// Begun gives the part of the plan that is known at once: Match and what becomes of every wire in Thin, without
// steps.
func (d *Draft) Begun() *Plan { return &d.begun }

// Whole gives all of the plan.
func (d *Draft) Whole() *Plan { return d.whole() }

// beside asks for a part while another is computed. If that other panics, it does so again where it is read.
func beside(one, other func()) {
	var there sync.WaitGroup
	there.Go(func() {
		defer func() { _ = recover() }()
		other()
	})
	one()
	there.Wait()
}

// compose puts the parts together. What no other part waits for is computed beside what it does not read: the sheet of
// Pin beside the network, what works and what is measured beside the order of the work and its proof.
func (d *Draft) compose() *Plan {
	t, p := d.table, d.begun
	t.finished()
	beside(func() { t.feed() }, func() { t.sheet() })
	beside(func() { t.work() }, func() { t.measured() })
	m, end, feeds, functions, sheet, done := t.wanted(), t.finished(), t.feed(), t.functions(), t.sheet(), t.work()
	p.Ways, p.Found, p.Housings, p.Withheld = *t.ways(), m.Found, m.Housings, m.Withheld
	p.Wanted, p.Fed = end.Wanted, t.fed()
	p.Past, p.Work, p.Proof, p.Steps, p.Pin = done.Past, done.Work, done.Proof, sheet.Steps, sheet.Pinning
	p.Thin.Progress, p.Thin.Counts = done.Progress, done.Counts
	p.Reach = Reaching{Result: end.Reach, Strays: done.Strays}
	p.Feed = Supply{Feeding: *feeds, Circuits: t.fed().Measured(feeds.Result)}
	p.Join = Joining{Part: m.Part, Joints: m.Joints, Wires: m.Laid, Steps: done.Joins, Functions: functions.Items,
		Legs: functions.Legs, Sites: live.Sites(functions.Items, end.Plain), Added: t.decisions.Join.Added,
		Settings: functions.Settings, Raised: functions.Raised}
	p.Findings = slices.Concat(p.Findings, m.Findings, end.Reach.Findings, end.Findings,
		live.Drops(t.facts(), t.match(), t.block), feeds.Findings, functions.Findings, sheet.Findings, done.Findings,
		wanted.Unplugged(t.facts(), t.thin().Result), wanted.OpenEnds(t.facts(), m.Laid), *t.measured())
	finding.Sort(p.Findings)
	p.Findings = finding.Answered(p.Findings, t.decisions.Acks)
	return &p
}
