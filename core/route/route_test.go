package route_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/route"
)

// Every way is as short as the shortest of all that there are, goes from end to end by paths that join, keeps out of
// those that it must avoid, and is the same way back.
func TestWaysAsBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	ways, none := 0, 0
	for range 300 {
		n := 2 + r.IntN(6)
		var m route.Map
		for i := range n {
			m.Stations = append(m.Stations, route.Station{ID: fmt.Sprint("s", i)})
		}
		for i := range 1 + r.IntN(10) {
			m.Paths = append(m.Paths, route.Path{ID: fmt.Sprint("p", i), From: fmt.Sprint("s", r.IntN(n)),
				To: fmt.Sprint("s", r.IntN(n)), Length: float64(1 + r.IntN(5000))})
		}
		var avoid []string
		if r.IntN(2) == 0 {
			avoid = []string{fmt.Sprint("p", r.IntN(10))}
		}
		roads := route.NewRouter(&m)
		from, to := fmt.Sprint("s", r.IntN(n)), fmt.Sprint("s", r.IntN(n))
		a, b := roads.Number[from], roads.Number[to]
		way, ok := roads.Between(a, b, avoid)
		want := shortest(&m, from, to, avoid, map[string]bool{})
		if ok != !math.IsInf(want, 1) {
			t.Fatalf("from %s to %s there is a way: %v, of %v mm, in %+v", from, to, ok, want, m)
		}
		if !ok {
			none++
			continue
		}
		ways++
		at, sum := a, 0.0
		for k, p := range way.Paths {
			x := roads.Paths[p]
			if next := way.Stations[k+1]; way.Stations[k] != at ||
				!(x.From == roads.Stations[at].ID && x.To == roads.Stations[next].ID ||
					x.To == roads.Stations[at].ID && x.From == roads.Stations[next].ID) || slices.Contains(avoid, x.ID) {
				t.Fatalf("%s does not lead on from %s", x.ID, roads.Stations[at].ID)
			}
			at, sum = way.Stations[k+1], sum+x.Length
		}
		if at != b || math.Abs(sum-want) > 1e-9 || math.Abs(way.Length-want) > 1e-9 || sum > roads.Total() {
			t.Fatalf("from %s to %s: %v of %v mm, the shortest is %v", from, to, way, sum, want)
		}
		back, _ := roads.Between(b, a, avoid)
		slices.Reverse(back.Paths)
		if !slices.Equal(back.Paths, way.Paths) {
			t.Fatalf("there by %v, back by %v", way.Paths, back.Paths)
		}
	}
	if ways < 100 || none < 20 {
		t.Errorf("only %d ways and %d without one were tried", ways, none)
	}
}

// shortest tries every way that goes nowhere twice.
func shortest(m *route.Map, at, to string, avoid []string, been map[string]bool) float64 {
	if at == to {
		return 0
	}
	been[at] = true
	defer delete(been, at)
	least := math.Inf(1)
	for i := range m.Paths {
		p := &m.Paths[i]
		next := p.To
		if p.From != at {
			next = p.From
		}
		if (p.From == at || p.To == at) && p.From != p.To && !been[next] && !slices.Contains(avoid, p.ID) {
			least = min(least, p.Length+shortest(m, next, to, avoid, been))
		}
	}
	return least
}

// A path has the service group that is said of it, else that of its ends where they agree.
func TestServiceGroups(t *testing.T) {
	m := route.Map{
		Stations: []route.Station{{ID: "a", Group: "engine"}, {ID: "b", Group: "engine"}, {ID: "c", Group: "body"}},
		Paths: []route.Path{{ID: "1", From: "a", To: "b", Length: 1}, {ID: "2", From: "b", To: "c", Length: 1},
			{ID: "3", From: "a", To: "c", Length: 1, Group: "doors"}, {ID: "4", From: "a", To: "moon", Length: 1}}}
	roads := route.NewRouter(&m)
	if len(roads.Paths) != 3 {
		t.Fatalf("usable are %v", roads.Paths)
	}
	for i, want := range []string{"engine", "", "doors"} {
		if got := roads.GroupOf(i); got != want {
			t.Errorf("path %s is of %q, not %q", roads.Paths[i].ID, got, want)
		}
	}
}

// A placement moves what it moves, and leaves the rest.
func TestAPlacementOverAnother(t *testing.T) {
	thing := func(id string) route.Thing { return route.Thing{Kind: route.ADevice, ID: id} }
	is := []route.Place{{Thing: thing("unit"), Station: "shelf"}, {Thing: thing("pump"), Station: "tank"}}
	o := &route.Option{Moves: []route.Place{{Thing: thing("unit"), Station: "seat"},
		{Thing: thing("fan"), Station: "nose"}}}
	got := map[string]string{}
	for _, p := range o.Over(is) {
		got[p.Thing.ID] += p.Station
	}
	if len(got) != 3 || got["unit"] != "seat" || got["pump"] != "tank" || got["fan"] != "nose" ||
		is[0].Station != "shelf" {
		t.Errorf("placed are %v", got)
	}
	if all := (*route.Option)(nil).Over(is); len(all) != 2 {
		t.Errorf("without a placement: %v", all)
	}
}

// What a map and what is placed on it cannot be, to the letter of its bounds.
func TestWhatAMapCannotBe(t *testing.T) {
	type can = interface{ Check() error }
	station := func(x route.Station) *route.Map { return &route.Map{Stations: []route.Station{x}} }
	path := func(x route.Path) *route.Map { return &route.Map{Paths: []route.Path{x}} }
	moving := func(n int) *route.Option {
		return &route.Option{ID: "o", Moves: slices.Repeat([]route.Place{{Thing: route.Thing{Kind: route.ADevice}}}, n)}
	}
	letters := func(n int) string { return strings.Repeat("x", n) }
	for name, c := range map[string]struct {
		value can
		can   bool
	}{
		"300 stations":        {&route.Map{Stations: slices.Repeat([]route.Station{{ID: "a"}}, 300)}, true},
		"301":                 {&route.Map{Stations: slices.Repeat([]route.Station{{ID: "a"}}, 301)}, false},
		"600 paths":           {&route.Map{Paths: slices.Repeat([]route.Path{{ID: "a"}}, 600)}, true},
		"601":                 {&route.Map{Paths: slices.Repeat([]route.Path{{ID: "a"}}, 601)}, false},
		"no name":             {station(route.Station{}), false},
		"80 letters":          {station(route.Station{ID: letters(80)}), true},
		"81 letters":          {station(route.Station{ID: letters(81)}), false},
		"far out":             {station(route.Station{ID: "a", X: 1e5 + 1}), false},
		"a drop of no number": {station(route.Station{ID: "a", Drop: math.NaN()}), false},
		"a path of no name":   {path(route.Path{}), false},
		"160 letters":         {path(route.Path{ID: letters(160)}), true},
		"161 letters":         {path(route.Path{ID: letters(161)}), false},
		"a cover of gold":     {path(route.Path{ID: "a", Cover: "gold"}), false},
		"a sock":              {path(route.Path{ID: "a", Cover: route.Sock}), true},
		"a negative length":   {path(route.Path{ID: "a", Length: -1}), false},
		"below the ice":       {path(route.Path{ID: "a", Heat: -61}), false},
		"a place":             {&route.Place{Thing: route.Thing{Kind: route.ASplice, ID: "S"}, Station: "a"}, true},
		"a place of nothing":  {&route.Place{Thing: route.Thing{Kind: route.ASplice}, Station: "a"}, false},
		"a place nowhere":     {&route.Place{Thing: route.Thing{Kind: route.ASplice, ID: "S"}}, false},
		"a place of a ghost":  {&route.Place{Thing: route.Thing{Kind: "ghost", ID: "S"}, Station: "a"}, false},
		"a placement":         {moving(500), true},
		"of 501 things":       {moving(501), false},
		"without a name":      {&route.Option{}, false},
		"moving a ghost":      {&route.Option{ID: "o", Moves: []route.Place{{Thing: route.Thing{Kind: "ghost"}}}}, false},
	} {
		if err := c.value.Check(); (err == nil) != c.can {
			t.Errorf("%s: %v", name, err)
		}
	}
}
