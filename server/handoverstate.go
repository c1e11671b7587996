package server

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
	"draxel/store"
)

// deliver keeps the job as it is now under a name. With something open that nobody owns a reason is wanted, which the
// book prints.
func (s *Server) deliver(c *gin.Context) error {
	r, err := read[DeliverRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		_, open := j.open()
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
			Who:      who(c),
			When:     s.now().UTC().UnixMilli(),
		}
		if x.Open > 0 && x.Reason == "" && x.Name != "" {
			return problem(
				http.StatusConflict,
				"not-zero",
				sentence(
					fmt.Sprintf(
						"%d things are open and nobody owns them: say why it is handed over all the same",
						open,
					),
				),
				"/reason",
			)
		}
		if err := unsound(&x, "/name"); err != nil {
			return err
		}
		return s.apply(c, change{id: r.ID, what: "delivered", reason: x.Name, seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectDelivered(x.ID): x}})
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

// kept gives the job as it was in a state.
func (j *computed) kept(id string) (*handover.Delivered, stored.Job, error) {
	i := slices.IndexFunc(j.Job.Delivered, func(d handover.Delivered) bool { return d.ID == id })
	if i < 0 {
		return nil, stored.Job{}, problem(http.StatusNotFound, "no-such-thing", "There is no such state.", "")
	}
	d := &j.Job.Delivered[i]
	job, err := stored.Thaw(d.Kept)
	if err != nil {
		return d, job, problem(
			http.StatusUnprocessableEntity,
			"nothing-kept",
			"Of this state only its name and hash were kept.",
			"",
		)
	}
	return d, job, nil
}

// stateFile gives a state as a job file: opened, it is a job of its own.
func (s *Server) stateFile(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	d, job, err := j.kept(c.Param("state"))
	if err != nil {
		return err
	}
	job.Title += ", " + d.Name
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, job, nil); err != nil {
		return err
	}
	download(c, job.Title+".draxel.json", "application/json", b.Bytes())
	return nil
}

// mostDifferences bounds the differences that are shown.
const mostDifferences = 500

// compareStates compares a state that was kept with the job as it is, or with another state of it, or with another
// job.
func (s *Server) compareStates(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	state := func(job stored.Job) (handover.State, error) {
		f, err := fact.Of(job)
		if err != nil {
			return handover.State{}, problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "")
		}
		p := plan.Compute(f, job.Chosen())
		return papers.Compared(&p, &f), nil
	}
	v := CompareStatesView{Was: "as it is", Is: "as it is now"}
	is := papers.Compared(j.plan(), &j.facts)
	var was handover.State
	if other := c.Query("job"); other != "" {
		o, err := s.compute(c.Request.Context(), other)
		if err != nil {
			return err
		}
		v.Was, was = o.Job.Title, papers.Compared(o.plan(), &o.facts)
	} else {
		d, job, err := j.kept(c.Query("was"))
		if err != nil {
			return err
		}
		v.Was = d.Name
		if was, err = state(job); err != nil {
			return err
		}
	}
	if id := c.Query("is"); id != "" {
		d, job, err := j.kept(id)
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
