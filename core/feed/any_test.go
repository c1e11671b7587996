package feed_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"draxel/core/feed"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// Whatever stands in the lists, in any order and at any place, is reckoned or refused: no volts are lost, nothing is
// said of what is not, and every answer to what if comes back.
func TestAnythingInTheLists(t *testing.T) {
	points := []string{"battery +", "battery −", "body", "engine block", "F-1", "F-2", "U-1", "J-1", "J-2", "IG", "bus",
		"main bus", "x", "ground point", "", "F-99"}
	numbers := []string{"", "0", "-1", "1", "10", "40", "1e308", "NaN", "0,5", "many", "0.0001"}
	kinds := []string{"", "battery", "alternator", "lamp", "starter", "blade", "slow", "own", "run", "off, crank",
		"sideways"}
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 41))
		v := sound()
		for list, fields := range map[string][]string{
			vehicle.Sources:  {"source", "kind", "plus", "minus", "volts", "amps", "idle", "capacity", "ohms"},
			vehicle.Fuses:    {"fuse", "rating", "kind", "in", "out"},
			vehicle.Switches: {"switch", "from", "to", "closed"}, vehicle.Relays: {"relay", "coilplus", "coilminus", "common",
				"make", "break", "ohms", "amps"},
			vehicle.Cables: {"cable", "from", "to", "size", "length", "ohms"}, vehicle.Loads: {"load", "plus", "minus", "amps",
				"volts", "kind", "switch"},
		} {
			for n := range r.IntN(5) {
				line := fmt.Sprintf("%s=%s %d", fields[0], list, n)
				for _, f := range fields[1:] {
					choice := points
					switch f {
					case "volts", "amps", "idle", "capacity", "ohms", "rating", "size", "length":
						choice = numbers
					case "kind", "closed", "switch":
						choice = kinds
					}
					line += "; " + f + "=" + choice[r.IntN(len(choice))]
				}
				v = v.with(list, line)
			}
		}
		in, err := v.reckon(t)
		if err != nil {
			continue
		}
		res, err := feed.Compute(in)
		if err != nil {
			continue
		}
		for k, s := range res.States {
			for n, volts := range s.Volts {
				if math.IsNaN(volts) || math.IsInf(volts, 0) {
					t.Fatalf("seed %d, %s: %s has %g V", seed, feed.Positions()[k].Name, res.Drawn.Names[n], volts)
				}
			}
		}
		for range 4 {
			e := res.Drawn.Elements[r.IntN(len(res.Drawn.Elements))].Name
			if _, err := res.Ask(feed.Positions()[r.IntN(5)].Name, nil, network.Fault{Do: network.Open,
				Element: e}); err != nil {
				t.Fatalf("seed %d: %s open: %v", seed, e, err)
			}
		}
		for _, p := range feed.Positions() {
			for i, f := range res.Tree(p.Name) {
				if f.Parent >= i || math.IsNaN(f.Amps) {
					t.Fatalf("seed %d: %+v", seed, f)
				}
			}
		}
	}
}
