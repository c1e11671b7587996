package feedapi

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/stored"
	"draxel/core/vehicle"
	"draxel/server/desk"
)

// showUsual proposes what a vehicle usually has, for the lists in which nobody has said anything.
func (s *API) showUsual(c *gin.Context, j *desk.Computed) error {
	c.JSON(http.StatusOK, UsualView{Revision: j.Revision, Lines: desk.OrEmpty(fact.UsualFeeds(j.Job, &j.Facts))})
	return nil
}

// takeUsual puts lines that are proposed into the lists, each with the note that nobody has looked at it; or takes that
// note off the lines of a list, since somebody has.
func (s *API) takeUsual(c *gin.Context) error {
	r, err := desk.Read[UsualRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if r.So != "" {
			return s.lookedAt(c, j, &r)
		}
		sheets := map[gather.SheetKind]gather.Sheet{}
		next := map[gather.SheetKind]int{}
		proposed := map[UsualLine]vehicle.Proposed{}
		for _, p := range fact.UsualFeeds(j.Job, &j.Facts) {
			proposed[UsualLine{p.List, p.Name}] = p
		}
		for _, line := range r.Lines {
			p, known := proposed[line]
			if !known {
				return desk.Refusal(http.StatusUnprocessableEntity, "no-such-line",
					line.Name+" is not proposed, or not any more.", "/lines")
			}
			delete(proposed, line) // it is taken once
			kind := gather.SheetKind(line.List)
			sheet, begun := sheets[kind]
			if !begun {
				sheet = desk.Edited(kind, j.Job.Sheets[kind])
				was, err := gather.ReadSheet(kind, sheet)
				if err != nil {
					return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(err.Error()), "")
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
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-taken", "No line was taken.", "/lines")
		}
		bodies, from := map[string]any{}, map[string]any{}
		for kind, sheet := range sheets {
			subject := stored.SubjectAt[gather.Sheet](string(kind))
			bodies[subject], from[subject] = sheet, desk.Edited(kind, j.Job.Sheets[kind])
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "usual", Seen: r.Seen, Base: j.Revision, Bodies: bodies, From: from})
	})
}

// lookedAt takes the note off the lines of a list that were only usual.
func (s *API) lookedAt(c *gin.Context, j *desk.Computed, r *UsualRequest) error {
	kind := gather.SheetKind(r.So)
	if !slices.Contains(gather.FeedKinds(), kind) {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-list", "There is no such list.", "/so")
	}
	sheet := desk.Edited(kind, j.Job.Sheets[kind])
	was, err := gather.ReadSheet(kind, sheet)
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(err.Error()), "")
	}
	var edits []gather.CellEdit
	for _, row := range was.Rows {
		if strings.EqualFold(row.Cells["note"], vehicle.UsualNote) {
			edits = append(edits, gather.CellEdit{Line: row.Line, Field: "note", Text: "looked at"})
		}
	}
	if len(edits) == 0 {
		return desk.Refusal(http.StatusUnprocessableEntity, "nothing-taken", "Every line of it has been looked at.", "/so")
	}
	desk.Put(&sheet, edits)
	subject := stored.SubjectAt[gather.Sheet](string(kind))
	return s.Apply(c, desk.Change{ID: r.ID, What: "looked-at", Seen: r.Seen, Base: j.Revision,
		Bodies: map[string]any{subject: sheet}, From: map[string]any{subject: desk.Edited(kind, j.Job.Sheets[kind])}})
}
