package fact

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/part"
	"draxel/core/stored"
	"draxel/core/vehicle"
)

// Of reads a job as facts.
func Of(j stored.Job) (Facts, error) {
	f, err := Read(j, nil)
	return *f.Facts, err
}

// Read reads the job's tables, lets what was measured outrank them, and lays the harness. A side that has no table
// is an empty pinout. What is the same as it was when the memory, which may be nil, last saw it is not read again.
func Read(j stored.Job, m *part.Memory) (Found, error) {
	j = j.WithIDs()
	tables := part.Of(m, "tables", tableReads{Tables: sides{From: j.From, To: j.To, More: j.More}}, readTables)
	if tables.err != nil {
		return Found{Facts: &Facts{}}, tables.err
	}
	bare := part.Of(m, "found", foundReads{Tables: tables, Job: j.Found()}, found)
	if bare.err != nil {
		return Found{Facts: bare.facts}, bare.err
	}
	lists := part.Of(m, "lists", listReads{Sheets: j.FeedSheets()}, readLists)
	if lists.err != nil {
		return Found{Facts: bare.facts}, lists.err
	}
	stands := part.Of(m, "stands", standReads{Found: bare.facts, Lists: lists, Readings: j.Readings}, standing)
	f := *bare.facts
	f.Feed = stands.facts
	return Found{&f, bare.facts}, nil
}

type tableReads struct{ Tables sides }

// sides are the tables of a job: of both sides, nil where there is none, and the further ones.
type sides struct {
	From, To *stored.Table
	More     map[string]*stored.Table
}

// tables are the pinouts of both sides, the further ones laid beside them, and how their tables were read.
type tables struct {
	From, To harness.Pinout
	Readings map[match.Side]gather.Reading
	Findings []finding.Finding
	err      error
}

func readTables(r tableReads) *tables {
	t := &tables{Readings: map[match.Side]gather.Reading{}}
	for _, side := range []struct {
		name  match.Side
		table *stored.Table
		out   *harness.Pinout
	}{{match.From, r.Tables.From, &t.From}, {match.To, r.Tables.To, &t.To}} {
		if side.table == nil {
			continue
		}
		if *side.out, t.Readings[side.name], t.err = side.table.Read(); t.err != nil {
			return t
		}
	}
	t.err = t.together(r.Tables.More)
	return t
}

// together lays the further pinouts beside those of the two sides.
func (t *tables) together(more map[string]*stored.Table) error {
	of := map[match.Side][]harness.Pinout{}
	for _, key := range slices.Sorted(maps.Keys(more)) {
		x := more[key]
		if x == nil {
			continue
		}
		p, _, err := x.Read()
		if err != nil {
			return err
		}
		side := match.From
		if x.With == match.To {
			side = match.To
		}
		of[side] = append(of[side], p)
	}
	var found []finding.Finding
	t.From, found = gather.Together(string(match.From), t.From, of[match.From]...)
	t.Findings = append(t.Findings, found...)
	t.To, found = gather.Together(string(match.To), t.To, of[match.To]...)
	t.Findings = append(t.Findings, found...)
	return nil
}

type foundReads struct {
	Tables *tables
	Job    stored.Job // what was found alone
}

// read is facts, or why there are none.
type read struct {
	facts *Facts
	err   error
}

// found gives the facts but for what stands in the vehicle beside its wires.
func found(r foundReads) *read {
	j, t := r.Job, r.Tables
	f := &Facts{Kind: j.Kind, Vehicle: j.Vehicle, Findings: stored.Asides(j.Aside), Readings: t.Readings, From: t.From,
		To: t.To}
	if j.Carried != nil {
		f.Findings = append(f.Findings, j.Carried.Findings()...)
	}
	if f.Vehicle == "" {
		f.Vehicle = j.Kind.Vehicle()
	}
	f.Findings = append(f.Findings, t.Findings...)
	f.Meetings = j.Meetings(f.From, f.To)
	f.outrank(j.Readings)
	f.identify(j)
	if j.Before != nil || len(j.Looked) > 0 {
		b := gather.Before{}
		if j.Before != nil {
			b = *j.Before
		}
		f.Findings = append(f.Findings, gather.CheckBefore(b, j.Looked)...)
		f.Log = b.Unplugged
	}
	f.wear(j.Layouts)
	f.From, f.To = f.From.Findable(), f.To.Findable()
	if err := f.lay(j); err != nil {
		return &read{f, err}
	}
	f.facing()
	f.wearLoom(j.Layouts)
	f.Records = j.Records()
	f.Worked = worked(j.Before)
	for _, item := range j.OpenItems() {
		if item.Of == "gearbox" {
			f.Gearbox = append(f.Gearbox, item.Do+" "+item.Text)
		}
	}
	if j.Identity != nil {
		f.Cylinders, f.Alternator = j.Identity.Cylinders, j.Identity.Alternator.Will
	}
	f.Drops = gather.Drops(j.Readings)
	f.settle(j.Readings)
	return &read{facts: f}
}

type listReads struct {
	Sheets map[gather.SheetKind]*gather.Sheet
}

// lists are those of what stands in the vehicle, or why one cannot be read.
type lists struct {
	lines map[string][]vehicle.Line
	err   error
}

func readLists(r listReads) *lists {
	out := &lists{}
	out.lines, out.err = stored.FeedLists(r.Sheets)
	return out
}

type standReads struct {
	Found    *Facts
	Lists    *lists
	Readings []gather.Measurement
}

// stands is what stands in the vehicle beside its wires, nil where nobody has said.
type stands struct{ facts *vehicle.Facts }

func standing(r standReads) *stands {
	if len(r.Lists.lines) == 0 {
		return &stands{}
	}
	lines := maps.Clone(r.Lists.lines)
	lines[vehicle.Switches] = r.Found.keyContacts(r.Readings, lines[vehicle.Switches])
	facts := vehicle.Read(lines)
	return &stands{&facts}
}

// outrank lets readings outrank the pinout that has their connector.
func (f *Facts) outrank(all []gather.Measurement) {
	var from, to []gather.Measurement
	for _, m := range all {
		if _, ok := f.From.Connector(m.At.Connector); ok {
			from = append(from, m)
			continue
		}
		for _, c := range f.To.Connectors {
			if m.At.Connector == f.theirs(c.ID) {
				m.At.Connector = c.ID
			}
		}
		to = append(to, m)
	}
	var overturned []finding.Finding
	f.From, overturned = gather.Outrank(f.From, string(match.From), from)
	f.Findings = append(f.Findings, overturned...)
	f.To, overturned = gather.Outrank(f.To, string(match.To), to)
	f.Findings = append(f.Findings, overturned...)
}

// lay puts together what lies between the connectors. Of the To side that is what stays with its wires or plugs on; the
// rest is only what the finished harness must fill.
func (f *Facts) lay(j stored.Job) error {
	s := gather.Structure{
		Pinouts:  []harness.Pinout{f.From},
		Sheets:   map[gather.SheetKind]gather.SheetReading{},
		Habit:    f.From.Habit,
		Traces:   j.Traces,
		Readings: j.Readings,
	}
	if j.Identity != nil {
		s.Sources = j.Identity.Sources
	}
	if there := f.there(); len(there.Connectors) > 0 {
		s.Pinouts = append(s.Pinouts, there)
	}
	for kind, sheet := range j.Sheets {
		if sheet == nil {
			continue
		}
		r, err := gather.ReadSheet(kind, *sheet)
		if err != nil {
			return fmt.Errorf("read the list of %s: %w", kind, err)
		}
		s.Sheets[kind] = r
		if kind == gather.WireList {
			s.Habit = sheet.Habit(r)
		}
	}
	f.Laid = gather.Lay(s)
	f.Findings = append(f.Findings, f.Laid.Findings...)
	return nil
}

// worked gives by function whether it worked before the work began, as the baseline has it in words.
func worked(b *gather.Before) map[string]string {
	out := map[string]string{}
	if b == nil {
		return out
	}
	for _, x := range b.Baseline {
		f, known := join.FunctionNamed(x.Function)
		if !known {
			continue
		}
		switch x.Works {
		case gather.DidWork:
			out[f.ID] = "worked"
		case gather.DidNot:
			out[f.ID] = "did not"
		}
	}
	return out
}
