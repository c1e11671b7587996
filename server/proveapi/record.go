package proveapi

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

// note keeps what was heard, seen, changed or tested, or takes it back.
func (s *API) note(c *gin.Context) error {
	r, err := desk.Read[NoteRequest](c)
	if err != nil {
		return err
	}
	if r.Out != "" {
		return s.Apply(
			c,
			desk.Change{ID: r.ID, What: "note-back", Seen: r.Seen, Bodies: desk.Dropping(prove.Note{ID: r.Out})},
		)
	}
	x := prove.Note{
		ID:   r.ID,
		Kind: r.Kind,
		Text: strings.TrimSpace(r.Text),
		Who:  desk.Who(c),
		When: s.Now().UTC().UnixMilli(),
	}
	if err := desk.Unsound(&x, "/text"); err != nil {
		return err
	}
	return s.Apply(
		c,
		desk.Change{
			ID:     r.ID,
			What:   "note",
			Reason: x.Text,
			Seen:   r.Seen,
			Bodies: desk.Keeping(x),
		},
	)
}

// putProgram keeps the record of what was written into the unit. It is closed only when nothing is missing.
func (s *API) putProgram(c *gin.Context) error {
	r, err := desk.Read[ProgramRequest](c)
	if err != nil {
		return err
	}
	x := r.Program
	x.Who, x.When = desk.Who(c), s.Now().UTC().UnixMilli()
	if err := desk.Unsound(&x, "/program"); err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if lacks := x.Lacks(j.Plan().Settings()); x.Done && len(lacks) > 0 {
			return desk.Refusal(
				http.StatusConflict,
				"not-whole",
				desk.Sentence("it cannot be closed, it lacks "+strings.Join(lacks, "; ")),
				"/program/done",
			)
		}
		return s.Apply(
			c,
			desk.Change{
				ID:     r.ID,
				What:   "program",
				Seen:   r.Seen,
				Base:   j.Revision,
				Bodies: desk.Keeping(x),
			},
		)
	})
}

// mend notes that a fault was found and put right. Terminals that stand in each other's cavities and are left so
// become what is really there: the plan goes on from that.
func (s *API) mend(c *gin.Context) error {
	r, err := desk.Read[MendRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		x := prove.Mend{ID: r.ID, Text: strings.TrimSpace(r.Text), Did: strings.TrimSpace(r.Did),
			Took: len(prove.Since(j.Job.Proved, j.Job.Mended)), Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
		if err := desk.Unsound(&x, "/text"); err != nil {
			return err
		}
		b, err := s.asked(c, r.Simulated)
		if err != nil {
			return err
		}
		if b != nil {
			b.mend(x)
			return s.simulated(c)
		}
		bodies := desk.Keeping(x)
		if r.Left {
			tick, err := s.asFound(j, x.Text)
			if err != nil {
				return err
			}
			s.Stamp(c, j, tick, 0)
			bodies[stored.SubjectOf(*tick)] = *tick
		}
		return s.Apply(
			c,
			desk.Change{ID: r.ID, What: "mended", Reason: x.Text, Seen: r.Seen, Base: j.Revision, Bodies: bodies},
		)
	})
}

// asFound gives the entry of the work by which terminals stand where they were found: in each other's cavity, or one
// of them in a cavity that was empty.
func (s *API) asFound(j *desk.Computed, text string) (*work.Tick, error) {
	p, done := vehicleOf(j)
	defer done()
	if p.err != nil {
		return nil, desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(p.err.Error()), "")
	}
	a, b, is := p.vehicle.Exchanged(text)
	if !is {
		return nil, desk.Refusal(
			http.StatusUnprocessableEntity,
			"no-exchange",
			"Only terminals that stand in wrong cavities can be left as they are found.",
			"/left",
		)
	}
	from, okA := j.Facts.Cavity(a)
	to, okB := j.Facts.Cavity(b)
	now := j.Plan().Past.Now
	t, full := now.In(from)
	if !okA || !okB || !full {
		return nil, desk.Refusal(
			http.StatusConflict,
			"cannot-be",
			fmt.Sprintf("There is no terminal in %s now: the work says so.", a),
			"/text",
		)
	}
	edits := []harness.Edit{{Do: harness.Remove, Terminal: t, At: from, Label: b}}
	if other, full := now.In(to); full {
		edits = append(edits, harness.Edit{Do: harness.Remove, Terminal: other, At: to, Label: a},
			harness.Edit{Do: harness.Insert, Terminal: other, At: from})
	} else if now.Plugged(to) {
		edits = append(edits, harness.Edit{Do: harness.Unplug, At: to})
	}
	edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: to})
	if _, err := harness.Apply(now, edits...); err != nil {
		return nil, desk.Refusal(http.StatusConflict, "cannot-be", desk.Sentence(err.Error()), "/text")
	}
	return &work.Tick{
		Step:  work.New(edits).ID,
		Edits: edits,
		Text:  "Found so: " + text + ".",
		Stage: "pin",
		Kind:  "otherwise",
		At:    []harness.Ref{from, to},
	}, nil
}

// proveCSV gives the test sheet with what was measured as CSV.
func (s *API) proveCSV(c *gin.Context) error {
	return s.proveSheet(c, "csv", "text/csv; charset=utf-8", exchange.WriteProveCSV)
}

// provePDF gives the test sheet to be filled in by hand.
func (s *API) provePDF(c *gin.Context) error {
	return s.proveSheet(c, "pdf", "application/pdf", exchange.WriteProvePDF)
}

func (s *API) proveSheet(
	c *gin.Context,
	kind, mime string,
	write func(w *bytes.Buffer, x exchange.ProveSheet) error,
) error {
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	p, done := vehicleOf(j)
	defer done()
	if p.err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(p.err.Error()), "")
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	x := exchange.ProveSheet{
		Title:    j.Job.Title,
		Revision: int(j.Revision),
		Hash:     hash,
		Printed:  s.Now().UTC().Format(time.DateOnly),
	}
	now := prove.Since(j.Job.Proved, j.Job.Mended)
	unbuilt := j.Plan().Unbuilt()
	for i := range p.sheet.Lines {
		l := &p.sheet.Lines[i]
		if c.Query("all") == "" && !l.First && !slices.Contains([]string{"feeds", "relays"}, l.Section) {
			continue
		}
		line := ProvedLine{SheetLine: *l, Waits: p.vehicle.Touches(&l.Measure, unbuilt)}
		line.read(j.Job.Proved, now)
		out := exchange.ProveLine{
			SheetLine: *l,
			How:       l.Setup.String(),
			Waits:     line.Waits,
			Fits:      line.Fits,
			Again:     line.Again,
		}
		if line.Reading != nil {
			out.Reading = line.Reading
		}
		x.Lines = append(x.Lines, out)
	}
	var b bytes.Buffer
	if err := write(&b, x); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" test sheet."+kind, mime, b.Bytes())
	return nil
}
