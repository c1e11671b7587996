package exchange

import (
	"fmt"
	"io"
	"math"
	"strings"

	"draxel/core/harness"
	"draxel/core/reach"
)

// WriteCutList writes the cut list as CSV: a line a wire, lengths in mm, with how each comes about.
func WriteCutList(w io.Writer, r *reach.Result) error {
	rows := [][]string{{"Wire", "Colour", "mm²", "Function", "From", "To", "Verdict", "By mm", "Need mm", "Have mm",
		"± mm", "Falls short", "Way", "Reckoned as", "Tape marks", "New wire", "Code", "Joints"}}
	joints := map[harness.WireID][]string{}
	for _, j := range r.Joints {
		joints[j.Wire] = append(joints[j.Wire], fmt.Sprintf("%.0f mm from %s (%s)", j.At, j.From, j.School))
	}
	for i, wire := range r.Wires() {
		l := &r.Lines[i]
		var terms, marks, pieces []string
		for _, t := range l.Terms {
			terms = append(terms, fmt.Sprintf("%s %.0f", t.What, t.MM))
		}
		for _, m := range l.Marks {
			marks = append(marks, fmt.Sprintf("%s %.0f", m.Station, m.At))
		}
		for _, p := range l.Provision {
			pieces = append(pieces, p.String())
		}
		var from, to string
		if n := len(l.Stations); n > 0 {
			from, to = l.Stations[0], l.Stations[n-1]
		}
		rows = append(rows, []string{wire.ID.Name(), wire.Colour.String(), strings.TrimSuffix(wire.Size.String(), " mm²"),
			wire.Function, from, to, string(l.Verdict), whole(l.By), whole(l.Need), whole(l.Had), whole(l.Spread), chance(l),
			strings.Join(l.Paths, "; "), strings.Join(terms, "; "), strings.Join(marks, "; "), strings.Join(pieces, "; "),
			l.Code, strings.Join(joints[l.Wire], "; ")})
	}
	return WriteTableCSV(w, rows)
}

func whole(mm float64) string {
	if mm == 0 {
		return ""
	}
	return fmt.Sprintf("%.0f", math.Round(mm))
}

func chance(l *reach.Line) string {
	if l.Had == 0 || l.Short < 0.0005 {
		return ""
	}
	return fmt.Sprintf("%.1f %%", 100*l.Short)
}
