package pinapi

import (
	"bytes"
	"fmt"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/exchange"
	"draxel/server/desk"
)

func listFaces(c *gin.Context) error {
	v := LibraryView{Faces: []FacePreview{}, Blades: terminal.Blades()}
	for _, l := range face.Library() {
		v.Faces = append(v.Faces, previewed(l))
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func previewed(l face.Layout) FacePreview {
	return FacePreview{Layout: l, Face: desk.Drawn(l), Ways: l.Ways()}
}

// readFace reads a face from words or takes the layout that was sent.
func readFace(r FaceRequest) (face.Layout, error) {
	if r.Layout != nil {
		if err := r.Layout.Check(); err != nil {
			return face.Layout{}, desk.Refusal(http.StatusUnprocessableEntity, "bad-face", desk.Sentence(err.Error()), "/layout")
		}
		return *r.Layout, nil
	}
	if len(r.Words) > 300 {
		return face.Layout{}, desk.Refusal(http.StatusUnprocessableEntity, "bad-face", "That is too much to say of a face.",
			"/words")
	}
	l, err := face.Parse(r.Words)
	if err != nil {
		return l, desk.Refusal(http.StatusUnprocessableEntity, "bad-face",
			desk.Sentence(strings.TrimPrefix(err.Error(), "read face: ")), "/words")
	}
	return l, nil
}

// previewFace shows what words say of a face, before it is kept.
func (s *API) previewFace(c *gin.Context) error {
	r, err := desk.Read[FaceRequest](c)
	if err != nil {
		return err
	}
	l, err := readFace(r)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, previewed(l))
	return nil
}

// putFace keeps what a connector's face is like.
func (s *API) putFace(c *gin.Context) error {
	r, err := desk.Read[FaceRequest](c)
	if err != nil {
		return err
	}
	var body any
	if r.Mate {
		return s.putMate(c, r)
	}
	if r.Words != "" || r.Layout != nil {
		l, err := readFace(r)
		if err != nil {
			return err
		}
		body = l
	}
	return s.Checked(c, func(j *desk.Computed) error {
		id := c.Param("connector")
		if !hasConnector(j, id) {
			return desk.Refusal(http.StatusNotFound, "no-such-connector", fmt.Sprintf("There is no connector %s.", id), "")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "face", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectAt[face.Layout](id): body}})
	})
}

// putMate gives a connector the face that its other half wants.
func (s *API) putMate(c *gin.Context, r FaceRequest) error {
	return s.Checked(c, func(j *desk.Computed) error {
		id := c.Param("connector")
		other := j.Job.Layouts[matesOf(j)[id]]
		if other == nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-mate",
				fmt.Sprintf("%s is half of no plug whose other face is known.", id), "/mate")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "face", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectAt[face.Layout](id): other.Mate()}})
	})
}

// matesOf gives the other half of each connector that has one whose face is known.
func matesOf(j *desk.Computed) map[string]string {
	out := map[string]string{}
	for i := range j.Facts.Laid.Loom.Connectors {
		h := &j.Facts.Laid.Loom.Connectors[i]
		if j.Job.Layouts[h.Mate] != nil {
			out[h.ID] = h.Mate
		}
		if h.Mate != "" && j.Job.Layouts[h.ID] != nil {
			out[h.Mate] = h.ID
		}
	}
	return out
}

// showFaces lists the connectors with their faces.
func (s *API) showFaces(c *gin.Context, j *desk.Computed) error {
	v := FacesView{Revision: j.Revision, Connectors: slices.Clone(j.Plan().Housings), Mates: matesOf(j)}
	for i := range j.Facts.Laid.Loom.Connectors {
		h := j.Facts.Laid.Loom.Connectors[i].Connector
		if !slices.ContainsFunc(v.Connectors, func(x harness.Connector) bool { return x.ID == h.ID }) && h.Ways() > 0 {
			v.Connectors = append(v.Connectors, h)
		}
	}
	v.Connectors = desk.OrEmpty(v.Connectors)
	v.Faces = desk.FacesOf(v.Connectors)
	c.JSON(http.StatusOK, v)
	return nil
}

func hasConnector(j *desk.Computed, id string) bool {
	return slices.ContainsFunc(j.Plan().Housings, func(h harness.Connector) bool { return h.ID == id }) ||
		slices.ContainsFunc(j.Facts.Laid.Loom.Connectors, func(h harness.Half) bool { return h.ID == id })
}

// saveFaces gives the job's faces as a file.
func (s *API) saveFaces(c *gin.Context) error {
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WriteFaces(&b, state.Job.Layouts); err != nil {
		return err
	}
	desk.Download(c, state.Job.Title+" faces.json", "application/json", b.Bytes())
	return nil
}

// openFaces takes faces from a file, for the connectors that the job has.
func (s *API) openFaces(c *gin.Context) error {
	data, err := io.ReadAll(c.Request.Body)
	if err != nil {
		return err
	}
	faces, err := exchange.ReadFaces(data)
	if err != nil {
		return err
	}
	id := c.Query("id")
	return s.Checked(c, func(j *desk.Computed) error {
		bodies := map[string]any{}
		for name, l := range faces {
			if hasConnector(j, name) {
				bodies[stored.SubjectAt[face.Layout](name)] = l
			}
		}
		if len(bodies) == 0 {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-connector",
				"The file has faces for no connector of this job: "+strings.Join(slices.Sorted(maps.Keys(faces)), ", ")+".", "")
		}
		return s.Apply(c, desk.Change{ID: id, What: "face", Seen: j.Revision, Base: j.Revision, Bodies: bodies})
	})
}

func (s *API) putHave(c *gin.Context) error {
	r, err := desk.Read[HaveRequest](c)
	if err == nil && len(r.Have) > 1000 {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-action", "That is too much.", "/have")
	}
	if err != nil {
		return err
	}
	have := maps.Clone(r.Have)
	maps.DeleteFunc(have, func(name string, there bool) bool { return !there || len(name) > 300 })
	return s.Apply(c, desk.Change{ID: r.ID, What: "parts", Seen: r.Seen, Bodies: map[string]any{stored.SubjectHave: have}})
}

// wish puts a step before another where hands could do it so.
func (s *API) wish(c *gin.Context) error {
	r, err := desk.Read[WishRequest](c)
	if err == nil && r.Step == "" {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-such-step", "Say which step.", "/step")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		var body any
		if r.Then != "" {
			w := pin.Wish{Step: r.Step, Then: r.Then, Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
			steps := make([]pin.Step, len(j.Plan().Steps))
			for i := range j.Plan().Steps {
				steps[i] = j.Plan().Steps[i].Step
			}
			now := j.Plan().Pin.Now
			if _, err := pin.Reorder(now, steps, max(j.Plan().Pin.Limit, now.InHand()), w); err != nil {
				return desk.Refusal(http.StatusUnprocessableEntity, "cannot-be", desk.Sentence(err.Error()), "/then")
			}
			body = w
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "order", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(pin.Wish{Step: r.Step}): body}})
	})
}

// exchangeOutputs exchanges two outputs of the unit for one another, within one kind only.
func (s *API) exchangeOutputs(c *gin.Context) error {
	r, err := desk.Read[ExchangeRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		a, okA := j.Facts.To.Row(r.A)
		if !okA {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.A), "/a")
		}
		bodies := map[string]any{}
		for _, x := range j.Job.Exchanges { // an output is exchanged with one other at a time
			if x.A == r.A || x.B == r.A || r.B != (harness.Ref{}) && (x.A == r.B || x.B == r.B) {
				bodies[stored.SubjectOf(x)] = nil
			}
		}
		if r.B != (harness.Ref{}) {
			b, okB := j.Facts.To.Row(r.B)
			if why := match.CannotExchange(&a.Signal, &b.Signal); why != "" || !okB || r.A == r.B {
				return desk.Refusal(http.StatusUnprocessableEntity, "unlike-outputs",
					desk.Sentence(fmt.Sprintf("%s and %s cannot be exchanged: %s", r.A, r.B, orWhy(why))), "/b")
			}
			bodies[stored.SubjectOf(pin.Exchange{A: r.A})] = pin.Exchange{A: r.A, B: r.B, Reason: strings.TrimSpace(r.Reason),
				Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
		}
		if len(bodies) == 0 {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-action", fmt.Sprintf("%s is not exchanged.", r.A), "/a")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "exchange", Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

func orWhy(why string) string {
	if why == "" {
		return "there are not two outputs"
	}
	return why
}

// showCheck gives what a second check goes by. It does not say what the first person has ticked.
func (s *API) showCheck(c *gin.Context, j *desk.Computed) error {
	v := CheckView{Revision: j.Revision, Expected: desk.OrEmpty(j.Plan().Pin.Expected), Checks: desk.OrEmpty(j.Job.Checks),
		Faces: desk.FacesOf(j.Plan().Housings), Left: len(j.Plan().Steps)}
	c.JSON(http.StatusOK, v)
	return nil
}

// check keeps what a second check found in a cavity.
func (s *API) check(c *gin.Context) error {
	r, err := desk.Read[CheckRequest](c)
	if err == nil {
		err = desk.CheckRef(r.At, "/at")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if !slices.ContainsFunc(j.Plan().Pin.Expected, func(e pin.Expected) bool { return e.At == r.At }) {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-cavity",
				fmt.Sprintf("Nothing is to be checked in %s.", r.At), "/at")
		}
		var body any
		if !r.Drop {
			body = pin.Check{At: r.At, OK: r.OK, Saw: strings.TrimSpace(r.Saw), Who: desk.Who(c),
				When: s.Now().UTC().UnixMilli()}
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "second-check", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(pin.Check{At: r.At}): body}})
	})
}
