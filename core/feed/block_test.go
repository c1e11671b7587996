package feed_test

import (
	"fmt"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/vehicle"
)

// own is a block with a battery group behind a main fuse, an ignition group, and a group through a relay.
func own() feed.Block {
	return feed.Block{ID: "FB",
		Groups: []feed.FeedGroup{{Name: "battery", From: "battery +", Fused: true}, {Name: "ignition", From: "IG"},
			{Name: "main", Relay: "R1"}},
		Slots: []feed.BlockSlot{
			{Name: "1", Group: "battery"},
			{Name: "2", Group: "ignition"},
			{Name: "3", Group: "main"},
			{Name: "4", Group: "main"},
		},
		Relays: []feed.BlockRelay{
			{Name: "R1", From: "battery", Plus: "ignition", Minus: "body", Suppressed: feed.ByDiode},
		}}
}

func TestWhatABlockCannotBe(t *testing.T) {
	good := own()
	if err := good.Check(); err != nil {
		t.Fatalf("the block is refused: %v", err)
	}
	for name, spoil := range map[string]func(*feed.Block){
		"two slots":                   func(b *feed.Block) { b.Slots[1].Name = "1" },
		"has none of that name":       func(b *feed.Block) { b.Slots[0].Group = "start" },
		"one of the two":              func(b *feed.Block) { b.Groups[0].Relay = "R1" },
		"no such relay":               func(b *feed.Block) { b.Groups[2].Relay = "R9" },
		"feeds itself":                func(b *feed.Block) { b.Relays[0].From = "main" },
		"a group or a slot":           func(b *feed.Block) { b.Relays[0].From = "slot 9" },
		"both ends":                   func(b *feed.Block) { b.Relays[0].Minus = "" },
		"0.5 to 1000 A":               func(b *feed.Block) { b.Slots[2].Amps = -5 },
		"1 to 1000 A":                 func(b *feed.Block) { b.Groups[0].Main = 1e6 },
		"resistor or a diode":         func(b *feed.Block) { b.Relays[0].Suppressed = "prayer" },
		"at most 60":                  func(b *feed.Block) { b.ID = strings.Repeat("F", 70) },
		"a slot has a name":           func(b *feed.Block) { b.Slots[0].Name = "" },
		"at most 100":                 func(b *feed.Block) { b.Slots = make([]feed.BlockSlot, 101) },
		"through a relay":             func(b *feed.Block) { b.Groups[1].From = "" },
		"made for 1 to 500 A":         func(b *feed.Block) { b.Relays[0].Amps = 0.1 },
		"group \"main\" feeds itself": func(b *feed.Block) { b.Relays[0].From = "slot 3" },
	} {
		b := own()
		spoil(&b)
		if err := b.Check(); err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("want %q, got %v", name, err)
		}
	}
}

// What shares a fuse, as the trade groups it (common practice).
func TestGroupsOfTheTrade(t *testing.T) {
	texts := []string{"Injector supply, bank 1", "Injector supply, bank 2", "Ignition coil supply",
		"Oxygen sensor heater supply",
		"Mass air flow sensor supply", "Battery feed 1", "Battery feed 2", "Ignition feed", "Fuel pump supply",
		"Fan 1 supply",
		"Fan 2 supply", "Main relay output", "Start signal"}
	var wants []feed.Want
	for _, text := range texts {
		wants = append(wants, feed.Want{Reading: signal.Read(text), Text: text})
	}
	known := feed.Known{
		Plus:        "battery +",
		Ignition:    "F-8",
		Ground:      "body ground",
		MainControl: "A-3",
		PumpControl: "E-3",
	}
	b, at := feed.Propose("FB", wants, known, false)
	if err := b.Check(); err != nil {
		t.Fatal(err)
	}
	slot := map[string]string{}
	for i, text := range texts {
		slot[text] = at[i]
	}
	group := func(cavity string) string {
		for _, s := range b.Slots {
			if s.Name == cavity {
				return s.Group
			}
		}
		return ""
	}
	apart := [][2]string{{texts[0], texts[1]}, {texts[0], texts[2]}, {texts[2], texts[3]}, {texts[9], texts[10]},
		{texts[5], texts[7]},
		{texts[3], texts[9]}}
	together := [][2]string{{texts[3], texts[4]}, {texts[5], texts[6]}}
	for _, x := range apart {
		if slot[x[0]] == slot[x[1]] {
			t.Errorf("%s and %s share slot %s", x[0], x[1], slot[x[0]])
		}
	}
	for _, x := range together {
		if slot[x[0]] != slot[x[1]] || slot[x[0]] == "" {
			t.Errorf("%s stands on %q, %s on %q", x[0], slot[x[0]], x[1], slot[x[1]])
		}
	}
	for text, want := range map[string]string{texts[0]: feed.OnMain, texts[2]: feed.OnMain, texts[5]: feed.OnBattery,
		texts[7]: feed.OnIgnition, texts[9]: feed.OnMain, texts[11]: feed.OnMain} {
		if got := group(slot[text]); got != want {
			t.Errorf("%s stands on %q, want %q", text, got, want)
		}
	}
	if slot["Fuel pump supply"] != "R2.87" || slot["Start signal"] != "" {
		t.Errorf("the pump begins at %q, the start signal at %q", slot["Fuel pump supply"], slot["Start signal"])
	}
	relay := map[string]string{}
	for _, r := range b.Relays {
		relay[r.Name] = r.Minus
	}
	if relay["R1"] != "A-3" || relay["R2"] != "E-3" {
		t.Errorf("the coils are led to %v", relay)
	}
	spare := len(b.Slots)
	for _, s := range b.Slots {
		if s.For != "" {
			spare--
		}
	}
	if spare != 2 {
		t.Errorf("%d spare slots, want 2", spare)
	}
	single, on := feed.Propose("FB", wants, known, true)
	if err := single.Check(); err != nil || on[0] != on[2] || on[0] != on[9] || on[0] == on[5] {
		t.Errorf("with one fuse %v, %v", on, err)
	}
	// Where no output pulls the main relay the old ignition wire only triggers it.
	known.MainControl = ""
	b, _ = feed.Propose("FB", wants, known, false)
	if r := b.Relays[0]; r.Plus != feed.OnIgnition || r.Minus != "body ground" {
		t.Errorf("the main relay's coil lies between %s and %s", r.Plus, r.Minus)
	}
}

// A block in a vehicle: its relay pulls once the ignition is on, its slots take what hangs on them, and the fuses
// are those that fit, worked out by hand.
func TestABlockInAVehicle(t *testing.T) {
	v := sound()
	v.wires = append(v.wires, "W20 FB-in1 B-1 10 Feed", "W21 FB-in2 K-1 1 Ignition feed", "W22 FB-3 H-1 2.5 Heater",
		"W23 FB-4 H-2 2.5 Second heater", "W24 FB-R1.85 G-1 0.5 Relay coil ground")
	v = v.with(vehicle.Switches, "switch=key to block; from=battery +; to=K-1; closed=run crank").
		with(vehicle.Cables, "cable=to block; from=FB main battery; to=B-1; ohms=0.001").
		with(vehicle.Loads, "load=heater; plus=H-1; minus=body; amps=12.5").
		with(vehicle.Loads, "load=second heater; plus=H-2; minus=body; amps=3")
	b := own()
	b.Groups[1].From = "K-1"
	v.block = &b
	r := v.compute(t)
	for i, p := range feed.Positions() {
		on := p.Key == network.Run || p.Key == network.Crank
		if r.Works(r.States[i], "heater") != on || r.Works(r.States[i], "FB R1") != on {
			t.Errorf(
				"%s: the heater works %v, its relay %v",
				p.Name,
				r.Works(r.States[i], "heater"),
				r.Works(r.States[i],
					"FB R1"),
			)
		}
	}
	got := map[string]feed.Protected{}
	for _, p := range r.Fuses {
		got[p.Fuse] = p
	}
	// The bus has about 13.5 V while it charges, and 0.4 V are lost on the way: 12.5 A at 12 V are 13.6 A, more than
	// four fifths of 15 A, so 20 A; 3 A make 3.3 A: 5 A; both with the coil 17 A: 25 A. A spare slot has none.
	for fuse, want := range map[string]float64{"FB3": 20, "FB4": 5, "FB main battery": 25, "FB1": 0} {
		if p := got[fuse]; p.Rating != want || !p.Reckoned {
			t.Errorf(
				"%s: %g A reckoned %v, want %g (load %.3g, may %.3g, %s)",
				fuse,
				p.Rating,
				p.Reckoned,
				want,
				p.Load,
				p.Carries,
				p.Why,
			)
		}
	}
	lid := r.Lid(
		&b,
		func(cavity string) string { return map[string]string{"3": "heater", "4": "second heater"}[cavity] },
	)
	if text := fmt.Sprint(lid); !strings.Contains(text, "{3 20 A heater false}") || !strings.Contains(text,
		"{1  spare false}") ||
		!strings.Contains(text, "{R1 30 A") || !strings.Contains(text, "through R1") {
		t.Errorf("the lid says %s", text)
	}
	parts := map[string]int{}
	for _, x := range r.Parts(feed.Record{Block: &b}, func(string) size.Section { return 10 }) {
		parts[x.What] = x.Count
	}
	for what, n := range map[string]int{"blade fuse 5 A": 2, "blade fuse 20 A": 2, "slow blade fuse 25 A": 2,
		"holder for the main fuse":                         1,
		"relay 12 V, 30 A, its coil suppressed by a diode": 1, "fuse and relay block, 4 slots, 1 relays": 1,
		"ring terminal for its stud for 10 mm²": 1} {
		if parts[what] != n {
			t.Errorf("%d of %s are wanted, the list has %v", n, what, parts)
		}
	}
}

// A fuse that is to be changed is the new one in the network, and its old rating is known; one that no list has is
// found.
func TestAFuseThatIsChanged(t *testing.T) {
	in := sound().input(t)
	facts := feed.Decided(in.Facts, feed.Record{Rated: []feed.Rated{{Fuse: "2", Amps: 5}, {Fuse: "99", Amps: 5}}})
	if facts.Was["2"] == 0 || facts.Was["2"] == 5 || len(facts.Findings) != len(in.Facts.Findings)+1 {
		t.Errorf("was %v, found %v", facts.Was, facts.Findings)
	}
	for _, s := range facts.Inside.Slots {
		if s.Name == "2" && s.Rating != 5 {
			t.Errorf("fuse 2 has %g A", s.Rating)
		}
	}
	for _, s := range in.Facts.Inside.Slots {
		if s.Name == "2" && s.Rating == 5 {
			t.Error("the facts were changed")
		}
	}
	for _, bad := range []feed.Rated{{Fuse: "", Amps: 5}, {Fuse: "2"}, {Fuse: "2", Amps: -1}} {
		if bad.Check() == nil {
			t.Errorf("%+v passes", bad)
		}
	}
}

// A block holds the fuses of its slots and the main fuses of its groups, and no fuse of the vehicle whose name only
// begins alike.
func TestABlockHoldsItsOwnFuses(t *testing.T) {
	b := feed.Block{ID: "FB", Groups: []feed.FeedGroup{{Name: "battery", Fused: true}, {Name: "ignition"}},
		Slots: []feed.BlockSlot{{Name: "1", Group: "battery"}, {Name: "2", Group: "battery"}}}
	for fuse, want := range map[string]bool{"FB1": true, "FB2": true, "FB main battery": true, "FB main ignition": false,
		"FB3": false, "FB": false, "FB main": false, "F1": false} {
		if got := b.Holds(fuse); got != want {
			t.Errorf("%s: %v", fuse, got)
		}
	}
}
