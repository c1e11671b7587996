package feed_test

import (
	"math"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/network"
	"draxel/core/terminal"
	"draxel/core/vehicle"
)

// sensing is a vehicle with a coolant sensor that comes back to its unit.
func sensing() small {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	v.wires = append(v.wires, "W30 U-10 T-1 0.5 Coolant temperature sensor signal", "W31 U-11 T-2 0.5 Sensor ground")
	return v
}

// What a sensor reads wrong by its ground, worked out by hand: where it comes back to its unit only by its own current,
// where it grounds on the engine block by what the block's cable loses.
func TestASensorReadsWrongByItsGround(t *testing.T) {
	v := sensing()
	r := v.compute(t)
	if got := codes(r.Findings); got != "" || len(r.Sensors) != 1 || math.Abs(r.Sensors[0].Full) > 0.005 {
		t.Fatalf("found %q, %+v", got, r.Sensors)
	}
	v.wires = v.wires[:len(v.wires)-1] // its ground is its thread
	v = v.put(vehicle.Cables, 1, "cable=block cable; from=engine block; to=battery −; ohms=0.004").
		with(vehicle.Loads, "load=starter motor; plus=battery +; minus=engine block; amps=150; kind=starter").
		with(vehicle.Loads, "load=fan; plus=battery +; minus=engine block; amps=30; switch=fan")
	r = v.compute(t)
	if len(r.Sensors) != 1 {
		t.Fatalf("%+v", r.Sensors)
	}
	// The unit's own ground goes to another point and carries half an ampere through 0.01 Ω. In crank the battery's 12.6 V
	// over 7.2 mV/A inside leave about 11.6 V at a starter of 0.08 Ω: 136 A and 4.6 mΩ, as warm as it is, are about 630
	// mV; the unit's stands some 100 mV up itself; with everything on 30 A at 13.5 V are 34 A, less what the alternator
	// gives into the block itself.
	s := r.Sensors[0]
	if s.Crank < 0.5 || s.Crank > 0.65 {
		t.Errorf("in crank it reads %.3f V wrong", s.Crank)
	}
	crank := r.States[3]
	block, _ := r.Drawn.Find("engine block")
	i, _ := r.Drawn.Element("block cable")
	want := crank.Amps(i) * 0.004 * (1 + 0.00393*40) // copper at 60 °C, IEC 60028
	if math.Abs(math.Abs(want)-math.Abs(crank.Volts[block])) > 1e-6 {
		t.Errorf("the block stands at %.4f V, its cable carries %.1f A through 4 mΩ", crank.Volts[block], crank.Amps(i))
	}
	if !strings.Contains(codes(r.Findings), "sensor-lifted") {
		t.Errorf("found %s", codes(r.Findings))
	}
}

// Returns that are nobody else's.
func TestQuietReturns(t *testing.T) {
	shared := sensing()
	shared.wires = append(shared.wires, "W32 T-2 G-2 0.5 Sensor ground, second")
	astray := sensing()
	astray.wires[len(astray.wires)-1] = "W31 G-2 T-2 0.5 Sensor ground"
	astray.wires = append(astray.wires, "W35 U-11 N-4 0.5 Sensor ground")
	shield := sensing()
	shield.wires = append(shield.wires, "W33 U-12 N-3 0.5 Knock sensor shield", "W34 N-3 G-3 0.5 Knock sensor shield")
	single := sensing()
	single.wires = append(single.wires, "W33 U-12 N-3 0.5 Knock sensor shield")
	for name, c := range map[string]struct {
		v    small
		want string
	}{
		"shared": {shared, "sensor-ground-shared"}, "astray": {astray, "sensor-ground-astray"}, "shield": {shield,
			"shield-both-ends"},
		"one end": {single, ""}, "as it should be": {sensing(), ""},
	} {
		if got := codes(c.v.compute(t).Findings); got != c.want {
			t.Errorf("%s: found %q, want %q", name, got, c.want)
		}
	}
}

// A wire that is chafed through halfway, against the sum of what its current comes through, by hand.
func TestAChafedWire(t *testing.T) {
	base := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	whole := base.compute(t)
	got, err := whole.Ask("run", nil, network.Fault{Do: network.Short, Element: "W2", B: "body"})
	if err != nil {
		t.Fatal(err)
	}
	i, _ := whole.Drawn.Element("W2")
	ohms := whole.Drawn.Elements[i].Ohms
	if len(got.Opens) == 0 || got.Opens[0].Fuse != "2" || len(got.Heats) == 0 ||
		!strings.Contains(strings.Join(got.Stops, " "), "unit") {
		t.Fatalf("%+v", got)
	}
	// From the battery by both fuses and the key to half of the wire: what hand-summing gives.
	path := 12.6 / (ohms/2 + sum(t, whole, "battery", "fuse main", "key", "fuse 2", "contact F2", "body cable"))
	if amps := got.Heats[len(got.Heats)-1].Amps; math.Abs(amps-path)/path > 0.02 {
		t.Errorf("%.0f A flow through it, by hand %.0f", amps, path)
	}
	for _, bad := range []network.Fault{{Do: network.Short, Element: "fuse 2", B: "body"}, {Do: network.Short,
		Element: "W99", B: "body"},
		{Do: network.Short, Element: "W2", B: "nowhere"}} {
		if _, err := whole.Ask("run", nil, bad); err == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
}

// sum adds up the Ω of elements.
func sum(t *testing.T, r *feed.Result, names ...string) float64 {
	t.Helper()
	ohms := 0.0
	for _, n := range names {
		i, known := r.Drawn.Element(n)
		if !known {
			t.Fatalf("there is no %s", n)
		}
		ohms += r.Drawn.Elements[i].Ohms
	}
	return ohms
}

// A contact with more on it than one of its width carries is found; what the seat's width carries is common practice.
func TestAThinContact(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").
		with(vehicle.Loads, "load=heater; plus=J-1; minus=body; amps=5")
	in := v.input(t)
	for limit, want := range map[float64]bool{terminal.Seat{Blade: 0.64}.Carries(): true,
		terminal.Seat{Blade: 1.5}.Carries(): false,
		terminal.Seat{}.Carries():           false} {
		in.Contacts = map[string]float64{"J1": limit}
		r, err := feed.Compute(in)
		if err != nil {
			t.Fatal(err)
		}
		if got := strings.Contains(codes(r.Findings), "contact-thin"); got != want {
			t.Errorf("a contact for %g A with 5 A on it: found %v", limit, got)
		}
	}
}

// An output made for a relay that drives a fan by itself is found; one that drives a coil is not.
func TestAnOutputThatSinksTooMuch(t *testing.T) {
	for amps, want := range map[string]bool{"8": true, "0.2": false} {
		v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").
			with(vehicle.Loads, "load=fan; plus=F-2; minus=N-1; amps="+amps)
		v.wires = append(v.wires, "W50 U-20 N-1 1 Radiator fan relay, control")
		if got := strings.Contains(codes(v.compute(t).Findings), "output-overloaded"); got != want {
			t.Errorf("%s A on a relay's output: found %v", amps, got)
		}
	}
}
