package handover

import (
	"strings"

	"draxel/core/harness"
)

// WireTable gives the finished harness as the list of wires that Gather reads: a job can begin from it. Its heading
// comes first; an end at a splice or a joint has its name and no cavity, one that ends in nothing is left blank.
func WireTable(all []Piece) [][]string {
	rows := [][]string{
		{"Wire", "From", "Cavity", "To", "Cavity", "Colour", "Size", "Circuit", "Function", "Length mm", "Note"},
	}
	for i := range all {
		l := &all[i]
		if l.Cable {
			continue // it is of another list
		}
		row := []string{l.Name.Name()}
		var notes []string
		for _, e := range l.Ends {
			switch {
			case e.Cavity != (harness.Ref{}):
				row = append(row, e.Cavity.Connector, e.Cavity.Cavity)
			case e.Dead != "":
				row = append(row, "", "")
				notes = append(notes, e.Dead)
			default:
				row = append(row, strings.TrimPrefix(strings.TrimPrefix(e.At, "splice "), "joint "), "")
			}
		}
		square := ""
		if l.Size > 0 {
			square = l.Size.String()
		}
		if l.Extended != "" {
			notes = append(notes, "extended: "+l.Extended)
		}
		if l.Planned {
			notes = append(notes, l.Standing())
		}
		rows = append(
			rows,
			append(row, l.Colour.String(), square, l.Circuit, l.Function, l.Long(), strings.Join(notes, "; ")),
		)
	}
	return rows
}
