package browser

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// key is what a keyboard sends: what the key writes, where it is, and whether Shift is held for it.
type key struct {
	writes, code string
	shift        bool
}

// layouts says how a key is struck on five layouts. Source: the layouts as the operating systems ship them (US,
// British, German, French, Spanish), from memory.
var layouts = map[string]map[string]key{
	"US": {"?": {"?", "Slash", true}, "/": {"/", "Slash", false}, "+": {"+", "Equal", true}, "-": {"-", "Minus", false},
		"a": {"a", "KeyA", false}, "q": {"q", "KeyQ", false}, "v": {"v", "KeyV", false}, "2": {"2", "Digit2", false},
		"m": {"m", "KeyM", false}, "f": {"f", "KeyF", false}},
	"German": {"?": {"?", "Minus", true}, "/": {"/", "Digit7", true}, "+": {"+", "BracketRight", false},
		"-": {"-", "Slash", false}, "a": {"a", "KeyA", false}, "q": {"q", "KeyQ", false}, "v": {"v", "KeyV", false},
		"2": {"2", "Digit2", false}, "m": {"m", "KeyM", false}, "f": {"f", "KeyF", false}},
	"French": {"?": {"?", "KeyM", true}, "/": {"/", "Period", true}, "+": {"+", "Equal", true},
		"-": {"-", "Digit6", false},
		"a": {"a", "KeyQ", false}, "q": {"q", "KeyA", false}, "v": {"v", "KeyV", false}, "2": {"2", "Digit2", true},
		"m": {"m", "Semicolon", false}, "f": {"f", "KeyF", false}},
	"British": {"?": {"?", "Slash", true}, "/": {"/", "Slash", false}, "+": {"+", "Equal", true},
		"-": {"-", "Minus", false}, "a": {"a", "KeyA", false}, "q": {"q", "KeyQ", false}, "v": {"v", "KeyV", false},
		"2": {"2", "Digit2", false}, "m": {"m", "KeyM", false}, "f": {"f", "KeyF", false}},
	"Spanish": {"?": {"?", "Minus", true}, "/": {"/", "Digit7", true}, "+": {"+", "BracketRight", false},
		"-": {"-", "Slash", false}, "a": {"a", "KeyA", false}, "q": {"q", "KeyQ", false}, "v": {"v", "KeyV", false},
		"2": {"2", "Digit2", false}, "m": {"m", "KeyM", false}, "f": {"f", "KeyF", false}},
}

// strike sends what a keyboard of the layout sends for a key, Shift itself included.
func (v *visit) strike(layout, name string) {
	v.t.Helper()
	k := layouts[layout][name]
	send := func(kind proto.InputDispatchKeyEventType, key, code, text string, held int) {
		e := proto.InputDispatchKeyEvent{Type: kind, Key: key, Code: code, Text: text, Modifiers: held}
		if err := e.Call(v.page); err != nil {
			v.t.Fatal(err)
		}
	}
	held := 0
	if k.shift {
		held = 8
		send(proto.InputDispatchKeyEventTypeRawKeyDown, "Shift", "ShiftLeft", "", held)
	}
	send(proto.InputDispatchKeyEventTypeKeyDown, k.writes, k.code, k.writes, held)
	send(proto.InputDispatchKeyEventTypeKeyUp, k.writes, k.code, "", held)
	if k.shift {
		send(proto.InputDispatchKeyEventTypeKeyUp, "Shift", "ShiftLeft", "", 0)
	}
}

// Keys do what they write, wherever they are on the keyboard and whether they want Shift or not; the list of keys shows
// those of the page alone.
func TestKeysByWhatTheyWrite(t *testing.T) {
	for layout := range layouts {
		t.Run(layout, func(t *testing.T) {
			t.Parallel()
			v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
			v.page.MustElement(".spreadrow.selected")
			v.strike(layout, "q")
			v.strike(layout, "v")
			if v.page.MustHas(".ant-modal") {
				t.Error("q opens a dialog")
			}
			v.strike(layout, "?")
			help := v.see(".ant-modal", "Keys of this page").MustText()
			for text, want := range map[string]bool{"accept all above": true, "choose another cavity": true,
				"turn the connectors": true, "what is live as a tree": false, "tick the step": false,
				"type in the length": false, "the drawing: nearer": false} {
				if strings.Contains(help, text) != want {
					t.Errorf("%q in the keys of Match: %v", text, !want)
				}
			}
			v.page.MustElement(".ant-modal-close").MustClick()
			v.until("the keys are closed", func() bool {
				return !v.page.MustEval(`() => [...document.querySelectorAll('[role=dialog]')].some((d) => d.checkVisibility())`).Bool()
			})
			v.strike(layout, "/")
			v.until("the field is found", func() bool {
				return v.page.MustEval(`() => document.activeElement?.tagName`).Str() == "INPUT"
			})
			v.page.MustEval(`() => document.activeElement.blur()`)
			v.strike(layout, "a")
			v.see(".ant-modal", "[Aa]ccept")

			v.goTo("/jobs/packhorse/thin")
			v.drawn("S24")
			view := func(selector string) string { return *v.page.MustElement(selector).MustAttribute("viewBox") }
			was := view("[data-testid=drawing]")
			v.strike(layout, "+")
			v.until("the harness is nearer", func() bool { return view("[data-testid=drawing]") != was })
			v.strike(layout, "/")
			v.until("the field is found in Thin", func() bool {
				return v.page.MustEval(`() => document.activeElement?.tagName`).Str() == "INPUT"
			})
			v.page.MustEval(`() => document.activeElement.blur()`)
			v.strike(layout, "2")
			v.see("main", "285 of 285")

			v.goTo("/jobs/packhorse/handover?part=book&page=9")
			v.page.MustElement(".diagram svg")
			was = view(".diagram svg")
			v.strike(layout, "-")
			v.until("the drawing is farther", func() bool { return view(".diagram svg") != was })
		})
	}
}

// Letters are struck with Alt, or do nothing, as whoever works has chosen; no key is shown then that does nothing.
func TestLettersWithAltAndOff(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.page.MustElement(".spreadrow.selected")
	dialog := func() bool {
		return v.page.MustEval(`() => [...document.querySelectorAll('[role=dialog]')].some((d) => d.checkVisibility())`).Bool()
	}
	choose := func(way string) string {
		v.click("header button", "keys")
		v.click(".ant-segmented-item", "^"+way+"$")
		said := v.see(".ant-modal", "Keys of this page").MustText()
		v.page.MustElement(".ant-modal-close").MustClick()
		v.until("the keys are closed", func() bool { return !dialog() })
		return said
	}
	if said := choose("with Alt"); !strings.Contains(said, "as they are") {
		t.Error(said)
	}
	v.press('a')
	v.page.KeyActions().Press(input.AltLeft).Type('a').MustDo()
	v.see(".ant-modal", "Accept all above a certainty")
	v.press(input.Escape)
	v.until("it is closed", func() bool { return !dialog() })
	v.click("header button", "keys")
	v.see(".ant-modal kbd", "^Alt.A$")
	v.press(input.Escape)
	v.until("it is closed again", func() bool { return !dialog() })
	choose("off")
	v.press('a', '?')
	v.page.KeyActions().Press(input.AltLeft).Type('a').MustDo()
	time.Sleep(300 * time.Millisecond)
	if dialog() {
		t.Error("a letter does something")
	}
	v.page.MustReload()
	v.page.MustElement(".spreadrow.selected")
	if v.page.MustEval(`() => [...document.querySelectorAll('kbd')].some((k) => k.checkVisibility())`).Bool() {
		t.Error("keys are shown that do nothing")
	}
	v.press(input.ArrowDown)
	v.until("keys that write nothing do as ever", func() bool {
		return v.page.MustEval(`() => document.querySelector('.spreadrow.selected') && !location.search.includes('SP6')`).Bool()
	})
}

// Everything in a job is gone to by its words: a wire, a plug, a cavity, a function, a step, a view, a command.
func TestGoToAnything(t *testing.T) {
	v := open(t, "/jobs/packhorse")
	v.see("main", "Packhorse")
	ask := func(words, kind, at string) {
		t.Helper()
		keys := []input.Key{input.ControlLeft}
		if v.page.MustEval(`() => navigator.userAgent.includes('Mac')`).Bool() {
			keys[0] = input.MetaLeft
		}
		v.page.KeyActions().Press(keys...).Type('k').MustDo()
		v.page.MustElement("[aria-label='find anything in this job']")
		v.until("the field has the focus", func() bool {
			return v.page.MustEval(`() => document.activeElement?.getAttribute('role') === 'combobox'`).Bool()
		})
		v.press([]input.Key(words)...)
		if kind == "wire" { // at once, before anything is found
			v.press(input.Enter)
		} else {
			v.see(".gotolist li[aria-selected=true] .quiet", "^"+kind+"$")
			v.press(input.Enter)
		}
		v.until(words+" leads there", func() bool {
			return strings.Contains(v.page.MustInfo().URL, at)
		})
	}
	ask("7109c", "wire", "/thin?sel=wire%3A7109c")
	v.see("aside h2", "7109c")
	ask("ignition switch", "device", "/thin?sel=module")
	v.see("aside h2", "ignition switch")
	ask("SP26", "cavity", "/match?row=from%20SP26")
	v.page.MustElement(".spreadrow.selected")
	ask("tachometer", "function", "/join?sel=tach")
	ask("reach", "view", "/reach")
	ask("splice s13 cut", "step", "/work?step=")
	v.see(".workrow.selected", "splice S13 cut")
}
