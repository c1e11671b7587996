package pin

// room watches over the free cavities while nothing may be in hand: a cycle begins in one, and none may be filled for
// good, or plugged, while a cycle that is still to begin has no other.
type room struct {
	suits [][]bool       // by cycle, by cavity: whether one of its terminals can wait there
	held  map[int32]bool // cavities that the next step is not to fill
}

// newRoom is of use only where nothing may be in hand and there are cycles.
func (s *scheduler) newRoom() {
	s.room.held = map[int32]bool{}
	if s.in.Limit > 0 {
		return
	}
	s.room.suits = make([][]bool, len(s.cycles))
	for k, ring := range s.cycles {
		s.room.suits[k] = make([]bool, len(s.refs))
		for c := range s.refs {
			for _, i := range ring {
				if from := s.tasks[i].from; from >= 0 && s.fits(from, int32(c)) {
					s.room.suits[k][c] = true
					break
				}
			}
		}
	}
}

// fits says whether the terminal of a cavity can wait in another.
func (s *scheduler) fits(from, wait int32) bool {
	if s.in.Fits == nil {
		return s.where[wait] == s.where[from]
	}
	return s.in.Fits(s.refs[from], s.refs[wait])
}

// fills gives the cavity that an action fills or plugs for good, −1 where it does not.
func (s *scheduler) fills(a action) int32 {
	switch {
	case a.kind == Seal:
		return a.cavity
	case a.task >= 0 && a.kind != Pull:
		return s.tasks[a.task].to
	}
	return -1
}

// begun says whether a cycle has begun, or is done.
func (s *scheduler) begun(ring []int32) bool {
	for _, i := range ring {
		if t := &s.tasks[i]; t.done || t.from < 0 || t.wait >= 0 {
			return true
		}
	}
	return false
}

// takesTheLast says whether filling a cavity would leave a cycle that can be begun now without any cavity to begin in,
// now or when what is still to be moved has left its place.
func (s *scheduler) takesTheLast(c int32) bool {
	asked := false
	for k, ring := range s.cycles {
		asked = asked || s.room.suits != nil && s.room.suits[k][c] && !s.begun(ring)
	}
	if !asked {
		return false
	}
	with, without := s.beginning(-1), s.beginning(c)
	for k := range with {
		if with[k] && !without[k] {
			return true
		}
	}
	return false
}

// beginning says of each cycle that has not begun whether it can, some time, if one cavity is filled now. A cycle that
// is under way empties each of its own cavities in turn: another can begin in them.
func (s *scheduler) beginning(filled int32) []bool {
	free := make([]bool, len(s.refs))
	for c := range s.refs {
		free[c] = !s.full[c] && !s.plugged[c] && int32(c) != filled
	}
	leaves := func(t *task) {
		for _, c := range [2]int32{t.from, t.wait} {
			if c >= 0 && (s.in.Fixed == nil || !s.in.Fixed(s.refs[c])) {
				free[c] = true
			}
		}
	}
	waits := make([]bool, len(s.cycles))
	for k, ring := range s.cycles {
		waits[k] = !s.begun(ring)
	}
	for i := range s.tasks {
		if t := &s.tasks[i]; !t.done && (t.cycle < 0 || !waits[t.cycle]) {
			leaves(t)
		}
	}
	can := make([]bool, len(s.cycles))
	for more := true; more; {
		more = false
		for k, ring := range s.cycles {
			if !waits[k] || can[k] {
				continue
			}
			for c, ok := range s.room.suits[k] {
				if ok && free[c] {
					can[k], more = true, true
					break
				}
			}
			if can[k] {
				for _, i := range ring {
					leaves(&s.tasks[i])
				}
			}
		}
	}
	return can
}
