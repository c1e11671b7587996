package browser

import (
	"net/http"
	"os"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/repin"
	"draxel/server/desk"
)

// The bench at the desk's size, by keys and a foot pedal.
func TestTheBenchByKeys(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin")
	v.see("[data-testid=step-text]", ".")
	v.press('b')
	v.see("[data-testid=count]", "step 1 of 58")
	v.see("[data-testid=bench-text]", `Move the terminal from\s*B20\s*to\s*B37`)
	v.press(' ')
	v.see("[data-testid=count]", "step 2 of 58")
	v.press(input.PageDown) // as a pedal sends it
	v.see("[data-testid=count]", "step 3 of 58")
	v.until("both have arrived", func() bool { return len(v.pinned().Done) == 2 })
	v.press(input.ArrowLeft)
	v.see("[data-testid=count]", "step 2 of 58")
	v.until("one is taken back", func() bool { return len(v.pinned().Done) == 1 })
	if d := v.pinned().Done[0]; d.Spent <= 0 || d.Spent > 1 {
		t.Errorf("the watch says %v minutes", d.Spent)
	}
	v.press('n')
	v.see(".ant-modal", "The terminal in B15 is stuck")
	v.press('s')
	v.until("what waits for it is not planned", func() bool {
		return len(v.pinned().Reports) == 1 &&
			!slices.ContainsFunc(v.pinned().Steps, func(s repin.Step) bool { return s.From.String() == "B15" })
	})
	v.goTo("/jobs/sorrel-refit/pin")
	v.see("[data-testid=report]", "The terminal in B15 does not come out")
	v.click("button", "Settle")
	v.reason("the other tang")
	v.until("it is planned again", func() bool {
		return slices.ContainsFunc(v.pinned().Steps, func(s repin.Step) bool { return s.From.String() == "B15" })
	})
}

// A telephone at the bench: fingers, a network that drops, and ticks that arrive in their order, each once.
func TestTheBenchOnATelephoneWithoutNetwork(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/bench?stage=pin")
	v.phone()
	v.see("[data-testid=count]", "step 1 of 58")
	wide := v.page.MustEval(`() => document.documentElement.scrollWidth`).Int()
	if wide > 390 {
		t.Errorf("the page is %d px wide on a telephone of 390", wide)
	}
	planned, revision := v.pinned().Steps, v.pinned().Revision
	v.swipe(320, 100)
	v.see("[data-testid=count]", "step 2 of 58")
	v.swipe(100, 320)
	v.see("[data-testid=count]", "step 1 of 58")
	v.until(
		"both have arrived",
		func() bool { return v.pinned().Revision == revision+2 && len(v.pinned().Done) == 0 },
	)
	v.network(true)
	for i := range 4 {
		v.click("button", "Done")
		v.see("[data-testid=count]", "step "+string(rune('2'+i))+" of 58")
	}
	v.see("[data-testid=unsent]", "4 not sent yet: kept here")
	v.click("button", "Back")
	v.see("[data-testid=count]", "step 4 of 58")
	v.see("[data-testid=unsent]", "3 not sent yet: kept here")
	if n := len(v.pinned().Done); n != 0 {
		t.Errorf("%d arrived without a network", n)
	}
	v.network(false)
	v.until("they have arrived", func() bool { return len(v.pinned().Done) == 3 })
	for i, d := range v.pinned().Done {
		if d.Step != planned[i].ID {
			t.Errorf("%d arrived as %q, it was %q", i+1, d.Text, planned[i].Text)
		}
	}
	v.until("nothing is kept any more", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
	v.see("[data-testid=count]", "step 4 of 58")
	v.network(true)
	v.click("button", "Back")
	v.click("button", "Back") // twice back is not back and on
	v.see("[data-testid=unsent]", "2 not sent yet: kept here")
	v.network(false)
	v.until("two are taken back", func() bool { return len(v.pinned().Done) == 1 })
	v.see("[data-testid=count]", "step 2 of 58")
}

// A reply that holds one half of what the hands did shows nothing in between: done, and taken back before it is here.
func TestTheBenchShowsNoHalfOfWhatWasDone(t *testing.T) {
	var hold atomic.Bool
	slow := make(chan struct{})
	v := enter(t, "/jobs/sorrel-refit/bench?stage=pin", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if hold.Load() && strings.HasSuffix(r.URL.Path, "/work/tick") {
				<-slow
			}
			h.ServeHTTP(w, r)
		})
	})
	v.see("[data-testid=count]", "step 1 of 58")
	v.press(' ')
	v.until("it has arrived", func() bool { return len(v.pinned().Done) == 1 })
	hold.Store(true)
	v.press(input.ArrowLeft)
	half := false
	for range 40 {
		half = half || v.text("[data-testid=count]") != "step 1 of 58"
		time.Sleep(25 * time.Millisecond)
	}
	close(slow)
	for range 20 {
		half = half || v.text("[data-testid=count]") != "step 1 of 58"
		time.Sleep(15 * time.Millisecond)
	}
	v.until("it is taken back", func() bool { return len(v.pinned().Done) == 0 })
	v.see("[data-testid=count]", "step 1 of 58")
	if half {
		t.Error("a step that was taken back stood as done until the server had it")
	}
}

// What is kept in the browser is there after a reload too, and a reply that is lost makes no second change.
func TestKeptTicksOutliveAReload(t *testing.T) {
	var lose, tries atomic.Int32
	v := enter(t, "/jobs/sorrel-refit/bench?stage=pin", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			changes := strings.HasSuffix(r.URL.Path, "/work/tick") || strings.HasSuffix(r.URL.Path, "/letters")
			if !changes || lose.Load() == 0 {
				h.ServeHTTP(w, r)
				return
			}
			tries.Add(1)
			if lose.Load() == 3 { // the server is out of order
				w.Header().Set("Content-Type", "application/problem+json")
				w.WriteHeader(http.StatusInternalServerError)
				_, _ = w.Write([]byte(`{"title":"x","status":500,"code":"fault","detail":"out of order"}`))
				return
			}
			if lose.Load() == 2 { // it arrives, and the reply is lost
				h.ServeHTTP(&deaf{header: http.Header{}}, r)
			}
			panic(http.ErrAbortHandler)
		})
	})
	v.see("[data-testid=count]", "step 1 of 58")
	lose.Store(1)
	v.press(' ')
	v.press(' ')
	v.see("[data-testid=unsent]", "2 not sent yet: kept here")
	v.page.MustReload()
	v.page.MustWaitLoad()
	v.see("[data-testid=count]", "step 3 of 58")
	lose.Store(3)
	was := tries.Load()
	v.until("it was tried again", func() bool { return tries.Load() > was })
	v.see("[data-testid=unsent]", "2 not sent yet: kept here")
	lose.Store(2)
	was = tries.Load()
	v.until("it was sent and the reply lost", func() bool { return tries.Load() > was && len(v.pinned().Done) >= 1 })
	lose.Store(0)
	v.until(
		"both have arrived, each once",
		func() bool { return len(v.pinned().Done) == 2 && !v.page.MustHas("[data-testid=unsent]") },
	)
}

// deaf takes a reply that nobody is to hear.
type deaf struct{ header http.Header }

func (d *deaf) Header() http.Header         { return d.header }
func (d *deaf) Write(b []byte) (int, error) { return len(b), nil }
func (d *deaf) WriteHeader(int)             {}

// A tablet on the network gives the passcode; a wrong one does not let it in.
func TestATabletGivesThePasscode(t *testing.T) {
	v := enter(
		t,
		"/jobs/sorrel-refit/bench?stage=pin",
		&desk.Lan{Passcode: "brass screw"},
		func(h http.Handler) http.Handler {
			return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				if r.UserAgent() != "Go-http-client/1.1" {
					r.RemoteAddr = "192.0.2.20:5000"
				}
				h.ServeHTTP(w, r)
			})
		},
	)
	v.phone()
	v.see("h1", "Draxel")
	if v.page.MustHas("[data-testid=bench-text]") {
		t.Error("the step is shown before the passcode is given")
	}
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	v.axe(string(axe), true)
	v.write("[aria-label=passcode]", "brass nail")
	v.press(input.Enter)
	v.see("[role=alert]", "That is not the passcode")
	v.write("[aria-label=passcode]", "brass screw")
	v.press(input.Enter)
	v.see("[data-testid=count]", "step 1 of 58")
	v.click("button", "Done")
	v.until("it has arrived", func() bool { return len(v.pinned().Done) == 1 })
	if seen := v.page.MustEval(`() => document.cookie`).Str(); seen != "" {
		t.Errorf("the page can read %q", seen)
	}
	v.page.MustElement("[aria-label='QR: use another device']").MustClick()
	v.see(".ant-modal", "(http://|no address on a local network)")
}
