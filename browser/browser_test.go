// Package browser drives the real interface in headless Chromium.
package browser

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"

	"draxel/core/gather"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/server"
	"draxel/server/desk"
	"draxel/store"
)

const chromium = "/usr/lib/chromium/chromium-headless-shell"

var chrome *rod.Browser

func TestMain(m *testing.M) {
	flag.Parse()
	os.Exit(run(m))
}

func run(m *testing.M) int {
	if _, err := os.Stat(chromium); err != nil {
		fmt.Fprintln(os.Stderr, "Chromium is missing: apt-get install chromium-headless-shell")
		return 1
	}
	if _, err := os.Stat("../server/dist/index.html"); err != nil {
		fmt.Fprintln(os.Stderr, "the front end is not built: make build")
		return 1
	}
	l := launcher.New().Bin(chromium).Leakless(false).NoSandbox(true).
		Set("disable-gpu").Set("disable-quic").Set("no-first-run").Set("disable-background-networking").
		Set("disable-component-update").
		Set("disable-sync").Set("hide-scrollbars").Set("font-render-hinting", "none").Set("force-prefers-reduced-motion").
		Set("host-resolver-rules", "MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost")
	address, err := l.Launch()
	if err != nil {
		fmt.Fprintln(os.Stderr, "start Chromium:", err)
		return 1
	}
	chrome = rod.New().ControlURL(address)
	if err := chrome.Connect(); err != nil {
		fmt.Fprintln(os.Stderr, "reach Chromium:", err)
		return 1
	}
	code := m.Run()
	_ = chrome.Close()
	l.Cleanup()
	return code
}

// quick looks again every 20 ms: Rod's own way backs off to a second.
func quick() utils.Sleeper {
	return func(ctx context.Context) error {
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(20 * time.Millisecond):
			return nil
		}
	}
}

// visit is one person at one window of a Draxel of their own with the demonstration jobs.
type visit struct {
	t       testing.TB
	page    *rod.Page
	window  *rod.Page // the same, for as long as it takes
	url     string
	expects string // what the console may complain of, as a regular expression
}

func open(t testing.TB, path string, change ...func(*stored.Job)) *visit {
	t.Helper()
	return enter(t, path, nil, func(h http.Handler) http.Handler { return h }, change...)
}

// undecided takes away what the demonstration has decided in Match, with what rests on it.
func undecided(j *stored.Job) {
	j.Decisions, j.Own = nil, nil
	j.Readings = slices.DeleteFunc(j.Readings, func(m gather.Measurement) bool { return m.At.Connector == "SP" })
}

// enter opens a Draxel that may let the local network in, with something between it and the browser.
func enter(
	t testing.TB,
	path string,
	lan *desk.Lan,
	between func(http.Handler) http.Handler,
	change ...func(*stored.Job),
) *visit {
	t.Helper()
	beside(t)
	dir := t.TempDir()
	base, err := demonstration(len(change) > 0)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, store.File), base, 0o600); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), dir, time.Now)
	if err != nil {
		t.Fatal(err)
	}
	if len(change) > 0 {
		jobs, err := demo.Jobs()
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range change {
			c(&jobs[1])
		}
		job := store.NewJob{ID: demo.IDs()[1], Request: "demo-" + demo.IDs()[1], Job: jobs[1]}
		if _, err := s.Create(t.Context(), "Ines", job); err != nil {
			t.Fatal(err)
		}
	}
	draxel, err := server.New(desk.Options{Store: s, Lan: lan,
		Demo: desk.Demo{IDs: demo.IDs(), Jobs: func() ([]store.NewJob, error) { return nil, nil }}})
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewServer(between(draxel.Handler()))
	v := &visit{t: t, url: web.URL}
	window, err := chrome.Incognito()
	if err != nil {
		t.Fatal(err)
	}
	page, err := window.Page(proto.TargetCreateTarget{URL: "about:blank"})
	if err != nil {
		t.Fatal(err)
	}
	v.window = page.Sleeper(quick)
	v.page = v.by(t).page
	v.page.MustSetViewport(1280, 800, 1, false)
	errors := v.watch()
	t.Cleanup(func() {
		if t.Failed() {
			v.shot(os.TempDir() + "/draxel-failed-" + strings.ReplaceAll(t.Name(), "/", "-") + ".png")
		}
		for _, e := range errors() {
			if v.expects == "" || !regexp.MustCompile(v.expects).MatchString(e) {
				t.Errorf("the page's console: %s", e)
			}
		}
		_ = window.Close()
		web.CloseClientConnections()
		web.Close()
		_ = s.Close()
	})
	v.goTo(path)
	return v
}

var (
	written = sync.OnceValues(func() ([]byte, error) { return writtenBut(-1) })
	without = sync.OnceValues(func() ([]byte, error) { return writtenBut(1) })
)

// demonstration gives a database with the demonstration jobs, or with all but the Packhorse, which a test then changes:
// it is made once for all tests.
func demonstration(changed bool) ([]byte, error) {
	if changed {
		return without()
	}
	return written()
}

func writtenBut(not int) (_ []byte, err error) {
	dir, err := os.MkdirTemp("", "draxel-demo-")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	s, err := store.Open(context.Background(), dir, time.Now)
	if err != nil {
		return nil, err
	}
	jobs, err := demo.Jobs()
	if err != nil {
		return nil, errors.Join(err, s.Close())
	}
	for i, id := range demo.IDs() {
		if i == not {
			continue
		}
		job := store.NewJob{ID: id, Request: "demo-" + id, Job: jobs[i]}
		if _, err := s.Create(context.Background(), "Ines", job); err != nil {
			return nil, errors.Join(err, s.Close())
		}
	}
	if err := s.Close(); err != nil {
		return nil, err
	}
	return os.ReadFile(filepath.Join(dir, store.File))
}

var beginning sync.Map // the names of the tests that run beside others

// beside lets a test run beside others from its first window on: each has a Draxel of its own.
func beside(t testing.TB) {
	test, is := t.(*testing.T)
	if !is || strings.Contains(t.Name(), "/") {
		return
	}
	if _, already := beginning.LoadOrStore(t.Name(), true); !already {
		test.Parallel()
	}
}

// alone keeps a test from running beside others: what a browser fetches ahead it lets go of again where a page comes to
// its own program late.
func alone(t testing.TB) { beginning.Store(t.Name(), true) }

// by gives the same window to a test, or to a part of one, for three minutes.
func (v *visit) by(t testing.TB) *visit {
	x := *v
	x.t = t
	x.page = v.window.Timeout(3 * time.Minute).
		WithPanic(func(x any) { t.Helper(); t.Fatalf("browser: %v", x) })
	return &x
}

// watch collects what the page complains of on its console.
func (v *visit) watch() func() []string {
	var mu sync.Mutex
	var all []string
	go v.page.EachEvent(func(e *proto.RuntimeConsoleAPICalled) {
		if e.Type != proto.RuntimeConsoleAPICalledTypeError && e.Type != proto.RuntimeConsoleAPICalledTypeWarning {
			return
		}
		var words []string
		for _, a := range e.Args {
			words = append(words, a.Value.String()+" "+a.Description)
		}
		mu.Lock()
		defer mu.Unlock()
		all = append(all, strings.Join(words, " "))
	}, func(e *proto.RuntimeExceptionThrown) {
		mu.Lock()
		defer mu.Unlock()
		all = append(all, e.ExceptionDetails.Text)
	})()
	return func() []string {
		mu.Lock()
		defer mu.Unlock()
		return all
	}
}

func (v *visit) goTo(path string) {
	v.t.Helper()
	v.until("no page is being fetched", func() bool { // leaving in the middle of it is an error on the console
		return !v.page.MustEval(`() => document.documentElement.classList.contains('going')`).Bool()
	})
	v.page.MustNavigate(v.url + path)
	v.page.MustWaitLoad()
	v.page.MustEval(`() => document.fonts.ready.then(() => true)`)
}

// patience is how long something may take to be seen: several tests run at a time, and what they ask for is computed
// beside all other tests.
const patience = 20 * time.Second

// see waits until the element is there with the text in it.
func (v *visit) see(selector, text string) *rod.Element {
	v.t.Helper()
	e, err := v.page.Timeout(patience).ElementR(selector, text)
	if err != nil && strings.Contains(err.Error(), "navigated") { // the page that was looked at has gone: look at the next
		e, err = v.page.Timeout(patience).ElementR(selector, text)
	}
	if err != nil {
		there := v.page.MustEval(`(s) => [...document.querySelectorAll(s)].slice(0, 6)
			.map((e) => e.textContent.slice(0, 300)).join(' | ')`, selector).Str()
		v.t.Fatalf("did not see %q in %s: %v; there is %q", text, selector, err, there)
	}
	return e.CancelTimeout()
}

// click clicks what is seen. What is drawn anew while the mouse is on its way is looked for once more, as eyes do.
func (v *visit) click(selector, text string) {
	v.t.Helper()
	for end := time.Now().Add(patience); ; {
		err := v.see(selector, text).Timeout(3*time.Second).Click(proto.InputMouseButtonLeft, 1)
		if err == nil {
			return
		}
		if time.Now().After(end) {
			v.t.Fatalf("click %s %q: %v", selector, text, err)
		}
	}
}

func (v *visit) press(keys ...input.Key) {
	v.t.Helper()
	if err := v.page.Keyboard.Type(keys...); err != nil {
		v.t.Fatalf("press: %v", err)
	}
}

func (v *visit) write(selector, text string) {
	v.t.Helper()
	e := v.page.MustElement(selector)
	e.MustSelectAllText().MustInput(text)
}

func (v *visit) text(selector string) string {
	v.t.Helper()
	return v.page.MustElement(selector).MustText()
}

// until waits for the condition, as long as its patience lasts.
func (v *visit) until(what string, is func() bool) {
	v.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); time.Sleep(20 * time.Millisecond) {
		if is() {
			return
		}
	}
	v.t.Fatalf("waited in vain: %s", what)
}

func (v *visit) shot(path string) {
	v.t.Helper()
	v.page.MustEval(`() => document.fonts.ready.then(() => true)`)
	time.Sleep(150 * time.Millisecond)
	picture, err := v.page.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
	if err != nil {
		v.t.Logf("no picture: %v", err)
		return
	}
	if err := os.WriteFile(path, picture, 0o644); err != nil {
		v.t.Logf("no picture: %v", err)
	}
}
