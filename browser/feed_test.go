package browser

import (
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// The main path by keyboard: turn the key, walk the tree, ask what if of a fuse, see which fuses stand above their wire,
// put one right in its list, and see the finding go.
func TestFeedByKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed")
	v.see("[data-testid=feedtree]", "battery")
	v.see("[data-testid=standing]", "6 fuses above their wire")
	v.press('e')
	v.see(".keytab.on", "engine running")
	v.see("[data-testid=unfed]", "Sorrel alternator")
	v.press(input.ArrowRight, input.ArrowDown, input.ArrowDown, input.ArrowUp)
	v.see(".feeder.on", ".")
	v.press(input.ArrowLeft)
	v.see("aside h2", "battery")
	v.click(".feeder", "^fuse 6")
	v.press('t')
	v.see("[data-testid=answer]", "Fuse 6 opens after")
	v.press('d')
	v.see("[data-testid=answer]", "Otherwise: .*Packhorse starter: 0.0 V, was")
	v.press('c')
	v.see(".keytab.on", "crank")
	v.see("[data-testid=answer]", "in crank")
	v.press('2')
	v.see("main", "Fuse 8 of 30 A stands before P057")
	v.see("[aria-label=grounds]", "engine block")
	v.click("tr button", "Take 7.5 A")
	v.see("[data-testid=standing]", "5 fuses above their wire")
	v.press('u')
	v.see("[data-testid=standing]", "6 fuses above their wire")
	v.press('1')
	v.click(".keytab", "^light switch")
	v.click(".keytab", "^main beam switch")
	v.see(".feeder", "headlamp left")
	v.press('3')
	v.click(".listtab", "^Fuses")
	v.see("[data-testid=factgrid]", "ignition feed behind the switch")
	v.page.MustElementR("[role=gridcell]", "^30$").MustClick()
	v.press(input.Enter)
	v.page.MustElement("[data-testid=factgrid] input").MustSelectAllText().MustInput("20")
	v.press(input.Enter)
	v.see("[data-testid=standing]", "5 fuses above their wire")
	v.click(".sides a", "Fuses")
	v.see("main", "fits")
	if strings.Contains(v.text("main"), "Fuse 8 of") {
		t.Error("fuse 8 is put right and still found")
	}
	v.press('u')
	v.see("[data-testid=standing]", "6 fuses above their wire")
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
	v.click(".ant-drawer a, .ant-drawer button", "Fuse 8 of 30 A|^.*8$")
	v.see("main", "thinnest behind it")
}

// A job in which nothing is said begins with what stands there; a battery, a fuse and a load are enough for a tree.
func TestFeedFromNothing(t *testing.T) {
	v := newJob(t)
	v.write("#paste", "Connector\tPin\tColour\tFunction\nA\t1\tRD\tBattery\nA\t2\tBK\tGround")
	v.click("button", "Read the pasted rows")
	v.see("[data-testid=reading]", "2 rows taken")
	v.click("button", "Keep this pinout")
	v.see("h1", "the finished harness must fill")
	v.click(".rail a", "Feed")
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
