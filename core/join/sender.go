package join

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// Curve is what a sender gives, or what a gauge shows: points of one value by another, straight between them, and as
// the last two have it beyond.
type Curve struct {
	X, Y []float64 // X ascending
}

// ReadCurve reads points as people write them: "20: 120, 60: 40, 120: 10". It fails on fewer than two, on two at one
// value and on a curve that doubles back, which could not be read backwards.
func ReadCurve(text string) (Curve, error) {
	var c Curve
	type point struct{ x, y float64 }
	var all []point
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ';' || r == '\n' || r == ',' }) {
		if strings.TrimSpace(part) == "" {
			continue
		}
		a, b, ok := strings.Cut(part, ":")
		x, errX := strconv.ParseFloat(strings.Trim(a, " °CbarΩ"), 64)
		y, errY := strconv.ParseFloat(strings.Trim(b, " °CbarΩ"), 64)
		if !ok || errX != nil || errY != nil || math.IsNaN(x+y) || math.IsInf(x+y, 0) {
			return c, fmt.Errorf("%q is no point such as 60: 40", strings.TrimSpace(part))
		}
		all = append(all, point{x, y})
	}
	if len(all) < 2 || len(all) > 100 {
		return c, fmt.Errorf("a curve has 2 to 100 points")
	}
	slices.SortStableFunc(all, func(a, b point) int {
		switch {
		case a.x < b.x:
			return -1
		case a.x > b.x:
			return 1
		}
		return 0
	})
	rising := all[1].y > all[0].y
	for i, p := range all {
		if i > 0 && p.x == all[i-1].x {
			return c, fmt.Errorf("two points are at %g", p.x)
		}
		if i > 0 && (p.y == all[i-1].y || p.y > all[i-1].y != rising) {
			return c, fmt.Errorf("the curve doubles back at %g", p.x)
		}
		c.X, c.Y = append(c.X, p.x), append(c.Y, p.y)
	}
	return c, nil
}

// At gives the curve's value at x.
func (c Curve) At(x float64) float64 {
	i := 1
	for i < len(c.X)-1 && x > c.X[i] {
		i++
	}
	return c.Y[i-1] + (c.Y[i]-c.Y[i-1])*(x-c.X[i-1])/(c.X[i]-c.X[i-1])
}

// Back gives the curve the other way round.
func (c Curve) Back() Curve {
	out := Curve{slices.Clone(c.Y), slices.Clone(c.X)}
	if out.X[0] > out.X[1] {
		slices.Reverse(out.X)
		slices.Reverse(out.Y)
	}
	return out
}

// series24 are the values of a decade of E24 (IEC 60063).
var series24 = []float64{1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1,
	5.6, 6.2, 6.8, 7.5, 8.2, 9.1}

// Resistors lists the values of E24 from 1 Ω to 100 kΩ (IEC 60063).
func Resistors() []float64 {
	var out []float64
	for decade := 1.0; decade < 1e5; decade *= 10 {
		for _, v := range series24 {
			out = append(out, math.Round(v*decade*1000)/1000)
		}
	}
	return append(out, 1e5)
}

// Matched is a resistor that makes a gauge show best what a sender gives.
type Matched struct {
	Ohms     float64
	Parallel bool
	Off      float64 // the greatest error that is left, in the unit of the gauge
}

// Match finds the resistor of E24 in series with a sender, or beside it, by which a gauge is off by least over the
// sender's range. Sender gives Ω by the true value, gauge the shown value by Ω.
func Match(sender, gauge Curve) Matched {
	best := Matched{Off: Off(sender, gauge, func(r float64) float64 { return r })}
	for _, v := range Resistors() {
		for _, parallel := range []bool{false, true} {
			with := func(r float64) float64 {
				if parallel {
					return r * v / (r + v)
				}
				return r + v
			}
			if off := Off(sender, gauge, with); off < best.Off-1e-9 {
				best = Matched{v, parallel, off}
			}
		}
	}
	return best
}

// samples is over how many places of its range a gauge is looked at.
const samples = 20

// Off gives the greatest error of a gauge over a sender's range, with what is done to its resistance.
func Off(sender, gauge Curve, with func(ohms float64) float64) float64 {
	worst := 0.0
	low, high := sender.X[0], sender.X[len(sender.X)-1]
	for i := 0; i <= samples; i++ {
		x := low + (high-low)*float64(i)/samples
		worst = max(worst, math.Abs(gauge.At(with(sender.At(x)))-x))
	}
	return worst
}

// gauge is what a needle shows of a sender, in a unit such as °C. That of a temperature is a thermistor's.
func gauge(f *facts, unit string, thermal bool) *Sum {
	asks, usual := "sender: Ω by what is true, 0: 10, 3: 82, 7: 184", straight
	if thermal {
		asks, usual = "sender: Ω by what is true, 40: 300, 90: 60, 120: 25; or 10k B3977", thermistor
	}
	senderText := f.word("sender", asks, "")
	gaugeText := f.word("gauge", "gauge: Ω by what it shows, the same way", "")
	tolerance, _ := f.number("tolerance", "how far it may be off", unit, 5, 0.001, 1000)
	own := f.word("own", "its own sender in a second port: yes or no", "no")
	shared := f.word("shared", "the unit reads the same sender: yes or no", "no")
	if senderText == "" || gaugeText == "" {
		return short("State what the sender gives and what the gauge expects, point by point: then it is reckoned what " +
			"the needle shows.")
	}
	senderWay, gaugeWay := usual, usual
	if thermal {
		senderWay = f.word("between", "between the sender's points: thermistor or straight", usual)
		gaugeWay = f.word("steps", "between the gauge's points: thermistor or straight", usual)
	}
	expects, how, err := readSender(gaugeText, gaugeWay, Curve{})
	if err != nil {
		f.bad = "gauge: " + err.Error()
		return nil
	}
	sender, senderHow, err := readSender(senderText, senderWay, expects)
	if err != nil {
		f.bad = "sender: " + err.Error()
		return nil
	}
	shows := expects.Back()
	plain := func(r float64) float64 { return r }
	off := Off(sender, shows, plain)
	s := &Sum{Works: off <= tolerance, Chart: &Chart{Across: strings.TrimSpace("true " + unit),
		Up: strings.TrimSpace("shown " + unit)}, Lines: []SumLine{}}
	for i := 0; i <= samples; i += 2 {
		x := sender.X[0] + (sender.X[len(sender.X)-1]-sender.X[0])*float64(i)/samples
		s.Chart.Points = append(s.Chart.Points, Point{x, shows.At(sender.At(x)), x - tolerance, x + tolerance})
	}
	end := func(ohms float64) string {
		if ohms == 0 == (expects.Y[0] < expects.Y[len(expects.Y)-1]) {
			return "the low end"
		}
		return "the high end"
	}
	s.Lines = append(s.Lines, SumLine{"it is off by at most", value(off, unit), ""})
	if thermal {
		s.Lines = append(s.Lines, SumLine{"between the sender's points", senderHow, ""},
			SumLine{"between the gauge's points", how, ""})
	}
	s.Lines = append(s.Lines,
		SumLine{"on an open wire the needle goes to", end(math.Inf(1)), ""}, SumLine{"on a wire to ground it goes to",
			end(0), ""},
		SumLine{"a sender of one wire", "grounds through its thread: liquid sealant, never tape that insulates",
			"common practice"})
	s.Says = fmt.Sprintf("The needle is off by at most %s.", value(math.Round(off*10)/10, unit))
	if shared == "yes" && own != "yes" {
		s.Works = false
		s.Says = "The unit reads this sender too: a gauge beside it draws current through it, and both read wrong."
		s.Ways = append(s.Ways, SumWay{Text: "its own sender in a second port", Facts: map[string]string{"own": "yes"},
			Part: &WayPart{What: "sender of the gauge, in a second port", Body: Fitted}},
			SumWay{Text: "the unit's gauge output, where it has one", Unit: "gauge output: on"})
	}
	if off > tolerance {
		m := Match(sender, shows)
		where := "in series with"
		if m.Parallel {
			where = "beside"
		}
		if m.Ohms > 0 && m.Off <= tolerance {
			with := func(r float64) float64 { return r + m.Ohms }
			if m.Parallel {
				with = func(r float64) float64 { return r * m.Ohms / (r + m.Ohms) }
			}
			facts := map[string]string{"sender": rewritten(sender, with)}
			if thermal {
				facts["between"] = straight
			}
			s.Ways = append(s.Ways, SumWay{Text: fmt.Sprintf("a resistor of %g Ω (E24) %s the sender: %s are left",
				m.Ohms,
				where, value(math.Round(m.Off*10)/10, unit)), Facts: facts, Part: resistor(m)})
		}
		s.Ways = append(s.Ways, SumWay{Text: "the sender that belongs to the gauge, in a second port",
			Facts: belongs("sender", gaugeText, "between", gaugeWay, thermal, "own"),
			Part:  &WayPart{What: "sender that belongs to the gauge, in a second port", Body: Fitted}},
			SumWay{Text: "a gauge that belongs to the sender",
				Facts: belongs("gauge", curveText(senderText, sender), "steps", senderWay, thermal, ""),
				Part:  &WayPart{What: "gauge that belongs to the sender", Body: Fitted}})
	}
	return s
}

// resistor is the part of a matched resistor: in the sender's wire, or beside the sender from its wire to ground.
func resistor(m Matched) *WayPart {
	what := fmt.Sprintf("resistor of %g Ω (E24), 1 W", m.Ohms)
	if m.Parallel {
		return &WayPart{What: what, Body: Resistor, Ohms: m.Ohms,
			Leads: between("the wire from sender to gauge", "the ground of the sender")}
	}
	return &WayPart{What: what, Body: Resistor, In: true, Ohms: m.Ohms}
}

// belongs states of a sender or a gauge that it is made for the other one.
func belongs(name, curve, between, way string, thermal bool, own string) map[string]string {
	out := map[string]string{name: curve}
	if thermal {
		out[between] = way
	}
	if own != "" {
		out[own] = "yes"
	}
	return out
}

// curveText writes a curve as points where it was not stated so.
func curveText(text string, c Curve) string {
	if _, err := ReadCurve(text); err == nil {
		return text
	}
	return rewritten(c, func(r float64) float64 { return r })
}

// rewritten writes a sender's curve with a resistor at it, by at most a dozen steps.
func rewritten(c Curve, with func(float64) float64) string {
	const most = 12
	var parts []string
	n := len(c.X)
	for k := range min(n, most+1) {
		i := k
		if n > most+1 {
			i = k * (n - 1) / most
		}
		parts = append(parts, fmt.Sprintf("%.4g: %.4g", c.X[i], with(c.Y[i])))
	}
	return strings.Join(parts, ", ")
}
