package store_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/store"
)

var clock = func() time.Time { return time.UnixMilli(1_790_000_000_000) }

func open(t testing.TB, dir string) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), dir, clock)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func sample() stored.Job {
	return stored.Job{Title: "Sorrel refit", Kind: stored.Repinned, Donor: "Tarn Sorrel", Chassis: "Tarn Sorrel",
		From: &stored.Table{Name: "VK-1", Trust: harness.Maker,
			Cells: [][]string{{"Connector", "Cavity", "Function"}, {"A", "1", "Injector 1 <&>"}}}}
}

func at(c string) harness.Ref { return harness.Ref{Connector: "A", Cavity: c} }

func decide(id, cavity string, choice match.Choice) store.Request {
	body, err := json.Marshal(match.Decision{Side: match.From, At: at(cavity), Choice: choice})
	if err != nil {
		panic(err)
	}
	return store.Request{ID: id, Who: "Ines", What: "decide",
		Puts: []store.Put{{Subject: stored.SubjectOf(match.Decision{Side: match.From, At: at(cavity)}), Body: body,
			Seen: store.Any}}}
}

func create(t testing.TB, s *store.Store) string {
	t.Helper()
	id, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j1", Request: "create-1", Job: sample()})
	if err != nil {
		t.Fatal(err)
	}
	return id
}

func load(t testing.TB, s *store.Store, id string) store.State {
	t.Helper()
	state, err := s.Load(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	return state
}

func apply(t testing.TB, s *store.Store, id string, r store.Request) int64 {
	t.Helper()
	revision, err := s.Apply(t.Context(), id, r)
	if err != nil {
		t.Fatal(err)
	}
	return revision
}

func TestAJobComesBackWhole(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	state := load(t, open(t, dir), id)
	want := sample()
	if state.Job.Title != want.Title || state.Job.From.Cells[1][2] != want.From.Cells[1][2] ||
		len(state.Job.Decisions) != 1 || state.Revision != 2 {
		t.Errorf("came back as %+v", state)
	}
}

func TestARetryIsNotASecondChange(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	first := apply(t, s, id, decide("d1", "1", match.Gone))
	if again := apply(t, s, id, decide("d1", "1", match.Gone)); again != first || load(t, s, id).Revision != first {
		t.Errorf("revision %d, then %d", first, again)
	}
	if other, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j2", Request: "create-1",
		Job: sample()}); err != nil || other != id {
		t.Errorf("creating again gave %q, %v", other, err)
	}
}

func TestAStaleWriteIsRefused(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	late := decide("d2", "1", match.Gone)
	late.Puts[0].Seen = 0 // seen while it was still open
	var stale *store.StaleError
	if _, err := s.Apply(t.Context(), id, late); !errors.As(err, &stale) || stale.Subject != "decision/from/A/1" {
		t.Errorf("got %v, want a stale write named", err)
	}
	if load(t, s, id).Revision != 2 {
		t.Error("a refused write changed the revision")
	}
}

func TestUndoStepsBackAndSurvivesARestart(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	apply(t, s, id, decide("d2", "2", match.Gone))
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	s = open(t, dir)
	for i, left := range []int{1, 0} {
		back, err := s.Undo(t.Context(), id, store.Back{ID: fmt.Sprint("u", i), Who: "Ines"})
		if err != nil || back.Entry.What != "decide" || len(load(t, s, id).Job.Decisions) != left {
			t.Fatalf("undo %d: %+v, %v, %d decisions", i, back.Entry, err, len(load(t, s, id).Job.Decisions))
		}
	}
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u9", Who: "Ines"}); !errors.Is(err, store.ErrNoUndo) {
		t.Errorf("the creation was undone: %v", err)
	}
	if back, err := s.Undo(t.Context(), id, store.Back{ID: "u1", Who: "Ines"}); err != nil || back.Revision != 5 {
		t.Errorf("a retried undo gave revision %d, %v", back.Revision, err)
	}
	journal, err := s.Journal(t.Context(), id, 0, 10)
	if err != nil || len(journal) != 5 || journal[0].What != "undo" || journal[0].Who != "Ines" ||
		journal[0].At != clock().UnixMilli() {
		t.Errorf("journal %+v, %v", journal, err)
	}
}

func TestUndoRestoresWhatWasThere(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	apply(t, s, id, decide("d1", "1", match.Gone))
	apply(t, s, id, decide("d2", "1", match.Sourced))
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u1", Who: "Ines"}); err != nil {
		t.Fatal(err)
	}
	if d := load(t, s, id).Job.Decisions; len(d) != 1 || d[0].Choice != match.Gone {
		t.Errorf("decisions %+v", d)
	}
}

func TestTheFolderIsLocked(t *testing.T) {
	dir := t.TempDir()
	open(t, dir)
	if _, err := store.Open(t.Context(), dir, clock); !errors.Is(err, store.ErrInUse) {
		t.Errorf("a second server got in: %v", err)
	}
}

func TestANewerDatabaseIsRefused(t *testing.T) {
	dir := t.TempDir()
	if err := open(t, dir).Close(); err != nil {
		t.Fatal(err)
	}
	db := sqlx.MustConnect("sqlite", filepath.Join(dir, "draxel.db"))
	db.MustExec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`)
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	if _, err := store.Open(t.Context(), dir, clock); !errors.Is(err, store.ErrNewer) {
		t.Errorf("opened: %v", err)
	}
}

// Each released schema has a fixture, made by its release; it must open, migrated, with its data. The fixture is SQL
// text, so that it can be read and never depends on a file format.
func TestReleasedSchemasOpen(t *testing.T) {
	fixtures, err := filepath.Glob("testdata/schema-*.sql")
	if err != nil || len(fixtures) == 0 {
		t.Fatalf("no fixtures: %v", err)
	}
	for _, f := range fixtures {
		t.Run(filepath.Base(f), func(t *testing.T) {
			dir := t.TempDir()
			text, err := os.ReadFile(f)
			if err != nil {
				t.Fatal(err)
			}
			db := sqlx.MustConnect("sqlite", filepath.Join(dir, "draxel.db"))
			db.MustExec(string(text))
			if err := db.Close(); err != nil {
				t.Fatal(err)
			}
			s := open(t, dir)
			state := load(t, s, "j1")
			if state.Job.Title != "Sorrel refit" || len(state.Job.Decisions) != 1 {
				t.Errorf("opened as %+v", state)
			}
			if filepath.Base(f) == "schema-1.sql" {
				if _, err := os.Stat(filepath.Join(dir, "draxel.db.before-4")); err != nil {
					t.Error("no copy was taken before it was migrated", err)
				}
			} else {
				wholeOfSchema2(t, s, state)
			}
			if _, err := s.Undo(t.Context(), "j1", store.Back{ID: "undo", Who: "Ines"}); err != nil {
				t.Errorf("the last change before is not undone: %v", err)
			}
		})
	}
}

// wholeOfSchema2 looks for one of each kind of subject that schema 2 can hold.
func wholeOfSchema2(t *testing.T, s *store.Store, state store.State) {
	t.Helper()
	j := state.Job
	if !j.Identity.Unit.Read || !j.Items["x"] || len(j.Before.Baseline) != 1 || !j.Looked["A"].Labelled ||
		len(j.Sheets["wires"].Cells) != 2 ||
		len(j.Readings) != 1 || *j.Readings[0].Volts != 12.4 || j.Traces[0].Saw != "taped" || len(j.Thin) != 2 ||
		j.Bench.Stub != 60 || j.Ticks[0].Step != "c1" {
		t.Errorf("opened as %+v", j)
	}
	if p, err := s.Photo(t.Context(), "j1", j.Photos[0].ID); err != nil || string(p.Picture) != "pixels" ||
		string(p.Thumb) != "few" {
		t.Errorf("photograph %+v, %v", p, err)
	}
}

func TestBackupIsAWholeDatabase(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	var b bytes.Buffer
	if err := s.Backup(t.Context(), &b); err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, "draxel.db"), b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if got := load(t, open(t, dir), id); got.Job.Title != "Sorrel refit" {
		t.Errorf("backup opened as %+v", got)
	}
}

func TestDeletedJobsAreOffTheList(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	if err := s.Delete(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	jobs, err := s.Jobs(t.Context())
	if _, e := s.Load(t.Context(), id); err != nil || len(jobs) != 0 || !errors.Is(e, store.ErrNoJob) {
		t.Errorf("jobs %v, %v; load %v", jobs, err, e)
	}
	if _, err := s.Apply(t.Context(), id, decide("d1", "1", match.Gone)); !errors.Is(err, store.ErrNoJob) {
		t.Errorf("a deleted job was changed: %v", err)
	}
}

const killed = "DRAXEL_TEST_KILLED_DIR"

// TestMain lets the test binary be the process that is killed: it answers each change on its output once it is stored.
func TestMain(m *testing.M) {
	if dir := os.Getenv(killedPhotos); dir != "" {
		addPhotos(dir)
	}
	if dir := os.Getenv(killedStart); dir != "" {
		startAndStop(dir)
	}
	dir := os.Getenv(killed)
	if dir == "" {
		os.Exit(m.Run())
	}
	s, err := store.Open(context.Background(), dir, clock)
	if err != nil {
		panic(err)
	}
	if _, err := s.Create(context.Background(), "x", store.NewJob{ID: "j1", Request: "c", Job: sample()}); err != nil {
		panic(err)
	}
	for i := 1; ; i++ {
		if _, err := s.Apply(context.Background(), "j1", decide(fmt.Sprint("d", i), fmt.Sprint(i), match.Gone)); err != nil {
			panic(err)
		}
		fmt.Println(i)
	}
}

// A process killed in the middle of its work has lost nothing that it answered.
func TestAKilledProcessLosesNothing(t *testing.T) {
	for round := range 3 {
		dir := t.TempDir()
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), killed+"="+dir)
		out, err := cmd.StdoutPipe()
		if err != nil {
			t.Fatal(err)
		}
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		answered := 0
		for scan := bufio.NewScanner(out); scan.Scan(); {
			if _, err := fmt.Sscan(strings.TrimSpace(scan.Text()), &answered); err != nil {
				t.Fatal(err)
			}
			if answered == 20+10*round {
				_ = cmd.Process.Kill()
			}
		}
		_ = cmd.Wait()
		s := open(t, dir)
		state := load(t, s, "j1")
		if len(state.Job.Decisions) < answered {
			t.Errorf("answered %d decisions, %d are there", answered, len(state.Job.Decisions))
		}
		journal, err := s.Journal(t.Context(), "j1", 0, 1000)
		if err != nil || len(journal) != len(state.Job.Decisions)+1 {
			t.Errorf("%d journal entries for %d decisions: half a change", len(journal), len(state.Job.Decisions))
		}
	}
}

func TestManyWritersAtOnce(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	const writers = 24
	errs := make(chan error, writers)
	for i := range writers {
		go func() {
			_, err := s.Apply(t.Context(), id, decide(fmt.Sprint("d", i), fmt.Sprint(i), match.Gone))
			errs <- err
		}()
	}
	for range writers {
		if err := <-errs; err != nil {
			t.Error(err)
		}
	}
	state := load(t, s, id)
	if len(state.Job.Decisions) != writers || state.Revision != writers+1 {
		t.Errorf("%d decisions at revision %d", len(state.Job.Decisions), state.Revision)
	}
}

// A change of which one part cannot be written leaves nothing of the other part.
func TestHalfAChangeIsNoChange(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	r := decide("d1", "1", match.Gone)
	r.Puts = append(r.Puts, store.Put{Subject: "kept", Body: json.RawMessage(`{"A":`), Seen: store.Any})
	if _, err := s.Apply(t.Context(), id, r); err == nil {
		t.Fatal("broken JSON was stored")
	}
	state := load(t, s, id)
	journal, err := s.Journal(t.Context(), id, 0, 10)
	if err != nil || len(state.Job.Decisions) != 0 || state.Revision != 1 || len(journal) != 1 {
		t.Errorf("after a failed change: %d decisions, revision %d, %d journal entries, %v", len(state.Job.Decisions),
			state.Revision, len(journal), err)
	}
}

func TestAChangeCheckedAgainstAnOldStateIsRefused(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	base := load(t, s, id).Revision
	apply(t, s, id, decide("d1", "1", match.Gone))
	r := decide("d2", "2", match.Gone)
	r.Base = base
	if _, err := s.Apply(t.Context(), id, r); !errors.Is(err, store.ErrMoved) {
		t.Errorf("got %v", err)
	}
	r.Base = base + 1
	if _, err := s.Apply(t.Context(), id, r); err != nil {
		t.Error(err)
	}
}
