package server

import (
	"bytes"
	"io"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/plan"
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
	v := PinView{Revision: j.Revision, Hash: hash, Moves: j.plan.Moves, Steps: j.plan.Steps, Proof: j.plan.Proof,
		Line: exchange.ProofLine(j.plan.Proof), Open: exchange.OpenLine(j.plan), Housings: j.plan.Housings, Totals: j.plan.Totals, Findings: []finding.Finding{}, Wires: j.plan.Wires(j.facts)}
	for _, f := range j.plan.Findings {
		if f.Code == "cavity-held" || f.Code == "terminal-system" {
			v.Findings = append(v.Findings, f)
		}
	}
	if v.Steps == nil {
		v.Steps, v.Housings = []plan.Step{}, []harness.Connector{}
	}
	c.JSON(http.StatusOK, v)
	return nil
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
	if !j.plan.Moves && len(j.plan.Steps) == 0 {
		return problem(http.StatusConflict, "no-sheet", "This kind of job joins wires instead of moving terminals, and Thin takes none out: there is no sheet.", "")
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	sheet := exchange.Sheet{Title: j.Job.Title, Donor: j.Job.Donor, Chassis: j.Job.Chassis, From: j.facts.From.Name, To: j.facts.To.Name,
		Revision: int(j.Revision), Hash: hash, Printed: s.now().Format(time.DateOnly), Plan: j.plan}
	var b bytes.Buffer
	if err := write(&b, sheet); err != nil {
		return err
	}
	download(c, j.Job.Title+" re-pin sheet."+ending, kind, b.Bytes())
	return nil
}
