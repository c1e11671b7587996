package feed_test

import (
	"fmt"
	"testing"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/vehicle"
)

// BenchmarkFeed reckons a vehicle of so many wires in every position of the key, with all findings.
func BenchmarkFeed(b *testing.B) {
	for _, size := range []int{100, 1000} {
		v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
		for i := range size {
			from := fmt.Sprintf("F-%d", 10+i/4)
			if i%4 == 0 {
				v.lists[vehicle.Fuses] = append(v.lists[vehicle.Fuses], fmt.Sprintf("fuse=x%d; rating=10; in=IG; out=%s",
					i, from))
			}
			v.wires = append(v.wires, harness.WireID(fmt.Sprintf("X%d %s Z%d-1 0.75 Horn", i, from, i)))
			v.lists[vehicle.Loads] = append(v.lists[vehicle.Loads],
				fmt.Sprintf("load=load %d; plus=Z%d-1; minus=body; amps=0.2", i, i))
		}
		in := v.input(b)
		b.Run(fmt.Sprint(size), func(b *testing.B) {
			for b.Loop() {
				if _, err := feed.Compute(in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
