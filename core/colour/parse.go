package colour

import (
	"strings"
	"unicode"
)

// Parse reads one cell in the given habit. In the Unknown habit it is read in all of them, and readings that differ
// become candidates. A cell that no reading fits comes back with what was written and nothing else.
func Parse(text string, h Habit) Colour {
	c := Colour{Written: text}
	var all [][]Part
	if h == Unknown {
		for _, each := range Habits() {
			all = append(all, read(text, each)...)
		}
	} else {
		all = read(text, h)
	}
	all = distinct(all)
	switch {
	case len(all) == 1:
		c.Parts = all[0]
	case len(all) > 1:
		c.Candidates = all
	}
	return c
}

func distinct(all [][]Part) [][]Part {
	var out [][]Part
	seen := map[string]bool{}
	for _, p := range all {
		if key := join(p); !seen[key] {
			seen[key] = true
			out = append(out, p)
		}
	}
	return out
}

// read gives the readings of a cell in one habit: none, one, or several where a run of letters can be cut in two ways.
func read(text string, h Habit) [][]Part {
	tokens := split(text)
	if len(tokens) == 0 {
		return nil
	}
	if h == Words || h == US {
		if p := spoken(tokens, h); p != nil {
			return [][]Part{p}
		}
		return nil
	}
	if len(tokens) == 1 {
		return cut(tokens[0], h)
	}
	var parts []Part
	for _, t := range tokens {
		p, ok := codes[h][strings.ToUpper(t)]
		if !ok {
			return nil
		}
		parts = append(parts, p)
	}
	if len(parts) > 3 {
		return nil
	}
	return [][]Part{parts}
}

// split takes a cell apart at anything that is not a letter.
func split(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return !unicode.IsLetter(r) })
}

// spoken reads the habits in which a shade stands as a word of its own before the colour, or in one word with it.
// "Black tracer on white" names the tracer first.
func spoken(tokens []string, h Habit) []Part {
	var parts []Part
	shade, on := Shade(""), -1
	for i, t := range tokens {
		t = strings.ToUpper(t)
		switch t {
		case "WITH", "AND", "TRACER", "STRIPE", "STRIPED", "MIT", "UND", "STREIFEN":
			continue
		case "ON", "AUF":
			on = len(parts)
			continue
		case "W":
			if i > 0 && i < len(tokens)-1 { // white w/ black
				continue
			}
			parts = append(parts, plain(White)) // BLK/W
			continue
		}
		if s, ok := shades[t]; ok {
			shade = s
			continue
		}
		p, ok := codes[h][t]
		for short, s := range compounds { // LTGRN, hellgrün
			if rest, cut := strings.CutPrefix(t, short); !ok && cut {
				if p, ok = codes[h][rest]; ok {
					shade = s
				}
			}
		}
		if !ok {
			return nil
		}
		if shade != "" {
			p.Shade, shade = shade, ""
		}
		parts = append(parts, p)
	}
	if shade != "" || len(parts) > 3 || on == 0 || on == len(parts) {
		return nil
	}
	if on > 0 {
		parts = append(parts[on:len(parts):len(parts)], parts[:on]...)
	}
	return parts
}

// cut takes a run of letters apart into at most three codes, in every way it can be done. Where the run is written
// with a small letter inside (BrW, Lg), the small letter belongs to the capital before it and decides.
func cut(run string, h Habit) [][]Part {
	letters := strings.ToUpper(run)
	mixed := h == Japanese && run != letters && run != strings.ToLower(run)
	if !runs[h] {
		if p, ok := codes[h][letters]; ok {
			return [][]Part{{p}}
		}
		return nil
	}
	var out [][]Part
	var walk func(at int, parts []Part)
	walk = func(at int, parts []Part) {
		if at == len(letters) {
			out = append(out, append([]Part(nil), parts...))
			return
		}
		for n := 1; n <= 3 && at+n <= len(letters) && len(parts) < 3; n++ {
			if mixed && !natural(run, at, n) {
				continue
			}
			piece := letters[at : at+n]
			if piece == "LB" && h == Japanese && !mixed { // in capitals it is blue with black
				continue
			}
			if p, ok := codes[h][piece]; ok {
				walk(at+n, append(parts, p))
			}
		}
	}
	walk(0, nil)
	if h == BS && len(out) > 1 {
		return preferShade(out)
	}
	return out
}

// natural says whether a piece of a mixed-case run begins with a capital, goes on in small letters and ends before a
// capital.
func natural(run string, at, n int) bool {
	r := []rune(run)
	if len(r) != len(run) || !unicode.IsUpper(r[at]) {
		return false
	}
	for i := at + 1; i < at+n; i++ {
		if !unicode.IsLower(r[i]) {
			return false
		}
	}
	return at+n == len(r) || unicode.IsUpper(r[at+n])
}

// preferShade keeps the shortest cuts: in BS AU 7 LG is light green; there is no L to stand alone.
func preferShade(all [][]Part) [][]Part {
	least := len(all[0])
	for _, p := range all {
		least = min(least, len(p))
	}
	var out [][]Part
	for _, p := range all {
		if len(p) == least {
			out = append(out, p)
		}
	}
	return out
}
