package desk

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// longestWrite is how long a change may take once the client that asked for it is gone.
const longestWrite = time.Minute

// finishing lets a change run to its end whatever the client does: what has reached the server is written, also when
// the page was left at once.
func finishing(c *gin.Context) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		return
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), longestWrite)
	defer cancel()
	c.Request = c.Request.WithContext(ctx)
	c.Next()
}

// contentKey is where a request keeps the sum of what it says.
const contentKey = "draxel-content"

// content gives the sum of what a change says, but for its id and what its page had seen, which a page may say anew
// when it repeats it; empty for what cannot be read.
func content(body []byte) string {
	var said map[string]any
	d := json.NewDecoder(bytes.NewReader(body))
	d.UseNumber()
	if d.Decode(&said) != nil {
		return ""
	}
	delete(said, "id")
	delete(said, "seen")
	text, err := json.Marshal(said) // in the order of its keys
	if err != nil {
		return ""
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:8])
}

// Asked names what a change is asked of, its method and what comes after the job in its address, and the sum of what it
// says where that is known.
func Asked(c *gin.Context) string {
	path := strings.TrimPrefix(c.Request.URL.Path, "/api")
	if job := c.Param("job"); job != "" {
		path = strings.TrimPrefix(path, "/jobs/"+job)
	}
	if sum := c.GetString(contentKey); sum != "" {
		path += " #" + sum
	}
	return c.Request.Method + " " + path
}

// mostJSON bounds a change that is sent as JSON; what may be larger says so at its route.
const mostJSON = 4 << 20

// once answers a change that came through before with the revision that it made: a browser that lost the reply sends it
// again. An id that was used for something else is refused.
func (s *Desk) once(c *gin.Context) {
	kind := c.ContentType()
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead || kind != "application/json" {
		return
	}
	body, err := io.ReadAll(http.MaxBytesReader(c.Writer, c.Request.Body, mostJSON))
	if err != nil {
		Fail(c, err)
		return
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(body))
	var r struct {
		ID string `json:"id"`
	}
	if json.Unmarshal(body, &r) != nil || r.ID == "" {
		return // the handler says what is wrong with it
	}
	c.Set(contentKey, content(body))
	revision, err := s.Store.Known(c.Request.Context(), c.Param("job"), r.ID, Asked(c))
	switch {
	case err != nil:
		Fail(c, err)
	case revision > 0:
		c.AbortWithStatusJSON(http.StatusOK, Done{Job: c.Param("job"), Revision: revision})
	}
}

// Letter is a change that waited in a browser: where it goes and what it says.
type Letter struct {
	Method string          `json:"method"`
	Path   string          `json:"path"` // below the job: "/match/decide"
	Hand   string          `json:"hand,omitempty"`
	Upon   string          `json:"upon,omitempty"` // the change of the same hand that it goes on from
	Body   json.RawMessage `json:"body"`
}

// LettersRequest brings the changes that a page had not sent when it was closed, in their order.
type LettersRequest struct {
	Letters []Letter `json:"letters"`
}

// LettersReply says how far they came: how many were carried out, or had been before.
type LettersReply struct {
	Done int `json:"done"`
}

const mostLetters = 200

// letters carries changes out one after the other, each as if it had come by itself, until one is refused: what comes
// after it waits in the browser.
func (s *Desk) letters(r http.Handler) func(*gin.Context) error {
	return func(c *gin.Context) error {
		all, err := Read[LettersRequest](c)
		if err != nil {
			return err
		}
		if len(all.Letters) > mostLetters {
			return Refusal(http.StatusUnprocessableEntity, "too-much", "Those are too many changes at once.", "/letters")
		}
		done := 0
		for _, l := range all.Letters {
			if !strings.HasPrefix(l.Path, "/") || strings.HasPrefix(l.Path, "/letters") || l.Method != http.MethodPost &&
				l.Method != http.MethodPut {
				return Refusal(http.StatusUnprocessableEntity, "no-action", "That is no change of a job.", "/letters")
			}
			one, err := http.NewRequestWithContext(c.Request.Context(), l.Method, "/api/jobs/"+c.Param("job")+l.Path,
				bytes.NewReader(l.Body))
			if err != nil {
				return Refusal(http.StatusUnprocessableEntity, "no-action", "That is no change of a job.", "/letters")
			}
			one.Header, one.Host, one.RemoteAddr = c.Request.Header.Clone(), c.Request.Host, c.Request.RemoteAddr
			one.Header.Set("Content-Type", "application/json")
			one.Header.Set("Draxel-Hand", cmp.Or(l.Hand, Hand(c)))
			one.Header.Set("Draxel-Upon", l.Upon)
			reply := httptest.NewRecorder()
			r.ServeHTTP(reply, one)
			if reply.Code >= http.StatusMultipleChoices {
				break
			}
			done++
		}
		c.JSON(http.StatusOK, LettersReply{done})
		return nil
	}
}
