package part_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"

	"draxel/core/part"
)

// A sum is computed again only when one of its terms has become another.
func ExampleOf() {
	type reads struct{ Terms []int }
	sum := func(r reads) *int {
		total := 0
		for _, t := range r.Terms {
			total += t
		}
		fmt.Println("computed")
		return &total
	}
	var memory part.Memory
	for _, terms := range [][]int{{1, 2}, {1, 2}, {1, 3}} {
		fmt.Println(*part.Of(&memory, "sum", reads{terms}, sum))
	}
	// Output:
	// computed
	// 3
	// 3
	// computed
	// 4
}

// ring is the same as another of its size, whatever else it is.
type ring struct {
	Size int
	Note string
}

func (r ring) Same(o ring) bool { return r.Size == o.Size }

func TestSame(t *testing.T) {
	type reads struct {
		Thing *int
		List  []string
		By    map[string]*int
		Ring  ring
	}
	one, other := new(int), new(int)
	base := reads{Thing: one, List: []string{"a"}, By: map[string]*int{"x": one}, Ring: ring{1, "a"}}
	for _, c := range []struct {
		name   string
		change func(r *reads)
		same   bool
	}{
		{"nothing", func(*reads) {}, true},
		{"an equal list", func(r *reads) { r.List = slices.Clone(r.List) }, true},
		{"another list", func(r *reads) { r.List = []string{"b"} }, false},
		{"a longer list", func(r *reads) { r.List = append(slices.Clone(r.List), "b") }, false},
		{"another thing that is equal", func(r *reads) { r.Thing = other }, false},
		{"no thing", func(r *reads) { r.Thing = nil }, false},
		{"an equal thing within", func(r *reads) { r.By = map[string]*int{"x": other} }, true},
		{"a ring that says it is the same", func(r *reads) { r.Ring.Note = "b" }, true},
		{"a ring that says it is not", func(r *reads) { r.Ring.Size = 2 }, false},
	} {
		var memory part.Memory
		computed := 0
		compute := func(reads) *int { computed++; return new(int) }
		first := part.Of(&memory, "it", base, compute)
		r := base
		c.change(&r)
		second := part.Of(&memory, "it", r, compute)
		if (first == second) != c.same || (computed == 1) != c.same {
			t.Errorf("%s: computed %d times", c.name, computed)
		}
		part.Of(nil, "it", r, compute)
		if part.Of(nil, "it", r, compute); computed < 3 {
			t.Errorf("%s: nothing remembers", c.name)
		}
		if third := part.Of(&memory, "another", r, compute); third == second {
			t.Errorf("%s: two parts are one", c.name)
		}
	}
}

// A part is told of once as it is asked for and once as it is there, whether it is kept or computed.
func TestWatch(t *testing.T) {
	var told []string
	memory := part.Memory{Watch: func(name string, kept bool) func() {
		told = append(told, fmt.Sprint(name, " ", kept))
		return func() { told = append(told, "there") }
	}}
	type reads struct{ N int }
	for _, n := range []int{1, 1, 2} {
		part.Of(&memory, "n", reads{n}, func(reads) *int { told = append(told, "computing"); return new(int) })
	}
	want := []string{"n false", "computing", "there", "n true", "there", "n false", "computing", "there"}
	if !slices.Equal(told, want) {
		t.Errorf("told %q, wanted %q", told, want)
	}
}

// Many ask at once: each gets what follows from what it reads, and a lazy part is computed once.
func TestManyAtOnce(t *testing.T) {
	var memory part.Memory
	type reads struct{ N int }
	double := func(r reads) *int { n := 2 * r.N; return &n }
	computed := 0
	lazy := part.Lazy(&memory, "lazy", func() reads { return reads{21} },
		func(r reads) *int { computed++; return double(r) })
	var all sync.WaitGroup
	for i := range 50 {
		all.Go(func() {
			for n := range 100 {
				if got := *part.Of(&memory, "double", reads{(i + n) % 3}, double); got != 2*((i+n)%3) {
					t.Errorf("double of %d: %d", (i+n)%3, got)
				}
			}
			if got := *lazy(); got != 42 {
				t.Errorf("lazy: %d", got)
			}
		})
	}
	all.Wait()
	if computed != 1 {
		t.Errorf("computed %d times", computed)
	}
}
