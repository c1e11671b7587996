package handoverapi

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
)

// deliver keeps the job as it is now under a name. With something open that nobody owns a reason is wanted, which the
// book prints.
func (s *API) deliver(c *gin.Context) error {
	r, err := desk.Read[DeliverRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		_, open := DueOf(j)
		hash, err := j.Hash()
		if err != nil {
			return err
		}
		kept, err := j.Job.Frozen()
		if err != nil {
			return err
		}
		x := handover.Delivered{
			Kept:     kept,
			ID:       r.ID,
			Name:     strings.TrimSpace(r.Name),
			Open:     open,
			Reason:   strings.TrimSpace(r.Reason),
			Revision: j.Revision,
			Hash:     hash,
			Who:      desk.Who(c),
			When:     s.Now().UTC().UnixMilli(),
		}
		if x.Open > 0 && x.Reason == "" && x.Name != "" {
			return desk.Refusal(
				http.StatusConflict,
				"not-zero",
				desk.Sentence(
					fmt.Sprintf(
						"%d things are open and nobody owns them: say why it is handed over all the same",
						open,
					),
				),
				"/reason",
			)
		}
		if err := desk.Unsound(&x, "/name"); err != nil {
			return err
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "delivered", Reason: x.Name, Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(x)})
	})
}

// states lists the states that were handed over, without what they keep.
func states(all []handover.Delivered) []handover.Delivered {
	out := make([]handover.Delivered, len(all))
	for i := range all {
		out[i] = all[i]
		out[i].Kept = nil
	}
	return out
}

// stateOf gives the job as it was in a state.
func stateOf(j *desk.Computed, id string) (*handover.Delivered, stored.Job, error) {
	i := slices.IndexFunc(j.Job.Delivered, func(d handover.Delivered) bool { return d.ID == id })
	if i < 0 {
		return nil, stored.Job{}, desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such state.", "")
	}
	d := &j.Job.Delivered[i]
	job, err := stored.Thaw(d.Kept)
	if err != nil {
		return d, job, desk.Refusal(
			http.StatusUnprocessableEntity,
			"nothing-kept",
			"Of this state only its name and hash were kept.",
			"",
		)
	}
	return d, job, nil
}

// stateFile gives a state as a job file: opened, it is a job of its own.
func (s *API) stateFile(c *gin.Context, j *desk.Computed) error {
	d, job, err := stateOf(j, c.Param("state"))
	if err != nil {
		return err
	}
	job.Title += ", " + d.Name
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, job, nil); err != nil {
		return err
	}
	desk.Download(c, job.Title+".draxel.json", "application/json", b.Bytes())
	return nil
}

// mostDifferences bounds the differences that are shown.
const mostDifferences = 500

// compareStates compares a state that was kept with the job as it is, or with another state of it, or with another
// job.
func (s *API) compareStates(c *gin.Context, j *desk.Computed) error {
	state := func(job stored.Job) (handover.State, error) {
		f, err := fact.Of(job)
		if err != nil {
			return handover.State{}, desk.Refusal(http.StatusUnprocessableEntity, "cannot-be", desk.Sentence(err.Error()), "")
		}
		p := plan.Compute(f, job.Chosen())
		return papers.Compared(&p, &f), nil
	}
	v := CompareStatesView{Was: "as it is", Is: "as it is now"}
	is := papers.Compared(j.Plan(), &j.Facts)
	var was handover.State
	if other := c.Query("job"); other != "" {
		o, err := s.Compute(c.Request.Context(), other)
		if err != nil {
			return err
		}
		v.Was, was = o.Job.Title, papers.Compared(o.Plan(), &o.Facts)
	} else {
		d, job, err := stateOf(j, c.Query("was"))
		if err != nil {
			return err
		}
		v.Was = d.Name
		if was, err = state(job); err != nil {
			return err
		}
	}
	if id := c.Query("is"); id != "" {
		d, job, err := stateOf(j, id)
		if err != nil {
			return err
		}
		v.Is = d.Name
		if is, err = state(job); err != nil {
			return err
		}
	}
	all := handover.Compare(&was, &is)
	v.All, v.Differences = len(all), all[:min(len(all), mostDifferences)]
	c.JSON(http.StatusOK, v)
	return nil
}
