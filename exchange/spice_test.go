package exchange_test

import (
	"bytes"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"draxel/core/network"
	"draxel/exchange"
)

// looms draws a network at random with every kind of element, as a harness has them.
func looms(t testing.TB, r *rand.Rand, size int) *network.Network {
	t.Helper()
	var b network.Builder
	plus, body := b.Node("battery +"), b.Node("body, left")
	b.Add(network.Element{Name: network.BatteryName, Kind: network.Source, A: plus, Ohms: 0.006, Volts: 12.6})
	b.Add(network.Element{Name: "strap", Kind: network.Copper, A: body, Ohms: 0.0004})
	nodes := []network.Node{plus}
	pick := func() network.Node { return nodes[r.IntN(len(nodes))] }
	for i := range size {
		n := b.Node(fmt.Sprintf("A%d", i))
		e := network.Element{Name: fmt.Sprintf("W%d", i), A: pick(), B: n, Ohms: 0.002 + 0.05*r.Float64()}
		switch r.IntN(8) {
		case 0:
			e.Kind, e.Name = network.Fuse, fmt.Sprintf("fuse F%d", i)
		case 1:
			e.Kind, e.Gate = network.Switch, network.Gate{Key: network.Run | network.Crank}
		case 2:
			e.Kind, e.Volts = network.Diode, 0.65
		}
		b.Add(e)
		nodes = append(nodes, n)
		switch r.IntN(6) {
		case 0:
			b.Add(network.Element{Name: fmt.Sprintf("injector %d", i), Kind: network.Load, A: n, B: body,
				Ohms: 12 + 4*r.Float64()})
		case 1:
			b.Add(network.Element{Name: fmt.Sprintf("lamp %d", i), Kind: network.Lamp, A: n, B: pick(),
				Ohms: 3 + 100*r.Float64(), Volts: 12})
		case 2:
			b.Add(network.Element{Name: fmt.Sprintf("pull-up %d", i), Kind: network.Load, A: n, B: pick(), Ohms: 1e4})
		case 3:
			c := b.Add(network.Element{Name: fmt.Sprintf("coil %d", i), Kind: network.Load, A: n, B: body, Ohms: 85})
			k := b.Relay(network.Relay{Name: fmt.Sprintf("K%d", i), Coil: c, PullIn: 7.5, DropOut: 2})
			out := b.Node(fmt.Sprintf("K%d 87", i))
			b.Add(network.Element{Name: fmt.Sprintf("K%d contact", i), Kind: network.Switch, A: pick(), B: out,
				Ohms: 0.005, Gate: network.Gate{Relay: k}})
			b.Add(network.Element{Name: fmt.Sprintf("motor %d", i), Kind: network.Load, A: out, B: body,
				Ohms: 0.5 + 3*r.Float64()})
		case 4:
			ref := b.Node(fmt.Sprintf("reference %d", i))
			b.Add(network.Element{Name: fmt.Sprintf("5 V %d", i), Kind: network.Source, A: ref, B: body, Ohms: 0.5,
				Volts: 5, Limit: 0.1})
			b.Add(network.Element{Name: fmt.Sprintf("sensor %d", i), Kind: network.Load, A: ref, B: body,
				Ohms: 10 + 500*r.Float64()})
		}
	}
	b.Add(network.Element{Name: "alternator", Kind: network.Source, A: pick(), B: body, Ohms: 0.02, Volts: 14.2,
		Gate: network.Gate{Running: 1}})
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	return n
}

var printed = regexp.MustCompile(`(?m)^(\S+) = (\S+)$`)

// spiced runs a netlist in ngspice and gives the volts of its nodes.
func spiced(t testing.TB, dir string, s *network.State) map[string]float64 {
	t.Helper()
	var b bytes.Buffer
	if err := exchange.WriteSpice(&b, s, "made at random"); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(dir, "net.cir")
	if err := os.WriteFile(file, b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("ngspice", "-b", "-n", file).CombinedOutput()
	if err != nil {
		t.Fatalf("ngspice: %v\n%s\n%s", err, out, b.String())
	}
	volts := map[string]float64{}
	for _, m := range printed.FindAllStringSubmatch(string(out), -1) {
		if v, err := strconv.ParseFloat(m[2], 64); err == nil {
			volts[m[1]] = v
		}
	}
	return volts
}

// The volts of 200 networks with every kind of element are those of ngspice on the exported netlist, to a millivolt: it
// finds the state of lamps, diodes and limits by itself.
func TestAgainstNgspice(t *testing.T) {
	if _, err := exec.LookPath("ngspice"); err != nil {
		t.Skip("ngspice (Debian package ngspice) is not installed: the volts are not compared with it")
	}
	var at sync.Mutex
	worst, nodes, pulled := 0.0, 0, 0
	t.Run("networks", func(t *testing.T) {
		for seed := range uint64(200) {
			t.Run(fmt.Sprint(seed), func(t *testing.T) {
				t.Parallel()
				r := rand.New(rand.NewPCG(seed, 20))
				n := looms(t, r, 8+r.IntN(60))
				c := network.Condition{Key: network.Keys()[r.IntN(4)], Running: r.IntN(2) == 0,
					Celsius: float64(20 + r.IntN(2)*65)}
				if r.IntN(3) == 0 {
					c.Faults = []network.Fault{{Do: network.Open, Element: "W1"}, {Do: network.Short, A: "A2",
						B: "body, left"}}
				}
				if _, known := n.Element("W1"); !known {
					c.Faults = nil
				}
				s, err := n.Solve(c)
				if err != nil {
					t.Fatal(err)
				}
				theirs := spiced(t, t.TempDir(), s)
				names := exchange.SpiceNodes(n)
				at.Lock()
				defer at.Unlock()
				for i, name := range names {
					if i == 0 || s.Floating[i] {
						continue
					}
					v, there := theirs[name]
					if !there {
						t.Fatalf("ngspice says nothing of %s", name)
					}
					nodes++
					if d := math.Abs(v - s.Volts[i]); d > 1e-3 {
						t.Errorf("%s at %.6f V, by ngspice %.6f", n.Names[i], s.Volts[i], v)
					} else {
						worst = max(worst, d)
					}
				}
				for _, p := range s.Pulled {
					if p {
						pulled++
					}
				}
			})
		}
	})
	t.Logf("%d nodes differ by at most %.2g V; %d relays had pulled", nodes, worst, pulled)
	if nodes < 5000 || pulled < 50 {
		t.Errorf("only %d nodes and %d pulled relays were compared", nodes, pulled)
	}
}

// A netlist says what a person calls things, and nothing that a netlist cannot say.
func TestNamesOfANetlist(t *testing.T) {
	var b network.Builder
	for _, name := range []string{"A12", "splice S4", "Splice S4", "fuse F7 in", "battery +", "0"} {
		b.Node(name)
	}
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(exchange.SpiceNodes(n),
		" "); got != "0 a12 splice_s4 splice_s4_2 fuse_f7_in battery_plus n0" {
		t.Errorf("named %s", got)
	}
}

// BenchmarkOperatingPoint finds the operating point of one network of 3,000 wires, here and in ngspice, which reads the
// netlist first.
func BenchmarkOperatingPoint(b *testing.B) {
	n := looms(b, rand.New(rand.NewPCG(3000, 20)), 3000)
	c := network.Condition{Key: network.Run, Running: true}
	s, err := n.Solve(c)
	if err != nil {
		b.Fatal(err)
	}
	b.Run("here", func(b *testing.B) {
		for b.Loop() {
			if _, err := n.Solve(c); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("ngspice", func(b *testing.B) {
		if _, err := exec.LookPath("ngspice"); err != nil {
			b.Skip("ngspice is not installed")
		}
		dir := b.TempDir()
		for b.Loop() {
			spiced(b, dir, s)
		}
	})
}
