package work

import (
	"container/heap"
	"slices"

	"draxel/core/harness"
)

// Order puts the steps of all stages into one order: each after those that it needs, else as they are given. What a
// step needs of other stages follows from the edits: an end is joined after it was cut, a wire is crimped after it
// was laid, a wire falls out after its terminals were pulled. These needs are added to the steps. Steps of Pin keep
// their order among themselves: two connectors lie open at a time, and which is worked out there.
//
// Where steps need one another in a ring the ring keeps the order in which it was given; running it will say what
// fails.
func Order(now harness.Harness, steps []Step) []Step {
	o := &order{steps: slices.Clone(steps), at: make(map[string]int, len(steps)), makes: map[thing][]int{}}
	for i := range o.steps {
		o.at[o.steps[i].ID] = i
		o.produce(i)
	}
	for i := range o.steps {
		o.need(now, i)
	}
	o.guard()
	return o.sorted()
}

// thing is what edits make and use: an open end, a length of wire, a terminal in hand, a joint, a connector that is
// off.
type thing struct {
	what string
	name string
	end  int
}

type order struct {
	steps []Step
	at    map[string]int
	makes map[thing][]int
}

func (o *order) produce(i int) {
	put := func(what, name string, end int) {
		t := thing{what, name, end}
		if made := o.makes[t]; len(made) == 0 || made[len(made)-1] != i {
			o.makes[t] = append(made, i)
		}
	}
	for k := range o.steps[i].Edits {
		e := &o.steps[i].Edits[k]
		switch e.Do {
		case harness.Cut:
			put("end", string(e.Wire), e.End)
			put("end", string(e.Wire.Stub(e.End)), 1)
			put("wire", string(e.Wire.Stub(e.End)), 0)
		case harness.Tap:
			put("wire", string(e.Wire.Stub(e.End)), 0)
			put("joint", string(e.Joint), 0)
		case harness.Clip, harness.Unjoin:
			put("end", string(e.Wire), e.End)
		case harness.Lay:
			put("wire", string(e.Wire), 0)
			put("end", string(e.Wire), 0)
			put("end", string(e.Wire), 1)
		case harness.Join:
			put("joint", string(e.Joint), 0)
		case harness.Open:
			put("apart", string(e.Joint), 0)
		case harness.Add:
			put("hand", string(e.Terminal), 0)
		case harness.Remove, harness.Sever, harness.Cap, harness.Park:
			put("out", string(e.Terminal), 0)
		case harness.Free:
			put("off", e.At.Connector, 0)
		}
	}
}

// need adds what a step needs of others by its edits.
func (o *order) need(now harness.Harness, i int) {
	s := &o.steps[i]
	own := slices.Clone(s.Needs)
	use := func(what, name string, end int) {
		for _, by := range o.makes[thing{what, name, end}] {
			if by == i || slices.Contains(own, o.steps[by].ID) || s.Stage == Pin && o.steps[by].Stage == Pin ||
				slices.Contains(o.steps[by].Needs, s.ID) { // it was said that it comes later: it opens the end anew
				continue
			}
			own = append(own, o.steps[by].ID)
		}
	}
	open := func(l harness.TipID) {
		use("end", string(l.Wire), l.End)
		if tips, there := now.Tips(l.Wire); there && tips[l.End].State == harness.Joined {
			use("apart", string(tips[l.End].Joint), 0)
		}
	}
	for k := range s.Edits {
		e := &s.Edits[k]
		switch e.Do {
		case harness.Seal, harness.Heal, harness.Land:
			open(harness.TipID{Wire: e.Wire, End: e.End})
			if e.Do == harness.Heal {
				open(harness.TipID{Wire: e.Wire.Stub(e.End), End: 1})
			}
		case harness.Join, harness.Tap:
			for _, l := range e.Lengths {
				open(l)
			}
			if len(e.Lengths) == 1 && e.Do == harness.Join {
				use("joint", string(e.Joint), 0)
			}
		case harness.Crimp:
			open(harness.TipID{Wire: e.Wire, End: e.End})
			use("hand", string(e.Terminal), 0)
		case harness.Clip:
			if tips, there := now.Tips(e.Wire); there && tips[e.End].State == harness.Crimped {
				use("out", string(tips[e.End].Terminal), 0)
			}
		case harness.FallOut:
			o.leaves(now, e.Wire, use)
		case harness.Insert, harness.Drop:
			use("hand", string(e.Terminal), 0)
		}
	}
	s.Needs = own
}

// leaves: a wire falls out when its ends are open, its terminals out of their cavities, or their connectors off.
func (o *order) leaves(now harness.Harness, wire harness.WireID, use func(what, name string, end int)) {
	use("wire", string(wire), 0)
	tips, there := now.Tips(wire)
	if !there {
		return
	}
	for end, t := range tips {
		use("end", string(wire), end)
		switch t.State {
		case harness.Crimped:
			use("out", string(t.Terminal), 0)
			if p, ok := now.Place(t.Terminal); ok && p.State == harness.Seated {
				use("off", p.At.Connector, 0)
			}
		case harness.Joined:
			use("apart", string(t.Joint), 0)
		}
	}
}

// guard puts steps before those that do something to the ends which they guard.
func (o *order) guard() {
	guards, terminals := map[harness.TipID][]string{}, map[harness.TerminalID][]string{}
	for i := range o.steps {
		for _, l := range o.steps[i].Guards {
			guards[l] = append(guards[l], o.steps[i].ID)
		}
		for _, t := range o.steps[i].GuardsTerminal {
			terminals[t] = append(terminals[t], o.steps[i].ID)
		}
	}
	if len(guards)+len(terminals) == 0 {
		return
	}
	for i := range o.steps {
		s := &o.steps[i]
		for k := range s.Edits {
			e := &s.Edits[k]
			ends := e.Lengths
			if e.Wire != "" {
				ends = append(slices.Clone(ends), harness.TipID{Wire: e.Wire, End: e.End})
			}
			before := slices.Clone(terminals[e.Terminal])
			for _, l := range ends {
				before = append(before, guards[l]...)
			}
			for _, id := range before {
				if id != s.ID && !slices.Contains(s.Needs, id) {
					s.Needs = append(slices.Clone(s.Needs), id)
				}
			}
		}
	}
}

// sorted gives the steps, the first given first of those that can be next.
func (o *order) sorted() []Step {
	waits := make([]int, len(o.steps))
	then := make([][]int, len(o.steps))
	last := -1
	for i := range o.steps {
		for _, n := range o.steps[i].Needs {
			if by, ok := o.at[n]; ok && by != i {
				then[by] = append(then[by], i)
				waits[i]++
			}
		}
		if o.steps[i].Stage == Pin {
			if last >= 0 {
				then[last] = append(then[last], i)
				waits[i]++
			}
			last = i
		}
	}
	var ready least
	for i, n := range waits {
		if n == 0 {
			heap.Push(&ready, i)
		}
	}
	out := make([]Step, 0, len(o.steps))
	for ready.Len() > 0 {
		i := heap.Pop(&ready).(int)
		out = append(out, o.steps[i])
		for _, k := range then[i] {
			if waits[k]--; waits[k] == 0 {
				heap.Push(&ready, k)
			}
		}
	}
	for i, n := range waits {
		if n > 0 {
			out = append(out, o.steps[i])
		}
	}
	return out
}

// least is a heap of step numbers.
type least []int

func (h least) Len() int           { return len(h) }
func (h least) Less(i, j int) bool { return h[i] < h[j] }
func (h least) Swap(i, j int)      { h[i], h[j] = h[j], h[i] }
func (h *least) Push(x any)        { *h = append(*h, x.(int)) }
func (h *least) Pop() any {
	old := *h
	x := old[len(old)-1]
	*h = old[:len(old)-1]
	return x
}
