package browser

import (
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/repin"
	"draxel/server/pinapi"
)

// pinned reads the re-pin sheet past the browser.
func (v *visit) pinned() pinapi.PinView {
	v.t.Helper()
	return fetch[pinapi.PinView](v, "/api/jobs/sorrel-refit/pin")
}

// fetch asks the server itself.
func fetch[T any](v *visit, path string) T {
	v.t.Helper()
	reply, err := http.Get(v.url + path)
	if err != nil {
		v.t.Fatal(err)
	}
	defer reply.Body.Close()
	var view T
	if err := json.NewDecoder(reply.Body).Decode(&view); err != nil {
		v.t.Fatal(err)
	}
	return view
}

// reason answers a dialog that asks for one, as soon as it has the focus.
func (v *visit) reason(text string) {
	v.t.Helper()
	v.until("the focus is on the reason", func() bool {
		return v.page.MustEval(`() => document.activeElement.getAttribute('aria-label') === 'the reason'`).Bool()
	})
	v.page.Keyboard.MustType([]input.Key(text)...)
	v.press(input.Enter)
}

func (v *visit) phone() {
	v.t.Helper()
	v.page.MustSetViewport(390, 844, 1, true)
	if err := (proto.EmulationSetTouchEmulationEnabled{Enabled: true}).Call(v.page); err != nil {
		v.t.Fatal(err)
	}
}

// swipe draws a finger over the middle of the page.
func (v *visit) swipe(from, to float64) {
	v.t.Helper()
	touch := func(kind proto.InputDispatchTouchEventType, points ...*proto.InputTouchPoint) {
		points = append([]*proto.InputTouchPoint{}, points...)
		if err := (proto.InputDispatchTouchEvent{Type: kind, TouchPoints: points}).Call(v.page); err != nil {
			v.t.Fatal(err)
		}
	}
	touch(proto.InputDispatchTouchEventTypeTouchStart, &proto.InputTouchPoint{X: from, Y: 300})
	touch(proto.InputDispatchTouchEventTypeTouchMove, &proto.InputTouchPoint{X: to, Y: 305})
	touch(proto.InputDispatchTouchEventTypeTouchEnd)
}

func (v *visit) network(cut bool) {
	v.t.Helper()
	if err := (proto.NetworkEnable{}).Call(v.page); err != nil {
		v.t.Fatal(err)
	}
	if err := (proto.NetworkEmulateNetworkConditions{Offline: cut, DownloadThroughput: -1,
		UploadThroughput: -1}).Call(v.page); err != nil {
		v.t.Fatal(err)
	}
}

// The sheet at the desk: a step is ticked and its tick taken back, the plan goes on, and a step that cannot come
// earlier says why.
func TestTheSheetIsTickedAtTheDesk(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin")
	v.see("[data-testid=step-text]", "Move the terminal from B20 to B37")
	v.press(' ')
	v.see("[data-testid=step-text]", "Move the terminal from B15 to B20")
	v.until("one is ticked", func() bool { return len(v.pinned().Done) == 1 })
	v.see(".steprow.done", "B20 → B37")
	v.see(".figures", "1 steps are done")
	v.press('[') // the one above is done: nothing to change places with
	v.press(input.ArrowDown)
	v.until(
		"the next one is selected",
		func() bool { return !strings.Contains(v.text("[data-testid=step-text]"), "B15 to B20") },
	)
	v.press('[')
	v.see(".ant-message", "cannot be done then")
	v.press(input.Home)
	v.see("[data-testid=step-text]", "B20 to B37")
	v.press(' ')
	v.until("the tick is taken back", func() bool { return len(v.pinned().Done) == 0 })
	v.press('v')
	v.see("figcaption", "you look at the mating face, lock at the top")
}

// What was done otherwise is recorded, and the plan goes on from there.
func TestDoneOtherwise(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin")
	v.see("[data-testid=step-text]", "B20 to B37")
	v.press('o')
	v.see(".ant-modal", "Done otherwise")
	v.choose("where it is now", "in B38")
	v.click("button", "That is what was done")
	v.see(".steprow.done", "B20 → B38")
	v.see("[data-testid=proof]", "Proven on the model")
	v.until("the plan moves it on", func() bool {
		return slices.ContainsFunc(
			v.pinned().Steps,
			func(s repin.Step) bool { return s.From.String() == "B38" && s.To.String() == "B37" },
		)
	})
}

// Thin's work in the same view: the gate asks for its reason, and a wire that does not come out is said.
func TestThinAtTheBench(t *testing.T) {
	v := open(t, "/jobs/packhorse/bench?stage=thin")
	v.see("[data-testid=bench-text]", "Before the first cut")
	for range 30 {
		if regexp.MustCompile("(?i)gate").MatchString(v.page.MustElement("main").MustText()) ||
			v.page.MustHas(".missing") {
			break
		}
		was := v.text("[data-testid=count]")
		v.press(' ')
		v.until("the next step is shown", func() bool { return v.text("[data-testid=count]") != was })
	}
	v.press(' ')
	v.see(".ant-modal", "Pass the gate all the same")
	was := v.text("[data-testid=count]")
	v.reason("a spare harness lies there")
	v.until("the gate is passed", func() bool { return v.text("[data-testid=count]") != was })
}

// A face is said in words, drawn from both sides, kept, saved and opened again.
func TestAFaceIsSaidInWords(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin?part=faces")
	v.see("h2", "Plug A, 52-way")
	v.press(input.ArrowDown)
	v.see("h2", "Plug B, 38-way")
	words := "[aria-label='the face in words']"
	v.write(words, "3 rows of 13, 13, 12 sideways")
	v.press(input.Enter)
	v.see("[role=alert]", `"sideways" is not understood`)
	v.write(words, "3 rows of 13, 13, 12, from top left, unsealed, 2.8 mm, family u28, male, wedge")
	v.press(input.Enter)
	v.see("dl", "2.8 mm male, family u28")
	v.see("figcaption", "mating face, lock at the top")
	v.click("button", "Keep this face")
	v.until("it is kept", func() bool { return v.pinned().Housings[1].Layout.Terminal.Family == "u28" })
	v.goTo("/jobs/sorrel-refit/pin?part=parts")
	v.see("[data-testid=orders]", "2.8 mm male, family u28")
	reply, err := http.Get(v.url + "/api/jobs/sorrel-refit/pin/faces.json")
	if err != nil {
		t.Fatal(err)
	}
	defer reply.Body.Close()
	file := filepath.Join(t.TempDir(), "faces.json")
	var faces json.RawMessage
	if err := json.NewDecoder(reply.Body).Decode(&faces); err != nil || os.WriteFile(file, faces, 0o600) != nil {
		t.Fatal(err)
	}
	v.goTo("/jobs/sorrel-refit/pin?part=faces&connector=B")
	v.click("button", "Forget it")
	v.until("it is forgotten", func() bool { return v.pinned().Housings[1].Layout == nil })
	v.page.MustElement("[aria-label='file of faces']").MustSetFiles(file)
	v.until("it is there again", func() bool { return v.pinned().Housings[1].Layout != nil })
}

// Parts are ticked off, and two outputs of a kind are exchanged with the settings.
func TestPartsAndOutputs(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin?part=parts")
	v.see("[data-testid=spares]", "A46")
	v.page.MustElement("[data-testid=orders] input").MustClick()
	v.until("the pick is there", func() bool { return v.pinned().Orders[0].Have })
	for _, x := range [][2]string{{"one output", "Fuel pump relay"}, {"the other output", "Main relay"}} {
		name, words := x[0], x[1]
		v.page.MustElement("[aria-label='" + name + "']").MustFocus()
		v.page.Keyboard.MustType([]input.Key(words)...)
		v.see(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option-active", words)
		v.press(input.Enter)
	}
	v.click("button", "^Exchange$")
	v.see("[data-testid=settings]", "drives Fuel pump relay")
	v.click("button", "Take it back")
	v.until("it is taken back", func() bool { return len(v.pinned().Settings) == 0 })
}

// A wire joins another in Match; two outputs that are not one are refused.
func TestAWireJoinsAnother(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/match?open=1")
	row := v.selected()
	v.press('j')
	v.see(".ant-modal", "Which wire does")
	v.until("the search has the focus", func() bool {
		return v.page.MustEval(`() => document.activeElement.matches('.ant-modal .ant-select input')`).Bool()
	})
	v.page.Keyboard.MustType([]input.Key("Power ground 1")...)
	v.see(".ant-select-item-option-active", "Power ground 1")
	v.press(input.Enter)
	v.until("it was answered", func() bool {
		return v.page.MustHas(".ant-message-notice") || v.selected() != row
	})
	v.until("the answer is on the screen", func() bool {
		return regexp.MustCompile("must not share a wire|joins").MatchString(v.page.MustElement("body").MustText())
	})
}
