package plan

import (
	"fmt"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
)

// Table is a pinout as it was brought: the cells of the spreadsheet, where they come from, and a person's corrections of
// how they are read. The pinout is computed from it.
type Table struct {
	Name    string         `json:"name"`
	Source  string         `json:"source,omitempty"`
	Date    string         `json:"date,omitempty"` // ISO date of the source
	Trust   harness.Trust  `json:"trust"`
	Cells   [][]string     `json:"cells"`
	Options gather.Options `json:"options"`
}

// Read gives the pinout of the table with the reading that it comes from.
func (t Table) Read() (harness.Pinout, gather.Reading, error) {
	r, err := gather.Read(t.Cells, t.Options)
	if err != nil {
		return harness.Pinout{}, r, fmt.Errorf("read %s: %w", t.Name, err)
	}
	p := r.Pinout(t.Name)
	p.Source, p.Date, p.Trust = t.Source, t.Date, t.Trust
	return p, r, nil
}

// Job is all that is stored of a job: facts and decisions.
type Job struct {
	Title     string           `json:"title"`
	Kind      Kind             `json:"kind"`
	Donor     string           `json:"donor"`
	Chassis   string           `json:"chassis"`
	From      *Table           `json:"from,omitempty"`
	To        *Table           `json:"to,omitempty"`
	Kept      match.Kept       `json:"kept,omitempty"` // by To connector; nil keeps the housings of the same name
	Decisions []match.Decision `json:"decisions,omitempty"`
}

// Facts reads the job's tables. A side that has none is an empty pinout.
func (j Job) Facts() (Facts, error) {
	f := Facts{Kind: j.Kind}
	for _, side := range []struct {
		table *Table
		out   *harness.Pinout
	}{{j.From, &f.From}, {j.To, &f.To}} {
		if side.table == nil {
			continue
		}
		p, _, err := side.table.Read()
		if err != nil {
			return f, err
		}
		*side.out = p
	}
	f.Kept = match.SameNames(f.From, f.To)
	if j.Kept != nil {
		f.Kept = j.Kept
	}
	return f, nil
}
