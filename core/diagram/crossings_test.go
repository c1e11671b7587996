package diagram_test

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"draxel/core/diagram"
)

// crossings counts how often two ways cross, in their insides: the second way of counting is that of plain geometry.
func crossings(ways [][]diagram.Point) int {
	n := 0
	for i := range ways {
		for k := range i {
			for a := 1; a < len(ways[i]); a++ {
				for b := 1; b < len(ways[k]); b++ {
					if cross(ways[i][a-1], ways[i][a], ways[k][b-1], ways[k][b]) {
						n++
					}
				}
			}
		}
	}
	return n
}

// cross says whether two pieces cross, each between its ends.
func cross(a, b, c, d diagram.Point) bool {
	side := func(p, q, r diagram.Point) float64 { return (q.X-p.X)*(r.Y-p.Y) - (q.Y-p.Y)*(r.X-p.X) }
	return side(a, b, c)*side(a, b, d) < 0 && side(c, d, a)*side(c, d, b) < 0
}

// byGraphviz lays the same graph out with dot, from left to right, with the same symbols first and last, and gives the
// ways of its edges.
func byGraphviz(t *testing.T, dot string, g *diagram.Graph) [][]diagram.Point {
	t.Helper()
	var b strings.Builder
	b.WriteString("digraph g {\nrankdir=LR;\nnode [shape=box];\n")
	for _, place := range []int{-1, 1} {
		fmt.Fprintf(&b, "{ rank=%s;", map[int]string{-1: "min", 1: "max"}[place])
		for i := range g.Symbols {
			if g.Symbols[i].Place == place {
				fmt.Fprintf(&b, " %q;", g.Symbols[i].ID)
			}
		}
		b.WriteString(" }\n")
	}
	for i := range g.Wires {
		fmt.Fprintf(&b, "%q -> %q;\n", g.Wires[i].From.Symbol, g.Wires[i].To.Symbol)
	}
	b.WriteString("}\n")
	run := exec.CommandContext(t.Context(), dot, "-Tplain")
	run.Stdin = strings.NewReader(b.String())
	var said bytes.Buffer
	run.Stderr = &said
	out, err := run.Output()
	if err != nil {
		t.Fatalf("dot: %v: %s", err, said.String())
	}
	var ways [][]diagram.Point
	for _, line := range strings.Split(string(out), "\n") {
		words := strings.Fields(line)
		if len(words) < 4 || words[0] != "edge" {
			continue
		}
		n, _ := strconv.Atoi(words[3])
		var control []diagram.Point
		for k := range n {
			x, _ := strconv.ParseFloat(words[4+2*k], 64)
			y, _ := strconv.ParseFloat(words[5+2*k], 64)
			control = append(control, diagram.Point{X: x, Y: y})
		}
		ways = append(ways, along(control))
	}
	return ways
}

// along walks Bézier pieces of three steps each.
func along(control []diagram.Point) []diagram.Point {
	out := control[:1:1]
	for k := 0; k+3 < len(control); k += 3 {
		p := control[k : k+4]
		for s := 1; s <= 12; s++ {
			u := float64(s) / 12
			v := 1 - u
			w := [4]float64{v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u}
			var q diagram.Point
			for i := range p {
				q.X, q.Y = q.X+w[i]*p[i].X, q.Y+w[i]*p[i].Y
			}
			out = append(out, q)
		}
	}
	return out
}

// No more crossings than Graphviz makes of the same graphs, half as many again at the median: it draws curves into the
// middle of its boxes, ours have a row for every end, which costs crossings that it does not have.
func TestCrossingsBesideGraphviz(t *testing.T) {
	dot, err := exec.LookPath("dot")
	if err != nil {
		t.Skip("Graphviz is not installed: apt-get install graphviz")
	}
	r := rand.New(rand.NewPCG(17, 60))
	const graphs = 120
	within, ours, theirs := 0, 0, 0
	for range graphs {
		g := random(r, 6+r.IntN(18))
		d, _ := diagram.Layout(g, wide)
		var ways [][]diagram.Point
		for i := range d.Runs {
			ways = append(ways, d.Runs[i].Points)
		}
		a, b := crossings(ways), crossings(byGraphviz(t, dot, g))
		ours, theirs = ours+a, theirs+b
		if float64(a) <= 1.5*float64(b) {
			within++
		}
	}
	t.Logf("ours %d, dot %d crossings in all; %d of %d within half as many again", ours, theirs, within, graphs)
	if within < graphs/2 || float64(ours) > 1.5*float64(theirs) {
		t.Errorf(
			"%d of %d have at most half as many crossings again as dot's; in all %d beside %d",
			within,
			graphs,
			ours,
			theirs,
		)
	}
}
