package gather_test

import (
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/signal"
)

func volts(at string, key gather.Key, v float64, loaded bool) gather.Measurement {
	return gather.Measurement{At: ref(at), Key: key, Volts: &v, Loaded: loaded}
}

func ohms(at, to string, v float64) gather.Measurement {
	m := gather.Measurement{At: ref(at), Ohms: &v}
	if to != "" {
		m.To = ref(to)
	}
	return m
}

func joined(at, to string, yes bool) gather.Measurement {
	return gather.Measurement{At: ref(at), To: ref(to), Joined: &yes}
}

// An old ignition switch and what hangs on it; what such feeds show in each position is common practice of the trade.
func TestTheIgnitionSwitchIsDecoded(t *testing.T) {
	var all []gather.Measurement
	for cavity, v := range map[string][4]float64{"S-1": {12.5, 12.4, 12.3, 10.6}, "S-2": {0, 0, 12.2, 10.4},
		"S-3": {0, 12.3, 12.2, 0}, "S-4": {0, 0, 0, 10.5}, "S-5": {0, 12, 0, 0}} {
		for i, k := range gather.Keys() {
			all = append(all, volts(cavity, k, v[i], true))
		}
	}
	all = append(all, volts("S-6", gather.KeyRun, 12.1, false), volts("S-6", gather.KeyRun, 7.9, true),
		ohms("S-7", "", 0.3), volts("S-8", gather.KeyRun, 12.1, false), ohms("S-9", "", 4700))
	want := []struct {
		at, means string
		role      signal.Role
		proven    bool
	}{
		{"S1", "battery", signal.Battery, true}, {"S2", "ignition, on in run and in crank", signal.Ignition, true},
		{"S3", "accessory: it drops out in crank", signal.Ignition, true},
		{"S4", "start", signal.Start, true}, {"S5", "accessory alone", signal.Ignition, true},
		{"S6", "resistance", signal.Ignition, true}, {"S7", "ground", signal.Ground, true},
		{"S8", "measure it in crank", signal.Ignition, false}, {"S9", "not ground", signal.Unread, true},
	}
	got := gather.KeyTable(all)
	if len(got) != len(want) {
		t.Fatalf("%d lines, want %d", len(got), len(want))
	}
	for i, w := range want {
		if g := got[i]; g.At.String() != w.at || g.Role != w.role || !strings.Contains(g.Means, w.means) ||
			g.Proven != w.proven {
			t.Errorf("%s: role %q, %q, proven %v", g.At, g.Role, g.Means, g.Proven)
		}
	}
}

func TestAReadingOutranksTheTable(t *testing.T) {
	p := pinout(t, "chassis", "K-18||Winch contactor||RD", "K-2||Battery||RD", "K-3||Ignition feed||PK", "K-4||Injector 1")
	out, findings := gather.Outrank(p, "from", []gather.Measurement{ohms("K-18", "", 0.2),
		volts("K-2", gather.KeyOff, 12.4, true), volts("K-3", gather.KeyOff, 12.5, true),
		volts("K-9", gather.KeyOff, 12, true)})
	roles := map[string]signal.Role{}
	for _, r := range out.Rows {
		roles[r.Ref.String()] = r.Signal.Role
	}
	if roles["K18"] != signal.Ground || roles["K2"] != signal.Battery || roles["K3"] != signal.Battery ||
		roles["K4"] != signal.LowSide {
		t.Errorf("roles %v", roles)
	}
	if len(findings) != 2 || findings[0].Code != "reading-overturns" || findings[0].Side != "from" {
		t.Errorf("findings %v", findings)
	}
	if p.Rows[0].Measured != "" {
		t.Error("the pinout given was changed")
	}
}

// A wire behind a lamp or a coil shows full volts with nothing on it, and less with a load: it is no feed for that.
func TestVoltsThroughALampMakeNoFeed(t *testing.T) {
	for _, c := range []struct {
		row    string
		volts  float64
		loaded bool
		feed   bool
	}{
		{"K-7||Charge lamp", 12.4, false, false}, {"K-7||Charge lamp", 5, true, false},
		{"K-7||Charge lamp", 12.3, true, true},
		{"K-7||Injector 1, control", 12.4, false, false}, {"K-7||Fuel pump relay, control", 12.4, false, false},
		{"K-7||Manifold pressure sensor +5 V", 12.4, false, true}, {"K-7||zqk", 12.4, false, true},
	} {
		p := pinout(t, "chassis", c.row)
		out, _ := gather.Outrank(p, "from", []gather.Measurement{volts("K-7", gather.KeyRun, c.volts, c.loaded)})
		if got := out.Rows[0].Signal.Role == signal.Ignition; got != c.feed {
			t.Errorf("%s, %v V, loaded %v: role %q, a feed %v", c.row, c.volts, c.loaded, out.Rows[0].Signal.Role, got)
		}
	}
}

func TestContinuityCorrectsTheModel(t *testing.T) {
	rows := pinout(t, "engine", "A-1|1|Injector 1", "B-1|1|Injector 1", "A-2||Injector 2", "B-9||", "B-8||unknown thing",
		"A-5||Battery|B-5", "B-5||", "A-6|6|Battery", "A-7|6|Battery")
	for _, c := range []struct {
		name string
		m    []gather.Measurement
		want map[string]string
		code string
	}{
		{"two unseen ends are one wire", []gather.Measurement{joined("A-2", "B-8", true)},
			map[string]string{"A2": "A2 – B8", "B8": "no such wire"}, ""},
		{"an empty cavity at the other end", []gather.Measurement{joined("A-2", "Z-1", true)},
			map[string]string{"A2": "A2 – Z1"}, ""},
		{"an implied wire is broken", []gather.Measurement{joined("A-1", "B-1", false)},
			map[string]string{"A1": "A1 – not seen", "B1": "B1 – not seen"}, ""},
		{"an implied wire is confirmed", []gather.Measurement{ohms("A-1", "B-1", 0.4)}, map[string]string{"A1": "A1 – B1"},
			""},
		{"an implied splice is left", []gather.Measurement{ohms("A-6", "A-7", 1e6)},
			map[string]string{"A6": "A6 – not seen", "A7": "A7 – splice S~6, implied"}, ""},
		{"an implied splice is confirmed", []gather.Measurement{joined("A-6", "A-7", true)},
			map[string]string{"A6": "A6 – splice S~6", "A7": "A7 – splice S~6"}, ""},
		{"into the middle of another", []gather.Measurement{joined("A-2", "A-5", true)},
			map[string]string{"A2": "A2 – splice S2, implied", "A5": "A5 – splice S2",
				"A5 beyond S2": "splice S2 – B5, implied"}, ""},
		{"a wire that was seen is not broken by one reading", []gather.Measurement{joined("A-5", "B-5", false)},
			map[string]string{"A5": "A5 – B5"}, "reading-contradicts"},
		{"two whole wires measure as one", []gather.Measurement{joined("A-1", "A-5", true)},
			map[string]string{"A5": "A5 – B5"}, "reading-contradicts"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := gather.Lay(gather.Structure{Pinouts: []harness.Pinout{rows}, Readings: c.m})
			for id, want := range c.want {
				if got := ends(l, harness.WireID(id)); got != want {
					t.Errorf("%s: %s, want %s", id, got, want)
				}
			}
			if c.code != "" && found(l, c.code) != 1 {
				t.Errorf("findings %v, want %s", l.Findings, c.code)
			}
		})
	}
}

func TestIdentity(t *testing.T) {
	id := gather.Identity{Unit: gather.UnitID{Hardware: "VK2"}, Programmer: gather.Person{Name: "Fen"}, Cylinders: 4,
		FiringOrder: "1-3-2",
		Gearbox:     gather.Change{Donor: "automatic", Will: "manual"},
		Throttle:    gather.Change{Donor: "electric", Will: "electric"}, Alternator: gather.Change{Donor: "controlled"},
		Sources: []gather.Origin{{Name: "a", Gives: "harness", Year: "1"}, {Name: "b", Gives: "harness", Year: "2"},
			{Name: "c", Gives: "pedal", Year: "2"}}}
	codes := map[string]bool{}
	for _, f := range id.Check() {
		codes[f.Code] = true
	}
	for _, want := range []string{"unit-not-read", "programming-open", "firing-order", "mixed-sources"} {
		if !codes[want] {
			t.Errorf("no finding %s", want)
		}
	}
	items := id.OpenItems()
	if len(items) != 5 || !strings.Contains(items[0].Why, "automatic and will be manual") {
		t.Errorf("open items %+v", items)
	}
	id.Unit.Read, id.Programmer.Confirmed, id.FiringOrder, id.Sources[1].Year = true, true, "1-3-4-2", "1"
	if f := id.Check(); len(f) != 0 {
		t.Errorf("nothing is open, and yet %v", f)
	}
}

func TestWhatIsNeverUnplugged(t *testing.T) {
	for item, refused := range map[string]bool{"alarm siren": false, "airbag plug": true, "SRS unit": true,
		"battery sensor": true, "alternator": true, "high-voltage heater": true, "seat heater": false} {
		if got := (gather.Unplugged{Item: item, KeyOff: true}).Refuses() != ""; got != refused {
			t.Errorf("%s: refused %v", item, got)
		}
	}
	if (gather.Unplugged{Item: "alarm siren"}).Refuses() == "" {
		t.Error("unplugged with the key on")
	}
	f := gather.CheckBefore(gather.Before{Unplugged: []gather.Unplugged{{Item: "airbag", KeyOff: true}},
		Baseline: []gather.Baseline{{Function: "horn", Works: gather.DidNot}}},
		map[string]gather.Looked{"A": {Latch: gather.Broken}, "B": {Seals: gather.Worn}, "C": {Latch: gather.Worn}})
	if len(f) != 3 || !strings.Contains(f[1].Text, "A (latch); B (seals)") {
		t.Errorf("findings %v", f)
	}
}
