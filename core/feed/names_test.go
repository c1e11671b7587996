package feed_test

import (
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// What people call things changes nothing of what they are: fuses named after each other's points, an alternator
// that is listed first, a cable whose note speaks of the starter, a place and a relay named like something of ours.
func TestNamesChangeNothing(t *testing.T) {
	base := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	circle := base.with(vehicle.Fuses, "fuse=p; rating=5; in=main bus; out=q", "fuse=q; rating=5; in=main bus; out=p",
		"fuse=r; rating=5; in=main bus; out=r").compute(t)
	if len(circle.Fuses) != 6 {
		t.Errorf("%d fuses", len(circle.Fuses))
	}
	first := base
	first.lists = copied(base.lists)
	first.lists[vehicle.Sources] = []string{"source=alternator; kind=alternator; plus=battery +; amps=70; idle=30",
		"source=main battery; kind=battery; plus=battery +; amps=600; capacity=60"}
	r := first.with(vehicle.Loads, "load=amplifier; plus=F-1; minus=body; amps=1.5").compute(t)
	if r.Sleeps < 1.4 || r.Days == 0 || r.Tree("run")[0].ID != network.BatteryName {
		t.Errorf("with the alternator listed first %.2f A are taken in %.1f days, from %s", r.Sleeps, r.Days,
			r.Tree("run")[0].ID)
	}
	for _, v := range []small{
		base.with(vehicle.Cables, "cable=spare starter lead; from=battery +; to=F-2; ohms=0.01; note=beside the starter"),
		base.with(vehicle.Cables, "cable=lead; from=battery +; to=cab inside; ohms=0.01",
			"cable=on; from=cab inside; to=F-2; ohms=0.01"),
	} {
		if r := v.compute(t); !strings.Contains(codes(r.Findings), "unprotected") {
			t.Errorf("a lead past all fuses is protected: %v", r.Unprotected)
		}
	}
	r = base.with(vehicle.Relays,
		"relay=always awake; coilplus=IG; coilminus=nothing; common=main bus; make=out").compute(t)
	if !strings.Contains(codes(r.Findings), "coil-no-ground") {
		t.Errorf("a relay is passed over for its name: %s", codes(r.Findings))
	}
	r = base.put(vehicle.Switches, 0, "switch=output of the key; from=main bus; to=IG; closed=run, crank").compute(t)
	for _, x := range r.Tree("run") {
		if x.Name == "output of the key" && x.Kind != feed.ASwitch {
			t.Errorf("a switch is taken for an %s for its name", x.Kind)
		} else if x.ID == "fuse 2" && (x.Kind != feed.AFuse || x.Name != "2") {
			t.Errorf("fuse 2 is %q, a %s", x.Name, x.Kind)
		}
	}
}

// The starter's cable is exempt for the current that it carries; nothing else is.
func TestTheStartersCableIsExempt(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").with(vehicle.Cables,
		"cable=thick; from=battery +; to=post; size=35; length=900",
		"cable=thin; from=post; to=lamp post; size=2.5; length=900").
		with(vehicle.Loads, "load=motor; plus=post; minus=engine block; amps=180; volts=10; kind=starter")
	v.wires = append(v.wires, "W9 F-7 J-9 1 Spare")
	in := v.input(t)
	in.Wires["thick"], in.Wires["thin"] = feed.Copper{Square: 35, Mm: 900, Carries: 160}, feed.Copper{Square: 2.5, Mm: 900,
		Carries: 25}
	r, err := feed.Compute(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, b := range r.Unprotected {
		if b.Starter != (b.Wire == "thick") {
			t.Errorf("%s is exempt: %v", b.Wire, b.Starter)
		}
	}
	if len(r.Unprotected) != 2 {
		t.Errorf("unprotected %v", r.Unprotected)
	}
}

// A fuse that may open later than the wire lasts does not save it: 0.75 mm² burns in 78²/I² s (IEC 60364-5-54), and
// a fuse of 40 A may take up to 5 s at twice its rating (ISO 8820-3).
func TestAFuseThatOpensTooLate(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	v.wires = append(v.wires, "W8 F-2 J-8 0.75 Spare feed")
	late := v.put(vehicle.Fuses, 1, "fuse=2; rating=40; in=IG; out=F-2").put(vehicle.Fuses, 2,
		"fuse=main; rating=100; in=battery +; out=main bus")
	// At 1.8 times its rating a fuse of 20 A may take 15 s, and the wire may be spent in 5.
	warm := v.put(vehicle.Fuses, 1, "fuse=2; rating=20; in=IG; out=F-2")
	for name, c := range map[string]struct {
		v       small
		ohms    float64
		outlast bool
	}{"a hard touch": {v, 0, true}, "a soft touch": {late, 0.1, false}, "a warm touch": {warm, 0.34, false},
		"a slow fuse": {v.put(vehicle.Fuses, 1, "fuse=2; rating=10; kind=slow; in=IG; out=F-2"), 0, false}} {
		o, err := c.v.compute(t).Ask("running", nil, network.Fault{Do: network.Short, A: "J8", B: "battery −", Ohms: c.ohms})
		if err != nil || len(o.Opens) == 0 {
			t.Fatalf("%s: %+v, %v", name, o, err)
		}
		found := false
		for _, h := range o.Heats {
			if h.Wire == "W8" {
				found = true
				if h.Outlast != c.outlast {
					t.Errorf("%s at %.0f A: outlasts %v, burns in %.2f s, fuses %+v", name, h.Amps, h.Outlast, h.Burns, o.Opens)
				}
			}
		}
		if !found {
			t.Errorf("%s: W8 does not heat: %+v", name, o.Heats)
		}
	}
}
