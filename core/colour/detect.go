package colour

import (
	"cmp"
	"maps"
	"slices"
	"strings"
)

// Reading is what a habit makes of a column.
type Reading struct {
	Habit Habit `json:"habit"`
	Read  int   `json:"read"`  // cells this habit can read
	Clear int   `json:"clear"` // of them, cells it reads in one way only
	usual int   // and written as this habit usually is
}

// Detection says in which habit a column is written.
type Detection struct {
	Habit    Habit     `json:"habit"`    // the best, Unknown for a column with no colours
	Sure     bool      `json:"sure"`     // no other habit reads nearly as many cells and reads any of them differently
	Cells    int       `json:"cells"`    // cells that are not blank
	Readings []Reading `json:"readings"` // all habits that read anything, best first
	Clashes  []string  `json:"clashes"`  // cells that the runner-up, reading as many, would read differently; at most eight
}

// much is the share of the best habit's cells from which another that disagrees makes it doubtful.
const much = 0.8

// Detect decides the habit from a whole column. The habit that reads most cells wins, then the one whose way of writing
// most of them are in, then the one that reads most of them in one way, then the order of Habits. It is sure only where
// every other habit that disagrees on a cell explains the column much worse: else it is worth asking.
func Detect(cells []string) Detection {
	d := Detection{Readings: []Reading{}, Clashes: []string{}}
	var kept []string
	for _, c := range cells {
		if len(split(c)) > 0 {
			kept = append(kept, c)
		}
	}
	d.Cells = len(kept)
	times := map[string]int{}
	for _, c := range kept {
		times[c]++
	}
	for _, h := range Habits() {
		r := Reading{Habit: h}
		for c, n := range times {
			if ways := len(distinct(read(c, h))); ways > 0 {
				r.Read += n
				if ways == 1 {
					r.Clear += n
				}
				if plausible(c, h) {
					r.usual += n
				}
			}
		}
		if r.Read > 0 {
			d.Readings = append(d.Readings, r)
		}
	}
	slices.SortStableFunc(d.Readings, func(a, b Reading) int {
		return cmp.Or(cmp.Compare(b.Read, a.Read), cmp.Compare(b.usual, a.usual), cmp.Compare(b.Clear, a.Clear))
	})
	if len(d.Readings) == 0 {
		return d
	}
	best := d.Readings[0]
	d.Habit, d.Sure = best.Habit, true
	for _, other := range d.Readings[1:] {
		if float64(other.Read) < much*float64(best.Read) {
			continue // it explains much less
		}
		for _, c := range slices.Sorted(maps.Keys(times)) {
			a, b := Parse(c, best.Habit), Parse(c, other.Habit)
			if a.String() != b.String() && b.String() != c {
				d.Sure = false
				if len(d.Clashes) < 8 && !slices.Contains(d.Clashes, c) {
					d.Clashes = append(d.Clashes, c)
				}
			}
		}
	}
	return d
}

// plausible says whether a cell is written as makers with this habit usually write: BS AU 7 runs base and tracer
// together in capitals, German codes are small letters, and a Japanese two-letter code has a small second letter.
func plausible(cell string, h Habit) bool {
	upper, lower := strings.ToUpper(cell) == cell, strings.ToLower(cell) == cell
	switch h {
	case BS:
		return upper && len(split(cell)) == 1
	case German:
		return lower
	case IEC:
		return !lower
	case Japanese:
		return !lower
	}
	return true
}
