package browser

import (
	"bytes"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"draxel/demo"
	"draxel/exchange"
)

func TestAJobFileIsOpened(t *testing.T) {
	jobs, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	jobs[0].Title = "Sent by a colleague"
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, jobs[0], nil); err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(t.TempDir(), "job.draxel.json")
	if err := os.WriteFile(path, b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	v := open(t, "/")
	v.see("[data-testid=jobs]", "Packhorse")
	v.page.MustElement("input[type=file]").MustSetFiles(path)
	v.see("header", "Sent by a colleague")
	v.see("[data-testid=next]", "Next")
	v.click("nav a", "^Match")
	v.see("[data-testid=totals]", "83 rows")

	v.goTo("/")
	v.page.MustElement("input[type=file]").MustSetFiles("../demo/packhorse/packhorse-chassis.csv")
	v.see("[role=alert]", "not a Draxel job file")
}

func TestAJobIsRenamedAndDeleted(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.click("header button", "^Packhorse$")
	v.write("#title", "Packhorse, second try")
	v.click(".ant-modal button", "^Keep$")
	v.see("header", "Packhorse, second try")
	v.click("header button", "Packhorse, second try")
	v.write("#title", " ")
	v.click(".ant-modal button", "^Keep$")
	v.see(".ant-modal [role=alert]", "Give the job a title")
	v.click(".ant-modal button", "Delete…")
	v.click(".ant-modal-confirm button", "^Delete$")
	v.see("[data-testid=jobs]", "Sorrel refit")
	v.until(
		"it is off the list",
		func() bool { return !strings.Contains(v.text("[data-testid=jobs]"), "Packhorse, second try") },
	)
}

func TestDecisionsCarryAName(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP20", undecided)
	v.click("header button", "who are you")
	v.page.MustElement(".ant-modal input").MustInput("Bénédicte")
	v.press(input.Enter)
	v.see("header button", "Bénédicte")
	v.page.MustElement("aside input").MustInput("traced with the meter")
	v.click("aside button", "Accept E3")
	v.until("it is decided", func() bool { return v.decided() == 1 })
	v.goTo("/jobs/packhorse/match?row=from%20SP20")
	v.see("aside", "by Bénédicte")
	v.see("aside", "traced with the meter")
	v.click("header button", "^Packhorse$")
	v.see("[aria-label=history]", "Bénédicte.*accept.*traced with the meter")
}

func TestKeysAreShown(t *testing.T) {
	v := open(t, "/jobs/packhorse/match", undecided)
	v.see("[data-testid=spread]", "SP1")
	v.press('?')
	v.see(".ant-modal", "undo the last change")
}

// What a page is told ahead is what it asks for, and it asks once: a hint that is not taken would be fetched twice.
func TestWhatIsFetchedAheadIsFetchedOnce(t *testing.T) {
	alone(t)
	for _, page := range []struct{ path, seen string }{{"/jobs/packhorse/match", "[data-testid=spread]"},
		{"/jobs/packhorse/thin", "[aria-label=systems]"}, {"/jobs/packhorse/reach", "main"}} {
		v := open(t, page.path)
		v.page.MustElement(page.seen)
		v.page.MustWaitRequestIdle()
		ahead := v.page.MustEval(`() => [...document.querySelectorAll('link[rel=preload][as=fetch]')].map((l) => l.href)`).
			Arr()
		if len(ahead) == 0 {
			t.Errorf("%s: nothing is fetched ahead", page.path)
		}
		for _, href := range ahead {
			n := v.page.MustEval(`(href) => performance.getEntriesByName(href).length`, href.Str()).Int()
			if n != 1 {
				t.Errorf("%s: %s is fetched %d times", page.path, href.Str(), n)
			}
		}
	}
}

// A dialog that cannot be fetched takes nothing away, and comes when the server answers again.
func TestADialogThatCannotBeFetched(t *testing.T) {
	var away atomic.Bool
	away.Store(true)
	v := enter(t, "/jobs/packhorse/gather?part=connectors", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && strings.Contains(r.URL.Path, "Findings") {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	})
	v.expects = "dynamically imported module|Failed to load resource|ERR_"
	v.see("h1", ".")
	v.press('f')
	time.Sleep(2 * time.Second) // it has been asked for, and again
	v.see("h1", ".")
	if v.page.MustHas("main[role=alert]") {
		t.Error("a dialog that cannot be fetched takes the page away")
	}
	away.Store(false)
	v.see(".ant-drawer", "Findings in")
}

// A page that cannot be fetched says so in plain words, and is fetched again from there.
func TestAPageThatCannotBeFetched(t *testing.T) {
	var away atomic.Bool
	v := enter(t, "/jobs/packhorse/gather", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && strings.Contains(r.URL.Path, "ThinPage") {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	})
	v.see("main", "Tarn Sorrel|Packhorse")
	v.expects = "dynamically imported module|Failed to load resource|ERR_"
	away.Store(true)
	v.click(".rail a", "Thin")
	v.see("main[role=alert]", "Nothing was lost")
	v.see(".rail", "Reach")
	away.Store(false)
	v.click("main button", "Load it again")
	v.see("h1", "Thin")
}

// Where there is no job, the first steps stand: the demonstration can be tried, and is taken off the list by one press.
func TestFirstSteps(t *testing.T) {
	v := open(t, "/")
	v.see(".demomark", "demo")
	v.click("button", "Take the demo off the list")
	v.see("h2", "First steps")
	v.click("button", "Begin your own")
	v.see(".ant-modal legend", "What is before you")
	v.press(input.Escape)
	v.click("button", "Try the demo")
	v.see("[data-testid=jobs]", "Packhorse")
}
