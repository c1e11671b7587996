package prove

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"draxel/core/finding"
)

// FileMark tells a file that was read out of a unit, or written into it.
type FileMark struct {
	Name string `json:"name,omitempty"`
	Hash string `json:"hash,omitempty"` // SHA-256 or whatever the tool gives, as letters and digits
	Date string `json:"date,omitempty"` // ISO 8601
}

// there says whether anything is said of the file.
func (f FileMark) there() bool { return f != FileMark{} }

// lacks says what a file's mark lacks.
func (f FileMark) lacks() string {
	switch {
	case strings.TrimSpace(f.Name) == "":
		return "its name"
	case len(f.Hash) < 8:
		return "its hash, of at least 8 digits"
	case f.Date == "":
		return "its date"
	}
	return ""
}

// isoDate is a day as ISO 8601 writes it.
var isoDate = regexp.MustCompile(`^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$`)

func (f FileMark) check(what string) error {
	if len(f.Name) > 200 || len(f.Hash) > 200 {
		return fmt.Errorf("the name and the hash of %s have at most 200 letters", what)
	}
	if f.Hash != "" && strings.Trim(strings.ToLower(f.Hash), "0123456789abcdefghijklmnopqrstuvwxyz+/=-") != "" {
		return fmt.Errorf("a hash of %s is letters and digits", what)
	}
	if f.Date != "" && !isoDate.MatchString(f.Date) {
		return fmt.Errorf("the date of %s is written 2026-11-20", what)
	}
	return nil
}

// Programming is the record of what was written into the unit: open until it is done.
type Programming struct {
	Backup   FileMark `json:"backup,omitzero"`    // what was in it before
	Written  FileMark `json:"written,omitzero"`   // what went in
	Verified bool     `json:"verified,omitempty"` // its checksum is right
	ReadBack bool     `json:"readBack,omitempty"` // read back, and the same
	Before   []string `json:"before,omitempty"`   // codes before
	After    []string `json:"after,omitempty"`    // codes after
	Ticked   []string `json:"ticked,omitempty"`   // settings of the sheet that are done, by their text
	Done     bool     `json:"done,omitempty"`
	Who      string   `json:"who,omitempty"`
	When     int64    `json:"when,omitempty"` // Unix milliseconds
}

// mostCodes bounds the codes, and the settings, that a record has.
const mostCodes = 200

// Check says why a record cannot be: nothing is written into a unit of which there is no backup with name, hash and
// date.
func (p *Programming) Check() error {
	if err := cmp.Or(p.Backup.check("the backup"), p.Written.check("what was written")); err != nil {
		return err
	}
	if len(p.Before) > mostCodes || len(p.After) > mostCodes || len(p.Ticked) > mostCodes {
		return fmt.Errorf("at most %d codes and settings", mostCodes)
	}
	for _, c := range slices.Concat(p.Before, p.After) {
		if !IsCode(c) {
			return fmt.Errorf("a code is a letter and four digits, P0201, and %.20q is none", c)
		}
	}
	for _, t := range p.Ticked {
		if len(t) > 600 {
			return fmt.Errorf("a setting has at most 600 letters")
		}
	}
	if lacks := p.Backup.lacks(); p.Written.there() && lacks != "" {
		return fmt.Errorf("a backup comes before anything is written: it lacks %s", lacks)
	}
	if !p.Written.there() && (p.Verified || p.ReadBack) {
		return fmt.Errorf("say what was written before it is verified")
	}
	return nil
}

// Lacks says what is still to be done before the record can be closed. Settings are those of the programmer's sheet.
func (p *Programming) Lacks(settings []string) []string {
	var out []string
	add := func(is bool, text string) {
		if is {
			out = append(out, text)
		}
	}
	add(p.Backup.lacks() != "", "a backup with name, hash and date")
	add(p.Written.lacks() != "", "what was written, with name, hash and date")
	add(!p.Verified, "its checksum verified")
	add(!p.ReadBack, "read back and compared")
	left := 0
	for _, s := range settings {
		if !slices.Contains(p.Ticked, s) {
			left++
		}
	}
	add(left > 0, fmt.Sprintf("%d of %d settings", left, len(settings)))
	return out
}

// NoteKind says what a Note is about.
type NoteKind string

// The kinds of notes.
const (
	Heard   NoteKind = "heard"
	Seen    NoteKind = "seen"
	Changed NoteKind = "changed"
	Tested  NoteKind = "tested" // tried, without a number
)

// NoteKinds lists the kinds of notes.
func NoteKinds() []NoteKind { return []NoteKind{Heard, Seen, Changed, Tested} }

// Note is what was heard, seen, changed or tried.
type Note struct {
	ID   string   `json:"id"`
	Kind NoteKind `json:"kind"`
	Text string   `json:"text"`
	Who  string   `json:"who,omitempty"`
	When int64    `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a note cannot be.
func (n *Note) Check() error {
	switch {
	case n.ID == "" || len(n.ID) > 40:
		return fmt.Errorf("a note has a name")
	case !slices.Contains(NoteKinds(), n.Kind):
		return fmt.Errorf("a note is of what was heard, seen, changed or tested, and not %q", n.Kind)
	case strings.TrimSpace(n.Text) == "" || len(n.Text) > 600:
		return fmt.Errorf("say it in at most 600 letters")
	}
	return nil
}

// Decisions is what Prove has of a job.
type Decisions struct {
	Readings []MeterReading
	Mended   []Mend
	Gates    []Passed
	Notes    []Note
	Program  *Programming
}

// TwoChanges finds changes between which nothing was tested: of two at once nobody knows which one helped. A mend is
// a change, and a reading, a passed gate and a test are tests.
func (d *Decisions) TwoChanges() []finding.Finding {
	type event struct {
		when   int64
		change string
	}
	var all []event
	for i := range d.Notes {
		n := &d.Notes[i]
		switch n.Kind {
		case Changed:
			all = append(all, event{n.When, n.Text})
		case Tested:
			all = append(all, event{n.When, ""})
		}
	}
	for i := range d.Mended {
		all = append(all, event{d.Mended[i].When, cmp.Or(d.Mended[i].Did, d.Mended[i].Text)})
	}
	for i := range d.Readings {
		all = append(all, event{d.Readings[i].When, ""})
	}
	for i := range d.Gates {
		all = append(all, event{d.Gates[i].When, ""})
	}
	slices.SortStableFunc(all, func(a, b event) int { return cmp.Compare(a.when, b.when) })
	var out []finding.Finding
	last := ""
	for _, e := range all {
		if e.change != "" && last != "" {
			out = append(
				out,
				finding.Finding{Code: "two-changes", Place: finding.Place{Part: "records"},
					Severity: finding.Check, Stage: "prove", Subject: e.change,
					Text: fmt.Sprintf("“%s” and “%s” were changed with no test between them.", last, e.change),
					Remedy: "One change at a time: take the second back, test, then make it again; or say why both " +
						"belong together."},
			)
		}
		last = e.change
	}
	return out
}

// Open finds what stands open in the records: a programming that was begun and not closed, and codes that are stored
// after it and that nothing which was given up raises. Settings are those of the programmer's sheet, expected the
// codes of what was given up.
func (d *Decisions) Open(settings, expected []string) []finding.Finding {
	out := d.TwoChanges()
	if p := d.Program; p != nil && !p.Done {
		text := "The programming is begun and not closed."
		if lacks := p.Lacks(settings); len(lacks) > 0 {
			text = "The programming is begun and not closed: it lacks " + strings.Join(lacks, "; ") + "."
		}
		out = append(
			out,
			finding.Finding{Code: "record-open", Place: finding.Place{Part: "records"},
				Severity: finding.Check, Stage: "prove", Subject: "programming",
				Text: text, Remedy: "Close its record in Prove, under Programming."},
		)
	}
	if d.Program != nil {
		for _, code := range d.Program.After {
			if !slices.Contains(expected, code) {
				out = append(
					out,
					finding.Finding{Code: "code-after", Place: finding.Place{Part: "unit"},
						Severity: finding.Check, Stage: "prove", Subject: code,
						Text: strings.TrimSpace(
							code+" "+CodeText(code),
						) + " is stored after the programming, and nothing that was given up, goes or stays away raises it.",
						Remedy: "Read the codes in Prove, Unit and rig: one that is about an output can be taken as " +
							"a symptom."},
				)
			}
		}
	}
	for i := range d.Gates {
		if g := &d.Gates[i]; g.Reason != "" {
			out = append(
				out,
				finding.Finding{Code: "gate-stands", Place: finding.Place{Part: "power"},
					Severity: finding.Note, Stage: "prove", Subject: g.Gate,
					Text: fmt.Sprintf(
						"“%s” was passed with a reason: %s.",
						titleOf(g.Gate),
						strings.TrimRight(g.Reason, ". "),
					)},
			)
		}
	}
	return out
}

// titleOf gives the words of a gate.
func titleOf(gate string) string {
	for i := range gates {
		if gates[i].ID == gate {
			return gates[i].Title
		}
	}
	return gate
}

// mostOut bounds the readings out of band of which each is a finding of its own.
const mostOut = 20

// OutOfBand finds readings that disagree with the vehicle, those that were taken since the last mend.
func (v *Vehicle) OutOfBand(d *Decisions) []finding.Finding {
	var out []finding.Finding
	more := 0
	for _, r := range Since(d.Readings, d.Mended) {
		x, err := v.Expect(&r.Measure)
		if err != nil {
			continue
		}
		band := BandOf(&r.Measure, x)
		if band.Fits(&r) {
			continue
		}
		if len(out) == mostOut {
			more++
			continue
		}
		l := SheetLine{Measure: r.Measure}
		text := fmt.Sprintf("%s, %s: %s, and it has to be %s.", l.Text(), r.Setup, told(&r), band.words(r.Kind))
		if r.Kind == Works {
			text = fmt.Sprintf("%s %s, %s.", r.A, told(&r), r.Setup)
		}
		out = append(
			out,
			finding.Finding{
				Code: "out-of-band", Place: finding.Place{Part: "fault"},
				Severity: finding.Wrong,
				Stage:    "prove",
				Subject:  r.ID,
				Name:     l.Text(),
				Text:     text,
				Remedy:   "Find the fault: Prove says what could be wrong, and what to measure next.",
			},
		)
	}
	if more > 0 {
		out[len(out)-1].Text += fmt.Sprintf(" %d more are out of band.", more)
	}
	return out
}

// told gives a reading in words.
func told(r *MeterReading) string {
	switch {
	case r.Kind == Works && r.Value == 1:
		return "works, and should not"
	case r.Kind == Works:
		return "does not work"
	case r.Over:
		return "nothing between the two"
	case r.Kind == Ohms:
		return fmt.Sprintf("%.3g Ω", r.Value)
	}
	return fmt.Sprintf("%.3g V", r.Value)
}

// words gives a band in words.
func (b Band) words(k Kind) string {
	unit := map[Kind]string{Ohms: "Ω", Volts: "V"}[k]
	if b.Over {
		return "nothing between the two"
	}
	return fmt.Sprintf("%.3g to %.3g %s", b.Least, b.Most, unit)
}
