package vehicle_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/vehicle"
)

// end is an end of a wire as a test writes it: "K1-2 device kind mm² words".
func ends(lines ...string) []vehicle.Seen {
	var out []vehicle.Seen
	for _, line := range lines {
		f := strings.SplitN(line, "|", 5)
		c, cavity, _ := strings.Cut(f[0], "-")
		var mm2 float64
		_, _ = fmt.Sscan(strings.TrimSuffix(f[3], " mm²"), &mm2)
		out = append(out, vehicle.Seen{At: harness.Ref{Connector: c, Cavity: cavity}, Device: f[1],
			Kind: harness.DeviceKind(f[2]), Signal: signal.Read(f[4]), Text: f[4], Square: size.Section(mm2)})
	}
	return out
}

// table writes proposals as "list: name field=text …" without their notes.
func table(all []vehicle.Proposed, list string, fields ...string) []string {
	out := []string{}
	for _, p := range all {
		if p.List != list {
			continue
		}
		var cells []string
		for _, f := range fields {
			cells = append(cells, p.Cells[f])
		}
		out = append(out, strings.Join(cells, " "))
	}
	return out
}

var wired = ends(
	"X1-1|fuse box|fuses|4 mm²|Battery feed to the ignition switch",
	"K-1|ignition switch||4 mm²|Battery feed to the ignition switch",
	"X1-2|fuse box|fuses|4 mm²|Ignition feed from the switch",
	"K-2|ignition switch||4 mm²|Ignition feed from the switch",
	"K-3|ignition switch||2.5 mm²|Start signal, terminal 50",
	"K-4|ignition switch||1 mm²|Accessory feed",
	"X1-3|fuse box|fuses|1.5 mm²|Horn feed",
	"X1-4|fuse box|fuses|0.75 mm²|Ignition feed of the fuel unit",
	"X1-5|fuse box|fuses||Ground",
	"R-30|pump relay||2.5 mm²|Fuel pump relay feed",
	"R-85|pump relay||0.5 mm²|Fuel pump relay, control",
	"R-86|pump relay||0.5 mm²|Ignition feed",
	"R-87|pump relay||2.5 mm²|Fuel pump feed",
	"S-30|other relay||2.5 mm²|Feed", "S-87|other relay||2.5 mm²|Feed",
)

// What the wires show of a vehicle is what is proposed: the key's contacts, a slot for each cavity of the box that is
// led out of it, a relay by its numbers, and what every vehicle has.
func TestWhatIsUsualByHand(t *testing.T) {
	got := vehicle.Usual(wired, nil)
	for _, c := range []struct {
		list   string
		fields []string
		want   []string
	}{
		{vehicle.Sources, []string{"source", "plus", "minus", "volts"}, []string{"battery battery + battery − 12.6",
			"alternator starter stud engine block 14.2"}},
		{vehicle.Switches, []string{"switch", "from", "to", "closed"}, []string{"key, ignition K1 K2 run, crank",
			"key, start K1 K3 crank", "key, accessory K1 K4 accessory, run"}},
		{vehicle.Fuses, []string{"fuse", "rating", "in", "out"}, []string{"X1-1 30 battery bus X1-1",
			"X1-3 15 battery bus X1-3",
			"X1-4 7.5 ignition bus X1-4", "main 80 battery + battery bus"}},
		{vehicle.Relays, []string{"relay", "coilplus", "coilminus", "common", "make", "break"}, []string{
			"pump relay R86 R85 R30 R87 "}},
		{vehicle.Cables, []string{"cable", "from", "to", "size"}, []string{"ignition bus X1-2 ignition bus 4",
			"starter cable battery + starter stud 35", "battery ground cable battery − engine block 35",
			"block to body strap engine block body 16"}},
	} {
		have := table(got, c.list, c.fields...)
		if !slices.Equal(have, c.want) {
			t.Errorf("%s:\n%s\nwanted\n%s", c.list, strings.Join(have, "\n"), strings.Join(c.want, "\n"))
		}
	}
	// The box's feed from the switch reads like any other: then the bus is led from the switch itself.
	plain := slices.DeleteFunc(slices.Clone(wired),
		func(e vehicle.Seen) bool { return e.Text == "Ignition feed from the switch" })
	plain = append(plain, ends("K-2|ignition switch||4 mm²|Ignition feed",
		"X1-6|fuse box|fuses|1 mm²|Accessory feed")...)
	bus := table(vehicle.Usual(plain, nil), vehicle.Cables, "cable", "from", "to")
	if !slices.Contains(bus, "ignition bus K2 ignition bus") ||
		!slices.Contains(bus, "accessory bus K4 accessory bus") {
		t.Errorf("the buses are led by %q", bus)
	}
	for _, p := range got {
		if p.Cells["note"] != vehicle.UsualNote {
			t.Errorf("%v is proposed as if somebody had seen it", p.Cells)
		}
	}
}

// What is proposed can be read, whatever is there: no line is left out, and each list tells that nobody has looked; a
// list in which somebody has said something is left alone.
func TestWhatIsUsualCanBeTaken(t *testing.T) {
	for name, seen := range map[string][]vehicle.Seen{"a vehicle": wired, "nothing": nil, "an alternator": ends(
		"A-1|alternator||10 mm²|Battery feed", "A-2|alternator||0.5 mm²|Charge lamp, D+ terminal 61")} {
		lists := map[string][]vehicle.Line{}
		for i, p := range vehicle.Usual(seen, nil) {
			lists[p.List] = append(lists[p.List], vehicle.Line{Line: i + 2, Cells: p.Cells})
		}
		facts := vehicle.Read(lists)
		looked := 0
		for _, f := range facts.Findings {
			if f.Code == "usual-not-looked" {
				looked++
				continue
			}
			t.Errorf("%s: %s", name, f.Text)
		}
		if looked != len(lists) || !facts.Said() {
			t.Errorf("%s: %d of %d lists say that nobody has looked", name, looked, len(lists))
		}
		said := map[string]int{}
		for list := range lists {
			said[list] = 1
		}
		for _, p := range vehicle.Usual(seen, said) {
			if lists[p.List] != nil {
				t.Errorf("%s: %v is proposed beside what somebody has said", name, p)
			}
		}
	}
	if got := vehicle.Usual(wired, nil); fmt.Sprint(got) != fmt.Sprint(vehicle.Usual(append(slices.Clone(wired[5:]),
		wired[:5]...),
		nil)) {
		t.Error("what is proposed depends on the order of the wires")
	}
}
