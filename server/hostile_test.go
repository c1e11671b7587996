package server_test

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/plan"
	"draxel/demo"
	"draxel/server"
	"draxel/store"
)

var (
	hostileRequests = flag.Int("requests", 300, "how many hostile requests are sent; the long form has some ten thousand")
	hostileSeed     = flag.Uint64("seed", 18, "of the hostile requests")
)

// Bounds that nothing may pass, whatever comes.
const (
	longestAnswer = 5 * time.Second
	mostMemory    = 600 << 20
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
	h := handler(t, server.Options{Store: s})
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
		return !strings.HasPrefix(r.Path, "/api/") || strings.HasSuffix(r.Path, "/events") || r.Method == "DELETE" || r.Method == "HEAD"
	})
	slices.SortFunc(a.routes, func(x, y gin.RouteInfo) int { return strings.Compare(x.Path+x.Method, y.Path+y.Method) })
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

// wordsOf gives names that stand in a job: connectors, cavities, wires, devices, steps.
func wordsOf(j *plan.Job) []string {
	f, err := j.Facts()
	if err != nil {
		return nil
	}
	p := plan.Compute(f, j.Chosen())
	var out []string
	for i := range f.Laid.Loom.Connectors {
		out = append(out, f.Laid.Loom.Connectors[i].ID)
	}
	for i := range f.Laid.Loom.Devices {
		out = append(out, f.Laid.Loom.Devices[i].ID)
	}
	for i := range f.Laid.Loom.Wires {
		out = append(out, f.Laid.Loom.Wires[i].ID)
	}
	for i := range p.Work.Steps {
		out = append(out, p.Work.Steps[i].ID)
	}
	return append(out, "1", "2", "3", "12", "from", "to", "wires", "thin", "pin", "run", "crank", "running", "starter", "tach")
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
			status, data, _ := a.do(r.Method, strings.ReplaceAll(a.fill(r.Path), ":", ""), "application/json", bytes.NewReader(body))
			if status != http.StatusBadRequest || !bytes.Contains(data, []byte("unknown field")) && !bytes.Contains(data, []byte("cannot unmarshal")) {
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

func (a *attack) word() string {
	if a.r.IntN(3) > 0 {
		return a.words[a.r.IntN(len(a.words))]
	}
	return []string{"", " ", strings.Repeat("W", 5000), strings.Repeat("wire ", 9000), "Pack🚒horse", "חבילה", "a\x00b", "=1+1", "＝1", "../../etc",
		"__proto__", "1e999", "-1", "999999999999", "NaN", "<script>alert(1)</script>", "a\nb", "A" + strings.Repeat("̈", 400), "%s%s%n",
		"splice S1", "joint 1", "battery +", strings.Repeat("((", 3000), "0", "20000000", "A (20000000-way)", "24/7"}[a.r.IntN(28-1)]
}

func (a *attack) number() any {
	return []any{0, 1, -1, 2, 7, 400, 1e308, -1e308, 1e-300, 3.7, math.MaxInt32, int64(1) << 53, int64(math.MaxInt64), 20_000_000,
		json.Number("1e999"), "7", nil}[a.r.IntN(17)]
}

// make makes a value of a schema, most of it as it should be.
func (a *attack) make(schema map[string]any, depth int) any {
	if ref, is := schema["$ref"].(string); is {
		name := ref[strings.LastIndex(ref, "/")+1:]
		d, _ := a.schema[name].(map[string]any)
		return a.make(d, depth+1)
	}
	if a.r.IntN(40) == 0 {
		return []any{nil, "x", 1, []any{}, map[string]any{}, true}[a.r.IntN(6)]
	}
	if list, is := schema["enum"].([]any); is && a.r.IntN(12) > 0 {
		return list[a.r.IntN(len(list))]
	}
	switch schema["type"] {
	case "object":
		return a.object(schema, depth)
	case "array":
		items, _ := schema["items"].(map[string]any)
		n := a.r.IntN(4)
		if a.r.IntN(60) == 0 && depth < 3 {
			n = 3000
		}
		out := []any{}
		for range n {
			if depth > 9 {
				break
			}
			out = append(out, a.make(items, depth+1))
		}
		return out
	case "string":
		return a.word()
	case "integer", "number":
		return a.number()
	case "boolean":
		return a.r.IntN(2) == 0
	}
	return a.word()
}

func (a *attack) object(schema map[string]any, depth int) any {
	out := map[string]any{}
	props, _ := schema["properties"].(map[string]any)
	required, _ := schema["required"].([]any)
	keys := make([]string, 0, len(props))
	for k := range props {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	for _, k := range keys {
		must := slices.Contains(required, any(k))
		if depth > 9 || !must && a.r.IntN(2) == 0 {
			continue
		}
		switch sub, _ := props[k].(map[string]any); k {
		case "id":
			out[k] = a.change()
		case "seen":
			out[k] = int64(1) << 40
		default:
			out[k] = a.make(sub, depth+1)
		}
	}
	if more, is := schema["additionalProperties"].(map[string]any); is {
		for range a.r.IntN(3) {
			out[a.word()] = a.make(more, depth+1)
		}
	}
	return out
}

func (a *attack) fill(path string) string {
	parts := strings.Split(path, "/")
	for i, p := range parts {
		switch {
		case p == ":job":
			parts[i] = a.jobs[a.r.IntN(len(a.jobs))]
		case strings.HasPrefix(p, ":"):
			parts[i] = strings.ReplaceAll(pathEscape(a.word()), "/", "%2F")
			if parts[i] == "" || len(parts[i]) > 3000 {
				parts[i] = "from"
			}
		}
	}
	return strings.Join(parts, "/")
}

func pathEscape(text string) string {
	var b strings.Builder
	for _, c := range []byte(text) {
		if c > 32 && c < 127 && !strings.ContainsRune("/%?#:", rune(c)) {
			b.WriteByte(c)
		} else {
			fmt.Fprintf(&b, "%%%02X", c)
		}
	}
	return b.String()
}

// table is a table that nobody should bring.
func (a *attack) table() string {
	return []string{
		"Connector,Pin,Function\n" + "A (20000000-way),1,Ground\n",
		"Connector,Pin,Function\n" + strings.Repeat("X,999,Ground\n", 50),
		func() string {
			var b strings.Builder
			b.WriteString("Connector,Pin,Function\n")
			for i := range 4000 {
				fmt.Fprintf(&b, "C%d,999,Injector %d\n", i, i)
			}
			return b.String()
		}(),
		"Pin,Function\n1," + strings.Repeat("coolant temperature sensor ", 1500) + "\n",
		"Pin\tFunction\n1\t\"\n2\tx",
		"Branch,Breaks out of\n" + func() string {
			var b strings.Builder
			for i := range 18000 {
				fmt.Fprintf(&b, "b%d,b%d\n", i+1, i)
			}
			return b.String()
		}(),
		"Device,Kind\n" + strings.Repeat("D", 100_000) + ",unit\n",
		"Wire,From,Cavity,To,Cavity\n" + strings.Repeat("W1,A,1,B,2\n", 3000),
		strings.Repeat(",", 300) + "\n", "\xff\xfe\x00", "", "PK\x03\x04rest", a.word() + "," + a.word(),
	}[a.r.IntN(13)]
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
			key := []string{"position", "do", "element", "a", "b", "ohms", "volts", "sw", "row", "wire", "kinds", "was", "is", "job", "stage",
				"only", "cols", "rows", "wide", "high", "plug", "kind", "seen", "begun", "connector", "at", "device", "above", "before", "from", "to"}[a.r.IntN(31)]
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
	begun := time.Now()
	status, data, _ := a.do(r.Method, path, kind, body)
	took := time.Since(begun)
	a.status[status]++
	a.slowest = max(a.slowest, took)
	switch {
	case status >= 500 && (status != http.StatusBadGateway || !strings.Contains(r.Path, "/prove/")): // a device outside fails
		a.t.Errorf("%d: %s %.200s answers %d: %.300s", i, r.Method, path, status, data)
	case took > longestAnswer:
		a.t.Errorf("%d: %s %.200s takes %v", i, r.Method, path, took)
	}
}

// form is a form with a hostile table and hostile words about it.
func (a *attack) form() (io.Reader, string) {
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	_ = w.WriteField("id", a.change())
	_ = w.WriteField("seen", fmt.Sprint(int64(1)<<40))
	meta, _ := json.Marshal(map[string]any{"name": "x", "trust": "copied", "connector": a.word(), "id": a.change(), "seen": int64(1) << 40})
	_ = w.WriteField("meta", string(meta))
	f, err := w.CreateFormFile("file", "table.csv")
	if err != nil {
		a.t.Fatal(err)
	}
	_, _ = io.WriteString(f, a.table())
	_ = w.Close()
	return &b, w.FormDataContentType()
}

// mutated is a job file in which a few values are others.
func (a *attack) mutated() string {
	_, data, _ := a.do("GET", "/api/jobs/"+a.jobs[a.r.IntN(2)]+"/file?pictures=no", "", nil)
	var v any
	if json.Unmarshal(data, &v) != nil {
		return "{"
	}
	for range 1 + a.r.IntN(4) {
		a.mutate(v, 0)
	}
	out, _ := json.Marshal(v)
	if a.r.IntN(10) == 0 {
		out = append([]byte("\xef\xbb\xbf"), out...)
	}
	return string(out)
}

func (a *attack) mutate(v any, depth int) {
	other := func() any {
		return []any{nil, a.word(), a.number(), []any{}, map[string]any{}, []any{map[string]any{}}, true}[a.r.IntN(7)]
	}
	switch x := v.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for k := range x {
			keys = append(keys, k)
		}
		slices.Sort(keys)
		if len(keys) == 0 {
			return
		}
		k := keys[a.r.IntN(len(keys))]
		if depth > 1 && a.r.IntN(3) == 0 {
			x[k] = other()
			return
		}
		a.mutate(x[k], depth+1)
	case []any:
		if len(x) == 0 {
			return
		}
		k := a.r.IntN(len(x))
		if a.r.IntN(4) == 0 {
			x[k] = other()
			return
		}
		a.mutate(x[k], depth+1)
	}
}

// standing opens every job that there is: each of its pages answers.
func (a *attack) standing() {
	a.t.Helper()
	for _, j := range show[server.JobList](a.client, "/api/jobs").Jobs {
		for _, page := range []string{"", "/front", "/gather", "/match", "/thin", "/pin", "/reach", "/feed", "/join", "/prove", "/work", "/handover",
			"/handover/money", "/handover/book.pdf", "/gather/labels.pdf", "/pin/sheet.pdf"} {
			begun := time.Now()
			status, data, _ := a.do("GET", "/api/jobs/"+j.ID+page, "", nil)
			if took := time.Since(begun); status >= 500 || status == 404 || took > longestAnswer {
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

// Whatever is sent, to any route: no answer that says that Draxel is at fault, none that takes longer than a few seconds,
// no job that does not open, no memory without bound.
func TestHostile(t *testing.T) {
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
	t.Logf("%d routes, %d that read; answers %v; slowest %v; %d MB", len(a.routes), reading, a.status, a.slowest, a.memory>>20)
}
