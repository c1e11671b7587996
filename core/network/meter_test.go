package network_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/mat"

	"draxel/core/network"
)

// What a meter finds between two nodes, with faults too, against the pseudo-inverse of the conductances written out
// densely; and a voltage divider's inner resistance by hand.
func TestBetween(t *testing.T) {
	r := rand.New(rand.NewPCG(16, 1))
	apart, looked := 0, 0
	for k := range 300 {
		var b network.Builder
		n := 3 + r.IntN(12)
		name := func(i int) string { return fmt.Sprint("n", i) }
		g := make([][]float64, n+1) // the last is the reference
		for i := range g {
			g[i] = make([]float64, n+1)
		}
		node := func(i int) network.Node {
			if i == n {
				return network.Reference
			}
			return b.Node(name(i))
		}
		add := func(i, j int, ohms float64) {
			g[i][i] += 1 / ohms
			g[j][j] += 1 / ohms
			g[i][j] -= 1 / ohms
			g[j][i] -= 1 / ohms
		}
		broken := r.IntN(2 * n)
		var faults []network.Fault
		for e := range 2 * n {
			i, j := r.IntN(n+1), r.IntN(n+1)
			if i == j {
				continue
			}
			ohms := math.Exp(r.Float64()*8 - 4)
			b.Add(network.Element{Name: fmt.Sprint("e", e), Kind: network.Load, A: node(i), B: node(j), Ohms: ohms})
			if e == broken {
				faults = append(faults, network.Fault{Do: network.Open, Element: fmt.Sprint("e", e)})
				continue
			}
			add(i, j, ohms)
		}
		for i := range n {
			node(i)
		}
		if r.IntN(2) == 0 && n > 3 {
			faults = append(faults, network.Fault{Do: network.Short, A: name(0), B: name(2), Ohms: 0.5})
			add(0, 2, 0.5)
		}
		net, err := b.Network()
		if err != nil {
			t.Fatal(err)
		}
		s, err := net.Solve(network.Condition{Faults: faults})
		if err != nil {
			t.Fatal(err)
		}
		if r.IntN(2) == 0 && len(faults) > 0 { // the same by an edit of a solved state
			if s, err = net.Solve(network.Condition{}); err != nil {
				t.Fatal(err)
			}
			if s, err = s.With(faults...); err != nil {
				t.Fatal(err)
			}
		}
		for range 6 {
			i, j := r.IntN(n+1), r.IntN(n+1)
			if i == j {
				continue
			}
			got, joined := s.Between(node(i), node(j))
			want, there := dense(g, i, j)
			if joined != there || joined && math.Abs(got-want) > 1e-6*(1+want) {
				t.Errorf("network %d, %d to %d: %g %v, want %g %v", k, i, j, got, joined, want, there)
			}
			looked++
			if !joined {
				apart++
			}
		}
	}
	if looked < 1000 || apart < 50 {
		t.Errorf("%d looked at, %d apart", looked, apart)
	}
}

// dense gives the resistance between two nodes by grounding the second one and inverting what hangs together with it.
func dense(g [][]float64, a, b int) (float64, bool) {
	seen := map[int]bool{b: true}
	list := []int{b}
	for k := 0; k < len(list); k++ {
		for j := range g {
			if g[list[k]][j] != 0 && !seen[j] {
				seen[j] = true
				list = append(list, j)
			}
		}
	}
	if !seen[a] {
		return 0, false
	}
	list = list[1:]
	m, rhs := mat.NewDense(len(list), len(list), nil), mat.NewVecDense(len(list), nil)
	at := 0
	for i, x := range list {
		for j, y := range list {
			m.Set(i, j, g[x][y])
		}
		if x == a {
			at = i
			rhs.SetVec(i, 1)
		}
	}
	var out mat.VecDense
	if err := out.SolveVec(m, rhs); err != nil && out.Len() == 0 {
		return 0, false
	}
	return out.AtVec(at), true
}
