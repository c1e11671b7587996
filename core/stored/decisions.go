package stored

import (
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// Decisions are what the person chose, one field a stage.
type Decisions struct {
	Match []match.Decision
	Thin  []thin.Decision
	Bench thin.Bench
	Ticks []work.Tick // what has been carried out
	Pin   pin.Decisions
	Reach reach.Decisions
	Feed  feed.Decisions
	// What is wanted and stated of what must work.
	Functions []join.FunctionWish
	OutRules  []join.OutputRule // when units work their outputs
	Added     []join.Added      // parts that sums of functions ask for
	Prove     prove.Decisions   // what was measured, mended, noted and programmed
	Own       []OwnStep
	Acks      []finding.Answer
}

// Chosen gives the job's decisions and what has been carried out.
func (j Job) Chosen() Decisions {
	j = j.WithIDs()
	d := Decisions{Own: j.Own, Acks: j.Acks, Match: j.Decisions, Thin: j.Thin, Bench: thin.Standard(), Ticks: j.Ticks}
	d.Bench.School = j.Kind.School()
	if j.Bench != nil {
		d.Bench = *j.Bench
	}
	d.Pin = pin.Decisions{
		Limit:     1,
		Wishes:    j.Wishes,
		Exchanges: j.Exchanges,
		Reports:   j.Reports,
		Checks:    j.Checks,
		Have:      j.Have,
	}
	if d.Bench.Hand != nil {
		d.Pin.Limit = *d.Bench.Hand
	}
	d.Functions, d.OutRules, d.Added = j.Functions, j.OutRules, j.Added
	d.Prove = prove.Decisions{
		Readings: j.Proved,
		Mended:   j.Mended,
		Gates:    j.Gates,
		Notes:    j.Notes,
		Program:  j.Program,
	}
	d.Feed = feed.Decisions{Block: j.Block, Rated: j.Rated}
	d.Reach = reach.Decisions{
		Rules:    reach.Standard(),
		Places:   j.Places,
		Wishes:   j.Spans,
		Measured: j.Lengths,
		Options:  j.Options,
		Leftover: j.Leftover,
		Partings: j.Partings,
	}
	if j.Map != nil {
		d.Reach.Map = *j.Map
	}
	if j.Rules != nil {
		d.Reach.Rules = *j.Rules
	}
	return d
}
