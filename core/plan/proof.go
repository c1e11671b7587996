package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
	"draxel/core/work"
)

// Proof says whether the steps of all stages, carried out on the model in their order, reached the wanted harness.
type Proof struct {
	Reached     bool     `json:"reached"`
	Steps       int      `json:"steps"`  // that are left
	InHand      int      `json:"inHand"` // the most terminals that are loose at once
	Differences []string `json:"differences,omitempty"`
	Apart       []string `json:"apart,omitempty"` // accepted matches that are not one circuit in the end
	Meets       []string `json:"meets,omitempty"` // what must never meet, and does after a step
	// Accepted matches that are not carried out, since something holds them up: the findings say what.
	Left []string `json:"left,omitempty"`
	// Decisions of the person's own that contradict each other: then nothing is proven, and it is no fault of ours.
	Against []string `json:"against,omitempty"`
	// The steps can be carried out, but what was done and is not planned any more keeps the end from being compared.
	Partial bool   `json:"partial,omitempty"`
	Fault   string `json:"fault,omitempty"` // why the steps could not be made or carried out
}

// Line says in one sentence whether the work is proven.
func (p Proof) Line() string {
	switch {
	case len(p.Meets) > 0 && len(p.Against) > 0:
		return "DO NOT WORK FROM THIS: " + p.Meets[0] + ". And your own decisions contradict each other: " + p.Against[0]
	case len(p.Against) > 0:
		return "NOT PROVEN: your own decisions contradict each other. " + p.Against[0] + " Reopen one of the two."
	case p.Fault != "":
		return "DO NOT WORK FROM THIS. A fault of ours: the steps cannot be carried out on the model (" + p.Fault +
			"). Send us the job file."
	case len(p.Meets) > 0:
		return "DO NOT WORK FROM THIS: " + p.Meets[0] + "."
	case !p.Reached && len(p.Apart) > 0:
		return "DO NOT WORK FROM THIS. A fault of ours: in the end " + p.Apart[0] + " are not one circuit. Send us the " +
			"job file."
	case !p.Reached:
		return fmt.Sprintf(
			"DO NOT WORK FROM THIS. A fault of ours: the steps lead to %d differences from the wanted harness. Send us the "+
				"job file.",
			len(p.Differences),
		)
	case p.Partial:
		return fmt.Sprintf(
			"The %d steps that are left can be carried out on the model. Something was done that the plan no longer asks "+
				"for, or a circle of moves cannot begin, so the end is not compared with the wanted harness.",
			p.Steps,
		)
	case p.Steps == 0:
		return "Nothing is left to do: the harness is as it is wanted" + p.but() + "."
	}
	return fmt.Sprintf(
		"Proven on the model: the %d steps that are left, of all stages together, lead to the wanted harness, and every "+
			"accepted match is one circuit in it%s. No cavity ever held two terminals, and %s in hand.",
		p.Steps,
		p.but(),
		most(p.InHand),
	)
}

// mostNamed bounds the matches that the line of proof names.
const mostNamed = 6

// but counts out the accepted matches of which nothing is proven, by name.
func (p Proof) but() string {
	n := len(p.Left)
	if n == 0 {
		return ""
	}
	named := strings.Join(p.Left[:min(n, mostNamed)], ", ")
	if n > mostNamed {
		named += fmt.Sprintf(" and %d more", n-mostNamed)
	}
	return fmt.Sprintf(", but for %d that %s left off, and of which nothing is proven: %s", n, isAre(n), named)
}

func isAre(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}

func most(inHand int) string {
	switch inHand {
	case 0:
		return "none was left"
	case 1:
		return "never more than one was"
	}
	return fmt.Sprintf("never more than %d were", inHand)
}

// prove carries the steps of all stages out on the harness as it is now, in their order, and compares once. After every
// step at which something is joined the circuits that meet are looked at.
func (w *worked) prove(in *workReads) {
	m, limit := in.Model, in.Limit
	unwanted := len(w.Progress.Findings)+len(w.Work.Strays)+len(w.Past.Lost) > 0
	mended := len(w.Progress.Mends) > 0
	left := work.Remaining(w.Past, w.Work.Steps, unwanted || mended || w.Past.Ticks != nil)
	w.Work.Held = left.Held
	w.Proof.Steps = len(left.Steps)
	if n := len(left.Held); n > 0 {
		if !unwanted && !mended && !w.workDone() {
			w.Proof.Fault = w.firstHeld()
		}
		w.Findings = append(w.Findings, finding.Finding{
			Code: "steps-held", Severity: finding.Wrong, Stage: "work",
			Text: fmt.Sprintf("%d steps cannot be done as the harness is now: what was done before the decisions changed "+
				"stands in their way.", n),
			Remedy: "See what was done and is not wanted any more; put it right, or take the ticks back if it was not done.",
		})
	}
	for i := range in.Thin.Findings {
		if in.Thin.Findings[i].Code == TwoEdits {
			w.Proof.Against = append(w.Proof.Against, in.Thin.Findings[i].Text)
		}
	}
	defer func() {
		if w.Proof.Reached { // the plan keeps what both decisions allow
			w.Proof.Against = nil
		}
	}()
	guard := newGuard(m, w.Past.Now)
	end, inHand, err := work.Run(w.Past.Now, left.Steps, guard.look)
	w.Proof.InHand = inHand
	switch {
	case w.Proof.Fault != "":
		return
	case err != nil:
		w.Proof.Fault = err.Error()
		return
	case inHand > max(limit, w.Past.Now.InHand()):
		w.Proof.Fault = fmt.Sprintf("%d terminals would be in hand, and %d may be", inHand, limit)
		return
	}
	w.Proof.Meets = guard.found
	for _, text := range guard.found {
		w.Findings = append(w.Findings, finding.Finding{
			Code: "must-not-meet", Severity: finding.Danger, Stage: "work",
			Text:   sentence(text),
			Remedy: "Reopen the match or the joint that brings them together.",
		})
	}
	if len(in.Sheet.Pinning.Stuck) > 0 || unwanted || len(left.Held) > 0 {
		w.Proof.Reached, w.Proof.Partial = len(in.Sheet.Pinning.Stuck) == 0, true
		return
	}
	w.Proof.Differences = harness.Differences(end, in.Finished.Wanted)
	w.Proof.Apart = apart(in, end)
	w.Proof.Left = leftOff(in, end)
	w.Proof.Reached = len(w.Proof.Differences)+len(w.Proof.Apart)+len(w.Proof.Meets) == 0
}

// workDone says whether anything was ticked at all.
func (w *worked) workDone() bool { return len(w.Past.Ticks) > 0 }

func (w *worked) firstHeld() string {
	for i := range w.Work.Steps {
		if why := w.Work.Held[w.Work.Steps[i].ID]; why != "" {
			return w.Work.Steps[i].Text + ": " + why
		}
	}
	return ""
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:] + "."
}

// apart names the accepted matches whose two cavities are not one circuit in the end. It walks the copper of the
// harness that the steps led to, and knows nothing of how they got there.
func apart(in *workReads, end harness.Harness) []string {
	m := in.Model
	end = end.With(contactsClosed(in.Added, end))
	net := circuit.Of(end, m.facts.Laid.Loom.Connectors)
	var out []string
	for i := range in.Match.Lines {
		l := &in.Match.Lines[i]
		if !l.Decided || l.Verdict != match.Meets && l.Verdict != match.Joins {
			continue
		}
		a, b := m.ends.wires[l.From], m.ends.wires[m.facts.At(l.To)]
		if l.Verdict == match.Joins {
			b = m.filler(in.Match, l.To)
		}
		if a == nil || b == nil {
			continue
		}
		if m.ways[l.From] == match.Into && l.Verdict == match.Meets {
			x := m.facts.Pair(l)
			ours := m.ends.wires[x.Ours]
			if t, full := end.In(x.Vehicle); ours != nil &&
				(!full || !holds(net.Cavity(end, x.Vehicle), ours.ID) || t == harness.TerminalAt(x.Vehicle)) &&
				m.entered(x) {
				out = append(out, fmt.Sprintf("%s and %s", l.From, l.To))
			}
			continue
		}
		if x := m.facts.Pair(l); m.joints[m.renamed(jointAt(x.Vehicle))] == nil &&
			m.joints[m.renamed(jointAt(m.target(l.To)))] == nil {
			continue // held up, and said so
		}
		if !holds(net.Wire(end, alive(end, a.ID)), b.ID) {
			out = append(out, fmt.Sprintf("%s and %s", l.From, l.To))
		}
	}
	return out
}

// entered says whether the plan brings our end into the vehicle's plug: it may be held up by what stays there.
func (m *model) entered(x fact.Pairing) bool {
	t := newEnd(x.Vehicle)
	if m.movesInto(x) {
		t = harness.TerminalAt(x.Ours)
	}
	place, seated := m.wanted.Place(t)
	return seated && place.At == x.Vehicle
}

// filler gives the wire that fills a To cavity.
func (m *model) filler(r *match.Result, to harness.Ref) *harness.Wire {
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && l.Feeds() && l.To == to {
			return m.ends.wires[l.From]
		}
	}
	return nil
}

// alive gives what stands for a wire in a harness: itself, or the new one that took its place.
func alive(h harness.Harness, wire harness.WireID) harness.WireID {
	if _, there := h.Tips(wire); there {
		return wire
	}
	return wire.Instead()
}

// holds says whether wires include one, or what was let into it or put in its place.
func holds(all []harness.WireID, wire harness.WireID) bool {
	return slices.ContainsFunc(all, func(w harness.WireID) bool { return w == wire || w.Whole() == wire })
}

// guard looks at the circuits that meet when something is joined.
type guard struct {
	net     *circuit.Net
	signals map[harness.WireID]*signal.Reading
	// What is left to qualified hands.
	wires     map[harness.WireID]bool
	joints    map[string]bool
	terminals map[harness.TerminalID]bool
	found     []string
}

func newGuard(m *model, now harness.Harness) *guard {
	g := &guard{net: circuit.Of(now, m.facts.Laid.Loom.Connectors), signals: map[harness.WireID]*signal.Reading{},
		wires: map[harness.WireID]bool{}, joints: map[string]bool{}, terminals: map[harness.TerminalID]bool{}}
	for i := range m.facts.Laid.Loom.Wires {
		w := &m.facts.Laid.Loom.Wires[i]
		g.signals[w.ID] = &w.Signal
		for _, e := range w.Ends {
			if m.alone.Wire(i) {
				g.wires[w.ID] = true
				if e.Splice != "" {
					g.joints[e.Splice] = true
				}
			}
			if e.At != (harness.Ref{}) && m.alone.Cavity(e.At) {
				g.terminals[harness.TerminalAt(e.At)] = true
			}
		}
	}
	for i := range m.fresh {
		g.signals[m.fresh[i].id] = &m.fresh[i].row.Signal
	}
	return g
}

// look compares what meets at the joint of a step: nothing with restraint or high voltage, no supply with a ground,
// no two different outputs.
func (g *guard) look(s *work.Step, h harness.Harness) error {
	if len(s.Edits) == 0 {
		return nil
	}
	for i := range s.Edits {
		e := &s.Edits[i]
		if what := g.own(e); what != "" {
			g.note(fmt.Sprintf("%q would touch %s, which is left to qualified hands", strings.TrimSuffix(s.Text, "."), what))
		}
	}
	g.net.Follow(h, s.Edits)
	for i := range s.Edits {
		e := &s.Edits[i]
		if e.Do != harness.Join && e.Do != harness.Tap {
			continue
		}
		var groups [][]*signal.Reading
		ends := g.net.At(e.Joint)
		if len(ends) > 40 {
			continue
		}
		for _, l := range ends {
			groups = append(groups, g.readings(g.net.Walk(h, l)))
		}
		for a := range groups {
			for b := range groups[:a] {
				if why := clash(groups[a], groups[b]); why != "" {
					g.note(fmt.Sprintf("after %q %s", strings.TrimSuffix(s.Text, "."), why))
				}
			}
		}
	}
	return nil
}

// own gives the name of what an edit acts on where that is left to qualified hands.
func (g *guard) own(e *harness.Edit) string {
	switch {
	case g.wires[e.Wire]:
		return e.Wire.Name()
	case g.terminals[e.Terminal]:
		return string(e.Terminal)
	case g.joints[e.Joint]:
		return e.Joint
	}
	return ""
}

func (g *guard) note(text string) {
	if !slices.Contains(g.found, text) {
		g.found = append(g.found, text)
	}
}

// readings gives what wires are for, each thing once.
func (g *guard) readings(wires []harness.WireID) []*signal.Reading {
	var out []*signal.Reading
	for _, w := range wires {
		r := g.signals[w.Whole()]
		if r == nil || r.Sure < 0.5 && !match.Fraught(r.Role) {
			continue
		}
		if !slices.ContainsFunc(out, func(x *signal.Reading) bool {
			return x.Device == r.Device && x.Aspect == r.Aspect && x.Cylinder == r.Cylinder && x.Bank == r.Bank &&
				x.Channel == r.Channel
		}) {
			out = append(out, r)
		}
	}
	return out
}

func clash(a, b []*signal.Reading) string {
	for _, x := range a {
		for _, y := range b {
			if why := match.NeverMeet(x, y); why != "" {
				return why
			}
		}
	}
	return ""
}
