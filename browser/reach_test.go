package browser

import (
	"slices"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/gather"
	"draxel/core/reach"
	"draxel/core/stored"
)

// num types a number into a field and leaves it.
func (v *visit) num(selector, text string) {
	v.t.Helper()
	el := v.page.MustElement(selector)
	el.MustSelectAllText().MustInput(text)
	v.press(input.Enter)
}

// standing is the line that says how Reach stands.
func (v *visit) standing() string { return v.text("[data-testid=standing]") }

// From nothing laid out to a cut list: a template, things where they usually are, a length measured, a verdict that
// changes.
func TestReachFromNothing(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach", func(j *stored.Job) {
		j.Map, j.Places, j.Options, j.Lengths, j.Spans, j.Rules = nil, nil, nil, nil, nil, nil
	})
	v.page.MustElement("[data-testid=start-forward]").MustClick()
	v.see("[data-testid=standing]", "wires routed")
	v.press('2')
	v.page.MustElement("[data-testid=place-proposed]").MustClick()
	v.until("most wires have a way", func() bool {
		return !strings.Contains(v.standing(), "without a way") && strings.Contains(v.standing(), "provisional")
	})
	v.press('1')
	v.click("button.plain", "^As tables$")
	v.num("[aria-label='length of bulkhead in – control unit']", "900")
	v.press('3')
	v.see("[data-testid=cuts] [role=row]", "extend by")
	v.goTo("/jobs/packhorse/reach?part=cuts&wire=7110")
	v.see("[data-testid=terms]", "900")
}

// The main path at the desk: a wire's reasons, a length typed in at the wire, a decision, and undo.
func TestACutListIsWorked(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach?part=cuts&wire=7110")
	v.see("[data-testid=terms]", "bulkhead in – unit shelf")
	v.see(".reachwhy p", "It has 1560 mm and needs 1850 mm")
	v.press('m')
	v.press([]input.Key{'1', '9', '0', '0'}...)
	v.press(input.Enter)
	v.until("it reaches, and is off the list", func() bool {
		return !strings.Contains(v.text("[data-testid=cuts]"),
			"7110")
	})
	v.see(".reachwhy p", "It has 1900 mm and needs 1850 mm")
	v.press('u')
	v.see("[data-testid=cuts]", "7110")
	v.page.MustElement("[aria-label='find a wire']").MustInput("knock sensor 1 signal")
	v.until("one is found", func() bool { return len(v.page.MustElements("[data-testid=cuts] .cutrow")) == 2 })
	v.see(".reachwhy h2", "7411")
	v.click(".reachwhy label", "replace it whole")
	v.see("[data-testid=cuts]", "replace")
}

// A placement is compared, chosen with a reason, and where it was is kept.
func TestPlacementsAreComparedAndChosen(t *testing.T) {
	v := open(t, "/jobs/fuse-block")
	v.click("[data-testid=standing] a", "^Reach$")
	v.see("[data-testid=standing]", "wires routed")
	v.press('2')
	v.see("[data-testid=compare]", "259.0 m")
	v.see(".reachmain", "fuse block from rear locker to front locker")
	v.click("[data-testid=compare] button", "Choose")
	v.see(".ant-modal", "Every length follows from it")
	v.page.MustElement(".ant-modal [aria-label='the reason']").MustInput("nothing to buy")
	v.click(".ant-modal button", "That is why")
	v.until("nothing is to be bought", func() bool { return strings.Contains(v.standing(), "0.0 m to buy") })
	v.see("[data-testid=compare]", "as before front locker, as built")
	v.see("[data-testid=things]", "nothing to buy")
}

// The map is changed by hand: a path's length, what lies along it, a station dragged and renamed, a new one with a
// path to it.
func TestTheMapIsDrawn(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach")
	v.page.MustElement("[aria-label^='path bulkhead in – unit shelf']").MustFocus()
	v.press(input.Enter)
	v.page.MustElement("[data-testid=section]")
	before := v.standing()
	v.num("[data-testid=path-length]", "1200")
	v.until("the plan follows", func() bool { return v.standing() != before })
	v.click(".reachwhy label", "something moves there")
	v.page.MustElement("[aria-label^='path bulkhead in – unit shelf'][aria-label*='moves']")
	v.page.MustElement("[aria-label='name of a new station']").MustInput("boot")
	v.press(input.Enter)
	v.page.MustElement("[aria-label^='station boot']")
	v.see(".reachwhy h3", "A path from here")
	v.page.MustElement("[aria-label='to which station']").MustClick().MustInput("rear locker")
	v.see(".ant-select-item-option", "^rear locker$")
	v.press(input.Enter)
	v.page.MustElement("[aria-label='length of the new path']").MustSelectAllText().MustInput("640")
	v.press(input.Tab)
	v.click("button", "Add path")
	v.see(".reachwhy h2", "boot – rear locker")
	circle := v.page.MustElement("[aria-label^='station boot'] circle").MustShape().Box()
	x, y := circle.X+circle.Width/2, circle.Y+circle.Height/2
	v.page.Mouse.MustMoveTo(x, y)
	v.page.Mouse.MustDown(proto.InputMouseButtonLeft)
	v.page.Mouse.MustMoveTo(x-60, y-50)
	v.page.Mouse.MustUp(proto.InputMouseButtonLeft)
	v.until("it was dragged", func() bool {
		return v.page.MustElement("[aria-label^='station boot'] circle").MustShape().Box().X < circle.X-30
	})
	v.num("[aria-label='name of the station']", "luggage")
	v.page.MustElement("[aria-label^='station luggage']")
}

// Joints, wire to buy, bundles, a wall with its plugs, and what ties parts together.
func TestJointsAndBundles(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach?part=joints")
	v.see("[data-testid=joints]", "mm from")
	v.see("[data-testid=buy]", "printed")
	v.see("[data-testid=short]", "mm²")
	v.press('5')
	v.see("[data-testid=wall] h2", "a hole of 28 mm")
	v.click("[data-testid=wall] label", "pass the plugs through")
	v.see("[data-testid=wall]", "biggest first")
	v.num("[aria-label='size of plug TC']", "61")
	v.see("[data-testid=wall] h2", "a hole of 61 mm")
	v.see("[data-testid=disconnect]", "would tie the one to the other")
	v.click("[data-testid=disconnect] button", "Take this disconnect")
	v.see("[data-testid=disconnect] table", "36-way, 0.64 mm")
	v.see("[data-testid=disconnect] button", "Take it back")
	v.press('6')
	v.see("[data-testid=work]", "crimp a contact of 0.64 mm on either end")
	v.see("[data-testid=proof]", "Proven on the model")
	v.press('5')
	v.press('u')
	v.see("[data-testid=disconnect] button", "Take this disconnect")
	v.see("[data-testid=apart]", "crank, cam, knock or bus")
}

// The work at the desk and at the bench: steps in their order, the gate, a length typed in at the wire.
func TestReachIsCarriedOut(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach?part=work", func(j *stored.Job) {
		j.Lengths = append(j.Lengths, reach.Measured{Wire: "7110", Had: 1400})
	})
	v.see("[data-testid=proof]", "Proven on the model")
	v.press(input.Space)
	v.until("the first is ticked", func() bool { return len(v.page.MustElements("[data-testid=work] .done")) == 1 })
	v.press('b')
	v.see("[data-testid=bench-text]", "Lay")
	v.see(".bench", "step 2 of")
	v.press(input.Space)
	v.see(".bench", "step 3 of")
}

// A wire that nobody knows the length of is measured at the bench, and the plan goes on from there.
func TestALengthIsTypedInAtTheBench(t *testing.T) {
	v := open(t, "/jobs/packhorse/bench?stage=reach", func(j *stored.Job) {
		sheet := *j.Sheets[gather.WireList]
		sheet.Cells = slices.Clone(sheet.Cells)
		for i, row := range sheet.Cells {
			if row[0] == "7110" {
				sheet.Cells[i] = slices.Clone(row)
				sheet.Cells[i][9] = ""
			}
		}
		j.Sheets[gather.WireList] = &sheet
	})
	for range 40 {
		if v.page.MustHas("[aria-label='measured length of 7110']") {
			break
		}
		step := v.text("[data-testid=bench-text]")
		v.press(input.Space)
		v.until("the next step", func() bool { return v.text("[data-testid=bench-text]") != step })
	}
	v.see("[data-testid=bench-text]", "Measure 7110")
	v.page.MustElement("[aria-label='measured length of 7110']").MustInput("1310")
	v.press(input.Enter)
	v.until(
		"it is measured",
		func() bool { return !strings.Contains(v.text("[data-testid=bench-text]"), "Measure 7110") },
	)
	v.until("it has arrived", func() bool {
		return v.page.MustEval(`() => Object.keys(localStorage).every(k => !k.startsWith('draxel-letter packhorse'))`).
			Bool()
	})
	v.goTo("/jobs/packhorse/reach?part=cuts&only=all&wire=7110")
	v.see("[data-testid=terms]", "1310 mm")
}

// The rules: an allowance changes every need; what was left over makes the next allowance better.
func TestHowWeWorkInReach(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach?part=cuts&only=all&wire=7110", func(j *stored.Job) {
		for i := range 4 {
			j.Leftover = append(
				j.Leftover,
				reach.Leftover{ID: string(rune('a' + i)), Wire: "7110", Left: 40, When: int64(i)},
			)
		}
	})
	v.see("[data-testid=terms]", "1850 mm")
	v.page.MustElement("[aria-label='what 7110 left over']").MustInput("40")
	v.click("button", "Log it")
	v.see(".reachwhy", "logged: 40 mm, 40 mm, 40 mm, 40 mm, 40 mm")
	v.click(".standing button", "How we work")
	v.see(".ant-modal", "5 wires left 40 ± 0 mm over")
	v.click(".ant-modal button", "Take it")
	v.until("the allowance at each end is 20 mm less",
		func() bool { return strings.Contains(v.text("[data-testid=terms]"), "1810 mm") })
	v.num(".ant-modal [aria-label='slack where a wire crosses to what rolls with the engine']", "160")
	v.until(
		"and the slack 100 mm more",
		func() bool { return strings.Contains(v.text("[data-testid=terms]"), "1910 mm") },
	)
	v.click(".ant-modal button", "^Close$")
	v.press('u')
	v.until("undone", func() bool { return strings.Contains(v.text("[data-testid=terms]"), "1810 mm") })
}

// A placement of one's own is compared, and dropped; a reel on the shelf serves what was to be bought.
func TestAPlacementOfOnesOwnAndAReel(t *testing.T) {
	v := open(t, "/jobs/fuse-block/reach?part=places")
	v.see("[data-testid=compare]", "as built")
	pick := func(label, text string) {
		v.page.MustElement("[aria-label='" + label + "']").MustClick().MustInput(text)
		v.see(".ant-select-item-option", "^"+text+"$")
		v.press(input.Enter)
	}
	pick("what would live elsewhere", "fuse block")
	pick("at which station", "roof")
	v.click("button", "^Compare$")
	v.see("[data-testid=compare] th", "fuse block at roof")
	v.until(
		"three are compared",
		func() bool { return len(v.page.MustElements("[data-testid=compare] thead th")) == 4 },
	)
	v.press('4')
	before := v.text("[data-testid=standing]")
	for label, text := range map[string]string{"name of the reel": "blue", "colour, as GN-BK": "BU-RD", "mm²": "1.5",
		"metres": "50"} {
		v.page.MustElement("[aria-label='" + label + "']").MustInput(text)
	}
	v.click("button", "^Add$")
	v.until("less is to be bought", func() bool { return v.standing() != before })
	v.see(".columns", "50.0 m")
}

// On a telephone the bench view of Reach keeps its three answers in sight.
func TestReachAtTheBenchOnATelephone(t *testing.T) {
	v := open(t, "/jobs/fuse-block/bench?stage=reach")
	v.phone()
	v.see("[data-testid=bench-text]", "with the plugs on")
	for _, word := range []string{"Back", "Not as expected", "Done"} {
		box := v.page.MustElementR("button", word).MustShape().Box()
		if box.Y+box.Height > 844 || box.X < 0 || box.X+box.Width > 390 {
			t.Errorf("%s lies at %.0f, %.0f", word, box.X, box.Y)
		}
	}
}

// A finding leads to where it is seen to, and a wire's way is lit on the map.
func TestFindingsOfReachLeadThere(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach")
	v.see("[data-testid=standing]", "wires routed")
	for subject, shows := range map[string]string{"disconnects": "[data-testid=disconnect]",
		"7451": "[data-testid=terms]", "gearbox crossmember": "[data-testid=routes]"} {
		v.press('f')
		v.click(".ant-drawer button.mono", "^"+subject+"$")
		v.page.MustElement(shows)
	}
	v.goTo("/jobs/packhorse/reach?part=cuts&wire=7110")
	v.click(".reachwhy a", "on the map")
	v.until("its way is lit", func() bool {
		return len(v.page.MustElements(".routes .path.lit")) == 4 &&
			len(v.page.MustElements(".routes .station.lit")) == 5
	})
	v.click(".reachbar a", "the way of 7110")
	v.see(".reachwhy h2", "7110")
}

// A disconnect that parts nothing any more: its finding leads to where it is taken back.
func TestAnIdleDisconnectIsTakenBack(t *testing.T) {
	v := open(t, "/jobs/packhorse/reach", func(j *stored.Job) {
		j.Partings = []reach.Parting{{Between: [2]string{"body", "garden"},
			Plugs: []reach.PartingPlug{{ID: "D9", Blade: 1.5, Ways: 4}}}}
	})
	v.see("[data-testid=standing]", "wires routed")
	v.press('f')
	v.click(".ant-drawer button.mono", "^body garden$")
	v.see("[data-testid=disconnect] h2", "body from garden: 0 wires")
	v.click("[data-testid=disconnect] button", "Take it back")
	v.until("it is gone", func() bool { return !v.page.MustHasR("[data-testid=disconnect] h2", "garden") })
}
