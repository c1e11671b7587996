package desk

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/exchange"
	"draxel/store"
)

// Problem is an error reply: problem details of RFC 9457 with a stable code and, where a field or a row is to blame, a
// pointer to it.
type Problem struct {
	Title   string `json:"title"`
	Status  int    `json:"status"`
	Code    string `json:"code"`
	Detail  string `json:"detail"`
	Pointer string `json:"pointer,omitempty"`
}

func (p *Problem) Error() string { return p.Code + ": " + p.Detail }

// Refusal is a problem: its HTTP status, its code, which is stable, a sentence, and the field or row that it is about.
func Refusal(status int, code, detail, pointer string) *Problem {
	return &Problem{Title: http.StatusText(status), Status: status, Code: code, Detail: detail, Pointer: pointer}
}

// asProblem finds the reply for an error from below.
func asProblem(err error) *Problem {
	var p *Problem
	var refusal *exchange.Refusal
	var stale *store.StaleError
	var later *store.LaterError
	var anothers *store.AnothersError
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &refusal):
		return Refusal(http.StatusUnprocessableEntity, refusal.Code, Sentence(refusal.Text), "")
	case errors.As(err, &tooLarge):
		return Refusal(http.StatusRequestEntityTooLarge, "too-large",
			fmt.Sprintf("That is more than %d MB.", tooLarge.Limit>>20), "")
	case errors.As(err, &later):
		return Refusal(http.StatusConflict, "changed-since", "It was changed again since, by "+later.Who+": take that back "+
			"first, in the history.", later.Subject)
	case errors.As(err, &stale):
		return Refusal(http.StatusConflict, "stale", "Somebody else changed this since you saw it. Nothing was changed: "+
			"look again and repeat.", stale.Subject)
	case errors.As(err, &anothers):
		return Refusal(http.StatusConflict, "undo-of-another", fmt.Sprintf("You have changed nothing here. The last "+
			"change is that of %s.", anothers.Entry.Who), fmt.Sprint(anothers.Entry.Seq))
	case errors.Is(err, store.ErrUsed):
		return Refusal(http.StatusConflict, "change-id-used", "That change id was used for something else. Nothing was "+
			"changed.",
			"/id")
	case errors.Is(err, os.ErrDeadlineExceeded):
		return Refusal(http.StatusRequestTimeout, "too-slow", "What was sent took too long to come, and nothing was "+
			"changed. Send it again.", "")
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded), errors.Is(err, sql.ErrConnDone),
		strings.Contains(err.Error(), "database is closed"): // database/sql has no name for that error
		return Refusal(http.StatusServiceUnavailable, "stopping", "Draxel is being stopped. Send it again when it is "+
			"back.", "")
	case errors.Is(err, store.ErrFull):
		return Refusal(http.StatusInsufficientStorage, "disk-full",
			"The disk is full, and nothing was changed. What was "+
				"stored is safe: make room and repeat the last step.", "")
	case errors.Is(err, store.ErrReadOnly):
		return Refusal(http.StatusServiceUnavailable, "read-only",
			"The folder with the jobs cannot be written, and nothing "+
				"was changed. What was stored is safe: let Draxel write there and repeat the last step.", "")
	case errors.Is(err, store.ErrBusy):
		return Refusal(http.StatusServiceUnavailable, "busy", "Another program is using the database, and nothing was "+
			"changed. Repeat the last step.", "")
	case errors.Is(err, store.ErrNoJob):
		return Refusal(http.StatusNotFound, "no-such-job", "There is no such job.", "")
	case errors.Is(err, store.ErrNoPhoto):
		return Refusal(http.StatusNotFound, "no-such-photo", "There is no such photograph.", "")
	case errors.Is(err, store.ErrNoUndo):
		return Refusal(http.StatusConflict, "nothing-to-undo", "There is nothing to undo.", "")
	}
	return Refusal(http.StatusInternalServerError, "fault", "Draxel made a mistake: "+err.Error(), "")
}

// DeviceFailed is the reply where a device outside fails: an address that is none is the request's own fault.
func DeviceFailed(code string, err error) *Problem {
	var refusal *exchange.Refusal
	if errors.As(err, &refusal) {
		return Refusal(http.StatusUnprocessableEntity, code, Sentence(refusal.Text), "/address")
	}
	return Refusal(http.StatusBadGateway, code, Sentence(err.Error()), "/address")
}

// Sentence gives a message from below a capital and a full stop.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	if r[0] >= 'a' && r[0] <= 'z' {
		r[0] -= 'a' - 'A'
	}
	if last := r[len(r)-1]; last != '.' && last != '?' && last != '!' {
		r = append(r, '.')
	}
	return string(r)
}

// Answer turns a handler that may fail into one for the router: an error becomes its problem reply.
func Answer(handle func(*gin.Context) error) gin.HandlerFunc {
	return func(c *gin.Context) {
		if err := handle(c); err != nil {
			Fail(c, err)
		}
	}
}

// Fail answers with what went wrong and ends the request.
func Fail(c *gin.Context, err error) {
	p := asProblem(err)
	body, err := json.Marshal(p)
	if err != nil {
		panic(err)
	}
	c.Data(p.Status, "application/problem+json", body)
	c.Abort()
}

// Read decodes a request's JSON body strictly.
func Read[T any](c *gin.Context) (T, error) {
	var v T
	d := json.NewDecoder(c.Request.Body)
	d.DisallowUnknownFields()
	if err := d.Decode(&v); err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) || errors.Is(err, os.ErrDeadlineExceeded) {
			return v, err
		}
		return v, Refusal(http.StatusBadRequest, "bad-request", Sentence("the request cannot be read: "+err.Error()), "")
	}
	return v, nil
}
