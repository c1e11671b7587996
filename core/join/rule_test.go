package join

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
)

// Rules as people write them, in conditions worked out by hand.
func TestRulesByHand(t *testing.T) {
	at := func(coolant float64, on ...string) Condition {
		c := Condition{Numbers: map[string]float64{"coolant": coolant}, On: map[string]bool{}}
		for _, x := range on {
			c.On[x] = true
		}
		return c
	}
	for _, c := range []struct {
		rule string
		c    Condition
		want bool
	}{
		{"coolant above 95 or A/C request", at(96), true}, {"coolant above 95 or A/C request", at(95), false},
		{"coolant above 95 or A/C request", at(20, "a/c request"), true}, {"coolant >= 95", at(95), true},
		{"coolant <= 95", at(95), true}, {"coolant <= 95", at(96), false}, {"coolant <95", at(95), false},
		{"coolant > 95 °C and not clutch switch", at(99, "clutch switch"), false}, {"coolant > 95°C and not clutch switch",
			at(99), true},
		{"a or b and c", at(0, "a"), true}, {"a or b and c", at(0, "b"), false}, {"(a or b) and c", at(0, "a"), false},
		{"(a or b) and c", at(0, "a", "c"), true}, {"not (a or b)", at(0), true}, {"oil under 2,5", at(0), false},
		{"not not a", at(0, "a"), true}, {"coolant below 80 and speed over 10", at(50), false},
	} {
		e, err := ReadRule(c.rule)
		if err != nil {
			t.Error(err)
			continue
		}
		if got := e.Holds(c.c); got != c.want {
			t.Errorf("%q with %v holds %v", c.rule, c.c, got)
		}
	}
	for text, says := range map[string]string{"": "says when", "coolant above": "no number",
		"coolant above hot": "no number", "(a or b": "not closed",
		"a or": "name is missing", "and b": "name is missing", "a ) b": "not understood", strings.Repeat("(",
			40) + "a": "too deep", "= 5": "name is missing"} {
		if _, err := ReadRule(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want %s", text, err, says)
		}
	}
}

// Random rules against an evaluation that the test writes beside them, in every setting of their flags.
func TestRulesAgainstATruthTable(t *testing.T) {
	names := []string{"a", "b", "c", "d"}
	for seed := range uint64(500) {
		r := rand.New(rand.NewPCG(seed, 3))
		var write func(depth int) (string, func(bits int) bool)
		write = func(depth int) (string, func(bits int) bool) {
			switch k := r.IntN(4); {
			case depth == 0 || k == 0:
				n := r.IntN(len(names))
				return names[n], func(bits int) bool { return bits>>n&1 == 1 }
			case k == 1:
				text, is := write(depth - 1)
				return "not (" + text + ")", func(bits int) bool { return !is(bits) }
			case k == 2:
				x, isX := write(depth - 1)
				y, isY := write(depth - 1)
				return fmt.Sprintf("(%s) and (%s)", x, y), func(bits int) bool { return isX(bits) && isY(bits) }
			default:
				x, isX := write(depth - 1)
				y, isY := write(depth - 1)
				return fmt.Sprintf("%s or (%s)", "("+x+")", y), func(bits int) bool { return isX(bits) || isY(bits) }
			}
		}
		text, is := write(4)
		e, err := ReadRule(text)
		if err != nil {
			t.Fatal(err)
		}
		for bits := range 16 {
			c := Condition{On: map[string]bool{}}
			for n, name := range names {
				c.On[name] = bits>>n&1 == 1
			}
			if e.Holds(c) != is(bits) {
				t.Fatalf("%q with %v holds %v", text, c.On, e.Holds(c))
			}
		}
	}
}

// A rule may name another's output; a circle decides nothing and is told.
func TestRulesOfRules(t *testing.T) {
	rules := []OutputRule{{Output: "B19", When: "B18 and coolant above 105"}, {Output: "B18", When: "coolant above 95"},
		{Output: "A1", When: "A2"},
		{Output: "A2", When: "not A1"}, {Output: "A3", When: "A3 or x"}, {Output: "A4", When: "A2 and x"}}
	on, circle := Ruled(rules, Condition{Numbers: map[string]float64{"coolant": 110}})
	if !on["B18"] || !on["B19"] || strings.Join(circle, " ") != "A1 A2 A3 A4" {
		t.Errorf("on %v, circle %v", on, circle)
	}
	codes := ""
	for _, f := range CheckRules(rules, map[string]string{"A1": "", "A2": "", "A3": "", "A4": "", "B18": "fan"}) {
		codes += f.Code + " " + f.Subject + ";"
	}
	if codes != "rule-circle A1;rule-adrift B19;" {
		t.Errorf("found %s", codes)
	}
	if on, _ = Ruled(rules[:2], Condition{Numbers: map[string]float64{"coolant": 100}}); !on["B18"] || on["B19"] {
		t.Errorf("at 100 °C %v", on)
	}
}

func FuzzReadRule(f *testing.F) {
	for _, x := range []string{"coolant above 95 or A/C", "not (a and b) or c <= 4,5 V", "((", "= 5 < 4"} {
		f.Add(x)
	}
	f.Fuzz(func(_ *testing.T, text string) {
		if e, err := ReadRule(text); err == nil {
			e.Holds(Condition{})
			e.Names()
		}
	})
}
