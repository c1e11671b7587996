package joinapi

import (
	"maps"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/join"
	"draxel/core/papers"
	"draxel/core/stored"
	"draxel/core/work"
	"draxel/server/desk"
)

// showJoin gives what must work in the vehicle, and how it stands.
func (s *API) showJoin(c *gin.Context, j *desk.Computed) error {
	p := j.Plan()
	v := JoinView{Revision: j.Revision, Items: desk.OrEmpty(p.Join.Functions), Legs: desk.OrEmpty(p.Join.Legs),
		Settings: desk.OrEmpty(p.Join.Settings),
		Raised:   []RaisedCodes{}, Positions: feed.Positions(), Said: p.Feed.Result != nil,
		Findings: desk.StageFindings(p.Findings, "join"),
		Switches: []string{}, Closed: []string{}, Outputs: []Driven{}, Sites: desk.OrEmpty(p.Join.Sites),
		Studs: desk.OrEmpty(j.Found.Studs()), Parts: desk.OrEmpty(j.Job.Added),
		Named: desk.OrEmpty(papers.NamedWires(p, j.Found.Facts)),
		Steps: j.WorkSteps(work.Join)}
	for i := range v.Named {
		for _, m := range j.Job.Readings {
			if m.At == v.Named[i].Row.Ref || m.At == v.Named[i].At {
				v.Named[i].Read = append(v.Named[i].Read, m.String())
			}
		}
	}
	numbers, flags := map[string]bool{}, map[string]bool{}
	for _, x := range j.Job.OutRules {
		if e, err := join.ReadRule(x.When); err == nil {
			n, f := e.Names()
			for _, name := range n {
				numbers[name] = true
			}
			for _, name := range f {
				flags[name] = true
			}
		}
	}
	v.Rules, v.Numbers, v.Flags = desk.OrEmpty(j.Job.OutRules), desk.OrEmpty(slices.Sorted(maps.Keys(numbers))),
		desk.OrEmpty(slices.Sorted(maps.Keys(flags)))
	for _, name := range slices.Sorted(maps.Keys(p.Join.Raised)) {
		v.Raised = append(v.Raised, RaisedCodes{name, p.Join.Raised[name]})
	}
	if r := p.Feed.Result; r != nil {
		v.Switches, v.Closed = desk.OrEmpty(r.Own()), desk.OrEmpty(r.Closed())
		for _, at := range slices.Sorted(maps.Keys(r.Drawn.Outputs)) {
			v.Outputs = append(v.Outputs, Driven{at, r.Drawn.Outputs[at]})
		}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// setFunction keeps what is wanted of a function, and what its sum works with.
func (s *API) setFunction(c *gin.Context) error {
	r, err := desk.Read[FunctionRequest](c)
	if err != nil {
		return err
	}
	f, known := join.FunctionOf(r.Function)
	if !known {
		return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such function.", "/function")
	}
	return s.Checked(c, func(j *desk.Computed) error {
		w := join.FunctionWish{Function: r.Function, Choice: r.Choice, Facts: map[string]string{},
			Reason: strings.TrimSpace(r.Reason)}
		given := r.Facts
		if given == nil { // only the choice is made: what was stated stays
			for _, had := range j.Job.Functions {
				if had.Function == r.Function {
					given = had.Facts
				}
			}
		}
		for name, text := range given {
			if text = strings.TrimSpace(text); text != "" {
				w.Facts[name] = text
			}
		}
		if w.Choice == join.GivenUp && f.Law != "" && w.Reason == "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-reason", "Say why it is given up. "+f.Law, "/reason")
		}
		if err := desk.Unsound(&w, "/facts"); err != nil {
			return err
		}
		var body any
		if w.Choice != join.Unsaid || len(w.Facts) > 0 {
			w.Who, w.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = w
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "function", Reason: w.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(join.FunctionWish{Function: r.Function}): body}})
	})
}

// takeWay takes a way to make a function work: what it states, what the unit is set to, and the part that it brings.
func (s *API) takeWay(c *gin.Context) error {
	r, err := desk.Read[WayRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		items := j.Plan().Join.Functions
		at := slices.IndexFunc(items, func(it join.Item) bool { return it.ID == r.Function })
		if at < 0 || items[at].Sum == nil || r.Way < 0 || r.Way >= len(items[at].Sum.Ways) ||
			items[at].Sum.Ways[r.Way].Text != r.Text {
			return desk.Refusal(http.StatusConflict, "no-such-way", "Its sum does not offer that way any more.", "/way")
		}
		way := &items[at].Sum.Ways[r.Way]
		if !way.Takes() {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-way", "That way is taken elsewhere.", "/way")
		}
		w := join.FunctionWish{Function: r.Function}
		for _, had := range j.Job.Functions {
			if had.Function == r.Function {
				w = had
			}
		}
		was := w.Facts
		w.Facts = maps.Clone(was)
		if w.Facts == nil {
			w.Facts = map[string]string{}
		}
		for name, text := range way.Facts {
			if w.Facts[name] = text; text == "" {
				delete(w.Facts, name)
			}
		}
		if way.Unit != "" {
			w.Facts["setting"] = way.Unit
		}
		w.Who, w.When = desk.Who(c), s.Now().UTC().UnixMilli()
		bodies := map[string]any{stored.SubjectOf(join.FunctionWish{Function: r.Function}): w}
		if way.Part != nil {
			a := join.Added{ID: nextPart(j, way.Part.Body), Function: r.Function, What: way.Part.What, Body: way.Part.Body,
				Ohms: way.Part.Ohms, Was: was, Reason: items[at].Sum.Says, Who: w.Who, When: w.When}
			if way.Part.In {
				at, is := j.Facts.Cavity(r.In)
				if !is {
					return desk.Refusal(http.StatusUnprocessableEntity, "bad-value", "Say behind which cavity it comes.", "/in")
				}
				a.In = at
			}
			for _, l := range way.Part.Leads {
				to := strings.TrimSpace(r.Leads[l.Point])
				if l.Own != "" {
					to = string(a.Point(l.Own))
				}
				a.Leads = append(a.Leads, join.PartLead{Point: l.Point, To: to})
			}
			if a.Was == nil {
				a.Was = join.Stated{}
			}
			if err := desk.Unsound(&a, "/leads"); err != nil {
				return err
			}
			bodies[stored.SubjectOf(a)] = a
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "function-way", Reason: way.Text, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

// nextPart gives the first name that no part has: R1 for a resistor, K1 for a relay, W1 for a wire.
func nextPart(j *desk.Computed, b join.Body) string {
	letter := map[join.Body]string{join.Resistor: "R", join.RelayBody: "K", join.SingleWire: "W"}[b]
	if letter == "" {
		letter = "P"
	}
	for n := 1; ; n++ {
		id := letter + strconv.Itoa(n)
		if !slices.ContainsFunc(j.Job.Added, func(a join.Added) bool { return a.ID == id }) {
			return id
		}
	}
}

// addWire brings a wire from one end of a function to another, or takes a part out again; what was stated for it is
// then as it was before.
func (s *API) addWire(c *gin.Context) error {
	r, err := desk.Read[PartRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if r.Out != "" {
			at := slices.IndexFunc(j.Job.Added, func(a join.Added) bool { return a.ID == r.Out })
			if at < 0 {
				return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such part.", "/out")
			}
			a := j.Job.Added[at]
			bodies := desk.Dropping(a)
			for _, w := range j.Job.Functions {
				if w.Function == a.Function && a.Was != nil {
					w.Facts = a.Was
					w.Who, w.When = desk.Who(c), s.Now().UTC().UnixMilli()
					bodies[stored.SubjectOf(w)] = w
				}
			}
			return s.Apply(c, desk.Change{ID: r.ID, What: "function-part-out", Reason: a.What, Seen: r.Seen, Base: j.Revision,
				Bodies: bodies})
		}
		f, known := join.FunctionOf(r.Function)
		if !known {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such function.", "/function")
		}
		a := join.Added{ID: nextPart(j, join.SingleWire), Function: r.Function, What: "wire for " + f.Name,
			Body: join.SingleWire, Leads: []join.PartLead{{Point: "1", To: r.From}, {Point: "2", To: r.To}}, Who: desk.Who(c),
			When: s.Now().UTC().UnixMilli()}
		if err := desk.Unsound(&a, "/to"); err != nil {
			return err
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "function-part", Reason: a.What, Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(a)})
	})
}

// setRule says when a unit works an output; without words the rule is taken away.
func (s *API) setRule(c *gin.Context) error {
	r, err := desk.Read[OutRuleRequest](c)
	if err != nil {
		return err
	}
	var body any
	if text := strings.TrimSpace(r.When); text != "" {
		x := join.OutputRule{Output: r.Output, When: text, Who: desk.Who(c), Stated: s.Now().UTC().UnixMilli()}
		if err := desk.Unsound(&x, "/when"); err != nil {
			return err
		}
		body = x
	}
	if r.Output == "" || len(r.Output) > desk.LongestName {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-output", "Say which output.", "/output")
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "rule", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectOf(join.OutputRule{Output: r.Output}): body}})
}

// tryJoin gives what works in a condition: a position of the key, switches that are on, outputs that are held on or
// off, and the others as their rules have it with the numbers and the flags that are given.
func (s *API) tryJoin(c *gin.Context) error {
	r, j, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	condition := join.Condition{Numbers: map[string]float64{}, On: map[string]bool{}}
	for _, x := range append(c.QueryArray("sw"), c.QueryArray("flag")...) {
		condition.On[x] = true
	}
	for _, x := range c.QueryArray("is") { // coolant=96
		name, text, _ := strings.Cut(x, "=")
		v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
		if err != nil || math.IsNaN(v) {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-number", "Give "+name+" as a number.", "/is")
		}
		condition.Numbers[name] = v
	}
	on, off := c.QueryArray("on"), c.QueryArray("off")
	ruled, _ := join.Ruled(j.Job.OutRules, condition)
	v := TrialView{Ruled: []RuledOutput{}}
	for _, rule := range j.Job.OutRules {
		is, decided := ruled[rule.Output]
		_, known := r.Drawn.Outputs[rule.Output]
		v.Ruled = append(v.Ruled, RuledOutput{rule.Output, rule.When, is, decided && known})
		switch {
		case !decided || !known || slices.Contains(on, rule.Output) || slices.Contains(off, rule.Output):
		case is:
			on = append(on, rule.Output)
		default:
			off = append(off, rule.Output)
		}
	}
	if v.Trial, err = r.Try(at, c.QueryArray("sw"), on, off); err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-switch", desk.Sentence(err.Error()), "")
	}
	if v.Table, err = r.Tries(c.QueryArray("sw"), on, off); err != nil {
		return err
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// holdsOf gives what must be true for a device to work in a condition.
func (s *API) holdsOf(c *gin.Context) error {
	r, _, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	holds, err := r.Holds(at, c.QueryArray("sw"), c.Query("device"))
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-device", desk.Sentence(err.Error()), "/device")
	}
	c.JSON(http.StatusOK, HoldsView{holds})
	return nil
}
