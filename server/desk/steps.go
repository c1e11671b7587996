package desk

import (
	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/core/work"
)

// WorkStep is a step with its tick, with what tells its wire from others, and with why it cannot be ticked yet.
type WorkStep struct {
	work.Step
	Done    bool            `json:"done"`
	Who     string          `json:"who,omitempty"`
	When    int64           `json:"when,omitempty"`
	Blocked string          `json:"blocked,omitempty"`
	Ready   bool            `json:"ready"` // it can be done now
	From    harness.Ref     `json:"from,omitzero"`
	To      harness.Ref     `json:"to,omitzero"`
	Row     *harness.Row    `json:"row,omitempty"` // the wire as found
	Becomes string          `json:"becomes,omitempty"`
	How     string          `json:"how,omitempty"`
	After   string          `json:"after,omitempty"`
	Fit     *terminal.Fit   `json:"fit,omitempty"`
	Hand    []string        `json:"hand,omitempty"`
	Measure string          `json:"measure,omitempty"` // the wire whose length is typed in at the step
	Place   string          `json:"place,omitempty"`   // the connector or path that it is at
	Own     *stored.OwnStep `json:"own,omitempty"`     // of a step of the person's own: what it was said to be
}

// WorkSteps gives the steps of a stage, of all where none is named, with their ticks.
func (j *Computed) WorkSteps(stage work.Stage) []WorkStep {
	p := j.Plan()
	wires := map[harness.WireID]*harness.Wire{}
	for i := range p.Reach.Result.Wires() {
		w := &p.Reach.Result.Wires()[i]
		wires[w.ID] = &w.Wire
	}
	for i := range j.Facts.Laid.Loom.Wires {
		wires[j.Facts.Laid.Loom.Wires[i].ID] = &j.Facts.Laid.Loom.Wires[i]
	}
	sheet := map[string]*repin.Step{}
	for i := range p.Steps {
		sheet[p.Steps[i].ID] = &p.Steps[i]
	}
	own := map[string]*stored.OwnStep{}
	for i := range j.Job.Own {
		own[j.Job.Own[i].Step().ID] = &j.Job.Own[i]
	}
	bench := harness.Work(p.Past.Now)
	out := []WorkStep{}
	for _, s := range p.Of(stage) {
		w := WorkStep{Step: *s, Own: own[s.ID]}
		if tick, done := p.Done(s.ID); done {
			w.Done, w.Who, w.When = true, tick.Who, tick.When
		} else if w.Blocked = p.Blocked(s); w.Blocked == "" {
			w.Ready = p.Ready(s, bench)
		}
		w.place()
		if x := sheet[s.ID]; x != nil {
			w.pins(x)
		} else if len(s.Wires) > 0 && wires[s.Wires[0]] != nil {
			row := fact.RowOf(wires[s.Wires[0]])
			w.Row = &row
		}
		if s.Stage == work.Reach && s.Kind == reach.ToLength {
			w.Measure = string(s.Wire())
		}
		out = append(out, w)
	}
	return out
}

// place says where the hands are for a step.
func (w *WorkStep) place() {
	switch {
	case len(w.At) > 0:
		w.Place, w.From = w.At[0].Connector, w.At[0]
	case w.Path != "":
		w.Place = w.Path
	}
}

// pins fills in what a step of Pin knows beside its sentence.
func (w *WorkStep) pins(x *repin.Step) {
	w.From, w.To, w.How, w.After, w.Hand, w.Warn = x.From, x.To, x.How, x.After, x.Hand, x.Advice.Warn
	if x.Wire.Ref != (harness.Ref{}) {
		w.Row = &x.Wire
	}
	if x.Connector != "" {
		w.From = harness.Ref{Connector: x.Connector} // its face is shown, no cavity of it
	}
	if x.Goal.Function != x.Wire.Function {
		w.Becomes = x.Goal.Function
	}
	if x.Fit.Verdict != terminal.Unknown || x.Fit.Why != "" || len(x.Fit.Parts) > 0 {
		w.Fit = &x.Fit
	}
}

// InHand lists the labels of the terminals that are loose.
func InHand(h harness.Harness) []string {
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
