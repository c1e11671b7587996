package reach

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/work"
)

// StepKind is what a step is about.
type StepKind string

// The kinds of step, in the order of work.
const (
	Caution  StepKind = "caution"
	LayAlong StepKind = "route"   // lay what runs along a path, plugs on
	Wait     StepKind = "wait"    // a mechanical part is not there yet
	ToLength StepKind = "measure" // measure a wire
	Gate     StepKind = "gate"    // all that must be done before
	CutWire  StepKind = "cut"
	JoinWire StepKind = "join"
	Dress    StepKind = "cover"
)

// StepKinds lists them.
func StepKinds() []StepKind {
	return []StepKind{Caution, LayAlong, Wait, ToLength, Gate, CutWire, JoinWire, Dress}
}

// Step is one thing to do so that the wires reach.
type Step struct {
	work.Step
	Kind     StepKind `json:"kind"`
	Text     string   `json:"text"`
	Why      string   `json:"why,omitempty"`
	Wire     string   `json:"wire,omitempty"`
	Path     string   `json:"path,omitempty"`
	Length   float64  `json:"length,omitempty"` // mm, of the piece that is let in
	Minutes  float64  `json:"minutes"`
	NoReturn bool     `json:"noReturn,omitempty"` // it cannot be undone in the metal
	Cautions []string `json:"cautions,omitempty"`
}

// Names of the pieces that are let in, and of what stands for a wire that is replaced.
func piece(wire string) string { return wire + " piece" }

func instead(wire string) string { return wire + " new" }

// planner collects the steps.
type planner struct {
	*Result
	s *settled
}

func (r *Result) plan(s *settled) {
	p := &planner{r, s}
	var before []string
	if p.anyCut() {
		before = append(before, p.add(Step{Step: work.Check("reach", "caution", "battery"), Kind: Caution, Text: "Battery negative off before the first cut, and control units unplugged.",
			Why: "A cut feed sparks, and a unit that is plugged in takes the harm."}))
	}
	laid := p.route()
	waits := p.waits()
	measured := p.measure()
	for b := range r.Bundles {
		if id := laid[b]; id != "" {
			before = append(before, id)
		}
	}
	before = append(before, measured...)
	free := r.in.Decisions.Rules.Free
	var gate string
	if !free && p.anyCut() {
		gate = p.gate("measured", "All bundles are routed with the plugs on, all wires are measured, and every connector is labelled, photographed and counted.", "Terminating sensor by sensor means doing it again: route all, measure all, then cut.", before)
	}
	var cuts []string
	joins := map[int]string{}
	for i := range r.Lines {
		if !slices.Contains([]Verdict{Extend, Replace, Fresh}, r.Lines[i].Verdict) {
			continue
		}
		var needs []string
		if gate != "" {
			needs = append(needs, gate)
		} else {
			needs = append(needs, before[0])
			for _, b := range r.Lines[i].route.Paths {
				needs = append(needs, laid[b])
			}
		}
		for _, part := range r.Lines[i].Waits {
			needs = append(needs, waits[part])
		}
		cut := p.cut(i, append(needs, r.in.Wires[i].After...))
		cuts = append(cuts, cut)
		joins[i] = cut
	}
	if !free && len(cuts) > 0 {
		gate = p.gate("cut", "All pieces are cut, labelled, and coded where their colour does not tell.", "Cut all, then join all: nothing is joined to the wrong piece.", cuts)
	}
	joined := map[int]string{}
	for i := range r.Lines {
		if cut := joins[i]; cut != "" && r.Lines[i].Verdict != Fresh {
			needs := []string{cut}
			if gate != "" {
				needs = append(needs, gate)
			}
			joined[i] = p.join(i, needs)
		}
	}
	p.cover(joined, laid)
}

func (p *planner) add(s Step) string {
	p.Steps = append(p.Steps, s)
	return s.ID
}

// route plans that what runs along each path is laid, and gives the step by the path's number, empty where nothing runs.
func (p *planner) route() []string {
	out := make([]string, len(p.Bundles))
	for b := range p.Bundles {
		x, path := &p.Bundles[b], &p.router.paths[b]
		if len(x.Wires) == 0 {
			continue
		}
		s := Step{Step: work.Check("reach", "route", path.ID), Kind: LayAlong, Path: path.ID, Minutes: p.in.Decisions.Rules.Rates.Route,
			Text: fmt.Sprintf("Lay %s from %s to %s, with the plugs on.", plural(len(x.Wires), "wire"), path.From, path.To), Cautions: p.along(path)}
		out[b] = p.add(s)
	}
	return out
}

// along says what to mind on a path.
func (p *planner) along(path *Path) []string {
	var out []string
	if path.Air() > 85 {
		out = append(out, fmt.Sprintf("Hot: %.0f °C. Keep it off the exhaust, and cover it for that.", path.Air()))
	}
	if path.Moving {
		out = append(out, "Something moves there: fix it on both sides, slack between, no joint in it.")
	}
	if path.Edge {
		out = append(out, "A raw edge: a grommet or an edge guard before a wire touches it.")
	}
	if path.Wall {
		out = append(out, "Through a wall: a grommet that is there before a new hole; do not drill structure without approval.")
	}
	if path.Wet {
		out = append(out, "Wet: a drip loop before the plug.")
	}
	return out
}

// waits: a length that waits for a part is not cut to.
func (p *planner) waits() map[string]string {
	out := map[string]string{}
	for b := range p.router.paths {
		part := p.router.paths[b].Waits
		if part == "" || len(p.Bundles[b].Wires) == 0 || out[part] != "" {
			continue
		}
		var paths []string
		for k := range p.router.paths {
			if p.router.paths[k].Waits == part {
				paths = append(paths, p.router.paths[k].ID)
			}
		}
		out[part] = p.add(Step{Step: work.Check("reach", "wait", part), Kind: Wait, Text: fmt.Sprintf("When the %s is fitted, measure %s again and put the lengths in.", part, strings.Join(paths, ", ")),
			Why: "Until then these lengths are provisional, and what depends on them is not cut."})
	}
	return out
}

func (p *planner) measure() []string {
	var out []string
	for i := range p.Lines {
		l := &p.Lines[i]
		if l.Verdict != Measure || l.Had > 0 {
			continue
		}
		out = append(out, p.add(Step{Step: work.Check("reach", "measure", l.Wire), Kind: ToLength, Wire: l.Wire, Minutes: p.in.Decisions.Rules.Rates.Measure,
			Text: fmt.Sprintf("Measure %s, plug to plug: it needs %.0f mm.", p.name(i), l.Need), Why: "Nobody knows how long it is."}))
	}
	return out
}

func (p *planner) gate(name, text, why string, needs []string) string {
	return p.add(Step{Step: work.Step{ID: work.Check("reach", "gate", name).ID, Edits: []harness.Edit{}, Needs: needs}, Kind: Gate, Text: text, Why: why})
}

func (p *planner) anyCut() bool {
	return slices.ContainsFunc(p.Lines, func(l Line) bool { return l.Verdict == Extend || l.Verdict == Replace || l.Verdict == Fresh })
}

// name says which wire is meant as a person recognises it.
func (r *Result) name(i int) string {
	w := &r.in.Wires[i]
	s := w.ID
	if c := w.Colour.String(); c != "" {
		s += " " + c
	}
	if w.Function != "" {
		s += " (" + w.Function + ")"
	}
	return s
}

func (p *planner) cut(i int, needs []string) string {
	l, w := &p.Lines[i], &p.in.Wires[i]
	end := l.At - 1
	s := Step{Kind: CutWire, Wire: l.Wire, Length: l.By, Minutes: p.in.Decisions.Rules.Rates.Cut, NoReturn: l.Verdict != Fresh}
	var edits []harness.Edit
	bare := []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}
	from := "new wire"
	if len(l.Provision) > 0 {
		from = l.Provision[0].String()
		if l.Provision[0].Coded {
			s.Cautions = append(s.Cautions, fmt.Sprintf("Its colour is not that of the wire: print %q at both ends and at each joint.", l.Code))
		}
		if l.Provision[0].Waits {
			s.Cautions = append(s.Cautions, fmt.Sprintf("The piece is cut from %s, which is still in the harness.", l.Provision[0].From))
		}
	}
	switch l.Verdict {
	case Extend:
		edits = []harness.Edit{{Do: harness.Cut, Wire: w.ID, End: end}, {Do: harness.Lay, Wire: piece(w.ID), Tips: bare}}
		s.Text = fmt.Sprintf("Cut %s %s from %s, and cut the piece that goes between: %s.", p.name(i), mm(p.back(i)), p.endName(w, end), from)
		if l.Joints == 1 {
			s.Text = fmt.Sprintf("Cut the terminal off %s at %s, and cut the piece that lengthens it: %s.", p.name(i), p.endName(w, end), from)
		}
	case Replace:
		edits = []harness.Edit{{Do: harness.Cut, Wire: w.ID}, {Do: harness.Cut, Wire: w.ID, End: 1}, {Do: harness.Lay, Wire: instead(w.ID), Tips: bare}}
		s.Text = fmt.Sprintf("Cut %s at both ends, and cut the wire that replaces it: %s.", p.name(i), from)
	default:
		s.Step = work.Check("reach", "cut", w.ID)
		s.Step.Needs = needs
		s.Text = fmt.Sprintf("Cut the new wire %s: %s.", p.name(i), from)
		return p.add(s)
	}
	for _, x := range l.Why {
		if x.Code == "extend" || s.Why == "" {
			s.Why = x.Text
		}
	}
	s.Step = work.New(edits, needs...)
	return p.add(s)
}

// back is how far from its end a wire is cut.
func (p *planner) back(i int) float64 {
	least := math.Inf(1)
	for _, j := range p.Joints {
		if j.Wire == p.Lines[i].Wire {
			least = min(least, j.Along)
		}
	}
	return least
}

func (p *planner) endName(w *Wire, end int) string {
	if e := w.Ends[end]; e.Seen() {
		return e.String()
	}
	return "its end"
}

func mm(x float64) string { return fmt.Sprintf("%.0f mm", x) }

func (p *planner) join(i int, needs []string) string {
	l, w := &p.Lines[i], &p.in.Wires[i]
	end := l.At - 1
	rules := &p.in.Decisions.Rules
	s := Step{Kind: JoinWire, Wire: l.Wire, NoReturn: true}
	var edits []harness.Edit
	if l.Verdict == Extend {
		edits = append(edits, harness.Edit{Do: harness.Join, Joint: JointName(w.ID, 1), Lengths: []harness.Length{{Wire: w.ID, End: end}, {Wire: piece(w.ID)}}})
		if l.Joints == 1 {
			edits = append(edits, harness.Edit{Do: harness.Crimp, Wire: piece(w.ID), End: 1, Terminal: harness.TerminalAt(w.Ends[end].At)})
		} else {
			edits = append(edits, harness.Edit{Do: harness.Join, Joint: JointName(w.ID, 2), Lengths: []harness.Length{{Wire: piece(w.ID), End: 1}, {Wire: harness.Stub(w.ID, end), End: 1}}})
		}
		s.Text = "Join the piece into " + p.name(i) + ":"
		if l.Joints == 1 {
			s.Text = "Join the piece to " + p.name(i) + " and crimp its new terminal:"
		}
		for _, j := range p.Joints {
			if j.Wire != l.Wire {
				continue
			}
			s.Text += fmt.Sprintf(" %s, %s;", j.where(), word(j.School))
			s.Minutes += map[School]float64{Solder: rules.Rates.Solder, Crimp: rules.Rates.Crimp, BareCrimp: rules.Rates.Crimp}[j.School]
			s.Why = j.Why
			for _, c := range j.Cautions {
				if !slices.Contains(s.Cautions, c) {
					s.Cautions = append(s.Cautions, c)
				}
			}
			if j.Trouble != "" {
				s.Cautions = append(s.Cautions, j.Trouble)
			}
		}
		s.Text = strings.TrimSuffix(s.Text, ";") + "."
	} else {
		s.Text = fmt.Sprintf("Put the new wire in the place of %s: new terminals where it had them, joints where it ended at a splice.", p.name(i))
		for e := range 2 {
			if p.s.alone(w, e) {
				edits = append(edits, harness.Edit{Do: harness.Crimp, Wire: instead(w.ID), End: e, Terminal: harness.TerminalAt(w.Ends[e].At)})
				s.Minutes += rules.Rates.Crimp
			} else {
				edits = append(edits, harness.Edit{Do: harness.Join, Joint: JointName(w.ID, e+1), Lengths: []harness.Length{{Wire: instead(w.ID), End: e}, {Wire: harness.Stub(w.ID, e), End: 1}}})
				s.Minutes += rules.Rates.Solder
			}
		}
		edits = append(edits, harness.Edit{Do: harness.FallOut, Wire: w.ID})
	}
	if l.Code != "" && len(l.Provision) > 0 && l.Provision[0].Coded {
		s.Cautions = append(s.Cautions, fmt.Sprintf("The code %q stands at both ends and at each joint.", l.Code))
	}
	s.Step = work.New(edits, needs...)
	return p.add(s)
}

// where says where a joint lies, as hands find it.
func (j *Joint) where() string {
	if j.Path != "" {
		return fmt.Sprintf("%.0f mm from %s along %s", j.At, j.From, j.Path)
	}
	return fmt.Sprintf("in the tail of %s", j.From)
}

func word(s School) string {
	return map[School]string{Solder: "soldered under adhesive shrink", Crimp: "crimped in a sealed sleeve", BareCrimp: "crimped under adhesive shrink"}[s]
}

// cover dresses each path once what is joined in it is joined.
func (p *planner) cover(joined map[int]string, laid []string) {
	for b := range p.Bundles {
		path := &p.router.paths[b]
		if laid[b] == "" || path.Cover == Bare {
			continue
		}
		needs := []string{laid[b]}
		for i := range p.Lines {
			if id := joined[i]; id != "" && slices.Contains(p.Lines[i].route.Paths, b) {
				needs = append(needs, id)
			}
		}
		what := map[Cover]string{Tape: "Tape", Sleeve: "Put the split sleeve on", Sock: "Shrink the sock over"}[path.Cover]
		s := Step{Step: work.Check("reach", "cover", path.ID), Kind: Dress, Path: path.ID, Minutes: math.Round(p.in.Decisions.Rules.Rates.Cover*path.Length/100) / 10,
			Text: fmt.Sprintf("%s %s, %.1f mm thick, and put clips and troughs back.", what, path.ID, p.Bundles[b].Laid)}
		s.Step.Needs = needs
		p.add(s)
	}
}
