package server

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/gather"
	"draxel/store"
)

// showUsual proposes what a vehicle usually has, for the lists in which nobody has said anything.
func (s *Server) showUsual(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, UsualView{Revision: j.Revision, Lines: orEmpty(fact.UsualFeeds(j.Job, &j.facts))})
	return nil
}

// takeUsual puts lines that are proposed into the lists, each with the note that nobody has looked at it; or takes that
// note off the lines of a list, since somebody has.
func (s *Server) takeUsual(c *gin.Context) error {
	r, err := read[UsualRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if r.So != "" {
			return s.lookedAt(c, j, &r)
		}
		sheets := map[gather.SheetKind]gather.Sheet{}
		next := map[gather.SheetKind]int{}
		proposed := map[UsualLine]feed.Proposed{}
		for _, p := range fact.UsualFeeds(j.Job, &j.facts) {
			proposed[UsualLine{p.List, p.Name}] = p
		}
		for _, line := range r.Lines {
			p, known := proposed[line]
			if !known {
				return problem(http.StatusUnprocessableEntity, "no-such-line",
					line.Name+" is not proposed, or not any more.", "/lines")
			}
			delete(proposed, line) // it is taken once
			kind := gather.SheetKind(line.List)
			sheet, begun := sheets[kind]
			if !begun {
				sheet = edited(kind, j.Job.Sheets[kind])
				was, err := gather.ReadSheet(kind, sheet)
				if err != nil {
					return problem(http.StatusUnprocessableEntity, "no-rows", sentence(err.Error()), "")
				}
				next[kind] = was.Next
			}
			for _, f := range kind.Fields() {
				if text := p.Cells[f.Name]; text != "" {
					sheet.Edits = append(sheet.Edits, gather.CellEdit{Line: next[kind], Field: f.Name, Text: text})
				}
			}
			next[kind]++
			sheets[kind] = sheet
		}
		if len(sheets) == 0 {
			return problem(http.StatusUnprocessableEntity, "nothing-taken", "No line was taken.", "/lines")
		}
		bodies := map[string]any{}
		for kind, sheet := range sheets {
			bodies[store.SubjectSheet(kind)] = sheet
		}
		return s.apply(c, change{id: r.ID, what: "usual", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// lookedAt takes the note off the lines of a list that were only usual.
func (s *Server) lookedAt(c *gin.Context, j *computed, r *UsualRequest) error {
	kind := gather.SheetKind(r.So)
	if !slices.Contains(gather.FeedKinds(), kind) {
		return problem(http.StatusUnprocessableEntity, "no-such-list", "There is no such list.", "/so")
	}
	sheet := edited(kind, j.Job.Sheets[kind])
	was, err := gather.ReadSheet(kind, sheet)
	if err != nil {
		return problem(http.StatusUnprocessableEntity, "no-rows", sentence(err.Error()), "")
	}
	var edits []gather.CellEdit
	for _, row := range was.Rows {
		if strings.EqualFold(row.Cells["note"], feed.UsualNote) {
			edits = append(edits, gather.CellEdit{Line: row.Line, Field: "note", Text: "looked at"})
		}
	}
	if len(edits) == 0 {
		return problem(http.StatusUnprocessableEntity, "nothing-taken", "Every line of it has been looked at.", "/so")
	}
	put(&sheet, edits)
	return s.apply(c, change{id: r.ID, what: "looked-at", seen: r.Seen, base: j.Revision,
		bodies: map[string]any{store.SubjectSheet(kind): sheet}})
}
