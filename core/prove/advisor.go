package prove

import (
	"fmt"

	"draxel/core/network"
)

// advisor weighs what measurements would tell of suspects.
type advisor struct {
	v      *Vehicle
	d      *Diagnosis
	weight []float64 // of each suspect, and last that nothing is wrong; together 1
	open   float64   // bits that are open
	last   Setup     // in which the vehicle stands
	states []map[Setup]*network.State
	same   []string // what each shows at every option that was looked at: equal ones are of one class
}

// at gives the vehicle in a setup with a suspect in it, the last with nothing wrong.
func (a *advisor) at(i int, s Setup) *network.State {
	if st := a.states[i][s]; st != nil {
		return st
	}
	st, err := a.v.state(s)
	if err == nil && i < len(a.weight)-1 {
		if faults := Faults(a.d.Suspects[i].Causes, s); len(faults) > 0 {
			st, err = st.With(faults...)
		}
	}
	if err != nil {
		return nil
	}
	a.states[i][s] = st
	return st
}

// shows gives what a measure shows with each suspect; false where one of them cannot be asked.
func (a *advisor) shows(m *Measure, of []int) ([]Shown, bool) {
	out := make([]Shown, len(of))
	for k, i := range of {
		st := a.at(i, m.Setup)
		if st == nil {
			return nil, false
		}
		x, err := a.v.shows(st, m)
		if err != nil {
			return nil, false
		}
		out[k] = x
	}
	return out, true
}

// minutes gives what a measure costs.
func (a *advisor) minutes(m *Measure) float64 {
	out := probeMinutes
	if m.Setup != a.last {
		out += setupMinutes
		if m.Setup.Units != a.last.Units {
			out += setupMinutes
		}
	}
	return out
}

// best looks at the first options, and gives the one that tells most for its minutes, nil where none tells anything;
// and how many were looked at. Where the first tell nothing the next are looked at.
func (a *advisor) best(options []Measure) (best *Advice, asked int) {
	everything := make([]int, len(a.weight))
	for i := range everything {
		everything[i] = i
	}
	a.same = make([]string, len(a.weight))
	score := 0.0
	for k := range options {
		if asked = k; k >= mostOptions && best != nil {
			break
		}
		asked = k + 1
		m := &options[k]
		shows, fine := a.shows(m, everything)
		if !fine {
			continue
		}
		classes, bands := parted(m, shows)
		for i := range a.same {
			a.same[i] += fmt.Sprint(classes[i], ",")
		}
		gain, minutes := a.open-left(classes, len(bands), a.weight), a.minutes(m)
		if x := gain / minutes; gain > 0.03 && x > score+1e-9 {
			best, score = &Advice{
				Measure:  *m,
				Bits:     gain,
				Minutes:  minutes,
				Outcomes: a.v.outcomes(a.d, classes, bands, a.weight),
			}, x
		}
	}
	if best != nil {
		best.Why = fmt.Sprintf(
			"Of %d measurements this one tells most for its time: about %.1f of the %.1f bits that are open.",
			asked,
			best.Bits,
			a.open,
		)
	}
	return best, asked
}

// leastTold is from what part of what is said a cause counts that may still be parted from it.
const leastTold = 0.03

// parts looks, among options that were not looked at, for one that parts what is said from what was taken to be the
// same.
func (a *advisor) parts(options []Measure) *Advice {
	mass, _ := a.d.certain()
	var class []int
	for i := range a.weight[:len(a.weight)-1] {
		if s := &a.d.Suspects[i]; s.class == a.d.Suspects[0].class && s.weight > leastTold*mass {
			class = append(class, i)
		}
	}
	if len(class) < 2 {
		return nil
	}
	weight := make([]float64, len(class))
	open, sum := 0.0, 0.0
	for k, i := range class {
		weight[k] = a.weight[i]
		sum += weight[k]
	}
	for k := range weight {
		weight[k] /= sum
		open += bits(weight[k])
	}
	var best *Advice
	score := 0.0
	for k := range options {
		m := &options[k]
		shows, fine := a.shows(m, class)
		if !fine {
			continue
		}
		classes, bands := parted(m, shows)
		gain := open - left(classes, len(bands), weight)
		if x := gain / a.minutes(m); gain > 0.03 && x > score+1e-9 {
			score = x
			best = &Advice{Measure: *m, Bits: gain, Minutes: a.minutes(m), Outcomes: []MayShow{},
				Why: fmt.Sprintf(
					"It parts what is left, which nothing that lies nearer does: about %.1f of %.1f bits.",
					gain,
					open,
				)}
			for b := range bands {
				o := MayShow{Band: bands[b], Means: []string{}}
				for j, i := range class {
					if classes[j] == b {
						if o.Probability += weight[j]; len(o.Means) < 3 {
							o.Means = append(o.Means, a.d.Suspects[i].Text())
						}
					}
				}
				best.Outcomes = append(best.Outcomes, o)
			}
		}
	}
	return best
}

// certain gives the weight of what is likeliest, with what nothing tells from it, and of everything else.
func (d *Diagnosis) certain() (mass, rest float64) {
	rest = d.Healthy
	for i := range d.Suspects {
		if s := &d.Suspects[i]; s.class == d.Suspects[0].class {
			mass += s.weight
		} else {
			rest += s.weight
		}
	}
	return mass, rest
}
