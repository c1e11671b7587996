package browser

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// makesRefit makes a job in which terminals are moved, as its three questions ask for it.
func (v *visit) makesRefit(title string) {
	v.t.Helper()
	v.click("button", "New job")
	v.write("#title", title)
	for _, answer := range []string{"another control unit", "cavity by cavity", "As many as before"} {
		v.click(".ant-modal button.answer", answer)
	}
	v.click("button", "Make the job")
}

func newJob(t *testing.T) *visit {
	t.Helper()
	v := open(t, "/")
	v.makesRefit("Trial")
	v.see("h1", "Bring the pinout")
	return v
}

func TestPastedRowsAreShownBeforeTheyAreKept(t *testing.T) {
	v := newJob(t)
	v.write("#paste", "Pin\tShade\tCircuit\tWhat for\n1\tBN\t11\tInjector 1\n2\tGN\t12\tInjector "+
		"2\n2\tGN\t13\tInjector 3\n\tBU\t14\tBattery")
	v.click("button", "Read the pasted rows")
	v.see("[data-testid=reading]", "2 rows taken, 2 not")
	v.see("[data-testid='Rows not taken']", "cavity X1-2 was already on line 3")
	v.see("[data-testid='Rows not taken']", "no cavity is named")
	v.see("aside .problem", "mean something else")
	v.click("button", "Keep this pinout")
	v.see("h1", "the finished harness must fill")
}

func TestBadFilesSayWhy(t *testing.T) {
	v := newJob(t)
	v.page.MustElement("input[type=file]").MustSetFiles("../server/page.go")
	v.see("[role=alert]", "No column names the cavities")
	v.click("button", "Another table")
	v.page.MustElement("input[type=file]").MustSetFiles("../exchange/fonts/DejaVuSans.ttf")
	v.see("[role=alert]", "not a table of text.* Nothing was kept")
	v.page.MustElement("input[type=file]").MustSetFiles("../demo/packhorse/packhorse-chassis.csv")
	v.see("[data-testid=reading]", "50 rows taken, 1 not")
}

// correct puts the cell right that says wrong, in the row that holds the mark.
func (v *visit) correct(mark, wrong, right string) {
	v.t.Helper()
	v.see("[role=grid]", "cavity")
	v.until("the row is shown", func() bool {
		v.page.MustElement(".pinoutrows").MustEval(`() => { this.scrollTop += 200; return true }`)
		for _, r := range v.page.MustElements(".pinoutrow") {
			if text := r.MustText(); strings.Contains(text, mark) && strings.Contains(text, wrong) {
				r.MustElementR("button", wrong).MustClick()
				return true
			}
		}
		return false
	})
	v.page.MustElement(".pinoutrow input").MustSelectAllText().MustInput(right)
	v.press(input.Enter)
	v.see(".pinoutrow", right)
}

func TestAMisprintIsPutRight(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/gather?side=to")
	v.see("[role=grid]", "Ignition coil 3, trigger")
	v.see("[data-testid=findings]", "2 wrong")
	v.correct("4408", "Ignition coil 3, trigger", "Ignition coil 4, trigger")
	v.see("[data-testid=findings]", "0 wrong")
	v.see("header", "undo")
	v.press('u')
	v.see("[data-testid=findings]", "2 wrong")
}

// A row that the table lacks is added below it; one that was not taken for its cavity is taken when that is put right.
func TestARowIsAddedAndAnotherTaken(t *testing.T) {
	v := newJob(t)
	v.write("#paste", "Connector\tPin\tColour\tFunction\nA\t1\tRD\tBattery\nA\t9/10\tBK\tGround")
	v.click("button", "Read the pasted rows")
	v.see("[data-testid=reading]", "1 row taken, 1 not")
	v.see("[data-testid='Rows not taken']", "may be two cavities")
	v.write("[aria-label='cavity of line 3']", "9 & 10")
	v.press(input.Enter)
	v.see("[data-testid=reading]", "3 rows taken, 0 not")
	v.see("[data-testid='Taken, with something unread']", "taken for 2 cavities")
	v.click("button", "Keep this pinout")
	v.see("h1", "the finished harness must fill")
	v.click("nav a", "^From:")
	for field, text := range map[string]string{"connector": "A", "cavity": "11", "function": "Purge valve"} {
		v.write("[aria-label='"+field+" of a new row']", text)
	}
	v.press(input.Enter)
	v.see("[role=grid]", "canister purge valve")
}

func TestTheColourHabitIsThePersonsToSay(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?side=from")
	v.see("[role=grid]", "BN-RD")
	v.click("#habit", ".*")
	v.page.MustElement("#habit").MustFocus()
	v.pick(v.page.MustElementR(".ant-select-item-option", "one letter"))
	v.until("the colours are read anew", func() bool { return !strings.Contains(v.text("[role=grid]"), "BN-RD") })
}

// A pigtail's pinout is brought beside the two sides: of its two tables side by side the right one is meant, a row is
// struck out and brought back, its plug is part of the harness, and it is taken out again.
func TestAFurtherPinout(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather")
	v.click("nav[aria-label='parts of Gather'] a", `^\+$`)
	v.see("h1", "a further pinout: of a pigtail")
	v.write("#paste", "Plug WX\t\t\tPlug WP\t\t\nPin\tColour\tFunction\tPin\tColour\tFunction\n"+
		"1\tRD\tBattery +\t1\tBK\tGround\n2\tBK\tGround\t2\tGN\tWinch relay, control")
	v.click("button", "Read the pasted rows")
	v.see("[data-testid='Taken, with something unread']", "2 tables stand side by side, and only the left")
	v.see(".pinoutrow", "WX1")
	v.page.MustElement("#beside").MustClick()
	v.pick(v.see(".ant-select-item", "the right one is meant"))
	v.see(".pinoutrow", "WP2")
	v.write("#name", "winch pigtail")
	v.page.MustElement("#name").MustBlur()
	v.click("button", "Keep this pinout")
	v.see("nav[aria-label='parts of Gather'] a.on", "winch pigtail")
	v.click("[aria-label='strike out line 3']", "✕")
	v.see("[data-testid='Struck out']", "Struck out: 1")
	v.see("[data-testid=reading]", "1 row taken")
	v.click("[data-testid='Struck out'] button", "Bring it back")
	v.see("[data-testid=reading]", "2 rows taken")
	v.correct("Winch", "WP2", "7")
	v.see(".pinoutrow", "WP7")
	v.goTo("/jobs/packhorse/gather?part=connectors")
	v.see("main", "WP")
	v.goTo("/jobs/packhorse/gather?side=x1")
	v.click("button", "Take it out")
	v.see("nav[aria-label='parts of Gather'] a.on", "From:")
	v.goTo("/jobs/packhorse/gather?part=connectors")
	v.see("main", "SP")
	if strings.Contains(v.text("main"), "WP") {
		t.Error("the pinout that was taken out still counts")
	}
}
