package browser

import (
	"testing"
	"time"
)

func TestZZ(t *testing.T) {
	v := open(t, "/jobs/packhorse/prove")
	v.page.MustElement("[data-testid=sheet]")
	time.Sleep(700 * time.Millisecond)
	v.shot("/tmp/pics/sheet.png")
	v.goTo("/jobs/packhorse/prove?part=unit")
	v.click("button", "Start it with something wrong")
	v.see("[data-testid=simulated]", "SIMULATED")
	v.click("button", "Read codes")
	time.Sleep(1500 * time.Millisecond)
	v.shot("/tmp/pics/unit.png")
	v.click("button", "Read values")
	v.click("button", "Turn the wheel")
	time.Sleep(2500 * time.Millisecond)
	v.shot("/tmp/pics/unit2.png")
	v.goTo("/jobs/packhorse/prove?part=records")
	time.Sleep(700 * time.Millisecond)
	v.shot("/tmp/pics/records.png")
	v.goTo("/jobs/packhorse/prove?part=fault")
	time.Sleep(2500 * time.Millisecond)
	v.shot("/tmp/pics/fault.png")
	v.goTo("/jobs/packhorse/trainer")
	time.Sleep(700 * time.Millisecond)
	v.shot("/tmp/pics/trainer.png")
	v.goTo("/jobs/packhorse/trainer?level=1&seed=7")
	time.Sleep(2500 * time.Millisecond)
	v.shot("/tmp/pics/round.png")
	v.goTo("/jobs/packhorse/bench?stage=prove")
	time.Sleep(1500 * time.Millisecond)
	v.shot("/tmp/pics/bench.png")
	v.phone()
	time.Sleep(700 * time.Millisecond)
	v.shot("/tmp/pics/phone.png")
}
