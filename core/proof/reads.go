package proof

import (
	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Reads is what the proof follows from.
type Reads struct {
	Facts  *fact.Facts
	Match  *match.Result
	Model  *wanted.Model
	Wanted harness.Harness
	Added  []join.Added // parts that functions ask for
	Past   work.Past
	Steps  []work.Step // of all stages, in their order
	Limit  int         // terminals that may be in hand
	Stuck  int         // circles of moves that cannot begin
	Fault  string      // why the steps could not be made
	// Decisions of the person's own that contradict each other.
	Against []string
	// What was done and is not wanted any more stands; what stands so has steps that mend it.
	Unwanted, Mended bool
}

// Result is the proof with what comes of it.
type Result struct {
	Proof    Proof
	Held     map[string]string // by step: why it cannot be done as the harness is now
	Findings []finding.Finding
}
