package demo

import (
	"fmt"
	"math"
	"strings"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
)

// How far the work on the Packhorse has come: steps that were done when it first left the workshop, and since.
const (
	doneThen = 62
	doneNow  = 104
)

// prices are what things cost, in an invented currency, by the beginning of their line in the order list; with the lead
// time in days where it is not on the shelf, and where it comes from.
var prices = []struct {
	begins   string
	price    float64
	days     int
	supplier string
	there    bool
}{
	{"wire WH 5", 2.6, 3, "Halden Wire", false},
	{"wire ", 1.4, 2, "Halden Wire", true},
	{"sleeve for a joint", 0.6, 0, "on the shelf", true},
	{"split sleeve", 2.2, 2, "Halden Wire", true},
	{"heat-shrink sock", 3.1, 4, "Halden Wire", false},
	{"harness tape", 0.8, 0, "on the shelf", true},
	{"grommet", 4.5, 12, "Orrin Rubber", false},
	{"cap for", 0.3, 0, "on the shelf", true},
	{"cavity plug", 0.4, 3, "Halden Wire", true},
	{"ring terminal", 1.2, 0, "on the shelf", true},
	{"labels", 0.05, 0, "on the shelf", true},
	{"sender of the gauge", 38, 9, "Bellweather dealer", false},
}

// HandOver carries the Packhorse on: a good part of the work is done, some of it by the watch, hours are noted, prices
// and lead times are known of most of the order list, and two states were kept: one when the harness went to be bench
// programmed, with what was open then.
func HandOver(j *stored.Job) error {
	facts, err := fact.Of(*j)
	if err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	p := plan.Compute(facts, j.Chosen())
	j.Terms = &handover.Terms{Currency: "crowns", PerHour: 62, Tax: 12.5, HoursADay: 5, DaysAWeek: 5}
	for _, l := range handover.Merge(papers.Wants(&p, &facts, j.Chosen(), 0), nil, func(string) int { return 0 }) {
		for _, x := range prices {
			if !strings.HasPrefix(l.What, x.begins) {
				continue
			}
			b := handover.Bought{Key: l.Key, Price: x.price, Days: x.days, Supplier: x.supplier}
			if x.there {
				b.There = math.Round(10*(l.Need+l.Spare)) / 10
			}
			j.Bought = append(j.Bought, b)
			break
		}
	}
	j.Spent = []handover.Spent{
		{
			ID:      "spent-1",
			Stage:   "gather",
			Minutes: 150,
			Day:     "2025-11-21",
			Text:    "both tables, faces and photographs",
			Who:     "Ines",
		},
		{
			ID:      "spent-2",
			Stage:   "match",
			Minutes: 95,
			Day:     "2025-11-22",
			Text:    "crosswalk, with the customer",
			Who:     "Ines",
		},
		{
			ID:      "spent-3",
			Stage:   string(work.Thin),
			Minutes: 110,
			Day:     "2025-11-24",
			Text:    "opening the loom",
			Who:     "Aron",
		},
	}
	for i := range j.Spent {
		j.Spent[i].When = when + int64(i)
	}
	j.Loans = []handover.Loan{
		{
			ID:    "loan-1",
			Kind:  handover.Temporary,
			Text:  "ground lead to the block",
			Where: "left engine mount",
			Who:   "Aron",
			When:  when + 1,
		},
		{
			ID:   "loan-2",
			Kind: handover.Borrowed,
			Text: "the V4's key and ring coil, from the dealer",
			Who:  "Ines",
			When: when + 2,
		},
	}
	tick(j, &facts, &p, 0, doneThen)
	if err := keep(j, "to Fen Programming 2025-11-25", "bench programming only; the rest goes on here"); err != nil {
		return err
	}
	tick(j, &facts, &p, doneThen, doneNow)
	return nil
}

// tick carries steps of the plan out, in its order: thinning by Aron with the watch running, the rest by Ines.
func tick(j *stored.Job, f *fact.Facts, p *plan.Plan, from, to int) {
	ids := make([]string, len(p.Work.Steps))
	for i := range p.Work.Steps {
		ids[i] = p.Work.Steps[i].ID
	}
	uses := papers.Uses(p, f, j.Chosen(), ids)
	for i := from; i < to && i < len(p.Work.Steps); i++ {
		s := &p.Work.Steps[i]
		t := s.Tick()
		t.Used = uses[s.ID]
		t.Who, t.When, t.Seq = "Ines", when+day*int64(1+i/40)+int64(i)*90_000, i
		if s.Stage == work.Thin {
			t.Who, t.Spent = "Aron", s.Minutes*(0.8+0.15*float64(i%5)) // a little slower than reckoned, as it was
		}
		if len(s.Missing) > 0 {
			t.Reason = "labels and counts are on the bench sheet, checked twice"
		}
		j.Ticks = append(j.Ticks, t)
	}
}

// day is a day in milliseconds.
const day = 24 * 3600 * 1000

// keep keeps the job as it is under a name.
func keep(j *stored.Job, name, reason string) error {
	facts, err := fact.Of(*j)
	if err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	p := plan.Compute(facts, j.Chosen())
	lists := papers.OpenLists(&p, &facts, j)
	d := handover.Delivered{ID: fmt.Sprintf("state-%d", len(j.Delivered)+1), Name: name, Reason: reason,
		Open: handover.Owned(lists, j.Left), Revision: 1, Who: "Ines", When: when + 2*day}
	if d.Hash, err = j.Hash(); err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	if d.Kept, err = j.Frozen(); err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	j.Delivered = append(j.Delivered, d)
	return nil
}
