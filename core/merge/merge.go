// Package merge brings together what two hands made of one value at the same time, field by field.
//
// A value is what JSON can say. Both hands began from one base; what only one of them changed is as that one left it,
// and where both changed the same place to different things nobody can say which is meant: that is a clash.
package merge

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
)

// Clash says at which place of a value two hands made different things: "/stations/3/at", empty for the whole.
type Clash struct{ Place string }

func (c *Clash) Error() string { return "two people changed " + c.Place }

// How a merge goes where both changed the same place.
type How int

const (
	Tell How = iota // it is a clash
	Mine            // mine is what holds: theirs is an earlier change of the same hand
)

// absent is the value of a field or an entry that is not there.
var absent any = struct{}{}

// Fields merges theirs into mine; both were made from base. It fails with *Clash, and where one of them is no JSON.
func Fields(base, mine, theirs json.RawMessage, how How) (json.RawMessage, error) {
	var v [3]any
	for i, text := range []json.RawMessage{base, mine, theirs} {
		v[i] = absent
		if text == nil {
			continue
		}
		d := json.NewDecoder(bytes.NewReader(text))
		d.UseNumber() // a number stays as it was written
		if err := d.Decode(&v[i]); err != nil {
			return nil, fmt.Errorf("merge: %w", err)
		}
	}
	if v[0] == absent && v[2] != absent { // both made it: what they said of it is compared field by field
		v[0] = empty(v[1])
	}
	out, err := merge("", v[0], v[1], v[2], how, false)
	if err != nil || out == absent {
		return nil, err
	}
	return json.Marshal(out)
}

// merge merges values; in says that they are lines of a list, where a list is a line of cells and not a set.
func merge(place string, base, mine, theirs any, how How, in bool) (any, error) {
	switch {
	case same(mine, theirs), same(base, theirs):
		return mine, nil
	case same(base, mine):
		return theirs, nil
	}
	if how == Mine && base == absent { // both came since, by one hand
		base = empty(mine)
	}
	switch b := base.(type) {
	case map[string]any:
		m, isMine := mine.(map[string]any)
		t, isTheirs := theirs.(map[string]any)
		if isMine && isTheirs {
			return object(place, b, m, t, how)
		}
	case []any:
		m, isMine := mine.([]any)
		t, isTheirs := theirs.([]any)
		if isMine && isTheirs {
			return list(place, b, m, t, how, in)
		}
	}
	return clash(place, mine, how)
}

func clash(place string, mine any, how How) (any, error) {
	if how == Mine {
		return mine, nil
	}
	return nil, &Clash{place}
}

// same says whether two values say the same. What is not there is the same as null.
func same(a, b any) bool {
	if a == absent {
		a = nil
	}
	if b == absent {
		b = nil
	}
	return reflect.DeepEqual(a, b)
}

// empty gives the empty value of a kind.
func empty(of any) any {
	switch of.(type) {
	case map[string]any:
		return map[string]any{}
	case []any:
		return []any{}
	}
	return absent
}

// stamps are the fields that say who changed a thing last, and when: the later holds.
var stamps = map[string]bool{"who": true, "when": true}

func object(place string, base, mine, theirs map[string]any, how How) (any, error) {
	out := map[string]any{}
	names := map[string]bool{}
	for _, m := range []map[string]any{base, mine, theirs} {
		for name := range m {
			names[name] = true
		}
	}
	for _, name := range slices.Sorted(maps.Keys(names)) { // the first place that clashes is always the same
		how := how
		if stamps[name] {
			how = Mine
		}
		v, err := merge(place+"/"+name, field(base, name), field(mine, name), field(theirs, name), how, false)
		if err != nil {
			return nil, err
		}
		if v != absent {
			out[name] = v
		}
	}
	return out, nil
}

func field(m map[string]any, name string) any {
	if v, there := m[name]; there {
		return v
	}
	return absent
}

// list merges lists: of things with names by these, of words as a set that keeps its order, of anything else line by
// line, as long as nobody took a line out. As many numbers as there were belong together: a place has two.
func list(place string, base, mine, theirs []any, how How, in bool) (any, error) {
	all := [3][]any{base, mine, theirs}
	for _, fields := range names {
		if naming := named(fields); unique(all, naming) {
			return things(place, all, naming, how)
		}
	}
	fixed := len(base) == len(mine) && len(base) == len(theirs)
	switch {
	case fixed && slices.ContainsFunc(base, isNumber):
		return clash(place, mine, how)
	case !in && unique(all, wordOf):
		return set(place, base, mine, theirs, how)
	case len(mine) < len(base) || len(theirs) < len(base):
		return clash(place, mine, how)
	}
	out := make([]any, max(len(mine), len(theirs)))
	for i := range out {
		v, err := merge(fmt.Sprint(place, "/", i), line(base, i), line(mine, i), line(theirs, i), how, true)
		if err != nil {
			return nil, err
		}
		out[i] = v
	}
	return out, nil
}

func line(l []any, i int) any {
	if i < len(l) {
		return l[i]
	}
	return absent
}

// names are the fields that can name a thing in a list; the first that do so in all of it hold.
var names = [][]string{{"id"}, {"line", "field"}, {"key"}, {"item"}, {"function"}, {"name"}}

// named gives what calls a thing by fields of it.
func named(fields []string) func(any) (string, bool) {
	return func(x any) (string, bool) {
		m, _ := x.(map[string]any)
		name := ""
		for _, f := range fields {
			word, is := wordOf(m[f])
			if !is || word == "" {
				return "", false
			}
			name += "/" + word
		}
		return name, true
	}
}

func wordOf(x any) (string, bool) {
	switch x := x.(type) {
	case string:
		return x, true
	case json.Number:
		return x.String(), true
	}
	return "", false
}

func isNumber(x any) bool {
	_, is := x.(json.Number)
	return is
}

// unique says whether each entry of each list has a name, and none has that of another.
func unique(all [3][]any, name func(any) (string, bool)) bool {
	for _, l := range all {
		seen := make(map[string]bool, len(l))
		for _, x := range l {
			k, is := name(x)
			if !is || seen[k] {
				return false
			}
			seen[k] = true
		}
	}
	return true
}

// things merges lists of things with names. They stand as in the list whose order changed; what came in the other
// stands behind what it stood behind there.
func things(place string, all [3][]any, name func(any) (string, bool), how How) (any, error) {
	var by [3]map[string]any
	for i, l := range all {
		by[i] = make(map[string]any, len(l))
		for _, x := range l {
			k, _ := name(x)
			by[i][k] = x
		}
	}
	order, rest := all[2], all[1]
	if sameOrder(all[0], all[2], name) {
		order, rest = rest, order // only mine has another order
	}
	line, known := []string{""}, map[string]bool{} // as they shall stand, behind the beginning
	for _, x := range order {
		k, _ := name(x)
		line, known[k] = append(line, k), true
	}
	behind := map[string][]string{} // by what they came behind in the other list, empty for the beginning
	before := ""
	for _, x := range rest {
		k, _ := name(x)
		if !known[k] {
			behind[before] = append(behind[before], k)
			continue
		}
		before = k
	}
	out := []any{}
	put := func(k string) error {
		v, err := merge(place+k, field(by[0], k), field(by[1], k), field(by[2], k), how, false)
		if err == nil && v != absent {
			out = append(out, v)
		}
		return err
	}
	for _, k := range line {
		if k != "" {
			if err := put(k); err != nil {
				return nil, err
			}
		}
		for _, came := range behind[k] {
			if err := put(came); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// sameOrder says whether the things of one list that are in the other stand there in the same order.
func sameOrder(a, b []any, name func(any) (string, bool)) bool {
	in := make(map[string]int, len(b))
	for i, x := range b {
		k, _ := name(x)
		in[k] = i
	}
	last := -1
	for _, x := range a {
		k, _ := name(x)
		if at, there := in[k]; there {
			if at < last {
				return false
			}
			last = at
		}
	}
	return true
}

// set merges lists of words: what one took out is out, what one put in is in. Where both took out the same word and put
// in others, those stand for it, and it is a clash.
func set(place string, base, mine, theirs []any, how How) (any, error) {
	in := func(l []any, x any) bool { return slices.Contains(l, x) }
	kept := func(l []any) []any { // those of the base that are still in both
		return slices.DeleteFunc(slices.Clone(l), func(x any) bool { return !in(base, x) || !in(mine, x) || !in(theirs, x) })
	}
	came := func(l []any) []any {
		return slices.DeleteFunc(slices.Clone(l), func(x any) bool { return in(base, x) })
	}
	both := slices.ContainsFunc(base, func(x any) bool { return !in(mine, x) && !in(theirs, x) })
	if m, t := came(mine), came(theirs); both && len(m) > 0 && len(t) > 0 && !slices.Equal(m, t) {
		return clash(place, mine, how)
	}
	b, m, t := kept(base), kept(mine), kept(theirs)
	order, rest := theirs, mine
	switch {
	case slices.Equal(b, m):
	case how == Mine, slices.Equal(b, t):
		order, rest = mine, theirs
	default:
		return clash(place, mine, how)
	}
	var out []any
	for _, x := range order {
		if !in(base, x) || in(mine, x) && in(theirs, x) {
			out = append(out, x)
		}
	}
	for _, x := range rest {
		if !in(base, x) && !in(out, x) {
			out = append(out, x)
		}
	}
	if out == nil {
		out = []any{}
	}
	return out, nil
}
