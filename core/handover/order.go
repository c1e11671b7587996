package handover

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
)

// Want is something that the plan uses: what steps take, or have taken.
type Want struct {
	What  string
	Unit  string // "m"; empty: pieces
	Need  float64
	Used  float64 // of Need: it is built in
	Spare float64 // beyond that
	Tool  bool    // it is not used up: one is enough
	Stage string
	For   []string // where it goes
	Steps []string // ids of the steps that cannot be done without it
	There bool     // somebody has said at the stage that all of it is there
}

// Bought is what somebody has said of a line of the order list.
type Bought struct {
	Key      string  `json:"key"`               // of the line
	There    float64 `json:"there,omitempty"`   // how much of it there is, on the shelf and built in
	Ordered  float64 `json:"ordered,omitempty"` // how much is on its way
	On       string  `json:"on,omitempty"`      // ISO date on which it was ordered
	Days     int     `json:"days,omitempty"`    // lead time, calendar days; 0: nobody has said
	Price    float64 `json:"price,omitempty"`   // of one, or of a metre
	Supplier string  `json:"supplier,omitempty"`
}

// Check says why it cannot be.
func (b *Bought) Check() error {
	switch {
	case strings.TrimSpace(b.Key) == "" || len(b.Key) > 400:
		return fmt.Errorf("say which line of the order list it is about")
	case !harness.Within(0, 1e6, b.There, b.Ordered, b.Price) || b.Days < 0 || b.Days > 1000:
		return fmt.Errorf("amounts and prices are from 0 to 1,000,000, a lead time at most 1,000 days")
	case len(b.Supplier) > 120 || len(b.On) > 10:
		return fmt.Errorf("a supplier has at most 120 letters")
	}
	return nil
}

// Unsaid says whether nothing is said of a line any more: then nothing is kept of it.
func (b *Bought) Unsaid() bool { return *b == (Bought{Key: b.Key}) }

// OrderLine is a line of the one order list.
type OrderLine struct {
	Key    string   `json:"key"`
	What   string   `json:"what"`
	Unit   string   `json:"unit,omitempty"`
	Need   float64  `json:"need"` // of the whole job
	Used   float64  `json:"used"` // of it, built in
	Spare  float64  `json:"spare"`
	Order  float64  `json:"order"` // what is neither there nor ordered, of need and spare
	Stages []string `json:"stages"`
	For    []string `json:"for"`
	Said   Bought   `json:"said"`
	// Cost of what the job takes of what there is, of what was ordered, and of what is to be ordered.
	Cost  float64  `json:"cost"`
	Wait  int      `json:"wait"`  // calendar days until what is needed is there; 0: it is
	Known bool     `json:"known"` // how long it takes is known
	Late  string   `json:"late,omitempty"`
	Steps []string `json:"steps"`
	Idle  bool     `json:"idle,omitempty"` // nothing in the plan asks for it any more
}

// Merge makes one order list of what the stages want, with what was said of its lines. Since gives how many days ago a
// date was; a date that cannot be read is today.
func Merge(wants []Want, said []Bought, since func(date string) int) []OrderLine {
	lines := map[string]*OrderLine{}
	have := map[string]bool{}
	for i := range wants {
		w := &wants[i]
		key := strings.TrimSpace(w.What + " " + w.Unit)
		l := lines[key]
		if l == nil {
			l = &OrderLine{
				Key:    key,
				What:   w.What,
				Unit:   w.Unit,
				Stages: []string{},
				For:    []string{},
				Steps:  []string{},
			}
			lines[key] = l
		}
		if w.Tool {
			l.Need = max(l.Need, w.Need)
		} else {
			l.Need += w.Need
		}
		l.Used += w.Used
		l.Spare += w.Spare
		have[key] = have[key] || w.There
		if !slices.Contains(l.Stages, w.Stage) {
			l.Stages = append(l.Stages, w.Stage)
		}
		l.For = fresh(l.For, w.For)
		l.Steps = fresh(l.Steps, w.Steps)
	}
	for i := range said {
		b := said[i]
		l := lines[b.Key]
		if l == nil { // it was bought, and the plan has changed since: the money is spent, and it is told
			l = &OrderLine{
				Key:    b.Key,
				What:   b.Key,
				Stages: []string{},
				For:    []string{},
				Steps:  []string{},
				Idle:   true,
			}
			lines[b.Key] = l
		}
		l.Said = b
	}
	out := make([]OrderLine, 0, len(lines))
	for key, l := range lines {
		l.Said.Key = key
		l.stand(have[key], since)
		out = append(out, *l)
	}
	slices.SortFunc(out, func(a, b OrderLine) int { return finding.Natural(a.What, b.What) })
	return out
}

// fresh gives a list with what it has not yet.
func fresh(all, more []string) []string {
	for _, x := range more {
		if !slices.Contains(all, x) {
			all = append(all, x)
		}
	}
	return all
}

// stand works out what is still to be ordered, what it costs, and how long it takes until what is needed is there. What
// is built in was there, whatever is said.
func (l *OrderLine) stand(have bool, since func(string) int) {
	round := func(x float64) float64 { return max(0, math.Ceil(x-1e-9)) }
	if l.Unit != "" {
		round = tenth
	}
	l.Need, l.Used, l.Spare = round(l.Need), round(l.Used), round(l.Spare)
	there := max(l.Said.There, l.Used)
	if have {
		there = max(there, l.Need+l.Spare)
	}
	l.Order = max(0, tenth(l.Need+l.Spare-there-l.Said.Ordered))
	l.Cost = math.Round(100*l.Said.Price*(min(there, l.Need)+l.Order+l.Said.Ordered)) / 100
	l.Known = true
	switch b := &l.Said; {
	case there >= l.Need:
	case there+b.Ordered >= l.Need: // on its way
		l.Wait = max(0, b.Days-since(b.On))
		l.Known = b.Days > 0
		if late := since(b.On) - b.Days; b.Days > 0 && late > 0 {
			l.Late = fmt.Sprintf("ordered %s, due %d days ago", b.On, late)
		}
	default:
		l.Wait, l.Known = b.Days, b.Days > 0
	}
}

// tenth rounds up to a tenth.
func tenth(x float64) float64 { return math.Ceil(10*x-1e-6) / 10 }

// Cost is what a job comes to.
type Cost struct {
	Parts    float64 `json:"parts"`
	Minutes  float64 `json:"minutes"` // worked, and left at what was learned
	Work     float64 `json:"work"`
	Net      float64 `json:"net"`
	Tax      float64 `json:"tax"`
	All      float64 `json:"all"`
	Lines    int     `json:"lines"`
	Unpriced int     `json:"unpriced"` // lines of which nobody has said the price
}

// Costs adds up the order list and the hours.
func Costs(lines []OrderLine, h *Hours, t *Terms) Cost {
	c := Cost{Lines: len(lines), Minutes: h.Spent + h.Left}
	for i := range lines {
		c.Parts += lines[i].Cost
		if l := &lines[i]; l.Said.Price == 0 && l.Need+l.Order+l.Said.Ordered > 0 {
			c.Unpriced++
		}
	}
	money := func(x float64) float64 { return math.Round(100*x) / 100 }
	c.Parts = money(c.Parts)
	c.Work = money(c.Minutes / 60 * t.PerHour)
	c.Net = money(c.Parts + c.Work)
	c.Tax = money(c.Net * t.Tax / 100)
	c.All = money(c.Net + c.Tax)
	return c
}
