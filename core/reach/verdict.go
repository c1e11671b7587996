package reach

import (
	"fmt"
	"math"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// verdicts sets what each wire has beside what it needs.
func (r *Result) verdicts(s *settled) {
	for i := range r.in.Wires {
		w, l := &r.in.Wires[i], &r.Lines[i]
		if !l.ok {
			if w.New { // nobody knows its way: as thick as its current asks in usual air, whatever it loses
				l.Size = r.thick(r.begin(w, l, s.wish[w.ID]), max(l.Amps, l.Fuse))
			}
			continue
		}
		if l.Class = classOf(l.Air); l.Class.Limit() < r.in.Decisions.Rules.Class.Limit() {
			l.Class = r.in.Decisions.Rules.Class // no new piece is worse than what is there
		}
		r.sized(w, l, s.wish[w.ID])
		r.judge(s, w, l)
		if l.Verdict == Extend || l.Verdict == Replace || l.Verdict == Fresh {
			l.Code = r.code(w)
		}
	}
}

// usualAir is the air in °C that a wire is reckoned in of which nobody knows the way (common practice).
const usualAir = 60

// thick gives the section that a new wire which begins with one wants for its current alone, where nobody knows its
// way.
func (r *Result) thick(begun size.Section, amps float64) size.Section {
	if begun == 0 || amps == 0 {
		return begun
	}
	class := r.in.Decisions.Rules.Class
	need, err := begun.Upgrade(amps, class, min(usualAir, class.Limit()-1), 1, 0, 0)
	if err != nil {
		return begun
	}
	return need
}

func (r *Result) judge(s *settled, w *Run, l *Line) {
	rules, x := &r.in.Decisions.Rules, s.wish[w.ID]
	over := l.Had - l.Need
	l.NoSlack = l.Had > 0 && over < 0 && l.Had >= l.bare
	tooShort := over < 0 && (!l.NoSlack || x != nil && x.Slack)
	l.At = r.cutAt(s, w, x)
	tooHot := l.Air > rules.Class.Limit() && l.Had > 0 && !w.New
	replace := x != nil && x.Whole || tooHot || l.Size > w.Size && w.Size > 0
	switch {
	case w.New:
		l.Verdict, l.By = Fresh, math.Ceil(l.Need)
		l.Why = append(l.Why, reason("new", "", "There is no such wire yet: it is cut to %.0f mm.", l.By))
	case w.Alone || w.Signal.Role == signal.HighVoltage || w.Signal.Role == signal.Restraint:
		l.Verdict = Reaches
		if l.Had > 0 && over < 0 {
			l.Verdict = Measure
		}
		l.Why = append(l.Why, reason("leave", "", "It belongs to or feeds restraint or high voltage: "+
			"its length is left to qualified hands, and nothing is cut here."))
	case (w.Whole[0] || w.Whole[1]) && r.tapped(s, w, l, tooShort, replace):
	case x != nil && x.Whole:
		l.Verdict, l.By = Replace, math.Ceil(l.Need)
		l.Why = append(l.Why, reason("whole", "", "It was decided to replace it whole%s.", because(x.Reason)))
	case l.Had == 0:
		l.Verdict = Measure
		l.Why = append(l.Why, reason("unknown", "", "Nobody knows how long it is: measure it, and the verdict follows."))
	case tooHot && tooShort:
		l.Verdict, l.By = Replace, math.Ceil(l.Need)
		l.Why = append(l.Why, reason("class", "ISO 6722-1 (from memory)",
			"It is too short, and its class %s stands %.0f °C where its way has %.0f °C: a new wire of class %s.", rules.Class,
			rules.Class.Limit(), l.Air, l.Class))
	case l.Size > w.Size && w.Size > 0 && tooShort:
		l.Verdict, l.By = Replace, math.Ceil(l.Need)
		l.Why = append(l.Why, reason("size", "", "It is too short and too thin for its new length: a new wire of %s.",
			l.Size))
	case tooShort && rules.Mostly > 0 && -over > rules.Mostly*l.Had && (x == nil || x.At == 0):
		l.Verdict, l.By = Replace, math.Ceil(l.Need)
		l.Why = append(l.Why, reason("mostly-new", "",
			"It has %.0f mm and needs %.0f mm: a piece more than %g times as long as the wire. A new wire has no joint.",
			l.Had, l.Need, rules.Mostly))
	case tooShort && w.Made:
		l.Verdict = Reaches
		l.Why = append(l.Why, reason("joined", "", "It has %.0f mm and needs %.0f mm, and it is joined already.", l.Had,
			l.Need))
	case tooShort:
		r.extend(s, w, l, -over)
	case l.NoSlack:
		l.Verdict = Reaches
		l.Why = append(l.Why, reason("no-slack", "", "It has %.0f mm: it reaches, and %.0f mm of the %.0f mm are missing "+
			"that leave room for one later re-termination. A joint is made for that only where you want it.", l.Had, -over,
			l.Need-l.bare))
	case over > rules.Excess:
		l.Verdict, l.By = Trim, math.Floor(over)
		l.Why = append(l.Why, reason("long", "",
			"It has %.0f mm more than it needs. Long beats short: trim it only where its end is re-terminated anyway, else "+
				"lay the rest back along the bundle.", over))
	default:
		l.Verdict = Reaches
		l.Why = append(l.Why, reason("reaches", "", "It has %.0f mm and needs %.0f mm.", l.Had, l.Need))
	}
}

// tapped judges a wire onto which others are joined at one of its ends or both: there it stays whole, so that it is
// lengthened at its other end, and never replaced. It is false where that makes no difference.
func (r *Result) tapped(s *settled, w *Run, l *Line, tooShort, replace bool) bool {
	tooShort = tooShort && l.Had > 0 && !w.Made
	switch {
	case tooShort && w.Whole[0] && w.Whole[1]:
		l.Verdict = Reaches
		l.Why = append(l.Why, reason("cannot-reach", "", "It has %.0f mm and needs %.0f mm, and others are joined onto "+
			"it at both ends: it can be lengthened nowhere.", l.Had, l.Need))
		r.say("cannot-reach", finding.Wrong, string(w.ID), "Choose another way for one of those that are joined onto it "+
			"in Match: "+
			"take it over, and it can be lengthened there.", "%s is %.0f mm too short, and others are joined onto it at "+
			"both ends.", w.ID, l.Need-l.Had)
	case tooShort:
		l.At = 1
		if w.Whole[0] {
			l.At = 2
		}
		r.extend(s, w, l, l.Need-l.Had)
	case s.wish[w.ID] != nil && s.wish[w.ID].Whole && l.Had > 0:
		l.Verdict = Reaches
	default:
		return false
	}
	if replace {
		l.Why = append(l.Why, reason("tapped", "", "A new wire would be the better one, but others are joined onto it, "+
			"and it stays whole there. Take it over in Match, and it can be replaced."))
	}
	return true
}

// extend lengthens a wire. Every joint takes its lap, so that the piece is longer than what is missing.
func (r *Result) extend(s *settled, w *Run, l *Line, missing float64) {
	rules := &r.in.Decisions.Rules
	l.Joints = 2
	x := s.wish[w.ID]
	if w.Joint[l.At-1] || (w.Renewed[l.At-1] || x != nil && x.Renew) && s.alone(w, l.At-1) {
		l.Joints = 1
	}
	l.Verdict = Extend
	least := rules.Least
	if l.Joints == 2 {
		least = max(least, rules.Apart+2*rules.Lap) // its own two joints keep their distance too
	}
	l.By = math.Ceil(max(missing+2*rules.Lap*float64(l.Joints), least))
	l.Why = append(l.Why, reason("extend", "",
		"It has %.0f mm and needs %.0f mm: %.0f mm are missing, and each of %s takes %.0f mm of both ends: a piece of "+
			"%.0f mm.", l.Had, l.Need, missing, plural(l.Joints, "joint"), rules.Lap, l.By))
	if l.Joints == 1 {
		l.Why = append(l.Why, reason("one-joint", "",
			"End %d gets a new terminal anyway: the piece begins at one joint and ends in it.", l.At))
	} else {
		l.Why = append(l.Why, reason("two-joints", "", "End %d keeps its terminal: the piece is let in between two joints.",
			l.At))
	}
	if w.Shield != "" || w.Pair != "" {
		l.Why = append(l.Why, reason("in-kind", "", "It is %s: extend all of it together with the same kind, %s.",
			kindOfLead(w), inKind(w)))
	}
}

func kindOfLead(w *Run) string {
	switch {
	case w.Shield != "" && w.Pair != "":
		return "a twisted pair under a shield"
	case w.Shield != "":
		return "under a shield"
	}
	return "one of a twisted pair"
}

func inKind(w *Run) string {
	if w.Shield != "" {
		return "the shield carried over the joints and still grounded at one end only"
	}
	return "twisted up to the joints"
}

// cutAt gives the end, 1 or 2, at which a wire is lengthened: where it has been cut already, else as a person said,
// else the end that is renewed anyway, else the one at a unit or a fuse box, which is seldom the one by the sensor;
// never an end at a splice where the other is not.
func (r *Result) cutAt(s *settled, w *Run, x *Wish) int {
	if w.CutAt > 0 {
		return w.CutAt
	}
	if x != nil && (x.At == 1 || x.At == 2) {
		return x.At
	}
	score := func(end int) int {
		n := 0
		if w.Ends[end].Splice != "" {
			n -= 4
		}
		if w.Renewed[end] {
			n += 3
		}
		if w.Joint[end] {
			n += 16
		}
		if w.Whole[end] {
			n -= 16
		}
		switch d := s.deviceAt(w, end); {
		case d == nil:
		case d.Kind.Hub():
			n++
		case breathes(w, d):
			n -= 8
		}
		return n
	}
	if score(1) > score(0) {
		return 2
	}
	return 1
}

// breathes says whether the sensor draws its reference air through its own lead.
func breathes(w *Run, d *harness.Device) bool {
	return w.Signal.Device == "o2" || strings.Contains(strings.ToLower(d.ID), "oxygen") ||
		strings.Contains(strings.ToLower(d.ID), "lambda")
}

// slackOfCut is by how much a piece may be off, mm, before somebody has to look at it again.
const slackOfCut = 25

// sinceCut looks at the wires that have been cut, once it is known how long their pieces should be, and says which were
// cut for another place.
func (r *Result) sinceCut() {
	for i := range r.in.Wires {
		w, l := &r.in.Wires[i], &r.Lines[i]
		if w.Cut == 0 || !l.ok {
			continue
		}
		text := fmt.Sprintf("%s was lengthened by %.0f mm for another place, and it would reach without.", w.ID, w.Cut)
		if l.Verdict == Extend || l.Verdict == Replace || l.Verdict == Fresh {
			if off := w.Cut - l.By; off >= -slackOfCut && off <= r.in.Decisions.Rules.Excess {
				continue
			}
			text = fmt.Sprintf("%s was cut for another place: a piece of %.0f mm was let in, and %.0f mm are wanted now.",
				w.ID, w.Cut, l.By)
		}
		l.Stale = true
		r.say("cut-for-old-place", finding.Wrong, string(w.ID),
			"Look at the wire: lay the rest back, or take the tick back and let in another piece.", "%s", text)
	}
}

// code is what is printed at both ends of a piece and at its joints: the wire's own name with its circuit.
func (r *Result) code(w *Run) string {
	if w.Circuit != "" && w.Circuit != w.ID.Name() {
		return w.Circuit + "/" + w.ID.Name()
	}
	return w.ID.Name()
}

func because(why string) string {
	if why == "" {
		return ""
	}
	return ": " + why
}

func plural(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}
