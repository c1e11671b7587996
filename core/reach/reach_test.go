package reach_test

import (
	"math"
	"math/rand"
	"reflect"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/work"
)

func line(t *testing.T, r *reach.Result, wire harness.WireID) reach.Line {
	t.Helper()
	i := slices.IndexFunc(r.Lines, func(l reach.Line) bool { return l.Wire == wire })
	if i < 0 {
		t.Fatalf("no line for %s", wire)
	}
	return r.Lines[i]
}

func found(r *reach.Result, code string) []finding.Finding {
	var out []finding.Finding
	for _, f := range r.Findings {
		if f.Code == code {
			out = append(out, f)
		}
	}
	return out
}

// The length that a wire needs is the sum of its paths and of every allowance, each of them named.
func TestNeedIsTheSumOfItsTerms(t *testing.T) {
	r := reach.Compute(yardInput(wire("1", at("A", 1), at("J1", 1), 2500, ""),
		wire("2", at("F", 1), harness.End{Splice: "S1"}, 1000, "")))
	l := line(t, r, "1")
	if got := strings.Join(l.Paths, " "); got != "a w m b1" || l.Need != 600+300+400+500+2*80+60+2*30 {
		t.Errorf("over %s needs %v", got, l.Need)
	}
	sum := 0.0
	for _, x := range l.Terms {
		sum += x.MM
	}
	if sum != l.Need || l.Verdict != reach.Trim || l.By != 2500-l.Need {
		t.Errorf("terms %v sum to %v, %s by %v", l.Terms, sum, l.Verdict, l.By)
	}
	spliced := line(t, r, "2") // no drop and no re-termination at a splice
	if spliced.Need != 700+300+400+80+60+30 || spliced.Verdict != reach.Extend {
		t.Errorf("to a splice: %v, %s", spliced.Need, spliced.Verdict)
	}
}

func TestVerdicts(t *testing.T) {
	const need = 600 + 300 + 400 + 500 + 160 + 60 + 60
	for name, c := range map[string]struct {
		had     float64
		change  func(*reach.Input)
		want    reach.Verdict
		by      float64
		joints  int
		another string
	}{
		"just enough":        {had: need, want: reach.Reaches},
		"long, but not much": {had: need + 200, want: reach.Reaches},
		"too long":           {had: need + 400, want: reach.Trim, by: 400},
		"nobody knows":       {had: 0, want: reach.Measure},
		"short, two joints":  {had: need - 500, want: reach.Extend, by: 500 + 60, joints: 2},
		"short, one joint": {had: need - 500,
			change: func(in *reach.Input) { in.Wires[0].Renewed = [2]bool{true, true} }, want: reach.Extend, by: 500 + 30,
			joints: 1},
		"mostly new": {had: 500, want: reach.Replace, by: need},
		"mostly new, but jointed all the same": {had: 500,
			change: func(in *reach.Input) { in.Decisions.Wishes = []reach.Wish{{Wire: "1", At: 1}} }, want: reach.Extend,
			by: need - 500 + 60, joints: 2},
		"no slack left":          {had: need - 5, want: reach.Reaches},
		"no slack at either end": {had: need - 60, want: reach.Reaches},
		"the slack is wanted": {had: need - 5,
			change: func(in *reach.Input) { in.Decisions.Wishes = []reach.Wish{{Wire: "1", Slack: true}} }, want: reach.Extend,
			by: 70, joints: 2}, // 65 would do: but two joints of 15 mm of either end are kept 40 mm apart
		"a hand's breadth": {had: need - 65, want: reach.Extend, by: 125, joints: 2},
		"decided to replace": {had: need, change: func(in *reach.Input) {
			in.Decisions.Wishes = []reach.Wish{{Wire: "1",
				Whole: true}}
		}, want: reach.Replace, by: need},
		"there is none yet": {had: 0, change: func(in *reach.Input) { in.Wires[0].New = true }, want: reach.Fresh,
			by: need},
		"too hot for it": {had: need - 500, change: func(in *reach.Input) { in.Decisions.Map.Paths[3].Heat = 120 },
			want: reach.Replace, by: need},
		"too thin, too short": {had: need - 500,
			change: func(in *reach.Input) { in.Decisions.Wishes = []reach.Wish{{Wire: "1", Amps: 30}} }, want: reach.Replace,
			by: need},
		"measured longer": {had: need - 500,
			change: func(in *reach.Input) { in.Decisions.Measured = []reach.Measured{{Wire: "1", Had: need + 10}} },
			want:   reach.Reaches},
		"its way is shorter": {had: need - 500, change: func(in *reach.Input) {
			in.Decisions.Measured = []reach.Measured{{Wire: "1", Need: need - 600, From: "bank 1", To: "unit"}}
		}, want: reach.Reaches},
		"no station": {had: need, change: func(in *reach.Input) { in.Decisions.Places = in.Decisions.Places[1:] },
			want: reach.Adrift},
		"no way": {had: need, change: func(in *reach.Input) {
			in.Decisions.Wishes = []reach.Wish{{Wire: "1",
				Avoid: []string{"m"}}}
		}, want: reach.NoWay},
		"its end is cut": {had: need, change: func(in *reach.Input) { in.Wires[0].Dead[1] = true }, want: reach.Loose},
		"followed by hand": {had: need, change: func(in *reach.Input) {
			in.Wires[0].Ends[1] = harness.End{}
			in.Decisions.Wishes = []reach.Wish{{Wire: "1", Far: "bank 1"}}
		}, want: reach.Reaches},
	} {
		in := yardInput(wire("1", at("A", 1), at("J1", 1), c.had, "Injector 1, control"))
		if c.change != nil {
			c.change(&in)
		}
		l := reach.Compute(in).Lines[0]
		if l.Verdict != c.want || math.Abs(l.By-c.by) > 1 || c.joints != 0 && l.Joints != c.joints {
			t.Errorf("%s: %s by %.0f with %d joints, want %s by %.0f with %d", name, l.Verdict, l.By, l.Joints, c.want, c.by,
				c.joints)
		}
	}
}

// Restraint and high voltage are never lengthened here.
func TestQualifiedHandsOnly(t *testing.T) {
	for _, text := range []string{"Airbag squib, driver", "High voltage interlock loop"} {
		w := wire("1", at("A", 1), at("J1", 1), 500, text)
		in := yardInput(w)
		if role := w.Signal.Role; role != "restraint" && role != "high-voltage" {
			t.Fatalf("%q is read as %q", text, role)
		}
		r := reach.Compute(in)
		for _, s := range r.Steps {
			if len(s.Edits) > 0 {
				t.Errorf("%s: %s", text, s.Text)
			}
		}
	}
}

// The chance of falling short is that of a normal distribution: half where the margin is nothing, the tables' 2.275 %
// at two standard deviations (Abramowitz and Stegun, table 26.1, from memory).
func TestChanceOfFallingShort(t *testing.T) {
	const bare = 600 + 300 + 400 + 500 + 160 + 60
	sigma := math.Sqrt(10*10 + 5*5 + 10*10 + 10*10 + 5*5) // half the spreads of its paths, and of a measurement of ± 10 mm
	for margin, want := range map[float64]float64{0: 0.5, 1: 0.158655, 2: 0.022750, -1: 0.841345, 3: 0.001350} {
		in := yardInput(wire("1", at("A", 1), at("J1", 1), 0, ""))
		in.Decisions.Measured = []reach.Measured{{Wire: "1", Had: bare + margin*sigma}}
		if l := reach.Compute(in).Lines[0]; math.Abs(l.Short-want) > 2e-6 || math.Abs(l.Spread-2*sigma) > 1e-9 {
			t.Errorf("margin of %v σ: %v, want %v; spread %v", margin, l.Short, want, l.Spread)
		}
	}
}

// Every shortest way is as long as gonum's, on random maps, with paths forbidden too.
func TestRoutesAsGonum(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	compared := 0
	for range 60 {
		in := sprawl(r, 60, 10+r.Intn(70))
		avoid := map[harness.WireID][]string{}
		for _, x := range in.Decisions.Wishes {
			avoid[x.Wire] = x.Avoid
		}
		result := reach.Compute(in)
		number := map[string]int64{}
		for i, s := range in.Decisions.Map.Stations {
			number[s.ID] = int64(i)
		}
		for i, l := range result.Lines {
			if l.Verdict == reach.Loose || l.Verdict == reach.Adrift || in.Wires[i].Pair != "" {
				continue
			}
			g := simple.NewWeightedUndirectedGraph(0, math.Inf(1))
			for k := range number {
				g.AddNode(simple.Node(number[k]))
			}
			length := map[string]float64{}
			for _, p := range in.Decisions.Map.Paths {
				length[p.ID] = p.Length
				a, b := number[p.From], number[p.To]
				if a == b || slices.Contains(avoid[l.Wire], p.ID) {
					continue
				}
				if w, there := g.Weight(a, b); !there || w > p.Length {
					g.SetWeightedEdge(g.NewWeightedEdge(simple.Node(a), simple.Node(b), p.Length))
				}
			}
			want := path.DijkstraFrom(simple.Node(number[l.Stations[0]]), g).WeightTo(number[l.Stations[len(l.Stations)-1]])
			if l.Verdict == reach.NoWay {
				if !math.IsInf(want, 1) {
					t.Fatalf("%s: no way, and gonum has one of %v", l.Wire, want)
				}
				continue
			}
			got := 0.0
			for _, p := range l.Paths {
				got += length[p]
			}
			if math.Abs(got-want) > 1e-9 {
				t.Fatalf("%s from %s to %s: %v, gonum %v", l.Wire, l.Stations[0], l.Stations[len(l.Stations)-1], got, want)
			}
			compared++
		}
	}
	if compared < 2000 {
		t.Errorf("only %d ways were compared", compared)
	}
}

func TestAPairStaysTogether(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 3000, ""), wire("2", at("A", 2), at("J1", 2), 3000, ""))
	in.Decisions.Map.Paths = append(in.Decisions.Map.Paths,
		route.Path{ID: "round", From: "in", To: "engine", Length: 1500})
	in.Wires[0].Pair, in.Wires[1].Pair = "bus", "bus"
	in.Decisions.Wishes = []reach.Wish{{Wire: "2", Avoid: []string{"m"}}}
	r := reach.Compute(in)
	if a, b := r.Lines[0].Paths, r.Lines[1].Paths; !slices.Equal(a, b) || !slices.Contains(a, "round") {
		t.Errorf("%v and %v", a, b)
	}
}

// What cannot be right gives findings and no numbers.
func TestBadInput(t *testing.T) {
	one := func() reach.Input { return yardInput(wire("1", at("A", 1), at("J1", 1), 2000, "")) }
	for name, c := range map[string]struct {
		change func(*reach.Input)
		code   string
	}{
		"a station with no path": {func(in *reach.Input) {
			in.Decisions.Map.Stations = append(in.Decisions.Map.Stations, route.Station{ID: "roof"})
		}, "station-alone"},
		"a negative length":          {func(in *reach.Input) { in.Decisions.Map.Paths[0].Length = -4 }, "bad-path"},
		"a length that is no number": {func(in *reach.Input) { in.Decisions.Map.Paths[0].Length = math.NaN() }, "bad-path"},
		"an absurd length":           {func(in *reach.Input) { in.Decisions.Map.Paths[0].Length = 600000 }, "bad-path"},
		"more spread than length":    {func(in *reach.Input) { in.Decisions.Map.Paths[0].Spread = 900 }, "bad-path"},
		"a path to nowhere":          {func(in *reach.Input) { in.Decisions.Map.Paths[0].To = "moon" }, "bad-path"},
		"a path that is a ring":      {func(in *reach.Input) { in.Decisions.Map.Paths[0].To = "unit" }, "bad-path"},
		"heat of the sun":            {func(in *reach.Input) { in.Decisions.Map.Paths[0].Heat = 5000 }, "bad-path"},
		"a path twice": {func(in *reach.Input) {
			in.Decisions.Map.Paths = append(in.Decisions.Map.Paths, in.Decisions.Map.Paths[0])
		}, "path-twice"},
		"a station twice": {func(in *reach.Input) {
			in.Decisions.Map.Stations = append(in.Decisions.Map.Stations, route.Station{ID: "unit"})
		}, "station-twice"},
		"two ways just as long": {func(in *reach.Input) {
			in.Decisions.Map.Paths = append(in.Decisions.Map.Paths, route.Path{ID: "also", From: "in", To: "out", Length: 300})
		}, "two-ways"},
		"longer than any way":      {func(in *reach.Input) { in.Wires[0].Length = 20000 }, "longer-than-any-way"},
		"a wire of a mile":         {func(in *reach.Input) { in.Wires[0].Length = 1.6e6 }, "bad-length"},
		"a wire of less than none": {func(in *reach.Input) { in.Wires[0].Length = -20 }, "bad-length"},
		"a place that is gone":     {func(in *reach.Input) { in.Decisions.Places[0].Station = "attic" }, "place-gone"},
		"nothing put there":        {func(in *reach.Input) { in.Decisions.Places = nil }, "unplaced"},
		"waits for a radiator":     {func(in *reach.Input) { in.Decisions.Map.Paths[2].Waits = "radiator" }, "provisional"},
		"measured elsewhere": {func(in *reach.Input) {
			in.Decisions.Measured = []reach.Measured{{Wire: "1", Need: 1500, From: "unit", To: "bank 2"}}
		}, "measured-for-old-place"},
		"cut for another place": {func(in *reach.Input) { in.Wires[0].Cut, in.Wires[0].Length = 700, 2200 },
			"cut-for-old-place"},
		"cut too short since": {func(in *reach.Input) { in.Wires[0].Cut, in.Wires[0].Length = 200, 1000 },
			"cut-for-old-place"},
		"may fall short": {func(in *reach.Input) { in.Wires[0].Length, in.Decisions.Map.Paths[2].Spread = 2080, 200 },
			"may-fall-short"},
	} {
		in := one()
		c.change(&in)
		r := reach.Compute(in)
		if len(found(r, c.code)) != 1 {
			t.Errorf("%s: %v", name, r.Findings)
		}
		sane(t, name, r)
	}
	if r := reach.Compute(one()); len(r.Findings) != 1 || len(found(r, "tied")) != 1 {
		t.Errorf("nothing is wrong but that a wire ties the engine to the body: %v", r.Findings)
	}
	sane(t, "no map", reach.Compute(reach.Input{Loom: &harness.Loom{}, Wires: one().Wires,
		Decisions: reach.Decisions{Rules: reach.Standard()}}))
}

// sane says that no figure is nonsense.
func sane(t *testing.T, name string, r *reach.Result) {
	t.Helper()
	for _, l := range r.Lines {
		for what, x := range map[string]float64{"need": l.Need, "by": l.By, "short": l.Short, "spread": l.Spread,
			"volts": l.Volts} {
			if math.IsNaN(x) || x < 0 || x > 1e5 || what == "short" && x > 1 {
				t.Errorf("%s: %s of %s is %v", name, what, l.Wire, x)
			}
		}
		if (l.Verdict == reach.NoWay || l.Verdict == reach.Adrift || l.Verdict == reach.Loose) && (l.Need != 0 || l.By != 0) {
			t.Errorf("%s: %s has %s and needs %v", name, l.Wire, l.Verdict, l.Need)
		}
	}
}

// The steps, carried out on the model of a random harness, must lead to the harness that the verdicts want.
func TestStepsLeadToWanted(t *testing.T) {
	r := rand.New(rand.NewSource(3))
	seen := map[reach.Verdict]int{}
	for range 150 {
		in := sprawl(r, 2+r.Intn(60), 3+r.Intn(30))
		in.Decisions.Rules.Free = r.Intn(2) == 0
		base := modelOf(&in)
		result := reach.Compute(in)
		end, _, err := work.Run(base, result.Steps, nil)
		if err != nil {
			t.Fatal(err)
		}
		if d := harness.Differences(end, base.With(result.Changes(base))); len(d) > 0 {
			t.Fatalf("%d differences: %v", len(d), d[:min(len(d), 4)])
		}
		for _, l := range result.Lines {
			seen[l.Verdict]++
		}
		again := reach.Compute(in)
		if !reflect.DeepEqual(again.Steps, result.Steps) || !reflect.DeepEqual(again.Joints, result.Joints) ||
			!reflect.DeepEqual(again.Findings, result.Findings) {
			t.Fatal("the same input gave another plan")
		}
	}
	for _, v := range []reach.Verdict{reach.Extend, reach.Replace, reach.Trim, reach.Reaches, reach.Measure, reach.NoWay} {
		if seen[v] < 12 {
			t.Errorf("only %d wires with the verdict %s", seen[v], v)
		}
	}
}

// modelOf lays the input's wires as found.
func modelOf(in *reach.Input) harness.Harness {
	loom := *in.Loom
	for i := range in.Wires {
		loom.Wires = append(loom.Wires, in.Wires[i].Wire)
	}
	return loom.Found()
}

func BenchmarkReach(b *testing.B) {
	for name, c := range map[string][2]int{"1000": {1000, 80}, "200": {200, 30}} {
		b.Run(name, func(b *testing.B) {
			in := sprawl(rand.New(rand.NewSource(4)), c[0], c[1])
			for b.Loop() {
				reach.Compute(in)
			}
		})
	}
}
