package plan

import (
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/repin"
	"draxel/core/thin"
	"draxel/core/work"
)

// Done gives the tick of a step, and false where it is not done.
func (p *Plan) Done(step string) (work.Tick, bool) {
	t, ok := p.Past.Done[step]
	return t, ok
}

// Blocked says why a step cannot be done yet, empty where it can: what must come first is named, else what stands in
// its way on the harness as it is now.
func (p *Plan) Blocked(s *work.Step) string { return p.BlockedAfter(s, nil) }

// BlockedAfter says it of when further steps are done too.
func (p *Plan) BlockedAfter(s *work.Step, done map[string]bool) string {
	if why := p.Work.Held[s.ID]; why != "" {
		return "what was done before the decisions changed stands in its way (" + why + ")"
	}
	if s.Kind != thin.Gate && len(s.Missing) > 0 {
		return "what is missing: " + strings.Join(s.Missing, "; ")
	}
	if g := p.Work.gate; g != "" && slices.Contains(s.Needs, g) {
		if _, passed := p.Past.Done[g]; !passed && !done[g] {
			return "the gate before the first cut"
		}
	}
	for _, need := range s.Needs {
		if _, before := p.Past.Done[need]; before || done[need] {
			continue
		}
		if i, known := p.Work.at[need]; known {
			return p.Work.Steps[i].Text
		}
	}
	return ""
}

// Ready says whether a step can be done now, tried on a bench that holds the harness as it is.
func (p *Plan) Ready(s *work.Step, bench *harness.Bench) bool {
	if p.Blocked(s) != "" {
		return false
	}
	if s.Stage != work.Pin || len(s.Edits) == 0 {
		return true
	}
	before := bench.InHand()
	after, err := bench.Would(s.Edits...)
	return err == nil && after <= max(before, p.Pin.Limit)
}

// Of gives the steps on the list of a stage, in their order: its own, and before the first of them that needs it the
// caution or the gate of another. Of no stage it gives all.
func (p *Plan) Of(stage work.Stage) []*work.Step {
	var out []*work.Step
	told := map[string]bool{}
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		if stage != "" && s.Stage != stage {
			continue
		}
		for _, need := range s.Needs {
			k, known := p.Work.at[need]
			if x := &p.Work.Steps[k]; stage != "" && known && x.Stage != stage && !told[need] && len(x.Edits) == 0 &&
				(need == p.Work.gate || x.Kind == work.Caution) {
				told[need], out = true, append(out, x)
			}
		}
		out = append(out, s)
	}
	return out
}

// Step gives a step of the plan by its id.
func (p *Plan) Step(id string) (*work.Step, bool) {
	i, ok := p.Work.at[id]
	if !ok {
		return nil, false
	}
	return &p.Work.Steps[i], true
}

// Tick gives what is kept of a step of the plan when it has been carried out, and false where there is no such step.
func (p *Plan) Tick(id string) (work.Tick, bool) {
	s, ok := p.Step(id)
	if !ok {
		return work.Tick{}, false
	}
	t := s.Tick()
	if sheet, pins := p.Sheet(id); pins {
		t = sheet.Tick()
		t.Minutes = sheet.Minutes
	}
	if s.Stage == work.Reach && s.Length > 0 {
		t.Piece = p.Reach.Result.PieceFor(s.Wire())
	}
	return t, true
}

// Sheet gives a step of Pin with its advice, and false where it is of another stage.
func (p *Plan) Sheet(id string) (*repin.Step, bool) {
	i := slices.IndexFunc(p.Steps, func(s repin.Step) bool { return s.ID == id })
	if i < 0 {
		return nil, false
	}
	return &p.Steps[i], true
}

// Vehicle gives the wanted harness as what a meter is put on. It fails where nobody has said what stands in the
// vehicle: without sources and fuses no meter shows anything.
func (p *Plan) Vehicle(f *fact.Facts) (*prove.Vehicle, error) {
	return live.Metered(f, f.Studs(), p.Feed.Result, p.Found, p.Wanted)
}

// Settings lists what the unit is to be set to: for outputs that were exchanged, and by the sums of functions.
func (p *Plan) Settings() []string { return slices.Concat(p.Pin.Settings, p.Join.Settings) }

// Unbuilt names the wires that are not yet as they are wanted: what is measured at them says nothing.
func (p *Plan) Unbuilt() map[harness.WireID]bool {
	out := map[harness.WireID]bool{}
	for _, w := range p.Wanted.Wires() {
		is, there := p.Past.Now.Tips(w)
		want, _ := p.Wanted.Tips(w)
		differs := !there || is != want
		for _, t := range want {
			if t.State != harness.Crimped || differs {
				continue
			}
			now, seated := p.Past.Now.Place(t.Terminal)
			then, _ := p.Wanted.Place(t.Terminal)
			differs = !seated || now != then
		}
		if differs {
			out[w.Whole()] = true
			out[w] = true
		}
	}
	return out
}

// TwiceChecked says whether every power and ground cavity of the finished connectors was checked a second time, and
// found as it should be.
func (p *Plan) TwiceChecked(checks []pin.Check) bool {
	ok := map[harness.Ref]bool{}
	for _, c := range checks {
		ok[c.At] = c.OK
	}
	return !slices.ContainsFunc(p.Pin.Expected, func(e pin.Expected) bool { return e.Power && !ok[e.At] })
}
