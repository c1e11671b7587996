package browser

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// choose selects a line of a select that is named so.
func (v *visit) choose(name, option string) {
	v.t.Helper()
	e := v.page.MustElement("[aria-label='" + name + "']")
	e.MustFocus()
	if err := v.page.Keyboard.Type(input.ArrowDown); err != nil {
		v.t.Fatal(err)
	}
	o, err := v.page.ElementR(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option", option)
	if err != nil {
		v.t.Fatalf("no option %q of %s: %v", option, name, err)
	}
	v.pick(o)
}

// pick clicks on a line of an open list, once the list has come to rest: while it slides open a click hits a neighbour.
func (v *visit) pick(o *rod.Element) {
	v.t.Helper()
	if err := o.WaitStable(100 * time.Millisecond); err != nil {
		v.t.Fatal(err)
	}
	o.MustClick()
}

// drawn waits until the drawing has that text in it.
func (v *visit) drawn(text string) {
	v.t.Helper()
	v.until(text+" is drawn", func() bool {
		return v.page.MustEval(`(text) => document.querySelector('[data-testid=drawing]')?.textContent.includes(text) ?? false`, text).Bool()
	})
}

// A system is decided from the keyboard, a splice is seen trimmed, an exception is made, and undone.
func TestASystemIsDecidedAway(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin", undecided)
	v.drawn("S24")
	v.click(".systemrow .name", "^climate$")
	v.see("aside h2", "system climate")
	v.page.MustElement("[aria-label=reason]").MustInput("a trial")
	v.press(input.Escape)
	v.press('g')
	v.see("[data-testid=balance]", "39 go")
	v.see("aside", "Decided: goes: a trial")
	v.goTo("/jobs/packhorse/thin?sel=splice:S5")
	v.see("[data-testid=fate]", "trim the dead legs 4 legs stay")
	v.click("button.leg", "7442")
	v.see("[data-testid=verdict]", `goes[\s\S]*from system climate: a trial`)
	v.press('k')
	v.see("[data-testid=verdict]", `kept[\s\S]*decided about this wire itself`)
	v.press('u')
	v.see("[data-testid=verdict]", "from system climate: a trial")
}

// The classic disaster: a plug that looks like a door's carries half the body.
func TestTheClassicDisasterAsksForItsReason(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=connector:WB", undecided)
	v.see("[data-testid=cut]", "The law may want: .*brake lamps")
	v.see("[data-testid=cut]", "functions die")
	v.press('g')
	v.see(".ant-modal", "WB carries .* wires that are not decided away")
	v.until("the focus is on the reason", func() bool {
		return v.page.MustEval(`() => document.activeElement.getAttribute('aria-label') === 'the reason'`).Bool()
	})
	v.press(input.Escape)
	v.until("the dialog is gone", func() bool { return !v.page.MustHas(".ant-modal-wrap:not([style*=none]) .ant-modal") })
	v.see("[data-testid=balance]", "33 go")
	v.goTo("/jobs/packhorse/thin?sel=connector:KB")
	v.see("[data-testid=cut]", "somebody else's")
	v.press('g')
	v.see(".ant-message", "somebody else's")
}

func TestAWireIsTracedAndCorrected(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=wire:P102", undecided)
	v.see("aside", "nobody knows what for")
	v.click("button", "Trace it")
	v.page.MustElement("#trace-connector").MustInput("GB")
	v.page.MustElement("#trace-cavity").MustInput("4")
	v.click("button", "That is what I saw")
	v.see("[data-testid=belief]", "Was believed: not seen. Now: GB4")
	v.see("aside", "GB4")
	v.goTo("/jobs/packhorse/gather?part=readings")
	v.see("main", "goes to GB4")
}

// An earth by the meter, though the wire has a feed's colour.
func TestAReadingOverturnsAColour(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=readings")
	v.see("[data-testid=keytable]", "start, on in crank alone")
	v.page.MustElement("[aria-label=connector]").MustInput("K")
	v.page.MustElement("[aria-label=cavity]").MustInput("18")
	v.choose("what was measured", "^ohms$")
	v.page.MustElement("[aria-label=value]").MustInput("0,2")
	v.press(input.Enter)
	v.see("[data-testid=keytable]", "ground")
	v.see("main", "K18.*0.2 Ω to ground")
	v.goTo("/jobs/packhorse/match?row=from%20K18")
	v.see("[data-testid=spread]", "K18")
	v.press('f')
	v.see(".ant-drawer", "K18, Winch contactor, measures as ground")
}

func TestTheWorkIsTickedAndTheCountsBalance(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?part=work", undecided)
	v.see("[data-testid=proof]", "Proven on the model")
	v.see("[data-testid=balance]", "0 of 86 steps")
	v.see(".workrow.selected", "caution")
	v.press(input.Space) // the battery is off
	v.see("[data-testid=balance]", "1 of 86 steps")
	v.see(".workrow.selected", "gate")
	v.see(".missing", "no photograph")
	v.press(input.Space)
	v.see(".ant-modal", "The gate is not complete")
	v.page.MustElement("[aria-label='the reason']").MustInput("a scrap harness")
	v.press(input.Enter)
	v.see("[data-testid=balance]", "2 of 86 steps")
	for range 10 { // faster than the replies
		v.press(input.Space)
	}
	v.see("[data-testid=balance]", "12 of 86 steps")
	v.see("[data-testid=balance]", `1 ends pulled = 0 joined \+ 0 stock \+ 0 capped \+ 0 parked \+ 0 deleted \+ 1 in hand ✓`)
	v.click(".workrow", "falls out")
	v.click("button", "It does not come out")
	v.see("[data-testid=work]", "At splice S8 cut 7207s RD-OG 60 mm from the splice")
	v.see("[data-testid=work]", "Take splice S29 apart and join 7205s RD-OG, 7205s hidden leg RD-OG into one wire")
	v.see("[data-testid=proof]", "Proven on the model")
	v.click("button", "How we work")
	v.click("label", "cut and seal at the connector")
	v.click(".ant-modal button", "^Keep$")
	v.see("[data-testid=work]", "at the back of")
	v.see("[data-testid=proof]", "Proven on the model")
	v.click("button", "Stock and yard")
	v.see("[data-testid=stock]", "RD-OG")
}

// A list is edited from the keyboard, and a block is pasted into it.
func TestAListIsEditedFromTheKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=lists&list=branches")
	v.see("[data-testid=factgrid]", "Sorrel trunk")
	v.page.MustElement("[data-testid=factgrid]").MustFocus()
	v.press(input.ArrowRight, input.ArrowRight, input.ArrowRight)
	v.press('1', '4', '9', '9', input.Enter, '6', '2', '1', input.Enter) // faster than the replies
	v.see("[data-testid=factgrid]", `Sorrel trunk[\s\S]*1499[\s\S]*bank 1[\s\S]*621`)
	v.press(input.ArrowLeft, input.ArrowLeft, input.ArrowLeft)
	for range 20 {
		v.press(input.ArrowDown)
	}
	v.see("[role=gridcell].on", "add")
	v.page.MustEval(`() => {
		const clipboardData = new DataTransfer();
		clipboardData.setData('text/plain', 'new one\tSorrel trunk\t1400\nnew two\tSorrel trunk\t1420');
		document.querySelector('[data-testid=factgrid]').dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
		return true;
	}`)
	v.see("[data-testid=factgrid]", "new two")
	v.see(".listtab.on", "20")
	if err := v.page.KeyActions().Press(input.ControlLeft).Type(input.Delete).Do(); err != nil {
		t.Fatal(err)
	}
	v.see(".listtab.on", "19")
	v.goTo("/jobs/packhorse/thin")
	v.drawn("new two")
}

// What is noted at a connector counts at the gate; a photograph is kept without its place, a script is refused.
func TestAConnectorIsLabelledAndPhotographed(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=connectors")
	v.see("aside.side", "SP-5")
	picture := t.TempDir() + "/plug.png"
	shot, err := v.page.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
	if err != nil {
		t.Fatal(err)
	}
	for path, data := range map[string][]byte{picture: shot, t.TempDir() +
		"/bad.png": []byte("<script>alert(1)</script>")} {
		writeFile(t, path, string(data))
		v.page.MustElement("input[type=file]").MustSetFiles(path)
		if path == picture {
			v.see(".thumbs figure", "take away")
		} else {
			v.see("[role=alert]", "not a JPEG, PNG or WebP picture.*Nothing was kept")
		}
	}
	v.until("the thumbnail is shown", func() bool {
		return v.page.MustEval(`() => document.querySelector('.thumbs img').naturalWidth > 0`).Bool()
	})
	v.press(input.ArrowDown)
	v.see("aside.side", "^K")
	v.click("aside.side label", "a label is on it")
	v.see(".connectorrow.selected", "✓")
	v.see("main", "5 of 87 labelled")
}

func TestTheVehiclesAreDescribed(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=vehicles")
	v.see("main", "was not read on the part")
	v.click("label", "read on the part")
	v.click("label", "they confirmed that they can")
	v.click("button", "^Keep$")
	v.until("nothing is open about the unit", func() bool {
		return !strings.Contains(v.text("main"),
			"was not read on the part itself")
	})
	v.click("label", "the start interlock: the gearbox unit granted it")
	v.see("header", "undo")
	v.click("nav[aria-label='parts of Gather'] a", "Before teardown")
	v.page.MustElement("[aria-label='what was unplugged']").MustInput("airbag")
	v.click("label", "key was off")
	v.click("button", "Note it")
	v.see(".ant-message", "never restraint, high voltage, battery or alternator")
}
