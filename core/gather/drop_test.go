package gather_test

import (
	"fmt"
	"math"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
)

// What stands before a feed, against the voltage divider worked out by hand: a lamp of 21 W is 6.857 Ω, one of 5 W
// 28.8 Ω.
func TestDropsByHand(t *testing.T) {
	read := func(cavity string, key gather.Key, volts float64, loaded bool, watts float64) gather.Measurement {
		return gather.Measurement{ID: fmt.Sprint(cavity, key, loaded), At: harness.Ref{Connector: "K", Cavity: cavity},
			Key: key, Volts: &volts,
			Loaded: loaded, Watts: watts}
	}
	got := gather.Drops([]gather.Measurement{
		read("1", gather.KeyRun, 12.6, false, 0), read("1", gather.KeyRun, 12.4, true, 0), // 0.2 V at 1.81 A
		read("2", gather.KeyRun, 12.6, false, 0), read("2", gather.KeyRun, 9.69, true, 0), // 2.06 Ω
		read("3", gather.KeyRun, 12.6, false, 0), read("3", gather.KeyRun, 8, true, 5), // 16.56 Ω
		read("4", gather.KeyRun, 12.6, false, 0),                                         // never loaded
		read("5", gather.KeyRun, 12.6, false, 0), read("5", gather.KeyCrank, 9, true, 0), // in different positions
		read("6", gather.KeyRun, 0.1, false, 0), read("6", gather.KeyRun, 0, true, 0), // dead
		read("7", gather.KeyRun, 12.6, false, 0), read("7", gather.KeyRun, 12.1, true, 0), // 0.28 Ω
		read("7", gather.KeyCrank, 11, false, 0), read("7", gather.KeyCrank, 9, true, 0), // 1.52 Ω, the worse
	})
	want := map[string]float64{"1": 0.11, "2": 2.06, "3": 16.56, "7": 1.52}
	if len(got) != len(want) {
		t.Fatalf("%+v", got)
	}
	for _, d := range got {
		if w := want[d.At.Cavity]; math.Abs(d.Ohms-w) > 0.011 || d.Fraught != (w >= 0.5) {
			t.Errorf("%s: %.3f Ω, fraught %v, want %.2f", d.At, d.Ohms, d.Fraught, w)
		}
	}
}
