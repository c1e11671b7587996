package server_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"
	"time"

	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
	"draxel/store"
)

var kills = flag.Int("kills", 30, "how often a server under writers is killed; the long form is a thousand")

// killedServer names the folder in which a child of the test serves and writes until it is killed.
const killedServer = "DRAXEL_KILLED_SERVER"

func TestMain(m *testing.M) {
	if dir := os.Getenv(killedServer); dir != "" {
		writeUntilKilled(dir, os.Getenv(killedServer+"_ROUND"))
		return
	}
	os.Exit(m.Run())
}

// scribe writes to a server and says what was answered.
type scribe struct {
	url, job, round string
	mu              sync.Mutex
}

func (s *scribe) say(what, id string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	fmt.Println(what, id)
}

func (s *scribe) send(method, path, kind string, body io.Reader) (desk.Done, bool) {
	r, err := http.NewRequest(method, s.url+path, body)
	if err != nil {
		return desk.Done{}, false
	}
	r.Header.Set("Content-Type", kind)
	reply, err := http.DefaultClient.Do(r)
	if err != nil {
		return desk.Done{}, false
	}
	defer reply.Body.Close()
	var d desk.Done
	err = json.NewDecoder(reply.Body).Decode(&d)
	return d, err == nil && reply.StatusCode < 300
}

func (s *scribe) post(path string, v any) bool {
	text, _ := json.Marshal(v)
	_, ok := s.send("POST", "/api/jobs/"+s.job+path, "application/json", bytes.NewReader(text))
	return ok
}

// steps lists the steps that are not done.
func (s *scribe) steps() []string {
	reply, err := http.Get(s.url + "/api/jobs/" + s.job + "/work")
	if err != nil {
		return nil
	}
	defer reply.Body.Close()
	var v workapi.WorkListView
	_ = json.NewDecoder(reply.Body).Decode(&v)
	var out []string
	for i := range v.Steps {
		if !v.Steps[i].Done {
			out = append(out, v.Steps[i].ID)
		}
	}
	return out
}

// writeUntilKilled serves a folder and has writers of every stage at it.
func writeUntilKilled(dir, round string) {
	st, err := store.Open(context.Background(), dir, time.Now)
	if err != nil {
		panic(err)
	}
	x, err := server.New(desk.Options{Store: st})
	if err != nil {
		panic(err)
	}
	web := httptest.NewServer(x.Handler())
	s := &scribe{url: web.URL, job: "packhorse", round: round}
	var b bytes.Buffer
	_ = jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 320, 240)), nil)
	picture := b.Bytes()
	const far = int64(1) << 40
	var f bytes.Buffer
	_ = exchange.WriteJob(
		&f,
		stored.Job{Title: "brought", Kind: stored.Repinned, Photos: []stored.Photo{{ID: "p1", Connector: "A"}}},
		map[string]exchange.Picture{"p1": {Data: picture, Thumb: picture}},
	)
	steps := s.steps()
	for _, write := range []func(id string) bool{
		func(id string) bool {
			return s.post("/handover/spent", handoverapi.SpentRequest{ID: id, Seen: far,
				Spent: handover.Spent{Stage: "pin", Minutes: 1, Who: "x"}})
		},
		func(id string) bool {
			return s.post("/handover/loan", handoverapi.LoanRequest{ID: id, Seen: far,
				Loan: handover.Loan{ID: id, Kind: handover.Borrowed, Text: id}})
		},
		func(id string) bool {
			volts := 12.0
			return s.post("/gather/readings", gatherapi.ReadingRequest{ID: id, Seen: far,
				Reading: gather.Measurement{ID: id,
					At: harness.Ref{Connector: "IS", Cavity: "1"}, Key: gather.KeyRun, Volts: &volts, Loaded: true}})
		},
		func(id string) bool {
			return s.post("/thin/decide", thinapi.ThinRequest{ID: id, Seen: far,
				Decisions: []thinapi.ThinDecision{{On: thin.Wire,
					ID: fmt.Sprint("P0", 10+len(id)%80), Choice: thin.Keep, Reason: id}}})
		},
		func(id string) bool {
			var form bytes.Buffer
			w := multipart.NewWriter(&form)
			meta, _ := json.Marshal(gatherapi.PhotoMeta{ID: id, Connector: "SP", Seen: far})
			_ = w.WriteField("meta", string(meta))
			p, _ := w.CreateFormFile("file", "x.jpg")
			_, _ = p.Write(picture)
			_ = w.Close()
			_, ok := s.send("POST", "/api/jobs/packhorse/gather/photos", w.FormDataContentType(), &form)
			return ok
		},
		func(id string) bool {
			d, ok := s.send("POST", "/api/jobs/file?id="+id, "application/json", bytes.NewReader(f.Bytes()))
			if ok {
				s.say("job", d.Job)
			}
			return ok
		},
		func(id string) bool { // the next step of the list
			if len(steps) == 0 {
				return false
			}
			step := steps[0]
			if !s.post("/work/tick", workapi.TickRequest{ID: id, Seen: far, Steps: []string{step}, Done: true,
				Reason: "it is so"}) {
				return false
			}
			steps = steps[1:]
			s.say("tick", step)
			return true
		},
	} {
		go func() {
			for n := 0; ; n++ {
				id := fmt.Sprintf("%s-%p-%d", round, write, n)
				if write(id) {
					s.say("change", id)
				} else {
					time.Sleep(5 * time.Millisecond)
				}
			}
		}()
	}
	select {}
}

// A server that is killed at any moment, under writers of every stage, has lost nothing that it answered and left
// nothing half: the next start has every change, every photograph, every job, and each job opens.
func TestKilledUnderWriters(t *testing.T) {
	dir := t.TempDir()
	st, err := store.Open(t.Context(), dir, time.Now)
	if err != nil {
		t.Fatal(err)
	}
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := st.Create(t.Context(), "x", store.NewJob{ID: "packhorse", Request: "demo", Job: all[1]}); err != nil {
		t.Fatal(err)
	}
	if err := st.Close(); err != nil {
		t.Fatal(err)
	}
	r := rand.New(rand.NewPCG(uint64(time.Now().UnixNano()), 3)) // other moments each time
	answered := map[string]string{}
	for round := range *kills {
		lines := killedOnce(t, dir, round, time.Duration(20+r.IntN(350))*time.Millisecond)
		for _, l := range lines {
			if what, id, ok := strings.Cut(l, " "); ok {
				answered[id] = what
			}
		}
		nothingLost(t, dir, answered, round == *kills-1 || round%100 == 99)
		if t.Failed() {
			return
		}
	}
	count := map[string]int{}
	for _, what := range answered {
		count[what]++
	}
	t.Logf("%d kills, answered %v", *kills, count)
	if count["job"] == 0 || count["tick"] == 0 || count["change"] < *kills {
		t.Errorf("hardly anything was written: %v", count)
	}
}

// killedOnce lets a child write for a while and kills it, and gives what it said was answered.
func killedOnce(t *testing.T, dir string, round int, after time.Duration) []string {
	t.Helper()
	cmd := exec.CommandContext(t.Context(), os.Args[0])
	cmd.Env = append(os.Environ(), killedServer+"="+dir, fmt.Sprint(killedServer, "_ROUND=", round))
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	var said bytes.Buffer
	cmd.Stderr = &said
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	var lines []string
	for scan := bufio.NewScanner(out); scan.Scan(); {
		if len(lines) == 0 {
			time.AfterFunc(after, func() { _ = cmd.Process.Kill() })
		}
		lines = append(lines, scan.Text())
	}
	_ = cmd.Wait()
	if len(lines) == 0 {
		t.Fatalf("it wrote nothing: %.2000s", said.String())
	}
	return lines[:len(lines)-1] // the last may be half
}

// nothingLost opens the folder and looks for everything that was answered.
func nothingLost(t *testing.T, dir string, answered map[string]string, opens bool) {
	t.Helper()
	st, err := store.Open(t.Context(), dir, time.Now)
	if err != nil {
		t.Fatalf("it does not open any more: %v", err)
	}
	defer st.Close()
	state, err := st.Load(t.Context(), "packhorse")
	if err != nil || len(state.Job.Aside) > 0 {
		t.Fatalf("the job does not load: %v, %d set aside", err, len(state.Job.Aside))
	}
	ticked := map[string]bool{}
	for _, x := range state.Job.Ticks {
		ticked[x.Step] = true
	}
	jobs, err := st.Jobs(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	there := map[string]bool{}
	for _, j := range jobs {
		there[j.ID] = true
	}
	for id, what := range answered {
		switch what {
		case "tick":
			if !ticked[id] {
				t.Errorf("step %s was ticked, and is not", id)
			}
		case "job":
			if _, err := st.Photo(t.Context(), id, "p1"); !there[id] || err != nil {
				t.Errorf("job %s was made, and is not whole: %v", id, err)
			}
		case "change":
			if revision, err := st.Known(t.Context(), "packhorse", id, ""); revision == 0 &&
				!errors.Is(err, store.ErrUsed) {
				t.Errorf(
					"change %s was answered, and is not in the journal: %v",
					id,
					err,
				) // of another job: one was made by it
			}
		}
	}
	for _, p := range state.Job.Photos {
		if x, err := st.Photo(t.Context(), "packhorse", p.ID); err != nil || len(x.Picture) != p.Bytes {
			t.Errorf("photograph %s has %d bytes of %d: %v", p.ID, len(x.Picture), p.Bytes, err)
		}
	}
	if !opens {
		return
	}
	h := handler(t, desk.Options{Store: st})
	for _, j := range jobs[:min(len(jobs), 40)] {
		for _, page := range []string{"", "/front", "/work", "/handover"} {
			w := httptest.NewRecorder()
			r := httptest.NewRequest("GET", "http://127.0.0.1/api/jobs/"+j.ID+page, nil)
			r.RemoteAddr = "127.0.0.1:5000"
			h.ServeHTTP(w, r)
			if w.Code != http.StatusOK {
				t.Errorf("job %s, page %q: %d %.200s", j.ID, page, w.Code, w.Body)
			}
		}
	}
}
