// Package size relates the two ways a wire's size is written: the American Wire Gauge, a number that falls as the
// wire grows, and the conductor's section in square millimetres.
//
// The relation is the published formula of ASTM B258: a gauge n has the diameter 0.127 mm × 92^((36−n)/39); the
// gauges above zero, written 1/0 (or 0), 2/0, 3/0 and 4/0, are n = 0, −1, −2 and −3. Wire sold for vehicles under an
// AWG number may be smaller than that (SAE J1128); this package gives the ASTM section throughout.
package size

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// AWG is a gauge number: 40 (0.08 mm) to −3 (written 4/0, 11.68 mm).
type AWG int

// The thinnest and the thickest gauge that this package reads.
const (
	Thinnest AWG = 40
	Thickest AWG = -3
)

// Diameter gives the bare conductor's diameter in millimetres (ASTM B258).
func (n AWG) Diameter() float64 { return 0.127 * math.Pow(92, (36-float64(n))/39) }

// Area gives the section in square millimetres of a solid conductor of this gauge.
func (n AWG) Area() Section {
	d := n.Diameter()
	return Section(math.Pi / 4 * d * d)
}

// String writes the gauge as the trade does: "18 AWG", "2/0 AWG".
func (n AWG) String() string {
	if n <= 0 {
		return fmt.Sprintf("%d/0 AWG", 1-int(n))
	}
	return fmt.Sprintf("%d AWG", int(n))
}

// Section is a conductor's section in square millimetres; zero means not known.
type Section float64

// AWG gives the gauge nearest to the section, measured by ratio, and false when the section is not known or lies
// outside the gauges 40 to 4/0 by more than half a gauge.
func (s Section) AWG() (AWG, bool) {
	if s <= 0 {
		return 0, false
	}
	d := math.Sqrt(float64(s) * 4 / math.Pi)
	n := AWG(math.Round(36 - 39*math.Log(d/0.127)/math.Log(92)))
	return n, n >= Thickest && n <= Thinnest
}

// String writes the section with its unit, "0.75 mm²", and nothing when it is not known.
func (s Section) String() string {
	if s <= 0 {
		return ""
	}
	return strconv.FormatFloat(float64(s), 'g', 3, 64) + " mm²"
}

// Near says that two sections are within one gauge of each other (a ratio of at most 1.30), as two makers' nearest
// sizes for the same wire are; false when either is not known.
func (s Section) Near(t Section) bool {
	return s > 0 && t > 0 && max(s/t, t/s) <= 1.30
}

// Equal says that two sections are the same to within 4 %, which joins 0.5 mm² written twice and 20 AWG with 0.52.
func (s Section) Equal(t Section) bool {
	return s > 0 && t > 0 && max(s/t, t/s) <= 1.04
}

// Unit says how a bare number in a column is to be read.
type Unit string

// The units of a size column.
const (
	NoUnit Unit = "" // each number says its own
	Square Unit = "mm2"
	Gauge  Unit = "awg"
)

var (
	sized = regexp.MustCompile(`(?i)^(\d*[.,]\d+|\d+|\d/0|0{1,4})\s*` +
		`(mm²|mm2|mm\^2|sq\.?\s*mm|sqmm|sq\.?|mm|qmm|awg|ga\.?|gauge|g|#)?$`)
	prefix  = regexp.MustCompile(`(?i)^(?:awg|ga\.?|gauge|#)\s*(.+)$`)
	strands = regexp.MustCompile(`^(\d{1,3})\s*/\s*(0?[.,]\d{1,2})(?:\s*mm)?$`)
)

// ErrNotStated says that a text gives no size: the 0 or 0.0 with which tables in mm² fill an empty cell.
var ErrNotStated = errors.New("no size is stated")

// Parse reads one size: "0,75 mm²", ".5", "18 AWG", "18 ga.", "2/0", "0.5 sqmm", "28/0.30" for 28 strands of 0.30 mm. A
// number without a unit is read in the given one. It fails on anything else, and on sizes no vehicle wire has (over 240
// mm² or outside the gauges); with ErrNotStated on 0 in mm².
func Parse(text string, bare Unit) (Section, error) {
	t := strings.TrimSpace(text)
	unit := bare
	if m := prefix.FindStringSubmatch(t); m != nil {
		t, unit = m[1], Gauge
	}
	if m := strands.FindStringSubmatch(t); m != nil {
		n, _ := strconv.ParseFloat(m[1], 64)
		d, _ := strconv.ParseFloat(strings.Replace(m[2], ",", ".", 1), 64)
		if n >= 3 && d >= 0.05 { // 2/0 and the like are gauges
			return Section(n * math.Pi / 4 * d * d), nil
		}
	}
	m := sized.FindStringSubmatch(t)
	if m == nil {
		return 0, fmt.Errorf("size %q: neither mm² nor AWG", text)
	}
	switch strings.TrimSuffix(strings.ToLower(m[2]), ".") {
	case "":
	case "awg", "ga", "gauge", "g", "#":
		unit = Gauge
	default:
		unit = Square
	}
	number := strings.Replace(m[1], ",", ".", 1)
	if zero := strings.Trim(number, "0.") == ""; zero && (strings.Contains(number, ".") || unit == Square &&
		number == "0") {
		return 0, fmt.Errorf("size %q: %w", text, ErrNotStated)
	} else if strings.HasSuffix(number, "/0") || zero {
		unit = Gauge
	}
	if unit == Gauge {
		n, err := gauge(number)
		if err != nil {
			return 0, fmt.Errorf("size %q: %w", text, err)
		}
		return n.Area(), nil
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || v <= 0 || v > 240 {
		return 0, fmt.Errorf("size %q: no wire has that section", text)
	}
	return Section(v), nil
}

func gauge(number string) (AWG, error) {
	if zeros, ok := strings.CutSuffix(number, "/0"); ok {
		n, err := strconv.Atoi(zeros)
		if err != nil || n < 1 || n > 4 {
			return 0, fmt.Errorf("no such gauge")
		}
		return AWG(1 - n), nil
	}
	if number != "" && strings.Trim(number, "0") == "" && len(number) <= 4 {
		return AWG(1 - len(number)), nil
	}
	n, err := strconv.Atoi(number)
	if err != nil || AWG(n) < Thickest || AWG(n) > Thinnest {
		return 0, fmt.Errorf("no such gauge")
	}
	return AWG(n), nil
}

// ColumnUnit decides how the bare numbers of a column are meant, from its heading and from all of its cells: a heading
// that says so wins; then sizes below 4 or with decimals speak for mm², whole numbers from 8 up for AWG.
func ColumnUnit(heading string, cells []string) Unit {
	h := strings.ToLower(heading)
	switch {
	case strings.Contains(h, "awg"), strings.Contains(h, "gauge"), strings.Contains(h, "ga."):
		return Gauge
	case strings.Contains(h, "mm"):
		return Square
	}
	square, awg := 0, 0
	for _, c := range cells {
		v, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(c), ",", ".", 1), 64)
		switch {
		case err != nil:
		case v != math.Trunc(v), v < 4:
			square++
		case v >= 8:
			awg++
		}
	}
	if awg > square {
		return Gauge
	}
	return Square
}
