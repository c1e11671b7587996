package reach_test

import (
	"fmt"
	"math"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/pack"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/size"
)

func bundle(r *reach.Result, path string) reach.Bundle {
	i := slices.IndexFunc(r.Bundles, func(b reach.Bundle) bool { return b.Path == path })
	return r.Bundles[i]
}

// Two wires side by side, three in each other's hollows (Kravitz 1967: 2.1547 radii), a shielded lead as one circle.
func TestBundleDiameters(t *testing.T) {
	three := yardInput(wire("1", at("A", 1), at("J1", 1), 3000, ""), wire("2", at("A", 2), at("J1", 2), 3000, ""),
		wire("3", at("A", 3), at("J2", 3), 3000, ""))
	r := reach.Compute(three)
	const d = 1.9 // 0.75 mm², ISO 6722-1
	if b := bundle(r, "a"); math.Abs(b.Laid-2.1547*d) > 1e-4 || len(b.Wires) != 3 || b.Over != b.Laid {
		t.Errorf("three wires: %+v", b)
	}
	if b := bundle(r, "b1"); b.Laid != 2*d || b.Over != b.Laid+0.8 {
		t.Errorf("two wires under tape: %+v", b)
	}
	if b := bundle(r, "b2"); b.Laid != d {
		t.Errorf("one wire: %+v", b)
	}
	three.Wires[0].Shield, three.Wires[1].Shield = "K", "K"
	if b := bundle(reach.Compute(three), "a"); len(b.Round) != 2 || b.Round[0] != 2*d+1.2 {
		t.Errorf("a shielded lead and a wire: %+v", b)
	}
	three.Wires[2].Size = 0
	if b := bundle(reach.Compute(three), "b2"); b.Assumed != 1 || b.Laid != size.Section(0.5).Outside() {
		t.Errorf("a wire of unknown size: %+v", b)
	}
}

// sized gives wires of these sections along path a, side by side from the first cavity.
func sized(sections ...size.Section) reach.Input {
	in := yardInput()
	for i, s := range sections {
		w := wire(fmt.Sprint(i+1), at("A", i+1), at("J1", i+1), 3000, "")
		w.Size = s
		in.Wires = append(in.Wires, w)
	}
	return in
}

// packed are the radii of the smallest circle round n equal circles of radius 1: Kravitz (1967); Graham, Lubachevsky,
// Nurmela, Östergård (1998).
var packed = map[int]float64{3: 2.1547, 4: 2.4142, 5: 2.7013, 7: 3, 10: 3.8130, 12: 4.0296, 14: 4.3284, 19: 4.8637,
	20: 5.1223}

// No bundle is laid thinner than its wires lie in any way: not than two of them side by side, not than equal ones pack
// (published), not than what is drawn of them. Where the rule of thumb is enough, it is not more than that.
func TestNoBundleIsThinnerThanItsWires(t *testing.T) {
	thick := size.Section(25).Outside()
	if b := bundle(reach.Compute(sized(25, 25, 0.5)), "a"); b.Laid < 2*thick || b.Laid > 2*thick+1e-6 {
		t.Errorf("25 + 25 + 0.5 mm²: %.2f mm, two of %.1f lie side by side", b.Laid, thick)
	}
	for n := range packed {
		b := bundle(reach.Compute(sized(make([]size.Section, n)...)), "a")
		least, rule := packed[n]*size.Section(0.5).Outside(), 1.2*math.Sqrt(float64(n))*size.Section(0.5).Outside()
		if b.Laid < least*(1-1e-4) || b.Laid > max(rule, 1.05*least)+1e-9 {
			t.Errorf("%d equal wires: %.3f mm, they pack in %.3f, by the rule %.3f", n, b.Laid, least, rule)
		}
	}
	r := rand.New(rand.NewSource(4))
	trade := size.Trade()
	over := 0
	for range 150 {
		var sections []size.Section
		for range 3 + r.Intn(30) {
			sections = append(sections, trade[min(r.Intn(len(trade)), r.Intn(len(trade)))])
		}
		b := bundle(reach.Compute(sized(sections...)), "a")
		_, drawn := pack.Circles(b.Round)
		if rule := 1.2 * b.Area; b.Laid < max(drawn, rule)*(1-1e-4) {
			t.Errorf("%v: laid in %.3f mm, drawn in %.3f, by the rule %.3f", sections, b.Laid, drawn, rule)
		} else if b.Laid > rule+1e-9 {
			over++
		}
	}
	if over < 10 {
		t.Errorf("of 150 bundles %d are thicker than the rule of thumb: this tests little", over)
	}
}

func TestHoles(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 3000, ""), wire("2", at("A", 2), at("J2", 1), 3000, ""),
		wire("3", at("A", 3), harness.End{Splice: "S1"}, 3000, ""))
	in.Decisions.Map.Paths[1].Cover = route.Sleeve
	in.Decisions.Rules.Plugs = map[string]float64{"J1": 24, "J2": 31, "A": 78}
	r := reach.Compute(in)
	over := bundle(r, "w").Over
	if w := r.Walls[0]; len(r.Walls) != 1 || w.Hole != math.Ceil(over) || len(w.Plugs) != 0 || w.Wires != 3 {
		t.Errorf("housings fitted afterwards: %+v", r.Walls)
	}
	in.Decisions.Map.Paths[1].Plugs = true
	w := reach.Compute(in).Walls[0]
	if w.Hole != 31 || len(w.Plugs) != 2 || w.Plugs[0].Connector != "J2" || w.From != "in" || w.Loose != 1 ||
		w.Saved != 31-math.Ceil(over) {
		t.Errorf("plugs passed through, the side with the smaller ones, biggest first: %+v", w)
	}
	in.Decisions.Rules.Plugs = nil
	if w := reach.Compute(in).Walls[0]; !w.Plugs[0].Guessed || w.Hole < 30 || w.Hole < w.Plugs[0].Across {
		t.Errorf("of unknown size: %+v", w)
	}
}

func TestKeepApart(t *testing.T) {
	crank, starter, sensor := wire("crank", at("A", 1), at("J1", 1), 3000, "Crankshaft position sensor signal"),
		wire("starter", at("F", 1), at("J1", 2), 3000, "Start signal, terminal 50"),
		wire("t", at("A", 3), at("J2", 1), 3000, "Coolant temperature sensor signal")
	starter.Size = 2.5
	r := reach.Compute(yardInput(crank, starter, sensor))
	var paths []string
	for _, k := range r.Kept {
		paths = append(paths, k.Path)
		if !slices.Equal(k.Strong, []string{"starter"}) || !slices.Equal(k.Weak, []string{"crank"}) {
			t.Errorf("%+v", k)
		}
	}
	if !slices.Equal(paths, []string{"b1", "m", "w"}) || len(found(r, "keep-apart")) != 1 {
		t.Errorf("on %v", paths)
	}
	in := yardInput(crank, starter, sensor)
	in.Decisions.Map.Paths = append(in.Decisions.Map.Paths,
		route.Path{ID: "own way", From: "fuses", To: "bank 1", Length: 2500})
	in.Decisions.Wishes = []reach.Wish{{Wire: "starter", Avoid: []string{"w"}}}
	if r := reach.Compute(in); len(r.Kept) != 0 {
		t.Errorf("with a way of its own: %v", r.Kept)
	}
}

func TestDisconnects(t *testing.T) {
	var wires []reach.Run
	for i := range 20 {
		wires = append(wires, wire(fmt.Sprint("w", i), at("A", i+1), at("J1", i+1), 3000,
			"Coolant temperature sensor signal"))
	}
	wires[0].Shield, wires[1].Shield, wires[0].Pair, wires[1].Pair = "K", "K", "K", "K"
	thick := wire("thick", at("F", 1), at("J2", 1), 3000, "Battery feed")
	thick.Size = 16
	strong := wire("strong", at("F", 2), at("J2", 2), 3000, "")
	strong.Size = 6
	in := yardInput(append(wires, thick, strong)...)
	in.Decisions.Wishes = []reach.Wish{{Wire: "thick", Amps: 90}, {Wire: "strong", Amps: 22}}
	r := reach.Compute(in)
	d := r.Disconnects[0]
	if len(r.Disconnects) != 1 || d.Between != [2]string{"body", "engine"} || len(d.Ties) != 22 || d.Where != "m" ||
		!slices.Equal(d.Shields, []string{"K"}) || !slices.Equal(d.Pairs, []string{"K"}) {
		t.Fatalf("%+v", r.Disconnects)
	}
	if p := d.Plugs; len(p) != 3 || p[0].Blade != 0 || p[1].Blade != 0.64 || !slices.Equal(p[1].Ways, []int{24}) ||
		p[1].Spare != 4 || p[2].Blade != 9.5 {
		t.Errorf("a stud, 20 small ways with spare, a wide one: %+v", p)
	}
	// An in-line plug at the border parts what ends in it.
	in.Loom.Connectors[0].Mate = "AB"
	if d := reach.Compute(in).Disconnects[0]; len(d.Ties) != 2 || len(d.Parted) != 20 {
		t.Errorf("%d tie, %d part", len(d.Ties), len(d.Parted))
	}
}

// The wires of a pair sit in one plug, even where one of them would do with a smaller contact.
func TestAPairPartsInOnePlug(t *testing.T) {
	thin, thick := wire("1", at("A", 1), at("J1", 1), 3000, ""), wire("2", at("A", 2), at("J1", 2), 3000, "")
	thin.Size, thick.Size = 0.35, 1.5
	in := yardInput(thin, thick)
	if p := reach.Compute(in).Disconnects[0].Plugs; len(p) != 2 {
		t.Fatalf("two wires of their own: %+v", p)
	}
	in.Wires[0].Pair, in.Wires[1].Pair = "bus", "bus"
	if p := reach.Compute(in).Disconnects[0].Plugs; len(p) != 1 || len(p[0].Wires) != 2 || p[0].Blade != 1.5 ||
		p[0].Thick != 1.5 {
		t.Errorf("a pair: %+v", p)
	}
}

func TestMergedFeedsCarryTheSum(t *testing.T) {
	in := yardInput(wire("trunk", at("F", 1), harness.End{Splice: "S1"}, 3000, "Main relay output"),
		wire("a", harness.End{Splice: "S1"}, at("J1", 1), 900, "Injector 1 supply"),
		wire("b", harness.End{Splice: "S1"}, at("J2", 1), 900, "Injector 2 supply"),
		wire("c", harness.End{Splice: "S1"}, at("J2", 2), 900, "Ignition coil 1 supply"))
	r := reach.Compute(in)
	if l := line(t, r, "trunk"); l.Amps != 5 || !strings.Contains(l.AmpsBy, "sum") {
		t.Errorf("the trunk carries %v A, %s", l.Amps, l.AmpsBy)
	}
	if l := line(t, r, "a"); l.Amps != 1 {
		t.Errorf("a leg carries %v A", l.Amps)
	}
	in.Wires[0].Size = 0.35
	in.Decisions.Wishes = []reach.Wish{{Wire: "c", Amps: 30}}
	if r := reach.Compute(in); len(found(r, "too-thin")) == 0 || line(t, r, "trunk").Size <= 0.35 {
		t.Errorf("a trunk of 0.35 mm² for 8 A: %v", r.Findings)
	}
}

func TestCompareAndRelocate(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 2080, ""), wire("2", at("A", 2), at("J2", 1), 2080, ""),
		wire("3", at("F", 2), at("J2", 2), 2400, ""))
	in.Loom.Branches = []harness.Branch{{ID: "bank"}}
	move := func(k route.Kind, id, station string) route.Place {
		return route.Place{Thing: route.Thing{Kind: k, ID: id}, Station: station}
	}
	in.Decisions.Options = []route.Option{
		{ID: "wing", Name: "unit in the wing", Moves: []route.Place{move(route.ADevice, "VK", "out"),
			move(route.ABranch, "bank", "engine")}},
		{ID: "far", Name: "unit by the fuses", Moves: []route.Place{move(route.ADevice, "VK", "fuses")}},
		{ID: "gone", Name: "unit on the moon", Moves: []route.Place{move(route.ADevice, "VK", "moon")}},
	}
	r := reach.Compute(in)
	c := r.Compare()
	if wing := c[0]; wing.Figures.Crossing != 1 || r.Figures.Crossing != 3 || wing.Figures.Extend != 0 ||
		len(wing.Relocations) != 1 || len(wing.Breaks) != 1 {
		t.Errorf("in the wing: %+v", wing)
	}
	far := c[1]
	if len(far.Relocations) != 1 || far.Relocations[0].Old != "unit" || far.Relocations[0].New != "fuses" ||
		len(far.Relocations[0].Wires) != 2 {
		t.Fatalf("by the fuses: %+v", far.Relocations)
	}
	if w := far.Relocations[0].Wires[0]; w.New-w.Old != 100 || w.Over != w.New-2080 || far.Relocations[0].Worst != w.Over {
		t.Errorf("wire 1: %+v, worst %v", w, far.Relocations[0].Worst)
	}
	if far.Figures.Extend != 1 || far.Figures.Buy <= 0 || far.Figures.Joints != 2 || far.Figures.Hours <= r.Figures.Hours {
		t.Errorf("by the fuses: %+v", far.Figures)
	}
	if !slices.Equal(c[2].Dangling, []string{"moon"}) || c[2].Figures.NoWay != 2 {
		t.Errorf("on the moon: %+v", c[2])
	}
}

func TestTapeMarks(t *testing.T) {
	r := reach.Compute(yardInput(wire("1", at("A", 1), at("J1", 1), 3000, ""),
		wire("2", at("J2", 1), at("A", 2), 3000, "")))
	if r.Unit != "VK" || r.Tape[0] != (reach.Mark{Station: "unit"}) ||
		!slices.Contains(r.Tape, reach.Mark{Station: "bank 2", At: 1750}) {
		t.Errorf("from %s: %v", r.Unit, r.Tape)
	}
	for _, w := range []harness.WireID{"1", "2"} {
		l := line(t, r, w)
		if i := slices.IndexFunc(l.Marks, func(m reach.Mark) bool { return m.Station == "engine" }); !l.FromUnit || i < 0 ||
			l.Marks[i].At != 1300 {
			t.Errorf("wire %s: %v", w, l.Marks)
		}
	}
}

// The lower twentieth of the leftovers, shared by both ends: five wires that leave 100 ± 10 mm allow (100 − 1.645 × 10)
// / 2 = 42 mm less, but never more than there is.
func TestLeftoversTeach(t *testing.T) {
	in := yardInput()
	for i, mm := range []float64{90, 95, 100, 105, 110} {
		if in.Decisions.Leftover = append(in.Decisions.Leftover, reach.Leftover{Left: mm}); i < 4 &&
			reach.Compute(in).Learned.Ready {
			t.Error("too few leftovers say something")
		}
	}
	if l := reach.Compute(in).Learned; !l.Ready || l.Mean != 100 || math.Abs(l.Spread-math.Sqrt(62.5)) > 1e-9 ||
		l.Less != 30 {
		t.Errorf("%+v", l)
	}
	in.Decisions.Rules.End = 80
	if l := reach.Compute(in).Learned; l.Less != math.Round((100-1.645*math.Sqrt(62.5))/2) {
		t.Errorf("%+v", l)
	}
	for i := range in.Decisions.Leftover {
		in.Decisions.Leftover[i].Left -= 120
	}
	if l := reach.Compute(in).Learned; l.Less >= 0 {
		t.Errorf("wires that fell short do not ask for more: %+v", l)
	}
}

func TestTemplatesHoldTogether(t *testing.T) {
	for _, x := range route.Templates() {
		if bad := x.Map.Doubts(); len(bad) > 0 {
			t.Errorf("%s: %v", x.Name, bad)
		}
		in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, "Injector 1, control"))
		in.Decisions.Map, in.Decisions.Places = x.Map, nil
		places := reach.Compute(in).Propose()
		in.Decisions.Places = places
		r := reach.Compute(in)
		if len(r.Unplaced) > 0 || !slices.ContainsFunc(places,
			func(p route.Place) bool { return p.Thing.ID == "VK" && p.Station == "control unit" }) {
			t.Errorf("%s: %v stay without a place, proposed %v", x.Name, r.Unplaced, places)
		}
		if l := r.Lines[0]; len(l.Waits) == 0 {
			t.Errorf("%s: the guessed lengths are not provisional", x.Name)
		}
	}
}

// What was put somewhere is never proposed to be elsewhere.
func TestProposalsLeaveWhatIsPlaced(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, ""))
	in.Decisions.Map = route.Templates()[0].Map
	in.Decisions.Places = []route.Place{{Thing: route.Thing{Kind: route.ADevice, ID: "VK"}, Station: "rear"}}
	for _, p := range reach.Compute(in).Propose() {
		if p.Thing.ID == "VK" {
			t.Errorf("the unit is at the rear, and is proposed to be at %s", p.Station)
		}
	}
}

// The feeds that lose most are told by what they lose in the size that they should have: one that is replaced by a
// thicker wire loses less than it did.
func TestFeedsThatLoseMost(t *testing.T) {
	thin, long := wire("thin", at("F", 1), at("J1", 1), 9000, "Fuel pump feed"),
		wire("long", at("F", 2), at("J2", 1), 9000, "Rear ground")
	thin.Size, long.Size = 0.5, 1
	in := yardInput(thin, long)
	in.Decisions.Wishes = []reach.Wish{{Wire: "thin", Amps: 9}, {Wire: "long", Amps: 4}}
	w := reach.Compute(in).Figures.Worst
	if len(w) != 2 || w[0].Wire != "long" || w[0].Volts < w[1].Volts || w[1].Wire != "thin" || w[1].AsIs < 3*w[1].Volts {
		t.Errorf("%+v", w)
	}
	for _, x := range w {
		if math.Abs(x.Part*12-x.Volts) > 1e-9 {
			t.Errorf("%s loses %v V, %v of 12 V", x.Wire, x.Volts, x.Part)
		}
	}
}
