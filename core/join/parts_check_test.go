package join_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/join"
)

// What a part may be: each thing that is asked of it is asked by itself.
func TestWhatAPartMayBe(t *testing.T) {
	leads := func(points ...string) []join.PartLead {
		var out []join.PartLead
		for _, p := range points {
			out = append(out, join.PartLead{Point: p, To: "A1"})
		}
		return out
	}
	at := harness.Ref{Connector: "A", Cavity: "1"}
	for _, c := range []struct {
		name string
		part join.Added
		says string // empty: it can be
	}{
		{"a resistor across", join.Added{ID: "R1", What: "pull-up", Body: join.Resistor, Ohms: 1000, Leads: leads("1", "2")},
			""},
		{"a resistor in a wire", join.Added{ID: "R1", What: "dropper", Body: join.Resistor, Ohms: 10, In: at}, ""},
		{"a wire", join.Added{ID: "W1", What: "lead", Body: join.SingleWire, Leads: leads("1", "2")}, ""},
		{"what is fitted", join.Added{ID: "F1", What: "sender", Body: join.Fitted}, ""},
		{"nothing", join.Added{}, "has a name"},
		{"no name", join.Added{What: "x", Body: join.Fitted}, "has a name"},
		{"a name too long", join.Added{ID: strings.Repeat("x", 21), What: "x", Body: join.Fitted}, "has a name"},
		{"no words", join.Added{ID: "F1", Body: join.Fitted}, "has a name"},
		{"words too many", join.Added{ID: "F1", What: strings.Repeat("x", 201), Body: join.Fitted}, "has a name"},
		{"another body", join.Added{ID: "F1", What: "x", Body: "ghost"}, "cannot be"},
		{"fitted with a lead", join.Added{ID: "F1", What: "x", Body: join.Fitted, Leads: leads("1")}, "has no leads"},
		{"fitted in a wire", join.Added{ID: "F1", What: "x", Body: join.Fitted, In: at}, "has no leads"},
		{"one lead", join.Added{ID: "R1", What: "x", Body: join.Resistor, Ohms: 1, Leads: leads("1")},
			"where its leads come"},
		{"a wire in a wire", join.Added{ID: "W1", What: "x", Body: join.SingleWire, In: at, Leads: leads("1", "2")},
			"two ends"},
		{"a wire of three ends", join.Added{ID: "W1", What: "x", Body: join.SingleWire, Leads: leads("1", "2", "3")},
			"two ends"},
		{"a resistor of nothing", join.Added{ID: "R1", What: "x", Body: join.Resistor, Leads: leads("1", "2")}, "0 Ω"},
		{"less than nothing", join.Added{ID: "R1", What: "x", Body: join.Resistor, Ohms: -1, Leads: leads("1", "2")}, "-1 Ω"},
		{"too much", join.Added{ID: "R1", What: "x", Body: join.Resistor, Ohms: 2e6, Leads: leads("1", "2")}, "2e+06 Ω"},
		{"nine leads", join.Added{ID: "K1", What: "x", Body: join.Through,
			Leads: leads("1", "2", "3", "4", "5", "6", "7", "8", "9")}, "at most 8"},
		{"a point twice", join.Added{ID: "R1", What: "x", Body: join.Resistor, Ohms: 1, Leads: leads("1", "1")},
			"of its own"},
	} {
		c.part.Function = join.Functions()[0].ID
		err := c.part.Check()
		if (err != nil) != (c.says != "") || err != nil && !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, wanted %q", c.name, err, c.says)
		}
	}
	lost := join.Added{ID: "F1", What: "x", Body: join.Fitted, Function: "levitation"}
	if err := lost.Check(); err == nil || !strings.Contains(err.Error(), "levitation") {
		t.Errorf("a function that there is not: %v", err)
	}
}
