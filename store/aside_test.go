package store_test

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"

	"draxel/core/match"
	"draxel/store"
)

// A stored value that cannot be, whoever wrote it, does not keep the job from opening: it is named, stays in the
// database as it was, and everything else is there.
func TestABadValueDoesNotShutTheJob(t *testing.T) {
	for subject, body := range map[string]string{
		"tick/x":            `{"step":"x","edits":[{"do":"cut","wire":"w1","end":9}]}`,
		"decision/from/A/7": `{"side":"above","at":{"connector":"A","cavity":"7"},"choice":"goes"}`,
		"rules":             `{"school":"glue"}`,
		"length/w1":         `"long"`,
		"sheet/wires":       `[]`,
	} {
		dir := t.TempDir()
		s := open(t, dir)
		id := create(t, s)
		apply(t, s, id, decide("d1", "1", match.Gone))
		if err := s.Close(); err != nil {
			t.Fatal(err)
		}
		db := sqlx.MustConnect("sqlite", filepath.Join(dir, store.File))
		db.MustExec(`INSERT INTO subjects (job, name, body, version) VALUES (?, ?, ?, 2)`, id, subject, body)
		if err := db.Close(); err != nil {
			t.Fatal(err)
		}
		s = open(t, dir)
		state := load(t, s, id)
		if len(state.Job.Aside) != 1 || state.Job.Aside[0].Name != subject || state.Job.Aside[0].Why == "" ||
			string(state.Job.Aside[0].Value) != body {
			t.Errorf("%s: set aside %+v", subject, state.Job.Aside)
		}
		if state.Job.Title != "Sorrel refit" || len(state.Job.Decisions) != 1 || state.Job.From == nil {
			t.Errorf("%s: the rest is not as it was: %+v", subject, state.Job)
		}
		made, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "copy", Request: "copy", Job: state.Job})
		if err != nil {
			t.Fatal(err)
		}
		if copied := load(t, s, made).Job.Aside; len(copied) != 1 || !strings.HasPrefix(copied[0].Name, subject) {
			t.Errorf("%s: a copy of the job has %+v set aside", subject, copied)
		}
	}
}
