package browser

import (
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// The main path by keyboard: turn the key, walk the tree, ask what if of a fuse and of a chafed wire, see a fuse
// refused and why, and take another one, which is a step.
func TestFeedByKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed")
	v.see("[data-testid=feedtree]", "battery")
	v.see("[data-testid=standing]", "4 fuses above their wire")
	v.press('e')
	v.see(".keytab.on", "engine running")
	v.see("[data-testid=unfed]", "Sorrel alternator")
	v.press(input.ArrowRight, input.ArrowDown, input.ArrowDown, input.ArrowUp)
	v.see(".feeder.on", ".")
	v.press(input.ArrowLeft)
	v.see("aside h2", "battery|master")
	v.click(".feeder", "^fuse 6")
	v.press('t')
	v.see("[data-testid=answer]", "Fuse 6 opens after")
	v.press('d')
	v.see("[data-testid=answer]", "Otherwise: .*Packhorse starter: 0.0 V, was")
	v.press('c')
	v.see(".keytab.on", "crank")
	v.see("[data-testid=answer]", "in crank")
	v.page.MustElement("[aria-label='a wire that is chafed through']").MustInput("P045")
	v.press(input.Enter)
	v.see("[data-testid=answer]", "P045 chafed through to body[^]*No fuse ends it: 3")
	v.press('3')
	v.see("main", "Fuse 8 of 30 A stands before P0")
	v.see("[aria-label=grounds]", "engine block")
	v.see("[aria-label=sensors]", "coolant sensor")
	v.click("tr button", "Take 4 A")
	v.see("[data-testid=standing]", "3 fuses above their wire")
	v.press('4')
	v.see("main", "Change fuse 7: 4 A instead of 10 A")
	ticked := func(n int) {
		v.until("steps are ticked", func() bool {
			return v.page.MustEval(`() => document.querySelectorAll('main input[type=checkbox]:checked').length`).Int() == n
		})
	}
	v.press(input.Space)
	ticked(1)
	v.press('u')
	ticked(0)
	v.press('u')
	v.see("[data-testid=standing]", "4 fuses above their wire")
	v.press('1')
	v.click(".keytab", "^light switch")
	v.click(".keytab", "^main beam switch")
	v.see(".feeder", "headlamp left")
	v.press('5')
	v.click(".listtab", "^Fuses")
	v.see("[data-testid=factgrid]", "ignition feed behind the switch")
	v.page.MustElementR("[role=gridcell]", "^30$").MustClick()
	v.press(input.Enter)
	v.page.MustElement("[data-testid=factgrid] input").MustSelectAllText().MustInput("15")
	v.press(input.Enter)
	v.see("[data-testid=standing]", "3 fuses above their wire")
	v.click(".sides a", "Fuses")
	v.see("main", "fits")
	if strings.Contains(v.text("main"), "Fuse 8 of") {
		t.Error("fuse 8 is put right and still found")
	}
	v.press('u')
	v.see("[data-testid=standing]", "4 fuses above their wire")
}

// A block of one's own, by keyboard: proposed, a circuit moved to another slot, a fuse that none fits and why, its
// label, the ways compared, a step ticked, and the vehicle's own fuses taken again.
func TestTheFuseBlockByKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed?part=block")
	v.see("main", "What wants a feed")
	v.click("button", "split as the trade does")
	v.see("[data-key='slot 1']", "unit battery")
	v.press('m', 'm')
	v.see("[role=status]", "E2")
	v.press(input.ArrowRight, input.Enter)
	v.see("[data-key='slot 4'] .chip", "E2")
	v.see("[data-key='slot 1'] .chip", "E1")
	v.press(input.ArrowDown, input.ArrowDown)
	v.see("aside h2", "slot 3: engine")
	v.see("[data-key='slot 3']", "none fits")
	v.see("aside", "No fuse fits slot FB3: 18")
	v.choose("rating of the fuse", "^25 A$")
	v.see("[data-key='slot 3']", "25 A")
	v.see("aside", "Fuse FB3 of 25 A stands before")
	v.see("aside", "burns the wire before it opens")
	v.click("button", "Add…")
	v.click(".ant-dropdown-menu-item", "a group with a feed of its own")
	v.see("[data-key='group group 4']", "from battery")
	v.press('u')
	v.click("button", "Compare")
	v.see("[data-testid=ways]", "the vehicle’s own fuses")
	v.see("[data-testid=ways]", "proven on the model")
	v.press('4')
	v.see("[aria-label=parts]", "relay 12 V, 30 A")
	v.see("main", "Mount the fuse block FB at fuse box")
	v.press(input.Space)
	v.see("main", "Fit relay FB R1")
	v.until("the step is ticked", func() bool {
		return v.page.MustEval(`() => document.querySelectorAll('main input[type=checkbox]:checked').length`).Int() == 1 ||
			!strings.Contains(v.text("main"), "Mount the fuse block FB")
	})
	v.press('b')
	v.see(".bench [data-testid=bench-text]", "Fit relay FB R1")
	v.goTo("/jobs/packhorse/feed?part=block")
	v.see(".slot", "unit battery")
	v.click(".sides a", "Block")
	v.click("button", "Compare")
	v.click("[data-testid=ways] button", "^Take$")
	v.see("main", "What wants a feed|none fits|Back to the block")
	v.goTo("/jobs/packhorse/feed?part=block")
	v.until("the block is gone", func() bool {
		return v.page.MustEval(`() => document.querySelectorAll('.slot').length`).Int() == 0
	})
	v.see("main", "fed by the vehicle’s own fuses")
}

// A finding of Feed leads to where it is seen to.
func TestFindingsOfFeedLead(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed")
	v.see("[data-testid=feedtree]", "battery")
	v.press('f')
	v.click(".ant-drawer a, .ant-drawer button", "Packhorse starter")
	v.see("aside h2", "Packhorse starter")
	v.see(".keytab.on", "engine running")
	v.press('f')
	v.click(".ant-drawer a, .ant-drawer button", "^8$")
	v.see("main", "thinnest behind it")
}

// What is live as a table, by keyboard: down the lines, only those with too much on them, what if one were broken; and
// back to the tree.
func TestLiveAsATable(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed?part=live&key=running")
	v.see("[data-testid=feedtree]", "battery")
	v.press('l')
	v.see("[data-testid=livelines]", "7001[^]*live[^]*13.6 V")
	v.press(input.ArrowDown)
	v.see("aside h2", "^7001$")
	v.press(input.ArrowDown, input.ArrowDown)
	v.see("aside h2", "^7002$")
	v.choose("which lines", "^with more than it may carry")
	v.see("[data-testid=livelines]", "P054[^]*▲ 31.9 A")
	v.click(".liveline", "^P054")
	v.press('d')
	v.see("[data-testid=answer]", "P054 open, in running[^]*Stops: ")
	v.press('o')
	v.until("with the key off nothing carries too much", func() bool {
		return !strings.Contains(v.text("[data-testid=livelines]"), "P054")
	})
	v.choose("which lines", "^everything")
	v.press('/')
	v.page.MustElement("[aria-label='find in the table']").MustInput("winch contactor")
	v.see(".liveline", "winch contactor ground")
	v.press(input.Enter)
	v.press('l')
	v.see("[data-testid=feedtree]", "battery")
}

// What a vehicle usually has is proposed and never there unasked: two lines are left out, the others are taken, told as
// not looked at, and said to be so.
func TestWhatAVehicleUsuallyHas(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/feed")
	v.see("main", "The battery and the alternator")
	v.click("button", "What a vehicle usually has")
	v.see("[data-testid=usual]", "starter cable[^]*35 mm²")
	v.click(".ant-modal label", "^block to body strap")
	v.click(".ant-modal button", "Take 7 lines")
	v.see("[data-testid=factgrid]", "usual: not looked at")
	v.see(".finding", "In the list of sources 2 lines are what is usual")
	v.click(".finding button", "All of this list is so")
	v.until("the sources are looked at", func() bool {
		return !strings.Contains(v.text("main"),
			"2 lines are what is usual")
	})
	v.click(".listtab", "^Cables 2")
	v.see(".finding", "In the list of cables 2 lines")
	v.click(".sides a", "Live")
	v.see("[data-testid=feedtree]", "key, ignition")
}

// feedOfNothing opens Feed in a job with a pinout of two rows in which nothing is said of what stands in the vehicle.
func feedOfNothing(t *testing.T) *visit {
	t.Helper()
	v := newJob(t)
	v.write("#paste", "Connector\tPin\tColour\tFunction\nA\t1\tRD\tBattery\nA\t2\tBK\tGround")
	v.click("button", "Read the pasted rows")
	v.see("[data-testid=reading]", "2 rows taken")
	v.click("button", "Keep this pinout")
	v.see("h1", "the finished harness must fill")
	v.click(".rail a", "Feed")
	return v
}

// A job in which nothing is said begins with what stands there; a battery, a fuse and a load are enough for a tree.
func TestFeedFromNothing(t *testing.T) {
	v := feedOfNothing(t)
	v.see("main", "The battery and the alternator")
	cell := func(list, field, text string) {
		v.click(".listtab", "^"+list)
		v.see("[role=columnheader]", field)
		heads := v.page.MustElements("[data-testid=factgrid] [role=columnheader]")
		for i, h := range heads {
			if h.MustText() == field {
				rows := v.page.MustElements("[data-testid=factgrid] .factrow:not(.headrow)")
				row := rows[0]
				row.MustElements("[role=gridcell]")[i].MustClick()
			}
		}
		v.press(input.Enter)
		v.page.MustElement("[data-testid=factgrid] input").MustSelectAllText().MustInput(text)
		v.press(input.Enter)
		v.see("[role=gridcell]", regexp.QuoteMeta(text))
	}
	cell("Sources", "Source", "battery")
	cell("Sources", "Positive at", "battery +")
	cell("Fuses", "Fuse", "main")
	cell("Fuses", "Rating A", "30")
	cell("Fuses", "Fed from", "battery +")
	cell("Fuses", "Feeds", "bus")
	cell("Loads", "Load", "pump")
	cell("Loads", "Positive at", "bus")
	cell("Loads", "Amps", "9")
	v.click(".sides a", "Live")
	v.see("[data-testid=feedtree]", "pump")
	v.see(".feederstate", "9.37 A")
}

// What is said for the first time moves nothing: the tabs stay where the hand is on its way to.
func TestFeedStandsStill(t *testing.T) {
	v := feedOfNothing(t)
	v.see("main", "Nothing is reckoned yet")
	where := func() string {
		return v.page.MustEval(`() => JSON.stringify([...document.querySelectorAll('.listtab, .sides a')].map((e) => {
			const r = e.getBoundingClientRect();
			return [r.x, r.y];
		}))`).Str()
	}
	v.see("[role=columnheader]", "Source")
	before := where()
	for _, f := range []struct {
		column int
		text   string
	}{{0, "battery"}, {2, "battery +"}} {
		row := v.page.MustElements("[data-testid=factgrid] .factrow:not(.headrow)")[0]
		row.MustElements("[role=gridcell]")[f.column].MustClick()
		v.press(input.Enter)
		v.page.MustElement("[data-testid=factgrid] input").MustSelectAllText().MustInput(f.text)
		v.press(input.Enter)
		v.see("[role=gridcell]", "^"+regexp.QuoteMeta(f.text)+"$")
	}
	v.see("[data-testid=standing]", "with everything on")
	if after := where(); after != before {
		t.Errorf("the tabs stood at %s, and stand at %s", before, after)
	}
}
