package workapi

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/stored"
	"draxel/server/desk"
)

// OwnRequest keeps a step of the person's own; without a text it is taken away.
type OwnRequest struct {
	ID   string         `json:"id"`
	Seen int64          `json:"seen"`
	Step stored.OwnStep `json:"step"`
}

// putOwn keeps a step of the person's own between the others.
func (s *API) putOwn(c *gin.Context) error {
	r, err := desk.Read[OwnRequest](c)
	if err == nil && strings.TrimSpace(r.Step.Text) != "" {
		if bad := r.Step.Check(); bad != nil {
			err = desk.Refusal(http.StatusUnprocessableEntity, "bad-step", desk.Sentence(bad.Error()), "/step")
		}
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		for _, at := range []string{r.Step.Before, r.Step.After} {
			if _, known := j.Plan().Step(at); at != "" && !known && r.Step.Text != "" {
				return desk.Refusal(http.StatusUnprocessableEntity, "no-such-step", "There is no such step to put it beside any "+
					"more.", "/step")
			}
		}
		var body any
		if strings.TrimSpace(r.Step.Text) != "" {
			r.Step.Who, r.Step.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = r.Step
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "own-step", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(r.Step): body}})
	})
}

// AnswerRequest says why a finding may stand; without a reason the answer is taken back.
type AnswerRequest struct {
	ID     string         `json:"id"`
	Seen   int64          `json:"seen"`
	Answer finding.Answer `json:"answer"`
}

// answerFinding keeps why a finding may stand. Danger cannot be waved through.
func (s *API) answerFinding(c *gin.Context) error {
	r, err := desk.Read[AnswerRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		a := r.Answer
		a.Reason = strings.TrimSpace(a.Reason)
		subject := stored.SubjectOf(a)
		if a.Reason == "" {
			return s.Apply(c, desk.Change{ID: r.ID, What: "answer-back", Seen: r.Seen, Base: j.Revision,
				Bodies: map[string]any{subject: nil}})
		}
		i := slices.IndexFunc(j.Plan().Findings, func(f finding.Finding) bool {
			return f.Key() == a.Key() && f.Text == a.Text
		})
		switch {
		case i < 0:
			return desk.Refusal(http.StatusConflict, "no-such-finding", "The finding is not there any more: something has "+
				"changed.", "/answer")
		case j.Plan().Findings[i].Severity == finding.Danger:
			return desk.Refusal(http.StatusUnprocessableEntity, "danger-stands", "What can hurt, burn or destroy is not waved "+
				"through: put it right.", "/answer")
		}
		a.Who, a.When = desk.Who(c), s.Now().UTC().UnixMilli()
		return s.Apply(c, desk.Change{ID: r.ID, What: "answer", Reason: a.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{subject: a}})
	})
}
