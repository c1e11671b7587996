package match

import (
	"math"
	"slices"
	"strings"

	"draxel/core/colour"
	"draxel/core/harness"
	"draxel/core/signal"
)

// Levels of agreement. Level 0 of each field is "missing": blank or unread, and never evidence.
const (
	numberEqual, numberDiffer               = 1, 2
	sizeDiffer, sizeNear, sizeEqual         = 1, 2, 3
	placeDiffer, placeSame                  = 1, 2
	numbers, colours, sizes, places pattern = 3, 4, 4, 3
	patterns                                = numbers * colours * sizes * places
)

// pattern packs the levels of number, colour, size and place, the fields whose weights are estimated.
type pattern uint8

func pack(number, colour, size, place int) pattern {
	return pattern(number) + numbers*(pattern(colour)+colours*(pattern(size)+sizes*pattern(place)))
}

func (p pattern) number() int { return int(p % numbers) }
func (p pattern) colour() int { return int(p / numbers % colours) }
func (p pattern) size() int   { return int(p / (numbers * colours) % sizes) }
func (p pattern) place() int  { return int(p / (numbers * colours * sizes)) }

// comparer holds what is needed to set any From row beside any To row quickly: labels are interned, and what depends on
// two labels alone is looked up in a table.
type comparer struct {
	from, to   []harness.Row
	numF, numT []int // circuit numbers; 0 is blank
	colour     table
	size       table
	housingF   []int // housings, 0 where there is no counterpart
	housingT   []int
	likeness   [signal.Same + 1]float64 // bits by likeness
	words      *wordSpace
}

// table gives the level of agreement of two interned labels.
type table struct {
	f, t   []int
	levels [][]uint8
}

func newComparer(from, to []harness.Row, meetings Meetings) *comparer {
	c := &comparer{from: from, to: to, words: newWordSpace(from, to)}
	numbers := interner{"": 0}
	label := func(r harness.Row) string { return strings.ToUpper(strings.TrimLeft(r.Circuit, "0 ")) }
	c.numF, c.numT = numbers.each(from, label), numbers.each(to, label)
	c.colour = newTable(from, to, func(r harness.Row) string { return r.Colour.String() },
		func(a, b harness.Row) uint8 { return uint8(colour.Compare(a.Colour, b.Colour)) })
	c.size = newTable(from, to, func(r harness.Row) string { return r.Size.String() }, sizeLevel)
	housings := interner{"": 0}
	c.housingF = housings.each(from, func(r harness.Row) string { return r.Ref.Connector })
	c.housingT = housings.each(to, func(r harness.Row) string { return meetings.housing(r.Ref.Connector) })
	n := float64(max(len(from), len(to), 1))
	for like := range c.likeness {
		c.likeness[like] = likenessBits(signal.Likeness(like), n)
	}
	return c
}

// interner numbers labels in the order in which they come.
type interner map[string]int

func (in interner) each(rows []harness.Row, label func(harness.Row) string) []int {
	out := make([]int, len(rows))
	for i, r := range rows {
		key := label(r)
		id, known := in[key]
		if !known {
			id = len(in)
			in[key] = id
		}
		out[i] = id
	}
	return out
}

func newTable(from, to []harness.Row, label func(harness.Row) string, level func(a, b harness.Row) uint8) table {
	inF, inT := interner{}, interner{}
	t := table{f: inF.each(from, label), t: inT.each(to, label)}
	t.levels = make([][]uint8, len(inF))
	firstT := make([]int, len(inT))
	for j := range slices.Backward(to) {
		firstT[t.t[j]] = j
	}
	for i, id := range t.f {
		if t.levels[id] != nil {
			continue
		}
		t.levels[id] = make([]uint8, len(inT))
		for k, j := range firstT {
			t.levels[id][k] = level(from[i], to[j])
		}
	}
	return t
}

func (t *table) level(i, j int) int { return int(t.levels[t.f[i]][t.t[j]]) }

func sizeLevel(a, b harness.Row) uint8 {
	switch {
	case a.Size <= 0 || b.Size <= 0:
		return 0
	case a.Size.Equal(b.Size):
		return sizeEqual
	case a.Size.Near(b.Size):
		return sizeNear
	}
	return sizeDiffer
}

func (c *comparer) pattern(i, j int) pattern {
	number, place := 0, 0
	if x, y := c.numF[i], c.numT[j]; x > 0 && y > 0 {
		number = numberDiffer
		if x == y {
			number = numberEqual
		}
	}
	if h := c.housingT[j]; h > 0 && h == c.housingF[i] {
		place = placeDiffer
		if c.from[i].Ref.Cavity == c.to[j].Ref.Cavity {
			place = placeSame
		}
	}
	return pack(number, c.colour.level(i, j), c.size.level(i, j), place)
}

// function gives the weight of the two function texts in bits, for sides of which the longer has n rows.
func (c *comparer) function(i, j int, n float64) float64 {
	a, b := &c.from[i].Signal, &c.to[j].Signal
	like := a.Likeness(b)
	if like == signal.NotCompared {
		return c.words.bits(i, j, n, a.Read() && b.Read())
	}
	return c.likeness[like] * min(a.Sure, b.Sure)
}

// likenessBits gives the weight of a likeness. Its m and u are fixed priors (they come from made pairs, not from the
// one at hand): function is the anchor by which the weights of the other fields are learned. The chance that two
// wires which do not belong together agree in full falls with the number of rows, since a pinout names each circuit
// about once.
func likenessBits(like signal.Likeness, n float64) float64 {
	switch like {
	case signal.Same:
		return math.Log2(0.80 * n / 0.006)
	case signal.IndexUnknown:
		return math.Log2(0.15 * n / 0.03)
	case signal.Interchangeable:
		return math.Log2(0.25 * n)
	case signal.OtherAspect:
		return math.Log2(0.004 / 0.02)
	case signal.IndexConflict:
		return math.Log2(0.0003 / 0.02)
	case signal.OtherDevice:
		return math.Log2(0.006 / 0.95)
	}
	return 0
}

// wordSpace compares texts that the vocabulary could not read, by the words they share; rare words count more.
type wordSpace struct {
	from, to         []map[string]float64
	fromLen, toLen   []float64
	fromText, toText []string
}

func newWordSpace(from, to []harness.Row) *wordSpace {
	w := &wordSpace{}
	count := map[string]float64{}
	bags := func(rows []harness.Row) (bags []map[string]float64, texts []string) {
		for _, r := range rows {
			bag := map[string]float64{}
			words := signal.Words(r.Function)
			for _, word := range words {
				if bag[word] == 0 {
					count[word]++
				}
				bag[word] = 1
			}
			bags, texts = append(bags, bag), append(texts, strings.Join(words, " "))
		}
		return bags, texts
	}
	w.from, w.fromText = bags(from)
	w.to, w.toText = bags(to)
	total := float64(len(from) + len(to))
	weigh := func(bags []map[string]float64) []float64 {
		out := make([]float64, len(bags))
		for i, bag := range bags {
			for word := range bag {
				bag[word] = math.Log(1 + total/count[word])
			}
			sum := 0.0
			for _, word := range sortedKeys(bag) {
				sum += bag[word] * bag[word]
			}
			out[i] = math.Sqrt(sum)
		}
		return out
	}
	w.fromLen, w.toLen = weigh(w.from), weigh(w.to)
	return w
}

// likeness is the cosine between the two texts, 0 to 1, and −1 when one is blank.
func (w *wordSpace) likeness(i, j int) float64 {
	if w.fromLen[i] == 0 || w.toLen[j] == 0 {
		return -1
	}
	a, b := w.from[i], w.to[j]
	if len(b) < len(a) {
		a, b = b, a
	}
	sum := 0.0
	for word, x := range a {
		sum += x * b[word]
	}
	return sum / (w.fromLen[i] * w.toLen[j])
}

// bits gives the weight of two texts by their words. Where both were read and may mean the same, only much in common
// counts.
func (w *wordSpace) bits(i, j int, n float64, read bool) float64 {
	like := w.likeness(i, j)
	switch {
	case like < 0:
		return 0
	case w.fromText[i] == w.toText[j]:
		return math.Log2(0.4 * n / 0.01)
	case like >= 0.6:
		return math.Log2(0.25 * n / 0.4)
	case like >= 0.3:
		return math.Log2(0.15 * n / 4)
	case read:
		return -1
	}
	return -2
}
