package server_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"draxel/core/match"
	"draxel/demo"
	"draxel/server"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
	"draxel/server/pinapi"
	"draxel/store"
)

// client speaks to a server of its own over the loopback interface.
type client struct {
	t       testing.TB
	url     string
	changes int
}

func handler(t testing.TB, o desk.Options) http.Handler {
	t.Helper()
	s, err := server.New(o)
	if err != nil {
		t.Fatal(err)
	}
	return s.Handler()
}

func start(t testing.TB) *client {
	t.Helper()
	return startAt(t, nil)
}

// startAt starts a server by a clock of the test's.
func startAt(t testing.TB, now func() time.Time) *client {
	t.Helper()
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewServer(handler(t, desk.Options{Store: s, Now: now}))
	t.Cleanup(func() {
		web.CloseClientConnections()
		web.Close()
		_ = s.Close()
	})
	return &client{t: t, url: web.URL}
}

func (c *client) do(method, path, kind string, body io.Reader, edit ...func(*http.Request)) (int, []byte, http.Header) {
	c.t.Helper()
	r, err := http.NewRequestWithContext(c.t.Context(), method, c.url+path, body)
	if err != nil {
		c.t.Fatal(err)
	}
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	r.Header.Set("Draxel-Who", "In%C3%A8s")
	for _, e := range edit {
		e(r)
	}
	reply, err := http.DefaultClient.Do(r)
	if err != nil {
		c.t.Fatal(err)
	}
	defer reply.Body.Close()
	data, err := io.ReadAll(reply.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return reply.StatusCode, data, reply.Header
}

// send sends JSON and gives the reply, or the problem's code.
func send[T any](c *client, method, path string, body any) (v T, code string) {
	c.t.Helper()
	var reader io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			c.t.Fatal(err)
		}
		reader = bytes.NewReader(text)
	}
	status, data, _ := c.do(method, path, "application/json", reader)
	return decode[T](c, status, data)
}

func decode[T any](c *client, status int, data []byte) (v T, code string) {
	c.t.Helper()
	if status >= 400 {
		var p desk.Problem
		if err := json.Unmarshal(data, &p); err != nil || p.Code == "" || p.Detail == "" || p.Status != status {
			c.t.Fatalf("status %d without a proper problem: %s", status, data)
		}
		return v, p.Code
	}
	if err := json.Unmarshal(data, &v); err != nil {
		c.t.Fatalf("reply %s: %v", data, err)
	}
	return v, ""
}

func (c *client) change() string {
	c.changes++
	return fmt.Sprint("change-", c.changes)
}

// bring imports or previews a table.
func bring[T any](c *client, method, path string, data []byte, fields map[string]string) (v T, code string) {
	c.t.Helper()
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	for k, f := range fields {
		if err := w.WriteField(k, f); err != nil {
			c.t.Fatal(err)
		}
	}
	if data != nil {
		part, err := w.CreateFormFile("file", "table.csv")
		if err != nil {
			c.t.Fatal(err)
		}
		if _, err := part.Write(data); err != nil {
			c.t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		c.t.Fatal(err)
	}
	status, reply, _ := c.do(method, path, w.FormDataContentType(), &b)
	return decode[T](c, status, reply)
}

// refit makes the demonstration's re-pinned job from its files, as a user would.
func (c *client) refit() string {
	c.t.Helper()
	done, code := send[desk.Done](c, "POST", "/api/jobs",
		jobsapi.JobRequest{ID: c.change(), Title: "Refit", Kind: "re-pinned"})
	if code != "" {
		c.t.Fatal(code)
	}
	for side, name := range map[string]string{"from": "sorrel-refit/vk-1-harness.csv",
		"to": "sorrel-refit/vk-2-unit.xlsx"} {
		data, err := demo.File(name)
		if err != nil {
			c.t.Fatal(err)
		}
		if _, code := bring[desk.Done](c, "PUT", "/api/jobs/"+done.Job+"/gather/"+side, data, map[string]string{"id": c.change(), "meta": `{"name":"` + side + `","trust":"maker"}`, "seen": "9"}); code != "" {
			c.t.Fatal(code)
		}
	}
	return "/api/jobs/" + done.Job
}

func show[T any](c *client, path string) T {
	c.t.Helper()
	v, code := send[T](c, "GET", path, nil)
	if code != "" {
		c.t.Fatalf("GET %s: %s", path, code)
	}
	return v
}

func (c *client) decide(job string, r matchapi.DecideRequest) string {
	c.t.Helper()
	if r.ID == "" {
		r.ID = c.change()
	}
	_, code := send[desk.Done](c, "POST", job+"/match/decide", r)
	return code
}

func TestFromTwoFilesToTheSheet(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	if m.Totals.From != 83 || !m.Totals.Reconciled {
		t.Fatalf("totals %+v", m.Totals)
	}
	done, code := send[desk.Done](c, "POST", job+"/match/accept",
		matchapi.AcceptRequest{ID: c.change(), Seen: m.Revision, Above: 0.95})
	if code != "" || done.Count < 70 {
		t.Fatalf("accepted %d, %s", done.Count, code)
	}
	p := show[pinapi.PinView](c, job+"/pin")
	if !p.Proof.Reached || len(p.Steps) < 40 || len(p.Wires) != 83 {
		t.Errorf("proof %+v with %d steps", p.Proof, len(p.Steps))
	}
	status, pdf, header := c.do("GET", job+"/pin/sheet.pdf", "", nil)
	if status != 200 || !bytes.HasPrefix(pdf, []byte("%PDF")) ||
		!strings.Contains(header.Get("Content-Disposition"), "Refit work sheet.pdf") {
		t.Errorf("sheet: %d, %.20q, %s", status, pdf, header.Get("Content-Disposition"))
	}
	undone, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{ID: c.change()})
	if code != "" || undone.Count != done.Count || show[matchapi.MatchView](c, job+"/match").Totals.Decided != 0 {
		t.Errorf("undo took back %d of %d, %s", undone.Count, done.Count, code)
	}
	journal := show[jobsapi.JournalView](c, job+"/journal")
	if e := journal.Entries; len(e) != 5 || e[0].What != "undo" || !e[1].Undone || e[1].Who != "Inès" {
		t.Errorf("journal %+v", e)
	}
}

func TestJobFileThereAndBack(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	if _, code := send[desk.Done](c, "POST", job+"/match/accept",
		matchapi.AcceptRequest{ID: c.change(), Seen: m.Revision, Above: 0.9}); code != "" {
		t.Fatal(code)
	}
	_, file, _ := c.do("GET", job+"/file", "", nil)
	status, reply, _ := c.do("POST", "/api/jobs/file", "application/json", bytes.NewReader(file))
	done, code := decode[desk.Done](c, status, reply)
	if code != "" {
		t.Fatal(code)
	}
	_, again, _ := c.do("GET", "/api/jobs/"+done.Job+"/file", "", nil)
	if !bytes.Equal(file, again) {
		t.Error("a job file that was opened and saved is not the same")
	}
	for name, text := range map[string]string{"not-a-job": `[1,2]`, "newer-format": `{"format":99,"job":{}}`, "damaged-job": `{"format":1,"job":{"title":"x","kind":"burnt","donor":"","chassis":""}}`} {
		status, reply, _ := c.do("POST", "/api/jobs/file", "application/json", strings.NewReader(text))
		if _, code := decode[desk.Done](c, status, reply); code != name {
			t.Errorf("%s: got %q", name, code)
		}
	}
}

func TestOnlyOurOwnPages(t *testing.T) {
	c := start(t)
	for name, edit := range map[string]func(*http.Request){
		"wrong-host":   func(r *http.Request) { r.Host = "draxel.example" },
		"wrong-origin": func(r *http.Request) { r.Header.Set("Origin", "http://elsewhere.example") },
	} {
		status, data, _ := c.do("POST", "/api/jobs", "application/json", strings.NewReader(`{}`), edit)
		if _, code := decode[desk.Done](c, status, data); status != 403 || code != name {
			t.Errorf("%s: %d %q", name, status, code)
		}
	}
	status, _, header := c.do("GET", "/jobs/x/match", "", nil)
	if status != 200 || !strings.Contains(header.Get("Content-Security-Policy"), "default-src 'self'") {
		t.Errorf("the page: %d, %v", status, header)
	}
	for _, missing := range []string{"/assets/none.js", "/api/none", "/api/jobs/none"} {
		if status, _, _ := c.do("GET", missing, "", nil); status != 404 {
			t.Errorf("%s: %d", missing, status)
		}
	}
	if _, code := send[desk.Done](c, "POST", "/api/jobs", map[string]any{"surprise": 1}); code != "bad-request" {
		t.Errorf("an unknown field: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", "/api/jobs",
		jobsapi.JobRequest{ID: "x", Kind: "re-pinned"}); code != "no-title" {
		t.Errorf("no title: %q", code)
	}
}

// told opens a stream of events and gives what tells the data of the next, "closed" when it has ended.
func (c *client) told(path string) (next func() string) {
	c.t.Helper()
	r, err := http.NewRequestWithContext(c.t.Context(), "GET", c.url+path, nil)
	if err != nil {
		c.t.Fatal(err)
	}
	reply, err := http.DefaultClient.Do(r)
	if err != nil {
		c.t.Fatal(err)
	}
	c.t.Cleanup(func() { _ = reply.Body.Close() })
	lines := bufio.NewScanner(reply.Body)
	return func() string {
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data:"); ok {
				return data
			}
		}
		return "closed"
	}
}

func TestOtherWindowsAreTold(t *testing.T) {
	c := start(t)
	job := c.refit()
	next := c.told(job + "/events")
	if got := next(); got != "3" {
		t.Fatalf("first told revision %s", got)
	}
	m := show[matchapi.MatchView](c, job+"/match")
	if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: m.Lines[0].From, Action: matchapi.GoesAs,
		Seen: 3}); code != "" {
		t.Fatal(code)
	}
	if got := next(); got != "4" {
		t.Errorf("then told revision %s", got)
	}
}

func TestWhatIsNotThere(t *testing.T) {
	c := start(t)
	job := c.refit()
	for path, want := range map[string]string{
		"/api/jobs/none": "no-such-job", "/api/jobs/none/match": "no-such-job", "/api/jobs/none/pin": "no-such-job",
		"/api/jobs/none/file":        "no-such-job",
		"/api/jobs/none/gather/from": "no-such-job", "/api/jobs/none/pin/sheet.pdf": "no-such-job",
		"/api/jobs/none/events": "no-such-job",
		job + "/gather/above":   "no-such-side", job + "/match/evidence?fromConnector=Z": "no-such-row",
		"/api/none": "no-such-address",
	} {
		if _, code := send[map[string]any](c, "GET", path, nil); code != want {
			t.Errorf("GET %s: %q, want %q", path, code, want)
		}
	}
	if _, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{}); code != "no-change-id" {
		t.Errorf("an undo without an id: %q", code)
	}
	if _, code := send[desk.Done](c, "DELETE", job, nil); code != "" {
		t.Fatal(code)
	}
	if _, code := send[desk.Done](c, "DELETE", job, nil); code != "" {
		t.Errorf("deleted twice, as a retry does: %q", code)
	}
	if _, code := send[desk.Done](c, "DELETE", "/api/jobs/none", nil); code != "no-such-job" {
		t.Errorf("deleted what never was: %q", code)
	}
}

// A deleted job is off the list, says until when it can be brought back, and comes back whole.
func TestADeletedJobComesBack(t *testing.T) {
	c := start(t)
	job := c.refit()
	id := strings.TrimPrefix(job, "/api/jobs/")
	before := show[matchapi.MatchView](c, job+"/match").Revision
	send[desk.Done](c, "DELETE", job, nil)
	if _, code := send[matchapi.MatchView](c, "GET", job+"/match", nil); code != "no-such-job" {
		t.Errorf("deleted, and shown: %q", code)
	}
	gone := show[jobsapi.JobList](c, "/api/deleted").Jobs
	if len(gone) != 1 || gone[0].ID != id || gone[0].Until <= gone[0].Changed {
		t.Fatalf("deleted: %+v", gone)
	}
	if _, code := send[desk.Done](c, "POST", "/api/deleted/"+id, nil); code != "" {
		t.Fatal(code)
	}
	if show[matchapi.MatchView](c, job+"/match").Revision != before || len(show[jobsapi.JobList](c,
		"/api/deleted").Jobs) > 0 {
		t.Error("it is not back as it was")
	}
}

func TestARetriedChangeIsOne(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	r := matchapi.DecideRequest{ID: "once", Seen: m.Revision, Side: match.From, At: m.Lines[0].From,
		Action: matchapi.GoesAs}
	for range 3 { // the reply was lost on the way, the page asks again
		if code := c.decide(job, r); code != "" {
			t.Fatal(code)
		}
	}
	if e := show[jobsapi.JournalView](c, job+"/journal").Entries[0]; e.About != m.Lines[0].From.String() ||
		e.What != "goes" {
		t.Errorf("journal %+v", e)
	}
	if got := show[matchapi.MatchView](c, job+"/match"); got.Revision != m.Revision+1 {
		t.Errorf("revision %d after one change from %d", got.Revision, m.Revision)
	}
}
