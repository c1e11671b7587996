package desk

import (
	"io"
	"sync"

	"github.com/gin-gonic/gin"
)

// hub tells whoever watches a job that it has a new revision.
type hub struct {
	mu       sync.Mutex
	watchers map[string]map[chan int64]bool
}

func (h *hub) watch(job string) (changes <-chan int64, stop func()) {
	ch := make(chan int64, 8)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.watchers == nil {
		h.watchers = map[string]map[chan int64]bool{}
	}
	if h.watchers[job] == nil {
		h.watchers[job] = map[chan int64]bool{}
	}
	h.watchers[job][ch] = true
	return ch, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if delete(h.watchers[job], ch); len(h.watchers[job]) == 0 {
			delete(h.watchers, job)
		}
	}
}

// tell never waits: a watcher that is too slow misses a revision and sees the next.
func (h *hub) Tell(job string, revision int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch := range h.watchers[job] {
		select {
		case ch <- revision:
		default:
		}
	}
}

// streamEvents sends the job's revision now and at every change, as server-sent events.
func (s *Desk) streamEvents(c *gin.Context) error {
	id := c.Param("job")
	changes, stop := s.Events.watch(id)
	defer stop()
	revision, err := s.Store.Revision(c.Request.Context(), id)
	if err != nil {
		return err
	}
	c.SSEvent("revision", revision)
	c.Writer.Flush()
	c.Stream(func(io.Writer) bool {
		select {
		case <-c.Request.Context().Done():
			return false
		case <-s.stopping:
			return false
		case r := <-changes:
			c.SSEvent("revision", r)
			return true
		}
	})
	return nil
}
