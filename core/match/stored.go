package match

// Record is all that is stored of this stage: what was decided about rows and about how connectors are met.
type Record struct {
	Kept Kept `json:"kept,omitempty" kept:"kept" grain:"fields" along:"yes"` // as jobs of old said which housings are kept
	// How To connectors are met; those of which nothing is said as the kind has it.
	Met Meetings `json:"met,omitempty" kept:"met" grain:"fields" along:"yes"`
	// The side of the vehicle's own wiring; empty as the kind has it.
	Vehicle   Side       `json:"vehicle,omitempty" kept:"vehicle" grain:"fields" along:"yes"`
	Decisions []Decision `json:"decisions,omitempty" kept:"decision/Side/At.Connector/At.Cavity" said:"cavity"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	Decision
}

// Single is what it has one of.
type Single interface{ Meetings }
