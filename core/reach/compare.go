package reach

import (
	"cmp"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

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
