package reach

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/size"
)

// provide finds the new wire for every line that wants some: from stock, else to be bought.
func (r *Result) provide() {
	rules := &r.in.Decisions.Rules
	var demands []Demand
	together := map[string]int{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		if l.Verdict != Extend && l.Verdict != Replace && l.Verdict != Fresh || w.Cut > 0 || l.Unsized {
			continue
		}
		kind, name := lead(w)
		if k, known := together[name]; known && kind != Single { // a lead is extended as one
			demands[k].lines = append(demands[k].lines, i)
			demands[k].Length = max(demands[k].Length, l.By)
			continue
		}
		together[name] = len(demands)
		demands = append(demands, Demand{Colour: w.Colour, Size: max(w.Size, l.Size), Class: l.Class, Length: l.By,
			Kind: kind, lines: []int{i}})
	}
	stock := slices.Clone(r.in.Stock)
	stock = append(stock, rules.Shelf...)
	slices.SortStableFunc(stock, func(a, b Piece) int { return finding.Natural(a.ID, b.ID) })
	from, a := Allocate(demands, stock, rules.Class)
	r.Stock = a
	for k := range demands {
		r.settleDemand(&demands[k], from[k], stock)
	}
	r.total()
}

func (r *Result) settleDemand(d *Demand, from int, stock []Piece) {
	p := Provision{Colour: d.Colour, Size: d.Size, Class: d.Class, Length: d.Length, Kind: d.Kind}
	if from >= 0 {
		s := &stock[from]
		p.From, p.Colour, p.Size, p.Waits = s.ID, s.Colour, s.Size, s.Waits
		if p.Class = s.Class; p.Class == "" {
			p.Class = r.in.Decisions.Rules.Class
		}
		p.Coded = colour.Compare(s.Colour, d.Colour) != colour.Equal
	} else {
		p.Colour, p.Coded = bought(d.Colour)
		p.Size = tradeSize(d.Size)
	}
	for _, i := range d.lines {
		r.Lines[i].Provision = append(r.Lines[i].Provision, p)
	}
}

// tradeSize is the size in which wire is sold that is at least this.
func tradeSize(s size.Section) size.Section {
	for _, t := range size.Trade() {
		if t >= s*0.999 {
			return t
		}
	}
	return s
}

// bought gives the colour that is bought for a wire: its own where it has no tracer; plain and printed where it has
// one. Where the plain colour means danger or a constant feed it is white.
func bought(c colour.Colour) (colour.Colour, bool) {
	if c.Known() && len(c.Parts) == 1 {
		return c, false
	}
	if c.Known() && !warns(colour.Colour{Parts: c.Parts[:1]}) {
		return colour.Colour{Written: c.Parts[0].String(), Parts: c.Parts[:1]}, true
	}
	return colour.Colour{Written: string(colour.White), Parts: []colour.Part{{Code: colour.White}}}, true
}

// total sums what is short by colour, and what is bought.
func (r *Result) total() {
	type key struct {
		colour string
		size   size.Section
		class  size.Class
		kind   Lead
	}
	buy := map[key]*BuyLine{}
	short := map[key]*ColourLine{}
	counted := map[string]bool{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		for _, p := range l.Provision {
			k := key{colour: w.Colour.String(), size: max(w.Size, l.Size)}
			if short[k] == nil {
				short[k] = &ColourLine{Colour: w.Colour, Size: k.size}
			}
			c := short[k]
			c.Wires++
			c.Short += p.Length
			if p.From != "" {
				c.Stock += p.Length
				continue
			}
			c.Buy += p.Length
			k = key{p.Colour.String(), p.Size, p.Class, p.Kind}
			b := buy[k]
			if b == nil {
				b = &BuyLine{Colour: p.Colour, Size: p.Size, Class: p.Class, Kind: p.Kind}
				buy[k] = b
			}
			b.For = append(b.For, string(w.ID))
			b.Coded = b.Coded || p.Coded
			each := 0.0
			if _, name := lead(w); name == "" || !counted[name] { // a lead of several cores is bought once
				counted[name] = true
				each = p.Length
			}
			b.Need += each
			b.Each = append(b.Each, each)
		}
	}
	for _, c := range short {
		r.Colours = append(r.Colours, *c)
	}
	slices.SortFunc(r.Colours, func(a, b ColourLine) int {
		return cmp.Or(cmp.Compare(b.Short, a.Short), cmp.Compare(a.Colour.String(), b.Colour.String()),
			cmp.Compare(a.Size, b.Size))
	})
	for _, b := range buy {
		b.Buy = math.Ceil(b.Need*(1+r.in.Decisions.Rules.Margin)/100) * 100
		r.Buy = append(r.Buy, *b)
	}
	slices.SortFunc(r.Buy, func(a, b BuyLine) int {
		return cmp.Or(cmp.Compare(a.Colour.String(), b.Colour.String()), cmp.Compare(a.Size, b.Size),
			cmp.Compare(a.Class, b.Class), cmp.Compare(a.Kind, b.Kind))
	})
}

// String describes the piece in words.
func (p Provision) String() string {
	s := fmt.Sprintf("%.0f mm of %s %s", p.Length, p.Colour, p.Size)
	if p.Kind != Single {
		s += " " + string(p.Kind)
	}
	if p.From != "" {
		return s + " from " + p.From
	}
	return s + ", class " + string(p.Class) + ", new"
}
