package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"draxel/core/harness"
	"draxel/core/plan"
)

// Format is the version of the job file that this Draxel writes. Older ones are read, newer ones refused. Format 2
// added the structure of the harness, readings, traces, photographs, and what Thin decides and has done; format 3 the
// faces of connectors and what Pin's work notes; format 4 stations, paths and what Reach decides and measures; format
// 5 how connectors are met, ways, origins of new wires, steps of one's own and answers to findings; format 6 further
// pinouts, what connectors come from, lines struck out, tables side by side, and the lists that Feed goes by; format
// 7 a fuse block of one's own, fuses that are changed, and ways to feed a job; format 8 what is wanted and stated of
// functions, rules of outputs, the parts that functions ask for, and what was measured, passed and mended in Prove;
// format 9 what was written into the unit, notes, what the unit can be asked for, and rounds of the trainer; format 10
// time that was noted, what is said of the order list, what hours are reckoned with, and jobs that are put away.
const Format = 10

// JobFile is a whole job in one file: backup, sharing, bug report and test fixture at once.
type JobFile struct {
	Format   int                `json:"format"`
	Job      plan.Job           `json:"job"`
	Pictures map[string]Picture `json:"pictures,omitempty"` // by photograph, as base64
}

// MaxJobBytes bounds a job file that is read.
const MaxJobBytes = 4 * MaxBytes

// WriteJob writes the job file, indented, with a newline at the end.
func WriteJob(w io.Writer, j plan.Job, pictures map[string]Picture) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	if err := e.Encode(JobFile{Format, j, pictures}); err != nil {
		return fmt.Errorf("write job file: %w", err)
	}
	return nil
}

// ReadJob reads a job file and checks that it hangs together; the pictures are made anew as if they were brought one
// by
// one, so that a file from elsewhere brings nothing else. It fails with a *Refusal.
func ReadJob(data []byte) (plan.Job, map[string]Picture, error) {
	if len(data) > MaxJobBytes {
		return plan.Job{}, nil, refuse("too-large", "the job file has %d MB; at most %d MB are read", len(data)>>20,
			MaxJobBytes>>20)
	}
	var version struct {
		Format *int `json:"format"`
	}
	if err := json.Unmarshal(data, &version); err != nil || version.Format == nil {
		return plan.Job{}, nil, refuse("not-a-job", "this is not a Draxel job file")
	}
	if *version.Format > Format {
		return plan.Job{}, nil, refuse(
			"newer-format",
			"the job file was written by a newer Draxel (format %d, this one reads up to %d): update Draxel and open it again",
			*version.Format,
			Format,
		)
	}
	var f struct {
		Format   int                `json:"format"`
		Job      json.RawMessage    `json:"job"`
		Pictures map[string]Picture `json:"pictures"`
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(&f); err != nil {
		return plan.Job{}, nil, refuse("damaged-job", "the job file is damaged: %v", err)
	}
	j, err := plan.ReadStored(f.Job)
	if err == nil {
		err = checkJob(j)
	}
	if err != nil {
		return plan.Job{}, nil, refuse("damaged-job", "the job file is damaged: %v", err)
	}
	for id, p := range f.Pictures {
		again, err := ReadPicture("", p.Data)
		if err != nil {
			return plan.Job{}, nil, refuse("damaged-job", "the job file is damaged: photograph %s: %v", id, err)
		}
		f.Pictures[id] = again
	}
	return j, f.Pictures, nil
}

// checkJob says why there is no job in what could be read; a value that cannot be has been set aside before.
func checkJob(j plan.Job) error {
	if _, ok := j.Kind.Info(); !ok {
		return fmt.Errorf("there is no kind of job %q", j.Kind)
	}
	if j.Title == "" {
		return fmt.Errorf("the job has no title")
	}
	_, err := j.Facts()
	return err
}

// Trusts lists the trusts that a table can have.
func Trusts() []harness.Trust {
	return []harness.Trust{harness.Maker, harness.Copied, harness.Earlier, harness.Measured}
}
