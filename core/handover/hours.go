package handover

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/work"
)

// The stages whose work is not steps: time is noted for them all the same.
const (
	gatherStage   = "gather"
	matchStage    = "match"
	proveStage    = "prove"
	handoverStage = "handover"
)

// HourStages lists what time can be noted for, in the order of the rail.
func HourStages() []string {
	return []string{
		gatherStage,
		matchStage,
		string(work.Thin),
		string(work.Pin),
		string(work.Reach),
		string(work.Feed),
		string(work.Join),
		string(work.Own),
		proveStage,
		handoverStage,
	}
}

// Spent is time that somebody has noted, beside what the watch at the bench has measured.
type Spent struct {
	ID      string  `json:"id"`
	Stage   string  `json:"stage"`
	Minutes float64 `json:"minutes"`
	Day     string  `json:"day,omitempty"` // ISO date on which it was worked
	Text    string  `json:"text,omitempty"`
	Who     string  `json:"who"` // whose time it is
	When    int64   `json:"when,omitempty"`
}

// mostNoted is the longest that is noted at once, minutes: a week around the clock.
const mostNoted = 7 * 24 * 60

// Check says why time cannot be noted so.
func (s *Spent) Check() error {
	switch {
	case s.ID == "" || len(s.ID) > 40 || !slices.Contains(HourStages(), s.Stage):
		return fmt.Errorf("say which stage the time went into")
	case !harness.Within(0, mostNoted, s.Minutes) || s.Minutes == 0:
		return fmt.Errorf("time is more than 0 and at most %d hours at once", mostNoted/60)
	case strings.TrimSpace(s.Who) == "" || len(s.Who) > 80 || len(s.Text) > 400 || len(s.Day) > 10:
		return fmt.Errorf("say whose time it is, in at most 80 letters")
	}
	return nil
}

// Terms are what hours are reckoned with. Nothing is assumed: where one is 0 what would follow from it is not said.
type Terms struct {
	Currency  string  `json:"currency,omitempty"`
	PerHour   float64 `json:"perHour,omitempty"`   // of that currency
	Tax       float64 `json:"tax,omitempty"`       // %
	HoursADay float64 `json:"hoursADay,omitempty"` // that are worked on a working day
	DaysAWeek int     `json:"daysAWeek,omitempty"` // from Monday on; 0: seven
	Hands     int     `json:"hands,omitempty"`     // pairs of hands; 0: one
}

// mostHands bounds how many work at one harness.
const mostHands = 8

// Check says why the terms cannot be.
func (t *Terms) Check() error {
	switch {
	case len(t.Currency) > 12:
		return fmt.Errorf("a currency has at most 12 letters")
	case !harness.Within(0, 1e6, t.PerHour) || !harness.Within(0, 100, t.Tax):
		return fmt.Errorf("an hour costs from 0 to 1,000,000, and tax is from 0 to 100 %%")
	case !harness.Within(0, 24, t.HoursADay) || t.DaysAWeek < 0 || t.DaysAWeek > 7:
		return fmt.Errorf("a day has at most 24 hours and a week 7 days")
	case t.Hands < 0 || t.Hands > mostHands:
		return fmt.Errorf("at most %d pairs of hands", mostHands)
	}
	return nil
}

// Effort is a step with whether it is done, and by whom.
type Effort struct {
	ID      string
	Stage   string
	Text    string
	Minutes float64 // estimated
	Needs   []string
	Done    bool
	Spent   float64 // minutes by the watch, 0 where none ran
	Who     string
}

// StageHours is how the time of a stage stands, in minutes.
type StageHours struct {
	Stage    string  `json:"stage"`
	Steps    int     `json:"steps"`
	Done     int     `json:"done"`     // steps
	Estimate float64 `json:"estimate"` // of all steps, as reckoned from counts
	Earned   float64 `json:"earned"`   // of it, the steps that are done
	Spent    float64 `json:"spent"`    // by the watch and as noted
	Learned  float64 `json:"learned"`  // what a reckoned minute took; 1 where nothing says
	Left     float64 `json:"left"`     // of what is not done, at what was learned
}

// PersonHours is what one person has worked, in minutes.
type PersonHours struct {
	Who     string  `json:"who"`
	Minutes float64 `json:"minutes"`
	Steps   int     `json:"steps"`
}

// Hours is how the time of a job stands.
type Hours struct {
	Stages   []StageHours  `json:"stages"`
	People   []PersonHours `json:"people"`
	Estimate float64       `json:"estimate"` // minutes
	Spent    float64       `json:"spent"`
	Left     float64       `json:"left"`
}

// What is believed of a stage before anything was measured: that an hour's work takes an hour. It weighs as much as an
// hour of measured work does. Common practice, no source; and never more than thrice or less than a third.
const (
	believed   = 60
	mostFactor = 3
	breakAfter = 5 // times its estimate: a watch that ran longer ran on through a break, and counts as the estimate
)

// Reckon adds up hours by stage and by person. What a reckoned minute takes is learned from the steps of a stage that
// are done: against the watch where it ran, against what was noted for the stage where it did not.
func Reckon(all []Effort, noted []Spent) Hours {
	by := map[string]*StageHours{}
	people := map[string]*PersonHours{}
	took, plain := map[string]float64{}, map[string]float64{} // estimates of what has a watch, and has not
	watch, hand := map[string]float64{}, map[string]float64{}
	at := func(s string) *StageHours {
		if by[s] == nil {
			by[s] = &StageHours{Stage: s, Learned: 1}
		}
		return by[s]
	}
	person := func(who string) *PersonHours {
		who = cmp.Or(strings.TrimSpace(who), "nobody said who")
		if people[who] == nil {
			people[who] = &PersonHours{Who: who}
		}
		return people[who]
	}
	for i := range all {
		e := &all[i]
		s := at(e.Stage)
		s.Steps++
		s.Estimate += e.Minutes
		if !e.Done {
			continue
		}
		s.Done++
		s.Earned += e.Minutes
		p := person(e.Who)
		p.Steps++
		if e.Spent <= 0 {
			plain[e.Stage] += e.Minutes
			continue
		}
		spent := e.Spent
		if e.Minutes > 0 && spent > breakAfter*e.Minutes {
			spent = e.Minutes
		}
		took[e.Stage] += e.Minutes
		watch[e.Stage] += spent
		p.Minutes += spent
	}
	for i := range noted {
		at(noted[i].Stage)
		hand[noted[i].Stage] += noted[i].Minutes
		person(noted[i].Who).Minutes += noted[i].Minutes
	}
	out := Hours{Stages: []StageHours{}, People: []PersonHours{}}
	for _, stage := range HourStages() {
		s := by[stage]
		if s == nil {
			continue
		}
		s.Spent = watch[stage] + hand[stage]
		measured, reckoned := watch[stage], took[stage]
		if hand[stage] > 0 && plain[stage] > 0 {
			measured, reckoned = measured+hand[stage], reckoned+plain[stage]
		}
		s.Learned = min(mostFactor, max(1.0/mostFactor, (measured+believed)/(reckoned+believed)))
		s.Left = (s.Estimate - s.Earned) * s.Learned
		out.Stages = append(out.Stages, *s)
		out.Estimate, out.Spent, out.Left = out.Estimate+s.Estimate, out.Spent+s.Spent, out.Left+s.Left
	}
	for _, p := range people {
		out.People = append(out.People, *p)
	}
	slices.SortFunc(out.People, func(a, b PersonHours) int {
		return cmp.Or(cmp.Compare(b.Minutes, a.Minutes), cmp.Compare(a.Who, b.Who))
	})
	return out
}

// Learned gives what a reckoned minute of a stage takes.
func (h *Hours) Learned(stage string) float64 {
	for i := range h.Stages {
		if h.Stages[i].Stage == stage {
			return h.Stages[i].Learned
		}
	}
	return 1
}
