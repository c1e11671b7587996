package gatherapi

import (
	"bytes"
	"fmt"
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
	"draxel/server/desk"
	"draxel/store"
)

// furtherKey is the key of a further pinout: x1 to x99.
var furtherKey = regexp.MustCompile(`^x[1-9]\d?$`)

// tableOf gives which table is asked for: that of a side, or a further one by its key.
func tableOf(c *gin.Context) (string, error) {
	key := c.Param("side")
	if key != string(match.From) && key != string(match.To) && !furtherKey.MatchString(key) {
		return "", desk.Refusal(http.StatusNotFound, "no-such-side",
			"A job has a from side, a to side and further pinouts x1 to x99.", "")
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

// sampleLines is how much of a table is shown as it was brought.
const sampleLines = 12

func tableView(cells [][]string, meta desk.TableMeta, o gather.Options) (TableView, error) {
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
func (s *API) previewTable(c *gin.Context) error {
	if _, err := tableOf(c); err != nil {
		return err
	}
	u, err := desk.ReadUpload(c)
	if err != nil {
		return err
	}
	v, err := tableView(u.Table.Cells, u.Meta, u.Options)
	if err != nil && len(v.Reading.Columns) == 0 {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(err.Error()), "")
	}
	if err != nil {
		v.Problem = desk.Sentence(err.Error())
	}
	v.Sheet, v.Sheets, v.Encoding, v.Notes = u.Table.Sheet, u.Table.Sheets, u.Table.Encoding, u.Table.Notes
	c.JSON(http.StatusOK, v)
	return nil
}

func checkMeta(m desk.TableMeta) error {
	if m.Name == "" || len(m.Name) > 200 {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-name", "Give the table a name.", "/meta/name")
	}
	if !slices.Contains(exchange.Trusts(), m.Trust) {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-trust", "Say how far the table is to be trusted.",
			"/meta/trust")
	}
	if !slices.Contains([]match.Side{"", match.From, match.To}, m.With) {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-side",
			"A further pinout belongs to the from side or the to side.", "/meta/with")
	}
	if _, err := time.Parse(time.DateOnly, m.Date); m.Date != "" && err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-date", "The date is written as 2026-11-24.", "/meta/date")
	}
	return nil
}

// importTable keeps a table as a side's pinout. The table as it was brought is kept whole.
func (s *API) importTable(c *gin.Context) error {
	key, err := tableOf(c)
	if err != nil {
		return err
	}
	u, err := desk.ReadUpload(c)
	if err == nil {
		err = checkMeta(u.Meta)
	}
	if err != nil {
		return err
	}
	seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
	return s.putTable(c, c.Request.PostFormValue("id"), "import", key, seen, u.Meta.Table(u.Table.Cells, u.Options))
}

func (s *API) putTable(c *gin.Context, id, what, key string, seen int64, t stored.Table) error {
	if _, reading, err := t.Read(); err != nil || len(reading.Rows) == 0 {
		detail := "no row could be taken from it"
		if err != nil {
			detail = err.Error()
		}
		return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(detail), "")
	}
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	if old := tableIn(state.Job, key); old != nil {
		t.Was = old.Titles(t.Name)
	}
	return s.Apply(c, desk.Change{ID: id, What: what, Seen: seen, Bodies: map[string]any{stored.SubjectTable(key): t}})
}

func (s *API) storedTable(c *gin.Context) (string, *stored.Table, store.State, error) {
	key, err := tableOf(c)
	if err != nil {
		return key, nil, store.State{}, err
	}
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return key, nil, state, err
	}
	t := tableIn(state.Job, key)
	if t == nil {
		return key, nil, state, desk.Refusal(http.StatusNotFound, "no-table", "No pinout has been brought for this side.", "")
	}
	return key, t, state, nil
}

// dropTable takes a further pinout out of the job.
func (s *API) dropTable(c *gin.Context) error {
	r, err := desk.Read[DropRequest](c)
	if err != nil {
		return err
	}
	key, err := tableOf(c)
	if err != nil {
		return err
	}
	if !furtherKey.MatchString(key) {
		return desk.Refusal(http.StatusUnprocessableEntity, "not-further",
			"Only a further pinout can be taken out; bring another table for a side.", "")
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "drop-table", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectTable(key): nil}})
}

// correctTable changes how a stored table is read: columns, habit, layouts, misprints, and what is said of it.
func (s *API) correctTable(c *gin.Context) error {
	r, err := desk.Read[CorrectRequest](c)
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
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-layout",
				fmt.Sprintf("Connector %s: 1 to 300 ways in 1 to 20 rows.", id), "/options/layouts/"+id)
		}
	}
	return s.putTable(c, r.ID, "correct", key, r.Seen, r.Meta.Table(t.Cells, r.Options))
}

func (s *API) showTable(c *gin.Context) error {
	_, t, state, err := s.storedTable(c)
	if err != nil {
		return err
	}
	v, err := tableView(t.Cells, desk.TableMeta{Name: t.Name, Source: t.Source, Date: t.Date, Trust: t.Trust,
		Origin: t.Origin, With: t.With}, t.Options)
	if err != nil {
		return err
	}
	v.Revision = state.Revision
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *API) exportTable(c *gin.Context) error {
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
	desk.Download(c, t.Name+".csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}

// longCell refuses a text that no cell of a table may have either.
func longCell(text, pointer string) error {
	if n := utf8.RuneCountInString(text); n > exchange.MaxCell {
		return desk.Refusal(http.StatusUnprocessableEntity, "cell-too-long",
			fmt.Sprintf("That has %d letters; a cell has at most %d.", n, exchange.MaxCell), pointer)
	}
	return nil
}
