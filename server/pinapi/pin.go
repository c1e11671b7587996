package pinapi

import (
	"bytes"
	"io"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

func (s *API) showPin(c *gin.Context, j *desk.Computed) error {
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	p := j.Plan()
	v := PinView{Revision: j.Revision, Hash: hash, Moves: p.Moves, Done: p.Pin.Done, Steps: p.Steps, Proof: p.Proof,
		Line: p.Proof.Line(), Figures: exchange.Figures(*p), Open: exchange.OpenLine(*p), Limit: p.Pin.Limit,
		Hand:     desk.InHand(p.Pin.Now),
		Housings: p.Housings, Faces: desk.FacesOf(p.Housings), Wires: j.CavityWires(), Orders: p.Pin.Orders,
		Spares: p.Pin.Spares, Adaptations: p.Pin.Adaptations,
		Joints: p.Join.Joints, Settings: p.Pin.Settings, Outputs: p.Pin.Outputs, Reports: j.Job.Reports, Totals: p.Totals,
		Bench: j.Job.Chosen().Bench, Findings: []finding.Finding{}}
	for _, f := range p.Findings {
		if f.Code == "cavity-held" || f.Code == "terminal-system" || f.Stage == "pin" {
			v.Findings = append(v.Findings, f)
		}
	}
	v.Done, v.Steps, v.Housings = desk.OrEmpty(v.Done), desk.OrEmpty(v.Steps), desk.OrEmpty(v.Housings)
	v.Orders, v.Spares, v.Adaptations = desk.OrEmpty(v.Orders), desk.OrEmpty(v.Spares), desk.OrEmpty(v.Adaptations)
	v.Joints, v.Settings, v.Outputs, v.Reports = desk.OrEmpty(v.Joints), desk.OrEmpty(v.Settings),
		desk.OrEmpty(v.Outputs), desk.OrEmpty(v.Reports)
	c.JSON(http.StatusOK, v)
	return nil
}

// showBench gives the steps that the bench works through: of one stage, or of all in their order.
func (s *API) showBench(c *gin.Context, j *desk.Computed) error {
	stage := work.Stage(c.Query("stage"))
	if !slices.Contains(work.Stages(), stage) {
		stage = ""
	}
	v := BenchView{Revision: j.Revision, Title: j.Job.Title, Stage: string(stage), Done: []BenchDone{},
		Steps: []desk.WorkStep{}, Hand: desk.InHand(j.Plan().Past.Now), Wires: j.CavityWires(),
		Faces: desk.FacesOf(j.Plan().Housings),
		Line:  j.Plan().Proof.Line(), Proven: j.Plan().Proof.Reached}
	if stage == "" {
		v.Stage = "work"
	}
	for i := range j.Plan().Past.Ticks {
		if t := &j.Plan().Past.Ticks[i]; stage == "" || t.Of() == stage {
			v.Done = append(v.Done, BenchDone{Step: t.Step, Text: t.Text, Who: t.Who, When: t.When})
		}
	}
	done := map[string]bool{}
	for _, x := range j.WorkSteps(stage) {
		if x.Done {
			continue
		}
		// What must come first and does not come before it on this bench. A gate may be passed with a reason.
		if x.Blocked = j.Plan().BlockedAfter(&x.Step, done); x.Kind == thin.Gate {
			x.Blocked = ""
		}
		done[x.ID] = x.Blocked == ""
		v.Steps = append(v.Steps, x)
	}
	facesOfSteps(j, &v)
	c.JSON(http.StatusOK, v)
	return nil
}

// facesOfSteps adds the faces of the connectors that steps of other stages than Pin are at, with what is in them.
func facesOfSteps(j *desk.Computed, v *BenchView) {
	used := map[string]bool{}
	for i := range v.Steps {
		if c := v.Steps[i].From.Connector; c != "" {
			used[c] = true
		}
	}
	for i := range j.Facts.Laid.Loom.Connectors {
		h := &j.Facts.Laid.Loom.Connectors[i]
		if _, there := v.Faces[h.ID]; there || !used[h.ID] {
			continue
		}
		v.Faces[h.ID] = desk.Drawn(h.Shape())
		for k := range j.Facts.Laid.Loom.Wires {
			w := &j.Facts.Laid.Loom.Wires[k]
			for _, e := range w.Ends {
				if e.At.Connector == h.ID {
					row := fact.RowOf(w)
					row.Ref = e.At
					v.Wires = append(v.Wires, desk.CavityWire{At: e.At, Row: row})
				}
			}
		}
	}
}

func (s *API) sheetPDF(c *gin.Context) error {
	return s.sheet(c, "pdf", "application/pdf", exchange.WriteSheetPDF)
}

func (s *API) sheetCSV(c *gin.Context) error {
	return s.sheet(c, "csv", "text/csv; charset=utf-8", exchange.WriteSheetCSV)
}

func (s *API) sheet(c *gin.Context, ending, kind string, write func(io.Writer, exchange.Sheet) error) error {
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	if len(j.Plan().Work.Steps) == 0 && len(j.Plan().Past.Done) == 0 {
		return desk.Refusal(http.StatusConflict, "no-sheet", "Nothing is planned and nothing is done: there is no sheet.", "")
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	sheet := exchange.Sheet{Title: j.Job.Title, Donor: j.Job.Donor, Chassis: j.Job.Chassis, From: j.Facts.From.Name,
		To:       j.Facts.To.Name,
		Revision: int(j.Revision), Hash: hash, Printed: s.Now().Format(time.DateOnly), Plan: *j.Plan()}
	var b bytes.Buffer
	if err := write(&b, sheet); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" work sheet."+ending, kind, b.Bytes())
	return nil
}
