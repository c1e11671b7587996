package diagram_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"draxel/core/diagram"
)

var graphs = flag.Int("graphs", 300, "how many random circuits are laid out")

// wide is a font in which every letter is as wide as six tenths of its size.
func wide(text string, size float64, bold bool) float64 {
	w := 0.6 * size * float64(len([]rune(text)))
	if bold {
		w *= 1.05
	}
	return w
}

// random makes a circuit as harnesses have them: sources at the left, fuses, relays, splices, plugs, consumers,
// grounds, and now and then a wire that runs back, round in a circle, or from a symbol to itself.
func random(r *rand.Rand, symbols int) *diagram.Graph {
	g := &diagram.Graph{}
	kinds := []diagram.Kind{diagram.Box, diagram.Fuse, diagram.Relay, diagram.Splice, diagram.Joint, diagram.Plug,
		diagram.Ground, diagram.Stub}
	for i := range symbols {
		s := diagram.Symbol{
			ID:    fmt.Sprint("s", i),
			Kind:  kinds[r.IntN(len(kinds))],
			Title: strings.Repeat("x", 1+r.IntN(14)),
		}
		for range r.IntN(3) {
			s.Under = append(s.Under, strings.Repeat("u", 1+r.IntN(20)))
		}
		if s.Place = r.IntN(3) - 1; r.IntN(2) == 0 {
			s.Place = 0
		}
		g.Symbols = append(g.Symbols, s)
	}
	for i := range symbols + r.IntN(symbols+1) {
		a := r.IntN(symbols)
		b := min(symbols-1, a+1+r.IntN(1+symbols/3))
		if r.IntN(20) == 0 {
			a, b = b, a
		}
		if r.IntN(60) == 0 {
			b = a
		}
		g.Wires = append(
			g.Wires,
			diagram.Line{ID: fmt.Sprint("w", i), From: diagram.End{Symbol: fmt.Sprint("s", a), Port: port(r)},
				To: diagram.End{Symbol: fmt.Sprint("s", b), Port: port(r)}, Above: strings.Repeat("A", r.IntN(14)),
				Below: strings.Repeat("b", r.IntN(14))},
		)
	}
	return g
}

func port(r *rand.Rand) string { return strings.Repeat("p", r.IntN(5)) }

type rect struct {
	x1, y1, x2, y2 float64
	what           string
}

func (a rect) meets(b rect) bool {
	const e = 1e-6
	return a.x1 < b.x2-e && b.x1 < a.x2-e && a.y1 < b.y2-e && b.y1 < a.y2-e
}

// faults measures a drawing: what lies on what, and what is not where it should be.
func faults(g *diagram.Graph, d *diagram.Drawing, untold []string) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	var symbols, texts []rect
	for i := range d.Symbols {
		s := &d.Symbols[i]
		symbols = append(symbols, rect{s.X, s.Y, s.X + s.Wide, s.Y + s.High, s.ID})
		if s.X < -1e-6 || s.Y < -1e-6 || s.X+s.Wide > d.Wide+1e-6 || s.Y+s.High > d.High+1e-6 {
			say("%s lies outside", s.ID)
		}
	}
	for i := range symbols {
		for k := range i {
			if symbols[i].meets(symbols[k]) {
				say("%s lies on %s", symbols[i].what, symbols[k].what)
			}
		}
	}
	for _, t := range d.Texts {
		texts = append(texts, rect{t.X, t.Y - 0.75*t.Size, t.X + t.Wide, t.Y + 0.2*t.Size, t.Words})
	}
	for i := range texts {
		for k := range i {
			if texts[i].meets(texts[k]) {
				say("%q lies on %q", texts[i].what, texts[k].what)
			}
		}
		for _, s := range symbols { // inside of one, or outside of all
			inside := texts[i].x1 >= s.x1-1e-6 && texts[i].x2 <= s.x2+1e-6 && texts[i].y1 >= s.y1-1e-6 &&
				texts[i].y2 <= s.y2+1e-6
			if texts[i].meets(s) && !inside {
				say("%q lies over the edge of %s", texts[i].what, s.what)
			}
		}
	}
	type piece struct {
		rect
		run int
	}
	var pieces []piece
	for i := range d.Runs {
		r := &d.Runs[i]
		from, to := of(d, r.From.Symbol), of(d, r.To.Symbol)
		if !atPort(from, r.Points[0], r.From.Port) || !atPort(to, r.Points[len(r.Points)-1], r.To.Port) {
			say("%s does not come to its ports", r.ID)
		}
		for k := 1; k < len(r.Points); k++ {
			a, b := r.Points[k-1], r.Points[k]
			if a.X != b.X && a.Y != b.Y || a == b {
				say("%s has a piece from %v to %v", r.ID, a, b)
			}
			p := piece{rect{min(a.X, b.X), min(a.Y, b.Y), max(a.X, b.X), max(a.Y, b.Y), r.ID}, i}
			pieces = append(pieces, p)
			thick := rect{p.x1 - 0.01, p.y1 - 0.01, p.x2 + 0.01, p.y2 + 0.01, r.ID}
			for _, s := range symbols {
				if thick.meets(rect{s.x1 + 0.05, s.y1 + 0.05, s.x2 - 0.05, s.y2 - 0.05, s.what}) {
					say("%s goes through %s", r.ID, s.what)
				}
			}
			for _, t := range texts {
				if thick.meets(t) {
					say("%s goes through the words %q", r.ID, t.what)
				}
			}
		}
	}
	for i := range pieces {
		for k := range i {
			a, b := pieces[i], pieces[k]
			if a.run == b.run {
				continue
			}
			level := a.y1 == a.y2 && b.y1 == b.y2 && a.y1 == b.y1 && a.x1 < b.x2-1e-6 && b.x1 < a.x2-1e-6
			upright := a.x1 == a.x2 && b.x1 == b.x2 && a.x1 == b.x1 && a.y1 <= b.y2+1e-6 && b.y1 <= a.y2+1e-6
			if level || upright {
				say("%s lies on %s", a.what, b.what)
			}
		}
	}
	if len(d.Runs)+len(untold) != len(g.Wires) || len(d.Symbols) != len(g.Symbols) {
		say(
			"%d wires and %d untold of %d, %d symbols of %d",
			len(d.Runs),
			len(untold),
			len(g.Wires),
			len(d.Symbols),
			len(g.Symbols),
		)
	}
	return out
}

// of gives a symbol in its place.
func of(d *diagram.Drawing, id string) *diagram.Placed {
	return &d.Symbols[slices.IndexFunc(d.Symbols, func(p diagram.Placed) bool { return p.ID == id })]
}

func atPort(s *diagram.Placed, at diagram.Point, name string) bool {
	for _, p := range s.Ports {
		if p.Name == name && p.At == at {
			return true
		}
	}
	return false
}

// In random circuits no symbol lies on another, no words on words, no wire goes through a symbol, through words, or
// on another wire, and each comes to its own ports: measured on the drawing, which the test reads as rectangles and
// knows nothing else of. The same graph gives the same drawing.
func TestNothingLiesOnAnother(t *testing.T) {
	for seed := range *graphs {
		r := rand.New(rand.NewPCG(uint64(seed), 1981))
		g := random(r, 1+r.IntN(40))
		d, untold := diagram.Layout(g, wide)
		if all := faults(g, &d, untold); len(all) > 0 {
			t.Errorf(
				"circuit %d of %d symbols and %d wires: %d faults, %s",
				seed,
				len(g.Symbols),
				len(g.Wires),
				len(all),
				strings.Join(all[:min(4, len(all))], "; "),
			)
		}
		again, _ := diagram.Layout(g, wide)
		if !reflect.DeepEqual(d, again) {
			t.Errorf("circuit %d is drawn another way the second time", seed)
		}
	}
}

// By hand: a battery, a fuse and a lamp stand in a row, their wires level. Nothing at all is nothing.
func TestARowIsARow(t *testing.T) {
	g := &diagram.Graph{Symbols: []diagram.Symbol{{ID: "battery", Kind: diagram.Box, Title: "battery", Place: -1},
		{ID: "F5", Kind: diagram.Fuse, Title: "F5"}, {ID: "lamp", Kind: diagram.Box, Title: "lamp", Place: 1}},
		Wires: []diagram.Line{
			{ID: "1", From: diagram.End{Symbol: "battery"}, To: diagram.End{Symbol: "F5"}, Above: "RD 6"},
			{
				ID:    "2",
				From:  diagram.End{Symbol: "F5"},
				To:    diagram.End{Symbol: "lamp"},
				Above: "RD-YE 2.5",
				Below: "240 mm",
			},
		}}
	d, _ := diagram.Layout(g, wide)
	for _, r := range d.Runs {
		if len(r.Points) != 2 || r.Points[0].X >= r.Points[1].X {
			t.Errorf("wire %s runs %v", r.ID, r.Points)
		}
	}
	if a, b, c := of(&d, "battery"), of(&d, "F5"), of(&d, "lamp"); a.X >= b.X || b.X >= c.X {
		t.Errorf("they stand at %g, %g, %g", a.X, b.X, c.X)
	}
	if d, untold := diagram.Layout(&diagram.Graph{}, wide); len(d.Symbols) != 0 || len(untold) != 0 || d.Wide != 0 {
		t.Errorf("nothing is %+v", d)
	}
}

// A circuit of 500 ends, and one of texts of 5,000 letters, are drawn all the same.
func TestHugeCircuitsAreDrawn(t *testing.T) {
	g := &diagram.Graph{Symbols: []diagram.Symbol{{ID: "S1", Kind: diagram.Splice, Title: "S1"}}}
	for i := range 500 {
		id := fmt.Sprint("d", i)
		g.Symbols = append(g.Symbols, diagram.Symbol{ID: id, Kind: diagram.Box, Title: id, Place: 1})
		g.Wires = append(
			g.Wires,
			diagram.Line{
				ID:    fmt.Sprint(i),
				From:  diagram.End{Symbol: "S1"},
				To:    diagram.End{Symbol: id},
				Above: "RD",
			},
		)
	}
	g.Symbols[7].Title = strings.Repeat("W", 5000)
	d, untold := diagram.Layout(g, wide)
	if all := faults(g, &d, untold); len(all) > 0 {
		t.Errorf("%d faults: %s", len(all), all[0])
	}
}

// BenchmarkDiagram lays out a circuit of sixty wires.
func BenchmarkDiagram(b *testing.B) {
	r := rand.New(rand.NewPCG(60, 60))
	g := random(r, 45)
	for len(g.Wires) < 60 {
		g = random(r, 45)
	}
	g.Wires = g.Wires[:60]
	b.Run("60", func(b *testing.B) {
		for b.Loop() {
			if d, _ := diagram.Layout(g, wide); len(d.Runs) < 50 {
				b.Fatal(len(d.Runs))
			}
		}
	})
}
