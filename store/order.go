package store

import (
	"cmp"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/work"
)

// sort puts the lists of a job in the order in which they were made, ties by name: the database gives them by name.
func sort(j *stored.Job) {
	slices.SortFunc(j.Decisions, func(a, b match.Decision) int {
		return cmp.Or(strings.Compare(string(a.Side), string(b.Side)), harness.CompareRefs(a.At, b.At))
	})
	slices.SortStableFunc(j.Readings, func(a, b gather.Measurement) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Traces, func(a, b gather.Trace) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Photos, func(a, b stored.Photo) int {
		return cmp.Or(strings.Compare(a.Connector, b.Connector), cmp.Compare(a.When, b.When))
	})
	slices.SortStableFunc(j.Own, func(a, b stored.OwnStep) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Acks, func(a, b finding.Answer) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Wishes, func(a, b pin.Wish) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Exchanges, func(a, b pin.Exchange) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Reports, func(a, b pin.Report) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Checks, func(a, b pin.Check) int { return harness.CompareRefs(a.At, b.At) })
	slices.SortStableFunc(j.Leftover, func(a, b reach.Leftover) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Spent, func(a, b handover.Spent) int { return cmp.Compare(a.When, b.When) })
	slices.SortStableFunc(j.Ticks, func(a, b work.Tick) int {
		return cmp.Or(cmp.Compare(a.When, b.When), cmp.Compare(a.Seq, b.Seq))
	})
}
