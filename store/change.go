package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"
)

// Put sets a subject's body; a nil body removes it.
type Put struct {
	Subject string
	Body    json.RawMessage
	// Seen is the revision of the job that the body was made from, or Any: what another hand has made of the subject since
	// is not overwritten, and brought together with the body where fields are each for themselves (stored.Apart).
	Seen int64
	// From is what the body was made from where that is not the subject as it was seen: what differs is what is meant.
	From json.RawMessage
}

// Any goes over whatever a subject has become.
const Any int64 = -1

// Request is a change that somebody asks for.
type Request struct {
	ID     string // made by the client, unique: a retry is not a second change
	Path   string // what it was asked of, "POST /match/decide": the id is good for that alone
	Who    string
	Hand   string // the page that it was made in: what that did itself, it need not have seen; empty where it is not known
	Upon   string // the change of the same hand whose bodies these were made from, not seen yet as they came out; or empty
	What   string // a word for it: "import", "decide"
	Reason string
	Base   int64 // where not 0: the job's revision that the change was checked against; ErrMoved if it has another by now
	Puts   []Put

	Pictures []Picture // bytes of the photographs that it adds
}

// StaleError is a refused write: what it was made from has changed since.
type StaleError struct{ Subject string }

func (e *StaleError) Error() string {
	return fmt.Sprintf("%s was changed by somebody else since you saw it", e.Subject)
}

// Apply carries out a change of a job and gives the job's new revision. A request whose id is known already changes
// nothing and gives the revision that it made then. It fails with ErrNoJob, ErrMoved, ErrUsed and *StaleError.
func (s *Store) Apply(ctx context.Context, job string, r Request) (revision int64, err error) {
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		if done, err := known(ctx, tx, job, r.ID, r.Path); err != nil || done > 0 {
			revision = done
			return err
		}
		revision, err = s.write(ctx, tx, job, r, nil)
		return err
	})
	return revision, err
}

// Known gives the revision that a change of a job with this id made, 0 when there is none. It fails with ErrUsed where
// the id was used for something else.
func (s *Store) Known(ctx context.Context, job, id, path string) (int64, error) {
	return known(ctx, s.reads, job, id, path)
}

// sameAsked says whether two requests asked for the same: a method with a path and, behind " #", the sum of what was
// said. What is not known of one of them is the same.
func sameAsked(a, b string) bool {
	onePath, one, _ := strings.Cut(a, " #")
	otherPath, other, _ := strings.Cut(b, " #")
	unknown := func(x, y string) bool { return x == "" || y == "" }
	return (unknown(onePath, otherPath) || onePath == otherPath) && (unknown(one, other) || one == other)
}

func equalJSON(a, b json.RawMessage) bool { return string(a) == string(b) }

func known(ctx context.Context, q sqlx.QueryerContext, job, id, path string) (int64, error) {
	var e struct {
		Job      string `db:"job"`
		Path     string `db:"path"`
		Revision int64  `db:"revision"`
	}
	err := sqlx.GetContext(ctx, q, &e, `SELECT job, path, revision FROM journal WHERE id = ?`, id)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return 0, nil
	case err != nil:
		return 0, fmt.Errorf("read journal: %w", err)
	case e.Job != job || !sameAsked(e.Path, path):
		return 0, ErrUsed
	}
	return e.Revision, nil
}

// transact carries a change out as a whole or not at all. Changes wait for one another in the order in which they come:
// there is one connection that writes.
func (s *Store) transact(ctx context.Context, do func(*sqlx.Tx) error) error {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", Told(err))
	}
	if err := do(tx); err != nil {
		return Told(errors.Join(err, tx.Rollback()))
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("commit: %w", Told(err))
	}
	return nil
}

// look reads several things as they stand at one moment. It waits for no change.
func (s *Store) look(ctx context.Context, do func(*sqlx.Tx) error) error {
	tx, err := s.reads.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", Told(err))
	}
	return Told(errors.Join(do(tx), tx.Rollback()))
}

// write puts the subjects and the journal's entry, and counts the job's revision up.
func (s *Store) write(ctx context.Context, tx *sqlx.Tx, job string, r Request, undoes *int64) (int64, error) {
	now := s.millis()
	var revision int64
	err := tx.GetContext(
		ctx,
		&revision,
		`UPDATE jobs SET revision = revision + 1, changed = ? WHERE id = ? AND deleted = 0 RETURNING revision`,
		now,
		job,
	)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, ErrNoJob
	}
	if err != nil {
		return 0, fmt.Errorf("write: %w", err)
	}
	if r.Base > 0 && revision != r.Base+1 {
		return 0, ErrMoved
	}
	if err := putPictures(ctx, tx, job, r.Pictures); err != nil {
		return 0, err
	}
	changes := make([]Change, 0, len(r.Puts))
	for _, p := range r.Puts {
		before, version, err := subject(ctx, tx, job, p.Subject)
		if err != nil {
			return 0, err
		}
		if p.Seen != Any && version > p.Seen {
			if p.Body, err = onto(ctx, tx, job, &r, p, before); err != nil {
				return 0, err
			}
		}
		if err := put(ctx, tx, job, p, revision); err != nil {
			return 0, err
		}
		changes = append(changes, changed(p.Subject, before, p.Body))
	}
	text, err := json.Marshal(changes)
	if err != nil {
		return 0, fmt.Errorf("write journal: %w", err)
	}
	result, err := tx.ExecContext(ctx, `INSERT INTO journal
		(id, job, revision, who, at, what, reason, payload, changes, undoes, path, hand)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		r.ID, job, revision, r.Who, now, r.What, r.Reason, payload, string(text), undoes, r.Path, r.Hand)
	if err != nil {
		return 0, fmt.Errorf("write journal: %w", err)
	}
	if undoes != nil {
		seq, err := result.LastInsertId()
		if err != nil {
			return 0, fmt.Errorf("write journal: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `UPDATE journal SET undone = ? WHERE seq = ?`, seq, *undoes); err != nil {
			return 0, fmt.Errorf("write journal: %w", err)
		}
	}
	return revision, nil
}

func put(ctx context.Context, tx *sqlx.Tx, job string, p Put, revision int64) error {
	set := []string{`INSERT INTO subjects (job, name, body, version) VALUES (?, ?, ?, ?)
		ON CONFLICT (job, name) DO UPDATE SET body = excluded.body, version = excluded.version`,
		`DELETE FROM removed WHERE job = ? AND name = ?`}
	args := [][]any{{job, p.Subject, string(p.Body), revision}, {job, p.Subject}}
	if p.Body == nil {
		set = []string{`DELETE FROM subjects WHERE job = ? AND name = ?`,
			`INSERT INTO removed (job, name, version) VALUES (?, ?, ?)
			ON CONFLICT (job, name) DO UPDATE SET version = excluded.version`}
		args = [][]any{{job, p.Subject}, {job, p.Subject, revision}}
	}
	for i := range set {
		if _, err := tx.ExecContext(ctx, set[i], args[i]...); err != nil {
			return fmt.Errorf("write %s: %w", p.Subject, err)
		}
	}
	return nil
}

// subject gives a subject's body and version: nil and the revision that removed it where it is not there any more, nil
// and 0 where it never was.
func subject(ctx context.Context, tx *sqlx.Tx, job, name string) (json.RawMessage, int64, error) {
	var row struct {
		Body    *string `db:"body"`
		Version int64   `db:"version"`
	}
	err := tx.GetContext(ctx, &row, `SELECT body, version FROM subjects WHERE job = ? AND name = ?
		UNION ALL SELECT NULL, version FROM removed WHERE job = ? AND name = ?`, job, name, job, name)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, 0, nil
	}
	if err != nil {
		return nil, 0, fmt.Errorf("read %s: %w", name, err)
	}
	if row.Body == nil {
		return nil, row.Version, nil
	}
	return json.RawMessage(*row.Body), row.Version, nil
}
