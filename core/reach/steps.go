package reach

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/route"
	"draxel/core/work"
)

// The kinds of step, in the order of work.
const (
	Caution            = work.Caution
	LayAlong work.Kind = "route"   // lay what runs along a path, plugs on
	Wait     work.Kind = "wait"    // a mechanical part is not there yet
	ToLength work.Kind = "measure" // measure a wire
	Gate     work.Kind = "gate"    // all that must be done before
	CutWire  work.Kind = "cut"
	JoinWire work.Kind = "join"
	Dress    work.Kind = "cover"
)

// planner collects the steps.
type planner struct {
	*Result
	s *settled
}

func (r *Result) plan(s *settled) {
	p := &planner{r, s}
	var before []string
	if p.anyCut() {
		battery := work.BatteryOff(work.Reach, 0)
		before = append(before, p.add(battery, battery))
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
	gates := !r.in.Decisions.Rules.Free && p.anyCut() && len(r.router.Paths) > 0
	var gate string
	if gates {
		gate = p.gate("measured", "All bundles are routed with the plugs on, and all wires are measured.",
			"Terminating sensor by sensor means doing it again: route all, measure all, then cut.", before)
	}
	var cuts []string
	joins := map[int]string{}
	for i := range r.Lines {
		if !p.toCut(i) {
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
	gate = ""
	if gates && len(cuts) > 0 {
		gate = p.gate("cut", "All pieces are cut, labelled, and coded where their colour does not tell.",
			"Cut all, then join all: nothing is joined to the wrong piece.", cuts)
	}
	joined := map[int]string{}
	for i := range r.Lines {
		if cut := joins[i]; cut != "" && !r.in.Wires[i].New {
			needs := []string{cut}
			if gate != "" {
				needs = append(needs, gate)
			}
			joined[i] = p.join(i, needs)
		}
	}
	p.cover(joined, laid)
}

// toCut says whether anything is cut for a wire: one that is new is, also where nobody knows yet how long it will be.
func (p *planner) toCut(i int) bool {
	v := p.Lines[i].Verdict
	return v == Extend || v == Replace || v == Fresh || p.in.Wires[i].New
}

func (p *planner) add(s Step, made work.Step) string {
	s = s.As(made)
	s.Stage = work.Reach
	p.Steps = append(p.Steps, s)
	return s.ID
}

// route plans that what runs along each path is laid, and gives the step by the path's number, empty where nothing
// runs.
func (p *planner) route() []string {
	out := make([]string, len(p.Bundles))
	for b := range p.Bundles {
		x, path := &p.Bundles[b], &p.router.Paths[b]
		if len(x.Wires) == 0 {
			continue
		}
		s := Step{Kind: LayAlong, Path: path.ID, Minutes: p.in.Decisions.Rules.Rates.Route,
			Text: fmt.Sprintf("Lay %s from %s to %s, with the plugs on.", plural(len(x.Wires), "wire"), path.From, path.To),
			Warn: p.along(path)}
		out[b] = p.add(s, work.Check("reach", "route", path.ID))
	}
	return out
}

// along says what to mind on a path.
func (p *planner) along(path *route.Path) []string {
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
		out = append(out, "Through a wall: a grommet that is there before a new hole; do not drill structure without "+
			"approval.")
	}
	if path.Wet {
		out = append(out, "Wet: a drip loop before the plug.")
	}
	return out
}

// waits: a length that waits for a part is not cut to.
func (p *planner) waits() map[string]string {
	out := map[string]string{}
	for b := range p.router.Paths {
		part := p.router.Paths[b].Waits
		if part == "" || len(p.Bundles[b].Wires) == 0 || out[part] != "" {
			continue
		}
		var paths []string
		for k := range p.router.Paths {
			if p.router.Paths[k].Waits == part {
				paths = append(paths, p.router.Paths[k].ID)
			}
		}
		out[part] = p.add(Step{Kind: Wait, Text: fmt.Sprintf("When the %s is fitted, measure %s again and put the "+
			"lengths in.", part, strings.Join(paths, ", ")),
			Why: "Until then these lengths are provisional, and what depends on them is not cut."}, work.Check("reach", "wait",
			part))
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
		out = append(out, p.add(Step{Kind: ToLength, Wires: []harness.WireID{l.Wire},
			Minutes: p.in.Decisions.Rules.Rates.Measure,
			Text:    fmt.Sprintf("Measure %s, plug to plug: it needs %.0f mm.", p.name(i), l.Need), Why: "Nobody knows how " +
				"long it is."}, work.Check("reach", "measure", string(l.Wire))))
	}
	return out
}

func (p *planner) gate(name, text, why string, needs []string) string {
	made := work.Check("reach", "gate", name)
	made.Needs = needs
	return p.add(Step{Kind: Gate, Text: text, Why: why}, made)
}

func (p *planner) anyCut() bool {
	for i := range p.Lines {
		if p.toCut(i) {
			return true
		}
	}
	return false
}

// name says which wire is meant as a person recognises it.
func (r *Result) name(i int) string {
	w := &r.in.Wires[i]
	s := w.ID.Name()
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
	s := Step{Kind: CutWire, Wires: []harness.WireID{l.Wire}, Length: l.By, Minutes: p.in.Decisions.Rules.Rates.Cut}
	from := "new wire"
	if len(l.Provision) > 0 {
		from = l.Provision[0].String()
		if l.Provision[0].Coded {
			s.Warn = append(s.Warn, fmt.Sprintf("Its colour is not that of the wire: print %q at both ends and at each "+
				"joint.", l.Code))
		}
		if l.Provision[0].Waits {
			s.Warn = append(s.Warn, fmt.Sprintf("The piece is cut from %s, which is still in the harness.", l.Provision[0].From))
		}
	}
	cutOff := func(end int) harness.Edit { return harness.Edit{Do: harness.Cut, Wire: w.ID, End: end} }
	lay := func(name harness.WireID) harness.Edit {
		return harness.Edit{Do: harness.Lay, Wire: name, Tips: []harness.Tip{{State: harness.Bare}, {State: harness.Bare}}}
	}
	var edits []harness.Edit
	switch {
	case w.New:
		edits = []harness.Edit{lay(w.ID)}
		s.Text = fmt.Sprintf("Cut the new wire %s: %s.", strings.TrimPrefix(p.name(i), "new wire "), from)
		if l.By == 0 {
			s.Text = fmt.Sprintf("Measure the way of the new wire %s with a string, add what both ends need, and cut it.",
				p.name(i))
			if l.Size > 0 {
				s.Text = fmt.Sprintf("%s, from %s.", strings.TrimSuffix(s.Text, "."), tradeSize(l.Size))
			}
		}
		if l.Unsized {
			s.Text = strings.TrimSuffix(s.Text, ": new wire.")
			s.Text = strings.TrimSuffix(s.Text, ".") + ": size not known."
			s.Missing = []string{"its size, or its amps: state one of them in Reach"}
		}
	case l.Verdict == Extend && w.Joint[end]:
		edits = []harness.Edit{lay(w.ID.LetIn())}
		s.Text = fmt.Sprintf("Cut the piece that lengthens %s at %s, where it is joined: %s.", p.name(i), p.endName(w, end),
			from)
	case l.Verdict == Extend:
		edits = []harness.Edit{cutOff(end), lay(w.ID.LetIn())}
		s.Text = fmt.Sprintf("Cut %s %s from %s, and cut the piece that goes between: %s.", p.name(i), mm(l.back),
			p.endName(w, end), from)
		if l.Joints == 1 {
			s.Text = fmt.Sprintf("Cut the terminal off %s at %s, and cut the piece that lengthens it: %s.", p.name(i),
				p.endName(w, end), from)
		}
	default:
		for end := range 2 {
			if !w.Joint[end] {
				edits = append(edits, cutOff(end))
			}
		}
		edits = append(edits, lay(w.ID.Instead()))
		s.Text = fmt.Sprintf("Cut %s at both ends, and cut the wire that replaces it: %s.", p.name(i), from)
	}
	for _, x := range l.Why {
		if x.Code == "extend" || s.Why == "" {
			s.Why = x.Text
		}
	}
	made := work.New(edits, needs...)
	s.NoReturn = made.Cuts()
	return p.add(s, made)
}

func (p *planner) endName(w *Run, end int) string {
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
	s := Step{Kind: JoinWire, Wires: []harness.WireID{l.Wire}, NoReturn: true}
	var edits []harness.Edit
	if l.Verdict == Extend {
		edits = append(edits, harness.Edit{Do: harness.Join, Joint: w.ID.Joint(1),
			Lengths: []harness.TipID{{Wire: w.ID, End: end}, {Wire: w.ID.LetIn()}}})
		switch {
		case w.Joint[end]: // what it is joined to comes to the other end of the piece
		case l.Joints == 1:
			edits = append(edits, harness.Edit{Do: harness.Crimp, Wire: w.ID.LetIn(), End: 1,
				Terminal: harness.TerminalAt(w.Ends[end].At)})
		default:
			edits = append(edits, harness.Edit{Do: harness.Join, Joint: w.ID.Joint(2),
				Lengths: []harness.TipID{{Wire: w.ID.LetIn(), End: 1}, {Wire: w.ID.Stub(end), End: 1}}})
		}
		s.Text = "Join the piece into " + p.name(i) + ":"
		if w.Joint[end] {
			s.Text = "Join the piece to " + p.name(i) + ":"
		} else if l.Joints == 1 {
			s.Text = "Join the piece to " + p.name(i) + " and crimp its new terminal:"
		}
		for _, j := range p.Joints {
			if j.Wire != l.Wire {
				continue
			}
			s.Text += fmt.Sprintf(" %s, %s;", j.where(), SchoolWord(j.School))
			s.Minutes += map[School]float64{Solder: rules.Rates.Solder, Crimp: rules.Rates.Crimp,
				BareCrimp: rules.Rates.Crimp}[j.School]
			s.Why = j.Why
			for _, c := range j.Cautions {
				if !slices.Contains(s.Warn, c) {
					s.Warn = append(s.Warn, c)
				}
			}
			if j.Trouble != "" {
				s.Warn = append(s.Warn, j.Trouble)
			}
		}
		s.Text = strings.TrimSuffix(s.Text, ";") + "."
	} else {
		s.Text = fmt.Sprintf("Put the new wire in the place of %s: new terminals where it had them, joints where it ended "+
			"at a splice.", p.name(i))
		for e := range 2 {
			if w.Joint[e] {
				continue // it comes to the joint of another step
			}
			if p.s.alone(w, e) {
				edits = append(edits, harness.Edit{Do: harness.Crimp, Wire: w.ID.Instead(), End: e,
					Terminal: harness.TerminalAt(w.Ends[e].At)})
				s.Minutes += rules.Rates.Crimp
			} else {
				edits = append(edits, harness.Edit{Do: harness.Join, Joint: w.ID.Joint(e + 1),
					Lengths: []harness.TipID{{Wire: w.ID.Instead(), End: e}, {Wire: w.ID.Stub(e), End: 1}}})
				s.Minutes += rules.Rates.Solder
			}
		}
		edits = append(edits, harness.Edit{Do: harness.FallOut, Wire: w.ID})
	}
	if l.Code != "" && len(l.Provision) > 0 && l.Provision[0].Coded {
		s.Warn = append(s.Warn, fmt.Sprintf("The code %q stands at both ends and at each joint.", l.Code))
	}
	return p.add(s, work.New(edits, needs...))
}

// where says where a joint lies, as hands find it.
func (j *Joint) where() string {
	if j.Path != "" {
		return fmt.Sprintf("%.0f mm from %s along %s", j.At, j.From, j.Path)
	}
	return fmt.Sprintf("in the tail of %s", j.From)
}

// SchoolWord says in words how a joint of a school is made.
func SchoolWord(s School) string {
	return map[School]string{Solder: "soldered under adhesive shrink", Crimp: "crimped in a sealed sleeve",
		BareCrimp: "crimped under adhesive shrink"}[s]
}

// cover dresses each path once what is joined in it is joined.
func (p *planner) cover(joined map[int]string, laid []string) {
	for b := range p.Bundles {
		path := &p.router.Paths[b]
		if laid[b] == "" || path.Cover == route.Bare {
			continue
		}
		needs := []string{laid[b]}
		for _, i := range p.on[b] {
			if id := joined[i]; id != "" {
				needs = append(needs, id)
			}
		}
		what := map[route.Cover]string{route.Tape: "Tape", route.Sleeve: "Put the split sleeve on",
			route.Sock: "Shrink the sock over"}[path.Cover]
		s := Step{Kind: Dress, Path: path.ID, Minutes: math.Round(p.in.Decisions.Rules.Rates.Cover*path.Length/100) / 10,
			Text: fmt.Sprintf("%s %s, %.1f mm thick, and put clips and troughs back.", what, path.ID, p.Bundles[b].Laid)}
		made := work.Check("reach", "cover", path.ID)
		made.Needs = needs
		p.add(s, made)
	}
}

// PartWire is the kind of step in which a wire gets a plug on its way.
const PartWire work.Kind = "part"
