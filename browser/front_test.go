package browser

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// A job opens at its front page: what is next leads to the work, what can hurt to its stage, each stage to its own.
func TestTheFrontPageLeadsToWhatIsNext(t *testing.T) {
	v := open(t, "/jobs/packhorse")
	v.see("[data-testid=next]", "Next")
	v.see("[data-testid=standing]", "Match[^]*wires decided[^]*Prove[^]*gates passed[^]*Hand over")
	v.see("[data-testid=danger]", "that can hurt[^]*Last[^]*the job was made")
	step := strings.TrimSpace(v.text(".frontstep"))
	v.click(".frontstep a", ".")
	v.see(".workrow.selected, .workrow", ".")
	if first := v.page.MustEval(`() => document.querySelector('.workrow').innerText`).String(); !strings.Contains(
		first,
		step[:12],
	) {
		t.Errorf("next is %q, and the list begins with %q", step, first)
	}
	v.click("nav a", "^Front$")
	v.click("[data-testid=standing] a", "^Prove$")
	v.see("[data-testid=provestanding]", "measurements")
}

// A list that is not zero holds the hand-over: refused without a reason, kept with one; an owner takes a thing off
// what is open. The book is drawn on screen, and a wire leads to where it is decided.
func TestTheHandOverIsHeld(t *testing.T) {
	v := open(t, "/jobs/packhorse/handover")
	v.see("[data-testid=handoverstanding]", "1[0-9][0-9] open")
	was := v.text("[data-testid=handoverstanding]")
	v.page.MustElement("[aria-label='say it']").MustInput("jumper from 30 to 87")
	v.page.MustElement("[aria-label=where]").MustInput("pump relay socket")
	v.click("button", "Note it")
	v.see("[data-testid=list-temporary]", "jumper from 30 to 87, pump relay socket")
	v.click("button", "it is gone")
	v.until("it is gone", func() bool { return v.text("[data-testid=handoverstanding]") == was })
	v.click("[data-testid=list-gates] button", "It stays open")
	v.page.MustElement(".ant-modal [aria-label=owner]").MustInput("Fen")
	v.page.MustElement(".ant-modal [aria-label='why it stays open']").MustInput("when the unit is back")
	v.press(input.Enter)
	v.see("[data-testid=list-gates]", "Fen: when the unit is back")
	v.press('4')
	v.see("main", "NOT FINISHED")
	v.expects = "409"
	v.click("button", "Keep this state")
	v.see(".ant-modal", "are open and nobody owns them")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("the owner waits")
	v.press(input.Enter)
	v.see("[data-testid=states]", "as delivered[^]*the owner waits")
	v.click("[data-testid=states] button", "What has changed since")
	v.see(".ant-modal", "Nothing differs")
	v.press(input.Escape)
	v.goTo("/jobs/packhorse/handover")
	v.click("[data-testid=list-findings] button", "^all ")
	v.click("[data-testid=list-findings] a", "headlamp left does not work") // a finding of Prove leads there
	v.see("[data-testid=suspects]", "What could be wrong")
	v.goTo("/jobs/packhorse/handover?part=book")
	v.click(".bookpage", "Fuel pump")
	v.see("[data-testid=bookwires]", "P113[^]*Fuel pump feed")
	v.see(".diagram", "pump relay")
	v.click("[data-testid=bookwires] a", "^P113$")
	v.see("main, aside", "P113")
}
