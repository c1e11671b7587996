package thin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Progress is what has been done so far, and what is left.
type Progress struct {
	Now      harness.Harness
	Done     map[string]work.Tick // by step
	Lost     []work.Tick          // of Reach's: done, and not to be done on the harness as it is known now, with why in their reason
	Pieced   bool                 // Reach has cut wires: what Thin wanted to cut may be cut already
	Mends    []Step               // what puts right what was done before the decision changed
	Findings []finding.Finding
}

// Progress carries the ticks out on the harness as found. What was done and is no longer in the plan stays done; where
// a cut is not wanted any more, the mending of it is planned.
func (r *Result) Progress(found harness.Harness, ticks []work.Tick, planned []work.Step) Progress {
	p := Progress{Done: map[string]work.Tick{}}
	b := harness.Work(found)
	ticks = work.InOrder(ticks)
	inPlan := map[string]bool{}
	for _, s := range planned {
		inPlan[s.ID] = true
	}
	var strays []work.Tick
	for _, t := range ticks {
		p.Done[t.Step] = t
		p.Pieced = p.Pieced || t.Stage == "reach" && len(t.Edits) > 0
		if err := b.Do(t.Edits...); err != nil {
			if t.Stage != "" { // Pin says so of its own, and Reach from here
				if t.Stage == "reach" {
					t.Reason = err.Error()
					p.Lost = append(p.Lost, t)
				}
				continue
			}
			p.find("tick-lost", finding.Wrong, t, "The facts have changed since: look at the harness, and take the tick back if it was not done.", "It was ticked that %q, but on the harness as it is known now that cannot be done: %v.", t.Text, err)
			continue
		}
		if !inPlan[t.Step] && len(t.Edits) > 0 && t.Stage == "" { // Pin goes on from wherever its terminals are
			strays = append(strays, t)
		}
	}
	p.Now = b.Harness()
	for _, t := range strays {
		r.mend(&p, t)
	}
	finding.Sort(p.Findings)
	return p
}

func (p *Progress) find(code string, s finding.Severity, t work.Tick, remedy, format string, args ...any) {
	p.Findings = append(p.Findings, finding.Finding{Code: code, Severity: s, Stage: "thin", Subject: t.Step, Text: fmt.Sprintf(format, args...), Remedy: remedy})
}

// mend plans what a step needs that was done and is not in the plan any more.
func (r *Result) mend(p *Progress, t work.Tick) {
	stays := map[string]bool{}
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
		p.find("done-unwanted", finding.Check, t, "Look what of it has to be put back, or take the tick back if it was not done.", "%q was done, and the plan does not ask for it any more.", t.Text)
	}
}

// Remaining is the work that is left: the steps that can be carried out in their order, and those that cannot, since
// something that was done before the decisions changed stands in their way.
type Remaining struct {
	Steps   []work.Step
	Held    map[string]string // by step: why it cannot be done
	Reached map[string]bool   // by step: done, or can be done
}

// Left gives the work that is left of what is planned, the mending first.
func (r *Result) Left(p Progress, planned []work.Step) Remaining {
	left := Remaining{Held: map[string]string{}}
	var b *work.Trial // where all that was done is in the plan, what is left can be done: the proof will say so
	if len(p.Findings)+len(p.Mends) > 0 || p.Pieced {
		b = work.NewTrial(p.Now)
	}
	left.Reached = map[string]bool{}
	reached := left.Reached
	for id := range p.Done {
		reached[id] = true
	}
	try := func(s work.Step) {
		if reached[s.ID] {
			return
		}
		for _, need := range s.Needs {
			if !reached[need] {
				left.Held[s.ID] = "a step that it needs cannot be done"
				return
			}
		}
		if b != nil {
			if err := b.Try(s.Edits...); err != nil {
				left.Held[s.ID] = err.Error()
				return
			}
		}
		reached[s.ID] = true
		s.Needs = slices.DeleteFunc(slices.Clone(s.Needs), func(id string) bool { _, done := p.Done[id]; return done })
		left.Steps = append(left.Steps, s)
	}
	for _, m := range p.Mends {
		try(m.Step)
	}
	for _, s := range planned {
		try(s)
	}
	return left
}

// rejoinStub plans the joining of a wire to the stub that was cut off it.
func (r *Result) rejoinStub(cut harness.Edit) Step {
	stub := harness.Stub(cut.Wire, cut.End)
	edits := []harness.Edit{{Do: harness.Join, Joint: stub + " mended", Lengths: []harness.Length{{Wire: cut.Wire, End: cut.End}, {Wire: stub, End: 1}}}}
	return Step{Step: work.New(edits), Kind: Mend, Wires: []string{cut.Wire}, Minutes: r.t.in.Bench.Rates.Join,
		Text: fmt.Sprintf("Join %s to its stub again.", r.t.name(r.t.wireNumber()[cut.Wire])), Why: "It was cut, and is wanted after all."}
}

// remake plans the making anew of a splice that was taken apart and is wanted after all: of the legs that stay and are
// still there. It gives false where the plan wants no splice there, or fewer than two legs are left.
func (r *Result) remake(now harness.Harness, id string, stays map[string]bool) (Step, bool) {
	at, known := r.t.net.splice[id]
	wanted := slices.ContainsFunc(r.Joints, func(j JointVerdict) bool {
		return j.Kind == splice.word() && j.ID == id && (j.Fate == Leave || j.Fate == Trim)
	})
	if !known || !wanted {
		return Step{}, false
	}
	var edits []harness.Edit
	join := harness.Edit{Do: harness.Join, Joint: id}
	var names []string
	for _, x := range r.t.net.tips(at) {
		l := r.t.net.length(x)
		tips, there := now.Tips(l.Wire)
		if !there || !stays[l.Wire] {
			continue
		}
		if tips[l.End].Joint == throughName(id) && len(edits) == 0 {
			edits = append(edits, harness.Edit{Do: harness.Open, Joint: throughName(id)})
		}
		join.Lengths, names = append(join.Lengths, l), append(names, l.Wire)
	}
	if len(join.Lengths) < 2 {
		return Step{}, false
	}
	return Step{Step: work.New(append(edits, join)), Kind: Mend, Wires: names, Minutes: r.t.in.Bench.Rates.Join,
		Text: fmt.Sprintf("Make splice %s anew: join %s.", id, strings.Join(names, ", ")), Why: "It was taken apart, and is wanted after all."}, true
}
