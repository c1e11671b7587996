package thin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Progress is what of the work so far has to be put right, and what is left of it.
type Progress struct {
	work.Past
	Mends    []Step // what puts right what was done before the decision changed
	Findings []finding.Finding
}

// Progress looks at what was done of Thin's work and is not in the plan any more: it stays done, and where a cut is not
// wanted any more the mending of it is planned. Planned has the ids of the steps that are in the plan.
func (r *Result) Progress(past work.Past, planned map[string]bool) Progress {
	p := Progress{Past: past}
	for _, t := range past.Ticks {
		if t.Of() == work.Thin && !planned[t.Step] && len(t.Edits) > 0 && !past.IsLost(t.Step) {
			r.mend(&p, t)
		}
	}
	finding.Sort(p.Findings)
	return p
}

// mend plans what a step needs that was done and is not in the plan any more.
func (r *Result) mend(p *Progress, t work.Tick) {
	stays := map[harness.WireID]bool{}
	for w, v := range r.Wires {
		stays[r.t.loom.Wires[w].ID] = v.Choice != Goes
	}
	mended := false
	for _, e := range t.Edits {
		switch {
		case e.Do == harness.Cut && stays[e.Wire]:
			p.Mends = append(p.Mends, r.rejoinStub(e))
			mended = true
		case e.Do == harness.Open:
			if step, ok := r.remake(p.Now, e.Joint, stays); ok {
				p.Mends = append(p.Mends, step)
				mended = true
			}
		}
	}
	if !mended {
		p.Findings = append(p.Findings, finding.Finding{Code: "done-unwanted", Severity: finding.Check, Stage: "thin",
			Subject: t.Step, Place: finding.Place{Part: "work"},
			Text:   fmt.Sprintf("%q was done, and the plan does not ask for it any more.", t.Text),
			Remedy: "Look what of it has to be put back, or take the tick back if it was not done."})
	}
}

// rejoinStub plans the joining of a wire to the stub that was cut off it.
func (r *Result) rejoinStub(cut harness.Edit) Step {
	edits := []harness.Edit{{Do: harness.Heal, Wire: cut.Wire, End: cut.End}}
	s := Step{Stage: work.Thin, Kind: Mend, Wires: []harness.WireID{cut.Wire}, Minutes: r.t.in.Bench.Rates.Join,
		Text: fmt.Sprintf("Join %s to its stub again.", r.t.name(r.t.wireNumber()[cut.Wire])),
		Why:  "It was cut, and is wanted after all."}
	return s.As(work.New(edits))
}

// remake plans the making anew of a splice that was taken apart and is wanted after all: of the legs that stay and are
// still there. It gives false where the plan wants no splice there, or fewer than two legs are left.
func (r *Result) remake(now harness.Harness, id harness.JointID, stays map[harness.WireID]bool) (Step, bool) {
	at, known := r.t.net.Joint(id)
	wanted := slices.ContainsFunc(r.Joints, func(j JointVerdict) bool {
		return j.Kind == AtSplice && j.ID == id && (j.Fate == Leave || j.Fate == Trim)
	})
	if !known || !wanted {
		return Step{}, false
	}
	var edits []harness.Edit
	join := harness.Edit{Do: harness.Join, Joint: id}
	var legs []harness.WireID
	for _, x := range r.t.net.Tips(at) {
		l := r.t.net.TipID(x)
		tips, there := now.Tips(l.Wire)
		if !there || !stays[l.Wire] {
			continue
		}
		if tips[l.End].Joint == id.Through() && len(edits) == 0 {
			edits = append(edits, harness.Edit{Do: harness.Open, Joint: id.Through()})
		}
		join.Lengths, legs = append(join.Lengths, l), append(legs, l.Wire)
	}
	if len(join.Lengths) < 2 {
		return Step{}, false
	}
	s := Step{Stage: work.Thin, Kind: Mend, Wires: legs, Minutes: r.t.in.Bench.Rates.Join,
		Text: fmt.Sprintf("Make splice %s anew: join %s.", id, strings.Join(harness.Names(legs), ", ")),
		Why: "It was taken apart, and " +
			"is wanted after all."}
	return s.As(work.New(append(edits, join))), true
}
