package demo_test

import (
	"bytes"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"testing"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/plan"
	"draxel/demo"
	"draxel/exchange"
)

func fed(t testing.TB) *feed.Result {
	t.Helper()
	_, j := jobs(t)
	facts, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(facts, j.Chosen())
	if p.Feed.Result == nil {
		t.Fatal("nothing is said of the Packhorse's feeds")
	}
	return p.Feed.Result
}

// The ignition switch is live in the network where it was measured live, position by position.
func TestTheKeyOfThePackhorse(t *testing.T) {
	_, j := jobs(t)
	r := fed(t)
	checked := 0
	for _, line := range gather.KeyTable(j.Readings) {
		node, drawn := r.Drawn.Points[line.At]
		if line.At.Connector != "IS" || !drawn {
			continue
		}
		for i, key := range gather.Keys() {
			read, there := line.Volts[key]
			if !there {
				continue
			}
			checked++
			s := r.States[i] // off, accessory, run, crank
			if v := s.Volts[node]; (read >= 9) != (v >= 9 && !s.Floating[node]) {
				t.Errorf("%s in %s: measured %.1f V, in the network %.1f V", line.At, key, read, v)
			}
		}
	}
	if checked != 16 {
		t.Errorf("%d readings were compared", checked)
	}
}

// The engine runs in the model: the unit wakes in run and in crank, pulls the main relay, and the pump while the engine
// turns; every injector and coil has its volts then, and none while it stands.
func TestTheEngineRunsInTheModel(t *testing.T) {
	r := fed(t)
	pulled := func(s *network.State, relay string) bool {
		for i, k := range r.Drawn.Relays {
			if k.Name == relay {
				return s.Pulled[i]
			}
		}
		t.Fatalf("there is no relay %s", relay)
		return false
	}
	for i, p := range feed.Positions() {
		s := r.States[i]
		on, turns := p.Key == network.Run || p.Key == network.Crank, p.Running || p.Key == network.Crank
		if pulled(s, "VK-2 awake") != on || pulled(s, "main relay") != on || pulled(s, "pump relay") != turns {
			t.Errorf("%s: unit %v, main relay %v, pump relay %v", p.Name, pulled(s, "VK-2 awake"), pulled(s,
				"main relay"), pulled(s, "pump relay"))
		}
		for _, d := range []string{"injector 1", "injector 2", "injector 3", "injector 4", "coil 1", "coil 4",
			"fuel pump"} {
			if r.Works(s, d) != turns {
				t.Errorf("%s: %s works %v", p.Name, d, r.Works(s, d))
			}
		}
	}
	dead, err := r.Ask("running", nil, network.Fault{Do: network.Dead, Element: "main relay"})
	if err != nil || len(dead.Stops) < 8 {
		t.Errorf("with the main relay dead only %v stop, %v", dead.Stops, err)
	}
}

// What is said of the Packhorse: a mistake of each common kind.
func TestWhatIsWrongWithThePackhorsesFeeds(t *testing.T) {
	want := map[string]int{"fuse-above-wire": 4, "fuse-short-only": 5, "fuse-loaded": 1, "unprotected": 1,
		"starter-fed": 1, "alternator-idle": 1, "alternator-keeps-alive": 1, "sensor-lifted": 2,
		"wire-overloaded": 6, "ground-lifted": 4}
	got := map[string]int{}
	about := map[string]bool{}
	for _, f := range fed(t).Findings {
		got[f.Code]++
		about[f.Code+" "+f.Subject] = true
	}
	// Wires that stay as they are, thinner than Reach would have them: they are reckoned as thick as they are.
	for _, thin := range []string{"wire-overloaded 7199", "fuse-short-only 6"} {
		if !about[thin] {
			t.Errorf("%s is not found", thin)
		}
	}
	for code, n := range want {
		if got[code] != n {
			t.Errorf("%s is found %d times, want %d (all: %v)", code, got[code], n, got)
		}
	}
}

var volts = regexp.MustCompile(`(?m)^(\S+) = (\S+)$`)

// In every position of the key the volts of the Packhorse are those of ngspice on the exported netlist, to a millivolt.
func TestPackhorseInNgspice(t *testing.T) {
	if _, err := exec.LookPath("ngspice"); err != nil {
		t.Skip("ngspice (Debian package ngspice) is not installed: the volts are not compared with it")
	}
	r := fed(t)
	for i, s := range r.States {
		likeNgspice(t, feed.Positions()[i].Name, r, s)
	}
}

// likeNgspice compares the volts of a state with those of ngspice on the exported netlist, to a millivolt.
func likeNgspice(t *testing.T, what string, r *feed.Result, s *network.State) {
	t.Helper()
	var b bytes.Buffer
	if err := exchange.WriteSpice(&b, s, "Packhorse"); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "p.cir")
	if err := os.WriteFile(file, b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("ngspice", "-b", "-n", file).CombinedOutput()
	if err != nil {
		t.Fatalf("%s: %v\n%s", what, err, out)
	}
	theirs := map[string]float64{}
	for _, m := range volts.FindAllStringSubmatch(string(out), -1) {
		if v, err := strconv.ParseFloat(m[2], 64); err == nil {
			theirs[m[1]] = v
		}
	}
	compared, worst := 0, 0.0
	for k, name := range exchange.SpiceNodes(r.Drawn.Network) {
		if k == 0 || s.Floating[k] || int(r.Drawn.Heads()[k]) != k {
			continue
		}
		v, there := theirs[name]
		if !there {
			t.Fatalf("%s: ngspice says nothing of %s", what, name)
		}
		compared++
		worst = max(worst, math.Abs(v-s.Volts[k]))
	}
	if worst > 1e-3 || compared < 200 {
		t.Errorf("%s: of %d nodes one differs by %.2g V", what, compared, worst)
	}
}

// The start path with a relay that the clutch switch grounds, the outputs of compressor and fans, and the pump: what
// works in each condition, by hand, and the volts of ngspice in it.
func TestConditionsInNgspice(t *testing.T) {
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	j := all[1]
	j.Added = []join.Added{{ID: "K1", Function: "interlock", What: "start relay", Body: join.RelayBody,
		In:    harness.Ref{Connector: "OST", Cavity: "1"},
		Leads: []join.PartLead{{Point: "86", To: "K1 30"}, {Point: "85", To: "OCL-1"}}}}
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	r := p.Feed.Result
	_, err = exec.LookPath("ngspice")
	for _, c := range []struct {
		position           string
		switches, on, off  []string
		works, not, pulled []string
	}{
		{"crank", []string{"master switch"}, nil, nil, nil, []string{"Packhorse starter"}, nil},
		{"crank", []string{"master switch", "clutch switch"}, nil, nil, []string{"Packhorse starter"}, nil, []string{"K1"}},
		{"crank", []string{"clutch switch"}, nil, nil, nil, []string{"Packhorse starter"}, nil},
		{"run", []string{"master switch", "clutch switch"}, nil, nil, nil, []string{"Packhorse starter"}, nil},
		{"running", []string{"master switch"}, []string{"B32"}, nil, []string{"fuel pump"}, nil, []string{"pump relay"}},
		{"running", []string{"master switch"}, nil, []string{"B32"}, []string{"fuel pump"}, nil, nil},
		{"running", []string{"master switch"}, []string{"B18", "B19"}, []string{"A8"}, nil, []string{"fuel pump"}, nil},
	} {
		what := fmt.Sprint(c.position, c.switches, c.on, c.off)
		trial, wrong := r.Try(c.position, c.switches, c.on, c.off)
		if wrong != nil {
			t.Fatal(wrong)
		}
		for _, x := range c.works {
			if !slices.Contains(trial.Works, x) {
				t.Errorf("%s: %s does not work", what, x)
			}
		}
		for _, x := range c.not {
			if slices.Contains(trial.Works, x) {
				t.Errorf("%s: %s works", what, x)
			}
		}
		for _, x := range c.pulled {
			if !slices.Contains(trial.Pulled, x) {
				t.Errorf("%s: %s has not pulled", what, x)
			}
		}
		s, wrong := r.Held(c.position, c.switches, c.on, c.off)
		if wrong != nil {
			t.Fatal(wrong)
		}
		if err == nil {
			likeNgspice(t, what, r, s)
		}
	}
	if err != nil {
		t.Skip("ngspice (Debian package ngspice) is not installed: the volts are not compared with it")
	}
}

// What is live is what a search of the test's own reaches from the battery: along what hands current on, or through
// a load where it is fed back. Wires are broken at random first.
func TestLiveAgainstASearch(t *testing.T) {
	r := fed(t)
	heads := r.Drawn.Heads()
	r1 := rand.New(rand.NewPCG(1, 14))
	checked := 0
	for range 60 {
		base := r.States[r1.IntN(len(r.States))]
		var faults []network.Fault
		for range 1 + r1.IntN(12) {
			if e := &r.Drawn.Elements[r1.IntN(len(r.Drawn.Elements))]; e.Kind != network.Source {
				faults = append(faults, network.Fault{Do: network.Open, Element: e.Name})
			}
		}
		s, err := base.With(faults...)
		if err != nil {
			t.Fatal(err)
		}
		reach := func(from int32, all bool) map[int32]bool {
			seen := map[int32]bool{from: true}
			for again := true; again; {
				again = false
				for i := range r.Drawn.Elements {
					e := &r.Drawn.Elements[i]
					if !s.Conducts(int32(i)) || !all && (!e.Kind.Hands() ||
						e.Ohms > 1) { // a resistance wire hands on too little
						continue
					}
					if a, b := heads[e.A], heads[e.B]; seen[a] != seen[b] {
						seen[a], seen[b], again = true, true, true
					}
				}
			}
			return seen
		}
		battery, _ := r.Drawn.Element(network.BatteryName)
		plus, ground := heads[r.Drawn.Elements[battery].A], int32(0)
		near, joined, back := reach(plus, false), reach(ground, true), reach(ground, false)
		for n := range heads {
			h := heads[n]
			checked++
			if s.Floating[n] == joined[h] {
				t.Fatalf("%s is floating %v, joined %v; %v", r.Drawn.Names[n], s.Floating[n], joined[h], faults)
			}
			if near[h] && !back[h] && s.Volts[n] < 5 && !s.Condition.Key.Is(network.Crank) {
				t.Errorf("%s hangs on the battery and has %.2f V; %v", r.Drawn.Names[n], s.Volts[n], faults)
			}
			if back[h] && !near[h] && math.Abs(s.Volts[n]) > 1.5 {
				t.Errorf("%s is grounded and has %.2f V; %v", r.Drawn.Names[n], s.Volts[n], faults)
			}
		}
	}
	if checked < 20000 {
		t.Errorf("%d nodes were looked at", checked)
	}
}
