package server_test

import (
	"bytes"
	"encoding/json"
	"flag"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"runtime"
	"runtime/debug"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/demo"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/store"
)

var (
	hostileRequests = flag.Int(
		"requests",
		300,
		"how many hostile requests are sent; the long form has some ten thousand",
	)
	hostileSeed = flag.Uint64("seed", 18, "of the hostile requests")
)

// Bounds that nothing may pass, whatever comes.
const (
	longestAnswer = 5 * time.Second
	mostMemory    = 600 << 20
	patience      = 3 // times as long by the clock, on a machine on which everything else is tested at the same moment
)

// attack sends requests that nobody's page would send, to every route that there is.
type attack struct {
	*client
	r       *rand.Rand
	schema  map[string]any      // definitions of the API, by name
	takes   map[string][]string // by method and route: the definitions that it reads
	routes  gin.RoutesInfo
	jobs    []string
	words   []string // that stand in the jobs
	slowest time.Duration
	memory  uint64
	status  map[int]int
}

// besiege starts a server with the jobs of the demonstration, and finds out which route reads what.
func besiege(t *testing.T, seed uint64) *attack {
	t.Helper()
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	h := handler(t, desk.Options{Store: s})
	web := httptest.NewServer(h)
	t.Cleanup(func() {
		web.CloseClientConnections()
		web.Close()
		_ = s.Close()
	})
	a := &attack{client: &client{t: t, url: web.URL}, r: rand.New(rand.NewPCG(seed, 1)), takes: map[string][]string{},
		status: map[int]int{}}
	engine, is := h.(*gin.Engine)
	if !is {
		t.Fatal("the handler does not say what its routes are")
	}
	a.routes = slices.DeleteFunc(engine.Routes(), func(r gin.RouteInfo) bool {
		return !strings.HasPrefix(r.Path, "/api/") || strings.HasSuffix(r.Path, "/events") || r.Method == "DELETE" ||
			r.Method == "HEAD"
	})
	slices.SortFunc(
		a.routes,
		func(x, y gin.RouteInfo) int { return strings.Compare(x.Path+x.Method, y.Path+y.Method) },
	)
	text, err := os.ReadFile("../docs/api.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	var whole struct {
		Defs map[string]any `json:"$defs"`
	}
	if err := json.Unmarshal(text, &whole); err != nil {
		t.Fatal(err)
	}
	a.schema = whole.Defs
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	if err := demo.HandOver(&all[1]); err != nil {
		t.Fatal(err)
	}
	a.words = append(wordsOf(&all[1]), wordsOf(&all[0])...)
	for i := range 2 {
		a.jobs = append(a.jobs, strings.TrimPrefix(a.opened(all[i], nil), "/api/jobs/"))
	}
	a.discover()
	return a
}

// discover tries which definitions a route reads: what is refused as unreadable is another's.
func (a *attack) discover() {
	var names []string
	for n := range a.schema {
		if strings.HasSuffix(n, "Request") {
			names = append(names, n)
		}
	}
	slices.Sort(names)
	for _, r := range a.routes {
		if r.Method == "GET" {
			continue
		}
		for _, n := range names {
			if a.props(n)["jobs"] != nil {
				continue
			}
			body, _ := json.Marshal(a.empty(n))
			status, data, _ := a.do(
				r.Method,
				strings.ReplaceAll(a.fill(r.Path), ":", ""),
				"application/json",
				bytes.NewReader(body),
			)
			if status != http.StatusBadRequest ||
				!bytes.Contains(data, []byte("unknown field")) && !bytes.Contains(data, []byte("cannot unmarshal")) {
				a.takes[r.Method+" "+r.Path] = append(a.takes[r.Method+" "+r.Path], n)
			}
		}
	}
}

func (a *attack) props(name string) map[string]any {
	d, _ := a.schema[name].(map[string]any)
	p, _ := d["properties"].(map[string]any)
	return p
}

// empty is an object of a definition with every property that it has, each as little as can be.
func (a *attack) empty(name string) map[string]any {
	out := map[string]any{}
	for key := range a.props(name) {
		out[key] = nil
	}
	delete(out, "id") // nothing is written
	return out
}

// strike sends one request and looks at the answer.
func (a *attack) strike(i int) {
	a.t.Helper()
	r := a.routes[a.r.IntN(len(a.routes))]
	path, kind := a.fill(r.Path), "application/json"
	var body io.Reader
	switch names := a.takes[r.Method+" "+r.Path]; {
	case r.Method == "GET":
		for range a.r.IntN(4) {
			sep := "?"
			if strings.Contains(path, "?") {
				sep = "&"
			}
			key := []string{"position", "do", "element", "a", "b", "ohms", "volts", "sw", "row", "wire", "kinds",
				"was", "is", "job", "stage",
				"only", "cols", "rows", "wide", "high", "plug", "kind", "seen", "begun", "connector", "at", "device", "above",
				"before", "from", "to"}[a.r.IntN(31)]
			if word := a.word(); len(word) < 6000 {
				path += sep + key + "=" + pathEscape(word)
			}
		}
	case strings.HasSuffix(r.Path, "/jobs/file"):
		body = strings.NewReader(a.mutated())
	case a.r.IntN(4) == 0 || len(names) == 0:
		body, kind = a.form()
	default:
		v, _ := json.Marshal(a.make(map[string]any{"$ref": "/" + names[a.r.IntN(len(names))]}, 0))
		body = bytes.NewReader(v)
	}
	late := stopwatch()
	status, data, _ := a.do(r.Method, path, kind, body)
	took, tooLong := late(longestAnswer)
	a.status[status]++
	a.slowest = max(a.slowest, took)
	switch {
	case status >= 500 && (status != http.StatusBadGateway || !strings.Contains(r.Path, "/prove/")):
		// a device outside fails
		a.t.Errorf("%d: %s %.200s answers %d: %.300s", i, r.Method, path, status, data)
	case tooLong:
		a.t.Errorf("%d: %s %.200s takes %v", i, r.Method, path, took)
	}
}

// standing opens every job that there is: each of its pages answers.
func (a *attack) standing() {
	a.t.Helper()
	for _, j := range show[jobsapi.JobList](a.client, "/api/jobs").Jobs {
		for _, page := range []string{"", "/front", "/gather", "/match", "/thin", "/pin", "/reach", "/feed",
			"/join", "/prove", "/work", "/handover",
			"/handover/money", "/handover/book.pdf", "/gather/labels.pdf", "/pin/sheet.pdf"} {
			late := stopwatch()
			status, data, _ := a.do("GET", "/api/jobs/"+j.ID+page, "", nil)
			if took, tooLong := late(longestAnswer); status >= 500 || status == 404 || tooLong {
				a.t.Errorf("job %q, page %q: %d after %v: %.300s", j.Title, page, status, took, data)
			}
		}
	}
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	if a.memory = max(a.memory, m.HeapInuse); a.memory > mostMemory {
		a.t.Errorf("%d MB are in use", a.memory>>20)
	}
}

// Whatever is sent, to any route: no answer that says that Draxel is at fault, none that takes longer than a few
// seconds, no job that does not open, no memory without bound.
func TestHostile(t *testing.T) {
	defer debug.SetGCPercent(debug.SetGCPercent(100)) // as the program runs, however seldom the tests collect
	a := besiege(t, *hostileSeed)
	reading := 0
	for _, names := range a.takes {
		if len(names) > 0 {
			reading++
		}
	}
	for i := range *hostileRequests {
		a.strike(i)
		if i%150 == 149 || t.Failed() {
			a.standing()
		}
		if t.Failed() {
			break
		}
	}
	a.standing()
	t.Logf(
		"%d routes, %d that read; answers %v; slowest %v; %d MB",
		len(a.routes),
		reading,
		a.status,
		a.slowest,
		a.memory>>20,
	)
}
