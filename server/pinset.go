package server

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
	"draxel/core/terminal"
	"draxel/exchange"
	"draxel/store"
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
	return FacePreview{Layout: l, Face: drawn(l), Ways: l.Ways()}
}

// readFace reads a face from words or takes the layout that was sent.
func readFace(r FaceRequest) (face.Layout, error) {
	if r.Layout != nil {
		if err := r.Layout.Check(); err != nil {
			return face.Layout{}, problem(http.StatusUnprocessableEntity, "bad-face", sentence(err.Error()), "/layout")
		}
		return *r.Layout, nil
	}
	if len(r.Words) > 300 {
		return face.Layout{}, problem(http.StatusUnprocessableEntity, "bad-face", "That is too much to say of a face.", "/words")
	}
	l, err := face.Parse(r.Words)
	if err != nil {
		return l, problem(http.StatusUnprocessableEntity, "bad-face", sentence(strings.TrimPrefix(err.Error(), "read face: ")), "/words")
	}
	return l, nil
}

// previewFace shows what words say of a face, before it is kept.
func (s *Server) previewFace(c *gin.Context) error {
	r, err := read[FaceRequest](c)
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
func (s *Server) putFace(c *gin.Context) error {
	r, err := read[FaceRequest](c)
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
	return s.checked(c, func(j *computed) error {
		id := c.Param("connector")
		if !j.hasConnector(id) {
			return problem(http.StatusNotFound, "no-such-connector", fmt.Sprintf("There is no connector %s.", id), "")
		}
		return s.apply(c, change{id: r.ID, what: "face", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectLayout(id): body}})
	})
}

// putMate gives a connector the face that its other half wants.
func (s *Server) putMate(c *gin.Context, r FaceRequest) error {
	return s.checked(c, func(j *computed) error {
		id := c.Param("connector")
		other := j.Job.Layouts[j.mates()[id]]
		if other == nil {
			return problem(http.StatusUnprocessableEntity, "no-mate", fmt.Sprintf("%s is half of no plug whose other face is known.", id), "/mate")
		}
		return s.apply(c, change{id: r.ID, what: "face", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectLayout(id): other.Mate()}})
	})
}

// mates gives the other half of each connector that has one whose face is known.
func (j *computed) mates() map[string]string {
	out := map[string]string{}
	for i := range j.facts.Laid.Loom.Connectors {
		h := &j.facts.Laid.Loom.Connectors[i]
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
func (s *Server) showFaces(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	v := FacesView{Revision: j.Revision, Connectors: slices.Clone(j.plan().Housings), Mates: j.mates()}
	for i := range j.facts.Laid.Loom.Connectors {
		h := j.facts.Laid.Loom.Connectors[i].Connector
		if !slices.ContainsFunc(v.Connectors, func(x harness.Connector) bool { return x.ID == h.ID }) && h.Ways() > 0 {
			v.Connectors = append(v.Connectors, h)
		}
	}
	v.Connectors = orEmpty(v.Connectors)
	v.Faces = facesOf(v.Connectors)
	c.JSON(http.StatusOK, v)
	return nil
}

func (j *computed) hasConnector(id string) bool {
	return slices.ContainsFunc(j.plan().Housings, func(h harness.Connector) bool { return h.ID == id }) ||
		slices.ContainsFunc(j.facts.Laid.Loom.Connectors, func(h harness.Half) bool { return h.ID == id })
}

// saveFaces gives the job's faces as a file.
func (s *Server) saveFaces(c *gin.Context) error {
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WriteFaces(&b, state.Job.Layouts); err != nil {
		return err
	}
	download(c, state.Job.Title+" faces.json", "application/json", b.Bytes())
	return nil
}

// openFaces takes faces from a file, for the connectors that the job has.
func (s *Server) openFaces(c *gin.Context) error {
	data, err := io.ReadAll(c.Request.Body)
	if err != nil {
		return err
	}
	faces, err := exchange.ReadFaces(data)
	if err != nil {
		return err
	}
	id := c.Query("id")
	return s.checked(c, func(j *computed) error {
		bodies := map[string]any{}
		for name, l := range faces {
			if j.hasConnector(name) {
				bodies[store.SubjectLayout(name)] = l
			}
		}
		if len(bodies) == 0 {
			return problem(http.StatusUnprocessableEntity, "no-such-connector", "The file has faces for no connector of this job: "+strings.Join(sortedKeys(faces), ", ")+".", "")
		}
		return s.apply(c, change{id: id, what: "face", seen: j.Revision, base: j.Revision, bodies: bodies})
	})
}

func (s *Server) putHave(c *gin.Context) error {
	r, err := read[HaveRequest](c)
	if err == nil && len(r.Have) > 1000 {
		err = problem(http.StatusUnprocessableEntity, "no-action", "That is too much.", "/have")
	}
	if err != nil {
		return err
	}
	have := maps.Clone(r.Have)
	maps.DeleteFunc(have, func(name string, there bool) bool { return !there || len(name) > 300 })
	return s.apply(c, change{id: r.ID, what: "parts", seen: r.Seen, bodies: map[string]any{store.SubjectHave: have}})
}

// wish puts a step before another where hands could do it so.
func (s *Server) wish(c *gin.Context) error {
	r, err := read[WishRequest](c)
	if err == nil && r.Step == "" {
		err = problem(http.StatusUnprocessableEntity, "no-such-step", "Say which step.", "/step")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		var body any
		if r.Then != "" {
			w := pin.Wish{Step: r.Step, Then: r.Then, Who: who(c), When: s.now().UTC().UnixMilli()}
			steps := make([]pin.Step, len(j.plan().Steps))
			for i := range j.plan().Steps {
				steps[i] = j.plan().Steps[i].Step
			}
			now := j.plan().Pin.Now
			if _, err := pin.Reorder(now, steps, max(j.plan().Pin.Limit, now.InHand()), w); err != nil {
				return problem(http.StatusUnprocessableEntity, "cannot-be", sentence(err.Error()), "/then")
			}
			body = w
		}
		return s.apply(c, change{id: r.ID, what: "order", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectWish(r.Step): body}})
	})
}

// exchangeOutputs exchanges two outputs of the unit for one another, within one kind only.
func (s *Server) exchangeOutputs(c *gin.Context) error {
	r, err := read[ExchangeRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		a, okA := j.facts.To.Row(r.A)
		if !okA {
			return problem(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.A), "/a")
		}
		bodies := map[string]any{}
		for _, x := range j.Job.Exchanges { // an output is exchanged with one other at a time
			if x.A == r.A || x.B == r.A || r.B != (harness.Ref{}) && (x.A == r.B || x.B == r.B) {
				bodies[store.SubjectExchange(x.A)] = nil
			}
		}
		if r.B != (harness.Ref{}) {
			b, okB := j.facts.To.Row(r.B)
			if why := match.CannotExchange(&a.Signal, &b.Signal); why != "" || !okB || r.A == r.B {
				return problem(http.StatusUnprocessableEntity, "unlike-outputs", sentence(fmt.Sprintf("%s and %s cannot be exchanged: %s", r.A, r.B, orWhy(why))), "/b")
			}
			bodies[store.SubjectExchange(r.A)] = pin.Exchange{A: r.A, B: r.B, Reason: strings.TrimSpace(r.Reason), Who: who(c), When: s.now().UTC().UnixMilli()}
		}
		if len(bodies) == 0 {
			return problem(http.StatusUnprocessableEntity, "no-action", fmt.Sprintf("%s is not exchanged.", r.A), "/a")
		}
		return s.apply(c, change{id: r.ID, what: "exchange", reason: r.Reason, seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

func orWhy(why string) string {
	if why == "" {
		return "there are not two outputs"
	}
	return why
}

// showCheck gives what a second check goes by. It does not say what the first person has ticked.
func (s *Server) showCheck(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	v := CheckView{Revision: j.Revision, Expected: orEmpty(j.plan().Pin.Expected), Checks: orEmpty(j.Job.Checks),
		Faces: facesOf(j.plan().Housings), Left: len(j.plan().Steps)}
	c.JSON(http.StatusOK, v)
	return nil
}

// check keeps what a second check found in a cavity.
func (s *Server) check(c *gin.Context) error {
	r, err := read[CheckRequest](c)
	if err == nil {
		err = checkRef(r.At, "/at")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if !slices.ContainsFunc(j.plan().Pin.Expected, func(e pin.Expected) bool { return e.At == r.At }) {
			return problem(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("Nothing is to be checked in %s.", r.At), "/at")
		}
		var body any
		if !r.Drop {
			body = pin.Check{At: r.At, OK: r.OK, Saw: strings.TrimSpace(r.Saw), Who: who(c), When: s.now().UTC().UnixMilli()}
		}
		return s.apply(c, change{id: r.ID, what: "second-check", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectCheck(r.At): body}})
	})
}
