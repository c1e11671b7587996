package feed_test

import (
	"testing"

	"draxel/core/finding"
	"draxel/core/vehicle"
)

// A switch is a master switch by where it stands, whatever it is called; one before a load is none.
func TestAMasterSwitchIsOneByItsLines(t *testing.T) {
	for name, c := range map[string]struct {
		from, to string
		want     bool
	}{
		"in the lead of the battery's positive": {"battery +", "main bus", true},
		"the other way round":                   {"main bus", "battery +", true},
		"in the lead of its negative":           {"battery −", "chassis", true},
		"before a lamp alone":                   {"battery +", "lamp in", false},
		"behind a fuse":                         {"bus out", "main bus", false},
		"a button in the ground of a horn":      {"horn −", "battery −", false},
	} {
		lists := map[string][]vehicle.Line{
			vehicle.Sources: {{Line: 2, Cells: map[string]string{"source": "starting battery", "plus": "battery +",
				"volts": "12.6"}}},
			vehicle.Fuses: {{Line: 2, Cells: map[string]string{"fuse": "1", "rating": "10", "in": "main bus",
				"out": "bus out"}}},
			vehicle.Switches: {{Line: 2, Cells: map[string]string{"switch": "red lever", "from": c.from, "to": c.to,
				"closed": "own"}}},
			vehicle.Cables: {{Line: 2, Cells: map[string]string{"cable": "strap", "from": "chassis", "to": "engine block",
				"size": "35"}}},
			vehicle.Loads: {{Line: 2, Cells: map[string]string{"load": "lamp", "plus": "lamp in", "amps": "2"}}},
		}
		f := vehicle.Read(lists)
		if got := f.Master("red lever"); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// Where there is a starter and nothing in the lists is a key or a switch that starts, that is a danger; a contact of
// the key settles it.
func TestAStarterWithoutAKeyIsTold(t *testing.T) {
	v := small{}.with(vehicle.Sources, "source=battery; plus=battery +; volts=12.6").
		with(vehicle.Cables, "cable=lead; from=battery +; to=stud; size=35; length=900").
		with(vehicle.Loads, "load=what turns it; plus=stud; minus=engine block; amps=150; kind=starter")
	said := func(v small) (n int) {
		for _, f := range v.compute(t).Findings {
			if f.Code == "no-key" && f.Severity == finding.Danger {
				n++
			}
		}
		return n
	}
	if said(v) != 1 {
		t.Error("nothing is said")
	}
	if said(v.with(vehicle.Switches, "switch=a; from=battery +; to=run; closed=run, crank")) != 0 {
		t.Error("the key is there, and it is said all the same")
	}
}
