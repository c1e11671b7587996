package store

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"draxel/core/face"
	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/stored"
)

// jobPuts gives the subjects of a whole job.
func jobPuts(j stored.Job) ([]Put, error) {
	p := puts{}
	p.add(SubjectJob, Head{j.Title, j.Kind, j.Donor, j.Chassis, j.OneScheme}, true)
	p.add(SubjectTable(match.From), j.From, j.From != nil)
	p.add(SubjectTable(match.To), j.To, j.To != nil)
	for key, t := range j.More {
		p.add(SubjectFurther(key), t, t != nil)
	}
	p.add(SubjectKept, j.Kept, j.Kept != nil)
	p.add(SubjectMet, j.Met, j.Met != nil)
	p.add(SubjectVehicle, j.Vehicle, j.Vehicle != "")
	for i, x := range j.Aside {
		p.add(fmt.Sprintf("%s%04d", asides, i), x, true)
	}
	for _, x := range j.Own {
		p.add(SubjectOwn(x.ID), x, true)
	}
	for _, x := range j.Acks {
		p.add(SubjectAnswer(x.Key()), x, true)
	}
	p.add(SubjectIdentity, j.Identity, j.Identity != nil)
	p.add(SubjectItems, j.Items, len(j.Items) > 0)
	p.add(SubjectBefore, j.Before, j.Before != nil)
	p.add(SubjectBench, j.Bench, j.Bench != nil)
	p.add(SubjectHave, j.Have, len(j.Have) > 0)
	p.add(SubjectMap, j.Map, j.Map != nil)
	p.add(SubjectRules, j.Rules, j.Rules != nil)
	for _, x := range j.Places {
		p.add(SubjectPlace(x.Thing), x, true)
	}
	for _, x := range j.Lengths {
		p.add(SubjectLength(x.Wire), x, true)
	}
	for _, x := range j.Spans {
		p.add(SubjectSpan(x.Wire), x, true)
	}
	for _, x := range j.Options {
		p.add(SubjectOption(x.ID), x, true)
	}
	for _, x := range j.Partings {
		p.add(SubjectParting(x.Between), x, true)
	}
	p.add(SubjectBlock, j.Block, j.Block != nil)
	for _, x := range j.Rated {
		p.add(SubjectRated(x.Fuse), x, true)
	}
	for _, x := range j.Functions {
		p.add(SubjectFunction(x.Function), x, true)
	}
	for _, x := range j.OutRules {
		p.add(SubjectOutRule(x.Output), x, true)
	}
	for _, x := range j.Added {
		p.add(SubjectAdded(x.ID), x, true)
	}
	for _, x := range j.Proved {
		p.add(SubjectProved(x.ID), x, true)
	}
	for _, x := range j.Gates {
		p.add(SubjectGate(x.Gate), x, true)
	}
	for _, x := range j.Mended {
		p.add(SubjectMend(x.ID), x, true)
	}
	for _, x := range j.Notes {
		p.add(SubjectNote(x.ID), x, true)
	}
	for _, x := range j.Trained {
		p.add(SubjectTrained(x.ID), x, true)
	}
	for _, x := range j.Left {
		p.add(SubjectLeft(x.Key), x, true)
	}
	for _, x := range j.Loans {
		p.add(SubjectLoan(x.ID), x, true)
	}
	for _, x := range j.Delivered {
		p.add(SubjectDelivered(x.ID), x, true)
	}
	for _, x := range j.Spent {
		p.add(SubjectSpent(x.ID), x, true)
	}
	for _, x := range j.Bought {
		p.add(SubjectBought(x.Key), x, true)
	}
	p.add(SubjectTerms, j.Terms, j.Terms != nil)
	p.add(SubjectCarried, j.Carried, j.Carried != nil)
	p.add(SubjectArchived, j.Archived, j.Archived)
	p.add(SubjectProgram, j.Program, j.Program != nil)
	p.add(SubjectLive, j.Live, len(j.Live) > 0)
	for _, x := range j.Feeds {
		p.add(SubjectFeed(x.ID), x, true)
	}
	for _, x := range j.Leftover {
		p.add(SubjectLeftover(x.ID), x, true)
	}
	for id, l := range j.Layouts {
		p.add(SubjectLayout(id), l, l != nil)
	}
	for _, w := range j.Wishes {
		p.add(SubjectWish(w.Step), w, true)
	}
	for _, x := range j.Exchanges {
		p.add(SubjectExchange(x.A), x, true)
	}
	for _, r := range j.Reports {
		p.add(SubjectReport(r.ID), r, true)
	}
	for _, c := range j.Checks {
		p.add(SubjectCheck(c.At), c, true)
	}
	for _, d := range j.Decisions {
		p.add(SubjectDecision(d.Side, d.At), d, true)
	}
	for kind, s := range j.Sheets {
		p.add(SubjectSheet(kind), s, s != nil)
	}
	for id, l := range j.Looked {
		p.add(SubjectLooked(id), l, true)
	}
	for _, r := range j.Readings {
		p.add(SubjectReading(r.ID), r, true)
	}
	for _, t := range j.Traces {
		p.add(SubjectTrace(t.ID), t, true)
	}
	for _, x := range j.Photos {
		p.add(SubjectPhoto(x.ID), x, true)
	}
	for _, d := range j.Thin {
		p.add(SubjectThin(d.On, d.ID), d, true)
	}
	for _, t := range j.Ticks {
		p.add(SubjectTick(t.Step), t, true)
	}
	slices.SortFunc(p.all, func(a, b Put) int { return strings.Compare(a.Subject, b.Subject) })
	return p.all, p.failed
}

type puts struct {
	all    []Put
	failed error
}

func (p *puts) add(subject string, v any, there bool) {
	if !there || p.failed != nil {
		return
	}
	body, err := json.Marshal(v)
	p.failed = err
	p.all = append(p.all, Put{subject, body, Any})
}

// take puts a subject into the job.
func (s *State) take(name string, body []byte) error {
	j := &s.Job
	into := func(v any) error { return stored.Keep(body, v) }
	switch name {
	case SubjectJob:
		var h Head
		err := into(&h)
		j.Title, j.Kind, j.Donor, j.Chassis, j.OneScheme = h.Title, h.Kind, h.Donor, h.Chassis, h.OneScheme
		return err
	case SubjectKept:
		return value(body, &j.Kept)
	case SubjectMet:
		return value(body, &j.Met)
	case SubjectVehicle:
		return value(body, &j.Vehicle)
	case SubjectIdentity:
		return field(body, &j.Identity)
	case SubjectItems:
		return value(body, &j.Items)
	case SubjectBefore:
		return field(body, &j.Before)
	case SubjectBlock:
		return field(body, &j.Block)
	case SubjectProgram:
		return field(body, &j.Program)
	case SubjectArchived:
		return value(body, &j.Archived)
	case SubjectTerms:
		return field(body, &j.Terms)
	case SubjectCarried:
		return field(body, &j.Carried)
	case SubjectLive:
		return value(body, &j.Live)
	case SubjectBench:
		return field(body, &j.Bench)
	case SubjectHave:
		return value(body, &j.Have)
	case SubjectMap:
		return field(body, &j.Map)
	case SubjectRules:
		return field(body, &j.Rules)
	case SubjectTable(match.From):
		return field(body, &j.From)
	case SubjectTable(match.To):
		return field(body, &j.To)
	}
	kind, rest, _ := strings.Cut(name, "/")
	switch kind + "/" {
	case tables:
		if j.More == nil {
			j.More = map[string]*stored.Table{}
		}
		var t stored.Table
		err := into(&t)
		if err == nil {
			j.More[rest] = &t
		}
		return err
	case decisions:
		return one(body, &j.Decisions)
	case readings:
		return one(body, &j.Readings)
	case traces:
		return one(body, &j.Traces)
	case photos:
		return one(body, &j.Photos)
	case thinned:
		return one(body, &j.Thin)
	case ticks:
		return one(body, &j.Ticks)
	case asides:
		return one(body, &j.Aside)
	case owns:
		return one(body, &j.Own)
	case answers:
		return one(body, &j.Acks)
	case wishes:
		return one(body, &j.Wishes)
	case exchanges:
		return one(body, &j.Exchanges)
	case reports:
		return one(body, &j.Reports)
	case checks:
		return one(body, &j.Checks)
	case places:
		return one(body, &j.Places)
	case lengths:
		return one(body, &j.Lengths)
	case spans:
		return one(body, &j.Spans)
	case options:
		return one(body, &j.Options)
	case partings:
		return one(body, &j.Partings)
	case rated:
		return one(body, &j.Rated)
	case feeds:
		return one(body, &j.Feeds)
	case functions:
		return one(body, &j.Functions)
	case outRules:
		return one(body, &j.OutRules)
	case parts:
		return one(body, &j.Added)
	case proved:
		return one(body, &j.Proved)
	case gates:
		return one(body, &j.Gates)
	case mends:
		return one(body, &j.Mended)
	case notes:
		return one(body, &j.Notes)
	case rounds:
		return one(body, &j.Trained)
	case left:
		return one(body, &j.Left)
	case loans:
		return one(body, &j.Loans)
	case delivered:
		return one(body, &j.Delivered)
	case spent:
		return one(body, &j.Spent)
	case bought:
		return one(body, &j.Bought)
	case leftovers:
		return one(body, &j.Leftover)
	case layouts:
		if j.Layouts == nil {
			j.Layouts = map[string]*face.Layout{}
		}
		var l face.Layout
		err := into(&l)
		if err == nil {
			j.Layouts[rest] = &l
		}
		return err
	case sheets:
		if j.Sheets == nil {
			j.Sheets = map[gather.SheetKind]*gather.Sheet{}
		}
		var sheet gather.Sheet
		err := into(&sheet)
		if err == nil {
			j.Sheets[gather.SheetKind(rest)] = &sheet
		}
		return err
	case looked:
		if j.Looked == nil {
			j.Looked = map[string]gather.Looked{}
		}
		var l gather.Looked
		err := into(&l)
		if err == nil {
			j.Looked[rest] = l
		}
		return err
	}
	return ErrNewer // a subject that this Draxel does not know
}

// keep takes a table or a list over from an earlier state.
func (s *State) keep(name string, last *State) {
	switch name {
	case SubjectTable(match.From):
		s.Job.From = last.Job.From
	case SubjectTable(match.To):
		s.Job.To = last.Job.To
	default:
		if key, further := strings.CutPrefix(name, tables); further {
			if s.Job.More == nil {
				s.Job.More = map[string]*stored.Table{}
			}
			s.Job.More[key] = last.Job.More[key]
			return
		}
		if s.Job.Sheets == nil {
			s.Job.Sheets = map[gather.SheetKind]*gather.Sheet{}
		}
		kind := gather.SheetKind(strings.TrimPrefix(name, sheets))
		s.Job.Sheets[kind] = last.Job.Sheets[kind]
	}
}

// field reads what a job has one of and points to.
func field[T any](body []byte, to **T) error {
	var v T
	err := stored.Keep(body, &v)
	if err == nil {
		*to = &v
	}
	return err
}

// value reads what a job has one of.
func value[T any](body []byte, to *T) error {
	var v T
	err := stored.Keep(body, &v)
	if err == nil {
		*to = v
	}
	return err
}

// one reads one more of a list.
func one[T any](body []byte, list *[]T) error {
	var v T
	err := stored.Keep(body, &v)
	if err == nil {
		*list = append(*list, v)
	}
	return err
}
