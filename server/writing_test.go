package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"draxel/core/match"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
)

// goes is a change that decides a row: its wire goes.
func goes(id string, seen int64, l match.Line) matchapi.DecideRequest {
	return matchapi.DecideRequest{ID: id, Seen: seen, Side: match.From, At: l.From, Action: matchapi.GoesAs}
}

// rows gives rows of From that nobody has decided.
func (c *client) rows(job string, n int) (seen int64, out []match.Line) {
	c.t.Helper()
	m := show[matchapi.MatchView](c, job+"/match")
	for _, l := range m.Lines {
		if !l.Decided && len(out) < n {
			out = append(out, l)
		}
	}
	if len(out) < n {
		c.t.Fatalf("only %d open rows", len(out))
	}
	return m.Revision, out
}

// A change that has reached the server is written, whatever becomes of whoever sent it.
func TestWhatHasReachedTheServerIsWritten(t *testing.T) {
	c := start(t)
	job := c.refit()
	seen, rows := c.rows(job, 8)
	for i, l := range rows {
		body, err := json.Marshal(goes(fmt.Sprint("left ", i), seen, l))
		if err != nil {
			t.Fatal(err)
		}
		ctx, leave := context.WithCancel(t.Context())
		leaving := &leaver{Reader: strings.NewReader(string(body)), leave: leave}
		r, err := http.NewRequestWithContext(ctx, "POST", c.url+job+"/match/decide", leaving)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Content-Type", "application/json")
		r.ContentLength = int64(len(body))
		if reply, err := http.DefaultClient.Do(r); err == nil {
			_ = reply.Body.Close()
		}
	}
	for range 100 {
		if c.decided(job, rows) == len(rows) {
			return
		}
		time.Sleep(20 * time.Millisecond)
	}
	t.Errorf("%d of %d are decided", c.decided(job, rows), len(rows))
}

// leaver is a body whose sender is gone as soon as it has been read.
type leaver struct {
	*strings.Reader
	leave func()
}

func (l *leaver) Read(p []byte) (int, error) {
	n, err := l.Reader.Read(p)
	if l.Len() == 0 {
		defer l.leave()
	}
	return n, err
}

// What a page had not sent when it was closed comes in one piece: in order, each once, up to the first that is refused.
func TestLettersThatOutliveTheirPage(t *testing.T) {
	c := start(t)
	job := c.refit()
	seen, rows := c.rows(job, 4)
	letter := func(r matchapi.DecideRequest) desk.Letter {
		body, err := json.Marshal(r)
		if err != nil {
			t.Fatal(err)
		}
		return desk.Letter{Method: "POST", Path: "/match/decide", Body: body}
	}
	r := desk.LettersRequest{Letters: []desk.Letter{letter(goes("a", seen, rows[0])), letter(goes("b", seen, rows[1])),
		letter(goes("stale", 0, rows[0])), letter(goes("d", seen, rows[3]))}}
	for range 2 {
		reply, code := send[desk.LettersReply](c, "POST", job+"/letters", r)
		if code != "" || reply.Done != 2 || c.decided(job, rows) != 2 {
			t.Errorf("%q: %d carried out, %d decided", code, reply.Done, c.decided(job, rows))
		}
	}
	if now, _ := c.rows(job, 1); now != seen+2 {
		t.Errorf("revision %d after two changes from %d", now, seen)
	}
	for _, l := range []desk.Letter{{Method: "DELETE", Path: ""}, {Method: "POST", Path: "/letters"}, {Method: "GET",
		Path: "/match"}, {Method: "POST", Path: "match"}} {
		if _, code := send[desk.LettersReply](c, "POST", job+"/letters", desk.LettersRequest{Letters: []desk.Letter{
			l}}); code != "no-action" {
			t.Errorf("%+v: %q", l, code)
		}
	}
}

// A change id is good for one thing: elsewhere it writes nothing and says so; there it is the same change again, also
// where what it was about is gone by then.
func TestAChangeIDIsUsedOnce(t *testing.T) {
	c := start(t)
	one, other := c.refit(), c.refit()
	seen, rows := c.rows(one, 2)
	first, code := send[desk.Done](c, "POST", one+"/match/decide", goes("used", seen, rows[0]))
	if code != "" {
		t.Fatal(code)
	}
	if _, code := send[desk.Done](c, "POST", other+"/match/decide", goes("used", seen,
		rows[0])); code != "change-id-used" {
		t.Errorf("in another job: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", one+"/undo", jobsapi.UndoRequest{ID: "used"}); code != "change-id-used" {
		t.Errorf("as an undo: %q", code)
	}
	if again, code := send[desk.Done](c, "POST", one+"/match/decide", goes("used", seen, rows[0])); code != "" ||
		again.Revision != first.Revision {
		t.Errorf("again: %q, revision %d, was %d", code, again.Revision, first.Revision)
	}
	if _, code := send[desk.Done](c, "POST", one+"/match/decide", goes("used", seen+1, rows[0])); code != "" {
		t.Errorf("again, having seen more: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", one+"/match/decide", goes("used", seen,
		rows[1])); code != "change-id-used" {
		t.Errorf("of another row: %q", code)
	}
	file := fetchFile(c, one+"/file")
	made := map[string]bool{}
	for range 2 {
		status, data, _ := c.do("POST", "/api/jobs/file?id=opened", "application/json", strings.NewReader(file))
		done, code := decode[desk.Done](c, status, data)
		if code != "" {
			t.Fatal(code)
		}
		made[done.Job] = true
	}
	if len(made) != 1 {
		t.Errorf("a job file that was opened again after a lost reply made %d jobs", len(made))
	}
}

func fetchFile(c *client, path string) string {
	c.t.Helper()
	_, data, _ := c.do("GET", path, "", nil)
	return string(data)
}

// decided counts the rows that are decided.
func (c *client) decided(job string, rows []match.Line) int {
	c.t.Helper()
	n := 0
	for _, l := range show[matchapi.MatchView](c, job+"/match").Lines {
		for _, r := range rows {
			if l.From == r.From && l.Decided {
				n++
			}
		}
	}
	return n
}
