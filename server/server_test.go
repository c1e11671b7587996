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
	"draxel/store"
)

// client speaks to a server of its own over the loopback interface.
type client struct {
	t       *testing.T
	url     string
	changes int
}

func start(t *testing.T) *client {
	t.Helper()
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewServer(server.New(server.Options{Store: s}).Handler())
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
		var p server.Problem
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
	done, code := send[server.Done](c, "POST", "/api/jobs", server.JobRequest{ID: c.change(), Title: "Refit", Kind: "re-pinned"})
	if code != "" {
		c.t.Fatal(code)
	}
	for side, name := range map[string]string{"from": "sorrel-refit/vk-1-harness.csv", "to": "sorrel-refit/vk-2-unit.xlsx"} {
		data, err := demo.File(name)
		if err != nil {
			c.t.Fatal(err)
		}
		if _, code := bring[server.Done](c, "PUT", "/api/jobs/"+done.Job+"/gather/"+side, data, map[string]string{"id": c.change(), "meta": `{"name":"` + side + `","trust":"maker"}`, "seen": "9"}); code != "" {
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

func (c *client) decide(job string, r server.DecideRequest) string {
	c.t.Helper()
	if r.ID == "" {
		r.ID = c.change()
	}
	_, code := send[server.Done](c, "POST", job+"/match/decide", r)
	return code
}

func TestFromTwoFilesToTheSheet(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	if m.Totals.From != 83 || !m.Totals.Reconciled {
		t.Fatalf("totals %+v", m.Totals)
	}
	done, code := send[server.Done](c, "POST", job+"/match/accept", server.AcceptRequest{ID: c.change(), Seen: m.Revision, Above: 0.95})
	if code != "" || done.Count < 70 {
		t.Fatalf("accepted %d, %s", done.Count, code)
	}
	p := show[server.PinView](c, job+"/pin")
	if !p.Proof.Reached || len(p.Steps) < 40 || len(p.Wires) != 83 {
		t.Errorf("proof %+v with %d steps", p.Proof, len(p.Steps))
	}
	status, pdf, header := c.do("GET", job+"/pin/sheet.pdf", "", nil)
	if status != 200 || !bytes.HasPrefix(pdf, []byte("%PDF")) || !strings.Contains(header.Get("Content-Disposition"), "Refit re-pin sheet.pdf") {
		t.Errorf("sheet: %d, %.20q, %s", status, pdf, header.Get("Content-Disposition"))
	}
	undone, code := send[server.Done](c, "POST", job+"/undo", server.UndoRequest{ID: c.change()})
	if code != "" || undone.Count != done.Count || show[server.MatchView](c, job+"/match").Totals.Decided != 0 {
		t.Errorf("undo took back %d of %d, %s", undone.Count, done.Count, code)
	}
	journal := show[server.JournalView](c, job+"/journal")
	if e := journal.Entries; len(e) != 5 || e[0].What != "undo" || !e[1].Undone || e[1].Who != "Inès" {
		t.Errorf("journal %+v", e)
	}
}

func TestDecisionsThatAreRefused(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	first, second := m.Lines[0], m.Lines[1]
	var ground match.Line
	for _, l := range m.Lines {
		if l.From.String() == "B32" || l.Verdict == match.Goes {
			ground = l
		}
	}
	if code := c.decide(job, server.DecideRequest{Side: match.From, At: first.From, Action: server.Accept, To: first.To, Seen: m.Revision}); code != "" {
		t.Fatal(code)
	}
	now := m.Revision + 1
	for name, r := range map[string]server.DecideRequest{
		"cavity-taken": {Side: match.From, At: ground.From, Action: server.Accept, To: first.To, Seen: now},
		"stale":        {Side: match.From, At: first.From, Action: server.GoesAs, Seen: m.Revision},
		"no-such-row":  {Side: match.From, At: match.Line{}.From, Action: server.GoesAs, Seen: now},
		"no-source":    {Side: match.From, At: second.From, Action: server.Source, Source: "sun", Seen: now},
		"no-reason":    {Side: match.To, At: second.To, Action: server.Empty, Seen: now},
		"wrong-side":   {Side: match.To, At: second.To, Action: server.GoesAs, Seen: now},
		"no-action":    {Side: match.From, At: second.From, Action: "burn", Seen: now},
	} {
		code := c.decide(job, r)
		if name == "cavity-taken" && code == "vetoed" { // the danger rule comes first, where it applies
			continue
		}
		if code != name {
			t.Errorf("%s: got %q", name, code)
		}
	}
	battery, coil := find(t, m, "Battery, terminal 30"), find(t, m, "Power ground 1")
	if code := c.decide(job, server.DecideRequest{Side: match.From, At: battery.From, Action: server.Accept, To: coil.To, Seen: now}); code != "vetoed" {
		t.Errorf("a battery feed onto a ground: %q", code)
	}
	if got := show[server.MatchView](c, job+"/match"); got.Revision != now || got.Totals.Decided != 1 {
		t.Errorf("a refused decision changed the job: revision %d, %d decided", got.Revision, got.Totals.Decided)
	}
}

// Eight people want the same cavity at the same moment: one gets it, the others are told who has it.
func TestOneCavityIsGivenOnce(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	to := m.Lines[0].To
	codes := make(chan string, 8)
	for i := range 8 {
		body, err := json.Marshal(server.DecideRequest{ID: fmt.Sprint("race-", i), Seen: m.Revision, Side: match.From, At: m.Lines[i].From, Action: server.Accept, To: to})
		if err != nil {
			t.Fatal(err)
		}
		go func() {
			reply, err := http.Post(c.url+job+"/match/decide", "application/json", bytes.NewReader(body))
			if err != nil {
				codes <- err.Error()
				return
			}
			defer reply.Body.Close()
			var p server.Problem
			if reply.StatusCode >= 400 && json.NewDecoder(reply.Body).Decode(&p) != nil {
				p.Code = "unreadable"
			}
			codes <- p.Code
		}()
	}
	count := map[string]int{}
	for range 8 {
		count[<-codes]++
	}
	decided := show[server.MatchView](c, job+"/match").Totals.Decided
	if count[""] != 1 || decided != 1 || count["cavity-taken"]+count["vetoed"] != 7 {
		t.Errorf("answers %v, %d decided", count, decided)
	}
}

func find(t *testing.T, m server.MatchView, function string) match.Line {
	t.Helper()
	for i, row := range m.From.Rows {
		if row.Function == function {
			for _, l := range m.Lines {
				if l.From == m.From.Rows[i].Ref {
					return l
				}
			}
		}
	}
	t.Fatalf("no row %q", function)
	return match.Line{}
}

func TestRejectingLeadsToTheNextBest(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	l := find(t, m, "Throttle motor +")
	if code := c.decide(job, server.DecideRequest{Side: match.From, At: l.From, Action: server.Reject, To: l.To, Seen: m.Revision}); code != "" {
		t.Fatal(code)
	}
	after := find(t, show[server.MatchView](c, job+"/match"), "Throttle motor +")
	if after.To == l.To || after.Decided {
		t.Errorf("rejected %s, yet %+v", l.To, after)
	}
	if code := c.decide(job, server.DecideRequest{Side: match.From, At: l.From, Action: server.Reopen, Seen: m.Revision + 1}); code != "" {
		t.Fatal(code)
	}
	if again := find(t, show[server.MatchView](c, job+"/match"), "Throttle motor +"); again.To != l.To {
		t.Errorf("reopened, yet %+v", again)
	}
}

func TestHousings(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	keep := func(kept map[string]string) string {
		_, code := send[server.Done](c, "PUT", job+"/match/kept", server.KeptRequest{ID: c.change(), Seen: 99, Kept: kept})
		return code
	}
	if code := keep(map[string]string{"A": "A", "B": "A"}); code != "kept-twice" {
		t.Errorf("one housing for two connectors: %q", code)
	}
	if code := keep(map[string]string{"A": "Z"}); code != "no-such-connector" {
		t.Errorf("no such housing: %q", code)
	}
	if code := keep(map[string]string{"A": "A"}); code != "" {
		t.Fatal(code)
	}
	after := show[server.MatchView](c, job+"/match")
	if after.Totals.MovesConnector <= m.Totals.MovesConnector || after.Kept["B"] != "" {
		t.Errorf("B is new, yet %+v", after.Totals)
	}
}

func TestJobFileThereAndBack(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[server.MatchView](c, job+"/match")
	if _, code := send[server.Done](c, "POST", job+"/match/accept", server.AcceptRequest{ID: c.change(), Seen: m.Revision, Above: 0.9}); code != "" {
		t.Fatal(code)
	}
	_, file, _ := c.do("GET", job+"/file", "", nil)
	status, reply, _ := c.do("POST", "/api/jobs/file", "application/json", bytes.NewReader(file))
	done, code := decode[server.Done](c, status, reply)
	if code != "" {
		t.Fatal(code)
	}
	_, again, _ := c.do("GET", "/api/jobs/"+done.Job+"/file", "", nil)
	if !bytes.Equal(file, again) {
		t.Error("a job file that was opened and saved is not the same")
	}
	for name, text := range map[string]string{"not-a-job": `[1,2]`, "newer-format": `{"format":2,"job":{}}`, "damaged-job": `{"format":1,"job":{"title":"x","kind":"burnt","donor":"","chassis":""}}`} {
		status, reply, _ := c.do("POST", "/api/jobs/file", "application/json", strings.NewReader(text))
		if _, code := decode[server.Done](c, status, reply); code != name {
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
		if _, code := decode[server.Done](c, status, data); status != 403 || code != name {
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
	if _, code := send[server.Done](c, "POST", "/api/jobs", map[string]any{"surprise": 1}); code != "bad-request" {
		t.Errorf("an unknown field: %q", code)
	}
	if _, code := send[server.Done](c, "POST", "/api/jobs", server.JobRequest{ID: "x", Kind: "re-pinned"}); code != "no-title" {
		t.Errorf("no title: %q", code)
	}
}

func TestOtherWindowsAreTold(t *testing.T) {
	c := start(t)
	job := c.refit()
	r, err := http.NewRequestWithContext(t.Context(), "GET", c.url+job+"/events", nil)
	if err != nil {
		t.Fatal(err)
	}
	reply, err := http.DefaultClient.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer reply.Body.Close()
	lines := bufio.NewScanner(reply.Body)
	next := func() string {
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data:"); ok {
				return data
			}
		}
		return "closed"
	}
	if got := next(); got != "3" {
		t.Fatalf("first told revision %s", got)
	}
	m := show[server.MatchView](c, job+"/match")
	if code := c.decide(job, server.DecideRequest{Side: match.From, At: m.Lines[0].From, Action: server.GoesAs, Seen: 3}); code != "" {
		t.Fatal(code)
	}
	if got := next(); got != "4" {
		t.Errorf("then told revision %s", got)
	}
}
