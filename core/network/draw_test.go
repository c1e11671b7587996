package network_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/size"
)

// laid lays a loom of lines "id from to function", a splice named S…, and gives what Draw works on.
func laid(devices map[string]harness.Device, halves map[string]harness.Half, lines ...string) network.Input {
	in := network.Input{Wires: map[harness.WireID]network.Metal{}}
	l := harness.Loom{}
	at := map[string]int{}
	for _, line := range lines {
		f := strings.SplitN(line, " ", 4)
		w := harness.Wire{ID: harness.WireID(f[0]), Conductor: harness.Conductor{Signal: signal.Read(f[3])}}
		for k, end := range f[1:3] {
			if strings.HasPrefix(end, "S") {
				w.Ends[k] = harness.End{Splice: harness.JointID(end)}
				continue
			}
			c, cavity, _ := strings.Cut(end, "-")
			w.Ends[k] = harness.End{At: harness.Ref{Connector: c, Cavity: cavity}}
			if _, known := at[c]; !known {
				at[c] = len(l.Connectors)
				h := halves[c]
				h.ID, h.Name = c, c
				l.Connectors = append(l.Connectors, h)
			}
			h := &l.Connectors[at[c]]
			if !h.Has(cavity) {
				h.Cavities = append(h.Cavities, cavity)
			}
		}
		l.Wires = append(l.Wires, w)
		in.Wires[w.ID] = network.Metal{Square: 1, Mm: 1000, Signal: w.Signal, Text: f[len(f)-1]}
	}
	for _, h := range l.Connectors {
		if d, known := devices[h.Device]; known && !slices.ContainsFunc(l.Devices,
			func(x harness.Device) bool { return x.ID == h.Device }) {
			d.ID = h.Device
			l.Devices = append(l.Devices, d)
		}
	}
	in.Harness, in.Connectors, in.Devices = l.Found(), l.Connectors, l.Devices
	return in
}

var parts = map[string]harness.Device{"unit": {Kind: harness.Unit}, "oxygen sensor 1 front": {}, "rear lamp": {},
	"coil 1": {}, "temperature sensor": {}, "G": {Kind: harness.Grounds}, "box": {}, "airbag": {}}

func solved(t *testing.T, in network.Input, on ...string) (*network.Drawn, *network.State) {
	t.Helper()
	in.Inside.Sources = append(in.Inside.Sources, network.Supply{Name: network.BatteryName, Plus: "battery +",
		Volts: 12})
	d, err := network.Draw(in)
	if err != nil {
		t.Fatal(err)
	}
	c := network.Condition{Key: network.Run, On: map[string]bool{}}
	for _, x := range on {
		c.On[x] = true
	}
	s, err := d.Solve(c)
	if err != nil {
		t.Fatal(err)
	}
	return d, s
}

// amps sums what the insides of a device take.
func taken(d *network.Drawn, s *network.State, device string) float64 {
	sum := 0.0
	for _, i := range d.Of[device] {
		sum += math.Abs(s.Amps(i))
	}
	return sum
}

// A wire is as long and as thick as it is: 2 m of 1 mm² there and back, at 18.5 mΩ/m (ISO 6722-1, from memory), 2 mΩ
// a contact, half a mΩ a crimp, before and behind a lamp of three filaments.
func TestCopperByHand(t *testing.T) {
	in := laid(
		parts,
		map[string]harness.Half{"R": {Device: "rear lamp"}, "F": {}, "B": {Device: "G"}},
		"W1 F-1 R-1 Brake lamps, feed to the rear",
		"W2 R-4 B-1 Ground",
		"W3 F-2 R-2 Reverse lamp feed",
		"W4 F-3 R-3 Side lamps",
	)
	in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "F-1", Rating: 10}}
	in.Inside.Cables = []network.Cable{{Name: "strap", From: "G", To: "battery −", Ohms: 0.001}}
	d, s := solved(t, in)
	if n := len(d.Of["rear lamp"]); n != 3 {
		t.Fatalf("%d filaments", n)
	}
	w1 := d.Wires["W1"]
	if ohms, want := s.Ohms(w1), 0.0185+2*network.JointOhms; math.Abs(ohms-want) > 2e-4 {
		t.Errorf("W1 has %.4f Ω, want %.4f", ohms, want)
	}
	amps := s.Amps(w1)
	loss := s.Volts[0+mustFind(t, d,
		"battery +")] - s.Across(d.Of["rear lamp"][0]) - math.Abs(amps)*0 // what is left of 12 V at the filament
	want := math.Abs(
		amps,
	) * (network.FuseOhms(10) + 2*(0.0185+2*network.JointOhms) + 3*network.ContactOhms + network.StudOhms + 0.001)
	if math.Abs(amps) < 1.5 || math.Abs(loss-want) > 0.02 {
		t.Errorf("at %.3f A %.4f V are lost, want %.4f", amps, loss, want)
	}
	if taken(d, s, "rear lamp") > math.Abs(amps)+1e-9 {
		t.Error("the filaments that nothing feeds take current")
	}
}

func mustFind(t *testing.T, d *network.Drawn, name string) network.Node {
	t.Helper()
	n, ok := d.Find(name)
	if !ok {
		t.Fatalf("there is no %s", name)
	}
	return n
}

// A unit wakes with its feed, pulls a heater through its own ground pin, and does nothing once that pin is lost. The
// heater is fed through a splice and an in-line pair; the sensor's own wires take next to nothing.
func TestAUnitWithItsSensor(t *testing.T) {
	halves := map[string]harness.Half{"U": {Device: "unit"}, "O": {Device: "oxygen sensor 1 front"},
		"XA": {Mate: "XB"}, "XB": {Mate: "XA"}, "B": {Device: "G"}}
	in := laid(
		parts,
		halves,
		"W1 F-1 S1 Ignition feed",
		"W2 S1 U-1 Ignition feed",
		"W3 S1 XA-1 Oxygen sensor heater supply",
		"W4 XB-1 O-1 Oxygen sensor heater supply",
		"W5 U-2 O-2 Oxygen sensor heater, bank 1 sensor 1, control",
		"W6 U-3 O-3 Oxygen sensor signal, bank 1 sensor 1",
		"W7 U-4 O-4 Oxygen sensor ground",
		"W8 U-5 B-1 Power ground",
	)
	in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "F-1", Rating: 15}}
	in.Inside.Cables = []network.Cable{{Name: "strap", From: "G", To: "battery −", Ohms: 0.001}}
	d, s := solved(t, in, "U2")
	heater := taken(d, s, "oxygen sensor 1 front")
	if want := 12 / (8 + network.OutputOhms + 0.15); math.Abs(heater-want) > 0.03 || !s.Pulled[d.Units["unit"]-1] {
		t.Errorf("the heater takes %.3f A, want %.3f; awake %v", heater, want, s.Pulled)
	}
	if lost, err := s.With(network.Fault{Do: network.Open,
		Element: "W8"}); err != nil || lost.Pulled[d.Units["unit"]-1] || taken(d, lost, "oxygen sensor 1 front") > 0.01 {
		t.Errorf("without its ground: %v", err)
	}
	d, s = solved(t, in)
	if a := taken(d, s, "oxygen sensor 1 front"); a > 0.001 {
		t.Errorf("with its output off the heater takes %.4f A", a)
	}
}

// A coil that a unit only triggers takes its current from its feed to its ground; restraint is left alone; of what
// nobody knows nothing flows, and it is named; a length that nobody knows is assumed, and said.
func TestWhatIsInsideOfOthers(t *testing.T) {
	halves := map[string]harness.Half{"U": {Device: "unit"}, "C": {Device: "coil 1"}, "D": {Device: "box"},
		"A": {Device: "airbag"}, "B": {Device: "G"}}
	in := laid(parts, halves, "W1 F-1 C-2 Ignition coil 1 supply", "W2 U-1 C-1 Ignition coil 1, trigger",
		"W3 C-3 B-1 Ignition coil 1 ground", "W4 F-1 D-1 Whatsit",
		"W5 D-2 B-2 Thing", "W6 F-1 A-1 Driver airbag", "W7 A-2 B-3 Driver airbag, return")
	in.Wires["W1"] = network.Metal{Signal: in.Wires["W1"].Signal}
	in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "F-1", Rating: 15}}
	d, s := solved(t, in)
	if a := taken(d, s, "coil 1"); a > 1e-6 {
		t.Errorf("with the engine standing the coil takes %.2f A", a)
	}
	d, s = solved(t, in, network.Turning)
	if a := taken(d, s, "coil 1"); math.Abs(a-12./4) > 0.1 || len(d.Of["coil 1"]) != 1 {
		t.Errorf("the coil takes %.2f A through %d ways", a, len(d.Of["coil 1"]))
	}
	if len(d.Of["airbag"]) != 0 || slices.Contains(d.Open, "airbag") {
		t.Error("something is reckoned of restraint")
	}
	if !slices.Equal(d.Open, []string{"box", "unit"}) {
		t.Errorf("unknown %v: want the box, and the unit without a feed", d.Open)
	}
	said := strings.Join(d.Assumed, "; ")
	for _, want := range []string{"size or length of 1 wires", "how G is joined"} {
		if !strings.Contains(said, want) {
			t.Errorf("%q is not said: %s", want, said)
		}
	}
	if _, known := network.BodyOf("injector"); !known || size.Section(1) == 0 {
		t.Error("nothing is known of an injector")
	}
}

// A horn has its feed and its switch at the two ends of one load; a radio two feeds, and its ground by its case.
func TestWhichEndOfALoad(t *testing.T) {
	devices := map[string]harness.Device{"horn": {}, "radio": {}}
	halves := map[string]harness.Half{"H": {Device: "horn"}, "R": {Device: "radio"}}
	in := laid(
		devices,
		halves,
		"W1 F-1 H-1 Horn feed",
		"W2 H-2 P-1 Horn switch",
		"W3 F-1 R-1 Radio feed",
		"W4 F-2 R-2 Radio feed, switched",
	)
	in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "F-1", Rating: 15}}
	d, s := solved(t, in)
	if a := taken(d, s, "horn"); a > 1e-6 || len(d.Of["horn"]) != 1 {
		t.Errorf("nobody presses the horn, and it takes %.2f A", a)
	}
	if a := taken(d, s, "radio"); math.Abs(a-2) > 0.1 || s.Volts[mustFind(t, d, "F2")] > 0.1 {
		t.Errorf("the radio takes %.2f A, and feeds back to %.2f V", a, s.Volts[mustFind(t, d, "F2")])
	}
}

// A starter turns while its solenoid has pulled, and not because the key says so: with the start wire broken, or the
// clutch switch in its ground open, it stands. Without a solenoid that a wire comes to it turns in crank.
func TestTheStarterTurnsByItsSolenoid(t *testing.T) {
	turns := func(wired bool, key network.Key, faults ...network.Fault) bool {
		lines := []string{"W2 F-2 R-1 Brake lamps, feed to the rear"}
		if wired {
			lines = append(lines, "W1 F-1 M-1 Starter solenoid, start")
		}
		devices := map[string]harness.Device{"starter": {}, "rear lamp": {}}
		in := laid(
			devices,
			map[string]harness.Half{"M": {Device: "starter"}, "F": {}, "R": {Device: "rear lamp"}},
			lines...)
		in.Inside.Switches = []network.Contacts{{Name: "start", From: "battery +", To: "F-1", Key: network.Crank}}
		in.Inside.Uses = []network.Use{
			{Name: "starter motor", Plus: "battery +", Minus: "battery −", Amps: 150, Starter: true},
		}
		in.Inside.Cables = []network.Cable{{Name: "strap", From: "engine block", To: "battery −", Ohms: 0.001}}
		in.Inside.Sources = []network.Supply{{Name: network.BatteryName, Plus: "battery +", Volts: 12.6, Ohms: 0.006}}
		d, err := network.Draw(in)
		if err != nil {
			t.Fatal(err)
		}
		if len(d.Motors) != 1 {
			t.Fatalf("%d motors", len(d.Motors))
		}
		s, err := d.Solve(network.Condition{Key: key, Faults: faults})
		if err != nil {
			t.Fatal(err)
		}
		return math.Abs(s.Amps(d.Motors[0])) > 50
	}
	open := network.Fault{Do: network.Open, Element: "W1"}
	for name, x := range map[string]struct{ got, want bool }{
		"in crank":                    {turns(true, network.Crank), true},
		"in run":                      {turns(true, network.Run), false},
		"with its wire broken":        {turns(true, network.Crank, open), false},
		"without a solenoid in crank": {turns(false, network.Crank), true},
		"without a solenoid in run":   {turns(false, network.Run), false},
	} {
		if x.got != x.want {
			t.Errorf("%s it turns: %v", name, x.got)
		}
	}
}

// A switch that one wire comes to is grounded by its case, where something pulls up its wire: a coil, a unit's input.
// Where the wire is fed, a guess like that would be a short of the battery: nothing is reckoned behind it, and said.
func TestASwitchWithOneWire(t *testing.T) {
	halves := map[string]harness.Half{"K": {Device: "clutch switch"}, "X": {Device: "fuse box"}}
	devices := map[string]harness.Device{"clutch switch": {}, "fuse box": {Kind: harness.Fuses}}
	for _, c := range []struct {
		name, from string
		relays     []network.Coiled
		open       bool
	}{
		{"behind a coil", "coil", []network.Coiled{{Name: "R", Coil: [2]string{"battery +", "X-1"}}}, false},
		{"behind a fuse", "fuse", nil, true},
	} {
		t.Run(c.name, func(t *testing.T) {
			in := laid(devices, halves, "w X-1 K-1 Clutch switch")
			in.Inside.Relays = c.relays
			if c.open {
				in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "X-1", Rating: 5}}
			}
			d, s := solved(t, in, "clutch switch")
			i, _ := d.Element(network.BatteryName)
			if a := s.Amps(i); a > 1 {
				t.Errorf("the battery gives %.0f A", a)
			}
			if got := slices.Contains(d.Open, "clutch switch"); got != c.open {
				t.Errorf("nothing is reckoned behind it: %v", got)
			}
			if !c.open && !s.Pulled[0] {
				t.Error("the relay does not pull with the switch on")
			}
		})
	}
}

// The wires of two speeds are two feeds of a motor that its case grounds, and no two ends of it.
func TestTwoSpeedsAreTwoFeeds(t *testing.T) {
	in := laid(map[string]harness.Device{"heater blower": {}}, map[string]harness.Half{"B": {Device: "heater blower"}},
		"W1 F-1 B-1 Blower motor, slow", "W2 F-2 B-2 Blower motor, fast")
	in.Inside.Slots = []network.Slot{{Name: "1", In: "battery +", Out: "F-1", Rating: 20}}
	d, s := solved(t, in)
	if a := taken(d, s, "heater blower"); a < 10 || s.Volts[mustFind(t, d, "F2")] > 0.1 {
		t.Errorf("it takes %.1f A with one of its feeds live, and feeds back to %.2f V", a,
			s.Volts[mustFind(t, d, "F2")])
	}
}
