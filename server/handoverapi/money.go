package handoverapi

import (
	"bytes"
	"cmp"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

// money is how the time, the parts and the cost of a plan stand on a day.
type money struct {
	efforts []handover.Effort
	lines   []handover.OrderLine
	Hours   handover.Hours
	terms   handover.Terms
	Timing  handover.Timing
	cost    handover.Cost
}

// reckon works out what a plan comes to, with what the job says of time and parts.
func reckon(j *stored.Job, f *fact.Facts, d stored.Decisions, p *plan.Plan, today time.Time) *money {
	m := &money{efforts: papers.Efforts(p)}
	if j.Terms != nil {
		m.terms = *j.Terms
	}
	noted := slices.Clone(j.Spent)
	if d.Bench.Worked > 0 {
		noted = append(noted, handover.Spent{ID: "thin", Stage: string(work.Thin), Minutes: d.Bench.Worked})
	}
	m.Hours = handover.Reckon(m.efforts, noted)
	kinds := []handover.StickerKind{handover.OnWire, handover.OnJoint, handover.OnConnector}
	labels := len(handover.Stickers(papers.Book(p, f), kinds, ""))
	m.lines = handover.Merge(papers.Wants(p, f, d, labels), j.Bought, func(date string) int {
		day, err := time.Parse(time.DateOnly, date)
		if err != nil {
			return 0
		}
		return int(today.Truncate(24*time.Hour).Sub(day).Hours() / 24)
	})
	week := handover.Week{Today: (int(today.Weekday()) + 6) % 7, Days: m.terms.DaysAWeek, Hours: m.terms.HoursADay}
	m.Timing = handover.Time(m.efforts, m.lines, &m.Hours, &m.terms, week)
	for _, late := range m.Timing.Late {
		i := slices.IndexFunc(m.lines, func(l handover.OrderLine) bool { return l.Key == late.Key })
		m.lines[i].Late = cmp.Or(m.lines[i].Late, fmt.Sprintf("wanted on %s", Day(today, late.Wants)))
	}
	m.cost = handover.Costs(m.lines, &m.Hours, &m.terms)
	return m
}

// Day writes a day so many days from today.
func Day(today time.Time, days int) string { return today.AddDate(0, 0, days).Format(time.DateOnly) }

// moneyOn is what of a job's money is kept for a day.
type moneyOn struct{ what, day string }

// MoneyOf gives how time, parts and cost of the job stand today; worked out once a day and revision.
func MoneyOf(j *desk.Computed, now time.Time) *money {
	today := now.UTC()
	return desk.Kept(j, moneyOn{"money", today.Format(time.DateOnly)}, func() *money {
		return reckon(&j.Job, &j.Facts, j.Job.Chosen(), j.Plan(), today)
	})
}

func (s *API) showMoney(c *gin.Context, j *desk.Computed) error {
	m, today := MoneyOf(j, s.Now()), s.Now().UTC()
	text := map[string]*handover.Effort{}
	for i := range m.efforts {
		text[m.efforts[i].ID] = &m.efforts[i]
	}
	v := MoneyView{Revision: j.Revision, Hours: m.Hours, Terms: m.terms, Lines: m.lines, Cost: m.cost,
		Spent: desk.OrEmpty(j.Job.Spent), Stages: handover.HourStages(), Chain: []ChainLink{},
		Known: m.Timing.Known, Least: m.Timing.Least, Ends: m.Timing.Ends, Idle: m.Timing.Idle,
		Today: today.Format(time.DateOnly)}
	if v.Known {
		v.Ready = Day(today, m.Timing.Day)
	}
	for _, x := range m.Timing.Chain {
		v.Chain = append(v.Chain, ChainLink{text[x.ID].Text, text[x.ID].Stage, x.Minutes, x.Part})
	}
	v.Late = LateParts(m, s.Now())
	c.JSON(http.StatusOK, v)
	return nil
}

// LateParts lists the parts that are not there when they are wanted.
func LateParts(m *money, now time.Time) []LatePart {
	out, today := []LatePart{}, now.UTC()
	for _, x := range m.Timing.Late {
		i := slices.IndexFunc(m.efforts, func(e handover.Effort) bool { return e.ID == x.Step })
		k := slices.IndexFunc(m.lines, func(l handover.OrderLine) bool { return l.Key == x.Key })
		out = append(
			out,
			LatePart{x.Key, m.lines[k].What, m.efforts[i].Text, Day(today, x.Wants), Day(today, x.There), x.Spare},
		)
	}
	slices.SortStableFunc(out, func(a, b LatePart) int { return cmp.Compare(b.There, a.There) }) // the longest first
	return out
}

// noteSpent notes time, or takes it back.
func (s *API) noteSpent(c *gin.Context) error {
	r, err := desk.Read[SpentRequest](c)
	if err != nil {
		return err
	}
	x := r.Spent
	if r.Gone {
		return s.Apply(c, desk.Change{ID: r.ID, What: "spent-back", Seen: r.Seen,
			Bodies: desk.Dropping(x)})
	}
	x.ID, x.Who, x.Text, x.When = r.ID, strings.TrimSpace(x.Who), strings.TrimSpace(x.Text), s.Now().UTC().UnixMilli()
	if x.Who == "" {
		x.Who = desk.Who(c)
	}
	if err := badDay(x.Day, "/spent/day"); err != nil {
		return err
	}
	if err := desk.Unsound(&x, "/spent"); err != nil {
		return err
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "spent", Reason: x.Text, Seen: r.Seen,
		Bodies: desk.Keeping(x)})
}

// badDay says why a text is no date; empty is none.
func badDay(text, pointer string) error {
	if _, err := time.Parse(time.DateOnly, text); text != "" && err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-date", "A date is written 2026-11-20.", pointer)
	}
	return nil
}

// buy says of a line of the order list what is there, what is ordered, and what it costs.
func (s *API) buy(c *gin.Context) error {
	r, err := desk.Read[BoughtRequest](c)
	if err != nil {
		return err
	}
	x := r.Bought
	x.Supplier = strings.TrimSpace(x.Supplier)
	if err := badDay(x.On, "/bought/on"); err != nil {
		return err
	}
	if err := desk.Unsound(&x, "/bought"); err != nil {
		return err
	}
	var body any
	if !x.Unsaid() {
		body = x
	}
	return s.Apply(
		c,
		desk.Change{ID: r.ID, What: "bought", Seen: r.Seen, Bodies: map[string]any{stored.SubjectOf(x): body}},
	)
}

// setTerms says what hours and prices are reckoned with.
func (s *API) setTerms(c *gin.Context) error {
	r, err := desk.Read[TermsRequest](c)
	if err != nil {
		return err
	}
	r.Terms.Currency = strings.TrimSpace(r.Terms.Currency)
	if err := desk.Unsound(&r.Terms, "/terms"); err != nil {
		return err
	}
	return s.Apply(
		c,
		desk.Change{ID: r.ID, What: "terms", Seen: r.Seen, Bodies: desk.Keeping(r.Terms)},
	)
}

// showCosts gives what this way costs beside the ways that are compared in Feed and in Reach, each planned whole;
// once a day and revision.
func (s *API) showCosts(c *gin.Context, j *desk.Computed) error {
	m, today := MoneyOf(j, s.Now()), s.Now().UTC()
	ways := desk.Kept(j, moneyOn{"ways", today.Format(time.DateOnly)}, func() []WayCost { return waysOf(j, m, today) })
	c.JSON(http.StatusOK, CostsView{Currency: m.terms.Currency, Ways: ways})
	return nil
}

// waysOf prices the job as it stands and in each other way.
func waysOf(j *desk.Computed, m *money, today time.Time) []WayCost {
	d, out := j.Job.Chosen(), []WayCost{}
	add := func(name string, stage work.Stage, m *money, reached bool) {
		out = append(out, WayCost{name, stage, m.cost, len(m.lines), m.Hours.Left + m.Hours.Spent, reached})
	}
	add("as it stands", "", m, j.Plan().Proof.Reached)
	other := func(name string, stage work.Stage, taken stored.Decisions) {
		facts := j.Found.With(taken.Feed.Block)
		q := plan.Compute(facts, taken)
		add(name, stage, reckon(&j.Job, &facts, taken, &q, today), q.Proof.Reached)
	}
	for i := range j.Job.Feeds {
		o := &j.Job.Feeds[i]
		other(o.Name, "feed", j.Plan().Fed.Take(d, o))
	}
	for i := range j.Job.Options {
		taken := d
		taken.Reach.Places = j.Job.Options[i].Over(d.Reach.Places)
		other(j.Job.Options[i].Name, "reach", taken)
	}
	return out
}

// ordersCSV gives the order list.
func (s *API) ordersCSV(c *gin.Context, j *desk.Computed) error {
	var out bytes.Buffer
	if err := writeOrders(&out, MoneyOf(j, s.Now())); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" order list.csv", "text/csv; charset=utf-8", out.Bytes())
	return nil
}

func writeOrders(out io.Writer, m *money) error {
	rows := [][]string{{"What", "Unit", "Need", "Built in", "Spare", "There", "Ordered", "To order", "Price",
		strings.TrimSpace("Cost " +
			m.terms.Currency), "Supplier", "Ordered on", "Lead time, days", "Late", "Stages", "For"}}
	for i := range m.lines {
		l := &m.lines[i]
		row := []string{l.What, l.Unit}
		for _, n := range []float64{l.Need, l.Used, l.Spare, l.Said.There, l.Said.Ordered, l.Order, l.Said.Price} {
			row = append(row, fmt.Sprint(n))
		}
		rows = append(rows, append(row, fmt.Sprintf("%.2f", l.Cost), l.Said.Supplier, l.Said.On,
			fmt.Sprint(l.Said.Days),
			l.Late, strings.Join(l.Stages, " "), strings.Join(l.For, " ")))
	}
	return exchange.WriteTableCSV(out, rows)
}
