package gather

import "fmt"

// Beside says which of tables that stand side by side on one sheet are read.
type Beside string

// The choices. Two tables side by side can be two plugs of one harness, or the two sides of somebody's crosswalk: only
// a person knows, and until then the left one is read and the other is told.
const (
	LeftTable  Beside = ""
	RightTable Beside = "right"
	AllTables  Beside = "all" // one below the other: a line of the right one is counted on from the last of the left
)

// beside gives the table that is meant where several stand side by side, and says so.
func (r *Reading) beside(cells [][]string, which Beside) [][]string {
	r.Tables = 1
	header := findHeader(cells)
	if header < 0 {
		return cells
	}
	starts := []int{0}
	heads := cells[header]
	for at := second(heads); at > 0; at = second(heads[starts[len(starts)-1]:]) {
		starts = append(starts, starts[len(starts)-1]+at)
	}
	if r.Tables = len(starts); r.Tables == 1 {
		return cells
	}
	text := "%d tables stand side by side, and only the left one is read: say under Side by side which are meant"
	var out [][]string
	switch which {
	case RightTable:
		text, out = "%d tables stand side by side, and the right one is read", part(cells, starts, 1)
	case AllTables:
		text = "%d tables stand side by side: the lines of the right one are counted on below the left one"
		for k := range starts {
			out = append(out, part(cells, starts, k)...)
		}
	default:
		out = part(cells, starts, 0)
	}
	r.Warnings = append(r.Warnings, Remark{Line: header + 1, Code: "side-by-side", Text: fmt.Sprintf(text, r.Tables)})
	return out
}

// second gives the column at which another table begins beside the first, 0 where there is none: its heading names a
// cavity again, and what is in it.
func second(heads []string) int {
	taken := map[Column]bool{}
	for i, h := range heads {
		c := headingColumn(h)
		if c == Ignored || !taken[c] {
			taken[c] = true
			continue
		}
		again := map[Column]bool{}
		for _, h := range heads[i:] {
			again[headingColumn(h)] = true
		}
		if taken[Cavity] && again[Cavity] && (again[Colour] || again[Function] || again[Circuit]) {
			if i > 1 && headingColumn(heads[i-1]) == Connector && c == Cavity {
				i-- // only the second says which plug it is of
			}
			return i
		}
	}
	return 0
}

// part gives the columns of one of several tables side by side.
func part(cells [][]string, starts []int, k int) [][]string {
	out := make([][]string, len(cells))
	for i, line := range cells {
		from, to := min(starts[k], len(line)), len(line)
		if k+1 < len(starts) {
			to = min(starts[k+1], len(line))
		}
		out[i] = line[from:to:to]
	}
	return out
}
