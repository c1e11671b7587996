package reach

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// unlikely is the chance of falling short from which a wire that reaches is worth a look.
const unlikely = 0.05

// unsized says which new wires nobody knows a size for: they are not cut before somebody has said one.
func (r *Result) unsized() {
	for i := range r.Lines {
		if r.Lines[i].Unsized {
			r.say("size-unknown", finding.Wrong, string(r.Lines[i].Wire),
				"State its size or its amps, or what it feeds in the lists "+
					"of Feed.", "Nobody knows how thick %s is to be, nor what it carries.", r.name(i))
		}
	}
}

// apart says which wires do not come as far as the joint at which they are wanted, with all that is done to them.
func (r *Result) apart() {
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		joined := w.Meets[0].With != "" || w.Meets[1].With != ""
		if !joined || !l.ok || l.Had == 0 || l.Verdict == Extend || l.Verdict == Replace || w.New || l.Had >= l.bare-1 {
			continue
		}
		r.say("joint-short", finding.Wrong, string(w.ID), "Choose another place or another way for the joint in Match, or "+
			"a new wire for this one.", "%s is to be joined to %s and comes %.0f mm short of that joint: "+
			"it has %.0f mm and needs %.0f mm.",
			r.name(i), cmp.Or(w.Meets[0].With, w.Meets[1].With), l.bare-l.Had, l.Had, l.bare)
	}
}

// find says what is wrong or doubtful in what was computed.
func (r *Result) find(s *settled) {
	r.unsized()
	if len(r.router.Stations) == 0 {
		return // nothing has been laid out so far
	}
	r.findWires(s)
	r.apart()
	if n := len(r.Unplaced); n > 0 {
		slices.SortFunc(r.Unplaced, func(a, b route.Thing) int { return finding.Natural(a.String(), b.String()) })
		r.say("unplaced", finding.Check, r.Unplaced[0].ID,
			"Put them at a station; what breaks out with a branch can be put there with it.",
			"%d things that wires end at have no station: %s.", n,
			first(namesOf(r.Unplaced), 6)).Place = finding.Place{Part: "places"}
	}
	if n := len(r.Kept); n > 0 {
		var paths []string
		mm := 0.0
		for _, k := range r.Kept {
			paths, mm = append(paths, k.Path), mm+k.Length
		}
		r.say("keep-apart", finding.Check, paths[0],
			"Give one of them another way, or lay them in bundles of their own a hand's breadth apart, crossing at "+
				"right angles.",
			"Starter, alternator, coil or motor cables lie beside crank, cam, knock or bus wires over %.0f mm: %s.", mm,
			first(paths, 4)).Place = finding.Place{Part: "bundles"}
	}
	if n := r.Figures.Troubled; n > 0 {
		at := map[string]int{}
		for _, j := range r.Joints {
			if j.Trouble != "" {
				at[cmp.Or(j.Path, "in the tail of "+j.From)]++
			}
		}
		var places []string
		for _, p := range slices.Sorted(maps.Keys(at)) {
			places = append(places, fmt.Sprintf("%s %d", p, at[p]))
		}
		remedy := "Cut some of them farther back, use the other end, or replace a wire whole: the joints say which they are."
		if len(r.relief) > 0 {
			remedy = fmt.Sprintf("Replaced whole, %s would leave room for the rest; or cut some farther back.",
				strings.Join(r.relief, ", "))
		}
		r.say("joints-crowd", finding.Check, "joints", remedy,
			"%d of %d joints could not be kept clear of others, of grommets and of what flexes: %s.", n, r.Figures.Joints,
			first(places, 4)).Place = finding.Place{Part: "joints"}
	}
	for _, w := range r.Walls {
		if w.Edge {
			r.say("raw-edge", finding.Check, w.Path, "Fit a grommet before the first wire goes through.",
				"%s goes through a wall with a raw edge.", w.Path).Place = finding.Place{Part: "bundles"}
		}
	}
	var between []string
	ties := 0
	for _, d := range r.Disconnects {
		taken := slices.ContainsFunc(r.in.Decisions.Partings, func(p Parting) bool { return p.Between == d.Between })
		if n := len(d.Ties); n > 0 && !taken {
			ties += n
			between = append(between, fmt.Sprintf("%s to %s %d", d.Between[0], d.Between[1], n))
		}
	}
	if ties > 0 {
		r.say("tied", finding.Check, "disconnects", "Take the disconnect that is offered for them, or accept that "+
			"terminals are extracted at every removal.",
			"%s would tie parts of the vehicle together, since none ends in an in-line plug: %s.", plural(ties, "wire"),
			first(between, 6)).Place = finding.Place{Part: "bundles"}
	}
}

func namesOf(things []route.Thing) []string {
	out := make([]string, len(things))
	for i, t := range things {
		out[i] = t.String()
	}
	return out
}

// first lists the first few of many.
func first(all []string, n int) string {
	if len(all) <= n {
		return strings.Join(all, ", ")
	}
	return fmt.Sprintf("%s and %d more", strings.Join(all[:n], ", "), len(all)-n)
}

func (r *Result) say(code string, severity finding.Severity, subject, remedy, format string,
	args ...any) *finding.Finding {
	r.Findings = append(r.Findings, finding.Finding{Code: code, Severity: severity, Stage: "reach", Subject: subject,
		Text: fmt.Sprintf(format, args...), Remedy: remedy})
	return &r.Findings[len(r.Findings)-1]
}

func (r *Result) findWires(s *settled) {
	longest := r.router.Total()
	type tie struct {
		over, or string
		wires    []harness.WireID
	}
	ties := map[string]*tie{}
	waits := map[string][]harness.WireID{}
	var equal []string
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		rules := &r.in.Decisions.Rules
		if w.Length < 0 || w.Length > route.LongestWire {
			r.say("bad-length", finding.Wrong, string(w.ID), "Put the length right in the list of wires.",
				"%s is said to be %.1f m long.", w.ID, w.Length/1000)
		}
		if m := s.measure[w.ID]; m != nil && l.elsewhere {
			r.say("measured-for-old-place", finding.Check, string(w.ID), "Measure it again along its new way.",
				"%s was measured from %s to %s, and it runs from %s to %s now.", w.ID, m.From, m.To, l.Stations[0],
				l.Stations[len(l.Stations)-1])
		}
		switch {
		case l.Verdict == NoWay:
			r.say("no-way", finding.Wrong, string(w.ID), "Measure a path between them, or allow one that it must not take.",
				"No permitted path leads from %s to %s for %s.", l.Stations[0], l.Stations[1], w.ID)
			continue
		case !l.ok:
			continue
		}
		if l.route.Equal != "" {
			key := fmt.Sprint(l.Paths, l.route.Equal)
			if ties[key] == nil {
				equal = append(equal, key)
				ties[key] = &tie{over: strings.Join(l.Paths, ", "), or: l.route.Equal}
			}
			ties[key].wires = append(ties[key].wires, w.ID)
		}
		for _, part := range l.Waits {
			waits[part] = append(waits[part], w.ID)
		}
		if l.Had > longest+2*(rules.Drop+rules.End)+rules.Roll && len(l.Paths) > 0 {
			r.say("longer-than-any-way", finding.Check, string(w.ID), "Check the figure: a slip in units or a zero too many.",
				"%s is said to have %.1f m, more than all paths together (%.1f m).", w.ID, l.Had/1000, longest/1000)
		}
		if l.Verdict == Reaches && l.Short > unlikely {
			r.say("may-fall-short", finding.Check, string(w.ID), "Measure it along its way before anything is cut.",
				"%s reaches on paper, but falls short once in %.0f: %.0f mm to spare, ± %.0f mm.", w.ID, 1/l.Short, l.Had-l.bare,
				l.Spread)
		}
		if l.Air > rules.Class.Limit() && !w.New && l.Verdict != Replace {
			r.say("too-hot", finding.Wrong, string(w.ID), "Let it avoid that path, or replace it with a wire of class "+
				string(l.Class)+".", "%s of class %s stands %.0f °C, and its way has %.0f °C.", w.ID, rules.Class,
				rules.Class.Limit(), l.Air)
		}
		if l.Size > w.Size && w.Size > 0 && l.Verdict != Replace &&
			!w.New { // new wire is cut in the size that it should have
			severity, why := finding.Check, "it loses too much over its new length"
			if w.Size.Ampacity(rules.Class, min(l.Air, rules.Class.Limit()-1), r.Bundled(w.ID)) < l.Amps && !l.summed {
				severity, why = finding.Danger, "it carries less than hangs on it, and would get too hot"
			}
			r.say("too-thin", severity, string(w.ID), fmt.Sprintf("Replace it by %s, or state what it really carries.", l.Size),
				"%s of %s is too thin for %.3g A over %.0f mm: %s.", w.ID, w.Size, l.Amps, l.Need, why)
		}
	}
	for _, key := range equal {
		t := ties[key]
		r.say("two-ways", finding.Note, string(t.wires[0]), "Forbid one of them to a wire if it should take the other.",
			"Two ways are equally long, over %s and over %s: the first is taken for %s.", t.over, t.or,
			first(harness.Names(t.wires), 6))
	}
	for part, wires := range waits {
		r.say("provisional", finding.Check, part, "Measure again when it is fitted; until then these are not cut.",
			"%d lengths are provisional until the %s is fitted: %s.", len(wires), part,
			first(harness.Names(wires), 6)).Place = finding.Place{Part: "map"}
	}
}
