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
