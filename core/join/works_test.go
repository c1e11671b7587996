package join

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/signal"
)

// at makes a socket: "pedal 3 app signal" on a circuit.
func socketAt(device, cavity, what string, role signal.Role, circuit int, unit bool) Socket {
	return Socket{At: harness.Ref{Connector: device[:1], Cavity: cavity}, Device: device, Text: what, Circuit: circuit,
		Unit:   unit,
		Signal: signal.Reading{Device: what, Role: role}}
}

func stateOf(in Inputs, id string) (State, string) {
	items, _ := List(in)
	i := slices.IndexFunc(items, func(it Item) bool { return it.ID == id })
	return items[i].State, items[i].Why
}

// A function with several members works when each of them does; what is wired to nothing known is named as not tried.
func TestAFunctionWorksWhenEachOfItDoes(t *testing.T) {
	in := Inputs{Sockets: []Socket{socketAt("left lamp", "1", "headlow", signal.Load, 1, false),
		socketAt("right lamp", "1", "headlow", signal.Load, 2, false),
		socketAt("light switch", "1", "headlow", signal.Load, 3, false),
		socketAt("marker", "1", "sidelamp", signal.Load, 4, false)},
		Works: map[string]bool{"left lamp": true, "right lamp": true}, Unknown: map[string]bool{"marker": true}}
	if s, why := stateOf(in, "lights"); s != OnPaper || !strings.Contains(why, "left lamp, right lamp") ||
		!strings.Contains(why,
			"inside of marker") {
		t.Errorf("%s: %s", s, why)
	}
	in.Works["right lamp"] = false
	if s, why := stateOf(in, "lights"); s != Needs || !strings.Contains(why, "right lamp has none") {
		t.Errorf("one is dark: %s: %s", s, why)
	}
}

// An electric pedal works with both its tracks, their references and their grounds at the unit; each of its wires is
// taken away in turn, and it does not.
func TestAPedalWantsEachOfItsWires(t *testing.T) {
	wires := []struct {
		what string
		role signal.Role
	}{{"app", signal.Analogue}, {"app", signal.Analogue}, {"ref5", signal.Reference5V},
		{"sensorground", signal.SensorGround}}
	whole := func() Inputs {
		var in Inputs
		for i, w := range wires {
			cavity := string(rune('1' + i))
			in.Sockets = append(in.Sockets, socketAt("pedal", cavity, w.what, w.role, 10+i, false),
				socketAt("unit", cavity, w.what, w.role, 10+i, true))
		}
		return in
	}
	if s, why := stateOf(whole(), "pedal"); s == Needs {
		t.Fatalf("whole: %s: %s", s, why)
	}
	for i := range wires {
		for name, take := range map[string]func(*Inputs){
			"joined to something else": func(in *Inputs) { in.Sockets[2*i].Circuit = 99 },
			"gone": func(in *Inputs) {
				in.Lost = []Socket{in.Sockets[2*i]}
				in.Sockets = slices.Delete(in.Sockets, 2*i, 2*i+1)
			},
		} {
			in := whole()
			take(&in)
			if s, why := stateOf(in, "pedal"); s != Needs {
				t.Errorf("wire %d %s: %s: %s", i+1, name, s, why)
			}
		}
	}
	in := whole()
	in.Sockets = in.Sockets[2:] // nobody has ever listed the second track
	if s, why := stateOf(in, "pedal"); s != Needs || !strings.Contains(why, "one track") {
		t.Errorf("one track: %s: %s", s, why)
	}
}

// An interlock loop works through every plug: not with a jumper over several of them, nor with a part of it that goes.
func TestALoopWorksThroughEveryPlug(t *testing.T) {
	loop := func(circuits ...[2]int) Inputs {
		var in Inputs
		for i, c := range circuits {
			device := []string{"unit", "pack", "inverter", "heater", "charger"}[i]
			in.Sockets = append(in.Sockets, socketAt(device, "1", "interlock", signal.Analogue, c[0], i == 0),
				socketAt(device, "2", "interlock", signal.Analogue, c[1], i == 0))
		}
		return in
	}
	whole := loop([2]int{1, 5}, [2]int{1, 2}, [2]int{2, 3}, [2]int{3, 4}, [2]int{4, 5})
	if s, why := stateOf(whole, "hvloop"); s != OnPaper {
		t.Fatalf("whole: %s: %s", s, why)
	}
	over := loop([2]int{1, 5}, [2]int{1, 2}, [2]int{2, 3}, [2]int{3, 2}, [2]int{2, 5}) // 2 and 4 are joined
	if s, why := stateOf(over, "hvloop"); s != Needs || !strings.Contains(why, "inverter") ||
		!strings.Contains(why, "heater") {
		t.Errorf("a jumper over two plugs: %s: %s", s, why)
	}
	gone := loop([2]int{1, 5}, [2]int{1, 2}, [2]int{2, 3}, [2]int{3, 5})
	gone.Lost = []Socket{socketAt("charger", "1", "interlock", signal.Analogue, 0, false)}
	if s, why := stateOf(gone, "hvloop"); s != Needs || !strings.Contains(why, "charger") {
		t.Errorf("the charger goes: %s: %s", s, why)
	}
}
