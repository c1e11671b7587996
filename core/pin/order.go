package pin

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"draxel/core/harness"
	"draxel/core/work"
)

// openAtOnce is how many connectors lie open: a terminal that changes its connector needs two, and a third is one in
// which something can go wrong unseen.
const openAtOnce = 2

// scheduler puts the tasks in order, always the cheapest that can be done next. What it goes by is where the
// terminals are, what is open and which cavity was vacated last: a plan made after some of its steps are done goes on
// as the first would have.
type scheduler struct {
	*board
	in          Input
	steps       []Step
	ready       ready
	hand        int
	open        []int32 // connectors whose lock is lifted
	closed      map[string]int
	last        int32 // cavity vacated last
	extractions int
	openings    int
	stuck       []Stuck
	emptied     map[harness.Ref]string // by cavity: the step that emptied it
	since       map[int32][]string     // by open connector: the steps since it was opened
	opened      []string               // connectors that the step being made opens
	room        room
}

// action is a thing that could be done next, with what tells it from others.
type action struct {
	kind     work.Kind
	task     int32
	cavity   int32 // of Seal and Unseal; where the task waits, of Pull
	opens    int   // how many connectors it opens
	shuts    int   // how many unfinished ones must be closed for it
	class    int
	prospect int // what can be done once it is open
}

func (s *scheduler) run() error {
	s.emptied, s.since = map[harness.Ref]string{}, map[int32][]string{}
	maps.Copy(s.closed, s.in.State.Closed)
	for _, name := range s.in.State.Open {
		if c := slices.Index(s.names, name); c >= 0 {
			s.open = append(s.open, int32(c))
		}
	}
	s.last = s.cavity(s.in.State.Last)
	s.hand, s.ready = s.in.Now.InHand(), newReady(len(s.names))
	s.newRoom()
	for i := range s.tasks {
		s.offer(int32(i))
	}
	for {
		s.shut()
		a, ok := s.choose()
		if !ok {
			break
		}
		s.do(a)
	}
	return s.unfinished()
}

// offer puts a task among those that can be done, if it can.
func (s *scheduler) offer(i int32) {
	t := &s.tasks[i]
	if !t.done && (t.to < 0 || !s.full[t.to]) {
		s.ready.add(i, s.needs(i))
	}
}

// withdraw takes a task from among those that can be done.
func (s *scheduler) withdraw(i int32) { s.ready.take(i, s.needs(i)) }

// needs gives the connectors that a task's end needs open.
func (s *scheduler) needs(i int32) [2]int32 { return pairOf(s.connectors(s.finishing(i))) }

// unfinished says why tasks are left: within the limit their cycle cannot begin, or a cavity is held for good.
func (s *scheduler) unfinished() error {
	for _, ring := range s.cycles {
		var at []harness.Ref
		for _, i := range ring {
			if t := &s.tasks[i]; !t.done && t.from >= 0 {
				at = append(at, s.refs[t.from])
			}
		}
		if len(at) > 0 {
			s.stuck = append(s.stuck, Stuck{At: at})
		}
	}
	if len(s.stuck) > 0 {
		return nil
	}
	for _, t := range s.tasks {
		if !t.done {
			return fmt.Errorf("pin: cavity %s, wanted for %s, is held by what stays in it", t.goal.At, t.terminal)
		}
	}
	return nil
}

// choose gives the action that is best done next, and false when there is none. One that would take the last place to
// begin from a cycle waits.
func (s *scheduler) choose() (action, bool) {
	clear(s.room.held)
	for {
		a, ok := s.best()
		if !ok {
			return a, false
		}
		c := s.fills(a)
		if c < 0 || !s.takesTheLast(c) {
			return a, true
		}
		s.room.held[c] = true
	}
}

// best gives the best of all actions that may be done.
func (s *scheduler) best() (action, bool) {
	var best action
	found := false
	try := func(a action) {
		if c := s.fills(a); c >= 0 && s.room.held[c] {
			return
		}
		s.weigh(&a)
		if found && a.opens > best.opens {
			return
		}
		if a.opens > 0 {
			a.prospect = s.prospect(a)
		}
		if !found || s.better(a, best) {
			best, found = a, true
		}
	}
	if s.within(try); found && best.class < 4 {
		return best, true // nothing that begins a cycle can be better
	}
	if !found {
		s.beyond(&best, &found, try)
	}
	for _, ring := range s.cycles {
		s.pulls(ring, try)
	}
	return best, found
}

// finishing is the action that brings a task to its end.
func (s *scheduler) finishing(i int32) action {
	t := &s.tasks[i]
	a := action{kind: Move, task: i, cavity: -1, class: 3}
	switch {
	case t.wait >= 0 || t.was.State == harness.Loose:
		a.class = 0 // hands become empty
	case t.to >= 0 && t.to == s.last:
		a.class = 1 // the chain goes on
	case t.to < 0:
		a.class = 2
	case t.made:
		a.class = 5
	}
	return a
}

// pulls offers each way to begin a cycle: one of its terminals comes out and waits.
func (s *scheduler) pulls(ring []int32, try func(action)) {
	for _, i := range ring {
		if t := &s.tasks[i]; t.done || t.from < 0 || t.wait >= 0 || t.was.State == harness.Loose {
			return // it has begun, or is done
		}
	}
	if s.in.Limit > 0 {
		if s.hand < s.in.Limit {
			for _, i := range ring {
				try(action{kind: Pull, task: i, cavity: -1, class: 4})
			}
		}
		return
	}
	for _, i := range ring {
		if c, ok := s.waiting(s.tasks[i].from); ok {
			try(action{kind: Pull, task: i, cavity: c, class: 4})
		}
	}
}

// waiting gives a free cavity in which the terminal of a cavity can wait: in its own connector before others, one that
// nothing is wanted in before others, one that was vacated before one that always was empty and may be plugged.
func (s *scheduler) waiting(from int32) (int32, bool) {
	var best int32 = -1
	var bestCost int
	for c := range s.refs {
		at := int32(c)
		if s.full[c] || s.plugged[c] || !s.fits(from, at) {
			continue
		}
		cost := 0
		if s.where[c] != s.where[from] {
			cost += 4
		}
		if s.wants[c] >= 0 {
			cost += 2
		}
		if s.emptied[s.refs[c]] == "" && !s.in.State.Vacated[s.refs[c]] {
			cost++
		}
		if best < 0 || cost < bestCost {
			best, bestCost = at, cost
		}
	}
	return best, best >= 0
}

// connectors gives the one or two connectors that an action needs open, −1 for none.
func (s *scheduler) connectors(a action) (x, y int32) {
	x, y = -1, -1
	put := func(cavity int32) {
		if cavity < 0 {
			return
		}
		switch c := s.where[cavity]; {
		case x < 0 || x == c:
			x = c
		default:
			y = c
		}
	}
	switch {
	case a.task < 0:
		put(a.cavity)
	case a.kind == Pull:
		put(s.tasks[a.task].from)
		put(a.cavity)
	default:
		put(s.tasks[a.task].from)
		put(s.tasks[a.task].wait)
		put(s.tasks[a.task].to)
	}
	return x, y
}

func (s *scheduler) isOpen(c int32) bool { return c < 0 || slices.Contains(s.open, c) }

// weigh counts what an action opens and shuts.
func (s *scheduler) weigh(a *action) {
	x, y := s.connectors(*a)
	lie := len(s.open)
	for _, c := range [2]int32{x, y} {
		if !s.isOpen(c) {
			a.opens++
			lie++
		}
	}
	if a.opens > 0 {
		a.shuts = max(0, lie-openAtOnce)
	}
}

func (s *scheduler) better(a, b action) bool {
	c := cmp.Or(cmp.Compare(a.opens, b.opens), cmp.Compare(a.shuts, b.shuts), cmp.Compare(b.prospect, a.prospect),
		cmp.Compare(a.class, b.class))
	// of a cycle, best the one that changes connectors: its way then needs one open at a time
	if c == 0 && a.kind == Pull {
		c = cmp.Compare(s.inside(a), s.inside(b))
	}
	return cmp.Or(c, cmp.Compare(a.task, b.task), cmp.Compare(a.cavity, b.cavity)) < 0
}

func (s *scheduler) inside(a action) int {
	if t := &s.tasks[a.task]; s.where[t.from] == s.where[t.to] {
		return 1
	}
	return 0
}

// do carries an action out on the board and writes its step.
func (s *scheduler) do(a action) {
	s.opened = s.lift(a)
	if a.task < 0 {
		s.stopper(a)
		return
	}
	t := &s.tasks[a.task]
	if a.kind == Pull {
		s.tellPull(a)
		s.extractions++
		s.vacate(t.from)
		t.was = harness.Place{State: harness.Loose, Label: t.goal.At.String()}
		if t.wait = a.cavity; a.cavity >= 0 {
			s.full[a.cavity] = true
			if i := s.wants[a.cavity]; i >= 0 {
				s.withdraw(i) // until it leaves
			}
			s.left[s.where[a.cavity]]++
		} else {
			t.origin = s.refs[t.from]
			s.hand++
		}
		s.left[s.where[t.from]]--
		t.from = -1
		return
	}
	s.withdraw(a.task)
	s.tell(a.task)
	t.done = true
	if t.to >= 0 {
		s.full[t.to], s.plugged[t.to] = true, false
		s.left[s.where[t.to]]--
	}
	for _, c := range []int32{t.from, t.wait} {
		if c >= 0 {
			s.extractions++
			s.vacate(c)
			s.left[s.where[c]]--
		}
	}
	if t.from < 0 && t.wait < 0 && t.was.State == harness.Loose {
		s.hand--
	}
}

// vacate empties a cavity; whoever waits for it can go.
func (s *scheduler) vacate(c int32) {
	s.last = c
	if s.in.Fixed != nil && s.in.Fixed(s.refs[c]) {
		return // the terminal stays in it
	}
	s.full[c] = false
	s.emptied[s.refs[c]] = s.steps[len(s.steps)-1].ID
	if i := s.wants[c]; i >= 0 && !s.tasks[i].done {
		s.ready.add(i, s.needs(i))
	}
}

// lift opens what an action needs, closing what cannot lie open beside it, and names what it opened.
func (s *scheduler) lift(a action) []string {
	x, y := s.connectors(a)
	var opened []string
	for _, c := range [2]int32{x, y} {
		if s.isOpen(c) {
			continue
		}
		for len(s.open) >= openAtOnce {
			i := slices.IndexFunc(s.open, func(o int32) bool { return o != x && o != y })
			if i < 0 {
				break
			}
			s.close(s.open[i], true)
		}
		s.open = append(s.open, c)
		s.openings++
		opened = append(opened, s.names[c])
	}
	return opened
}

// shut closes the connectors that are finished.
func (s *scheduler) shut() {
	for _, c := range slices.Clone(s.open) {
		if s.left[c] == 0 {
			s.close(c, false)
		}
	}
}
