package server

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/store"
)

// showStand gives a job in one line. The list of jobs asks for each when it is on screen; what was worked out is kept by
// revision and day, so that a list of many does not plan them all again.
func (s *Server) showStand(c *gin.Context) error {
	ctx, id := c.Request.Context(), c.Param("job")
	revision, err := s.store.Revision(ctx, id)
	if err != nil {
		return err
	}
	today := s.now().UTC().Format("2006-01-02")
	if v, known := s.stands.Load(id); known {
		if kept, is := v.(stood); is && kept.view.Revision == revision && kept.day == today {
			c.JSON(http.StatusOK, kept.view)
			return nil
		}
	}
	j, err := s.compute(ctx, id)
	if err != nil {
		return err
	}
	p, m := j.plan(), s.money(j)
	var head JobView
	head.stand(p, len(j.Job.Gates))
	_, due := j.open()
	v := StandView{Revision: j.Revision, Minutes: m.hours.Left, Danger: head.Severity[finding.Danger],
		Wrong: head.Severity[finding.Wrong], Open: due, Late: len(m.timing.Late), Done: len(p.Past.Done)}
	if m.timing.Known {
		v.Ready = day(s.now().UTC(), m.timing.Day)
	}
	next := s.first(j, &head.Open, due)
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done {
			v.Steps++
		}
	}
	if next != nil {
		v.Next, v.At = next.Text, next.At
		if len(next.Waits) > 0 {
			v.Waits = next.Waits[0]
		}
	}
	if n := len(j.Job.Delivered); n > 0 {
		v.Delivered = j.Job.Delivered[n-1].Name
	}
	entries, err := s.store.Journal(ctx, id, 0, 1)
	if err != nil {
		return err
	}
	if len(entries) > 0 {
		v.Last = entries[0].Who
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

// first gives what is to be done next in a job.
func (s *Server) first(j *computed, open *OpenCounts, due int) *FrontNext {
	p := j.plan()
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done {
			return next(p, &p.Work.Steps[i])
		}
	}
	return behind(p, open, due, len(j.Job.Delivered) > 0)
}

// archive puts a job away, or back among those that are worked at.
func (s *Server) archive(c *gin.Context) error {
	r, err := read[ArchiveRequest](c)
	if err != nil {
		return err
	}
	ch := change{id: r.ID, what: "archive", seen: r.Seen, bodies: map[string]any{store.SubjectArchived: true}}
	if !r.Archived {
		ch.what, ch.bodies[store.SubjectArchived] = "unarchive", nil
	}
	return s.apply(c, ch)
}

// copyJob makes a job of another as the start of the next: what was found and what was decided, each decision to be
// verified; nothing of what was done, measured, spent or handed over.
func (s *Server) copyJob(c *gin.Context) error {
	r, err := read[CopyRequest](c)
	if err != nil {
		return err
	}
	title := strings.TrimSpace(r.Title)
	switch {
	case r.ID == "" || len(r.ID) > 100:
		return problem(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	case title == "" || len(title) > 200:
		return problem(http.StatusUnprocessableEntity, "no-title", "Give the job a title.", "/title")
	}
	past, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	fresh, err := past.Job.Start(title)
	if err != nil {
		return err
	}
	return s.create(c, r.ID, fresh)
}
