package browser

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// The main path by keyboard: from one function to the next, the tachometer put right by a setting of the unit, a
// function given up with what the law may say, the unit's brake switch to which nothing comes, and a condition that
// is tried.
func TestJoinByKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/join?sel=charge")
	v.see("[data-testid=joinstanding]", "work on paper")
	v.press(input.ArrowDown)
	v.see("aside h2", "tachometer")
	v.see("[data-testid=sum]", "80 % of what is true")
	v.click("button", "Take this way")
	v.see("[data-testid=sum]", "shows what is true")
	v.see("[data-testid=programmer]", "tachometer output: 2.5 pulses a revolution")
	v.press('u')
	v.see("[data-testid=sum]", "80 % of what is true")
	v.page.MustElement("[aria-label='pulses a revolution that the dial expects']").MustSelectAllText().MustInput("0")
	v.press(input.Enter)
	v.see("[data-testid=sum]", "cannot be pulses a revolution")
	v.goTo("/jobs/packhorse/join?sel=oxygen")
	v.see("aside h2", "oxygen sensors")
	v.press('g')
	v.see(".ant-modal", "may be unlawful")
	v.page.MustElement(".ant-modal [aria-label*=reason]").MustInput("off the road, checked with the owner")
	v.press(input.Enter)
	v.see("[data-testid=programmer]", "P0135")
	v.see("aside", "given up: it was decided")
	v.goTo("/jobs/packhorse/join?sel=brake")
	v.see("aside", "nothing of it comes to A27, B33")
	v.see(".path", "leads to nothing of this function")
	v.goTo("/jobs/packhorse/join?sel=start")
	v.see("[data-testid=holds]", "master switch")
	v.see("[data-testid=holds]", "IS4")
	v.click(".path button", "^run$")
	v.see("[data-testid=holds]", "does not work in run")
	v.goTo("/jobs/packhorse/join?sel=brake")
	v.see("aside h2", "brake lamps")
	v.see("[data-testid=holds]", "rear lamp left does not work")
	v.click(".path .keytab", "^brake lamp switch")
	v.see("[data-testid=holds]", "switch brake lamp switch[^]*rear lamp left")
	v.press('2')
	v.see("[data-testid=try]", "Pulled: main relay")
	v.see("[data-testid=conditions] tr", "pump relay[^]*–[^]*–[^]*–[^]*pulled[^]*pulled")
	v.press(input.ArrowRight, input.ArrowRight)
	v.see("[data-testid=try] .keytab.on", "running")
	v.see("[data-testid=try]", "Pulled: main relay, pump relay")
	v.click(".output", "^A8")
	v.click(".output", "^A8")
	v.see("[data-testid=try]", "Stops: fuel pump")
	v.see("[data-testid=rules]", "B18 when coolant above 95 or A/C request: off")
	v.page.MustElement("[aria-label=coolant]").MustInput("96")
	v.see("[data-testid=rules]", "B18 when coolant above 95 or A/C request: on")
	v.click("[aria-label='what the rules ask for'] button", "a/c request")
	v.see("[data-testid=rules]", "B32 when A/C request and not full throttle: on")
}

// A finding of Join leads to its function.
func TestFindingsOfJoinLead(t *testing.T) {
	v := open(t, "/jobs/packhorse/join")
	v.see("aside h2", ".")
	v.press('f')
	v.click(".ant-drawer button", "^tachometer$")
	v.see("aside h2", "tachometer")
}

// The missing interlock is found and put right: a relay in the start wire that the clutch switch grounds. It is a part
// and a step of the work, and is taken out again; an input to which nothing comes gets a wire.
func TestJoinBringsParts(t *testing.T) {
	v := open(t, "/jobs/packhorse/join?sel=interlock")
	v.see("aside", "cranks in gear")
	v.click("[data-testid=sum] button", "Take this way")
	v.choose("the wire is cut behind", "OST-1")
	v.choose("the wire of the switch, which closes to ground", "OCL-1 ")
	v.click("[data-testid=sum] button", "Take this way")
	v.see("aside", "works on paper")
	v.press('3')
	v.see("[aria-label=parts]", "K1[^]*start relay, 30 A[^]*in the wire behind OST-1")
	v.see("[aria-label='named twice']", "OST-1[^]*about 12 V in crank alone")
	v.click("[aria-label=parts] tr:nth-child(1) button", "Take it out")
	v.see("aside", "cranks in gear")
	v.goTo("/jobs/packhorse/join?sel=brake")
	v.click(".need button", "A wire to A27")
	v.choose("from A27 to", "RL1 ")
	v.click(".need button", "Lay it")
	v.until("A27 is no more asked for", func() bool { return !strings.Contains(v.text("aside"), "A27") })
	v.see(".path", "A27[^]*rear lamp left")
	v.click(".need a", "Match")
	v.see(".spreadrow.selected", "B33")
}
