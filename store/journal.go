package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"
	"unicode/utf8"

	"github.com/jmoiron/sqlx"
)

// Change is one subject in a journal entry. Of a large one only the place that changed is kept: Head and Tail say how
// many bytes before and behind it stayed as they were, Cut and Put what stood there and what stands there since.
type Change struct {
	Subject string          `json:"subject"`
	Before  json.RawMessage `json:"before,omitempty"`
	After   json.RawMessage `json:"after,omitempty"`
	Head    int             `json:"head,omitempty"`
	Tail    int             `json:"tail,omitempty"`
	Cut     *string         `json:"cut,omitempty"`
	Put     *string         `json:"put,omitempty"`
	Sum     string          `json:"sum,omitempty"` // of the whole as it is since, to know it again
}

// large is the size in bytes from which on a subject is journalled by what changed in it.
const large = 2048

// changed makes a journal's change of what a subject was and is.
func changed(subject string, before, after json.RawMessage) Change {
	if min(len(before), len(after)) < large {
		return Change{Subject: subject, Before: before, After: after}
	}
	most := min(len(before), len(after))
	head := 0
	for head < most && before[head] == after[head] {
		head++
	}
	tail := 0
	for tail < most-head && before[len(before)-1-tail] == after[len(after)-1-tail] {
		tail++
	}
	for head > 0 && before[head-1] >= utf8.RuneSelf { // whole letters only
		head--
	}
	for tail > 0 && before[len(before)-tail] >= utf8.RuneSelf {
		tail--
	}
	cut, put := string(before[head:len(before)-tail]), string(after[head:len(after)-tail])
	return Change{Subject: subject, Head: head, Tail: tail, Cut: &cut, Put: &put, Sum: sum(after)}
}

func sum(body []byte) string {
	s := sha256.Sum256(body)
	return hex.EncodeToString(s[:12])
}

// undo gives what the subject was before the change, of what it is; false where it is not any more what the change made
// of it.
func (c *Change) undo(body json.RawMessage) (before json.RawMessage, ok bool) {
	if c.Put == nil {
		return c.Before, equalJSON(body, c.After)
	}
	if len(body) != c.Head+len(*c.Put)+c.Tail || sum(body) != c.Sum {
		return nil, false
	}
	before = slices.Concat(body[:c.Head], []byte(*c.Cut), body[len(body)-c.Tail:])
	return before, true
}

// payload is the version of the form of a journal entry's changes. 2 keeps of large subjects only what changed.
const payload = 2

// Entry is a line of the journal.
type Entry struct {
	Seq      int64    `db:"seq"`
	ID       string   `db:"id"`
	Job      string   `db:"job"`
	Revision int64    `db:"revision"`
	Who      string   `db:"who"`
	At       int64    `db:"at"` // Unix milliseconds
	What     string   `db:"what"`
	Reason   string   `db:"reason"`
	Payload  int      `db:"payload"`
	Text     string   `db:"changes"`
	Undoes   *int64   `db:"undoes"`
	Undone   *int64   `db:"undone"`
	Path     string   `db:"path"`
	Hand     string   `db:"hand"`
	Changes  []Change `db:"-"`
}

func (e *Entry) decode() error {
	if e.Payload > payload {
		return ErrNewer
	}
	if err := json.Unmarshal([]byte(e.Text), &e.Changes); err != nil {
		return fmt.Errorf("read journal entry %d: %w", e.Seq, err)
	}
	return nil
}

// Journal lists a job's changes, newest first, at most limit of them, and only those before a sequence number where
// that is not 0.
func (s *Store) Journal(ctx context.Context, job string, before int64, limit int) ([]Entry, error) {
	entries := []Entry{}
	if before <= 0 {
		before = math.MaxInt64
	}
	if err := s.reads.SelectContext(ctx, &entries,
		`SELECT * FROM journal WHERE job = ? AND seq < ? ORDER BY seq DESC LIMIT ?`,
		job, before, limit); err != nil {
		return nil, fmt.Errorf("read journal: %w", err)
	}
	for i := range entries {
		if err := entries[i].decode(); err != nil {
			return nil, err
		}
	}
	return slices.Clip(entries), nil
}

// Prune takes the detail out of journal entries that are older than a moment: who changed what, when and why is kept;
// what it was before is not, and such a change cannot be taken back any more. It gives how many entries it was. What
// the job is stays as it is.
func (s *Store) Prune(ctx context.Context, before time.Time) (pruned int64, err error) {
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		result, err := tx.ExecContext(ctx, `UPDATE journal SET changes = '[]' WHERE at < ? AND changes <> '[]'`,
			before.UTC().UnixMilli())
		if err == nil {
			pruned, err = result.RowsAffected()
		}
		return err
	})
	if err == nil && pruned > 0 {
		_, err = s.db.ExecContext(ctx, "VACUUM")
	}
	if err != nil {
		return 0, fmt.Errorf("prune the journal: %w", Told(err))
	}
	return pruned, nil
}
