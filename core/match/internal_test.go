package match

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os/exec"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/signal"
)

// python is the interpreter for which Debian's python3-scipy is installed.
const python = "/usr/bin/python3"

func randomGains(r *rand.Rand, rows, cols int) [][]float64 {
	g := make([][]float64, rows)
	for i := range g {
		g[i] = make([]float64, cols)
		for j := range g[i] {
			g[i][j] = math.Round(r.NormFloat64()*1e6) / 1e5
		}
	}
	return g
}

func total(gain [][]float64, cols []int) float64 {
	sum := 0.0
	for i, j := range cols {
		if j >= 0 {
			sum += gain[i][j]
		}
	}
	return sum
}

// bestBruteForce tries every assignment.
func bestBruteForce(gain [][]float64, i int, taken uint) float64 {
	if i == len(gain) {
		return 0
	}
	best := bestBruteForce(gain, i+1, taken)
	for j, g := range gain[i] {
		if taken&(1<<j) == 0 {
			best = max(best, g+bestBruteForce(gain, i+1, taken|1<<j))
		}
	}
	return best
}

func TestAssignAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 1))
	for range 2000 {
		gain := randomGains(r, 1+r.IntN(6), 1+r.IntN(6))
		cols := Assign(gain)
		seen := map[int]bool{}
		for _, j := range cols {
			if j >= 0 && seen[j] {
				t.Fatalf("column %d twice in %v", j, cols)
			}
			seen[j] = true
		}
		if got, want := total(gain, cols), bestBruteForce(gain, 0, 0); math.Abs(got-want) > 1e-9 {
			t.Fatalf("gains %v: %v gives %v, the best is %v", gain, cols, got, want)
		}
	}
}

// The same matrices given to SciPy's linear_sum_assignment, dummies as columns of zeros.
func TestAssignAgainstSciPy(t *testing.T) {
	if err := exec.Command(python, "-c", "import scipy.optimize").Run(); err != nil {
		t.Skip("SciPy is not installed: live cross-check left out")
	}
	r := rand.New(rand.NewPCG(5, 9))
	var matrices [][][]float64
	var mine []float64
	for _, n := range []int{3, 10, 40, 120, 200} {
		gain := randomGains(r, n, n/2+r.IntN(n))
		matrices = append(matrices, gain)
		mine = append(mine, total(gain, Assign(gain)))
	}
	input, err := json.Marshal(matrices)
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command(python, "-c", `
import json, sys, numpy, scipy.optimize
for m in json.load(sys.stdin):
    g = numpy.array(m)
    g = numpy.hstack([g, numpy.zeros((len(g), len(g)))])
    r, c = scipy.optimize.linear_sum_assignment(g, maximize=True)
    print(repr(float(g[r, c].sum())))
`)
	cmd.Stdin = strings.NewReader(string(input))
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	for k, line := range strings.Fields(string(out)) {
		var want float64
		if _, err := fmt.Sscan(line, &want); err != nil {
			t.Fatal(err)
		}
		if math.Abs(mine[k]-want) > 1e-6 {
			t.Errorf("matrix %d: %v, SciPy has %v", k, mine[k], want)
		}
	}
}

// exact gives each pair's share of the weight of all one-to-one matchings, by enumerating them.
func exact(w [][]float64) [][]float64 {
	p := make([][]float64, len(w))
	for i := range p {
		p[i] = make([]float64, len(w[i]))
	}
	sum := 0.0
	var walk func(i int, taken uint, weight float64, chosen []int)
	walk = func(i int, taken uint, weight float64, chosen []int) {
		if i == len(w) {
			sum += weight
			for r, c := range chosen {
				if c >= 0 {
					p[r][c] += weight
				}
			}
			return
		}
		walk(i+1, taken, weight, append(chosen, -1))
		for j, x := range w[i] {
			if x > 0 && taken&(1<<j) == 0 {
				walk(i+1, taken|1<<j, weight*x, append(chosen, j))
			}
		}
	}
	walk(0, 0, 1, nil)
	for i := range p {
		for j := range p[i] {
			p[i][j] /= sum
		}
	}
	return p
}

// Marginals of belief propagation against full enumeration, over cases as Match meets them: one strong pair a row and
// some weak rivals, a few rows with two equals. The mean error over all pairs is held to what match.md's note gives.
func TestMarginalsAgainstEnumeration(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 4))
	sum, worst, n := 0.0, 0.0, 0
	for range 400 {
		rows, cols := 2+r.IntN(5), 2+r.IntN(5)
		w := make([][]float64, rows)
		e := newEdges(rows, cols, 0)
		var flat []float64
		for i := range w {
			w[i] = make([]float64, cols)
			for j := range w[i] {
				if r.IntN(3) > 0 {
					w[i][j] = math.Exp2(r.NormFloat64()*4 - 2)
				}
				if i == j && r.IntN(4) > 0 {
					w[i][j] = math.Exp2(6 * r.Float64())
				}
				if w[i][j] > 0 {
					e.col = append(e.col, int32(j))
					flat = append(flat, w[i][j])
				}
			}
			e.start = append(e.start, int32(len(e.col)))
		}
		e.ready()
		copy(e.w, flat)
		e.propagate(200, 1e-9)
		want := exact(w)
		for i := range w {
			for k := e.start[i]; k < e.start[i+1]; k++ {
				d := math.Abs(e.p[k] - want[i][e.col[k]])
				sum, worst, n = sum+d, max(worst, d), n+1
			}
		}
	}
	t.Logf("mean error %.4f, greatest %.3f over %d pairs", sum/float64(n), worst, n)
	if sum/float64(n) > 0.015 || worst > 0.2 {
		t.Errorf("mean error %.4f, greatest %.3f", sum/float64(n), worst)
	}
}

// Rows and columns that are alike are one, and what is found of them is what is found of each by itself.
func TestWhatIsAlikeIsOne(t *testing.T) {
	draw := rand.New(rand.NewPCG(3, 9))
	for range 60 {
		rows, cols := 3+draw.IntN(30), 3+draw.IntN(30)
		kinds := 1 + draw.IntN(4)
		weight := make([][]float64, kinds)
		for a := range weight {
			for range kinds {
				weight[a] = append(weight[a], []float64{0, 0, 0.4, 3, 20}[draw.IntN(5)])
			}
		}
		e := newEdges(rows, cols, rows*cols)
		colKind := make([]int, cols)
		for j := range colKind {
			colKind[j] = draw.IntN(kinds)
		}
		for range rows {
			a := draw.IntN(kinds)
			for j, b := range colKind {
				if weight[a][b] > 0 {
					e.col, e.pat = append(e.col, int32(j)), append(e.pat, pattern(a))
					e.bits = append(e.bits, float32(weight[a][b]))
				}
			}
			e.start = append(e.start, int32(len(e.col)))
		}
		e.ready()
		one := e.condensed()
		if len(one.start)-1 > kinds*kinds+1 || len(one.col) > kinds*kinds {
			t.Fatalf("%d kinds have become %d rows and %d pairs", kinds, len(one.start)-1, len(one.col))
		}
		for _, g := range []*edges{e, one.edges} {
			for k, b := range g.bits {
				g.w[k] = float64(b)
			}
			g.propagate(60, 1e-10)
		}
		want := slices.Clone(e.p)
		one.whole(e)
		for k := range want {
			if math.Abs(want[k]-e.p[k]) > 1e-12 {
				t.Fatalf("pair %d: %v, by itself %v", k, e.p[k], want[k])
			}
		}
	}
}

// A crosswalk in which wordings stand many times has the same probabilities, whether its rows that are alike are one or
// each is by itself.
func TestACrosswalkOfRowsThatAreAlike(t *testing.T) {
	words := []string{"Injector control", "Coolant sensor signal", "Power ground", "Ignition coil trigger", "Battery feed"}
	table := func(name string, rows int) harness.Pinout {
		p := harness.Pinout{Name: name}
		for i := range rows {
			text := words[(i*i+i)%len(words)]
			p.Rows = append(p.Rows, harness.Row{Ref: harness.Ref{Connector: name, Cavity: fmt.Sprint(i + 1)},
				Conductor: harness.Conductor{Function: text, Signal: signal.Read(text)}})
		}
		return p
	}
	before := manyEdges
	defer func() { manyEdges = before }()
	found := func(many int) *Result {
		manyEdges = many
		return Crosswalk(table("A", 60), table("B", 50), nil, nil)
	}
	each, one := found(1<<30), found(0)
	if len(each.edges.p) < 300 {
		t.Fatalf("%d pairs", len(each.edges.p))
	}
	for k, p := range each.edges.p {
		if math.Abs(p-one.edges.p[k]) > 1e-9 {
			t.Fatalf("pair %d: %v, by itself %v", k, one.edges.p[k], p)
		}
	}
}
