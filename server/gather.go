package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/store"
)

// furtherKey is the key of a further pinout: x1 to x99.
var furtherKey = regexp.MustCompile(`^x[1-9]\d?$`)

// tableOf gives which table is asked for: that of a side, or a further one by its key.
func tableOf(c *gin.Context) (string, error) {
	key := c.Param("side")
	if key != string(match.From) && key != string(match.To) && !furtherKey.MatchString(key) {
		return "", problem(http.StatusNotFound, "no-such-side", "A job has a from side, a to side and further pinouts x1 to x99.", "")
	}
	return key, nil
}

// tableIn gives a table of a job, nil where it has none of that key.
func tableIn(j stored.Job, key string) *stored.Table {
	switch key {
	case string(match.From):
		return j.From
	case string(match.To):
		return j.To
	}
	return j.More[key]
}

// table gives the table with what is said of it.
func (m TableMeta) table(cells [][]string, o gather.Options) stored.Table {
	return stored.Table{Name: m.Name, Source: m.Source, Date: m.Date, Trust: m.Trust, Origin: m.Origin, With: m.With,
		Cells: cells, Options: o}
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
	if _, err := tableOf(c); err != nil {
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
	if !slices.Contains([]match.Side{"", match.From, match.To}, m.With) {
		return problem(http.StatusUnprocessableEntity, "no-such-side", "A further pinout belongs to the from side or the to side.", "/meta/with")
	}
	if _, err := time.Parse(time.DateOnly, m.Date); m.Date != "" && err != nil {
		return problem(http.StatusUnprocessableEntity, "bad-date", "The date is written as 2026-11-24.", "/meta/date")
	}
	return nil
}

// importTable keeps a table as a side's pinout. The table as it was brought is kept whole.
func (s *Server) importTable(c *gin.Context) error {
	key, err := tableOf(c)
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
	return s.putTable(c, c.Request.PostFormValue("id"), "import", key, seen, u.meta.table(u.table.Cells, u.options))
}

func (s *Server) putTable(c *gin.Context, id, what, key string, seen int64, t stored.Table) error {
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
	if old := tableIn(state.Job, key); old != nil {
		t.Was = old.Titles(t.Name)
	}
	return s.apply(c, change{id: id, what: what, seen: seen, bodies: map[string]any{store.SubjectFurther(key): t}})
}

func (s *Server) storedTable(c *gin.Context) (string, *stored.Table, store.State, error) {
	key, err := tableOf(c)
	if err != nil {
		return key, nil, store.State{}, err
	}
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return key, nil, state, err
	}
	t := tableIn(state.Job, key)
	if t == nil {
		return key, nil, state, problem(http.StatusNotFound, "no-table", "No pinout has been brought for this side.", "")
	}
	return key, t, state, nil
}

// dropTable takes a further pinout out of the job.
func (s *Server) dropTable(c *gin.Context) error {
	r, err := read[DropRequest](c)
	if err != nil {
		return err
	}
	key, err := tableOf(c)
	if err != nil {
		return err
	}
	if !furtherKey.MatchString(key) {
		return problem(http.StatusUnprocessableEntity, "not-further", "Only a further pinout can be taken out; bring another table for a side.", "")
	}
	return s.apply(c, change{id: r.ID, what: "drop-table", seen: r.Seen, bodies: map[string]any{store.SubjectFurther(key): nil}})
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
	key, t, _, err := s.storedTable(c)
	if err != nil {
		return err
	}
	for _, x := range r.Options.Cells {
		if err := longCell(x.Text, "/options/cells"); err != nil {
			return err
		}
	}
	for id, l := range r.Options.Layouts {
		if l.Ways < 0 || l.Ways > 300 || l.Rows < 0 || l.Rows > 20 {
			return problem(http.StatusUnprocessableEntity, "bad-layout", fmt.Sprintf("Connector %s: 1 to 300 ways in 1 to 20 rows.", id), "/options/layouts/"+id)
		}
	}
	return s.putTable(c, r.ID, "correct", key, r.Seen, r.Meta.table(t.Cells, r.Options))
}

func (s *Server) showTable(c *gin.Context) error {
	_, t, state, err := s.storedTable(c)
	if err != nil {
		return err
	}
	v, err := tableView(t.Cells, TableMeta{t.Name, t.Source, t.Date, t.Trust, t.Origin, t.With}, t.Options)
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

// longCell refuses a text that no cell of a table may have either.
func longCell(text, pointer string) error {
	if n := utf8.RuneCountInString(text); n > exchange.MaxCell {
		return problem(http.StatusUnprocessableEntity, "cell-too-long",
			fmt.Sprintf("That has %d letters; a cell has at most %d.", n, exchange.MaxCell), pointer)
	}
	return nil
}
