package match

import "draxel/core/harness"

// Blocked is Crosswalk as it goes with very many rows: only rows that have something in common are compared.
func Blocked(from, to harness.Pinout, meetings Meetings, decisions []Decision) *Result {
	return crosswalk(from, to, meetings, decisions, 0)
}

// Tallies gives the tally of patterns, and the same counted pair by pair.
func (r *Result) Tallies() (counted, one [patterns]float64) {
	for i := range r.from {
		for j := range r.to {
			one[r.compare.pattern(i, j)]++
		}
	}
	return r.compare.tally(), one
}
