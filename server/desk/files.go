package desk

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/stored"
	"draxel/exchange"
	"draxel/store"
)

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
