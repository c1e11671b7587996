package join

import (
	"strings"
)

// sum works out a function's sum, where it has one.
func (it *Item) sum(in *Inputs, w FunctionWish) {
	if it.State == NotThere || it.State == Gone {
		return
	}
	f := &facts{given: w.Facts}
	var s *Sum
	switch it.ID {
	case "tach":
		s = tachometer(f, in.Job.Cylinders)
	case "speed":
		s = speedometer(f)
	case "coolantgauge":
		s = gauge(f, "°C", true)
	case "oilgauge":
		s = gauge(f, "bar", false)
	case "fuelgauge":
		s = gauge(f, "", false)
	case "charge":
		s = charging(f, &in.Job)
	case "pump":
		s = pump(f, &in.Job)
	case "pedal":
		s = pedal(f)
	case "bus":
		s = bus(f)
	case "fans":
		if len(in.Job.Fans) == 0 && len(w.Facts) == 0 {
			return
		}
		s = fans(f, &in.Job)
	case "compressor":
		if len(in.Job.Clutch) == 0 && len(w.Facts) == 0 {
			return
		}
		s = compressor(f, &in.Job)
	case "check":
		s = lampOut(f)
	case "brake":
		if it.inputs() < 2 && len(w.Facts) == 0 {
			return // no unit compares two
		}
		s = comparing(f)
	case "interlock":
		if len(in.Job.Cranks) == 0 {
			return
		}
		s = granting(in.Job.Cranks)
	case "diagnostic":
		s = diagnostics(f, in.Sockets)
	default:
		return
	}
	if f.bad != "" {
		s = &Sum{Error: f.bad, Says: "What was typed cannot be.", Lines: []SumLine{}}
	}
	it.Sum, it.Asks = s, f.asks
	if set := w.Facts[setting]; set != "" { // asked for only once it is set: then it can be changed or cleared
		it.Asks = append(it.Asks, Ask{Name: setting, What: "the unit is to be set", Value: set})
	}
	if s != nil && !s.Works && !s.Short && it.State == OnPaper {
		it.State, it.Why = Needs, strings.TrimSuffix(s.Says, ".")
	}
	if s != nil && s.Short && it.State == OnPaper {
		it.State, it.Why = Open, it.Why+", and its sum is not stated"
		it.need("", "", s.Says)
	}
	if !s.Works && len(s.Ways) > 0 {
		it.need("", "", "one of the ways to make it work, at its sum")
	}
}
