package handover

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Priced is what a supplier's list says of the order list.
type Priced struct {
	Lines   []PricedLine `json:"lines"`
	Unknown []string     `json:"unknown"` // what is no line of the order list, as it is written there
	Bad     []string     `json:"bad"`     // what cannot be read, by its line
}

// PricedLine is a line of the order list as it would be, and what was said of it before.
type PricedLine struct {
	Was  Bought `json:"was"`
	Said Bought `json:"said"`
	What string `json:"what"`
}

// priceColumns are the words of a heading by what the column holds, tried in order against the whole heading.
var priceColumns = []struct {
	field string
	words []string
}{
	{"what", []string{"what", "item", "part", "description", "article", "position"}},
	{"unit", []string{"unit", "per"}},
	{"price", []string{"price", "unit price", "price each", "each", "price a piece", "net price"}},
	{"supplier", []string{"supplier", "from", "vendor", "dealer"}},
	{"days", []string{"lead time, days", "lead time", "days", "lead", "delivery, days", "delivery"}},
	{"there", []string{"there", "in stock", "stock"}},
}

// Prices reads a supplier's list, as rows of cells, onto the order list: the order list as it was given away with its
// prices filled in, or any table with a column that names the part and one with its price. A line of it is that of the
// order list whose words it has; only cells that are filled in say anything. It fails where no heading names both.
func Prices(cells [][]string, lines []OrderLine) (Priced, error) {
	out := Priced{Lines: []PricedLine{}, Unknown: []string{}, Bad: []string{}}
	head, column := -1, map[string]int{}
	for i, row := range cells[:min(len(cells), 20)] {
		if found := priceHeading(row); found["what"] > 0 && found["price"] > 0 {
			head, column = i, found
			break
		}
	}
	if head < 0 {
		return out, fmt.Errorf("no heading names the part and its price: What and Price")
	}
	byWhat := map[string][]*OrderLine{}
	for i := range lines {
		byWhat[plainWords(lines[i].What)] = append(byWhat[plainWords(lines[i].What)], &lines[i])
	}
	seen := map[string]int{}
	for i := head + 1; i < len(cells); i++ {
		cell := func(field string) string {
			if at := column[field]; at > 0 && at <= len(cells[i]) {
				return strings.TrimSpace(cells[i][at-1])
			}
			return ""
		}
		what := cell("what")
		if what == "" {
			continue
		}
		all := slices.DeleteFunc(slices.Clone(byWhat[plainWords(what)]), func(l *OrderLine) bool {
			unit := cell("unit")
			return unit != "" && len(byWhat[plainWords(what)]) > 1 && plainWords(unit) != plainWords(l.Unit)
		})
		if len(all) != 1 {
			out.Unknown = append(out.Unknown, what)
			continue
		}
		l := all[0]
		is, err := said(l, cell)
		switch {
		case err != nil:
			out.Bad = append(out.Bad, fmt.Sprintf("line %d, %s: %v", i+1, what, err))
		case seen[l.Key] > 0:
			out.Bad = append(out.Bad, fmt.Sprintf("line %d, %s: stands on line %d already", i+1, what, seen[l.Key]))
		default:
			seen[l.Key] = i + 1
			was := l.Said
			if was.Key = l.Key; is != was {
				out.Lines = append(out.Lines, PricedLine{Was: was, Said: is, What: l.What})
			}
		}
	}
	return out, nil
}

// said gives what is said of a line of the order list, with what a list says of it.
func said(l *OrderLine, cell func(field string) string) (Bought, error) {
	out := l.Said
	out.Key = l.Key
	if text := cell("price"); text != "" && text != fmt.Sprint(out.Price) { // as the order list itself writes it
		p, err := amount(text)
		if err != nil {
			return out, err
		}
		out.Price = p
	}
	if text := cell("there"); text != "" && text != fmt.Sprint(out.There) {
		n, err := amount(text)
		if err != nil {
			return out, err
		}
		out.There = n
	}
	if text := cell("days"); text != "" {
		n, err := amount(text)
		if err != nil || n != float64(int(n)) {
			return out, fmt.Errorf("%q is no number of days", text)
		}
		out.Days = int(n)
	}
	if text := cell("supplier"); text != "" {
		out.Supplier = text
	}
	return out, out.Check()
}

// priceHeading gives the columns of a heading, from 1, by what they hold.
func priceHeading(row []string) map[string]int {
	out := map[string]int{}
	for _, c := range priceColumns {
		for _, word := range c.words {
			i := slices.IndexFunc(row, func(cell string) bool { return plainWords(cell) == word })
			if i >= 0 {
				out[c.field] = i + 1
				break
			}
		}
	}
	return out
}

// plainWords gives a text in small letters with single blanks.
func plainWords(text string) string { return strings.Join(strings.Fields(strings.ToLower(text)), " ") }

// amountText is an amount with what people write around it: a currency before or behind.
var amountText = regexp.MustCompile(`^[^\d-]{0,12}(\d[\d.,' ]*)\s*[^\d]{0,12}$`)

// amount reads an amount as people write it: 12.50, 12,50, 1.234,50, 1,234.50, 1 234.50. One separator with three
// digits behind it and no other could be either: it is refused.
func amount(text string) (float64, error) {
	m := amountText.FindStringSubmatch(strings.ReplaceAll(text, "\u00a0", " "))
	if m == nil {
		return 0, fmt.Errorf("%q is no amount", text)
	}
	digits := strings.NewReplacer(" ", "", "'", "").Replace(strings.TrimRight(m[1], ".,' "))
	point, comma := strings.LastIndex(digits, "."), strings.LastIndex(digits, ",")
	last := max(point, comma)
	switch {
	case last < 0:
	case point >= 0 && comma >= 0:
		whole := strings.NewReplacer(".", "", ",", "").Replace(digits[:last])
		digits = whole + "." + digits[last+1:]
	case strings.Count(digits, digits[last:last+1]) > 1: // of thousands
		digits = strings.ReplaceAll(digits, digits[last:last+1], "")
	case len(digits)-last-1 == 3 && digits[:last] != "0":
		return 0, fmt.Errorf("%q could be thousands or thousandths: write it without its separator", text)
	default:
		digits = digits[:last] + "." + digits[last+1:]
	}
	v, err := strconv.ParseFloat(digits, 64)
	if err != nil {
		return 0, fmt.Errorf("%q is no amount", text)
	}
	return v, nil
}
