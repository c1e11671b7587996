package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/network"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/joinapi"
	"draxel/server/proveapi"
)

// unproved takes out what was measured, noted and programmed in the demonstration.
func unproved(j *stored.Job) {
	j.Proved, j.Mended, j.Notes, j.Gates, j.Program, j.Live = nil, nil, nil, nil, nil, nil
}

// jobOf gives a job as it stands on the server, from its job file.
func jobOf(c *client, job string) stored.Job {
	c.t.Helper()
	_, data, _ := c.do("GET", job+"/file", "", nil)
	j, _, err := exchange.ReadJob(data)
	if err != nil {
		c.t.Fatal(err)
	}
	return j
}

// vehicleOf gives the vehicle of a job as it stands on the server, made from its job file, to read a meter on.
func vehicleOf(c *client, job string) *prove.Vehicle {
	c.t.Helper()
	j := jobOf(c, job)
	f, err := fact.Of(j)
	if err != nil {
		c.t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	v, err := p.Vehicle(&f)
	if err != nil {
		c.t.Fatal(err)
	}
	return v
}

// follow says what is seen of a device, and measures on the vehicle with something wrong what is asked for until
// nothing more is: what is said then, and after how many measurements.
func follow(
	c *client,
	job string,
	v *prove.Vehicle,
	seen prove.Measure,
	wrong []network.Fault,
) (proveapi.DiagnosisView, int) {
	c.t.Helper()
	put := func(m prove.Measure) {
		c.t.Helper()
		x, err := v.With(&m, wrong)
		if err != nil {
			c.t.Fatal(err)
		}
		_, code := send[desk.Done](c, "POST", job+"/prove/reading", proveapi.ReadingProvedRequest{ID: c.change(),
			Seen: show[proveapi.ProveView](
				c,
				job+"/prove",
			).Revision, Reading: prove.MeterReading{Measure: m, Value: x.Value, Over: x.Over}})
		if code != "" {
			c.t.Fatalf("%s refused: %s", m.A, code)
		}
	}
	put(seen)
	for took := 0; ; took++ {
		d := show[proveapi.DiagnosisView](c, job+"/prove/diagnosis")
		if d.Next == nil || took > 12 {
			return d, took
		}
		put(d.Next.Measure)
	}
}

// Stories of the trade over HTTP: a dead relay, a terminal that is not seated, the pump wire in the right cavity of
// the wrong shell, an interlock that is open, two outputs that are crossed. Who measures what is asked for comes to
// each in at most six measurements; mended, the readings before say nothing any more.
func TestAFaultIsFoundAndMended(t *testing.T) {
	running := prove.Setup{Key: "running", Battery: true, Units: true}
	drive := func(output string) prove.Setup {
		return prove.Setup{Key: "run", Battery: true, Units: true, Drive: output}
	}
	for name, story := range map[string]struct {
		device string
		setup  prove.Setup
		wrong  []network.Fault
		says   string
		before func(c *client, job string)
	}{
		"a dead relay": {"fuel pump", running, []network.Fault{{Do: network.Dead, Element: "pump relay"}},
			"pump relay never pulls", nil},
		"a terminal that is not seated": {"fuel pump", running, []network.Fault{{Do: network.Open, Element: "contact A8"}},
			"the terminal in A8 is not seated", nil},
		"the pump wire in the right cavity of the wrong shell": {"fuel pump", drive("A8"), exchanged("A8", "B8"),
			"A8 and B8 stand in each other's shell", nil},
		"an open interlock": {"starter motor", prove.Setup{Key: "crank", Battery: true, Units: true, On: "clutch switch"},
			[]network.Fault{{Do: network.Open, Element: "clutch switch"}}, "the contact of clutch switch does not close",
			startRelay},
		"two crossed outputs": {"injector 1", drive("B1"), exchanged("B1", "B3"), "B1 and B3 are crossed", nil},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			c := start(t)
			job := c.packhorse(unproved)
			if story.before != nil {
				story.before(c, job)
			}
			v := vehicleOf(c, job)
			view := show[proveapi.ProveView](c, job+"/prove")
			if len(view.Lines) < 400 || view.Fewest == 0 || !slices.Contains(view.Devices, story.device) {
				t.Fatalf("%d lines, devices %v", len(view.Lines), view.Devices)
			}
			seen := prove.Measure{Kind: prove.Works, A: story.device, Setup: story.setup}
			if x, err := v.Expect(&seen); err != nil || x.Value != 1 {
				t.Fatalf("in order it shows %+v, %v", x, err)
			}
			d, took := follow(c, job, v, seen, story.wrong)
			top := d.Suspects[0]
			t.Logf("after %d measurements: %s", took, top.Text)
			if !d.Found || !strings.Contains(top.Text+strings.Join(top.Like, ";"), story.says) || took > 6 ||
				len(top.Do) == 0 {
				t.Errorf("after %d measurements %+v", took, top)
			}
			view = show[proveapi.ProveView](c, job+"/prove")
			if _, code := send[desk.Done](c, "POST", job+"/prove/mended",
				proveapi.MendRequest{ID: c.change(), Seen: view.Revision,
					Text: top.Text, Did: "another one"}); code != "" {
				t.Fatal(code)
			}
			if after := show[proveapi.DiagnosisView](c, job+"/prove/diagnosis"); len(after.Suspects) != 0 {
				t.Errorf("mended, and still %+v", after.Suspects[0])
			}
			if view = show[proveapi.ProveView](c, job+"/prove"); len(view.Mended) != 1 ||
				view.Mended[0].Took != took+1 {
				t.Errorf("noted as %+v", view.Mended)
			}
		})
	}
}

// startRelay takes the way by which the clutch switch grants the start: a relay in the start wire.
func startRelay(c *client, job string) {
	v := show[joinapi.JoinView](c, job+"/join")
	it := function(c.t, v, "interlock")
	k := wayOf(c.t, it, "relay in the start wire")
	if _, code := send[desk.Done](c, "POST", job+"/join/way",
		joinapi.WayRequest{ID: c.change(), Seen: v.Revision, Function: it.ID,
			Way: k, Text: it.Sum.Ways[k].Text, In: "OST-1", Leads: map[string]string{"85": "OCL-1"}}); code != "" {
		c.t.Fatal(code)
	}
}

// What cannot be read is refused; a gate is passed in its turn, with a number in its limits, or with a reason.
func TestGatesAndReadingsAreRefused(t *testing.T) {
	c := start(t)
	job := c.packhorse(unproved)
	view := show[proveapi.ProveView](c, job+"/prove")
	for name, x := range map[string]struct {
		r    prove.MeterReading
		want string
	}{
		"no such point":  {prove.MeterReading{Measure: prove.Measure{Kind: prove.Ohms, A: "ZZ9", B: "A1"}}, "no-such-point"},
		"no such device": {prove.MeterReading{Measure: prove.Measure{Kind: prove.Works, A: "warp core"}}, "no-such-point"},
		"minus ohms": {prove.MeterReading{Measure: prove.Measure{Kind: prove.Ohms, A: "A1", B: "A2"}, Value: -4},
			"bad-value"},
		"a kind": {prove.MeterReading{Measure: prove.Measure{Kind: "smell", A: "A1", B: "A2"}}, "bad-value"},
	} {
		if _, code := send[desk.Done](c, "POST", job+"/prove/reading", proveapi.ReadingProvedRequest{ID: c.change(),
			Seen: view.Revision, Reading: x.r}); code != x.want {
			t.Errorf("%s: %q, want %s", name, code, x.want)
		}
	}
	gate := func(r proveapi.GateRequest) string {
		r.ID, r.Seen = c.change(), view.Revision
		_, code := send[desk.Done](c, "POST", job+"/prove/gate", r)
		view = show[proveapi.ProveView](c, job+"/prove")
		return code
	}
	volts := 12.4
	for _, x := range []struct {
		r    proveapi.GateRequest
		want string
	}{{proveapi.GateRequest{Gate: "wake", Value: &volts}, "gate-held"}, {proveapi.GateRequest{Gate: "look"}, ""},
		{proveapi.GateRequest{Gate: "dead"}, "gate-held"},
		{proveapi.GateRequest{Gate: "dead", Reason: "measured on paper, by Fen"}, ""},
		{proveapi.GateRequest{Gate: "second"}, "gate-held"}, {proveapi.GateRequest{Gate: "warp"}, "bad-value"},
		{proveapi.GateRequest{Gate: "second", Reason: "a trial"}, ""},
		{proveapi.GateRequest{Gate: "small", Value: &volts}, "bad-value"}} {
		if code := gate(x.r); code != x.want {
			t.Errorf("%+v: %q, want %q", x.r, code, x.want)
		}
	}
	if code := gate(proveapi.GateRequest{Gate: "dead", Back: true}); code != "" || view.Gates[1].Passed != nil ||
		view.Gates[2].Passed != nil || view.Gates[0].Passed == nil {
		t.Errorf("opened again: %q %+v", code, view.Gates[:3])
	}
}

// exchanged is what two terminals make that stand in each other's cavities, written here anew.
func exchanged(a, b string) []network.Fault {
	return []network.Fault{{Do: network.Open, Element: "contact " + a}, {Do: network.Open, Element: "contact " + b},
		{
			Do:   network.Short,
			A:    a + " wire",
			B:    b,
			Ohms: 0.003,
		}, {Do: network.Short, A: b + " wire", B: a, Ohms: 0.003}}
}
