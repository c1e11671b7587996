package demo

import (
	"encoding/json"
	"fmt"

	"draxel/core/prove"
	"draxel/core/stored"
)

// provedPart is what was measured at the Packhorse so far: proved.json is made by the test of it.
type provedPart struct {
	Proved  []prove.MeterReading `json:"proved"`
	Mended  []prove.Mend         `json:"mended"`
	Notes   []prove.Note         `json:"notes"`
	Program prove.Programming    `json:"program"`
	Live    prove.Values         `json:"live"`
	Trained []prove.Trained      `json:"trained"`
}

// provePackhorse puts in what was measured: half of the lines of the sheet that do not wait for the work, one fault
// that was found and mended, one that is still looked for, and a unit that has been read and not written.
func provePackhorse(j *stored.Job) error {
	data, err := files.ReadFile("packhorse/proved.json")
	if err != nil {
		return fmt.Errorf("read what was measured: %w", err)
	}
	var p provedPart
	if err := json.Unmarshal(data, &p); err != nil {
		return fmt.Errorf("read what was measured: %w", err)
	}
	j.Proved, j.Mended, j.Notes, j.Program, j.Live, j.Trained = p.Proved, p.Mended, p.Notes, &p.Program, p.Live, p.Trained
	return nil
}
