package join

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/work"
)

// comes says whether a length that comes to a joint is the end's own wire, or a piece that lengthens it there.
func (e *End) comes(l harness.TipID) bool {
	return l == e.TipID ||
		l.Wire != e.Wire && l.Wire.Whole() == e.Wire && !l.Wire.StubOf(e.Wire)
}

func (x *planner) cut(e *End) {
	edits := []harness.Edit{
		{Do: harness.Cut, Wire: e.Wire, End: e.End},
		{Do: harness.Seal, Wire: e.Wire.Stub(e.End), End: 1},
	}
	where, after := "behind "+work.Spot(e.At), "; seal the stub"
	if e.Back > 0 {
		where = fmt.Sprintf("%.0f mm behind %s", e.Back, work.Spot(e.At))
	}
	tips, _ := x.now.Tips(e.Wire)
	if tips[e.End].State != harness.Crimped {
		edits[1] = harness.Edit{Do: harness.FallOut, Wire: e.Wire.Stub(e.End)}
		where, after = "where it leaves towards an end that nobody needs", "; what is left there is thrown away"
	}
	x.add(
		work.Step{
			Kind:    Cut,
			Wires:   []harness.WireID{e.Wire},
			At:      []harness.Ref{e.At},
			Minutes: x.in.Seal,
			Text:    fmt.Sprintf("Cut %s%s %s%s.", e.Name, work.Moved(e.At), where, after),
		},
		work.New(edits),
	)
}

// clip cuts the terminal off an end that was taken out of its cavity, where a piece lengthens it.
func (x *planner) clip(e *End) {
	x.add(work.Step{Kind: Cut, Wires: []harness.WireID{e.Wire}, At: []harness.Ref{e.At}, Minutes: x.in.Seal,
		Text: fmt.Sprintf("Cut the terminal off %s, which waits: it is lengthened there.", e.Name)},
		work.New([]harness.Edit{{Do: harness.Clip, Wire: e.Wire, End: e.End}}))
}

// bring makes the step in which ends come to their joint.
func (x *planner) bring(
	j *Joint,
	name harness.JointID,
	missing []harness.TipID,
	stay bool,
	host int,
	refs []harness.Ref,
	needs []string,
) {
	var edits []harness.Edit
	var open []harness.TipID
	hostStub := harness.WireID("")
	if host >= 0 {
		hostStub = j.Ends[host].Wire.Stub(j.Ends[host].End)
	}
	for _, l := range missing {
		if host >= 0 && (l == j.Ends[host].TipID || l.Wire == hostStub) {
			continue
		}
		if e := x.ends[l]; e != nil && e.How == Clipped {
			if tips, there := x.now.Tips(l.Wire); there && tips[l.End].State == harness.Crimped {
				edits = append(edits, harness.Edit{Do: harness.Clip, Wire: l.Wire, End: l.End})
			}
		}
		open = append(open, l)
	}
	if len(open) == 0 || host < 0 && !stay && len(open) < 2 && !x.comes(name) {
		return
	}
	s := work.Step{Kind: Make, At: refs, Why: j.Why, Minutes: x.in.Join}
	for _, l := range open {
		if !slices.Contains(s.Wires, l.Wire) {
			s.Wires = append(s.Wires, l.Wire)
		}
	}
	switch {
	case host >= 0:
		h := &j.Ends[host]
		edits = append(edits, harness.Edit{Do: harness.Tap, Wire: h.Wire, End: h.End, Joint: name, Lengths: open})
		s.Wires = append([]harness.WireID{h.Wire}, s.Wires...)
		s.Text = fmt.Sprintf(
			"Bare %s%s%s without cutting it, and join %s onto it, %s.",
			h.Name,
			work.Moved(h.At),
			x.behind(h),
			x.list(open),
			x.in.School,
		)
	case stay || x.comes(name):
		edits = append(edits, harness.Edit{Do: harness.Join, Joint: name, Lengths: open})
		s.Text = fmt.Sprintf("Join %s to the %s as well, %s.", x.list(open), called(name), x.in.School)
	default:
		edits = append(edits, harness.Edit{Do: harness.Join, Joint: name, Lengths: open})
		s.Text = fmt.Sprintf("Join %s, %s.", x.list(open), x.in.School)
	}
	if clip := slices.ContainsFunc(edits, func(e harness.Edit) bool { return e.Do == harness.Clip }); clip {
		s.Text = "Cut the terminals off what waits for it. " + s.Text
	}
	x.add(s, work.New(edits, needs...))
}

// comes says whether a joint is another stage's, which makes it or has made it.
func (x *planner) comes(name harness.JointID) bool {
	for _, j := range x.in.Joints {
		if x.named[j.Name] == name && j.Name == name {
			return false
		}
	}
	return true
}

func (x *planner) behind(e *End) string {
	if e.Back > 0 {
		return fmt.Sprintf(", %.0f mm behind %s,", e.Back, work.Spot(e.At))
	}
	return " at " + work.Spot(e.At)
}

// finish brings the ends of a new wire that come to no joint and no terminal where they belong.
func (x *planner) finish(w *Fresh) {
	tips, there := x.now.Tips(w.ID)
	for end := range w.Ends {
		g := &w.Ends[end]
		switch {
		case g.Terminal != "" || g.Joint != "" && x.ours(g.Joint):
		case g.Joint != "":
			if !there || tips[end] != (harness.Tip{State: harness.Joined, Joint: g.Joint}) {
				x.add(
					work.Step{
						Kind:    Make,
						Wires:   []harness.WireID{w.ID},
						Minutes: x.in.Join,
						Text:    fmt.Sprintf("Bring %s into splice %s, %s.", w.Name, g.Joint, x.in.School),
					},
					work.New(
						[]harness.Edit{
							{Do: harness.Join, Joint: g.Joint, Lengths: []harness.TipID{{Wire: w.ID, End: end}}},
						},
					),
				)
			}
		case g.Stud != "":
			if !there || tips[end] != (harness.Tip{State: harness.Joined, Joint: g.Stud}) {
				x.add(
					work.Step{
						Kind:    Land,
						Wires:   []harness.WireID{w.ID},
						Minutes: x.in.Seal,
						Text:    fmt.Sprintf("Bring %s to %s.", w.Name, g.Stud),
						Warn: []string{
							"It feeds nothing before everything is joined and checked: leave the fuse out, the ring off.",
						},
					},
					work.New([]harness.Edit{{Do: harness.Land, Wire: w.ID, End: end, Joint: g.Stud}}),
				)
			}
		case !there || tips[end].State != harness.Sealed:
			owner := "nobody is named who sees to it"
			if g.Owner != "" {
				owner = g.Owner + " sees to it"
			}
			x.add(
				work.Step{
					Kind:    Seal,
					Wires:   []harness.WireID{w.ID},
					Minutes: x.in.Seal,
					Text: fmt.Sprintf(
						"Seal the open end of %s and label it: it waits for its source, and %s.",
						w.Name,
						owner,
					),
				},
				work.New([]harness.Edit{{Do: harness.Seal, Wire: w.ID, End: end}}),
			)
		}
	}
}
