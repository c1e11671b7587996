package browser

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/proto"
)

// key is what a keyboard sends: what the key writes, where it is, and whether Shift is held for it.
type key struct {
	writes, code string
	shift        bool
}

// layouts says how a key is struck on three layouts. Source: the layouts as the operating systems ship them (US,
// German, French), from memory.
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
