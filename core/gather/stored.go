package gather

// Record is all that is stored of this stage: what was found of the vehicles and their harnesses.
type Record struct {
	Identity *Identity `json:"identity,omitempty" kept:"identity" grain:"fields" along:"yes" word:"the vehicles"`
	// Open items of the identity's changes that are seen to.
	Items  map[string]bool `json:"items,omitempty" kept:"items" grain:"fields" word:"an open item"`
	Before *Before         `json:"before,omitempty" kept:"before" grain:"fields" word:"before teardown"`
	// By connector.
	Looked   map[string]Looked    `json:"looked,omitempty" kept:"looked/*" grain:"fields" said:"{0}" word:"a look at"`
	Sheets   map[SheetKind]*Sheet `json:"sheets,omitempty" kept:"sheet/*" grain:"fields" said:"the list of {0}" along:"yes"`
	Readings []Measurement        `json:"readings,omitempty" kept:"reading/ID"`
	Traces   []Trace              `json:"traces,omitempty" kept:"trace/ID" word:"a trace"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	Measurement | Trace
}

// Single is what it has one of.
type Single interface{ Identity | Before }

// Keyed is what it has by a key.
type Keyed interface{ Sheet | Looked }
