package plan

import (
	"cmp"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/terminal"
	"draxel/core/work"
)

// fittings are the small things that the edits of the steps use up: a sleeve for each joint, a cap for each end that is
// sealed, a plug for each cavity that stays empty, a ring for each end that comes to a stud, and the terminals that are
// crimped on outside of Pin. They are counted from the edits themselves, so that no step is without what it takes.
func (w *wants) fittings() {
	school, square := map[string]reach.School{}, map[string]size.Section{}
	if r := w.p.Reach.Result; r != nil {
		for i := range r.Joints {
			school[r.Joints[i].Wire] = r.Joints[i].School
		}
		for i, x := range r.Wires() {
			square[x.ID] = cmp.Or(r.Lines[i].Size, x.Size)
		}
	}
	for i := range w.p.Work.Steps {
		s := &w.p.Work.Steps[i]
		if _, done := w.p.Done(s.ID); done {
			continue
		}
		use := func(what string, more float64, where string) {
			w.add(
				&handover.Want{
					What:  what,
					Need:  1,
					Spare: more,
					Stage: string(s.Stage),
					For:   []string{where},
					Steps: []string{s.ID},
				},
			)
		}
		for k := range s.Edits {
			e := &s.Edits[k]
			whole := circuit.Whole(e.Wire)
			switch e.Do {
			case harness.Join, harness.Tap, harness.Tie, harness.Heal:
				how := w.d.Reach.Rules.School
				for _, l := range e.Lengths {
					how = cmp.Or(school[circuit.Whole(l.Wire)], how)
				}
				use("sleeve for a joint, "+reach.SchoolWord(how), tenthMore, cmp.Or(e.Joint, e.At.String(), e.Wire))
			case harness.Seal:
				use("cap for a cut end, adhesive shrink", tenthMore, e.Wire)
			case harness.Cap, harness.Park:
				use("cap for a terminal, insulating", tenthMore, cmp.Or(e.Label, string(e.Terminal)))
			case harness.Plug:
				if slices.ContainsFunc(
					w.p.Pin.Orders,
					func(o pin.Order) bool { return o.Kind == terminal.Plug && slices.Contains(o.For, e.At) },
				) {
					continue // Pin knows which
				}
				use("cavity plug for "+e.At.Connector, tenthMore, e.At.String())
			case harness.Land:
				use(strings.TrimSpace("ring terminal for "+e.Joint+", "+square[whole].String()), tenthMore, e.Joint)
			case harness.Crimp:
				if s.Stage != work.Pin { // else it is in Pin's own list
					w.crimped(s, e, square[whole])
				}
			case harness.Remove,
				harness.Insert,
				harness.Add,
				harness.Unplug,
				harness.Resume,
				harness.Drop,
				harness.Sever,
				harness.Lay,
				harness.Cut,
				harness.Open,
				harness.Free,
				harness.FallOut,
				harness.Clip,
				harness.Unjoin:
			}
		}
	}
}

// crimped is what a terminal takes that is crimped on in a step.
func (w *wants) crimped(s *work.Step, e *harness.Edit, square size.Section) {
	at := w.cavity[e.Terminal]
	want := handover.Want{
		What: "terminals for " + cmp.Or(
			at.Connector,
			"a plug that is not listed",
		) + ", kind not known: look at its housing",
		Need:  1,
		Spare: tenthMore,
		Stage: string(s.Stage),
		For:   []string{cmp.Or(at.String(), string(e.Terminal))},
		Steps: []string{s.ID},
	}
	k := slices.IndexFunc(w.f.Laid.Loom.Connectors, func(h harness.Half) bool { return h.ID == at.Connector })
	if k < 0 {
		w.add(&want)
		return
	}
	parts := terminal.New(w.f.Laid.Loom.Connectors[k].Seat(at.Cavity), square).Parts
	if len(parts) == 0 {
		w.add(&want)
	}
	for _, part := range parts {
		x := want
		x.What = part.Name
		if part.Kind.Tool() {
			x.Spare = 0
			if slices.ContainsFunc(w.all, func(y handover.Want) bool { return y.What == part.Name }) {
				continue // one is enough
			}
		}
		w.add(&x)
	}
}
