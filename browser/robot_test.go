package browser

import (
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

var (
	robotTrials = flag.Int("robot", 8, "how often the robot types into a field and leaves")
	robotSeed   = flag.Uint64("robotseed", 28, "which fields, speeds and ways of leaving the robot draws")
)

// fieldsOfPage lists what can be typed into on a page, as a person sees it: by its name and which of that name it is.
const fieldsOfPage = `() => {
	const times = new Map();
	const out = [];
	const open = [...document.querySelectorAll('[role=dialog]')].filter((d) => d.checkVisibility());
	const all = (open.length > 0 ? open : [...document.querySelectorAll('main')])
		.flatMap((x) => [...x.querySelectorAll('input, textarea, [role=grid]')]);
	for (const e of all) {
		const grid = e.getAttribute('role') === 'grid';
		if (grid ? e.closest('[data-testid=factgrid]') === null && e.dataset.testid !== 'factgrid'
			: e.disabled || e.readOnly || ['checkbox', 'radio', 'file', 'password', 'range'].includes(e.type)
				|| e.getAttribute('role') === 'combobox') {
			continue;
		}
		const name = e.getAttribute('aria-label') ?? (e.id || e.placeholder || '');
		const nth = times.get(name) ?? 0;
		times.set(name, nth + 1);
		if (e.offsetParent === null || /^\/? ?find/.test(name) || /^find/.test(e.placeholder ?? '')) {
			continue;
		}
		const number = e.inputMode === 'decimal' || e.inputMode === 'numeric' || /^[0-9][0-9.,]*$/.test(e.value ?? '');
		out.push({ name, nth, kind: grid ? 'grid' : e.type === 'date' ? 'date' : number ? 'number' : 'text' });
	}
	return JSON.stringify(out);
}`

type robotField struct {
	View string
	Name string
	Nth  int
	Kind string
	// Opens is the words of the button that opens the dialog which the field is in; empty for one of the page.
	Opens string
}

// robotViews walks the job from its front page along the links of the stages and the tabs of each, in the order in
// which they are drawn, until there are so many views or no more.
func robotViews(v *visit, draw *rand.Rand, most int) []string {
	const plain = `(href) => {
		const u = new URL(href, location.href);
		const kept = [...u.searchParams].filter(([k]) => ['part', 'side', 'list', 'stage'].includes(k));
		return u.pathname + (kept.length ? '?' + new URLSearchParams(kept) : '');
	}`
	var views, queue []string
	next := func(paths ...string) {
		for _, p := range paths {
			if strings.HasPrefix(p, "/jobs/packhorse") && !slices.Contains(views, p) && !slices.Contains(queue, p) {
				queue = append(queue, p)
			}
		}
	}
	settled := func() {
		v.page.MustElement("main:not([aria-busy=true])")
		v.until("it is drawn", func() bool { return len(v.text("main")) > 40 })
	}
	next("/jobs/packhorse", "/jobs/packhorse/bench", "/jobs/packhorse/bench?stage=prove")
	for len(queue) > 0 && len(views) < most {
		k := draw.IntN(len(queue))
		path := queue[k]
		queue = slices.Delete(queue, k, k+1)
		views = append(views, path)
		v.goTo(path)
		settled()
		next(strings.Fields(v.page.MustEval(`(plain) => [...document.querySelectorAll('nav a[href], main a[href]')]
			.filter((a) => !a.pathname.startsWith('/api')).map((a) => eval(plain)(a.href)).join(' ')`, plain).Str())...)
		for i := range v.page.MustEval(`() => document.querySelectorAll('main nav [aria-pressed]').length`).Int() {
			next(v.page.MustEval(`(i, plain) => {
				document.querySelectorAll('main nav [aria-pressed=false]')[i]?.click();
				return eval(plain)(location.href);
			}`, i, plain).Str())
		}
	}
	return views
}

// weather is how replies to changes come: late by what the trial says, lost after they were carried out, or never sent.
type weather struct {
	mu   sync.Mutex
	late time.Duration
	lost int // so many of the next replies do not arrive
}

func (w *weather) set(late time.Duration, lost int) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.late, w.lost = late, lost
}

func (w *weather) over(h http.Handler) http.Handler {
	return http.HandlerFunc(func(out http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.UserAgent() != "Go-http-client/1.1" {
			w.mu.Lock()
			late, lost := w.late, w.lost > 0
			if lost {
				w.lost--
			}
			w.mu.Unlock()
			time.Sleep(late)
			if lost {
				h.ServeHTTP(nowhere{http.Header{}}, r)
				panic(http.ErrAbortHandler)
			}
		}
		h.ServeHTTP(out, r)
	})
}

// nowhere takes a reply that does not arrive.
type nowhere struct{ h http.Header }

func (n nowhere) Header() http.Header         { return n.h }
func (n nowhere) Write(b []byte) (int, error) { return len(b), nil }
func (n nowhere) WriteHeader(int)             {}

// TestRobot types into the fields that walking the job finds, those of dialogs too, at the speeds of hands, with
// replies that come at once, late or never, and leaves in one of the ways that people leave: what it typed is kept by
// the server, or is still in its field, or is told as not taken. -robot 2000 is the long form.
func TestRobot(t *testing.T) {
	var w weather
	v := enter(t, "/", nil, w.over)
	v.expects = "ERR_EMPTY_RESPONSE|Failed to load|ERR_INTERNET|ERR_CONNECTION"
	var fields []robotField
	draw := rand.New(rand.NewPCG(*robotSeed, 0))
	views, least := 6, 8
	if *robotTrials >= 100 { // the long form goes everywhere
		views, least = 1000, 250
	}
	for _, view := range robotViews(v, draw, views) {
		v.goTo(view)
		v.page.MustElement("main:not([aria-busy=true])")
		time.Sleep(200 * time.Millisecond)
		var here []robotField
		if err := json.Unmarshal([]byte(v.page.MustEval(fieldsOfPage).Str()), &here); err != nil {
			t.Fatal(err)
		}
		for i := range here {
			here[i].View = view
		}
		fields = append(fields, here[:min(len(here), 24)]...)
		fields = append(fields, v.inDialogs(view)...)
	}
	if len(fields) < least {
		t.Fatalf("%d fields were found", len(fields))
	}
	order := draw.Perm(len(fields))
	var lost []string
	for n := range *robotTrials {
		if n > 0 && n%len(fields) == 0 {
			order = draw.Perm(len(fields))
		}
		f := fields[order[n%len(fields)]]
		*v = *v.by(t)
		if said := trial(v, &w, draw, f, n); said != "" {
			lost = append(lost, said)
			t.Error(said)
		}
	}
	t.Logf("%d trials in %d fields: %d lost", *robotTrials, len(fields), len(lost))
}

// trial types once, leaves, comes back, and says what was lost.
func trial(v *visit, w *weather, draw *rand.Rand, f robotField, n int) string {
	w.set(0, 0)
	v.goTo(f.View)
	v.page.MustElement("main:not([aria-busy=true])")
	focus := `(name, nth) => {
		const open = [...document.querySelectorAll('[role=dialog]')].filter((d) => d.checkVisibility());
		const all = (open.length > 0 ? open : [...document.querySelectorAll('main')])
			.flatMap((x) => [...x.querySelectorAll('input, textarea, [role=grid]')]).filter((e) =>
			(e.getAttribute('aria-label') ?? (e.id || e.placeholder || '')) === name);
		const e = all[nth];
		if (!e) return false;
		e.focus();
		e.select?.();
		return document.activeElement === e;
	}`
	if f.Opens != "" && !v.opens(f.Opens) {
		return ""
	}
	there := false
	for end := time.Now().Add(5 * time.Second); !there && time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		found, err := v.page.Eval(focus, f.Name, f.Nth)
		there = err == nil && found.Value.Bool()
	}
	if !there {
		return "" // what was done before has taken it away
	}
	text := fmt.Sprintf("q%dz", n+100)
	if f.Kind == "number" {
		text = fmt.Sprint(3001 + n)
	}
	if f.Kind == "date" {
		return ""
	}
	late := []time.Duration{0, 200 * time.Millisecond, 3 * time.Second}[draw.IntN(3)]
	w.set(late, draw.IntN(2))
	pace := []time.Duration{0, 30 * time.Millisecond, 120 * time.Millisecond}[draw.IntN(3)]
	for _, r := range text {
		v.press(input.Key(r))
		time.Sleep(pace)
	}
	keep := []string{"", "Tab", "Enter"}[draw.IntN(3)]
	switch keep {
	case "Tab":
		v.press(input.Tab)
	case "Enter":
		v.press(input.Enter)
	}
	leave := []string{"link", "reload", "back", "close"}[draw.IntN(4)]
	switch leave {
	case "link":
		_, _ = v.page.Eval(`() => { const a = [...document.querySelectorAll('nav a')].find((a) =>
			!location.pathname.startsWith(new URL(a.href).pathname)) ?? document.querySelector('a'); a?.click(); }`)
		time.Sleep(100 * time.Millisecond)
	case "reload":
		_ = proto.PageReload{}.Call(v.page)
	case "back":
		_, _ = v.page.Eval(`() => history.back()`)
		time.Sleep(100 * time.Millisecond)
	case "close":
		v.page.MustNavigate("about:blank")
	}
	w.set(0, 0)
	_ = v.page.Navigate(v.url + f.View)
	kept := ""
	for end := time.Now().Add(12 * time.Second); kept == "" && time.Now().Before(end); time.Sleep(100 * time.Millisecond) {
		if kept = v.where(text); kept == "" && f.Opens != "" {
			v.opens(f.Opens)
		}
	}
	if kept == "" {
		return fmt.Sprintf("%s %s “%s” %d (%s): %s typed at %v, %s, left by %s, replies %v late",
			f.View, f.Opens, f.Name, f.Nth, f.Kind, text, pace, keep, leave, late)
	}
	return ""
}

// inDialogs lists the fields of the dialogs that the buttons of a page open: those whose words end with dots.
func (v *visit) inDialogs(view string) []robotField {
	var words []string
	if err := json.Unmarshal([]byte(v.page.MustEval(`() => JSON.stringify([...new Set([...document.querySelectorAll(
		'main button:not([disabled])')].map((b) => b.innerText.trim()).filter((t) => /(…|\.\.\.)/.test(t)))])`).Str()),
		&words); err != nil {
		v.t.Fatal(err)
	}
	var all []robotField
	for _, w := range words[:min(len(words), 6)] {
		if !v.opens(w) {
			continue
		}
		var here []robotField
		if err := json.Unmarshal([]byte(v.page.MustEval(fieldsOfPage).Str()), &here); err != nil {
			v.t.Fatal(err)
		}
		for _, f := range here[:min(len(here), 8)] {
			f.View, f.Opens = view, w
			all = append(all, f)
		}
		v.page.MustNavigate(v.url + view)
		v.page.MustElement("main:not([aria-busy=true])")
		time.Sleep(200 * time.Millisecond)
	}
	return all
}

// opens presses a button by its words, and says whether a dialog lies over the page then.
func (v *visit) opens(words string) bool {
	for end := time.Now().Add(2 * time.Second); time.Now().Before(end); time.Sleep(100 * time.Millisecond) {
		open, err := v.page.Eval(`(words) => {
			if ([...document.querySelectorAll('[role=dialog]')].some((d) => d.checkVisibility())) return true;
			[...document.querySelectorAll('main button:not([disabled])')].find((b) => b.innerText.trim() === words)?.click();
			return false;
		}`, words)
		if err == nil && open.Value.Bool() {
			return true
		}
	}
	return false
}

// where says where what was typed is now: in sight, or with the server.
func (v *visit) where(text string) string {
	seen, err := v.page.Eval(`(text) => document.body?.innerText.includes(text)
		|| [...document.querySelectorAll('input, textarea')].some((e) => e.value.includes(text))`, text)
	if err == nil && seen.Value.Bool() {
		return "in sight"
	}
	r, err := http.Get(v.url + "/api/jobs/packhorse/file?pictures=no")
	if err != nil {
		return ""
	}
	defer func() { _ = r.Body.Close() }()
	body, err := io.ReadAll(r.Body)
	if err == nil && r.StatusCode == http.StatusOK && strings.Contains(string(body), text) {
		return "with the server"
	}
	return ""
}
