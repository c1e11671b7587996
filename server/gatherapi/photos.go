package gatherapi

import (
	"encoding/json"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/store"
)

// applyEarlier brings an earlier job's decisions, each to be verified.
func (s *API) applyEarlier(c *gin.Context) error {
	r, err := desk.Read[EarlierRequest](c)
	if err != nil {
		return err
	}
	past, err := s.Store.Load(c.Request.Context(), r.Job)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		brought, err := fact.Earlier(j.Job, past.Job)
		if err != nil {
			return err
		}
		bodies := map[string]any{}
		for _, d := range brought.Thin {
			bodies[stored.SubjectOf(d)] = d
		}
		for _, d := range brought.Match {
			bodies[stored.SubjectOf(d)] = d
		}
		for _, x := range brought.Exchanges {
			bodies[stored.SubjectOf(x)] = x
		}
		if len(bodies) == 0 {
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-applies",
				"Nothing of that job applies to this one: no cavity, wire or device says the same in both.", "/job")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "earlier", Reason: past.Job.Title, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

// addPhoto keeps a photograph of a connector.
func (s *API) addPhoto(c *gin.Context) error {
	file, header, err := c.Request.FormFile("file")
	if err != nil {
		return desk.TooLargeOr(err, desk.Refusal(http.StatusBadRequest, "bad-request",
			"The picture did not arrive whole. Nothing was kept.", "/file"))
	}
	defer file.Close()
	data, err := io.ReadAll(io.LimitReader(file, exchange.MaxPicture+1))
	if err != nil {
		return err
	}
	var meta PhotoMeta
	if err := json.Unmarshal([]byte(c.Request.PostFormValue("meta")), &meta); err != nil || meta.Connector == "" ||
		meta.ID == "" {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-connector", "Say which connector it shows.", "/meta")
	}
	picture, err := exchange.ReadPicture(header.Filename, data)
	if err != nil {
		return err
	}
	p := stored.Photo{ID: meta.ID, Connector: meta.Connector, Note: meta.Note, Width: picture.Width,
		Height: picture.Height, Bytes: len(picture.Data), Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
	return s.Apply(c, desk.Change{ID: meta.ID, What: "photo", Seen: meta.Seen,
		Bodies:   desk.Keeping(p),
		Pictures: []store.Picture{{ID: p.ID, Picture: picture.Data, Thumb: picture.Thumb}}})
}

func (s *API) showPhoto(thumb bool) func(*gin.Context) error {
	return func(c *gin.Context) error {
		p, err := s.Store.Photo(c.Request.Context(), c.Param("job"), c.Param("fact"))
		if err != nil {
			return err
		}
		c.Header("Cache-Control", "private, max-age=31536000, immutable")
		data := p.Picture
		if thumb {
			data = p.Thumb
		}
		c.Data(http.StatusOK, "image/jpeg", data)
		return nil
	}
}
