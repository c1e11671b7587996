package vehicle_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"draxel/core/network"
	"draxel/core/vehicle"
)

// line makes a line of "field=text; field=text".
func line(text string) vehicle.Line {
	l := vehicle.Line{Line: 2, Cells: map[string]string{}}
	for pair := range strings.SplitSeq(text, "; ") {
		field, cell, _ := strings.Cut(pair, "=")
		l.Cells[field] = cell
	}
	return l
}

func read(list string, lines ...string) vehicle.Facts {
	var all []vehicle.Line
	for _, text := range lines {
		all = append(all, line(text))
	}
	return vehicle.Read(map[string][]vehicle.Line{list: all})
}

// One line of each list, with one field as far as it goes and a little farther: what is out of bounds is found, once,
// and the line is left out.
func TestEachFieldHasItsBounds(t *testing.T) {
	const (
		source = "source=s; plus=+; minus=-; amps=600; capacity=60"
		fuse   = "fuse=f; rating=10; in=a; out=b"
		key    = "switch=k; from=a; to=b; closed=run"
		relay  = "relay=r; coilplus=a; coilminus=b; common=c; make=d"
		cable  = "cable=c; from=a; to=b"
		load   = "load=l; plus=a; amps=1"
	)
	for _, c := range []struct {
		list, base, field string
		in, out           []string
	}{
		{vehicle.Sources, source, "volts", []string{"1", "60", "12,6 V", ""}, []string{"0.9", "61", "x", "NaN"}},
		{vehicle.Sources, source, "ohms", []string{"0.0001", "10"}, []string{"0.00009", "11"}},
		{vehicle.Sources, source, "amps", []string{"1", "3000 A"}, []string{"0.5", "3001"}},
		{vehicle.Sources, source, "idle", []string{"1", "3000"}, []string{"0.5", "3001"}},
		{vehicle.Sources, source, "capacity", []string{"1", "1000 Ah"}, []string{"0.5", "1001"}},
		{vehicle.Sources, source, "plus", []string{"x"}, []string{""}},
		{vehicle.Sources, source, "source", []string{"x"}, []string{""}},
		{vehicle.Fuses, fuse, "rating", []string{"0.1", "1000"}, []string{"", "0", "0.09", "1001"}},
		{vehicle.Fuses, fuse, "in", []string{"x"}, []string{"", "b"}},
		{vehicle.Fuses, fuse, "out", []string{"x", ""}, []string{"a"}},
		{vehicle.Fuses, fuse, "fuse", []string{"x"}, []string{""}},
		{vehicle.Switches, key, "ohms", []string{"0.00001", "100 Ω"}, []string{"0.000009", "101"}},
		{vehicle.Switches, key, "closed", []string{"run, crank", "own", "ON", "", "acc"}, []string{"sometimes"}},
		{vehicle.Switches, key, "to", []string{"x"}, []string{"", "a"}},
		{vehicle.Switches, key, "switch", []string{"x"}, []string{""}},
		{vehicle.Relays, relay, "ohms", []string{"1", "10000"}, []string{"0.9", "10001"}},
		{vehicle.Relays, relay, "amps", []string{"0.1", "1000"}, []string{"0.09", "1001"}},
		{vehicle.Relays, relay, "common", []string{"x"}, []string{""}},
		{vehicle.Relays, relay, "make", []string{"x"}, []string{""}},
		{vehicle.Relays, relay, "coilminus", []string{"x"}, []string{"", "a"}},
		{vehicle.Relays, relay, "relay", []string{"x"}, []string{""}},
		{vehicle.Cables, cable, "size", []string{"0.1", "240 mm²", ""}, []string{"0.09", "241"}},
		{vehicle.Cables, cable, "length", []string{"1", "30000 mm"}, []string{"0.9", "30001"}},
		{vehicle.Cables, cable, "ohms", []string{"0.00001", "10"}, []string{"0.000009", "10.1"}},
		{vehicle.Cables, cable, "to", []string{"x"}, []string{"", "a"}},
		{vehicle.Cables, cable, "cable", []string{"x"}, []string{""}},
		{vehicle.Loads, load, "amps", []string{"0.001", "1000"}, []string{"", "0", "0.0009", "1001"}},
		{vehicle.Loads, load, "volts", []string{"1", "60"}, []string{"0.9", "61"}},
		{vehicle.Loads, load, "plus", []string{"x"}, []string{""}},
		{vehicle.Loads, load, "load", []string{"x"}, []string{""}},
	} {
		try := func(text string, can bool) {
			l := line(c.base)
			l.Cells[c.field] = text
			f := vehicle.Read(map[string][]vehicle.Line{c.list: {l}})
			in := &f.Inside
			lines := len(in.Sources) + len(in.Slots) + len(in.Switches) + len(in.Relays) + len(in.Cables) + len(in.Uses)
			if can && (lines != 1 || len(f.Findings) != 0) || !can && (lines != 0 || len(f.Findings) != 1) {
				t.Errorf("%s, %s %q: %d lines, findings %v", c.list, c.field, text, lines, f.Findings)
			}
			if said := c.list != vehicle.Cables && c.list != vehicle.Loads; f.Said() != (can && said) {
				t.Errorf("%s, %s %q: said is %v", c.list, c.field, text, f.Said())
			}
		}
		for _, text := range c.in {
			try(text, true)
		}
		for _, text := range c.out {
			try(text, false)
		}
	}
	if f := read(vehicle.Cables, cable, cable); len(f.Inside.Cables) != 1 || len(f.Findings) != 1 {
		t.Errorf("a name twice: %v, %v", f.Inside.Cables, f.Findings)
	}
}

// What is not said of a source is what is usual for it: 12.6 V, and the ohms that its cold-cranking amps leave at 7.2 V
// (EN 50342-1, from memory); 14.2 V and 20 mΩ of an alternator, at the engine block.
func TestWhatIsUsualForASource(t *testing.T) {
	f := read(vehicle.Sources, "source=main; plus=+; amps=600", "source=aux; plus=+2; volts=12.8; ohms=0.01; amps=600",
		"source=alternator; kind=Alternator; plus=B+; amps=70; idle=30",
		"source=generator; kind=generator; plus=B; volts=13; ohms=0.1; minus=x")
	s := f.Inside.Sources
	if len(s) != 4 || s[0].Name != network.BatteryName || s[0].Volts != 12.6 || math.Abs(s[0].Ohms-0.008) > 1e-12 ||
		s[0].Running || s[1].Name != "aux" || s[1].Volts != 12.8 || s[1].Ohms != 0.01 ||
		s[2].Volts != 14.2 || s[2].Ohms != 0.02 || s[2].Limit != 70 || !s[2].Running || s[2].Minus != "engine block" ||
		s[3].Volts != 13 || s[3].Ohms != 0.1 || s[3].Minus != "x" {
		t.Errorf("sources are %+v", s)
	}
	if x := f.Sources[2]; !x.Alternator || x.Amps != 70 || x.Idle != 30 || f.Sources[0].Alternator {
		t.Errorf("said are %+v", f.Sources)
	}
}

// A fuse that leads to two places is one fuse and a bridge; a kind of slow fuse is one by its word; a switch of its own
// is one that a person works, and so is that of a load.
func TestWhatLinesSayMore(t *testing.T) {
	f := read(vehicle.Fuses, "fuse=1; rating=10; in=a; out=b; kind=slow", "fuse=2; rating=40; in=a; out=c;d; kind=bolted",
		"fuse=3; rating=5; in=a; out=e; kind=blade", "fuse=4; rating=5; in=a")
	in := f.Inside
	if len(in.Slots) != 4 || in.Slots[1].Out != "c" || in.Slots[3].Out != "4" || len(in.Cables) != 1 ||
		in.Cables[0].From != "c" || in.Cables[0].To != "d" || !f.Slow["1"] || !f.Slow["2"] || f.Slow["3"] {
		t.Errorf("fuses are %+v, bridges %+v, slow %v", in.Slots, in.Cables, f.Slow)
	}
	f = vehicle.Read(map[string][]vehicle.Line{
		vehicle.Switches: {line("switch=key 1; from=a; to=b; closed=run crank"),
			line("switch=fog; from=a; to=c; closed=own")},
		vehicle.Loads: {line("load=l; plus=a; amps=1; switch=fog; kind=Lamp"),
			line("load=m; plus=a; amps=90; kind=starter")},
		vehicle.Relays: {line("relay=r; coilplus=a; coilminus=b; common=c; break=d; amps=30; suppressed=Diode")},
	})
	uses, relay := f.Inside.Uses, f.Inside.Relays[0]
	if !slices.Equal(f.Switches, []string{"fog"}) || !uses[0].Lamp || uses[0].Starter || !uses[1].Starter ||
		uses[1].Lamp ||
		!relay.Diode || relay.Break != "d" || f.Contacts["r"] != 30 {
		t.Errorf("switches %v, loads %+v, relay %+v of %v A", f.Switches, uses, relay, f.Contacts)
	}
	if got := f.Measured(); !slices.Equal(got, []string{"a to b closed in run, crank"}) {
		t.Errorf("measured are %q", got)
	}
}
