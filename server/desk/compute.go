package desk

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
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

// Of turns what is said of a job, as it is computed now, into a handler for the router.
func (s *Desk) Of(say func(c *gin.Context, j *Computed) error) gin.HandlerFunc {
	return Answer(func(c *gin.Context) error {
		j, err := s.Compute(c.Request.Context(), c.Param("job"))
		if err != nil {
			return err
		}
		return say(c, j)
	})
}

// Fed gives the network of a job and the position that is asked about, or why there is none.
func (s *Desk) Fed(c *gin.Context) (*feed.Result, *Computed, string, error) {
	at := c.Query("position")
	if !slices.ContainsFunc(feed.Positions(), func(p feed.Position) bool { return p.Name == at }) {
		return nil, nil, "", Refusal(http.StatusUnprocessableEntity, "no-such-position", "The key has no such position.",
			"/position")
	}
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return nil, nil, "", err
	}
	r := j.Plan().Feed.Result
	if r == nil {
		return nil, nil, "", Refusal(http.StatusUnprocessableEntity, "nothing-said",
			"Nobody has said yet what stands in the vehicle: sources, fuses and switches.", "")
	}
	return r, j, at, nil
}
