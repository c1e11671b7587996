package gatherapi

import (
	"encoding/json"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/stored"
	"draxel/server/desk"
	"draxel/store"
)

// showGather gives everything of Gather beside the pinout tables.
func (s *API) showGather(c *gin.Context, j *desk.Computed) error {
	job := j.Job
	v := GatherView{Revision: j.Revision, Choices: gather.Choices(), Functions: gather.Functions(), Photos: job.Photos,
		Readings: job.Readings, Traces: job.Traces,
		Open: []OpenItem{}, Connectors: []ConnectorLine{}, Sheets: []desk.SheetLine{},
		KeyTable: gather.KeyTable(slices.Clone(job.Readings)), Beliefs: j.Facts.Laid.Beliefs,
		Queue: gather.Queue(&j.Facts.Laid.Loom), Findings: []finding.Finding{}}
	if job.Identity != nil {
		v.Identity = *job.Identity
		for _, i := range job.Identity.OpenItems() {
			v.Open = append(v.Open, OpenItem{i, job.Items[i.ID]})
		}
	}
	if job.Before != nil {
		v.Before = *job.Before
	}
	photos := map[string]int{}
	for _, p := range job.Photos {
		photos[p.Connector]++
	}
	wires, inBranch := desk.WireCounts(&j.Facts.Laid.Loom)
	for i := range j.Facts.Laid.Loom.Connectors {
		h := &j.Facts.Laid.Loom.Connectors[i]
		l := job.Looked[h.ID]
		v.Connectors = append(v.Connectors, ConnectorLine{h.ID, h.Device, h.Branch, wires[h.ID], h.Locked, l, l.Replace(),
			photos[h.ID]})
	}
	for _, b := range j.Facts.Laid.Loom.Branches { // a branch has a condition too
		id := "branch " + b.ID
		l := job.Looked[id]
		v.Connectors = append(v.Connectors, ConnectorLine{ID: id, Branch: b.ID, Wires: inBranch[b.ID], Looked: l,
			Replace: l.Replace(), Photos: photos[id]})
	}
	for _, kind := range gather.SheetKinds() {
		line := desk.SheetLine{Kind: kind}
		if sheet := job.Sheets[kind]; sheet != nil {
			if r, err := gather.ReadSheet(kind, *sheet); err == nil {
				line.Rows, line.Rejected = len(r.Rows), len(r.Rejected)
			}
		}
		v.Sheets = append(v.Sheets, line)
	}
	for _, f := range j.Plan().Findings {
		if f.Stage == "gather" {
			v.Findings = append(v.Findings, f)
		}
	}
	v.fill()
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *API) putIdentity(c *gin.Context) error {
	r, err := desk.Read[IdentityRequest](c)
	if err != nil {
		return err
	}
	for _, o := range r.Identity.Sources {
		if strings.TrimSpace(o.Name) == "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-name", "Give each source a name.", "/identity/sources")
		}
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "identity", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectOf(gather.Identity{}): r.Identity}})
}

func (s *API) putItems(c *gin.Context) error {
	r, err := desk.Read[ItemsRequest](c)
	if err != nil {
		return err
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "items", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectItems: r.Items}})
}

func (s *API) putBefore(c *gin.Context) error {
	r, err := desk.Read[BeforeRequest](c)
	if err != nil {
		return err
	}
	for i := range r.Before.Unplugged {
		u := &r.Before.Unplugged[i]
		if why := u.Refuses(); why != "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "not-to-be-unplugged", desk.Sentence(u.Item+": "+why),
				"/before/unplugged/"+strconv.Itoa(i))
		}
		if u.When == 0 {
			u.Who, u.When = desk.Who(c), s.Now().UTC().UnixMilli()
		}
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "before", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectOf(gather.Before{}): r.Before}})
}

func (s *API) putLooked(c *gin.Context) error {
	r, err := desk.Read[LookedRequest](c)
	if err != nil {
		return err
	}
	if r.Looked.Counted < 0 || r.Looked.Counted > 1000 {
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-count", "Count the wires at the plug: 1 to 1000.",
			"/looked/counted")
	}
	var body any
	if r.Looked != (gather.Looked{}) {
		body = r.Looked
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "looked", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectAt[gather.Looked](c.Param("connector")): body}})
}

func sheetKind(c *gin.Context) (gather.SheetKind, error) {
	kind := gather.SheetKind(c.Param("kind"))
	if !slices.Contains(append(gather.SheetKinds(), gather.FeedKinds()...), kind) {
		return kind, desk.Refusal(http.StatusNotFound, "no-such-list", "There is no such list.", "")
	}
	return kind, nil
}

func (s *API) showSheet(c *gin.Context) error {
	kind, err := sheetKind(c)
	if err != nil {
		return err
	}
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	sheet := state.Job.Sheets[kind]
	if sheet == nil {
		sheet = &gather.Sheet{}
	}
	r, err := gather.ReadSheet(kind, *sheet)
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(err.Error()), "")
	}
	c.JSON(http.StatusOK, SheetView{Revision: state.Revision, Source: sheet.Source, Fields: kind.Fields(), Reading: r})
	return nil
}

// readSheet reads a list that is brought, with what a person said of its columns.
func readSheet(c *gin.Context) (gather.SheetKind, gather.Sheet, error) {
	kind, err := sheetKind(c)
	if err != nil {
		return kind, gather.Sheet{}, err
	}
	u, err := desk.ReadUpload(c)
	if err != nil {
		return kind, gather.Sheet{}, err
	}
	sheet := gather.Sheet{Source: u.Meta.Source, Cells: u.Table.Cells}
	if text := c.Request.PostFormValue("map"); text != "" {
		if err := json.Unmarshal([]byte(text), &sheet.Map); err != nil {
			return kind, sheet, desk.Refusal(http.StatusBadRequest, "bad-request",
				desk.Sentence("the request cannot be read: "+err.Error()), "/map")
		}
	}
	return kind, sheet, nil
}

// previewSheet reads a list without keeping it, also where no column names its lines, for the person to say which does.
func (s *API) previewSheet(c *gin.Context) error {
	kind, sheet, err := readSheet(c)
	if err != nil {
		return err
	}
	v := SheetPreview{Fields: kind.Fields(), Sample: [][]string{}}
	r, err := gather.ReadSheet(kind, sheet)
	if err != nil {
		v.Problem = desk.Sentence(err.Error())
	}
	v.Columns, v.Rows, v.Rejected = r.Columns, len(r.Rows), len(r.Rejected)
	for _, line := range sheet.Cells[:min(len(sheet.Cells), sampleLines)] {
		v.Sample = append(v.Sample, append([]string{}, line...))
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// importSheet keeps a list as it was brought. What was put right in the list before is not carried over.
func (s *API) importSheet(c *gin.Context) error {
	kind, sheet, err := readSheet(c)
	if err != nil {
		return err
	}
	r, err := gather.ReadSheet(kind, sheet)
	if err != nil || len(r.Rows) == 0 {
		detail := "no line could be taken from it"
		if err != nil {
			detail = err.Error()
		}
		return desk.Refusal(http.StatusUnprocessableEntity, "no-rows", desk.Sentence(detail), "")
	}
	seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
	return s.Apply(c, desk.Change{ID: c.Request.PostFormValue("id"), What: "import", Seen: seen,
		Bodies: map[string]any{stored.SubjectAt[gather.Sheet](string(kind)): sheet}})
}

// editSheet puts cells of a list right, adds lines, strikes lines out.
func (s *API) editSheet(c *gin.Context) error {
	kind, err := sheetKind(c)
	if err != nil {
		return err
	}
	r, err := desk.Read[SheetEditRequest](c)
	if err != nil {
		return err
	}
	subject := stored.SubjectAt[gather.Sheet](string(kind))
	if err := s.ofOthers(c, subject, &r); err != nil {
		return err
	}
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	sheet := desk.Edited(kind, state.Job.Sheets[kind])
	for _, e := range r.Edits {
		if e.Line < 2 || e.Line > gather.MaxLines || !slices.ContainsFunc(kind.Fields(),
			func(f gather.Field) bool { return f.Name == e.Field }) {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-cell", "There is no such cell in the list.", "/edits")
		}
		if err := longCell(e.Text, "/edits"); err != nil {
			return err
		}
	}
	desk.Put(&sheet, r.Edits)
	for _, line := range r.Gone {
		if !slices.Contains(sheet.Gone, line) {
			sheet.Gone = append(sheet.Gone, line)
		}
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "edit-list", Seen: r.Seen, Bodies: map[string]any{subject: sheet},
		From: map[string]any{subject: desk.Edited(kind, state.Job.Sheets[kind])}})
}

// ofOthers refuses cells of a line that somebody else has added since the list was seen: two people who add a line each
// would otherwise write into one.
func (s *API) ofOthers(c *gin.Context, subject string, r *SheetEditRequest) error {
	steps, err := s.Store.Others(c.Request.Context(), c.Param("job"), desk.Hand(c), subject, r.Seen)
	if err != nil {
		return err
	}
	for _, step := range steps {
		var before, after gather.Sheet
		if step.After == nil {
			continue
		}
		if err := json.Unmarshal(step.After, &after); err != nil {
			return err
		}
		if step.Before != nil {
			if err := json.Unmarshal(step.Before, &before); err != nil {
				return err
			}
		}
		has := func(sheet *gather.Sheet, line int) bool {
			return line <= len(sheet.Cells) ||
				slices.ContainsFunc(sheet.Edits, func(e gather.CellEdit) bool { return e.Line == line })
		}
		for _, e := range r.Edits {
			if has(&after, e.Line) && !has(&before, e.Line) {
				return &store.StaleError{Subject: subject}
			}
		}
	}
	return nil
}

func (s *API) addReading(c *gin.Context) error {
	r, err := desk.Read[ReadingRequest](c)
	if err != nil {
		return err
	}
	m := r.Reading
	if err := desk.CheckRef(m.At, "/reading/at"); err != nil {
		return err
	}
	says := 0
	for _, there := range []bool{m.Volts != nil, m.Ohms != nil, m.Joined != nil} {
		if there {
			says++
		}
	}
	switch {
	case says != 1:
		return desk.Refusal(http.StatusUnprocessableEntity, "no-reading",
			"A reading is volts, ohms, or continuity: one of them.", "/reading")
	case m.Volts != nil && (m.Key == "" || !slices.Contains(gather.Keys(), m.Key) || *m.Volts < -30 || *m.Volts > 60):
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-volts",
			"Volts want the position of the key, and lie from −30 to 60.", "/reading/volts")
	case m.Ohms != nil && *m.Ohms < -gather.MostZero:
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-ohms", "Ohms are not less than 0.", "/reading/ohms")
	}
	m.ID, m.Who, m.When = r.ID, desk.Who(c), s.Now().UTC().UnixMilli()
	return s.Checked(c, func(j *desk.Computed) error {
		if why := restraintAt(j, m.At); why != "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "left-alone", why, "/reading/at")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "measure", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(m)})
	})
}

// qualified says whether a wire is for qualified hands alone.
func qualified(w *harness.Wire) bool {
	return w.Signal.System == "restraint" || w.Signal.System == "high-voltage"
}

// restraintAt says why a cavity is not to be probed.
func restraintAt(j *desk.Computed, at harness.Ref) string {
	for i := range j.Facts.Laid.Loom.Wires {
		w := &j.Facts.Laid.Loom.Wires[i]
		if (w.Ends[0].At == at || w.Ends[1].At == at) && qualified(w) {
			return at.String() + " is a restraint or high-voltage circuit: never probe it; leave it to qualified hands."
		}
	}
	return ""
}

func (s *API) addTrace(c *gin.Context) error {
	r, err := desk.Read[TraceRequest](c)
	if err != nil {
		return err
	}
	t := r.Trace
	t.ID, t.Who, t.When = r.ID, desk.Who(c), s.Now().UTC().UnixMilli()
	return s.Checked(c, func(j *desk.Computed) error {
		if t.Wire == "" {
			if err := desk.CheckRef(t.At, "/trace/at"); err != nil {
				return err
			}
		}
		if why := restraintAt(j, t.At); why != "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "left-alone", why, "/trace/at")
		}
		for i := range j.Facts.Laid.Loom.Wires { // nor is it to be called something else
			if w := &j.Facts.Laid.Loom.Wires[i]; w.ID == t.Wire && qualified(w) {
				return desk.Refusal(http.StatusUnprocessableEntity, "left-alone",
					t.Wire.Name()+" is a restraint or high-voltage circuit: leave it to qualified hands.", "/trace/wire")
			}
		}
		if t.Saw == gather.GoesHere {
			if err := desk.CheckRef(t.To, "/trace/to"); err != nil {
				return err
			}
		}
		job := j.Job
		job.Traces = append(slices.Clone(job.Traces), t)
		facts, err := fact.Of(job)
		if err != nil {
			return err
		}
		for _, f := range facts.Laid.Findings {
			if f.Code == "trace-lost" && f.Subject == string(t.Wire)+t.At.String() {
				return desk.Refusal(http.StatusUnprocessableEntity, "not-traced", f.Text, "/trace")
			}
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "trace", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(t)})
	})
}

// What a fact is kept as, by its id.
func reading(id string) string { return stored.SubjectOf(gather.Measurement{ID: id}) }
func trace(id string) string   { return stored.SubjectOf(gather.Trace{ID: id}) }
func photo(id string) string   { return stored.SubjectOf(stored.Photo{ID: id}) }

// dropFact takes a reading, a trace or a photograph back. The journal keeps it.
func (s *API) dropFact(subject func(id string) string, what string) func(*gin.Context) error {
	return func(c *gin.Context) error {
		r, err := desk.Read[DropRequest](c)
		if err != nil {
			return err
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: what, Seen: r.Seen,
			Bodies: map[string]any{subject(c.Param("fact")): nil}})
	}
}
