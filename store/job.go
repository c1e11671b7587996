package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"draxel/core/plan"
)

// Head is the subject "job".
type Head struct {
	Title   string    `json:"title"`
	Kind    plan.Kind `json:"kind"`
	Donor   string    `json:"donor"`
	Chassis string    `json:"chassis"`
}

// State is a job with its revision and the version of each subject.
type State struct {
	ID       string
	Revision int64
	Changed  int64 // Unix milliseconds
	Job      plan.Job
	Versions map[string]int64
}

// Listed is a job in the list of jobs.
type Listed struct {
	ID       string `db:"id"`
	Revision int64  `db:"revision"`
	Changed  int64  `db:"changed"`
	Body     string `db:"body"`
	Head     Head   `db:"-"`
}

// Jobs lists the jobs, last changed first.
func (s *Store) Jobs(ctx context.Context) ([]Listed, error) {
	jobs := []Listed{}
	err := s.db.SelectContext(ctx, &jobs, `SELECT j.id, j.revision, j.changed, t.body FROM jobs j JOIN subjects t ON t.job = j.id AND t.name = 'job' WHERE j.deleted = 0 ORDER BY j.changed DESC, j.id`)
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

// Create makes a job of everything in it, under a new id, with the pictures of its photographs. A request id that is known
// already gives that job again.
func (s *Store) Create(ctx context.Context, id, requestID, who string, j plan.Job, pictures ...Picture) (string, error) {
	puts, err := jobPuts(j)
	if err != nil {
		return "", err
	}
	made := id
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		err := tx.GetContext(ctx, &made, `SELECT job FROM journal WHERE id = ?`, requestID)
		if err == nil {
			return nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("create: %w", err)
		}
		made = id
		now := s.millis()
		if _, err := tx.ExecContext(ctx, `INSERT INTO jobs (id, revision, created, changed) VALUES (?, 0, ?, ?)`, id, now, now); err != nil {
			return fmt.Errorf("create: %w", err)
		}
		_, err = s.write(ctx, tx, id, Request{ID: requestID, Who: who, What: "create", Puts: puts, Pictures: pictures}, nil)
		return err
	})
	return made, err
}

// Delete takes a job off the list. Its data stays in the database, for whoever has to get it back.
func (s *Store) Delete(ctx context.Context, id string) error {
	result, err := s.db.ExecContext(ctx, `UPDATE jobs SET deleted = 1 WHERE id = ? AND deleted = 0`, id)
	if err != nil {
		return fmt.Errorf("delete job: %w", err)
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNoJob, err)
	}
	return nil
}

// Load gives a job as it is now. It fails with ErrNoJob.
func (s *Store) Load(ctx context.Context, id string) (State, error) { return s.LoadAfter(ctx, id, nil) }

// LoadAfter gives a job as it is now. Tables and lists, which are large and seldom change, are taken from an earlier state
// of the job where they have not changed since. It fails with ErrNoJob.
func (s *Store) LoadAfter(ctx context.Context, id string, last *State) (State, error) {
	state := State{ID: id, Versions: map[string]int64{}}
	var rows []struct {
		Name    string `db:"name"`
		Body    string `db:"body"`
		Version int64  `db:"version"`
	}
	err := s.transact(ctx, func(tx *sqlx.Tx) error {
		err := tx.QueryRowxContext(ctx, `SELECT revision, changed FROM jobs WHERE id = ? AND deleted = 0`, id).Scan(&state.Revision, &state.Changed)
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
		return tx.SelectContext(ctx, &rows, `SELECT name, version, CASE WHEN version <= ? AND (name LIKE 'table/%' OR name LIKE 'sheet/%') THEN '' ELSE body END AS body
			FROM subjects WHERE job = ? ORDER BY name`, since, id)
	})
	if err != nil {
		return state, fmt.Errorf("load job: %w", err)
	}
	for _, r := range rows {
		state.Versions[r.Name] = r.Version
		if r.Body == "" {
			state.keep(r.Name, last)
			continue
		}
		if err := state.take(r.Name, []byte(r.Body)); err != nil {
			return state, fmt.Errorf("load %s: %w", r.Name, err)
		}
	}
	sort(&state.Job)
	return state, nil
}

// Versions gives the version of each subject of a job. It fails with ErrNoJob.
func (s *Store) Versions(ctx context.Context, id string) (map[string]int64, error) {
	if _, err := s.Revision(ctx, id); err != nil {
		return nil, err
	}
	var rows []struct {
		Name    string `db:"name"`
		Version int64  `db:"version"`
	}
	if err := s.db.SelectContext(ctx, &rows, `SELECT name, version FROM subjects WHERE job = ?`, id); err != nil {
		return nil, fmt.Errorf("read versions: %w", err)
	}
	out := make(map[string]int64, len(rows))
	for _, r := range rows {
		out[r.Name] = r.Version
	}
	return out, nil
}

// Revision gives a job's revision. It fails with ErrNoJob.
func (s *Store) Revision(ctx context.Context, id string) (int64, error) {
	var revision int64
	err := s.db.GetContext(ctx, &revision, `SELECT revision FROM jobs WHERE id = ? AND deleted = 0`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, ErrNoJob
	}
	if err != nil {
		return 0, fmt.Errorf("read revision: %w", err)
	}
	return revision, nil
}
