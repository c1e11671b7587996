package reach

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// lengths gives each wire its way and the length that it needs along it.
func (r *Result) lengths(s *settled) {
	avoid := r.avoided(s)
	for i := range r.in.Wires {
		w, l := &r.in.Wires[i], &r.Lines[i]
		l.Wire, l.wire = w.ID, i
		a, missingA, nowhereA := s.end(w, 0, r.router.Number)
		b, missingB, nowhereB := s.end(w, 1, r.router.Number)
		switch {
		case nowhereA || nowhereB:
			l.Verdict = Loose
			continue
		case missingA != nil || missingB != nil:
			for _, t := range []*route.Thing{missingA, missingB} {
				if t != nil {
					r.missing(*t)
				}
			}
			l.Verdict = Adrift
			continue
		}
		if l.route, l.ok = r.router.Between(a, b, avoid[w.ID]); !l.ok {
			l.Verdict = NoWay
			l.Stations = []string{r.router.Stations[a].ID, r.router.Stations[b].ID}
			continue
		}
		r.measureWay(s, w, l)
	}
	for i := range r.Lines {
		if l := &r.Lines[i]; l.ok {
			r.toJoints(&r.in.Wires[i], l)
		}
	}
}

// toJoints adds what an end needs to the point of the other wire at which it is joined, and takes off what is cut
// off it with its plug. A joint lies on the other wire, so far behind the cavity at which both come together: where
// both come the same way that is on our way; where they part before, our wire follows the other one back from there.
func (r *Result) toJoints(w *Run, l *Line) {
	for end, m := range w.Meets {
		if m.With == "" || m.Back == 0 {
			continue
		}
		if more := m.Back - 2*r.together(w, l, end, m); more > 0 {
			l.Terms = append(l.Terms, Term{fmt.Sprintf("back along %s to the joint, %.0f mm from %s", m.With, m.Back,
				cmp.Or(w.Lands[end], w.Ends[end].At)), more})
			l.bare += more
			l.Need += more
		}
	}
	if lost := w.Lost[0] + w.Lost[1]; lost > 0 && l.Had > 0 {
		l.Had = max(1, l.Had-lost)
		l.HadBy += fmt.Sprintf(", less %.0f mm that stay on its plug", lost)
	}
	if l.Had > 0 {
		l.Short = short(l.Had-l.bare, l.Spread/2)
	}
}

// together gives the mm, up to those of the joint, over which a wire comes to where it lands by the same way as the
// wire that it is joined to; of a wire whose way is not known nothing is taken for granted.
func (r *Result) together(w *Run, l *Line, end int, m Meet) float64 {
	k, known := r.wires[m.With]
	if !known || !r.Lines[k].ok {
		return 0
	}
	other := &r.Lines[k]
	mine, theirs := slices.Clone(l.route.Paths), slices.Clone(other.route.Paths)
	last := l.route.Stations[0]
	if end == 1 {
		slices.Reverse(mine)
		last = l.route.Stations[len(l.route.Stations)-1]
	}
	stations := other.route.Stations
	switch last {
	case stations[0]:
	case stations[len(stations)-1]:
		slices.Reverse(theirs)
	default:
		return 0
	}
	same := dropAt(&r.router.Stations[last], &r.in.Decisions.Rules) // the tail from the bundle to the plug
	for i := range min(len(mine), len(theirs)) {
		if mine[i] != theirs[i] {
			break
		}
		same += r.router.Paths[mine[i]].Length
	}
	return min(same, m.Back)
}

// avoided gives the paths that each wire must not take. Wires of a pair and of a shield stay together: what one of them
// avoids they all do.
func (r *Result) avoided(s *settled) map[harness.WireID][]string {
	out := map[harness.WireID][]string{}
	group := map[string][]string{}
	for i := range r.in.Wires {
		w := &r.in.Wires[i]
		x := s.wish[w.ID]
		if x == nil || len(x.Avoid) == 0 {
			continue
		}
		out[w.ID] = append(out[w.ID], x.Avoid...)
		for _, g := range groupsOf(w) {
			group[g] = append(group[g], x.Avoid...)
		}
	}
	for i := range r.in.Wires {
		w := &r.in.Wires[i]
		for _, g := range groupsOf(w) {
			out[w.ID] = append(out[w.ID], group[g]...)
		}
		slices.Sort(out[w.ID])
		out[w.ID] = slices.Compact(out[w.ID])
	}
	return out
}

// groupsOf names the pair and the shield of a wire.
func groupsOf(w *Run) []string {
	var out []string
	if w.Pair != "" {
		out = append(out, "pair "+w.Pair)
	}
	if w.Shield != "" {
		out = append(out, "shield "+w.Shield)
	}
	return out
}

// rolls says whether what is in a service group moves with the engine.
func rolls(group string) bool {
	return group == string(harness.Engine) || group == string(harness.Gearbox)
}

// measureWay adds up what the wire needs along its way.
func (r *Result) measureWay(s *settled, w *Run, l *Line) {
	rules := &r.in.Decisions.Rules
	at := 0.0
	l.Paths, l.Stations = make([]string, len(l.route.Paths)), make([]string, len(l.route.Stations))
	l.Terms, l.Marks = make([]Term, 0, len(l.Paths)+4), make([]Mark, len(l.route.Stations))
	for k, st := range l.route.Stations {
		l.Stations[k] = r.router.Stations[st].ID
		l.Marks[k] = Mark{l.Stations[k], at}
		if k == len(l.route.Paths) {
			break
		}
		p := &r.router.Paths[l.route.Paths[k]]
		l.Paths[k] = p.ID
		at += p.Length
		l.Air = max(l.Air, p.Air())
		l.Terms = append(l.Terms, Term{p.ID, p.Length})
		if p.Waits != "" && !slices.Contains(l.Waits, p.Waits) {
			l.Waits = append(l.Waits, p.Waits)
		}
	}
	l.Air = max(l.Air, route.PlainAir)
	l.bare = l.route.Length
	add := func(what string, mm float64) {
		if mm != 0 {
			l.Terms = append(l.Terms, Term{what, mm})
			l.bare += mm
		}
	}
	first, last := l.route.Stations[0], l.route.Stations[len(l.route.Stations)-1]
	variance, measured := l.route.Variance, false
	if m := s.measure[w.ID]; m != nil && m.Need > 0 {
		if m.From == r.router.Stations[first].ID && m.To == r.router.Stations[last].ID ||
			m.From == r.router.Stations[last].ID && m.To == r.router.Stations[first].ID {
			l.Terms, l.bare = []Term{{"measured along its way" + by(m.Who), m.Need}}, m.Need
			l.Waits, measured = nil, true
			variance = spreadOf(m) * spreadOf(m) / 4
		} else {
			l.Stale, l.elsewhere = true, true
		}
	}
	if !measured {
		for k, st := range []int{first, last} {
			if e := w.Ends[k]; e.Splice == "" {
				add("down to the plug at "+r.router.Stations[st].ID, dropAt(&r.router.Stations[st], rules))
			}
		}
		if rolls(r.router.Group(first)) != rolls(r.router.Group(last)) {
			add("slack for the engine to roll", rules.Roll)
		}
	}
	l.Need = l.bare
	for k := range 2 {
		if w.Ends[k].Splice == "" {
			l.Terms = append(l.Terms, Term{fmt.Sprintf("one re-termination at end %d", k+1), rules.End})
			l.Need += rules.End
		}
	}
	r.had(s, w, l, variance)
}

func dropAt(st *route.Station, rules *Rules) float64 {
	if st.Drop > 0 {
		return st.Drop
	}
	return rules.Drop
}

func by(who string) string {
	if who == "" {
		return ""
	}
	return " by " + who
}

func spreadOf(m *Measured) float64 {
	if m.Spread > 0 {
		return m.Spread
	}
	return 10
}

// listed is the part of its length by which a length from a list may be off, 19 times of 20.
const listed = 0.03

// had gives the length that the wire has, and the chance that it falls short: of need and had as normally distributed,
// Φ(−(had − need) / σ). Falling short means that it cannot be plugged in at both ends, with the engine rolling; the
// re-termination is not counted.
func (r *Result) had(s *settled, w *Run, l *Line, variance float64) {
	if m := s.measure[w.ID]; m != nil && m.Had > 0 {
		l.Had, l.HadBy = m.Had, "measured"+by(m.Who)
		variance += spreadOf(m) * spreadOf(m) / 4
	} else if w.Length > 0 && w.Length <= route.LongestWire && !w.New {
		l.Had, l.HadBy = w.Length, "from the list"
		variance += math.Pow(listed*w.Length/2, 2)
	}
	l.Spread = 2 * math.Sqrt(variance)
	if l.Had > 0 {
		l.Short = short(l.Had-l.bare, math.Sqrt(variance))
	}
}

// short is the chance that a margin in mm with a standard deviation in mm turns out to be less than nothing.
func short(margin, sigma float64) float64 {
	if sigma == 0 {
		if margin < 0 {
			return 1
		}
		return 0
	}
	p := math.Erfc(margin/(sigma*math.Sqrt2)) / 2
	return math.Round(p*1e6) / 1e6
}

// enough is how many leftovers must be logged before they say anything.
const enough = 5

// learn reckons by how much the allowance can be changed so that one wire of twenty would fall short: the mean of the
// leftovers less 1.645 of their standard deviations, the lower twentieth of a normal distribution, shared by both ends.
func learn(log []Leftover, rules Rules) Learned {
	l := Learned{Count: len(log)}
	if l.Count == 0 {
		return l
	}
	for _, x := range log {
		l.Mean += x.Left / float64(l.Count)
	}
	for _, x := range log {
		l.Spread += (x.Left - l.Mean) * (x.Left - l.Mean)
	}
	if l.Count > 1 {
		l.Spread = math.Sqrt(l.Spread / float64(l.Count-1))
	}
	l.Ready = l.Count >= enough
	if l.Ready {
		l.Less = min((l.Mean-1.645*l.Spread)/2, rules.End)
		l.Less = math.Round(l.Less)
		l.Why = fmt.Sprintf("%d wires left %.0f ± %.0f mm over: (%.0f − 1.645 × %.0f) / 2 ends = %.0f mm less at each "+
			"end, and one of twenty would still fall short.", l.Count, l.Mean, l.Spread, l.Mean, l.Spread, l.Less)
	}
	return l
}

// reason gives a line of an explanation.
func reason(code, source, format string, args ...any) finding.Reason {
	return finding.Reason{Code: code, Text: fmt.Sprintf(format, args...), Source: source}
}
