package join

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"draxel/core/finding"
)

// OutputRule says when a unit works one of its outputs, as a person states it: "coolant above 95 or A/C request and
// not clutch switch". A name is on or off, or has a number that is compared; and binds before or.
type OutputRule struct {
	Output string `json:"output"` // its cavity
	When   string `json:"when"`
	Who    string `json:"who,omitempty"`
	Stated int64  `json:"stated,omitempty"` // Unix milliseconds
}

// Check says why a rule cannot be.
func (r *OutputRule) Check() error {
	if r.Output == "" || len(r.Output) > 80 || len(r.When) > 400 {
		return fmt.Errorf("a rule names an output and has at most 400 letters")
	}
	_, err := ReadRule(r.When)
	return err
}

// Condition is what a rule works with: numbers by name, and what is on.
type Condition struct {
	Numbers map[string]float64
	On      map[string]bool
}

// Expression is a rule as it was read.
type Expression struct {
	all, any []Expression // of which all, or any, must be so
	not      *Expression
	name     string
	compare  byte // '>' or '<', 0: it is on
	limit    float64
	equal    bool // or equal to it
}

// Holds says whether the rule is so in a condition. A name that nobody has given is off, and has no number.
func (e *Expression) Holds(c Condition) bool {
	switch {
	case e.not != nil:
		return !e.not.Holds(c)
	case len(e.all) > 0:
		return !slices.ContainsFunc(e.all, func(x Expression) bool { return !x.Holds(c) })
	case len(e.any) > 0:
		return slices.ContainsFunc(e.any, func(x Expression) bool { return x.Holds(c) })
	case e.compare == 0:
		return c.On[e.name]
	}
	v, given := c.Numbers[e.name]
	return given && (e.compare == '>' && v > e.limit || e.compare == '<' && v < e.limit || e.equal && v == e.limit)
}

// Names gives the names that the rule compares, and those that are on or off.
func (e *Expression) Names() (numbers, flags []string) {
	visit := func(all []Expression) {
		for i := range all {
			n, f := all[i].Names()
			numbers, flags = append(numbers, n...), append(flags, f...)
		}
	}
	switch {
	case e.not != nil:
		numbers, flags = e.not.Names()
	case len(e.all)+len(e.any) > 0:
		visit(e.all)
		visit(e.any)
	case e.compare == 0:
		flags = []string{e.name}
	default:
		numbers = []string{e.name}
	}
	slices.Sort(numbers)
	slices.Sort(flags)
	return slices.Compact(numbers), slices.Compact(flags)
}

// deepest is how deep brackets may stand in each other.
const deepest = 20

// ReadRule reads a rule. It fails with what is not understood.
func ReadRule(text string) (*Expression, error) {
	p := &ruleText{words: ruleWords(text)}
	if len(p.words) == 0 {
		return nil, fmt.Errorf("a rule says when: coolant above 95 or A/C request")
	}
	e, err := p.any(0)
	if err == nil && p.at < len(p.words) {
		err = fmt.Errorf("%q is not understood in the rule", p.words[p.at])
	}
	return e, err
}

// ruleWords parts a rule into words, numbers, brackets and signs.
func ruleWords(text string) []string {
	var out []string
	word := ""
	end := func() {
		if word != "" {
			out = append(out, strings.ToLower(word))
		}
		word = ""
	}
	for _, r := range text {
		switch {
		case unicode.IsSpace(r):
			end()
		case strings.ContainsRune("()<>=", r):
			end()
			if n := len(out); r == '=' && n > 0 && (out[n-1] == "<" || out[n-1] == ">") {
				out[n-1] += "="
			} else {
				out = append(out, string(r))
			}
		default:
			word += string(r)
		}
	}
	end()
	return out
}

type ruleText struct {
	words []string
	at    int
}

func (p *ruleText) next() string {
	if p.at < len(p.words) {
		return p.words[p.at]
	}
	return ""
}

func (p *ruleText) any(depth int) (*Expression, error) {
	return p.list(depth, "or", p.all, func(all []Expression) *Expression { return &Expression{any: all} })
}

func (p *ruleText) all(depth int) (*Expression, error) {
	return p.list(depth, "and", p.one, func(all []Expression) *Expression { return &Expression{all: all} })
}

// list reads parts with a word between them.
func (p *ruleText) list(depth int, between string, part func(int) (*Expression, error),
	whole func([]Expression) *Expression) (*Expression, error) {
	first, err := part(depth)
	if err != nil {
		return nil, err
	}
	all := []Expression{*first}
	for p.next() == between {
		p.at++
		more, err := part(depth)
		if err != nil {
			return nil, err
		}
		all = append(all, *more)
	}
	if len(all) == 1 {
		return first, nil
	}
	return whole(all), nil
}

// signs are the words and signs that compare.
var signs = map[string]string{"above": ">", "over": ">", ">": ">", "below": "<", "under": "<", "<": "<", ">=": ">=",
	"<=": "<="}

func (p *ruleText) one(depth int) (*Expression, error) {
	if depth > deepest {
		return nil, fmt.Errorf("the brackets of the rule stand too deep in each other")
	}
	switch p.next() {
	case "not":
		p.at++
		e, err := p.one(depth + 1)
		if err != nil {
			return nil, err
		}
		return &Expression{not: e}, nil
	case "(":
		p.at++
		e, err := p.any(depth + 1)
		if err != nil {
			return nil, err
		}
		if p.next() != ")" {
			return nil, fmt.Errorf("a bracket of the rule is not closed")
		}
		p.at++
		return e, nil
	}
	var name []string
	for w := p.next(); w != "" && w != "and" && w != "or" && w != "not" && w != "(" && w != ")" && w != "=" &&
		signs[w] == ""; w = p.next() {
		name = append(name, w)
		p.at++
	}
	if len(name) == 0 {
		return nil, fmt.Errorf("a name is missing in the rule before %q", p.next())
	}
	e := &Expression{name: strings.Join(name, " ")}
	sign := signs[p.next()]
	if sign == "" {
		return e, nil
	}
	p.at++
	v, err := strconv.ParseFloat(strings.Replace(strings.TrimRight(p.next(), "°c%vakmh/"), ",", ".", 1), 64)
	if err != nil {
		return nil, fmt.Errorf("%q is no number that %s is compared with", p.next(), e.name)
	}
	p.at++
	if unit := p.next(); unit == "°c" || unit == "km/h" || unit == "rpm" || unit == "v" || unit == "bar" || unit == "%" {
		p.at++
	}
	e.compare, e.limit, e.equal = sign[0], v, len(sign) > 1
	return e, nil
}

// Ruled says which outputs rules work in a condition. A rule may name the output of another; one that names itself,
// round by others too, is told as a circle and decides nothing.
func Ruled(rules []OutputRule, c Condition) (on map[string]bool, circle []string) {
	read := map[string]*Expression{}
	by := map[string]string{} // by name in lower case: the output
	for i := range rules {
		if e, err := ReadRule(rules[i].When); err == nil {
			read[rules[i].Output] = e
			by[strings.ToLower(rules[i].Output)] = rules[i].Output
		}
	}
	known := Condition{Numbers: c.Numbers, On: map[string]bool{}}
	for name, is := range c.On {
		known.On[strings.ToLower(name)] = is
	}
	on = map[string]bool{}
	state := map[string]int{} // 1: being looked at, 2: done, 3: in a circle
	var look func(output string) bool
	look = func(output string) bool {
		switch state[output] {
		case 1, 3:
			return false
		case 2:
			return true
		}
		state[output] = 1
		_, flags := read[output].Names()
		sound := true
		for _, f := range flags {
			if other, is := by[f]; is {
				sound = look(other) && sound
			}
		}
		if !sound {
			state[output] = 3
			return false
		}
		state[output] = 2
		on[output] = read[output].Holds(known)
		known.On[strings.ToLower(output)] = on[output]
		return true
	}
	for i := range rules {
		if _, is := read[rules[i].Output]; is && !look(rules[i].Output) {
			circle = append(circle, rules[i].Output)
		}
	}
	slices.Sort(circle)
	return on, circle
}

// CheckRules finds rules that go round in a circle, and those of outputs that no unit has. Outputs are those of the
// units with what they drive.
func CheckRules(rules []OutputRule, outputs map[string]string) []finding.Finding {
	var out []finding.Finding
	_, circle := Ruled(rules, Condition{})
	if len(circle) > 0 {
		out = append(out, finding.Finding{Code: "rule-circle", Severity: finding.Wrong, Stage: "join", Subject: circle[0],
			Text: fmt.Sprintf("The rules of %s go round in a circle, or hang on one: they decide nothing.",
				strings.Join(circle, ", ")),
			Remedy: "Say one of them by what is measured instead of by an output."})
	}
	for i := range rules {
		if _, known := outputs[rules[i].Output]; !known {
			out = append(out, finding.Finding{Code: "rule-adrift", Severity: finding.Check, Stage: "join",
				Subject: rules[i].Output,
				Text: fmt.Sprintf("A rule is stated for output %s, and no unit of the finished harness has it.",
					rules[i].Output),
				Remedy: "Take the rule away, or put the row right."})
		}
	}
	return out
}
