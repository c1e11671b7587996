// Package papers makes what is printed and given away of a plan: what the book is made from and its tables, the sheets
// for those who work beside, the lists of what is open, and what is ordered and used. It computes nothing that the plan
// does not say, and knows how no page is drawn.
package papers

import (
	"cmp"
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/core/work"
)

// Book gives what the book is made from: the harness as it is wanted, which of it is so already, and what is known of
// its wires.
func Book(p *plan.Plan, f *fact.Facts) handover.Input {
	in := handover.Input{
		Harness:    p.Wanted,
		Now:        p.Past.Now,
		Connectors: f.Laid.Loom.Connectors,
		Devices:    f.Laid.Loom.Devices,
		Splices:    f.Laid.Loom.Splices,
		Wires:      map[harness.WireID]handover.Known{},
		Joints:     map[harness.JointID]handover.Joint{},
	}
	if f.Feed != nil {
		in.Inside = f.Feed.Inside
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		in.Wires[w.ID] = handover.Known{ID: w.ID, Conductor: w.Conductor, Mm: w.Length}
	}
	for name, l := range f.Parts {
		in.Wires[name] = handover.Known{
			ID:        name,
			Conductor: harness.Conductor{Function: l.Text, Signal: l.Signal, Size: l.Square},
			Mm:        l.Mm,
			New:       true,
		}
	}
	if p.Reach.Result == nil {
		return in
	}
	for i, w := range p.Reach.Result.Wires() {
		l := &p.Reach.Result.Lines[i]
		x := handover.Known{ID: w.ID, Conductor: w.Conductor, New: w.New, Mm: cmp.Or(l.Need, l.Had)}
		x.Size = cmp.Or(l.Size, w.Size)
		if !w.New && l.Had > 0 && l.By == 0 {
			x.Mm = l.Had
		}
		if l.Code != "" {
			x.Extended = "code " + l.Code
		}
		in.Wires[w.ID] = x
	}
	for _, j := range p.Reach.Result.Joints {
		in.Joints[j.ID] = handover.Joint{
			ID:    j.ID.Name(),
			How:   string(j.School),
			Place: fmt.Sprintf("%.0f mm from %s", j.At, j.From),
		}
	}
	return in
}

// OpenLists lists what has to end at zero, or with an owner, before the job is handed over.
func OpenLists(p *plan.Plan, f *fact.Facts, j *stored.Job) []handover.DueList {
	add := func(l *handover.DueList, key, text, at string) {
		l.Items = append(l.Items, handover.Due{Key: key, Text: text, At: at})
	}
	undecided := handover.DueList{ID: "undecided", Title: "Wires that are not decided"}
	for i := range p.Match.Lines {
		if l := &p.Match.Lines[i]; !l.Decided && l.From.Connector != "" {
			row, _ := f.From.Row(l.From)
			add(
				&undecided,
				"undecided "+l.From.String(),
				strings.TrimSpace(l.From.String()+" "+row.Function),
				"match?row="+url.QueryEscape("from "+l.From.String()),
			)
		}
	}
	steps := handover.DueList{ID: "steps", Title: "Work that is not done"}
	byStage := map[work.Stage]int{}
	var order []work.Stage
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		if _, done := p.Done(s.ID); done {
			continue
		}
		if byStage[s.Stage] == 0 {
			order = append(order, s.Stage)
		}
		byStage[s.Stage]++
	}
	for _, s := range order {
		words, has := map[work.Stage]string{work.Own: "your own"}[s]
		if !has {
			words = strings.ToUpper(string(s)[:1]) + string(s)[1:]
		}
		add(&steps, "steps "+string(s), fmt.Sprintf("steps of %s: %d", words, byStage[s]), "work?stage="+string(s))
	}
	found := handover.DueList{ID: "findings", Title: "Findings that can hurt, or will not work"}
	for _, x := range finding.Open(p.Findings) {
		if x.Severity == finding.Danger || x.Severity == finding.Wrong {
			found.Items = append(found.Items, handover.Due{Key: "finding " + x.Key(), Text: x.Text, Finding: &x})
		}
	}
	ends := handover.DueList{ID: "ends", Title: "Live stubs, parked and capped ends"}
	for _, l := range handover.Lengths(Book(p, f)) {
		for end, e := range l.Ends {
			if e.Dead != "" && e.Dead != "not followed" {
				add(
					&ends,
					fmt.Sprintf("end %d of %s", end+1, l.Name),
					fmt.Sprintf("%s, %s: %s", l.Name, cmp.Or(l.Function, "no function said"), e.Dead),
					"thin?sel=wire:"+url.QueryEscape(string(l.Whole())),
				)
			}
		}
	}
	named := handover.DueList{ID: "unverified", Title: "Wires of the vehicle that nobody has measured"}
	for _, n := range NamedWires(p, f) {
		if !n.Measured {
			add(&named, "unverified "+n.At.String(), fmt.Sprintf("%s %s", n.At, n.Row.Function), "join?part=work")
		}
	}
	gates := handover.DueList{ID: "gates", Title: "Gates of powering up that are not passed"}
	for _, g := range prove.Gates() {
		if f.Feed != nil && !slices.ContainsFunc(j.Gates, func(x prove.Passed) bool { return x.Gate == g.ID }) {
			add(&gates, "gate "+g.ID, g.Title, "prove?part=power")
		}
	}
	seen := map[string]int{} // findings of one kind about one thing are told apart by their order
	for i := range found.Items {
		key := &found.Items[i].Key
		if seen[*key]++; seen[*key] > 1 {
			*key = fmt.Sprintf("%s, %d", *key, seen[*key])
		}
	}
	return append([]handover.DueList{undecided, steps, found, ends, named, gates}, handover.Loans(j.Loans)...)
}

// BookSections gives the tables of the book that follow from the plan and the job beside the harness itself:
// settings, what was measured, what was answered, what was done otherwise, what is open and whose it is, the states
// that were handed over.
func BookSections(p *plan.Plan, j *stored.Job, lists []handover.DueList) []handover.Section {
	settings := handover.Section{
		Title: "Settings of the unit, and its programming",
		Head:  []string{"what it is to be set to", "done"},
		Share: []float64{90, 10},
		Empty: "Nothing is to be set.",
	}
	for _, s := range p.Settings() {
		done := ""
		if j.Program != nil && slices.Contains(j.Program.Ticked, s) {
			done = "done"
		}
		settings.Rows = append(settings.Rows, []string{s, done})
	}
	if x := j.Program; x != nil {
		for _, f := range []struct {
			what string
			mark prove.FileMark
		}{{"backup", x.Backup}, {"written", x.Written}} {
			settings.Rows = append(
				settings.Rows,
				[]string{
					strings.TrimSpace(fmt.Sprintf("%s: %s %s %s", f.what, f.mark.Name, f.mark.Date, f.mark.Hash)),
					"",
				},
			)
		}
		for _, c := range [][2]string{{"codes before", strings.Join(x.Before, " ")},
			{"codes after", strings.Join(x.After, " ")}} {
			settings.Rows = append(settings.Rows, []string{c[0] + ": " + c[1], ""})
		}
	}
	measured := handover.Section{
		Title: "Measured",
		Head:  []string{"what", "vehicle", "read", "who"},
		Share: []float64{40, 35, 12, 13},
		Empty: "Nothing was measured at the finished harness.",
	}
	for i := range j.Proved {
		r := &j.Proved[i]
		l := prove.SheetLine{Measure: r.Measure}
		value := fmt.Sprintf("%.3g", r.Value)
		switch {
		case r.Kind == prove.Works:
			value = map[float64]string{0: "does not work", 1: "works"}[r.Value]
		case r.Over:
			value = "OL"
		}
		measured.Rows = append(measured.Rows, []string{l.Text(), r.Setup.String(), value, r.Who})
	}
	answered := handover.Section{
		Title: "Known, and answered",
		Head:  []string{"finding", "why it may stand", "who"},
		Share: []float64{52, 36, 12},
		Empty: "No finding was answered.",
	}
	for _, x := range p.Findings {
		if x.Answer != nil {
			answered.Rows = append(answered.Rows, []string{x.Text, x.Answer.Reason, x.Answer.Who})
		}
	}
	otherwise := handover.Section{
		Title: "Done otherwise, found, mended, noted",
		Head:  []string{"what", "how", "who"},
		Share: []float64{55, 33, 12},
		Empty: "Everything was done as planned.",
	}
	for i := range j.Ticks {
		if t := &j.Ticks[i]; t.Kind == "otherwise" {
			otherwise.Rows = append(otherwise.Rows, []string{t.Text, "", t.Who})
		}
	}
	for i := range j.Mended {
		otherwise.Rows = append(otherwise.Rows, []string{j.Mended[i].Text, j.Mended[i].Did, j.Mended[i].Who})
	}
	for i := range j.Notes {
		otherwise.Rows = append(otherwise.Rows, []string{j.Notes[i].Text, string(j.Notes[i].Kind), j.Notes[i].Who})
	}
	open := handover.Section{
		Title: "Open, and whose it is",
		Head:  []string{"list", "what", "owner", "why"},
		Share: []float64{20, 50, 12, 18},
		Empty: "Nothing is open.",
	}
	for i := range lists {
		for _, x := range lists[i].Items {
			row := []string{lists[i].Title, x.Text, "nobody", ""}
			if x.Left != nil {
				row[2], row[3] = x.Left.Owner, x.Left.Reason
			}
			open.Rows = append(open.Rows, row)
		}
	}
	states := handover.Section{
		Title: "Handed over",
		Head:  []string{"state", "revision", "hash", "open", "why", "who"},
		Share: []float64{28, 9, 16, 7, 28, 12},
		Empty: "It has not been handed over.",
	}
	for i := range j.Delivered {
		d := &j.Delivered[i]
		states.Rows = append(
			states.Rows,
			[]string{d.Name, fmt.Sprint(d.Revision), d.Hash, fmt.Sprint(d.Open), d.Reason, d.Who},
		)
	}
	return []handover.Section{settings, measured, answered, otherwise, open, states}
}

// Sources gives where the book's facts come from: tables with their trust, lists, the vehicles.
func Sources(j *stored.Job) [][2]string {
	out := [][2]string{{"donor", j.Donor}, {"chassis", j.Chassis}, {"kind of job", string(j.Kind)}}
	if j.Identity != nil {
		u := j.Identity.Unit
		out = append(out, [2]string{"control unit", strings.TrimSpace(u.Hardware + " " + u.Service)})
		if j.Identity.FiringOrder != "" {
			out = append(out, [2]string{"firing order", j.Identity.FiringOrder})
		}
		for _, s := range j.Identity.Sources {
			out = append(out, [2]string{s.Name, strings.TrimSpace(s.Gives + " " + s.Year + " " + s.Variant)})
		}
	}
	for _, t := range []*stored.Table{j.From, j.To} {
		if t != nil {
			out = append(
				out,
				[2]string{"pinout " + t.Name, fmt.Sprintf("%s, %s, trust: %s", t.Source, t.Date, t.Trust)},
			)
		}
	}
	for _, kind := range slices.Sorted(maps.Keys(j.Sheets)) {
		if s := j.Sheets[kind]; s != nil {
			out = append(out, [2]string{"list of " + string(kind), s.Source})
		}
	}
	return out
}

// Compared gives what a state of the job is compared by.
func Compared(p *plan.Plan, f *fact.Facts) handover.State {
	s := handover.State{Lengths: handover.Lengths(Book(p, f)), Settings: p.Settings(), Decisions: map[string]string{}}
	for i := range p.Match.Lines {
		l := &p.Match.Lines[i]
		if !l.Decided || l.From.Connector == "" {
			continue
		}
		text := string(l.Verdict)
		if l.To.Connector != "" {
			text += " " + l.To.String()
		}
		s.Decisions[l.From.String()] = text
	}
	return s
}
