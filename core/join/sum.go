package join

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Sum is whether a function works out, with its working.
type Sum struct {
	Works bool      `json:"works"`
	Says  string    `json:"says"` // in one sentence
	Lines []SumLine `json:"lines"`
	Ways  []SumWay  `json:"ways,omitempty"` // to make it work, the best first
	Chart *Chart    `json:"chart,omitempty"`
	Error string    `json:"error,omitempty"` // what was typed and cannot be
	Short bool      `json:"short,omitempty"` // too little is stated for a result
}

// SumLine is a line of the working.
type SumLine struct {
	What   string `json:"what"`
	Value  string `json:"value"` // with its unit
	Source string `json:"source,omitempty"`
}

// SumWay is a way to make a function work.
type SumWay struct {
	Text  string            `json:"text"`
	Facts map[string]string `json:"facts,omitempty"` // what it states, where it can be taken at once
	Unit  string            `json:"unit,omitempty"`  // a setting of the unit, for whoever programs it
	Part  *WayPart          `json:"part,omitempty"`  // what is brought into the harness for it
	Stage string            `json:"stage,omitempty"` // where it is done, where that is another stage's
}

// WayPart is a part that a way wants, and what a person says of where it comes.
type WayPart struct {
	What  string    `json:"what"`
	Body  Body      `json:"body"`
	Ohms  float64   `json:"ohms,omitempty"`
	In    bool      `json:"in,omitempty"` // a wire is cut for it: say behind which cavity
	Leads []WayLead `json:"leads,omitempty"`
}

// WayLead is a lead of such a part.
type WayLead struct {
	Point string `json:"point"`
	Asks  string `json:"asks"`          // where it comes, in words
	Own   string `json:"own,omitempty"` // the point of the part itself that it comes to; nothing is asked then
}

// powered are the leads of what wants a feed and a ground.
var powered = []WayLead{{Point: "+", Asks: "its feed"}, {Point: "−", Asks: "its ground"}}

// Takes says whether a way can be taken at once: it states something, sets the unit or brings a part.
func (w *SumWay) Takes() bool { return len(w.Facts) > 0 || w.Unit != "" || w.Part != nil }

// Chart is what a needle shows against what is true.
type Chart struct {
	Across string  `json:"across"` // "true km/h"
	Up     string  `json:"up"`     // "shown km/h"
	Points []Point `json:"points"`
}

// Point is a point of a chart: the true value, what is shown, and between what it may lie.
type Point struct {
	True  float64 `json:"true"`
	Shown float64 `json:"shown"`
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
}

// Ask is something that a sum works with, and that a person states.
type Ask struct {
	Name  string `json:"name"`
	What  string `json:"what"`
	Unit  string `json:"unit,omitempty"`
	Value string `json:"value"`
	Usual string `json:"usual,omitempty"` // what is taken where nobody says
}

// setting is the name of the fact that a unit is to be set to something.
const setting = "setting"

// facts reads what was typed, and notes what cannot be.
type facts struct {
	given map[string]string
	asks  []Ask
	bad   string
}

// number reads a number between bounds; the usual one where nothing was typed, and false where there is none.
func (f *facts) number(name, what, unit string, usual, least, most float64) (float64, bool) {
	text := strings.TrimSpace(f.given[name])
	ask := Ask{Name: name, What: what, Unit: unit, Value: text}
	if usual != 0 {
		ask.Usual = strconv.FormatFloat(usual, 'g', 6, 64)
	}
	f.asks = append(f.asks, ask)
	if text == "" {
		return usual, usual != 0
	}
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil || !(v >= least && v <= most) {
		f.bad = fmt.Sprintf("%q cannot be %s: %g to %g %s", text, what, least, most, unit)
		return 0, false
	}
	return v, true
}

// word reads a word.
func (f *facts) word(name, what, usual string) string {
	text := strings.TrimSpace(f.given[name])
	f.asks = append(f.asks, Ask{Name: name, What: what, Value: text, Usual: usual})
	if text == "" {
		return usual
	}
	return text
}

// inputs counts the ends of a function at units.
func (it *Item) inputs() int {
	n := 0
	for _, e := range it.Ends {
		if e.Unit {
			n++
		}
	}
	return n
}

// percent writes a part in %.
func percent(x float64) string {
	return strings.Replace(strconv.FormatFloat(math.Round(x*1000)/10, 'g', 4, 64), "-", "−", 1) + " %"
}

func value(x float64, unit string) string {
	return strings.TrimSpace(strconv.FormatFloat(x, 'g', 4, 64) + " " + unit)
}

// short is a sum that lacks something.
func short(says string) *Sum { return &Sum{Short: true, Says: says, Lines: []SumLine{}} }

// between are the leads of what lies between two wires.
func between(one, other string) []WayLead {
	return []WayLead{{Point: "1", Asks: one}, {Point: "2", Asks: other}}
}

// granting is what keeps a starter from turning in gear: a relay in its wire whose coil the switch grounds.
func granting(open []string) *Sum {
	names := strings.Join(open, ", ")
	return &Sum{Says: "The starter turns with " + names + " open: it cranks in gear.",
		Lines: []SumLine{{"tried on the network: crank, open", names, "every other switch closed"}},
		Ways: []SumWay{{Text: "a relay in the start wire that the switch grounds",
			Part: &WayPart{What: "start relay, 30 A", Body: RelayBody, In: true,
				Leads: []WayLead{{Point: "86", Own: "30"}, {Point: "85", Asks: "the wire of the switch, which closes to ground"}}}},
			{Text: "the switch itself in the wire of the start relay's coil", Stage: "match"},
			{Text: "let the unit grant it: match the switch to its input, and its starter output to the relay", Stage: "match"}}}
}
