package server

import (
	"bytes"
	"io"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/plan"
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
	p := &j.plan
	v := PinView{Revision: j.Revision, Hash: hash, Moves: p.Moves, Done: p.Pin.Done, Steps: p.Steps, Proof: p.Proof,
		Line: exchange.ProofLine(p.Proof), Figures: exchange.Figures(*p), Open: exchange.OpenLine(*p), Limit: p.Pin.Limit, Hand: inHand(p.Pin.Now),
		Housings: p.Housings, Faces: facesOf(p.Housings), Wires: j.cavityWires(), Orders: p.Pin.Orders, Spares: p.Pin.Spares, Adaptations: p.Pin.Adaptations,
		Joints: p.Pin.Joints, Settings: p.Pin.Settings, Outputs: p.Pin.Outputs, Reports: j.Job.Reports, Totals: p.Totals, Bench: j.Job.Chosen().Bench, Findings: []finding.Finding{}}
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
	for _, r := range j.plan.Wires(j.facts) {
		rows[harness.TerminalAt(r.Ref)] = r
	}
	for _, r := range j.facts.To.Rows {
		rows[harness.TerminalID("new wire "+r.Ref.String())] = r
	}
	out := []CavityWire{}
	for _, at := range j.plan.Pin.Now.Cavities() {
		t, full := j.plan.Pin.Now.In(at)
		if full || j.plan.Pin.Now.Plugged(at) {
			out = append(out, CavityWire{At: at, Row: rows[t], Plugged: !full})
		}
	}
	if !j.plan.Moves { // cavities that Thin leaves alone hold their wires too
		told := map[harness.Ref]bool{}
		for _, w := range out {
			told[w.At] = true
		}
		touched := map[harness.Ref]bool{}
		for _, t := range j.plan.Pin.Done {
			for _, at := range t.At {
				touched[at] = true
			}
		}
		for _, r := range j.plan.Wires(j.facts) {
			if !told[r.Ref] && !touched[r.Ref] {
				out = append(out, CavityWire{At: r.Ref, Row: r})
			}
		}
	}
	return out
}

// showBench gives the steps of a stage in the form in which the bench works through them.
func (s *Server) showBench(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	v := BenchView{Revision: j.Revision, Title: j.Job.Title, Stage: "pin", Done: []BenchDone{}, Steps: []BenchStep{}, Hand: inHand(j.plan.Pin.Now), Wires: j.cavityWires(), Faces: facesOf(j.plan.Housings)}
	if c.Query("stage") == "thin" {
		v.Stage, v.Line, v.Proven = "thin", workLine(j.plan.Thin.Proof), j.plan.Thin.Proof.Reached
		j.thinBench(&v)
		c.JSON(http.StatusOK, v)
		return nil
	}
	if c.Query("stage") == "reach" {
		v.Stage, v.Line, v.Proven = "reach", workLine(j.plan.Reach.Proof), j.plan.Reach.Proof.Reached
		j.reachBench(&v)
		c.JSON(http.StatusOK, v)
		return nil
	}
	v.Line, v.Proven = exchange.ProofLine(j.plan.Proof), j.plan.Proof.Reached
	for _, t := range j.plan.Pin.Done {
		v.Done = append(v.Done, doneOf(t))
	}
	for i := range j.plan.Steps {
		x := &j.plan.Steps[i]
		b := BenchStep{ID: x.ID, Kind: string(x.Kind), Text: x.Text, From: x.From, To: x.To, How: x.How, Why: x.Why, After: x.After, Warn: x.Warn, Fit: x.Fit, Hand: x.Hand}
		if x.Wire.Ref != (harness.Ref{}) {
			b.Row = &x.Wire
		}
		if x.Connector != "" {
			b.From = harness.Ref{Connector: x.Connector} // its face is shown, no cavity of it
		}
		if x.Goal.Function != x.Wire.Function {
			b.Becomes = x.Goal.Function
		}
		v.Steps = append(v.Steps, b)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func doneOf(t work.Tick) BenchDone {
	return BenchDone{Step: t.Step, Text: t.Text, Who: t.Who, When: t.When}
}

// thinBench puts Thin's steps into the bench's form.
func (j *computed) thinBench(v *BenchView) {
	t := j.plan.Thin
	wires := map[string]*harness.Wire{}
	for i := range j.facts.Laid.Loom.Wires {
		wires[j.facts.Laid.Loom.Wires[i].ID] = &j.facts.Laid.Loom.Wires[i]
	}
	used := map[string]bool{}
	for _, x := range t.Steps {
		if tick, done := t.Progress.Done[x.ID]; done {
			v.Done = append(v.Done, doneOf(tick))
			continue
		}
		b := BenchStep{ID: x.ID, Kind: string(x.Kind), Text: x.Text, Why: x.Why, Missing: x.Missing, NoReturn: x.NoReturn}
		if len(x.Wires) > 0 && wires[x.Wires[0]] != nil {
			row := plan.RowOf(wires[x.Wires[0]])
			b.Row = &row
		}
		if len(x.At) > 0 {
			b.From = x.At[0]
			used[b.From.Connector] = true
		}
		v.Steps = append(v.Steps, b)
	}
	slices.SortStableFunc(v.Done, func(a, b BenchDone) int { return int(a.When - b.When) })
	v.Wires = []CavityWire{}
	for i := range j.facts.Laid.Loom.Connectors {
		h := &j.facts.Laid.Loom.Connectors[i]
		if !used[h.ID] {
			continue
		}
		v.Faces[h.ID] = drawn(h.Shape())
		for k := range j.facts.Laid.Loom.Wires {
			w := &j.facts.Laid.Loom.Wires[k]
			for _, e := range w.Ends {
				if e.At.Connector == h.ID {
					row := plan.RowOf(w)
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
