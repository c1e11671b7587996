package desk

import (
	"io"

	"github.com/gin-gonic/gin"
)

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
