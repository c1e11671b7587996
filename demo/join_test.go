package demo_test

import (
	"testing"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/plan"
)

// How the Packhorse's functions stand: the dial that wants 2.5 pulses and gets 2, the gauge that a resistor puts
// right, the bus that lost an end, the unit's brake switch inputs to which nothing comes; taken by its first way
// each works out.
func TestThePackhorsesFunctions(t *testing.T) {
	j, f := packhorse(t)
	look := func() map[string]join.Item {
		p := plan.Compute(f, j.Chosen())
		out := map[string]join.Item{}
		for _, it := range p.Join.Functions {
			out[it.ID] = it
		}
		return out
	}
	items := look()
	for id, want := range map[string]join.State{"tach": join.Needs, "speed": join.OnPaper, "coolantgauge": join.Needs,
		"bus":   join.Needs,
		"brake": join.Needs, "diagnostic": join.Needs, "lights": join.OnPaper, "oilgauge": join.OnPaper,
		"charge": join.OnPaper,
		"pump":   join.OnPaper, "immobiliser": join.OnPaper, "check": join.OnPaper,
		"wipers": join.NotThere, "horn": join.OnPaper, "winch": join.OnPaper, "rescue": join.OnPaper,
		"start": join.Needs, // the starter of the Sorrel is found in its harness, and nothing feeds it
		"pedal": join.Needs} {
		if items[id].State != want {
			t.Errorf("%s: %s (%s), want %s", id, items[id].State, items[id].Why, want)
		}
	}
	for _, id := range []string{"tach", "coolantgauge", "bus"} {
		way := items[id].Sum.Ways[0]
		for i := range j.Functions {
			if j.Functions[i].Function == id {
				for k, v := range way.Facts {
					j.Functions[i].Facts[k] = v
				}
			}
		}
		if after := look()[id]; !after.Sum.Works {
			t.Errorf("%s: %q is taken, and %s", id, way.Text, after.Sum.Says)
		}
	}
	if s := items["speed"].Sum; !s.Works {
		t.Errorf("the speedometer: %s %+v", s.Says, s.Lines)
	}
}

// The circuit of the brake lamps is live when the pedal is pressed and not before: what lies before the switch is
// none of its wires. Which wires they are, the test walks by itself, from tip to tip of the wanted harness.
func TestTheBrakeLampsOwnCircuit(t *testing.T) {
	j, f := packhorse(t)
	p := plan.Compute(f, j.Chosen())
	near := map[string]bool{"at RL1": true} // places that copper joins to the lamp at the left
	place := func(tip harness.Tip) string {
		if tip.State == harness.Joined {
			return "joint " + string(tip.Joint)
		}
		if at, seated := p.Wanted.Place(tip.Terminal); seated && tip.State == harness.Crimped &&
			at.State == harness.Seated {
			return "at " + at.At.String()
		}
		return ""
	}
	mates := map[string]string{} // of in-line plugs
	for _, h := range f.Laid.Loom.Connectors {
		for _, cavity := range h.Cavities {
			if h.Mate != "" {
				mates["at "+harness.Ref{Connector: h.ID, Cavity: cavity}.String()] =
					"at " + harness.Ref{Connector: h.Mate, Cavity: cavity}.String()
			}
		}
	}
	wires := map[harness.WireID]bool{}
	for grew := true; grew; {
		grew = false
		for _, w := range p.Wanted.Wires() {
			tips, _ := p.Wanted.Tips(w)
			a, b := place(tips[0]), place(tips[1])
			if wires[w] || !near[a] && !near[b] {
				continue
			}
			grew, wires[w] = true, true
			for _, x := range []string{a, b} {
				if near[x] = x != ""; mates[x] != "" {
					near[mates[x]] = true
				}
			}
		}
	}
	for _, l := range p.Join.Legs {
		if l.Function != "brake" || len(l.Wires) < 2 {
			continue
		}
		for _, w := range l.Wires {
			if !wires[w] {
				t.Errorf("%s is no wire of the brake lamps", w)
			}
		}
		if len(l.Wires) != len(wires) {
			t.Errorf("%d wires, by hand %d", len(l.Wires), len(wires))
		}
		for _, in := range l.In {
			if in.Live == "live" {
				t.Errorf("with the pedal up they are live in %s: %.1f V", in.Position, in.Volts)
			}
		}
	}
	if !near["at RR1"] || !near["at BS2"] {
		t.Errorf("copper joins the lamp at the left to %v", near)
	}
}
