package pin

import (
	"slices"

	"draxel/core/harness"
)

// task is one terminal that is to be elsewhere.
type task struct {
	terminal harness.TerminalID
	from, to int32 // cavities by number, −1 for none
	was      harness.Place
	goal     harness.Place // the zero place: it comes out and is taken away
	made     bool          // it is new: nothing of it is there yet
	cycle    int32         // the cycle that it is in, −1 for none
	done     bool
	wait     int32       // the cavity in which it waits, −1 where it does not
	origin   harness.Ref // of one that waits in hand: the cavity that it left
}

// board is the difference between two states, everything by number.
type board struct {
	refs     []harness.Ref
	number   map[harness.Ref]int32
	where    []int32  // by cavity: its connector
	names    []string // of the connectors
	full     []bool   // by cavity
	plugged  []bool   // by cavity
	wants    []int32  // by cavity: the task that is to fill it, −1
	tasks    []task
	cycles   [][]int32
	plugs    [][]int32 // by connector: cavities that are to get a plug
	unplugs  [][]int32 // by connector: cavities whose plug is to come out
	left     []int     // by connector: what is still to be done at it
	touching []bool    // by connector: something is to be done at it
}

func newBoard(in Input) *board {
	b := &board{number: map[harness.Ref]int32{}}
	connectors := map[string]int32{}
	for _, r := range in.Now.Cavities() {
		c, known := connectors[r.Connector]
		if !known {
			c = int32(len(b.names))
			connectors[r.Connector] = c
			b.names = append(b.names, r.Connector)
		}
		b.number[r] = int32(len(b.refs))
		b.refs, b.where = append(b.refs, r), append(b.where, c)
		_, full := in.Now.In(r)
		b.full = append(b.full, full || in.Now.Stump(r))
		b.plugged, b.wants = append(b.plugged, in.Now.Plugged(r)), append(b.wants, -1)
	}
	b.left, b.touching = make([]int, len(b.names)), make([]bool, len(b.names))
	b.plugs, b.unplugs = make([][]int32, len(b.names)), make([][]int32, len(b.names))
	b.readTasks(in)
	for i := range b.refs {
		switch is, want := in.Now.Plugged(b.refs[i]), in.Wanted.Plugged(b.refs[i]); {
		case want && !is:
			b.plugs[b.where[i]] = append(b.plugs[b.where[i]], int32(i))
			b.touch(int32(i))
		case is && !want && b.wants[i] < 0: // one that is in the way of a wire comes out with the wire's step
			b.unplugs[b.where[i]] = append(b.unplugs[b.where[i]], int32(i))
			b.touch(int32(i))
		}
	}
	b.findCycles()
	return b
}

func (b *board) cavity(r harness.Ref) int32 {
	if n, ok := b.number[r]; ok {
		return n
	}
	return -1
}

func (b *board) touch(cavity int32) {
	if cavity >= 0 {
		b.left[b.where[cavity]]++
		b.touching[b.where[cavity]] = true
	}
}

func (b *board) readTasks(in Input) {
	for _, t := range in.Wanted.Terminals() {
		was, known := in.Now.Place(t)
		if goal, _ := in.Wanted.Place(t); !known || was != goal {
			b.tasks = append(b.tasks, task{terminal: t, was: was, goal: goal, made: !known})
		}
	}
	for _, t := range in.Now.Terminals() {
		if _, wanted := in.Wanted.Place(t); !wanted {
			was, _ := in.Now.Place(t)
			b.tasks = append(b.tasks, task{terminal: t, was: was})
		}
	}
	for i := range b.tasks {
		t := &b.tasks[i]
		t.from, t.to, t.cycle, t.wait = -1, -1, -1, -1
		if t.was.State == harness.Seated {
			t.from = b.cavity(t.was.At)
		}
		if t.goal.State == harness.Seated {
			t.to = b.cavity(t.goal.At)
		}
	}
	slices.SortStableFunc(b.tasks, func(x, y task) int { return int(b.rank(x) - b.rank(y)) })
	for i, t := range b.tasks {
		if t.to >= 0 {
			b.wants[t.to] = int32(i)
		}
		b.touch(t.from)
		b.touch(t.to)
	}
}

// rank orders tasks as a person reads the connectors: by the cavity that is left, else the one that is entered.
func (b *board) rank(t task) int32 {
	if t.from >= 0 {
		return t.from
	}
	return int32(len(b.refs)) + t.to
}

// next gives the task that waits for the cavity which a task leaves, −1 where none does.
func (b *board) next(i int32) int32 {
	if from := b.tasks[i].from; from >= 0 {
		return b.wants[from]
	}
	return -1
}

// findCycles finds the tasks that wait for one another in a ring.
func (b *board) findCycles() {
	state := make([]int8, len(b.tasks)) // 0 not seen, 1 on this walk, 2 done
	for start := range b.tasks {
		var walk []int32
		at := int32(start)
		for at >= 0 && state[at] == 0 {
			state[at] = 1
			walk = append(walk, at)
			at = b.next(at)
		}
		if at >= 0 && state[at] == 1 {
			ring := slices.Clone(walk[slices.Index(walk, at):])
			slices.Sort(ring)
			for _, i := range ring {
				b.tasks[i].cycle = int32(len(b.cycles))
			}
			b.cycles = append(b.cycles, ring)
		}
		for _, i := range walk {
			state[i] = 2
		}
	}
}

// fewest is the least number of extractions: each seated terminal that is to be elsewhere once, and one more for each
// cycle where nothing may be in hand.
func (b *board) fewest(limit int) int {
	n := 0
	for _, t := range b.tasks {
		if t.from >= 0 {
			n++
		}
	}
	if limit == 0 {
		n += len(b.cycles)
	}
	return n
}

// bound is a number of openings that no plan can do without: each connector at which something is to be done is opened
// once, unless it lies open. Where nothing may be in hand a terminal crosses between two connectors that are open at
// once; of connectors that cross-moves tie together, each further pair needs a further opening, since only two lie
// open: pairs and one.
func (b *board) bound(in Input) int {
	open := map[string]bool{}
	for _, c := range in.State.Open {
		open[c] = true
	}
	n := 0
	for c, touched := range b.touching {
		if touched && !open[b.names[c]] {
			n++
		}
	}
	if in.Limit > 0 || len(open) > 0 {
		return n
	}
	group := make([]int, len(b.names))
	for c := range group {
		group[c] = c
	}
	find := func(c int) int {
		for group[c] != c {
			c = group[c]
		}
		return c
	}
	pairs := map[[2]int32]bool{}
	for _, t := range b.tasks {
		if t.from >= 0 && t.to >= 0 && b.where[t.from] != b.where[t.to] {
			x, y := b.where[t.from], b.where[t.to]
			pairs[[2]int32{min(x, y), max(x, y)}] = true
			group[find(int(x))] = find(int(y))
		}
	}
	byGroup := map[int]int{}
	for p := range pairs {
		byGroup[find(int(p[0]))]++
	}
	sum := 0
	for c, touched := range b.touching {
		if touched && find(c) == c {
			sum += byGroup[c] + 1
		}
	}
	return sum
}
