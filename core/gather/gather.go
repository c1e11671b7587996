// Package gather turns a table as somebody typed it into a pinout.
//
// A maker's table has its columns in any order and under any heading, a few lines of preface, blanks, repeated
// headings, connectors given once and left blank below, and some rows that make no sense. Read finds the heading line
// and which column is which, from the headings first and from what stands in the columns where they do not say; takes
// every row it can; and lists each row it could not take with the reason. It never drops a row in silence and one bad
// row never stops the others.
package gather

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// Column is what a column of the table holds.
type Column string

// The columns of a pinout.
const (
	Ignored   Column = ""
	Connector Column = "connector"
	Cavity    Column = "cavity"
	Colour    Column = "colour"
	Circuit   Column = "circuit"
	Function  Column = "function"
	Size      Column = "size"
	FarEnd    Column = "farEnd"
	Note      Column = "note"
)

// Columns lists them in the order in which a table is written.
func Columns() []Column {
	return []Column{Connector, Cavity, Colour, Circuit, Function, Size, FarEnd, Note}
}

// Layout is what a person says of a connector's housing.
type Layout struct {
	Ways  int         `json:"ways,omitempty"` // 0: as found
	Rows  int         `json:"rows,omitempty"` // 0: as guessed
	First face.Corner `json:"first,omitempty"`
}

// Options are a person's corrections of a reading; the zero value leaves all to Read.
type Options struct {
	Columns map[int]Column    `json:"columns,omitempty"` // by column, from 0
	Habit   colour.Habit      `json:"habit,omitempty"`
	Layouts map[string]Layout `json:"layouts,omitempty"` // by connector
	Cells   []Correction      `json:"cells,omitempty"`   // misprints put right
	Gone    []int             `json:"gone,omitempty"`    // lines struck out, from 1
	Beside  Beside            `json:"beside,omitempty"`  // which of tables that stand side by side
}

// Correction puts a misprinted cell right, or fills one of a row that is added below the table; the table as it was
// brought is kept beside it.
type Correction struct {
	Line   int    `json:"line"` // from 1
	Column Column `json:"column"`
	Text   string `json:"text"`
}

// correct gives the table with the corrections made, the lines copied where they change; one that lies below the table
// is a row that was added.
func (o Options) correct(cells [][]string, columns []Column) [][]string {
	out := slices.Clone(cells)
	for _, c := range o.Cells {
		at := slices.Index(columns, c.Column)
		if at < 0 || c.Column == Ignored || c.Line < 1 || c.Line > MaxLines {
			continue
		}
		for len(out) < c.Line {
			out = append(out, nil)
		}
		out[c.Line-1] = pad(out[c.Line-1], max(len(columns), len(out[c.Line-1])))
		out[c.Line-1][at] = c.Text
	}
	return out
}

// lacking gives the columns that corrections fill and the table has not.
func (o Options) lacking(columns []Column) []Column {
	var out []Column
	for _, c := range o.Cells {
		if c.Text != "" && c.Column != Connector && slices.Contains(Columns(), c.Column) &&
			!slices.Contains(columns, c.Column) && !slices.Contains(out, c.Column) {
			out = append(out, c.Column)
		}
	}
	return out
}

// Remark is something to say about a line of the table.
type Remark struct {
	Line  int      `json:"line"` // from 1
	Code  string   `json:"code"`
	Text  string   `json:"text"`
	Cells []string `json:"cells,omitempty"`
}

// Reading is what Read made of a table.
type Reading struct {
	HeaderLine int                 `json:"headerLine"` // from 1; 0 when there is no heading line
	Headings   []string            `json:"headings"`
	Columns    []Column            `json:"columns"`
	Habit      colour.Detection    `json:"habit"`
	Unit       size.Unit           `json:"unit"`  // how bare numbers in the size column were read
	Lines      int                 `json:"lines"` // lines of the table that is read that are not blank
	Next       int                 `json:"next"`  // the line at which a row is added
	Rows       []harness.Row       `json:"rows"`
	Connectors []harness.Connector `json:"connectors"`
	Preface    []Remark            `json:"preface"`  // lines above the heading
	Rejected   []Remark            `json:"rejected"` // lines that became no row, each with the reason
	Struck     []Remark            `json:"struck"`   // lines that a person struck out
	Tables     int                 `json:"tables"`   // how many tables stand side by side, 1 or more
	Warnings   []Remark            `json:"warnings"` // rows that were taken with something unread
}

// Read reads a table of cells, the lines in order, blank lines included. It fails only when there is nothing to read or
// no column that could name cavities.
func Read(cells [][]string, o Options) (Reading, error) {
	r := Reading{Rows: []harness.Row{}, Preface: []Remark{}, Rejected: []Remark{}, Struck: []Remark{},
		Warnings: []Remark{}, Connectors: []harness.Connector{},
		Headings: []string{}, Columns: []Column{}, Habit: colour.Detect(nil)}
	if !slices.ContainsFunc(cells, func(line []string) bool { return !blank(line) }) {
		return r, fmt.Errorf("the table is empty")
	}
	cells = r.beside(cells, o.Beside)
	for _, line := range cells {
		if !blank(line) {
			r.Lines++
		}
	}
	header := findHeader(cells)
	r.HeaderLine = header + 1
	width := 0
	for _, line := range cells {
		width = max(width, len(line))
	}
	if header >= 0 {
		r.Headings = pad(cells[header], width)
	} else {
		r.Headings = make([]string, width)
	}
	body := cells[header+1:]
	r.Columns = assignColumns(r.Headings, body, o.Columns)
	if !slices.Contains(r.Columns, Cavity) {
		return r, fmt.Errorf("no column names the cavities: say which one does")
	}
	for _, c := range o.lacking(r.Columns) {
		r.Columns, r.Headings = append(r.Columns, c), append(r.Headings, "")
	}
	whole := o.correct(cells, r.Columns)
	r.strike(whole, o.Gone)
	body, r.Next = whole[header+1:], len(whole)+1
	for i := range max(header, 0) {
		if !blank(cells[i]) {
			r.Preface = append(r.Preface, Remark{Line: i + 1, Code: "preface", Text: "above the heading", Cells: cells[i]})
		}
	}
	r.Habit = colour.Detect(r.column(Colour, body))
	if o.Habit != colour.Unknown {
		r.Habit.Habit, r.Habit.Sure, r.Habit.Clashes = o.Habit, true, []string{}
	}
	if at := slices.Index(r.Columns, Size); at >= 0 {
		r.Unit = size.ColumnUnit(r.Headings[at], r.column(Size, body))
	}
	ways := r.takeRows(cells[:max(header, 0)], body, header+1)
	r.beyond(ways)
	r.Connectors = layOut(r.Rows, ways, o.Layouts)
	return r, nil
}

// strike takes lines out of the table, and notes what they said.
func (r *Reading) strike(whole [][]string, gone []int) {
	for _, line := range gone {
		if line > r.HeaderLine && line <= len(whole) && !blank(whole[line-1]) {
			r.Struck = append(r.Struck, Remark{Line: line, Code: "struck", Text: "struck out", Cells: whole[line-1]})
			whole[line-1] = nil
		}
	}
}

// Pinout makes the reading a pinout under a name; source, date and trust are the caller's to add.
func (r Reading) Pinout(name string) harness.Pinout {
	return harness.Pinout{Name: name, Habit: r.Habit.Habit, Connectors: r.Connectors, Rows: r.Rows}
}

func blank(line []string) bool {
	return !slices.ContainsFunc(line, func(c string) bool { return strings.TrimSpace(c) != "" })
}

func pad(line []string, width int) []string {
	out := make([]string, width)
	copy(out, line)
	for i := range out {
		out[i] = strings.TrimSpace(out[i])
	}
	return out
}

func (r Reading) column(c Column, body [][]string) []string {
	at := slices.Index(r.Columns, c)
	if at < 0 {
		return nil
	}
	var out []string
	for _, line := range body {
		if at < len(line) {
			out = append(out, line[at])
		}
	}
	return out
}

var (
	notUsed  = regexp.MustCompile(`(?i)^(?:not[\s-]?(?:used|connected|fitted|assigned)|un(?:used|assigned|occupied)|n\.?[/.]?[cu]\.?|vacant|spare|empty|free|blank|open|nil|none|plugged|plug|reserved|frei|leer|nicht belegt|not in use|no connection|-+|–|—|x|\.+)\s*(?:\(.*\))?$`)
	cavityOK = regexp.MustCompile(`^[A-Za-z]{0,2}\d{0,3}[A-Za-z]?$`)
	wayCount = regexp.MustCompile(`(?i)\(?\b(\d{1,3})\s*-?\s*(?:ways?|pins?|p|cavit(?:y|ies)|cav|polig)\b\.?\)?`)
)

// takeRows reads the body line by line and gives the numbers of ways that the table states, by connector.
func (r *Reading) takeRows(preface, body [][]string, before int) map[string]int {
	seen := map[harness.Ref]int{}
	ways := map[string]int{}
	current := ""
	for _, line := range preface { // "Connector C1, 24-way" above the heading
		if name, n, ok := r.section(pad(line, max(len(line), len(r.Columns)))); ok {
			if current = name; n > 0 {
				ways[name] = n
			}
		}
	}
	hasConnector := slices.Contains(r.Columns, Connector)
	slashes := !hasConnector && r.slashesName(r.column(Cavity, body))
	read := readers{signals: map[string]signal.Reading{}, colours: map[string]colour.Colour{}}
	var above []string
	for i, line := range body {
		number := before + i + 1
		if blank(line) {
			continue
		}
		cells := pad(line, len(r.Columns))
		reject := func(code, format string, args ...any) {
			r.Rejected = append(r.Rejected, Remark{number, code, fmt.Sprintf(format, args...), cells})
		}
		if name, n, ok := r.section(cells); ok {
			current = name
			if n > 0 {
				ways[name] = n
			}
			reject("section", "a line that names connector %s for the rows below", name)
			continue
		}
		if slices.ContainsFunc(cells, sums.MatchString) {
			reject("sum", "a line that adds up")
			continue
		}
		for k, cell := range cells {
			if above != nil && ditto.MatchString(cell) {
				cells[k] = above[k]
			}
		}
		above = cells
		if r.repeatsHeading(cells) {
			reject("heading-repeated", "the heading again")
			continue
		}
		get := func(c Column) string {
			if at := slices.Index(r.Columns, c); at >= 0 {
				return cells[at]
			}
			return ""
		}
		each := several(get(Cavity))
		if each == nil {
			each = []string{get(Cavity)}
		}
		for _, cavity := range each {
			ref, n := splitRef(get(Connector), cavity, current, hasConnector, slashes)
			if n > 0 {
				ways[ref.Connector] = n
			}
			current = ref.Connector
			switch first, twice := seen[ref]; {
			case ref.Cavity == "":
				reject("no-cavity", "no cavity is named")
				continue
			case slashed.MatchString(ref.Cavity):
				reject("two-cavities", "%q may be two cavities: write it as 9 & 10, or put it right", ref.Cavity)
				continue
			case !cavityOK.MatchString(ref.Cavity):
				reject("bad-cavity", "%q is not the name of a cavity", ref.Cavity)
				continue
			case twice:
				reject("duplicate-cavity", "cavity %s was already on line %d", ref, first)
				continue
			}
			seen[ref] = number
			r.Rows = append(r.Rows, r.row(ref, number, get, read))
		}
		if len(each) > 1 {
			r.Warnings = append(r.Warnings, Remark{Line: number, Code: "several-cavities", Cells: cells,
				Text: fmt.Sprintf("%q is taken for %d cavities, %s, with a wire in each", get(Cavity), len(each),
					strings.Join(each, ", "))})
		}
	}
	return ways
}

// beyond warns of cavities that lie beyond the ways that the table states.
func (r *Reading) beyond(ways map[string]int) {
	for i := range r.Rows {
		at := r.Rows[i].Ref
		if n, err := strconv.Atoi(at.Cavity); err == nil && ways[at.Connector] > 0 && n > ways[at.Connector] {
			r.Warnings = append(r.Warnings, Remark{Line: r.Rows[i].Line, Code: "beyond-ways",
				Text: fmt.Sprintf("%s lies beyond the %d ways that the table gives connector %s", at, ways[at.Connector],
					at.Connector)})
		}
	}
}

func (r *Reading) row(ref harness.Ref, line int, get func(Column) string, read readers) harness.Row {
	row := harness.Row{Ref: ref, Line: line, Conductor: harness.Conductor{Circuit: get(Circuit), Function: get(Function)},
		FarEnd: get(FarEnd), Note: get(Note), SizeText: get(Size)}
	written := get(Colour)
	row.Colour = read.colour(written, r.Habit.Habit)
	if notUsed.MatchString(written) && !row.Colour.Known() {
		row.Colour = colour.Colour{Written: written}
	} else if written != "" && !row.Colour.Known() {
		r.Warnings = append(r.Warnings, colourRemark(ref, line, row.Colour))
	}
	if row.SizeText != "" {
		s, err := size.Parse(row.SizeText, r.Unit)
		if err != nil && !errors.Is(err, size.ErrNotStated) && !notUsed.MatchString(row.SizeText) {
			r.Warnings = append(r.Warnings, Remark{Line: line, Code: "size-unread",
				Text: fmt.Sprintf("%s: %v; the row is taken without it", ref, err)})
		}
		row.Size = s
	}
	row.Empty = notUsed.MatchString(row.Function) || row.Function == "" && row.Circuit == "" &&
		(written == "" || notUsed.MatchString(written))
	if !row.Empty {
		row.Signal = read.signal(row.Function)
	}
	return row
}

// readers keep what was read: a table says the same colour and the same ground many times.
type readers struct {
	signals map[string]signal.Reading
	colours map[string]colour.Colour
}

func (r readers) signal(text string) signal.Reading {
	s, known := r.signals[text]
	if !known {
		s = signal.Read(text)
		r.signals[text] = s
	}
	return s
}

func (r readers) colour(text string, h colour.Habit) colour.Colour {
	c, known := r.colours[text]
	if !known {
		c = colour.Parse(text, h)
		r.colours[text] = c
	}
	return c
}

func colourRemark(ref harness.Ref, line int, c colour.Colour) Remark {
	if len(c.Candidates) > 0 {
		return Remark{Line: line, Code: "colour-ambiguous",
			Text: fmt.Sprintf("%s: colour %q may be %s", ref, c.Written, strings.ReplaceAll(c.String(), "|", " or "))}
	}
	return Remark{Line: line, Code: "colour-unread",
		Text: fmt.Sprintf("%s: colour %q was not read; it is kept as written", ref, c.Written)}
}
