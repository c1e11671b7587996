package stored

import (
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// The records of the stages, each under a name of its own in a job; their fields are the job's.
type (
	OfGather   = gather.Record
	OfMatch    = match.Record
	OfThin     = thin.Record
	OfPin      = pin.Record
	OfReach    = reach.Record
	OfFeed     = feed.Record
	OfJoin     = join.Record
	OfProve    = prove.Record
	OfHandOver = handover.Record
)

// Entry is an entry of one of the lists of a job.
type Entry interface {
	OwnStep | Photo | FeedOption | finding.Answer | work.Tick | gather.Entry | match.Entry | thin.Entry | pin.Entry |
		reach.Entry | feed.Entry | join.Entry | prove.Entry | handover.Entry
}

// Single is what a job has one of.
type Single interface {
	Carried | gather.Single | match.Single | thin.Single | reach.Single | feed.Single | prove.Single | handover.Single
}

// Keyed is what a job has by a key.
type Keyed interface{ gather.Keyed | pin.Keyed }

// Decisions are what the person chose, as the stages read it.
type Decisions struct {
	Match []match.Decision
	Thin  []thin.Decision
	Bench thin.Bench
	Ticks []work.Tick // what has been carried out
	Pin   pin.Decisions
	Reach reach.Decisions
	Feed  feed.Record
	Join  join.Record
	Prove prove.Decisions // what was measured, mended, noted and programmed
	Own   []OwnStep
	Acks  []finding.Answer
}

// Chosen gives the job's decisions and what has been carried out.
func (j Job) Chosen() Decisions {
	j = j.WithIDs()
	bench := thin.Standard()
	bench.School = j.Kind.School()
	if j.Bench != nil {
		bench = *j.Bench
	}
	return Decisions{Match: j.Decisions, Thin: j.Thin, Bench: bench, Ticks: j.Ticks, Pin: j.OfPin.Chosen(bench.Hand),
		Reach: j.OfReach.Chosen(), Feed: j.OfFeed, Join: j.OfJoin, Prove: j.OfProve.Chosen(), Own: j.Own, Acks: j.Acks}
}
