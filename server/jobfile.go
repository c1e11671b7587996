package server

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

// openJobFile makes a job of a job file, which is read as it comes: no more than one of its pictures is in memory.
func (s *Server) openJobFile(c *gin.Context) error {
	id := c.Query("id") // the client's, so that a retry makes no second job
	if id == "" || len(id) > 100 {
		id = s.newID()
	}
	return s.made(c, store.NewJob{ID: s.newID(), Request: id, Path: asked(c),
		Bring: func(n *store.NewJob, keep func(store.Picture) error) (err error) {
			n.Job, err = exchange.ReadJobFrom(c.Request.Body, func(id string, p exchange.Picture) error {
				return keep(store.Picture{ID: id, Picture: p.Data, Thumb: p.Thumb})
			})
			return err
		}})
}

// saveJobFile gives the job as one file, with its pictures or, where that is asked for, without them.
func (s *Server) saveJobFile(c *gin.Context) error {
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	write := s.jobFile(c.Request.Context(), state.ID, &state.Job)
	if c.Query("pictures") == "no" {
		write = func(w io.Writer) error { return exchange.WriteJob(w, state.Job, nil) }
	}
	return stream(c, state.Job.Title+".draxel.json", "application/json", write)
}

// jobFile writes a job with its pictures, one after the other.
func (s *Server) jobFile(ctx context.Context, id string, j *stored.Job) func(w io.Writer) error {
	ids := make([]string, len(j.Photos))
	size := map[string][2]int{}
	for i, x := range j.Photos {
		ids[i], size[x.ID] = x.ID, [2]int{x.Width, x.Height}
	}
	return func(w io.Writer) error {
		return exchange.StreamJob(w, *j, ids, func(photo string) (exchange.Picture, error) {
			p, err := s.store.Photo(ctx, id, photo)
			if errors.Is(err, store.ErrNoPhoto) { // it came from a job file without its pictures
				return exchange.Picture{}, exchange.ErrNoPicture
			}
			return exchange.Picture{Data: p.Picture, Width: size[photo][0], Height: size[photo][1]}, err
		})
	}
}

// stream sends a file as it is written. What fails when it has begun breaks the connection off: half a file is not
// taken for a whole one.
func stream(c *gin.Context, name, kind string, write func(w io.Writer) error) error {
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

// download sends bytes as a file.
func download(c *gin.Context, name, kind string, data []byte) {
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
