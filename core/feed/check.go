package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
)

// shorted is the current in A of a battery with nothing switched on from which on the plan itself shorts it.
const shorted = 400

func (r *Result) check() {
	r.checkSources()
	r.checkFuses()
	r.checkWires()
	r.checkRelays()
	r.checkUnits()
	r.checkBack()
	r.checkSleep()
	r.checkLoads()
	r.checkMaster()
	r.checkStarter()
	r.checkKey()
	r.selective()
	r.twice()
	r.spares()
	r.far()
}

func (r *Result) checkSources() {
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		if !r.source(int32(i)) {
			continue
		}
		if a := r.state("off").Amps(int32(i)); math.Abs(a) > shorted {
			r.find("source-shorted", finding.Danger, e.Name,
				"Look for the line that joins both poles, in the lists of fuses, switches and cables.",
				"%s gives %.0f A with the key off and nothing on: the plan itself shorts it.", e.Name, a)
		}
		for k, s := range r.States {
			if a := s.Amps(int32(i)); a < -shorted {
				r.find("sources-in-a-loop", finding.Danger, e.Name,
					"Two sources stand against each other: put their poles right in the list of sources.",
					"%s is driven backwards with %.0f A in %s.", e.Name, -a, Positions()[k].Name)
				break
			}
		}
	}
}

func (r *Result) checkFuses() {
	for _, p := range r.Fuses {
		if p.Starts > startsBy*p.Rating && !p.Slow {
			r.find("fuse-quick", finding.Note, p.Fuse,
				"Take a slow one, and say so: under Kind in the list of fuses, or at its slot in the block.",
				"Fuse %s of %.3g A is quick, and the motors behind it take %.3g A until they turn: it may open then.",
				p.Fuse, p.Rating, p.Starts).Place = finding.Place{Part: "fuses"}
		}
		remedy := fmt.Sprintf("A fuse of %.3g A fits.", p.Best)
		if p.Best == 0 {
			remedy = sentence(p.Why)
		}
		switch {
		case p.Reckoned && p.Rating == 0 && len(p.Wires) > 0:
			r.find("fuse-none", finding.Wrong, p.Fuse, "Split what hangs on it over two slots, or replace the thin wire.",
				"No fuse fits slot %s: %s.", p.Fuse, p.Why).Place = finding.Place{Part: "block"}
		case p.Carries > 0 && p.Rating > p.Carries && p.Unsaved == "":
			r.find("fuse-short-only", finding.Check, p.Fuse,
				"Leave it where what hangs on those wires cannot take more than it does; else a thicker wire.",
				"Fuse %s of %.3g A saves every wire behind it in a short, and %s may carry %.3g A for long: against a load "+
					"that is too great it does not protect that one.", p.Fuse, p.Rating, p.Thin,
				p.Carries).Place = finding.Place{Part: "fuses"}
		case p.Carries > 0 && p.Rating > p.Carries:
			r.find("fuse-above-wire", finding.Wrong, p.Fuse,
				remedy+" An oversized fuse burns the wire before it opens.",
				"Fuse %s of %.3g A stands before %s, which may carry %.3g A.", p.Fuse, p.Rating, p.Thin,
				p.Carries).Place = finding.Place{Part: "fuses"}
		}
		switch {
		case p.Rating == 0:
		case p.Load > p.Rating:
			r.find("fuse-opens", finding.Wrong, p.Fuse, "Split the circuit, or a larger fuse where the wire bears it.",
				"Fuse %s of %.3g A carries %.3g A in %s: it opens.", p.Fuse, p.Rating, p.Load,
				p.In).Place = finding.Place{Part: "fuses"}
		case p.Load > Part*p.Rating+1e-9:
			r.find("fuse-loaded", finding.Check, p.Fuse, remedy,
				"Fuse %s of %.3g A carries %.3g A in %s, more than four fifths of its rating.",
				p.Fuse, p.Rating, p.Load, p.In).Place = finding.Place{Part: "fuses"}
		}
	}
	var long []string
	for _, b := range r.Unprotected {
		if !b.Starter {
			long = append(long, fmt.Sprintf("%s (%.0f mm)", b.Wire, b.Mm))
		}
	}
	if len(long) > 0 {
		r.find("unprotected", finding.Wrong, strings.SplitN(long[0], " (", 2)[0],
			"A fuse as near to the source as it can be: within 180 mm where ABYC E-11 is the rule (from memory); the "+
				"starter's cable is exempt.",
			"Without a fuse between the source and their far ends: %s.", few(long)).Place = finding.Place{Part: "fuses"}
	}
}

func (r *Result) checkWires() {
	r.checkContacts()
	r.checkOutputs()
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		w, known := r.in.Wires[metal(e)]
		if !known || w.Carries == 0 || r.worst[i] <= w.Carries {
			continue
		}
		r.find("wire-overloaded", finding.Wrong, e.Name,
			"A thicker wire, or let it trigger a relay that carries the load.",
			"%s of %s carries %.3g A and may carry %.3g A.", e.Name, w.Square, r.worst[i], w.Carries)
	}
}

func (r *Result) checkRelays() {
	states := append(slices.Clone(r.States), r.full, r.cranked) // what only a switch closes pulls there
	reached := append(slices.Clone(r.reached), r.fedBy(r.full), r.fedBy(r.cranked))
	for k, relay := range r.Drawn.Relays {
		if _, unit := r.Drawn.Units[r.Drawn.Device[relay.Coil]]; unit { // it stands for the unit's being awake
			continue
		}
		pulls, fed, back, both, buzzes := false, false, false, false, false
		coil := &r.Drawn.Elements[relay.Coil]
		heads := r.Drawn.Heads()
		for at, s := range states {
			pulls = pulls || s.Pulled[k]
			buzzes = buzzes || slices.Contains(s.Buzzes, relay.Name)
			if now := !s.Floating[coil.A] && max(s.Volts[coil.A], s.Volts[coil.B]) > 6; now {
				fed = true
				back = back || min(s.Volts[coil.A], s.Volts[coil.B]) < 3
				both = both || reached[at][heads[coil.A]] && reached[at][heads[coil.B]]
			}
		}
		switch {
		case buzzes:
		case !pulls && both:
			r.find("coil-both-ends-fed", finding.Wrong, relay.Name,
				"Lead one end of its coil to ground, or to the output that commands it.",
				"Both ends of the coil of %s are fed by one potential: it never pulls.", relay.Name)
		case !pulls && fed && !back:
			r.find("coil-no-ground", finding.Wrong, relay.Name,
				"Lead the other end of its coil to ground, or to the output that commands it.",
				"The coil of %s is fed, and its other end comes to no ground in any position: it never pulls.", relay.Name)
		case !pulls && !fed:
			r.find("coil-not-fed", finding.Wrong, relay.Name, "Feed its coil where the relay is to pull.",
				"The coil of %s is fed in no position of the key: it never pulls.", relay.Name)
		case !pulls:
			r.find("relay-never-pulls", finding.Check, relay.Name,
				"Look which output commands it, and in which position its coil is fed.",
				"%s pulls in no position.", relay.Name)
		}
		if off := r.state("off"); off.Pulled[k] {
			r.find("relay-held-off", finding.Check, relay.Name,
				"Feed its coil from a contact that is open with the key off.",
				"%s has pulled with the key off: its coil is fed in a position in which it should not be.",
				relay.Name).Place = finding.Place{Key: "off"}
		}
		if rating := r.Facts.Contacts[relay.Name]; rating > 0 {
			for i := range r.Drawn.Elements {
				if g := r.Drawn.Elements[i].Gate; g.Relay == int32(k)+1 && r.worst[i] > rating {
					r.find("contact-overloaded", finding.Wrong, relay.Name,
						"A relay with a stronger contact, or share the load between two.",
						"The contact of %s carries %.3g A and is made for %.3g A.", relay.Name, r.worst[i], rating)
				}
			}
		}
	}
	for k, s := range r.States {
		if len(s.Buzzes) > 0 {
			r.find("relay-buzzes", finding.Wrong, s.Buzzes[0],
				"Its own contact takes its coil's feed away: feed the coil from before the contact.",
				"In %s no rest is found: %s buzz.", Positions()[k].Name, strings.Join(s.Buzzes, ", "))
		}
		if len(s.Race) > 0 {
			r.find("relay-race", finding.Check, s.Race[0], "Interlock them, so that one must come first.",
				"In %s it depends on which relay is quicker how they end: %s.", Positions()[k].Name, strings.Join(s.Race, ", "))
		}
	}
}

func (r *Result) checkUnits() {
	var units []string
	for u := range r.Drawn.Units {
		units = append(units, u)
	}
	slices.SortFunc(units, finding.Natural)
	for _, u := range units {
		k := r.Drawn.Units[u] - 1
		run, crank := r.state("run").Pulled[k], r.state("crank").Pulled[k]
		switch {
		case run && !crank:
			r.find("feed-drops-in-crank", finding.Danger, u,
				"Take its ignition feed from a contact that is closed in run and in crank.",
				"%s has its feed in run and loses it in crank: the engine never starts.", u).Place = finding.Place{Key: "crank"}
		case !run:
			coil := &r.Drawn.Elements[r.Drawn.Relays[k].Coil]
			s := r.state("run")
			what := "its ignition feed is dead"
			if !s.Floating[coil.A] && s.Volts[coil.A] > 6 {
				what = "its ground comes to nothing"
			}
			r.find("unit-not-fed", finding.Wrong, u,
				"Follow the feed from the battery in the tree; every length that is dotted is dead.",
				"%s is not awake in run: %s.", u, what)
		}
	}
}

func (r *Result) checkLoads() {
	s := r.full
	for _, i := range r.Drawn.Loads {
		r.Takes += math.Abs(s.Amps(i))
	}
	for _, x := range r.Facts.Sources {
		if x.Alternator && x.Idle > 0 && r.Takes > x.Idle {
			r.find("alternator-idle", finding.Check, x.Name,
				"Let something wait at idle, or a stronger alternator; the battery gives the rest.",
				"Everything on takes %.0f A, and %s gives %.0f A at idle.", r.Takes, x.Name, x.Idle)
		}
	}
}

// checkStarter finds a starter that is fed while the key does not crank.
func (r *Result) checkStarter() {
	for _, d := range r.Devices() {
		if !r.Drawn.Starters[d] {
			continue
		}
		for k, s := range r.States {
			if p := Positions()[k]; p.Key != network.Crank && r.volts(s, d) > 2 {
				r.find("starter-fed", finding.Danger, d,
					"Find in the tree by which way it is fed: a by-pass of a resistance wire needs a contact of its own, or a diode.",
					"%s has %.1f V in %s: it may crank, or hold, without the key. Battery off before anything is touched.", d,
					r.volts(s, d), p.Name)
				break
			}
		}
	}
}
