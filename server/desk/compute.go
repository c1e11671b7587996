package desk

import (
	"context"
	"fmt"

	"draxel/store"
)

// Compute gives a job with its plan, from the cache where it has not changed. Requests for the same revision share
// one computation.
func (s *Desk) Compute(ctx context.Context, id string) (*Computed, error) {
	revision, err := s.Store.Revision(ctx, id)
	if err != nil {
		return nil, err
	}
	if j := s.cache.get(id, revision); j != nil {
		return j, nil
	}
	v, err, _ := s.loading.Do(fmt.Sprintf("%s@%d", id, revision), func() (any, error) {
		last := s.cache.latest(id)
		var known *store.State
		if last != nil {
			known = &last.State
		}
		state, err := s.Store.LoadAfter(context.WithoutCancel(ctx), id, known)
		if err != nil {
			return nil, err
		}
		j, err := follow(state, last, s.costs.watch)
		if err == nil {
			s.cache.put(j)
		}
		return j, err
	})
	if err != nil {
		return nil, err
	}
	return v.(*Computed), nil
}
