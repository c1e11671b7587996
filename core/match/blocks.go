package match

import (
	"slices"

	"draxel/core/signal"
)

// manyPairs is how many pairs are compared one by one. Of more, only those are followed up that have something in
// common: an equal number, a device, the same cavity of one housing, or a word that few rows have. All others count in
// the tally of patterns, by their kinds, and are no candidates: without a word, a number or a place in common a pair
// would be matched by its colour and size alone, which among thousands of rows says nothing.
const manyPairs = 1_200_000

// rareWord is how many rows of a side a word can be in and still bring rows together.
const rareWord = 60

// blocks gives, for each From row, the To rows that it is compared with.
type blocks struct {
	c                        *comparer
	byNumber, byDevice       map[string][]int32
	byPlace, byWord, byPlain map[string][]int32
	seen                     []int32 // by To row: the From row that asked for it last, plus one
	out                      []int32
}

func newBlocks(c *comparer) *blocks {
	b := &blocks{c: c, byNumber: map[string][]int32{}, byDevice: map[string][]int32{}, byPlace: map[string][]int32{},
		byWord: map[string][]int32{}, byPlain: map[string][]int32{}, seen: make([]int32, len(c.to))}
	for j := range c.to {
		row, at := &c.to[j], int32(j)
		if c.numT[j] > 0 {
			key := numberKey(c.numT[j])
			b.byNumber[key] = append(b.byNumber[key], at)
		}
		for _, device := range devices(&row.Signal) {
			b.byDevice[device] = append(b.byDevice[device], at)
		}
		if row.Signal.Exchangeable() {
			b.byPlain[string(row.Signal.Role)] = append(b.byPlain[string(row.Signal.Role)], at)
		}
		if h := c.housingT[j]; h > 0 {
			key := numberKey(h) + "/" + row.Ref.Cavity
			b.byPlace[key] = append(b.byPlace[key], at)
		}
		for word := range c.words.to[j] {
			b.byWord[word] = append(b.byWord[word], at)
		}
	}
	return b
}

func numberKey(n int) string {
	return string([]byte{byte(n), byte(n >> 8), byte(n >> 16), byte(n >> 24)})
}

// devices are those that a reading may be of.
func devices(s *signal.Reading) []string {
	if !s.Read() {
		return nil
	}
	return append([]string{s.Device}, s.Others...)
}

// of gives the To rows that a From row is compared with, in order.
func (b *blocks) of(i int) []int32 {
	b.out = b.out[:0]
	put := func(rows []int32) {
		for _, j := range rows {
			if b.seen[j] != int32(i)+1 {
				b.seen[j] = int32(i) + 1
				b.out = append(b.out, j)
			}
		}
	}
	row := &b.c.from[i]
	if n := b.c.numF[i]; n > 0 {
		put(b.byNumber[numberKey(n)])
	}
	for _, device := range devices(&row.Signal) {
		put(b.byDevice[device])
	}
	if row.Signal.Read() && !row.Signal.Exchangeable() { // the plain ground or reference of a named sensor
		put(b.byPlain[string(row.Signal.Role)])
	}
	if h := b.c.housingF[i]; h > 0 {
		put(b.byPlace[numberKey(h)+"/"+row.Ref.Cavity])
	}
	for word := range b.c.words.from[i] {
		if rows := b.byWord[word]; len(rows) <= rareWord {
			put(rows)
		}
	}
	slices.Sort(b.out)
	return b.out
}

// kindOf is what a row shows of itself in a pattern: has it a number, its colour, size and housing.
type kindOf struct {
	number              bool
	colour, size, house int
}

// tally counts the pairs by pattern without looking at each: rows of one kind stand together, and pairs with equal
// numbers, or in the same cavity of one housing, are put right afterwards.
func (c *comparer) tally() [patterns]float64 {
	var out [patterns]float64
	count := func(rows int, of func(int) kindOf) (kinds []kindOf, n map[kindOf]int) {
		n = map[kindOf]int{}
		for i := range rows {
			k := of(i)
			if n[k] == 0 {
				kinds = append(kinds, k)
			}
			n[k]++
		}
		return kinds, n
	}
	from, nFrom := count(len(c.from), func(i int) kindOf {
		return kindOf{c.numF[i] > 0, c.colour.f[i], c.size.f[i], c.housingF[i]}
	})
	to, nTo := count(len(c.to), func(j int) kindOf {
		return kindOf{c.numT[j] > 0, c.colour.t[j], c.size.t[j], c.housingT[j]}
	})
	for _, f := range from {
		for _, t := range to {
			number, place := 0, 0
			if f.number && t.number {
				number = numberDiffer
			}
			if t.house > 0 && t.house == f.house {
				place = placeDiffer
			}
			out[pack(number, int(c.colour.levels[f.colour][t.colour]), int(c.size.levels[f.size][t.size]), place)] +=
				float64(nFrom[f]) * float64(nTo[t])
		}
	}
	numbers, cavities := map[int][]int{}, map[string][]int{}
	for j := range c.to {
		if c.numT[j] > 0 {
			numbers[c.numT[j]] = append(numbers[c.numT[j]], j)
		}
		if h := c.housingT[j]; h > 0 {
			key := numberKey(h) + "/" + c.to[j].Ref.Cavity
			cavities[key] = append(cavities[key], j)
		}
	}
	right := func(i, j int) { // counted as if nothing were equal
		was := c.pattern(i, j)
		number, place := was.number(), was.place()
		if number == numberEqual {
			number = numberDiffer
		}
		if place == placeSame {
			place = placeDiffer
		}
		out[pack(number, was.colour(), was.size(), place)]--
		out[was]++
	}
	for i := range c.from {
		var done []int
		if c.numF[i] > 0 {
			for _, j := range numbers[c.numF[i]] {
				right(i, j)
				done = append(done, j)
			}
		}
		if h := c.housingF[i]; h > 0 {
			for _, j := range cavities[numberKey(h)+"/"+c.from[i].Ref.Cavity] {
				if !slices.Contains(done, j) {
					right(i, j)
				}
			}
		}
	}
	return out
}
