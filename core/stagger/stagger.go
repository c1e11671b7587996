// Package stagger says where along the bundles of a harness joints lie so that they do not stack: no two nearer than a
// given distance, none in a grommet, none where the bundle flexes or would grow too thick.
//
// A wire that is lengthened can be cut farther and farther back: each cut is a candidate, and its joints lie where it
// puts them. Whoever has the least wire to move them along chooses first, each takes the nearest that is free, and
// where none is left those that stand in the way are asked to move. It knows no harness: wires, segments and stations
// are numbers, lengths mm.
package stagger

import (
	"cmp"
	"math"
	"slices"

	"draxel/core/finding"
)

// Bounds of where joints go, mm: common practice, no source.
const (
	Grommet  = 50   // from the middle of a wall
	breather = 300  // from the plug of a sensor that breathes through its lead
	notch    = 10   // steps in which a joint is moved
	farthest = 2400 // that a joint is moved for the sake of others
)

// Joint is what a joint takes of a wire, mm.
type Joint struct {
	Lap  float64 // of wire that it uses, at each of the two ends
	Stub float64 // from a plug, at least
}

// Choice is one wire's joints: the candidates for how far back from its end it is cut, and which of them it took.
type Choice struct {
	Wire   int    // its number
	Name   string // breaks ties
	Joints int    // 1: a piece with its own terminal; 2: a piece let in
	Had    float64
	By     float64 // mm that it is lengthened by
	Each   Joint
	Took   int // the candidate that Schedule gave it
	cut    []float64
	end    []int    // 0 or 1: where it is lengthened
	spots  [][]Spot // by candidate, worked out when it is first looked at
	lanes  [2]*Lane
	stuck  bool // it was asked to move in this round, and had nowhere to go
}

// AtEnd adds the candidates at one end, 0 or 1: as much of the wire is left at the other as a joint keeps from a plug.
func (c *Choice) AtEnd(end int, lane *Lane) {
	most := min(c.Had-2*c.Each.Stub-2*c.Each.Lap, farthest)
	if c.Joints == 1 {
		most = min(c.Had-c.Each.Stub-c.Each.Lap, farthest/6) // every mm is a mm more of the piece
	}
	lane.whole, lane.stub = c.Had+c.By-2*c.Each.Lap*float64(c.Joints), c.Each.Stub
	c.lanes[end] = lane
	for back := 0.0; back <= max(most, 0); back += notch {
		c.cut, c.end = append(c.cut, back), append(c.end, end)
	}
}

// Cut gives the end at which the wire is lengthened, 0 or 1, and how far back from its first place it is cut, mm.
func (c *Choice) Cut() (end int, back float64) { return c.end[c.Took], c.cut[c.Took] }

// Spots gives where its joints lie: the farther one first, where there are two.
func (c *Choice) Spots() []Spot { return c.at(c.Took) }

// at gives the spots of a candidate. They are where the joints will be when each has taken its lap of both ends.
func (c *Choice) at(k int) []Spot {
	if c.spots == nil {
		c.spots = make([][]Spot, len(c.cut))
	}
	if c.spots[k] != nil {
		return c.spots[k]
	}
	lane, spots := c.lanes[c.end[k]], make([]Spot, c.Joints)
	if c.Joints == 2 {
		near := c.Each.Stub + c.cut[k]
		lane.spot(&spots[0], near+c.By-2*c.Each.Lap)
		lane.spot(&spots[1], near)
	} else {
		lane.spot(&spots[0], c.By+c.cut[k]-c.Each.Lap)
	}
	c.spots[k] = spots
	return spots
}

// Bundles are the bundles with the joints that lie on them.
type Bundles struct {
	apart   float64
	on      places // by segment, in the order in which they lie
	near    places // by station: joints within apart of it, the nearest first
	scratch []int
	full    bool // there is not room for all: nobody is asked to move
}

type taken struct {
	at    float64 // along the segment, or from the station
	seg   int
	joint int // number of the wire that has it
}

// Schedule gives every wire its candidate, with joints so far apart, mm, and puts the choices into the order of their
// numbers. Full says that there is not room for all: nobody is asked to move then. Relief are wires, by number, which
// replaced whole would leave room for the rest.
func Schedule(all []*Choice, apart float64, full bool) (b *Bundles, relief []int) {
	slices.SortStableFunc(all, func(a, b *Choice) int {
		return cmp.Or(cmp.Compare(len(a.cut), len(b.cut)), finding.Natural(a.Name, b.Name))
	})
	b = &Bundles{apart: apart, full: full}
	relief = b.schedule(all)
	slices.SortFunc(all, func(a, b *Choice) int { return cmp.Compare(a.Wire, b.Wire) })
	return b, relief
}

// Beside gives the number of another wire whose joint is too near to a spot of this one.
func (b *Bundles) Beside(c *Choice, x Spot) (wire int, is bool) {
	in := b.seen(c, []Spot{x}, 1)
	if len(in) == 0 {
		return 0, false
	}
	return in[0], true
}

// schedule gives every wire its candidate. Where some have no clear place they choose first in another round, as
// whoever squeaks gets the oil (Joslin and Clements, "Squeaky wheel optimization", JAIR 10, 1999, from memory), and the
// best round is kept. Large harnesses get few rounds.
func (b *Bundles) schedule(all []*Choice) (relief []int) {
	rounds := 1 + min(12, squeaks/max(len(all), 1))
	if b.full {
		rounds = 1
	}
	best, least := make([]int, len(all)), math.MaxInt
	order := slices.Clone(all)
	for range rounds {
		b.on.clear()
		b.near.clear()
		byLine := make(map[int]*Choice, len(all))
		for _, c := range order {
			byLine[c.Wire], c.stuck = c, false
			b.choose(c, byLine)
		}
		var squeaky, quiet []*Choice
		for _, c := range order {
			if spots := c.at(c.Took); bad(spots) || b.blocked(c, spots) {
				squeaky = append(squeaky, c)
			} else {
				quiet = append(quiet, c)
			}
		}
		if len(squeaky) < least {
			least = len(squeaky)
			for i, c := range all {
				best[i] = c.Took
			}
		}
		if least == 0 {
			break
		}
		order = append(squeaky, quiet...)
	}
	b.on.clear()
	b.near.clear()
	for i, c := range all {
		b.take(c, best[i])
	}
	if least > 0 && !b.full {
		b.mend(all, mostLooks)
		relief = b.relief(all)
	}
	if least > 0 {
		b.spread(all)
	}
	return relief
}

// squeaks is how many wires are put in order again in all.
const squeaks = 800

func bad(spots []Spot) bool {
	return slices.ContainsFunc(spots, func(x Spot) bool { return x.Why != "" })
}

// choose takes the first candidate that is good in itself and clear of what is there. Where there is none, those that
// stand in the way move if they can; else the candidate with least against it is taken, and it is told.
func (b *Bundles) choose(c *Choice, others map[int]*Choice) {
	against := make([]int, len(c.cut)) // how many stand in the way, as far as that matters
	best := 0
	for k := range c.cut {
		if against[k] = b.against(c, k, mostMoved+1); against[k] == 0 {
			b.take(c, k)
			return
		}
		if against[k] < against[best] {
			best = k
		}
	}
	tries := 0
	for k := range c.cut {
		if b.full || against[k] > mostMoved || tries == mostTries {
			continue
		}
		tries++
		if b.makeRoom(c, k, b.blocking(c, c.at(k), mostMoved), others) {
			return
		}
	}
	b.take(c, best)
}

// spread moves the joints that found no clear place as far from the others as they go.
func (b *Bundles) spread(all []*Choice) {
	for _, c := range all {
		if b.blocked(c, c.at(c.Took)) {
			b.leave(c)
			b.take(c, b.clearest(c))
		}
	}
}

// clearest gives the candidate whose joints lie farthest from the others, where none lies clear: they are spread as
// far as they go. One that is bad in itself is taken only where all are.
func (b *Bundles) clearest(c *Choice) int {
	best, most := 0, math.Inf(-1)
	for k := range c.cut {
		spots := c.at(k)
		d := b.distance(c, spots)
		if bad(spots) {
			d -= farthest
		}
		if d > most {
			best, most = k, d
		}
	}
	return best
}
