package papers

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/route"
	"draxel/core/stored"
)

// Appendix gives the tables of the book that are about the harness as it lies: what was deleted and where its ends
// lie, what is spare, the routes, and where each wire is marked with tape.
func Appendix(p *plan.Plan, f *fact.Facts, d stored.Decisions) []handover.Section {
	return []handover.Section{deleted(p, f), spare(p, f), routes(p, d), marks(p)}
}

// deleted lists the wires that are not in the finished harness any more, with what lies where they ended.
func deleted(p *plan.Plan, f *fact.Facts) handover.Section {
	s := handover.Section{
		Title: "Deleted, and where its ends lie",
		Head: []string{
			"wire",
			"colour",
			"circuit",
			"function",
			"it ended at",
			"what is there",
			"it ended at",
			"what is there",
			"state",
			"why",
		},
		Share: []float64{8, 7, 6, 19, 9, 13, 9, 13, 7, 13}, Empty: "Nothing was deleted.",
	}
	left := lengthsOf(p.Wanted) // by wire as found: what of it is in the finished harness
	here := lengthsOf(p.Past.Now)
	stub := func(w harness.WireID, end int) bool {
		return slices.Contains(left[w], w.Stub(end))
	}
	stays := func(w harness.WireID) bool { return !w.CutOff() }
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if slices.ContainsFunc(left[w.ID], stays) {
			continue
		}
		row := []string{w.ID.Name(), w.Colour.String(), w.Circuit, w.Function}
		for end, e := range w.Ends {
			was, now := e.String(), "not followed"
			switch t, full := p.Wanted.In(e.At); {
			case stub(w.ID, end):
				now = "its stub, cut and sealed"
			case e.At == (harness.Ref{}) && e.Splice != "":
				now = "off at the splice"
			case e.At == (harness.Ref{}) && e.Taped:
				now = "taped off, as it was"
			case e.At == (harness.Ref{}):
			case p.Wanted.Free(e.At.Connector):
				now = "the plug hangs free"
			case full && t != harness.TerminalAt(e.At):
				now = "another wire"
			case full:
				now = "its terminal is still in"
			case p.Wanted.Plugged(e.At):
				now = "empty, plugged"
			default:
				now = "empty"
			}
			row = append(row, was, now)
		}
		state := "done"
		if slices.ContainsFunc(here[w.ID], stays) {
			state = "planned"
		}
		row = append(row, state)
		why := ""
		if r := p.Thin.Result; i < len(r.Wires) {
			if by := r.Wires[i].By; by != nil {
				why = strings.TrimSpace(by.Reason)
			}
			if why == "" && r.Wires[i].System != "" {
				why = "of " + r.Wires[i].System
			}
		}
		s.Rows = append(s.Rows, append(row, why))
	}
	return s
}

// lengthsOf gives the lengths of each wire as found.
func lengthsOf(h harness.Harness) map[harness.WireID][]harness.WireID {
	out := map[harness.WireID][]harness.WireID{}
	for _, name := range h.Wires() {
		whole := name.Whole()
		out[whole] = append(out[whole], name)
	}
	return out
}

// spare lists what is free for later: cavities of the plugs that are worked in, fuses that hold nothing.
func spare(p *plan.Plan, f *fact.Facts) handover.Section {
	s := handover.Section{Title: "Spare cavities and feeds", Head: []string{"at", "what", "state", "why"},
		Share: []float64{14, 34, 16, 36}, Empty: "Nothing is spare."}
	for i := range p.Pin.Spares {
		x := &p.Pin.Spares[i]
		state := "open"
		if x.Plugged {
			state = "plugged"
		}
		if _, full := p.Past.Now.In(x.At); full {
			state = "planned: a terminal is in it still"
		} else if x.Plugged && !p.Past.Now.Plugged(x.At) {
			state = "open, to be plugged"
		}
		what := "cavity"
		if x.Seat.Known() {
			what = "cavity, takes " + x.Seat.String()
		}
		s.Rows = append(s.Rows, []string{x.At.String(), what, state, x.Reason})
	}
	if f.Feed == nil || p.Feed.Result == nil {
		return s
	}
	for i := range p.Feed.Result.Fuses {
		x := &p.Feed.Result.Fuses[i]
		if x.Load == 0 && x.Rating == 0 {
			s.Rows = append(s.Rows, []string{x.Fuse, "fuse slot", "empty", "nothing hangs on it"})
		} else if x.Load == 0 {
			s.Rows = append(s.Rows, []string{x.Fuse, fmt.Sprintf("fuse of %g A", x.Rating), "fed, carries nothing",
				"nothing that hangs on it takes current, as far as is known"})
		}
	}
	return s
}

// routes lists the paths that have wires in them.
func routes(p *plan.Plan, d stored.Decisions) handover.Section {
	s := handover.Section{Title: "Routes", Head: []string{"path", "mm", "wires", "thick, mm", "cover", "mind"},
		Share: []float64{28, 7, 7, 9, 14, 35}, Empty: "Nobody has drawn the ways of the bundles."}
	r := p.Reach.Result
	if r == nil {
		return s
	}
	for i := range r.Bundles {
		b := &r.Bundles[i]
		k := slices.IndexFunc(d.Reach.Map.Paths, func(x route.Path) bool { return x.ID == b.Path })
		if k < 0 || len(b.Wires) == 0 {
			continue
		}
		x := &d.Reach.Map.Paths[k]
		var mind []string
		for _, m := range []struct {
			is   bool
			text string
		}{{x.Heat > 0, fmt.Sprintf("air to %.0f °C", x.Heat)}, {x.Edge, "a raw edge"}, {x.Moving, "something moves"},
			{x.Wet, "wet"}, {x.Wall, "through a wall, with a grommet"}, {x.Note != "", x.Note}} {
			if m.is {
				mind = append(mind, m.text)
			}
		}
		s.Rows = append(
			s.Rows,
			[]string{x.ID, fmt.Sprintf("%.0f", x.Length), fmt.Sprint(len(b.Wires)), fmt.Sprintf("%.1f", b.Over),
				map[route.Cover]string{route.Bare: "none", route.Tape: "tape", route.Sleeve: "split sleeve",
					route.Sock: "heat-shrink sock"}[x.Cover],
				strings.Join(mind, ", ")},
		)
	}
	return s
}

// marks lists where each wire is marked with tape, from the end that is measured from.
func marks(p *plan.Plan) handover.Section {
	s := handover.Section{
		Title: "Tape marks",
		Head:  []string{"wire", "measured from", "marks, mm"},
		Share: []float64{14, 18, 68},
		Empty: "No wire has a way with stations.",
	}
	r := p.Reach.Result
	if r == nil {
		return s
	}
	wires := r.Wires()
	for i := range r.Lines {
		l := &r.Lines[i]
		if len(l.Marks) == 0 {
			continue
		}
		end := &wires[i].Ends[0]
		if l.Marks[0].At > l.Marks[len(l.Marks)-1].At {
			end = &wires[i].Ends[1]
		}
		from := end.String()
		if from == "" {
			from = "its first end"
		}
		text := make([]string, len(l.Marks))
		for k, m := range l.Marks {
			text[k] = fmt.Sprintf("%s %.0f", m.Station, math.Round(m.At))
		}
		s.Rows = append(s.Rows, []string{string(l.Wire), from, strings.Join(text, " · ")})
	}
	slices.SortStableFunc(s.Rows, func(a, b []string) int { return finding.Natural(a[0], b[0]) })
	return s
}
