package desk

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"draxel/core/stored"
	"draxel/core/work"
	"draxel/store"
)

// Stamp gives a tick its name, its maker and its time. A step that was done before under the same name gets another
// name: the same can be done twice. Time goes on even where the clock does not.
func (s *Desk) Stamp(c *gin.Context, j *Computed, t *work.Tick, nth int) {
	base := t.Step
	for n := 2; slices.ContainsFunc(j.Job.Ticks, func(x work.Tick) bool { return x.Step == t.Step }); n++ {
		t.Step = fmt.Sprintf("%s-%d", base, n)
	}
	t.Who, t.When, t.Seq = Who(c), s.Now().UTC().UnixMilli(), nth
	for _, x := range j.Job.Ticks {
		t.When = max(t.When, x.When+1)
	}
}

// Keeping gives the bodies of a change that keeps one value, as the subject that it is kept as.
func Keeping[T stored.Entry | stored.Single](x T) map[string]any {
	return map[string]any{stored.SubjectOf(x): x}
}

// Dropping gives the bodies of a change that takes one value away: what names it is enough of it.
func Dropping[T stored.Entry | stored.Single](x T) map[string]any {
	return map[string]any{stored.SubjectOf(x): nil}
}

// Done is the reply to a change: the job's new revision.
type Done struct {
	Job      string `json:"job"`
	Revision int64  `json:"revision"`
	What     string `json:"what,omitempty"`  // what an undo took back, or was done again
	About    string `json:"about,omitempty"` // and of which cavity, where it was one
	Count    int    `json:"count,omitempty"` // how many rows were decided, or taken back
	// What an undo passed by, since somebody else has written over it.
	Skipped []string `json:"skipped,omitempty"`
}

// Checked does something to a job that was checked against its state, anew when the job has moved on in between: two
// people may want the same cavity at the same moment.
func (s *Desk) Checked(c *gin.Context, do func(*Computed) error) error {
	if _, err := s.Store.Revision(c.Request.Context(), c.Param("job")); err != nil {
		return err // nothing is kept for a job that there is not
	}
	defer s.turn(c.Param("job"))()
	for range mostTries {
		j, err := s.Compute(c.Request.Context(), c.Param("job"))
		if err != nil {
			return err
		}
		if err = do(j); !errors.Is(err, store.ErrMoved) {
			return err
		}
	}
	return Refusal(http.StatusTooManyRequests, "moved",
		"Others change this job faster than this could be checked. Nothing was "+
			"changed: repeat it.", "")
}

// mostTries bounds how often a change is checked anew because the job has moved on meanwhile.
const mostTries = 20

// turn waits for a job to be free of other changes that have to be checked against it, and gives what lets the next
// have its turn. They come in their order, so that each is checked once and none starves.
func (s *Desk) turn(job string) (done func()) {
	v, _ := s.turns.LoadOrStore(job, &sync.Mutex{})
	mu, is := v.(*sync.Mutex)
	if !is {
		return func() {}
	}
	mu.Lock()
	return mu.Unlock
}

// Who gives the name of who is working, as the page sends it; it is a name for the journal and nothing more.
func Who(c *gin.Context) string {
	name, err := url.QueryUnescape(c.GetHeader("Draxel-Who"))
	if err != nil || strings.TrimSpace(name) == "" {
		return "somebody"
	}
	if r := []rune(name); len(r) > 60 {
		name = string(r[:60])
	}
	return strings.TrimSpace(name)
}

// Hand gives the page that a change was made in, as it names itself: what a hand did a moment ago it need not have
// seen.
func Hand(c *gin.Context) string {
	hand := c.GetHeader("Draxel-Hand")
	return hand[:min(len(hand), 64)]
}

// upon names the change of the same page that this one goes on from: it was made before that was answered.
func upon(c *gin.Context) string {
	id := c.GetHeader("Draxel-Upon")
	return id[:min(len(id), 100)]
}

// Change is what a person asks to be written.
type Change struct {
	ID, What, Reason string
	Seen             int64          // the revision that the person saw: what was changed since is not overwritten
	Base             int64          // the revision that it was checked against, 0 where nothing else matters
	Bodies           map[string]any // subjects; nil removes one
	From             map[string]any // what bodies were made from, where it is the job as it is now and not as seen
	Pictures         []store.Picture
}

// Apply writes a change and answers with the job's new revision.
func (s *Desk) Apply(c *gin.Context, ch Change) error {
	done, err := s.Write(c, ch)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, done)
	return nil
}

// Write writes a change.
func (s *Desk) Write(c *gin.Context, ch Change) (Done, error) {
	ctx, job := c.Request.Context(), c.Param("job")
	if ch.ID == "" || len(ch.ID) > 100 {
		return Done{}, Refusal(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	r := store.Request{ID: ch.ID, Path: Asked(c), Who: Who(c), Hand: Hand(c), Upon: upon(c), What: ch.What,
		Reason: ch.Reason, Base: ch.Base,
		Pictures: ch.Pictures}
	for _, subject := range slices.Sorted(maps.Keys(ch.Bodies)) {
		p := store.Put{Subject: subject, Seen: ch.Seen}
		if from, is := ch.From[subject]; is {
			text, err := json.Marshal(from)
			if err != nil {
				return Done{}, err
			}
			p.From = text
		}
		if body := ch.Bodies[subject]; body != nil {
			if err := stored.Sound(body); err != nil {
				return Done{}, Refusal(http.StatusUnprocessableEntity, "bad-value", Sentence(err.Error()), "")
			}
			text, err := json.Marshal(body)
			if err != nil {
				return Done{}, err
			}
			p.Body = text
		}
		r.Puts = append(r.Puts, p)
	}
	revision, err := s.Store.Apply(ctx, job, r)
	if err != nil {
		return Done{}, err
	}
	s.Events.Tell(job, revision)
	return Done{Job: job, Revision: revision, Count: len(r.Puts)}, nil
}

// Fresh fails where another hand has changed a subject since it was seen; a retry of a change that came through is not
// stale.
func (s *Desk) Fresh(c *gin.Context, id string, seen int64, subject string) error {
	known, err := s.Store.Known(c.Request.Context(), c.Param("job"), id, Asked(c))
	if err != nil || known > 0 {
		return err
	}
	others, err := s.Store.Others(c.Request.Context(), c.Param("job"), Hand(c), subject, seen)
	if err == nil && len(others) > 0 {
		err = &store.StaleError{Subject: subject}
	}
	return err
}

// About gives what a change of one subject was about.
func About(e store.Entry) string {
	if len(e.Changes) != 1 {
		return ""
	}
	return stored.SubjectSaid(e.Changes[0].Subject)
}
