package server_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/network"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/demo"
	"draxel/server"
)

// hidden gives the Packhorse as its plan has it, to read a meter on with something wrong.
func hidden(t *testing.T) *prove.Vehicle {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	f, err := all[1].Facts()
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, all[1].Chosen())
	v, err := p.Vehicle(&f)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// Stories of the trade over HTTP: a dead relay, a terminal that is not seated, two outputs that are crossed. Who reads what
// is asked for comes to each in a few measurements; mended, the readings before say nothing any more.
func TestAFaultIsFoundAndMended(t *testing.T) {
	v := hidden(t)
	for name, story := range map[string]struct {
		device, key string
		wrong       []network.Fault
		says        string
	}{
		"a dead relay": {"fuel pump", "running", []network.Fault{{Do: network.Dead, Element: "pump relay"}}, "pump relay never pulls"},
		"a terminal that is not seated": {"fuel pump", "running", []network.Fault{{Do: network.Open, Element: "contact A8"}},
			"the terminal in A8 is not seated"},
	} {
		c := start(t)
		job := c.packhorse(nil)
		view := show[server.ProveView](c, job+"/prove")
		if len(view.Lines) < 400 || view.Fewest == 0 || !slices.Contains(view.Devices, story.device) {
			t.Fatalf("%s: %d lines, devices %v", name, len(view.Lines), view.Devices)
		}
		put := func(r prove.MeterReading) {
			t.Helper()
			_, code := send[server.Done](c, "POST", job+"/prove/reading", server.ReadingProvedRequest{ID: c.change(),
				Seen: view.Revision, Reading: r})
			if code != "" {
				t.Fatalf("%s: %s refused: %s", name, r.A, code)
			}
			view = show[server.ProveView](c, job+"/prove")
		}
		put(prove.MeterReading{Measure: prove.Measure{Kind: prove.Works, A: story.device,
			Setup: prove.Setup{Key: story.key, Battery: true, Units: true}}})
		var d server.DiagnosisView
		took := 0
		for took < 12 {
			if d = show[server.DiagnosisView](c, job+"/prove/diagnosis"); d.Next == nil {
				break
			}
			took++
			x, err := v.With(&d.Next.Measure, story.wrong)
			if err != nil {
				t.Fatal(err)
			}
			put(prove.MeterReading{Measure: d.Next.Measure, Value: x.Value, Over: x.Over})
		}
		top := d.Suspects[0]
		if !d.Found || !strings.Contains(top.Text+strings.Join(top.Like, ";"), story.says) || took > 6 || len(top.Do) == 0 {
			t.Errorf("%s: after %d measurements %+v", name, took, d.Suspects[0])
		}
		if _, code := send[server.Done](c, "POST", job+"/prove/mended", server.MendRequest{ID: c.change(), Seen: view.Revision,
			Text: top.Text, Did: "another one"}); code != "" {
			t.Fatal(code)
		}
		if after := show[server.DiagnosisView](c, job+"/prove/diagnosis"); len(after.Suspects) != 0 {
			t.Errorf("%s: mended, and still %+v", name, after.Suspects[0])
		}
		if view = show[server.ProveView](c, job+"/prove"); len(view.Mended) != 1 || view.Mended[0].Took != took+1 {
			t.Errorf("%s: noted as %+v", name, view.Mended)
		}
	}
}

// What cannot be read is refused; a gate is passed in its turn, with a number in its limits, or with a reason.
func TestGatesAndReadingsAreRefused(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	view := show[server.ProveView](c, job+"/prove")
	for name, x := range map[string]struct {
		r    prove.MeterReading
		want string
	}{
		"no such point":  {prove.MeterReading{Measure: prove.Measure{Kind: prove.Ohms, A: "ZZ9", B: "A1"}}, "no-such-point"},
		"no such device": {prove.MeterReading{Measure: prove.Measure{Kind: prove.Works, A: "warp core"}}, "no-such-point"},
		"minus ohms":     {prove.MeterReading{Measure: prove.Measure{Kind: prove.Ohms, A: "A1", B: "A2"}, Value: -4}, "bad-value"},
		"a kind":         {prove.MeterReading{Measure: prove.Measure{Kind: "smell", A: "A1", B: "A2"}}, "bad-value"},
	} {
		if _, code := send[server.Done](c, "POST", job+"/prove/reading", server.ReadingProvedRequest{ID: c.change(),
			Seen: view.Revision, Reading: x.r}); code != x.want {
			t.Errorf("%s: %q, want %s", name, code, x.want)
		}
	}
	gate := func(r server.GateRequest) string {
		r.ID, r.Seen = c.change(), view.Revision
		_, code := send[server.Done](c, "POST", job+"/prove/gate", r)
		view = show[server.ProveView](c, job+"/prove")
		return code
	}
	volts := 12.4
	for _, x := range []struct {
		r    server.GateRequest
		want string
	}{{server.GateRequest{Gate: "wake", Value: &volts}, "gate-held"}, {server.GateRequest{Gate: "look"}, ""},
		{server.GateRequest{Gate: "dead"}, "gate-held"},
		{server.GateRequest{Gate: "dead", Reason: "measured on paper, by Fen"}, ""},
		{server.GateRequest{Gate: "second"}, "gate-held"}, {server.GateRequest{Gate: "warp"}, "bad-value"},
		{server.GateRequest{Gate: "second", Reason: "a trial"}, ""}, {server.GateRequest{Gate: "small", Value: &volts}, "bad-value"}} {
		if code := gate(x.r); code != x.want {
			t.Errorf("%+v: %q, want %q", x.r, code, x.want)
		}
	}
	if code := gate(server.GateRequest{Gate: "dead", Back: true}); code != "" || view.Gates[1].Passed != nil ||
		view.Gates[2].Passed != nil || view.Gates[0].Passed == nil {
		t.Errorf("opened again: %q %+v", code, view.Gates[:3])
	}
}
