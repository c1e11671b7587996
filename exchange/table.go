// Package exchange turns bytes into cells and documents, and back: spreadsheets in, CSV and PDF out, the job file
// both ways.
package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Limits of a table that is read. A pinout of a whole vehicle is a few thousand rows.
const (
	MaxBytes = 10 << 20
	MaxRows  = 20_000
	MaxCells = 200
	MaxCell  = 5_000 // letters of a cell: a name, a function, a note
)

// Refusal is an input that cannot be taken: a stable code and a sentence for the person who brought it.
type Refusal struct {
	Code string
	Text string
}

func (r *Refusal) Error() string { return r.Text }

func refuse(code, format string, args ...any) error {
	return &Refusal{code, fmt.Sprintf(format, args...)}
}

// Table is a sheet of cells as it was brought: its lines in order, blank ones included.
type Table struct {
	Cells    [][]string
	Sheet    string   // the sheet read, where the file has several
	Sheets   []string // all of them
	Encoding string   // how the text was read
	Notes    []string // what was done to make sense of it, for the person who brought it
}

// ReadTable reads a CSV, TSV or XLSX file, told apart by what is in it and not by its name. The sheet may be empty: the
// first with anything in it is read. It fails with a *Refusal on what is not a table of text.
func ReadTable(data []byte, sheet string) (Table, error) {
	switch {
	case len(data) > MaxBytes:
		return Table{}, refuse("too-large", "the file has %d MB; a pinout has less than %d MB", len(data)>>20, MaxBytes>>20)
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		return readXLSX(data, sheet)
	case bytes.HasPrefix(data, []byte("\xD0\xCF\x11\xE0")):
		return Table{}, refuse("old-spreadsheet", "this is a spreadsheet of the old binary kind: save it as XLSX or CSV "+
			"and bring that")
	case bytes.HasPrefix(data, []byte("%PDF")):
		return Table{}, refuse("not-a-table", "this is a PDF: copy the rows into a spreadsheet and bring that, or paste them")
	}
	text, name, err := decode(data)
	if err != nil {
		return Table{}, err
	}
	if strings.TrimSpace(text) == "" {
		return Table{}, refuse("empty", "there is nothing in it")
	}
	cells, notes, err := splitText(text)
	if err == nil {
		err = tooLong(cells)
	}
	return Table{Cells: cells, Encoding: name, Notes: notes}, err
}

// tooLong refuses a table with a cell that is a page.
func tooLong(cells [][]string) error {
	for i, line := range cells {
		for _, cell := range line {
			if len(cell) > MaxCell && utf8.RuneCountInString(cell) > MaxCell {
				return refuse("cell-too-long", "line %d has a cell of %d letters, %.40q…; at most %d are read", i+1,
					utf8.RuneCountInString(cell), cell, MaxCell)
			}
		}
	}
	return nil
}

// decode finds out how the bytes spell text: UTF-8, UTF-16 with or without its mark, else Windows-1252.
func decode(data []byte) (text, name string, err error) {
	var enc encoding.Encoding
	switch {
	case bytes.HasPrefix(data, []byte("\xEF\xBB\xBF")):
		data, name = data[3:], "UTF-8"
	case bytes.HasPrefix(data, []byte("\xFF\xFE")), bytes.HasPrefix(data, []byte("\xFE\xFF")):
		enc, name = unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM), "UTF-16"
	case looksUTF16(data, 1):
		enc, name = unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM), "UTF-16"
	case looksUTF16(data, 0):
		enc, name = unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM), "UTF-16"
	case utf8.Valid(data):
		name = "UTF-8"
	default:
		enc, name = charmap.Windows1252, "Windows-1252"
	}
	if enc != nil {
		if data, err = enc.NewDecoder().Bytes(data); err != nil {
			return "", "", refuse("not-text", "the text cannot be read as %s: %v", name, err)
		}
	}
	controls := 0
	for _, b := range data {
		if b < 32 && b != '\t' && b != '\n' && b != '\r' && b != '\f' {
			controls++
		}
	}
	if controls*200 > len(data) || bytes.IndexByte(data, 0) >= 0 {
		return "", "", refuse("not-text", "this is not a table of text: bring a CSV, TSV or XLSX file, or paste the rows")
	}
	return string(data), name, nil
}

// looksUTF16 says whether nearly every byte at that parity is zero, as in Western text.
func looksUTF16(data []byte, parity int) bool {
	zeros, n := 0, 0
	for i := parity; i < min(len(data), 2000); i += 2 {
		n++
		if data[i] == 0 {
			zeros++
		}
	}
	return n > 4 && zeros*10 > n*8
}

// splitText takes text apart into lines and cells. The separator is the one that gives most lines the same number of
// cells, more than one. Line numbers are kept: a blank line stays a line. Notes tell of quotation marks that were not
// heeded.
func splitText(text string) (cells [][]string, notes []string, err error) {
	text = strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
	best := -1
	var refusal *Refusal // of a separator that may be the wrong one: another may still make sense of the text
	for _, sep := range []rune{'\t', ';', ',', '|'} {
		if !strings.ContainsRune(text, sep) {
			continue
		}
		c, said, err := parseText(text, sep)
		if err != nil {
			errors.As(err, &refusal)
			continue
		}
		if s := evenness(c); s > best {
			best, cells, notes = s, c, said
		}
	}
	if cells == nil && refusal != nil {
		return nil, nil, refusal
	}
	if cells == nil { // one column, or quotes that no separator makes sense of: each line a cell
		for _, line := range strings.Split(text, "\n") {
			cells = append(cells, []string{clean(line)})
		}
	}
	if len(cells) > MaxRows {
		return nil, nil, refuse("too-many-rows", "%d lines; at most %d are read", len(cells), MaxRows)
	}
	return cells, notes, nil
}

// parseText reads the whole as CSV, or, where a quotation mark is left open somewhere or two of them would swallow rows
// that lie between, each line for itself.
func parseText(text string, sep rune) (cells [][]string, notes []string, err error) {
	if strings.Count(text, `"`)%2 == 0 {
		cells, err := parseCSV(text, sep)
		if err != nil || !swallows(text, sep, cells) {
			return cells, nil, err
		}
	}
	stray := []string{}
	for n, line := range strings.Split(text, "\n") {
		if strings.Count(line, `"`)%2 != 0 {
			line = strings.ReplaceAll(line, `"`, "")
			stray = append(stray, strconv.Itoa(n+1))
		}
		one, err := parseCSV(line, sep)
		if err != nil {
			return nil, nil, err
		}
		cells = append(cells, append(one, nil)[0])
	}
	if len(stray) > 0 {
		more := ""
		if len(stray) > 8 {
			stray, more = stray[:8], " and others"
		}
		notes = append(notes, "A quotation mark without its other half, on line "+strings.Join(stray, ", ")+more+
			": every line is read by itself, so that none is lost.")
	}
	return cells, notes, nil
}

// swallows says whether a quotation mark has drawn whole rows into one cell: a cell runs over lines which, taken by
// themselves, have as many cells as the rows have, while most rows end with their line.
func swallows(text string, sep rune, cells [][]string) bool {
	lines := strings.Split(text, "\n")
	width := map[int]int{}
	for _, line := range lines {
		if n := strings.Count(line, string(sep)); n > 0 {
			width[n]++
		}
	}
	usual, most := 0, 0
	for n, count := range width {
		if count > most || count == most && n > usual {
			usual, most = n, count
		}
	}
	over, ran, rows := 0, 0, 0
	for i, row := range cells {
		if row == nil {
			continue
		}
		rows++
		last := i + 1
		for last < len(cells) && cells[last] == nil && strings.TrimSpace(lines[last]) != "" {
			last++
		}
		if last == len(cells) {
			for last < len(lines) && strings.TrimSpace(lines[last]) != "" {
				last++
			}
		}
		if last == i+1 {
			continue
		}
		over++
		for _, line := range lines[i+1 : last] {
			if strings.Count(line, string(sep)) >= usual {
				ran++
			}
		}
	}
	return ran > 0 && 3*over < max(rows, 4)
}

func parseCSV(text string, sep rune) ([][]string, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = sep, -1, true
	var out [][]string
	for {
		record, err := r.Read()
		if err == io.EOF {
			return out, nil
		}
		if err != nil {
			return nil, fmt.Errorf("read cells: %w", err)
		}
		line, _ := r.FieldPos(0)
		if line > MaxRows {
			return nil, refuse("too-many-rows", "more than %d lines", MaxRows)
		}
		if len(record) > MaxCells {
			return nil, refuse("too-wide", "line %d has %d cells; a pinout has less than %d columns", line, len(record),
				MaxCells)
		}
		for len(out) < line-1 {
			out = append(out, nil)
		}
		for i := range record {
			record[i] = clean(record[i])
		}
		out = append(out, record)
	}
}

// evenness counts the lines that have the commonest number of cells, if that is more than one.
func evenness(cells [][]string) int {
	count := map[int]int{}
	for _, line := range cells {
		if len(line) > 1 {
			count[len(line)]++
		}
	}
	best := -1
	for width, n := range count {
		best = max(best, n*100+min(width, 20))
	}
	return best
}

// clean trims a cell, joins its lines and takes the apostrophe off that Guard put on.
func clean(cell string) string {
	cell = strings.Join(strings.Fields(strings.ReplaceAll(cell, "\u00a0", " ")), " ")
	if len(cell) > 1 && cell[0] == '\'' && startsFormula(cell[1:]) {
		return cell[1:]
	}
	return cell
}

// startsFormula says whether a spreadsheet takes a cell for a formula; some take the wide signs of East Asian writing
// for the narrow ones.
func startsFormula(cell string) bool {
	r, _ := utf8.DecodeRuneInString(cell)
	return cell != "" && strings.ContainsRune("=+-@\t\r＝＋－＠", r)
}

// Guard gives a cell that a spreadsheet would take for a formula a leading apostrophe, which ReadTable takes off again.
func Guard(cell string) string {
	if startsFormula(cell) {
		return "'" + cell
	}
	return cell
}
