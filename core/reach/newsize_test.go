package reach_test

import (
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/work"
)

// A new wire is as thick as what it carries asks for, from whatever that is known; where nothing says it, it is not cut
// before somebody has. The least sections are those whose ampacity by ABYC E-11 (from memory: 16 AWG, 1.31 mm², 25 A;
// 12 AWG, 3.31 mm², 45 A; 10 AWG, 5.26 mm², 60 A in 105 °C wire, free air of 30 °C) is over the amps even before
// warmth and bundle are reckoned: less would be wrong by any table.
func TestANewWireIsAsThickAsItMustBe(t *testing.T) {
	for name, c := range map[string]struct {
		function    string
		size        size.Section
		wish        reach.Wish
		amps, fuse  float64
		least, most size.Section
	}{
		"a fan whose amps were stated": {function: "something", wish: reach.Wish{Amps: 40}, least: 3.31, most: 10},
		"a feed whose amps Feed knows": {function: "something", amps: 25, least: 1.31, most: 6},
		"behind a fuse of 40 A":        {function: "something", fuse: 40, least: 3.31, most: 10},
		"its row says 2.5":             {function: "something", size: 2.5, least: 2.5, most: 2.5},
		"its row says 0.35, and it feeds": {function: "Battery feed, terminal 30", size: 0.35, amps: 0.2, least: 0.5,
			most: 0.75},
		"a person says 4": {function: "something", wish: reach.Wish{Size: 4}, least: 4, most: 4},
		"a person says 1, and 40 A flow": {function: "something", wish: reach.Wish{Size: 1, Amps: 40}, least: 3.31,
			most: 10},
		"a sensor's signal":                   {function: "Coolant temperature signal", least: 0.35, most: 0.35},
		"a fan, as usual":                     {function: "Cooling fan motor feed", least: 1, most: 10},
		"a battery feed of nobody knows what": {function: "Battery feed, terminal 30"},
		"a ground of nobody knows what":       {function: "Power ground, terminal 31"},
		"nobody can read it":                  {function: "XQ-7 spare 3"},
		"Feed says what leaks only":           {function: "Battery feed, terminal 30", amps: 0.006},
	} {
		t.Run(name, func(t *testing.T) {
			w := wire("new wire A2", at("A", 2), at("J1", 1), 0, "")
			w.New, w.Function, w.Size = true, c.function, c.size
			w.Signal = signal.Read(c.function)
			in := yardInput(w)
			for i := range in.Decisions.Map.Paths {
				in.Decisions.Map.Paths[i].Heat = 30 // as the table has it
			}
			in.Amps, in.Fuses = map[harness.WireID]float64{w.ID: c.amps}, map[harness.WireID]float64{w.ID: c.fuse}
			if c.wish.Amps > 0 || c.wish.Size > 0 {
				c.wish.Wire = w.ID
				in.Decisions.Wishes = []reach.Wish{c.wish}
			}
			r := reach.Compute(in)
			l := line(t, r, w.ID)
			var cut *work.Step
			for i := range r.Steps {
				if r.Steps[i].Kind == reach.CutWire {
					cut = &r.Steps[i]
				}
			}
			if cut == nil {
				t.Fatal("it is not cut")
			}
			said := found(r, "size-unknown")
			if c.least == 0 {
				if len(said) != 1 || said[0].Severity != finding.Wrong || len(cut.Missing) == 0 || len(r.Buy) != 0 ||
					!strings.Contains(cut.Text, "size not known") || strings.Contains(cut.Text, "mm²") {
					t.Errorf("nothing is known, and it is %q, lacks %q, found %v, bought %v", cut.Text, cut.Missing, said, r.Buy)
				}
				return
			}
			if l.Size < c.least*0.999 || l.Size > c.most || len(said) > 0 || len(cut.Missing) > 0 {
				t.Errorf("%s, %v, lacks %v; from %s to %s is right", l.Size, said, cut.Missing, c.least, c.most)
			}
			if len(r.Buy) != 1 || r.Buy[0].Size < l.Size {
				t.Errorf("bought is %+v", r.Buy)
			}
		})
	}
}
