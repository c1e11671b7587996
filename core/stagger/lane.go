package stagger

import (
	"fmt"
	"math"
)

// Spot is a place for a joint: on a segment, which is a path or the tail between a plug and its station.
type Spot struct {
	Segment  int
	At       float64    // mm along it
	Why      string     // what speaks against the spot itself
	Thick    float64    // mm, of the bundle with the joint
	stations [2]int     // at the ends of the segment, -1 at a plug
	off      [2]float64 // mm from them
}

// Lane is the way of a wire from one of its ends, as joints lie along it.
type Lane struct {
	Tail      float64 // mm from the plug to the bundle
	First     int     // segment of the tail at this end
	Last      int     // and of that at the other
	Near      int     // stations at its two ends
	Far       int
	Plugs     [2]bool // whether there is a plug at this end, and at the other
	Breathes  [2]bool // the sensor at this end, and at the other, through its lead
	Stretches []Stretch
	whole     float64 // mm of the wire when it is joined
	stub      float64 // mm that a joint keeps from a plug
}

// Stretch is a path on the way of a wire, with what speaks against a joint in it, whoever else is there.
type Stretch struct {
	Segment  int
	Begins   float64 // mm along the lane, behind the tail
	Length   float64 // mm
	Stations [2]int
	Back     bool    // it is measured from its far end
	Wall     bool    // a wall in its middle, with a grommet
	Flexes   bool    // no joint holds there
	Why      string  // what else speaks against a joint
	Thick    float64 // mm, of the bundle at a joint
}

// spot gives the place that lies so many mm along the wire from the lane's end.
func (n *Lane) spot(out *Spot, along float64) {
	why := ""
	for k, off := range [2]float64{along, n.whole - along} {
		switch {
		case n.Breathes[k] && off < breather:
			why = "it would be within 300 mm of the sensor, which breathes through its lead"
		case off < 0 && why == "":
			why = "too little of the wire is left there to join to"
		case n.Plugs[k] && off < n.stub && why == "":
			why = fmt.Sprintf("it would lie %.0f mm from a plug", max(off, 0))
		}
	}
	if along < n.Tail || len(n.Stretches) == 0 {
		*out = Spot{Segment: n.First, At: along, stations: [2]int{-1, n.Near}, off: [2]float64{0, max(0, n.Tail-along)},
			Why: why}
		return
	}
	left := along - n.Tail
	k := len(n.Stretches) - 1
	for i := range n.Stretches {
		if left <= n.Stretches[i].Begins+n.Stretches[i].Length {
			k = i
			break
		}
	}
	x := &n.Stretches[k]
	left -= x.Begins
	if left > x.Length { // beyond the last station: in the tail of the other end
		*out = Spot{Segment: n.Last, At: left - x.Length, stations: [2]int{n.Far, -1},
			off: [2]float64{left - x.Length, 0}, Why: why}
		return
	}
	*out = Spot{Segment: x.Segment, At: left, stations: x.Stations, off: [2]float64{left, x.Length - left}, Why: why,
		Thick: x.Thick}
	if x.Back { // measured from the path's own beginning
		out.At = x.Length - left
	}
	switch {
	case why != "":
	case x.Flexes:
		out.Why = "the bundle flexes there"
	case x.Wall && math.Abs(out.At-x.Length/2) < Grommet:
		out.Why = "it would lie in the grommet"
	default:
		out.Why = x.Why
	}
}
