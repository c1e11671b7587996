package feed_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/size"
	"draxel/core/vehicle"
)

// Fuses by hand: the load that lasts is at most four fifths of the rating (common practice), the ratings are those of
// ISO 8820 (from memory), and none is above what the thinnest wire may carry. 0 is none.
func TestFusesByHand(t *testing.T) {
	for _, c := range []struct{ load, carries, want float64 }{
		{0.2, 20, 1}, {0.8, 20, 1}, {0.81, 20, 2}, {1.6, 20, 2}, {1.61, 20, 3}, {2.4, 20, 3}, {3.2, 20, 4}, {3.3,
			20, 5},
		{4, 20, 5}, {4.1, 20, 7.5}, {6, 20, 7.5}, {6.1, 20, 10}, {8, 20, 10}, {8.1, 20, 15}, {12, 20, 15}, {12.1,
			20, 20},
		{16, 20, 20}, {16.1, 20, 0}, {16.1, 25, 25}, {20, 25, 25}, {20.1, 30, 30}, {24, 30, 30}, {24.1, 35,
			35}, {28, 35, 35},
		{28.1, 40, 40}, {32, 40, 40}, {32.1, 60, 50}, {40.1, 60, 60}, {48.1, 80, 70}, {64, 80, 80}, {64.1, 120, 100},
		{80.1, 120, 0}, {80.1, 130, 125}, {200, 300, 250}, {400, 1000, 500}, {401, 1000, 0}, {5, 6, 0}, {5, 7.5, 7.5},
		{9, 14.9, 0}, {9, 15, 15}, {0.05, 0.9, 0}, {2, 2.9, 0}, {2, 3, 3}, {11.9, 14, 0},
	} {
		got, err := feed.Choose(c.load, c.carries)
		if got != c.want || (err != nil) != (c.want == 0) {
			t.Errorf("%g A before a wire for %g A: a fuse of %g A, want %g (%v)", c.load, c.carries, got, c.want, err)
		}
	}
}

// The times of ISO 8820-3 (from memory) at its own points, and falling between them.
func TestWhenAFuseOpens(t *testing.T) {
	for _, c := range []struct{ times, least, most float64 }{
		{1.6, 0.25, 50}, {2, 0.15, 5}, {3.5, 0.04, 0.5}, {6, 0.02, 0.1},
	} {
		least, most, opens := feed.Opens(10, 10*c.times)
		if !opens || math.Abs(least-c.least) > 1e-9 || math.Abs(most-c.most) > 1e-9 {
			t.Errorf("at %g times: %g to %g s, want %g to %g", c.times, least, most, c.least, c.most)
		}
	}
	if _, _, opens := feed.Opens(10, 11); opens {
		t.Error("at 110 % it lasts 100 hours and more")
	}
	if least, most, opens := feed.Opens(15,
		-60); !opens || least <= 0.02 || least >= 0.04 || most <= 0.1 || most >= 0.5 {
		t.Errorf("at four times: %g to %g s", least, most)
	}
	last := math.Inf(1)
	for x := 1.36; x < 30; x += 0.01 {
		_, most, _ := feed.Opens(20, 20*x)
		if most > last {
			t.Fatalf("at %g times it takes longer than below", x)
		}
		last = most
	}
}

// Adiabatic heating, IEC 60364-5-54: k is 104 from 85 °C to 160 °C (from memory), so that 1 mm² at 104 A lasts a second
// and 1.5 mm² at 260 A 0.36 s.
func TestWhenAWireBurns(t *testing.T) {
	for _, c := range []struct {
		s          size.Section
		amps, want float64
	}{{1, 104, 1}, {1.5, 260, 0.36}, {0.5, 104, 0.25}, {2.5, 520, 0.25}} {
		if got := feed.Burns(c.s, c.amps); math.Abs(got-c.want)/c.want > 0.01 {
			t.Errorf("%s at %g A: %.3f s, want %.3f", c.s, c.amps, got, c.want)
		}
	}
	if !math.IsInf(feed.Burns(0, 10), 1) || !math.IsInf(feed.Burns(1, 0), 1) {
		t.Error("nothing burns without a size or a current")
	}
}

// Which kind of fuse is wanted, by hand: a motor of 24 A at rest before 10 A wants a slow one; two lamps of 55 W take
// ten times their 4.6 A each for a moment, and quick ones are usual before them.
func TestSlowOrQuick(t *testing.T) {
	base := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	lamps := base.with(vehicle.Fuses, "fuse=L; rating=15; in=main bus; out=lamps").with(vehicle.Loads,
		"load=left; plus=lamps; minus=body; amps=4.6; kind=lamp", "load=right; plus=lamps; minus=body; amps=4.6; "+
			"kind=lamp")
	for name, c := range map[string]struct {
		v    small
		fuse string
		want string
	}{
		"a motor":     {motor(base), "2", "slow: motors take 24 A until they turn"},
		"lamps":       {lamps, "L", "quick, as usual before lamps: 92 A for some 50 ms while they are cold"},
		"an injector": {base, "2", ""},
		"a slow motor": {motor(base).put(vehicle.Fuses, 1, "fuse=2; rating=10; kind=slow; in=IG; out=F-2"), "2",
			"slow: motors take 24 A until they turn"},
	} {
		r := c.v.compute(t)
		i := slices.IndexFunc(r.Fuses, func(f feed.Protected) bool { return f.Fuse == c.fuse })
		if got := r.Fuses[i].Wants; got != c.want {
			t.Errorf("%s wants %q, and not %q", name, got, c.want)
		}
		if quick := strings.Contains(codes(r.Findings), "fuse-quick"); quick != (name == "a motor") {
			t.Errorf("%s: a quick fuse is found %v", name, quick)
		}
	}
}
