package desk

import (
	"context"
	"errors"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/store"
)

// loopback says whether a Host or the host of an Origin is this machine by a name that no other can take. A page from
// elsewhere whose name has been made to point here (DNS rebinding) has its own name in Host, and is refused.
func loopback(hostport string) bool {
	host := hostport
	if h, _, err := net.SplitHostPort(hostport); err == nil {
		host = h
	}
	return host == "localhost" || host == "127.0.0.1" || host == "::1" || host == "[::1]"
}

// guarded refuses requests under another name than the loopback's, or than this machine's own number where the local
// network is let in, and writes from other origins.
func (s *Desk) guarded(c *gin.Context) {
	if !loopback(c.Request.Host) && !s.access.own(c.Request.Host) {
		Fail(c, Refusal(http.StatusForbidden, "wrong-host", "Draxel does not answer to this name.", ""))
		return
	}
	if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		origin := c.GetHeader("Origin")
		u, err := url.Parse(origin)
		if origin != "" && (err != nil || u.Host != c.Request.Host) {
			Fail(c, Refusal(http.StatusForbidden, "wrong-origin", "This change came from another page.", ""))
			return
		}
		if site := c.GetHeader("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
			Fail(c, Refusal(http.StatusForbidden, "wrong-origin", "This change came from another page.", ""))
			return
		}
	}
	c.Next()
}

// secured sets the headers that keep a page from doing what ours never does. Styles are set by the component library at
// run time, hence the one exception.
func secured(c *gin.Context) {
	h := c.Writer.Header()
	h.Set(
		"Content-Security-Policy",
		"default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; "+
			"object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'",
	)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Next()
}

func noStore(c *gin.Context) {
	c.Header("Cache-Control", "no-store")
	c.Next()
}

// uploads is how many large files are taken in at once; the others wait, so that the memory they take is bounded.
const uploads = 2

// longestUpload is how long it may take to take in what has come: a job file may have two thousand photographs, each of
// which is unpacked.
const longestUpload = 30 * time.Minute

// Queued lets large files in one after the other. One waits for its turn when it has come as a whole, on disk: whoever
// sends slowly keeps nobody waiting.
func (s *Desk) Queued(c *gin.Context) {
	if c.Request.Body != nil && c.Request.Body != http.NoBody {
		f, err := s.Store.Temporary()
		if err != nil {
			Fail(c, err)
			return
		}
		defer func() { _ = errors.Join(f.Close(), os.Remove(f.Name())) }() // the next start clears it away otherwise
		if _, err = io.Copy(f, c.Request.Body); err == nil {
			_, err = f.Seek(0, io.SeekStart)
		}
		if err != nil {
			Fail(c, store.Told(err))
			return
		}
		c.Request.Body = f
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), longestUpload)
	defer cancel()
	c.Request = c.Request.WithContext(ctx)
	select {
	case s.uploading <- struct{}{}:
		defer func() { <-s.uploading }()
		c.Next()
	case <-ctx.Done():
		Fail(c, ctx.Err())
	}
}

// Limited bounds what a request may send.
func Limited(bytes int64) gin.HandlerFunc {
	return func(c *gin.Context) {
		c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, bytes)
		c.Next()
	}
}

// How long the body of a request may take to come: so long, and a second more for each so many bytes that are said to
// come.
var bodyTime = 30 * time.Second

const bodySpeed = 64 << 10

// paced bounds how long the body of a request may take, and no more than that: what is done with it has its own time.
func paced(c *gin.Context) {
	if c.Request.Body == nil || c.Request.Body == http.NoBody {
		return
	}
	rc := http.NewResponseController(c.Writer)
	most := bodyTime + time.Duration(max(0, c.Request.ContentLength)/bodySpeed)*time.Second
	if c.Request.ContentLength < 0 { // nobody says how much comes
		most = 10 * bodyTime
	}
	if rc.SetReadDeadline(time.Now().Add(most)) == nil { // a writer of a test has no connection
		c.Request.Body = &pacedBody{c.Request.Body, rc}
	}
}

// pacedBody lifts the deadline when all has come.
type pacedBody struct {
	io.ReadCloser
	rc *http.ResponseController
}

func (b *pacedBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if errors.Is(err, io.EOF) { // what does not come is not waited for any longer, also when the rest is passed over
		_ = b.rc.SetReadDeadline(time.Time{}) // else the connection is gone
	}
	return n, err
}

// logged writes one line a request, without anything that a customer typed.
func (s *Desk) logged(c *gin.Context) {
	start, id := s.Now(), s.NewID()
	c.Header("X-Request-Id", id)
	c.Next()
	if s.log != nil {
		s.log.Info(
			"request",
			"id",
			id,
			"method",
			c.Request.Method,
			"route",
			c.FullPath(),
			"status",
			c.Writer.Status(),
			"ms",
			s.Now().Sub(start).Milliseconds(),
		)
	}
}

func (s *Desk) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			if p == http.ErrAbortHandler { // a file that cannot be finished: the connection is broken off
				panic(p)
			}
			if s.log != nil {
				s.log.Error("panic", "route", c.FullPath(), "value", p)
			}
			Fail(
				c,
				Refusal(
					http.StatusInternalServerError,
					"fault",
					"Draxel made a mistake. Nothing was changed. Save the job file and send it to us.",
					"",
				),
			)
		}
	}()
	c.Next()
}
