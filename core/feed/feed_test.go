package feed_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/vehicle"
)

// small is a small vehicle: a unit U with feeds, ground and outputs, an injector, a lamp, and what a test says stands
// there. A wire is "id from to mm² function".
type small struct {
	wires []harness.WireID
	lists map[string][]string // a line is field=text; field=text
	block *feed.Block
}

func (v small) compute(t testing.TB) *feed.Result {
	t.Helper()
	r, err := feed.Compute(v.input(t))
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func (v small) input(t testing.TB) feed.Input {
	t.Helper()
	in, err := v.reckon(t)
	if err != nil {
		t.Fatal(err)
	}
	return in
}

// reckon gives what Compute works on, and why it cannot be drawn.
func (v small) reckon(t testing.TB) (feed.Input, error) {
	t.Helper()
	loom := harness.Loom{Devices: []harness.Device{{ID: "unit", Kind: harness.Unit}, {ID: "injector 1"}, {ID: "pump"},
		{ID: "charge lamp"}, {ID: "ground point", Kind: harness.Grounds}, {ID: "coolant sensor", Owner: harness.Engine},
		{ID: "knock sensor", Owner: harness.Engine}}}
	device := map[string]string{"U": "unit", "J": "injector 1", "P": "pump", "L": "charge lamp", "G": "ground point",
		"FB": "FB",
		"T":  "coolant sensor", "N": "knock sensor"}
	at := map[string]bool{}
	in := network.Input{Wires: map[harness.WireID]network.Metal{}}
	known := map[harness.WireID]feed.Copper{}
	half := map[string]int{}
	for _, text := range v.wires {
		f := strings.SplitN(string(text), " ", 5)
		w := harness.Wire{ID: harness.WireID(f[0]), Conductor: harness.Conductor{Function: f[4], Signal: signal.Read(f[4])}}
		for k, end := range f[1:3] {
			c, cavity, _ := strings.Cut(end, "-")
			w.Ends[k] = harness.End{At: harness.Ref{Connector: c, Cavity: cavity}}
			if _, there := half[c]; !there {
				half[c] = len(loom.Connectors)
				loom.Connectors = append(loom.Connectors, harness.Half{Connector: harness.Connector{ID: c,
					Name: c}, Device: device[c]})
			}
			if h := &loom.Connectors[half[c]]; !at[end] {
				at[end] = true
				h.Cavities = append(h.Cavities, cavity)
			}
		}
		square := 0.0
		fmt.Sscan(f[3], &square)
		loom.Wires = append(loom.Wires, w)
		in.Wires[w.ID] = network.Metal{Square: size.Section(square), Mm: 1000, Signal: w.Signal, Text: f[len(f)-1]}
		known[w.ID] = feed.Copper{Square: size.Section(square), Mm: 1000,
			Carries: size.Section(square).Ampacity(size.ClassB, 60, 1)}
	}
	lists := map[string][]vehicle.Line{}
	for kind, lines := range v.lists {
		for i, line := range lines {
			l := vehicle.Line{Line: i + 2, Cells: map[string]string{}}
			for _, cell := range strings.Split(line, "; ") {
				k, text, _ := strings.Cut(cell, "=")
				l.Cells[k] = text
			}
			lists[kind] = append(lists[kind], l)
		}
	}
	read := vehicle.Read(lists)
	facts := feed.Decided(&read, feed.Record{Block: v.block})
	if v.block != nil {
		loom.Devices = append(loom.Devices, v.block.Device())
		loom.Connectors[half["FB"]] = v.block.Half()
	}
	in.Harness, in.Connectors, in.Devices, in.Inside = loom.Found(), loom.Connectors, loom.Devices, facts.Inside
	for _, c := range facts.Inside.Cables {
		known[harness.Listed(c.Name)] = feed.Copper{Square: size.Section(c.Square), Mm: c.Length}
	}
	drawn, err := network.Draw(in)
	return feed.Input{Drawn: drawn, Facts: facts, Wires: known}, err
}

func codes(all []finding.Finding) string {
	var out []string
	for _, f := range all {
		out = append(out, f.Code)
	}
	slices.Sort(out)
	return strings.Join(slices.Compact(out), " ")
}

// sound is a vehicle in which nothing is wrong.
func sound() small {
	return small{
		wires: []harness.WireID{"W1 F-1 U-1 1 Battery feed", "W2 F-2 U-2 1 Ignition feed", "W3 U-3 G-1 2.5 Power ground",
			"W4 F-2 J-1 1 Injector supply",
			"W5 U-4 J-2 0.75 Injector 1, control"},
		lists: map[string][]string{
			vehicle.Sources: {"source=battery; kind=battery; plus=battery +; amps=600; capacity=60",
				"source=alternator; kind=alternator; plus=battery +; amps=70; idle=30"},
			vehicle.Fuses:    {"fuse=1; rating=10; in=battery +; out=F-1", "fuse=2; rating=10; in=IG; out=F-2"},
			vehicle.Switches: {"switch=key; from=main bus; to=IG; closed=run, crank"},
			vehicle.Relays:   {},
			vehicle.Cables: {"cable=ground cable; from=ground point; to=battery −; size=25; length=600",
				"cable=block cable; from=engine block; to=battery −; size=25; length=600",
				"cable=body cable; from=body; to=battery −; size=16; length=400"},
			vehicle.Loads: {},
		},
	}
}

func (v small) with(list string, lines ...string) small {
	v.lists = copied(v.lists)
	v.lists[list] = append(slices.Clone(v.lists[list]), lines...)
	return v
}

func (v small) put(list string, line int, text string) small {
	v.lists = copied(v.lists)
	v.lists[list] = slices.Clone(v.lists[list])
	v.lists[list][line] = text
	return v
}

func copied(m map[string][]string) map[string][]string {
	out := map[string][]string{}
	for k, l := range m {
		out[k] = l
	}
	return out
}

// A vehicle with one mistake of each kind has that finding and no other; without it, none.
func TestOneMistakeOfEachKind(t *testing.T) {
	base := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	if got := codes(base.compute(t).Findings); got != "" {
		t.Fatalf("nothing is wrong, and there is %q", got)
	}
	for name, c := range map[string]struct {
		v    small
		want string
	}{
		"a fuse above its wire": {base.put(vehicle.Fuses, 1, "fuse=2; rating=125; in=IG; out=F-2"),
			"fuse-above-wire"},
		"a fuse above its wire that saves it in a short": {base.put(vehicle.Fuses, 1, "fuse=2; rating=30; in=IG; out=F-2"),
			"fuse-short-only"},
		"a slow one, of which that is not known": {base.put(vehicle.Fuses, 1,
			"fuse=2; rating=30; kind=slow blade; in=IG; out=F-2"), "fuse-above-wire"},
		"a load near the fuse": {base.with(vehicle.Loads, "load=heater; plus=F-2; minus=body; amps=6"),
			"fuse-loaded"},
		"a load above the fuse": {base.with(vehicle.Loads, "load=heater; plus=F-2; minus=body; amps=14"),
			"fuse-opens"},
		"no fuse before it": {base.put(vehicle.Fuses, 0,
			"fuse=1; rating=10; in=elsewhere; out=nowhere").with(vehicle.Cables,
			"cable=bridge; from=battery +; to=F-1; ohms=0.001"), "unprotected"},
		"a feed that drops in crank": {base.put(vehicle.Switches, 0,
			"switch=key; from=main bus; to=IG; closed=accessory, run"), "feed-drops-in-crank"},
		"a feed that is not there": {base.put(vehicle.Switches, 0,
			"switch=key; from=main bus; to=IG; closed=off"), "unit-not-fed"},
		"a coil without ground": {base.with(vehicle.Relays,
			"relay=K1; coilplus=IG; coilminus=nothing; common=main bus; make=out"), "coil-no-ground"},
		"a coil without a feed": {base.with(vehicle.Relays,
			"relay=K1; coilplus=nothing; coilminus=body; common=main bus; make=out"), "coil-not-fed"},
		"both ends of a coil fed": {base.with(vehicle.Relays,
			"relay=K1; coilplus=IG; coilminus=F-2; common=main bus; make=out"), "coil-both-ends-fed"},
		"a contact too weak": {base.with(vehicle.Relays,
			"relay=K1; coilplus=IG; coilminus=body; common=main bus; make=out; amps=10").with(vehicle.Loads,
			"load=fan; plus=out; minus=body; amps=20"), "contact-overloaded"},
		"a relay that buzzes": {base.with(vehicle.Relays,
			"relay=K1; coilplus=own; coilminus=body; common=IG; break=own"), "relay-buzzes"},
		"a ground that is lifted": {base.put(vehicle.Cables, 2,
			"cable=body cable; from=body; to=battery −; ohms=0.03").with(vehicle.Loads,
			"load=winch; plus=main bus; minus=body; amps=6"), "ground-lifted"},
		"a ground led to nothing": {base.put(vehicle.Cables, 2,
			"cable=body cable; from=body; to=elsewhere; ohms=0.003").with(vehicle.Loads,
			"load=heater; plus=F-2; minus=body; amps=2"), "ground-lost"},
		"a thin ground": {base.put(vehicle.Cables, 1,
			"cable=block cable; from=engine block; to=battery −; size=10; length=600").put(vehicle.Cables, 0,
			"cable=ground cable; from=ground point; to=battery −; size=10; length=600").put(vehicle.Cables, 2,
			"cable=body cable; from=body; to=battery −; size=10; length=400").with(vehicle.Cables,
			"cable=starter cable; from=battery +; to=starter post; size=35; length=900"), "ground-thinner"},
		"a fuse below its like": {base.put(vehicle.Fuses, 1,
			"fuse=2; rating=10; in=IG2; out=F-2").with(vehicle.Fuses, "fuse=group; rating=15; in=IG; out=IG2"), "not-selective"},
		"a quick fuse before a motor": {motor(base), "fuse-quick"},
		"two fuses on one circuit":    {base.with(vehicle.Fuses, "fuse=third; rating=10; in=main bus; out=F-2"), "two-feeds"},
		"something left on": {base.with(vehicle.Loads, "load=amplifier; plus=F-1; minus=body; amps=1.5"),
			"stays-awake"},
		"an alternator too small": {base.put(vehicle.Sources, 1,
			"source=alternator; kind=alternator; plus=battery +; amps=70; idle=1"), "alternator-idle"},
		"a starter fed in run": {base.with(vehicle.Loads,
			"load=starter; plus=F-2; minus=engine block; amps=3"), "starter-fed"},
		"a short by the plan": {base.with(vehicle.Cables,
			"cable=wrong; from=battery +; to=body; ohms=0.001"), "source-shorted unit-not-fed ground-lifted " +
			"unprotected"},
		"sources in a loop": {base.with(vehicle.Sources,
			"source=second; plus=battery +; minus=body; volts=24"), "source-shorted sources-in-a-loop"},
		"a wire with too much on it": {base.put(vehicle.Fuses, 1,
			"fuse=2; rating=60; in=IG; out=F-2").with(vehicle.Loads, "load=winch; plus=J-1; minus=body; amps=40"),
			"alternator-idle fuse-above-wire fuse-opens wire-overloaded"},
		"an alternator past a cut-off": {masterSwitch(), "alternator-keeps-alive"},
		"an alternator past a cut-off, and no unit on it": {masterSwitch().put(vehicle.Switches, 0,
			"switch=key; from=main bus; to=IG; closed=off").with(vehicle.Loads, "load=radio; plus=main bus; "+
			"minus=body; amps=1"),
			"alternator-keeps-alive unit-not-fed"},
		"a lamp that feeds a bus back": {base.with(vehicle.Loads, "load=dash lamp; plus=battery +; minus=IG; amps=1"),
			"back-feed"},
		"a lamp that feeds back what no unit hangs on": {base.with(vehicle.Switches,
			"switch=second; from=main bus; to=ACC; closed=accessory").with(vehicle.Loads,
			"load=dash lamp; plus=battery +; minus=ACC; amps=1", "load=radio; plus=ACC; minus=body; amps=0.5"),
			"back-feed stays-awake"},
		"a spare": {base.with(vehicle.Fuses, "fuse=9; rating=10; in=main bus"), "spare-feed"},
		"a battery in the boot": {starter(base, "cable=starter cable; from=battery +; to=stud; size=35; length=4200",
			35), "battery-far"},
		"a starter's ground that is thin": {starter(base,
			"cable=starter cable; from=battery +; to=stud; size=35; length=900", 16), "ground-thinner"},
		"a relay that stays pulled": {base.with(vehicle.Relays,
			"relay=K1; coilplus=main bus; coilminus=body; common=IG; make=out"), "relay-held-off stays-awake"},
	} {
		found := c.v.compute(t).Findings
		got := codes(found)
		for _, want := range strings.Fields(c.want) {
			if !strings.Contains(got, want) {
				t.Errorf("%s: found %q, want %s", name, got, want)
			}
		}
		if extra := len(strings.Fields(got)) - len(strings.Fields(c.want)); extra > 1 {
			t.Errorf("%s: found %q", name, got)
		}
		for _, f := range found {
			if f.Text == "" || f.Remedy == "" || f.Subject == "" {
				t.Errorf("%s: %+v says too little", name, f)
			}
		}
	}
}

// starter puts a starter motor in that turns in crank, by a cable and back by one of so many mm².
func starter(v small, cable string, back int) small {
	return v.put(vehicle.Cables, 1,
		"cable=frame cable; from=frame; to=battery −; size=35; length=600").with(vehicle.Cables, cable,
		fmt.Sprintf("cable=block cable; from=engine block; to=frame; size=%d; length=600",
			back)).with(vehicle.Loads, "load=starter motor; plus=stud; minus=engine block; amps=150; kind=starter")
}

// masterSwitch puts a master switch beside the battery, and leaves the alternator behind it.
func masterSwitch() small {
	v := sound()
	v.lists = copied(v.lists)
	v.lists[vehicle.Sources] = []string{"source=battery; kind=battery; plus=battery post; amps=600",
		"source=alternator; kind=alternator; plus=battery +; amps=70; idle=30"}
	v.lists[vehicle.Fuses] = append(slices.Clone(v.lists[vehicle.Fuses]),
		"fuse=main; rating=40; in=battery +; out=main bus")
	v.lists[vehicle.Switches] = append(slices.Clone(v.lists[vehicle.Switches]),
		"switch=master switch; from=battery post; to=battery +; closed=own")
	return v
}

// What cannot be is found with its line, and the rest stands.
func TestBadLines(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus",
		"fuse=zero; rating=0; in=battery +; out=x", "fuse=minus; rating=-5; in=battery +; out=x",
		"fuse=words; rating=large; in=battery +; out=x", "rating=10; in=battery +; out=x",
		"fuse=1; rating=10; in=battery +; out=x", "fuse=loop; rating=10; in=x; out=x",
		"fuse=spare; rating=10; in=battery +", "fuse=norating; in=battery +; out=x").
		with(vehicle.Relays, "relay=K1; common=a; make=b", "relay=K2; coilplus=a; coilminus=b; common=c").
		with(vehicle.Switches, "switch=odd; from=a; to=b; closed=sideways").
		with(vehicle.Loads, "load=none; plus=a", "load=huge; plus=a; amps=1e9").
		with(vehicle.Cables, "cable=thick; from=a; to=b; size=4000").
		with(vehicle.Sources, "source=flat; plus=a; volts=0")
	r := v.compute(t)
	lines := map[string]bool{}
	for _, f := range r.Findings {
		if f.Code == "feed-cannot-be" {
			lines[f.Subject] = true
		}
	}
	for _, want := range []string{"fuses, line 5", "fuses, line 6", "fuses, line 7", "fuses, line 8",
		"fuses, line 9", "fuses, line 10", "fuses, line 12", "relays, line 2", "relays, line 3",
		"switches, line 3", "loads, line 2", "loads, line 3", "cables, line 5", "sources, line 4"} {
		if !lines[want] {
			t.Errorf("nothing is said of %s", want)
		}
	}
	if lines["fuses, line 11"] || len(lines) != 14 {
		t.Errorf("said of %v", lines)
	}
	if len(r.Fuses) != 4 || r.States[2].Pulled == nil {
		t.Errorf("%d fuses stand", len(r.Fuses))
	}
}

// Volts, amps, what stops and what opens, against what is worked out by hand.
func TestWhatIf(t *testing.T) {
	r := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").with(vehicle.Loads,
		"load=pump; plus=F-2; minus=body; amps=4").compute(t)
	pulled, err := r.Ask("running", nil, network.Fault{Do: network.Open, Element: "fuse 2"})
	if err != nil || !slices.Equal(pulled.Stops, []string{"injector 1", "pump",
		"unit"}) || len(pulled.Opens) != 0 || !strings.Contains(strings.Join(pulled.Says, " "), "unit goes to sleep") {
		t.Errorf("fuse 2 pulled: %+v, %v", pulled, err)
	}
	short, err := r.Ask("running", nil, network.Fault{Do: network.Short, A: "F2", B: "battery −"})
	if err != nil || len(short.Opens) == 0 || short.Opens[0].Fuse != "2" || short.Opens[0].Most > 0.1 ||
		!slices.Contains(short.Stops, "pump") || short.Unfused {
		t.Errorf("behind fuse 2 a short: %+v, %v", short, err)
	}
	before, err := r.Ask("running", nil, network.Fault{Do: network.Short, A: "battery +", B: "battery −"})
	if err != nil || !before.Unfused {
		t.Errorf("before all fuses a short: %+v, %v", before, err)
	}
	open, err := r.Ask("run", nil, network.Fault{Do: network.Open, Element: "W3"})
	if err != nil || !slices.Contains(open.Stops, "unit") {
		t.Errorf("the unit's ground open: %+v, %v", open, err)
	}
	if _, err := r.Ask("run", nil, network.Fault{Do: network.Open, Element: "nothing"}); err == nil {
		t.Error("what is not there is asked about")
	}
	same, err := r.Ask("off", nil, network.Fault{Do: network.Open, Element: "W5"})
	if err != nil || len(same.Stops)+len(same.Starts) != 0 || !slices.Contains(same.Says,
		"Nothing changes in this position.") {
		t.Errorf("with the key off the injector's wire: %+v, %v", same, err)
	}
}

// The feed tree has every strong load once, each under what carries its current, and the amps of children are their
// parent's.
func TestTheTreeAddsUp(t *testing.T) {
	r := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").with(vehicle.Loads,
		"load=pump; plus=F-2; minus=body; amps=4", "load=fan; plus=F-1; minus=body; amps=6").compute(t)
	for _, p := range feed.Positions() {
		tree := r.Tree(p.Name)
		sums, seen := map[int]float64{}, map[string]bool{}
		for i, f := range tree {
			if seen[f.ID] || f.Parent >= i {
				t.Fatalf("%s: %s stands twice, or before what it hangs on", p.Name, f.ID)
			}
			seen[f.ID] = true
			sums[f.Parent] += f.Amps
		}
		for i, f := range tree {
			if f.Kind == "fuse" && sums[i] > 0 && math.Abs(sums[i]-f.Amps) > 0.01 {
				t.Errorf("%s: fuse %s carries %.3f A and what hangs on it %.3f A", p.Name, f.Name, f.Amps, sums[i])
			}
			if (f.Live == "live") != (f.Volts >= 1) {
				t.Errorf("%s: %s at %.1f V is %s", p.Name, f.Name, f.Volts, f.Live)
			}
		}
		for _, want := range []string{"pump", "fan", "injector 1", "unit"} {
			if !seen[want] {
				t.Errorf("%s: %s has no place in the tree", p.Name, want)
			}
		}
	}
	if got := r.Unfed(); len(got) != 0 {
		t.Errorf("led to by nothing: %v", got)
	}
}

// motor puts a pump behind fuse 2 that takes 24 A until it turns.
func motor(v small) small {
	v.wires = append(slices.Clone(v.wires), "W6 F-2 P-1 Fuel pump feed", "W7 P-2 G-2 Fuel pump ground")
	for i, w := range v.wires[len(v.wires)-2:] {
		f := strings.SplitN(string(w), " ", 4)
		v.wires[len(v.wires)-2+i] = harness.WireID(strings.Join([]string{f[0], f[1], f[2], "2.5", f[3]}, " "))
	}
	return v.put(vehicle.Fuses, 1, "fuse=2; rating=10; in=IG; out=F-2")
}
