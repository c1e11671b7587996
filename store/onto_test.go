package store_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/store"
)

// put changes one subject: by whom, in which page, and what that had seen.
func put(s *store.Store, job, id, who, hand, what, subject, body string, seen int64) (int64, error) {
	p := store.Put{Subject: subject, Seen: seen}
	if body != "" {
		p.Body = json.RawMessage(body)
	}
	return s.Apply(context.Background(), job, store.Request{ID: id, Who: who, Hand: hand, What: what,
		Puts: []store.Put{p}})
}

// body gives a subject as it is stored, put together from the whole job.
func body(t *testing.T, s *store.Store, job, subject string) string {
	t.Helper()
	j := load(t, s, job).Job
	all, err := j.Subjects()
	if err != nil {
		t.Fatal(err)
	}
	for _, x := range all {
		if x.Name == subject {
			return string(x.Body)
		}
	}
	return ""
}

// A page that has not seen what was changed since: what it did itself is no reason to refuse it, what others did is,
// but where fields are each for themselves and these are others.
func TestWhatWasChangedMeanwhile(t *testing.T) {
	const bench, decision = "bench", "decision/from/A/1"
	gone, sourced := decided(t, match.Gone), decided(t, match.Sourced)
	plain := benchOf(t, 40, 4)
	for _, x := range []struct {
		name, subject, before, first, hand, what, second string
		want                                             string // empty: it is refused
	}{
		{"a decision, by somebody else", decision, "", gone, "b", "gone", sourced, ""},
		{"a decision, by the same hand", decision, "", gone, "a", "gone", sourced, string(match.Sourced)},
		{"another field, by somebody else", bench, plain, benchOf(t, 60, 4), "b", "bench",
			benchOf(t, 40, 7), `"stub":60`},
		{"the same field, by somebody else", bench, plain, benchOf(t, 60, 4), "b", "bench",
			benchOf(t, 70, 4), ""},
		{"the same field, by the same hand", bench, plain, benchOf(t, 60, 4), "a", "bench",
			benchOf(t, 70, 4), `"stub":70`},
		{"another field, by the same hand", bench, plain, benchOf(t, 60, 4), "a", "bench",
			benchOf(t, 40, 7), `"stub":60`},
		{"back to what it was, by the same hand", bench, benchOf(t, 40, 4), benchOf(t, 60, 4), "a", "bench",
			benchOf(t, 40, 4), `"stub":40`},
		{"back to what it was, over somebody else", bench, benchOf(t, 40, 4), benchOf(t, 60, 4), "b", "bench",
			benchOf(t, 40, 4), ""},
		{"a page that does not say which it is", bench, plain, benchOf(t, 60, 4), "", "bench",
			benchOf(t, 70, 4), ""},
		{"another table in its place", "table/from", table(t, "1", "RD", "BU"),
			table(t, "7", "GN", "BU"), "b", "import", table(t, "1", "RD", "BK"), ""},
		{"another cell", "table/from", table(t, "1", "RD", "BU"),
			table(t, "1", "GN", "BU"), "b", "correct", table(t, "1", "RD", "BK"),
			`["A","1","x","GN"],["A","2","y","BK"]`},
		{"taken away by somebody else", bench, plain, "", "b", "bench", benchOf(t, 40, 7), ""},
		{"two that cannot be together", bench, plain, benchOf(t, 60, 4), "b", "bench",
			benchOf(t, 40, 4000), ""},
	} {
		s := open(t, t.TempDir())
		job := create(t, s)
		seen := load(t, s, job).Revision
		if x.before != "" {
			var err error
			if seen, err = put(s, job, "0", "Ines", "a", "put", x.subject, x.before, seen); err != nil {
				t.Fatal(x.name, err)
			}
		}
		if _, err := put(s, job, "1", "Fen", x.hand, x.what, x.subject, x.first, seen); err != nil {
			t.Fatal(x.name, err)
		}
		hand := "a"
		if x.hand == "" {
			hand = ""
		}
		_, err := put(s, job, "2", "Ines", hand, "put", x.subject, x.second, seen)
		var stale *store.StaleError
		if x.want == "" {
			if !errors.As(err, &stale) || stale.Subject != x.subject {
				t.Errorf("%s: %v; it is to be refused", x.name, err)
			}
			continue
		}
		if got := body(t, s, job, x.subject); err != nil || !strings.Contains(got, x.want) {
			t.Errorf("%s: %v, %s; it wants %s", x.name, err, got, x.want)
		}
	}
}

// Forty keys one after the other, each made from what the page showed before any of them was answered, while somebody
// else changes other fields: all of it arrives, in any mixture.
func TestManyHandsAtOneMap(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 1))
	s := open(t, t.TempDir())
	job := create(t, s)
	type station struct {
		ID    string `json:"id"`
		Group string `json:"group,omitempty"`
	}
	stations := func(groups []string) string {
		all := make([]station, len(groups))
		for i, g := range groups {
			all[i] = station{fmt.Sprint("s", i), g}
		}
		text, err := json.Marshal(map[string]any{"stations": all, "paths": []any{}})
		if err != nil {
			t.Fatal(err)
		}
		return string(text)
	}
	groups := []string{"body", "body", "body", "body", "body", "body"}
	first, err := put(s, job, "m", "Ines", "a", "map", "map", stations(groups), load(t, s, job).Revision)
	if err != nil {
		t.Fatal(err)
	}
	want := append([]string{}, groups...)
	shown := map[string][]string{"a": groups, "b": groups} // what each page was drawn from; none is answered
	for n := range 40 {
		hand := []string{"a", "b"}[r.IntN(2)]
		k := r.IntN(3) // Ines has the first three stations, Fen the others
		if hand == "b" {
			k += 3
		}
		mine := append([]string{}, shown[hand]...)
		mine[k] = []string{"engine", "cabin", "floor"}[r.IntN(3)]
		want[k] = mine[k]
		if _, err := put(s, job, fmt.Sprint("n", n), hand, hand, "map", "map", stations(mine), first); err != nil {
			t.Fatalf("%d: %v", n, err)
		}
		if mine[k] == groups[k] {
			t.Fatal("it changes nothing")
		}
	}
	var got struct{ Stations []station }
	if err := json.Unmarshal([]byte(body(t, s, job, "map")), &got); err != nil {
		t.Fatal(err)
	}
	for i, st := range got.Stations {
		if st.Group != want[i] {
			t.Errorf("%s is %q, want %q", st.ID, st.Group, want[i])
		}
	}
}

// Undo passes by what somebody else has written over since and names it, leaves what others did to other fields, and
// what was taken back can be done again until something else is done.
func TestUndoPassesByAndRedoes(t *testing.T) {
	s := open(t, t.TempDir())
	job := create(t, s)
	at := load(t, s, job).Revision
	do := func(id, who, subject, body string) {
		t.Helper()
		var err error
		if at, err = put(s, job, id, who, who, "put", subject, body, at); err != nil {
			t.Fatal(err)
		}
	}
	undo := func(id, who string) store.TakenBack {
		t.Helper()
		back, err := s.Undo(t.Context(), job, store.Back{ID: id, Who: who, Hand: who})
		if err != nil {
			t.Fatalf("%s: %v", id, err)
		}
		at = back.Revision
		return back
	}
	note := func(text string) string { return `{"id":"n","kind":"heard","text":"` + text + `"}` }
	do("b0", "Ines", "bench", benchOf(t, 40, 4))
	do("b1", "Ines", "bench", benchOf(t, 60, 4))
	do("b2", "Fen", "bench", benchOf(t, 60, 7))
	do("n1", "Ines", "note/n", note("one"))
	do("n2", "Fen", "note/n", note("two"))
	first := undo("u1", "Ines")
	if first.Entry.ID != "b1" || len(first.Skipped) != 1 || first.Skipped[0].ID != "n1" {
		t.Errorf("took back %s, passed by %v", first.Entry.ID, first.Skipped)
	}
	if got := body(t, s, job, "bench"); !strings.Contains(got, `"stub":40`) || !strings.Contains(got, `"hand":7`) {
		t.Errorf("the bench is %s: Fen's 7 stays", got)
	}
	if got := body(t, s, job, "note/n"); !strings.Contains(got, "two") {
		t.Errorf("the note is %s", got)
	}
	redo, err := s.Redo(t.Context(), job, store.Back{ID: "r1", Who: "Ines", Hand: "Ines"})
	if got := body(t, s, job, "bench"); err != nil || redo.Entry.ID != "b1" || !strings.Contains(got, `"stub":60`) ||
		!strings.Contains(got, `"hand":7`) {
		t.Errorf("done again: %v, %s, the bench is %s", err, redo.Entry.ID, got)
	}
	if again, err := s.Redo(t.Context(), job, store.Back{ID: "r1", Who: "Ines"}); err != nil ||
		again.Revision != redo.Revision {
		t.Errorf("a retry made revision %d, %v", again.Revision, err)
	}
	if _, err := s.Redo(t.Context(), job, store.Back{ID: "r2", Who: "Ines"}); !errors.Is(err, store.ErrNoUndo) {
		t.Errorf("there is nothing to do again: %v", err)
	}
	if back := undo("u2", "Ines"); back.Entry.ID != "b1" {
		t.Errorf("what was done again is taken back again: %s", back.Entry.ID)
	}
	at = load(t, s, job).Revision
	do("b3", "Ines", "bench", benchOf(t, 90, 7))
	if is, err := s.Redoable(t.Context(), job, "Ines"); err != nil || is {
		t.Errorf("after something else there is nothing to do again: %t, %v", is, err)
	}
	named, err := s.Undo(t.Context(), job, store.Back{ID: "u3", Who: "Ines", Of: 4}) // b2, Fen's
	if got := body(t, s, job, "bench"); err != nil || named.Entry.ID != "b2" ||
		!strings.Contains(got, `"stub":90`) || !strings.Contains(got, `"hand":4`) {
		t.Errorf("one that is named: %v, %s, %s", err, named.Entry.ID, got)
	}
	var stale *store.StaleError
	at = load(t, s, job).Revision
	do("b4", "Fen", "bench", benchOf(t, 91, 9))
	if _, err := s.Undo(t.Context(), job, store.Back{ID: "u4", Who: "Ines", Of: 10}); !errors.As(err, &stale) {
		t.Errorf("what was written over: %v", err)
	}
}

// benchOf gives how somebody works, with a stub in mm and so many terminals in hand.
func benchOf(t *testing.T, stub float64, hand int) string {
	b := thin.Standard()
	b.Stub, b.Hand = stub, &hand
	return encode(t, b)
}

func table(t *testing.T, first, colour, other string) string {
	return encode(t, stored.Table{Name: "t", Trust: harness.Maker, Cells: [][]string{
		{"Connector", "Cavity", "Function", "Colour"}, {"A", first, "x", colour}, {"A", "2", "y", other}}})
}

func decided(t *testing.T, c match.Choice) string {
	return encode(t, match.Decision{Side: match.From, At: harness.Ref{Connector: "A", Cavity: "1"}, Choice: c})
}

func encode(t *testing.T, v any) string {
	t.Helper()
	text, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// A table that was brought is not taken back once a cell of it was put right: that cell is no cell of the one before.
func TestATableIsTakenBackAsAWhole(t *testing.T) {
	s := open(t, t.TempDir())
	job := create(t, s)
	at := load(t, s, job).Revision
	for i, x := range []struct{ what, body string }{{"import", table(t, "1", "RD", "BU")},
		{"import", table(t, "7", "RD", "BU")}, {"correct", table(t, "7", "GN", "BU")}} {
		var err error
		if at, err = put(s, job, fmt.Sprint("t", i), "Ines", "a", x.what, "table/from", x.body, at); err != nil {
			t.Fatal(err)
		}
	}
	var stale *store.StaleError
	if _, err := s.Undo(t.Context(), job, store.Back{ID: "u", Who: "Ines", Of: 3}); !errors.As(err, &stale) {
		t.Errorf("it was taken back: %v, %s", err, body(t, s, job, "table/from"))
	}
}
