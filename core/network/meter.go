package network

// Between gives the Ω that a meter finds between two nodes: what conducting elements have between them now. In a
// state in which sources conduct it is the resistance behind the volts of the two, as a load on them sees it
// (Thévenin). It is false where nothing that conducts joins them.
func (s *State) Between(a, b Node) (ohms float64, joined bool) {
	n := s.Network
	a, b = n.head(a), n.head(b)
	if a == b {
		return 0, true
	}
	if find(s.set, int32(a)) != find(s.set, int32(b)) {
		return 0, false
	}
	was := s.x
	s.x = make([]float64, len(was))
	inject(s.x, n.row[a], 1)
	inject(s.x, n.row[b], -1)
	s.f.solve(s.x)
	s.touching()
	ohms = at(s.x, n.row[a]) - at(s.x, n.row[b])
	s.x = was
	return max(ohms, 0), true
}

// Flow is how 1 A that goes in at one node and out at another spreads through what conducts.
type Flow struct {
	s      *State
	island int32
	volts  []float64 // by row
}

// Flow gives how 1 A from a to b spreads; false where nothing that conducts joins them, or they are one.
func (s *State) Flow(a, b Node) (Flow, bool) {
	n := s.Network
	a, b = n.head(a), n.head(b)
	if a == b || find(s.set, int32(a)) != find(s.set, int32(b)) {
		return Flow{}, false
	}
	was := s.x
	s.x = make([]float64, len(was))
	inject(s.x, n.row[a], 1)
	inject(s.x, n.row[b], -1)
	s.f.solve(s.x)
	s.touching()
	f := Flow{s, find(s.set, int32(a)), s.x}
	s.x = was
	return f, true
}

// Reaches says whether a node is on what the current spreads through.
func (f Flow) Reaches(x Node) bool { return find(f.s.set, int32(f.s.Network.head(x))) == f.island }

// Across gives the volts between two nodes that it reaches: with none between them, nothing that joins or parts them
// alone changes what a meter shows between the two ends.
func (f Flow) Across(p, q Node) float64 {
	n := f.s.Network
	return at(f.volts, n.row[n.head(p)]) - at(f.volts, n.row[n.head(q)])
}
