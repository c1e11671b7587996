package feed_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/vehicle"
)

// Random circuits of switches and relays: what pulls and what works in every setting of the switches, against a
// truth table that the test evaluates by itself. A relay's coil is fed through switches and contacts of relays
// before it, in series or side by side, closed at rest or when pulled.
func TestRelaysAgainstATruthTable(t *testing.T) {
	settings := 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 15))
		v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
		switches := 2 + r.IntN(3)
		relays := 1 + r.IntN(4)
		for s := range switches {
			v = v.with(vehicle.Switches, fmt.Sprintf("switch=s%d; from=s%d in; to=s%d out; closed=own", s, s, s))
		}
		// A contact that can stand in a path: its two ends, and whether it conducts.
		type contact struct {
			from, to string
			closed   func(on []bool, pulled []bool) bool
		}
		var free []contact
		for s := range switches {
			free = append(free, contact{fmt.Sprintf("s%d in", s), fmt.Sprintf("s%d out", s), func(on,
				_ []bool) bool {
				return on[s]
			}})
		}
		var coil []func(on, pulled []bool) bool
		var loads []func(on, pulled []bool) bool
		join := func(a, b string) {
			v = v.with(vehicle.Cables, fmt.Sprintf("cable=%s to %s; from=%s; to=%s; ohms=0.001", a, b, a, b))
		}
		path := func(goal string) func(on, pulled []bool) bool {
			if len(free) == 0 {
				join("main bus", goal)
				return func(_, _ []bool) bool { return true }
			}
			n := 1 + r.IntN(min(2, len(free)))
			used := free[:n]
			free = free[n:]
			series := r.IntN(2) == 0
			for i, c := range used {
				if i == 0 || !series {
					join("main bus", c.from)
				} else {
					join(used[i-1].to, c.from)
				}
				if i == n-1 || !series {
					join(c.to, goal)
				}
			}
			return func(on, pulled []bool) bool {
				all, any := true, false
				for _, c := range used {
					is := c.closed(on, pulled)
					all, any = all && is, any || is
				}
				return series && all || !series && any
			}
		}
		for k := range relays {
			coil = append(coil, path(fmt.Sprintf("k%d coil", k)))
			rest := r.IntN(2) == 0
			make := map[bool]string{true: "break", false: "make"}[rest]
			v = v.with(vehicle.Relays, fmt.Sprintf("relay=k%d; coilplus=k%d coil; coilminus=body; common=k%d in; %s=k%d out", k,
				k, k, make, k))
			free = append(free, contact{fmt.Sprintf("k%d in", k), fmt.Sprintf("k%d out", k),
				func(_, pulled []bool) bool { return pulled[k] != rest }})
			r.Shuffle(len(free), func(i, j int) { free[i], free[j] = free[j], free[i] })
		}
		for l := 0; l < 2; l++ {
			loads = append(loads, path(fmt.Sprintf("l%d", l)))
			v = v.with(vehicle.Loads, fmt.Sprintf("load=load %d; plus=l%d; minus=body; amps=1", l, l))
		}
		res := v.compute(t)
		for bits := range 1 << switches {
			on, names := make([]bool, switches), []string{}
			for s := range switches {
				if on[s] = bits>>s&1 == 1; on[s] {
					names = append(names, fmt.Sprintf("s%d", s))
				}
			}
			pulled := make([]bool, relays)
			for k := range relays {
				pulled[k] = coil[k](on, pulled)
			}
			got, err := res.Try("run", names, nil, nil)
			if err != nil {
				t.Fatal(err)
			}
			settings++
			rows := triedRows(t, res, names)
			for k := range relays {
				if is := rows[fmt.Sprintf("relay k%d", k)]; !slices.Equal(is, slices.Repeat([]bool{pulled[k]}, 5)) {
					t.Fatalf("circuit %d with %v: in the table of conditions k%d pulls %v, by the table %v", seed,
						names, k, is, pulled[k])
				}
			}
			for l, works := range loads {
				if is := rows[fmt.Sprintf("device load %d", l)]; !slices.Equal(is,
					slices.Repeat([]bool{works(on, pulled)}, 5)) {
					t.Fatalf("circuit %d with %v: in the table of conditions load %d works %v", seed, names, l, is)
				}
			}
			for k := range relays {
				if name := fmt.Sprintf("k%d", k); slices.Contains(got.Pulled, name) != pulled[k] {
					t.Fatalf("circuit %d with %v: %s pulls %v, by the table %v\n%v", seed, names, name, !pulled[k], pulled[k], v.lists)
				}
			}
			for l, works := range loads {
				if name := fmt.Sprintf("load %d", l); slices.Contains(got.Works, name) != works(on, pulled) {
					t.Fatalf("circuit %d with %v: %s works %v, by the table %v", seed, names, name, !works(on, pulled), works(on,
						pulled))
				}
				if seed%4 == 0 && works(on, pulled) {
					heldBy(t, res, names, l, on, coil, works)
				}
			}
		}
	}
	t.Logf("%d settings", settings)
	r := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").compute(t)
	if _, err := r.Try("run", nil, []string{"Z9"}, nil); err == nil || !strings.Contains(err.Error(), "Z9") {
		t.Errorf("an output that there is not: %v", err)
	}
	// The table of conditions by hand: the unit is awake in run and crank, its output is held on, the injector works.
	rows := triedRows(t, r, nil, "U4")
	for name, want := range map[string][]bool{"output U4": {false, false, true, true, true},
		"device unit": {false, false, true, true, true}, "device injector 1": {false, false, true, true, true}} {
		if !slices.Equal(rows[name], want) {
			t.Errorf("%s: %v, by hand %v", name, rows[name], want)
		}
	}
	if _, err := r.Tries([]string{"nothing"}, nil, nil); err == nil {
		t.Error("a switch that there is not is tried")
	}
	held, err := r.Try("running", nil, nil, []string{"U4"})
	if err != nil || !slices.Contains(held.Stops, "injector 1") {
		t.Errorf("the injector's output is held off: %+v, %v", held, err)
	}
}

// triedRows gives the table of conditions by kind and name.
func triedRows(t *testing.T, r *feed.Result, on []string, held ...string) map[string][]bool {
	t.Helper()
	all, err := r.Tries(on, held, nil)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]bool{}
	for _, x := range all {
		out[string(x.Kind)+" "+x.Name] = x.In
	}
	return out
}

// heldBy holds what a load is held by, of the switches, against the table: those without which it does not work.
func heldBy(t *testing.T, r *feed.Result, names []string, load int, on []bool, coil []func(on, pulled []bool) bool,
	works func(on, pulled []bool) bool) {
	t.Helper()
	got, err := r.Holds("run", names, fmt.Sprint("load ", load))
	if err != nil {
		t.Fatal(err)
	}
	for s := range on {
		if !on[s] {
			continue
		}
		without := slices.Clone(on)
		without[s] = false
		pulled := make([]bool, len(coil))
		for k := range coil {
			pulled[k] = coil[k](without, pulled)
		}
		name := fmt.Sprint("s", s)
		held := slices.ContainsFunc(got, func(h feed.Hold) bool { return h.Name == name })
		if want := !works(without, pulled); held != want {
			t.Fatalf("load %d with %v is held by %s: %v, by the table %v (%+v)", load, names, name, held, want, got)
		}
	}
	if _, err := r.Holds("run", nil, "nothing"); err == nil {
		t.Error("what there is not is held by something")
	}
}

// A switch that is a device of the harness opens and closes what hangs on it, whatever it is called; a lamp is none.
func TestASwitchOfTheHarness(t *testing.T) {
	v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus")
	v.wires = append(v.wires, "W40 F-2 T-1 1 Brake lamp switch feed", "W41 T-2 N-1 1 Brake lamp switch, signal")
	v = v.with(vehicle.Loads, "load=lamp load; plus=N-1; minus=body; amps=2")
	r := v.compute(t)
	if own := r.Own(); len(own) != 1 || own[0] != "coolant sensor" { // as the test's device at T is called
		t.Fatalf("own switches %v", own)
	}
	for _, on := range [][]string{nil, {"coolant sensor"}} {
		s, err := r.With("run", on)
		if err != nil {
			t.Fatal(err)
		}
		if got := r.Works(s, "lamp load"); got != (len(on) > 0) {
			t.Errorf("with %v on the lamp works %v", on, got)
		}
	}
	v.wires[len(v.wires)-1] = "W41 T-2 N-1 1 Brake lamp, left"
	v.wires[len(v.wires)-2] = "W40 F-2 T-1 1 Brake lamp, right"
	if own := v.compute(t).Own(); len(own) != 0 {
		t.Errorf("a lamp is taken for a switch: %v", own)
	}
}

// What holds a starter, by hand: a switch beside its path holds nothing, one in the path or in its relay's coil holds
// it, and so does a unit that grants the relay, whatever the unit is told.
func TestWhatHoldsAStarter(t *testing.T) {
	for name, c := range map[string]struct {
		coil         string // coil minus of the starter's relay
		feed         string // what its coil is fed by
		wire         harness.WireID
		turns, known bool
	}{
		"beside its path":         {"body", "IG", "", true, true},
		"in its relay's coil":     {"body", "clutch out", "", false, true},
		"the unit grants it":      {"N-1", "IG", "W50 U-5 N-1 0.75 Starter relay, control", false, true},
		"the unit drives another": {"N-1", "IG", "W50 U-5 N-1 0.75 Fan relay, control", true, true},
		"it never turns":          {"nowhere", "IG", "", false, false},
	} {
		v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").
			with(vehicle.Switches, "switch=clutch; from=IG; to=clutch out; closed=own").
			with(vehicle.Relays, "relay=start; coilplus="+c.feed+"; coilminus="+c.coil+"; common=main bus; make=start out").
			with(vehicle.Loads, "load=starter; plus=start out; minus=body; amps=20")
		if c.wire != "" {
			v.wires = append(v.wires, c.wire)
		}
		turns, known := v.compute(t).CranksWithout("clutch")
		if turns != c.turns || known != c.known {
			t.Errorf("%s: turns %v, known %v; want %v, %v", name, turns, known, c.turns, c.known)
		}
	}
}
