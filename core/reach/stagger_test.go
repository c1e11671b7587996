package reach_test

import (
	"fmt"
	"math"
	"math/rand"
	"testing"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/reach"
	"draxel/core/route"
)

// one is a map of one path on which nothing speaks against a joint, so that only the joints are in each other's way.
func one(length float64) route.Map {
	return route.Map{Stations: []route.Station{{ID: "unit", Drop: 1}, {ID: "bank 1", Drop: 1}},
		Paths: []route.Path{{ID: "p", From: "unit", To: "bank 1", Length: length}}}
}

// fits says by trying every way whether joints with these windows, in steps of 10 mm, can all lie at least apart mm
// from each other.
func fits(windows [][2]int, taken []int, apart int) bool {
	if len(windows) == 0 {
		return true
	}
	for at := windows[0][0]; at <= windows[0][1]; at += 10 {
		clear := true
		for _, other := range taken {
			if d := at - other; d < apart && d > -apart {
				clear = false
			}
		}
		if clear && fits(windows[1:], append(taken, at), apart) {
			return true
		}
	}
	return false
}

// Where trying every way finds room for all joints, the schedule finds it too, but for a few cases in which joints
// would have to make room for each other in turn; where there is none it never says that there is.
func TestStaggerAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewSource(5))
	possible, found := 0, 0
	for range 300 {
		in := yardInput()
		in.Decisions.Map = one(3000)
		in.Decisions.Places = in.Decisions.Places[:2]
		in.Decisions.Rules.Apart, in.Decisions.Rules.Mostly = float64(80+10*r.Intn(12)), 0
		var windows [][2]int
		for i := range 2 + r.Intn(5) {
			w := wire(fmt.Sprint(i), at("A", i+1), at("J1", i+1), float64(60+10*(6+r.Intn(50))), "")
			w.Renewed = [2]bool{true, false} // one joint, which can move by as much as the wire has
			in.Wires = append(in.Wires, w)
		}
		result := reach.Compute(in)
		for i := range in.Wires {
			l := result.Lines[i]
			lap := in.Decisions.Rules.Lap // of both ends goes into the joint
			nearest := math.Ceil(l.Need-l.Had+2*lap) - lap
			most := min(l.Had-lap-in.Decisions.Rules.Stub, 400)
			windows = append(windows, [2]int{int(nearest), int(nearest + most)})
		}
		if !fits(windows, nil, int(in.Decisions.Rules.Apart)) {
			if result.Figures.Troubled == 0 {
				t.Fatalf("joints in %v, %v mm apart: no way has room for all, and the schedule says that it has", windows,
					in.Decisions.Rules.Apart)
			}
			continue
		}
		if possible++; result.Figures.Troubled == 0 {
			found++
		}
	}
	t.Logf("of %d that have a way %d were found", possible, found)
	if possible < 100 || possible > 290 || float64(found) < 0.97*float64(possible) {
		t.Errorf("of %d that have a way %d were found", possible, found)
	}
}

// Joints on two sides of a station are as near as the bundle makes them, not as two paths that have nothing to do with
// each other.
func TestJointsKeepApartAcrossAStation(t *testing.T) {
	in := yardInput(wire("1", at("A", 1), at("F", 1), 1040, ""), wire("2", at("A", 2), at("J1", 1), 1540, ""))
	in.Decisions.Map.Stations[0].Drop, in.Decisions.Rules.Apart = 30, 200
	in.Decisions.Map.Paths[0].Length = 120
	for _, at := range []int{1, 1} {
		in.Decisions.Wishes = append(in.Decisions.Wishes,
			reach.Wish{Wire: harness.WireID(fmt.Sprint(len(in.Decisions.Wishes) + 1)), At: at})
	}
	r := reach.Compute(in)
	along := map[string]float64{"a": 0, "f": 120, "w": 120} // where each path begins, from the unit
	for i, a := range r.Joints {
		for _, b := range r.Joints[:i] {
			if a.Wire == b.Wire || a.Trouble != "" || b.Trouble != "" || a.Path == "" || b.Path == "" {
				continue
			}
			apart := math.Abs(along[a.Path] + a.At - along[b.Path] - b.At)
			if a.Path != b.Path && a.Path != "a" && b.Path != "a" {
				apart = a.At + b.At
			}
			if apart < 199 {
				t.Errorf("%s and %s lie %v mm apart: %+v, %+v", a.ID, b.ID, apart, a, b)
			}
		}
	}
}

// Every allowance and every station's own drop is in the length, and nowhere else.
func TestAllowancesAreStated(t *testing.T) {
	need := func(change func(*reach.Input)) float64 {
		in := yardInput(wire("1", at("A", 1), at("J1", 1), 2500, ""))
		change(&in)
		return reach.Compute(in).Lines[0].Need
	}
	base := need(func(*reach.Input) {})
	for name, c := range map[string]struct {
		change func(*reach.Input)
		more   float64
	}{
		"roll":                {func(in *reach.Input) { in.Decisions.Rules.Roll += 25 }, 25},
		"re-termination":      {func(in *reach.Input) { in.Decisions.Rules.End += 10 }, 20},
		"drop":                {func(in *reach.Input) { in.Decisions.Rules.Drop += 10 }, 20},
		"a station's own":     {func(in *reach.Input) { in.Decisions.Map.Stations[0].Drop = 200 }, 120},
		"all in one group":    {func(in *reach.Input) { in.Decisions.Map.Stations[0].Group = "gearbox" }, -60},
		"a longer path":       {func(in *reach.Input) { in.Decisions.Map.Paths[1].Length += 70 }, 70},
		"a path aside":        {func(in *reach.Input) { in.Decisions.Map.Paths[5].Length += 70 }, 0},
		"joints are not need": {func(in *reach.Input) { in.Decisions.Rules.Lap, in.Decisions.Rules.Stub = 90, 200 }, 0},
	} {
		if got := need(c.change) - base; got != c.more {
			t.Errorf("%s: %v mm more, want %v", name, got, c.more)
		}
	}
}

func TestWhatIsUsuallyCarried(t *testing.T) {
	for text, want := range map[string]float64{"Injector 3, control": 1, "Coolant temperature sensor signal": 0.02,
		"Fuel pump relay, control": 0.2, "Oxygen sensor heater, bank 1 sensor 1, control": 1.5,
		"Oxygen sensor signal, bank 1 sensor 1": 0.02, "CAN bus high": 0.02, "Main beam": 5} {
		w := wire("1", at("A", 1), at("J1", 1), 1, text)
		if got, known := network.UsualAmps(&w.Signal); !known || got != want {
			t.Errorf("%s: %v A, %v", text, got, known)
		}
	}
	w := wire("1", at("A", 1), at("J1", 1), 1, "zqk")
	if a, known := network.UsualAmps(&w.Signal); known {
		t.Errorf("nobody knows what zqk carries, and it is said to be %v A", a)
	}
}
