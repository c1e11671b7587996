package jobsapi

import (
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/stored"
	"draxel/server/desk"
)

// showStand gives a job in one line. The list of jobs asks for each when it is on screen; what was worked out is kept
// by revision and day, so that a list of many does not plan them all again.
func (s *API) showStand(c *gin.Context) error {
	ctx, id := c.Request.Context(), c.Param("job")
	revision, err := s.Store.Revision(ctx, id)
	if err != nil {
		return err
	}
	today := s.Now().UTC().Format(time.DateOnly)
	if v, known := s.stands.Load(id); known {
		if kept, is := v.(stood); is && kept.view.Revision == revision && kept.day == today {
			c.JSON(http.StatusOK, kept.view)
			return nil
		}
	}
	j, err := s.Compute(ctx, id)
	if err != nil {
		return err
	}
	f, err := s.front(ctx, j)
	if err != nil {
		return err
	}
	v := StandView{Revision: f.Revision, Steps: f.Steps, Done: f.Done, Hours: f.Hours, Danger: f.Dangers,
		Wrong: f.Wrong,
		Open:  f.Open, Late: len(f.Late), Ready: f.Ready, Delivered: f.Delivered}
	if f.Next != nil {
		v.Next, v.At = f.Next.Text, f.Next.At
		if len(f.Next.Waits) > 0 {
			v.Waits = f.Next.Waits[0]
		}
	}
	if len(f.Last) > 0 {
		v.Last = f.Last[0].Who
	}
	s.stands.Store(id, stood{today, v})
	c.JSON(http.StatusOK, v)
	return nil
}

// stood is a job's line as it was worked out on a day.
type stood struct {
	day  string
	view StandView
}

// archive puts a job away, or back among those that are worked at.
func (s *API) archive(c *gin.Context) error {
	r, err := desk.Read[ArchiveRequest](c)
	if err != nil {
		return err
	}
	ch := desk.Change{ID: r.ID, What: "archive", Seen: r.Seen, Bodies: map[string]any{stored.SubjectArchived: true}}
	if !r.Archived {
		ch.What, ch.Bodies[stored.SubjectArchived] = "unarchive", nil
	}
	return s.Apply(c, ch)
}

// copyJob makes a job of another as the start of the next: what was found and what was decided, each decision to be
// verified; nothing of what was done, measured, spent or handed over.
func (s *API) copyJob(c *gin.Context) error {
	r, err := desk.Read[CopyRequest](c)
	if err != nil {
		return err
	}
	title := strings.TrimSpace(r.Title)
	switch {
	case r.ID == "" || len(r.ID) > 100:
		return desk.Refusal(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	case title == "" || len(title) > 200:
		return desk.Refusal(http.StatusUnprocessableEntity, "no-title", "Give the job a title.", "/title")
	}
	past, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	fresh, err := fact.Start(past.Job, title)
	if err != nil {
		return err
	}
	return s.create(c, r.ID, fresh)
}
