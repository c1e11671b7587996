package feed_test

import (
	"math"
	"testing"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// The table by hand: a battery of 12 V behind 6 mΩ, a fuse of 10 A before a pump of 1.5 Ω by a wire, a lamp behind a
// switch that nobody has worked, and a wire that leads to nothing.
func TestTheTableByHand(t *testing.T) {
	r := small{wires: []harness.WireID{"W1 F-1 P-1 1 Fuel pump", "W2 P-2 G-1 1 Fuel pump ground",
		"W3 F-2 L-1 1 Charge lamp", "W4 L-2 G-2 1 Charge lamp ground", "W5 F-3 F-4 0.5 Spare"},
		lists: map[string][]string{
			"sources":  {"source=battery; plus=battery +; volts=12"},
			"fuses":    {"fuse=1; rating=10; in=battery +; out=F-1", "fuse=2; rating=5; in=lamp bus; out=F-2"},
			"switches": {"switch=lamp switch; from=battery +; to=lamp bus; closed=own"},
			"cables":   {"cable=strap; from=ground point; to=battery −; size=16; length=500"}}}.compute(t)
	check := func(on []string, want map[string]string) {
		t.Helper()
		s, err := r.With("run", on)
		if err != nil {
			t.Fatal(err)
		}
		got := map[string]feed.LiveLine{}
		for _, x := range r.Table(s) {
			got[x.Name] = x
		}
		for name, live := range want {
			if string(got[name].Live) != live {
				t.Errorf("with %v %s is %q, %.2f V: wanted %s", on, name, got[name].Live, got[name].Volts, live)
			}
		}
		w1, pump := got["W1"], got["pump"]
		if w1.Fuse != "1" || w1.Rating != 10 || w1.Kind != "wire" || got["strap"].Kind != "cable" {
			t.Errorf("before W1 stands fuse %q of %g A", w1.Fuse, w1.Rating)
		}
		amps := 12 / (1.5 + 0.1) // with some tenth of an ohm around it
		if math.Abs(w1.Amps-amps) > 0.6 || math.Abs(w1.Amps-pump.Amps) > 1e-6 ||
			math.Abs(w1.Amps*1.5-pump.Drop) > 0.01 || w1.Drop < 0.05 || w1.Drop > 0.6 {
			t.Errorf("W1 carries %.2f A and loses %.2f V, the pump takes %.2f A at %.2f V", w1.Amps, w1.Drop, pump.Amps,
				pump.Drop)
		}
	}
	check(nil, map[string]string{"W1": "live", "W2": "dead", "W3": "dead", "W5": "floating", "pump": "works",
		"charge lamp": "stands"})
	check([]string{"lamp switch"}, map[string]string{"W1": "live", "W3": "live", "charge lamp": "works"})
}

// What is too hot without the fault is no answer to it: a wire of 0.5 mm² under 40 A is counted when something else
// breaks, and told when the fault puts more on it.
func TestWhatIsHotAnyway(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=100; in=battery +; out=main bus").put(vehicle.Fuses, 1,
		"fuse=2; rating=60; in=IG; out=F-2").with(vehicle.Loads, "load=winch; plus=J-1; minus=body; amps=40")
	v.wires = append(v.wires[:3:3], "W4 F-2 J-1 0.5 Injector supply", v.wires[4])
	r := v.compute(t)
	other, err := r.Ask("running", nil, network.Fault{Do: network.Open, Element: "W5"})
	if err != nil || len(other.Heats) != 0 || other.Already != 1 {
		t.Errorf("W5 open: %+v, %v", other, err)
	}
	short, err := r.Ask("running", nil, network.Fault{Do: network.Short, A: "J1", B: "battery −"})
	if err != nil || len(short.Heats) == 0 || short.Heats[0].Wire != "W4" {
		t.Errorf("a short behind W4: %+v, %v", short, err)
	}
}
