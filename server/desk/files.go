package desk

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/store"
)

// upload is a table as it arrives: a file or pasted text, with what is said of it.
type upload struct {
	Table   exchange.Table
	Meta    TableMeta
	Options gather.Options
}

// ReadUpload reads the file of a form.
func ReadUpload(c *gin.Context) (upload, error) {
	var u upload
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
		return u, TooLargeOr(err, Refusal(http.StatusBadRequest, "bad-request",
			Sentence("the upload cannot be read: "+err.Error()), ""))
	}
	data := []byte(c.Request.PostFormValue("text"))
	if file, _, err := c.Request.FormFile("file"); err == nil {
		defer file.Close()
		if data, err = io.ReadAll(io.LimitReader(file, exchange.MaxBytes+1)); err != nil {
			return u, err
		}
	}
	for field, into := range map[string]any{"meta": &u.Meta, "options": &u.Options} {
		if text := c.Request.PostFormValue(field); text != "" {
			if err := json.Unmarshal([]byte(text), into); err != nil {
				return u, Refusal(http.StatusBadRequest, "bad-request", Sentence("the request cannot be read: "+err.Error()), "/"+
					field)
			}
		}
	}
	var err error
	u.Table, err = exchange.ReadTable(data, c.Request.PostFormValue("sheet"))
	return u, err
}

// TooLargeOr gives an error that says that something is too large as it is, and the other for any other.
func TooLargeOr(err, otherwise error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return otherwise
}

// JobFile writes a job with its pictures, one after the other.
func (s *Desk) JobFile(ctx context.Context, id string, j *stored.Job) func(w io.Writer) error {
	ids := make([]string, len(j.Photos))
	size := map[string][2]int{}
	for i, x := range j.Photos {
		ids[i], size[x.ID] = x.ID, [2]int{x.Width, x.Height}
	}
	return func(w io.Writer) error {
		return exchange.StreamJob(w, *j, ids, func(photo string) (exchange.Picture, error) {
			p, err := s.Store.Photo(ctx, id, photo)
			if errors.Is(err, store.ErrNoPhoto) { // it came from a job file without its pictures
				return exchange.Picture{}, exchange.ErrNoPicture
			}
			return exchange.Picture{Data: p.Picture, Width: size[photo][0], Height: size[photo][1]}, err
		})
	}
}

// Stream sends a file as it is written. What fails when it has begun breaks the connection off: half a file is not
// taken for a whole one.
func Stream(c *gin.Context, name, kind string, write func(w io.Writer) error) error {
	named(c, name)
	c.Header("Content-Type", kind)
	c.Status(http.StatusOK)
	if err := write(c.Writer); err != nil {
		if !c.Writer.Written() {
			c.Writer.Header().Del("Content-Disposition")
			return err
		}
		panic(http.ErrAbortHandler)
	}
	return nil
}

// Download sends bytes as a file.
func Download(c *gin.Context, name, kind string, data []byte) {
	named(c, name)
	c.Data(http.StatusOK, kind, data)
}

// named names a file, in the plain and in the UTF-8 form (RFC 6266).
func named(c *gin.Context, name string) {
	plain := strings.Map(func(r rune) rune {
		if r < 32 || r > 126 || strings.ContainsRune(`"\/:*?<>|%;`, r) {
			return '_'
		}
		return r
	}, name)
	c.Header(
		"Content-Disposition",
		fmt.Sprintf(`attachment; filename="%s"; filename*=UTF-8''%s`, plain, url.PathEscape(name)),
	)
}

// Bounds of what is brought: a table or a list with its form, and a job file.
const (
	MaxUpload  = exchange.MaxBytes + 1<<20
	MaxJobFile = exchange.MaxFileBytes
)

// Edited gives a copy of a list that can be edited; one that is begun by hand has its heading.
func Edited(kind gather.SheetKind, old *gather.Sheet) gather.Sheet {
	sheet := gather.Sheet{}
	if old != nil {
		sheet = *old
		sheet.Edits, sheet.Gone = slices.Clone(old.Edits), slices.Clone(old.Gone)
	}
	if len(sheet.Cells) == 0 {
		line := []string{}
		for _, f := range kind.Fields() {
			line = append(line, f.Title)
		}
		sheet.Cells = [][]string{line}
	}
	return sheet
}

// Put puts cells right in a list, the last of those that are about one cell.
func Put(sheet *gather.Sheet, edits []gather.CellEdit) {
	type cell struct {
		line  int
		field string
	}
	last := map[cell]int{}
	for i, e := range edits {
		last[cell{e.Line, e.Field}] = i
	}
	sheet.Edits = slices.DeleteFunc(sheet.Edits, func(e gather.CellEdit) bool {
		_, again := last[cell{e.Line, e.Field}]
		return again
	})
	for i, e := range edits {
		if last[cell{e.Line, e.Field}] == i {
			sheet.Edits = append(sheet.Edits, e)
		}
	}
}

// SheetLine is a list of the structure with how much is in it.
type SheetLine struct {
	Kind     gather.SheetKind `json:"kind"`
	Rows     int              `json:"rows"`
	Rejected int              `json:"rejected"`
}

// TableMeta is what a person says of a table.
type TableMeta struct {
	Name   string        `json:"name"`
	Source string        `json:"source,omitempty"`
	Date   string        `json:"date,omitempty"`
	Trust  harness.Trust `json:"trust"`
	Origin string        `json:"origin,omitempty"` // what its connectors come from, as Vehicles names it
	With   match.Side    `json:"with,omitempty"`   // of a further pinout: the side whose harness it belongs to
}

// Table gives the table with what is said of it.
func (m TableMeta) Table(cells [][]string, o gather.Options) stored.Table {
	return stored.Table{Name: m.Name, Source: m.Source, Date: m.Date, Trust: m.Trust, Origin: m.Origin, With: m.With,
		Cells: cells, Options: o}
}
