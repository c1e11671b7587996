package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/terminal"
	"draxel/core/work"
)

// tenthMore is what is ordered beyond what is counted of what comes by the metre or in bags: common practice, no
// source.
const tenthMore = 0.1

// Wants lists what all stages use, each line with the steps that wait for it. Labels is how many labels are printed.
func (p *Plan) Wants(f *Facts, d Decisions, labels int) []handover.Want {
	w := wants{p: p, f: f, d: &d, cavity: map[harness.TerminalID]harness.Ref{}}
	for _, at := range p.Wanted.Cavities() {
		if t, full := p.Wanted.In(at); full {
			w.cavity[t] = at
		}
	}
	w.terminals()
	w.unknown()
	w.housings()
	w.wire()
	w.fittings()
	w.cover()
	w.feed()
	for i := range d.Added {
		a := &d.Added[i]
		w.add(&handover.Want{What: a.What, Need: 1, Stage: string(work.Join), For: []string{a.ID},
			Steps: w.steps(func(s *work.Step) bool {
				return s.Stage == work.Join && (s.Kind == join.BringIn || s.Kind == join.FitPart) &&
					says(s.Text, a.ID)
			})})
	}
	if labels > 0 {
		w.add(
			&handover.Want{
				What:  "labels, printed",
				Need:  float64(labels),
				Spare: spare(float64(labels)),
				Stage: "handover",
			},
		)
	}
	return w.all
}

// wants is the list in the making.
type wants struct {
	p   *Plan
	f   *Facts
	d   *Decisions
	all []handover.Want

	cavity map[harness.TerminalID]harness.Ref // that each terminal is in when all is done
}

func (w *wants) add(x *handover.Want) {
	if x.For == nil {
		x.For = []string{}
	}
	w.all = append(w.all, *x)
}

// spare is a tenth, in whole pieces.
func spare(need float64) float64 { return math.Ceil(need * tenthMore) }

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
	return slices.ContainsFunc(
		strings.Fields(text),
		func(word string) bool { return strings.Trim(word, ".,:;()") == name },
	)
}

// terminals are what Pin uses: terminals, seals, plugs, leads, and the tools for them.
func (w *wants) terminals() {
	for i := range w.p.Pin.Orders {
		o := &w.p.Pin.Orders[i]
		if o.Kind == terminal.Joint {
			continue // they are counted with all joints
		}
		x := handover.Want{
			What:  o.Name,
			Need:  float64(o.Need),
			Spare: float64(o.Spare),
			Stage: string(work.Pin),
			There: o.Have,
		}
		for _, at := range o.For {
			x.For = append(x.For, at.String())
		}
		if o.Stops {
			x.Steps = w.steps(func(s *work.Step) bool {
				return s.Stage == work.Pin &&
					slices.ContainsFunc(s.At, func(at harness.Ref) bool { return slices.Contains(o.For, at) })
			})
		}
		w.add(&x)
	}
}

// unknown are new ends whose terminals nobody can order yet: the housing has not been looked at.
func (w *wants) unknown() {
	count := map[string]int{}
	var order []string
	steps := map[string][]string{}
	for i := range w.p.Steps {
		s := &w.p.Steps[i]
		if _, done := w.p.Done(s.ID); done || s.Kind != pin.New || len(s.Fit.Parts) > 0 {
			continue
		}
		c := s.To.Connector
		if count[c]++; count[c] == 1 {
			order = append(order, c)
		}
		steps[c] = append(steps[c], s.ID)
	}
	for _, c := range order {
		w.add(
			&handover.Want{
				What:  "terminals for " + c + ", kind not known: look at its housing",
				Need:  float64(count[c]),
				Spare: max(2, spare(float64(count[c]))),
				Stage: string(work.Pin),
				For:   []string{c},
				Steps: steps[c],
			},
		)
	}
}

// housings are new housings that are to be filled, and the plugs of disconnects.
func (w *wants) housings() {
	for i := range w.f.To.Connectors {
		c := &w.f.To.Connectors[i]
		if w.f.Meetings[c.ID].Met != match.NewHousing {
			continue
		}
		id := w.f.newHousing(c.ID)
		w.add(&handover.Want{What: fmt.Sprintf("housing for %s, %d-way, with its lock", id, len(c.Cavities)), Need: 1,
			Stage: string(work.Pin), For: []string{id}, Steps: w.steps(func(s *work.Step) bool {
				return s.Stage == work.Pin &&
					slices.ContainsFunc(s.At, func(at harness.Ref) bool { return at.Connector == id })
			})})
	}
	for _, x := range w.d.Reach.Partings {
		for _, plug := range x.Plugs {
			what := fmt.Sprintf("disconnect, %d-way, %g mm, both halves", plug.Ways, plug.Blade)
			if plug.Blade == 0 {
				what = fmt.Sprintf("row of %d studs, covered", plug.Ways)
			}
			w.add(&handover.Want{What: what, Need: 1, Stage: string(work.Reach), For: []string{plug.ID},
				Steps: w.steps(func(s *work.Step) bool {
					return slices.ContainsFunc(
						s.At,
						func(at harness.Ref) bool { return strings.HasPrefix(at.Connector, plug.ID) },
					)
				})})
		}
	}
}

// wire is what is to be bought, by colour, size and class, as Reach's list has it.
func (w *wants) wire() {
	r := w.p.Reach.Result
	if r == nil {
		return
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
		if b.Kind != reach.Single {
			words = append(words, string(b.Kind))
		}
		if b.Coded {
			words = append(words, "with printed codes")
		}
		w.add(&handover.Want{What: strings.Join(words, " "), Unit: "m", Need: b.Need / 1000,
			Spare: max(0, b.Buy-b.Need) / 1000, Stage: string(work.Reach), For: b.For,
			Steps: w.steps(func(s *work.Step) bool {
				return s.Stage == work.Reach && s.Kind == reach.CutWire &&
					slices.ContainsFunc(s.Wires, func(x string) bool { return slices.Contains(b.For, x) })
			})})
	}
}

// cover is what bundles are covered with, and the grommets of walls.
func (w *wants) cover() {
	r := w.p.Reach.Result
	if r == nil {
		return
	}
	paths := map[string]*reach.Path{}
	for i := range w.d.Reach.Map.Paths {
		paths[w.d.Reach.Map.Paths[i].ID] = &w.d.Reach.Map.Paths[i]
	}
	for i := range r.Bundles {
		b := &r.Bundles[i]
		path := paths[b.Path]
		if path == nil || len(b.Wires) == 0 || path.Cover == reach.Bare {
			continue
		}
		what := map[reach.Cover]string{reach.Tape: "harness tape, for metres of harness",
			reach.Sleeve: fmt.Sprintf("split sleeve, %.0f mm", upTo(b.Laid)),
			reach.Sock:   fmt.Sprintf("heat-shrink sock, %.0f mm", upTo(b.Laid))}[path.Cover]
		m := path.Length / 1000
		w.add(&handover.Want{What: what, Unit: "m", Need: m, Spare: m * tenthMore, Stage: string(work.Reach),
			For: []string{
				path.ID,
			}, Steps: w.steps(func(s *work.Step) bool { return s.Kind == reach.Dress && s.Path == path.ID })})
	}
	for i := range r.Walls {
		x := &r.Walls[i]
		w.add(&handover.Want{What: fmt.Sprintf("grommet, hole %.0f mm, bundle %.0f mm", x.Hole, x.Over), Need: 1,
			Stage: string(work.Reach), For: []string{x.Path},
			Steps: w.steps(func(s *work.Step) bool { return s.Kind == reach.LayAlong && s.Path == x.Path })})
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

// feed are fuses, relays, the block and what is bolted to it.
func (w *wants) feed() {
	for i := range w.p.Feed.Parts {
		x := &w.p.Feed.Parts[i]
		what := x.What
		if strings.HasSuffix(x.Note, "there") || x.Note == "" {
			w.add(
				&handover.Want{
					What:  what,
					Need:  float64(x.Count),
					Stage: string(work.Feed),
					For:   x.For,
					Steps: w.fed(x.For),
				},
			)
			continue
		}
		w.add(
			&handover.Want{
				What:  what + ", " + x.Note,
				Need:  float64(x.Count),
				Stage: string(work.Feed),
				For:   x.For,
				Steps: w.fed(x.For),
			},
		)
	}
}

// fed gives the steps of Feed in which one of some places is named.
func (w *wants) fed(places []string) []string {
	return w.steps(func(s *work.Step) bool {
		return s.Stage == work.Feed && slices.ContainsFunc(places, func(x string) bool {
			return strings.Contains(s.Text+" ", " "+x+" ") ||
				strings.Contains(s.Text, " "+x+".") || strings.Contains(s.Text, " "+x+":")
		})
	})
}

// Efforts gives every step of the work with how it stands, those that are done and not asked for any more too.
func (p *Plan) Efforts() []handover.Effort {
	out := make([]handover.Effort, 0, len(p.Work.Steps)+len(p.Work.Strays))
	in := map[string]bool{}
	for i := range p.Work.Steps {
		s := &p.Work.Steps[i]
		e := handover.Effort{ID: s.ID, Stage: string(s.Stage), Text: s.Text, Minutes: s.Minutes, Needs: s.Needs}
		if t, done := p.Done(s.ID); done {
			e.Done, e.Spent, e.Who = true, t.Spent, t.Who
		}
		in[s.ID] = true
		out = append(out, e)
	}
	for i := range p.Past.Ticks { // what the plan does not ask for any more, or asks for again, has taken its time too
		t := &p.Past.Ticks[i]
		if _, counted := p.Done(t.Step); counted && in[t.Step] {
			continue
		}
		out = append(
			out,
			handover.Effort{
				ID:      "before " + t.Step,
				Stage:   string(t.Of()),
				Text:    t.Text,
				Minutes: t.Minutes,
				Done:    true,
				Spent:   t.Spent,
				Who:     t.Who,
			},
		)
	}
	return out
}
