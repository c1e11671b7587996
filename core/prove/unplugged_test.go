package prove_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/prove"
)

// grounded is a unit U with two power grounds, a sensor's ground and a battery feed, on wires of 50 mΩ: U1 and U2 to
// the ground point, U3 to the sensor S1 alone, U4 behind a fuse. Inside, the unit joins its grounds and feeds itself
// from U4, as any unit does.
func grounded(without string) *prove.Vehicle {
	var b network.Builder
	v := &prove.Vehicle{Where: map[string]string{}, Plugs: []prove.Plug{{ID: "U", Unit: true,
		Cavities: []string{"1", "2", "3",
			"4"}}, {ID: "S", Cavities: []string{"1", "2"}}}}
	add := func(name string, kind network.Kind, x, y string, ohms float64) {
		if name == without {
			return
		}
		b.Add(network.Element{Name: name, Wire: harness.WireID(name), Kind: kind, A: b.Node(x), B: b.Node(y), Ohms: ohms})
	}
	for _, at := range []string{"U1", "U2", "U3", "U4", "S1", "S2"} {
		if wire := b.Place(network.WireSide(at), network.OfWire); network.ContactOf(at) != without {
			b.Add(network.Element{Name: network.ContactOf(at), Role: network.AtCavity, Of: at, Kind: network.Contact,
				A: wire, B: b.Node(at), Ohms: 0.002})
		}
	}
	b.Add(network.Element{Name: "battery", Kind: network.Source, A: b.Node("battery +"), B: network.Reference,
		Volts: 12.6, Ohms: 0.006})
	b.Add(network.Element{Name: "fuse 1", Kind: network.Fuse, A: b.Node("battery +"), B: b.Node("fuse 1 out"), Ohms: 0.01,
		Limit: 10})
	add("strap", network.Copper, "G1", "battery −", 0.001)
	b.Merge(b.Node("battery −"), network.Reference)
	add("w1", network.Copper, "U1 wire", "G1", 0.05)
	add("w2", network.Copper, "U2 wire", "G1", 0.05)
	add("w3", network.Copper, "U3 wire", "S1 wire", 0.05)
	add("w4", network.Copper, "U4 wire", "fuse 1 out", 0.05)
	for _, at := range []string{"U1", "U2", "U3"} {
		b.Add(network.Element{Name: "ground pin " + at, Kind: network.Contact, A: b.Node(at),
			B: b.Node("unit ground inside"), Ohms: 0.005})
	}
	b.Add(network.Element{Name: "feed pin U4", Kind: network.Contact, A: b.Node("U4"), B: b.Node("unit feed inside"),
		Ohms: 0.02})
	b.Add(network.Element{Name: "unit", Kind: network.Load, A: b.Node("unit feed inside"),
		B: b.Node("unit ground inside"), Ohms: 24})
	net, err := b.Network()
	if err != nil {
		panic(err)
	}
	v.Net = net
	v.Where["unit"] = "unit"
	v.Usual = func(prove.Setup) network.Condition { return network.Condition{Key: network.Off} }
	return v
}

// With the unit out there is nothing of it: its grounds and its feed are ends of wires, each with a line at its own
// cavity. By hand: 50 mΩ of wire, two contacts' halves and the strap; a sensor's ground ends at its sensor, and is
// joined to no ground; one power ground that is open shows, though the other is whole.
func TestWhatIsUnpluggedIsAbsent(t *testing.T) {
	v := grounded("")
	sheet, err := v.Sheet(nil)
	if err != nil {
		t.Fatal(err)
	}
	lines := func(v *prove.Vehicle, s prove.Sheet, at string) []prove.SheetLine {
		return slices.DeleteFunc(slices.Clone(s.Lines), func(l prove.SheetLine) bool {
			return l.Setup != prove.Dead || l.A != at && l.B != at
		})
	}
	for at, want := range map[string]string{"U1": "battery −", "U2": "battery −", "U3": "S1"} {
		all := lines(v, sheet, at)
		i := slices.IndexFunc(all, func(l prove.SheetLine) bool {
			return l.First && l.Section == "continuity" && (l.A == want || l.B == want)
		})
		if i < 0 || all[i].Expect.Over || all[i].Expect.Value < 0.05 || all[i].Expect.Value > 0.06 {
			t.Errorf("%s to %s: %+v", at, want, all)
		}
	}
	if all := lines(v, sheet, "U4"); len(all) == 0 {
		t.Error("its feed has no line at its plug")
	}
	for _, pair := range [][2]string{{"U3", "battery −"}, {"U3", "U1"}, {"U4", "U1"}, {"U4", "battery −"}} {
		m := prove.Measure{Kind: prove.Ohms, A: pair[0], B: pair[1], Setup: prove.Dead}
		if x, err := v.Expect(&m); err != nil || !x.Over {
			t.Errorf("with the unit out %s to %s shows %+v, %v", pair[0], pair[1], x, err)
		}
	}
	for wire, at := range map[string]string{"w1": "U1", "w2": "U2", "contact U1": "U1"} {
		broken := grounded(wire)
		m := prove.Measure{Kind: prove.Ohms, A: at, B: "battery −", Setup: prove.Dead}
		if x, err := broken.Expect(&m); err != nil || !x.Over {
			t.Errorf("%s is open, and %s to ground shows %+v, %v", wire, at, x, err)
		}
	}
	// The search names it, and not the unit: a hand reads OL at U1.
	var readings []prove.MeterReading
	for _, l := range sheet.Lines {
		if l.Setup == prove.Dead && l.First && l.Kind == prove.Ohms {
			r := prove.MeterReading{Measure: l.Measure, Value: l.Expect.Value, Over: l.Expect.Over}
			if l.A == "U1" && l.Section == "continuity" {
				r.Value, r.Over = 0, true
			}
			readings = append(readings, r)
		}
	}
	d, err := v.Diagnose(readings, nil)
	if err != nil || len(d.Suspects) == 0 {
		t.Fatal(err)
	}
	if c := d.Suspects[0].Causes; len(c) != 1 || !strings.Contains(c[0].Text, "U1") && !strings.Contains(c[0].Text, "w1") {
		t.Errorf("%+v", d.Suspects)
	}
}

// What a person calls a relay or a stud changes nothing of what can be wrong with it, and of where a probe is put: a
// relay in a socket is there whatever it is called, what stands for a unit that is fed is none.
func TestNamesOfRelaysAndStudsChangeNothing(t *testing.T) {
	for _, name := range []string{"K1", "pump awake", "winch solenoid"} {
		for pull, want := range map[network.Pull]bool{network.Armature: true, network.Awake: false} {
			var b network.Builder
			coil := b.Add(network.Element{Name: name + " coil", Kind: network.Load, A: b.Node("battery +"),
				B: network.Reference, Ohms: 85})
			b.Add(network.Element{Name: "battery", Kind: network.Source, A: b.Node("battery +"), B: network.Reference,
				Volts: 12.6, Ohms: 0.006})
			b.Relay(network.Relay{Name: name, Pull: pull, Coil: coil, PullIn: 7, DropOut: 2})
			b.Add(network.Element{Name: "lead", Kind: network.Copper, A: b.Node("red wire"), B: b.Node("battery +"),
				Ohms: 0.01})
			net, err := b.Network()
			if err != nil {
				t.Fatal(err)
			}
			v := &prove.Vehicle{Net: net, Studs: []string{"red wire"}, Where: map[string]string{}}
			dead := slices.ContainsFunc(v.Causes(), func(c prove.Cause) bool {
				return c.Kind == prove.DeadRelay && c.Where == name
			})
			if dead != want {
				t.Errorf("%s, which pulls as %d, can be dead: %v", name, pull, dead)
			}
			if !slices.Contains(v.Points(), "red wire") {
				t.Errorf("no probe is put on a stud called red wire: %v", v.Points())
			}
		}
	}
}
