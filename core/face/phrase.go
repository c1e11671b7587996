package face

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"draxel/core/terminal"
)

var (
	spread   = regexp.MustCompile(`^(\d+)\s*[x×]\s*(\d+)\b`)
	rowsOf   = regexp.MustCompile(`^(\d+|one|two|three|four|five|six) rows? of (\d+(?:(?:\s*,\s*|\s+and\s+|\s*,\s*and\s+)\d+)*)`)
	corner   = regexp.MustCompile(`^(?:numbered |lettered |counted )?from (?:the )?(top|bottom|upper|lower)[ -](left|right)`)
	blade    = regexp.MustCompile(`^(\d+(?:[.,]\d+)?) ?mm`)
	starting = regexp.MustCompile(`^start(?:s|ing)? (?:at|with) (\d+)`)
	wayCount = regexp.MustCompile(`^(\d+)[ -]?ways?`)
	family   = regexp.MustCompile(`^family ([a-z0-9-]{1,20})`)
	ownRow   = regexp.MustCompile(`^row (\d+) (?:of )?(\d+(?:[.,]\d+)?) ?mm`)
	keyAt    = regexp.MustCompile(`^key at the (top|bottom|left|right)(?:,? (\d{1,3}) ?%)?`)
	byHand   = regexp.MustCompile(`^named (.+)$`)
	filler   = regexp.MustCompile(`^(?:[,;.·]|and|with|a|the|of|cavities|numbered|terminals?)(?:\s|$|[,;.])`)
	numeral  = regexp.MustCompile(`\d+`)

	waysNext   = regexp.MustCompile(`^[ -]?ways?\b`)
	lastNumber = regexp.MustCompile(`\d+$`)
)

// words are the phrases that say one thing each, with what they say.
var words = []struct {
	text string
	set  func(*reading)
}{
	{"on the wire side", func(r *reading) { r.seen = WireSide }},
	{"from the wire side", func(r *reading) { r.seen = WireSide }}, {"wire side", func(r *reading) { r.seen = WireSide }},
	{"on the mating face", func(r *reading) { r.seen = MatingFace }},
	{"from the mating face", func(r *reading) { r.seen = MatingFace }},
	{"mating face", func(r *reading) { r.seen = MatingFace }},
	{"by columns", func(r *reading) { r.rule.Columns = true }},
	{"down the columns", func(r *reading) { r.rule.Columns = true }},
	{"by rows", func(r *reading) { r.rule.Columns = false }},
	{"along the rows", func(r *reading) { r.rule.Columns = false }},
	{"back and forth", func(r *reading) { r.rule.Turns = true }},
	{"letters with i, o and q", func(r *reading) { r.rule.Style = AllLetters }},
	{"all letters", func(r *reading) { r.rule.Style = AllLetters }},
	{"letters then small letters", func(r *reading) { r.rule.Style = ThenSmall }},
	{"lettered", func(r *reading) { r.rule.Style = Letters }}, {"letters", func(r *reading) { r.rule.Style = Letters }},
	{"unsealed", func(r *reading) { r.layout.Terminal.Sealing = terminal.Unsealed }},
	{"single-wire seals", func(r *reading) { r.layout.Terminal.Sealing = terminal.WireSeal }},
	{"sealed by a mat", func(r *reading) { r.layout.Terminal.Sealing = terminal.Mat }},
	{"sealed", func(r *reading) { r.layout.Terminal.Sealing = terminal.WireSeal }},
	{"female", func(r *reading) { r.layout.Terminal.Gender = terminal.Female }},
	{"male", func(r *reading) { r.layout.Terminal.Gender = terminal.Male }},
	{"pull to seat", func(r *reading) { r.layout.Terminal.Release = terminal.PullToSeat }},
	{"pull-to-seat", func(r *reading) { r.layout.Terminal.Release = terminal.PullToSeat }},
	{"rear release", func(r *reading) { r.layout.Terminal.Release = terminal.Rear }},
	{"front release", func(r *reading) { r.layout.Terminal.Release = terminal.Front }},
	{"over-moulded", func(r *reading) { r.layout.Terminal.Ends = terminal.Moulded }},
	{"soldered", func(r *reading) { r.layout.Terminal.Ends = terminal.Soldered }},
	{"insulation displacement", func(r *reading) { r.layout.Terminal.Ends = terminal.Pierced }},
	{"tin", func(r *reading) { r.layout.Terminal.Plating = "tin" }},
	{"gold", func(r *reading) { r.layout.Terminal.Plating = "gold" }},
	{"silver", func(r *reading) { r.layout.Terminal.Plating = "silver" }},
	{"lock at the top", func(r *reading) { r.layout.Lock = Top }},
	{"lock at the bottom", func(r *reading) { r.layout.Lock = Bottom }},
	{"lock at the left", func(r *reading) { r.layout.Lock = Left }},
	{"lock at the right", func(r *reading) { r.layout.Lock = Right }},
	{"comb", func(r *reading) { r.layout.Secondary = Comb }}, {"wedge", func(r *reading) { r.layout.Secondary = Wedge }},
	{"cover", func(r *reading) { r.layout.Secondary = Cover }},
	{"slide", func(r *reading) { r.layout.Secondary = Slide }},
}

type reading struct {
	layout  Layout
	named   []Row           // where the cavities are named one by one
	blades  map[int]float64 // by row, where it differs from the others
	text    string          // as it was written: names keep their case
	lengths []int
	blade   float64
	rule    Numbering
	seen    View
	ways    int
}

// Parse reads a face from words: "3 rows of 12, 12, 11, numbered from top right on the wire side", "2×8 sealed, 1.5
// mm". It fails on what it does not understand and names it.
func Parse(text string) (Layout, error) {
	r := reading{seen: WireSide, blades: map[int]float64{}, text: strings.TrimSpace(text)}
	rest := strings.ToLower(r.text)
	if len(rest) != len(r.text) { // small letters that are longer than their capitals: places must agree
		r.text = rest
	}
	for rest != "" {
		next, err := r.take(rest)
		if err != nil {
			return Layout{}, fmt.Errorf("read face: %w", err)
		}
		rest = strings.TrimSpace(next)
	}
	if len(r.lengths) == 0 && len(r.named) == 0 {
		return Layout{}, fmt.Errorf(`read face: say how the rows lie: "2 rows of 8", or "3 rows of 12, 12, 11"`)
	}
	l := r.layout
	l.Rows, l.Title, l.Terminal.Blade = Blank(r.lengths, 0).Rows, r.text, r.blade
	if len(r.named) > 0 {
		l.Rows, l.Numbering = r.named, Numbering{From: TopLeft, Style: ByHand}
		if r.seen == MatingFace {
			l.Rows = l.Mirrored().Rows
		}
	} else {
		l = l.Named(r.rule, r.seen)
	}
	for n, blade := range r.blades {
		if n > len(l.Rows) || n < 1 {
			return Layout{}, fmt.Errorf("read face: there is no row %d", n)
		}
		for i := range l.Rows[n-1].Slots {
			l.Rows[n-1].Slots[i].Blade = blade
		}
	}
	if r.ways > 0 && l.Ways() != r.ways {
		return Layout{}, fmt.Errorf("read face: the rows hold %d cavities, and %d ways are said", l.Ways(), r.ways)
	}
	return l, l.Check()
}

// take reads one piece from the front of the text and gives what is left.
func (r *reading) take(rest string) (string, error) {
	for _, w := range words {
		if after, ok := strings.CutPrefix(rest, w.text); ok && (after == "" || strings.ContainsAny(after[:1], " ,;.·")) {
			w.set(r)
			return after, nil
		}
	}
	for _, p := range []struct {
		form *regexp.Regexp
		read func(m []string) error
	}{
		{spread, func(m []string) error { return r.even(m[1], m[2]) }},
		{rowsOf, func(m []string) error { return r.uneven(m[1], numeral.FindAllString(m[2], -1)) }},
		{corner, func(m []string) error { r.rule.From = cornerOf(m[1], m[2]); return nil }},
		{blade, func(m []string) (err error) {
			r.blade, err = strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
			return err
		}},
		{starting, func(m []string) (err error) { r.rule.Start, err = number(m[1]); r.rule.Start--; return err }},
		{wayCount, func(m []string) (err error) { r.ways, err = number(m[1]); return err }},
		{ownRow, func(m []string) error { return r.rowOf(m[1], m[2]) }},
		{keyAt, func(m []string) error { return r.key(m[1], m[2]) }},
		{byHand, func(m []string) error { return r.names(r.text[len(r.text)-len(m[1]):]) }},
		{family, func(m []string) error { r.layout.Terminal.Family = m[1]; return nil }},
		{filler, func([]string) error { return nil }},
	} {
		m := p.form.FindStringSubmatch(rest)
		if m == nil {
			continue
		}
		after := rest[len(m[0]):]
		if p.form == rowsOf && waysNext.MatchString(after) { // "2 rows of 8, 16-way": the last number is not a row's
			cut := lastNumber.FindStringIndex(m[2])
			after, m[2] = m[2][cut[0]:]+after, strings.TrimRight(m[2][:cut[0]], ", and")
		}
		return after, p.read(m)
	}
	first, _, _ := strings.Cut(rest, " ")
	return "", fmt.Errorf("%q is not understood", first)
}

// rowOf reads the width of the contacts of one row.
func (r *reading) rowOf(row, blade string) error {
	n, err := number(row)
	if err != nil {
		return err
	}
	r.blades[n], err = strconv.ParseFloat(strings.Replace(blade, ",", ".", 1), 64)
	return err
}

// key reads where a key is along an edge, in hundredths from the left or from the top; the middle where nothing is
// said.
func (r *reading) key(edge, along string) error {
	k := Key{Side: Side(edge), At: 0.5}
	if along != "" {
		n, err := number(along)
		if err != nil {
			return err
		}
		k.At = float64(n) / 100
	}
	r.layout.Keys = append(r.layout.Keys, k)
	return nil
}

// names reads cavities that are named one by one, row by row: "1 2 . 3 / 4 5 6 7", a full stop for a gap.
func (r *reading) names(text string) error {
	for _, line := range strings.Split(text, "/") {
		row := Row{}
		for _, name := range strings.Fields(line) {
			if name == "." {
				row.Slots = append(row.Slots, Slot{Gap: 1})
			} else {
				row.Slots = append(row.Slots, Slot{Name: name})
			}
		}
		r.named = append(r.named, row)
	}
	return nil
}

func number(text string) (int, error) {
	n, err := strconv.Atoi(text)
	if err != nil || n > Most {
		return 0, fmt.Errorf("%s: a face has at most %d cavities", text, Most)
	}
	return n, nil
}

func (r *reading) even(rows, columns string) error {
	n, err := number(rows)
	if err != nil {
		return err
	}
	return r.uneven(strconv.Itoa(n), []string{columns})
}

func (r *reading) uneven(rows string, lengths []string) error {
	n, spelt := map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}[rows], false
	if spelt = n > 0; !spelt {
		var err error
		if n, err = number(rows); err != nil {
			return err
		}
	}
	if n < 1 || len(lengths) != 1 && len(lengths) != n {
		return fmt.Errorf("%s rows, and %d lengths are given", rows, len(lengths))
	}
	total := 0
	for i := range n {
		length, err := number(lengths[min(i, len(lengths)-1)])
		if total += length; err != nil || length < 1 || total > Most {
			return fmt.Errorf("rows of 1 cavity or more, at most %d in all", Most)
		}
		r.lengths = append(r.lengths, length)
	}
	return nil
}

func cornerOf(upDown, leftRight string) Corner {
	if upDown == "upper" {
		upDown = "top"
	}
	if upDown == "lower" {
		upDown = "bottom"
	}
	return Corner(upDown + "-" + leftRight)
}
