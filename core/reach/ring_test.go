package reach_test

import (
	"fmt"
	"math/rand"
	"testing"

	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
)

// ring is a harness of so many wires that runs round a vehicle on so many paths, all of it placed and measured: most
// wires are too short, and their joints crowd in few bundles.
func ring(r *rand.Rand, wires, paths int) reach.Input {
	in := reach.Input{Loom: &harness.Loom{}, Decisions: reach.Decisions{Rules: reach.Standard()}}
	d := &in.Decisions
	for i := range paths {
		d.Map.Stations = append(d.Map.Stations, route.Station{ID: fmt.Sprint("s", i), Group: "body"})
		d.Map.Paths = append(d.Map.Paths, route.Path{ID: fmt.Sprint("p", i), From: fmt.Sprint("s", i),
			To: fmt.Sprint("s", (i+1)%paths), Length: 200 + float64(r.Intn(400)), Spread: 10, Cover: route.Tape,
			Wall: i%13 == 0, Moving: i%11 == 5})
		id := fmt.Sprint("C", i)
		in.Loom.Devices = append(in.Loom.Devices, harness.Device{ID: "D" + id, Kind: []harness.DeviceKind{harness.Part,
			harness.Unit}[r.Intn(2)]})
		in.Loom.Connectors = append(in.Loom.Connectors, harness.Half{Connector: harness.Connector{ID: id, Name: id,
			Cavities: harness.Numbered(2*wires + 2), Rows: 2}, Device: "D" + id})
		d.Places = append(d.Places, route.Place{Thing: route.Thing{Kind: route.ADevice, ID: "D" + id},
			Station: fmt.Sprint("s", i)})
	}
	for i := range wires {
		in.Wires = append(in.Wires, wire(fmt.Sprint("W", i), at(fmt.Sprint("C", r.Intn(paths)), 2*i+1),
			at(fmt.Sprint("C", r.Intn(paths)), 2*i+2), float64(800+r.Intn(3000)), "Coolant temperature sensor signal"))
	}
	return in
}

// BenchmarkReachRing is Reach where joints crowd: 1,000 wires on a ring of 40 paths, 3,000 on one of 300.
func BenchmarkReachRing(b *testing.B) {
	for name, c := range map[string][2]int{"1000": {1000, 40}, "3000": {3000, 300}} {
		b.Run(name, func(b *testing.B) {
			in := ring(rand.New(rand.NewSource(4)), c[0], c[1])
			var result *reach.Result
			for b.Loop() {
				result = reach.Compute(in)
			}
			b.ReportMetric(float64(result.Figures.Joints), "joints")
			b.ReportMetric(float64(result.Figures.Troubled), "troubled")
		})
	}
}
