package pin

import (
	"cmp"
	"slices"
)

// group is the tasks that can be done, their cavity being free, and need the same connectors open.
type group struct {
	at    [2]int32 // the connectors, the lesser number first, −1 for none
	tasks []int32
}

// ready is what can be done, by the connectors that it needs open: what is at hand where something lies open is found
// without a look at the rest of a large harness.
type ready struct {
	groups []group
	number map[[2]int32]int
	near   [][]int // by connector, the last for none: the groups that need it open
}

func newReady(connectors int) ready {
	return ready{number: map[[2]int32]int{}, near: make([][]int, connectors+1)}
}

func pairOf(x, y int32) [2]int32 { return [2]int32{min(x, y), max(x, y)} }

func (r *ready) add(task int32, at [2]int32) {
	n, known := r.number[at]
	if !known {
		n = len(r.groups)
		r.number[at], r.groups = n, append(r.groups, group{at: at})
		switch none := len(r.near) - 1; {
		case at[1] < 0:
			r.near[none] = append(r.near[none], n)
		case at[0] < 0:
			r.near[at[1]] = append(r.near[at[1]], n)
		default:
			r.near[at[0]], r.near[at[1]] = append(r.near[at[0]], n), append(r.near[at[1]], n)
		}
	}
	r.groups[n].tasks = append(r.groups[n].tasks, task)
}

func (r *ready) take(task int32, at [2]int32) {
	if n, known := r.number[at]; known {
		g := &r.groups[n]
		if i := slices.Index(g.tasks, task); i >= 0 {
			g.tasks = slices.Delete(g.tasks, i, i+1)
		}
	}
}

// count is how many tasks need just these connectors open.
func (r *ready) count(x, y int32) int {
	if n, known := r.number[pairOf(x, y)]; known {
		return len(r.groups[n].tasks)
	}
	return 0
}

// within offers what can be done where nothing more is opened.
func (s *scheduler) within(try func(action)) {
	offer := func(groups []int) {
		for _, n := range groups {
			if g := &s.ready.groups[n]; s.isOpen(g.at[0]) && s.isOpen(g.at[1]) {
				for _, i := range g.tasks {
					try(s.finishing(i))
				}
			}
		}
	}
	offer(s.ready.near[len(s.names)])
	for _, c := range s.open {
		offer(s.ready.near[c])
		s.stoppers(c, try)
	}
}

// beyond offers what can be done when something is opened. Of a group all need the same, so that those of one which is
// worse than the best are not looked at.
func (s *scheduler) beyond(best *action, found *bool, try func(action)) {
	for n := range s.ready.groups {
		g := &s.ready.groups[n]
		if len(g.tasks) == 0 {
			continue
		}
		a := s.finishing(g.tasks[0])
		s.weigh(&a)
		a.prospect = s.prospect(a)
		if *found && cmp.Or(cmp.Compare(a.opens, best.opens), cmp.Compare(a.shuts, best.shuts),
			cmp.Compare(best.prospect, a.prospect)) > 0 {
			continue
		}
		for _, i := range g.tasks {
			try(s.finishing(i))
		}
	}
	for c := range s.names {
		s.stoppers(int32(c), try)
	}
}

// stoppers offers the cavity plugs of a connector, to be taken out and to be pushed in.
func (s *scheduler) stoppers(connector int32, try func(action)) {
	for _, c := range s.unplugs[connector] {
		try(action{kind: Unseal, task: -1, cavity: c, class: 6})
	}
	for _, c := range s.plugs[connector] {
		if s.seals(c) {
			try(action{kind: Seal, task: -1, cavity: c, class: 7})
		}
	}
}

// seals tells whether a cavity that is to get a plug can have it now.
func (s *scheduler) seals(c int32) bool { return !s.full[c] && s.wants[c] < 0 }

// prospect counts what can be done when an action has opened what it needs.
func (s *scheduler) prospect(a action) int {
	x, y := s.connectors(a)
	alone := func(c int32) int {
		n := s.ready.count(-1, c)
		if c >= 0 {
			for _, p := range s.plugs[c] {
				if s.seals(p) {
					n++
				}
			}
		}
		return n
	}
	sum := alone(x)
	if y >= 0 {
		sum += alone(y) + s.ready.count(x, y)
	}
	return sum
}
