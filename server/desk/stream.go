package desk

import (
	"io"
	"maps"
	"slices"

	"github.com/gin-gonic/gin"
)

// JobRevision is what the stream of all jobs says of one.
type JobRevision struct {
	Job      string `json:"job"`
	Revision int64  `json:"revision"`
}

// streamEvents sends the job's revision now and at every change, as server-sent events.
func (s *Desk) streamEvents(c *gin.Context) error {
	id := c.Param("job")
	w, stop := s.Events.watch(id)
	defer stop()
	revision, err := s.Store.Revision(c.Request.Context(), id)
	if err != nil {
		return err
	}
	s.stream(c, w, map[string]int64{id: revision}, func(_ string, revision int64) {
		c.SSEvent("revision", revision)
	})
	return nil
}

// streamAll sends the revisions of all jobs now and at every change: all windows of a browser share one such stream.
func (s *Desk) streamAll(c *gin.Context) error {
	w, stop := s.Events.watch("")
	defer stop()
	now, err := s.Store.Revisions(c.Request.Context())
	if err != nil {
		return err
	}
	s.stream(c, w, now, func(job string, revision int64) {
		c.SSEvent("revision", JobRevision{job, revision})
	})
	return nil
}

func (s *Desk) stream(c *gin.Context, w *watcher, now map[string]int64, say func(job string, revision int64)) {
	tell := func(news map[string]int64) {
		for _, job := range slices.Sorted(maps.Keys(news)) {
			say(job, news[job])
		}
	}
	tell(now)
	c.Writer.Flush()
	c.Stream(func(io.Writer) bool {
		select {
		case <-c.Request.Context().Done():
			return false
		case <-s.stopping:
			return false
		case <-w.woken:
			tell(s.Events.news(w))
			return true
		}
	})
}
