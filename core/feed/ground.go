package feed

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
	"draxel/core/size"
)

// lifts is from how many V a ground stands high enough for a sensor to read wrong: a fiftieth of 5 V (common practice).
const lifts = 0.1

// ground looks at the grounds: how far each is lifted, and whether cables are as thick as what they answer to.
func (r *Result) ground() {
	names := []string{"engine block", "body"}
	for name := range r.Drawn.Nodes {
		if strings.Contains(strings.ToLower(name), "ground") && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	slices.SortFunc(names, finding.Natural)
	back := r.handed(r.state("crank"), []int32{0}, -1)
	for _, name := range names {
		if n, known := r.Drawn.Find(name); known {
			r.groundAt(name, n, back[r.Drawn.Heads()[n]])
		}
	}
	r.unlike()
}

func (r *Result) groundAt(name string, n network.Node, back bool) {
	crank, head := r.state("crank"), r.Drawn.Heads()[n]
	g := Ground{Name: name, Crank: crank.Volts[n], Full: r.full.Volts[n]}
	var by []string
	for _, i := range r.at[head] {
		e := &r.Drawn.Elements[i]
		if e.Kind != network.Copper || e.Wire != "" {
			continue
		}
		by = append(by, e.Name)
		g.Led = g.Led || !strings.HasSuffix(e.Name, ", assumed")
		amps := r.full.Amps(i)
		if r.Drawn.Heads()[e.B] == head {
			amps = -amps
		}
		g.Amps = max(g.Amps, amps)
	}
	switch {
	case !back:
		r.find("ground-lost", finding.Danger, name,
			"Lead it to the battery's negative terminal, in the list of cables.",
			"%s is joined to the battery by nothing: no current comes back from there.",
			name).Place = finding.Place{Part: "fuses"}
	case len(by) == 0:
		return
	case math.Abs(g.Full) > lifts && g.Led:
		r.find("ground-lifted", finding.Check, name,
			"A thicker strap, or a shorter way; sensor grounds go to the unit and to nothing else.",
			"%s stands %.0f mV above the battery with everything on, and %.0f mV in crank: a sensor grounded there reads "+
				"that much wrong.",
			name, g.Full*1000, g.Crank*1000).Place = finding.Place{Part: "fuses"}
	}
	slices.SortFunc(by, finding.Natural)
	g.Joins = strings.Join(by, ", ")
	r.Grounds = append(r.Grounds, g)
}

// unlike finds grounds that are thinner than what they answer to: along the starter's current, in crank, and at the
// battery's own terminals.
func (r *Result) unlike() {
	plus, minus := size.Section(0), size.Section(0)
	thin := ""
	for _, c := range r.Facts.Inside.Cables {
		s := size.Section(c.Square)
		for _, end := range []string{c.From, c.To} {
			switch {
			case end == "battery +":
				plus = max(plus, s)
			case (end == "battery −" || end == "battery -") && s > minus:
				minus, thin = s, c.Name
			}
		}
	}
	if there, back, name := r.starterPath(); there > 0 && back > 0 {
		plus, minus, thin = there, back, name
	}
	if plus > 0 && minus > 0 && minus < plus && !minus.Equal(plus) {
		r.find("ground-thinner", finding.Wrong, thin,
			fmt.Sprintf("A ground cable of %s: what goes out comes back.", plus),
			"By %s of %s comes back what goes out by %s.", thin, minus, plus).Place = finding.Place{Part: "fuses"}
	}
}

// starterPath gives the thinnest length that carries the starter's current to it, and the thinnest by which it comes
// back, with its name; 0 where nothing is known.
func (r *Result) starterPath() (there, back size.Section, name string) {
	if len(r.Drawn.Motors) == 0 {
		return 0, 0, ""
	}
	s := r.turning()
	cables := map[string]size.Section{}
	for _, c := range r.Facts.Inside.Cables {
		cables[c.Name] = size.Section(c.Square)
	}
	for _, l := range r.Drawn.Motors {
		m := &r.Drawn.Elements[l]
		half := (s.Volts[m.A] + s.Volts[m.B]) / 2
		for i := range r.Drawn.Elements {
			e := &r.Drawn.Elements[i]
			square := max(r.in.Wires[metal(e)].Square, cables[e.Name])
			if e.Kind != network.Copper || square == 0 || !r.cranks(int32(i)) {
				continue
			}
			if s.Volts[e.A] > half {
				if there == 0 || square < there {
					there = square
				}
			} else if back == 0 || square < back {
				back, name = square, e.Name
			}
		}
	}
	return there, back, name
}

// apart is how many times the rating of a fuse the one above it should have, so that it does not open first (common
// practice).
const apart = 1.6

// selective finds fuses of which the one above may open first.
func (r *Result) selective() {
	tree := r.TreeOf(r.full)
	for _, f := range tree {
		if f.Kind != AFuse {
			continue
		}
		for p := f.Parent; p >= 0; p = tree[p].Parent {
			if tree[p].Kind != AFuse {
				continue
			}
			if above := tree[p].Rating; above < apart*f.Rating {
				r.find("not-selective", finding.Check, f.Name,
					"A smaller fuse below, or a larger one above where its wire bears it.",
					"Fuse %s of %.3g A stands below fuse %s of %.3g A: on a short either may open, and the larger takes more with it.",
					f.Name, f.Rating, tree[p].Name, above).Place = finding.Place{Part: "fuses"}
			}
			break
		}
	}
}

// twice finds circuits that two fuses feed: with one of them pulled they are live all the same.
func (r *Result) twice() {
	heads := r.Drawn.Heads()
	for i := range r.Fuses {
		for k := range i {
			a, b := &r.Fuses[i], &r.Fuses[k]
			x, y := &r.Drawn.Elements[a.element], &r.Drawn.Elements[b.element]
			if a.behind[heads[y.B]] && b.behind[heads[x.B]] && !a.behind[heads[y.A]] && !b.behind[heads[x.A]] {
				r.find("two-feeds", finding.Wrong, b.Fuse,
					"Part them, or take one of the fuses out: who pulls one believes the circuit dead.",
					"Fuses %s and %s feed one circuit: with either pulled it is live by the other.", b.Fuse,
					a.Fuse).Place = finding.Place{Part: "fuses"}
			}
		}
	}
}
