package feed

import (
	"container/heap"
	"math"

	"draxel/core/harness"
	"draxel/core/network"
)

// backOhms is what a short to the body comes back by (common practice).
const backOhms = 0.01

// reach gives by node the least Ω by which a source's current comes there through copper, fuses and contacts, open ones
// taken as closed; without end where none does.
func (r *Result) reach() []float64 {
	heads := r.Drawn.Heads()
	ohms := make([]float64, len(heads))
	for i := range ohms {
		ohms[i] = math.Inf(1)
	}
	var q nearest
	for i := range r.Drawn.Elements {
		if e := &r.Drawn.Elements[i]; r.source(int32(i)) && e.Ohms < ohms[heads[e.A]] {
			ohms[heads[e.A]] = e.Ohms
			heap.Push(&q, reached{heads[e.A], e.Ohms})
		}
	}
	for q.Len() > 0 {
		x := heap.Pop(&q).(reached)
		if x.ohms > ohms[x.node] {
			continue
		}
		for _, i := range r.at[x.node] {
			e := &r.Drawn.Elements[i]
			if !e.Kind.Hands() {
				continue
			}
			far := heads[e.A]
			if far == x.node {
				far = heads[e.B]
			}
			if far == 0 || r.inner(far) {
				continue
			}
			if d := x.ohms + e.Ohms; d < ohms[far] {
				ohms[far] = d
				heap.Push(&q, reached{far, d})
			}
		}
	}
	return ohms
}

type reached struct {
	node int32
	ohms float64
}

// nearest is a heap of nodes, the one with the least Ω first.
type nearest []reached

func (q nearest) Len() int           { return len(q) }
func (q nearest) Less(i, j int) bool { return q[i].ohms < q[j].ohms }
func (q nearest) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *nearest) Push(x any)        { *q = append(*q, x.(reached)) }
func (q *nearest) Pop() any {
	last := len(*q) - 1
	x := (*q)[last]
	*q = (*q)[:last]
	return x
}

// unsaved gives the first of the wires behind a fuse that may carry less than its rating and that the fuse does not
// save in a short to the body at the wire's far end: its slowest time is not shorter than the wire's (IEC
// 60364-4-43, 434.5.2, from memory: I²t at most k²S²). Empty where it saves all of them, which then are only open to
// a load that is too great.
func (r *Result) unsaved(p *Protected, rating float64) harness.WireID {
	heads := r.Drawn.Heads()
	for _, name := range p.Wires {
		w := r.in.Wires[name]
		i, drawn := r.drawnAs(name)
		if !drawn || w.Carries == 0 || rating <= w.Carries {
			continue
		}
		if r.Facts.Slow[p.Fuse] { // the times that are known are those of quick ones: a slow fuse saves no wire
			return name
		}
		e := &r.Drawn.Elements[i]
		far := max(r.ohms[heads[e.A]], r.ohms[heads[e.B]])
		if e.Kind != network.Copper || math.IsInf(far, 1) {
			return name
		}
		amps := 12 / (far + backOhms)
		if _, most, opens := Opens(rating, amps); !opens || most >= Burns(w.Square, amps) {
			return name
		}
	}
	return ""
}

// fits gives the rating in A of the fuse for what a protected circuit carries: the next above its load that its
// thinnest wire may carry for long; else, where its wires carry no more than their loads, the one that saves them
// all in a short. 0 where none does.
func (r *Result) fits(p *Protected) (rating float64, short bool) {
	if best, err := Choose(p.Load, firstPositive(p.Carries, math.Inf(1))); err == nil {
		return best, false
	}
	for _, x := range p.Wires { // what carries too much already is no wire that only a short endangers
		if i, drawn := r.drawnAs(x); drawn && r.in.Wires[x].Carries > 0 && r.worst[i] > r.in.Wires[x].Carries {
			return 0, false
		}
	}
	best, err := Choose(p.Load, math.Inf(1))
	if err != nil || r.unsaved(p, best) != "" {
		return 0, false
	}
	return best, true
}
