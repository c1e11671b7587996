// Package stock cuts new wire from what lies on the shelf and from what came out of the harness, so that as little as
// can be is bought.
package stock

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/colour"
	"draxel/core/size"
)

// Piece is a length of wire that is there: it came out of the harness, or lies on the shelf.
type Piece struct {
	ID     string        `json:"id"`
	Colour colour.Colour `json:"colour"`
	Size   size.Section  `json:"size,omitempty"`
	Class  size.Class    `json:"class,omitempty"` // empty: the job's
	Length float64       `json:"length"`          // mm
	Kind   Lead          `json:"kind,omitempty"`
	Waits  bool          `json:"waits,omitempty"` // it is still in the harness
}

// Lead says how the cores of a lead are held together.
type Lead string

// The kinds of lead.
const (
	Single   Lead = ""
	Twisted  Lead = "twisted"
	Shielded Lead = "shielded"
)

// Provision is a piece of new wire for one line of the cut list.
type Provision struct {
	From   string        `json:"from,omitempty"` // the piece of stock; empty: to be bought
	Colour colour.Colour `json:"colour"`
	Size   size.Section  `json:"size,omitempty"`
	Class  size.Class    `json:"class,omitempty"`
	Length float64       `json:"length"` // mm
	Kind   Lead          `json:"kind,omitempty"`
	Coded  bool          `json:"coded,omitempty"` // its colour is not that of the wire: print the code at both ends and at each joint
	Waits  bool          `json:"waits,omitempty"` // the piece is still in the harness
}

// String describes the piece in words.
func (p Provision) String() string {
	s := fmt.Sprintf("%.0f mm of %s %s", p.Length, p.Colour, p.Size)
	if p.Kind != Single {
		s += " " + string(p.Kind)
	}
	if p.From != "" {
		return s + " from " + p.From
	}
	return s + ", class " + string(p.Class) + ", new"
}

// Allocation says how well the stock was used.
type Allocation struct {
	Pieces int     `json:"pieces"` // of stock that is cut into
	Served float64 `json:"served"` // mm that come from stock
	Wanted float64 `json:"wanted"` // mm of new wire in all
	Bound  float64 `json:"bound"`  // mm of worth: no way to use the stock serves more than this
	Worth  float64 `json:"worth"`  // mm of worth that this way serves
	Exact  bool    `json:"exact"`  // all ways were compared
}

// BuyLine is wire to be bought.
type BuyLine struct {
	Colour colour.Colour `json:"colour"`
	Size   size.Section  `json:"size,omitempty"`
	Class  size.Class    `json:"class,omitempty"`
	Kind   Lead          `json:"kind,omitempty"`
	Need   float64       `json:"need"`  // mm
	Buy    float64       `json:"buy"`   // mm, with the margin
	Coded  bool          `json:"coded"` // a plain colour that stands for others
	For    []string      `json:"for"`   // wires
	Each   []float64     `json:"-"`     // mm of need that each of them brings; a lead of several cores counts once
}

// ColourLine says what one colour and size is short of.
type ColourLine struct {
	Colour colour.Colour `json:"colour"`
	Size   size.Section  `json:"size,omitempty"`
	Wires  int           `json:"wires"`
	Short  float64       `json:"short"` // mm of new wire
	Stock  float64       `json:"stock"` // mm of it from stock
	Buy    float64       `json:"buy"`   // mm of it to be bought, without margin
}

// Demand is a length of new wire that is wanted.
type Demand struct {
	Colour colour.Colour
	Size   size.Section // at least
	Class  size.Class   // at least
	Length float64      // mm
	Kind   Lead
	Lines  []int // of the cut list, that it is for
}

// kerf is what is lost each time a piece is cut, mm.
const kerf = 5

// worth of a mm that comes from stock of the very colour, and of one whose tracer differs and that is printed instead.
const (
	sameColour = 1.0
	sameBase   = 0.8
)

// Value says what a mm of the piece is worth to a demand, 0 where it must not be used: the kind, a size of at least
// what is wanted and at most twice that, a class that stands the air, and a colour that does not lie to whoever opens
// the harness next. Colours that mean danger or a constant feed never stand in for others.
func (d *Demand) Value(p *Piece, standard size.Class) float64 {
	class := p.Class
	if class == "" {
		class = standard
	}
	if p.Kind != d.Kind || p.Size <= 0 || p.Length < d.Length || d.Size > 0 &&
		(p.Size < d.Size*0.999 || p.Size > 2*d.Size*1.001) || class.Limit() < d.Class.Limit() {
		return 0
	}
	switch colour.Compare(p.Colour, d.Colour) {
	case colour.Equal:
		if p.Colour.Known() {
			return sameColour
		}
	case colour.Compatible:
		if p.Colour.Known() && d.Colour.Known() && !p.Colour.Warns() && !d.Colour.Warns() {
			return sameBase
		}
	default:
	}
	return 0
}

// Allocate says from which piece each demand is cut, −1 where from none, so that the stock serves as much as it can.
// Where pieces and demands that have to do with each other are few all ways are compared (branch and bound); else the
// longest is served first from the piece that is left shortest by it. Bound is what no way can exceed.
func Allocate(demands []Demand, stock []Piece, standard size.Class) (from []int, a Allocation) {
	from = make([]int, len(demands))
	for i := range from {
		from[i] = -1
	}
	a.Exact = true
	for _, g := range related(demands, stock, standard) {
		g.serve(from, &a)
	}
	used := map[int]bool{}
	for i, p := range from {
		a.Wanted += demands[i].Length
		if p >= 0 {
			a.Served += demands[i].Length
			used[p] = true
		}
	}
	a.Pieces = len(used)
	return from, a
}

// kin are demands and pieces that have to do with each other, and with no others.
type kin struct {
	demands, pieces []int
	length          []float64
	room            []float64   // by piece
	value           [][]float64 // by demand and piece: what serving it so is worth
}

// related splits the problem into parts that do not touch each other.
func related(demands []Demand, stock []Piece, standard size.Class) []*kin {
	owner := make([]int, len(stock))
	for i := range owner {
		owner[i] = -1
	}
	group := make([]int, len(demands))
	for i := range group {
		group[i] = i
	}
	root := func(i int) int {
		for group[i] != i {
			i = group[i]
		}
		return i
	}
	value := make([][]float64, len(demands))
	for i := range demands {
		value[i] = make([]float64, len(stock))
		for p := range stock {
			v := demands[i].Value(&stock[p], standard)
			if v == 0 {
				continue
			}
			value[i][p] = v * demands[i].Length
			if owner[p] < 0 {
				owner[p] = i
			} else {
				group[root(i)] = root(owner[p])
			}
		}
	}
	byRoot := map[int]*kin{}
	var out []*kin
	for i := range demands {
		if !slices.ContainsFunc(value[i], func(v float64) bool { return v > 0 }) {
			continue
		}
		g := byRoot[root(i)]
		if g == nil {
			g = &kin{}
			byRoot[root(i)] = g
			out = append(out, g)
			for p := range stock {
				if owner[p] >= 0 && root(owner[p]) == root(i) {
					g.pieces, g.room = append(g.pieces, p), append(g.room, stock[p].Length)
				}
			}
		}
		g.demands, g.length = append(g.demands, i), append(g.length, demands[i].Length)
		row := make([]float64, len(g.pieces))
		for k, p := range g.pieces {
			row[k] = value[i][p]
		}
		g.value = append(g.value, row)
	}
	return out
}

// ways bounds how many ways are compared.
const ways = 40_000

func (g *kin) serve(from []int, a *Allocation) {
	order := make([]int, len(g.demands))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(g.length[y], g.length[x]) })
	best, worth := g.greedy(order)
	bound := g.bound()
	search := &search{g: g, order: order, room: slices.Clone(g.room), now: make([]int, len(order)), best: best,
		worth: worth, left: ways}
	for i := range search.now {
		search.now[i] = -1
	}
	search.rest = make([]float64, len(order)+1)
	for k := len(order) - 1; k >= 0; k-- {
		search.rest[k] = search.rest[k+1] + slices.Max(g.value[order[k]])
	}
	if worth < bound-1e-9 {
		search.from(0, 0)
	}
	if search.left <= 0 {
		a.Exact = false
	} else {
		bound = search.worth
	}
	for i, p := range search.best {
		if p >= 0 {
			from[g.demands[i]] = g.pieces[p]
		}
	}
	a.Worth += search.worth
	a.Bound += bound
}

// greedy serves the longest first, each from the piece that serves it best and is left shortest.
func (g *kin) greedy(order []int) (best []int, worth float64) {
	best = make([]int, len(g.demands))
	room := slices.Clone(g.room)
	for i := range best {
		best[i] = -1
	}
	for _, i := range order {
		for p, v := range g.value[i] {
			if v == 0 || room[p] < g.length[i] {
				continue
			}
			if b := best[i]; b < 0 || v > g.value[i][b] || v == g.value[i][b] && room[p] < room[b] {
				best[i] = p
			}
		}
		if p := best[i]; p >= 0 {
			room[p] -= g.length[i] + kerf
			worth += g.value[i][p]
		}
	}
	return best, worth
}

// bound is what no way can exceed: neither what the demands are worth at best, nor what the pieces have to give.
func (g *kin) bound() float64 {
	byDemand, byPiece := 0.0, 0.0
	for i := range g.demands {
		byDemand += slices.Max(g.value[i])
	}
	for p := range g.pieces {
		all := 0.0
		for i := range g.demands {
			all += g.value[i][p]
		}
		byPiece += min(all, g.room[p])
	}
	return min(byDemand, byPiece)
}

// search compares all ways, and leaves those that cannot be better than the best so far.
type search struct {
	g     *kin
	order []int
	room  []float64
	now   []int
	best  []int
	worth float64
	rest  []float64 // by place in the order: what the demands from there on are worth at best
	left  int
}

func (s *search) from(k int, worth float64) {
	if worth > s.worth+1e-9 {
		s.worth, s.best = worth, slices.Clone(s.now)
	}
	if k == len(s.order) || worth+s.rest[k] <= s.worth+1e-9 {
		return
	}
	if s.left--; s.left <= 0 {
		return
	}
	i := s.order[k]
	for p, v := range s.g.value[i] {
		if v == 0 || s.room[p] < s.g.length[i] {
			continue
		}
		s.room[p] -= s.g.length[i] + kerf
		s.now[i] = p
		s.from(k+1, worth+v)
		s.now[i] = -1
		s.room[p] += s.g.length[i] + kerf
	}
	s.from(k+1, worth)
}
