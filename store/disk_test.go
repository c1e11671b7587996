package store_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"draxel/core/match"
	"draxel/store"
)

// A disk that is full, and one that cannot be written, are named; what was there stays, and goes on when there is room.
func TestWhatTheDiskSays(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	for what, want := range map[string]error{"max_page_count = 1": store.ErrFull, "query_only = 1": store.ErrReadOnly} {
		if err := s.Pragma(t.Context(), what); err != nil {
			t.Fatal(err)
		}
		var got error
		n := 0
		for ; n < 400 && got == nil; n++ { // until the pages that are there are used up
			r := decide(fmt.Sprint(what, n), fmt.Sprint(n), match.Gone)
			r.Reason = strings.Repeat("why ", 2000)
			_, got = s.Apply(t.Context(), id, r)
		}
		if !errors.Is(got, want) {
			t.Errorf("%s: %v", what, got)
		}
		if state := load(t, s, id); len(state.Job.Aside) > 0 {
			t.Errorf("%s: the job is not what it was", what)
		}
		for _, back := range []string{"max_page_count = 1000000", "query_only = 0"} {
			if err := s.Pragma(t.Context(), back); err != nil {
				t.Fatal(err)
			}
		}
		if _, err := s.Apply(t.Context(), id, decide("again "+what, "1", match.Gone)); err != nil {
			t.Errorf("there is room again, and %v", err)
		}
	}
}

// Nobody but its owner reads the database, whatever the folder lets others do.
func TestTheDatabaseIsPrivate(t *testing.T) {
	dir := t.TempDir()
	if err := os.Chmod(dir, 0o777); err != nil {
		t.Fatal(err)
	}
	s := open(t, dir)
	create(t, s)
	for _, name := range []string{"draxel.db", "draxel.db-wal", "draxel.db-shm"} {
		info, err := os.Stat(filepath.Join(dir, name))
		if err != nil {
			t.Fatal(err)
		}
		if info.Mode().Perm() != 0o600 {
			t.Errorf("%s has the mode %o", name, info.Mode().Perm())
		}
	}
}

// The journal keeps what changed of a large subject, and not the whole of it twice: two hundred cells of a long list
// are put right, each can be taken back, and what comes back is what was there, letter by letter.
func TestTheJournalKeepsWhatChanged(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	list := make([]string, 3000)
	for i := range list {
		list[i] = fmt.Sprintf("Wire %d from Ä%d to K%d, Zündspule – „grün“ 1,5 mm²", i, i%40, i%18)
	}
	put := func(change string) {
		body, err := json.Marshal(map[string]any{"cells": [][]string{list}})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := s.Apply(t.Context(), id, store.Request{ID: change, Who: "Ines", What: "edit-list",
			Puts: []store.Put{{
				Subject: "sheet/wires", Body: body, Seen: store.Any}}}); err != nil {
			t.Fatal(err)
		}
	}
	put("first")
	want := []string{list[7]}
	for i := range 200 {
		list[7+i%50] = fmt.Sprintf("Wire %d, put right: größer als „%d“", i, i*i)
		put(fmt.Sprint("edit ", i))
		want = append(want, list[7])
	}
	entries, err := s.Journal(t.Context(), id, 0, 1000)
	if err != nil {
		t.Fatal(err)
	}
	total := 0
	for i := range entries {
		total += len(entries[i].Text)
	}
	t.Logf("%d entries, %d KB", len(entries), total>>10)
	if total > 3<<20 {
		t.Errorf("%d MB for two hundred cells", total>>20)
	}
	page, err := s.Journal(t.Context(), id, entries[49].Seq, 50)
	if err != nil || len(page) != 50 || page[0].Seq != entries[50].Seq {
		t.Errorf("the second page has %d entries: %v", len(page), err)
	}
	for i := range 200 {
		if _, err := s.Undo(t.Context(), id, store.Back{ID: fmt.Sprint("undo ", i), Who: "Ines"}); err != nil {
			t.Fatalf("undo %d: %v", i, err)
		}
	}
	state := load(t, s, id)
	if got := state.Job.Sheets["wires"].Cells[0]; got[7] != want[0] || len(got) != len(list) ||
		got[30] != fmt.Sprintf(
			"Wire %d from Ä%d to K%d, Zündspule – „grün“ 1,5 mm²", 30, 30, 12) {
		t.Errorf("what comes back is %q", got[7])
	}
}

// What is pruned says who did what and when; it cannot be taken back, and what is younger can.
func TestOldDetailIsPruned(t *testing.T) {
	dir := t.TempDir()
	now := time.UnixMilli(1_764_000_000_000)
	s, err := store.Open(t.Context(), dir, func() time.Time { return now })
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	id := create(t, s)
	if _, err := s.Apply(t.Context(), id, decide("old", "1", match.Gone)); err != nil {
		t.Fatal(err)
	}
	now = now.Add(100 * 24 * time.Hour)
	if _, err := s.Apply(t.Context(), id, decide("young", "2", match.Gone)); err != nil {
		t.Fatal(err)
	}
	before := load(t, s, id)
	n, err := s.Prune(t.Context(), now.Add(-24*time.Hour))
	if err != nil || n != 2 {
		t.Errorf("%d entries are pruned, %v; two are old", n, err)
	}
	entries, err := s.Journal(t.Context(), id, 0, 10)
	if err != nil || len(entries) != 3 || entries[1].ID != "old" || entries[1].Who == "" ||
		len(entries[1].Changes) != 0 {
		t.Errorf("%+v, %v", entries, err)
	}
	if after := load(t, s, id); len(after.Job.Decisions) != len(before.Job.Decisions) {
		t.Error("pruning changes the job")
	}
	who := entries[0].Who
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u1", Who: who}); err != nil {
		t.Errorf("the young one is not taken back: %v", err)
	}
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u2", Who: who}); !errors.Is(err, store.ErrNoUndo) {
		t.Errorf("what was pruned is taken back: %v", err)
	}
}

// Brought up to date and killed at any moment, the first copy of what was there stays as it was, every start after it
// goes on, and what was half written is gone.
func TestAMigrationKilled(t *testing.T) {
	text, err := os.ReadFile("testdata/schema-1.sql")
	if err != nil {
		t.Fatal(err)
	}
	titles := func(path string) (n int) {
		db := sqlx.MustConnect("sqlite", path)
		defer func() { _ = db.Close() }()
		if err := db.Get(&n, "SELECT count(*) FROM jobs"); err != nil {
			t.Errorf("%s: %v", path, err)
		}
		return n
	}
	dir := t.TempDir()
	path := filepath.Join(dir, store.File)
	db := sqlx.MustConnect("sqlite", path)
	db.MustExec(string(text))
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	whole, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	half := filepath.Join(dir, "draxel.db.before-4.part") // killed while the copy was made
	upload := filepath.Join(dir, "draxel-upload-77.part")
	for _, left := range []string{half, upload} {
		if err := os.WriteFile(left, whole[:100], 0o600); err != nil {
			t.Fatal(err)
		}
	}
	if err := open(t, dir).Close(); err != nil {
		t.Fatal(err)
	}
	for _, left := range []string{half, upload} {
		if _, err := os.Stat(left); !errors.Is(err, fs.ErrNotExist) {
			t.Errorf("%s is left: %v", left, err)
		}
	}
	first, err := os.ReadFile(path + ".before-4")
	if err != nil || titles(path+".before-4") != 1 {
		t.Fatal("no first copy", err)
	}
	// Killed between two steps: the database is half old and half new when it is opened again.
	db = sqlx.MustConnect("sqlite", path)
	db.MustExec(`ALTER TABLE journal DROP COLUMN hand; DELETE FROM goose_db_version WHERE version_id = 4;
		INSERT INTO jobs (id, revision, created, changed) VALUES ('j9', 1, 1, 1)`)
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	if err := open(t, dir).Close(); err != nil {
		t.Fatal(err)
	}
	if now, err := os.ReadFile(path + ".before-4"); err != nil || !bytes.Equal(now, first) {
		t.Errorf("the first copy was written over: %v", err)
	}
	if titles(path+".before-4-again") != 2 {
		t.Error("there is no copy of the last try")
	}
}
