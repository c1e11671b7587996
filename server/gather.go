package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/exchange"
	"draxel/store"
)

func sideOf(c *gin.Context) (match.Side, error) {
	side := match.Side(c.Param("side"))
	if side != match.From && side != match.To {
		return "", problem(http.StatusNotFound, "no-such-side", "A job has a from side and a to side.", "")
	}
	return side, nil
}

// upload is a table as it arrives: a file or pasted text, with what is said of it.
type upload struct {
	table   exchange.Table
	meta    TableMeta
	options gather.Options
}

func readUpload(c *gin.Context) (upload, error) {
	var u upload
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
		return u, tooLargeOr(err, problem(http.StatusBadRequest, "bad-request", sentence("the upload cannot be read: "+err.Error()), ""))
	}
	data := []byte(c.Request.PostFormValue("text"))
	if file, _, err := c.Request.FormFile("file"); err == nil {
		defer file.Close()
		if data, err = io.ReadAll(io.LimitReader(file, exchange.MaxBytes+1)); err != nil {
			return u, err
		}
	}
	for field, into := range map[string]any{"meta": &u.meta, "options": &u.options} {
		if text := c.Request.PostFormValue(field); text != "" {
			if err := json.Unmarshal([]byte(text), into); err != nil {
				return u, problem(http.StatusBadRequest, "bad-request", sentence("the request cannot be read: "+err.Error()), "/"+field)
			}
		}
	}
	var err error
	u.table, err = exchange.ReadTable(data, c.Request.PostFormValue("sheet"))
	return u, err
}

// tooLargeOr gives an error that says that something is too large as it is, and the other for any other.
func tooLargeOr(err, otherwise error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return otherwise
}

// sampleLines is how much of a table is shown as it was brought.
const sampleLines = 12

func tableView(cells [][]string, meta TableMeta, o gather.Options) (TableView, error) {
	v := TableView{Meta: meta, Options: o, Sample: [][]string{}}
	for _, line := range cells[:min(len(cells), sampleLines)] {
		v.Sample = append(v.Sample, append([]string{}, line...))
	}
	var err error
	v.Reading, err = gather.Read(cells, o)
	return v, err
}

// previewTable reads a table without keeping it. Where no column names the cavities the preview still comes, for the
// person to say which one does.
func (s *Server) previewTable(c *gin.Context) error {
	if _, err := sideOf(c); err != nil {
		return err
	}
	u, err := readUpload(c)
	if err != nil {
		return err
	}
	v, err := tableView(u.table.Cells, u.meta, u.options)
	if err != nil && len(v.Reading.Columns) == 0 {
		return problem(http.StatusUnprocessableEntity, "no-rows", sentence(err.Error()), "")
	}
	if err != nil {
		v.Problem = sentence(err.Error())
	}
	v.Sheet, v.Sheets, v.Encoding, v.Notes = u.table.Sheet, u.table.Sheets, u.table.Encoding, u.table.Notes
	c.JSON(http.StatusOK, v)
	return nil
}

func checkMeta(m TableMeta) error {
	if m.Name == "" || len(m.Name) > 200 {
		return problem(http.StatusUnprocessableEntity, "no-name", "Give the table a name.", "/meta/name")
	}
	if !slices.Contains(exchange.Trusts(), m.Trust) {
		return problem(http.StatusUnprocessableEntity, "no-trust", "Say how far the table is to be trusted.", "/meta/trust")
	}
	if _, err := time.Parse(time.DateOnly, m.Date); m.Date != "" && err != nil {
		return problem(http.StatusUnprocessableEntity, "bad-date", "The date is written as 2026-11-24.", "/meta/date")
	}
	return nil
}

// importTable keeps a table as a side's pinout. The table as it was brought is kept whole.
func (s *Server) importTable(c *gin.Context) error {
	side, err := sideOf(c)
	if err != nil {
		return err
	}
	u, err := readUpload(c)
	if err == nil {
		err = checkMeta(u.meta)
	}
	if err != nil {
		return err
	}
	seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
	return s.putTable(c, c.Request.PostFormValue("id"), "import", side, seen, plan.Table{Name: u.meta.Name, Source: u.meta.Source, Date: u.meta.Date, Trust: u.meta.Trust, Cells: u.table.Cells, Options: u.options})
}

func (s *Server) putTable(c *gin.Context, id, what string, side match.Side, seen int64, t plan.Table) error {
	if _, reading, err := t.Read(); err != nil || len(reading.Rows) == 0 {
		detail := "no row could be taken from it"
		if err != nil {
			detail = err.Error()
		}
		return problem(http.StatusUnprocessableEntity, "no-rows", sentence(detail), "")
	}
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	old := state.Job.From
	if side == match.To {
		old = state.Job.To
	}
	if old != nil {
		t.Was = old.Titles(t.Name)
	}
	return s.apply(c, change{id: id, what: what, seen: seen, bodies: map[string]any{store.SubjectTable(side): t}})
}

func (s *Server) storedTable(c *gin.Context) (match.Side, *plan.Table, store.State, error) {
	side, err := sideOf(c)
	if err != nil {
		return side, nil, store.State{}, err
	}
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return side, nil, state, err
	}
	t := state.Job.From
	if side == match.To {
		t = state.Job.To
	}
	if t == nil {
		return side, nil, state, problem(http.StatusNotFound, "no-table", "No pinout has been brought for this side.", "")
	}
	return side, t, state, nil
}

// correctTable changes how a stored table is read: columns, habit, layouts, misprints, and what is said of it.
func (s *Server) correctTable(c *gin.Context) error {
	r, err := read[CorrectRequest](c)
	if err == nil {
		err = checkMeta(r.Meta)
	}
	if err != nil {
		return err
	}
	side, t, _, err := s.storedTable(c)
	if err != nil {
		return err
	}
	for id, l := range r.Options.Layouts {
		if l.Ways < 0 || l.Ways > 300 || l.Rows < 0 || l.Rows > 20 {
			return problem(http.StatusUnprocessableEntity, "bad-layout", fmt.Sprintf("Connector %s: 1 to 300 ways in 1 to 20 rows.", id), "/options/layouts/"+id)
		}
	}
	return s.putTable(c, r.ID, "correct", side, r.Seen, plan.Table{Name: r.Meta.Name, Source: r.Meta.Source, Date: r.Meta.Date, Trust: r.Meta.Trust, Cells: t.Cells, Options: r.Options})
}

func (s *Server) showTable(c *gin.Context) error {
	_, t, state, err := s.storedTable(c)
	if err != nil {
		return err
	}
	v, err := tableView(t.Cells, TableMeta{t.Name, t.Source, t.Date, t.Trust}, t.Options)
	if err != nil {
		return err
	}
	v.Revision = state.Revision
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *Server) exportTable(c *gin.Context) error {
	_, t, _, err := s.storedTable(c)
	if err != nil {
		return err
	}
	var p harness.Pinout
	if p, _, err = t.Read(); err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WritePinout(&b, p); err != nil {
		return err
	}
	download(c, t.Name+".csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}
