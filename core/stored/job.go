// Package stored holds all that is kept of a job: the facts that were found and the decisions that were taken, as a job
// file and the database keep them. It says what each may be, reads what an earlier Draxel wrote, and sets aside what
// cannot be. What follows from it is the plan's.
package stored

import (
	"fmt"
	"slices"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/thin"
	"draxel/core/work"
)

// Table is a pinout as it was brought: the cells of the spreadsheet, where they come from, and a person's corrections
// of how they are read. The pinout is computed from it.
type Table struct {
	Name    string         `json:"name"`
	Source  string         `json:"source,omitempty"`
	Date    string         `json:"date,omitempty"` // ISO date of the source
	Trust   harness.Trust  `json:"trust"`
	Cells   [][]string     `json:"cells"`
	Options gather.Options `json:"options"`
	Origin  string         `json:"origin,omitempty"` // what its connectors come from, as Vehicles names it
	With    match.Side     `json:"with,omitempty"`   // of a further pinout: the side whose harness it belongs to
	// Titles that it had before: jobs of old named connectors after them.
	Was []string `json:"was,omitempty"`
}

// Titles gives the titles that the table has had beside a new one: jobs of old named connectors after them.
func (t *Table) Titles(now string) []string {
	all := t.Was
	if t.Name != now && !slices.Contains(all, t.Name) {
		all = append(slices.Clone(all), t.Name)
	}
	return all
}

// Read gives the pinout of the table with the reading that it comes from.
func (t Table) Read() (harness.Pinout, gather.Reading, error) {
	r, err := gather.Read(t.Cells, t.Options)
	if err != nil {
		return harness.Pinout{}, r, fmt.Errorf("read %s: %w", t.Name, err)
	}
	p := r.Pinout(t.Name)
	p.Source, p.Date, p.Trust = t.Source, t.Date, t.Trust
	for i := range p.Connectors {
		p.Connectors[i].Origin = t.Origin
	}
	return p, r, nil
}

// Job is all that is stored of a job: facts and decisions.
type Job struct {
	Title   string `json:"title"`
	Kind    Kind   `json:"kind"`
	Donor   string `json:"donor"`
	Chassis string `json:"chassis"`
	// Somebody said that both pinouts number their circuits by one scheme.
	OneScheme bool   `json:"oneScheme,omitempty"`
	From      *Table `json:"from,omitempty" kept:"table/from" grain:"fields" along:"yes"`
	To        *Table `json:"to,omitempty" kept:"table/to" grain:"fields" along:"yes"`
	// Further pinouts by a key of their own: those of pigtails and sub-harnesses.
	More map[string]*Table `json:"more,omitempty" kept:"table/*" grain:"fields" along:"yes"`
	OfMatch
	// Steps of the person's own.
	Own []OwnStep `json:"own,omitempty" kept:"own/ID" grain:"fields"`
	// Findings that somebody has answered.
	Acks []finding.Answer `json:"acks,omitempty" kept:"answer/Key()" word:"the answer to a finding"`

	OfGather
	Photos []Photo `json:"photos,omitempty" kept:"photo/ID" word:"a photograph"`
	OfThin
	Ticks []work.Tick `json:"ticks,omitempty" kept:"tick/Step" word:"step ticked"`

	OfPin
	OfReach
	OfFeed
	Feeds []FeedOption `json:"feeds,omitempty" kept:"feed/ID" grain:"fields" along:"feeds"` // ways to feed it that are compared

	OfJoin
	OfProve
	OfHandOver
	// Put away: it is not in the list of what is worked at.
	Archived bool `json:"archived,omitempty" kept:"archived"`

	Carried *Carried `json:"carried,omitempty" kept:"carried"` // what came along from an earlier job

	Aside []Aside `json:"aside,omitempty" kept:"aside/#"` // what was stored and cannot be
}

// Photo is a picture of a connector; the picture itself is kept beside the job.
type Photo struct {
	ID        string `json:"id"`
	Connector string `json:"connector"`
	Note      string `json:"note,omitempty"`
	Width     int    `json:"width"`
	Height    int    `json:"height"`
	Bytes     int    `json:"bytes"`
	Who       string `json:"who,omitempty"`
	When      int64  `json:"when,omitempty"` // Unix milliseconds
}

// Meetings gives how each To connector is met: as somebody said, as the job of old kept it, else as the kind has it.
func (j Job) Meetings(from, to harness.Pinout) match.Meetings {
	m := j.Kind.Meetings(from, to)
	if j.Kept != nil && j.Kind.MovesTerminals() {
		for _, c := range to.Connectors {
			m[c.ID] = match.Meeting{Met: match.NewHousing}
		}
		for to, x := range j.Kept.Meetings() {
			m[to] = x
		}
	}
	for to, x := range j.Met {
		if _, there := m[to]; there {
			m[to] = x
		}
	}
	return m
}

// Records puts together what was noted at each connector before it came off.
func (j Job) Records() map[string]thin.Noted {
	out := map[string]thin.Noted{}
	for id, l := range j.Looked {
		out[id] = thin.Noted{Labelled: l.Labelled, Counted: l.Counted}
	}
	for _, p := range j.Photos {
		r := out[p.Connector]
		r.Photos++
		out[p.Connector] = r
	}
	return out
}
