package server

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
	"draxel/store"
)

// showGather gives everything of Gather beside the pinout tables.
func (s *Server) showGather(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	job := j.Job
	v := GatherView{Revision: j.Revision, Choices: gather.Choices(), Functions: gather.Functions(), Photos: job.Photos, Readings: job.Readings, Traces: job.Traces,
		Open: []OpenItem{}, Connectors: []ConnectorLine{}, Sheets: []SheetLine{}, KeyTable: gather.KeyTable(slices.Clone(job.Readings)), Beliefs: j.facts.Laid.Beliefs,
		Queue: gather.Queue(&j.facts.Laid.Loom), Findings: []finding.Finding{}}
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
	wires, inBranch := wireCounts(&j.facts.Laid.Loom)
	for i := range j.facts.Laid.Loom.Connectors {
		h := &j.facts.Laid.Loom.Connectors[i]
		l := job.Looked[h.ID]
		v.Connectors = append(v.Connectors, ConnectorLine{h.ID, h.Device, h.Branch, wires[h.ID], h.Locked, l, l.Replace(), photos[h.ID]})
	}
	for _, b := range j.facts.Laid.Loom.Branches { // a branch has a condition too
		id := "branch " + b.ID
		l := job.Looked[id]
		v.Connectors = append(v.Connectors, ConnectorLine{ID: id, Branch: b.ID, Wires: inBranch[b.ID], Looked: l, Replace: l.Replace(), Photos: photos[id]})
	}
	for _, kind := range gather.SheetKinds() {
		line := SheetLine{Kind: kind}
		if sheet := job.Sheets[kind]; sheet != nil {
			if r, err := gather.ReadSheet(kind, *sheet); err == nil {
				line.Rows, line.Rejected = len(r.Rows), len(r.Rejected)
			}
		}
		v.Sheets = append(v.Sheets, line)
	}
	for _, f := range j.plan().Findings {
		if f.Stage == "gather" {
			v.Findings = append(v.Findings, f)
		}
	}
	v.fill()
	c.JSON(http.StatusOK, v)
	return nil
}

// wireCounts counts the wires of each connector and each branch.
func wireCounts(l *harness.Loom) (connectors, branches map[string]int) {
	connectors, branches = map[string]int{}, map[string]int{}
	for i := range l.Wires {
		branches[l.Wires[i].Branch]++
		for _, e := range l.Wires[i].Ends {
			connectors[e.At.Connector]++
		}
	}
	return connectors, branches
}

func (s *Server) putIdentity(c *gin.Context) error {
	r, err := read[IdentityRequest](c)
	if err != nil {
		return err
	}
	for _, o := range r.Identity.Sources {
		if strings.TrimSpace(o.Name) == "" {
			return problem(http.StatusUnprocessableEntity, "no-name", "Give each source a name.", "/identity/sources")
		}
	}
	return s.apply(c, change{id: r.ID, what: "identity", seen: r.Seen, bodies: map[string]any{store.SubjectIdentity: r.Identity}})
}

func (s *Server) putItems(c *gin.Context) error {
	r, err := read[ItemsRequest](c)
	if err != nil {
		return err
	}
	return s.apply(c, change{id: r.ID, what: "items", seen: r.Seen, bodies: map[string]any{store.SubjectItems: r.Items}})
}

func (s *Server) putBefore(c *gin.Context) error {
	r, err := read[BeforeRequest](c)
	if err != nil {
		return err
	}
	for i := range r.Before.Unplugged {
		u := &r.Before.Unplugged[i]
		if why := u.Refuses(); why != "" {
			return problem(http.StatusUnprocessableEntity, "not-to-be-unplugged", sentence(u.Item+": "+why), "/before/unplugged/"+strconv.Itoa(i))
		}
		if u.When == 0 {
			u.Who, u.When = who(c), s.now().UTC().UnixMilli()
		}
	}
	return s.apply(c, change{id: r.ID, what: "before", seen: r.Seen, bodies: map[string]any{store.SubjectBefore: r.Before}})
}

func (s *Server) putLooked(c *gin.Context) error {
	r, err := read[LookedRequest](c)
	if err != nil {
		return err
	}
	if r.Looked.Counted < 0 || r.Looked.Counted > 1000 {
		return problem(http.StatusUnprocessableEntity, "bad-count", "Count the wires at the plug: 1 to 1000.", "/looked/counted")
	}
	var body any
	if r.Looked != (gather.Looked{}) {
		body = r.Looked
	}
	return s.apply(c, change{id: r.ID, what: "looked", seen: r.Seen, bodies: map[string]any{store.SubjectLooked(c.Param("connector")): body}})
}

func sheetKind(c *gin.Context) (gather.SheetKind, error) {
	kind := gather.SheetKind(c.Param("kind"))
	if !slices.Contains(append(gather.SheetKinds(), gather.FeedKinds()...), kind) {
		return kind, problem(http.StatusNotFound, "no-such-list", "There is no such list.", "")
	}
	return kind, nil
}

func (s *Server) showSheet(c *gin.Context) error {
	kind, err := sheetKind(c)
	if err != nil {
		return err
	}
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	sheet := state.Job.Sheets[kind]
	if sheet == nil {
		sheet = &gather.Sheet{}
	}
	r, err := gather.ReadSheet(kind, *sheet)
	if err != nil {
		return problem(http.StatusUnprocessableEntity, "no-rows", sentence(err.Error()), "")
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
	u, err := readUpload(c)
	if err != nil {
		return kind, gather.Sheet{}, err
	}
	sheet := gather.Sheet{Source: u.meta.Source, Cells: u.table.Cells}
	if text := c.Request.PostFormValue("map"); text != "" {
		if err := json.Unmarshal([]byte(text), &sheet.Map); err != nil {
			return kind, sheet, problem(http.StatusBadRequest, "bad-request", sentence("the request cannot be read: "+err.Error()), "/map")
		}
	}
	return kind, sheet, nil
}

// previewSheet reads a list without keeping it, also where no column names its lines, for the person to say which does.
func (s *Server) previewSheet(c *gin.Context) error {
	kind, sheet, err := readSheet(c)
	if err != nil {
		return err
	}
	v := SheetPreview{Fields: kind.Fields(), Sample: [][]string{}}
	r, err := gather.ReadSheet(kind, sheet)
	if err != nil {
		v.Problem = sentence(err.Error())
	}
	v.Columns, v.Rows, v.Rejected = r.Columns, len(r.Rows), len(r.Rejected)
	for _, line := range sheet.Cells[:min(len(sheet.Cells), sampleLines)] {
		v.Sample = append(v.Sample, append([]string{}, line...))
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// importSheet keeps a list as it was brought. What was put right in the list before is not carried over.
func (s *Server) importSheet(c *gin.Context) error {
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
		return problem(http.StatusUnprocessableEntity, "no-rows", sentence(detail), "")
	}
	seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
	return s.apply(c, change{id: c.Request.PostFormValue("id"), what: "import", seen: seen, bodies: map[string]any{store.SubjectSheet(kind): sheet}})
}

// edited gives a copy of a list that can be edited; one that is begun by hand has its heading.
func edited(kind gather.SheetKind, old *gather.Sheet) gather.Sheet {
	sheet := gather.Sheet{}
	if old != nil {
		sheet = *old
		sheet.Edits, sheet.Gone = slices.Clone(old.Edits), slices.Clone(old.Gone)
	}
	if len(sheet.Cells) == 0 {
		line := []string{}
		for _, f := range kind.Fields() {
			line = append(line, f.Title)
		}
		sheet.Cells = [][]string{line}
	}
	return sheet
}

// put puts cells right in a list, the last of those that are about one cell.
func put(sheet *gather.Sheet, edits []gather.CellEdit) {
	type cell struct {
		line  int
		field string
	}
	last := map[cell]int{}
	for i, e := range edits {
		last[cell{e.Line, e.Field}] = i
	}
	sheet.Edits = slices.DeleteFunc(sheet.Edits, func(e gather.CellEdit) bool {
		_, again := last[cell{e.Line, e.Field}]
		return again
	})
	for i, e := range edits {
		if last[cell{e.Line, e.Field}] == i {
			sheet.Edits = append(sheet.Edits, e)
		}
	}
}

// editSheet puts cells of a list right, adds lines, strikes lines out.
func (s *Server) editSheet(c *gin.Context) error {
	kind, err := sheetKind(c)
	if err != nil {
		return err
	}
	r, err := read[SheetEditRequest](c)
	if err != nil {
		return err
	}
	state, err := s.store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	sheet := edited(kind, state.Job.Sheets[kind])
	for _, e := range r.Edits {
		if e.Line < 2 || e.Line > gather.MaxLines || !slices.ContainsFunc(kind.Fields(), func(f gather.Field) bool { return f.Name == e.Field }) {
			return problem(http.StatusUnprocessableEntity, "bad-cell", "There is no such cell in the list.", "/edits")
		}
		if err := longCell(e.Text, "/edits"); err != nil {
			return err
		}
	}
	put(&sheet, r.Edits)
	for _, line := range r.Gone {
		if !slices.Contains(sheet.Gone, line) {
			sheet.Gone = append(sheet.Gone, line)
		}
	}
	return s.apply(c, change{id: r.ID, what: "edit-list", seen: r.Seen, bodies: map[string]any{store.SubjectSheet(kind): sheet}})
}

// checkRef says whether a cavity is named.
func checkRef(at harness.Ref, pointer string) error {
	if at.Connector == "" || at.Cavity == "" || len(at.Connector)+len(at.Cavity) > 100 {
		return problem(http.StatusUnprocessableEntity, "no-cavity", "Say which cavity: connector and number.", pointer)
	}
	return nil
}

func (s *Server) addReading(c *gin.Context) error {
	r, err := read[ReadingRequest](c)
	if err != nil {
		return err
	}
	m := r.Reading
	if err := checkRef(m.At, "/reading/at"); err != nil {
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
		return problem(http.StatusUnprocessableEntity, "no-reading", "A reading is volts, ohms, or continuity: one of them.", "/reading")
	case m.Volts != nil && (m.Key == "" || !slices.Contains(gather.Keys(), m.Key) || *m.Volts < -30 || *m.Volts > 60):
		return problem(http.StatusUnprocessableEntity, "bad-volts", "Volts want the position of the key, and lie from −30 to 60.", "/reading/volts")
	case m.Ohms != nil && *m.Ohms < -gather.MostZero:
		return problem(http.StatusUnprocessableEntity, "bad-ohms", "Ohms are not less than 0.", "/reading/ohms")
	}
	m.ID, m.Who, m.When = r.ID, who(c), s.now().UTC().UnixMilli()
	return s.checked(c, func(j *computed) error {
		if why := restraintAt(j, m.At); why != "" {
			return problem(http.StatusUnprocessableEntity, "left-alone", why, "/reading/at")
		}
		return s.apply(c, change{id: r.ID, what: "measure", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectReading(m.ID): m}})
	})
}

// qualified says whether a wire is for qualified hands alone.
func qualified(w *harness.Wire) bool {
	return w.Signal.System == "restraint" || w.Signal.System == "high-voltage"
}

// restraintAt says why a cavity is not to be probed.
func restraintAt(j *computed, at harness.Ref) string {
	for i := range j.facts.Laid.Loom.Wires {
		w := &j.facts.Laid.Loom.Wires[i]
		if (w.Ends[0].At == at || w.Ends[1].At == at) && qualified(w) {
			return at.String() + " is a restraint or high-voltage circuit: never probe it; leave it to qualified hands."
		}
	}
	return ""
}

func (s *Server) addTrace(c *gin.Context) error {
	r, err := read[TraceRequest](c)
	if err != nil {
		return err
	}
	t := r.Trace
	t.ID, t.Who, t.When = r.ID, who(c), s.now().UTC().UnixMilli()
	return s.checked(c, func(j *computed) error {
		if t.Wire == "" {
			if err := checkRef(t.At, "/trace/at"); err != nil {
				return err
			}
		}
		if why := restraintAt(j, t.At); why != "" {
			return problem(http.StatusUnprocessableEntity, "left-alone", why, "/trace/at")
		}
		for i := range j.facts.Laid.Loom.Wires { // nor is it to be called something else
			if w := &j.facts.Laid.Loom.Wires[i]; w.ID == t.Wire && qualified(w) {
				return problem(http.StatusUnprocessableEntity, "left-alone",
					t.Wire.Name()+" is a restraint or high-voltage circuit: leave it to qualified hands.", "/trace/wire")
			}
		}
		if t.Saw == gather.GoesHere {
			if err := checkRef(t.To, "/trace/to"); err != nil {
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
				return problem(http.StatusUnprocessableEntity, "not-traced", f.Text, "/trace")
			}
		}
		return s.apply(c, change{id: r.ID, what: "trace", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectTrace(t.ID): t}})
	})
}

// dropFact takes a reading, a trace or a photograph back. The journal keeps it.
func (s *Server) dropFact(subject func(string) string, what string) func(*gin.Context) error {
	return func(c *gin.Context) error {
		r, err := read[DropRequest](c)
		if err != nil {
			return err
		}
		return s.apply(c, change{id: r.ID, what: what, seen: r.Seen, bodies: map[string]any{subject(c.Param("fact")): nil}})
	}
}
