package prove

// Record is all that is stored of this stage: what was measured, mended, noted and programmed.
type Record struct {
	// What was measured at the finished harness.
	Proved []MeterReading `json:"proved,omitempty" kept:"proved/ID" said:"{0}" word:"a reading of"`
	// Of powering up.
	Gates []Passed `json:"gates,omitempty" kept:"gate/Gate" said:"{0}" word:"the gate"`
	// Faults that were found.
	Mended []Mend `json:"mended,omitempty" kept:"mend/ID" said:"{0}"`
	// What was written into the unit.
	Program *Programming `json:"program,omitempty" kept:"program" grain:"fields" word:"the record of the programming"`
	// What was heard, seen and changed.
	Notes []Note `json:"notes,omitempty" kept:"note/ID" word:"a note"`
	// What the unit can be asked for.
	Live Values `json:"live,omitempty" kept:"live" grain:"fields" word:"what the unit can be asked for"`
	// Rounds of the trainer.
	Trained []Trained `json:"trained,omitempty" kept:"trained/ID" word:"a round of the trainer"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	MeterReading | Passed | Mend | Note | Trained
}

// Single is what it has one of.
type Single interface{ Programming | Values }

// Chosen gives what findings and the sheet go by: not what the unit can be asked for, and not the trainer's rounds.
func (r *Record) Chosen() Decisions {
	return Decisions{Readings: r.Proved, Mended: r.Mended, Gates: r.Gates, Notes: r.Notes, Program: r.Program}
}
