package desk

import "sync"

// hub tells whoever watches that jobs have new revisions.
type hub struct {
	mu       sync.Mutex
	watchers map[*watcher]bool
}

// watcher is one who is told. What it has not been told yet is kept as the latest revision of each job, so that who is
// slow misses none and holds nobody up.
type watcher struct {
	job    string // the one that it watches; empty for all
	untold map[string]int64
	woken  chan struct{}
}

func (h *hub) watch(job string) (w *watcher, stop func()) {
	w = &watcher{job: job, untold: map[string]int64{}, woken: make(chan struct{}, 1)}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.watchers == nil {
		h.watchers = map[*watcher]bool{}
	}
	h.watchers[w] = true
	return w, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.watchers, w)
	}
}

// news gives what a watcher has not been told yet, by job.
func (h *hub) news(w *watcher) map[string]int64 {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := w.untold
	w.untold = map[string]int64{}
	return out
}

// Tell says that a job has a new revision. It waits for nobody.
func (h *hub) Tell(job string, revision int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for w := range h.watchers {
		if w.job != "" && w.job != job {
			continue
		}
		w.untold[job] = revision
		select {
		case w.woken <- struct{}{}:
		default:
		}
	}
}
