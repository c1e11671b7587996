package work

import (
	"regexp"
	"slices"
	"strings"

	"draxel/core/harness"
)

// A step is told when it is known where it stands in the order: the terminal that was found in a cavity may have been
// moved by then, and another may stand there. Spot and Moved put a place into a text that Settle fills in. They are
// marks of the private use area, which no keyboard writes.
const (
	spot  = "\uE000"
	moved = "\uE001"
	part  = "\uE002"
	end   = "\uE003"
)

var marks = regexp.MustCompile("([\uE000\uE001])([^\uE002]*)\uE002([^\uE003]*)\uE003")

// Spot stands in a text for the cavity in which the terminal that was found in one is when the step is done.
func Spot(found harness.Ref) string { return spot + found.Connector + part + found.Cavity + end }

// Moved stands in a text for ", now in A3" where the terminal that was found in a cavity has left it when the step is
// done, and for nothing where it has not.
func Moved(found harness.Ref) string { return moved + found.Connector + part + found.Cavity + end }

// Settle fills in where terminals are when each step is done: the steps are in their order, and those that are done
// are passed over. The cavities that a step is at follow.
func Settle(now harness.Harness, steps []Step, done func(id string) bool) {
	stands := map[harness.TerminalID]harness.Ref{} // of those that were moved; no cavity where one is out
	at := func(found harness.Ref) harness.Ref {
		t := harness.TerminalAt(found)
		if is, known := stands[t]; known {
			return is
		}
		switch place, there := now.Place(t); {
		case !there:
			return found
		case place.State == harness.Seated:
			return place.At
		}
		return harness.Ref{}
	}
	for i := range steps {
		s := &steps[i]
		if strings.ContainsAny(s.Text, spot+moved) {
			s.settle(at)
		}
		if done(s.ID) {
			continue
		}
		for k := range s.Edits {
			switch e := &s.Edits[k]; e.Do {
			case harness.Remove:
				stands[e.Terminal] = harness.Ref{}
			case harness.Insert:
				stands[e.Terminal] = e.At
			}
		}
	}
}

// settle fills in a step's text as the harness is before it.
func (s *Step) settle(stands func(found harness.Ref) harness.Ref) {
	at := slices.Clone(s.At)
	s.Text = marks.ReplaceAllStringFunc(s.Text, func(mark string) string {
		m := marks.FindStringSubmatch(mark)
		found := harness.Ref{Connector: m[2], Cavity: m[3]}
		is := stands(found)
		out := is == harness.Ref{}
		for i := range at {
			if s.At[i] == found && !out {
				at[i] = is
			}
		}
		switch {
		case m[1] == spot && out:
			return found.String() + " (where it was)"
		case m[1] == spot:
			return is.String()
		case out:
			return ", now out of " + found.String()
		case is != found:
			return ", now in " + is.String()
		}
		return ""
	})
	s.At = at
}
