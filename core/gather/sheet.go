package gather

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/colour"
)

// SheetKind says what a sheet of the structure lists.
type SheetKind string

// The sheets of the structure: what lies between the connectors.
const (
	WireList      SheetKind = "wires"
	SpliceList    SheetKind = "splices"
	ConnectorList SheetKind = "connectors"
	DeviceList    SheetKind = "devices"
	BranchList    SheetKind = "branches"
)

// The sheets of what stands in a vehicle beside its wires: what Feed goes by.
const (
	SourceList SheetKind = "sources"
	FuseList   SheetKind = "fuses"
	SwitchList SheetKind = "switches"
	RelayList  SheetKind = "relays"
	CableList  SheetKind = "cables"
	LoadList   SheetKind = "loads"
)

// FeedKinds lists the sheets that Feed goes by, in the order in which they are shown.
func FeedKinds() []SheetKind {
	return []SheetKind{SourceList, FuseList, SwitchList, RelayList, CableList, LoadList}
}

// SheetKinds lists those of the structure in the order in which they are shown.
func SheetKinds() []SheetKind {
	return []SheetKind{WireList, SpliceList, ConnectorList, DeviceList, BranchList}
}

// Field is a column of a sheet, with the words of a heading that name it.
type Field struct {
	Name  string   `json:"name"`
	Title string   `json:"title"`
	words []string // tried in order against the whole heading
}

// fields gives the columns of each kind of sheet in the order in which they are shown.
var fields = map[SheetKind][]Field{
	WireList: {
		{"wire", "Wire", []string{"wire", "wire id", "wire no", "wire number", "id", "no"}},
		{"from", "From", []string{"from", "from connector", "connector", "plug", "start", "end 1"}},
		{"fromCavity", "Cavity", []string{"from cavity", "from pin", "cavity", "pin", "way", "cavity 1"}},
		{"to", "To", []string{"to", "to connector", "far end", "goes to", "destination", "end 2"}},
		{"toCavity", "Cavity", []string{"to cavity", "to pin", "far cavity", "cavity 2", "cavity", "pin", "way"}},
		{"colour", "Colour", []string{"colour", "color", "wire colour", "wire color"}},
		{"size", "Size", []string{"size", "mm2", "mm²", "section", "gauge", "awg"}},
		{"circuit", "Circuit", []string{"circuit", "circuit no", "circuit number", "ckt", "net"}},
		{"function", "Function", []string{"function", "purpose", "description", "what for", "use", "signal"}},
		{"length", "Length mm", []string{"length", "length mm", "mm", "long"}},
		{"branch", "Branch", []string{"branch", "runs in", "loom"}},
		{"pair", "Pair", []string{"pair", "twist", "twisted", "twisted with", "twist group"}},
		{"shield", "Shield", []string{"shield", "screen", "shield group"}},
		{"added", "Added by", []string{"added", "added by"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	SpliceList: {
		{"splice", "Splice", []string{"splice", "joint", "id", "name"}},
		{"branch", "Branch", []string{"branch", "runs in", "where"}},
		{"legs", "Legs", []string{"legs", "wires", "joins", "of"}},
		{"seen", "Seen", []string{"seen", "found", "opened"}},
		{"added", "Added by", []string{"added", "added by"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	ConnectorList: {
		{"connector", "Connector", []string{"connector", "plug", "housing", "id", "name"}},
		{"device", "Device", []string{"device", "component", "plugs into", "of", "module"}},
		{"mate", "Faces", []string{"faces", "mate", "mates with", "other half"}},
		{"joined", "Joined inside", []string{"joined inside", "joined", "bridged", "links", "bridges", "passes through"}},
		{"branch", "Branch", []string{"branch", "on branch", "where"}},
		{"ways", "Ways", []string{"ways", "cavities", "pins"}},
		{"origin", "Comes from", []string{"comes from", "origin", "vehicle", "donor", "taken from"}},
		{"locked", "Not ours", []string{"not ours", "locked", "owner's", "body half"}},
	},
	DeviceList: {
		{"device", "Device", []string{"device", "component", "module", "id", "name"}},
		{"kind", "Kind", []string{"kind", "type"}},
		{"system", "System", []string{"system", "group"}},
		{"owner", "Belongs to", []string{"belongs to", "owner", "part of"}},
		{"added", "Added by", []string{"added", "added by"}},
	},
	SourceList: {
		{"source", "Source", []string{"source", "name", "id"}},
		{"kind", "Kind", []string{"kind", "type"}},
		{"plus", "Positive at", []string{"positive at", "plus", "positive", "at", "feeds"}},
		{"minus", "Negative at", []string{"negative at", "minus", "negative", "ground"}},
		{"volts", "Volts", []string{"volts", "v", "rest volts"}},
		{"amps", "Amps", []string{"amps", "a", "cranking amps", "cca"}},
		{"idle", "Amps at idle", []string{"amps at idle", "idle", "idle amps"}},
		{"capacity", "Ah", []string{"ah", "capacity"}},
		{"ohms", "Ohms inside", []string{"ohms inside", "ohms", "ω", "inner resistance"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	FuseList: {
		{"fuse", "Fuse", []string{"fuse", "slot", "name", "id", "no"}},
		{"rating", "Rating A", []string{"rating a", "rating", "amps", "a"}},
		{"kind", "Kind", []string{"kind", "type"}},
		{"in", "Fed from", []string{"fed from", "in", "from", "feed"}},
		{"out", "Feeds", []string{"feeds", "out", "to", "cavity"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks", "for"}},
	},
	SwitchList: {
		{"switch", "Contact", []string{"contact", "switch", "name", "id"}},
		{"from", "From", []string{"from", "in"}},
		{"to", "To", []string{"to", "out"}},
		{"closed", "Closed in", []string{"closed in", "closed", "positions", "on in"}},
		{"ohms", "Closed Ω", []string{"closed ω", "ohms", "contact ohms"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	RelayList: {
		{"relay", "Relay", []string{"relay", "name", "id"}},
		{"coilplus", "Coil +, 86", []string{"coil 86", "86", "coil plus", "coil"}},
		{"coilminus", "Coil −, 85", []string{"coil 85", "85", "coil minus"}},
		{"common", "30", []string{"30", "common"}},
		{"make", "87", []string{"87", "make"}},
		{"break", "87a", []string{"87a", "break"}},
		{"ohms", "Coil Ω", []string{"coil ω", "ohms", "coil ohms"}},
		{"amps", "Contact A", []string{"contact a", "amps", "rating"}},
		{"suppressed", "Suppressed by", []string{"suppressed by", "suppressed", "suppression"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	CableList: {
		{"cable", "Cable", []string{"cable", "strap", "name", "id"}},
		{"from", "From", []string{"from"}},
		{"to", "To", []string{"to"}},
		{"size", "Size mm²", []string{"size mm", "size", "mm2", "mm²", "section"}},
		{"length", "Length mm", []string{"length mm", "length", "mm", "long"}},
		{"ohms", "Measured Ω", []string{"measured ω", "ohms", "measured"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	LoadList: {
		{"load", "Load", []string{"load", "device", "name", "id"}},
		{"plus", "Positive at", []string{"positive at", "plus", "at"}},
		{"minus", "Negative at", []string{"negative at", "minus", "ground"}},
		{"amps", "Amps", []string{"amps", "a"}},
		{"volts", "At volts", []string{"at volts", "volts", "v"}},
		{"kind", "Kind", []string{"kind", "type"}},
		{"switch", "Only while", []string{"only while", "switch", "switched by"}},
		{"note", "Note", []string{"note", "notes", "remark", "remarks"}},
	},
	BranchList: {
		{"branch", "Branch", []string{"branch", "id", "name"}},
		{"parent", "Breaks out of", []string{"breaks out of", "parent", "from", "of"}},
		{"at", "At mm", []string{"at", "at mm", "break out", "breaks out at", "position"}},
		{"length", "Length mm", []string{"length", "length mm", "long", "mm"}},
		{"clips", "Clips", []string{"clips", "fixings"}},
	},
}

// Fields gives the columns of a sheet; none where there is no such sheet.
func (k SheetKind) Fields() []Field { return fields[k] }

// Sheet is a list of the structure as it was brought, and what a person put right in it or added.
type Sheet struct {
	Source string            `json:"source,omitempty"`
	Cells  [][]string        `json:"cells"`
	Map    map[string]string `json:"map,omitempty"` // column number, from 0, to field name: what a person said of the columns
	Edits  []CellEdit        `json:"edits,omitempty"`
	Gone   []int             `json:"gone,omitempty"` // lines struck out, from 1
}

// CellEdit is a cell put right, or a cell of a line added below the table.
type CellEdit struct {
	Line  int    `json:"line"` // from 1
	Field string `json:"field"`
	Text  string `json:"text"`
}

// SheetReading is what ReadSheet made of a sheet.
type SheetReading struct {
	Kind     SheetKind  `json:"kind"`
	Columns  []string   `json:"columns"` // by column of the table: the field's name, "" for one that is ignored
	Rows     []SheetRow `json:"rows"`
	Rejected []Remark   `json:"rejected"`
	Next     int        `json:"next"` // the line at which a row is added
}

// SheetRow is a line of a sheet by field.
type SheetRow struct {
	Line  int               `json:"line"`
	Cells map[string]string `json:"cells"`
}

// MaxLines bounds how many lines a sheet can have, with those added.
const MaxLines = 40000

// ReadSheet reads a sheet. Lines above the heading are passed over; a line without its first field is rejected with the
// reason, never dropped in silence.
func ReadSheet(kind SheetKind, s Sheet) (SheetReading, error) {
	r := SheetReading{Kind: kind, Columns: []string{}, Rows: []SheetRow{}, Rejected: []Remark{}, Next: len(s.Cells) + 1}
	all, known := fields[kind]
	if !known {
		return r, fmt.Errorf("there is no sheet %q", kind)
	}
	header := r.heading(s, all)
	if len(s.Cells) > 0 && !slices.Contains(r.Columns, all[0].Name) {
		return r, fmt.Errorf("no column names the %s: say which one does", strings.ToLower(all[0].Title))
	}
	lines := map[int]map[string]string{}
	for i := header + 1; i < len(s.Cells); i++ {
		cells := map[string]string{}
		for c, text := range s.Cells[i] {
			if text = strings.TrimSpace(text); text != "" && c < len(r.Columns) && r.Columns[c] != "" {
				cells[r.Columns[c]] = text
			}
		}
		lines[i+1] = cells
	}
	for _, e := range s.Edits {
		if e.Line <= header+1 || e.Line > MaxLines || !slices.ContainsFunc(all,
			func(f Field) bool { return f.Name == e.Field }) {
			continue
		}
		if lines[e.Line] == nil {
			lines[e.Line] = map[string]string{}
		}
		lines[e.Line][e.Field] = strings.TrimSpace(e.Text)
		r.Next = max(r.Next, e.Line+1)
	}
	for _, g := range s.Gone {
		delete(lines, g)
	}
	numbers := make([]int, 0, len(lines))
	for n := range lines {
		numbers = append(numbers, n)
	}
	slices.Sort(numbers)
	r.Next = max(r.Next, header+2, 2) // line 1 is the heading's, also of a list that is begun by hand
	for _, n := range numbers {
		r.take(n, lines[n], all)
	}
	return r, nil
}

// take takes a line, or says why not.
func (r *SheetReading) take(line int, cells map[string]string, all []Field) {
	filled := false
	for _, text := range cells {
		filled = filled || text != ""
	}
	if !filled {
		return
	}
	if cells[all[0].Name] == "" {
		shown := make([]string, len(all))
		for i, f := range all {
			shown[i] = cells[f.Name]
		}
		r.Rejected = append(r.Rejected, Remark{Line: line, Code: "no-name",
			Text: "no " + strings.ToLower(all[0].Title) + " is named", Cells: shown})
		return
	}
	r.Rows = append(r.Rows, SheetRow{line, cells})
}

// heading finds the heading line, which names most columns, among the first twenty, and says what each column holds. It
// gives −1 where there is none.
func (r *SheetReading) heading(s Sheet, all []Field) int {
	best, at := 0, -1
	for i, line := range s.Cells[:min(len(s.Cells), 20)] {
		n := 0
		for _, f := range columnsOf(line, all) {
			if f != "" {
				n++
			}
		}
		if n > best && n >= min(2, len(all)) {
			best, at = n, i
		}
	}
	width := 0
	for _, line := range s.Cells {
		width = max(width, len(line))
	}
	r.Columns = make([]string, width)
	if at >= 0 {
		copy(r.Columns, columnsOf(s.Cells[at], all))
	}
	for c := range r.Columns {
		if said, ok := s.Map[fmt.Sprint(c)]; ok {
			r.Columns[c] = said
		}
	}
	return at
}

// columnsOf says which field each heading names. A heading that two fields share, as "cavity" after "from" and after
// "to", goes to them in order.
func columnsOf(line []string, all []Field) []string {
	out := make([]string, len(line))
	taken := map[string]bool{}
	for c, text := range line {
		h := wordsOf(text)
		for _, f := range all {
			if !taken[f.Name] && (h == strings.ToLower(f.Title) || slices.Contains(f.words, h)) {
				out[c], taken[f.Name] = f.Name, true
				break
			}
		}
	}
	return out
}

// Habit says in which habit a wire list writes its colours.
func (s Sheet) Habit(r SheetReading) colour.Habit {
	var all []string
	for _, row := range r.Rows {
		all = append(all, row.Cells["colour"])
	}
	return colour.Detect(all).Habit
}
