package papers

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stock"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/core/work"
)

// tenthMore is what is ordered beyond what is counted of what comes by the metre or in bags: common practice, no
// source.
const tenthMore = 0.1

// Wants lists what the whole job takes: what was built in with the steps that are done, as their ticks say, and what
// the steps that are left will take. Labels is how many labels are printed.
func Wants(p *plan.Plan, f *fact.Facts, d stored.Decisions, labels int) []handover.Want {
	out := left(p, f, &d)
	for i := range p.Past.Ticks {
		t := &p.Past.Ticks[i]
		for _, u := range t.Used {
			out = append(out, handover.Want{What: u.What, Unit: u.Unit, Need: u.Amount, Used: u.Amount,
				Stage: string(t.Of())})
		}
	}
	if labels > 0 {
		n := float64(labels)
		out = append(out, handover.Want{What: "labels, printed", Need: n, Spare: math.Ceil(n * tenthMore),
			Stage: "handover"})
	}
	return out
}

// Uses says what steps take that are ticked now, in this order: of what serves several steps, the last has it.
func Uses(p *plan.Plan, f *fact.Facts, d stored.Decisions, steps []string) map[string][]work.Use {
	out, done := map[string][]work.Use{}, map[string]bool{}
	all := left(p, f, &d)
	of := map[string][]int{}
	for i := range all {
		for _, id := range all[i].Steps {
			of[id] = append(of[id], i)
		}
	}
	for _, id := range steps {
		done[id] = true
		for _, i := range of[id] {
			w := &all[i]
			if w.Need > 0 && !w.Tool && !slices.ContainsFunc(w.Steps, func(x string) bool { return !done[x] }) {
				out[id] = append(out[id], work.Use{What: w.What, Unit: w.Unit, Amount: w.Need})
			}
		}
	}
	return out
}

// left lists what the steps that are not done take.
func left(p *plan.Plan, f *fact.Facts, d *stored.Decisions) []handover.Want {
	w := wants{p: p, f: f, d: d, cavity: map[harness.TerminalID]harness.Ref{}}
	for _, at := range p.Wanted.Cavities() {
		if t, full := p.Wanted.In(at); full {
			w.cavity[t] = at
		}
	}
	w.terminals()
	w.housings()
	w.wire()
	w.fittings()
	w.cover()
	w.feed()
	for i := range d.Join.Added {
		a := &d.Join.Added[i]
		w.take(work.Join, a.What, 1, a.ID, w.steps(func(s *work.Step) bool {
			return s.Stage == work.Join && (s.Kind == join.BringIn || s.Kind == join.FitPart) && says(s.Text, a.ID)
		})...)
	}
	return w.all
}

// wants is the list in the making.
type wants struct {
	p   *plan.Plan
	f   *fact.Facts
	d   *stored.Decisions
	all []handover.Want

	cavity map[harness.TerminalID]harness.Ref // that each terminal is in when all is done
}

// take adds what steps take in pieces; nothing where none of them is left to be done.
func (w *wants) take(stage work.Stage, what string, n float64, where string, steps ...string) {
	if len(steps) > 0 {
		w.all = append(w.all, handover.Want{What: what, Need: n, Stage: string(stage), For: []string{where},
			Steps: steps})
	}
}

// metres adds what is taken by the metre.
func (w *wants) metres(what string, m float64, where string, steps ...string) {
	if len(steps) > 0 {
		w.all = append(w.all, handover.Want{What: what, Unit: "m", Need: m, Stage: string(work.Reach),
			For:   []string{where},
			Steps: steps})
	}
}

// tool adds what steps want and do not use up: one is enough.
func (w *wants) tool(stage work.Stage, what string, there bool, steps []string) {
	w.all = append(w.all, handover.Want{What: what, Need: 1, Tool: true, Stage: string(stage), There: there,
		Steps: steps})
}

// spare adds what is ordered beyond what is needed.
func (w *wants) spare(stage work.Stage, what, unit string, n float64, there bool) {
	if n > 0 || there {
		w.all = append(w.all, handover.Want{What: what, Unit: unit, Spare: n, Stage: string(stage), There: there})
	}
}

// steps gives the ids of the steps that are not done of which something holds.
func (w *wants) steps(is func(s *work.Step) bool) []string {
	out := []string{}
	for i := range w.p.Work.Steps {
		s := &w.p.Work.Steps[i]
		if _, done := w.p.Done(s.ID); !done && is(s) {
			out = append(out, s.ID)
		}
	}
	return out
}

// says whether a text has a name in it as a word.
func says(text, name string) bool {
	return strings.Contains(" "+strings.NewReplacer(".", " ", ",", " ", ":", " ", ";", " ").Replace(text)+" ",
		" "+name+" ")
}

// housings are new housings that are to be filled, and the plugs of disconnects.
func (w *wants) housings() {
	for i := range w.f.To.Connectors {
		c := &w.f.To.Connectors[i]
		if w.f.Meetings[c.ID].Met != match.NewHousing {
			continue
		}
		id := w.f.NewHousing(c.ID)
		w.take(work.Pin, fmt.Sprintf("housing for %s, %d-way, with its lock", id, len(c.Cavities)), 1, id,
			w.steps(func(s *work.Step) bool {
				return s.Stage == work.Pin &&
					slices.ContainsFunc(s.At, func(at harness.Ref) bool { return at.Connector == id })
			})...)
	}
	for _, x := range w.d.Reach.Partings {
		for _, plug := range x.Plugs {
			what := fmt.Sprintf("disconnect, %d-way, %g mm, both halves", plug.Ways, plug.Blade)
			if plug.Blade == 0 {
				what = fmt.Sprintf("row of %d studs, covered", plug.Ways)
			}
			w.take(work.Reach, what, 1, plug.ID, w.steps(func(s *work.Step) bool {
				return slices.ContainsFunc(s.At, func(at harness.Ref) bool {
					return strings.HasPrefix(at.Connector,
						plug.ID)
				})
			})...)
		}
	}
}

// wire is what is to be bought, by colour, size and class, as Reach's list has it; each wire takes its own.
func (w *wants) wire() {
	r := w.p.Reach.Result
	if r == nil {
		return
	}
	cuts := map[harness.WireID][]string{}
	for i := range w.p.Work.Steps {
		s := &w.p.Work.Steps[i]
		if _, done := w.p.Done(s.ID); !done && s.Kind == reach.CutWire && s.Stage == work.Reach {
			for _, wire := range s.Wires {
				cuts[wire] = append(cuts[wire], s.ID)
			}
		}
	}
	for i := range r.Buy {
		b := &r.Buy[i]
		words := []string{"wire", b.Colour.String()}
		if b.Size > 0 {
			words = append(words, b.Size.String())
		}
		if b.Class != "" {
			words = append(words, "class "+string(b.Class))
		}
		if b.Kind != stock.Single {
			words = append(words, string(b.Kind))
		}
		what := strings.Join(words, " ")
		for k, wire := range b.For {
			if b.Each[k] > 0 {
				w.metres(what, b.Each[k]/1000, wire, cuts[harness.WireID(wire)]...)
			}
		}
		w.spare(work.Reach, what, "m", max(0, b.Buy-b.Need)/1000, false)
	}
}

// cover is what bundles are covered with, and the grommets of walls.
func (w *wants) cover() {
	r := w.p.Reach.Result
	if r == nil {
		return
	}
	paths := map[string]*route.Path{}
	for i := range w.d.Reach.Map.Paths {
		paths[w.d.Reach.Map.Paths[i].ID] = &w.d.Reach.Map.Paths[i]
	}
	for i := range r.Bundles {
		b := &r.Bundles[i]
		path := paths[b.Path]
		if path == nil || len(b.Wires) == 0 || path.Cover == route.Bare {
			continue
		}
		what := map[route.Cover]string{route.Tape: "harness tape, for metres of harness",
			route.Sleeve: fmt.Sprintf("split sleeve, %.0f mm", upTo(b.Laid)),
			route.Sock:   fmt.Sprintf("heat-shrink sock, %.0f mm", upTo(b.Laid))}[path.Cover]
		steps := w.steps(func(s *work.Step) bool { return s.Kind == reach.Dress && s.Path == path.ID })
		if w.metres(what, path.Length/1000, path.ID, steps...); len(steps) > 0 {
			w.spare(work.Reach, what, "m", path.Length/1000*tenthMore, false)
		}
	}
	for i := range r.Walls {
		x := &r.Walls[i]
		w.take(work.Reach, fmt.Sprintf("grommet, hole %.0f mm, bundle %.0f mm", x.Hole, x.Over), 1, x.Path,
			w.steps(func(s *work.Step) bool { return s.Kind == reach.LayAlong && s.Path == x.Path })...)
	}
}

// upTo rounds a diameter up to the next of the sizes that are sold, mm: common practice, no source.
func upTo(mm float64) float64 {
	for _, x := range []float64{4, 6, 8, 10, 13, 16, 20, 25, 32, 40, 50} {
		if mm <= x {
			return x
		}
	}
	return math.Ceil(mm/10) * 10
}

// feed are fuses, relays, the block and what is bolted to it, place by place; what no step names is a spare.
func (w *wants) feed() {
	for i := range w.p.Feed.Parts {
		x := &w.p.Feed.Parts[i]
		for _, place := range x.For {
			names := func(s *work.Step) bool { return s.Stage == work.Feed && says(s.Text, place) }
			w.take(work.Feed, x.What, 1, place, w.steps(names)...)
			if !slices.ContainsFunc(w.p.Work.Steps, func(s work.Step) bool { return names(&s) }) {
				w.spare(work.Feed, x.What, "", 1, false)
			}
		}
	}
}

// terminals are what Pin uses, step by step: terminals, seals, plugs, leads; the tools for them, one of each; and locks
// that are broken. Of what is small some more is ordered, as Pin's own list has it.
func (w *wants) terminals() {
	for i := range w.p.Steps {
		s := &w.p.Steps[i]
		for _, part := range s.Fit.Parts {
			if !part.Kind.Tool() && part.Kind != terminal.Joint { // joints are counted with all joints
				w.take(work.Pin, part.Name, 1, s.About().String(), s.ID)
			}
		}
	}
	for i := range w.p.Pin.Orders {
		o := &w.p.Pin.Orders[i]
		switch {
		case o.Kind.Tool():
			w.tool(work.Pin, o.Name, o.Have, w.steps(func(s *work.Step) bool {
				return s.Stage == work.Pin &&
					slices.ContainsFunc(s.At, func(at harness.Ref) bool { return slices.Contains(o.For, at) })
			}))
		case o.Kind == terminal.Lock:
			w.all = append(w.all, handover.Want{What: o.Name, Need: float64(o.Need), Stage: string(work.Pin),
				There: o.Have})
		case o.Kind != terminal.Joint:
			w.spare(work.Pin, o.Name, "", float64(o.Spare), o.Have)
		}
	}
}
