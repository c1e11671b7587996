package plan_test

import (
	"testing"

	"draxel/core/pin"
	"draxel/core/work"
)

// A second check compares with what is wanted and never with what was ticked.
func TestSecondCheck(t *testing.T) {
	j := job([]string{"A1 Battery feed", "A2 Injector 1"}, []string{"A3 Battery feed", "A2 Injector 1"}, matched("A1",
		"A3"), matched("A2", "A2"))
	p := computeJob(t, j)
	if e := p.Pin.Expected[0]; e.At != ref("A3") || !e.Power || e.Function != "Battery feed" || len(p.Pin.Expected) < 3 {
		t.Fatalf("expected %+v", p.Pin.Expected)
	}
	const day = 24 * 3600 * 1000
	tick := p.Steps[0].Tick()
	tick.Who, tick.When = "Ines", day
	j.Ticks = []work.Tick{tick}
	for _, c := range []struct {
		check pin.Check
		want  string
	}{
		{pin.Check{At: ref("A3"), OK: true, Who: "Jo", When: day}, ""},
		{pin.Check{At: ref("A3"), OK: true, Who: "Ines", When: 2 * day}, ""},
		{pin.Check{At: ref("A3"), OK: true, Who: "Ines", When: day}, "second-check-alike"},
		{pin.Check{At: ref("A3"), Saw: "a black wire", Who: "Jo", When: day}, "second-check"},
		{pin.Check{At: ref("A2"), OK: true, Who: "Jo", When: day}, "second-check-open"},
	} {
		j.Checks = []pin.Check{c.check}
		p := computeJob(t, j)
		for _, code := range []string{"second-check", "second-check-alike", "second-check-open"} {
			if has(p.Findings, code) != (code == c.want) {
				t.Errorf("%+v: finding %s %v", c.check, code, has(p.Findings, code))
			}
		}
	}
}
