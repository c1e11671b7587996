package desk

import "sync"

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

// Tell never waits: a watcher that is too slow misses a revision and sees the next.
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
