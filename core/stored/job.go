// Package stored holds all that is kept of a job: the facts that were found and the decisions that were taken, as a job
// file and the database keep them. It says what each may be, reads what an earlier Draxel wrote, and sets aside what
// cannot be. What follows from it is the plan's.
package stored

import (
	"fmt"
	"slices"

	"draxel/core/face"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/reach"
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
	Was     []string       `json:"was,omitempty"`    // titles that it had before: jobs of old named connectors after them
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
	From      *Table `json:"from,omitempty"`
	To        *Table `json:"to,omitempty"`
	// Further pinouts by a key of their own: those of pigtails and sub-harnesses.
	More map[string]*Table `json:"more,omitempty"`
	Kept match.Kept        `json:"kept,omitempty"` // as jobs of old said which housings are kept
	// How To connectors are met; those of which nothing is said as the kind has it.
	Met       match.Meetings   `json:"met,omitempty"`
	Vehicle   match.Side       `json:"vehicle,omitempty"` // the side of the vehicle's own wiring; empty as the kind has it
	Decisions []match.Decision `json:"decisions,omitempty"`

	Own  []OwnStep        `json:"own,omitempty"`  // steps of the person's own
	Acks []finding.Answer `json:"acks,omitempty"` // findings that somebody has answered

	Identity *gather.Identity                   `json:"identity,omitempty"`
	Items    map[string]bool                    `json:"items,omitempty"` // open items of the identity's changes that are seen to
	Before   *gather.Before                     `json:"before,omitempty"`
	Looked   map[string]gather.Looked           `json:"looked,omitempty"` // by connector
	Sheets   map[gather.SheetKind]*gather.Sheet `json:"sheets,omitempty"`
	Readings []gather.Measurement               `json:"readings,omitempty"`
	Traces   []gather.Trace                     `json:"traces,omitempty"`
	Photos   []Photo                            `json:"photos,omitempty"`
	Thin     []thin.Decision                    `json:"thin,omitempty"`
	Bench    *thin.Bench                        `json:"bench,omitempty"`
	Ticks    []work.Tick                        `json:"ticks,omitempty"`

	Layouts   map[string]*face.Layout `json:"layouts,omitempty"` // by connector of the model: what its face is like
	Wishes    []pin.Wish              `json:"wishes,omitempty"`
	Exchanges []pin.Exchange          `json:"exchanges,omitempty"`
	Reports   []pin.Report            `json:"reports,omitempty"`
	Checks    []pin.Check             `json:"checks,omitempty"`
	Have      map[string]bool         `json:"have,omitempty"` // parts and tools that are there

	Map      *reach.Map       `json:"map,omitempty"`
	Rules    *reach.Rules     `json:"rules,omitempty"`
	Places   []reach.Place    `json:"places,omitempty"`
	Lengths  []reach.Measured `json:"lengths,omitempty"` // what was measured at wires
	Spans    []reach.Wish     `json:"spans,omitempty"`   // what was decided about single wires in Reach
	Options  []reach.Option   `json:"options,omitempty"`
	Leftover []reach.Leftover `json:"leftover,omitempty"`
	Partings []reach.Parting  `json:"partings,omitempty"` // disconnects that were taken

	Block *feed.Block  `json:"block,omitempty"` // a fuse block of one's own
	Rated []feed.Rated `json:"rated,omitempty"` // fuses of the vehicle that are to be changed
	Feeds []FeedOption `json:"feeds,omitempty"` // ways to feed it that are compared

	Functions []join.FunctionWish `json:"functions,omitempty"` // what is wanted and stated of what must work
	OutRules  []join.OutputRule   `json:"outRules,omitempty"`  // when units work their outputs
	Added     []join.Added        `json:"added,omitempty"`     // parts that their sums ask for

	Proved []prove.MeterReading `json:"proved,omitempty"` // what was measured at the finished harness
	Gates  []prove.Passed       `json:"gates,omitempty"`  // of powering up
	Mended []prove.Mend         `json:"mended,omitempty"` // faults that were found

	Program *prove.Programming `json:"program,omitempty"` // what was written into the unit
	Notes   []prove.Note       `json:"notes,omitempty"`   // what was heard, seen and changed
	Live    prove.Values       `json:"live,omitempty"`    // what the unit can be asked for
	Trained []prove.Trained    `json:"trained,omitempty"` // rounds of the trainer

	Left      []handover.Left      `json:"left,omitempty"`      // what stays open, and whose it is
	Loans     []handover.Loan      `json:"loans,omitempty"`     // temporary, borrowed, put off
	Delivered []handover.Delivered `json:"delivered,omitempty"` // states with a name
	Spent     []handover.Spent     `json:"spent,omitempty"`     // time that was noted
	Bought    []handover.Bought    `json:"bought,omitempty"`    // what is said of lines of the order list
	Terms     *handover.Terms      `json:"terms,omitempty"`     // what hours and prices are reckoned with
	Archived  bool                 `json:"archived,omitempty"`  // put away: it is not in the list of what is worked at

	Carried *Carried `json:"carried,omitempty"` // what came along from an earlier job

	Aside []Aside `json:"aside,omitempty"` // what was stored and cannot be
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
func (j Job) Records() map[string]thin.Record {
	out := map[string]thin.Record{}
	for id, l := range j.Looked {
		out[id] = thin.Record{Labelled: l.Labelled, Counted: l.Counted}
	}
	for _, p := range j.Photos {
		r := out[p.Connector]
		r.Photos++
		out[p.Connector] = r
	}
	return out
}
