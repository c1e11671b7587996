package exchange

import (
	"encoding/csv"
	"fmt"
	"io"
	"strings"

	"draxel/core/harness"
)

// WritePinout writes a pinout as CSV, UTF-8: one line a cavity, in the order of the table it came from. Colours and
// sizes are written as they were found, a bare size with the unit in which it was read, and a connector with its ways
// where it is first named, so that reading the file gives the same pinout.
func WritePinout(w io.Writer, p harness.Pinout) error { return WriteTableCSV(w, PinoutTable(p)) }

// PinoutTable gives a pinout as the rows of a table, its heading first.
func PinoutTable(p harness.Pinout) [][]string {
	lines := [][]string{{"connector", "cavity", "colour", "circuit", "function", "size", "far end", "note"}}
	said := map[string]bool{}
	for _, r := range p.Rows {
		name := r.Ref.Connector
		if c, ok := p.Connector(name); ok && !said[name] {
			said[name] = true
			name = fmt.Sprintf("%s (%d-way)", name, c.Ways())
		}
		lines = append(lines, []string{name, r.Ref.Cavity, r.Colour.Written, r.Circuit, r.Function, sizeWithUnit(r),
			r.FarEnd, r.Note})
	}
	return lines
}

// WriteTableCSV writes rows as CSV, UTF-8; no cell is taken for a formula.
func WriteTableCSV(w io.Writer, rows [][]string) error {
	out := csv.NewWriter(w)
	for _, row := range rows {
		line := make([]string, len(row))
		for i := range row {
			line[i] = Guard(row[i])
		}
		if err := out.Write(line); err != nil {
			return fmt.Errorf("write table: %w", err)
		}
	}
	out.Flush()
	if err := out.Error(); err != nil {
		return fmt.Errorf("write table: %w", err)
	}
	return nil
}

func sizeWithUnit(r harness.Row) string {
	if r.Size == 0 || strings.ContainsAny(strings.ToLower(r.SizeText), "abcdefghijklmnopqrstuvwxyz²#/") {
		return r.SizeText
	}
	if n, ok := r.Size.AWG(); ok && n.Area() == r.Size {
		return n.String()
	}
	return r.SizeText + " mm²"
}
