package gather

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
)

var (
	sectionWord = regexp.MustCompile(`(?i)^(?:connector|plug|housing|conn\.?|stecker)\s*[:#]?\s*"?([\pL\pN][\pL\pN -]{0,15}?)"?\s*(?:[(,:;–-].*)?$`)
	slashed     = regexp.MustCompile(`^(\d{1,3})/(\d{1,3})$`)                                        // 24/7: the 7th of the 24-way
	named       = regexp.MustCompile(`^([\pL]+\d*|[\pL]\w*?)\s*[-/.: ]\s*([A-Za-z]?\d{1,3}|[A-Z])$`) // C1-20, blue 42, E-K
	housing     = regexp.MustCompile(`^(.+?)\s*\(([^()]*)\)$`)                                       // A (26-way, grey)
	joined      = regexp.MustCompile(`^([A-Za-z])(\d{1,3})$`)                                        // A12
)

// section says whether the line names the connector for the rows below it: one filled cell, "Connector A (52-way)".
func (r Reading) section(cells []string) (name string, ways int, ok bool) {
	text := ""
	for i, c := range cells {
		if c == "" {
			continue
		}
		if text != "" || r.Columns[i] == Cavity && cavityLike.MatchString(c) {
			return "", 0, false
		}
		text = c
	}
	if m := wayCount.FindStringSubmatch(text); m != nil {
		ways, _ = strconv.Atoi(m[1])
	}
	m := sectionWord.FindStringSubmatch(strings.TrimSpace(wayCount.ReplaceAllString(text, "")))
	if m == nil {
		return "", 0, false
	}
	return strings.TrimSpace(m[1]), ways, true
}

// slashesName says whether a table without a connector column writes its cavities as 24/7, the 7th of the 24-way: most
// of its cells do, and none lies beyond its ways. A single 9/10 is more likely two cavities.
func (r Reading) slashesName(cavities []string) bool {
	is, all := 0, 0
	for _, c := range cavities {
		if c == "" {
			continue
		}
		all++
		if m := slashed.FindStringSubmatch(c); m != nil {
			ways, _ := strconv.Atoi(m[1])
			way, _ := strconv.Atoi(m[2])
			if way > ways {
				return false
			}
			is++
		}
	}
	return is > 0 && is == all || is >= 2 && 2*is > all
}

var (
	ranged = regexp.MustCompile(`^([A-Za-z]?)(\d{1,3})\s*(?:-|–|to|bis)\s*([A-Za-z]?)(\d{1,3})$`)
	commas = regexp.MustCompile(`\s*(?:,|;|&|\+|\band\b|\bund\b)\s*`)
)

// mostRanged bounds how many cavities a range is taken for.
const mostRanged = 12

// several gives the cavities that a cell lists, "4 & 5", "6-8" or "1-3; 4-6"; none where it names one.
func several(cell string) []string {
	var out []string
	for _, part := range commas.Split(cell, -1) {
		m := ranged.FindStringSubmatch(part)
		if m == nil {
			if !cavityOK.MatchString(part) || part == "" {
				return nil
			}
			out = append(out, part)
			continue
		}
		from, _ := strconv.Atoi(m[2])
		to, _ := strconv.Atoi(m[4])
		if m[3] != "" && m[3] != m[1] || to <= from || to-from >= mostRanged {
			return nil
		}
		for n := from; n <= to; n++ {
			out = append(out, m[1]+strconv.Itoa(n))
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

func (r Reading) repeatsHeading(cells []string) bool {
	same, filled := 0, 0
	for i, c := range cells {
		if c != "" {
			filled++
			if strings.EqualFold(c, r.Headings[i]) {
				same++
			}
		}
	}
	return filled >= 2 && same == filled
}

// A cavity with the word for it before, or the mark of a footnote behind: "Pin 7", "#7", "7*".
var pinWord = regexp.MustCompile(`(?i)^(?:(?:pins?|cavity|cav|way|terminal|contact|position|pos)\b\.?\s*(?:no\.?\s*)?|no\.\s*|#\s*)?(.*?)\s*\**$`)

// Marks that say: as in the line above.
var ditto = regexp.MustCompile(`(?i)^(?:["″〃]|''|-\s*["″]\s*-|ditto|do\.|dto\.?|as above)$`)

// sums is a line at the foot that adds up and is no row.
var sums = regexp.MustCompile(`(?i)^(?:(?:sub|grand)?\s*totals?|sum|summe|gesamt|Σ)\b:?$`)

// splitRef gives the cavity that a row speaks of. A connector left blank is the one above it; without a connector
// column a cavity written with its connector is taken apart; 24/7 only where slashes are how this table writes them.
func splitRef(connector, cavity, above string, hasColumn, slashes bool) (harness.Ref, int) {
	ways := 0
	cavity = pinWord.ReplaceAllString(cavity, "$1")
	if m := wayCount.FindStringSubmatch(connector); m != nil {
		ways, _ = strconv.Atoi(m[1])
		if in := housing.FindStringSubmatch(connector); in != nil && wayCount.MatchString(in[2]) {
			connector = in[1]
		} else if rest := strings.Trim(wayCount.ReplaceAllString(connector, ""), " ,;()"); rest != "" {
			connector = rest
		}
	}
	if connector == "" {
		connector = above
	}
	if !hasColumn {
		for _, form := range []*regexp.Regexp{slashed, named, joined} {
			if m := form.FindStringSubmatch(cavity); m != nil && (form != slashed || slashes) {
				connector, cavity = m[1], m[2]
				if form == slashed {
					ways, _ = strconv.Atoi(m[1])
				}
				break
			}
		}
	} else if rest, ok := strings.CutPrefix(cavity, connector); ok && connector != "" {
		if rest = strings.TrimLeft(rest, "-/. :"); rest != "" && rest[0] >= '0' && rest[0] <= '9' &&
			(connector[0] < '0' || connector[0] > '9') {
			cavity = rest // connector A, cavity A12
		}
	}
	if connector == "" {
		connector = "X1"
	}
	if n, err := strconv.Atoi(strings.TrimSuffix(cavity, ".0")); err == nil && n > 0 {
		cavity = strconv.Itoa(n) // 07 and 7.0 are cavity 7
	}
	return harness.Ref{Connector: strings.TrimSpace(connector), Cavity: strings.TrimSpace(cavity)}, ways
}

// layOut builds the connectors that the rows speak of, in order of appearance.
func layOut(rows []harness.Row, stated map[string]int, said map[string]Layout) []harness.Connector {
	names := map[string][]string{}
	order := []string{}
	for _, r := range rows {
		if _, known := names[r.Ref.Connector]; !known {
			order = append(order, r.Ref.Connector)
		}
		names[r.Ref.Connector] = append(names[r.Ref.Connector], r.Ref.Cavity)
	}
	out := []harness.Connector{}
	room := mostFilled
	for _, id := range order {
		l := said[id]
		ways := max(stated[id], l.Ways)
		if l.Ways > 0 {
			ways = l.Ways
		}
		if ways > face.Most { // no housing is so large: it is a misprint, or worse
			ways = 0
		}
		var all []string
		if room >= 0 {
			all = cavities(names[id], ways)
			room -= len(all)
		}
		if room < 0 {
			all = asFound(names[id])
		}
		c := harness.Connector{ID: id, Name: id, Cavities: all, First: face.TopLeft, Assumed: l.Rows == 0}
		c.Rows = guessRows(c.Ways())
		if l.Rows > 0 {
			c.Rows = l.Rows
		}
		if l.First != "" {
			c.First = l.First
		}
		out = append(out, c)
	}
	return out
}

// cavities gives all names of a housing in which these were seen: the numbers or letters up to the last, and at least
// as many as are stated. Names that follow neither scheme are kept as found.
func cavities(seen []string, ways int) []string {
	highest, numbers := 0, true
	for _, s := range seen {
		n, err := strconv.Atoi(s)
		numbers = numbers && err == nil && n > 0
		highest = max(highest, n)
	}
	if numbers && highest <= face.Most {
		return harness.Numbered(max(highest, ways))
	}
	for n := max(len(seen), ways); !numbers && n <= 69; n++ {
		all := face.Letters.Names(n, 0)
		if !slices.ContainsFunc(seen, func(s string) bool { return !slices.Contains(all, s) }) {
			return all
		}
	}
	return asFound(seen)
}

// mostFilled bounds the cavities of all housings of a table that are filled in though no row names them.
const mostFilled = 25_000

// asFound gives the cavities that rows name, and no other.
func asFound(seen []string) []string {
	found := slices.Clone(seen)
	slices.SortFunc(found, finding.Natural)
	return slices.Compact(found)
}

func guessRows(ways int) int {
	switch {
	case ways <= 4:
		return 1
	case ways <= 26:
		return 2
	case ways <= 66:
		return 3
	}
	return 4
}
