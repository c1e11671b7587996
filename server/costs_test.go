package server_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"draxel/core/prove"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/server/proveapi"
	"draxel/store"
)

// The page of this machine says what the parts of the plan cost, and that a note makes no table be read again.
func TestWhatThePartsCost(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	seen := show[jobsapi.JobView](c, job).Revision
	if _, code := send[desk.Done](c, "POST", job+"/prove/note", proveapi.NoteRequest{ID: c.change(), Seen: seen,
		Kind: prove.Changed, Text: "a relay"}); code != "" {
		t.Fatal(code)
	}
	show[jobsapi.JobView](c, job)
	_, body, _ := c.do("GET", "/debug/plan", "", nil)
	costs := map[string][]string{}
	for line := range strings.Lines(string(body)) {
		if f := strings.Fields(line); len(f) > 3 {
			costs[f[0]] = f[1:3]
		}
	}
	for name, want := range map[string]string{"tables": "1 1", "match": "1 1", "reach": "1 1", "measured": "2 0"} {
		if got := strings.Join(costs[name], " "); got != want {
			t.Errorf("%s was computed and kept %s times, wanted %s:\n%s", name, got, want, body)
		}
	}
}

// Whoever is let in from the local network does not see it, whatever name he asks for.
func TestWhatThePartsCostIsForThisMachine(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	h := handler(t, desk.Options{Store: s})
	for from, want := range map[string]int{"127.0.0.1:9": http.StatusOK, "192.0.2.1:9": http.StatusForbidden} {
		r := httptest.NewRequest("GET", "http://localhost/debug/plan", nil)
		r.RemoteAddr = from
		w := httptest.NewRecorder()
		if h.ServeHTTP(w, r); w.Code != want {
			t.Errorf("from %s: %d, wanted %d", from, w.Code, want)
		}
	}
}
