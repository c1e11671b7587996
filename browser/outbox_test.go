package browser

import (
	"bytes"
	"encoding/json"
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/server/matchapi"
)

// stored counts the decided rows of the Packhorse.
func (v *visit) stored() int {
	n := 0
	for _, l := range fetch[matchapi.MatchView](v, "/api/jobs/packhorse/match").Lines {
		if l.Decided {
			n++
		}
	}
	return n
}

// slow lets each change take a while on the server, and counts those that have come in.
func slow(wait time.Duration, came *atomic.Int32) func(http.Handler) http.Handler {
	return func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.Method == http.MethodPost && strings.HasSuffix(r.URL.Path, "/decide") {
				came.Add(1)
				time.Sleep(wait)
			}
			h.ServeHTTP(w, r)
		})
	}
}

// Five Enters in a row and away at once: all five are stored, also where the page is closed for good.
func TestFiveKeysAndAway(t *testing.T) {
	for name, leave := range map[string]func(*visit){
		"to another page": func(v *visit) { v.goTo("/") },
		"by reloading":    func(v *visit) { v.page.MustReload() },
		"by closing": func(v *visit) {
			v.page.MustNavigate("about:blank")
			v.page.MustClose()
		},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			var came atomic.Int32
			v := enter(t, "/jobs/packhorse/match?row=from%20SP6", nil, slow(60*time.Millisecond, &came), undecided)
			v.page.MustElement(".spreadrow.selected")
			before := v.stored()
			for range 5 {
				v.press(input.Enter)
			}
			leave(v)
			v.until("all five are decided", func() bool { return v.stored() == before+5 })
			time.Sleep(300 * time.Millisecond)
			if n := v.stored(); n != before+5 {
				t.Errorf("%d are decided", n-before)
			}
		})
	}
}

// The server is stopped while keys still come: the head says what is not sent yet, and it is stored when the server is
// back, each once and in order.
func TestKeysWhileTheServerIsAway(t *testing.T) {
	var away atomic.Bool
	v := enter(t, "/jobs/packhorse/match?row=from%20SP6", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && strings.HasPrefix(r.URL.Path, "/api/") && r.UserAgent() != "Go-http-client/1.1" {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	}, undecided)
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	v.press(input.Enter)
	v.until("the first is decided", func() bool { return v.stored() == before+1 })
	away.Store(true)
	for range 4 {
		v.press(input.Enter)
	}
	v.see("[data-testid=unsent]", "4 not sent yet: kept here")
	if v.stored() != before+1 {
		t.Error("decided without a server")
	}
	away.Store(false)
	v.until("all are decided", func() bool { return v.stored() == before+5 })
	v.until("nothing is kept any more", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
}

// A telephone that was out of reach for ten minutes, and whose page was closed meanwhile, brings what was done on it;
// what somebody else has decided in between stands.
func TestWhatWasKeptComesTenMinutesLater(t *testing.T) {
	var away atomic.Bool
	v := enter(t, "/jobs/packhorse/match?row=from%20SP6", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && r.Method == http.MethodPost && r.UserAgent() != "Go-http-client/1.1" {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	}, undecided)
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	away.Store(true)
	v.press(input.Enter, input.Enter)
	v.see("[data-testid=unsent]", "2 not sent yet: kept here")
	v.page.MustEval(`() => {
		for (const key of Object.keys(localStorage).filter((k) => k.startsWith('draxel-letter'))) {
			const letter = JSON.parse(localStorage.getItem(key));
			localStorage.setItem(key, JSON.stringify({ ...letter, at: letter.at - 600000, window: 'a page that is closed' }));
		}
	}`)
	seen := fetch[matchapi.MatchView](v, "/api/jobs/packhorse/match").Revision
	v.send("/api/jobs/packhorse/match/decide", matchapi.DecideRequest{ID: "another", Seen: seen, Side: match.From,
		At: harness.Ref{Connector: "SP", Cavity: "10"}, Action: matchapi.GoesAs})
	v.page.MustNavigate("about:blank")
	away.Store(false)
	v.goTo("/jobs/packhorse/match")
	v.until("all three are decided", func() bool { return v.stored() == before+3 })
	v.until("nothing is kept any more", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
}

// Two windows of one job: what one has decided is not overwritten by the other, which is told; and both go on.
func TestTwoWindowsOfOneJob(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	other := *v
	other.page = v.page.Browser().MustPage(v.page.MustInfo().URL)
	other.page.MustElement(".spreadrow.selected")
	for range 3 {
		v.press(input.Enter)
		other.press(input.Enter)
	}
	v.until("at least three are decided, none twice", func() bool { return v.stored() >= before+3 })
	v.until("nothing is kept any more", func() bool {
		return !v.page.MustHas("[data-testid=unsent]") && !other.page.MustHas("[data-testid=unsent]")
	})
}

// Undo takes back what is one's own; what is somebody else's is named, and asked about.
func TestUndoAsksWhoseItIs(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20SP6", undecided)
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	v.page.MustEval(`() => localStorage.setItem('draxel-who', 'Fen')`)
	v.press(input.Enter)
	v.until("Fen has decided", func() bool { return v.stored() == before+1 })
	v.page.MustEval(`() => localStorage.setItem('draxel-who', 'Bo')`)
	v.press('u')
	v.see(".ant-modal", "The last change is that of Fen")
	v.click(".ant-modal button", "Leave it")
	if v.stored() != before+1 {
		t.Error("it was taken back without asking")
	}
	v.until("the question is gone", func() bool { return !v.page.MustHas(".ant-modal") })
	v.press('u')
	v.click(".ant-modal button", "Take it back")
	v.until("it is taken back", func() bool { return v.stored() == before })
}

// A job that was deleted is brought back from the list of jobs.
func TestADeletedJobIsBroughtBack(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/match")
	v.page.MustEval(`() => fetch('/api/jobs/sorrel-refit', {method: 'DELETE'})`)
	v.goTo("/")
	v.see("[data-testid=deleted]", "can be brought back until")
	v.click("[data-testid=deleted] button", "Bring back")
	v.see("[data-testid=jobs]", "Sorrel refit")
	v.until("nothing is deleted", func() bool { return !v.page.MustHas("[data-testid=deleted]") })
}

// send makes a change that comes from elsewhere.
func (v *visit) send(path string, change any) { v.sendBy(http.MethodPost, path, change) }

func (v *visit) sendBy(method, path string, change any) {
	v.t.Helper()
	body, err := json.Marshal(change)
	if err != nil {
		v.t.Fatal(err)
	}
	r, err := http.NewRequestWithContext(v.t.Context(), method, v.url+path, bytes.NewReader(body))
	if err != nil {
		v.t.Fatal(err)
	}
	r.Header.Set("Content-Type", "application/json")
	reply, err := http.DefaultClient.Do(r)
	if err != nil {
		v.t.Fatal(err)
	}
	defer reply.Body.Close()
	if reply.StatusCode != http.StatusOK {
		v.t.Fatalf("%s: %s", path, reply.Status)
	}
}

// A browser that has no room left says so before anything is lost, and what was done is sent all the same.
func TestNoRoomInTheBrowser(t *testing.T) {
	var away atomic.Bool
	v := enter(t, "/jobs/packhorse/match?row=from%20SP6", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && r.Method == http.MethodPost && r.UserAgent() != "Go-http-client/1.1" {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	}, undecided)
	v.expects = "ERR_EMPTY_RESPONSE|Failed to load"
	v.page.MustElement(".spreadrow.selected")
	before := v.stored()
	v.page.MustEval(`() => {
		let piece = 'x'.repeat(1 << 20);
		for (let i = 0; piece.length > 0; i++) {
			try { localStorage.setItem('filler ' + i, piece); } catch { piece = piece.slice(0, piece.length >> 1); }
		}
	}`)
	away.Store(true)
	v.press(input.Enter)
	v.see("[data-testid=unsent]", "no room to keep it")
	away.Store(false)
	v.until("it is sent all the same", func() bool { return v.stored() == before+1 })
	v.until("nothing waits", func() bool { return !v.page.MustHas("[data-testid=unsent]") })
}
