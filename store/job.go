package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"draxel/core/stored"
)

// State is a job with its revision and the version of each subject.
type State struct {
	ID       string
	Revision int64
	Changed  int64 // Unix milliseconds
	Job      stored.Job
	Versions map[string]int64
}

// Listed is a job in the list of jobs.
type Listed struct {
	ID       string      `db:"id"`
	Revision int64       `db:"revision"`
	Changed  int64       `db:"changed"`
	Deleted  int64       `db:"deleted"`  // Unix milliseconds, 0 where it is not
	Archived bool        `db:"archived"` // it is put away
	Body     string      `db:"body"`
	Head     stored.Head `db:"-"`
}

// Jobs lists the jobs, last changed first.
func (s *Store) Jobs(ctx context.Context) ([]Listed, error) {
	return s.listed(ctx, `j.deleted = 0 ORDER BY j.changed DESC, j.id`)
}

// Deleted lists the jobs that can be brought back, last deleted first.
func (s *Store) Deleted(ctx context.Context) ([]Listed, error) {
	return s.listed(ctx, `j.deleted > 0 ORDER BY j.deleted DESC, j.id`)
}

func (s *Store) listed(ctx context.Context, where string) ([]Listed, error) {
	jobs := []Listed{}
	err := s.reads.SelectContext(ctx, &jobs, `SELECT j.id, j.revision, j.changed, j.deleted, t.body,
		a.name IS NOT NULL AS archived FROM jobs j JOIN subjects t ON t.job = j.id AND t.name = 'job'
		LEFT JOIN subjects a ON a.job = j.id AND a.name = 'archived' WHERE `+where)
	if err != nil {
		return nil, fmt.Errorf("list jobs: %w", err)
	}
	for i := range jobs {
		if err := json.Unmarshal([]byte(jobs[i].Body), &jobs[i].Head); err != nil {
			return nil, fmt.Errorf("list jobs: %w", err)
		}
	}
	return jobs, nil
}

// NewJob is a job that is to be made.
type NewJob struct {
	ID      string
	Request string // the id of the change that makes it
	Path    string // what it was asked of
	Job     stored.Job
	// Bring gives the pictures of its photographs, one after the other, to whoever keeps them, and may fill in the job
	// that comes with them. Nil: it has none.
	Bring func(n *NewJob, keep func(Picture) error) error
}

// making marks a job that is not whole yet: its pictures are being brought. Nobody sees it, and where Draxel was
// stopped meanwhile it is removed when it starts again.
const making = -1

// bring writes the pictures of a job that is being made, each by itself, so that no other change waits for all.
func (s *Store) bring(ctx context.Context, n *NewJob) error {
	now := s.millis()
	err := s.transact(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(
			ctx,
			`INSERT INTO jobs (id, revision, created, changed, deleted) VALUES (?, 0, ?, ?, ?)`,
			n.ID,
			now,
			now,
			making,
		)
		return err
	})
	if err != nil {
		return fmt.Errorf("create: %w", err)
	}
	return n.Bring(n, func(p Picture) error {
		return s.transact(ctx, func(tx *sqlx.Tx) error { return putPictures(ctx, tx, n.ID, []Picture{p}) })
	})
}

// drop removes a job that was not made after all.
func (s *Store) drop(ctx context.Context, id string) error {
	return s.transact(ctx, func(tx *sqlx.Tx) error { return s.remove(ctx, tx, `deleted = ? AND id = ?`, making, id) })
}

// Create makes a job of everything in it. A request id that is known already gives that job again. It fails with
// ErrUsed.
func (s *Store) Create(ctx context.Context, who string, n NewJob) (string, error) {
	made, err := s.CreateAll(ctx, who, n)
	if err != nil {
		return "", err
	}
	return made[0], nil
}

// CreateAll makes several jobs, all of them or none.
func (s *Store) CreateAll(ctx context.Context, who string, all ...NewJob) ([]string, error) {
	made := make([]string, len(all))
	var err error
	for i := range all {
		if all[i].Bring != nil && err == nil {
			err = s.bring(ctx, &all[i])
		}
	}
	if err == nil {
		err = s.transact(ctx, func(tx *sqlx.Tx) error {
			for i := range all {
				var err error
				if made[i], err = s.create(ctx, tx, who, &all[i]); err != nil {
					return err
				}
			}
			return nil
		})
	}
	for i := range all { // not made, or made before by the same request
		if all[i].Bring != nil && (err != nil || made[i] != all[i].ID) {
			err = errors.Join(err, s.drop(context.WithoutCancel(ctx), all[i].ID))
		}
	}
	return made, err
}

func (s *Store) create(ctx context.Context, tx *sqlx.Tx, who string, n *NewJob) (string, error) {
	puts, err := jobPuts(n.Job)
	if err != nil {
		return "", err
	}
	var was struct {
		Job  string `db:"job"`
		What string `db:"what"`
		Path string `db:"path"`
	}
	err = tx.GetContext(ctx, &was, `SELECT job, what, path FROM journal WHERE id = ?`, n.Request)
	switch {
	case err == nil && was.What == "create" && sameAsked(was.Path, n.Path):
		return was.Job, nil
	case err == nil:
		return "", ErrUsed
	case !errors.Is(err, sql.ErrNoRows):
		return "", fmt.Errorf("create: %w", err)
	}
	now := s.millis()
	if n.Bring != nil { // it is there with its pictures, and nobody sees it yet
		_, err = tx.ExecContext(ctx, `UPDATE jobs SET deleted = 0 WHERE id = ? AND deleted = ?`, n.ID, making)
	} else {
		_, err = tx.ExecContext(ctx, `INSERT INTO jobs (id, revision, created, changed) VALUES (?, 0, ?, ?)`, n.ID, now, now)
	}
	if err != nil {
		return "", fmt.Errorf("create: %w", err)
	}
	_, err = s.write(ctx, tx, n.ID, Request{ID: n.Request, Path: n.Path, Who: who, What: "create", Puts: puts}, nil)
	return n.ID, err
}

// jobPuts gives the subjects of a whole job.
func jobPuts(j stored.Job) ([]Put, error) {
	all, err := j.Subjects()
	if err != nil {
		return nil, err
	}
	puts := make([]Put, len(all))
	for i, s := range all {
		puts[i] = Put{Subject: s.Name, Body: s.Body, Seen: Any}
	}
	return puts, nil
}

// Delete takes a job off the list. Its data stays in the database for 30 days, for whoever wants it back. It fails with
// ErrNoJob; a job that is deleted already stays so.
func (s *Store) Delete(ctx context.Context, id string) error {
	return s.mark(ctx, `UPDATE jobs SET deleted = CASE WHEN deleted > 0 THEN deleted ELSE ? END WHERE id = ?`,
		s.millis(), id)
}

// Restore brings a deleted job back. It fails with ErrNoJob.
func (s *Store) Restore(ctx context.Context, id string) error {
	return s.mark(ctx, `UPDATE jobs SET deleted = ? WHERE id = ?`, 0, id)
}

func (s *Store) mark(ctx context.Context, update string, deleted int64, id string) error {
	result, err := s.db.ExecContext(ctx, update, deleted, id)
	if err != nil {
		return fmt.Errorf("delete or restore job: %w", Told(err))
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNoJob, err)
	}
	return nil
}

// Bringable is how long a deleted job can be brought back.
const Bringable = 30 * 24 * time.Hour

// forget removes jobs that were deleted so long ago that nobody can bring them back, and those that were never whole.
func (s *Store) forget(ctx context.Context) error {
	before := s.now().Add(-Bringable).UTC().UnixMilli()
	return s.transact(ctx, func(tx *sqlx.Tx) error {
		return s.remove(ctx, tx, `deleted = ? OR deleted > 0 AND deleted < ?`, making, before)
	})
}

// remove takes jobs out of the database for good.
func (s *Store) remove(ctx context.Context, tx *sqlx.Tx, which string, args ...any) error {
	gone := ` IN (SELECT id FROM jobs WHERE ` + which + `)`
	for _, from := range []string{
		`UPDATE journal SET undoes = NULL, undone = NULL WHERE job`, `DELETE FROM journal WHERE job`,
		`DELETE FROM photos WHERE job`, `DELETE FROM removed WHERE job`, `DELETE FROM subjects WHERE job`,
		`DELETE FROM jobs WHERE id`,
	} {
		if _, err := tx.ExecContext(ctx, from+gone, args...); err != nil {
			return fmt.Errorf("forget jobs: %w", err)
		}
	}
	return nil
}

// Load gives a job as it is now. It fails with ErrNoJob.
func (s *Store) Load(ctx context.Context, id string) (State, error) { return s.LoadAfter(ctx, id, nil) }

// LoadAfter gives a job as it is now. Tables and lists, which are large and seldom change, are taken from an earlier
// state of the job where they have not changed since. It fails with ErrNoJob.
func (s *Store) LoadAfter(ctx context.Context, id string, last *State) (State, error) {
	state := State{ID: id, Versions: map[string]int64{}}
	var rows []struct {
		Name    string `db:"name"`
		Body    string `db:"body"`
		Version int64  `db:"version"`
	}
	err := s.look(ctx, func(tx *sqlx.Tx) error {
		err := tx.QueryRowxContext(ctx, `SELECT revision, changed FROM jobs WHERE id = ? AND deleted = 0`, id).
			Scan(&state.Revision, &state.Changed)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNoJob
		}
		if err != nil {
			return err
		}
		since := int64(-1) // what is large and was there at that revision is not read again
		if last != nil && last.ID == id {
			since = last.Revision
		}
		return tx.SelectContext(
			ctx,
			&rows,
			`SELECT name, version, CASE WHEN version <= ? AND (name LIKE 'table/%' OR name LIKE 'sheet/%') THEN '' ELSE body END AS body
			FROM subjects WHERE job = ? ORDER BY name`,
			since,
			id,
		)
	})
	if err != nil {
		return state, fmt.Errorf("load job: %w", err)
	}
	for _, r := range rows {
		state.Versions[r.Name] = r.Version
		if r.Body == "" {
			state.Job.TakeOver(r.Name, &last.Job)
			continue
		}
		switch err := state.Job.Take(r.Name, []byte(r.Body)); {
		case errors.Is(err, stored.ErrUnknown):
			return state, fmt.Errorf("load %s: %w", r.Name, ErrNewer)
		case err != nil && r.Name == stored.SubjectJob:
			return state, fmt.Errorf("load %s: %w", r.Name, err)
		case err != nil: // it counts for nothing and is named; the rest is as it was
			state.Job.Aside = append(
				state.Job.Aside,
				stored.Aside{Name: r.Name, Value: json.RawMessage(r.Body), Why: err.Error()},
			)
		}
	}
	sort(&state.Job)
	return state, nil
}

// Versions gives the version of each subject of a job, of those that were removed the revision that removed them. It
// fails with ErrNoJob.
func (s *Store) Versions(ctx context.Context, id string) (map[string]int64, error) {
	if _, err := s.Revision(ctx, id); err != nil {
		return nil, err
	}
	var rows []struct {
		Name    string `db:"name"`
		Version int64  `db:"version"`
	}
	if err := s.reads.SelectContext(ctx, &rows, `SELECT name, version FROM subjects WHERE job = ?
		UNION ALL SELECT name, version FROM removed WHERE job = ?`, id, id); err != nil {
		return nil, fmt.Errorf("read versions: %w", err)
	}
	out := make(map[string]int64, len(rows))
	for _, r := range rows {
		out[r.Name] = r.Version
	}
	return out, nil
}

// Revisions gives the revision of every job.
func (s *Store) Revisions(ctx context.Context) (map[string]int64, error) {
	var rows []struct {
		ID       string `db:"id"`
		Revision int64  `db:"revision"`
	}
	if err := s.reads.SelectContext(ctx, &rows, `SELECT id, revision FROM jobs WHERE deleted = 0`); err != nil {
		return nil, fmt.Errorf("read revisions: %w", err)
	}
	out := make(map[string]int64, len(rows))
	for _, r := range rows {
		out[r.ID] = r.Revision
	}
	return out, nil
}

// Revision gives a job's revision. It fails with ErrNoJob.
func (s *Store) Revision(ctx context.Context, id string) (int64, error) {
	var revision int64
	err := s.reads.GetContext(ctx, &revision, `SELECT revision FROM jobs WHERE id = ? AND deleted = 0`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, ErrNoJob
	}
	if err != nil {
		return 0, fmt.Errorf("read revision: %w", err)
	}
	return revision, nil
}
