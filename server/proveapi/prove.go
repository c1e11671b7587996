package proveapi

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/prove"
	"draxel/server/desk"
)

// showProve gives the test sheet with what was measured, the gates of powering up, and what was found so far.
func (s *API) showProve(c *gin.Context, j *desk.Computed) error {
	v := ProveView{
		Revision:  j.Revision,
		Lines:     []ProvedLine{},
		Devices:   []string{},
		Positions: []string{},
		Others:    []ProvedLine{},
		Mended: desk.OrEmpty(
			j.Job.Mended,
		),
		Notes:    desk.OrEmpty(j.Job.Notes),
		Program:  j.Job.Program,
		Settings: desk.OrEmpty(j.Plan().Settings()),
		Live: desk.OrEmpty(
			j.Job.Live,
		),
		Trained:  desk.OrEmpty(j.Job.Trained),
		Switches: []string{},
		Outputs:  []OutputView{},
		Levels:   []prove.Level{},
		KeyOn:    []string{},
		Raised:   j.Plan().Join.Raised,
		Gates:    []prove.GateState{},
		Faces:    map[string]desk.Face{},
		Wires:    []desk.CavityWire{},
	}
	b := s.bench.of(c.Param("job"), s.Now())
	if b != nil {
		v.Bench = b.at
	}
	if c.Query("simulated") == "" {
		b = nil
	}
	v.Simulated = b != nil
	all, mended := readingsOf(j, b)
	v.Mended = desk.OrEmpty(mended)
	p, done := vehicleOf(j)
	defer done()
	if p.err != nil {
		v.Why = desk.Sentence(p.err.Error())
		c.JSON(http.StatusOK, v)
		return nil
	}
	v.Fewest, v.Bound = p.sheet.Fewest, p.sheet.Bound
	now := prove.Since(all, mended)
	unbuilt := j.Plan().Unbuilt()
	v.Unbuilt = len(unbuilt)
	lines := map[string]bool{}
	for i := range p.sheet.Lines {
		l := &p.sheet.Lines[i]
		lines[l.ID] = true
		x := ProvedLine{SheetLine: *l, Text: l.Text(), How: l.Setup.String()}
		x.Waits = b == nil && p.vehicle.Touches(&l.Measure, unbuilt) // the simulated one is finished
		x.read(all, now)
		x.Spots = spots(j, &l.Measure)
		v.Lines = append(v.Lines, x)
	}
	for i := range now {
		if r := &now[i]; !lines[r.ID] {
			x := ProvedLine{SheetLine: prove.SheetLine{Measure: r.Measure}, How: r.Setup.String(), Reading: r}
			x.Text, x.Spots = x.SheetLine.Text(), spots(j, &r.Measure)
			if e, err := p.vehicle.Expect(&r.Measure); err == nil {
				x.Expect, x.Band = e, prove.BandOf(&r.Measure, e)
				x.Fits = x.Band.Fits(r)
			} else {
				x.Why = "what was measured there is not in the plan any more"
			}
			v.Others = append(v.Others, x)
		}
	}
	v.Faces, v.Wires = map[string]desk.Face{}, j.CavityWires()
	for i := range j.Facts.Laid.Loom.Connectors {
		if h := &j.Facts.Laid.Loom.Connectors[i]; h.Ways() <= mostFace {
			v.Faces[h.ID] = desk.Drawn(h.Shape())
		}
	}
	v.Gates = prove.PowerUp(
		j.Job.Gates,
		standingOf(j, p),
		j.Plan().TwiceChecked(j.Job.Checks),
		j.Job.Program == nil || j.Job.Program.Done,
	)
	v.Devices, v.KeyOn = p.vehicle.Devices(), p.vehicle.AtKeyOn()
	v.Switches, v.Outputs, v.Levels = desk.OrEmpty(p.vehicle.Switches), outputsOf(p.vehicle), prove.Levels()
	v.Positions = append(v.Positions, append(slices.Clone(sheetKeys), "running")...)
	slices.SortFunc(v.Devices, finding.Natural)
	c.JSON(http.StatusOK, v)
	return nil
}

// outputsOf lists the outputs of a vehicle's units.
func outputsOf(v *prove.Vehicle) []OutputView {
	out := []OutputView{}
	for _, at := range v.Outputs() {
		device, _ := v.DrivenBy(at)
		out = append(out, OutputView{At: at, Drives: v.Drives[at], Device: device})
	}
	return out
}

// mostFace is of how many ways a face is drawn beside a measurement.
const mostFace = 128

// spots gives the cavities that a measure touches.
func spots(j *desk.Computed, m *prove.Measure) []harness.Ref {
	out := []harness.Ref{}
	for _, text := range []string{m.A, m.B} {
		if at, is := j.Facts.Cavity(text); is {
			out = append(out, at)
		}
	}
	return out
}

// readingsOf notes the latest reading of a line.
func (x *ProvedLine) read(all, now []prove.MeterReading) {
	for i := range all {
		if all[i].ID == x.ID {
			x.Reading, x.Again = &all[i], true
		}
	}
	for i := range now {
		if now[i].ID == x.ID {
			x.Again = false
		}
	}
	if x.Reading != nil {
		x.Fits = x.Band.Fits(x.Reading)
	}
}

// diagnose ranks what could be wrong by what was measured since the last fault was mended.
func (s *API) diagnose(c *gin.Context, j *desk.Computed) error {
	p, done := vehicleOf(j)
	defer done()
	if p.err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(p.err.Error()), "")
	}
	b := s.bench.of(c.Param("job"), s.Now())
	if c.Query("simulated") == "" {
		b = nil
	}
	if b == nil && p.said != nil {
		c.JSON(http.StatusOK, p.said)
		return nil
	}
	all, mended := readingsOf(j, b)
	readings := slices.DeleteFunc(prove.Since(all, mended), func(r prove.MeterReading) bool {
		_, err := p.vehicle.Expect(&r.Measure) // what was measured there is not in the plan any more
		return err != nil
	})
	if len(readings) > mostReadings { // the latest, and those that are out of band
		slices.SortStableFunc(readings, func(a, b prove.MeterReading) int { return int(b.When - a.When) })
		kept := readings[:mostReadings]
		for i := range readings[mostReadings:] {
			r := &readings[mostReadings+i]
			if e, err := p.vehicle.Expect(&r.Measure); err == nil && len(kept) < 2*mostReadings {
				if band := prove.BandOf(&r.Measure, e); !band.Fits(r) {
					kept = append(kept, *r)
				}
			}
		}
		readings = kept
	}
	v := DiagnosisView{Revision: j.Revision, Suspects: []SuspectView{}, Out: []string{}, Readings: len(readings)}
	if len(readings) == 0 {
		c.JSON(http.StatusOK, v)
		return nil
	}
	d, err := p.vehicle.Diagnose(readings, nil)
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "reading-lost", desk.Sentence(err.Error()), "")
	}
	named := map[string]string{}
	for i := range readings {
		l := prove.SheetLine{Measure: readings[i].Measure}
		named[readings[i].ID] = l.Text()
	}
	words := func(ids []string) []string {
		out := []string{}
		for _, id := range ids {
			out = append(out, named[id])
		}
		return out
	}
	v.Healthy, v.Found, v.Next, v.Looked, v.Of = d.Healthy, d.Found, d.Next, d.Looked, d.Of
	v.Out, v.Doubtful = words(d.Out), words(d.Doubtful)
	if d.Next != nil {
		l := prove.SheetLine{Measure: d.Next.Measure}
		v.NextText, v.NextHow, v.NextAt = l.Text(), d.Next.Setup.String(), spots(j, &d.Next.Measure)
	}
	for i := range d.Suspects[:min(len(d.Suspects), 8)] {
		x := &d.Suspects[i]
		_, _, exchanged := x.Causes[0].Exchanges()
		out := SuspectView{
			Text:        x.Text(),
			Left:        exchanged && len(x.Causes) == 1,
			Probability: x.Probability,
			Explains:    words(x.Explains),
			Against:     words(x.Against),
			Like:        desk.OrEmpty(x.Like),
			Do:          []string{},
		}
		for _, cause := range x.Causes {
			out.Do = append(out.Do, cause.Do)
		}
		v.Suspects = append(v.Suspects, out)
	}
	if b == nil {
		p.said = &v
	}
	c.JSON(http.StatusOK, v)
	return nil
}
