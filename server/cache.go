package server

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"sync"

	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/store"
)

// computed is a job at one revision with all that follows from it.
type computed struct {
	store.State
	facts    plan.Facts
	readings map[match.Side]gather.Reading
	plan     plan.Plan
	hash     string // of the job: what a print is made from
}

// cache keeps the latest revision of the jobs used last.
type cache struct {
	mu   sync.Mutex
	jobs map[string]*computed
}

const cachedJobs = 8

func (c *cache) get(id string, revision int64) *computed {
	c.mu.Lock()
	defer c.mu.Unlock()
	if j := c.jobs[id]; j != nil && j.Revision == revision {
		return j
	}
	return nil
}

func (c *cache) put(j *computed) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.jobs == nil || len(c.jobs) >= cachedJobs {
		c.jobs = map[string]*computed{}
	}
	c.jobs[j.ID] = j
}

// compute gives a job with its plan, from the cache where it has not changed. Requests for the same revision share one
// computation.
func (s *Server) compute(ctx context.Context, id string) (*computed, error) {
	revision, err := s.store.Revision(ctx, id)
	if err != nil {
		return nil, err
	}
	if j := s.cache.get(id, revision); j != nil {
		return j, nil
	}
	v, err, _ := s.loading.Do(fmt.Sprintf("%s@%d", id, revision), func() (any, error) {
		state, err := s.store.Load(context.WithoutCancel(ctx), id)
		if err != nil {
			return nil, err
		}
		j, err := follow(state)
		if err == nil {
			s.cache.put(j)
		}
		return j, err
	})
	if err != nil {
		return nil, err
	}
	return v.(*computed), nil
}

func follow(state store.State) (*computed, error) {
	j := &computed{State: state, readings: map[match.Side]gather.Reading{}}
	var err error
	if j.facts, err = state.Job.Facts(); err != nil {
		return nil, err
	}
	for side, table := range map[match.Side]*plan.Table{match.From: state.Job.From, match.To: state.Job.To} {
		if table != nil {
			if _, j.readings[side], err = table.Read(); err != nil {
				return nil, err
			}
		}
	}
	j.plan = plan.Compute(j.facts, plan.Decisions{Match: state.Job.Decisions})
	text, err := json.Marshal(state.Job)
	if err != nil {
		return nil, fmt.Errorf("hash job: %w", err)
	}
	sum := sha256.Sum256(text)
	j.hash = hex.EncodeToString(sum[:6])
	return j, nil
}
