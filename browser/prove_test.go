package browser

import (
	"fmt"
	"net"
	"testing"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/fact"
	"draxel/core/network"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/server/proveapi"
	"draxel/standins"
)

// unproved takes out what was measured, noted and programmed in the demonstration.
func unproved(j *stored.Job) {
	j.Proved, j.Mended, j.Notes, j.Gates, j.Program, j.Live, j.Trained = nil, nil, nil, nil, nil, nil, nil
}

// measured gives the Packhorse as its plan has it, to put a meter on.
func measured(t *testing.T) *prove.Vehicle {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	f, err := fact.Of(all[1])
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
	v := open(t, "/jobs/packhorse/prove?only=isolation", unproved)
	v.see("[data-testid=provestanding]", "find every open, swap and touch")
	v.see("aside h2", "Ω from K1 to battery −")
	v.press('m')
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("OL")
	v.press(input.Enter)
	v.see("[data-testid=sheet] [aria-selected=true]", "K1[^]*battery .[^]*touch a feed")
	v.see("[data-testid=provestanding]", "1 of these done")
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("OL")
	v.press(input.Enter)
	v.see("[data-testid=sheet] [aria-selected=true]", "K1[^]*K2")
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
	v.see("[data-testid=suspects]", "[^B]K1 touches K2 beside it")
}

// followed measures what is asked for on a vehicle with something wrong, until it is found.
func (v *visit) followed(meter *prove.Vehicle, wrong []network.Fault) {
	v.t.Helper()
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
		d := fetch[proveapi.DiagnosisView](v, "/api/jobs/packhorse/prove/diagnosis")
		x, err := meter.With(&d.Next.Measure, wrong)
		if err != nil {
			v.t.Fatal(err)
		}
		text := fmt.Sprintf("%.3f", x.Value)
		if x.Over {
			text = "OL"
		}
		v.page.MustElement("[aria-label='what the meter shows']").MustInput(text)
		v.press(input.Enter)
	}
}

// Something does not work: what is asked for is measured until the fault is found, and mended.
func TestAFaultIsFoundOnScreen(t *testing.T) {
	meter := measured(t)
	wrong := []network.Fault{{Do: network.Open, Element: "contact A8"}}
	v := open(t, "/jobs/packhorse/prove?part=fault", unproved)
	v.choose("device", "^fuel pump$")
	v.choose("key", "^running$")
	v.click("button", "It does not")
	v.followed(meter, wrong)
	v.see("[data-testid=suspects]", "It is this[^]*the terminal in A8 is not seated")
	v.click("button", "It was this")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("pushed home")
	v.press(input.Enter)
	v.see("main", "Found before[^]*A8[^]*pushed home")
	v.see("[data-testid=suspects]", "Nothing is measured yet")
}

// Gates come one after the other: one that is held says why, and is passed with a reason alone; a number out of its
// limits asks.
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

// A meter that answers over the network is read from the page; what it shows is kept with a key. One that does not
// answer is told, and nothing is kept.
func TestAMeterIsReadFromThePage(t *testing.T) {
	vehicle := measured(t)
	l, err := net.Listen("tcp", "127.77.0.1:5025") // a meter is called at its port and no other
	if err != nil {
		t.Fatal(err)
	}
	m := &standins.Meter{Car: standins.NewCar(vehicle)}
	m.Do("SIM:FUSE OUT")
	m.Do("SIM:BATT OFF")
	m.Do("SIM:UNIT OUT")
	go func() { _ = m.Serve(t.Context(), l) }()
	v := open(t, "/jobs/packhorse/prove?only=loads", unproved)
	v.see("aside h2", "Ω from")
	v.page.MustElement("[aria-label='address of a meter']").MustInput(l.Addr().String())
	v.click("aside button", "Read the meter")
	v.until("the meter's value stands in the field", func() bool {
		return v.page.MustEval(`() => document.querySelector("[aria-label='what the meter shows']").value`).
			String() !=
			""
	})
	first := v.text("aside h2")
	v.page.MustElement("[aria-label='what the meter shows']").MustFocus()
	v.press(input.Enter)
	v.see("[data-testid=provestanding]", "1 of these done")
	v.until("the next line is there", func() bool { return v.text("aside h2") != first })
	v.see("[data-testid=provestanding]", "0 out of band")
	_ = l.Close()
	v.expects = "502"
	v.click("aside button", "Read the meter")
	v.see(".ant-message", "No meter answers")
}

// A control unit is read from the page: a simulated vehicle is started, told as such, and its unit says who it is and
// has its output worked; what is seen is kept. Stopped, it does not answer.
func TestAControlUnitIsReadFromThePage(t *testing.T) {
	v := open(t, "/jobs/packhorse/prove?part=unit", unproved)
	v.click("button", "Start it in order")
	v.see("[data-testid=simulated]", "SIMULATED[^]*nothing of it comes into the job")
	v.click("button", "Who is it")
	v.see("table[aria-label=identity]", "hardware number[^]*VK2-0417")
	v.click("button", "Read codes")
	v.see("main", "The unit has no code stored")
	v.click("button", "What it can be asked for")
	v.click(".ant-modal button", "As the simulated unit has it")
	v.see("main", "What it can be asked for \\([1-9]")
	v.click("button", "Read values")
	v.see("[data-testid=values]", "volts at A")
	v.see("[data-testid=outputs]", "12.*V")
	v.click("button", "Turn the wheel")
	v.see("[data-testid=rig]", "900 rpm, 2 missing[^]*must show 720 rpm")
	v.page.MustEval(`() => [...document.querySelectorAll('[data-testid=outputs] tr')]
		.find((r) => r.innerText.includes('injector, cylinder 1')).querySelector('button').click()`)
	v.see("[data-testid=outputs]", "It works")
	v.click("[data-testid=outputs] button", "It works")
	v.see("[data-testid=outputs]", "cylinder 1[^]*works")
	v.click("[data-testid=simulated] button", "Stop it")
	v.see("main", "No meter or unit at hand")
}

// A round of the trainer: its own quiet place, a measurement that counts, and the end that says what it was and keeps
// the result.
func TestATrainerRound(t *testing.T) {
	v := open(t, "/jobs/packhorse/trainer?level=1&seed=7", unproved)
	v.see("header", "TRAINER[^]*not the vehicle")
	v.see("[data-testid=symptom]", "does not work|works, and should not")
	v.page.MustElement("[aria-label='red probe']").MustInput("A8")
	v.press(input.Escape)
	v.click("button", "Measure V")
	v.see("[data-testid=shows]", "V")
	v.see("[data-testid=took]", "1")
	v.click("button", "Tell me")
	v.see("[data-testid=ended]", "It was something else[^]*Your way: 1 measured[^]*tells most each time")
	v.see("[data-testid=results]", "one fault[^]*no")
	v.click("a", "Back to Prove")
	v.see("[data-testid=provestanding]", "0 of these done")
}

// Notes and the record of the programming: two changes with no test between are found; a record that is not whole is
// not closed.
func TestRecordsOfProveOnScreen(t *testing.T) {
	v := open(t, "/jobs/packhorse/prove?part=records", unproved)
	for _, text := range []string{"another relay", "a new fuse"} {
		v.page.MustElement("[aria-label='what it was']").MustInput(text)
		v.press(input.Enter)
		v.see("[data-testid=notes]", text)
	}
	v.goTo("/jobs/packhorse/prove?part=records")
	v.see("[data-testid=notes]", "a new fuse")
	v.press('f')
	v.see("body", "“another relay” and “a new fuse” were changed with no test between them")
	v.press(input.Escape)
	for field, text := range map[string]string{"Backup: name": "as it came.bin", "Backup: hash": "0123456789abcdef",
		"Backup: date": "2026-11-26"} {
		v.page.MustElement("[aria-label='" + field + "']").MustInput(text)
	}
	v.click("aside button", "^Keep$")
	v.see("aside h2", "Programming open")
	v.expects = "409"
	v.click("aside button", "Close the record")
	v.see(".ant-message", "it lacks what was written")
}

// What is found in a wrong cavity and left there is what is really there: the work list moves it on.
func TestASwapThatIsFoundIsAsBuilt(t *testing.T) {
	meter := measured(t)
	wrong := []network.Fault{{Do: network.Open, Element: "contact B1"}, {Do: network.Open, Element: "contact B3"},
		{
			Do:   network.Short,
			A:    "B1 wire",
			B:    "B3",
			Ohms: 0.003,
		}, {Do: network.Short, A: "B3 wire", B: "B1", Ohms: 0.003}}
	v := open(t, "/jobs/packhorse/prove?part=fault", unproved)
	v.choose("device", "^injector 1$")
	v.choose("output that a tester works", "B1 fuel injector")
	v.click("button", "It does not")
	v.followed(meter, wrong)
	v.see("[data-testid=suspects]", "It is this[^]*B1 and B3 are crossed")
	v.click("button", "It is so: the plan follows")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("found at the bench")
	v.press(input.Enter)
	v.see("main", "Found before[^]*crossed[^]*found at the bench")
	v.goTo("/jobs/packhorse/pin")
	v.see("main", "Found so: B1 and B3 are crossed")
}

// The test sheet at the bench, on a telephone without a network: what the meter shows is kept here and sent when it
// can be.
func TestTheTestSheetAtTheBench(t *testing.T) {
	v := open(t, "/jobs/packhorse/bench?stage=prove", unproved)
	v.phone()
	v.see("[data-testid=count]", "measurement 1 of")
	v.see("[data-testid=bench-band]", "must show 0 to")
	v.network(true)
	v.page.MustElement("[aria-label='what the meter shows']").MustInput("0,2")
	v.click("button", "Keep")
	v.see("[data-testid=count]", "measurement 2 of")
	v.see("[data-testid=unsent]", "1 not sent yet: kept here")
	v.click("button", "OL")
	v.see("[data-testid=bench-read]", "OL, out of band")
	v.see("[data-testid=unsent]", "2 not sent yet: kept here")
	v.network(false)
	v.until("both have arrived", func() bool {
		done := 0
		for _, l := range fetch[proveapi.ProveView](v, "/api/jobs/packhorse/prove").Lines {
			if l.Reading != nil {
				done++
			}
		}
		return done == 2
	})
	v.see("[data-testid=bench-read]", "OL, out of band")
	v.click("button", "Back")
	v.see("[data-testid=bench-read]", "0.2 Ω, in band")
}
