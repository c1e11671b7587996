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
	"draxel/core/route"
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
	From      *Table `json:"from,omitempty" kept:"table/from"`
	To        *Table `json:"to,omitempty" kept:"table/to"`
	// Further pinouts by a key of their own: those of pigtails and sub-harnesses.
	More map[string]*Table `json:"more,omitempty" kept:"table/*"`
	Kept match.Kept        `json:"kept,omitempty" kept:"kept"` // as jobs of old said which housings are kept
	// How To connectors are met; those of which nothing is said as the kind has it.
	Met match.Meetings `json:"met,omitempty" kept:"met"`
	// The side of the vehicle's own wiring; empty as the kind has it.
	Vehicle   match.Side       `json:"vehicle,omitempty" kept:"vehicle"`
	Decisions []match.Decision `json:"decisions,omitempty" kept:"decision/Side/At.Connector/At.Cavity" said:"cavity"`

	Own  []OwnStep        `json:"own,omitempty" kept:"own/ID"`        // steps of the person's own
	Acks []finding.Answer `json:"acks,omitempty" kept:"answer/Key()"` // findings that somebody has answered

	Identity *gather.Identity `json:"identity,omitempty" kept:"identity"`
	// Open items of the identity's changes that are seen to.
	Items  map[string]bool `json:"items,omitempty" kept:"items"`
	Before *gather.Before  `json:"before,omitempty" kept:"before"`
	// By connector.
	Looked   map[string]gather.Looked           `json:"looked,omitempty" kept:"looked/*" said:"{0}"`
	Sheets   map[gather.SheetKind]*gather.Sheet `json:"sheets,omitempty" kept:"sheet/*" said:"the list of {0}"`
	Readings []gather.Measurement               `json:"readings,omitempty" kept:"reading/ID"`
	Traces   []gather.Trace                     `json:"traces,omitempty" kept:"trace/ID"`
	Photos   []Photo                            `json:"photos,omitempty" kept:"photo/ID"`
	Thin     []thin.Decision                    `json:"thin,omitempty" kept:"thin/On/ID" said:"{1}"`
	Bench    *thin.Bench                        `json:"bench,omitempty" kept:"bench"`
	Ticks    []work.Tick                        `json:"ticks,omitempty" kept:"tick/Step"`

	// By connector of the model: what its face is like.
	Layouts   map[string]*face.Layout `json:"layouts,omitempty" kept:"layout/*" said:"{0}"`
	Wishes    []pin.Wish              `json:"wishes,omitempty" kept:"wish/Step"`
	Exchanges []pin.Exchange          `json:"exchanges,omitempty" kept:"exchange/A.Connector/A.Cavity" said:"cavity"`
	Reports   []pin.Report            `json:"reports,omitempty" kept:"report/ID"`
	Checks    []pin.Check             `json:"checks,omitempty" kept:"check/At.Connector/At.Cavity" said:"cavity"`
	Have      map[string]bool         `json:"have,omitempty" kept:"have"` // parts and tools that are there

	Map    *route.Map    `json:"map,omitempty" kept:"map"`
	Rules  *reach.Rules  `json:"rules,omitempty" kept:"rules"`
	Places []route.Place `json:"places,omitempty" kept:"place/Thing.Kind/Thing.ID" said:"{1}"`
	// What was measured at wires.
	Lengths []reach.Measured `json:"lengths,omitempty" kept:"length/Wire" said:"{0}"`
	// What was decided about single wires in Reach.
	Spans    []reach.Wish     `json:"spans,omitempty" kept:"span/Wire" said:"{0}"`
	Options  []route.Option   `json:"options,omitempty" kept:"option/ID"`
	Leftover []reach.Leftover `json:"leftover,omitempty" kept:"leftover/ID"`
	// Disconnects that were taken.
	Partings []reach.Parting `json:"partings,omitempty" kept:"parting/Between.0/Between.1" said:"{0} from {1}"`

	Block *feed.Block `json:"block,omitempty" kept:"block"` // a fuse block of one's own
	// Fuses of the vehicle that are to be changed.
	Rated []feed.Rated `json:"rated,omitempty" kept:"rated/Fuse" said:"fuse {0}"`
	Feeds []FeedOption `json:"feeds,omitempty" kept:"feed/ID"` // ways to feed it that are compared

	// What is wanted and stated of what must work.
	Functions []join.FunctionWish `json:"functions,omitempty" kept:"function/Function" said:"{0}"`
	// When units work their outputs.
	OutRules []join.OutputRule `json:"outRules,omitempty" kept:"outrule/Output" said:"{0}"`
	// Parts that their sums ask for.
	Added []join.Added `json:"added,omitempty" kept:"part/ID" said:"{0}"`

	// What was measured at the finished harness.
	Proved []prove.MeterReading `json:"proved,omitempty" kept:"proved/ID" said:"{0}"`
	Gates  []prove.Passed       `json:"gates,omitempty" kept:"gate/Gate" said:"{0}"` // of powering up
	Mended []prove.Mend         `json:"mended,omitempty" kept:"mend/ID" said:"{0}"`  // faults that were found

	Program *prove.Programming `json:"program,omitempty" kept:"program"`    // what was written into the unit
	Notes   []prove.Note       `json:"notes,omitempty" kept:"note/ID"`      // what was heard, seen and changed
	Live    prove.Values       `json:"live,omitempty" kept:"live"`          // what the unit can be asked for
	Trained []prove.Trained    `json:"trained,omitempty" kept:"trained/ID"` // rounds of the trainer

	// What stays open, and whose it is.
	Left      []handover.Left      `json:"left,omitempty" kept:"left/Key"`
	Loans     []handover.Loan      `json:"loans,omitempty" kept:"loan/ID"`          // temporary, borrowed, put off
	Delivered []handover.Delivered `json:"delivered,omitempty" kept:"delivered/ID"` // states with a name
	Spent     []handover.Spent     `json:"spent,omitempty" kept:"spent/ID"`         // time that was noted
	// What is said of lines of the order list.
	Bought []handover.Bought `json:"bought,omitempty" kept:"bought/Key" said:"{0}"`
	// What hours and prices are reckoned with.
	Terms *handover.Terms `json:"terms,omitempty" kept:"terms"`
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
