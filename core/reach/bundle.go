package reach

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pack"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/stagger"
)

// braid is what a shield and its sheath add to a lead's diameter, mm: common practice, no source.
const braid = 1.2

// laidFactor is the rule of thumb for a bundle laid by hand: common practice, no source.
const laidFactor = 1.2

// laid gives the diameter of a bundle as hands lay it, mm: by the rule of thumb, but no smaller than its wires have
// been found to pack, the thickest of them by themselves or all.
func laid(diameters []float64) float64 {
	rule := laidFactor * byArea(diameters)
	switch len(diameters) {
	case 0:
		return 0
	case 1:
		return diameters[0]
	case 2:
		return diameters[0] + diameters[1]
	}
	d := slices.Clone(diameters)
	slices.SortFunc(d, func(a, b float64) int { return cmp.Compare(b, a) })
	d = d[:min(len(d), pack.MostInRing)]
	if d[0]+d[1] < rule && pack.Loosest*byArea(d) < rule {
		return rule
	}
	return max(rule, pack.Ring(d))
}

// byArea gives the diameter that a bundle would have if nothing were left between its wires, mm.
func byArea(diameters []float64) float64 {
	sum := 0.0
	for _, d := range diameters {
		sum += d * d
	}
	return math.Sqrt(sum)
}

// thickness gives the outside diameter of a wire, mm.
func thickness(s size.Section) float64 {
	if s <= 0 {
		s = 0.5
	}
	return s.Outside()
}

func (r *Result) bundles() {
	on := make([][]int, len(r.router.Paths))
	for i := range r.Lines {
		for _, p := range r.Lines[i].route.Paths {
			on[p] = append(on[p], i)
		}
	}
	r.Bundles, r.on = make([]Bundle, len(on)), on
	for p := range on {
		b := &r.Bundles[p]
		b.Path = r.router.Paths[p].ID
		b.Wires, b.Round = make([]harness.WireID, 0, len(on[p])), make([]float64, 0, len(on[p]))
		shields := map[string][]float64{}
		for _, i := range on[p] {
			w, l := &r.in.Wires[i], &r.Lines[i]
			b.Wires = append(b.Wires, w.ID)
			if l.Amps >= 1 {
				b.Loaded++
			}
			if max(w.Size, l.Size) == 0 {
				b.Assumed++
			}
			d := thickness(max(w.Size, l.Size))
			if w.Shield != "" {
				shields[w.Shield] = append(shields[w.Shield], d)
			} else {
				b.Round = append(b.Round, d)
			}
		}
		for _, cores := range shields {
			b.Round = append(b.Round, laid(cores)+braid)
		}
		slices.SortFunc(b.Round, func(a, c float64) int { return cmp.Compare(c, a) })
		b.Area = byArea(b.Round)
		b.Laid = laid(b.Round)
		b.Over = b.Laid
		if b.Laid > 0 {
			b.Over += r.router.Paths[p].Cover.Adds()
		}
	}
}

// plug gives a housing's size: as somebody measured it, else reckoned from its ways as rows of contacts in a shell;
// common practice, no source.
func (r *Result) plug(s *settled, connector string) Plug {
	p := Plug{Connector: connector}
	rows := 1
	if h := s.half[connector]; h != nil {
		p.Ways = h.Ways()
		if !h.Assumed && h.Rows > 0 {
			rows = h.Rows
		}
	}
	if rows == 1 && p.Ways > 6 {
		rows = max(2, (p.Ways+12)/13)
	}
	if mm := r.in.Decisions.Rules.Plugs[connector]; mm > 0 {
		p.Across = mm
		return p
	}
	pitch := 4.2
	if p.Ways > 24 {
		pitch = 2.8
	}
	columns := (max(p.Ways, 1) + rows - 1) / rows
	p.Across, p.Guessed = math.Ceil(math.Hypot(pitch*float64(columns)+8, 1.3*pitch*float64(rows)+8)), true
	return p
}

func (r *Result) walls(s *settled) {
	for p := range r.router.Paths {
		path := &r.router.Paths[p]
		b := &r.Bundles[p]
		if !path.Wall || len(b.Wires) == 0 {
			continue
		}
		w := Wall{Path: path.ID, Wires: len(b.Wires), Over: b.Over, Edge: path.Edge, Hole: math.Ceil(b.Over),
			Caution: []string{"Use a grommet or a panel that is there before a new hole; do not drill structure without an " +
				"engineer's approval. Always a grommet on a raw edge."}}
		sides := r.sides(s, p)
		pass := 0 // the side whose plugs are passed through: the one whose largest is smaller
		if largest(sides[1].plugs) < largest(sides[0].plugs) {
			pass = 1
		}
		w.From = []string{path.To, path.From}[pass]
		through := math.Ceil(max(b.Over, largest(sides[pass].plugs)))
		if path.Plugs {
			w.Plugs, w.After, w.Loose, w.Hole = sides[pass].plugs, sides[1-pass].plugs, sides[pass].loose, through
			w.Saved = through - math.Ceil(b.Over)
		} else {
			w.After = append(slices.Clone(sides[pass].plugs), sides[1-pass].plugs...)
		}
		for i := range r.Joints {
			if j := &r.Joints[i]; j.Path == path.ID && math.Abs(j.At-path.Length/2) < stagger.Grommet {
				w.Joints++
			}
		}
		r.Walls = append(r.Walls, w)
	}
}

type side struct {
	plugs []Plug
	loose int
}

func largest(plugs []Plug) float64 {
	if len(plugs) == 0 {
		return 0
	}
	return plugs[0].Across
}

// sides gives the housings on either side of a path, largest first: on the side of its From and on that of its To.
func (r *Result) sides(s *settled, path int) [2]side {
	var out [2]side
	seen := map[[2]string]bool{}
	for _, i := range r.on[path] {
		l := &r.Lines[i]
		k := slices.Index(l.route.Paths, path)
		forward := r.router.Stations[l.route.Stations[k]].ID == r.router.Paths[path].From
		for end := range 2 {
			at := end
			if !forward {
				at = 1 - end
			}
			ref := r.in.Wires[i].Ends[end].At
			if ref.Connector == "" {
				out[at].loose++
				continue
			}
			if key := [2]string{[]string{"from", "to"}[at], ref.Connector}; !seen[key] {
				seen[key] = true
				out[at].plugs = append(out[at].plugs, r.plug(s, ref.Connector))
			}
		}
	}
	for at := range out {
		slices.SortFunc(out[at].plugs, func(a, b Plug) int {
			return cmp.Or(cmp.Compare(b.Across, a.Across), finding.Natural(a.Connector, b.Connector))
		})
	}
	return out
}

// strong says whether a wire disturbs others: starter, alternator, coil and motor cables.
func strong(w *Run) bool {
	if w.Size > 0 && w.Size < 0.75 {
		return false
	}
	switch w.Signal.Device {
	case "coil", "coilpower", "coilground", "coilminus", "ballast", "ballastbypass", "startsignal", "fan", "fuelpump",
		"fanpwm":
		return true
	}
	return w.Signal.Role == signal.Motor || w.Signal.Role == signal.Start || w.Signal.Role == signal.HighVoltage ||
		(w.Signal.System == "charging" || w.Signal.System == "starting") && w.Size >= 1.5
}

// weak says whether a wire is disturbed by others: crank, cam, knock and bus.
func weak(w *Run) bool {
	switch w.Signal.Device {
	case "knock", "ckp", "cmp":
		return w.Signal.Aspect != signal.AspectReference && w.Signal.Aspect != signal.AspectSupply
	}
	return w.Signal.Role == signal.Bus
}

func (r *Result) keepApart() {
	for p := range r.router.Paths {
		k := KeepApart{Path: r.router.Paths[p].ID, Length: r.router.Paths[p].Length}
		for _, i := range r.on[p] {
			switch w := &r.in.Wires[i]; {
			case weak(w):
				k.Weak = append(k.Weak, string(w.ID))
			case strong(w):
				k.Strong = append(k.Strong, string(w.ID))
			}
		}
		if len(k.Strong) > 0 && len(k.Weak) > 0 {
			r.Kept = append(r.Kept, k)
		}
	}
}

// PackKey names the bundle's diameters, whatever their order: the same wires pack the same.
func (b *Bundle) PackKey() string {
	var out strings.Builder
	for _, d := range b.Round {
		fmt.Fprintf(&out, "%.2f ", d)
	}
	return out.String()
}
