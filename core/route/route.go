package route

import (
	"container/heap"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Route is a way over the map.
type Route struct {
	Paths    []int   // numbers of usable paths, in order
	Stations []int   // one more than paths
	Length   float64 // mm, of the paths alone
	Variance float64 // mm², of that length
	Equal    string  // a path of another way that is just as long, empty where there is none
}

// tree holds the shortest ways from one station to all others, as Dijkstra has them (Numerische Mathematik 1, 1959). Of
// two that are equally long the one whose last path comes first by name is taken, and the tie is kept to be told.
type tree struct {
	from  int
	dist  []float64
	by    []int // path by which a station is reached, -1
	prev  []int
	equal []int // path of a way just as long, -1
}

// tied is how much two ways may differ, in mm, and still be one as long as the other: nobody measures finer.
const tied = 0.5

func (r *roads) shortest(from int, closed []bool) *tree {
	n := len(r.Stations)
	t := &tree{from, make([]float64, n), make([]int, n), make([]int, n), make([]int, n)}
	for i := range n {
		t.dist[i], t.by[i], t.prev[i], t.equal[i] = math.Inf(1), -1, -1, -1
	}
	t.dist[from] = 0
	done := make([]bool, n)
	q := &queue{{from, 0}}
	for q.Len() > 0 {
		at := heap.Pop(q).(stop)
		if done[at.station] {
			continue
		}
		done[at.station] = true
		for _, x := range r.at[at.station] {
			if closed != nil && closed[x.path] {
				continue
			}
			d, was, by := t.dist[at.station]+r.Paths[x.path].Length, t.dist[x.to], t.by[x.to]
			rival := by >= 0 && by != x.path && math.Abs(d-was) <= tied
			switch {
			case d < was || d == was && x.path < by:
				t.dist[x.to], t.by[x.to], t.prev[x.to], t.equal[x.to] = d, x.path, at.station, -1
				if rival {
					t.equal[x.to] = by
				}
				heap.Push(q, stop{x.to, d})
			case rival:
				t.equal[x.to] = x.path
			}
		}
	}
	return t
}

// to gives the way to a station, and false where no permitted path leads there.
func (t *tree) to(r *roads, station int) (Route, bool) {
	if math.IsInf(t.dist[station], 1) {
		return Route{}, false
	}
	var out Route
	for at := station; ; at = t.prev[at] {
		out.Stations = append(out.Stations, at)
		if at == t.from {
			break
		}
		p := &r.Paths[t.by[at]]
		out.Paths = append(out.Paths, t.by[at])
		out.Length += p.Length
		out.Variance += p.sigma() * p.sigma()
		if e := t.equal[at]; e >= 0 {
			out.Equal = r.Paths[e].ID
		}
	}
	slices.Reverse(out.Paths)
	slices.Reverse(out.Stations)
	return out, true
}

// Router finds ways and keeps what it found: most wires of a harness share their ends.
type Router struct {
	*roads
	trees map[string]*tree
}

// NewRouter gives one for the usable paths of a map.
func NewRouter(m *Map) *Router { return &Router{newRoads(m), map[string]*tree{}} }

// Between gives the shortest permitted way. It is the same way in both directions.
func (r *Router) Between(a, b int, avoid []string) (Route, bool) {
	from, to := min(a, b), max(a, b)
	var closed []bool
	key := fmt.Sprint(from)
	if len(avoid) > 0 {
		closed = make([]bool, len(r.Paths))
		for i := range r.Paths {
			closed[i] = slices.Contains(avoid, r.Paths[i].ID)
		}
		key += "\x00" + strings.Join(avoid, "\x00")
	}
	t := r.trees[key]
	if t == nil {
		t = r.shortest(from, closed)
		r.trees[key] = t
	}
	way, ok := t.to(r.roads, to)
	if ok && a != from {
		slices.Reverse(way.Paths)
		slices.Reverse(way.Stations)
	}
	return way, ok
}

// Total is the length of all paths together: no way is longer.
func (r *roads) Total() float64 {
	sum := 0.0
	for i := range r.Paths {
		sum += r.Paths[i].Length
	}
	return sum
}

type stop struct {
	station int
	dist    float64
}

// queue is the frontier of the search, nearest first, ties by station so that every run goes the same way.
type queue []stop

func (q queue) Len() int { return len(q) }
func (q queue) Less(i, j int) bool {
	return q[i].dist < q[j].dist || q[i].dist == q[j].dist && q[i].station < q[j].station
}
func (q queue) Swap(i, j int) { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(x any)   { *q = append(*q, x.(stop)) }
func (q *queue) Pop() any {
	old := *q
	x := old[len(old)-1]
	*q = old[:len(old)-1]
	return x
}
