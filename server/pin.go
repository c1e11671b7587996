package server

import (
	"bytes"
	"io"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/face"
	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/exchange"
)

func (s *Server) showPin(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	p := j.plan()
	v := PinView{Revision: j.Revision, Hash: hash, Moves: p.Moves, Done: p.Pin.Done, Steps: p.Steps, Proof: p.Proof,
		Line: p.Proof.Line(), Figures: exchange.Figures(*p), Open: exchange.OpenLine(*p), Limit: p.Pin.Limit,
		Hand:     inHand(p.Pin.Now),
		Housings: p.Housings, Faces: facesOf(p.Housings), Wires: j.cavityWires(), Orders: p.Pin.Orders, Spares: p.Pin.Spares, Adaptations: p.Pin.Adaptations,
		Joints: p.Join.Joints, Settings: p.Pin.Settings, Outputs: p.Pin.Outputs, Reports: j.Job.Reports, Totals: p.Totals,
		Bench: j.Job.Chosen().Bench, Findings: []finding.Finding{}}
	for _, f := range p.Findings {
		if f.Code == "cavity-held" || f.Code == "terminal-system" || f.Stage == "pin" {
			v.Findings = append(v.Findings, f)
		}
	}
	v.Done, v.Steps, v.Housings = orEmpty(v.Done), orEmpty(v.Steps), orEmpty(v.Housings)
	v.Orders, v.Spares, v.Adaptations = orEmpty(v.Orders), orEmpty(v.Spares), orEmpty(v.Adaptations)
	v.Joints, v.Settings, v.Outputs, v.Reports = orEmpty(v.Joints), orEmpty(v.Settings), orEmpty(v.Outputs), orEmpty(v.Reports)
	c.JSON(http.StatusOK, v)
	return nil
}

// orEmpty gives a list that is written as [] and not as null.
func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// inHand lists the labels of the terminals that are loose.
func inHand(h harness.Harness) []string {
	out := []string{}
	if h.InHand() == 0 {
		return out
	}
	for _, t := range h.Terminals() {
		if p, _ := h.Place(t); p.State == harness.Loose {
			out = append(out, p.Label)
		}
	}
	return out
}

func drawn(l face.Layout) Face {
	return Face{Wire: l.Draw(face.WireSide), Mating: l.Draw(face.MatingFace)}
}

func facesOf(all []harness.Connector) map[string]Face {
	out := map[string]Face{}
	for _, h := range all {
		out[h.ID] = drawn(h.Shape())
	}
	return out
}

// cavityWires lists what is in the cavities of the plan's housings now.
func (j *computed) cavityWires() []CavityWire {
	rows := map[harness.TerminalID]harness.Row{}
	for _, r := range wanted.Rows(&j.facts, j.plan().Housings) {
		rows[harness.TerminalAt(r.Ref)] = r
	}
	for _, r := range j.facts.To.Rows {
		rows[harness.TerminalID(harness.NewWire(r.Ref.String()))] = r
	}
	out := []CavityWire{}
	for _, at := range j.plan().Pin.Now.Cavities() {
		t, full := j.plan().Pin.Now.In(at)
		if full || j.plan().Pin.Now.Plugged(at) {
			out = append(out, CavityWire{At: at, Row: rows[t], Plugged: !full})
		}
	}
	return out
}

// showBench gives the steps that the bench works through: of one stage, or of all in their order.
func (s *Server) showBench(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	stage := work.Stage(c.Query("stage"))
	if !slices.Contains(work.Stages(), stage) {
		stage = ""
	}
	v := BenchView{Revision: j.Revision, Title: j.Job.Title, Stage: string(stage), Done: []BenchDone{},
		Steps: []WorkStep{}, Hand: inHand(j.plan().Past.Now), Wires: j.cavityWires(), Faces: facesOf(j.plan().Housings),
		Line: j.plan().Proof.Line(), Proven: j.plan().Proof.Reached}
	if stage == "" {
		v.Stage = "work"
	}
	for i := range j.plan().Past.Ticks {
		if t := &j.plan().Past.Ticks[i]; stage == "" || t.Of() == stage {
			v.Done = append(v.Done, BenchDone{Step: t.Step, Text: t.Text, Who: t.Who, When: t.When})
		}
	}
	done := map[string]bool{}
	for _, x := range j.workSteps(stage) {
		if x.Done {
			continue
		}
		// What must come first and does not come before it on this bench. A gate may be passed with a reason.
		if x.Blocked = j.plan().BlockedAfter(&x.Step, done); x.Kind == thin.Gate {
			x.Blocked = ""
		}
		done[x.ID] = x.Blocked == ""
		v.Steps = append(v.Steps, x)
	}
	j.facesOfSteps(&v)
	c.JSON(http.StatusOK, v)
	return nil
}

// facesOfSteps adds the faces of the connectors that steps of other stages than Pin are at, with what is in them.
func (j *computed) facesOfSteps(v *BenchView) {
	used := map[string]bool{}
	for i := range v.Steps {
		if c := v.Steps[i].From.Connector; c != "" {
			used[c] = true
		}
	}
	for i := range j.facts.Laid.Loom.Connectors {
		h := &j.facts.Laid.Loom.Connectors[i]
		if _, there := v.Faces[h.ID]; there || !used[h.ID] {
			continue
		}
		v.Faces[h.ID] = drawn(h.Shape())
		for k := range j.facts.Laid.Loom.Wires {
			w := &j.facts.Laid.Loom.Wires[k]
			for _, e := range w.Ends {
				if e.At.Connector == h.ID {
					row := fact.RowOf(w)
					row.Ref = e.At
					v.Wires = append(v.Wires, CavityWire{At: e.At, Row: row})
				}
			}
		}
	}
}

func (s *Server) sheetPDF(c *gin.Context) error {
	return s.sheet(c, "pdf", "application/pdf", exchange.WriteSheetPDF)
}

func (s *Server) sheetCSV(c *gin.Context) error {
	return s.sheet(c, "csv", "text/csv; charset=utf-8", exchange.WriteSheetCSV)
}

func (s *Server) sheet(c *gin.Context, ending, kind string, write func(io.Writer, exchange.Sheet) error) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	if len(j.plan().Work.Steps) == 0 && len(j.plan().Past.Done) == 0 {
		return problem(http.StatusConflict, "no-sheet", "Nothing is planned and nothing is done: there is no sheet.", "")
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	sheet := exchange.Sheet{Title: j.Job.Title, Donor: j.Job.Donor, Chassis: j.Job.Chassis, From: j.facts.From.Name, To: j.facts.To.Name,
		Revision: int(j.Revision), Hash: hash, Printed: s.now().Format(time.DateOnly), Plan: *j.plan()}
	var b bytes.Buffer
	if err := write(&b, sheet); err != nil {
		return err
	}
	download(c, j.Job.Title+" work sheet."+ending, kind, b.Bytes())
	return nil
}
