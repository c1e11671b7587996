package pack_test

import (
	"fmt"
	"math"
	"math/rand"
	"testing"

	"draxel/core/pack"
)

// published are the radii of the smallest circle round n equal circles of radius 1: Kravitz (1967); Graham,
// Lubachevsky, Nurmela, Östergård (1998).
var published = map[int]float64{2: 2.0000, 3: 2.1547, 4: 2.4142, 5: 2.7013, 6: 3.0000, 7: 3.0000, 8: 3.3048, 9: 3.6131,
	10: 3.8130, 11: 3.9238, 12: 4.0296,
	13: 4.2361, 14: 4.3284, 15: 4.5214, 16: 4.6154, 17: 4.7920, 18: 4.8637, 19: 4.8637, 20: 5.1223}

func TestEqualCirclesAsPublished(t *testing.T) {
	for n := 2; n <= 20; n++ {
		d := make([]float64, n)
		for i := range d {
			d[i] = 2
		}
		circles, got := pack.Circles(d)
		sound(t, circles, got)
		if r := got / 2 / published[n]; r > 1.03 || r < 1-2e-5 {
			t.Errorf("%d equal circles: %.4f, published %.4f, ratio %.4f", n, got/2, published[n], r)
		}
	}
}

// sound checks that no two circles overlap and that all are in the ring.
func sound(t *testing.T, circles []pack.Circle, diameter float64) {
	t.Helper()
	for i, a := range circles {
		if math.Hypot(a.X, a.Y)+a.D/2 > diameter/2*(1+1e-9) {
			t.Fatalf("circle %d of %d is outside", i, len(circles))
		}
		for _, b := range circles[:i] {
			if math.Hypot(a.X-b.X, a.Y-b.Y) < (a.D+b.D)/2*(1-1e-9) {
				t.Fatalf("two of %d circles overlap", len(circles))
			}
		}
	}
}

// mixed gives the outside diameters of a believable bundle of n wires.
func mixed(r *rand.Rand, n int) []float64 {
	sizes := []float64{1.4, 1.6, 1.6, 1.9, 1.9, 2.1, 2.4, 3.0, 3.7}
	d := make([]float64, n)
	for i := range d {
		d[i] = sizes[r.Intn(len(sizes))]
	}
	return d
}

func TestMixedBundles(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	worst := 0.0
	for n := 30; n <= 120; n += 3 {
		d := mixed(r, n)
		circles, got := pack.Circles(d)
		sound(t, circles, got)
		sum := 0.0
		for _, x := range d {
			sum += x * x
		}
		q := got / math.Sqrt(sum)
		worst = max(worst, q)
		if len(circles) != n || q > 1.15 || q < 1 {
			t.Errorf("%d wires: %d packed, diameter %.3f × √Σd²", n, len(circles), q)
		}
	}
	t.Logf("worst %.4f × √Σd²", worst)
}

func TestPackIsTheSameInAnyOrder(t *testing.T) {
	r := rand.New(rand.NewSource(2))
	d := mixed(r, 23)
	_, first := pack.Circles(d)
	r.Shuffle(len(d), func(i, j int) { d[i], d[j] = d[j], d[i] })
	if _, again := pack.Circles(d); again != first {
		t.Errorf("%v and %v", first, again)
	}
	for name, c := range map[string]struct {
		d    []float64
		want float64
	}{"none": {nil, 0}, "one": {[]float64{3}, 3}, "two": {[]float64{3, 1}, 4},
		"one thick, some thin": {[]float64{20, 1, 1}, 21}, "too many": {make([]float64, pack.Most+1), 0}} {
		if _, got := pack.Circles(c.d); math.Abs(got-c.want) > 0.03*c.want {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
}

func BenchmarkPack(b *testing.B) {
	b.Run("120", func(b *testing.B) {
		d := mixed(rand.New(rand.NewSource(3)), 120)
		for b.Loop() {
			pack.Circles(d)
		}
	})
}

// Seven equal wires lie in a ring three times as wide as one of them.
func ExampleCircles() {
	_, diameter := pack.Circles([]float64{2, 2, 2, 2, 2, 2, 2})
	fmt.Printf("%.2f mm\n", diameter)
	// Output: 6.00 mm
}
