package prove

import (
	"math"

	"draxel/core/network"
)

// feeler knows what readings feel: which faults can change what they show, without putting them in. Of ohms with
// everything dead it is exact: a current from probe to probe that makes no volts across an element does not care
// whether it is whole.
type feeler struct {
	v     *Vehicle
	loss  []float64 // by reading, where nothing is wrong
	flows []flow
}

type flow struct {
	network.Flow
	state *network.State
	known bool // a reading of ohms with everything dead, through something that conducts
}

// feel looks at readings before faults are put in.
func (v *Vehicle) feel(readings []MeterReading, base []Shown) *feeler {
	f := &feeler{v: v, loss: make([]float64, len(readings)), flows: make([]flow, len(readings))}
	for k := range readings {
		r := &readings[k]
		f.loss[k] = fits(r, base[k], 0)
		if r.Kind != Ohms || r.Setup.Battery || r.Jumper != "" {
			continue
		}
		s, err := v.state(r.Setup)
		a, okA := v.point(r.A, r.Setup)
		b, okB := v.point(r.B, r.Setup)
		if err != nil || !okA || !okB {
			continue
		}
		if spread, joined := s.Flow(a, b); joined {
			f.flows[k] = flow{spread, s, true}
		}
	}
	return f
}

// noVolts is what counts as none, of a current of 1 A.
const noVolts = 1e-9

// feels says whether a reading may show something else with causes in the vehicle.
func (f *feeler) feels(k int, setup Setup, causes []Cause) bool {
	x := &f.flows[k]
	if !x.known {
		return true
	}
	faults := Faults(causes, setup)
	alone := len(faults) == 1
	for i := range faults {
		switch fault := &faults[i]; fault.Do {
		case network.Open, network.Worse:
			e, known := f.v.Net.Element(fault.Element)
			if !known {
				return true
			}
			el := &f.v.Net.Elements[e]
			if !x.Reaches(el.A) && !x.Reaches(el.B) || alone && !x.state.Conducts(e) {
				continue
			}
			if !alone || math.Abs(x.Across(el.A, el.B)) > noVolts {
				return true
			}
		case network.Short:
			a, okA := f.v.Net.Find(fault.A)
			b, okB := f.v.Net.Find(fault.B)
			if !okA || !okB {
				return true
			}
			inA, inB := x.Reaches(a), x.Reaches(b)
			if !alone && (inA || inB) || inA && inB && math.Abs(x.Across(a, b)) > noVolts {
				return true
			}
		default:
			return true
		}
	}
	return false
}
