package server

import (
	"maps"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/join"
	"draxel/core/plan"
	"draxel/store"
)

// showJoin gives what must work in the vehicle, and how it stands.
func (s *Server) showJoin(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	p := j.plan()
	v := JoinView{Revision: j.Revision, Items: orEmpty(p.Join.Functions), Legs: orEmpty(p.Join.Legs),
		Settings: orEmpty(p.Join.Settings),
		Raised:   []RaisedCodes{}, Positions: feed.Positions(), Said: p.Feed.Result != nil,
		Findings: stageFindings(p.Findings, "join"),
		Switches: []string{}, Closed: []string{}, Outputs: []Driven{}}
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
	v.Rules, v.Numbers, v.Flags = orEmpty(j.Job.OutRules), orEmpty(slices.Sorted(maps.Keys(numbers))),
		orEmpty(slices.Sorted(maps.Keys(flags)))
	for _, name := range slices.Sorted(maps.Keys(p.Join.Raised)) {
		v.Raised = append(v.Raised, RaisedCodes{name, p.Join.Raised[name]})
	}
	if r := p.Feed.Result; r != nil {
		v.Switches, v.Closed = orEmpty(r.Own()), orEmpty(r.Closed())
		for _, at := range slices.Sorted(maps.Keys(r.Drawn.Outputs)) {
			v.Outputs = append(v.Outputs, Driven{at, r.Drawn.Outputs[at]})
		}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// setFunction keeps what is wanted of a function, and what its sum works with.
func (s *Server) setFunction(c *gin.Context) error {
	r, err := read[FunctionRequest](c)
	if err != nil {
		return err
	}
	f, known := join.FunctionOf(r.Function)
	if !known {
		return problem(http.StatusNotFound, "no-such-thing", "There is no such function.", "/function")
	}
	return s.checked(c, func(j *computed) error {
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
			return problem(http.StatusUnprocessableEntity, "no-reason", "Say why it is given up. "+f.Law, "/reason")
		}
		if err := unsound(&w, "/facts"); err != nil {
			return err
		}
		var body any
		if w.Choice != join.Unsaid || len(w.Facts) > 0 {
			w.Who, w.When = who(c), s.now().UTC().UnixMilli()
			body = w
		}
		return s.apply(c, change{id: r.ID, what: "function", reason: w.Reason, seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectFunction(r.Function): body}})
	})
}

// setRule says when a unit works an output; without words the rule is taken away.
func (s *Server) setRule(c *gin.Context) error {
	r, err := read[OutRuleRequest](c)
	if err != nil {
		return err
	}
	var body any
	if text := strings.TrimSpace(r.When); text != "" {
		x := join.OutputRule{Output: r.Output, When: text, Who: who(c), Stated: s.now().UTC().UnixMilli()}
		if err := unsound(&x, "/when"); err != nil {
			return err
		}
		body = x
	}
	if r.Output == "" || len(r.Output) > longestName {
		return problem(http.StatusUnprocessableEntity, "no-such-output", "Say which output.", "/output")
	}
	return s.apply(c, change{id: r.ID, what: "rule", seen: r.Seen,
		bodies: map[string]any{store.SubjectOutRule(r.Output): body}})
}

// tryJoin gives what works in a condition: a position of the key, switches that are on, outputs that are held on or
// off, and the others as their rules have it with the numbers and the flags that are given.
func (s *Server) tryJoin(c *gin.Context) error {
	r, j, at, err := s.fed(c)
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
			return problem(http.StatusUnprocessableEntity, "bad-number", "Give "+name+" as a number.", "/is")
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
		return problem(http.StatusUnprocessableEntity, "no-such-switch", sentence(err.Error()), "")
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// TrialView is what works in a condition, and what the rules of the unit say in it.
type TrialView struct {
	feed.Trial
	Ruled []RuledOutput `json:"ruled"`
}

// RuledOutput is an output with its rule, and what that says.
type RuledOutput struct {
	Output  string `json:"output"`
	When    string `json:"when"`
	On      bool   `json:"on"`
	Decides bool   `json:"decides"` // it is understood, of an output that there is, and in no circle
}

// OutRuleRequest says when a unit works an output; without words the rule is taken away.
type OutRuleRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Output string `json:"output"`
	When   string `json:"when"`
}

// holdsOf gives what must be true for a device to work in a condition.
func (s *Server) holdsOf(c *gin.Context) error {
	r, _, at, err := s.fed(c)
	if err != nil {
		return err
	}
	holds, err := r.Holds(at, c.QueryArray("sw"), c.Query("device"))
	if err != nil {
		return problem(http.StatusUnprocessableEntity, "no-such-device", sentence(err.Error()), "/device")
	}
	c.JSON(http.StatusOK, HoldsView{holds})
	return nil
}

// HoldsView is what must let current through for a device to work; nothing where it does not.
type HoldsView struct {
	Holds []feed.Hold `json:"holds"`
}

// JoinView is what must work in a vehicle, and how it stands.
type JoinView struct {
	Revision  int64             `json:"revision"`
	Items     []join.Item       `json:"items"`
	Legs      []plan.Leg        `json:"legs"`
	Said      bool              `json:"said"` // the network says what is live
	Positions []feed.Position   `json:"positions"`
	Switches  []string          `json:"switches"`
	Closed    []string          `json:"closed"` // of them, those that are on as a rule
	Outputs   []Driven          `json:"outputs"`
	Rules     []join.OutputRule `json:"rules"`
	Numbers   []string          `json:"numbers"`  // that rules compare
	Flags     []string          `json:"flags"`    // that rules ask for: switches, outputs, requests
	Settings  []string          `json:"settings"` // of the unit, for whoever programs it
	Raised    []RaisedCodes     `json:"raised"`
	Findings  []finding.Finding `json:"findings"`
}

// Driven is an output of a unit with what it drives.
type Driven struct {
	At     string `json:"at"`
	Drives string `json:"drives"`
}

// RaisedCodes are the generic fault codes that a function which is given up raises.
type RaisedCodes struct {
	Function string   `json:"function"`
	Codes    []string `json:"codes"`
}

// FunctionRequest keeps what is wanted of a function, and what its sum works with.
type FunctionRequest struct {
	ID       string            `json:"id"`
	Seen     int64             `json:"seen"`
	Function string            `json:"function"`
	Choice   join.Choice       `json:"choice"`
	Facts    map[string]string `json:"facts,omitempty"`
	Reason   string            `json:"reason,omitempty"`
}
