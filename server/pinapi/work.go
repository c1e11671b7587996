package pinapi

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/stored"
	"draxel/core/work"
	"draxel/server/desk"
)

// otherwise records a move that the plan did not say.
func (s *API) otherwise(c *gin.Context) error {
	r, err := desk.Read[OtherwiseRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		now := j.Plan().Past.Now
		t, label := harness.TerminalID(""), r.Label
		var edits []harness.Edit
		from := r.At.String()
		if r.At != (harness.Ref{}) {
			var full bool
			if t, full = now.In(r.At); !full {
				return desk.Refusal(http.StatusUnprocessableEntity, "no-such-terminal",
					fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
			}
			if label = "from " + r.At.String(); r.To != (harness.Ref{}) {
				label = r.To.String()
			}
			edits = append(edits, harness.Edit{Do: harness.Remove, Terminal: t, At: r.At, Label: label})
		} else {
			for _, x := range now.Terminals() {
				if p, _ := now.Place(x); p.State == harness.Loose && p.Label == r.Label {
					t = x
				}
			}
			if from = fmt.Sprintf("in hand, labelled %q,", r.Label); t == "" || r.To == (harness.Ref{}) && !r.Off {
				return desk.Refusal(http.StatusUnprocessableEntity, "no-such-terminal",
					"Say which terminal in hand, and what became of it.", "/label")
			}
		}
		text := fmt.Sprintf("Otherwise than planned: the terminal %s is in hand, labelled %q.", from, label)
		if r.Off && r.To == (harness.Ref{}) {
			text = fmt.Sprintf("Otherwise than planned: the terminal %s is out and sealed off.", from)
			edits = append(edits, harness.Edit{Do: harness.Cap, Terminal: t, Label: label})
		}
		if r.To != (harness.Ref{}) {
			text = fmt.Sprintf("Otherwise than planned: the terminal %s went into %s.", from, r.To)
			if now.Plugged(r.To) {
				edits = append(edits, harness.Edit{Do: harness.Unplug, At: r.To})
			}
			edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: r.To})
		}
		if _, err := harness.Apply(now, edits...); err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "cannot-be", desk.Sentence(err.Error()), "/to")
		}
		tick := work.Tick{Step: work.New(edits).ID, Edits: edits, Text: text, Stage: work.Pin, Kind: pin.Otherwise,
			At: []harness.Ref{r.At, r.To}}
		s.Stamp(c, j, &tick, 0)
		return s.Apply(c, desk.Change{ID: r.ID, What: "otherwise", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(tick)})
	})
}

// report keeps what was not as expected. A wire that no table shows is refused where the model has one.
func (s *API) report(c *gin.Context) error {
	r, err := desk.Read[ReportRequest](c)
	if err == nil && !slices.Contains(pin.Whats(), r.What) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-action",
			"Say what is not as expected: stuck, colour, occupied or lock.", "/what")
	}
	if err == nil && r.What != pin.Broken {
		err = desk.CheckRef(r.At, "/at")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		_, full := j.Plan().Pin.Now.In(r.At)
		switch {
		case r.What == pin.Broken && !hasConnector(j, r.At.Connector):
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-connector",
				fmt.Sprintf("There is no connector %s.", r.At.Connector), "/at")
		case r.What != pin.Broken && !j.Plan().Pin.Now.Has(r.At):
			return desk.Refusal(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("There is no cavity %s.", r.At), "/at")
		case r.What == pin.Occupied && full:
			return desk.Refusal(http.StatusUnprocessableEntity, "known-wire",
				fmt.Sprintf("%s holds a wire on this plan too: record the move that emptied it, or take the tick back that "+
					"filled it.", r.At), "/at")
		case (r.What == pin.IsStuck || r.What == pin.Differs) && !full:
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-terminal",
				fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
		}
		x := pin.Report{ID: r.ID, What: r.What, At: r.At, Saw: strings.TrimSpace(r.Saw), Who: desk.Who(c),
			When: s.Now().UTC().UnixMilli()}
		bodies := desk.Keeping(x)
		if tick, ok := x.Tick(); ok {
			if _, err := harness.Apply(j.Plan().Past.Now, tick.Edits...); err != nil {
				return desk.Refusal(http.StatusUnprocessableEntity, "cannot-be", desk.Sentence(err.Error()), "/at")
			}
			s.Stamp(c, j, &tick, 0)
			bodies[stored.SubjectOf(tick)] = tick
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "report", Seen: r.Seen, Base: j.Revision, Bodies: bodies})
	})
}

// settle says how what was not as expected was settled.
func (s *API) settle(c *gin.Context) error {
	r, err := desk.Read[SettleRequest](c)
	if err == nil && strings.TrimSpace(r.Settled) == "" {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-reason", "Say how it was settled.", "/settled")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		i := slices.IndexFunc(j.Job.Reports, func(x pin.Report) bool { return x.ID == c.Param("fact") })
		if i < 0 {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such report.", "")
		}
		x := j.Job.Reports[i]
		x.Settled = strings.TrimSpace(r.Settled)
		return s.Apply(c, desk.Change{ID: r.ID, What: "settle", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(x)})
	})
}
