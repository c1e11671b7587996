package server

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/work"
	"draxel/store"
)

// otherwise records a move that the plan did not say.
func (s *Server) otherwise(c *gin.Context) error {
	r, err := read[OtherwiseRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		now := j.plan().Past.Now
		t, label := harness.TerminalID(""), r.Label
		var edits []harness.Edit
		from := r.At.String()
		if r.At != (harness.Ref{}) {
			var full bool
			if t, full = now.In(r.At); !full {
				return problem(http.StatusUnprocessableEntity, "no-such-terminal", fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
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
				return problem(http.StatusUnprocessableEntity, "no-such-terminal", "Say which terminal in hand, and what became of it.", "/label")
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
			return problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "/to")
		}
		tick := work.Tick{Step: work.New(edits).ID, Edits: edits, Text: text, Stage: "pin", Kind: "otherwise", At: []harness.Ref{r.At, r.To}}
		s.stamp(c, j, &tick, 0)
		return s.apply(c, change{id: r.ID, what: "otherwise", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectTick(tick.Step): tick}})
	})
}

// report keeps what was not as expected. A wire that no table shows is refused where the model has one.
func (s *Server) report(c *gin.Context) error {
	r, err := read[ReportRequest](c)
	if err == nil && !slices.Contains(pin.Whats(), r.What) {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say what is not as expected: stuck, colour, occupied or lock.", "/what")
	}
	if err == nil && r.What != pin.Broken {
		err = checkRef(r.At, "/at")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		_, full := j.plan().Pin.Now.In(r.At)
		switch {
		case r.What == pin.Broken && !j.hasConnector(r.At.Connector):
			return problem(http.StatusUnprocessableEntity, "no-such-connector", fmt.Sprintf("There is no connector %s.", r.At.Connector), "/at")
		case r.What != pin.Broken && !j.plan().Pin.Now.Has(r.At):
			return problem(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("There is no cavity %s.", r.At), "/at")
		case r.What == pin.Occupied && full:
			return problem(http.StatusUnprocessableEntity, "known-wire", fmt.Sprintf("%s holds a wire on this plan too: record the move that emptied it, or take the tick back that filled it.", r.At), "/at")
		case (r.What == pin.IsStuck || r.What == pin.Differs) && !full:
			return problem(http.StatusUnprocessableEntity, "no-such-terminal", fmt.Sprintf("There is no terminal in %s now.", r.At), "/at")
		}
		x := pin.Report{ID: r.ID, What: r.What, At: r.At, Saw: strings.TrimSpace(r.Saw), Who: who(c), When: s.now().UTC().UnixMilli()}
		bodies := map[string]any{store.SubjectReport(x.ID): x}
		if tick, ok := x.Tick(); ok {
			if _, err := harness.Apply(j.plan().Past.Now, tick.Edits...); err != nil {
				return problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "/at")
			}
			s.stamp(c, j, &tick, 0)
			bodies[store.SubjectTick(tick.Step)] = tick
		}
		return s.apply(c, change{id: r.ID, what: "report", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// settle says how what was not as expected was settled.
func (s *Server) settle(c *gin.Context) error {
	r, err := read[SettleRequest](c)
	if err == nil && strings.TrimSpace(r.Settled) == "" {
		err = problem(http.StatusUnprocessableEntity, "no-reason", "Say how it was settled.", "/settled")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		i := slices.IndexFunc(j.Job.Reports, func(x pin.Report) bool { return x.ID == c.Param("fact") })
		if i < 0 {
			return problem(http.StatusNotFound, "no-such-thing", "There is no such report.", "")
		}
		x := j.Job.Reports[i]
		x.Settled = strings.TrimSpace(r.Settled)
		return s.apply(c, change{id: r.ID, what: "settle", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectReport(x.ID): x}})
	})
}
