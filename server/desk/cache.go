package desk

import (
	"slices"
	"sync"

	"draxel/core/fact"
	"draxel/core/part"
	"draxel/core/plan"
	"draxel/core/thin"
	"draxel/store"
)

// Computed is a job at one revision with all that follows from it.
type Computed struct {
	store.State
	Memory *part.Memory // what is the same as at the revision before is not computed again
	Found  fact.Found   // without what was decided
	Facts  fact.Facts   // with a fuse block of one's own
	draft  *plan.Draft

	made sync.Map // what was made of it at this revision, by what it is
}

// Kept gives what is made of a job at its revision, made when it is first asked for.
func Kept[T any](j *Computed, what any, make func() T) T {
	once, _ := j.made.LoadOrStore(what, sync.OnceValue(make))
	return once.(func() T)()
}

// Plan gives all of the plan, computed when it is first asked for.
func (j *Computed) Plan() *plan.Plan { return j.draft.Whole() }

// Begun gives what is known of the plan at once: Match, and what becomes of every wire.
func (j *Computed) Begun() *plan.Plan { return j.draft.Begun() }

// Hash names what a print is made from: the job's facts and decisions.
func (j *Computed) Hash() (string, error) {
	type hashed struct {
		hash string
		err  error
	}
	h := Kept(j, "hash", func() hashed {
		hash, err := j.Job.Hash()
		return hashed{hash, err}
	})
	return h.hash, h.err
}

// Drawing gives the harness as it is laid on the bench, drawn when it is first asked for.
func (j *Computed) Drawing() thin.Drawing {
	return Kept(j, "drawing", func() thin.Drawing { return j.Begun().Thin.Result.Draw() })
}

// cache keeps the latest revision of the jobs used last.
type cache struct {
	mu   sync.Mutex
	jobs map[string]*Computed
	used []string // the one used last at the end
}

// cachedJobs is how many jobs are kept with all that follows from them.
const cachedJobs = 12

func (c *cache) get(id string, revision int64) *Computed {
	c.mu.Lock()
	defer c.mu.Unlock()
	if j := c.jobs[id]; j != nil && j.Revision == revision {
		c.touch(id)
		return j
	}
	return nil
}

func (c *cache) put(j *Computed) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.jobs == nil {
		c.jobs = map[string]*Computed{}
	}
	c.jobs[j.ID] = j
	c.touch(j.ID)
	if len(c.used) > cachedJobs {
		delete(c.jobs, c.used[0])
		c.used = c.used[1:]
	}
}

// touch makes a job the one used last.
func (c *cache) touch(id string) {
	c.used = append(slices.DeleteFunc(c.used, func(x string) bool { return x == id }), id)
}

// latest gives the job as it was computed last, whatever its revision.
func (c *cache) latest(id string) *Computed {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.jobs[id]
}

// follow computes a job; watch is told of the parts that its plan is made of. What has not changed since it was
// computed last is taken from there.
func follow(state store.State, last *Computed, watch func(string, bool) func()) (*Computed, error) {
	j := &Computed{State: state, Memory: &part.Memory{Watch: watch}}
	if last != nil {
		j.Memory = last.Memory
	}
	var err error
	if j.Found, err = fact.Read(state.Job, j.Memory); err != nil {
		return nil, err
	}
	j.Facts = j.Found.With(state.Job.Block)
	chosen := state.Job.Chosen()
	j.draft = plan.Begin(j.Found, chosen, j.Memory)
	return j, nil
}
