package server_test

import (
	"net/http/httptest"
	"testing"
	"time"

	"draxel/core/stored"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/store"
)

// The demonstration is put on the list for whoever asks, is marked there, goes off it as a whole, and comes back as it
// was left; jobs of one's own stay as they are.
func TestTryTheDemo(t *testing.T) {
	if _, code := send[desk.Done](start(t), "POST", "/api/demo", nil); code != "no-demo" {
		t.Errorf("without one: %q", code)
	}
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	made := func() (all []store.NewJob, _ error) {
		for _, id := range []string{"look", "round"} {
			all = append(all, store.NewJob{ID: id, Request: "demo-" + id, Path: "--demo",
				Job: stored.Job{Title: id, Kind: stored.Repinned}})
		}
		return all, nil
	}
	web := httptest.NewServer(handler(t, desk.Options{Store: s,
		Demo: desk.Demo{IDs: []string{"look", "round"}, Jobs: made}}))
	t.Cleanup(func() { web.Close(); _ = s.Close() })
	c := &client{t: t, url: web.URL}
	if _, code := send[desk.Done](c, "POST", "/api/jobs",
		jobsapi.JobRequest{ID: c.change(), Title: "Own", Kind: stored.Sensor}); code != "" {
		t.Fatal(code)
	}
	list := func() (marked int, titles map[string]bool) {
		l, code := send[jobsapi.JobList](c, "GET", "/api/jobs", nil)
		if code != "" || !l.Demo {
			t.Fatalf("%q, %+v", code, l)
		}
		titles = map[string]bool{}
		for _, j := range l.Jobs {
			titles[j.Title] = true
			if j.Demo {
				marked++
			}
		}
		return marked, titles
	}
	ask := func(method string, want int) map[string]bool {
		t.Helper()
		if _, code := send[desk.Done](c, method, "/api/demo", nil); code != "" {
			t.Fatal(code)
		}
		marked, titles := list()
		if marked != want || len(titles) != want+1 || !titles["Own"] {
			t.Errorf("%s: %d are marked of %v", method, marked, titles)
		}
		return titles
	}
	ask("DELETE", 0) // there is none: nothing to do
	ask("POST", 2)
	ask("POST", 2)
	view, _ := send[jobsapi.JobView](c, "GET", "/api/jobs/look", nil)
	if _, code := send[desk.Done](c, "PUT", "/api/jobs/look", jobsapi.JobRequest{ID: c.change(), Seen: view.Revision,
		Title: "mine now", Kind: stored.Repinned}); code != "" {
		t.Fatal(code)
	}
	ask("DELETE", 0)
	if titles := ask("POST", 2); !titles["mine now"] {
		t.Errorf("it came back as %v", titles)
	}
}
