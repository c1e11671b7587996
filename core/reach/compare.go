package reach

import (
	"cmp"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// Figures are what one way to place things comes to.
type Figures struct {
	Wires       int       `json:"wires"`    // with a way
	Crossing    int       `json:"crossing"` // that go through a wall
	Extend      int       `json:"extend"`
	Replace     int       `json:"replace"`
	Fresh       int       `json:"fresh"`
	Trim        int       `json:"trim"`
	Unknown     int       `json:"unknown"`     // to be measured
	NoWay       int       `json:"noWay"`       // without a way or a place
	Provisional int       `json:"provisional"` // that wait for a mechanical part
	Short       float64   `json:"short"`       // wires that fall short as chance will have it, of those that reach
	New         float64   `json:"new"`         // mm of new wire
	Buy         float64   `json:"buy"`         // mm to be bought, with margin
	Stock       float64   `json:"stock"`       // mm from stock
	Joints      int       `json:"joints"`
	Troubled    int       `json:"troubled"` // joints that could not be kept clear
	Heaviest    string    `json:"heaviest,omitempty"`
	Thick       float64   `json:"thick"` // mm, of the heaviest bundle with its cover
	Hole        float64   `json:"hole"`  // mm, the largest
	Worst       []Dropped `json:"worst"` // the feeds that lose most
	Hours       float64   `json:"hours"`
	Guessed     float64   `json:"guessed,omitempty"` // mm, where somebody guessed a length for each wire
}

// Dropped is what a feed loses along its way.
type Dropped struct {
	Wire  harness.WireID `json:"wire"`
	Amps  float64        `json:"amps"`
	Volts float64        `json:"volts"`
	Part  float64        `json:"part"` // of the vehicle's voltage
	AsIs  float64        `json:"asIs"` // volts that it would lose in the size that it has
}

func (r *Result) figure() {
	f := &r.Figures
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.ok {
			f.Wires++
		}
		if slices.ContainsFunc(l.route.Paths, func(p int) bool { return r.router.Paths[p].Wall }) {
			f.Crossing++
		}
		if len(l.Waits) > 0 {
			f.Provisional++
		}
		switch l.Verdict {
		case Extend:
			f.Extend++
		case Replace:
			f.Replace++
		case Fresh:
			f.Fresh++
		case Trim:
			f.Trim++
		case Measure:
			f.Unknown++
		case NoWay, Adrift:
			f.NoWay++
		case Reaches:
			f.Short += l.Short
		case Loose:
		}
	}
	for _, j := range r.Joints {
		if f.Joints++; j.Trouble != "" {
			f.Troubled++
		}
	}
	f.New, f.Stock = r.Stock.Wanted, r.Stock.Served
	for _, b := range r.Buy {
		f.Buy += b.Buy
	}
	for i := range r.Bundles {
		if b := &r.Bundles[i]; b.Over > f.Thick {
			f.Heaviest, f.Thick = b.Path, b.Over
		}
	}
	for _, w := range r.Walls {
		f.Hole = max(f.Hole, w.Hole)
	}
	f.Worst = r.worst(3)
	f.Guessed = r.in.Decisions.Rules.Guess * float64(f.Wires)
	f.Short = math.Round(f.Short*1000) / 1000
}

// hours adds up what the steps take, with those of disconnects that were taken.
func (r *Result) hours(more []Step) {
	minutes := 0.0
	for _, all := range [][]Step{r.Steps, more} {
		for i := range all {
			minutes += all[i].Minutes
		}
	}
	r.Figures.Hours = math.Round(minutes/6) / 10
}

// Compared is one way to place things beside the way that is chosen.
type Compared struct {
	Option      route.Option `json:"option"`
	Figures     Figures      `json:"figures"`
	Relocations []Relocation `json:"relocations"`
	Breaks      []BreakOut   `json:"breaks"`             // branches that would break out elsewhere
	Dangling    []string     `json:"dangling,omitempty"` // stations that the option names and that there are not
}

// Relocation is a thing that has another station in one way than in another.
type Relocation struct {
	Thing route.Thing `json:"thing"`
	Old   string      `json:"old"`
	New   string      `json:"new"`
	Wires []RelocWire `json:"wires"`
	Worst float64     `json:"worst"` // mm, the greatest of need minus had
}

// RelocWire is a wire of a thing that moves.
type RelocWire struct {
	Wire harness.WireID `json:"wire"`
	Old  float64        `json:"old"`            // mm that it needs now
	New  float64        `json:"new"`            // mm that it would need
	Had  float64        `json:"had,omitempty"`  // mm, 0 where nobody knows
	Over float64        `json:"over,omitempty"` // need minus had, mm; negative: it reaches
}

// BreakOut is a branch that breaks out at another station.
type BreakOut struct {
	Branch string `json:"branch"`
	Old    string `json:"old"`
	New    string `json:"new"`
}

// Compare works every option out beside the result.
func (r *Result) Compare() []Compared {
	out := make([]Compared, 0, len(r.in.Decisions.Options))
	for i := range r.in.Decisions.Options {
		o := &r.in.Decisions.Options[i]
		in := *r.in
		in.Decisions.Places = o.Over(in.Decisions.Places)
		other := Compute(in)
		c := Compared{Option: *o, Figures: other.Figures, Relocations: Relocate(r, other), Breaks: []BreakOut{}}
		for _, m := range o.Moves {
			if _, there := r.router.Number[m.Station]; !there {
				c.Dangling = append(c.Dangling, m.Station)
			}
		}
		for _, b := range r.in.Loom.Branches {
			t := route.Thing{Kind: route.ABranch, ID: b.ID}
			if was, is := r.Placed[t], other.Placed[t]; was != is {
				c.Breaks = append(c.Breaks, BreakOut{b.ID, was, is})
			}
		}
		out = append(out, c)
	}
	return out
}

// Relocate lists what has another station in b than in a, with what its wires need in each and have. Both must be of
// the same harness. It serves for two engines too: the one that the harness was made for, and the one that it comes
// onto.
func Relocate(a, b *Result) []Relocation {
	wires := map[string][]int{}
	for i := range a.in.Wires {
		for end := range 2 {
			ref := a.in.Wires[i].Ends[end].At
			if a.in.Wires[i].Lands[end] != (harness.Ref{}) {
				ref = a.in.Wires[i].Lands[end]
			}
			if c := ref.Connector; c != "" && !slices.Contains(wires[c], i) {
				wires[c] = append(wires[c], i)
			}
		}
	}
	byThing := map[route.Thing]*Relocation{}
	for i := range a.in.Loom.Connectors {
		h := &a.in.Loom.Connectors[i]
		c := route.Thing{Kind: route.AConnector, ID: h.ID}
		was, is := a.Placed[c], b.Placed[c]
		if was == is {
			continue
		}
		t := c
		if h.Device != "" {
			t = route.Thing{Kind: route.ADevice, ID: h.Device}
		}
		x := byThing[t]
		if x == nil {
			x = &Relocation{Thing: t, Old: was, New: is, Wires: []RelocWire{}, Worst: math.Inf(-1)}
			byThing[t] = x
		}
		for _, i := range wires[h.ID] {
			la, lb := &a.Lines[i], &b.Lines[i]
			w := RelocWire{Wire: la.Wire, Old: la.Need, New: lb.Need, Had: lb.Had}
			if lb.Had > 0 && lb.ok {
				w.Over = lb.Need - lb.Had
				x.Worst = max(x.Worst, w.Over)
			}
			x.Wires = append(x.Wires, w)
		}
	}
	out := []Relocation{}
	for _, x := range byThing {
		if math.IsInf(x.Worst, -1) {
			x.Worst = 0
		}
		out = append(out, *x)
	}
	slices.SortFunc(out, func(a, b Relocation) int {
		return cmp.Or(cmp.Compare(b.Worst, a.Worst), finding.Natural(a.Thing.ID, b.Thing.ID))
	})
	return out
}
