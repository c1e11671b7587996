package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"github.com/jmoiron/sqlx"

	"draxel/core/merge"
	"draxel/core/stored"
)

// Back asks for a change to be taken back, or for what was taken back to be done again.
type Back struct {
	ID, Who, Hand string // as of a Request
	Of            int64  // the entry of the journal that is meant; 0 for the last of one's own that can be
}

// TakenBack is what came of it.
type TakenBack struct {
	Entry    Entry   // what was taken back, or done again
	Skipped  []Entry // later ones of one's own that somebody else has written over since: they stay
	Revision int64   // of the job
}

// AnothersError says whose change an undo would take back, who has none of his own.
type AnothersError struct{ Entry Entry }

func (e *AnothersError) Error() string {
	return fmt.Sprintf("the last change is that of %s", e.Entry.Who)
}

// LaterError is a *StaleError of what is to be taken back: it was changed again since, and by whom last.
type LaterError struct {
	StaleError
	Who string
}

// Unwrap gives it as a write that is refused.
func (e *LaterError) Unwrap() error { return &e.StaleError }

func later(name string, steps []step) error {
	return &LaterError{StaleError{name}, steps[len(steps)-1].who}
}

const (
	undoPath = "POST /undo"
	redoPath = "POST /redo"
	// mostTried bounds how many of one's own changes are looked at for one that can be taken back.
	mostTried = 50
	// undoable are the entries that can be taken back.
	undoable = `job = ? AND undoes IS NULL AND undone IS NULL AND what <> 'create' AND changes <> '[]'`
)

// Undo takes a change back, as a change of its own. Without one that is named it is the last of the one who asks that
// is neither undone nor an undoing; those that somebody else has written over since are passed by, and named. Who has
// made none is told whose would be taken back, with *AnothersError, and asks again with its seq. What others did
// meanwhile to other fields of what it changed stays. It fails with ErrNoUndo when there is none, with ErrUsed, and
// with *StaleError where all that could be taken back has been changed since.
func (s *Store) Undo(ctx context.Context, job string, b Back) (TakenBack, error) {
	return s.back(ctx, job, b, undoPath, func(tx *sqlx.Tx, out *TakenBack) (Request, error) {
		tried, err := candidates(ctx, tx, job, b)
		if err != nil {
			return Request{}, err
		}
		for i := range tried {
			r := Request{ID: b.ID, Path: undoPath, Who: b.Who, Hand: b.Hand, What: "undo"}
			r.Puts, err = reverted(ctx, tx, job, &tried[i])
			var stale *StaleError
			switch {
			case err == nil:
				out.Entry = tried[i]
				return r, nil
			case !errors.As(err, &stale), i == len(tried)-1 && i == 0:
				return r, err
			}
			out.Skipped = append(out.Skipped, tried[i])
		}
		if err == nil {
			err = ErrNoUndo
		}
		return Request{}, err
	})
}

// Redo does again what the one who asks took back last, as long as nothing else of theirs came after it. It fails with
// ErrNoUndo where there is nothing, and as Undo does.
func (s *Store) Redo(ctx context.Context, job string, b Back) (TakenBack, error) {
	return s.back(ctx, job, b, redoPath, func(tx *sqlx.Tx, out *TakenBack) (Request, error) {
		last, err := lastUndo(ctx, tx, job, b.Who)
		if err != nil {
			return Request{}, err
		}
		out.Entry = *last
		r := Request{ID: b.ID, Path: redoPath, Who: b.Who, Hand: b.Hand, What: "redo"}
		r.Puts, err = reverted(ctx, tx, job, last)
		return r, err
	})
}

// back writes what takes an entry back; a retry answers as the first time.
func (s *Store) back(ctx context.Context, job string, b Back, path string,
	find func(*sqlx.Tx, *TakenBack) (Request, error)) (out TakenBack, err error) {
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		if done, err := known(ctx, tx, job, b.ID, path); err != nil || done > 0 {
			out.Revision = done
			return err
		}
		r, err := find(tx, &out)
		if err != nil {
			return err
		}
		if out.Revision, err = s.write(ctx, tx, job, r, &out.Entry.Seq); err != nil || path == undoPath {
			return err
		}
		if _, err = tx.ExecContext(ctx, `UPDATE journal SET undone = NULL WHERE seq = ?`, *out.Entry.Undoes); err != nil {
			return fmt.Errorf("write journal: %w", err)
		}
		again := out.Entry
		err = tx.GetContext(ctx, &again, `SELECT * FROM journal WHERE seq = ?`, *out.Entry.Undoes)
		if err != nil {
			return fmt.Errorf("read journal: %w", err)
		}
		out.Entry = again
		return out.Entry.decode()
	})
	return out, err
}

// candidates are the changes that an undo may take back, in the order in which they are tried.
func candidates(ctx context.Context, q sqlx.QueryerContext, job string, b Back) (out []Entry, err error) {
	switch {
	case b.Of > 0:
		err = sqlx.SelectContext(ctx, q, &out, `SELECT * FROM journal WHERE seq = ? AND `+undoable, b.Of, job)
	default:
		err = sqlx.SelectContext(ctx, q, &out, `SELECT * FROM journal WHERE who = ? AND `+undoable+
			` ORDER BY seq DESC LIMIT ?`, b.Who, job, mostTried)
	}
	for i := range out {
		if err == nil {
			err = out[i].decode()
		}
	}
	if err != nil {
		return nil, fmt.Errorf("read journal: %w", err)
	}
	if len(out) > 0 || b.Of > 0 {
		return out, nil
	}
	last, err := lastOf(ctx, q, job, b.Who)
	if err != nil || last == nil {
		return nil, err
	}
	return nil, &AnothersError{*last}
}

// reverted gives what takes a change back: what its subjects were before, brought together with what became of their
// other fields since.
func reverted(ctx context.Context, tx *sqlx.Tx, job string, e *Entry) ([]Put, error) {
	var puts []Put
	for i := range e.Changes {
		c := &e.Changes[i]
		body, _, err := subject(ctx, tx, job, c.Subject)
		if err != nil {
			return nil, err
		}
		before, is := c.undo(body)
		if !is {
			if before, err = without(ctx, tx, job, e, c.Subject, body); err != nil {
				return nil, err
			}
		}
		puts = append(puts, Put{Subject: c.Subject, Body: before, Seen: Any})
	}
	return puts, nil
}

// without gives a subject as it is now without what a change made of it. It fails with *StaleError where that cannot be
// told apart from what came after it.
func without(ctx context.Context, tx *sqlx.Tx, job string, e *Entry, name string, now json.RawMessage,
) (json.RawMessage, error) {
	steps, err := since(ctx, tx, job, Put{Subject: name, Seen: e.Revision - 1}, now)
	if err != nil {
		return nil, err
	}
	if !stored.Apart(name) || slices.ContainsFunc(steps, func(s step) bool { return replaces(s.what) }) {
		return nil, later(name, steps) // its fields are not those of what stands there now
	}
	body, err := merge.Fields(steps[0].after, steps[0].before, now, merge.Tell)
	var clash *merge.Clash
	if errors.As(err, &clash) || err == nil && body == nil && now != nil {
		return nil, later(name, steps)
	}
	if err != nil {
		return nil, err
	}
	return stored.Settled(name, body)
}

// lastOf gives the last change that can be undone: that of a person, else whosever it is; nil where there is none.
func lastOf(ctx context.Context, q sqlx.QueryerContext, job, who string) (*Entry, error) {
	var e Entry
	err := sqlx.GetContext(ctx, q, &e, `SELECT * FROM journal WHERE `+undoable+` ORDER BY who = ? DESC, seq DESC LIMIT 1`,
		job, who)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("read journal: %w", err)
	}
	return &e, e.decode()
}

// lastUndo gives the last undoing of a person that nothing of theirs came after. It fails with ErrNoUndo.
func lastUndo(ctx context.Context, q sqlx.QueryerContext, job, who string) (*Entry, error) {
	var e Entry
	err := sqlx.GetContext(ctx, q, &e, `SELECT * FROM journal WHERE job = ? AND who = ? AND what = 'undo' AND undone IS NULL
		AND seq > (SELECT coalesce(max(seq), 0) FROM journal WHERE job = ? AND who = ? AND undoes IS NULL)
		ORDER BY seq DESC LIMIT 1`, job, who, job, who)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNoUndo
	}
	if err != nil {
		return nil, fmt.Errorf("read journal: %w", err)
	}
	return &e, e.decode()
}

// LastUndoable gives the change that Undo would revert, nil when there is none.
func (s *Store) LastUndoable(ctx context.Context, job, who string) (*Entry, error) {
	return lastOf(ctx, s.reads, job, who)
}

// Undoable says whether an entry can be taken back, as far as it knows itself.
func (e *Entry) Undoable() bool {
	return e.Undoes == nil && e.Undone == nil && e.What != "create" && len(e.Changes) > 0
}

// Redoable says whether Redo would do something.
func (s *Store) Redoable(ctx context.Context, job, who string) (bool, error) {
	_, err := lastUndo(ctx, s.reads, job, who)
	if errors.Is(err, ErrNoUndo) {
		return false, nil
	}
	return err == nil, err
}
