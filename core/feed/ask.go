package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
)

// Outcome is what a fault comes to.
type Outcome struct {
	Fault    string   `json:"fault"`             // in words
	Stops    []string `json:"stops"`             // devices that worked and do not any more
	Starts   []string `json:"starts"`            // devices that work now and did not
	Changed  []string `json:"changed"`           // devices that have other volts, and what
	Already  int      `json:"already,omitempty"` // wires that carry more than they may without the fault too
	Heats    []Hot    `json:"heats"`             // wires that carry more than they may
	Opens    []Opened `json:"opens"`             // fuses that open, in the order in which they do
	Says     []string `json:"says"`              // what a person should know first, in words
	Works    []string `json:"works"`             // devices that go on as before
	Unfused  bool     `json:"unfused"`           // a short that no fuse ends
	Sleeping float64  `json:"sleeping"`          // A with the key off, where the fault changes that; else 0
}

// Hot is a wire that carries more than it may.
type Hot struct {
	Wire    harness.WireID `json:"wire"`
	Amps    float64        `json:"amps"`
	Carries float64        `json:"carries"`
	Burns   float64        `json:"burns"`   // s until its insulation is spent, good for at most 5; 0 where that is longer
	Outlast bool           `json:"outlast"` // fuses open before, at their slowest
}

// Opened is a fuse that opens.
type Opened struct {
	Fuse  string  `json:"fuse"`
	Amps  float64 `json:"amps"`
	Least float64 `json:"least"`          // s
	Most  float64 `json:"most"`           // s; 0 where it may take hours
	Slow  bool    `json:"slow,omitempty"` // a slow one: it opens later than that, and how much later is not known
}

// Ask answers what if, from the state of a position with switches of their own on. A fuse that opens by it is
// opened, and what follows from that too. It fails where the fault is about something that is not there.
func (r *Result) Ask(position string, on []string, f network.Fault) (Outcome, error) {
	before, err := r.With(position, on)
	if err != nil {
		return Outcome{}, fmt.Errorf("what if: %w", err)
	}
	faults, err := r.chafed(f)
	if err != nil {
		return Outcome{}, fmt.Errorf("what if: %w", err)
	}
	s, err := before.With(faults...)
	if err != nil {
		return Outcome{}, fmt.Errorf("what if: %w", err)
	}
	a := Outcome{Fault: f.String(), Stops: []string{}, Starts: []string{}, Changed: []string{}, Heats: []Hot{},
		Opens: []Opened{},
		Says:  []string{}, Works: []string{}}
	worst := s // the current before any fuse opens
	for range 20 {
		first, found := r.opens(s)
		if !found {
			break
		}
		a.Opens = append(a.Opens, first)
		if s, err = s.With(network.Fault{Do: network.Open, Element: "fuse " + first.Fuse}); err != nil {
			return Outcome{}, fmt.Errorf("what if: %w", err)
		}
	}
	r.heats(&a, before, worst, s)
	if f.Do == network.Short && f.Element != "" {
		r.heatsChafed(&a, f, worst, s)
	}
	r.compare(&a, before, s)
	if f.Do == network.Short && len(a.Opens) == 0 && r.drain(s)-r.drain(before) > 20 {
		a.Unfused = true
		a.Says = append(a.Says, fmt.Sprintf("No fuse ends it: %.0f A flow until something burns.", r.drain(s)))
	}
	if off := r.state("off"); position != "off" {
		if asleep, err := off.With(faults...); err == nil && math.Abs(r.drain(asleep)-r.Sleeps) > 0.01 {
			a.Sleeping = r.drain(asleep)
			a.Says = append(a.Says, fmt.Sprintf("With the key off %.3g A are taken then.", a.Sleeping))
		}
	}
	if len(s.Buzzes) > 0 {
		a.Says = append(a.Says, strings.Join(s.Buzzes, ", ")+" buzz.")
	}
	return a, nil
}

// chafed gives a fault as the network takes it. A wire that is chafed through to the body halfway is not one wire
// any more: it is open, and half of it leads to the body from either end.
func (r *Result) chafed(f network.Fault) ([]network.Fault, error) {
	if f.Do != network.Short || f.Element == "" {
		return []network.Fault{f}, nil
	}
	i, known := r.Drawn.Element(f.Element)
	if !known || r.Drawn.Elements[i].Kind != network.Copper {
		return nil, fmt.Errorf("%s is no wire", f.Element)
	}
	e := &r.Drawn.Elements[i]
	half := e.Ohms / 2
	return []network.Fault{{Do: network.Open, Element: f.Element},
		{Do: network.Short, A: r.Drawn.Names[e.A], B: f.B, Ohms: half},
		{Do: network.Short, A: r.Drawn.Names[e.B], B: f.B, Ohms: half}}, nil
}

// heatsChafed says how the halves of a chafed wire fare.
func (r *Result) heatsChafed(a *Outcome, f network.Fault, worst, after *network.State) {
	i, _ := r.Drawn.Element(f.Element)
	to, _ := r.Drawn.Find(f.B)
	e, w := &r.Drawn.Elements[i], r.in.Wires[metal(&r.Drawn.Elements[i])]
	through := func(s *network.State) float64 {
		return max(math.Abs(s.Volts[e.A]-s.Volts[to]), math.Abs(s.Volts[e.B]-s.Volts[to])) / (e.Ohms / 2)
	}
	if amps := through(worst); w.Carries > 0 && amps > w.Carries*1.01 {
		a.Heats = append(a.Heats, r.hot(a, metal(e), amps, through(after)))
	}
}

// drain gives what the battery gives, in A.
func (r *Result) drain(s *network.State) float64 {
	if i, known := r.Drawn.Element(network.BatteryName); known {
		return s.Amps(i)
	}
	return 0
}

// opens gives the fuse that opens first in a state, and false where none does within ten minutes.
func (r *Result) opens(s *network.State) (Opened, bool) {
	var first Opened
	found := false
	for _, p := range r.Fuses {
		amps := math.Abs(s.Amps(p.element))
		if p.Rating == 0 { // a spare slot
			continue
		}
		least, most, opens := Opens(p.Rating, amps)
		if !opens || least > 600 || amps < 1.35*p.Rating {
			continue
		}
		if math.IsInf(most, 1) {
			most = 0
		}
		if !found || least < first.Least {
			if r.Facts.Slow[p.Fuse] {
				most = 0
			}
			first, found = Opened{p.Fuse, amps, least, most, r.Facts.Slow[p.Fuse]}, true
		}
	}
	return first, found
}

// heats lists the wires that carry more than they may before a fuse opens, and says whether it opens in time. Those
// that carry as much without the fault are found already, and only counted.
func (r *Result) heats(a *Outcome, before, worst, after *network.State) {
	already := 0
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		w, known := r.in.Wires[metal(e)]
		amps := math.Abs(worst.Amps(int32(i)))
		if !known || w.Carries == 0 || amps <= w.Carries*1.01 {
			continue
		}
		if amps <= math.Abs(before.Amps(int32(i)))*1.01 {
			already++
			continue
		}
		a.Heats = append(a.Heats, r.hot(a, metal(e), amps, math.Abs(after.Amps(int32(i)))))
	}
	slices.SortFunc(a.Heats, func(x, y Hot) int { return finding.Natural(x.Wire, y.Wire) })
	a.Already = already
}

// hot tells of a wire that carries so many A until fuses open, and after that.
func (r *Result) hot(a *Outcome, wire harness.WireID, amps, after float64) Hot {
	w := r.in.Wires[wire]
	h := Hot{Wire: wire, Amps: amps, Carries: w.Carries}
	burns := Burns(w.Square, amps)
	if burns < 5 {
		h.Burns = burns
	}
	h.Outlast = after <= w.Carries*1.01 && len(a.Opens) > 0 && longest(a.Opens) < burns
	return h
}

// longest gives the most time in s that fuses take to open one after the other, without end where one may take hours.
// A wire that loses no heat meanwhile is the worst case: what outlasts that outlasts it.
func longest(opens []Opened) float64 {
	sum := 0.0
	for _, o := range opens {
		if o.Most == 0 {
			return math.Inf(1)
		}
		sum += o.Most
	}
	return sum
}

// Works says whether a device does its work in a state: something in it has half of the volts that it is made for, or a
// unit is awake.
func (r *Result) Works(s *network.State, device string) bool {
	if k, unit := r.Drawn.Units[device]; unit {
		return s.Pulled[k-1]
	}
	for k := range r.Drawn.Relays {
		if r.Drawn.Relays[k].Name == device {
			return s.Pulled[k]
		}
	}
	for _, i := range r.Drawn.Of[device] {
		if s.Conducts(i) && math.Abs(s.Across(i)) >= 6 {
			return true
		}
	}
	return false
}

// Devices lists what uses current, by name.
func (r *Result) Devices() []string {
	out := make([]string, 0, len(r.Drawn.Of))
	for d := range r.Drawn.Of {
		out = append(out, d)
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

// compare says what stops, starts and goes on.
func (r *Result) compare(a *Outcome, before, after *network.State) {
	for _, d := range r.Devices() {
		was, is := r.Works(before, d), r.Works(after, d)
		switch {
		case was && !is:
			a.Stops = append(a.Stops, d)
		case !was && is:
			a.Starts = append(a.Starts, d)
		default:
			if x, y := r.volts(before, d), r.volts(after, d); math.Abs(x-y) > 0.3 {
				a.Changed = append(a.Changed, fmt.Sprintf("%s: %.1f V, was %.1f V", d, y, x))
			}
			if is {
				a.Works = append(a.Works, d)
			}
		}
	}
	for _, d := range a.Stops {
		if _, unit := r.Drawn.Units[d]; unit {
			a.Says = append(a.Says, d+" goes to sleep.")
		}
	}
	if len(a.Stops)+len(a.Starts)+len(a.Opens)+len(a.Heats)+len(a.Changed) == 0 {
		a.Says = append(a.Says, "Nothing changes in this position.")
	}
}

// volts gives the most volts that something in a device has.
func (r *Result) volts(s *network.State, device string) float64 {
	v := 0.0
	for _, i := range r.Drawn.Of[device] {
		if s.Conducts(i) {
			v = max(v, math.Abs(s.Across(i)))
		}
	}
	return v
}
