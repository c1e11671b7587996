package feed

import (
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// Compute asks the network in every position. It is pure: the same input gives the same result.
func Compute(in Input) (*Result, error) {
	r := &Result{Drawn: in.Drawn, Facts: in.Facts, in: in, Findings: slices.Clone(in.Facts.Findings),
		Assumed: in.Drawn.Assumed,
		Fuses:   []Protected{}, Unprotected: []Bare{}, Grounds: []Ground{}, Sensors: []Sensed{}}
	r.connect()
	var last *network.State
	for _, p := range Positions() {
		c := r.Usual(p)
		var s *network.State
		var err error
		if last != nil && p.Key == network.Crank { // what has pulled in run stays while it has enough
			s, err = in.Drawn.Follow(last, c)
		} else {
			s, err = in.Drawn.Solve(c)
		}
		if err != nil {
			return nil, err
		}
		r.States = append(r.States, s)
		last = s
	}
	var err error
	if r.full, err = r.everything(); err != nil {
		return nil, err
	}
	if r.cranked, err = r.With("crank", r.Own()); err != nil {
		return nil, err
	}
	r.worst = most(r.States, r.full)
	for _, s := range r.States {
		r.reached = append(r.reached, r.fedBy(s))
	}
	r.highest()
	r.ohms = r.reach()
	r.fuses()
	r.bare()
	r.ground()
	r.senses()
	r.quiet()
	r.check()
	finding.Sort(r.Findings)
	return r, nil
}

// everything is the engine running with everything switched on.
func (r *Result) everything() (*network.State, error) {
	full := r.Usual(Positions()[len(Positions())-1])
	for _, s := range r.Own() {
		full.On[s] = true
	}
	return r.Drawn.Solve(full)
}

// most gives by element the most A of what lasts: of all positions but crank, and of everything on.
func most(states []*network.State, full *network.State) []float64 {
	out := make([]float64, len(full.Network.Elements))
	for k, s := range append(slices.Clone(states), full) {
		if k < len(states) && Positions()[k].Key == network.Crank {
			continue
		}
		for i := range out {
			out[i] = max(out[i], math.Abs(s.Amps(int32(i))))
		}
	}
	return out
}

// Worst gives by element of a network the most A that it carries for long: standing in run, with the engine running,
// and with everything on.
func Worst(drawn *network.Drawn, facts *vehicle.Facts) ([]float64, error) {
	r := &Result{Drawn: drawn, Facts: facts}
	all := Positions()
	out := make([]float64, len(drawn.Elements))
	for _, solve := range []func() (*network.State, error){
		func() (*network.State, error) { return drawn.Solve(r.Usual(all[2])) },
		func() (*network.State, error) { return drawn.Solve(r.Usual(all[len(all)-1])) },
		r.everything,
	} {
		s, err := solve()
		if err != nil {
			return nil, err
		}
		for i := range out {
			out[i] = max(out[i], math.Abs(s.Amps(int32(i))))
		}
	}
	return out, nil
}
