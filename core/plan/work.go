package plan

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/proof"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
)

// Work is the one list of what is to be done: the steps of all stages in one order, those that are done among them
// where the plan still asks for them.
type Work struct {
	Steps  []work.Step
	Held   map[string]string // by step: why it cannot be done as the harness is now
	Strays []work.Tick       // done, and not in the plan any more
	at     map[string]int
	gate   string
}

// workReads is what the list of the work, and its proof, follow from.
type workReads struct {
	Facts    *fact.Facts
	Match    *match.Result
	Thin     *wanted.Thinned
	Model    *wanted.Model
	Finished *finished
	Feed     *live.Feeding
	Block    feed.Record // the block alone
	Sheet    *repin.Sheet
	Added    []join.Added
	Own      []stored.OwnStep
	Limit    int     // terminals that may be in hand
	Check    float64 // minutes that a measurement takes
}

// worked is the list of the work with what goes with it.
type worked struct {
	Work     Work
	Past     work.Past // what counts as done
	Joins    []work.Step
	Progress thin.Progress
	Counts   thin.Counts
	Strays   []work.Tick // of Reach: done, and not in the plan any more
	Proof    proof.Proof
	Findings []finding.Finding
}

// workOf puts all steps into one order, and proves them.
func workOf(in workReads) *worked {
	m, goes, end := in.Model, in.Thin.Result, in.Finished
	w := &worked{Past: m.Past}
	w.Past.Done = maps.Clone(m.Past.Done)
	w.Joins = append(m.Part.Steps(w.Past.Now, end.Whole), m.Proofs(in.Check)...)
	brings := fresh(end.Added.Steps, w.Joins)
	planned := map[string]bool{}
	pins := pinSteps(in.Sheet.Steps)
	all := slices.Concat(goes.Steps, w.Joins, pins, wanted.Unlaid(end.Reach.Steps, in.Added, &end.Added))
	all = fed(after(all, &end.Parted), slices.Clone(in.Feed.Steps), in.Block.Block)
	caps, hanging := live.Ends(live.EndReads{Facts: in.Facts, Alone: m.Alone, Wanted: end.Wanted, Feed: in.Feed.Result,
		Done: w.Past.Done})
	all, w.Findings = append(all, caps...), hanging
	all = behind(all, brings, end.Added.Touches)
	w.Joins = append(w.Joins, brings...)
	for i := range all {
		planned[all[i].ID] = true
	}
	for _, s := range slices.Concat(w.Joins, pins) {
		if len(s.Edits) > 0 { // these come from what is there now: the same was done before, and is wanted again
			delete(w.Past.Done, s.ID)
		}
	}
	for i := range all { // what was done and is not so any more is to be done again
		if s := &all[i]; len(s.Edits) > 0 && w.Past.Now.Again(s.Edits[0]) {
			delete(w.Past.Done, s.ID)
		}
	}
	w.Progress = goes.Progress(w.Past, planned)
	w.Findings = append(w.Findings, w.Progress.Findings...)
	w.Counts = goes.Count(m.Found, w.Progress, goes.Steps)
	all, adrift := ownSteps(slices.Concat(w.Progress.Mends, all), in.Own, &w.Past)
	w.Findings = append(w.Findings, adrift...)
	all = batteryOff(w.gated(&in, all))
	w.Work.Steps = work.Order(w.Past.Now, all)
	w.Work.at = make(map[string]int, len(all))
	for i := range w.Work.Steps {
		w.Work.at[w.Work.Steps[i].ID] = i
		planned[w.Work.Steps[i].ID] = true
	}
	isDone := func(id string) bool { _, done := w.Past.Done[id]; return done }
	work.Settle(w.Past.Now, w.Work.Steps, isDone)
	for i := range w.Joins {
		if k, known := w.Work.at[w.Joins[i].ID]; known {
			w.Joins[i].Text, w.Joins[i].At = w.Work.Steps[k].Text, w.Work.Steps[k].At
		}
	}
	w.strays(planned)
	proven := proof.Prove(&proof.Reads{Facts: in.Facts, Match: in.Match, Model: m, Wanted: end.Wanted, Added: in.Added,
		Past: w.Past, Steps: w.Work.Steps, Limit: in.Limit, Stuck: len(in.Sheet.Pinning.Stuck), Fault: in.Sheet.Fault,
		Against: in.Thin.Contradictions(), Mended: len(w.Progress.Mends) > 0,
		Unwanted: len(w.Progress.Findings)+len(w.Work.Strays)+len(w.Past.Lost) > 0})
	w.Proof, w.Work.Held, w.Findings = proven.Proof, proven.Held, append(w.Findings, proven.Findings...)
	return w
}

// pinSteps gives Pin's steps as those of every stage are, with the advice that goes with them.
func pinSteps(sheet []repin.Step) []work.Step {
	out := make([]work.Step, len(sheet))
	for i := range sheet {
		s := &sheet[i]
		out[i] = s.Step.Step
		out[i].Warn = s.Advice.Warn
	}
	return out
}

// gated puts the gate before the first cut, whichever stage makes it: every connector that a cut or a removal touches
// is labelled, photographed and counted, those of wires that are kept too.
func (w *worked) gated(in *workReads, all []work.Step) []work.Step {
	m, goes := in.Model, in.Thin.Result
	touched := map[string]bool{}
	first := -1
	for i := range all {
		s := &all[i]
		for k := range s.Edits {
			e := &s.Edits[k]
			switch e.Do {
			case harness.Cut, harness.Tap, harness.Clip, harness.FallOut:
				if first < 0 && s.Cuts() {
					first = i
				}
				if tips, there := m.Found.Tips(e.Wire); there {
					for end, t := range tips {
						if place, seated := m.Found.Place(t.Terminal); t.State == harness.Crimped && seated &&
							(end == e.End || e.Do == harness.FallOut) {
							touched[place.At.Connector] = true
						}
					}
				}
			case harness.Sever:
				touched[e.At.Connector] = true
			}
		}
		for _, at := range s.At {
			if s.Stage == work.Thin && len(s.Edits) > 0 {
				touched[at.Connector] = true
			}
		}
	}
	if len(touched) == 0 && first < 0 {
		return all
	}
	missing := goes.Missing(touched)
	if first >= 0 {
		missing = append(slices.Clone(m.Facts.Unsettled), missing...)
	}
	at := slices.IndexFunc(all, func(s work.Step) bool { return s.Stage == work.Thin && s.Kind == thin.Gate })
	if at < 0 {
		gate := goes.GateStep()
		all = append([]work.Step{gate}, all...)
		at = 0
	}
	all[at].Missing = missing
	w.Work.gate = all[at].ID
	for i := range all {
		if s := &all[i]; i != at && (s.Cuts() || s.Stage == work.Thin && len(s.Edits) > 0) &&
			!slices.Contains(s.Needs, w.Work.gate) {
			s.Needs = append(slices.Clone(s.Needs), w.Work.gate)
		}
	}
	return all
}

// batteryOff puts one step that takes the battery off before whatever cuts or bares a wire, and after what is
// measured with the power on.
func batteryOff(all []work.Step) []work.Step {
	off := work.BatteryOff(work.Join, 0)
	at, cuts := -1, false
	var live []string
	all = slices.DeleteFunc(slices.Clone(all), func(s work.Step) bool {
		cuts = cuts || s.Cuts()
		if s.Live {
			live = append(live, s.ID)
		}
		if s.ID != off.ID {
			return false
		}
		at++
		return at > 0
	})
	switch {
	case at >= 0:
		at = slices.IndexFunc(all, func(s work.Step) bool { return s.ID == off.ID })
	case cuts:
		all, at = append([]work.Step{off}, all...), 0
	default:
		return all
	}
	all[at].Needs = append(slices.Clone(all[at].Needs), live...)
	for i := range all {
		if s := &all[i]; s.Cuts() && !slices.Contains(s.Needs, off.ID) {
			s.Needs = append(slices.Clone(s.Needs), off.ID)
		}
	}
	return all
}

// strays lists what was done and is not in the plan any more. Pin goes on from wherever its terminals are.
func (w *worked) strays(planned map[string]bool) {
	for _, t := range w.Past.Ticks {
		if planned[t.Step] || len(t.Edits) == 0 || t.Stage == work.Pin || t.Stage == work.Join ||
			w.Past.IsLost(t.Step) {
			continue
		}
		w.Work.Strays = append(w.Work.Strays, t)
		if t.Stage == work.Reach {
			w.Strays = append(w.Strays, t)
			w.Findings = append(w.Findings, finding.Finding{
				Code: "done-unwanted", Place: finding.Place{Part: "work"},
				Severity: finding.Check, Stage: "reach", Subject: string(t.Wire),
				Text:   fmt.Sprintf("%q was done, and the plan does not ask for it any more.", t.Text),
				Remedy: "Look at the wire; take the tick back if it was not done.",
			})
		}
	}
}
