package feed

import (
	"cmp"
	"fmt"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
)

// backVolts is from how many V a point that should be dead is told to be live (common practice).
const backVolts = 1.5

// checkBack finds what is live only through something that uses current, a coil, a lamp, a load whose ground is lost:
// a unit's feed, what hangs on a contact of the key or on a fuse, while nothing that hands current on feeds it.
func (r *Result) checkBack() {
	var units, buses []string
	unit, bus := "", "" // the first of each
	heads := r.Drawn.Heads()
	for k, s := range r.States {
		fed := r.reached[k]
		at := func(n network.Node) (volts float64, back bool) {
			return s.Volts[n], !s.Floating[n] && s.Volts[n] > backVolts && !fed[heads[n]]
		}
		for _, u := range sortedUnits(r.Drawn) {
			coil := &r.Drawn.Elements[r.Drawn.Relays[r.Drawn.Units[u]-1].Coil]
			if v, back := at(coil.A); back {
				unit = cmp.Or(unit, u)
				units = append(units, fmt.Sprintf("%s in %s (%.1f V)", u, Positions()[k].Name, v))
			}
		}
		for i := range r.Drawn.Elements {
			e := &r.Drawn.Elements[i]
			key := e.Kind == network.Switch && e.Gate.Key != 0
			if !key && e.Kind != network.Fuse || s.Conducts(int32(i)) && key {
				continue
			}
			if v, back := at(e.B); back {
				bus = cmp.Or(bus, cmp.Or(e.Of, e.Name))
				buses = append(buses, fmt.Sprintf("what %s feeds, in %s (%.1f V)", e.Name, Positions()[k].Name, v))
			}
		}
	}
	if all := append(units, buses...); len(all) > 0 {
		r.find("back-feed", finding.Wrong, cmp.Or(unit, bus),
			"Find the lamp or coil that the current comes back through; a diode or another contact parts them.",
			"Fed only through something that uses current: %s. It may stay awake, or half awake.", few(all))
	}
}

// tooMuchAsleep is what a vehicle may take in A with the key off before it is worth a question: common practice.
const tooMuchAsleep = 0.08

func (r *Result) checkSleep() {
	i, known := r.Drawn.Element(network.BatteryName)
	if !known {
		return
	}
	r.Sleeps = max(0, r.state("off").Amps(i))
	for _, s := range r.Facts.Sources {
		if !s.Alternator && s.Capacity > 0 && r.Sleeps > 0 && r.Days == 0 {
			r.Days = s.Capacity * 0.8 / r.Sleeps / 24
		}
	}
	if r.Sleeps > tooMuchAsleep {
		r.find("stays-awake", finding.Check, network.BatteryName,
			"In the tree at key off, follow what carries current; a relay that the key switches cuts it.",
			"With the key off %.3g A are taken%s.", r.Sleeps, daysOf(r.Days)).Place = finding.Place{Key: "off"}
	}
}

func daysOf(days float64) string {
	if days == 0 {
		return ""
	}
	if days < 3 {
		return fmt.Sprintf(": the battery is flat in %.0f hours", days*24)
	}
	return fmt.Sprintf(": the battery is flat in %.0f days", days)
}

// checkMaster asks whether the engine stops when a master switch is opened while it runs.
func (r *Result) checkMaster() {
	for _, c := range r.Facts.Inside.Switches {
		if !r.Facts.Master(c.Switch) {
			continue
		}
		s, err := r.state("running").With(network.Fault{Do: network.Force, Element: c.Switch})
		if err != nil {
			continue
		}
		up := r.upBehind(s, c.Name)
		what := ""
		for _, u := range sortedUnits(r.Drawn) {
			if s.Pulled[r.Drawn.Units[u]-1] {
				what = fmt.Sprintf("%s stays awake: the alternator keeps the engine alive", u)
				break
			}
		}
		if what == "" && up > 6 {
			what = fmt.Sprintf("%.1f V stand behind it all the same: the alternator keeps the bus up", up)
		}
		if what != "" {
			r.find("alternator-keeps-alive", finding.Danger, c.Name,
				"A master switch with a second contact in the ignition feed or the alternator's field, and a "+
					"resistor for its load.",
				"With %s open while the engine runs %s.", c.Name, what)
		}
	}
}

// upBehind gives the volts of that end of an open switch which has fewer, 0 where one has none.
func (r *Result) upBehind(s *network.State, name string) float64 {
	i, known := r.Drawn.Element(name)
	if !known {
		return 0
	}
	e := &r.Drawn.Elements[i]
	if s.Floating[e.A] || s.Floating[e.B] {
		return 0
	}
	return min(s.Volts[e.A], s.Volts[e.B])
}

// spares notes fuses that feed nothing: a protected feed that is kept is wanted.
func (r *Result) spares() {
	heads := r.Drawn.Heads()
	ends := map[int32][]harness.Ref{} // cavities of what is plugged in, by node
	for at, n := range r.Drawn.Points {
		ends[heads[n]] = append(ends[heads[n]], at)
	}
	var spare []string
	for i := range r.Fuses {
		p := &r.Fuses[i]
		out := heads[r.Drawn.Elements[p.element].B]
		leads := p.Load > 1e-6
		for n := range p.behind {
			leads = leads || n != 0 && n != out && len(ends[n]) > 0
		}
		if !leads && p.Rating > 0 && !p.Reckoned {
			spare = append(spare, fmt.Sprintf("%s (%.3g A)", p.Fuse, p.Rating))
		}
	}
	if len(spare) > 0 {
		r.find("spare-feed", finding.Note, strings.SplitN(spare[0], " (", 2)[0],
			"Keep it until the job is proven: a protected feed is worth having. Its end is capped, and bears its name.",
			"Fused, and led to nothing that uses current: %s.", few(spare)).Place = finding.Place{Part: "fuses"}
	}
}

// farMm is how long the starter's cable may be before a battery counts as away from it (common practice).
const farMm = 2000

// far finds a battery away from the starter whose cable has no fuse beside it: the starter's cable is exempt, and a
// long one all the same burns a vehicle.
func (r *Result) far() {
	longest := Bare{}
	for _, b := range r.Unprotected {
		if b.Starter && b.Mm > longest.Mm {
			longest = b
		}
	}
	if longest.Mm > farMm {
		r.find("battery-far", finding.Check, string(longest.Wire),
			"A fuse or breaker beside the battery that bears cranking, or the cable in a sheath of its own clear of "+
				"every edge; what is not the starter's has a fuse there in any case.",
			"From the battery %.0f mm of the starter's cable (%s) lie without protection: it is exempt, and a "+
				"battery away from its starter wants a fuse or breaker beside it (common practice).",
			longest.Mm, longest.Wire).Place = finding.Place{Part: "fuses"}
	}
}
