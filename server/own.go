package server

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/stored"
	"draxel/store"
)

// OwnRequest keeps a step of the person's own; without a text it is taken away.
type OwnRequest struct {
	ID   string         `json:"id"`
	Seen int64          `json:"seen"`
	Step stored.OwnStep `json:"step"`
}

// putOwn keeps a step of the person's own between the others.
func (s *Server) putOwn(c *gin.Context) error {
	r, err := read[OwnRequest](c)
	if err == nil && strings.TrimSpace(r.Step.Text) != "" {
		if bad := r.Step.Check(); bad != nil {
			err = problem(http.StatusUnprocessableEntity, "bad-step", sentence(bad.Error()), "/step")
		}
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		for _, at := range []string{r.Step.Before, r.Step.After} {
			if _, known := j.plan().Step(at); at != "" && !known && r.Step.Text != "" {
				return problem(http.StatusUnprocessableEntity, "no-such-step", "There is no such step to put it beside any "+
					"more.", "/step")
			}
		}
		var body any
		if strings.TrimSpace(r.Step.Text) != "" {
			r.Step.Who, r.Step.When = who(c), s.now().UTC().UnixMilli()
			body = r.Step
		}
		return s.apply(c, change{id: r.ID, what: "own-step", seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectOwn(r.Step.ID): body}})
	})
}

// AnswerRequest says why a finding may stand; without a reason the answer is taken back.
type AnswerRequest struct {
	ID     string         `json:"id"`
	Seen   int64          `json:"seen"`
	Answer finding.Answer `json:"answer"`
}

// answerFinding keeps why a finding may stand. Danger cannot be waved through.
func (s *Server) answerFinding(c *gin.Context) error {
	r, err := read[AnswerRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		a := r.Answer
		a.Reason = strings.TrimSpace(a.Reason)
		subject := store.SubjectAnswer(a.Key())
		if a.Reason == "" {
			return s.apply(c, change{id: r.ID, what: "answer-back", seen: r.Seen, base: j.Revision,
				bodies: map[string]any{subject: nil}})
		}
		i := slices.IndexFunc(j.plan().Findings, func(f finding.Finding) bool {
			return f.Key() == a.Key() && f.Text == a.Text
		})
		switch {
		case i < 0:
			return problem(http.StatusConflict, "no-such-finding", "The finding is not there any more: something has "+
				"changed.", "/answer")
		case j.plan().Findings[i].Severity == finding.Danger:
			return problem(http.StatusUnprocessableEntity, "danger-stands", "What can hurt, burn or destroy is not waved "+
				"through: put it right.", "/answer")
		}
		a.Who, a.When = who(c), s.now().UTC().UnixMilli()
		return s.apply(c, change{id: r.ID, what: "answer", reason: a.Reason, seen: r.Seen, base: j.Revision,
			bodies: map[string]any{subject: a}})
	})
}
