package merge_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"reflect"
	"testing"

	"draxel/core/merge"
)

func TestWhatTwoHandsMadeOfOneValue(t *testing.T) {
	for _, x := range []struct{ name, base, mine, theirs, want, clash string }{
		{"other fields", `{"a":1,"b":2}`, `{"a":9,"b":2}`, `{"a":1,"b":7}`, `{"a":9,"b":7}`, ""},
		{"one field", `{"a":1}`, `{"a":2}`, `{"a":3}`, "", "/a"},
		{"one field, the same", `{"a":1}`, `{"a":2}`, `{"a":2}`, `{"a":2}`, ""},
		{"a field gone, another changed", `{"a":1,"b":2}`, `{"b":2}`, `{"a":1,"b":3}`, `{"b":3}`, ""},
		{"a field gone that the other changed", `{"a":1}`, `{}`, `{"a":3}`, "", "/a"},
		{"null is not there", `{"a":null}`, `{"a":2}`, `{}`, `{"a":2}`, ""},
		{"made by both", "", `{"a":1,"c":3}`, `{"b":2,"c":3}`, `{"a":1,"b":2,"c":3}`, ""},
		{"made by both, and not the same", "", `{"a":1}`, `{"a":2}`, "", "/a"},
		{"made by both, the same", "", `{"a":1}`, `{"a":1}`, `{"a":1}`, ""},
		{"taken away by mine", `{"a":1}`, "", `{"a":2}`, "", ""},
		{"things by their ids", `[{"id":"x","v":1},{"id":"y","v":1}]`, `[{"id":"x","v":2},{"id":"y","v":1}]`,
			`[{"id":"n","v":0},{"id":"x","v":1},{"id":"y","v":5}]`, `[{"id":"n","v":0},{"id":"x","v":2},{"id":"y","v":5}]`, ""},
		{"a thing that came stands where it stood", `[{"id":"x"},{"id":"y"}]`, `[{"id":"x"},{"id":"m"},{"id":"y"}]`,
			`[{"id":"x"},{"id":"y"},{"id":"t"}]`, `[{"id":"x"},{"id":"m"},{"id":"y"},{"id":"t"}]`, ""},
		{"a thing taken out", `[{"id":"x"},{"id":"y"}]`, `[{"id":"y"}]`, `[{"id":"x"},{"id":"y"},{"id":"t"}]`,
			`[{"id":"y"},{"id":"t"}]`, ""},
		{"a thing taken out that the other changed", `[{"id":"x","v":1}]`, `[]`, `[{"id":"x","v":2}]`, "", "/x"},
		{"an order of mine", `[{"id":"x"},{"id":"y"}]`, `[{"id":"y"},{"id":"x"}]`, `[{"id":"x"},{"id":"y"},{"id":"t"}]`,
			`[{"id":"y"},{"id":"t"},{"id":"x"}]`, ""},
		{"words", `{"w":["a","b"]}`, `{"w":["a","b","m"]}`, `{"w":["b","t"]}`, `{"w":["b","t","m"]}`, ""},
		{"one word for another, twice", `{"w":["a"]}`, `{"w":["m"]}`, `{"w":["t"]}`, "", "/w"},
		{"a place has two numbers", `{"p":[1,2]}`, `{"p":[1,5]}`, `{"p":[4,2]}`, "", "/p"},
		{"cells of lines", `[["a","b"],["c","d"]]`, `[["a","m"],["c","d"]]`, `[["a","b"],["t","d"],["n","n"]]`,
			`[["a","m"],["t","d"],["n","n"]]`, ""},
		{"cells of lines are no set", `[["a","b"]]`, `[["a","a"]]`, `[["b","b"]]`, `[["b","a"]]`, ""},
		{"a line that both wrote", `[["a"]]`, `[["a"],["m","1"]]`, `[["a"],["t"]]`, "", "/1"},
		{"a line taken out, another changed", `[["a"],["b"]]`, `[["b"]]`, `[["a"],["t"]]`, "", ""},
		{"lines struck out", `{"gone":[1]}`, `{"gone":[1,3]}`, `{"gone":[1,5]}`, `{"gone":[1,5,3]}`, ""},
		{"cells by line and field", `[{"line":2,"field":"a","text":"x"},{"line":3,"field":"a","text":"y"}]`,
			`[{"line":3,"field":"a","text":"y"},{"line":2,"field":"a","text":"m"}]`,
			`[{"line":2,"field":"a","text":"x"},{"line":3,"field":"a","text":"y"},{"line":4,"field":"a","text":"t"}]`,
			`[{"line":3,"field":"a","text":"y"},{"line":4,"field":"a","text":"t"},{"line":2,"field":"a","text":"m"}]`, ""},
		{"a new cell that both wrote", `[]`, `[{"line":2,"field":"a","text":"m"}]`, `[{"line":2,"field":"a","text":"t"}]`, "",
			"/2/a"},
		{"who and when are of the later", `{"who":"a","when":1,"x":1}`, `{"who":"m","when":3,"x":2}`,
			`{"who":"t","when":2,"x":1,"y":1}`, `{"who":"m","when":3,"x":2,"y":1}`, ""},
		{"a long number", `{"a":1,"b":0}`, `{"a":9007199254740993,"b":0}`, `{"a":1,"b":1}`, `{"a":9007199254740993,"b":1}`, ""},
	} {
		got, err := merge.Fields(raw(x.base), raw(x.mine), raw(x.theirs), merge.Tell)
		var clash *merge.Clash
		if x.want == "" {
			if !errors.As(err, &clash) || clash.Place != x.clash {
				t.Errorf("%s: %s, %v; want a clash at %q", x.name, got, err, x.clash)
			}
			if kept, err := merge.Fields(raw(x.base), raw(x.mine), raw(x.theirs), merge.Mine); err != nil {
				t.Errorf("%s: of one hand: %s, %v", x.name, kept, err)
			}
		} else if err != nil || !alike(got, raw(x.want)) {
			t.Errorf("%s: %s, %v; want %s", x.name, got, err, x.want)
		}
	}
}

// What one hand made a moment ago, and this was made without having seen it: both hold, and the later where they meet.
func TestOneHandTwice(t *testing.T) {
	for _, x := range []struct{ base, mine, theirs, want string }{
		{`{"a":1}`, `{"a":3}`, `{"a":2,"b":1}`, `{"a":3,"b":1}`},
		{"", `{"b":2}`, `{"a":1}`, `{"a":1,"b":2}`},
		{`{"a":1}`, "", `{"a":2}`, "null"},
		{`[["a"]]`, `[["a"],["m"]]`, `[["a"],["t","u"]]`, `[["a"],["m","u"]]`},
	} {
		got, err := merge.Fields(raw(x.base), raw(x.mine), raw(x.theirs), merge.Mine)
		if err != nil || !alike(got, raw(x.want)) {
			t.Errorf("%s, then %s: %s, %v; want %s", x.theirs, x.mine, got, err, x.want)
		}
	}
}

// edit is what a hand does to a tree of two levels: the oracle carries edits out on the tree itself.
type edit struct {
	thing, field string
	value        int // -1 takes the thing away
}

func do(tree map[string]map[string]int, e edit) {
	if e.value < 0 {
		delete(tree, e.thing)
		return
	}
	if tree[e.thing] == nil {
		tree[e.thing] = map[string]int{}
	}
	tree[e.thing][e.field] = e.value
}

// Two hands that touch different things of a value get what both edits, carried out one after the other, make of it; if
// they touch one field differently, or one changes what the other took away, it is a clash.
func TestTwoHandsAgainstTheirEditsInTurn(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	clashes, merged := 0, 0
	for n := range 20_000 {
		var edits [2][]edit
		trees := [4]map[string]map[string]int{{}, {}, {}, {}} // base, mine, theirs, both in turn
		for thing := range 4 {
			for field := range 3 {
				for _, tree := range trees {
					do(tree, edit{fmt.Sprint("t", thing), fmt.Sprint("f", field), 0})
				}
			}
		}
		for hand := range edits {
			for range 1 + r.IntN(3) {
				e := edit{fmt.Sprint("t", r.IntN(4)), fmt.Sprint("f", r.IntN(3)), r.IntN(4) - 1}
				edits[hand] = append(edits[hand], e)
				do(trees[1+hand], e)
			}
		}
		want := clashing(trees[0], trees[1], trees[2])
		for _, hand := range edits {
			for _, e := range hand {
				do(trees[3], e)
			}
		}
		got, err := merge.Fields(encode(trees[0]), encode(trees[1]), encode(trees[2]), merge.Tell)
		var clash *merge.Clash
		if is := errors.As(err, &clash); is != want {
			t.Fatalf("%d: mine %v, theirs %v: %v; a clash is wanted: %t", n, edits[0], edits[1], err, want)
		}
		if want {
			clashes++
			continue
		}
		if merged++; !disjoint(edits) {
			continue // in turn the second hand writes over the first: that is no oracle
		}
		if !alike(got, encode(trees[3])) {
			t.Fatalf("%d: mine %v, theirs %v: %s, want %s", n, edits[0], edits[1], got, encode(trees[3]))
		}
	}
	if clashes < 3000 || merged < 3000 {
		t.Errorf("%d clashes and %d merged: the lot is one-sided", clashes, merged)
	}
}

// clashing says by what each thing was and is whether two hands meant different things.
func clashing(base, mine, theirs map[string]map[string]int) bool {
	for thing := range base {
		m, t := mine[thing], theirs[thing]
		switch {
		case m == nil && t == nil:
		case m == nil || t == nil:
			if left := map[bool]map[string]int{true: t, false: m}[m == nil]; !reflect.DeepEqual(left, base[thing]) {
				return true
			}
		default:
			for field := range base[thing] {
				b := base[thing][field]
				if mv, tv := value(m, field), value(t, field); mv != b && tv != b && mv != tv {
					return true
				}
			}
		}
	}
	return false
}

// value is -1 where a field is not there: a thing that was taken away and made again has only what it was given.
func value(m map[string]int, field string) int {
	if v, there := m[field]; there {
		return v
	}
	return -1
}

// disjoint says whether no thing is touched by both hands.
func disjoint(edits [2][]edit) bool {
	for _, a := range edits[0] {
		for _, b := range edits[1] {
			if a.thing == b.thing {
				return false
			}
		}
	}
	return true
}

func raw(s string) json.RawMessage {
	if s == "" {
		return nil
	}
	return json.RawMessage(s)
}

func encode(v any) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	return text
}

func alike(a, b json.RawMessage) bool {
	var x, y any
	if len(a) > 0 && json.Unmarshal(a, &x) != nil || json.Unmarshal(b, &y) != nil {
		return false
	}
	return reflect.DeepEqual(x, y)
}
