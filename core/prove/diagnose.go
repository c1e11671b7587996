package prove

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/network"
)

// Suspect is what could be wrong, with how likely it is by all that was measured.
type Suspect struct {
	Causes      []Cause  `json:"causes"` // one, or two at once
	Probability float64  `json:"probability"`
	Explains    []string `json:"explains"`       // readings out of band that it explains
	Against     []string `json:"against"`        // readings that it does not fit
	Like        []string `json:"like,omitempty"` // what no measurement here can tell from it, in words
	class       int      // equal ones show the same at every point that is left
	score       float64  // log of prior and likelihood
	weight      float64  // its probability with two faults held for likelier
}

// Text says what it is.
func (s *Suspect) Text() string {
	text := s.Causes[0].Text
	for _, c := range s.Causes[1:] {
		text += "; and " + c.Text
	}
	return text
}

// Diagnosis is what could be wrong, the likeliest first, and what to measure next.
type Diagnosis struct {
	Suspects []Suspect `json:"suspects"`
	Healthy  float64   `json:"healthy"`        // how likely it is that nothing is wrong
	Out      []string  `json:"out"`            // readings out of band
	Doubtful []string  `json:"doubtful"`       // readings that contradict the others: measure them again
	Found    bool      `json:"found"`          // one is as good as certain, but for those like it
	Next     *Advice   `json:"next,omitempty"` // what to measure next; nothing where it tells nothing more
	Looked   int       `json:"looked"`         // how many faults were tried on the network
	Of       int       `json:"of"`             // of how many
}

// mistaken is how often a reading is plain wrong: the wrong cavity, the wrong range (common practice: one in fifty).
const mistaken = 0.02

// mistakenSight is how often somebody is wrong about whether a thing works (common practice).
const mistakenSight = 0.003

// mistakenAgain is how often who measures the same once more makes the same mistake once more (common practice).
const mistakenAgain = 0.003

// wrongly gives how likely it is that a reading is plain wrong: one that was read twice the same is so the less.
func wrongly(r *MeterReading) float64 {
	p := mistaken
	if r.Kind == Works {
		p = mistakenSight
	}
	return p * math.Pow(mistakenAgain, float64(max(1, r.Times)-1))
}

// fits gives the log of the density of a reading where so much is expected, with a further spread in the quantity of
// the fault itself.
func fits(r *MeterReading, x Shown, more float64) float64 {
	mistaken := wrongly(r)
	if r.Kind == Works {
		if r.Value == x.Value {
			return math.Log(1 - mistaken)
		}
		return math.Log(mistaken)
	}
	broad := anything(r)
	over := r.Over || r.Kind == Ohms && r.Value > overOhms
	switch {
	case over && x.Over:
		return math.Log(1 - mistaken)
	case over:
		return math.Log(mistaken)
	case x.Over:
		return math.Log(broad)
	}
	d := math.Hypot(spread(r.Kind, x.Value), more)
	if r.Lamp > 0 {
		d *= 2
	}
	z := (r.read() - x.Value) / d
	return math.Log((1-mistaken)*math.Exp(-z*z/2)/(d*math.Sqrt(2*math.Pi)) + broad)
}

// anything gives the density of a reading of which nothing is known: a mistaken one.
func anything(r *MeterReading) float64 {
	mistaken := wrongly(r)
	if r.Kind == Works {
		return mistaken
	}
	if r.Kind == Ohms {
		return mistaken / (14 * (1 + r.Value))
	}
	return mistaken / 15
}

// trial is how well a set of faults fits every reading.
type trial struct {
	loss []float64 // by reading: log density
	sum  float64
}

// try puts causes into the vehicle and compares every reading.
func (v *Vehicle) try(causes []Cause, readings []MeterReading, base []Shown, feel *feeler) (trial, error) {
	t := trial{loss: make([]float64, len(readings))}
	degree := slices.ContainsFunc(causes, func(c Cause) bool { return soft(&c) })
	touches := slices.ContainsFunc(causes, func(c Cause) bool { return c.Kind == Touching || c.Kind == OnAFeed })
	states := map[Setup]*network.State{}
	for k := range readings {
		r := &readings[k]
		if !feel.feels(k, r.Setup, causes) {
			t.loss[k] = feel.loss[k]
			t.sum += t.loss[k]
			continue
		}
		s := states[r.Setup]
		if s == nil {
			var err error
			if s, err = v.state(r.Setup); err != nil {
				return t, err
			}
			if faults := Faults(causes, r.Setup); len(faults) > 0 {
				if s, err = s.With(faults...); err != nil {
					return t, err
				}
			}
			states[r.Setup] = s
		}
		x, err := v.shows(s, &r.Measure)
		if err != nil {
			return t, err
		}
		more := 0.0
		if degree && !x.Over && !base[k].Over { // a bad contact has any resistance
			more = 0.5 * math.Abs(x.Value-base[k].Value)
		}
		if touches && r.Kind == Ohms && base[k].Over && !x.Over {
			more = touchOhms
		}
		t.loss[k] = fits(r, x, more)
		t.sum += t.loss[k]
	}
	return t, nil
}

// touchOhms is what two wires that touch may have between them beside nothing (common practice: a strand, chafed
// through).
const touchOhms = 0.5

// soft says whether a kind of fault is one of degree.
func soft(c *Cause) bool { return c.Kind == BadContact || c.Kind == PoorGround }

// shown is how many suspects are told.
const shown = 12

// Diagnose ranks what could be wrong by all readings, and says what to measure next. It fails only where a reading is
// about a point that there is not.
func (v *Vehicle) Diagnose(readings []MeterReading, options []Measure) (Diagnosis, error) {
	v.ready()
	d := Diagnosis{Suspects: []Suspect{}, Out: []string{}, Doubtful: []string{}}
	base := make([]Shown, len(readings))
	var points, out []network.Node
	healthy := 0.0
	for k := range readings {
		r := &readings[k]
		x, err := v.Expect(&r.Measure)
		if err != nil {
			return d, fmt.Errorf("reading %s: %w", r.ID, err)
		}
		base[k] = x
		healthy += fits(r, x, 0)
		if !BandOf(&r.Measure, x).Fits(r) {
			d.Out = append(d.Out, r.ID)
			out = append(out, v.pointsOf(&r.Measure)...)
		}
		points = append(points, v.pointsOf(&r.Measure)...)
	}
	all := v.Causes()
	d.Of = len(all)
	if len(out) > 0 { // what cannot be seen there explains nothing: it is as likely as that nothing is wrong
		points = out
	}
	elements, nodes := v.near(points)
	total := 0.0
	for i := range all {
		total += all[i].Prior
	}
	feel := v.feel(readings, base)
	var singles []Suspect
	trials := map[int]trial{}
	for i := range all {
		c := &all[i]
		s := Suspect{Causes: []Cause{*c}, score: math.Log(c.Prior/total) + healthy}
		if v.sees(c, elements, nodes) {
			d.Looked++
			t, err := v.try(all[i:i+1], readings, base, feel)
			if err != nil {
				continue // what the network has no element for
			}
			trials[len(singles)] = t
			s.score = math.Log(c.Prior/total) + t.sum
		}
		singles = append(singles, s)
	}
	suspects := append(singles, v.pairs(singles, trials, readings, base, feel, &d)...)
	v.weigh(&d, suspects, healthy, readings, base, feel)
	v.advise(&d, readings, options)
	return d, nil
}

// weigh turns scores into probabilities, and says of the likeliest what they explain.
func (v *Vehicle) weigh(d *Diagnosis, suspects []Suspect, healthy float64, readings []MeterReading, base []Shown,
	feel *feeler) {
	top := healthy
	for i := range suspects {
		top = max(top, suspects[i].score)
	}
	sum := math.Exp(healthy - top)
	for i := range suspects {
		suspects[i].Probability = math.Exp(suspects[i].score - top)
		sum += suspects[i].Probability
	}
	d.Healthy = math.Exp(healthy-top) / sum
	for i := range suspects {
		suspects[i].Probability /= sum
	}
	slices.SortStableFunc(suspects, func(a, b Suspect) int {
		return cmp.Or(cmp.Compare(b.Probability, a.Probability), natural(a.Causes[0].Where, b.Causes[0].Where))
	})
	all := d.Healthy
	for i := range suspects {
		s := &suspects[i]
		if s.weight = s.Probability; len(s.Causes) > 1 {
			s.weight *= doubted
		}
		all += s.weight
	}
	order := make([]int, len(suspects))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(suspects[b].weight, suspects[a].weight) })
	mass := d.Healthy
	var keep []int
	for _, i := range order {
		if len(keep) >= mostSuspects || len(keep) >= shown && mass > 0.999*all {
			break
		}
		keep = append(keep, i)
		mass += suspects[i].weight
	}
	slices.Sort(keep)
	for _, i := range keep {
		d.Suspects = append(d.Suspects, suspects[i])
	}
	for i := range d.Suspects {
		s := &d.Suspects[i]
		s.Explains, s.Against = []string{}, []string{}
		t, err := v.try(s.Causes, readings, base, feel)
		if err != nil {
			continue
		}
		for k := range readings {
			r := &readings[k]
			fit := t.loss[k] > math.Log(anything(r))+1.5
			switch {
			case slices.Contains(d.Out, r.ID) && fit:
				s.Explains = append(s.Explains, r.ID)
			case !fit:
				s.Against = append(s.Against, r.ID)
			}
		}
	}
	if len(d.Suspects) > 0 && d.Suspects[0].Probability > d.Healthy {
		d.Doubtful = d.Suspects[0].Against
	}
}

// bits gives what a probability adds to what is open, in bits.
func bits(p float64) float64 {
	if p <= 0 {
		return 0
	}
	return -p * math.Log2(p)
}
