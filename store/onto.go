package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"github.com/jmoiron/sqlx"

	"draxel/core/merge"
	"draxel/core/stored"
)

// replaces says whether a change puts something else in the place of a subject, so that its fields are not those of
// before: a table that is brought anew has other lines.
func replaces(what string) bool { return what == "import" || what == "drop-table" }

// onto brings what a put does to its subject onto what that has become since it was seen. What the same hand did
// meanwhile it need not have seen. What others did stays where fields are each for themselves; it is a *StaleError
// where not, and where both changed the same.
func onto(ctx context.Context, q sqlx.QueryerContext, job string, r *Request, p Put, now json.RawMessage,
) (json.RawMessage, error) {
	steps, err := since(ctx, q, job, p, now)
	if err != nil {
		return nil, err
	}
	from, err := p.madeFrom(ctx, q, job, r, steps)
	if err != nil {
		return nil, err
	}
	// Who sends again what they had seen means all of it: they have changed it meanwhile, and back.
	apart := stored.Apart(p.Subject) && !replaces(r.What) && p.Body != nil && !equalJSON(from, p.Body)
	for _, s := range steps {
		if r.Hand != "" && s.hand == r.Hand {
			continue
		}
		if !apart || replaces(s.what) {
			return nil, &StaleError{p.Subject}
		}
		mine, err := merge.Fields(from, p.Body, s.before, merge.Mine)
		if err == nil {
			_, err = merge.Fields(s.before, mine, s.after, merge.Tell)
		}
		var clash *merge.Clash
		if errors.As(err, &clash) {
			return nil, &StaleError{p.Subject}
		}
		if err != nil {
			return nil, err
		}
	}
	if !apart {
		return p.Body, nil
	}
	body, err := merge.Fields(from, p.Body, now, merge.Mine)
	if err != nil {
		return nil, err
	}
	if body, err = stored.Settled(p.Subject, body); err != nil { // each may be by itself; together they cannot
		return nil, &StaleError{p.Subject}
	}
	return body, nil
}

// madeFrom gives what the body of a put was made from: what the put says itself, else what the change made of it that
// the request goes on from, else what was seen.
func (p *Put) madeFrom(ctx context.Context, q sqlx.QueryerContext, job string, r *Request, steps []step,
) (json.RawMessage, error) {
	if p.From != nil {
		return p.From, nil
	}
	from := steps[0].before
	if r.Upon == "" {
		return from, nil
	}
	upon, err := known(ctx, q, job, r.Upon, "")
	if err != nil {
		return nil, err
	}
	for _, s := range steps {
		if s.revision <= upon {
			from = s.after
		}
	}
	return from, nil
}

// step is what a change made of one subject.
type step struct {
	hand, what    string
	who           string
	revision      int64
	before, after json.RawMessage
}

// since gives what was made of a subject since a revision, in turn. Where the journal does not know it any more, nobody
// can say what was changed: that is a *StaleError.
func since(ctx context.Context, q sqlx.QueryerContext, job string, p Put, now json.RawMessage) ([]step, error) {
	var entries []Entry
	if err := sqlx.SelectContext(ctx, q, &entries,
		`SELECT * FROM journal WHERE job = ? AND revision > ? AND instr(changes, ?) > 0 ORDER BY seq DESC`,
		job, p.Seen, named(p.Subject)); err != nil {
		return nil, fmt.Errorf("read journal: %w", err)
	}
	var out []step
	for i := range entries {
		e := &entries[i]
		if err := e.decode(); err != nil {
			return nil, err
		}
		for k := range e.Changes {
			c := &e.Changes[k]
			if c.Subject != p.Subject {
				continue
			}
			before, is := c.undo(now)
			if !is {
				return nil, &StaleError{p.Subject}
			}
			out = append(out, step{hand: e.Hand, what: e.What, who: e.Who, revision: e.Revision, before: before, after: now})
			now = before
		}
	}
	if len(out) == 0 {
		return nil, &StaleError{p.Subject}
	}
	slices.Reverse(out)
	return out, nil
}

// named gives a subject as an entry of the journal that changes it has it among its changes.
func named(subject string) string {
	text, err := json.Marshal(subject)
	if err != nil {
		return ""
	}
	return string(text)
}

// Step is what another hand made of one subject.
type Step struct{ Before, After json.RawMessage }

// Others gives what other hands have made of a subject since a revision, in turn. It fails with *StaleError where the
// journal does not know that any more.
func (s *Store) Others(ctx context.Context, job, hand, name string, seen int64) (out []Step, err error) {
	err = s.look(ctx, func(tx *sqlx.Tx) error {
		now, version, err := subject(ctx, tx, job, name)
		if err != nil || version <= seen {
			return err
		}
		steps, err := since(ctx, tx, job, Put{Subject: name, Seen: seen}, now)
		for _, x := range steps {
			if hand == "" || x.hand != hand {
				out = append(out, Step{x.before, x.after})
			}
		}
		return err
	})
	return out, err
}
