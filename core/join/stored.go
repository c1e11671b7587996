package join

// Record is all that is stored of this stage: what was stated of functions, and what their sums ask for.
type Record struct {
	// What is wanted and stated of what must work.
	Functions []FunctionWish `json:"functions,omitempty" kept:"function/Function" grain:"fields" said:"{0}" along:"functions"`
	// When units work their outputs.
	OutRules []OutputRule `json:"outRules,omitempty" kept:"outrule/Output" grain:"fields" said:"{0}" along:"functions"`
	// Parts that their sums ask for.
	Added []Added `json:"added,omitempty" kept:"part/ID" said:"{0}" along:"functions"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	FunctionWish | OutputRule | Added
}
