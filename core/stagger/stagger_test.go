package stagger_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"draxel/core/stagger"
)

// road is a straight bundle of several segments with a station between each two: a place on it is one number.
type road []float64

// lane gives the way along the whole road from its left or its right end, with a tail of so many mm at either end.
func (r road) lane(tail float64, right bool, firstTail int) *stagger.Lane {
	out := &stagger.Lane{Tail: tail, First: firstTail, Last: firstTail + 1, Far: len(r), Plugs: [2]bool{true, true}}
	begins := 0.0
	for k := range r {
		x := stagger.Stretch{Segment: k, Begins: begins, Length: r[k], Stations: [2]int{k, k + 1}}
		if right {
			n := len(r) - 1 - k
			x = stagger.Stretch{Segment: n, Begins: begins, Length: r[n], Stations: [2]int{n + 1, n}, Back: true}
		}
		out.Stretches = append(out.Stretches, x)
		begins += x.Length
	}
	if right {
		out.Near, out.Far = out.Far, out.Near
	}
	return out
}

// at gives where a spot lies, mm from the left end of the road.
func (r road) at(x stagger.Spot) float64 {
	for k := range x.Segment {
		x.At += r[k]
	}
	return x.At
}

// What the schedule says of two joints that lie beside each other is what a ruler along the road says, and a wire that
// alone is on a segment is left at its first place.
func TestARulerAlongTheRoad(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	clear, beside := 0, 0
	for range 400 {
		way := make(road, 2+r.IntN(3))
		whole := 0.0
		for k := range way {
			way[k] = float64(300 + 10*r.IntN(60))
			whole += way[k]
		}
		apart := float64(30 + 10*r.IntN(8))
		each := stagger.Joint{Lap: 15, Stub: 60}
		var all []*stagger.Choice
		for i := range 2 + r.IntN(6) {
			short := float64(100 + 10*r.IntN(40)) // how much of the way the wire does not have
			c := &stagger.Choice{Wire: i, Name: fmt.Sprint(i), Joints: 1 + r.IntN(2), Had: whole - short, Each: each, Took: -1}
			c.By = short + 2*each.Lap*float64(c.Joints)
			right := r.IntN(2) == 1
			c.AtEnd(r.IntN(2), way.lane(0, right, len(way)+2*i))
			all = append(all, c)
		}
		on, _ := stagger.Schedule(all, apart, false)
		for i, c := range all {
			if c.Wire != i {
				t.Fatalf("choice %d is of wire %d", i, c.Wire)
			}
			for _, x := range c.Spots() {
				nearest := math.Inf(1)
				for _, other := range all {
					for _, y := range other.Spots() {
						if other != c && x.Segment < len(way) && y.Segment < len(way) {
							nearest = min(nearest, math.Abs(way.at(x)-way.at(y)))
						}
					}
				}
				if _, is := on.Beside(c, x); is != (nearest < apart) {
					t.Fatalf("wire %d at %.0f mm: %.0f mm from the nearest other, %.0f are asked for, and beside one is %v",
						i, way.at(x), nearest, apart, is)
				} else if is {
					beside++
				} else {
					clear++
				}
			}
		}
	}
	t.Logf("%d joints lie clear, %d beside another", clear, beside)
	if clear < 2000 || beside > clear/50 {
		t.Errorf("%d joints lie clear, %d beside another", clear, beside)
	}
}

// What speaks against a place is told, and the place is left where there is another.
func TestWhatSpeaksAgainstAPlace(t *testing.T) {
	for name, change := range map[string]func(*stagger.Lane){
		"it would lie in the grommet":             func(n *stagger.Lane) { n.Stretches[0].Wall = true },
		"the bundle flexes there":                 func(n *stagger.Lane) { n.Stretches[0].Flexes = true },
		"the bundle would grow":                   func(n *stagger.Lane) { n.Stretches[0].Why = "the bundle would grow" },
		"it would be within 300 mm of the sensor": func(n *stagger.Lane) { n.Breathes[0] = true },
	} {
		way := road{400, 400}
		choose := func(had float64) stagger.Spot {
			lane := way.lane(0, false, 2)
			change(lane)
			// with 115 mm to let in the joint lies at 200, in the middle of the wall, when all of it has been cut back
			c := &stagger.Choice{Joints: 1, Had: had, By: 215, Each: stagger.Joint{Lap: 15, Stub: 60}, Took: -1}
			c.AtEnd(0, lane)
			stagger.Schedule([]*stagger.Choice{c}, 40, false)
			return c.Spots()[0]
		}
		if x := choose(80); len(x.Why) < len(name) || x.Why[:len(name)] != name {
			t.Errorf("with nowhere else to go: %q, not %q", x.Why, name)
		}
		if x := choose(2000); x.Why != "" || x.Segment == 0 && x.At < 250 {
			t.Errorf("%s: with all the wire it lies at %v of segment %d: %s", name, x.At, x.Segment, x.Why)
		}
	}
}

// A joint near a plug is told, how near it is, and one for which there is no wire.
func TestTooNearAPlug(t *testing.T) {
	for _, c := range []struct {
		by   float64
		want string
	}{{45, "it would lie 30 mm from a plug"}, {5, "too little of the wire is left there to join to"}, {75, ""}} {
		x := &stagger.Choice{Joints: 1, Had: 75, By: c.by, Each: stagger.Joint{Lap: 15, Stub: 60}, Took: -1}
		x.AtEnd(0, road{900}.lane(100, false, 1))
		stagger.Schedule([]*stagger.Choice{x}, 40, false)
		if got := x.Spots()[0]; got.Why != c.want || got.Segment != 1 {
			t.Errorf("%v mm: %+v, not %q", c.by, got, c.want)
		}
	}
}
