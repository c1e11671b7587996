package plan

import (
	"fmt"
	"slices"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/thin"
	"draxel/core/work"
)

// Thinning is the part of the plan that takes out what is not wanted.
type Thinning struct {
	Result   *thin.Result
	Steps    []thin.Step // with the terminals that Pin pulls for it, where they are needed
	Progress thin.Progress
	Held     map[string]string // by step: why it cannot be done as the harness is now
	Counts   thin.Counts
	Proof    Proof
	Proposed []Proposal
}

// Proposal is a decision that the kind of job or a match suggests. It is never applied unasked.
type Proposal struct {
	On     thin.Scope  `json:"on"`
	ID     string      `json:"id"`
	Choice thin.Choice `json:"choice"`
	Why    string      `json:"why"`
}

// decideThin computes what stays and goes. A wire that Match has put to use is kept, unless it was decided away by
// itself, which is then a contradiction between two stages.
func (p *Plan) decideThin(f Facts, d Decisions) {
	own := map[string]thin.Choice{}
	for _, x := range d.Thin {
		if x.On == thin.Wire && x.Verify == "" {
			own[x.ID] = x.Choice
		}
	}
	all := slices.Clone(d.Thin)
	used := usedByMatch(p.Match)
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			why, ok := used[e.At]
			if !ok || e.At == (harness.Ref{}) {
				continue
			}
			switch own[w.ID] {
			case thin.Undecided:
				own[w.ID] = thin.Keep
				all = append(all, thin.Decision{On: thin.Wire, ID: w.ID, Choice: thin.Keep, Reason: why})
			case thin.Goes:
				p.Findings = append(p.Findings, finding.Finding{Code: "two-edits", Severity: finding.Wrong, Stage: "thin", Subject: w.ID,
					Text: fmt.Sprintf("Match says of %s that it %s, and Thin says that its wire %s goes.", e.At, why, w.ID), Remedy: "Reopen one of the two."})
			case thin.Keep:
			}
		}
	}
	p.Thin.Result = thin.Compute(thin.Input{Loom: &f.Laid.Loom, Decisions: all, Bench: d.Bench, Records: f.Records})
	p.Findings = append(p.Findings, p.Thin.Result.Findings...)
	p.Thin.Proposed = p.propose(f, own)
}

// usedByMatch gives the From cavities whose wires a person has put to use, and how.
func usedByMatch(r *match.Result) map[harness.Ref]string {
	used := map[harness.Ref]string{}
	for _, l := range r.Lines {
		switch {
		case !l.Decided:
		case l.Feeds():
			used[l.From] = "serves " + l.To.String()
		case l.Verdict == match.NeedsSource:
			used[l.From] = "needs a source"
		}
	}
	return used
}

// propose says what the kind of job and the matches suggest.
func (p *Plan) propose(f Facts, own map[string]thin.Choice) []Proposal {
	out := []Proposal{}
	decided := map[string]bool{}
	for _, s := range p.Thin.Result.Systems {
		decided[s.System] = s.Choice != thin.Undecided || s.Locked != ""
		if why := notWanted[f.Kind][s.System]; why != "" && !decided[s.System] {
			out = append(out, Proposal{thin.System, s.System, thin.Goes, why})
		}
	}
	byRef := map[harness.Ref]int{}
	for i := range f.Laid.Loom.Wires {
		for _, e := range f.Laid.Loom.Wires[i].Ends {
			byRef[e.At] = i
		}
	}
	for _, l := range p.Match.Lines {
		i, ok := byRef[l.From]
		if !ok || !l.Decided || l.Verdict != match.Goes {
			continue
		}
		if w := f.Laid.Loom.Wires[i].ID; own[w] == thin.Undecided && p.Thin.Result.Wires[i].Choice != thin.Goes {
			own[w] = thin.Goes
			out = append(out, Proposal{thin.Wire, w, thin.Goes, fmt.Sprintf("In Match it was decided that %s goes.", l.From)})
		}
	}
	return out
}

// notWanted is what a kind of job usually does without: common practice, no source.
var notWanted = map[Kind]map[string]string{
	Standalone: {"lighting": "A standalone harness is reduced to the engine's own circuits.", "climate": "A standalone harness is reduced to the engine's own circuits.",
		"body": "A standalone harness is reduced to the engine's own circuits.", "instruments": "A standalone harness keeps a handful of gauge wires: except those."},
	ThinningOnly: {"climate": "A track car usually does without.", "body": "A track car usually does without: except what is used."},
}

// thinned adds the connectors out of which Thin has terminals pulled.
func (m *model) thinned(extract []thin.Extraction) {
	known := map[string]int{}
	for i, c := range m.housings {
		known[c.ID] = i
	}
	m.housings = slices.Clone(m.housings)
	m.retained = map[string]bool{}
	for _, from := range m.facts.Kept {
		m.retained[from] = true
	}
	for _, e := range extract {
		m.retained[e.At.Connector] = true
		i, ok := known[e.At.Connector]
		if !ok {
			i = len(m.housings)
			known[e.At.Connector] = i
			m.housings = append(m.housings, m.facts.connector(e.At.Connector))
		}
		if !m.housings[i].Has(e.At.Cavity) {
			m.housings[i].Cavities = append(slices.Clone(m.housings[i].Cavities), e.At.Cavity)
		}
	}
}

func (f Facts) connector(id string) harness.Connector {
	for i := range f.Laid.Loom.Connectors {
		if c := &f.Laid.Loom.Connectors[i]; c.ID == id {
			return c.Connector
		}
	}
	return harness.Connector{ID: id, Name: id, First: face.TopLeft, Rows: 1, Assumed: true}
}

// rowOf describes the wire of an extracted terminal as a pinout's row would.
func (m *model) rowOf(e thin.Extraction) harness.Row {
	if w := m.endsAt[e.At]; w != nil && w.ID == e.Wire {
		return rowOfWire(w, e.At)
	}
	return harness.Row{Ref: e.At}
}

// RowOf describes a wire as a pinout's row would, at the first of its ends that is in a cavity.
func RowOf(w *harness.Wire) harness.Row {
	if w.Ends[0].At == (harness.Ref{}) {
		return rowOfWire(w, w.Ends[1].At)
	}
	return rowOfWire(w, w.Ends[0].At)
}

func rowOfWire(w *harness.Wire, at harness.Ref) harness.Row {
	return harness.Row{Ref: at, Colour: w.Colour, Circuit: w.Circuit, Function: w.Function, Signal: w.Signal, Size: w.Size}
}

// Wires gives a row for each cavity of the plan's housings that holds a wire as found: the pinout's own where it has one.
func (p *Plan) Wires(f Facts) []harness.Row {
	out := []harness.Row{}
	told := map[harness.Ref]bool{}
	if p.Moves {
		for _, row := range f.From.Rows {
			if !row.Empty {
				told[row.Ref] = true
				out = append(out, row)
			}
		}
	}
	housing := map[string]bool{}
	for _, h := range p.Housings {
		housing[h.ID] = true
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			if housing[e.At.Connector] && !told[e.At] {
				told[e.At] = true
				out = append(out, rowOfWire(w, e.At))
			}
		}
	}
	return out
}

// workThin puts Pin's extractions where the work needs them, carries out what has been ticked, and proves the rest on
// the model of the harness as it is now.
func (p *Plan) workThin(f Facts, d Decisions, m *model) {
	t := &p.Thin
	t.Steps = p.withExtractions(d.Bench.Rates.Extract, d.Ticks)
	planned := make([]work.Step, len(t.Steps))
	for i, s := range t.Steps {
		planned[i] = s.Step
	}
	found := m.foundWhole(&f.Laid.Loom)
	t.Progress = t.Result.Progress(found, d.Ticks, planned)
	t.Steps = append(t.Steps, t.Progress.Mends...)
	p.Findings = append(p.Findings, t.Progress.Findings...)
	t.Counts = t.Result.Count(found, t.Progress, t.Steps)
	left := t.Result.Left(t.Progress, planned)
	t.Held = left.Held
	if n := len(left.Held); n > 0 {
		p.Findings = append(p.Findings, finding.Finding{Code: "steps-held", Severity: finding.Wrong, Stage: "thin",
			Text: fmt.Sprintf("%d steps cannot be done as the harness is now: what was done before the decisions changed stands in their way.", n), Remedy: "See what was done and is not wanted any more; put it right, or take the ticks back if it was not done."})
	}
	end, inHand, err := work.Run(t.Progress.Now, left.Steps)
	t.Proof.Steps, t.Proof.InHand = len(left.Steps), inHand
	if err != nil {
		t.Proof.Fault = err.Error()
		return
	}
	t.Proof.Partial = len(t.Progress.Findings)+len(t.Progress.Mends)+len(left.Held) > 0
	end = p.workReach(d, left, end, t.Proof.Partial)
	if t.Proof.Partial || p.Reach.Proof.Partial || p.Reach.Proof.Fault != "" {
		t.Proof.Reached, t.Proof.Partial = true, true
		return
	}
	t.Proof.Differences = harness.CopperDifferences(end, p.Reach.Result.Wanted(t.Result.Wanted()), m.notMoved)
	t.Proof.Reached = len(t.Proof.Differences) == 0
	p.Reach.Proof.Reached, p.Reach.Proof.Differences = t.Proof.Reached, t.Proof.Differences
}

// withExtractions puts each terminal that Pin pulls for a wire that goes before the step that lets the wire fall out.
func (p *Plan) withExtractions(minutes float64, ticks []work.Tick) []thin.Step {
	type step struct {
		id, text string
		edits    []harness.Edit
		from     harness.Ref
	}
	pulls := map[harness.TerminalID]*step{}
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Terminal != "" && pulls[s.Terminal] == nil {
			pulls[s.Terminal] = &step{s.ID, s.Text, s.Edits, s.From}
		}
	}
	for _, t := range ticks { // what was pulled already is not on the sheet any more
		for _, e := range t.Edits {
			if e.Do == harness.Remove && pulls[e.Terminal] == nil {
				pulls[e.Terminal] = &step{t.Step, t.Text, t.Edits, e.At}
			}
		}
	}
	out := make([]thin.Step, 0, len(p.Thin.Result.Steps)+len(p.Thin.Result.Extract))
	put := map[harness.TerminalID]bool{}
	for _, s := range p.Thin.Result.Steps {
		for _, term := range s.Extract {
			pull := pulls[term]
			if pull == nil {
				continue
			}
			s.Needs = append(slices.Clone(s.Needs), pull.id)
			if put[term] {
				continue
			}
			put[term] = true
			out = append(out, thin.Step{Step: work.Step{ID: pull.id, Edits: pull.edits}, Kind: thin.PullOut, System: s.System, Wires: s.Wires, At: []harness.Ref{pull.from},
				Text: pull.text, Why: "This step is on the re-pin sheet too.", Minutes: minutes})
		}
		out = append(out, s)
	}
	return out
}
