package prove

// Record is all that is stored of this stage: what was measured, mended, noted and programmed.
type Record struct {
	// What was measured at the finished harness.
	Proved  []MeterReading `json:"proved,omitempty" kept:"proved/ID" said:"{0}"`
	Gates   []Passed       `json:"gates,omitempty" kept:"gate/Gate" said:"{0}"` // of powering up
	Mended  []Mend         `json:"mended,omitempty" kept:"mend/ID" said:"{0}"`  // faults that were found
	Program *Programming   `json:"program,omitempty" kept:"program"`            // what was written into the unit
	Notes   []Note         `json:"notes,omitempty" kept:"note/ID"`              // what was heard, seen and changed
	Live    Values         `json:"live,omitempty" kept:"live"`                  // what the unit can be asked for
	Trained []Trained      `json:"trained,omitempty" kept:"trained/ID"`         // rounds of the trainer
}

// Chosen gives what findings and the sheet go by: not what the unit can be asked for, and not the trainer's rounds.
func (r *Record) Chosen() Decisions {
	return Decisions{Readings: r.Proved, Mended: r.Mended, Gates: r.Gates, Notes: r.Notes, Program: r.Program}
}
