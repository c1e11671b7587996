package reach

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/size"
	"draxel/core/terminal"
)

// housingWays are the ways in which such housings are usual: common practice, no source.
var housingWays = []int{2, 3, 4, 6, 8, 12, 16, 24, 36}

// contactFor gives the width of the smallest contact that takes the wire and its current, 0 where it needs a stud.
func contactFor(s size.Section, amperes float64) (blade, limit float64) {
	if s == 0 {
		s = 0.5
	}
	for _, c := range terminal.Contacts() {
		if _, takes := terminal.GripFor(c.Blade, s); takes && c.Amps >= amperes {
			return c.Blade, c.Amps
		}
	}
	return 0, 0
}

// spareWays is how many ways are left free beyond n: a tenth, at least two.
func spareWays(n int) int { return max(2, int(math.Ceil(float64(n)/10))) }

// plugsFor gives the ways of as few plugs as hold n wires with ways to spare.
func plugsFor(n int) (ways []int, spare int) {
	most := housingWays[len(housingWays)-1]
	left := n + spareWays(n)
	for left > most {
		ways, left = append(ways, most), left-most
	}
	for _, w := range housingWays {
		if w >= left {
			ways = append(ways, w)
			break
		}
	}
	total := 0
	for _, w := range ways {
		total += w
	}
	return ways, total - n
}

func (r *Result) disconnect(s *settled) {
	byPair := map[[2]string]*Disconnect{}
	where := map[[2]string]map[string]int{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		if !l.ok {
			continue
		}
		a, b := r.router.Group(l.route.Stations[0]), r.router.Group(l.route.Stations[len(l.route.Stations)-1])
		if a == b || a == "" || b == "" {
			continue
		}
		key := [2]string{min(a, b), max(a, b)}
		d := byPair[key]
		if d == nil {
			d = &Disconnect{Between: key, Wires: []harness.WireID{}, Parted: []harness.WireID{},
				Ties: []harness.WireID{}, Plugs: []ContactPlug{}}
			byPair[key], where[key] = d, map[string]int{}
		}
		d.Wires = append(d.Wires, w.ID)
		if s.inLine(w) {
			d.Parted = append(d.Parted, w.ID)
			continue
		}
		d.Ties = append(d.Ties, w.ID)
		note := func(list *[]string, name string) {
			if name != "" && !slices.Contains(*list, name) {
				*list = append(*list, name)
			}
		}
		note(&d.Shields, w.Shield)
		note(&d.Pairs, w.Pair)
		for _, p := range l.route.Paths {
			if r.router.Paths[p].Wall || r.router.GroupOf(p) == "" {
				where[key][r.router.Paths[p].ID]++
			}
		}
	}
	for key, d := range byPair {
		best := 0
		for id, n := range where[key] {
			if n > best || n == best && finding.Natural(id, d.Where) < 0 {
				best, d.Where = n, id
			}
		}
		r.choosePlugs(d)
		r.Disconnects = append(r.Disconnects, *d)
	}
	slices.SortFunc(r.Disconnects, func(a, b Disconnect) int {
		return cmp.Or(cmp.Compare(len(b.Ties), len(a.Ties)), cmp.Compare(a.Between[0], b.Between[0]),
			cmp.Compare(a.Between[1], b.Between[1]))
	})
}

// inLine says whether a wire ends in one half of an in-line pair, which comes apart by hand.
func (s *settled) inLine(w *Run) bool {
	for end := range 2 {
		for _, ref := range []harness.Ref{w.Ends[end].At, w.Lands[end]} {
			if h := s.half[ref.Connector]; h != nil && h.Mate != "" {
				return true
			}
		}
	}
	return false
}

// wider gives the wider of two contacts; a stud is wider than any.
func wider(a, b float64) float64 {
	if a == 0 || b == 0 {
		return 0
	}
	return max(a, b)
}

// choosePlugs sorts the ties by the contact that they need. The wires of a pair and of a shield stay in one plug: the
// widest contact that one of them needs serves them all.
func (r *Result) choosePlugs(d *Disconnect) {
	d.blade = map[harness.WireID]float64{}
	limit := map[float64]float64{}
	group := map[string]float64{}
	for _, id := range d.Ties {
		w, l := &r.in.Wires[r.wires[id]], &r.Lines[r.wires[id]]
		b, a := contactFor(max(w.Size, l.Size), l.Amps)
		d.blade[id], limit[b] = b, a
		for _, g := range groupsOf(w) {
			if was, known := group[g]; known {
				b = wider(was, b)
			}
			group[g] = b
		}
	}
	byBlade := map[float64]*ContactPlug{}
	for _, id := range d.Ties {
		w, l := &r.in.Wires[r.wires[id]], &r.Lines[r.wires[id]]
		b := d.blade[id]
		for _, g := range groupsOf(w) {
			b = wider(b, group[g])
		}
		d.blade[id] = b
		p := byBlade[b]
		if p == nil {
			p = &ContactPlug{Blade: b, Limit: limit[b]}
			byBlade[b] = p
		}
		p.Wires = append(p.Wires, id)
		p.Amps = max(p.Amps, l.Amps)
		p.Thick = max(p.Thick, w.Size, l.Size)
	}
	for _, p := range byBlade {
		if p.Blade == 0 {
			p.Ways = []int{len(p.Wires)}
			p.Reason = "Too thick or too much current for a plug: ring terminals on studs, each under its own cap."
		} else {
			p.Ways, p.Spare = plugsFor(len(p.Wires))
			p.Reason = fmt.Sprintf("%s of at most %.3g A on contacts of %.3g mm, which carry about %.0f A; %s spare. Common "+
				"practice; the data sheet comes first.", plural(len(p.Wires), "wire"), p.Amps, p.Blade, p.Limit,
				plural(p.Spare, "way"))
		}
		d.Plugs = append(d.Plugs, *p)
	}
	slices.SortFunc(d.Plugs, func(a, b ContactPlug) int { return cmp.Compare(a.Blade, b.Blade) })
}
