package thin_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"draxel/core/harness"
	"draxel/core/thin"
)

// plugs is a loom of parts with one plug each; the letter of a part's system is the first of its name: l lighting, c
// climate.
func plugs(parts []string, wires ...[2]string) *harness.Loom {
	l := &harness.Loom{}
	for _, p := range parts {
		system := map[byte]string{'l': "lighting", 'c': "climate"}[p[0]]
		l.Devices = append(l.Devices, harness.Device{ID: p, System: system})
		l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: p}, Device: p})
	}
	for i, w := range wires {
		x := harness.Wire{ID: harness.WireID(fmt.Sprint("W", i+1))}
		for k, at := range w {
			if at[0] == 'S' {
				x.Ends[k] = harness.End{Splice: harness.JointID(at)}
			} else {
				x.Ends[k] = harness.End{At: harness.Ref{Connector: at, Cavity: "1"}}
			}
		}
		l.Wires = append(l.Wires, x)
	}
	return l
}

var climateGoes = []thin.Decision{{On: thin.System, ID: "climate", Choice: thin.Goes},
	{On: thin.System, ID: "lighting", Choice: thin.Keep}}

// A wire that comes to one half of an in-line pair, where the other half shows no wire, has not been followed: it may
// be the feed of what is kept, and stays. It goes with the pair.
func TestAWireToAnEmptyMateIsNotFollowed(t *testing.T) {
	l := plugs([]string{"lamp A", "lamp B", "cabin heater"}, [2]string{"lamp A", "S1"}, [2]string{"XA", "S1"},
		[2]string{"cabin heater", "S1"},
		[2]string{"lamp B", "S1"})
	l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: "XA"}, Mate: "XB"},
		harness.Half{Connector: harness.Connector{ID: "XB"}, Mate: "XA"})
	got := byWire(l, thin.Compute(thin.Input{Loom: l, Decisions: climateGoes, Bench: thin.Standard()}))
	for id, goes := range map[harness.WireID]bool{"W1": false, "W2": false, "W3": true, "W4": false} {
		if (got[id] == thin.Goes) != goes {
			t.Errorf("%s: %q", id, got[id])
		}
	}
	with := append(climateGoes, thin.Decision{On: thin.Connector, ID: "XA", Choice: thin.Goes})
	if got := byWire(l, thin.Compute(thin.Input{Loom: l, Decisions: with,
		Bench: thin.Standard()})); got["W2"] != thin.Goes || got["W1"] == thin.Goes {
		t.Errorf("the pair goes: %v", got)
	}
}

// What stays in a circuit of which something goes lies on a way from one wanted end to another that passes no place
// twice; everything else goes, rings too. Tried here by walking every way.
func TestWhatServesNothingGoes(t *testing.T) {
	rings, checked := 0, 0
	for seed := range uint64(4000) {
		r := rand.New(rand.NewPCG(seed, 4))
		splices := 2 + r.IntN(6)
		var parts []string
		var wires [][2]string
		for i := range 2 + r.IntN(4) {
			p := fmt.Sprint("lamp", i)
			parts, wires = append(parts, p), append(wires, [2]string{p, fmt.Sprint("S", r.IntN(splices))})
		}
		for i := range 1 + r.IntN(3) {
			p := fmt.Sprint("cooler", i)
			parts, wires = append(parts, p), append(wires, [2]string{p, fmt.Sprint("S", r.IntN(splices))})
		}
		for range splices + r.IntN(4) {
			wires = append(wires, [2]string{fmt.Sprint("S", r.IntN(splices)), fmt.Sprint("S", r.IntN(splices))})
		}
		l := plugs(parts, wires...)
		result := thin.Compute(thin.Input{Loom: l, Decisions: climateGoes, Bench: thin.Standard()})
		serves, kept, dead := walked(wires)
		for i, v := range result.Wires {
			at := wires[i][1]
			if kept[at] < 2 || dead[at] == 0 { // nothing there goes, or one lone end is left, which nobody let go of
				continue
			}
			checked++
			if (v.Choice == thin.Goes) == serves[i] {
				t.Fatalf("seed %d: W%d %v serves %v, and it is %q: %v", seed, i+1, wires[i], serves[i], v.Choice, wires)
			}
			if wires[i][0] == wires[i][1] {
				rings++
			}
		}
	}
	if checked < 10000 || rings < 100 {
		t.Errorf("%d wires were checked, %d of them rings", checked, rings)
	}
}

// walked says which wires lie on a way between two lamps, and by place how many lamps and coolers its circuit has.
func walked(wires [][2]string) (serves []bool, lamps, coolers map[string]int) {
	serves, lamps, coolers = make([]bool, len(wires)), map[string]int{}, map[string]int{}
	var walk func(at string, been map[string]bool, by []int)
	walk = func(at string, been map[string]bool, by []int) {
		if at[0] == 'l' && len(by) > 0 {
			for _, w := range by {
				serves[w] = true
			}
			return
		}
		for i, w := range wires {
			for k := range 2 {
				if next := w[1-k]; w[k] == at && !been[next] {
					been[next] = true
					walk(next, been, append(by[:len(by):len(by)], i))
					delete(been, next)
				}
			}
		}
	}
	of := map[string]string{} // the circuit of each place, by the name of one place in it
	var colour func(at, name string)
	colour = func(at, name string) {
		of[at] = name
		for _, w := range wires {
			for k := range 2 {
				if w[k] == at && of[w[1-k]] == "" {
					colour(w[1-k], name)
				}
			}
		}
	}
	for _, w := range wires {
		for _, at := range w {
			if of[at] == "" {
				colour(at, at)
			}
		}
	}
	count := [2]map[string]int{{}, {}}
	for at, name := range of {
		switch at[0] {
		case 'l':
			count[0][name]++
			walk(at, map[string]bool{at: true}, nil)
		case 'c':
			count[1][name]++
		}
	}
	for at, name := range of {
		lamps[at], coolers[at] = count[0][name], count[1][name]
	}
	return serves, lamps, coolers
}

// A junction that is listed as a part uses nothing itself: it is not told to lose its supply when one of its legs goes.
func TestAJunctionLosesNoSupply(t *testing.T) {
	l := plugs([]string{"lamp A", "lamp B", "cabin heater"})
	l.Devices = append(l.Devices, harness.Device{ID: "junction", System: "lighting"})
	l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: "J", Cavities: harness.Numbered(3)},
		Device: "junction",
		Links:  [][]string{{"1", "2", "3"}}})
	for i, p := range []string{"lamp A", "lamp B", "cabin heater"} {
		l.Wires = append(l.Wires, harness.Wire{ID: harness.WireID(fmt.Sprint("W", i+1)),
			Ends: [2]harness.End{{At: harness.Ref{Connector: p, Cavity: "1"}},
				{At: harness.Ref{Connector: "J", Cavity: fmt.Sprint(i + 1)}}}})
	}
	r := thin.Compute(thin.Input{Loom: l, Decisions: climateGoes, Bench: thin.Standard()})
	if got := byWire(l, r); got["W3"] != thin.Goes || got["W1"] == thin.Goes {
		t.Fatalf("%v", got)
	}
	for _, f := range r.Findings {
		if f.Code == "part-incomplete" {
			t.Errorf("%s", f.Text)
		}
	}
}
