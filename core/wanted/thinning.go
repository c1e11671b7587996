package wanted

import (
	"fmt"
	"slices"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/thin"
)

// Thinned is what stays and what goes.
type Thinned struct {
	Result   *thin.Result
	Proposed []Proposal
	Findings []finding.Finding
}

// ThinReads is what Thinned follows from.
type ThinReads struct {
	Facts     *fact.Facts
	Match     *match.Result
	Decisions []thin.Decision
	Bench     thin.Bench
	Block     Block
}

// Proposal is a decision that the kind of job or a match suggests. It is never applied unasked.
type Proposal struct {
	On     thin.Scope  `json:"on"`
	ID     string      `json:"id"`
	Choice thin.Choice `json:"choice"`
	Why    string      `json:"why"`
}

// twoEdits is the code of the finding that two stages want opposite things of one wire or connector.
const twoEdits = "two-edits"

// Thin computes what stays and goes. A wire that Match has put to use is kept, unless it was decided away by
// itself, which is then a contradiction between two stages.
func Thin(r ThinReads) *Thinned {
	f, t := r.Facts, &Thinned{}
	own := map[harness.WireID]thin.Choice{}
	for _, x := range r.Decisions {
		if x.On == thin.Wire && x.Verify == "" {
			own[harness.WireID(x.ID)] = x.Choice
		}
	}
	all := slices.Clone(r.Decisions)
	used := f.Used(r.Match)
	for _, at := range r.Block.Uses(f) {
		used[at] = "serves the fuse block " + r.Block.ID
	}
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
				all = append(all, thin.Decision{On: thin.Wire, ID: string(w.ID), Choice: thin.Keep, Reason: why})
			case thin.Goes:
				t.Findings = append(t.Findings, finding.Finding{
					Code: twoEdits, Severity: finding.Wrong, Stage: "thin", Subject: string(w.ID),
					Text:   fmt.Sprintf("Match says of %s that it %s, and Thin says that its wire %s goes.", e.At, why, w.ID),
					Remedy: "Reopen one of the two.",
				})
			case thin.Keep:
			}
		}
	}
	moved := f.Moved(r.Match)
	t.Result = thin.Compute(
		thin.Input{Loom: &f.Laid.Loom, Decisions: all, Bench: r.Bench, Records: f.Records, Moved: moved},
	)
	if more := t.filled(&r); len(more) > 0 { // housings that are to be filled do not come off
		t.Result = thin.Compute(
			thin.Input{
				Loom:      &f.Laid.Loom,
				Decisions: append(all, more...),
				Bench:     r.Bench,
				Records:   f.Records,
				Moved:     moved,
			},
		)
	}
	t.Findings = append(t.Findings, t.Result.Findings...)
	t.Proposed = t.propose(&r, own)
	return t
}

// Contradictions lists what two stages want opposite things of.
func (t *Thinned) Contradictions() []string {
	var out []string
	for i := range t.Findings {
		if t.Findings[i].Code == twoEdits {
			out = append(out, t.Findings[i].Text)
		}
	}
	return out
}

// filled keeps the connectors that are to be filled, and that were decided away: the two contradict each other, and
// that is said.
func (t *Thinned) filled(r *ThinReads) []thin.Decision {
	f := r.Facts
	use := map[string]string{}
	for to, m := range f.Meetings {
		if m.Met == match.SameAs || m.Met == match.PlugsOnto {
			use[m.With] = "it is to be " + to
		}
	}
	for _, w := range r.Match.Wants {
		if w.Verdict == match.NewWire && w.Origin.Kind == match.AtCavity {
			use[w.Origin.At.Connector] = "a new wire begins there"
		}
	}
	for i := range r.Match.Lines {
		l := &r.Match.Lines[i]
		if l.Decided && f.Leads(l) {
			use[l.From.Connector] = "a plug is put onto it"
		}
		if l.Origin != nil && l.Origin.Kind == match.AtCavity {
			use[l.Origin.At.Connector] = "a new wire begins there"
		}
	}
	for _, at := range r.Block.Uses(f) {
		use[at.Connector] = "a wire of the fuse block ends there"
	}
	var out []thin.Decision
	for _, c := range t.Result.Off {
		why := use[c]
		if why == "" {
			continue
		}
		out = append(out, thin.Decision{On: thin.Connector, ID: c, Choice: thin.Keep, Reason: why})
		t.Findings = append(t.Findings, finding.Finding{
			Code: twoEdits, Severity: finding.Wrong, Stage: "thin", Subject: c,
			Text: fmt.Sprintf("Match says of connector %s that %s, and Thin says that it goes. It stays until one of the "+
				"two is taken back.", c, why),
			Remedy: "Reopen one of the two.",
		})
	}
	return out
}

// propose says what the kind of job and the matches suggest.
func (t *Thinned) propose(r *ThinReads, own map[harness.WireID]thin.Choice) []Proposal {
	f := r.Facts
	out := []Proposal{}
	decided := map[string]bool{}
	for _, s := range t.Result.Systems {
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
	for _, l := range r.Match.Lines {
		i, ok := byRef[l.From]
		if !ok || !l.Decided || l.Verdict != match.Goes {
			continue
		}
		if w := f.Laid.Loom.Wires[i].ID; own[w] == thin.Undecided && t.Result.Wires[i].Choice != thin.Goes {
			own[w] = thin.Goes
			out = append(
				out,
				Proposal{thin.Wire, string(w), thin.Goes, fmt.Sprintf("In Match it was decided that %s goes.", l.From)},
			)
		}
	}
	return out
}

// notWanted is what a kind of job usually does without: common practice, no source.
var notWanted = map[stored.Kind]map[string]string{
	stored.Standalone: {
		"lighting":    "A standalone harness is reduced to the engine's own circuits.",
		"climate":     "A standalone harness is reduced to the engine's own circuits.",
		"body":        "A standalone harness is reduced to the engine's own circuits.",
		"instruments": "A standalone harness keeps a handful of gauge wires: except those.",
	},
	stored.ThinningOnly: {
		"climate": "A track car usually does without.",
		"body":    "A track car usually does without: except what is used.",
	},
}
