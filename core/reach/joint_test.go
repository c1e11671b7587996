package reach_test

import (
	"fmt"
	"math"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/work"
)

// The joints of random bundles keep the rule, or say why they cannot: no two within the set distance on one path, none
// in a grommet, none where the bundle flexes, none that makes it too thick under its cover.
func TestJointsKeepApartOrSayWhy(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	clear, troubled := 0, 0
	for range 120 {
		in := sprawl(r, 10+r.Intn(120), 6+r.Intn(30))
		rules := in.Decisions.Rules
		paths := map[string]route.Path{}
		for _, p := range in.Decisions.Map.Paths {
			paths[p.ID] = p
		}
		result := reach.Compute(in)
		laid := map[string]float64{}
		for _, b := range result.Bundles {
			laid[b.Path] = b.Laid
		}
		on := map[string][]reach.Joint{}
		for _, j := range result.Joints {
			p := paths[j.Path]
			if j.At < 0 || j.Path != "" && j.At > p.Length {
				t.Fatalf("%s lies %v mm along a path of %v", j.ID, j.At, p.Length)
			}
			if j.Trouble != "" {
				troubled++
				continue
			}
			clear++
			if p.Moving || p.Wall && math.Abs(j.At-p.Length/2) < 49 {
				t.Fatalf("%s lies where it must not, on %+v", j.ID, p)
			}
			if p.Cover != route.Bare && j.Thick-laid[j.Path] > rules.Bulge+1e-9 {
				t.Fatalf("%s makes the bundle %v mm thick, from %v", j.ID, j.Thick, laid[j.Path])
			}
			for _, other := range on[j.Path+" "+j.From] {
				if math.Abs(j.At-other.At) < rules.Apart-1 {
					t.Fatalf("%s and %s lie %v and %v mm along %q from %s", j.ID, other.ID, j.At, other.At, j.Path, j.From)
				}
			}
			on[j.Path+" "+j.From] = append(on[j.Path+" "+j.From], j)
		}
	}
	t.Logf("%d joints clear, %d in trouble", clear, troubled)
	if clear < 800 || troubled == 0 || troubled > clear/3 {
		t.Errorf("%d joints clear, %d in trouble", clear, troubled)
	}
}

// From both ends of its wire a joint keeps the stub of a plug, and the distance of a sensor that breathes; its place is
// reckoned here from lengths alone, as the wire is when every joint has taken its lap.
func TestJointsKeepFromBothEnds(t *testing.T) {
	r := rand.New(rand.NewSource(3))
	clear, near := 0, 0
	for range 150 {
		in := sprawl(r, 20+r.Intn(80), 6+r.Intn(20))
		breathing := map[string]bool{}
		for i := range in.Loom.Devices {
			if d := &in.Loom.Devices[i]; r.Intn(3) == 0 {
				was := d.ID
				d.ID = "oxygen sensor " + was
				c := &in.Loom.Connectors[i]
				c.Device, breathing[c.ID] = d.ID, true
				for k := range in.Decisions.Places {
					if in.Decisions.Places[k].Thing.ID == was {
						in.Decisions.Places[k].Thing.ID = d.ID
					}
				}
			}
		}
		rules := in.Decisions.Rules
		result := reach.Compute(in)
		wires := map[harness.WireID]int{}
		for i := range in.Wires {
			wires[in.Wires[i].ID] = i
		}
		for _, j := range result.Joints {
			l, w := result.Lines[wires[j.Wire]], in.Wires[wires[j.Wire]]
			whole := l.Had + l.By - 2*rules.Lap*float64(l.Joints)
			if l.Joints == 1 { // cut back by what the piece is longer than it need be
				whole -= l.By - math.Ceil(max(l.Need-l.Had+2*rules.Lap, rules.Least))
			}
			for k, off := range []float64{j.Along, whole - j.Along} {
				e := w.Ends[l.At-1]
				if k == 1 {
					e = w.Ends[2-l.At]
				}
				least := 0.0
				switch {
				case breathing[e.At.Connector]:
					least = 300
				case e.Splice == "":
					least = rules.Stub
				}
				switch {
				case j.Trouble != "":
				case off < least-1:
					near++
					t.Errorf("%s lies %.0f mm from %s, it has to keep %.0f", j.ID, off, e, least)
				default:
					clear++
				}
			}
		}
		if near > 5 {
			t.FailNow()
		}
	}
	if clear < 1500 {
		t.Errorf("only %d ends were looked at", clear)
	}
}

// Thirty wires that all come short at one plug are joined one behind the other along the bundle, and none is in
// trouble.
func TestAFanOfJoints(t *testing.T) {
	var wires []reach.Run
	for i := range 30 {
		w := wire(fmt.Sprint(i), at("A", i+1), at("J1", i+1), 4500, "")
		w.Renewed[0] = i%3 == 0
		wires = append(wires, w)
	}
	in := yardInput(wires...)
	in.Decisions.Map.Paths[0].Length = 4000
	r := reach.Compute(in)
	if r.Figures.Joints != 50 || r.Figures.Troubled != 0 {
		t.Fatalf("%d joints, %d in trouble", r.Figures.Joints, r.Figures.Troubled)
	}
	if len(r.Lines) != 30 || r.Lines[0].Joints != 1 || r.Lines[1].Joints != 2 {
		t.Error("a renewed end wants one joint, another two")
	}
}

func TestWhereThereIsNoRoomItIsSaid(t *testing.T) {
	var wires []reach.Run
	for i := range 12 {
		w := wire(fmt.Sprint(i), at("A", i+1), at("F", i+1), 1450, "")
		wires = append(wires, w)
	}
	in := yardInput(wires...)
	for i := range in.Decisions.Map.Paths {
		in.Decisions.Map.Paths[i].Moving = true
	}
	r := reach.Compute(in)
	if r.Figures.Troubled == 0 {
		t.Fatal("everything flexes, and the joints have no trouble")
	}
	why := ""
	for _, j := range r.Joints {
		why += j.Trouble
	}
	if !strings.Contains(why, "No place is left") && !strings.Contains(why, "flexes") {
		t.Errorf("it is not said why: %q", why)
	}
	if len(found(r, "joints-crowd")) == 0 {
		t.Error("no finding")
	}
}

func TestSchoolsByPlaceAndLoad(t *testing.T) {
	for name, c := range map[string]struct {
		change  func(*reach.Input)
		want    reach.School
		caution string
	}{
		"the job's own": {func(*reach.Input) {}, reach.Solder, ""},
		"thick wire":    {func(in *reach.Input) { in.Wires[0].Size = 6 }, reach.Crimp, ""},
		"much current": {func(in *reach.Input) {
			in.Decisions.Rules.Loss, in.Wires[0].Size, in.Decisions.Map.Paths[3].Heat = 0, 2.5, 40
			in.Decisions.Wishes = []reach.Wish{{Wire: "1", Amps: 18}}
		}, reach.Crimp, ""},
		"wet": {func(in *reach.Input) { in.Decisions.Map.Paths[0].Wet = true }, reach.Solder, "wet"},
		"chosen against": {func(in *reach.Input) {
			in.Wires[0].Size = 6
			in.Decisions.Wishes = []reach.Wish{{Wire: "1", School: reach.Solder}}
		}, reach.Solder, "not the best"},
		"bare crimp for a job": {func(in *reach.Input) { in.Decisions.Rules.School = reach.BareCrimp }, reach.BareCrimp, ""},
		"a shield":             {func(in *reach.Input) { in.Wires[0].Shield = "K" }, reach.Solder, "shield"},
	} {
		in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, ""))
		c.change(&in)
		r := reach.Compute(in)
		if len(r.Joints) == 0 || r.Joints[0].School != c.want ||
			!strings.Contains(strings.Join(r.Joints[0].Cautions, " "), c.caution) {
			t.Errorf("%s: %+v", name, r.Joints)
		}
	}
}

// An oxygen sensor breathes through its lead: the wire is lengthened at its other end, or well away from the sensor.
func TestOxygenSensorsBreathe(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, "Oxygen sensor signal, bank 1 sensor 1"))
	in.Loom.Devices[1].ID = "oxygen sensor 1"
	in.Loom.Connectors[1].Device = "oxygen sensor 1"
	in.Decisions.Places[1].Thing.ID = "oxygen sensor 1"
	if r := reach.Compute(in); r.Lines[0].At != 1 || !strings.Contains(strings.Join(r.Joints[0].Cautions, " "),
		"breathes") {
		t.Errorf("cut at end %d: %+v", r.Lines[0].At, r.Joints)
	}
	in.Decisions.Wishes = []reach.Wish{{Wire: "1", At: 2}}
	for _, j := range reach.Compute(in).Joints {
		if j.Along < 300 && j.Trouble == "" {
			t.Errorf("%s is %v mm from the sensor", j.ID, j.Along)
		}
	}
}

func TestGatesCanBeSwitchedOff(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, ""), wire("2", at("A", 2), at("J2", 1), 0, ""))
	gated, free := reach.Compute(in), in
	free.Decisions.Rules.Free = true
	kinds := func(r *reach.Result, k work.Kind) (out []reach.Step) {
		for _, s := range r.Steps {
			if s.Kind == k {
				out = append(out, s)
			}
		}
		return out
	}
	cut, gates := kinds(gated, reach.CutWire), kinds(gated, reach.Gate)
	if len(cut) != 1 || len(gates) != 2 || !slices.Equal(cut[0].Needs, []string{gates[0].ID}) {
		t.Fatalf("%d cuts need %v behind %d gates", len(cut), cut[0].Needs, len(gates))
	}
	if measure := kinds(gated, reach.ToLength); len(measure) != 1 || !slices.Contains(gates[0].Needs, measure[0].ID) {
		t.Error("the gate opens though wire 2 is not measured")
	}
	off := reach.Compute(free)
	if len(kinds(off, reach.Gate)) != 0 || len(kinds(off, reach.CutWire)[0].Needs) != 5 {
		t.Errorf("without gates a cut needs the battery off and its own paths laid: %v", kinds(off, reach.CutWire)[0].Needs)
	}
}

// What waits for a part is not cut before the part is there and the length measured again; what is joined in a path is
// joined before the path is covered; the battery comes off before anything.
func TestTheOrderOfWork(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, ""), wire("2", at("A", 2), at("J2", 1), 1900, ""),
		wire("3", at("A", 3), at("F", 1), 3000, ""))
	in.Decisions.Map.Paths[4].Waits = "radiator"
	in.Decisions.Map.Paths[4].Cover = route.Sock
	r := reach.Compute(in)
	step := func(kind work.Kind, about string) reach.Step {
		for _, s := range r.Steps {
			if s.Kind == kind && (string(s.Wire()) == about || s.Path == about || about == "") {
				return s
			}
		}
		t.Fatalf("no step %s %s", kind, about)
		return reach.Step{}
	}
	wait := step(reach.Wait, "")
	if !slices.Contains(step(reach.CutWire, "2").Needs, wait.ID) ||
		slices.Contains(step(reach.CutWire, "1").Needs, wait.ID) {
		t.Error("only wire 2 waits for the radiator")
	}
	if !strings.Contains(wait.Text, "radiator") || !strings.Contains(wait.Text, "b2") {
		t.Error(wait.Text)
	}
	if cover := step(reach.Dress, "b2"); !slices.Contains(cover.Needs, step(reach.JoinWire, "2").ID) ||
		slices.Contains(cover.Needs, step(reach.JoinWire, "1").ID) {
		t.Errorf("b2 is covered after %v", cover.Needs)
	}
	if first := r.Steps[0]; first.Kind != reach.Caution || !strings.Contains(first.Text, "negative off") {
		t.Errorf("it begins with %s", first.Text)
	}
	for _, s := range r.Steps {
		if s.NoReturn != (s.Kind == reach.CutWire || s.Kind == reach.JoinWire) {
			t.Errorf("%s: no way back: %v", s.Text, s.NoReturn)
		}
	}
	in.Wires = in.Wires[2:] // nothing is cut: no caution, no gate
	if r = reach.Compute(in); slices.ContainsFunc(r.Steps,
		func(s reach.Step) bool { return s.Kind == reach.Caution || s.Kind == reach.Gate }) {
		t.Error("nothing is cut, and there is a gate before it")
	}
}

// A code is printed where the colour of a piece is not that of its wire, and the cautions say where.
func TestCodesArePrinted(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("J1", 1), 1900, ""))
	in.Wires[0].Circuit = "7110"
	r := reach.Compute(in)
	if l := r.Lines[0]; l.Code != "7110/1" || !l.Provision[0].Coded {
		t.Errorf("%q, %+v", l.Code, l.Provision)
	}
	for _, s := range r.Steps {
		if (s.Kind == reach.CutWire || s.Kind == reach.JoinWire) && !strings.Contains(strings.Join(s.Warn, " "), `"7110/1"`) {
			t.Errorf("%s does not say the code: %v", s.Text, s.Warn)
		}
	}
	in.Wires[0].Colour = colour.Parse("GN", colour.IEC)
	if l := reach.Compute(in).Lines[0]; l.Provision[0].Coded {
		t.Errorf("plain green is bought, and a code is printed: %+v", l.Provision)
	}
}

// A wire that is joined already and does not come as far as its joint is told; one that does is not.
func TestAJointThatDoesNotMeetIsTold(t *testing.T) {
	for had, want := range map[float64]int{1500: 1, 3000: 0} {
		w, other := wire("1", at("A", 1), at("J1", 1), had, ""), wire("2", at("A", 2), at("J1", 2), 3000, "")
		w.Meets[1], w.Lands[1], w.Made = reach.Meet{With: "2", Back: 100}, at("J1", 2).At, true
		r := reach.Compute(yardInput(w, other))
		if said := found(r, "joint-short"); len(said) != want || want > 0 && said[0].Severity != finding.Wrong {
			t.Errorf("%g mm: %v", had, said)
		}
	}
}
