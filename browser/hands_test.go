package browser

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/join"
	"draxel/core/stored"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/joinapi"
)

// lagging answers each change only after a while, so that what hands do next is done without having seen it.
func lagging(wait time.Duration) func(http.Handler) http.Handler {
	return func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.Method != http.MethodGet && r.UserAgent() != "Go-http-client/1.1" {
				time.Sleep(wait)
			}
			h.ServeHTTP(w, r)
		})
	}
}

// Numbers are typed along the lines of the order list with Tab, faster than any reply: all of them are kept, also where
// a line is gone through twice, and where the last is what it was at first.
func TestNumbersTypedAlongTheOrderList(t *testing.T) {
	v := enter(t, "/jobs/packhorse/handover?part=money", nil, lagging(150*time.Millisecond))
	v.see("[data-testid=orders]", "price")
	v.page.MustEval(`() => document.querySelector('[aria-label^="there of"]').focus()`)
	typed := func(text string) {
		for _, r := range text {
			v.press(input.Key(r))
		}
		v.press(input.Tab)
	}
	const lines = 5
	for round := range 2 {
		v.page.MustEval(`() => { const f = document.querySelector('[aria-label^="there of"]'); f.focus(); f.select(); }`)
		for i := range lines {
			typed(fmt.Sprint(i + 1 + round))             // there
			typed(fmt.Sprint(2*i + round))               // ordered
			typed(fmt.Sprintf("2026-12-0%d", i+1+round)) // on
			typed(fmt.Sprint(3 + i + round))             // days
			typed([]string{"Ostrel", "Maro"}[round])     // supplier
			typed(fmt.Sprintf("%d.5", i+round))          // price
		}
	}
	v.until("nothing waits", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
	time.Sleep(time.Second) // the last one is not worth a word
	view := fetch[handoverapi.MoneyView](v, "/api/jobs/packhorse/handover/money")
	for i, l := range view.Lines[:lines] {
		s := l.Said
		if s.There != float64(i+2) || s.Ordered != float64(2*i+1) || s.On != fmt.Sprintf("2026-12-0%d", i+2) ||
			s.Days != 4+i || s.Supplier != "Maro" || s.Price != float64(i)+1.5 {
			t.Errorf("line %d, %s: %+v", i, l.What, s)
		}
	}
	v.page.MustEval(`() => { const f = document.querySelector('[aria-label^="price of"]'); f.focus(); f.select(); }`)
	typed("much")
	v.page.MustElement("[aria-invalid=true]")
	if got := v.page.MustElement("[aria-label^='price of']").MustProperty("value").Str(); got != "much" {
		t.Errorf("what is no number reads %q", got)
	}
}

// Wanted, not fitted, wanted, as fast as keys come: the last one holds.
func TestTheLastKeyHolds(t *testing.T) {
	v := enter(t, "/jobs/packhorse/join", nil, lagging(300*time.Millisecond), func(j *stored.Job) { j.Functions = nil })
	v.page.MustElement("[aria-selected=true]")
	for range 3 {
		v.press('w', 'x')
	}
	v.press('w')
	v.until("nothing waits", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
	time.Sleep(500 * time.Millisecond)
	wanted := 0
	for _, it := range fetch[joinapi.JoinView](v, "/api/jobs/packhorse/join").Items {
		switch it.Choice {
		case join.Wanted:
			wanted++
		case join.NotFitted:
			t.Errorf("%s is not fitted", it.ID)
		}
	}
	if wanted != 1 {
		t.Errorf("%d are wanted", wanted)
	}
	if v.page.MustHas("[data-testid=fallen]") {
		t.Error("something was not taken")
	}
}

// Two windows, seven seconds without a server, each ticks other items of one list: both are kept.
func TestTwoWindowsTickOneList(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?part=vehicles", func(j *stored.Job) { j.Items = nil })
	v.page.MustElement(".openitems input")
	other := *v
	other.page = v.page.Browser().MustPage(v.url + "/jobs/packhorse/gather?part=vehicles")
	other.page.MustElement(".openitems input")
	cut := func(x *visit, off bool) {
		if err := (proto.NetworkEmulateNetworkConditions{Offline: off, DownloadThroughput: -1,
			UploadThroughput: -1}).Call(x.page); err != nil {
			t.Fatal(err)
		}
	}
	v.expects, other.expects = "ERR_INTERNET_DISCONNECTED|Failed to load", "ERR_INTERNET_DISCONNECTED|Failed to load"
	cut(v, true)
	cut(&other, true)
	tick := func(x *visit, n int) {
		x.page.MustEval(`(n) => document.querySelectorAll('.openitems input')[n].click()`, n)
	}
	tick(v, 0)
	tick(&other, 1)
	tick(v, 2)
	time.Sleep(time.Second)
	cut(v, false)
	cut(&other, false)
	there := func() int {
		n := 0
		for _, item := range fetch[gatherapi.GatherView](v, "/api/jobs/packhorse/gather").Open {
			if item.Done {
				n++
			}
		}
		return n
	}
	v.until("all three are ticked", func() bool { return there() == 3 })
}

// Ten windows of jobs stand open, and changes leave and arrive in each of them: they share one stream.
func TestTenWindows(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.page.MustElement(".spreadrow.selected")
	windows := []*visit{v}
	for i := range 9 {
		x := *v
		path := "/jobs/packhorse/match?row=from%20SP6"
		if i%3 == 2 {
			path = "/jobs/sorrel-refit"
		}
		x.page = v.page.Browser().MustPage(v.url + path)
		x.page.MustElement("header.head")
		windows = append(windows, &x)
	}
	before := v.stored()
	v.press(input.Enter)
	v.until("it has left", func() bool { return v.stored() == before+1 })
	for i, x := range windows {
		if i > 0 && i%3 == 0 {
			continue
		}
		x.until(fmt.Sprint("it has come into window ", i), func() bool {
			return x.page.MustEval(`() => !document.querySelector('button[title="nothing to undo"]')`).Bool()
		})
	}
	last := windows[7]
	last.page.MustActivate()
	last.press(input.ArrowDown, input.Enter)
	v.until("a change leaves from another", func() bool { return v.stored() > before+1 })
}

// Ctrl+Z takes back and Ctrl+Shift+Z does again; what somebody else has written over is passed by; the history takes
// back any change by itself.
func TestBackAndForth(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	v.press(input.Enter)
	v.until("one is decided", func() bool { return v.stored() == before+1 })
	v.press(input.Enter)
	v.until("two are decided", func() bool { return v.stored() == before+2 })
	chord := func(shift bool) {
		keys := []input.Key{input.ControlLeft}
		if v.page.MustEval(`() => navigator.userAgent.includes('Mac')`).Bool() {
			keys[0] = input.MetaLeft
		}
		if shift {
			keys = append(keys, input.ShiftLeft)
		}
		v.page.KeyActions().Press(keys...).Type('z').MustDo()
	}
	chord(false)
	v.until("one is taken back", func() bool { return v.stored() == before+1 })
	v.see(".ant-message", "Taken back")
	v.see("header button:not([disabled])", "redo")
	chord(true)
	v.until("it is done again", func() bool { return v.stored() == before+2 })
	v.see(".ant-message", "Done again")
	v.click(".where button", "Packhorse")
	v.see(".ant-modal h3", "History")
	v.until("the history can be taken back", func() bool {
		return v.page.MustEval(`() => [...document.querySelectorAll('.ant-modal td button')].length`).Int() >= 2
	})
	v.page.MustEval(`() => [...document.querySelectorAll('.ant-modal td button')].at(1).click()`)
	v.until("the one before the last is taken back", func() bool { return v.stored() == before+1 })
}

// The window is named after what is looked at; a link to nothing says so; moments are those of the place, and say so.
func TestWindowsAreNamed(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6")
	title := func(part string) func() bool {
		return func() bool { return strings.Contains(v.page.MustInfo().Title, part) }
	}
	v.until("the row, the stage and the job are in its name", title("SP6 · Match · "))
	v.goTo("/jobs/packhorse/nonsense")
	v.see("main", "no page “nonsense”")
	v.click("main a", "front page")
	v.until("the front page has its name", title("Front · "))
	v.goTo("/elsewhere")
	v.see("main", "There is no such page")
	if err := (proto.EmulationSetTimezoneOverride{TimezoneID: "Australia/Eucla"}).Call(v.page); err != nil {
		t.Fatal(err)
	}
	v.goTo("/jobs/packhorse")
	e := v.page.MustElement(".frontstand time, main time")
	at, err := time.Parse(time.RFC3339, *e.MustAttribute("datetime"))
	if err != nil {
		t.Fatal(err)
	}
	want := at.UTC().Add(8*time.Hour + 45*time.Minute).Format("2006-01-02 15:04")
	if title := *e.MustAttribute("title"); e.MustText() != want || !strings.Contains(title, "Australia/Eucla, UTC+08:45") {
		t.Errorf("%q, %q; want %s", e.MustText(), title, want)
	}
}

// A link to a row, a function or a wire that is not there says so: what is shown is another.
func TestLinksToWhatIsNotThere(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP99")
	v.see(".ant-message", "no row “SP99”")
	v.goTo("/jobs/packhorse/join?sel=warp-drive")
	v.see(".ant-message", "no function “warp-drive”")
	v.goTo("/jobs/packhorse/reach?part=cuts&wire=W-none")
	v.see(".ant-message", "no wire “W-none”")
	v.goTo("/jobs/packhorse/match?row=from%20SP6")
	v.page.MustElement(".spreadrow.selected")
	time.Sleep(time.Second)
	if v.page.MustHas(".ant-message-notice") {
		t.Errorf("a row that is there: %s", v.text(".ant-message"))
	}
}

// What is typed and not kept yet is there again after a reload, another page and the way back; what was kept, sent or
// given up is not, and what somebody else has changed meanwhile is not typed over.
func TestWhatIsHalfTypedStays(t *testing.T) {
	const path = "/jobs/packhorse/gather?part=vehicles"
	v := open(t, path)
	year := "[aria-label='year, source 2']"
	value := func(selector string) func(want string) func() bool {
		return func(want string) func() bool {
			return func() bool {
				e, err := v.page.Timeout(2 * time.Second).Element(selector)
				return err == nil && e.MustProperty("value").Str() == want
			}
		}
	}
	holds := value(year)
	hands := func(selector, text string) {
		v.page.MustElement(selector).MustSelectAllText()
		for _, r := range text {
			v.press(input.Key(r))
		}
	}
	v.until("it is there", holds("1991"))
	hands(year, "1993")
	v.page.MustReload()
	v.until("it is there after a reload", holds("1993"))
	v.click("nav a", "Match")
	v.page.MustElement(".spreadrow")
	v.goTo("/")
	v.goTo(path)
	v.until("it is there after other pages", holds("1993"))
	v.see("main button:not([disabled])", "Keep")
	v.click("main button", "^Keep")
	v.until("it is kept", func() bool {
		return fetch[gatherapi.GatherView](v, "/api/jobs/packhorse/gather").Identity.Sources[1].Year == "1993"
	})
	v.page.MustReload()
	v.until("it is as it was kept", holds("1993"))

	hands(year, "1995")
	view := fetch[gatherapi.GatherView](v, "/api/jobs/packhorse/gather")
	view.Identity.Sources[1].Year = "1997"
	v.page.MustNavigate("about:blank")
	v.sendBy(http.MethodPut, "/api/jobs/packhorse/gather/identity",
		gatherapi.IdentityRequest{ID: "another", Seen: view.Revision,
			Identity: view.Identity})
	v.goTo(path)
	v.until("what somebody else has said stands", holds("1997"))
	time.Sleep(time.Second)
	if !holds("1997")() {
		t.Error("it was typed over")
	}

	v.goTo("/jobs/packhorse/handover")
	what := "[placeholder='jumper from 30 to 87'], [aria-label='say it']"
	said := value(what)
	hands(what, "a lead from the shelf")
	hands("[aria-label=where]", "at the pump")
	v.page.MustReload()
	v.until("a form that is half filled is there again", said("a lead from the shelf"))
	v.until("all of it", value("[aria-label=where]")("at the pump"))
	v.click("form button", "Note it")
	v.until("it is sent, and empty", said(""))
	time.Sleep(time.Second)
	v.page.MustReload()
	v.until("the form is empty", said(""))
	time.Sleep(time.Second)
	if !said("")() {
		t.Error("what was sent is typed again")
	}
}
