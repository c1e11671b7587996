package prove

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/network"
)

// exchanged is what two terminals make that stand in each other's cavities.
func exchanged(a, b string) []network.Fault {
	return []network.Fault{{Do: network.Open, Element: network.ContactOf(a)},
		{Do: network.Open, Element: network.ContactOf(b)},
		{Do: network.Short, A: network.WireSide(a), B: b, Ohms: network.ContactOhms},
		{Do: network.Short, A: network.WireSide(b), B: a, Ohms: network.ContactOhms}}
}

// eitherWay says whether there is nothing behind two cavities but one load between them: it works either way round.
func (v *Vehicle) eitherWay(a, b string) bool {
	heads := v.Net.Heads()
	x, y := heads[v.nodes[a]], heads[v.nodes[b]]
	loads := 0
	for _, n := range []int32{x, y} {
		for _, i := range v.at[n] {
			e := &v.Net.Elements[i]
			p, q := heads[e.A], heads[e.B]
			switch {
			case e.Kind == network.Contact:
			case (e.Kind == network.Load || e.Kind == network.Lamp) && (p == x && q == y || p == y && q == x):
				loads++
			default:
				return false
			}
		}
	}
	return loads == 2 // seen from either end
}

// swaps lists neighbours that stand in each other's cavity, and terminals in the right cavity of a plug that looks
// the same.
func (v *Vehicle) swaps(add func(kind CauseKind, where, do, text string, faults ...network.Fault)) {
	full := func(at string) bool { _, there := v.Net.Element(network.ContactOf(at)); return there }
	for i := range v.Plugs {
		p := &v.Plugs[i]
		for k, cavity := range p.Cavities {
			a := p.At(cavity)
			if !full(a) {
				continue
			}
			if k+1 < len(p.Cavities) {
				if b := p.At(p.Cavities[k+1]); full(b) && !v.one(a, b) && !v.eitherWay(a, b) {
					add(
						Swapped,
						a,
						"Exchange the two terminals.",
						fmt.Sprintf("%s and %s stand in each other's cavity", a, b),
						exchanged(a, b)...)
				}
			}
			for n, like := range slices.Concat(p.Like, p.Beside) {
				kind := map[bool]CauseKind{true: WrongShell, false: Beside}[n < len(p.Like)]
				j := slices.IndexFunc(v.Plugs, func(x Plug) bool { return x.ID == like })
				if j < 0 || !slices.Contains(v.Plugs[j].Cavities, cavity) {
					continue
				}
				b := v.Plugs[j].At(cavity)
				_, faces := v.nodes[b]
				switch {
				case full(b) && v.one(a, b):
				case full(b) && i < j:
					add(
						kind,
						a,
						"Exchange the two terminals.",
						fmt.Sprintf("%s and %s stand in each other's shell", a, b),
						exchanged(a, b)...)
				case !full(b) && faces:
					add(kind, a, "Take it out, and put it into "+a+".",
						fmt.Sprintf("the terminal of %s stands in %s, in the other shell",
							a, b), network.Fault{Do: network.Open, Element: network.ContactOf(a)},
						network.Fault{Do: network.Short, A: network.WireSide(a), B: b, Ohms: network.ContactOhms})
				}
			}
		}
	}
}

// crossed lists outputs of a kind that stand in each other's cavity, in one plug or two: injector 1 with injector
// 3. Neighbours
// are among the swaps.
func (v *Vehicle) crossed(add func(kind CauseKind, where, do, text string, faults ...network.Fault)) {
	alike := map[string][]string{}
	for at, drives := range v.Drives {
		if _, there := v.Net.Element(network.ContactOf(at)); there {
			kind := strings.Trim(strings.Map(func(r rune) rune {
				if r >= '0' && r <= '9' {
					return -1
				}
				return r
			}, strings.ToLower(drives)), " ")
			alike[kind] = append(alike[kind], at)
		}
	}
	for _, all := range alike {
		slices.SortFunc(all, natural)
	}
	for i := range v.Plugs { // in the order of the plugs
		p := &v.Plugs[i]
		for k, cavity := range p.Cavities {
			a := p.At(cavity)
			for _, all := range alike {
				if len(all) > mostAlike || !slices.Contains(all, a) {
					continue
				}
				for _, b := range all[slices.Index(all, a)+1:] {
					beside := k+1 < len(p.Cavities) && b == p.At(p.Cavities[k+1]) ||
						k > 0 && b == p.At(p.Cavities[k-1])
					if !beside && !v.one(a, b) {
						add(
							CrossedPlugs,
							a,
							"Exchange the two terminals.",
							fmt.Sprintf(
								"%s and %s are crossed: %s and %s",
								a,
								b,
								v.Drives[a],
								v.Drives[b],
							),
							exchanged(a, b)...)
					}
				}
			}
		}
	}
}

// mostAlike bounds the outputs of one kind that are tried against each other.
const mostAlike = 16

// misprints lists neighbours of a unit's plug that its table has the wrong way round: the harness is as planned, and
// the unit is not. What was measured, or comes from its maker, is no misprint.
func (v *Vehicle) misprints() []Cause {
	var out []Cause
	for i := range v.Plugs {
		p := &v.Plugs[i]
		if !p.Unit || p.Trusted {
			continue
		}
		for k := range p.Cavities[:max(0, len(p.Cavities)-1)] {
			a, b := p.At(p.Cavities[k]), p.At(p.Cavities[k+1])
			_, okA := v.Net.Element(network.ContactOf(a))
			_, okB := v.Net.Element(network.ContactOf(b))
			if okA && okB && !v.one(a, b) {
				out = append(
					out,
					Cause{
						Kind:    Misprint,
						Where:   a,
						Faults:  exchanged(a, b),
						Prior:   priors[Misprint],
						Plugged: true,
						Text:    fmt.Sprintf("the unit's table has %s and %s the wrong way round", a, b),
						Do: "Compare with the maker's own table, correct the two rows in Gather, and move what " +
							"the plan then moves.",
					},
				)
			}
		}
	}
	return out
}

// Exchanged gives the two cavities that a cause of this text exchanges; false where it is about something else.
func (v *Vehicle) Exchanged(text string) (a, b string, is bool) {
	all := v.Causes()
	if i := slices.IndexFunc(all, func(c Cause) bool { return c.Text == text }); i >= 0 {
		return all[i].Exchanges()
	}
	return "", "", false
}

// Exchanges gives the two cavities whose terminals stand in each other's place, or the second empty and the first's
// terminal in it; false where the cause is about something else.
func (c *Cause) Exchanges() (a, b string, is bool) {
	if !slices.Contains([]CauseKind{Swapped, CrossedPlugs, WrongShell, Beside}, c.Kind) {
		return "", "", false
	}
	for i := range c.Faults {
		if f := &c.Faults[i]; f.Do == network.Short {
			at, _ := network.Behind(f.A)
			return at, f.B, true
		}
	}
	return "", "", false
}

// Points lists where a probe can be put: cavities, studs, posts, what fuses feed.
func (v *Vehicle) Points() []string {
	v.ready()
	var out []string
	for i, name := range v.Net.Names {
		wire := v.Net.Sides[i] == network.OfWire
		at, _ := network.Behind(name)
		_, cavity := v.plugOf[at]
		switch {
		case wire && cavity:
			out = append(out, at)
		case !wire && (slices.Contains(v.Studs, name) || strings.HasPrefix(name, "fuse ") ||
			strings.HasPrefix(name, "battery ")):
			out = append(out, name)
		}
	}
	if !slices.Contains(out, "battery −") {
		out = append(out, "battery −")
	}
	slices.SortFunc(out, natural)
	return slices.Compact(out)
}
