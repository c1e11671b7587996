package server

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
	"draxel/store"
)

// money is how the time, the parts and the cost of a plan stand on a day.
type money struct {
	efforts []handover.Effort
	lines   []handover.OrderLine
	hours   handover.Hours
	terms   handover.Terms
	timing  handover.Timing
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
	m.hours = handover.Reckon(m.efforts, noted)
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
	m.timing = handover.Time(m.efforts, m.lines, &m.hours, &m.terms, week)
	for _, late := range m.timing.Late {
		i := slices.IndexFunc(m.lines, func(l handover.OrderLine) bool { return l.Key == late.Key })
		m.lines[i].Late = cmp.Or(m.lines[i].Late, fmt.Sprintf("wanted on %s", day(today, late.Wants)))
	}
	m.cost = handover.Costs(m.lines, &m.hours, &m.terms)
	return m
}

// day writes a day so many days from today.
func day(today time.Time, days int) string { return today.AddDate(0, 0, days).Format(time.DateOnly) }

// moneyOn is what of a job's money is kept for a day.
type moneyOn struct{ what, day string }

// moneyOf gives how time, parts and cost of the job stand today; worked out once a day and revision.
func moneyOf(j *computed, now time.Time) *money {
	today := now.UTC()
	return Kept(j, moneyOn{"money", today.Format(time.DateOnly)}, func() *money {
		return reckon(&j.Job, &j.facts, j.Job.Chosen(), j.plan(), today)
	})
}

func (s *Server) showMoney(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	m, today := moneyOf(j, s.now()), s.now().UTC()
	text := map[string]*handover.Effort{}
	for i := range m.efforts {
		text[m.efforts[i].ID] = &m.efforts[i]
	}
	v := MoneyView{Revision: j.Revision, Hours: m.hours, Terms: m.terms, Lines: m.lines, Cost: m.cost,
		Spent: orEmpty(j.Job.Spent), Stages: handover.HourStages(), Chain: []ChainLink{},
		Known: m.timing.Known, Least: m.timing.Least, Ends: m.timing.Ends, Idle: m.timing.Idle,
		Today: today.Format(time.DateOnly)}
	if v.Known {
		v.Ready = day(today, m.timing.Day)
	}
	for _, x := range m.timing.Chain {
		v.Chain = append(v.Chain, ChainLink{text[x.ID].Text, text[x.ID].Stage, x.Minutes, x.Part})
	}
	v.Late = s.late(m)
	c.JSON(http.StatusOK, v)
	return nil
}

// late lists the parts that are not there when they are wanted.
func (s *Server) late(m *money) []LatePart {
	out, today := []LatePart{}, s.now().UTC()
	for _, x := range m.timing.Late {
		i := slices.IndexFunc(m.efforts, func(e handover.Effort) bool { return e.ID == x.Step })
		k := slices.IndexFunc(m.lines, func(l handover.OrderLine) bool { return l.Key == x.Key })
		out = append(
			out,
			LatePart{x.Key, m.lines[k].What, m.efforts[i].Text, day(today, x.Wants), day(today, x.There), x.Spare},
		)
	}
	slices.SortStableFunc(out, func(a, b LatePart) int { return cmp.Compare(b.There, a.There) }) // the longest first
	return out
}

// noteSpent notes time, or takes it back.
func (s *Server) noteSpent(c *gin.Context) error {
	r, err := read[SpentRequest](c)
	if err != nil {
		return err
	}
	x := r.Spent
	if r.Gone {
		return s.apply(c, change{id: r.ID, what: "spent-back", seen: r.Seen,
			bodies: map[string]any{store.SubjectSpent(x.ID): nil}})
	}
	x.ID, x.Who, x.Text, x.When = r.ID, strings.TrimSpace(x.Who), strings.TrimSpace(x.Text), s.now().UTC().UnixMilli()
	if x.Who == "" {
		x.Who = who(c)
	}
	if err := badDay(x.Day, "/spent/day"); err != nil {
		return err
	}
	if err := unsound(&x, "/spent"); err != nil {
		return err
	}
	return s.apply(c, change{id: r.ID, what: "spent", reason: x.Text, seen: r.Seen,
		bodies: map[string]any{store.SubjectSpent(x.ID): x}})
}

// badDay says why a text is no date; empty is none.
func badDay(text, pointer string) error {
	if _, err := time.Parse(time.DateOnly, text); text != "" && err != nil {
		return problem(http.StatusUnprocessableEntity, "no-date", "A date is written 2026-11-20.", pointer)
	}
	return nil
}

// buy says of a line of the order list what is there, what is ordered, and what it costs.
func (s *Server) buy(c *gin.Context) error {
	r, err := read[BoughtRequest](c)
	if err != nil {
		return err
	}
	x := r.Bought
	x.Supplier = strings.TrimSpace(x.Supplier)
	if err := badDay(x.On, "/bought/on"); err != nil {
		return err
	}
	if err := unsound(&x, "/bought"); err != nil {
		return err
	}
	var body any
	if !x.Unsaid() {
		body = x
	}
	return s.apply(
		c,
		change{id: r.ID, what: "bought", seen: r.Seen, bodies: map[string]any{store.SubjectBought(x.Key): body}},
	)
}

// setTerms says what hours and prices are reckoned with.
func (s *Server) setTerms(c *gin.Context) error {
	r, err := read[TermsRequest](c)
	if err != nil {
		return err
	}
	r.Terms.Currency = strings.TrimSpace(r.Terms.Currency)
	if err := unsound(&r.Terms, "/terms"); err != nil {
		return err
	}
	return s.apply(
		c,
		change{id: r.ID, what: "terms", seen: r.Seen, bodies: map[string]any{store.SubjectTerms: r.Terms}},
	)
}

// showCosts gives what this way costs beside the ways that are compared in Feed and in Reach, each planned whole;
// once a day and revision.
func (s *Server) showCosts(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	m, today := moneyOf(j, s.now()), s.now().UTC()
	ways := Kept(j, moneyOn{"ways", today.Format(time.DateOnly)}, func() []WayCost { return j.ways(m, today) })
	c.JSON(http.StatusOK, CostsView{Currency: m.terms.Currency, Ways: ways})
	return nil
}

// ways prices the job as it stands and in each other way.
func (j *computed) ways(m *money, today time.Time) []WayCost {
	d, out := j.Job.Chosen(), []WayCost{}
	add := func(name, stage string, m *money, reached bool) {
		out = append(out, WayCost{name, stage, m.cost, len(m.lines), m.hours.Left + m.hours.Spent, reached})
	}
	add("as it stands", "", m, j.plan().Proof.Reached)
	other := func(name, stage string, taken stored.Decisions) {
		facts := j.found.With(taken.Feed.Block)
		q := plan.Compute(facts, taken)
		add(name, stage, reckon(&j.Job, &facts, taken, &q, today), q.Proof.Reached)
	}
	for i := range j.Job.Feeds {
		o := &j.Job.Feeds[i]
		other(o.Name, "feed", j.plan().Fed.Take(d, o))
	}
	for i := range j.Job.Options {
		taken := d
		taken.Reach.Places = j.Job.Options[i].Over(d.Reach.Places)
		other(j.Job.Options[i].Name, "reach", taken)
	}
	return out
}

// ordersCSV gives the order list.
func (s *Server) ordersCSV(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := writeOrders(&out, moneyOf(j, s.now())); err != nil {
		return err
	}
	download(c, j.Job.Title+" order list.csv", "text/csv; charset=utf-8", out.Bytes())
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
