package exchange

import (
	"bufio"
	"fmt"
	"io"
	"strconv"

	"draxel/core/feed"
	"draxel/core/handover"
)

// WriteFeedDOT writes a feed tree as a graph in the DOT language: what hangs on what, with amps and volts; what is dead
// is dotted, what carries more than it may is thick.
func WriteFeedDOT(w io.Writer, tree []feed.Feeder, title string) error {
	b := bufio.NewWriter(w)
	fmt.Fprintf(b, "digraph feed {\n  label=%q;\n  rankdir=LR;\n  node [shape=box];\n", title)
	for i, l := range tree {
		style := "solid"
		if l.Live != feed.Fed {
			style = "dotted"
		}
		rating := ""
		if l.Rating > 0 {
			rating = fmt.Sprintf(" %.3g A", l.Rating)
		}
		fmt.Fprintf(b, "  n%d [label=%q, style=%s];\n", i, fmt.Sprintf("%s%s\n%.1f V, %s", l.Name, rating, l.Volts,
			l.Live), style)
		if l.Parent >= 0 {
			thick := 1
			if l.Carries > 0 && l.Band > l.Carries {
				thick = 5
			}
			fmt.Fprintf(b, "  n%d -> n%d [label=%q, style=%s, penwidth=%d];\n", l.Parent, i, fmt.Sprintf("%.3g A",
				l.Amps), style, thick)
		}
	}
	fmt.Fprint(b, "}\n")
	return b.Flush()
}

// WriteHarnessDOT writes the finished harness as a graph in the DOT language: devices, plugs, splices and joints, and
// every length of wire between them; what is planned and not done is dashed.
func WriteHarnessDOT(w io.Writer, all []handover.Piece, title string) error {
	b := bufio.NewWriter(w)
	fmt.Fprintf(b, "graph harness {\n  label=%q;\n  node [shape=box];\n", title)
	seen := map[string]bool{}
	for i := range all {
		l := &all[i]
		for _, e := range l.Ends {
			if !seen[e.Symbol] {
				seen[e.Symbol] = true
				fmt.Fprintf(b, "  %q;\n", e.Symbol)
			}
		}
		style := "solid"
		if l.Planned {
			style = "dashed"
		}
		fmt.Fprintf(b, "  %q -- %q [label=%q, taillabel=%q, headlabel=%q, style=%s];\n", l.Ends[0].Symbol,
			l.Ends[1].Symbol,
			string(l.Name+" ")+l.Text(), l.Ends[0].At, l.Ends[1].At, style)
	}
	fmt.Fprint(b, "}\n")
	if err := b.Flush(); err != nil {
		return fmt.Errorf("write the graph: %w", err)
	}
	return nil
}

// WriteLiveCSV writes what is live in a position of the key, a line for each wire, cable and device.
func WriteLiveCSV(w io.Writer, position string, rows []feed.LiveLine) error {
	cells := [][]string{{"Name", "Kind", "For", "In " + position, "Volts", "Amps", "May carry A", "Lost V", "Fuse",
		"Fuse A"}}
	known := func(v float64) string {
		if v == 0 {
			return ""
		}
		return strconv.FormatFloat(v, 'f', 2, 64)
	}
	for i := range rows {
		x := &rows[i]
		cells = append(cells, []string{x.Name, string(x.Kind), x.Text, string(x.Live), fmt.Sprintf("%.2f", x.Volts),
			fmt.Sprintf("%.3f", x.Amps),
			known(x.Carries), fmt.Sprintf("%.3f", x.Drop), x.Fuse, known(x.Rating)})
	}
	return WriteTableCSV(w, cells)
}
