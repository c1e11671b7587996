package feed

import (
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/network"
	"draxel/core/signal"
)

// senses looks at each sensor that a unit reads as a voltage: how far its return is lifted above the unit's ground.
func (r *Result) senses() {
	crank := r.state("crank")
	seen := map[string]bool{}
	for i := range r.Drawn.Elements {
		in := &r.Drawn.Elements[i]
		at := in.Of
		if in.Role != network.InputPin || r.Drawn.Signal(at).Role != signal.Analogue {
			continue
		}
		near := r.copper(in.A)
		for _, k := range r.Drawn.Loads {
			e := &r.Drawn.Elements[k]
			device := r.Drawn.Device[k]
			if _, unit := r.Drawn.Units[device]; unit || e.Kind != network.Load || seen[at+device] {
				continue
			}
			back, other := r.Drawn.Heads()[e.B], r.Drawn.Heads()[e.A]
			if near[back] {
				back, other = other, back
			}
			if !near[other] || near[back] || r.fullyFed(back) { // what ties it to a supply is no return
				continue
			}
			seen[at+device] = true
			if crank.Floating[back] || crank.Floating[in.B] {
				continue
			}
			s := Sensed{Device: device, At: at, Crank: crank.Volts[back] - crank.Volts[in.B],
				Full: r.full.Volts[back] - r.full.Volts[in.B], back: back, unit: r.Drawn.Heads()[in.B]}
			r.Sensors = append(r.Sensors, s)
			if worst := math.Max(math.Abs(s.Crank), math.Abs(s.Full)); worst > lifts {
				r.find("sensor-lifted", finding.Check, device,
					"Lead its ground to the unit's sensor ground; where it grounds through its thread, mend the strap of the block.",
					"The ground of %s stands %.0f mV above the unit's with everything on, and %.0f mV in crank: %s reads that much "+
						"wrong.",
					device, s.Full*1000, s.Crank*1000, at).Place = finding.Place{Part: "fuses"}
			}
		}
	}
	slices.SortFunc(r.Sensors, func(a, b Sensed) int { return finding.Natural(a.Device+" "+a.At, b.Device+" "+b.At) })
}

// fullyFed says whether a node has the volts of a supply with everything on.
func (r *Result) fullyFed(node int32) bool { return r.full.Volts[node] > 3 }

// copper gives the nodes that copper and contacts join to a node.
func (r *Result) copper(from network.Node) map[int32]bool {
	return r.along([]int32{r.Drawn.Heads()[from]}, func(node int32) bool { return !r.inner(node) })
}

// quiet looks at the returns that must be nobody else's: a unit's sensor grounds lead to sensors and to nothing else, a
// shield is grounded at one end, and a sensor's ground comes back to its unit.
func (r *Result) quiet() {
	grounds := map[int32]string{0: "the battery's negative"}
	for name, n := range r.Drawn.Nodes {
		if name == "body" || name == "engine block" || r.Drawn.GroundPoint(name) {
			grounds[r.Drawn.Heads()[n]] = name
		}
	}
	own := map[int32]bool{}     // joined to a unit's sensor ground
	returns := map[int32]bool{} // units that have one, by their insides
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		at := e.Of
		if e.Role != network.SensorPin {
			continue
		}
		near := r.copper(e.A)
		for n := range near {
			own[n] = true
		}
		returns[r.Drawn.Heads()[e.B]] = returns[r.Drawn.Heads()[e.B]] || r.Drawn.Signal(at).Role == signal.SensorGround
		for _, n := range sortedNodes(near) {
			name, ground := grounds[n]
			if !ground {
				continue
			}
			if r.Drawn.Signal(at).Role == signal.Shield {
				r.find("shield-both-ends", finding.Wrong, at, "Cut it off at the far end, and seal it there: one end only.",
					"The shield of %s is grounded at the unit and at %s too: current flows through it, and it picks up what it "+
						"should keep away.",
					at, name).Place = finding.Place{Part: "fuses"}
			} else {
				r.find("sensor-ground-shared", finding.Wrong, at,
					"Part the two: sensor grounds go to the unit and to nothing else.",
					"The sensor ground of %s is joined to %s: what others bring back through it is added to what the sensors say.",
					at, name).Place = finding.Place{Part: "fuses"}
			}
			break
		}
	}
	for _, x := range r.Sensors { // a sensor by its thread, or of a gauge, has no such wire
		near := r.copper(network.Node(x.back))
		_, itself := grounds[x.back]
		if itself || !returns[x.unit] {
			continue
		}
		home, astray := false, ""
		for _, n := range sortedNodes(near) {
			home = home || own[n]
			if name, ground := grounds[n]; ground && astray == "" {
				astray = name
			}
		}
		if !home && astray != "" {
			r.find("sensor-ground-astray", finding.Wrong, x.Device, "Lead it to the unit's sensor ground.",
				"The ground of %s comes back to %s and not to the unit that reads it at %s: it reads wrong by what that is lifted.",
				x.Device, astray, x.At).Place = finding.Place{Part: "fuses"}
		}
	}
}

func sortedNodes(m map[int32]bool) []int32 {
	out := make([]int32, 0, len(m))
	for n := range m {
		out = append(out, n)
	}
	slices.Sort(out)
	return out
}
