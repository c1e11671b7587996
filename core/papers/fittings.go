package papers

import (
	"cmp"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/terminal"
	"draxel/core/work"
)

// fittings are the small things that the edits of the steps use up: a sleeve for each joint, a cap for each end that is
// sealed, a plug for each cavity that stays empty, a ring for each end that comes to a stud, and the terminals that are
// crimped on outside of Pin. They are counted from the edits themselves, so that no step is without what it takes.
func (w *wants) fittings() {
	school, square := map[harness.WireID]reach.School{}, map[harness.WireID]size.Section{}
	if r := w.p.Reach.Result; r != nil {
		for i := range r.Joints {
			school[r.Joints[i].Wire] = r.Joints[i].School
		}
		for i, x := range r.Wires() {
			square[x.ID] = cmp.Or(r.Lines[i].Size, x.Size)
		}
	}
	fits := map[string][]terminal.Part{} // by step of Pin
	for i := range w.p.Steps {
		fits[w.p.Steps[i].ID] = w.p.Steps[i].Fit.Parts
	}
	for i := range w.p.Work.Steps {
		s := &w.p.Work.Steps[i]
		if _, done := w.p.Done(s.ID); done {
			continue
		}
		use := func(what, where string) {
			w.take(s.Stage, what, 1, where, s.ID)
			w.spare(s.Stage, what, "", tenthMore, false)
		}
		for k := range s.Edits {
			e := &s.Edits[k]
			switch whole := e.Wire.Whole(); e.Do {
			case harness.Join, harness.Tap, harness.Tie, harness.Heal:
				how := w.d.Reach.Rules.School
				for _, l := range e.Lengths {
					how = cmp.Or(school[l.Wire.Whole()], how)
				}
				use("sleeve for a joint, "+reach.SchoolWord(how), cmp.Or(e.Joint.Name(), e.At.String(), e.Wire.Name()))
			case harness.Seal:
				use("cap for a cut end, adhesive shrink", e.Wire.Name())
			case harness.Cap, harness.Park:
				use("cap for a terminal, insulating", cmp.Or(e.Label, string(e.Terminal)))
			case harness.Land:
				use(strings.TrimSpace("ring terminal for "+e.Joint.Name()+", "+square[whole].String()), e.Joint.Name())
			case harness.Plug:
				if !slices.ContainsFunc(fits[s.ID], func(x terminal.Part) bool { return x.Kind == terminal.Plug }) {
					use("cavity plug for "+e.At.Connector, e.At.String())
				}
			case harness.Crimp:
				if len(fits[s.ID]) == 0 { // else Pin knows which
					w.crimped(s, w.cavity[e.Terminal], square[whole], use)
				}
			default: // the others move, cut or take away what is there
			}
		}
	}
}

// crimped is what a terminal takes that is crimped on in a step.
func (w *wants) crimped(s *work.Step, at harness.Ref, square size.Section, use func(what, where string)) {
	k := slices.IndexFunc(w.f.Laid.Loom.Connectors, func(h harness.Half) bool { return h.ID == at.Connector })
	var parts []terminal.Part
	if k >= 0 {
		parts = terminal.New(w.f.Laid.Loom.Connectors[k].Seat(at.Cavity), square).Parts
	}
	if len(parts) == 0 {
		use("terminals for "+cmp.Or(at.Connector, "a plug that is not listed")+", kind not known: look at its housing",
			at.String())
	}
	for _, part := range parts {
		if part.Kind.Tool() {
			w.tool(s.Stage, part.Name, w.d.Pin.Have[part.Name], []string{s.ID})
		} else {
			use(part.Name, at.String())
		}
	}
}
