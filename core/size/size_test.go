package size_test

import (
	"errors"
	"fmt"
	"math"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"draxel/core/size"
)

// ASTM B258, diameters in mm and sections in mm².
func TestPublishedGauges(t *testing.T) {
	for _, c := range []struct {
		n    size.AWG
		d, a float64
	}{
		{22, 0.6438, 0.3255}, {20, 0.8118, 0.5176}, {18, 1.024, 0.8230}, {16, 1.291, 1.309}, {14, 1.628, 2.081},
		{12, 2.053, 3.309}, {10, 2.588, 5.261}, {8, 3.264, 8.366}, {6, 4.115, 13.30}, {4, 5.189, 21.15},
		{2, 6.544, 33.63}, {0, 8.251, 53.48}, {-1, 9.266, 67.43}, {-3, 11.68, 107.2},
	} {
		if got := c.n.Diameter(); math.Abs(got/c.d-1) > 5e-4 {
			t.Errorf("%v: diameter %.4f mm, ASTM B258 has %.4f", c.n, got, c.d)
		}
		if got := float64(c.n.Area()); math.Abs(got/c.a-1) > 5e-4 {
			t.Errorf("%v: section %.4f mm², ASTM B258 has %.4f", c.n, got, c.a)
		}
	}
}

func TestEveryGaugeComesBack(t *testing.T) {
	for n := size.Thickest; n <= size.Thinnest; n++ {
		if back, ok := n.Area().AWG(); !ok || back != n {
			t.Errorf("%v came back as %v, %v", n, back, ok)
		}
		text := strings.TrimSuffix(n.String(), " AWG")
		if s, err := size.Parse(text, size.Gauge); err != nil || !s.Equal(n.Area()) {
			t.Errorf("%q read as %v, %v", text, s, err)
		}
	}
	if _, ok := size.Section(300).AWG(); ok {
		t.Error("300 mm² has no gauge between 40 and 4/0")
	}
}

// The same diameters, asked of GNU units live.
func TestAgainstGNUUnits(t *testing.T) {
	bin, err := exec.LookPath("units")
	if err != nil {
		t.Skip("GNU units is not installed: live cross-check left out")
	}
	for _, n := range []size.AWG{-3, 0, 1, 10, 18, 22, 36} {
		out, err := exec.Command(bin, "-t", "-d", "12", fmt.Sprintf("awg(%d)", n), "mm").Output()
		if err != nil {
			t.Fatalf("units: %v", err)
		}
		want, err := strconv.ParseFloat(strings.TrimSpace(string(out)), 64)
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(n.Diameter()/want-1) > 1e-4 {
			t.Errorf("%v: %.6f mm, GNU units has %.6f", n, n.Diameter(), want)
		}
	}
}

func TestZeroIsNotStated(t *testing.T) {
	for _, text := range []string{"0", "0.0", "0,00 mm²"} {
		if s, err := size.Parse(text, size.Square); !errors.Is(err, size.ErrNotStated) || s != 0 {
			t.Errorf("%q in mm² is %v, %v", text, s, err)
		}
	}
}

func TestParse(t *testing.T) {
	for _, c := range []struct {
		text string
		bare size.Unit
		want float64
	}{
		{"0,75 mm²", size.Gauge, 0.75}, {"0.5", size.Square, 0.5}, {"1.5mm2", size.Square, 1.5},
		{"2,5 sqmm", size.Gauge, 2.5},
		{"18 AWG", size.Square, 0.823}, {"18", size.Gauge, 0.823}, {"AWG 20", size.Square, 0.5176},
		{"16ga", size.Square, 1.309},
		{"2/0", size.Square, 67.43}, {"00", size.Gauge, 67.43}, {"1 mm", size.Square, 1},
		{".5", size.Square, 0.5}, {",75 mm²", size.Square, 0.75}, {"2.5sq", size.Gauge, 2.5}, {"18 ga.", size.Square, 0.823},
		{"28/0.30", size.Square, 1.979}, {"28/0,30 mm", size.Gauge, 1.979}, {"7/.2", size.Square, 0.2199},
		{"0", size.Gauge, 53.48},
	} {
		got, err := size.Parse(c.text, c.bare)
		if err != nil || math.Abs(float64(got)/c.want-1) > 1e-3 {
			t.Errorf("Parse(%q) = %v, %v; want %v mm²", c.text, got, err, c.want)
		}
	}
	for _, bad := range []string{"", "thick", "0.5 kg", "900", "-1", "5/0", "41 AWG"} {
		if got, err := size.Parse(bad, size.Square); err == nil {
			t.Errorf("Parse(%q) = %v, want an error", bad, got)
		}
	}
}

func TestColumnUnit(t *testing.T) {
	for _, c := range []struct {
		heading string
		cells   []string
		want    size.Unit
	}{
		{"Size", []string{"0,5", "1", "", "2,5"}, size.Square},
		{"Size", []string{"20", "18", "18", "12"}, size.Gauge},
		{"Gauge", []string{"4"}, size.Gauge},
		{"mm²", []string{"16"}, size.Square},
	} {
		if got := size.ColumnUnit(c.heading, c.cells); got != c.want {
			t.Errorf("ColumnUnit(%q, %q) = %s, want %s", c.heading, c.cells, got, c.want)
		}
	}
}

func ExampleAWG_Area() {
	fmt.Println(size.AWG(18), "is", size.AWG(18).Area())
	// Output: 18 AWG is 0.823 mm²
}
