package stock_test

import (
	"fmt"
	"math/rand"
	"testing"

	"draxel/core/colour"
	"draxel/core/size"
	"draxel/core/stock"
)

func iec(text string) colour.Colour { return colour.Parse(text, colour.IEC) }

func TestWhatMayStandIn(t *testing.T) {
	demand := stock.Demand{Colour: iec("GN-BK"), Size: 0.75, Class: size.ClassB, Length: 500}
	for name, c := range map[string]struct {
		piece stock.Piece
		want  float64
	}{
		"the very colour":        {stock.Piece{Colour: iec("GN-BK"), Size: 0.75, Length: 500}, 1},
		"another tracer":         {stock.Piece{Colour: iec("GN-WH"), Size: 0.75, Length: 500}, 0.8},
		"no tracer":              {stock.Piece{Colour: iec("GN"), Size: 1, Length: 900}, 0.8},
		"another base":           {stock.Piece{Colour: iec("BU-BK"), Size: 0.75, Length: 500}, 0},
		"protective ground":      {stock.Piece{Colour: iec("GN-YE"), Size: 0.75, Length: 500}, 0},
		"colour never read":      {stock.Piece{Colour: colour.Colour{Written: "??"}, Size: 0.75, Length: 500}, 0},
		"too thin":               {stock.Piece{Colour: iec("GN-BK"), Size: 0.5, Length: 500}, 0},
		"far too thick":          {stock.Piece{Colour: iec("GN-BK"), Size: 2.5, Length: 500}, 0},
		"nobody knows how thick": {stock.Piece{Colour: iec("GN-BK"), Length: 500}, 0},
		"too short":              {stock.Piece{Colour: iec("GN-BK"), Size: 0.75, Length: 499}, 0},
		"not for the heat":       {stock.Piece{Colour: iec("GN-BK"), Size: 0.75, Length: 500, Class: size.ClassA}, 0},
		"for more heat":          {stock.Piece{Colour: iec("GN-BK"), Size: 0.75, Length: 500, Class: size.ClassD}, 1},
		"shielded":               {stock.Piece{Colour: iec("GN-BK"), Size: 0.75, Length: 500, Kind: stock.Shielded}, 0},
	} {
		if got := demand.Value(&c.piece, size.ClassB); got != c.want {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
	// danger and constant feeds never stand in, nor are stood in for
	for _, danger := range []string{"RD", "OG", "YE", "BN"} {
		d := stock.Demand{Colour: iec(danger + "-BK"), Size: 0.75, Length: 100}
		p := stock.Piece{Colour: iec(danger), Size: 0.75, Length: 900}
		if d.Value(&p, size.ClassB) != 0 {
			t.Errorf("plain %s stands in for %s-BK", danger, danger)
		}
		if p.Colour = iec(danger + "-BK"); d.Value(&p, size.ClassB) != 1 {
			t.Errorf("%s-BK does not serve itself", danger)
		}
	}
}

// bruteForce compares every way to cut the demands from the pieces, one by one.
func bruteForce(demands []stock.Demand, stock []stock.Piece, room []float64, k int) float64 {
	if k == len(demands) {
		return 0
	}
	best := bruteForce(demands, stock, room, k+1)
	for p := range stock {
		v := demands[k].Value(&stock[p], size.ClassB)
		if v == 0 || room[p] < demands[k].Length {
			continue
		}
		room[p] -= demands[k].Length + 5
		best = max(best, v*demands[k].Length+bruteForce(demands, stock, room, k+1))
		room[p] += demands[k].Length + 5
	}
	return best
}

func yarn(r *rand.Rand, demands, pieces int) ([]stock.Demand, []stock.Piece) {
	colours := []string{"GN", "GN-BK", "GN-WH", "BU", "RD", "RD-BK"}
	d, s := make([]stock.Demand, demands), make([]stock.Piece, pieces)
	for i := range d {
		d[i] = stock.Demand{Colour: iec(colours[r.Intn(len(colours))]), Size: []size.Section{0.5, 0.75}[r.Intn(2)],
			Length: float64(80 + r.Intn(700))}
	}
	for i := range s {
		s[i] = stock.Piece{ID: fmt.Sprint(i), Colour: iec(colours[r.Intn(len(colours))]),
			Size: []size.Section{0.5, 0.75, 1}[r.Intn(3)], Length: float64(200 + r.Intn(1500))}
	}
	return d, s
}

// check reckons what an allocation serves, anew, and fails where a piece gives more than it has.
func check(t *testing.T, d []stock.Demand, s []stock.Piece, from []int) (worth float64) {
	t.Helper()
	room := make([]float64, len(s))
	for i := range s {
		room[i] = s[i].Length + 5 // the last cut leaves nothing
	}
	for i, p := range from {
		if p < 0 {
			continue
		}
		v := d[i].Value(&s[p], size.ClassB)
		if room[p] -= d[i].Length + 5; v == 0 || room[p] < -1e-9 {
			t.Fatalf("demand %d is cut from piece %d, which does not serve it", i, p)
		}
		worth += v * d[i].Length
	}
	return worth
}

func TestStockAsBruteForce(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	served := 0.0
	for n := range 400 {
		d, s := yarn(r, 1+r.Intn(7), 1+r.Intn(4))
		from, a := stock.Allocate(d, s, size.ClassB)
		room := make([]float64, len(s))
		for i := range s {
			room[i] = s[i].Length
		}
		best := bruteForce(d, s, room, 0)
		if worth := check(t, d, s, from); !a.Exact || worth < best-1e-6 || worth > best+1e-6 || a.Worth < best-1e-6 ||
			a.Bound < best-1e-6 || a.Bound > best+1e-6 {
			t.Fatalf("case %d: worth %.1f, brute force %.1f, said %+v", n, worth, best, a)
		}
		served += best
	}
	if served < 100_000 {
		t.Errorf("only %.0f mm served in all: the cases are too easy", served)
	}
}

func TestStockAtLargeStaysWithinItsBound(t *testing.T) {
	r := rand.New(rand.NewSource(2))
	exact, least := 0, 1.0
	for range 25 {
		d, s := yarn(r, 150, 60)
		from, a := stock.Allocate(d, s, size.ClassB)
		worth := check(t, d, s, from)
		if worth > a.Bound+1e-6 || a.Worth > worth+1e-6 || a.Worth < worth-1e-6 || a.Pieces == 0 {
			t.Fatalf("worth %.1f, said %+v", worth, a)
		}
		if a.Exact {
			exact++
		}
		least = min(least, worth/a.Bound)
	}
	t.Logf("%d of 25 exact; the least part of the bound is %.3f", exact, least)
	if least < 0.8 {
		t.Errorf("an allocation reaches only %.3f of its bound", least)
	}
}
