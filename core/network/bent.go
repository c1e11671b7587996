package network

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// equate solves the equations with relays where they are: the linear ones again and again until diodes, lamps and
// limits agree with their own volts, lamps to a part of their amps.
func (s *State) equate(within float64) {
	s.Unsettled = false
	s.islands()
	s.volts()
	calm := false
	for round := range 200 {
		changed, first := false, true
		for _, i := range s.Network.bent {
			if !s.gated(i) {
				continue
			}
			if s.Network.Elements[i].Kind == Lamp {
				changed = s.glow(i, within) || changed
				continue
			}
			if !s.wrong(i) {
				continue
			}
			if round < 8 || first { // all at once; then the least number first, which ends (Murty 1974)
				s.bent[i] = !s.bent[i]
				s.put(i)
				changed = true
			}
			first = false
		}
		if !changed {
			if calm || within > fine || !s.calm() {
				return
			}
			calm = true
		}
		s.islands()
		s.volts()
	}
	s.Unsettled = true
}

// calm takes diodes that conduct nothing off, so that what they are does not depend on how the solution was come to:
// those that belong on come back by themselves. It says whether there were any.
func (s *State) calm() bool {
	any := false
	for _, i := range s.Network.bent {
		if s.Network.Elements[i].Kind == Diode && s.bent[i] && math.Abs(s.Amps(i)) < 1e-9 {
			s.bent[i] = false
			s.put(i)
			any = true
		}
	}
	return any
}

// wrong says whether a diode that conducts should not, or the other way; or whether a source gives more than its limit.
func (s *State) wrong(i int32) bool {
	e := &s.Network.Elements[i]
	v := s.across(i)
	switch {
	case e.Kind == Diode && s.bent[i]:
		return s.Amps(i) < -1e-12
	case e.Kind == Diode:
		return v > e.Volts+1e-9
	case s.bent[i]: // at its limit: with its volts still below what it would give
		return v > s.EMF(i)-e.Limit*s.Ohms(i)+1e-9
	}
	return s.Amps(i) > e.Limit+1e-9
}

// LampCold and LampPower: a lamp's filament is a tenth of its hot resistance when cold, and its current grows as its
// volts to the power 0.55 (common practice).
const (
	LampPower = 0.55
	LampCold  = 0.1
)

// LampKnee is the part of its volts below which a lamp is cold: there it is a plain resistance.
var LampKnee = math.Pow(LampCold, 1/(1-LampPower))

// lampAmps gives the current of a lamp in A at volts, and its slope in S.
func lampAmps(e *Element, volts float64) (amps, slope float64) {
	v := math.Abs(volts)
	cold := e.Volts * LampKnee
	if v <= cold {
		return volts / (e.Ohms * LampCold), 1 / (e.Ohms * LampCold)
	}
	a := e.Volts / e.Ohms * math.Pow(v/e.Volts, LampPower)
	return math.Copysign(a, volts), LampPower * a / v
}

// behind gives the current of a lamp in A behind more Ω, at the volts on both, and its slope in S.
func behind(e *Element, volts, more float64) (amps, slope float64) {
	if more == 0 {
		return lampAmps(e, volts)
	}
	low, high := 0.0, math.Abs(volts) // what the lamp itself has of them
	for range 100 {
		v := (low + high) / 2
		if a, _ := lampAmps(e, v); v+a*more > math.Abs(volts) {
			high = v
		} else {
			low = v
		}
	}
	amps, slope = lampAmps(e, math.Copysign(high, volts))
	return amps, slope / (1 + slope*more)
}

// glow draws a lamp's line anew at its volts (Newton), and says whether that made a difference.
func (s *State) glow(i int32, within float64) bool {
	amps, _ := behind(&s.Network.Elements[i], s.across(i), s.faults.worse[i])
	if math.Abs(amps-s.Amps(i)) < within*(1+math.Abs(amps)) {
		return false
	}
	v, drawn := s.across(i), s.drawn[i]
	knee := LampKnee * s.Network.Elements[i].Volts
	// far below, or beyond nothing: Newton would swing to and fro about a cold lamp
	if math.Abs(drawn) > knee && v*drawn < 0.04*drawn*drawn {
		v = drawn / 10
	}
	s.lamp(i, v)
	return true
}

// lamp draws a lamp's line at volts.
func (s *State) lamp(i int32, volts float64) {
	if !s.gated(i) {
		s.change(i, false, 0, 0)
		return
	}
	s.drawn[i] = volts
	amps, slope := behind(&s.Network.Elements[i], volts, s.faults.worse[i])
	s.change(i, true, slope, slope*volts-amps)
}

// islands finds what conducting elements join to the reference, and holds one node of every other island so that its
// volts are counted from there.
func (s *State) islands() {
	if !s.parted {
		return
	}
	s.parted = false
	n := s.Network
	for i := range s.set {
		s.set[i] = n.same[i]
	}
	for i := range n.Elements {
		if s.conducts[i] && (s.siemens[i] > 0 || s.into[i] != 0) {
			s.unite(n.Elements[i].A, n.Elements[i].B)
		}
	}
	s.extra = s.extra[:0]
	var heads []Node
	for i := range n.same {
		held := i > 0 && int32(i) == n.same[i] && s.set[i] == int32(i)
		if held {
			heads = append(heads, Node(i))
		}
		if held != s.pinned[i] {
			s.pinned[i] = held
			was, is := 0.0, 1.0
			if !held {
				was, is = 1, 0
			}
			s.f.alter(slot{n.row[i], -1, -1}, was, is)
		}
	}
	for _, x := range s.faults.short {
		if x.a == x.b {
			continue
		}
		s.extra = append(s.extra, touch{a: n.row[x.a], b: n.row[x.b], siemens: x.siemens})
		s.unite(x.a, x.b)
	}
	if len(s.extra) > 0 { // an island that a touch joins to another is held no more
		for _, h := range heads {
			if find(s.set, int32(h)) != int32(h) {
				s.extra = append(s.extra, touch{a: n.row[h], b: -1, siemens: -1})
			}
		}
	}
	for i := range s.Floating {
		s.Floating[i] = find(s.set, int32(i)) != 0
	}
}

// unite joins two islands under the lesser head.
func (s *State) unite(a, b Node) {
	x, y := find(s.set, int32(a)), find(s.set, int32(b))
	s.set[max(x, y)] = min(x, y)
}

// volts solves the linear equations.
func (s *State) volts() {
	s.f.refresh()
	clear(s.x)
	for i := range s.Network.Elements {
		if a := s.into[i]; a != 0 {
			inject(s.x, s.Network.slots[i].a, a)
			inject(s.x, s.Network.slots[i].b, -a)
		}
	}
	s.f.solve(s.x)
	s.touching()
	for i, r := range s.Network.row {
		if r >= 0 {
			s.Volts[i] = s.x[r]
		}
	}
}

func inject(x []float64, row int32, amps float64) {
	if row >= 0 {
		x[row] += amps
	}
}

func at(x []float64, row int32) float64 {
	if row < 0 {
		return 0
	}
	return x[row]
}

// touching corrects the solution for what the pattern has no place for (Sherman & Morrison 1950, Woodbury 1950).
func (s *State) touching() {
	k := len(s.extra)
	if k == 0 {
		return
	}
	m, rhs := mat.NewDense(k, k, nil), mat.NewVecDense(k, nil)
	for i := range s.extra {
		t := &s.extra[i]
		t.z = make([]float64, len(s.x))
		inject(t.z, t.a, 1)
		inject(t.z, t.b, -1)
		s.f.solve(t.z)
		rhs.SetVec(i, at(s.x, t.a)-at(s.x, t.b))
	}
	for i := range s.extra {
		for j := range s.extra {
			z := s.extra[j].z
			m.Set(i, j, at(z, s.extra[i].a)-at(z, s.extra[i].b))
		}
		m.Set(i, i, m.At(i, i)+1/s.extra[i].siemens)
	}
	var y mat.VecDense
	if y.SolveVec(m, rhs) != nil && y.Len() != k {
		return
	}
	for j := range s.extra {
		for i, z := range s.extra[j].z {
			s.x[i] -= y.AtVec(j) * z
		}
	}
}
