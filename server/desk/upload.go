package desk

import (
	"encoding/json"
	"errors"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"draxel/core/gather"
	"draxel/exchange"
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

// Bounds of what is brought: a table or a list with its form, and a job file.
const (
	MaxUpload  = exchange.MaxBytes + 1<<20
	MaxJobFile = exchange.MaxFileBytes
)
