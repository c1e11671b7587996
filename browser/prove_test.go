package browser

import (
	"fmt"
	"net"
	"testing"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/network"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/demo"
	"draxel/server"
	"draxel/standins"
)

// measured gives the Packhorse as its plan has it, to put a meter on.
func measured(t *testing.T) *prove.Vehicle {
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

// A line of the sheet is measured by keyboard: in its band, then out of it; what is out of band leads to the search.
func TestTheTestSheetByKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/prove?only=isolation")
	v.see("[data-testid=provestanding]", "find every open, swap and touch")
	v.see("aside h2", "Ω from K1 to battery")
	v.press('m')
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("OL")
	v.press(input.Enter)
	v.see("[data-testid=sheet] [aria-selected=true]", "K2")
	v.see("[data-testid=provestanding]", "1 of these done")
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("0,4")
	v.press(input.Enter)
	v.see("[data-testid=provestanding]", "1 out of band")
	v.goTo("/jobs/packhorse/prove?only=out")
	v.see("[data-testid=sheet]", "0.4 Ω")
	v.see("[data-testid=band]", "out of band")
	v.click("aside a", "Find the fault")
	v.see("aside", "one reading may be a mistake: measure it once more")
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("0,4")
	v.press(input.Enter)
	v.see("[data-testid=suspects]", "K1 touches K2 beside it")
}

// Something does not work: what is asked for is measured until the fault is found, and mended.
func TestAFaultIsFoundOnScreen(t *testing.T) {
	meter := measured(t)
	wrong := []network.Fault{{Do: network.Open, Element: "contact A8"}}
	v := open(t, "/jobs/packhorse/prove?part=fault")
	v.choose("device", "^fuel pump$")
	v.choose("key", "^running$")
	v.click("button", "It does not")
	last, found := "", false
	for range 8 {
		v.until("the next measurement is asked for, or it is found", func() bool {
			now := v.page.MustEval(`() => [document.querySelector('[data-testid=next]')?.innerText ?? '',
				document.querySelector('main').innerText.includes('It is this')]`)
			found = now.Get("1").Bool()
			next := now.Get("0").String()
			if found || next == "" || next == last {
				return found
			}
			last = next
			return true
		})
		if found {
			break
		}
		d := fetch[server.DiagnosisView](v, "/api/jobs/packhorse/prove/diagnosis")
		x, err := meter.With(&d.Next.Measure, wrong)
		if err != nil {
			t.Fatal(err)
		}
		text := fmt.Sprintf("%.3f", x.Value)
		if x.Over {
			text = "OL"
		}
		v.page.MustElement("[aria-label='what the meter shows']").MustInput(text)
		v.press(input.Enter)
	}
	v.see("[data-testid=suspects]", "It is this[^]*the terminal in A8 is not seated")
	v.click("button", "It was this")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("pushed home")
	v.press(input.Enter)
	v.see("main", "Found before[^]*A8[^]*pushed home")
	v.see("[data-testid=suspects]", "Nothing is measured yet")
}

// Gates come one after the other: one that is held says why, and is passed with a reason alone; a number out of its limits asks.
func TestGatesOfPoweringUp(t *testing.T) {
	v := open(t, "/jobs/packhorse/prove?part=power")
	v.see(".gate.now", "No loose metal")
	v.click(".gate.now button", "Passed")
	v.see(".gate.now", "Measure it dead[^]*not measured")
	v.click(".gate.now button", "Passed")
	v.see(".ant-modal", "not measured")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("on paper")
	v.press(input.Enter)
	v.see(".gate.now", "A second pair of eyes")
	v.click(".gate.passed button", "Open again")
	v.see(".gate.now", "Look")
}

// A meter that answers over the network is read from the page; what it shows is kept with a key. One that does not answer is
// told, and nothing is kept.
func TestAMeterIsReadFromThePage(t *testing.T) {
	vehicle := measured(t)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	m := &standins.Meter{Car: standins.NewCar(vehicle)}
	m.Do("SIM:FUSE OUT")
	m.Do("SIM:BATT OFF")
	m.Do("SIM:UNIT OUT")
	go func() { _ = m.Serve(t.Context(), l) }()
	v := open(t, "/jobs/packhorse/prove?only=loads")
	v.see("aside h2", "Ω from")
	v.page.MustElement("[aria-label='address of a meter']").MustInput(l.Addr().String())
	v.click("aside button", "Read the meter")
	v.until("the meter's value stands in the field", func() bool {
		return v.page.MustEval(`() => document.querySelector("[aria-label='what the meter shows']").value`).String() != ""
	})
	v.page.MustElement("[aria-label='what the meter shows']").MustFocus()
	v.press(input.Enter)
	v.see("[data-testid=provestanding]", "1 of these done")
	v.see("[data-testid=provestanding]", "0 out of band")
	_ = l.Close()
	v.expects = "502"
	v.click("aside button", "Read the meter")
	v.see(".ant-message", "No meter answers")
}
