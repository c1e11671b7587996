package browser

import (
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/match"
	"draxel/server/matchapi"
)

func (v *visit) selected() string {
	v.t.Helper()
	return v.page.MustElement(".spreadrow.selected").MustText()
}

// decided counts the rows that the totals say are decided.
func (v *visit) decided() int {
	v.t.Helper()
	var rows, n int
	if _, err := fmt.Sscanf(v.text("[data-testid=totals]"), "%d rows · %d decided", &rows, &n); err != nil {
		v.t.Fatalf("totals %q: %v", v.text("[data-testid=totals]"), err)
	}
	return n
}

// From two files to the sheet, as the README tells it: a new job, both pinouts of the demonstration from their files,
// all of it decided from the keyboard, the PDF fetched.
func TestWholeRefitFromTheKeyboard(t *testing.T) {
	v := open(t, "/")
	v.makesRefit("Refit of my own")
	v.see("h1", "whose terminals will be moved")
	v.page.MustElement("input[type=file]").MustSetFiles("../demo/sorrel-refit/vk-1-harness.csv")
	v.see("[data-testid=reading]", "90 rows taken, 1 not")
	v.click("button", "Keep this pinout")
	v.see("h1", "the finished harness must fill")
	v.page.MustElement("input[type=file]").MustSetFiles("../demo/sorrel-refit/vk-2-unit.xlsx")
	v.see("[data-testid=reading]", "90 rows taken, 0 not")
	v.click("button", "Keep this pinout")
	v.click("a", "Match them")
	v.see("[data-testid=totals]", "83 rows · 0 decided")

	v.press('a')
	v.click("[data-testid=accept-all]", "Accept")
	v.until("the sure ones are decided", func() bool { return v.decided() > 70 })
	v.until("the dialog is gone", func() bool { return !v.page.MustHas(".ant-modal-wrap:not([style*=none]) .ant-modal") })
	for tries := 0; v.decided() < 82 && tries < 30; tries++ {
		was := v.selected()
		if strings.Contains(v.text(".spreadrow.selected"), "the law may want it kept") {
			v.press('g') // offered is nothing: a person lets it go
		} else {
			v.press(input.Enter) // what is offered; where nothing is, on to the next open row
		}
		v.until("the cursor has gone on", func() bool { return v.selected() != was })
	}
	v.until("only the misprinted row is open", func() bool { return v.decided() == 82 })
	v.goTo(strings.Split(strings.TrimPrefix(v.page.MustInfo().URL, v.url), "?")[0] + "?row=from%20A39")
	v.see("aside", "A39 and A36 both carry number 4408") // the misprinted row: the number says A36, the words another coil
	v.goTo(strings.Split(strings.TrimPrefix(v.page.MustInfo().URL, v.url), "/match")[0] + "/gather?side=to")
	v.correct("4408", "Ignition coil 3, trigger", "Ignition coil 4, trigger")
	v.click("a", "Match them")
	v.see("aside h2", "A39 moves to A36")
	v.press(input.Enter)
	v.see("[data-testid=totals]", "83 rows · 83 decided")
	v.see("[data-testid=totals]", "all reconciled")
	v.click(".rail a", "Pin")
	v.see("[data-testid=proof]", "Proven on the model: the .* steps that are left")
	address := v.page.MustElementR("a", "^PDF$").MustProperty("href").String()
	reply, err := http.Get(address)
	if err != nil {
		t.Fatal(err)
	}
	defer reply.Body.Close()
	pdf, err := io.ReadAll(reply.Body)
	if err != nil || !strings.HasPrefix(string(pdf), "%PDF") || len(pdf) < 20_000 {
		t.Errorf("the sheet: %d bytes, %v", len(pdf), err)
	}
}

func TestDecidingRowsThatShareNothing(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP20", undecided)
	v.see("aside", "SP20 is joined to E3")
	v.press(input.Enter)
	v.until("SP20 is decided and the cursor is on the next open row",
		func() bool { return v.decided() == 1 && strings.Contains(v.selected(), "SP21") })

	v.press('x') // not A3
	v.see("aside", "SP21 (undecided|goes|may be)")
	v.press('g')
	v.until("it goes", func() bool { return v.decided() == 2 })
	v.press('u')
	v.until("the last change is taken back", func() bool { return v.decided() == 1 })

	v.goTo("/jobs/packhorse/match?row=from%20SP26")
	v.see("aside h2", "SP26 may be B33")
	v.press(input.ArrowRight)
	v.see("aside h2", "SP26 may be E18")
	v.press(input.Enter) // less likely than not: it opens the choice
	v.see(".ant-modal", "E18 is offered, and is no more than")
	v.page.Keyboard.MustType([]input.Key("E18")...)
	v.see(".ant-select-item-option-active", "^E18") // what Enter takes is marked
	v.press(input.Enter)
	v.until("the candidate that was chosen is accepted", func() bool { return v.decided() == 2 })
	v.goTo("/jobs/packhorse/match?row=from%20SP26")
	v.see("aside h2", "SP26 is joined to E18")
	v.press('r')
	v.until("it is open again", func() bool { return v.decided() == 1 })

	v.goTo("/jobs/packhorse/match?row=from%20K13")
	v.see("aside h2", "K13")
	v.press('n')
	v.see(".ant-modal", "What is K13 fed from")
	v.press('b')
	v.until("it is fed from the battery", func() bool { return v.decided() == 2 })
	v.until("the cursor has gone on", func() bool { return strings.Contains(v.selected(), "K14") })
	v.press(input.ArrowUp)
	v.until("K13 stands where it stood, decided", func() bool {
		return strings.Contains(v.selected(), "K13") && strings.Contains(v.selected(), "fed from battery")
	})
}

// Whoever types on as soon as he has asked for a dialog types into it, on a slow machine too: no key falls on the
// button that closes it.
func TestWhatIsTypedAtOnceGoesIntoTheDialog(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP26", undecided)
	v.see("aside h2", "SP26 may be B33")
	v.press(input.ArrowRight)
	v.see("aside h2", "SP26 may be E18")
	v.see("aside", "50 % certain · or B33, 50 %") // it is not told as the next best to itself
	if err := (proto.EmulationSetCPUThrottlingRate{Rate: 8}).Call(v.page); err != nil {
		t.Fatal(err)
	}
	v.press(input.Enter)
	v.until("the dialog is there", func() bool {
		return v.page.MustEval(`() => document.querySelector('.ant-modal') !== null`).Bool()
	})
	v.press('E', '1', '8')
	v.until("the search has what was typed", func() bool {
		return v.page.MustEval(`() => document.querySelector('.ant-modal input')?.value`).Str() == "E18"
	})
	v.see(".ant-select-item-option-active", "^E18")
	v.press(input.Enter)
	v.until("what was looked for is chosen", func() bool { return v.decided() == 1 })
}

// Keys that come faster than the replies are all carried out, in their order.
func TestFastKeys(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.see("aside h2", "SP6 goes")
	v.press(input.Enter, input.Enter, input.Enter, input.Enter, input.Enter) // SP6 to SP10 go
	v.until("all five are decided", func() bool { return v.decided() == 5 })
	v.until("the cursor is on the next", func() bool { return strings.Contains(v.selected(), "SP11") })
	v.press('g', 'g', 'g')
	v.until("so are the next three", func() bool { return v.decided() == 8 && strings.Contains(v.selected(), "SP14") })
}

func TestLeftEmptyWantsAReason(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=to%20B30", undecided)
	v.see("aside h2", "B30 needs a wire")
	v.press('e')
	v.see(".ant-modal", "Why does B30 stay empty")
	v.page.MustElement(".ant-modal input").MustInput("the twin-clutch gearbox is not used")
	v.press(input.Enter)
	v.goTo("/jobs/packhorse/match?row=to%20B30")
	v.see("aside h2", "B30 left empty")
	v.see("aside", "the twin-clutch gearbox is not used")
}

func TestFindAndFilter(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.see("[data-testid=spread]", "SP1")
	v.press('/')
	v.page.Keyboard.MustType([]input.Key("clutch")...)
	v.until("only what has the word is shown",
		func() bool { return len(v.page.MustElements(".spread .rows .spreadrow")) <= 4 })
	if !strings.Contains(v.text(".spread .rows"), "Clutch switch") {
		t.Errorf("found %q", v.text(".spread .rows"))
	}
	v.press(input.Escape)
	v.until("all are shown again", func() bool { return len(v.page.MustElements(".spread .rows .spreadrow")) > 10 })
	if !strings.HasSuffix(v.page.MustInfo().URL, "/match") && strings.Contains(v.page.MustInfo().URL, "find=") {
		t.Errorf("the address still filters: %s", v.page.MustInfo().URL)
	}
	v.press(input.ArrowDown)
	v.until("keys work after Esc", func() bool { return strings.Contains(v.selected(), "SP2") })
}

func TestAnotherWindowSeesTheDecision(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.see("[data-testid=totals]", "0 decided")
	other := v.page.Browser().MustPage(v.url + "/jobs/packhorse/match?row=from%20SP20")
	defer other.MustClose()
	other.MustElementR("aside h2", "SP20 is joined to E3")
	other.MustElementR("aside button", "Accept E3").MustClick()
	v.until("the first window shows it", func() bool { return v.decided() == 1 })
}

// Nobody decides what they cannot see: a key pressed over a drawer or a dialog does nothing to the row behind it.
func TestKeysAreDeadBehindADialog(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.see("aside h2", "SP6 goes")
	for _, cover := range []struct {
		key   input.Key
		title string
	}{{'f', "Findings in"}, {'?', "undo the last change"}} {
		v.press(cover.key)
		v.see("[role=dialog]", cover.title)
		v.press('g', input.Enter, 'x')
		v.press(input.Escape)
		v.until("it is closed", func() bool {
			return v.page.MustEval(`() => ![...document.querySelectorAll('[role=dialog]')].some(d => d.checkVisibility())`).Bool()
		})
	}
	time.Sleep(300 * time.Millisecond) // for a decision that should not come
	if v.decided() != 0 {
		t.Errorf("%d rows were decided behind a dialog", v.decided())
	}
	v.press('g')
	v.until("the keys work again", func() bool { return v.decided() == 1 })
}

func TestFindingsLeadToTheirRow(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.click("[data-testid=findings]", "to check")
	v.see(".ant-drawer", "falls to about 8 V")
	v.click(".ant-drawer button.mono", "^K2$")
	v.see("aside h2", "K2")
}

func TestHousingsAreThePersonsToSay(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/match")
	v.see("[data-testid=totals]", "7 stay · 71 move")
	v.click("button", "Connectors")
	v.see(".ant-modal", "How is each connector met")
	v.page.MustElement(".ant-modal .ant-select").MustClick()
	v.pick(v.page.MustElementR(".ant-select-item-option", "new housing"))
	v.click(".ant-modal button", "^Keep$")
	v.until("nothing stays in plug A", func() bool { return !strings.Contains(v.text("[data-testid=totals]"), "7 stay") })
	v.press('u')
	v.see("[data-testid=totals]", "7 stay · 71 move")
}

func TestByDevice(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/match?group=1&system=emissions")
	v.see(".groupheading", "emissions · oxygen sensor")
	v.until("only that system is shown", func() bool {
		for _, h := range v.page.MustElements(".groupheading") {
			if !strings.HasPrefix(h.MustText(), "emissions") {
				return false
			}
		}
		return true
	})
}

func TestAPairThatMustNotBeIsRefused(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP1", undecided)
	v.see("aside h2", "SP1")
	v.press('c')
	v.see(".ant-modal", "Where does SP1 go")
	v.until("the search has the focus", func() bool {
		return v.page.MustEval(`() => document.activeElement.matches('.ant-modal .ant-select input')`).Bool()
	})
	v.page.Keyboard.MustType([]input.Key("E5 ")...)
	v.see(".ant-select-item-option-active", "Ground")
	v.press(input.Enter)
	v.see(".ant-message", "SP1 and E5 must not be joined")
	if v.decided() != 0 {
		t.Error("it was decided all the same")
	}
}

func TestTheSheetIsWalkedThrough(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin")
	first := v.see("[data-testid=step-text]", ".").MustText()
	v.press(input.ArrowDown)
	v.until("the next step is shown", func() bool { return v.text("[data-testid=step-text]") != first })
	v.press(input.End)
	v.see("main", "step 58 of 58")
	if !strings.Contains(v.page.MustInfo().URL, "step=58") {
		t.Errorf("the address does not say which step: %s", v.page.MustInfo().URL)
	}
}

// Enter takes nothing that is less likely than not: it opens the choice, which says how likely the likeliest is.
func TestEnterTakesNothingUnlikely(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.see("[data-testid=spread]", "SP1")
	lines := fetch[matchapi.MatchView](v, "/api/jobs/packhorse/match").Lines
	i := slices.IndexFunc(lines, func(l match.Line) bool {
		return l.Verdict == match.Undecided && len(l.Candidates) > 0 && l.Candidates[0].P < 0.45
	})
	at := lines[i].From
	v.goTo("/jobs/packhorse/match?row=from%20" + at.String())
	v.see("aside button", "^Accept .*…")
	before := v.stored()
	v.press(input.Enter)
	v.see(".ant-modal", "is offered, and is no more than")
	if v.stored() != before {
		t.Error("it was taken")
	}
}
