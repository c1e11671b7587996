package browser

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/demo"
)

// A wire is found by what it is for, and its whole circuit is lit in the drawing.
func TestAWireIsFoundAndItsCircuitLit(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin", undecided)
	v.drawn("S24")
	v.press('/')
	v.page.MustElement("[aria-label='find a wire']").MustInput("heaters and valves")
	v.see(".ant-select-item-option", "7109c")
	v.press(input.Enter)
	v.see("aside h2", "7109c")
	lit := func() int {
		return v.page.MustEval(`() => document.querySelectorAll('[data-testid=drawing] rect[stroke="var(--petrol)"]').length`).Int()
	}
	v.until("the circuit is lit", func() bool { return lit() >= 14 })
	v.page.MustEval(`() => { document.querySelector('[data-testid=drawing] [data-on=connector][data-id=WC] rect').dispatchEvent(new MouseEvent('click', { bubbles: true })); return true }`)
	v.see("aside h2", "connector WC")
	v.until("one connector is marked", func() bool { return lit() == 1 })
}

// The drawing is brought nearer by the wheel and by keys, dragged, and shown whole.
func TestTheDrawingIsMoved(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin", undecided)
	v.drawn("S24")
	box := func() (x, w float64) {
		var y, h float64
		if _, err := fmt.Sscanf(v.page.MustEval(`() => document.querySelector('[data-testid=drawing]').getAttribute('viewBox')`).Str(), "%g %g %g %g", &x, &y, &w, &h); err != nil {
			t.Fatal(err)
		}
		return x, w
	}
	_, first := box()
	v.press('+')
	v.until("it is nearer", func() bool { _, w := box(); return w < first*0.9 })
	v.page.Mouse.MustMoveTo(700, 400)
	v.page.Mouse.MustScroll(0, -200)
	_, nearer := box()
	v.until("the wheel brings it nearer still", func() bool { _, w := box(); return w < first*0.75 && w <= nearer })
	x, _ := box()
	v.page.Mouse.MustDown(proto.InputMouseButtonLeft)
	v.page.Mouse.MustMoveTo(600, 400)
	v.page.Mouse.MustUp(proto.InputMouseButtonLeft)
	v.until("it was dragged", func() bool { now, _ := box(); return now > x+20 })
	v.click("button", "^Whole$")
	v.until("the whole is shown", func() bool { now, w := box(); return now == 0 && w > first })
}

// Systems are gone through by the arrow keys, opened and closed.
func TestSystemsFromTheKeyboard(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=system:brakes", undecided)
	v.see("aside h2", "system brakes")
	v.press(input.ArrowDown)
	v.see("aside h2", "system emissions")
	v.press(input.ArrowRight, input.ArrowDown)
	v.see("aside h2", "exhaust recirculation valve")
	v.press(input.ArrowDown)
	v.see("aside h2", "connector ER")
	v.press('k')
	v.see("aside", "Decided: kept")
	v.press('u')
	v.until("it is taken back", func() bool { return !strings.Contains(v.text(".thin .reasons"), "Decided: kept") })
}

// What is proposed is taken over only when asked to.
func TestAProposalIsTakenOver(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin", undecided, func(j *stored.Job) { j.Kind = stored.Standalone })
	v.see("[data-testid=proposed]", "lighting goes")
	v.see("[data-testid=balance]", "33 go")
	v.click("[data-testid=proposed] button", "Take over")
	v.until("what was proposed is decided", func() bool {
		return !strings.Contains(v.text("[data-testid=balance]"),
			"33 go")
	})
}

// An earlier job's map is applied, and each decision verified.
func TestAnEarlierMapIsVerified(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=vehicles", func(j *stored.Job) {
		j.Thin = []thin.Decision{{On: thin.Module, ID: "alarm", Choice: thin.Goes, Reason: "no key"}}
	})
	v.goTo("/")
	v.see("main", "Packhorse")
	file := t.TempDir() + "/second.json"
	v.page.MustEval(`async () => { window.text = await (await fetch('/api/jobs/packhorse/file')).text(); return true }`)
	text := v.page.MustEval(`() => { const f = JSON.parse(window.text); f.job.title = 'Second'; delete f.job.thin; return JSON.stringify(f) }`).Str()
	writeFile(t, file, text)
	v.page.MustElement("input[type=file]").MustSetFiles(file)
	v.see("header, main", "Second")
	v.until("the second job is open", func() bool { return strings.Contains(v.page.MustInfo().URL, "/jobs/") })
	job := strings.Split(strings.TrimPrefix(v.page.MustInfo().URL, v.url+"/jobs/"), "/")[0]
	v.goTo("/jobs/" + job + "/gather?part=vehicles")
	v.see("main", "An earlier job")
	v.choose("earlier job", "^Packhorse$")
	v.click("button", "Apply it")
	v.see(".ant-message", "1 decisions? brought")
	v.goTo("/jobs/" + job + "/thin")
	v.see("[data-testid=proposed]", "alarm goes")
	v.see("[data-testid=balance]", "0 go")
	v.click("[data-testid=proposed] button", "Take over")
	v.see("[data-testid=balance]", "3 go")
}

// A tick is taken back, unless something that was done later rests on it.
func TestATickIsTakenBack(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?part=work", undecided)
	v.see("[data-testid=balance]", "0 of 86 steps")
	v.see(".workrow.selected", "caution")
	v.press(input.Space)
	v.see("[data-testid=balance]", "1 of 86 steps")
	v.page.MustElement(".workrow.done input").MustClick()
	v.see("[data-testid=balance]", "0 of 86 steps")
	v.press('u')
	v.see("[data-testid=balance]", "1 of 86 steps")
	v.click(".workrow", "trim legs")
	v.see(".workrow.selected", "First: the gate before the first cut")
	v.click(".workrow.selected button", "show 7452")
	v.see("aside h2", "7452")
}

// What one person decides another sees at once.
func TestTwoWindowsShowOneHarness(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=system:lighting", undecided)
	v.see("[data-testid=balance]", "33 go")
	other := v.page.Browser().MustPage(v.url + "/jobs/packhorse/thin?sel=system:lighting")
	other.MustElementR("[data-testid=balance]", "33 go")
	v.press('g')
	v.until("the other window shows it", func() bool {
		return !strings.Contains(other.MustElement("[data-testid=balance]").MustText(), "33 go")
	})
	other.MustClose()
}

// At a thousand wires the drawing is whole, no label runs out of its box, and a decision is answered.
func TestAThousandWiresAreLegible(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=connector:WB", func(j *stored.Job) { demo.Enlarge(j, 3) })
	v.drawn("S24c2")
	out := v.page.MustEval(`() => [...document.querySelectorAll('[data-testid=drawing] g.spot')].filter((g) => {
		const rect = g.querySelector('rect');
		return rect && [...g.querySelectorAll('text'), g.nextElementSibling].filter((t) => t &&
			t.matches('text')).some((t) => t.getBBox().x + t.getBBox().width > rect.getBBox().x + rect.getBBox().width + 1);
	}).map((g) => g.getAttribute('aria-label')).slice(0, 5).join('; ')`).Str()
	if out != "" {
		t.Errorf("labels run out of their boxes: %s", out)
	}
	small := v.page.MustEval(`() => { const t = document.querySelector('[data-testid=drawing] .spotname'); return t.getBoundingClientRect().height }`).Num()
	if small < 9 {
		t.Errorf("names are %.1f px high", small)
	}
	v.click(".systemrow .name", "^climate$")
	v.press('k')
	v.see("aside", "Decided: kept")
}

// A list is brought as a file; one that says nothing is refused with the reason.
func TestAListIsBroughtAsAFile(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=lists&list=branches", func(j *stored.Job) { delete(j.Sheets, "branches") })
	v.see("[role=gridcell].on", "add")
	v.page.MustElement("input[type=file]").MustSetFiles("../demo/packhorse/branches.csv")
	v.see("[data-testid=reading]", "18 lines taken, 0 not")
	v.click("button", "Keep this list")
	v.see("[data-testid=factgrid]", "Sorrel trunk")
	v.see(".listtab.on", "18")
	bad := t.TempDir() + "/bad.csv"
	writeFile(t, bad, "a,b\n1,2\n")
	v.page.MustElement("input[type=file]").MustSetFiles(bad)
	v.see(".ant-modal [role=alert]", "No column names the branch: say which one does")
	v.choose("column 1", "^Branch$")
	v.see("[data-testid=reading]", "2 lines taken")
	v.click("button", "Leave it")
	v.until("the dialog is gone", func() bool { return !v.page.MustHas(".ant-modal-wrap:not([style*=none]) .ant-modal") })
	v.page.MustElement("[data-testid=factgrid]").MustFocus()
	v.press(input.F2)
	v.press(input.Escape)
	v.press(input.Delete)
	v.see("[data-testid=rejected]", "1 lines are not taken: line 2, no branch is named")
	v.press('u')
}

// The key table, the queue and the beliefs are read anew after a reading is taken back.
func TestAReadingIsTakenBack(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=readings")
	v.see("[data-testid=keytable]", "start, on in crank alone")
	v.click(".noted button", "take back") // the latest: IS4 in crank
	v.until("the table is read anew", func() bool {
		return strings.Contains(v.text("[data-testid=keytable]"), "dead in every position measured")
	})
	v.page.MustElement("[aria-label=connector]").MustInput("IS")
	v.page.MustElement("[aria-label=cavity]").MustInput("4")
	v.choose("position of the key", "^crank$")
	v.page.MustElement("[aria-label=value]").MustInput("nonsense")
	v.click("button", "Note it")
	v.see(".ant-message", "Give the value as a number")
	v.page.MustElement("[aria-label=value]").MustSelectAllText().MustInput("10.4")
	v.click("button", "Note it")
	v.see("[data-testid=keytable]", "start, on in crank alone")
	v.see("main", "P102")
	v.click("main a", "P102")
	v.see("aside h2", "P102")
}

func writeFile(t *testing.T, path, text string) {
	t.Helper()
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
}

// What was cut and is wanted after all is mended: ticks outlive a plan that changes.
func TestACutThatIsNotWantedAnyMoreIsMended(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?part=work", undecided)
	v.see("[data-testid=balance]", "0 of 86 steps")
	v.click(".workrow", "^2\\s*gate|gate")
	v.press(input.Space)
	v.see(".ant-modal", "The gate is not complete")
	v.page.MustElement("[aria-label='the reason']").MustInput("a scrap harness")
	v.press(input.Enter)
	v.see("[data-testid=balance]", "1 of 86 steps")
	v.click(".workrow", "At splice S6 cut 7452")
	v.see(".workrow.selected", "First: Take the battery")
	v.click(".workrow", "Take the battery")
	v.press(input.Space)
	v.see("[data-testid=balance]", "2 of 86 steps")
	v.click(".workrow", "At splice S6 cut 7452")
	v.press(input.Space)
	v.see("[data-testid=balance]", "3 of 86 steps")
	v.see("[data-testid=balance]", "1 ends pulled")
	v.goTo("/jobs/packhorse/thin?sel=wire:7452")
	v.see("[data-testid=verdict]", "goes")
	v.press('k')
	v.see("[data-testid=verdict]", "kept")
	v.press('3')
	v.see("[data-testid=proof]", "steps that are left can be carried out on the model. Something was done")
	v.until("the step that mends it is on the list", func() bool { // it is drawn when it comes into sight
		v.page.MustElement("[data-testid=work]").MustEval(`function() {
			const end = this.scrollTop + this.clientHeight >= this.scrollHeight - 1;
			this.scrollTop = end ? 0 : this.scrollTop + this.clientHeight / 2;
			return true;
		}`)
		return v.page.MustHasR(".workrow", "Join 7452 .* to its stub again")
	})
}

// A harness that is only to be made lighter: a list of its wires, typed or pasted, and the work follows. No second
// pinout.
func TestAThinningJobFromNothing(t *testing.T) {
	v := open(t, "/")
	v.click("button", "New job")
	v.write("#title", "Track car")
	if !v.page.MustElementR(".ant-modal button", "Make the job").MustProperty("disabled").Bool() {
		t.Error("it can be made before it is known what it is")
	}
	v.click(".ant-modal button.answer", "another control unit")
	v.click(".ant-modal button.answer", "cavity by cavity")
	v.see(".ant-modal legend", "How many cylinders")
	v.click(".ant-modal button.answer.on", "another control unit") // it is answered anew
	v.click(".ant-modal button.answer", "more in it than is wanted")
	v.see("[data-testid=kindfound]", "Thinning only")
	v.click("button", "Make the job")
	v.see("h1", "Bring the pinout")
	v.click(".rail a", "Thin")
	v.see("h1", "No harness yet")
	v.click("a", "To Gather")
	v.click("nav a", "Lists")
	v.see("[role=gridcell].on", "add")
	v.page.MustEval(`() => {
		const clipboardData = new DataTransfer();
		clipboardData.setData('text/plain', 'W1\tA\t1\tS1\t\tGN\t0.5\t\tBlower motor\nW2\tS1\t\tB\t1\tGN\t0.5\t\tBlower motor\nW3\tS1\t\tC\t1\tGN\t0.5\t\tHorn\nW4\tS1\t\tD\t1\tGN\t0.5\t\tHorn');
		document.querySelector('[data-testid=factgrid]').dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
		return true;
	}`)
	v.see(".listtab.on", "4")
	v.click(".rail a", "Thin")
	v.drawn("S1")
	v.goTo(strings.Split(strings.TrimPrefix(v.page.MustInfo().URL, v.url), "?")[0] + "?sel=wire:W2")
	v.see("aside h2", "W2")
	v.press('g')
	v.see("[data-testid=balance]", "1 go")
	v.press('3')
	v.see("[data-testid=work]", "At splice S1 cut W2 GN 60 mm from the splice")
	v.see("[data-testid=proof]", "Proven on the model")
}

// A finding about wires that pass through a connector which goes leads to that connector.
func TestFindingsOfThinLeadThere(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin")
	v.see("[data-testid=balance]", "of 88 steps")
	v.press('f')
	v.click(".ant-drawer button.mono", "^SP26$")
	v.see("aside h2", "^connector SP$")
}
