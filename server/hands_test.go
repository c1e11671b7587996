package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"draxel/core/gather"
	"draxel/core/join"
	"draxel/core/route"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/jobsapi"
	"draxel/server/joinapi"
	"draxel/server/reachapi"
)

// Two windows draw the map: what each drew is kept, and the second is told only where both drew the same.
func TestTwoWindowsDrawTheMap(t *testing.T) {
	c := start(t)
	job := c.demoJob(1)
	first, second := c.reach(job), c.reach(job)
	first.Map.Paths[0].Length = 430
	if _, code := send[desk.Done](c, "PUT", job+"/reach/map",
		reachapi.MapRequest{ID: c.change(), Seen: first.Revision, Map: first.Map}); code != "" {
		t.Fatal(code)
	}
	second.Map.Paths[1].Length = 350
	if _, code := send[desk.Done](c, "PUT", job+"/reach/map",
		reachapi.MapRequest{ID: c.change(), Seen: second.Revision, Map: second.Map}); code != "" {
		t.Errorf("another path of a map that was changed since: %q", code)
	}
	second.Map.Paths[0].Length = 500
	if _, code := send[desk.Done](c, "PUT", job+"/reach/map",
		reachapi.MapRequest{ID: c.change(), Seen: second.Revision, Map: second.Map}); code != "stale" {
		t.Errorf("a path that was changed since: %q", code)
	}
	if v := c.reach(job); v.Map.Paths[0].Length != 430 || v.Map.Paths[1].Length != 350 {
		t.Errorf("%v and %v", v.Map.Paths[0].Length, v.Map.Paths[1].Length)
	}
	// Two things put somewhere at once do not stand in each other's way.
	for _, device := range []string{"horn", "beacon"} {
		if _, code := send[desk.Done](c, "POST", job+"/reach/places",
			reachapi.PlacesRequest{ID: c.change(), Seen: second.Revision,
				Places: []route.Place{{Thing: route.Thing{Kind: route.ADevice, ID: device}, Station: "roof"}}}); code != "" {
			t.Errorf("%s: %s", device, code)
		}
	}
}

// as sends a change as a page of its own does: with the hand that made it, and the change that it goes on from.
func (c *client) as(hand, upon, method, path string, body any) (desk.Done, string) {
	c.t.Helper()
	text, err := json.Marshal(body)
	if err != nil {
		c.t.Fatal(err)
	}
	status, data, _ := c.do(method, path, "application/json", bytes.NewReader(text), func(r *http.Request) {
		r.Header.Set("Draxel-Hand", hand)
		r.Header.Set("Draxel-Upon", upon)
	})
	return decode[desk.Done](c, status, data)
}

// A hand states something, takes it back and states it again before any reply is read: the last holds. Without its
// saying what it goes on from, what it states again would be what it had seen at first, and nothing would be meant.
func TestAHandGoesOnFromItsOwn(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	seen := show[joinapi.JoinView](c, job+"/join").Revision
	choice := func(hand, id, upon string, choice join.Choice) string {
		_, code := c.as(hand, upon, "POST", job+"/join/function",
			joinapi.FunctionRequest{ID: id, Seen: seen, Function: "horn", Choice: choice, Reason: "so it is"})
		return code
	}
	holds := func() join.Choice {
		for _, it := range show[joinapi.JoinView](c, job+"/join").Items {
			if it.ID == "horn" {
				return it.Choice
			}
		}
		return "no such function"
	}
	if code := choice("a", "first", "", join.Wanted); code != "" {
		t.Fatal(code)
	}
	seen = show[joinapi.JoinView](c, job+"/join").Revision
	for i, step := range []join.Choice{join.NotFitted, join.Wanted, join.NotFitted, join.Wanted} {
		upon := ""
		if i > 0 {
			upon = fmt.Sprint("n", i-1)
		}
		if code := choice("a", fmt.Sprint("n", i), upon, step); code != "" {
			t.Fatalf("%d: %s", i, code)
		}
		if now := holds(); now != step {
			t.Errorf("after %q it is %q", step, now)
		}
	}
	if code := choice("a", "last", "n3", join.NotFitted); code != "" {
		t.Fatal(code)
	}
	if code := choice("b", "other", "", join.GivenUp); code != "stale" {
		t.Errorf("another hand that has seen none of it: %q", code)
	}
}

// Undo says what it passed by, and what was taken back is done again.
func TestUndoAndRedoOverHTTP(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	head := func() jobsapi.JobView { return show[jobsapi.JobView](c, job) }
	note := func(id, text string) {
		if _, code := c.as("a", "", "POST", job+"/join/function", joinapi.FunctionRequest{ID: id,
			Seen: head().Revision, Function: "horn", Choice: join.GivenUp, Reason: text}); code != "" {
			t.Fatal(code)
		}
	}
	note("n1", "no room")
	if v := head(); v.Redo || v.Undo != "function" {
		t.Errorf("to be done again: %t, to be taken back: %q", v.Redo, v.Undo)
	}
	back, code := c.as("a", "", "POST", job+"/undo", jobsapi.UndoRequest{ID: "u1"})
	if code != "" || back.What != "function" || back.About != "horn" {
		t.Fatalf("%+v, %s", back, code)
	}
	if !head().Redo {
		t.Error("it cannot be done again")
	}
	again, code := c.as("a", "", "POST", job+"/redo", jobsapi.UndoRequest{ID: "r1"})
	if code != "" || again.What != "function" || again.About != "horn" || head().Redo {
		t.Errorf("%+v, %s", again, code)
	}
	if retry, code := c.as("a", "", "POST", job+"/redo", jobsapi.UndoRequest{ID: "r1"}); code != "" ||
		retry.Revision != again.Revision {
		t.Errorf("a retry: %+v, %s", retry, code)
	}
	if _, code := c.as("a", "", "POST", job+"/redo", jobsapi.UndoRequest{ID: "r2"}); code != "nothing-to-undo" {
		t.Errorf("nothing to do again: %q", code)
	}
	note("n2", "no time")
	note("n3", "no horn")
	first := show[jobsapi.JournalView](c, job+"/journal").Entries[1]
	if _, code := c.as("a", "", "POST", job+"/undo", jobsapi.UndoRequest{ID: "u2",
		Of: first.Seq}); code != "changed-since" {
		t.Errorf("what was changed again since is taken back by itself: %q", code)
	}
	for i := range 2 {
		if _, code := c.as("a", "", "POST", job+"/undo", jobsapi.UndoRequest{ID: fmt.Sprint("v", i)}); code != "" {
			t.Fatal(code)
		}
	}
	lines := show[jobsapi.JournalView](c, job+"/journal").Entries[4:]
	if lines[0].Back || lines[1].Back || !lines[2].Back {
		t.Errorf("the history says that these can be taken back: %v %v %v", lines[0].Back, lines[1].Back, lines[2].Back)
	}
}

// One stream tells of all jobs: how each stands now, and every change since.
func TestOneStreamOfAllJobs(t *testing.T) {
	c := start(t)
	first, second := c.packhorse(nil), c.demoJob(0)
	events := c.told("/api/events")
	next := func() (told desk.JobRevision) {
		if err := json.Unmarshal([]byte(events()), &told); err != nil {
			t.Fatal(err)
		}
		return told
	}
	now := map[string]int64{}
	for range 2 {
		told := next()
		now["/api/jobs/"+told.Job] = told.Revision
	}
	for _, job := range []string{second, first, second} {
		was := show[jobsapi.JobView](c, job).Revision
		if now[job] != was {
			t.Errorf("%s is at %d, the stream said %d", job, was, now[job])
		}
		if _, code := c.as("a", "", "PUT", job+"/gather/items", gatherapi.ItemsRequest{ID: c.change(), Seen: was,
			Items: map[string]bool{fmt.Sprint("item ", was): true}}); code != "" {
			t.Fatal(code)
		}
		told := next()
		if "/api/jobs/"+told.Job != job || told.Revision != was+1 {
			t.Errorf("told %+v, want %s at %d", told, job, was+1)
		}
		now[job] = told.Revision
	}
}

// Two people add a line each at the same place: nothing of the second's goes into the line of the first, and who sees
// that line goes on below it.
func TestTwoPeopleAddALine(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	list := func() gatherapi.SheetView { return show[gatherapi.SheetView](c, job+"/gather/lists/fuses") }
	v := list()
	cell := func(hand, id string, seen int64, line int, field, text string) string {
		_, code := c.as(hand, "", "POST", job+"/gather/lists/fuses/cells", gatherapi.SheetEditRequest{ID: id, Seen: seen,
			Edits: []gather.CellEdit{{Line: line, Field: field, Text: text}}})
		return code
	}
	next := v.Reading.Next
	fields := v.Fields
	for i, text := range []string{"F71", "10"} {
		if code := cell("a", fmt.Sprint("a", i), v.Revision, next, fields[i].Name, text); code != "" {
			t.Fatalf("the first's %s: %s", text, code)
		}
	}
	for i, text := range []string{"F92", "20", "a third"} {
		if code := cell("b", fmt.Sprint("b", i), v.Revision, next, fields[i].Name, text); code != "stale" {
			t.Errorf("the second's %s: %q", text, code)
		}
	}
	now := list()
	if code := cell("b", "below", now.Revision, now.Reading.Next, fields[0].Name, "F92"); code != "" ||
		now.Reading.Next != next+1 {
		t.Errorf("below it: %q, line %d after %d", code, now.Reading.Next, next)
	}
	if code := cell("a", "a9", v.Revision, next, fields[1].Name, "15"); code != "" {
		t.Errorf("the first goes on in her own line: %q", code)
	}
}
