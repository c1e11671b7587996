package store_test

import (
	"context"
	"errors"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"draxel/core/match"
	"draxel/store"
)

// What was removed is stale for whoever saw it before, and free for whoever saw that it was removed.
func TestRemovingIsAChange(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	reopen := store.Request{ID: "r1", Who: "Fen", What: "reopen", Puts: []store.Put{{Subject: "decision/from/A/1",
		Seen: 2}}}
	if removed := apply(t, s, id, reopen); removed != 3 {
		t.Fatalf("removed at revision %d", removed)
	}
	versions, err := s.Versions(t.Context(), id)
	if err != nil || versions["decision/from/A/1"] != 3 {
		t.Errorf("versions %v, %v", versions, err)
	}
	again := decide("d2", "1", match.Sourced)
	var stale *store.StaleError
	for _, seen := range []int64{0, 2} { // as if it had never been, or were there still
		again.Puts[0].Seen = seen
		if _, err := s.Apply(t.Context(), id, again); !errors.As(err, &stale) {
			t.Errorf("seen at %d, it was decided over the removal: %v", seen, err)
		}
	}
	again.Puts[0].Seen = 3
	apply(t, s, id, again)
	if n := len(load(t, s, id).Job.Decisions); n != 1 {
		t.Errorf("%d decisions", n)
	}
}

// Undo takes back one's own last change, also when somebody else has changed something since; who has none is told
// whose would be taken back, and may ask for it.
func TestUndoIsOnesOwn(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	apply(t, s, id, decide("ines", "1", match.Gone))
	other := decide("fen", "2", match.Gone)
	other.Who = "Fen"
	apply(t, s, id, other)
	var anothers *store.AnothersError
	_, err := s.Undo(t.Context(), id, store.Back{ID: "u0", Who: "Bo"})
	if !errors.As(err, &anothers) || anothers.Entry.Who != "Fen" {
		t.Fatalf("Bo has changed nothing: %v", err)
	}
	if e, err := s.Undo(t.Context(), id, store.Back{ID: "u1", Who: "Ines"}); err != nil || e.Entry.ID != "ines" {
		t.Errorf("Ines took back %q, %v", e.Entry.ID, err)
	}
	if e, err := s.Undo(t.Context(), id, store.Back{ID: "u2", Who: "Bo", Of: anothers.Entry.Seq}); err != nil ||
		e.Entry.ID != "fen" {
		t.Errorf("Bo took back %q, %v", e.Entry.ID, err)
	}
	if left := load(t, s, id).Job.Decisions; len(left) != 0 {
		t.Errorf("left %v", left)
	}
}

// A change id is good for one change of one job: used for another it changes nothing and says so.
func TestAChangeIDIsForOneThing(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	other, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j2", Request: "create-2", Job: sample()})
	if err != nil {
		t.Fatal(err)
	}
	first := decide("d1", "1", match.Gone)
	first.Path = "POST /match/decide"
	apply(t, s, id, first)
	if _, err := s.Apply(t.Context(), other, first); !errors.Is(err, store.ErrUsed) {
		t.Errorf("in another job: %v", err)
	}
	elsewhere := first
	elsewhere.Path = "POST /match/accept"
	if _, err := s.Apply(t.Context(), id, elsewhere); !errors.Is(err, store.ErrUsed) {
		t.Errorf("at another address: %v", err)
	}
	if _, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j3", Request: "d1", Job: sample()}); !errors.Is(err,
		store.ErrUsed) {
		t.Errorf("for a new job: %v", err)
	}
	if n := len(load(t, s, other).Job.Decisions); n != 0 {
		t.Errorf("%d decisions in the other job", n)
	}
}

// A deleted job can be brought back for 30 days, and is gone for good when Draxel starts after that.
func TestDeletedJobsAreKeptForAWhile(t *testing.T) {
	dir := t.TempDir()
	now := clock()
	start := func() *store.Store {
		s, err := store.Open(t.Context(), dir, func() time.Time { return now })
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	s := start()
	for _, id := range []string{"j1", "j2"} {
		if _, err := s.Create(t.Context(), "Ines", store.NewJob{ID: id, Request: "c " + id, Job: sample()}); err != nil {
			t.Fatal(err)
		}
	}
	apply(t, s, "j1", decide("d1", "1", match.Gone))
	apply(t, s, "j1", photo("p1"))
	if _, err := s.Undo(t.Context(), "j1", store.Back{ID: "u", Who: "x"}); err != nil {
		t.Fatal(err)
	}
	if err := s.Delete(t.Context(), "j1"); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		later time.Duration
		there bool
	}{{store.Bringable - time.Hour, true}, {2 * time.Hour, false}} {
		if err := s.Close(); err != nil {
			t.Fatal(err)
		}
		now = now.Add(c.later)
		s = start()
		gone, err := s.Deleted(t.Context())
		if err != nil || (len(gone) == 1) != c.there {
			t.Fatalf("%v after: %+v, %v", c.later, gone, err)
		}
		if err := s.Restore(t.Context(), "j1"); (err == nil) != c.there {
			t.Errorf("%v after it is brought back: %v", c.later, err)
		}
		if c.there {
			if n := len(load(t, s, "j1").Job.Decisions); n != 1 {
				t.Errorf("%d decisions came back", n)
			}
			now = now.Add(-c.later)
			if err := s.Delete(t.Context(), "j1"); err != nil {
				t.Fatal(err)
			}
			now = now.Add(c.later)
		}
	}
	if jobs, err := s.Jobs(t.Context()); err != nil || len(jobs) != 1 {
		t.Errorf("left %v, %v", jobs, err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
}

const killedStart = "DRAXEL_TEST_KILLED_START"

func startAndStop(dir string) {
	s, err := store.Open(context.Background(), dir, clock)
	if err != nil {
		panic(err)
	}
	if err := s.Close(); err != nil {
		panic(err)
	}
	os.Exit(0)
}

// A start that migrates, or makes the database, and is killed at any moment leaves the old state or the new: the next
// start opens with everything.
func TestAKilledStartLeavesOldOrNew(t *testing.T) {
	text, err := os.ReadFile("testdata/schema-1.sql")
	if err != nil {
		t.Fatal(err)
	}
	r := rand.New(rand.NewPCG(1, 2))
	cut := 0
	for round := 0; cut < 20 && round < 200; round++ {
		dir := t.TempDir()
		if round%3 > 0 {
			db := sqlx.MustConnect("sqlite", filepath.Join(dir, store.File))
			db.MustExec(string(text))
			if err := db.Close(); err != nil {
				t.Fatal(err)
			}
		}
		for range 2 {
			cmd := exec.Command(os.Args[0])
			cmd.Env = append(os.Environ(), killedStart+"="+dir)
			if err := cmd.Start(); err != nil {
				t.Fatal(err)
			}
			time.Sleep(time.Duration(r.IntN(45)) * time.Millisecond)
			_ = cmd.Process.Kill()
			if cmd.Wait() != nil {
				cut++
			}
		}
		s := open(t, dir)
		if round%3 > 0 {
			if state := load(t, s, "j1"); state.Job.Title != "Sorrel refit" || len(state.Job.Decisions) != 1 {
				t.Errorf("round %d: opened as %+v", round, state.Job)
			}
		} else if _, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j1", Request: "c", Job: sample()}); err != nil {
			t.Errorf("round %d: %v", round, err)
		}
	}
	if cut < 20 {
		t.Errorf("only %d starts were cut short", cut)
	}
}

func TestWhatSomebodyTouchedLaterIsNotUndone(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	db := sqlx.MustConnect("sqlite", filepath.Join(dir, "draxel.db"))
	db.MustExec(`UPDATE subjects SET body = json_set(body, '$.reason', 'changed behind our back')
		WHERE name LIKE 'decision/%'`)
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	s = open(t, dir)
	var stale *store.StaleError
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u1", Who: "Ines"}); !errors.As(err, &stale) ||
		stale.Subject != "decision/from/A/1" {
		t.Errorf("got %v, want the subject named", err)
	}
	if len(load(t, s, id).Job.Decisions) != 1 {
		t.Error("it was undone all the same")
	}
}
