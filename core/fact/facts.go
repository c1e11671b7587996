// Package fact reads what is kept of a job as the facts that its plan rests on: both tables with what was measured
// outranking them, the harness laid between their connectors, how each To connector is met, and what stands in the
// vehicle beside its wires. It also says what of an earlier job holds for another.
package fact

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/stored"
	"draxel/core/thin"
)

// Facts are what was found.
type Facts struct {
	Kind     stored.Kind
	From, To harness.Pinout
	Meetings match.Meetings // how each To connector is met
	Vehicle  match.Side     // whose wiring is the vehicle's own
	Laid     gather.Laid
	Records  map[string]thin.Record // what was noted at each connector
	Measured map[harness.Ref]bool   // cavities at which a reading fits what the wire is said to be
	Against  map[harness.Ref]bool   // cavities at which a reading contradicts that
	Drops    []gather.Drop          // what stands before cavities that were read bare and loaded
	Worked   map[string]string      // by function: whether it worked before the work began
	// What the vehicle will have.
	Cylinders  int
	Alternator string
	Gearbox    []string          // what a change of gearbox brings with it and nobody has seen to
	Findings   []finding.Finding // what is wrong or doubtful in the facts themselves
	// What must be settled before the first cut, whatever is cut: it holds the gate.
	Unsettled []string
	Log       []gather.Unplugged                // what was unplugged to see what happens
	Feed      *feed.Facts                       // what stands in the vehicle beside its wires, nil where nobody has said
	Parts     map[harness.WireID]network.Length // what the wires of added parts are
}

// Of reads the job's tables, lets what was measured outrank them, and lays the harness. A side that has no table
// is an empty pinout.
func Of(j stored.Job) (Facts, error) {
	j = j.WithIDs()
	f := Facts{Kind: j.Kind, Vehicle: j.Vehicle, Findings: stored.Asides(j.Aside)}
	if j.Carried != nil {
		f.Findings = append(f.Findings, j.Carried.Findings()...)
	}
	if f.Vehicle == "" {
		f.Vehicle = j.Kind.Vehicle()
	}
	for _, side := range []struct {
		table *stored.Table
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
	if err := f.together(j.More); err != nil {
		return f, err
	}
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
		return f, err
	}
	f.facing()
	if lists := j.FeedLists(); len(lists) > 0 {
		lists[feed.Switches] = f.keyContacts(j.Readings, lists[feed.Switches])
		facts := feed.Read(lists)
		f.Feed = &facts
	}
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
	return f, nil
}

// together lays the further pinouts beside those of the two sides.
func (f *Facts) together(more map[string]*stored.Table) error {
	of := map[match.Side][]harness.Pinout{}
	for _, key := range slices.Sorted(maps.Keys(more)) {
		t := more[key]
		if t == nil {
			continue
		}
		p, _, err := t.Read()
		if err != nil {
			return err
		}
		side := match.From
		if t.With == match.To {
			side = match.To
		}
		of[side] = append(of[side], p)
	}
	var found []finding.Finding
	f.From, found = gather.Together(string(match.From), f.From, of[match.From]...)
	f.Findings = append(f.Findings, found...)
	f.To, found = gather.Together(string(match.To), f.To, of[match.To]...)
	f.Findings = append(f.Findings, found...)
	return nil
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
