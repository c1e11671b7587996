package server_test

import (
	"bytes"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/route"
	"draxel/server/desk"
	"draxel/server/feedapi"
	"draxel/server/reachapi"
	"draxel/server/workapi"
)

// asked sends a change of Feed and gives the code of the refusal, empty where it was taken.
func (c *client) asked(job, method, path string, body any) string {
	c.t.Helper()
	_, code := send[desk.Done](c, method, job+"/feed"+path, body)
	return code
}

func (c *client) feed(job string) feedapi.FeedView { return show[feedapi.FeedView](c, job+"/feed") }

func circuit(t *testing.T, v feedapi.FeedView, at string) live.Circuit {
	t.Helper()
	for _, x := range v.Circuits {
		if x.At.String() == at {
			return x
		}
	}
	t.Fatalf("there is no circuit %s in %v", at, v.Circuits)
	return live.Circuit{}
}

// A block is proposed, a circuit is moved, a fuse is stated, the block gets a place, the label of its lid is
// printed; the way it was fed before is compared and taken again, and the plan is the one that it was.
func TestABlockFromProposalToLabel(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := c.feed(job)
	was := show[workapi.WorkListView](c, job+"/work")
	if v.Block != nil || len(v.Circuits) < 5 || circuit(t, v, "E4").From != "SP2" {
		t.Fatalf("block %v, circuits %+v", v.Block, v.Circuits)
	}
	if code := c.asked(job, "POST", "/propose", feedapi.ProposeBlockRequest{ID: c.change(),
		Seen: v.Revision}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	if v.Block == nil || circuit(t, v, "E1").Slot != circuit(t, v, "E2").Slot || circuit(t, v, "A9").Slot == "" ||
		circuit(t, v, "A40").From != "SP19" || len(v.Ways) != 2 || len(v.Steps) < 5 || len(v.Parts) < 5 {
		t.Fatalf("block %+v, circuits %+v, ways %v", v.Block, v.Circuits, v.Ways)
	}
	spare := v.Block.Slots[len(v.Block.Slots)-1].Name
	if code := c.asked(job, "POST", "/circuit", feedapi.CircuitRequest{ID: c.change(), Seen: v.Revision, Side: match.To,
		At: harness.Ref{Connector: "E", Cavity: "2"}, From: harness.Ref{Connector: v.Block.ID, Cavity: spare}}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	if circuit(t, v, "E2").Slot != spare || circuit(t, v, "E1").Slot == spare {
		t.Errorf("E1 and E2 stand on %s and %s", circuit(t, v, "E1").Slot, circuit(t, v, "E2").Slot)
	}
	v.Block.Slots[0].Amps = 7.5
	if code := c.asked(job, "PUT", "/block", feedapi.BlockRequest{ID: c.change(), Seen: v.Revision,
		Block: v.Block}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	for _, f := range v.Fuses {
		if f.Fuse == "FB1" && (f.Rating != 7.5 || f.Reckoned) {
			t.Errorf("%+v", f)
		}
	}
	place := route.Place{Thing: route.Thing{Kind: route.ADevice, ID: "FB"}, Station: "unit shelf"}
	if _, code := send[desk.Done](c, "POST", job+"/reach/places", reachapi.PlacesRequest{ID: c.change(), Seen: v.Revision,
		Places: []route.Place{place}, Reason: "dry"}); code != "" {
		t.Fatalf("the block cannot be placed: %s", code)
	}
	if v = c.feed(job); v.Station != "unit shelf" {
		t.Errorf("it lives at %q", v.Station)
	}
	if text := c.pdf(job + "/feed/lid.pdf"); text != "" &&
		(!strings.Contains(text, "7.5 A") || !strings.Contains(text,
			"R1") ||
			!strings.Contains(text, "unit battery")) {
		t.Errorf("the label says %s", text)
	}
	ways := show[feedapi.FeedCompareView](c, job+"/feed/compare").Ways
	if len(ways) != 3 || ways[0].Figures.Relays != 1 || ways[1].Figures.Relays != 0 || !ways[0].Figures.Reached ||
		!ways[1].Figures.Reached || ways[1].Figures.Steps != len(was.Steps) {
		t.Errorf("%+v, there were %d steps before", ways, len(was.Steps))
	}
	if code := c.asked(job, "POST", "/take", feedapi.FeedOptionRequest{ID: c.change(), Seen: v.Revision,
		Option: v.Ways[0].ID}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	now := show[workapi.WorkListView](c, job+"/work")
	if v.Block != nil || circuit(t, v, "E4").From != "SP2" || len(now.Steps) != len(was.Steps) || len(v.Ways) != 2 {
		t.Errorf("block %v, E4 from %s, %d steps, there were %d, ways %v", v.Block, circuit(t, v, "E4").From,
			len(now.Steps), len(was.Steps), v.Ways)
	}
}

// pdf gives the text of a document, empty where no reader is installed.
func (c *client) pdf(path string) string {
	c.t.Helper()
	status, body, _ := c.do("GET", path, "", nil)
	if status != http.StatusOK || !bytes.HasPrefix(body, []byte("%PDF")) {
		c.t.Fatalf("%s: %d", path, status)
	}
	if _, err := exec.LookPath("pdftotext"); err != nil {
		return ""
	}
	file := filepath.Join(c.t.TempDir(), "x.pdf")
	if err := os.WriteFile(file, body, 0o600); err != nil {
		c.t.Fatal(err)
	}
	text, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	if err != nil {
		c.t.Fatal(err)
	}
	return string(text)
}

// A fuse of the vehicle is changed by a decision and its step; the list says what stands there still.
func TestAFuseIsChanged(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := c.feed(job)
	if code := c.asked(job, "POST", "/rated", feedapi.RatedRequest{ID: c.change(), Seen: v.Revision, Fuse: "8",
		Amps: 15}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	if len(v.Steps) != 1 || v.Steps[0].Text != "Change fuse 8: 15 A instead of 30 A." {
		t.Errorf("steps %+v", v.Steps)
	}
	for _, f := range v.Fuses {
		if f.Fuse == "8" && (f.Rating != 15 || f.Was != 30) {
			t.Errorf("%+v", f)
		}
	}
	if code := c.asked(job, "POST", "/rated", feedapi.RatedRequest{ID: c.change(), Seen: v.Revision,
		Fuse: "8"}); code != "" {
		t.Fatal(code)
	}
	if v = c.feed(job); len(v.Steps) != 0 {
		t.Errorf("steps %+v", v.Steps)
	}
}

func TestFeedRefuses(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := c.feed(job)
	if code := c.asked(job, "POST", "/propose", feedapi.ProposeBlockRequest{ID: c.change(), Seen: v.Revision,
		One: true}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	seen := v.Revision
	worse := *v.Block
	worse.Slots = append([]feed.BlockSlot{{Name: "1", Group: "nowhere"}}, worse.Slots...)
	taken := *v.Block
	taken.ID = "SP"
	late := *v.Block
	late.Slots = slices.Clone(late.Slots)
	late.Slots[0].Amps += 5
	at := harness.Ref{Connector: "E", Cavity: "1"}
	for name, x := range map[string]struct {
		method, path string
		body         any
		want         string
	}{
		"a slot on no group":   {"PUT", "/block", feedapi.BlockRequest{Seen: seen, Block: &worse}, "bad-value"},
		"a name that is taken": {"PUT", "/block", feedapi.BlockRequest{Seen: seen, Block: &taken}, "name-taken"},
		"a fuse that there is not": {"POST", "/rated", feedapi.RatedRequest{Seen: seen, Fuse: "99", Amps: 5},
			"no-such-thing"},
		"a fuse of −5 A":      {"POST", "/rated", feedapi.RatedRequest{Seen: seen, Fuse: "8", Amps: -5}, "bad-value"},
		"a slot of the block": {"POST", "/rated", feedapi.RatedRequest{Seen: seen, Fuse: "FB1", Amps: 5}, "own-slot"},
		"a slot that there is not": {"POST", "/circuit", feedapi.CircuitRequest{Seen: seen, Side: match.To, At: at,
			From: harness.Ref{Connector: "FB", Cavity: "77"}}, "no-such-cavity"},
		"no origin": {"POST", "/circuit", feedapi.CircuitRequest{Seen: seen, Side: match.To, At: at},
			"no-origin"},
		"what wants no feed": {"POST", "/circuit", feedapi.CircuitRequest{Seen: seen, Side: match.To,
			At: harness.Ref{Connector: "E", Cavity: "20"}, Fuse: "5"}, "no-such-circuit"},
		"a way without a name":       {"POST", "/way", feedapi.FeedOptionRequest{Seen: seen, Name: "x"}, "no-name"},
		"a way that there is not":    {"POST", "/take", feedapi.FeedOptionRequest{Seen: seen, Option: "zz"}, "no-such-thing"},
		"what somebody else changed": {"PUT", "/block", feedapi.BlockRequest{Seen: seen - 1, Block: &late}, "stale"},
	} {
		body := withID(x.body, c.change())
		if got := c.asked(job, x.method, x.path, body); got != x.want {
			t.Errorf("%s: %q, want %s", name, got, x.want)
		}
	}
	if code := c.asked(job, "PUT", "/block", feedapi.BlockRequest{ID: c.change(), Seen: seen}); code != "" {
		t.Fatal(code)
	}
	v = c.feed(job)
	if v.Block != nil || circuit(t, v, "E1").From != "" {
		t.Errorf("the block is away, and E1 is fed from %q", circuit(t, v, "E1").From)
	}
	if _, code := send[any](c, "GET", job+"/feed/lid.pdf", nil); code != "no-such-thing" {
		t.Errorf("a label of no block: %q", code)
	}
}

// withID gives a request with a change id.
func withID(body any, id string) any {
	switch r := body.(type) {
	case feedapi.BlockRequest:
		r.ID = id
		return r
	case feedapi.RatedRequest:
		r.ID = id
		return r
	case feedapi.CircuitRequest:
		r.ID = id
		return r
	case feedapi.FeedOptionRequest:
		r.ID = id
		return r
	}
	return body
}

// A dozen ways to feed a job are kept; one more is refused, and none that is kept is lost.
func TestADozenWaysToFeed(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	keep := func(n int) string {
		return c.asked(job, "POST", "/way", feedapi.FeedOptionRequest{ID: c.change(), Seen: c.feed(job).Revision,
			Option: fmt.Sprint("way", n), Name: fmt.Sprint("way ", n)})
	}
	for n := range 40 {
		before := len(c.feed(job).Ways)
		switch code := keep(n); {
		case code == "too-many" && before < 12:
			t.Fatalf("with %d ways another is refused", before)
		case code == "too-many":
			if len(c.feed(job).Ways) != before {
				t.Error("a way that was kept is lost")
			}
			return
		case code != "":
			t.Fatal(code)
		}
	}
	t.Error("forty ways are kept")
}
