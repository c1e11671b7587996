package gather

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"

	"draxel/core/colour"
	"draxel/core/signal"
	"draxel/core/size"
)

// headings holds the words of a heading that name a column, tried from the top: the first column of which a word stands
// in the heading is meant. So "wire colour" is a colour, "connector pin" a cavity and "circuit description" a function.
var headings = []heading{
	{Connector, []string{"connector colour", "connector color", "plug colour", "plug color", "connector name",
		"connector id", "connector no", "connector ref"}},
	{Size, []string{"size", "gauge", "awg", "mm²", "mm2", "mm", "section", "csa", "sqmm", "querschnitt", "area"}},
	{Colour, []string{"colour", "color", "col", "colours", "colors", "farbe", "clr", "insulation"}},
	{FarEnd, []string{"far end", "destination", "goes to", "connected to", "connects to", "to", "component", "device",
		"dest", "other end", "from", "leads to", "target"}},
	{Function, []string{"function", "description", "designation", "signal", "purpose", "use", "assignment", "desc",
		"funktion", "bezeichnung", "meaning", "circuit name", "signal name", "terminal name", "pin name", "wire function",
		"usage", "name", "label", "what"}},
	{Cavity, []string{"pin", "cavity", "terminal", "contact", "position", "way", "pos", "cav", "pins", "pole", "socket",
		"slot", "chamber"}},
	{Circuit, []string{"circuit", "ckt", "cct", "wire no", "wire number", "wire id", "net", "line no", "circ", "number",
		"no"}},
	{Connector, []string{"connector", "conn", "plug", "housing", "con", "shell", "stecker", "block", "header", "unit"}},
	{Note, []string{"note", "notes", "remark", "remarks", "comment", "comments", "info", "condition"}},
}

type heading struct {
	column Column
	words  []string
}

// wordsOf gives the words of a text in small letters, a space between each two.
func wordsOf(text string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsNumber(r) && r != '²'
	}), " ")
}

// headingColumn gives the column that a heading names, Ignored when it names none.
func headingColumn(heading string) Column {
	h := " " + wordsOf(heading) + " "
	if len(h) > 40 {
		return Ignored
	}
	for _, e := range spaced() {
		for _, w := range e.words {
			if strings.Contains(h, w) {
				return e.column
			}
		}
	}
	return Ignored
}

// spaced gives the headings with a space on either side of their words: each is found as a whole.
var spaced = sync.OnceValue(func() []heading {
	out := slices.Clone(headings)
	for i, e := range headings {
		out[i].words = make([]string, len(e.words))
		for k, w := range e.words {
			out[i].words[k] = " " + w + " "
		}
	}
	return out
})

// findHeader gives the line, among the first forty, that names most columns, at least two and a cavity among them, and
// −1 when there is none.
func findHeader(cells [][]string) int {
	best, at := 1, -1
	for i, line := range cells[:min(len(cells), 40)] {
		found := map[Column]bool{}
		filled := 0
		for _, c := range line {
			if strings.TrimSpace(c) != "" {
				filled++
			}
			if col := headingColumn(c); col != Ignored {
				found[col] = true
			}
		}
		if len(found) > best && 2*len(found) >= filled && (found[Cavity] || len(found) >= 3) {
			best, at = len(found), i
		}
	}
	return at
}

// assignColumns says what each column holds: what a person said, then what the headings say, then, for the columns that
// matter most and have no heading, what stands in them. A column is given away once; the first heading that asks wins.
func assignColumns(heads []string, body [][]string, said map[int]Column) []Column {
	out := make([]Column, len(heads))
	taken := map[Column]bool{}
	for i, c := range said {
		if i >= 0 && i < len(out) {
			out[i] = c
			taken[c] = true
		}
	}
	give := func(i int, c Column) {
		if _, fixed := said[i]; !fixed && out[i] == Ignored && c != Ignored && !taken[c] {
			out[i], taken[c] = c, true
		}
	}
	for i, h := range heads {
		give(i, headingColumn(h))
	}
	for _, c := range []Column{Colour, Function, Cavity, Connector, Circuit} {
		if taken[c] {
			continue
		}
		best, at := 0.6, -1
		for i := range heads {
			if _, fixed := said[i]; fixed || out[i] != Ignored || heads[i] != "" && c == Connector {
				continue
			}
			if s := looksLike(c, column(body, i)); s > best {
				best, at = s, i
			}
		}
		if at >= 0 {
			give(at, c)
		}
	}
	return out
}

func column(body [][]string, i int) []string {
	var out []string
	for _, line := range body {
		if i < len(line) && strings.TrimSpace(line[i]) != "" {
			out = append(out, strings.TrimSpace(line[i]))
		}
	}
	return out
}

var (
	cavityLike  = regexp.MustCompile(`^(?:[A-Za-z]{1,2}\d?[-/ ]?)?\d{1,3}$|^[A-Za-z]{1,2}$|^[a-z]+ \d{1,3}$`)
	circuitLike = regexp.MustCompile(`^[A-Za-z]{0,3}\d{2,5}[A-Za-z]?$`)
)

// looksLike gives the share of the cells that look like the column, 0 to 1.
func looksLike(c Column, cells []string) float64 {
	if len(cells) == 0 {
		return 0
	}
	share := func(is func(string) bool) float64 {
		n := 0
		for _, s := range cells {
			if is(s) {
				n++
			}
		}
		return float64(n) / float64(len(cells))
	}
	switch c {
	case Colour:
		d := colour.Detect(cells)
		if len(d.Readings) == 0 || share(func(s string) bool { return len(s) > 1 }) < 0.5 {
			return 0
		}
		return float64(d.Readings[0].Read) / float64(len(cells))
	case Function:
		return share(func(s string) bool { return len(s) > 5 && signal.Read(s).Read() })
	case Cavity:
		return share(cavityLike.MatchString) * distinctShare(cells)
	case Connector:
		if distinctShare(cells) > 0.4 && len(cells) > 4 {
			return 0
		}
		return share(func(s string) bool { return len(s) <= 12 })
	case Circuit:
		return share(func(s string) bool {
			_, err := size.Parse(s, size.Square)
			n, _ := strconv.Atoi(s)
			return circuitLike.MatchString(s) && (err != nil || n >= 10)
		})
	}
	return 0
}

// distinctShare is near 1 where most cells differ; a cavity column restarts with each connector, so half counts as
// whole.
func distinctShare(cells []string) float64 {
	seen := slices.Clone(cells)
	slices.Sort(seen)
	return min(1, 2*float64(len(slices.Compact(seen)))/float64(len(cells)))
}
