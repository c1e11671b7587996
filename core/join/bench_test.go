package join

import (
	"fmt"
	"testing"

	"draxel/core/signal"
)

// BenchmarkJoin is all functions with their sums and findings, of a harness with so many wires.
func BenchmarkJoin(b *testing.B) {
	for _, n := range []int{100, 1000} {
		in := Inputs{Works: map[string]bool{}, Job: Known{Cylinders: 4, Alternator: "lamp-excited", PumpVolts: 12.7},
			Wishes: []FunctionWish{{Function: "tach", Facts: map[string]string{"dial": "2.5"}}, {Function: "coolantgauge",
				Facts: map[string]string{"sender": "40: 240, 80: 60, 120: 20", "gauge": "40: 290, 80: 110, 120: 70"}}}}
		all := catalogue()
		for i := range n {
			f := all[i%len(all)]
			for end := range 2 {
				in.Sockets = append(in.Sockets, Socket{Device: fmt.Sprint("device ", i+end), Circuit: i,
					Signal: signal.Reading{Device: f.Ends[i/len(all)%len(f.Ends)]}, Unit: end == 0})
			}
		}
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				if items, _ := List(in); len(items) != len(all) {
					b.Fatal(len(items))
				}
			}
		})
	}
}
