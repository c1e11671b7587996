package thin_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/harness"
	"draxel/core/thin"
)

// byWire gives each wire's verdict by its number.
func byWire(l *harness.Loom, r *thin.Result) map[harness.WireID]thin.Choice {
	out := make(map[harness.WireID]thin.Choice, len(r.Wires))
	for i, v := range r.Wires {
		out[l.Wires[i].ID] = v.Choice
	}
	return out
}

func each(t *testing.T, n uint64, do func(seed uint64, r *rand.Rand, l *harness.Loom)) {
	t.Helper()
	for seed := range n {
		r := rand.New(rand.NewPCG(seed, 21))
		do(seed, r, made(r, 6+r.IntN(80)))
	}
}

// Where nothing is decided nothing is done, and nothing is said.
func TestNothingDecidedNothingDone(t *testing.T) {
	each(t, 200, func(seed uint64, _ *rand.Rand, l *harness.Loom) {
		r := thin.Compute(thin.Input{Loom: l, Bench: thin.Standard()})
		if len(r.Steps)+len(r.Extract)+len(r.Off)+len(r.Findings) > 0 {
			t.Fatalf("seed %d: %d steps, %v", seed, len(r.Steps), r.Findings)
		}
		if d := harness.Differences(l.Found(), l.Found().With(r.Changes())); len(d) > 0 {
			t.Fatalf("seed %d: what is wanted is not what was found: %v", seed, d)
		}
	})
}

// The verdicts do not depend on the order in which the wires are listed.
func TestTheOrderOfTheListDoesNotMatter(t *testing.T) {
	each(t, 200, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		in := thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()}
		before := byWire(l, thin.Compute(in))
		shuffled := *l
		shuffled.Wires = slices.Clone(l.Wires)
		r.Shuffle(len(shuffled.Wires), func(i, k int) {
			shuffled.Wires[i], shuffled.Wires[k] = shuffled.Wires[k], shuffled.Wires[i]
		})
		in.Loom = &shuffled
		for id, c := range byWire(&shuffled, thin.Compute(in)) {
			if before[id] != c {
				t.Fatalf("seed %d: wire %s is %q, and %q in another order of the list", seed, id, before[id], c)
			}
		}
	})
}

// The same facts and decisions give the same plan, byte for byte.
func TestThePlanIsDeterministic(t *testing.T) {
	each(t, 60, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		in := thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()}
		text := func() string {
			x := thin.Compute(in)
			return fmt.Sprint(x.Steps, x.Findings, x.Extract, x.Off, x.Joints, x.Draw())
		}
		if first, second := text(), text(); first != second {
			t.Fatalf("seed %d: two computations differ", seed)
		}
	})
}

// To keep one more wire never lets another one go.
func TestKeepingNeverLetsGo(t *testing.T) {
	each(t, 250, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		in := thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()}
		before := thin.Compute(in)
		w := l.Wires[r.IntN(len(l.Wires))].ID
		in.Decisions = slices.DeleteFunc(slices.Clone(in.Decisions),
			func(d thin.Decision) bool { return d.On == thin.Wire && d.ID == string(w) })
		without := byWire(l, thin.Compute(in))
		in.Decisions = append(in.Decisions, thin.Decision{On: thin.Wire, ID: string(w), Choice: thin.Keep})
		after := byWire(l, thin.Compute(in))
		for id, c := range after {
			if c == thin.Goes && without[id] != thin.Goes {
				t.Fatalf("seed %d: %s was kept, and %s goes for it (%d wires before)", seed, w, id, len(before.Wires))
			}
		}
	})
}

// A wire goes only where something was decided away in its own circuit.
func TestADecisionStaysInItsCircuits(t *testing.T) {
	each(t, 250, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		decisions := decided(r, l)
		result := thin.Compute(thin.Input{Loom: l, Decisions: decisions, Bench: thin.Standard()})
		away := map[thin.Scope]map[string]bool{thin.Wire: {}, thin.Connector: {}, thin.Module: {}, thin.System: {}}
		for _, d := range decisions {
			if d.Choice == thin.Goes {
				away[d.On][d.ID] = true
			}
		}
		device := map[string]harness.Device{}
		for _, d := range l.Devices {
			device[d.ID] = d
		}
		plug := map[string]harness.Half{}
		for _, c := range l.Connectors {
			plug[c.ID] = c
		}
		reached := map[int]bool{}
		for i, w := range l.Wires {
			hit := away[thin.Wire][string(w.ID)] || away[thin.System][w.Signal.System]
			for _, e := range w.Ends {
				for _, c := range []harness.Half{plug[e.At.Connector], plug[plug[e.At.Connector].Mate]} {
					d := device[c.Device]
					hit = hit || away[thin.Connector][c.ID] || away[thin.Module][d.ID] || away[thin.System][d.System]
				}
			}
			reached[result.Wires[i].Circuit] = reached[result.Wires[i].Circuit] || hit
		}
		for i, v := range result.Wires {
			if v.Choice == thin.Goes && !reached[v.Circuit] {
				t.Fatalf("seed %d: %s goes, and nothing in its circuit was decided away", seed, l.Wires[i].ID)
			}
		}
	})
}

// What "if I cut here" says of a wire is what another's components say of the harness without it.
func TestCutAgainstComponents(t *testing.T) {
	each(t, 150, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		result := thin.Compute(thin.Input{Loom: l, Bench: thin.Standard()})
		whole := components(l, map[harness.WireID]bool{}, func(string) bool { return false })
		for range 6 {
			w := l.Wires[r.IntN(len(l.Wires))]
			cut, err := result.Cut(thin.Wire, string(w.ID))
			if err != nil {
				t.Fatal(err)
			}
			parts := components(l, map[harness.WireID]bool{w.ID: true}, func(string) bool { return false })
			group := map[int]int{}
			for ref, c := range parts {
				for _, e := range w.Ends {
					if e.At != (harness.Ref{}) && whole[ref] == whole[e.At] {
						group[c]++
					}
				}
			}
			lose := map[string]bool{}
			for _, c := range cut.Circuits {
				for _, at := range c.Lose {
					lose[at] = true
				}
			}
			stay := map[int]bool{}
			for ref, c := range parts { // an end is lost exactly if it is in another part than those that are not
				if group[c] > 0 && terminalOf(l, ref) && !lose[ref.String()] {
					stay[c] = true
				}
			}
			for ref, c := range parts {
				if lose[ref.String()] && stay[c] {
					t.Fatalf("seed %d: %s is cut, and %s is lost though it is joined to what is not", seed, w.ID, ref)
				}
			}
			if len(stay) > 1 {
				t.Fatalf("seed %d: %s is cut, and ends that are not lost are in %d parts", seed, w.ID, len(stay))
			}
			if cut.Carries != 1 || len(cut.Circuits) != 1 {
				t.Fatalf("seed %d: one wire carries %d and parts %d circuits", seed, cut.Carries, len(cut.Circuits))
			}
		}
	})
}

// terminalOf says whether a cavity plugs into something, and does not only hand copper on.
func terminalOf(l *harness.Loom, ref harness.Ref) bool {
	for _, c := range l.Connectors {
		if c.ID != ref.Connector {
			continue
		}
		for _, group := range c.Links {
			if slices.Contains(group, ref.Cavity) {
				return false
			}
		}
		return c.Mate == ""
	}
	return true
}

// What is extracted by one school is cut by the other; either way the same wires come out.
func TestBothSchoolsTakeOutTheSame(t *testing.T) {
	each(t, 200, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		in := thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()}
		one := thin.Compute(in)
		in.Bench.School = thin.CutSeal
		two := thin.Compute(in)
		if len(two.Extract) > 0 {
			t.Fatalf("seed %d: %d terminals are extracted by the school that cuts", seed, len(two.Extract))
		}
		a, b := byWire(l, one), byWire(l, two)
		for id := range a {
			if a[id] != b[id] {
				t.Fatalf("seed %d: %s is %q by one school and %q by the other", seed, id, a[id], b[id])
			}
		}
		seals := 0
		for _, s := range two.Steps {
			if s.Kind == thin.SealEnd {
				seals++
			}
		}
		if seals < len(one.Extract) {
			t.Fatalf("seed %d: %d ends sealed for %d terminals extracted", seed, seals, len(one.Extract))
		}
	})
}

// The work of a system stands together, cautions and gate come first, the look for nicks last, and every step is
// numbered apart from the others.
func TestTheOrderOfTheWork(t *testing.T) {
	each(t, 200, func(seed uint64, r *rand.Rand, l *harness.Loom) {
		l.Branches = []harness.Branch{{ID: "B0"}, {ID: "B1"}}
		result := thin.Compute(thin.Input{Loom: l, Decisions: decided(r, l), Bench: thin.Standard()})
		if len(result.Steps) == 0 {
			return
		}
		ids := map[string]bool{}
		gate, work := -1, false
		for i, s := range result.Steps {
			if ids[s.ID] {
				t.Fatalf("seed %d: two steps are %s", seed, s.ID)
			}
			ids[s.ID] = true
			switch s.Kind {
			case thin.Gate:
				gate = i
			case thin.Caution, thin.Tie, thin.Nicks:
				if work && s.Kind != thin.Nicks {
					t.Fatalf("seed %d: %s after the work began", seed, s.Kind)
				}
			default:
				work = true
				if gate < 0 {
					t.Fatalf("seed %d: a step before the gate: %s", seed, s.Text)
				}
			}
			if s.Text == "" || s.Minutes <= 0 || s.NoReturn != (len(s.Edits) > 0 && s.Kind != thin.TakeOff &&
				s.Kind != thin.ComeOut) {
				t.Fatalf("seed %d: step %+v", seed, s)
			}
		}
		if last := result.Steps[len(result.Steps)-1]; work && last.Kind != thin.Nicks {
			t.Fatalf("seed %d: the work ends with %s", seed, last.Kind)
		}
	})
}

// Restraint and high voltage bring their cautions.
func TestCautionsStandAtTheBeginning(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device valve part emissions V", "W1 U-1 V-1", "W2 U-2 U-3 Airbag, driver",
		"W3 U-4 U-5 Interlock loop")
	r := thin.Compute(thin.Input{Loom: l, Decisions: decide("goes module valve"), Bench: thin.Standard()})
	var cautions []string
	for _, s := range r.Steps {
		if s.Kind == thin.Caution {
			cautions = append(cautions, s.Text)
		}
	}
	if len(cautions) != 3 {
		t.Errorf("cautions %q", cautions)
	}
	for _, s := range r.Steps {
		for _, w := range s.Wires {
			if w == "W2" || w == "W3" {
				t.Errorf("a step touches %s: %s", w, s.Text)
			}
		}
	}
}
