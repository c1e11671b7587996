package reach

import (
	"cmp"
	"math"
	"slices"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/size"
	"draxel/core/stock"
)

// provide finds the new wire for every line that wants some: from stock, else to be bought.
func (r *Result) provide() {
	rules := &r.in.Decisions.Rules
	var demands []stock.Demand
	together := map[string]int{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		if l.Verdict != Extend && l.Verdict != Replace && l.Verdict != Fresh || w.Cut > 0 || l.Unsized {
			continue
		}
		kind, name := lead(w)
		if k, known := together[name]; known && kind != stock.Single { // a lead is extended as one
			demands[k].Lines = append(demands[k].Lines, i)
			demands[k].Length = max(demands[k].Length, l.By)
			continue
		}
		together[name] = len(demands)
		demands = append(demands, stock.Demand{Colour: w.Colour, Size: max(w.Size, l.Size), Class: l.Class, Length: l.By,
			Kind: kind, Lines: []int{i}})
	}
	pieces := slices.Clone(r.in.Stock)
	pieces = append(pieces, rules.Shelf...)
	slices.SortStableFunc(pieces, func(a, b stock.Piece) int { return finding.Natural(a.ID, b.ID) })
	from, a := stock.Allocate(demands, pieces, rules.Class)
	r.Stock = a
	for k := range demands {
		r.settleDemand(&demands[k], from[k], pieces)
	}
	r.total()
}

func (r *Result) settleDemand(d *stock.Demand, from int, pieces []stock.Piece) {
	p := stock.Provision{Colour: d.Colour, Size: d.Size, Class: d.Class, Length: d.Length, Kind: d.Kind}
	if from >= 0 {
		s := &pieces[from]
		p.From, p.Colour, p.Size, p.Waits = s.ID, s.Colour, s.Size, s.Waits
		if p.Class = s.Class; p.Class == "" {
			p.Class = r.in.Decisions.Rules.Class
		}
		p.Coded = colour.Compare(s.Colour, d.Colour) != colour.Equal
	} else {
		p.Colour, p.Coded = bought(d.Colour)
		p.Size = tradeSize(d.Size)
	}
	for _, i := range d.Lines {
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
	if c.Known() && !(colour.Colour{Parts: c.Parts[:1]}).Warns() {
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
		kind   stock.Lead
	}
	buy := map[key]*stock.BuyLine{}
	short := map[key]*stock.ColourLine{}
	counted := map[string]bool{}
	for i := range r.Lines {
		l, w := &r.Lines[i], &r.in.Wires[i]
		for _, p := range l.Provision {
			k := key{colour: w.Colour.String(), size: max(w.Size, l.Size)}
			if short[k] == nil {
				short[k] = &stock.ColourLine{Colour: w.Colour, Size: k.size}
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
				b = &stock.BuyLine{Colour: p.Colour, Size: p.Size, Class: p.Class, Kind: p.Kind}
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
	slices.SortFunc(r.Colours, func(a, b stock.ColourLine) int {
		return cmp.Or(cmp.Compare(b.Short, a.Short), cmp.Compare(a.Colour.String(), b.Colour.String()),
			cmp.Compare(a.Size, b.Size))
	})
	for _, b := range buy {
		b.Buy = math.Ceil(b.Need*(1+r.in.Decisions.Rules.Margin)/100) * 100
		r.Buy = append(r.Buy, *b)
	}
	slices.SortFunc(r.Buy, func(a, b stock.BuyLine) int {
		return cmp.Or(cmp.Compare(a.Colour.String(), b.Colour.String()), cmp.Compare(a.Size, b.Size),
			cmp.Compare(a.Class, b.Class), cmp.Compare(a.Kind, b.Kind))
	})
}

// lead gives the kind of lead that a wire is part of, with the name of what is one with it.
func lead(w *Run) (stock.Lead, string) {
	switch {
	case w.Shield != "":
		return stock.Shielded, "shield " + w.Shield
	case w.Pair != "":
		return stock.Twisted, "pair " + w.Pair
	}
	return stock.Single, ""
}
