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
}

// Detection says in which habit a column is written.
type Detection struct {
	Habit    Habit     `json:"habit"`    // the best, Unknown for a column with no colours
	Sure     bool      `json:"sure"`     // no other habit reads as many cells and reads any of them differently
	Cells    int       `json:"cells"`    // cells that are not blank
	Readings []Reading `json:"readings"` // all habits that read anything, best first
	Clashes  []string  `json:"clashes"`  // cells that the runner-up, reading as many, would read differently; at most eight
}

// Detect decides the habit from a whole column. The habit that reads most cells wins, then the one that reads most of
// them in one way, then the order of Habits. It is not sure when another habit reads as many and disagrees on a cell:
// only there is it worth asking.
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
			if !plausible(c, h) {
				continue
			}
			if ways := len(distinct(read(c, h))); ways > 0 {
				r.Read += n
				if ways == 1 {
					r.Clear += n
				}
			}
		}
		if r.Read > 0 {
			d.Readings = append(d.Readings, r)
		}
	}
	slices.SortStableFunc(d.Readings, func(a, b Reading) int {
		return cmp.Or(cmp.Compare(b.Read, a.Read), cmp.Compare(b.Clear, a.Clear))
	})
	if len(d.Readings) == 0 {
		return d
	}
	best := d.Readings[0]
	d.Habit, d.Sure = best.Habit, true
	for _, other := range d.Readings[1:] {
		if other.Read < best.Read {
			break
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

// plausible leaves out readings that the letters allow and no maker writes: BS AU 7 runs base and tracer together in
// capitals, German codes are small letters, and a Japanese two-letter code has a small second letter.
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
