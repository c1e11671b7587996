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

// Decisions are what the person chose, as the stages read it.
type Decisions struct {
	Match []match.Decision
	Thin  []thin.Decision
	Bench thin.Bench
	Ticks []work.Tick // what has been carried out
	Pin   pin.Decisions
	Reach reach.Decisions
	Feed  feed.Record
	join.Record
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
		Reach: j.OfReach.Chosen(), Feed: j.OfFeed, Record: j.OfJoin, Prove: j.OfProve.Chosen(), Own: j.Own, Acks: j.Acks}
}
