package gather

// Record is all that is stored of this stage: what was found of the vehicles and their harnesses.
type Record struct {
	Identity *Identity `json:"identity,omitempty" kept:"identity" along:"yes"`
	// Open items of the identity's changes that are seen to.
	Items  map[string]bool `json:"items,omitempty" kept:"items"`
	Before *Before         `json:"before,omitempty" kept:"before"`
	// By connector.
	Looked   map[string]Looked    `json:"looked,omitempty" kept:"looked/*" said:"{0}"`
	Sheets   map[SheetKind]*Sheet `json:"sheets,omitempty" kept:"sheet/*" said:"the list of {0}" along:"yes"`
	Readings []Measurement        `json:"readings,omitempty" kept:"reading/ID"`
	Traces   []Trace              `json:"traces,omitempty" kept:"trace/ID"`
}
