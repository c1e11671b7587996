package store_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"testing"

	"github.com/jmoiron/sqlx"

	"draxel/core/circuit"
	"draxel/core/face"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/store"
)

const killedPhotos = "DRAXEL_TEST_KILLED_PHOTOS"

func photo(id string) store.Request {
	body, err := json.Marshal(stored.Photo{ID: id, Connector: "A"})
	if err != nil {
		panic(err)
	}
	return store.Request{ID: "change " + id, Who: "x", What: "photo",
		Puts:     []store.Put{{Subject: stored.SubjectOf(stored.Photo{ID: id}), Body: body, Seen: store.Any}},
		Pictures: []store.Picture{{ID: id, Picture: bytes.Repeat([]byte(id), 200_000), Thumb: []byte(id)}}}
}

// addPhotos is what the process that is killed does: it answers each photograph once it is stored.
func addPhotos(dir string) {
	s, err := store.Open(context.Background(), dir, clock)
	if err != nil {
		panic(err)
	}
	if _, err := s.Create(context.Background(), "x", store.NewJob{ID: "j1", Request: "c", Job: sample()}); err != nil {
		panic(err)
	}
	for i := 1; ; i++ {
		if _, err := s.Apply(context.Background(), "j1", photo(fmt.Sprint("p", i))); err != nil {
			panic(err)
		}
		fmt.Println(i)
	}
}

// A process killed while it stores photographs leaves each whole or not at all, and no file but the database's.
func TestAKilledUploadLeavesNothingHalf(t *testing.T) {
	for round := range 4 {
		dir := t.TempDir()
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), killedPhotos+"="+dir)
		out, err := cmd.StdoutPipe()
		if err != nil {
			t.Fatal(err)
		}
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		answered := 0
		for scan := bufio.NewScanner(out); scan.Scan(); {
			if _, err := fmt.Sscan(scan.Text(), &answered); err != nil {
				t.Fatal(err)
			}
			if answered == 5+3*round {
				_ = cmd.Process.Kill()
			}
		}
		_ = cmd.Wait()
		s := open(t, dir)
		state := load(t, s, "j1")
		if len(state.Job.Photos) < answered {
			t.Errorf("answered %d photographs, %d are there", answered, len(state.Job.Photos))
		}
		for _, p := range state.Job.Photos {
			got, err := s.Photo(t.Context(), "j1", p.ID)
			if err != nil || len(got.Picture) != 200_000*len(p.ID) || string(got.Thumb) != p.ID {
				t.Errorf("photograph %s: %d bytes, %v", p.ID, len(got.Picture), err)
			}
		}
		if _, err := s.Photo(t.Context(), "j1", fmt.Sprint("p", len(state.Job.Photos)+1)); !errors.Is(err, store.ErrNoPhoto) {
			t.Errorf("a picture without its subject: %v", err)
		}
		files, err := os.ReadDir(dir)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range files {
			switch f.Name() {
			case "draxel.db", "draxel.db-wal", "draxel.db-shm", "draxel.lock":
			default:
				t.Errorf("a stray file %s", f.Name())
			}
		}
	}
}

// A photograph that was taken away comes back with undo, picture and all.
func TestUndoBringsAPhotographBack(t *testing.T) {
	s := open(t, t.TempDir())
	id := create(t, s)
	if _, err := s.Apply(t.Context(), id, photo("p1")); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Apply(t.Context(), id, store.Request{ID: "drop", Who: "x", What: "drop-photo",
		Puts: []store.Put{{Subject: stored.SubjectOf(stored.Photo{ID: "p1"}), Seen: store.Any}}}); err != nil {
		t.Fatal(err)
	}
	if n := len(load(t, s, id).Job.Photos); n != 0 {
		t.Fatalf("%d photographs", n)
	}
	if _, err := s.Undo(t.Context(), id, store.Back{ID: "u", Who: "x"}); err != nil {
		t.Fatal(err)
	}
	if n := len(load(t, s, id).Job.Photos); n != 1 {
		t.Fatalf("%d photographs after undo", n)
	}
	if p, err := s.Photo(t.Context(), id, "p1"); err != nil || len(p.Picture) == 0 {
		t.Error("the picture is gone", err)
	}
}

// Every kind of subject comes back as it was put.
func TestAWholeHarnessComesBack(t *testing.T) {
	s := open(t, t.TempDir())
	v, yes := 12.4, true
	b := thin.Standard()
	j := sample()
	j.Identity = &gather.Identity{Unit: gather.UnitID{Hardware: "VK2", Read: true},
		Gearbox: gather.Change{Donor: "automatic", Will: "manual"}}
	j.Items = map[string]bool{"gearbox automatic to manual 1": true}
	j.Before = &gather.Before{Baseline: []gather.Baseline{{Function: "horn", Works: gather.DidWork}}}
	j.Looked = map[string]gather.Looked{"A": {Labelled: true, Counted: 4}, "branch b/1": {Insulation: gather.Worn}}
	j.Sheets = map[gather.SheetKind]*gather.Sheet{gather.WireList: {Source: "bench",
		Cells: [][]string{{"Wire", "From", "Cavity"}, {"W1", "A", "1"}}, Gone: []int{9}}}
	j.Readings = []gather.Measurement{{ID: "r1", At: harness.Ref{Connector: "A", Cavity: "1"}, Key: gather.KeyRun,
		Volts: &v, When: 1}, {ID: "a2", At: harness.Ref{Connector: "A", Cavity: "2"}, Joined: &yes, When: 2}}
	j.Traces = []gather.Trace{{ID: "t1", Wire: "W1", Saw: gather.EndsOff}}
	j.Photos = []stored.Photo{{ID: "p1", Connector: "A"}}
	j.Thin = []thin.Decision{{On: thin.Connector, ID: "A/1", Choice: thin.Goes, Reason: "why not"},
		{On: thin.System, ID: "emissions", Choice: thin.Goes}}
	j.Bench, j.Ticks = &b, []work.Tick{{Step: "c1", Edits: []harness.Edit{}, Text: "look"}}
	at := func(c string) harness.Ref { return harness.Ref{Connector: "A/1", Cavity: c} }
	l, err := face.Parse("2x3 sealed, 1.5 mm, family s15")
	if err != nil {
		t.Fatal(err)
	}
	j.More = map[string]*stored.Table{"x1": {Name: "pigtail", Trust: "maker", Origin: "Fell", With: "to",
		Cells: [][]string{{"Pin", "Function"}, {"1", "Ground"}}}}
	j.Layouts = map[string]*face.Layout{"A/1": &l}
	j.Wishes = []pin.Wish{{Step: "s2", Then: "s1"}}
	j.Exchanges = []pin.Exchange{{A: at("1"), B: at("2"), Reason: "burnt"}}
	j.Reports = []pin.Report{{ID: "x", What: pin.IsStuck, At: at("3")}}
	j.Checks = []pin.Check{{At: at("1"), OK: true, Who: "Jo", When: 3}}
	j.Have = map[string]bool{"pick": true}
	id, err := s.Create(t.Context(), "x", store.NewJob{ID: "whole", Request: "r", Job: j,
		Bring: func(_ *store.NewJob, keep func(store.Picture) error) error {
			return keep(store.Picture{ID: "p1", Picture: []byte("x"), Thumb: []byte("y")})
		}})
	if err != nil {
		t.Fatal(err)
	}
	got, err := json.Marshal(load(t, s, id).Job)
	if err != nil {
		t.Fatal(err)
	}
	want, err := json.Marshal(j)
	if err != nil || !bytes.Equal(got, want) {
		t.Errorf("got  %s\nwant %s", got, want)
	}
	last := load(t, s, id)
	sheet := stored.SubjectAt[gather.Sheet](string(gather.WireList))
	if _, err := s.Apply(t.Context(), id, store.Request{ID: "sheet", Puts: []store.Put{
		{Subject: sheet, Body: json.RawMessage(`{"cells":[["Wire"],["W2"]]}`), Seen: store.Any},
		{Subject: stored.SubjectTable("from"), Seen: store.Any}}}); err != nil {
		t.Fatal(err)
	}
	after, err := s.LoadAfter(t.Context(), id, &last)
	if err != nil || after.Job.Sheets[gather.WireList].Cells[1][0] != "W2" || after.Job.From != nil ||
		after.Job.To != last.Job.To ||
		after.Job.More["x1"] != last.Job.More["x1"] {
		t.Errorf("after a change of a list and a table: %+v, %v", after.Job.Sheets[gather.WireList], err)
	}
}

// Circuits are what a recursive query over the same wires finds: a method that has nothing in common with ours.
func TestCircuitsAgainstARecursiveQuery(t *testing.T) {
	db, err := sqlx.Open("sqlite", ":memory:")
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 13))
		l := harness.Loom{}
		db.MustExec(`DROP TABLE IF EXISTS wires; CREATE TABLE wires (id INTEGER PRIMARY KEY, a TEXT, b TEXT)`)
		for i := range 10 + r.IntN(40) {
			w := harness.Wire{ID: harness.WireID(fmt.Sprint("W", i))}
			var names [2]string
			for k := range w.Ends {
				if n := fmt.Sprint(r.IntN(40)); r.IntN(3) == 0 {
					w.Ends[k].Splice, names[k] = harness.JointID("S"+n), "S"+n
				} else {
					w.Ends[k].At, names[k] = harness.Ref{Connector: "A", Cavity: n}, "A"+n
				}
			}
			l.Wires = append(l.Wires, w)
			db.MustExec(`INSERT INTO wires VALUES (?, ?, ?)`, i, names[0], names[1])
		}
		ours := circuit.Circuits(&l)
		for i := range l.Wires {
			var theirs []int
			err := db.Select(&theirs, `WITH RECURSIVE joined(at) AS (SELECT a FROM wires WHERE id = ? UNION SELECT CASE w.a WHEN joined.at THEN w.b ELSE w.a END FROM wires w JOIN joined ON joined.at IN (w.a, w.b))
				SELECT DISTINCT id FROM wires JOIN joined ON at IN (a, b) ORDER BY id`, i)
			if err != nil {
				t.Fatal(err)
			}
			var mine []int
			for k := range ours {
				if ours[k] == ours[i] {
					mine = append(mine, k)
				}
			}
			if fmt.Sprint(mine) != fmt.Sprint(theirs) {
				t.Fatalf("seed %d: wire %d is joined to %v, by the query to %v", seed, i, mine, theirs)
			}
		}
	}
}
